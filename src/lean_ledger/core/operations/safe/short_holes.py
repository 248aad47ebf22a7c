"""Holes that a drill does not get to the end of: whether anything stays in them, and where they could be drilled."""

from __future__ import annotations

from lean_ledger.core.basis.findings import Cure
from lean_ledger.core.features import Hole
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Plan

BREAK_THROUGH = 1.0  # mm that a through cut goes beyond the far face
SHORT = 0.05  # mm of a hole that are not worth a word


def stays_in_hole(part: Part, features: tuple[str, ...], left_out: int, shallower: float) -> bool:
    """Whether material stays where so many holes are left out and the others are less deep by so many mm: a through
    hole is open as long as no more is missing than the drill goes beyond.
    """
    holes = [f for f in (part.by_id[id] for id in features) if isinstance(f, Hole)]
    beyond = BREAK_THROUGH if all(hole.through for hole in holes) else 0.0
    return left_out > 0 or shallower > beyond + SHORT


def elsewhere(part: Part, plan: Plan, setup: str, features: tuple[str, ...]) -> tuple[Cure, ...]:
    """Other setups with a side up from which all of the features are reached."""
    ways = set.intersection(*(set(part.by_id[id].access) for id in features))
    others = [s for s in plan.setups if s.id != setup and s.free is None and DIRECTIONS[s.up] in ways]
    move = {"change": "move-feature", "features": list(features)}
    return tuple(Cure(f"Make {', '.join(features)} in {s.id}", {**move, "setup": s.id}) for s in others)
