"""Holes that a drill does not get to, or not to the end of: what stays in them, and how they could be drilled."""

from __future__ import annotations

from math import ceil
from typing import Any

from shapely.geometry import Point

from lean_ledger.core.basis.findings import Cure
from lean_ledger.core.features import Feature, Hole
from lean_ledger.core.geometry.vectors import Vec, axis_name, dot, neg
from lean_ledger.core.holding import Hold
from lean_ledger.core.holding.hold import more_below
from lean_ledger.core.operations.milling.surface_paths import Over, risen
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Plan
from lean_ledger.core.setups.frame import frame_of
from lean_ledger.core.setups.profile import levels_of
from lean_ledger.library.types import Tool

BREAK_THROUGH = 1.0  # mm that a through cut goes beyond the far face
SHORT = 0.05  # mm of a hole that are not worth a word
SQUARE = 0.01  # cosine between a tool's way and an axis that it comes across
ROOM = 1.0  # mm between a holder and the jaws, or the part
ABOVE_HOLE = 0.1  # mm over the edge of a hole from which what stands there is looked at


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


def other_side(
    part: Part, plan: Plan, setup: str, hold: Hold, features: tuple[str, ...], tool: Tool
) -> tuple[Cure, ...]:
    """A side up from which nothing of the part stands beside the holes as far as the drill's holder reaches: they go
    into a setup that has it up, else the setup is turned over where it makes nothing else, or they get their own.
    """
    decided, holes = plan.setup(setup), [part.by_id[id] for id in features]
    if decided.free is not None or decided.part_turns or not all(isinstance(hole, Hole) for hole in holes):
        return ()
    ways = set.intersection(*(set(hole.access) for hole in holes))
    found = []
    for side, up in DIRECTIONS.items():
        if side == decided.up or up not in ways or not all(_stands_free(part, hole, side, tool) for hole in holes):
            continue
        there = next((s.id for s in plan.setups if s.up == side and s.free is None and not s.part_turns), None)
        alone = hold.held.here <= set(features) and setup != plan.setups[0].id
        if there is not None:
            change: dict[str, Any] = {"change": "move-feature", "features": list(features), "setup": there}
        elif alone:
            change = {"change": "set-up", "setup": setup, "up": side}
        else:
            change = {"change": "split-setup", "setup": setup, "features": list(features), "up": side}
        found.append(Cure(f"Make {', '.join(features)} with {side} up", change))
    return tuple(found)


def _stands_free(part: Part, hole: Feature, side: str, tool: Tool) -> bool:
    """Whether the part has nothing above a hole's end on a side, as far about its axis as a tool's holder is thick."""
    assert isinstance(hole, Hole), "a hole"
    frame, up = frame_of(side, 0), DIRECTIONS[side]
    _, top = levels_of(part, hole, up)
    x, y, _ = frame.point(hole.position)
    above = risen(Over(part.model.solid.mesh, frame), round(top + ABOVE_HOLE, 6))
    return not above.dwithin(Point(x, y), max(tool.holder.diameter, tool.diameter) / 2 + ROOM)


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
