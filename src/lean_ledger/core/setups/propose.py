"""Dividing a part into setups: the least number of clampings, around decisions that stay."""

from __future__ import annotations

from dataclasses import replace

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.features import Feature, flat_side
from lean_ledger.core.geometry.vectors import Vec, dot
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Allowances, Clamped, Plan, SetupDecision, Side, alone
from lean_ledger.core.setups.divide import DividedSetup, Division, Item, Task, divide
from lean_ledger.core.setups.proposal import (
    NAMES,
    ONE_SIDE_UP,
    OUTLINE,
    SIDES,
    Proposal,
    decided,
    held_of,
    joined_of,
    locked_of,
    to_machine,
    weight_of,
)
from lean_ledger.core.setups.reach import Clamping
from lean_ledger.core.setups.sides import is_outline, reaches, reaches_inside
from lean_ledger.core.setups.turned_division import turned_division
from lean_ledger.core.setups.ways import reached_indexed
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library

LOW_OUTLINE = 45.0  # mm that an outline is cut in any case
SQUAT = 1.6  # times the least size that the part may stand high in the first setup

#: Ways beside the six sides, as an indexing machine has them: round the outline, and the free end by the flank.
AROUND, TRIMMED = len(SIDES), len(SIDES) + 1  # one TRIMMED for each end of the axis
#: Holes along none of the six: square to a rotary's axis, one for each of X, Y, Z; over an end that a tilt brings up.
SLANTED = TRIMMED + 2
TILTED = SLANTED + 3


def propose_setups(part: Part, allowances: Allowances, machine: str) -> tuple[Clamped, ...]:
    """Sides in the order in which they are cut; the first takes most machining."""
    first = alone(SetupDecision("S1", "Z+"), machine)
    return divided(part, Plan("", (1,), allowances, (first.setup,), (first.load,))).clamped


def divided(part: Part, plan: Plan, library: Library | None = None) -> Proposal:
    """The division anew: locked setups keep their side, their place and their features, wishes are heard.

    The outline is cut around the first setup's direction, so each of the part's low directions is tried as that one.
    A machine that indexes is tried around each axis as well, and taken where that spares a setup. A lathe turns what
    it can from both ends, and sends the rest to a mill.

    Raises PlanError, code lost-rotary, for a locked setup that turns the part on a machine that cannot.
    """
    if library is not None:
        _check_locked(plan, library)
    machine = library.machine(plan.load_of(plan.setups[0].id).machine) if library is not None else None
    if library is not None and machine is not None and machine.turns_work and part.axis is not None:
        return turned_division(part, plan, machine, library)
    first = locked_of(plan).get(0)
    ways = [first.free or first.up] if first else [f"{a}+" for a in _low_axes(part)]
    tried = []
    if first is None or first.free is None:
        tried = [_division(part, plan, DIRECTIONS[w], ONE_SIDE_UP) for w in ways]
    if machine is not None and not machine.turns_work and machine.rotary is not None:
        lines = [ways[0]] if first else [f"{a}+" for a in "XYZ"]
        for name in lines:
            axis = DIRECTIONS[f"{name[0]}+"]
            tried.append(_division(part, plan, axis, (*ONE_SIDE_UP, *_indexed(axis, machine))))
    milled = [one for one in plan.clamped if not one.setup.part_turns] or [plan.clamped[-1]]
    mill = milled[-1].load.machine

    def wanted(placed: DividedSetup) -> Clamped:
        up, free = _lying(placed)
        return alone(SetupDecision("", up, free=free), mill)

    return decided(part, plan, min(tried, key=_badness), wanted)


def _check_locked(plan: Plan, library: Library) -> None:
    for setup, machine in ((one.setup, library.machine(one.load.machine)) for one in plan.clamped):
        turned = setup.free is not None and not setup.part_turns
        if setup.locked and turned and machine is not None and machine.rotary is None:
            raise PlanError(
                "lost-rotary",
                f"setup {setup.id} is locked and turns the part on a rotary; {machine.name} has none. Put it on a "
                "machine with a rotary, or unlock it, and divide again",
                setup.id,
            )


def _indexed(axis: Vec, machine: Machine) -> tuple[Clamping, ...]:
    """Both ends free in turn: from all sides around, and from the free end itself where a tilt brings it up."""
    around = [i for i, d in enumerate(SIDES) if abs(dot(d, axis)) < 0.5]
    own = [AROUND, TRIMMED] if machine.tilt is None else []
    ends = [i for i, d in enumerate(SIDES) if abs(dot(d, axis)) > 0.5]
    line = max(range(3), key=lambda i: abs(axis[i]))

    def beyond(end: int) -> list[int]:
        return [end, TILTED + end] if machine.tilt is not None else [SLANTED + line]

    return tuple(
        Clamping(SIDES[end], axis, frozenset([*around, *(o + k if o == TRIMMED else o for o in own), *beyond(end)]))
        for k, end in enumerate(ends)
    )


def _division(part: Part, plan: Plan, axis: Vec, clampings: tuple[Clamping, ...]) -> Division:
    features = to_machine(part, plan)
    going_round = any(AROUND in c.reached for c in clampings)
    around = [f for f in features if is_outline(part, f, axis) and (not going_round or flat_side(f) is not None)]
    items = [_item(part, f, axis) for f in features if f not in around]
    along = frozenset(i for i, d in enumerate(SIDES) if abs(dot(d, axis)) > 0.5)
    before = list(plan.before)
    if going_round:
        ends = sorted(along)
        trimmed = {SIDES[end]: TRIMMED + k for k, end in enumerate(ends)}
        items = [_with_flank(part.by_id[item.id], item, trimmed) for item in items]
    if around:
        # the outline and both ends are there before the part is laid on its side: then it has clean walls to grip
        items.append(Item(OUTLINE, sum(weight_of(f) for f in around), along | ({AROUND} if going_round else set())))
        ended = [f.id for f in features if (flat := flat_side(f)) and abs(dot(flat.normal, axis)) > 0.999]
        # an indexed part is held by one of its ends: that one comes last
        whole = [OUTLINE, *(ended if clampings == ONE_SIDE_UP else [])]
        before += [(id, item.id) for id in whole for item in items if item.ways and not item.ways & along]
    held = held_of(part, plan, items, lambda s: None if s.free else NAMES.index(s.up))
    size = part.model.solid.bounds.size
    grip = {i: size[max(range(3), key=lambda k: abs(d[k]))] for i, d in enumerate(SIDES)}
    # the flank on a long end is a poor second to a face mill over it
    grip |= {way: 2 * max(size) for way in range(AROUND, TILTED + len(SIDES))}
    for k, end in enumerate(sorted(along)):  # held where there is stock to hold by
        grip[TRIMMED + k] -= min(plan.allowances.on(NAMES[end ^ 1]), max(size))
    return divide(
        Task(
            tuple(items), clampings, tuple(before), joined_of(plan, items),
            along if clampings == ONE_SIDE_UP else frozenset(), held, grip
        )
    )  # fmt: skip


def _with_flank(feature: Feature, item: Item, trimmed: dict[Vec, int]) -> Item:
    """An end that stands free can be cut by a mill's flank; all but sides and outline by what reaches into it."""
    flat = flat_side(feature)
    if flat is not None:
        extra = {way for d, way in trimmed.items() if dot(d, flat.normal) > 0.999}
        return replace(item, ways=item.ways | extra)
    return replace(item, ways=item.ways | {i for i, d in enumerate(SIDES) if reaches_inside(feature, d)})


def _item(part: Part, feature: Feature, axis: Vec) -> Item:
    ways = frozenset(i for i, d in enumerate(SIDES) if reaches(part, feature, d, axis))
    return Item(feature.id, weight_of(feature), ways or _slanted_ways(feature))


def _slanted_ways(feature: Feature) -> frozenset[int]:
    """Of a hole along none of the six sides."""
    square = {SLANTED + k for k, a in enumerate("XYZ") if reached_indexed(feature, DIRECTIONS[f"{a}+"], indexed=True)}
    tilted = {TILTED + i for i, d in enumerate(SIDES) if reached_indexed(feature, d, indexed=False)}
    return frozenset(square | tilted)


def _lying(placed: DividedSetup) -> tuple[Side, Side | None]:
    """Which side is up first, and which end stands free where the part is indexed."""
    sides = [NAMES[d] for d in placed.directions if d < AROUND]
    line, up = placed.clamping.line, placed.clamping.up
    if line is None or up is None:
        return sides[0], None  # type: ignore[return-value]
    free = NAMES[SIDES.index(up)]
    square = [s for s in sides if s[0] != free[0]]
    tilting = placed.clamping.reached & {SIDES.index(up)}
    if tilting and not square:
        return free, None  # type: ignore[return-value]
    if tilting:
        return free, free  # type: ignore[return-value]
    return (square or [next(s for s in NAMES if s[0] != free[0] and s[1] == "+")])[0], free  # type: ignore[return-value]


def _badness(found: Division) -> tuple[int, int, int]:
    return (len(found.unreachable), len(found.clashes), len(found.setups))


def _low_axes(part: Part) -> list[str]:
    """Axes along which the outline may be cut, the lowest first: the part must not stand too high on it."""
    size = part.model.solid.bounds.size
    most = max(LOW_OUTLINE, SQUAT * min(size))
    order = sorted("ZYX", key=lambda a: size["XYZ".index(a)] if size["XYZ".index(a)] > most else 0.0)
    low = [a for a in order if size["XYZ".index(a)] <= most]
    return low or order[:1]
