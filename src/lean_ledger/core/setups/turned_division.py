"""Dividing a rotational part between a lathe, from both of its ends, and a mill for what the lathe leaves."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.features import Feature
from lean_ledger.core.geometry.vectors import SIX, axis_name, dot, neg
from lean_ledger.core.part import Part
from lean_ledger.core.plan import MovedFeature, Plan, SetupDecision, Spindling
from lean_ledger.core.setups.divide import Item, Task, divide
from lean_ledger.core.setups.reach import Clamping
from lean_ledger.core.setups.sides import is_outline, needs_machining, reaches_inside
from lean_ledger.core.setups.ways import way_of
from lean_ledger.library.types import Library, Machine

ONE_SIDE_UP = tuple(Clamping(d, None, frozenset([i])) for i, d in enumerate(SIX))


@dataclass(frozen=True)
class Proposal:
    """`lower_bound`: no division does with fewer; `clashes`: what was asked for and cannot be had with the rest."""

    setups: tuple[SetupDecision, ...]
    moved: tuple[MovedFeature, ...]
    lower_bound: int
    clashes: tuple[str, ...]
    unreachable: tuple[str, ...]


def turned_division(part: Part, plan: Plan, machine: Machine, library: Library) -> Proposal:
    """The better of both ends first; not proven least. Locks are not heard; wishes that are missed are findings."""
    return min(
        (_from_end(part, plan, machine, library, end) for end in (1, -1)),
        key=lambda p: (len(p.unreachable), len(p.setups)),
    )


def _from_end(part: Part, plan: Plan, machine: Machine, library: Library, end: int) -> Proposal:
    assert part.axis is not None
    axis = max(SIX, key=lambda d: dot(d, part.axis.direction))  # type: ignore[union-attr]
    up = axis if end > 0 else neg(axis)
    spindle: Spindling = "part and driven tools" if machine.rotary is not None else "part"
    out = {left.feature for left in plan.left_out}
    features = [f for f in part.features if f.id not in out and needs_machining(part, f, plan.allowances)]
    setups: list[SetupDecision] = []
    waiting = features
    for side in (up, neg(up)):
        one = _kept(plan, SetupDecision(f"S{len(setups) + 1}", axis_name(side), machine.id, spindle=spindle))  # type: ignore[arg-type]
        taken = {f.id for f in waiting if way_of(part, f, one, axis) is not None}
        # the widest wall goes past the jaws of the first end: the other end finishes it
        shared = any(is_outline(part, f, axis) and way_of(part, f, one, axis) is not None for f in features)
        if taken or (shared and setups):
            setups.append(one)
            waiting = [f for f in waiting if f.id not in taken]
    milled, lost = _milled(waiting)
    own = (library.machine(s.machine) for s in plan.setups if s.spindle == "tool")
    mills = [m for m in (*own, *library.machines) if m is not None and m.kind == "mill"]
    mill = mills[0] if mills else None
    if mill is None:
        milled, lost = [], [f.id for f in waiting]
    for name in milled:
        assert mill is not None
        setups.append(_kept(plan, SetupDecision(f"S{len(setups) + 1}", name, mill.id)))  # type: ignore[arg-type]
    # an end of the lathe might share a setup on the mill: that fewer do not suffice is certain for one only
    return Proposal(tuple(setups) or plan.setups[:1], (), 1, (), tuple(lost))


def _kept(plan: Plan, wanted: SetupDecision) -> SetupDecision:
    """What was decided for a setup of the same side on the same machine stays."""
    like = next((s for s in plan.setups if (s.up, s.machine, s.spindle, s.free)
                 == (wanted.up, wanted.machine, wanted.spindle, wanted.free)), None)  # fmt: skip
    return replace(like, id=wanted.id) if like is not None else wanted


def _milled(features: Sequence[Feature]) -> tuple[list[str], list[str]]:
    """The fewest sides from which a mill reaches what is left, and what it does not reach."""
    items = [
        Item(f.id, max(f.volume, 0.001), frozenset(i for i, d in enumerate(SIX) if reaches_inside(f, d)))
        for f in features
    ]
    found = divide(Task(tuple(items), ONE_SIDE_UP))
    return [axis_name(SIX[placed.directions[0]]) for placed in found.setups], list(found.unreachable)
