"""No path cuts the part or what holds it: what would is left out of the path, and said.

A tool that comes from above may stand at (x, y, z) where, at each height h of its outline, nothing that rises above
z + h lies nearer to its axis than its radius there. What rises is the shadow of the finished part above that level, and
that of the fixture: the feature that a path was made for plays no part in it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import shapely
from shapely.geometry import LineString, Point
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.flat import lines, way_seen
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.holding import Hold
from lean_ledger.core.holding.obstacles import Obstacle, seen_along
from lean_ledger.core.operations.holes.hole_paths import holes_path
from lean_ledger.core.operations.milling.paths import APPROACH
from lean_ledger.core.operations.milling.surface_paths import Over
from lean_ledger.core.operations.model import HoleCycle, Motion
from lean_ledger.core.operations.safe.ball import ball_kept_off
from lean_ledger.core.operations.safe.mended import Mended
from lean_ledger.core.operations.safe.pointed import lowest_tip
from lean_ledger.core.operations.safe.ridges import Ridge
from lean_ledger.core.operations.safe.shadows import CHORDS, Bore, fixture_above, part_above
from lean_ledger.core.operations.safe.tool_outline import UNDERCUTTING, covering, is_pointed, slices_of
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.timing.motion import Stroke, rapid
from lean_ledger.library.types import Tool, ToolKind

STRAY = 0.02  # mm that a path may come nearer than the tool's radius: offsets are chords
SAME = 1e-6
TOUCH = 0.02  # mm that it may come nearer to what holds the part
LEAST = 0.5  # mm of a way that is worth going there for
FINE = 0.01  # mm to which a hole's depth is found out
LEAST_DEPTH = 0.25  # of a hole's depth, below which it is not begun

#: What undercuts comes from the side, a ball is looked at point by point: by its slices only the holder.
BY_ITSELF = (*UNDERCUTTING, ToolKind.BALL_MILL)


Near = Iterator[tuple[BaseGeometry, float]]


@dataclass(frozen=True)
class Keep:
    """What a tool keeps out of, seen along its way: the finished part, and of what holds it as far as it is known."""

    part: Over
    bores: tuple[Bore, ...]
    ridges: tuple[Ridge, ...]
    fixture: tuple[Obstacle, ...]
    clearance: float
    top: float  # of all that stands there
    astray: float = STRAY

    def near(self, tool: Tool, *, goes_down: bool = False) -> list[_Slice]:
        """The slices of a tool that have to be looked at: a little less than the tool where it may touch the part, all
        of it beside what holds that.
        """
        *cutter, (wide, above) = slices_of(tool)
        if tool.kind in BY_ITSELF or (goes_down and is_pointed(tool)):
            cutter = []
        beside = covering(tool) if self.fixture else []
        return [
            *(_Slice(self.of_part, radius, height) for radius, height in cutter),
            _Slice(self.of_part, wide, above, holds=True),
            *(_Slice(self.of_fixture, radius, height) for radius, height in beside),
        ]

    def of_part(self, level: float, radius: float, *, holds: bool) -> Near:
        """What of the part rises above a level, and how near an axis may come to it, mm."""
        astray = STRAY if holds else self.astray
        if radius > astray:
            yield part_above(self.part, self.bores, round(level + astray, 3)), radius - astray

    def of_fixture(self, level: float, radius: float, *, holds: bool) -> Near:
        if radius > TOUCH:
            yield fixture_above(self.fixture, round(level + TOUCH, 3)), radius - TOUCH


@dataclass(frozen=True)
class _Slice:
    """The stretch of a tool from a height above its tip on, as thick as there."""

    of: Callable[..., Near]
    radius: float
    height: float
    holds: bool = False  # it is the holder

    def obstacles(self, z: float) -> Near:
        """What rises beside it while the tip is at z, and how near its axis may come to that, mm."""
        return self.of(z + self.height, self.radius, holds=self.holds)


def fixture_along(hold: Hold, frame: Frame) -> tuple[Obstacle, ...]:
    """What holds the part in the axes of a way. What lies under the stock is laid where no tool comes through from the
    hold's own side.
    """
    if frame == hold.frame:
        return tuple(one for one in hold.obstacles if one not in hold.under)
    return tuple(seen_along(one, hold.frame, frame) for one in hold.obstacles)


@dataclass(frozen=True)
class Kept:
    """What remains of a path, None where nothing worth going for does; and what was left out of it."""

    path: Motion | None
    length: float = 0.0  # mm
    holes: int = 0
    shallower: float = 0.0  # mm that the holes are less deep

    @property
    def whole(self) -> bool:
        return self.length <= 0 and not self.holes and self.shallower <= 0


@lru_cache(maxsize=4096)
def kept_off(motion: Same[Motion], tool: Tool, keep: Keep) -> Kept:
    """A path without what would cut the part or the fixture; the path itself where nothing would."""
    kept = _kept_off(motion.value, tool, keep)
    high = max((one.box.max[2] for one in keep.fixture), default=keep.clearance)
    if kept.path is None or high <= keep.clearance or kept.path.cycle is not None:
        return kept
    return replace(kept, path=_over_fixture(kept.path, tool, keep, high + APPROACH))


def _over_fixture(path: Motion, tool: Tool, keep: Keep, high: float) -> Motion:
    """Its rapids over what holds the part where that stands higher than the plane that they go in, as jaws do beside a
    bar that is cut across.
    """
    found: list[Stroke] = []
    for stroke in path.strokes:
        (x, y, z), (u, v, w) = stroke.points[0], stroke.points[-1]
        if stroke.is_rapid and (x, y) != (u, v):
            in_way = fixture_above(keep.fixture, round(min(z, w), 3))
            if shapely.dwithin(in_way, LineString([(x, y), (u, v)]), tool.diameter / 2 + TOUCH):
                found += [rapid((x, y, z), (x, y, high)), rapid((x, y, high), (u, v, high))]
                found += [rapid((u, v, high), (u, v, w))]
                continue
        found.append(stroke)
    return path if len(found) == len(path.strokes) else replace(path, strokes=tuple(found))


def _kept_off(path: Motion, tool: Tool, keep: Keep) -> Kept:
    if path.cycle is not None:
        return _holes_kept_off(path, path.cycle, tool, keep)
    lifted = 0.0
    if tool.kind == ToolKind.BALL_MILL:
        off, lifted = ball_kept_off(path, tool.diameter / 2, keep.part, keep.ridges, Mended(keep.clearance, keep.top))
        if off is None:
            return Kept(None, lifted)
        path = off
    cuts = tuple(Same(s.points) for s in path.strokes if not s.is_rapid)
    if _is_free(cuts, tool, replace(keep, clearance=0.0, top=0.0)):
        return Kept(path, lifted)
    return _clipped([_Cut.of(s) for s in path.strokes], keep.near(tool), keep, lifted)


@lru_cache(maxsize=4096)
def _is_free(cuts: tuple[Same[tuple[Vec, ...]], ...], tool: Tool, keep: Keep) -> bool:
    """Whether cuts meet nothing; kept by the very same points, wherever the clearance plane lies."""
    slices = keep.near(tool)
    seen = [way_seen(one.value) for one in cuts]
    lowest = [min(p[2] for p in one.value) for one in cuts]
    if not cuts or not _meets(slices, min(lowest), shapely.geometrycollections(seen)):
        return True
    return not any(_meets(slices, low, line) for low, line in zip(lowest, seen, strict=True))


def _meets(slices: Sequence[_Slice], z: float, way: BaseGeometry) -> bool:
    return any(
        shapely.dwithin(shape, way, distance)
        for one in slices for shape, distance in one.obstacles(z) if not shape.is_empty
    )  # fmt: skip


@dataclass(frozen=True)
class _Cut:
    """A stroke and, of one that cuts, its way seen from above and its lowest level."""

    stroke: Stroke
    line: LineString | Point | None
    low: float

    @staticmethod
    def of(stroke: Stroke) -> _Cut:
        line = None if stroke.is_rapid else way_seen(stroke.points)
        return _Cut(stroke, line, min(p[2] for p in stroke.points))

    @property
    def level(self) -> bool:
        return all(abs(p[2] - self.low) < 1e-6 for p in self.stroke.points)

    def allowed(self, slices: Sequence[_Slice]) -> list[tuple[Vec, ...]]:
        """The stretches of it on which the tool keeps off everything."""
        assert self.line is not None
        if not _meets(slices, self.low, self.line):
            return [self.stroke.points]
        if not self.level:  # a ramp or a plunge: the way goes on at its end, where it may
            return []
        shapes = [shape.intersection(self.line.envelope.buffer(2 * distance + 1)).buffer(distance, quad_segs=24)
                  for one in slices for shape, distance in one.obstacles(self.low)]  # fmt: skip
        rest = self.line.difference(shapely.union_all(shapes))
        rest = shapely.line_merge(rest, directed=True) if rest.geom_type == "MultiLineString" else rest
        return [tuple((x, y, self.low) for x, y in one.coords) for one in lines(rest) if one.length >= LEAST]


def _clipped(cuts: Sequence[_Cut], slices: Sequence[_Slice], keep: Keep, left_out: float) -> Kept:
    walk = Mended(keep.clearance, keep.top)
    cuts_anything = False
    for cut in cuts:
        if cut.line is None:
            walk.rapid(cut.stroke)
            continue
        pieces = cut.allowed(slices)
        for piece in pieces:
            walk.cut(cut.stroke.feed_mm_per_min, piece)
            cuts_anything |= len(set(piece)) > 1
        left_out += cut.line.length - sum(way_seen(piece).length for piece in pieces)
    return Kept(Motion(walk.ended()) if cuts_anything else None, left_out)


# ---- holes


def _holes_kept_off(path: Motion, cycle: HoleCycle, tool: Tool, keep: Keep) -> Kept:
    """Holes that go as deep as all of them may; one that may not be begun is left out."""
    deepest = _depths(cycle, tool, replace(keep, clearance=0.0, top=0.0))
    if all(z <= cycle.bottom for z in deepest):
        return Kept(path)
    whole = cycle.r - cycle.bottom
    able = [(at, z) for at, z in zip(cycle.points, deepest, strict=True) if cycle.r - z >= LEAST_DEPTH * whole]
    if not able:
        return Kept(None, holes=len(cycle.points))
    bottom = max(z for _, z in able)
    kept = replace(cycle, points=tuple(at for at, _ in able), bottom=bottom)
    return Kept(_drilled(path, kept), 0.0, len(cycle.points) - len(able), max(0.0, round(bottom - cycle.bottom, 4)))


@lru_cache(maxsize=4096)
def _depths(cycle: HoleCycle, tool: Tool, keep: Keep) -> tuple[float, ...]:
    """The lowest level of the tip at each place; the same wherever the clearance plane lies."""
    slices = keep.near(tool, goes_down=True)
    deepest = []
    for at in cycle.points:
        low = cycle.bottom
        if is_pointed(tool):
            radius = tool.diameter / 2
            touches = lowest_tip(keep.part, at, radius, tool.tip_angle, keep.astray + CHORDS * radius)
            low = low if touches <= low + FINE else min(touches, cycle.r)
        deepest.append(_deepest(slices, at, cycle.r, low))
    return tuple(deepest)


def _deepest(slices: Sequence[_Slice], at: tuple[float, float], high: float, low: float) -> float:
    """The lowest level that the tip may go to, straight down."""
    point = Point(at)
    if not _meets(slices, low, point):
        return low
    if _meets(slices, high, point):
        return high
    free, not_free = high, low
    while free - not_free > FINE:
        tried = (free + not_free) / 2
        if _meets(slices, tried, point):
            not_free = tried
        else:
            free = tried
    return round(free, 3)


def _drilled(path: Motion, cycle: HoleCycle) -> Motion:
    clearance = path.start[2]
    return holes_path(cycle, clearance if cycle.to_clearance else cycle.r, clearance)
