"""A tool's holder beside stock that still stands: what nothing before has cleared is kept off as the part is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import shapely
from shapely.geometry import LineString, Point, box
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.geometry.flat import lines
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.holes.hole_paths import holes_path
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.safe.cleared import cleared_near, plunges, way_of
from lean_ledger.core.operations.safe.mended import Mended
from lean_ledger.core.operations.safe.off_part import LEAST
from lean_ledger.core.operations.safe.stock_there import Standing, stands
from lean_ledger.core.timing.motion import Stroke

BESIDE = 0.02  # mm that a nose keeps from stock
HAIR = 0.006  # mm: half of a strip that is only a difference of chords
ROUNDS = 4
ROOM = 0.2  # mm that a way which was cut short keeps from what stands


@dataclass(frozen=True)
class Met:
    """Of one stroke: the level of the holder's nose, and what of the stock over it stands within its radius."""

    stroke: int
    at: Vec
    rest: BaseGeometry
    top: float


def holder_meets(op: Operation, standing: Standing, top: float, before: Sequence[Operation]) -> list[Met]:
    """Where the holder's nose would run through stock that neither what comes before nor the operation itself clears.

    The nose is a cylinder of the holder's diameter from the tool's reach upwards; `top` is that of the material once
    it is faced.
    """
    strokes = op.motion.strokes
    lowest = min((p[2] for s in strokes if not s.is_rapid for p in s.points), default=top)
    if lowest + op.tool.reach >= top - BESIDE or op.tool.holder.diameter <= op.tool.diameter:
        return []
    radius = op.tool.holder.diameter / 2 + BESIDE
    own = way_of(op)
    left: dict[float, tuple[BaseGeometry, float]] = {}
    found, cuts = [], 0
    for i, stroke in enumerate(strokes):
        if stroke.is_rapid:
            continue
        cuts += 0 if plunges(stroke) else 1
        level = round(min(p[2] for p in stroke.points) + op.tool.reach, 1)
        if level >= top - BESIDE:
            continue
        if level not in left:
            left[level] = _left(op, standing, before, level, radius)
        stock, high = left[level]
        if stock.is_empty:
            continue
        rest = stock.intersection(_seen(stroke).buffer(radius))
        rest = rest.difference(own.area(level, cuts, near=rest)) if not rest.is_empty else rest
        if stands(rest.buffer(-HAIR), high - level):
            x, y, _ = stroke.points[0]
            found.append(Met(i, (x, y, level), rest, high))
    return found


def _left(
    op: Operation, standing: Standing, before: Sequence[Operation], level: float, radius: float
) -> tuple[BaseGeometry, float]:
    """What rises over a level around an operation's whole way when those before it are done; and its top."""
    x0, y0, x1, y1 = shapely.total_bounds([_seen(s) for s in op.motion.strokes if not s.is_rapid])
    around = box(x0 - radius, y0 - radius, x1 + radius, y1 + radius)
    over = [(area.intersection(around), top) for area, top in standing.over(level)]
    over = [(area, top) for area, top in over if not area.is_empty]
    if not over:
        return Point(), level
    rest = shapely.union_all([area for area, _ in over])
    for one in before:
        rest = rest.difference(cleared_near(rest, one, level))
    return rest, max(top for _, top in over)


def off_stock(
    op: Operation, standing: Standing, top: float, before: Sequence[Operation], clearance: float
) -> tuple[Motion | None, float]:
    """The way without where its holder would meet stock, None where nothing worth going for remains; and what was
    left out, mm. Looked at again, since what is left out clears nothing any more.
    """
    left_out = 0.0
    for _ in range(ROUNDS):
        met = holder_meets(op, standing, top, before)
        if not met:
            return op.motion, left_out
        path, more = _kept_from(op, met, clearance, top)
        if path is None:
            break
        op, left_out = replace(op, motion=path), left_out + more
    return None, left_out


def _kept_from(op: Operation, met: Sequence[Met], clearance: float, top: float) -> tuple[Motion | None, float]:
    by_stroke = {one.stroke: one for one in met}
    radius = op.tool.holder.diameter / 2 + ROOM
    cycle = op.motion.cycle
    if cycle is not None:
        able = tuple(p for p in cycle.points if not any(one.rest.dwithin(Point(p), radius) for one in met))
        hop = clearance if cycle.to_clearance else cycle.r
        return (holes_path(replace(cycle, points=able), hop, clearance) if able else None), 0.0
    walk, left_out, cuts = Mended(clearance, top), 0.0, 0
    for i, stroke in enumerate(op.motion.strokes):
        if stroke.is_rapid:
            walk.rapid(stroke)
            continue
        pieces = _allowed(stroke, by_stroke[i].rest.buffer(radius)) if i in by_stroke else [stroke.points]
        for piece in pieces:
            walk.cut(stroke.feed_mm_per_min, piece)
            cuts += len(set(piece)) > 1
        left_out += _seen(stroke).length - sum(LineString([p[:2] for p in piece]).length for piece in pieces)
    return (Motion(walk.ended()) if cuts else None), left_out


def _allowed(stroke: Stroke, taken: BaseGeometry) -> list[tuple[Vec, ...]]:
    """The stretches of a level stroke outside an area; of one that goes down none."""
    z = stroke.points[0][2]
    if any(abs(p[2] - z) > 1e-6 for p in stroke.points):
        return []
    rest = _seen(stroke).difference(taken)
    rest = shapely.line_merge(rest, directed=True) if rest.geom_type == "MultiLineString" else rest
    return [tuple((x, y, z) for x, y in one.coords) for one in lines(rest) if one.length >= LEAST]


def _seen(stroke: Stroke) -> LineString | Point:
    return Point(stroke.points[0][:2]) if plunges(stroke) else LineString([p[:2] for p in stroke.points])
