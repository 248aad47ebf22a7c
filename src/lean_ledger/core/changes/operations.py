"""Single operations and their order."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict, check_between, known_features, names_of
from lean_ledger.core.loads.parts import PART
from lean_ledger.core.loads.sequence import check_order, decided
from lean_ledger.core.operations.alike import alike
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import (
    SETTABLE,
    AcceptedRest,
    ChainChoice,
    OperationValues,
    Plan,
    ValueName,
    value_words,
)

MOST_REST = 100.0  # mm
LEAST_PACE = 0.5


@dataclass(frozen=True)
class EditOperation(OperationValues, Strict):
    """Set some values of an operation by hand, or clear some back to the rule."""

    operation: str
    clear: tuple[ValueName, ...] = ()
    change: Literal["edit-operation"] = "edit-operation"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        there = (*scene.ledger.operations, *scene.ledger.left_out)
        named = next((op for op in there if op.id == self.operation), None)
        if PART in self.operation:
            whole = self.operation.partition(PART)[0]
            raise PlanError("part-of-one", f"{self.operation} is a part of {whole}: what is set there holds for "
                            "all parts", self.operation)  # fmt: skip
        if named is None and not any(e.operation == self.operation for e in plan.edits):
            raise PlanError("no-such-operation", f"there is no operation {self.operation}")
        given = self.given
        for name, value in given.items():
            bounds = SETTABLE[name].bounds
            if bounds is not None and not bounds.hold(value):
                raise PlanError("out-of-range", f"{name} is {value:g}; it must be {bounds.words}", self.operation)
        if named is not None:
            _check_pace(named, given, scene)
            _check_way(named, given)
        tool = scene.library.tool(str(given["tool"])) if "tool" in given else None
        if "tool" in given and tool is None:
            raise PlanError("no-such-tool", f"there is no tool {given['tool']!r} in the library", self.operation)
        cleared: dict[str, Any] = dict.fromkeys(self.clear)
        edit = replace(plan.edit_of(self.operation), **given, **cleared)
        others = tuple(e for e in plan.edits if e.operation != self.operation)
        edits = others if edit.is_empty else (*others, edit)
        words = [_said(name, value, scene) for name, value in given.items()]
        words += [f"{name} by the rule" for name in self.clear]
        title = named.name if named is not None else self.operation
        return replace(plan, edits=edits), f"{title}: {', '.join(words)}"


def _check_way(op: Operation, given: Mapping[ValueName, Any]) -> None:
    set_anyway = [name for name in given if name != "tool"]
    if op.motion.probes and set_anyway:
        raise PlanError("probe-cuts-nothing", f"{op.name} has no {set_anyway[0]} to set: a probe cuts nothing", op.id)
    if "strategy" in given and not op.strategy:
        raise PlanError(
            "one-way", f"{op.name} is made in one way only; roughing and free surfaces have a choice", op.id
        )
    able = op.kind.ways or OperationKind.ROUGH_POCKET.ways
    if "strategy" in given and given["strategy"] not in able:
        raise PlanError("another-way", f"{op.name} is not made {given['strategy']}; it can be {', '.join(able)}", op.id)
    if "direction" in given and not op.direction:
        raise PlanError("no-direction", f"{op.name} goes along no wall: it neither climbs nor works against it", op.id)


def _said(name: ValueName, value: Any, scene: Scene) -> str:
    if name == "tool":
        tool = scene.library.tool(value)
        return tool.description if tool is not None else value
    return value_words(name, value)


@dataclass(frozen=True)
class SameForAlike(Strict):
    """What was set by hand for an operation, for all operations of its sort."""

    operation: str
    change: Literal["same-for-alike"] = "same-for-alike"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        op = next((op for op in scene.ledger.operations if op.id == self.operation), None)
        if op is None:
            raise PlanError("no-such-operation", f"there is no operation {self.operation}")
        own = plan.edit_of(op.id)
        if own.is_empty:
            raise PlanError("nothing-set", f"nothing is set by hand for {op.name}; set something first", op.id)
        others = [other.id for other in alike(op, scene.ledger.operations, scene.part)]
        if not others:
            raise PlanError("none-alike", f"no other operation is of the sort of {op.name}", op.id)
        kept = tuple(edit for edit in plan.edits if edit.operation not in others)
        edits = (*kept, *(replace(own, operation=id) for id in others))
        count = f"{len(others)} other{'s' if len(others) > 1 else ''}"
        return replace(plan, edits=edits), f"{op.name}: the same for {count} of its sort"


def _check_pace(op: Operation, given: Mapping[ValueName, Any], scene: Scene) -> None:
    """Raises PlanError for a speed or a feed that the tool does not stand."""
    material = scene.library.material(scene.ledger.plan.material)
    data = scene.library.data(op.tool, material) if material is not None else None
    if data is None:
        return
    stood: dict[ValueName, float] = {"speed": data.speed_most, "feed": data.fz_most}
    for name, most in stood.items():
        if name in given and not LEAST_PACE - 1e-9 <= given[name] <= most + 1e-9:
            raise PlanError(
                f"{name}-out-of-range",
                f"{name} is {100 * given[name]:.0f} % of the usual; {op.tool.description} stands "
                f"{100 * LEAST_PACE:.0f} to {100 * most:.0f} %", op.id,
            )  # fmt: skip


@dataclass(frozen=True)
class TakeValues(Strict):
    """Values for several operations at once, each as in edit-operation: those that were used the last time."""

    edits: tuple[EditOperation, ...]
    change: Literal["take-values"] = "take-values"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if not self.edits:
            raise PlanError("nothing-to-take", "no values are given")
        words = ""
        for edit in self.edits:
            plan, words = edit.apply(plan, scene)
        return plan, words if len(self.edits) == 1 else f"values last used taken for {len(self.edits)} operations"


@dataclass(frozen=True)
class MakeAs(Strict):
    """Features made by one of the shop's rules, whatever the rules' conditions say; None lets the rules choose."""

    features: tuple[str, ...]
    rule: str | None
    change: Literal["make-as"] = "make-as"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        names = names_of(self.features)
        kept = tuple(c for c in plan.chains if c.feature not in self.features)
        if self.rule is None:
            return replace(plan, chains=kept), f"{names}: made by the shop's rules"
        rule = scene.library.chain(self.rule)
        if rule is None:
            raise PlanError("no-such-rule", f"the shop has no rule {self.rule!r} for making features")
        wrong = [f for f in self.features if rule.of not in _sorts_of(f, scene)]
        if wrong:
            raise PlanError("another-sort", f"“{rule.name}” is for another sort of feature than {', '.join(wrong)}")
        chains = (*kept, *(ChainChoice(f, rule.id) for f in self.features))
        return replace(plan, chains=chains), f"{names}: {rule.name.lower()}"


def _sorts_of(feature: str, scene: Scene) -> set[str]:
    """What the shop's rules take a feature for: by the rules that make it now, else by its kind."""
    rules = (scene.library.chain(op.rule) for op in scene.ledger.operations if feature in op.features)
    found = {rule.of for rule in rules if rule is not None}
    return found or {"hole" if scene.part.by_id[feature].kind == "hole" else "recess"}  # type: ignore[return-value]


@dataclass(frozen=True)
class SetOrder(Strict):
    setup: str
    order: tuple[str, ...]
    change: Literal["set-order"] = "set-order"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        current = scene.ledger.setup(plan.setup(self.setup).id)
        apart = current.load.split  # then what runs are its operations' parts
        own = [row.operation for row in current.rows] if apart else decided(current.built.operations, current.load)
        check_order(tuple(own), self.order)
        ordered = plan.load_of(self.setup).with_order(self.setup, self.order)
        before = [e.operation.id for e in current.rows]
        names = {e.operation.id: e.operation.name for e in current.rows}
        moved = _moved(before, self.order)
        words = f"“{names[moved]}” moved" if moved in names else "order changed"
        return plan.with_load(ordered), f"setup {self.setup}: {words}"


@dataclass(frozen=True)
class GroupByTool(Strict):
    setup: str
    change: Literal["group-by-tool"] = "group-by-tool"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        grouped = plan.load_of(self.setup)
        for id in grouped.setups:  # those that lie in one load are grouped together
            grouped = grouped.with_order(id, scene.ledger.setup(id).grouped)
        return plan.with_load(grouped), f"setup {grouped.words}: grouped by tool"


@dataclass(frozen=True)
class OrderByRule(Strict):
    setup: str
    change: Literal["order-by-rule"] = "order-by-rule"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        return plan.in_the_usual_order(self.setup), f"setup {self.setup}: order by the rule"


def _moved(before: list[str], after: tuple[str, ...]) -> str:
    """The one operation whose taking out makes both orders equal; empty where more than one moved."""
    for id in after:
        if [x for x in before if x != id] == [x for x in after if x != id] and before != list(after):
            return id
    return ""


@dataclass(frozen=True)
class AcceptRest(Strict):
    """Stock up to an amount may stay on a feature, and on others `also`; 0 takes that back."""

    feature: str
    amount: float
    also: tuple[str, ...] = ()
    change: Literal["accept-rest"] = "accept-rest"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        features = (self.feature, *self.also)
        known_features(features, scene)
        check_between(self.amount, 0.0, MOST_REST, "what may stay on")
        kept = tuple(rest for rest in plan.accepted if rest.feature not in features)
        named = names_of(features)
        if self.amount == 0:
            return replace(plan, accepted=kept), f"nothing may stay on {named}"
        accepted = (*kept, *(AcceptedRest(feature, self.amount) for feature in features))
        return replace(plan, accepted=accepted), f"{self.amount:g} of stock may stay on {named}"
