"""Whether an operation's passes go straight across a piece, so that they could go on across the next one."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise

import numpy as np
import shapely
from shapely.geometry import LineString, Point, box

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.model import Operation
from lean_ledger.library.types import ToolKind

KEPT = 512
SAME = 1e-6
ASTRAY = 2e-3  # mm that a straight pass may stray: what areas are joined by
LEFT = 0.05  # mm² of what a pass cuts that may be missed across a piece: rounding
FLAT = (ToolKind.END_MILL, ToolKind.FACE_MILL)


@lru_cache(maxsize=KEPT)
def why_not_across(built: Same[BuiltSetup], operation: str, axis: int) -> str:
    """Why an operation's passes could not go on along an axis from one piece to the next; empty where they could."""
    op = next(op for op in built.value.operations if op.id == operation)
    if op.motion.probes or op.motion.turns or op.motion.cycle is not None or op.tool.kind not in FLAT:
        return "only what is milled by a flat tool along lines goes on from piece to piece"
    if op.way != built.value.home:
        return "it comes from another side than the setup's own"
    low, high = across(built.value, op, axis)
    middle = (low + high) / 2
    straight: list[tuple[Vec, Vec]] = []
    for stroke in op.motion.strokes:
        for a, b in pairwise(_turning(stroke.points, axis)):
            if any(low + SAME < p[axis] < high - SAME for p in (a, b)):
                return f"its path turns within the piece along {'XY'[axis]}"
            if (a[axis] < middle) == (b[axis] < middle):
                continue
            if any(abs(a[i] - b[i]) > ASTRAY for i in range(3) if i != axis):
                return f"its path does not go straight across along {'XY'[axis]}"
            if not stroke.is_rapid:
                straight.append((a, b))
    whole = bool(straight) and _covers(built.value, op, straight)
    return "" if whole else f"it does not go straight across along {'XY'[axis]}"


def _turning(points: Sequence[Vec], axis: int) -> list[Vec]:
    """A polyline without the points at which it goes straight on along an axis."""
    found: list[Vec] = []
    for k, p in enumerate(points):
        if 0 < k < len(points) - 1:
            a, b = points[k - 1], points[k + 1]
            level = all(abs(q[i] - p[i]) <= ASTRAY for q in (a, b) for i in range(3) if i != axis)
            if level and (p[axis] - a[axis]) * (b[axis] - p[axis]) >= -ASTRAY:
                continue
        found.append(p)
    return found


def _covers(built: BuiltSetup, op: Operation, passes: Sequence[tuple[Vec, Vec]]) -> bool:
    """Whether what goes straight across takes all that the whole path takes of the stock, at each of its levels."""
    (x0, x1), (y0, y1) = across(built, op, 0), across(built, op, 1)
    stock = box(x0, y0, x1, y1)
    radius = op.tool.diameter / 2
    flat = radius - op.tool.corner_radius
    cuts = [(a, b) for s in op.motion.strokes if not s.is_rapid for a, b in pairwise(s.points)]
    for level in {round(min(a[2], b[2]), 3) for a, b in cuts}:
        here = [_line(a, b) for a, b in cuts if round(min(a[2], b[2]), 3) == level]
        straight = [_line(a, b) for a, b in passes if a[2] <= level + SAME]
        taken = shapely.union_all(shapely.buffer(np.array(here), radius)).intersection(stock)
        covered = shapely.union_all(shapely.buffer(np.array(straight), flat)) if straight else Point()
        if taken.difference(covered).area > LEFT:
            return False
    return True


def _line(a: Vec, b: Vec) -> LineString | Point:
    return LineString([a[:2], b[:2]]) if a[:2] != b[:2] else Point(a[:2])


def across(built: BuiltSetup, op: Operation, axis: int) -> tuple[float, float]:
    """(least, greatest) of a piece's stock along X or Y, in the axes of the operation."""
    stock = op.frame.box(built.before.bounds)
    return stock.min[axis], stock.max[axis]
