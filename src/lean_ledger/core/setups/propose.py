"""Dividing a part into setups on three axes: the least number of sides up, around decisions that stay."""

from __future__ import annotations

from dataclasses import dataclass, replace

from lean_ledger.core.features import Feature, flat_side
from lean_ledger.core.geometry.vectors import Vec, dot
from lean_ledger.core.part import Part
from lean_ledger.core.plan import DIRECTIONS, Allowances, MovedFeature, Plan, SetupDecision
from lean_ledger.core.setups.assign import assign_features, is_outline, needs_machining, reaches
from lean_ledger.core.setups.divide import Division, Item, Task, divide
from lean_ledger.core.setups.reach import Clamping

LOW_OUTLINE = 45.0  # mm that an outline is cut in any case
SQUAT = 1.6  # times the least size that the part may stand high in the first setup
OUTLINE = "the outline"

NAMES = tuple(DIRECTIONS)
SIDES = tuple(DIRECTIONS.values())
ONE_SIDE_UP = tuple(Clamping(d, None, frozenset([i])) for i, d in enumerate(SIDES))


@dataclass(frozen=True)
class Proposal:
    """`lower_bound`: no division does with fewer; `clashes`: what was asked for and cannot be had with the rest."""

    setups: tuple[SetupDecision, ...]
    moved: tuple[MovedFeature, ...]
    lower_bound: int
    clashes: tuple[str, ...]
    unreachable: tuple[str, ...]


def propose_setups(part: Part, allowances: Allowances, machine: str) -> tuple[SetupDecision, ...]:
    """Sides in the order in which they are cut; the first takes most machining."""
    bare = Plan("", (1,), allowances, (SetupDecision("S1", "Z+", machine),))
    return divided(part, bare).setups


def divided(part: Part, plan: Plan) -> Proposal:
    """The division anew: locked setups keep their side, their place and their features, wishes are heard.

    The outline is cut around the first setup's direction, so each of the part's low directions is tried as that one.
    """
    locked = {k: s for k, s in enumerate(plan.setups) if s.locked}
    ways = [DIRECTIONS[locked[0].up]] if 0 in locked else [DIRECTIONS[f"{a}+"] for a in _low_axes(part)]
    best = min((_division(part, plan, axis, locked) for axis in ways), key=_badness)
    return _decided(part, plan, best, locked)


def _division(part: Part, plan: Plan, axis: Vec, locked: dict[int, SetupDecision]) -> Division:
    out = {left.feature for left in plan.left_out}
    features = [f for f in part.features if f.id not in out and needs_machining(f, plan.allowances)]
    around = [f for f in features if is_outline(part, f, axis)]
    items = [_item(part, f, axis) for f in features if f not in around]
    along = frozenset(i for i, d in enumerate(SIDES) if abs(dot(d, axis)) > 0.5)
    before = list(plan.before)
    if around:
        # the outline and both ends are there before the part is laid on its side: then it has clean walls to grip
        items.append(Item(OUTLINE, sum(_weight(f) for f in around), along))
        whole = [OUTLINE, *(f.id for f in features if (flat := flat_side(f)) and abs(dot(flat.normal, axis)) > 0.999)]
        before += [(id, item.id) for id in whole for item in items if item.ways and not item.ways & along]
    known = {item.id for item in items}
    together = [tuple(id for id in ids if id in known) for ids in plan.together]
    assigned = assign_features(part, plan) if locked else {}
    held = {
        k: (NAMES.index(s.up), tuple(id for id in assigned[s.id] if id in known)) for k, s in locked.items()
    }  # fmt: skip
    size = part.model.solid.bounds.size
    grip = {i: size[max(range(3), key=lambda k: abs(d[k]))] for i, d in enumerate(SIDES)}
    return divide(
        Task(
            tuple(items), ONE_SIDE_UP, tuple(before), tuple(ids for ids in together if len(ids) > 1), along, held, grip
        )
    )  # fmt: skip


def _item(part: Part, feature: Feature, axis: Vec) -> Item:
    ways = frozenset(i for i, d in enumerate(SIDES) if reaches(part, feature, d, axis))
    return Item(feature.id, _weight(feature), ways)


def _weight(feature: Feature) -> float:
    """What counts as machining: a feature's own volume; the facing that every side gets only breaks ties."""
    flat = flat_side(feature)
    return feature.volume + (0.001 * flat.area if flat is not None and flat.area else 0.001)


def _badness(found: Division) -> tuple[int, int, int]:
    return (len(found.unreachable), len(found.clashes), len(found.setups))


def _low_axes(part: Part) -> list[str]:
    """Axes along which the outline may be cut, the lowest first: the part must not stand too high on it."""
    size = part.model.solid.bounds.size
    most = max(LOW_OUTLINE, SQUAT * min(size))
    order = sorted("ZYX", key=lambda a: size["XYZ".index(a)] if size["XYZ".index(a)] > most else 0.0)
    low = [a for a in order if size["XYZ".index(a)] <= most]
    return low or order[:1]


def _decided(part: Part, plan: Plan, found: Division, locked: dict[int, SetupDecision]) -> Proposal:
    """Setups as decisions; one that stands for a side that was there before keeps what was decided for it."""
    spare = [s for s in plan.setups if not s.locked]
    ids = iter(f"S{i}" for i in range(1, 99) if f"S{i}" not in {s.id for s in plan.setups})
    setups: list[SetupDecision] = []
    for k, placed in enumerate(found.setups):
        if k in locked:
            setups.append(locked[k])
            continue
        up = NAMES[placed.directions[0]]
        kept = next((s for s in spare if s.up == up), None)
        if kept is not None:
            spare.remove(kept)
        setups.append(kept or SetupDecision(next(ids), up, plan.setups[-1].machine))  # type: ignore[arg-type]
    if not setups:  # nothing to machine
        setups = list(locked.values()) or [plan.setups[0]]
    if not locked:  # S1, S2 … in their order, where nothing is bound to the old names
        setups = [replace(s, id=f"S{k + 1}") for k, s in enumerate(setups)]
    bare = replace(plan, setups=tuple(setups), moved=())
    given = assign_features(part, bare)
    moved = tuple(
        MovedFeature(id, setup.id)
        for setup, placed in zip(setups, found.setups, strict=False)
        for id in placed.items
        if id != OUTLINE and id not in given[setup.id]
    )
    return Proposal(tuple(setups), moved, found.lower_bound, found.clashes, found.unreachable)
