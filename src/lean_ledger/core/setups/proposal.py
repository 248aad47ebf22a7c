"""What every division is put together from: machining as items, locked setups held, and the answer as decisions."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.features import Feature, flat_side
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Clamped, MovedFeature, Plan, SetupDecision
from lean_ledger.core.setups.assign import assign_features
from lean_ledger.core.setups.divide import DividedSetup, Division, Item
from lean_ledger.core.setups.reach import Clamping
from lean_ledger.core.setups.sides import needs_machining

NAMES = tuple(DIRECTIONS)
SIDES = tuple(DIRECTIONS.values())
ONE_SIDE_UP = tuple(Clamping(d, None, frozenset([i])) for i, d in enumerate(SIDES))
OUTLINE = "the outline"

#: position → (direction it uses, or None for any; features that stay in it), as `divide.Task` takes it
HeldSetups = dict[int, tuple[int | None, tuple[str, ...]]]


@dataclass(frozen=True)
class Proposal:
    """`lower_bound`: no division does with fewer; `clashes`: what was asked for and cannot be had with the rest."""

    clamped: tuple[Clamped, ...]
    moved: tuple[MovedFeature, ...]
    lower_bound: int
    clashes: tuple[str, ...]
    unreachable: tuple[str, ...]


def to_machine(part: Part, plan: Plan) -> list[Feature]:
    """The features that a division is about."""
    out = {left.feature for left in plan.left_out}
    return [f for f in part.features if f.id not in out and needs_machining(part, f, plan)]


def weight_of(feature: Feature) -> float:
    """What counts as machining: a feature's own volume; the facing that every side gets only breaks ties."""
    flat = flat_side(feature)
    return feature.volume + (0.001 * flat.area if flat is not None and flat.area else 0.001)


def locked_of(plan: Plan) -> dict[int, SetupDecision]:
    return {k: s for k, s in enumerate(plan.setups) if s.locked}


def held_of(
    part: Part, plan: Plan, items: Sequence[Item], direction: Callable[[SetupDecision], int | None]
) -> HeldSetups:
    """Locked setups: each keeps its position, the direction that stands for it and the features it has now."""
    locked = locked_of(plan)
    assigned = assign_features(part, plan) if locked else {}
    known = {item.id for item in items}
    return {k: (direction(setup), tuple(id for id in assigned[setup.id] if id in known)) for k, setup in locked.items()}


def joined_of(plan: Plan, items: Sequence[Item]) -> tuple[tuple[str, ...], ...]:
    """What is asked to be in one setup, of the features there are."""
    known = {item.id for item in items}
    together = (tuple(id for id in ids if id in known) for ids in plan.together)
    return tuple(ids for ids in together if len(ids) > 1)


def decided(part: Part, plan: Plan, found: Division, wanted: Callable[[DividedSetup], Clamped]) -> Proposal:
    """Setups as decisions; one that stands for a side that was there before keeps what was decided for it."""
    now = plan.clamped
    locked = {k: now[k] for k in locked_of(plan)}
    spare = [one for one in now if not one.setup.locked]
    ids = iter(f"S{i}" for i in range(1, 99) if f"S{i}" not in {s.id for s in plan.setups})
    setups: list[Clamped] = []
    for k, placed in enumerate(found.setups):
        if k in locked:
            setups.append(locked[k])
            continue
        new = wanted(placed)
        kept = next((s for s in spare if _alike(s, new)), None)
        if kept is not None:
            spare.remove(kept)
        setups.append(kept or new.renamed(next(ids)))
    if not setups:  # nothing to machine
        setups = list(locked.values()) or [now[0]]
    if not locked:  # S1, S2 … in their order, where nothing is bound to the old names
        setups = [one.renamed(f"S{k + 1}") for k, one in enumerate(setups)]
    moved = _moved(part, replace(plan.clamped_as(setups), moved=()), found)
    return Proposal(tuple(setups), moved, found.lower_bound, found.clashes, found.unreachable)


def _alike(one: Clamped, other: Clamped) -> bool:
    """The same side up, on the same lathe or on a mill."""
    same = all(getattr(one.setup, what) == getattr(other.setup, what) for what in ("up", "free", "spindle"))
    return same and (not one.setup.part_turns or one.load.machine == other.load.machine)


def _moved(part: Part, plan: Plan, found: Division) -> tuple[MovedFeature, ...]:
    """Where the division has a feature in another setup than the rule would."""
    given: Mapping[str, tuple[str, ...]] = assign_features(part, plan)
    return tuple(
        MovedFeature(id, setup.id)
        for setup, placed in zip(plan.setups, found.setups, strict=False)
        for id in placed.items
        if not id.startswith(OUTLINE) and id not in given[setup.id]
    )
