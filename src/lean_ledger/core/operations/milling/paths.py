"""Tool paths: the moves that each kind of operation makes, in setup coordinates.

Every path starts and ends at the clearance plane. Cached, since most changes of a plan leave most paths as they are.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import hypot, inf, radians, sin

import numpy as np
import shapely
from shapely.geometry import LineString, Point
from shapely.geometry.base import BaseGeometry
from shapely.ops import nearest_points
from shapely.prepared import prep

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.feeds import at_any_feed
from lean_ledger.core.operations.in_blank import InBlank, Rectangle
from lean_ledger.core.operations.milling.regions import (
    Flat,
    Line,
    Region,
    centre_area,
    clearing_loops,
    line_length,
    offset_ring,
    outline_loops,
    turned_round,
    wall_passes,
)
from lean_ledger.core.operations.milling.wherever import wherever
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.timing.motion import Stroke, feed, rapid

APPROACH = 2.0  # mm above the work at which a rapid down ends
OVERLAP = 2.0  # mm that a finishing pass goes on beyond its start
BESIDE = 0.05  # mm that a mill which comes down beside a region may touch of it: chords
RUN_OFF = 2.0  # mm that a face mill leaves the edge by
LEAST_LEAD = 0.02  # mm to which the room for a lead is found out
RAMP_FEED = 0.5  # share of the feed on a ramp


@dataclass(frozen=True)
class Space:
    """Alike regions that a tool clears; mm that it leaves on their walls, and that it runs out over open edges."""

    regions: tuple[Region, ...]
    diameter: float
    allowance: float = 0.0
    run_out: float = 0.0

    @property
    def radius(self) -> float:
        return self.diameter / 2

    def centre_area(self, region: Region) -> BaseGeometry:
        """Where the tool's centre may be in one of them."""
        return centre_area(region, self.radius, self.allowance, self.run_out)


@dataclass(frozen=True)
class Down:
    """From one level to another in equal steps, mm; rapids go at the clearance plane, ramps at an angle, degrees."""

    top: float
    bottom: float
    passes: int
    clearance: float
    ramp_angle: float = 0.0

    @property
    def levels(self) -> list[float]:
        """Where each step ends, the last at the bottom."""
        step = (self.top - self.bottom) / self.passes
        return [self.top - step * (i + 1) for i in range(self.passes - 1)] + [self.bottom]


class Walk:
    """Collects strokes; keeps where the tool is."""

    def __init__(self, clearance: float) -> None:
        self.clearance = clearance
        self.strokes: list[Stroke] = []
        self.at: Vec | None = None

    def over(self, x: float, y: float) -> None:
        """Rapid at the clearance plane to above a point."""
        target = (x, y, self.clearance)
        if self.at is None:
            self.at = target
            return
        if self.at[2] < self.clearance:
            self._rapid((self.at[0], self.at[1], self.clearance))
        self._rapid(target)

    def down(self, z: float) -> None:
        assert self.at is not None
        self._rapid((self.at[0], self.at[1], z))

    def cut(self, vf: float, points: list[Vec]) -> None:
        assert self.at is not None
        self.strokes.append(feed(vf, [self.at, *points]))
        self.at = points[-1]

    def across(self, x: float, y: float) -> None:
        """Rapid at the height where the tool is."""
        assert self.at is not None
        self._rapid((x, y, self.at[2]))

    def halt(self) -> None:
        """The tool stops here: a rapid of no length ends the chain."""
        assert self.at is not None
        self.strokes.append(rapid(self.at, self.at))

    def leave(self) -> Motion:
        if self.at is None:
            raise PlanError("no-path", "the tool finds no way in this region; take a thinner one")
        self._rapid((self.at[0], self.at[1], self.clearance))
        return Motion(tuple(self.strokes))

    def _rapid(self, target: Vec) -> None:
        assert self.at is not None
        if target != self.at:
            self.strokes.append(rapid(self.at, target))
            self.at = target


@at_any_feed
def face_path(
    stock: tuple[float, float, float, float], diameter: float, rows: int, down: Down, vf: float,
    *, along_x: bool | None = None,
) -> Motion:  # fmt: skip
    """Back and forth over a rectangle along X or Y, None: along its longer side, running off both ends."""
    x0, y0, x1, y1 = stock
    along_x = x1 - x0 >= y1 - y0 if along_x is None else along_x
    low, high = (x0, x1) if along_x else (y0, y1)
    side_low, side_high = (y0, y1) if along_x else (x0, x1)
    run = diameter / 2 + RUN_OFF
    width = (side_high - side_low) / rows
    walk = Walk(down.clearance)

    def at(along: float, across: float) -> Flat:
        return (along, across) if along_x else (across, along)

    for z in down.levels:
        start, end = low - run, high + run
        walk.over(*at(start, side_low + width / 2))
        walk.down(z)
        for row in range(rows):
            across = side_low + (row + 0.5) * width
            points = [(*at(start, across), z), (*at(end, across), z)]
            walk.cut(vf, points if row else points[1:])
            start, end = end, start
    return walk.leave()


@at_any_feed
@wherever
def clear_path(
    space: Space, step: float, down: Down, vf: float, *, predrilled: bool, climb: bool = True, before: float = 0.0
) -> Motion:
    """Clear regions one after the other, layer by layer, with offset loops from the inside out.

    Enters by a ramp along the first loop, from outside where the region is open there, or straight into a drilled
    hole. Loops that can be reached without crossing a wall are joined by feed, others over the clearance plane. Where
    a tool of the diameter `before` went already, it comes down where that one was.
    """
    walk = Walk(down.clearance)
    for region in space.regions:
        loops = clearing_loops(region, space.radius, space.allowance, space.run_out, step)
        allowed = prep(space.centre_area(region).buffer(0.02))
        z_before = down.top
        for z in down.levels:
            at: Flat | None = None
            for loop in loops:
                line = turned_round(loop, climb=climb)
                if at is None or not (at == line[0] or allowed.covers(LineString([at, line[0]]))):
                    line = _where_it_was(_from_outside(line, region), region, space, before)
                    walk.over(*line[0])
                    walk.down(z_before + APPROACH)
                    off = region.polygon.distance(Point(line[0]))
                    if predrilled or off >= space.radius - BESIDE or (before > 0 and off > 0):
                        walk.cut(vf, [(*line[0], z)])
                    else:
                        walk.cut(vf * RAMP_FEED, ramp(line, z_before, z, down.ramp_angle))
                elif at != line[0]:
                    walk.cut(vf, [(*line[0], z)])
                walk.cut(vf, [(x, y, z) for x, y in line[1:]])
                at = line[-1]
            z_before = z
    return walk.leave()


def _from_outside(line: Line, region: Region) -> Line:
    """Begin a closed loop where it lies farthest outside the material, if it does anywhere."""
    if not region.open_edges or line[0] != line[-1]:
        return line
    away = shapely.distance(region.polygon, shapely.points(np.array(line[:-1]))).round(3)
    i = int(np.argmax(away))
    return line[i:-1] + line[: i + 1]


def _where_it_was(line: Line, region: Region, space: Space, before: float) -> Line:
    """Begin a closed loop where the tool before came nearest to: in corners it left stock."""
    if before <= 0 or line[0] != line[-1]:
        return line
    free = replace(space, diameter=before).centre_area(region)
    if free.is_empty:
        return line
    corners = shapely.points(np.array(line[:-1]))
    i = int(np.argmin(shapely.distance(free, corners).round(3)))
    whole = LineString(line)
    if free.distance(Point(line[i])) <= whole.distance(free) + LEAST_LEAD:
        return line[i:-1] + line[: i + 1]
    near = nearest_points(whole, free)[0]
    start = (round(near.x, 5), round(near.y, 5))
    passed = int((shapely.line_locate_point(whole, corners) <= whole.project(near)).sum())
    return (start, *line[passed:-1], *line[:passed], start)


def ramp_in(line: Line, top: float, bottom: float, angle: float) -> list[Vec]:
    """Down along a closed line at an angle, no farther along it than that takes: 5 deep at 3° are 95.5 of way."""
    left = (top - bottom) / sin(radians(angle))
    points: list[Vec] = [(*line[0], top)]
    z, drop = top, sin(radians(angle))
    for a, b in itertools.pairwise(itertools.cycle(line[:-1])):
        length = hypot(b[0] - a[0], b[1] - a[1])
        if length >= left:
            share = left / length
            return [*points, (round(a[0] + (b[0] - a[0]) * share, 5), round(a[1] + (b[1] - a[1]) * share, 5), bottom)]
        left, z = left - length, z - length * drop
        points.append((*b, z))
    raise AssertionError("a closed line has no end")


def ramp(line: Line, top: float, bottom: float, angle: float) -> list[Vec]:
    """Down along a closed line at an angle, ending at its first point."""
    lap = line_length(line)
    drop = lap * sin(radians(angle))
    laps = max(1, int(-(-(top - bottom) // drop)))
    points: list[Vec] = [(*line[0], top)]
    walked, total = 0.0, lap * laps
    for _ in range(laps):
        for a, b in itertools.pairwise(line):
            walked += hypot(b[0] - a[0], b[1] - a[1])
            points.append((b[0], b[1], top - (top - bottom) * walked / total))
    return points


@at_any_feed
def wall_path(space: Space, down: Down, vf: float, *, climb: bool = True, before: float = 0.0) -> Motion:
    """Along the walls at full depth, with a lead-in from the inside and an overlap on closed walls; it comes down
    where a tool of the diameter `before` was.
    """
    walk = Walk(down.clearance)
    lead = min(2.0, 0.2 * space.diameter)
    for region in space.regions:
        inner = _lead_area(region, space, lead)
        for wall in wall_passes(region, space.radius, space.allowance, space.run_out):
            line = _where_it_was(turned_round(wall, climb=climb), region, space, before)
            entry = _toward(inner, line[0])
            points = _overlapped(line) if line[0] == line[-1] else line
            for z in down.levels:
                walk.over(*entry)
                walk.down(z + APPROACH)
                walk.cut(vf, [(*entry, z)])
                walk.cut(vf, [(x, y, z) for x, y in points])
                walk.cut(vf, [(*_toward(inner, points[-1]), z)])
    return walk.leave()


def _lead_area(region: Region, space: Space, lead: float) -> BaseGeometry:
    """Where the tool's centre may come down beside a wall: a lead off it, in a narrow slot as far as there is room.

    Nearer to the wall it would come down through what roughing left there.
    """

    def off_wall(by: float) -> BaseGeometry:
        return replace(space, allowance=space.allowance + by).centre_area(region)

    area = off_wall(lead)
    if not area.is_empty:
        return area
    none, some = lead, 0.0
    while none - some > LEAST_LEAD:
        tried = (none + some) / 2
        narrow = off_wall(tried)
        if narrow.is_empty:
            none = tried
        else:
            area, some = narrow, tried
    return area


def _toward(area: BaseGeometry, point: Flat) -> Flat:
    """The nearest point of an area, or the point itself where the area is empty."""
    if area.is_empty:
        return point
    found = nearest_points(area, Point(point))[0]
    return (round(found.x, 5), round(found.y, 5))


def _overlapped(line: Line) -> Line:
    """A closed line with its first OVERLAP mm walked again at the end."""
    walked, extra = 0.0, []
    for a, b in itertools.pairwise(line):
        length = hypot(b[0] - a[0], b[1] - a[1])
        if walked + length >= OVERLAP:
            share = (OVERLAP - walked) / length
            extra.append((a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share))
            break
        walked += length
        extra.append(b)
    return line + tuple(extra)


@dataclass(frozen=True)
class Rim:
    """The stock around a part. In a bar it goes on along X, and a tool enters it along Y; in a plate on all sides, and
    a tool comes down in it.
    """

    rectangle: Rectangle
    blank: InBlank | None = None

    @property
    def in_plate(self) -> bool:
        return self.blank is not None and self.blank.plate


@at_any_feed
def rough_outline_path(
    ring: Line, rim: Rim, diameter: float, allowance: float, step: float, down: Down, vf: float, *, climb: bool = True,
) -> Motion:  # fmt: skip
    """Around the part from the stock's edge inward, level by level, entering beside the stock; in a plate along a ramp,
    and from the part outward.
    """
    loops = outline_loops(ring, rim.rectangle, diameter / 2, allowance, step)
    if rim.in_plate:
        return _into_a_plate(tuple(turned_round(loop, climb=climb) for loop in reversed(loops)), down, vf)
    _, y0, _, y1 = rim.rectangle
    stock = (-inf, y0, inf, y1) if rim.blank is not None else rim.rectangle
    walk = Walk(down.clearance)
    for z in down.levels:
        for loop in loops:
            line = turned_round(loop, climb=climb)
            line = _from_the_front(line) if rim.blank is not None else line
            entry = _beside(stock, line[0], diameter / 2 + RUN_OFF)
            walk.over(*entry)
            walk.down(z)
            walk.cut(vf, [(x, y, z) for x, y in line])
            if line[0] == line[-1]:
                walk.cut(vf, [(*entry, z)])
    return walk.leave()


def _into_a_plate(loops: Sequence[Line], down: Down, vf: float) -> Motion:
    """Level by level; the first loop, all round the part, is come down on, each of the others from one before it."""
    walk = Walk(down.clearance)
    above = down.top
    for z in down.levels:
        for k, line in enumerate(loops):
            if k == 0:
                walk.over(*line[0])
                walk.down(above + APPROACH)
                sunk = ramp_in(line, above, z, down.ramp_angle)
                walk.cut(vf * RAMP_FEED, sunk)
                round_ = _begun_at(line, sunk[-1][:2])
                walk.cut(vf, [(x, y, z) for x, y in round_[1:]])
                continue
            free = shapely.union_all([LineString(one) for one in loops[:k]])
            walk.over(*_toward(free, line[0]))
            walk.down(above + APPROACH)
            walk.cut(vf, [(*_toward(free, line[0]), z), *((x, y, z) for x, y in line), (*_toward(free, line[-1]), z)])
        above = z
    return walk.leave()


def _begun_at(loop: Line, point: Flat) -> Line:
    """A closed line begun at a point that lies on it."""
    whole, at = LineString(loop), Point(point)
    walked = whole.project(at)
    before = [p for p in loop[:-1] if whole.project(Point(p)) <= walked + LEAST_LEAD]
    after = [p for p in loop[:-1] if p not in before]
    line = (point, *after, *before, point)
    return tuple(p for k, p in enumerate(line) if k == 0 or p != line[k - 1])


def _beside(stock: tuple[float, float, float, float], point: Flat, distance: float) -> Flat:
    """The nearest point clear of the stock, straight out over its nearest side; over none that is endlessly far."""
    x, y = point
    gaps = {
        (stock[0] - distance, y): x - stock[0] + distance,
        (stock[2] + distance, y): stock[2] + distance - x,
        (x, stock[1] - distance): y - stock[1] + distance,
        (x, stock[3] + distance): stock[3] + distance - y,
    }
    nearest = min(gaps, key=lambda p: gaps[p])
    return point if gaps[nearest] <= 0 else nearest


def _from_the_front(loop: Line) -> Line:
    """A closed line begun at its least Y, where it goes on along that if it does anywhere; another one as it is."""
    if loop[0] != loop[-1]:
        return loop
    k = min(range(len(loop) - 1), key=lambda i: (round(loop[i][1], 3), round(loop[i + 1][1], 3)))
    return (*loop[k:-1], *loop[: k + 1])


@at_any_feed
def finish_outline_path(
    ring: Line, diameter: float, allowance: float, down: Down, vf: float, *, climb: bool = True, in_bar: bool = False,
    off: float = inf,
) -> Motion:  # fmt: skip
    """Once around the part at its size, with a lead-in from outside and an overlap; `in_bar` from the front, where no
    other part stands. `off`: mm off the part that the tool's centre is at the most where it comes down.
    """
    line = turned_round(offset_ring(ring, diameter / 2 + allowance), climb=climb)
    line = _from_the_front(line) if in_bar else line
    lead = offset_ring(ring, min(diameter / 2 + allowance + max(2.0, 0.3 * diameter), off))
    boundary = LineString(lead)
    points = _overlapped(line)
    walk = Walk(down.clearance)
    for z in down.levels:
        entry = _toward(boundary, line[0])
        walk.over(*entry)
        walk.down(z)
        walk.cut(vf, [(x, y, z) for x, y in points])
        walk.cut(vf, [(*_toward(boundary, points[-1]), z)])
    return walk.leave()


@at_any_feed
def chamfer_path(lines: tuple[Line, ...], z: float, vf: float, clearance: float) -> Motion:
    """Along edges at one level, coming in from above."""
    walk = Walk(clearance)
    for line in lines:
        points = _overlapped(line) if line[0] == line[-1] else line
        walk.over(*points[0])
        walk.down(z + APPROACH)
        walk.cut(vf, [(x, y, z) for x, y in points])
    return walk.leave()
