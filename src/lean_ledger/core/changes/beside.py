"""What runs at the same time on a machine of several carriages: which makes an operation, what turns at one speed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.layout import load_in
from lean_ledger.core.changes.scene import Scene, Strict, check_between
from lean_ledger.core.loads.balanced import Finder
from lean_ledger.core.loads.both_sides import why_not_both
from lean_ledger.core.loads.drum import DrumFinder, finder_of
from lean_ledger.core.loads.lanes import usual_carriage
from lean_ledger.core.loads.parts import most_parts, whole_id
from lean_ledger.core.loads.sequence import check_order
from lean_ledger.core.plan import AtOneSpeed, Load, Plan

SLOWEST, FASTEST = 1.0, 100_000.0  # rpm


@dataclass(frozen=True)
class SetCarriage(Strict):
    """Which of its machine's carriages makes an operation of a load."""

    load: str
    operation: str
    carriage: str
    change: Literal["set-carriage"] = "set-carriage"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load, finder = _found(plan, scene, self.load)
        op = finder.operation(self.operation)
        finder.known_carriage(self.carriage)
        finder.allows(op, self.carriage)
        if whole_id(op.id) in load.both_sides:
            raise PlanError("from-both-sides", f"“{op.name}” is made from both sides: make it from one side first",
                            op.setup)  # fmt: skip
        others = tuple(one for one in load.carriage_of if one[0] != op.id)
        usual = usual_carriage(load, finder.load.machine, op)
        on = (*others, (op.id, self.carriage)) if self.carriage != usual else others
        return plan.with_load(replace(load, carriage_of=on)), f"load {load.id}: “{op.name}” on {self.carriage}"


@dataclass(frozen=True)
class ShareSpeed(Strict):
    """Operations of a load turn at one speed in rpm, so that they can run beside one another; None: as fast as the
    slowest of them goes.
    """

    load: str
    operations: tuple[str, ...]
    n: float | None = None
    change: Literal["share-speed"] = "share-speed"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load, finder = _found(plan, scene, self.load)
        group = frozenset(finder.operation(id).id for id in self.operations)
        if len(group) < 2:
            raise PlanError("one-operation", "two operations or more share a speed", load.setups[0])
        for id in self.operations:
            finder.check_sharing(id)
        finder.check_one_spindle(self.operations)
        n = self.n if self.n is not None else finder.shared(group)
        check_between(n, SLOWEST, FASTEST, "the speed")
        kept = _without(load, self.operations)
        ids = tuple(dict.fromkeys(self.operations))
        names = ", ".join(f"“{finder.operation(id).name}”" for id in ids)
        changed = replace(load, at_one_speed=(*kept, AtOneSpeed(ids, n)))
        return plan.with_load(changed), f"load {load.id}: {names} at one speed of {n:.0f}"


@dataclass(frozen=True)
class OwnSpeed(Strict):
    """Operations turn at their own speeds again; a group of which one is left is taken apart."""

    load: str
    operations: tuple[str, ...]
    change: Literal["own-speed"] = "own-speed"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load, finder = _found(plan, scene, self.load)
        names = ", ".join(f"“{finder.operation(id).name}”" for id in self.operations)
        kept = _without(load, self.operations)
        return plan.with_load(replace(load, at_one_speed=kept)), f"load {load.id}: {names} at their own speed"


@dataclass(frozen=True)
class RunBeside(Strict):
    """A whole arrangement, as the search for the least cycle finds it: the carriage of each operation that is not on
    the first, groups at one speed, and the order of operations.
    """

    load: str
    on: tuple[tuple[str, str], ...]
    at_one_speed: tuple[AtOneSpeed, ...]
    order: tuple[str, ...]
    change: Literal["run-beside"] = "run-beside"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load, finder = _found(plan, scene, self.load)
        for id, carriage in self.on:
            finder.known_carriage(carriage)
            finder.allows(finder.operation(id), carriage)
        for group in self.at_one_speed:
            check_between(group.n, SLOWEST, FASTEST, "the speed")
            for id in group.operations:
                finder.check_sharing(id)
            finder.check_one_spindle(group.operations)
        check_order(tuple(finder.operations.values()), self.order)
        changed = replace(load, carriage_of=self.on, at_one_speed=self.at_one_speed, sequence=())
        return plan.with_load(finder.ordered(changed, self.order)), f"load {load.id}: what can runs at the same time"


@dataclass(frozen=True)
class SpreadOut(Strict):
    """Operations over the positions of a drum, so that the fullest of them, one slide after the other, is the least."""

    load: str
    change: Literal["spread-out"] = "spread-out"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load, finder = _found(plan, scene, self.load)
        if not isinstance(finder, DrumFinder):
            raise PlanError("no-drum", f"{finder.load.machine.name} has no drum of spindles", load.setups[0])
        words = f"load {load.id}: spread over {finder.positions} positions"
        return plan.with_load(finder.as_load(finder.spread_out)), words


@dataclass(frozen=True)
class SplitOperation(Strict):
    """An operation of a load in so many parts, 1 for the whole of it again; on a drum all is spread out anew."""

    load: str
    operation: str
    parts: int
    change: Literal["split-operation"] = "split-operation"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load, finder = _found(plan, scene, self.load)
        op, _ = finder.whole(self.operation)
        most = most_parts(op)
        if not 1 <= self.parts <= most:
            able = f"it goes into {most} at the most" if most > 1 else "it is made in one"
            raise PlanError("not-in-parts", f"“{op.name}” is not taken apart into {self.parts}: {able}", op.setup)
        words = f"load {load.id}: “{op.name}” in {self.parts} parts" if self.parts > 1 else (
            f"load {load.id}: “{op.name}” in one"
        )  # fmt: skip
        if isinstance(finder, DrumFinder):
            other = finder.with_split(op.id, self.parts)
            return plan.with_load(other.as_load(other.spread_out)), words
        others = tuple(one for one in load.split if one[0] != op.id)
        split = (*others, (op.id, self.parts)) if self.parts > 1 else others
        both = tuple(id for id in load.both_sides if id != op.id)
        return plan.with_load(replace(load, split=split, both_sides=both)), words


@dataclass(frozen=True)
class FromBothSides(Strict):
    """An operation of a load by two carriages on either side of the axis, two passes at a time; or by one again."""

    load: str
    operation: str
    on: bool
    change: Literal["from-both-sides"] = "from-both-sides"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load, finder = _found(plan, scene, self.load)
        op, stands = finder.whole(self.operation)
        if self.on and (why := why_not_both(op, stands, finder.load.machine, load)):
            raise PlanError("not-both-sides", f"“{op.name}” is not made from both sides: {why}", op.setup)
        return plan.with_load(load.from_both(op.id, on=self.on)), (
            f"load {load.id}: “{op.name}” {'from both sides' if self.on else 'from one side'}"
        )


@dataclass(frozen=True)
class OneAfterOther(Strict):
    """All operations of a load on the first carriage, each at its own speed."""

    load: str
    change: Literal["one-after-other"] = "one-after-other"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load, finder = _found(plan, scene, self.load)
        words = f"load {load.id}: one operation after the other"
        plain = finder.from_one_side.plain
        return plan.with_load(replace(load, carriage_of=plain.on, at_one_speed=(), both_sides=())), words


def as_change(load: Load, order: tuple[str, ...]) -> dict[str, object]:
    """The change that makes a load run as this one does."""
    return {
        "change": "run-beside", "load": load.id, "on": [list(one) for one in load.carriage_of],
        "at_one_speed": [{"operations": list(g.operations), "n": g.n} for g in load.at_one_speed],
        "order": list(order),
    }  # fmt: skip


def _without(load: Load, operations: tuple[str, ...]) -> tuple[AtOneSpeed, ...]:
    """The groups at one speed that are left without some operations."""
    rest = (replace(g, operations=tuple(o for o in g.operations if o not in operations)) for g in load.at_one_speed)
    return tuple(g for g in rest if len(g.operations) > 1)


def _found(plan: Plan, scene: Scene, id: str) -> tuple[Load, Finder]:
    """A load with what its arrangements are found by. Raises PlanError one-carriage."""
    load = load_in(plan, id)
    return load, finder_of(scene.ledger.load_of(load.setups[0]))
