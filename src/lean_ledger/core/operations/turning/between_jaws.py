"""What of a turned outside no cut comes to, since the jaws hold the part there, and what would mend it."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.basis.findings import Chapter, Cure, Severity
from lean_ledger.core.features import Feature, Turned
from lean_ledger.core.geometry.vectors import Vec, axis_name, dot, neg
from lean_ledger.core.holding.hold import JAW_CLEARANCE, more_below
from lean_ledger.core.operations.turning.between_walls import HEAD, recesses
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.plan import DIRECTIONS
from lean_ledger.core.setups.profile import Profile, levels_of, turned_from

HALF = 0.2  # mm within which a grip is half of the length
MORE = 1.0  # mm of bar beyond what the jaws cover too much
LEVEL = 0.01


def between_jaws(
    place: Workplace, chain: Profile, limit: float, outside: Sequence[Feature], recessed: Sequence[str]
) -> None:
    """Features of this setup alone that the jaws cover, and those of a recess that they cover some of."""
    covered = list(recessed)
    for feature in outside:
        low, high = levels_of(place.part, feature, place.frame.up)
        whole = isinstance(feature, Turned) and 2 * max(r for _, r in chain) <= feature.diameter + 0.01
        if feature.id not in covered and low < limit - LEVEL and not whole and high - low > LEVEL:
            covered.append(feature.id)
    if covered:
        place.find(
            "cut-below-jaws", Severity.ERROR, f"{', '.join(covered)} lies partly between the jaws.",
            f"No cut goes below {limit - place.hold.floor:.1f} over the stock's lower end. Grip less, leave more "
            "stock to hold by, or turn it from the other end.",
            chapter=Chapter.SETUPS, features=tuple(covered),
            cures=(
                *from_the_other_end(place, covered),
                *_more_to_hold(place, limit, covered, HEAD if recessed else 0.0),
            ),
        )  # fmt: skip


def _more_to_hold(place: Workplace, limit: float, covered: Sequence[str], beside: float) -> tuple[Cure, ...]:
    """A longer piece of the bar, where nothing is cut of it yet; `beside` is what a tool needs beside its tip."""
    if place.hold.held.made:
        return ()
    low = min(levels_of(place.part, place.part.by_id[id], place.frame.up)[0] for id in covered)
    side = axis_name(neg(place.frame.up))
    by_hand = place.plan.setup(place.setup).grip is not None
    more = more_below(place.hold, limit - low + beside + MORE, by_hand=by_hand)
    value = round(place.plan.allowances.on(side) + more, 1)
    return (Cure(f"Leave {value:g} at {side}", {"change": "set-allowance", "side": side, "value": value}),)


def from_the_other_end(place: Workplace, covered: Sequence[str]) -> tuple[Cure, ...]:
    own = place.plan.setup(place.setup)
    part = place.part
    moved = [f for f in part.features if f.id in covered]
    others = [
        s for s in place.plan.setups
        if s.part_turns and s.id != own.id and all(turned_from(part, f, DIRECTIONS[s.up]) for f in moved)
    ]  # fmt: skip
    return tuple(
        Cure(f"Turn {', '.join(covered)} in {other.id}",
             {"change": "move-feature", "features": list(covered), "setup": other.id})
        for other in others
    )  # fmt: skip


def between_ends(place: Workplace, chain: Profile, axis: Vec, start: float, end: float) -> None:
    """What of the widest wall lies between what both ends' turning comes to, up to `start` and from `end` on: each
    holds the part there. A narrower wall, and what lies between walls, has a finding of its own.
    """
    gap = end - start
    low, high = sorted(level * (1 if dot(place.frame.up, axis) > 0 else -1) for level in (start, end))
    if any(recess.low < high and recess.high > low for recess in recesses(chain)):
        return
    wide = [
        f.id for f in place.part.features
        if isinstance(f, Turned) and 2 * max(r for _, r in chain) <= f.diameter + LEVEL
        and (levels := levels_of(place.part, f, axis))[0] <= start + LEVEL and levels[1] >= end - LEVEL
    ]  # fmt: skip
    if gap <= LEVEL or not wide:
        return
    first = place.plan.setups[0]
    side = axis_name(neg(DIRECTIONS[first.up]))
    value = round(place.plan.allowances.on(side) + _free_of_first(place, gap + MORE, axis, (start, end)), 1)
    place.find(
        "cut-below-jaws", Severity.ERROR, f"{gap:.1f} of the outside lies between the jaws of both ends' setups.",
        "What one end cannot turn, since the jaws cover it, the other cannot either. Leave more stock to hold by, or "
        "grip less.", chapter=Chapter.SETUPS, features=tuple(wide),
        cures=(Cure(f"Leave {value:g} at {side}", {"change": "set-allowance", "side": side, "value": value}),),
    )  # fmt: skip


def _free_of_first(place: Workplace, missing: float, axis: Vec, gap: tuple[float, float]) -> float:
    """mm more of stock that leave `missing` more free in the first setup, whose jaws grip up to the gap: where it grips
    half of the stock's length by the rule, half of what is more goes into the jaws as well.
    """
    first = place.plan.setups[0]
    up = DIRECTIONS[first.up]
    sign = 1 if dot(up, axis) > 0 else -1
    low, high = sorted(
        sign * dot(end, axis) for end in (place.part.model.solid.bounds.min, place.part.model.solid.bounds.max)
    )
    below, above = place.plan.allowances.on(axis_name(neg(up))), place.plan.allowances.on(first.up)
    grip = max(sign * level for level in gap) - JAW_CLEARANCE - (low - below)
    by_half = first.grip is None and grip >= 0.5 * (high - low + below + above) - HALF
    return 2 * missing if by_half else missing
