"""Dividing a rotational part between a lathe, from both of its ends, and a mill for what the lathe leaves."""

from __future__ import annotations

from lean_ledger.core.features import Feature, Turned
from lean_ledger.core.geometry.vectors import Vec, axis_name, dot, neg
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Clamped, Plan, SetupDecision, Spindling, alone
from lean_ledger.core.setups.divide import DividedSetup, Item, Task, divide
from lean_ledger.core.setups.proposal import (
    NAMES,
    ONE_SIDE_UP,
    OUTLINE,
    SIDES,
    Proposal,
    decided,
    held_of,
    joined_of,
    to_machine,
    weight_of,
)
from lean_ledger.core.setups.reach import Clamping
from lean_ledger.core.setups.sides import is_outline
from lean_ledger.core.setups.ways import way_of
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library

#: Ways beside the six sides of a mill: on the lathe with one end free, and with the other.
TURNED = (len(SIDES), len(SIDES) + 1)


def turned_division(part: Part, plan: Plan, machine: Machine, library: Library) -> Proposal:
    """The least number of clampings on this lathe and one mill, the lathe's first; locks and wishes are heard."""
    assert part.axis is not None
    axis = max(SIDES, key=lambda d: dot(d, part.axis.direction))  # type: ignore[union-attr]
    mill = _mill(plan, library)
    ends = _Ends(part, plan, machine, mill, axis)
    features = to_machine(part, plan)
    items = [ends.item(f) for f in features if not ends.turns_outline(f)]
    # the widest wall goes past the jaws of either end: each of them turns what it reaches of it
    outline = [f for f in features if ends.turns_outline(f)]
    for k, way in enumerate(TURNED):
        own = [f for f in outline if ends.turns(f, k)]
        if own:
            weight = sum(weight_of(f) for f in own) / 2
            items.append(Item(f"{OUTLINE} from {ends.names[k]}", weight, frozenset([way])))
    turned = frozenset(TURNED)
    before = [
        (first.id, then.id)
        for first in items if first.ways and first.ways <= turned
        for then in items if then.ways and not then.ways & turned
    ]  # fmt: skip
    clampings = tuple(Clamping(end, axis, frozenset([way])) for end, way in zip(ends.ups, TURNED, strict=True))
    found = divide(
        Task(
            tuple(items),
            (*clampings, *(ONE_SIDE_UP if mill is not None else ())),
            (*plan.before, *before),
            joined_of(plan, items),
            turned,
            held_of(part, plan, items, ends.way_of),
        )
    )
    return decided(part, plan, found, ends.clamped)


class _Ends:
    """Both ends of the part in the lathe's chuck, and the mill beside it."""

    def __init__(self, part: Part, plan: Plan, machine: Machine, mill: Machine | None, axis: Vec) -> None:
        self.part = part
        self.axis = axis
        self.ups = (axis, neg(axis))
        self.names = tuple(axis_name(up) for up in self.ups)
        self._lathe, self._mill = machine, mill
        spindle: Spindling = "part and driven tools" if machine.rotary is not None else "part"
        self._turned = tuple(SetupDecision("", name, spindle=spindle) for name in self.names)  # type: ignore[arg-type]

    def turns(self, feature: Feature, end: int) -> bool:
        return way_of(self.part, feature, self._turned[end], self.axis) is not None

    def turns_outline(self, feature: Feature) -> bool:
        return is_outline(self.part, feature, self.axis) and any(self.turns(feature, k) for k in (0, 1))

    def item(self, feature: Feature) -> Item:
        ways = {way for k, way in enumerate(TURNED) if self.turns(feature, k)}
        if self._mill is not None and not (ways and isinstance(feature, Turned)):
            ways |= {i for i, name in enumerate(NAMES) if self._milled(feature, name)}
        return Item(feature.id, weight_of(feature), frozenset(ways))

    def _milled(self, feature: Feature, name: str) -> bool:
        assert self._mill is not None
        setup = SetupDecision("", name)  # type: ignore[arg-type]
        return way_of(self.part, feature, setup, self.axis) is not None

    def way_of(self, setup: SetupDecision) -> int | None:
        """The direction that stands for a setup in the division; None for one that indexes."""
        if setup.part_turns:
            return TURNED[self.names.index(setup.up)] if setup.up in self.names else None
        return None if setup.free else NAMES.index(setup.up)

    def clamped(self, placed: DividedSetup) -> Clamped:
        up = placed.clamping.up
        assert up is not None
        if placed.clamping.line is not None:
            return alone(self._turned[self.ups.index(up)], self._lathe.id)
        assert self._mill is not None, "without a mill no side is a clamping"
        return alone(SetupDecision("", axis_name(up)), self._mill.id)  # type: ignore[arg-type]


def _mill(plan: Plan, library: Library) -> Machine | None:
    """The mill that the plan is on already, else the shop's first."""
    own = (library.machine(one.load.machine) for one in plan.clamped if not one.setup.part_turns)
    return next((m for m in (*own, *library.machines) if m is not None and not m.turns_work), None)
