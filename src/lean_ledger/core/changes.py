"""Every way in which a plan can be changed: what it does, and how the journal words it.

A change is plain data, so that it can be sent, stored, offered as the cure of a finding and made again on a newer
version of the plan. A new kind is one class with `apply` and one name in `Change`.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from decimal import Decimal
from typing import Annotated, Any, Literal

from pydantic import ConfigDict, Field, TypeAdapter, ValidationError

from lean_ledger.core.errors import PlanError
from lean_ledger.core.features import Hole
from lean_ledger.core.ledger import Ledger
from lean_ledger.core.order import check_order
from lean_ledger.core.part import Part
from lean_ledger.core.plan import (
    LeftOut,
    MovedFeature,
    OperationEdit,
    Plan,
    SetupDecision,
    Side,
    ThreadChoice,
    Zero,
    ZeroPlace,
)
from lean_ledger.core.setups import assign_features, propose_setups
from lean_ledger.library.types import Library

MOST_ALLOWANCE = 200.0
MOST_GRIP = 200.0


@dataclass(frozen=True)
class Scene:
    """What a change is made in: the part, the shop, and the plan evaluated as it stands."""

    part: Part
    library: Library
    ledger: Ledger


class _Strict:
    """An unknown key of a change is refused: a misspelt one must not be ignored."""

    __pydantic_config__ = ConfigDict(extra="forbid")


@dataclass(frozen=True)
class SetMaterial(_Strict):
    material: str
    change: Literal["set-material"] = "set-material"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        found = scene.library.material(self.material)
        if found is None:
            names = ", ".join(m.id for m in scene.library.materials)
            raise PlanError("no-such-material", f"there is no material {self.material!r}; the library has {names}")
        return replace(plan, material=self.material), f"material {found.name}"


@dataclass(frozen=True)
class SetQuantities(_Strict):
    quantities: tuple[int, ...]
    change: Literal["set-quantities"] = "set-quantities"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        wanted = tuple(dict.fromkeys(self.quantities))
        if not wanted or min(wanted) < 1:
            raise PlanError("quantities", "at least one quantity is needed, each a whole number above 0")
        return replace(plan, quantities=wanted), f"quantities {', '.join(map(str, wanted))}"


@dataclass(frozen=True)
class SetAllowance(_Strict):
    side: Side
    value: float
    change: Literal["set-allowance"] = "set-allowance"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        _between(self.value, 0, MOST_ALLOWANCE, f"the allowance on {self.side}")
        allowances = plan.allowances.with_side(self.side, self.value)
        return replace(plan, allowances=allowances), f"allowance {self.side} {self.value:g}"


@dataclass(frozen=True)
class SetThread(_Strict):
    diameter: float
    thread: str | None
    change: Literal["set-thread"] = "set-thread"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        holes = [f for f in scene.part.features if isinstance(f, Hole) and abs(f.diameter - self.diameter) < 1e-3]
        if not holes:
            raise PlanError("no-such-hole", f"the part has no hole of Ø{self.diameter:g}")
        others = tuple(t for t in plan.threads if abs(t.diameter - self.diameter) >= 1e-3)
        what = f"{len(holes)} × Ø{self.diameter:g}"
        if self.thread is None:
            return replace(plan, threads=others), f"no thread in {what}"
        thread = scene.library.thread(self.thread)
        if thread is None:
            raise PlanError("no-such-thread", f"there is no thread {self.thread!r} in the library")
        if not thread.fits(self.diameter):
            raise PlanError(
                "thread-misfit",
                f"a hole of Ø{self.diameter:g} cannot carry {thread.name}: its tap drill is {thread.tap_drill:g}, "
                f"its major diameter {thread.major:g}",
            )
        chosen = ThreadChoice(holes[0].diameter, thread.name)
        return replace(plan, threads=(*others, chosen)), f"thread {thread.name} in {what}"


@dataclass(frozen=True)
class EditOperation(_Strict):
    """Set some values of an operation by hand, or clear some back to the rule."""

    operation: str
    tool: str | None = None
    n: float | None = None
    vf: float | None = None
    ap: float | None = None
    ae: float | None = None
    passes: int | None = None
    allowance: float | None = None
    clear: tuple[Literal["tool", "n", "vf", "ap", "ae", "passes", "allowance"], ...] = ()
    change: Literal["edit-operation"] = "edit-operation"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        named = next((op for op in scene.ledger.operations if op.id == self.operation), None)
        if named is None and not any(e.operation == self.operation for e in plan.edits):
            raise PlanError("no-such-operation", f"there is no operation {self.operation}")
        given = {
            f.name: value
            for f in fields(OperationEdit)
            if f.name != "operation" and (value := getattr(self, f.name)) is not None
        }
        for name in ("n", "vf", "ap", "ae"):
            if name in given and given[name] <= 0:
                raise PlanError("not-positive", f"{name} is {given[name]:g}; it must be above 0", self.operation)
        if given.get("passes", 1) < 1 or given.get("passes", 1) > 500:
            raise PlanError("passes", f"passes is {given['passes']}; it must be from 1 to 500", self.operation)
        if given.get("allowance", 0) < 0:
            raise PlanError("allowance", "an allowance must not be negative", self.operation)
        tool = scene.library.tool(str(given["tool"])) if "tool" in given else None
        if "tool" in given and tool is None:
            raise PlanError("no-such-tool", f"there is no tool {given['tool']!r} in the library", self.operation)
        cleared: dict[str, Any] = dict.fromkeys(self.clear)
        edit = replace(plan.edit_of(self.operation), **given, **cleared)
        others = tuple(e for e in plan.edits if e.operation != self.operation)
        edits = others if edit.is_empty else (*others, edit)
        words = [tool.description if k == "tool" and tool else f"{k} {v:g}" for k, v in given.items()]
        words += [f"{name} by the rule" for name in self.clear]
        title = named.name if named is not None else self.operation
        return replace(plan, edits=edits), f"{title}: {', '.join(words)}"


@dataclass(frozen=True)
class LeaveOut(_Strict):
    features: tuple[str, ...]
    reason: Literal["deburring", "made elsewhere"]
    change: Literal["leave-out"] = "leave-out"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        _known(self.features, scene)
        kept = tuple(left for left in plan.left_out if left.feature not in self.features)
        added = tuple(LeftOut(feature, self.reason) for feature in self.features)
        return replace(plan, left_out=kept + added), f"{', '.join(self.features)} left to {_BY[self.reason]}"


_BY = {"deburring": "deburring", "made elsewhere": "another shop"}


@dataclass(frozen=True)
class TakeIn(_Strict):
    features: tuple[str, ...]
    change: Literal["take-in"] = "take-in"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        kept = tuple(left for left in plan.left_out if left.feature not in self.features)
        return replace(plan, left_out=kept), f"{', '.join(self.features)} made here after all"


@dataclass(frozen=True)
class MoveFeature(_Strict):
    features: tuple[str, ...]
    setup: str
    change: Literal["move-feature"] = "move-feature"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        _known(self.features, scene)
        plan.setup(self.setup)
        kept = tuple(m for m in plan.moved if m.feature not in self.features)
        moved = replace(plan, moved=kept + tuple(MovedFeature(f, self.setup) for f in self.features))
        stayed = [f for f in self.features if f not in assign_features(scene.part, moved)[self.setup]]
        if stayed:
            raise PlanError(
                "unreachable", f"{', '.join(stayed)} cannot be reached with {plan.setup(self.setup).up} up", self.setup
            )
        return moved, f"{', '.join(self.features)} to setup {self.setup}"


@dataclass(frozen=True)
class SetUp(_Strict):
    setup: str
    up: Side
    change: Literal["set-up"] = "set-up"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        decided = replace(plan.setup(self.setup), up=self.up, turn=None, order=())
        return plan.with_setup(decided), f"setup {self.setup}: {self.up} up"


@dataclass(frozen=True)
class SetTurn(_Strict):
    setup: str
    turn: Literal[0, 90, 180, 270] | None
    change: Literal["set-turn"] = "set-turn"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        decided = replace(plan.setup(self.setup), turn=self.turn)
        words = "turned by the rule" if self.turn is None else f"turned to {self.turn}°"
        return plan.with_setup(decided), f"setup {self.setup}: {words}"


@dataclass(frozen=True)
class SetVise(_Strict):
    setup: str
    vise: str | None
    change: Literal["set-vise"] = "set-vise"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        vise = scene.library.vise(self.vise) if self.vise is not None else None
        if self.vise is not None and vise is None:
            raise PlanError("no-such-vise", f"there is no vise {self.vise!r} in the library", self.setup)
        decided = replace(plan.setup(self.setup), vise=self.vise)
        return plan.with_setup(decided), f"setup {self.setup}: {vise.name if vise else 'vise by the rule'}"


@dataclass(frozen=True)
class SetGrip(_Strict):
    setup: str
    grip: float | None
    change: Literal["set-grip"] = "set-grip"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if self.grip is not None:
            _between(self.grip, 0.1, MOST_GRIP, "the grip")
        decided = replace(plan.setup(self.setup), grip=self.grip)
        words = "grip by the rule" if self.grip is None else f"grip {self.grip:g}"
        return plan.with_setup(decided), f"setup {self.setup}: {words}"


@dataclass(frozen=True)
class SetZero(_Strict):
    setup: str
    of: Literal["stock", "part"]
    place: ZeroPlace
    level: Literal["top", "bottom"]
    change: Literal["set-zero"] = "set-zero"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        decided = replace(plan.setup(self.setup), zero=Zero(self.of, self.place, self.level))
        return plan.with_setup(decided), f"setup {self.setup}: zero {self.of}, {self.place}, {self.level}"


@dataclass(frozen=True)
class SetMachine(_Strict):
    setup: str
    machine: str
    change: Literal["set-machine"] = "set-machine"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        machine = scene.library.machine(self.machine)
        if machine is None:
            raise PlanError("no-such-machine", f"there is no machine {self.machine!r} in the library", self.setup)
        decided = replace(plan.setup(self.setup), machine=self.machine)
        return plan.with_setup(decided), f"setup {self.setup}: {machine.name}"


@dataclass(frozen=True)
class AddSetup(_Strict):
    up: Side
    change: Literal["add-setup"] = "add-setup"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if len(plan.setups) >= 12:
            raise PlanError("too-many-setups", "a plan takes at most 12 setups")
        taken = {s.id for s in plan.setups}
        id = next(f"S{i}" for i in range(1, 99) if f"S{i}" not in taken)
        added = SetupDecision(id, self.up, plan.setups[-1].machine, Zero("part", "left front", "top"))
        return replace(plan, setups=(*plan.setups, added)), f"setup {id} added, {self.up} up"


@dataclass(frozen=True)
class RemoveSetup(_Strict):
    setup: str
    change: Literal["remove-setup"] = "remove-setup"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        plan.setup(self.setup)
        if len(plan.setups) == 1:
            raise PlanError("last-setup", "a plan needs at least one setup", self.setup)
        kept = tuple(s for s in plan.setups if s.id != self.setup)
        moved = tuple(m for m in plan.moved if m.setup != self.setup)
        return replace(plan, setups=kept, moved=moved), f"setup {self.setup} removed"


@dataclass(frozen=True)
class DivideAgain(_Strict):
    change: Literal["divide-again"] = "divide-again"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        setups = propose_setups(scene.part, plan.allowances, plan.setups[0].machine)
        return replace(plan, setups=setups, moved=()), f"divided again: {len(setups)} setups"


@dataclass(frozen=True)
class SetOrder(_Strict):
    setup: str
    order: tuple[str, ...]
    change: Literal["set-order"] = "set-order"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        current = scene.ledger.setup_of(plan.setup(self.setup).id)
        check_order(current.built.operations, self.order)
        decided = replace(plan.setup(self.setup), order=self.order)
        before = [e.operation.id for e in current.entries]
        names = {e.operation.id: e.operation.name for e in current.entries}
        moved = _moved(before, self.order)
        words = f"“{names[moved]}” moved" if moved in names else "order changed"
        return plan.with_setup(decided), f"setup {self.setup}: {words}"


@dataclass(frozen=True)
class GroupByTool(_Strict):
    setup: str
    change: Literal["group-by-tool"] = "group-by-tool"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        current = scene.ledger.setup_of(plan.setup(self.setup).id)
        decided = replace(plan.setup(self.setup), order=current.grouped)
        return plan.with_setup(decided), f"setup {self.setup}: grouped by tool"


@dataclass(frozen=True)
class OrderByRule(_Strict):
    setup: str
    change: Literal["order-by-rule"] = "order-by-rule"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        return plan.with_setup(replace(plan.setup(self.setup), order=())), f"setup {self.setup}: order by the rule"


RateName = Literal[
    "labour_rate", "attendance", "programming_hours", "programming_rate", "inspection_seconds", "inspection_rate",
    "fixtures", "fixture_life", "tooling_per_piece", "outside_per_piece", "outside_lot", "price_per_kg", "kerf",
    "bar_length", "remnant", "cut_charge", "scrap", "overhead", "margin",
]  # fmt: skip

RATE_WORDS: dict[str, str] = {
    "labour_rate": "labour rate",
    "attendance": "attendance",
    "programming_hours": "programming hours",
    "programming_rate": "programming rate",
    "inspection_seconds": "inspection seconds",
    "inspection_rate": "inspection rate",
    "fixtures": "fixtures",
    "fixture_life": "fixtures spread over",
    "tooling_per_piece": "tools per piece",
    "outside_per_piece": "outside work per piece",
    "outside_lot": "outside work per lot",
    "price_per_kg": "material per kg",
    "kerf": "saw kerf",
    "bar_length": "bar length",
    "remnant": "bar remnant",
    "cut_charge": "charge per cut",
    "scrap": "scrap",
    "overhead": "overhead",
    "margin": "margin",
}
_SHARES = {"scrap", "margin"}
_ABOVE_ZERO = {"fixture_life", "bar_length"}


@dataclass(frozen=True)
class SetRate(_Strict):
    name: RateName
    value: Decimal | None
    change: Literal["set-rate"] = "set-rate"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        words = RATE_WORDS[self.name]
        if self.value is not None:
            if self.value < 0 or not self.value.is_finite():
                raise PlanError("negative", f"{words} is {self.value}; it must not be negative")
            if self.name in _ABOVE_ZERO and self.value == 0:
                raise PlanError("not-positive", f"{words} must be above 0; clear it to leave it to the rule")
            if self.name in _SHARES and self.value >= 1:
                raise PlanError("share", f"{words} is {self.value * 100:g} %; it must be below 100 %")
        rates = replace(plan.rates, **{self.name: self.value})
        shown = "by the shop's rate" if self.value is None else f"{self.value.normalize():f}"
        return replace(plan, rates=rates), f"{words} {shown}"


@dataclass(frozen=True)
class SetSetupCost(_Strict):
    """Machine rate, setting-up hours and load time of one setup."""

    setup: str
    machine_rate: Decimal | None = None
    hours: Decimal | None = None
    load_seconds: Decimal | None = None
    clear: tuple[Literal["machine_rate", "hours", "load_seconds"], ...] = ()
    change: Literal["set-setup-cost"] = "set-setup-cost"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        names = ("machine_rate", "hours", "load_seconds")
        given = {name: value for name in names if (value := getattr(self, name)) is not None}
        for name, value in given.items():
            if value < 0 or not value.is_finite():
                raise PlanError("negative", f"{name.replace('_', ' ')} is {value}; it must not be negative", self.setup)
        cleared: dict[str, Any] = dict.fromkeys(self.clear)
        decided = replace(plan.setup(self.setup), **given, **cleared)
        words = [f"{name.replace('_', ' ')} {value.normalize():f}" for name, value in given.items()]
        words += [f"{name.replace('_', ' ')} by the rule" for name in self.clear]
        return plan.with_setup(decided), f"setup {self.setup}: {', '.join(words)}"


@dataclass(frozen=True)
class SetBuy(_Strict):
    buy: Literal["blank", "bar"]
    change: Literal["set-buy"] = "set-buy"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        words = {"blank": "sawn blanks", "bar": "whole bars"}[self.buy]
        return replace(plan, buy=self.buy), f"material bought as {words}"


Change = Annotated[
    SetMaterial
    | SetQuantities
    | SetAllowance
    | SetThread
    | EditOperation
    | LeaveOut
    | TakeIn
    | MoveFeature
    | SetUp
    | SetTurn
    | SetVise
    | SetGrip
    | SetZero
    | SetMachine
    | AddSetup
    | RemoveSetup
    | DivideAgain
    | SetOrder
    | GroupByTool
    | OrderByRule
    | SetRate
    | SetSetupCost
    | SetBuy,
    Field(discriminator="change"),
]

CHANGES: TypeAdapter[Change] = TypeAdapter(Change)


def read_change(data: object) -> Change:
    """A change from plain data. Raises PlanError that names the field and the reason."""
    try:
        return CHANGES.validate_python(data)
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"][1:] or first["loc"])
        raise PlanError("change-malformed", f"{place or 'change'}: {first['msg']}") from None


def _between(value: float, least: float, most: float, what: str) -> None:
    if not least <= value <= most:
        raise PlanError("out-of-range", f"{what} is {value:g}; it must be from {least:g} to {most:g}")


def _known(features: tuple[str, ...], scene: Scene) -> None:
    unknown = [id for id in features if id not in scene.part.by_id]
    if unknown or not features:
        raise PlanError("no-such-feature", f"the part has no feature {', '.join(unknown) or '(none named)'}")


def _moved(before: list[str], after: tuple[str, ...]) -> str:
    """The one operation whose taking out makes both orders equal; empty where more than one moved."""
    for id in after:
        if [x for x in before if x != id] == [x for x in after if x != id] and before != list(after):
            return id
    return ""
