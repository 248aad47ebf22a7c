"""Holes that a drill does not get to, or not to the end of: what stays in them, and how they could be drilled."""

from __future__ import annotations

from math import ceil

from lean_ledger.core.basis.findings import Cure
from lean_ledger.core.features import Hole
from lean_ledger.core.geometry.vectors import Vec, axis_name, dot, neg
from lean_ledger.core.holding import Hold
from lean_ledger.core.holding.hold import more_below
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Plan
from lean_ledger.core.setups.profile import levels_of
from lean_ledger.library.types import Tool

BREAK_THROUGH = 1.0  # mm that a through cut goes beyond the far face
SHORT = 0.05  # mm of a hole that are not worth a word
SQUARE = 0.01  # cosine between a tool's way and an axis that it comes across
ROOM = 1.0  # mm between a holder and the jaws


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


def held_longer(
    part: Part, plan: Plan, setup: str, hold: Hold, along: Vec, features: tuple[str, ...], tool: Tool,
    lowest: float | None = None,
) -> tuple[Cure, ...]:  # fmt: skip
    """More stock below, where a tool that comes across meets what holds the first setup's stock: its holder's radius
    has to pass over the jaws. `lowest`: level along the hold that the tool's axis comes to; None for a hole's own.
    """
    up = hold.frame.up
    if hold.held.made or abs(dot(along, up)) > SQUARE or not features:
        return ()
    levels = [sum(levels_of(part, part.by_id[id], up)) / 2 for id in features] if lowest is None else [lowest]
    middle = min(levels)
    missing = hold.floor + hold.grip + tool.holder.diameter / 2 + ROOM - middle
    if missing <= 0:
        return ()
    side = axis_name(neg(up))
    by_hand = plan.setup(setup).grip is not None
    value = float(ceil(plan.allowances.on(side) + more_below(hold, missing, by_hand=by_hand)))
    return (Cure(f"Leave {value:g} at {side}", {"change": "set-allowance", "side": side, "value": value}),)
