"""Tool or holder running into what holds the stock, the holder into the stock, and either met by a rapid."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import takewhile
from typing import Literal

import numpy as np

from lean_ledger.core.followed.sweep import swept
from lean_ledger.core.followed.turning_tools import turned_sweep
from lean_ledger.core.geometry.masses import Mass
from lean_ledger.core.geometry.model import Vec
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.operations.turning.insert_outline import insert_of, shank_of
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.types import Tool, ToolKind

What = Literal["tool", "holder", "rapid", "follower"]

FOLLOWERS = (ToolKind.TAP, ToolKind.REAMER, ToolKind.BORING_HEAD, ToolKind.THREAD_MILL)
LEAST = 0.5  # mm³ in common that count
TOUCH = 0.05  # mm in common that are a touch and no more
REAMED, BORED = 0.35, 1.5  # mm of the radius that a reamer and a boring head take at the most
HAIR = 0.01  # mm thick in the mean: a difference of chords
FAST = 1.0  # any feed: what a rapid goes through is swept like a cut


@dataclass(frozen=True)
class Collision:
    """`depth` is the least extent of what both fill, mm; `at` its middle, in the coordinates of the setup."""

    operation: str
    what: What
    into: Literal["fixture", "stock"]
    depth: float
    at: Vec


def into_fixture(
    operation: str, motion: Motion, tool: Tool, taken: Mass, fixture: Mass, high: float
) -> list[Collision]:
    """Of the tool, by what it sweeps (`taken`), and of its holder, with what holds the stock; all in setup axes."""
    if fixture.is_empty:
        return []
    found = _met(operation, "tool", "fixture", taken, fixture)
    if motion.lowest + tool.reach < fixture.bounds.max[2]:
        found += _met(operation, "holder", "fixture", holder_sweep(motion, tool, high), fixture)
    return found


def is_follower(tool: Tool) -> bool:
    """Whether a tool only follows another into a hole."""
    return tool.kind in FOLLOWERS


def into_solid(operation: str, motion: Motion, tool: Tool, before: Mass, high: float) -> list[Collision]:
    """A tap, a reamer, a thread mill or a boring head in what is not open before it: they only widen a hole.

    Each may take a ring of the wall: REAMED and BORED mm of the radius, a thread's height.
    """
    if before.is_empty:
        return []
    takes = {ToolKind.REAMER: REAMED, ToolKind.BORING_HEAD: BORED}.get(tool.kind, tool.pitch)
    core = replace(tool, kind=ToolKind.END_MILL, diameter=max(tool.diameter - 2 * takes, 0.4), corner_radius=0.0,
                   tip_angle=0.0)  # fmt: skip
    return _met(operation, "follower", "stock", swept(motion, core, high), before)


def into_stock(operation: str, motion: Motion, tool: Tool, stock: Mass, high: float) -> list[Collision]:
    """Of the holder with what still stands after the operation; `stock` in setup coordinates."""
    if stock.is_empty or motion.lowest + tool.reach >= stock.bounds.max[2]:
        return []
    return _met(operation, "holder", "stock", holder_sweep(motion, tool, high), stock)


def rapid_into(
    operation: str, into: Literal["fixture", "stock"], rapids: Sequence[Stroke], tool: Tool, standing: Mass, high: float
) -> list[Collision]:
    """What a tool runs through at rapid: nothing of it may stand there; all in setup axes."""
    if standing.is_empty:
        return []
    top = standing.bounds.max[2]
    low = tuple(Stroke(s.points, FAST) for s in rapids if len(set(s.points)) > 1 and min(p[2] for p in s.points) < top)
    if not low:
        return []
    # what cuts a thread takes nothing away, but is as solid as any tool
    threads = tool.kind in (ToolKind.TAP, ToolKind.THREAD_MILL)
    body = replace(tool, kind=ToolKind.END_MILL, tip_angle=0.0) if threads else tool
    return _met(operation, "rapid", into, swept(Motion(low), body, high), standing)


def turning_into(
    operation: str, into: Literal["fixture", "stock"], motion: Motion, tool: Tool, standing: Mass
) -> list[Collision]:
    """A turning tool with what stands: its shank on every cut; in the fixture its insert as well."""
    if standing.is_empty:
        return []
    cuts = tuple(s for s in motion.strokes if not s.is_rapid)
    axis = motion.axis
    found = _met_round(operation, "holder", into, turned_sweep(shank_of(tool), cuts, axis), standing, axis)
    if into == "fixture":
        found += _met_round(operation, "tool", into, turned_sweep(insert_of(tool), cuts, axis), standing, axis)
    return found


def turning_rapid_into(
    operation: str, into: Literal["fixture", "stock"], rapids: Sequence[Stroke], tool: Tool, standing: Mass,
    axis: tuple[float, float],
) -> list[Collision]:  # fmt: skip
    """A turning tool at rapid: neither insert nor shank may meet what stands."""
    moving = tuple(s for s in rapids if len(set(s.points)) > 1)
    if standing.is_empty or not moving:
        return []
    whole = turned_sweep((*insert_of(tool), *shank_of(tool)), moving, axis)
    return _met_round(operation, "rapid", into, whole, standing, axis)


def first_rapids(motion: Motion) -> tuple[Stroke, ...]:
    """Those before anything is cut."""
    return tuple(takewhile(lambda stroke: stroke.is_rapid, motion.strokes))


def holder_sweep(motion: Motion, tool: Tool, high: float) -> Mass:
    """What the holder's nose, a cylinder above the tool's reach, goes through while the tool cuts."""
    raised = tuple(
        Stroke(tuple((x, y, z + tool.reach) for x, y, z in s.points), s.feed_mm_per_min) for s in motion.strokes
    )
    nose = replace(tool, kind=ToolKind.END_MILL, diameter=tool.holder.diameter, corner_radius=0.0, tip_angle=0.0)
    return swept(Motion(raised), nose, high)


def _met(
    operation: str, what: What, into: Literal["fixture", "stock"], moving: Mass, standing: Mass
) -> list[Collision]:
    both = moving.common(standing)
    if both.volume < LEAST:
        return []
    # chords of two arcs that touch cross in hairs all along them: each piece counts for itself
    pieces = [p for p in both.pieces() if p.volume >= LEAST and p.least_size >= TOUCH and p.mean_thickness >= HAIR]
    if not pieces:
        return []
    deepest = max(pieces, key=lambda p: p.least_size)
    low, high = deepest.vertices.min(axis=0), deepest.vertices.max(axis=0)
    x, y, z = (round(float(v), 3) for v in (low + high) / 2)
    return [Collision(operation, what, into, round(deepest.least_size, 3), (x, y, z))]


def _met_round(
    operation: str, what: What, into: Literal["fixture", "stock"], moving: Mass, standing: Mass,
    axis: tuple[float, float],
) -> list[Collision]:  # fmt: skip
    """Of what turns about an axis: the depth is the lesser of what both fill across it and along it."""
    both = moving.common(standing)
    if both.volume < LEAST:
        return []
    points, _ = both.triangles()
    r = np.hypot(points[:, 0] - axis[0], points[:, 1] - axis[1])
    z = points[:, 2]
    depth = float(min(np.ptp(r), np.ptp(z)))
    if depth < TOUCH:
        return []
    at = (axis[0] + (r.min() + r.max()) / 2, axis[1], (z.min() + z.max()) / 2)
    x, y, height = (round(float(v), 3) for v in at)
    return [Collision(operation, what, into, round(depth, 3), (x, y, height))]
