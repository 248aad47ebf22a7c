"""Roughing at constant engagement: deep, narrow cuts whose width never grows, in corners and on the way in neither.

The cleared area grows front by front. A tool whose centre stays inside the cleared area shrunk by r − ae takes at most
ae of radial depth, wherever it goes: each front is the rim of that area, walked only where there is stock to take.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import ceil, hypot, pi, radians, tan

import shapely
from shapely.errors import GEOSException
from shapely.geometry import LineString, Point, Polygon, box
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient
from shapely.ops import nearest_points
from shapely.prepared import prep

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.flat import lines, polygons
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.feeds import at_any_feed
from lean_ledger.core.operations.milling.helical import circling
from lean_ledger.core.operations.milling.paths import APPROACH, RAMP_FEED, Down, Space, Walk
from lean_ledger.core.operations.milling.regions import QUADRANT, Flat, Line, Region, centre_area, joined
from lean_ledger.core.operations.milling.wherever import wherever
from lean_ledger.core.operations.model import Motion

LEAST_CUT = 0.05  # mm of radial depth that is worth a front
SMOOTH = 0.01  # mm that a front may be straightened by
LIFT = 0.3  # mm that the tool goes over the floor on its way back
BACK = 3.0  # × the cutting feed at which it comes back
WAY_IN = 0.9  # × the tool's radius that a helix has at the most
LEAST_WAY_IN = 0.15  # × the tool's radius, below which a helix bores no hole that it can leave sideways
ALONG_WALL = 1.5  # × ae that a front starts along a wall at the most: there the tool would go in, not along
MOST_FRONTS = 600
GRID = 1e-4  # mm to which an area is rounded that would cross itself


@dataclass(frozen=True)
class Front:
    """A stretch to be walked with the stock on its right: climbing. `after` are the fronts that clear its way."""

    line: Line
    after: tuple[int, ...]


@dataclass(frozen=True)
class Engaged:
    """Fronts of one area in an order that keeps the engagement; `helix` is the way in where there is none at the side.

    `helix` is the centre and the radius of the tool centre's circle; `cleared` shrunk by the tool's radius is where
    the tool stands free before the first front.
    """

    helix: tuple[Flat, float] | None
    cleared: BaseGeometry
    fronts: tuple[Front, ...]


@lru_cache(maxsize=512)
def engaged_areas(
    region: Region, radius: float, wall_allowance: float, run_out: float, ae: float
) -> tuple[Engaged, ...] | None:
    """Every area of a region that a tool gets into; None where one is too narrow to be cleared this way.

    Lengths mm. `ae` is the greatest radial depth, below the tool's radius.
    """
    centre = centre_area(region, radius, wall_allowance, run_out)
    found = []
    for area in polygons(centre):
        one = _grown(area, region, radius, run_out, ae)
        if one is None:
            return None
        found.append(one)
    return tuple(found) or None


def _grown(area: Polygon, region: Region, radius: float, run_out: float, ae: float) -> Engaged | None:
    helix, cleared = _beginning(area, region, radius, run_out)
    if cleared is None:
        return None
    start = cleared
    fronts: list[Front] = []
    last: list[int] = []
    for _ in range(MOST_FRONTS):
        allowed = cleared.buffer(ae - radius, quad_segs=QUADRANT).intersection(area)
        done = cleared.buffer(LEAST_CUT - radius, quad_segs=QUADRANT)
        lines = [_off_wall(line, area.boundary, ae) for piece in polygons(allowed) for line in _rims(piece, done)]
        lines = [line for line in lines if LineString(line).length > LEAST_CUT]
        if not lines:
            break
        drawn = [LineString(line) for line in lines]
        before = [(i, LineString(fronts[i].line)) for i in last]
        last = []
        for line, own in zip(lines, drawn, strict=True):
            waits = tuple(i for i, other in before if own.distance(other) < 2 * ae)
            last.append(len(fronts))
            fronts.append(Front(line, waits or tuple(i for i, _ in before)))
        # fronts are straightened a little: without as much of overlap a hair would stand between them
        swept = shapely.union_all([one.buffer(radius, quad_segs=QUADRANT) for one in drawn])
        cleared = shapely.union_all([cleared, swept]).simplify(SMOOTH / 4)
    else:
        return None
    return Engaged(helix, start, tuple(_in_order(fronts, helix)))


def _beginning(
    area: Polygon, region: Region, radius: float, run_out: float
) -> tuple[tuple[Flat, float] | None, BaseGeometry | None]:
    """What is clear before the first front: beside the stock where the region is open, else a hole bored in a helix."""
    # the run-out goes 1 mm beyond the stock that stands over an open edge
    stock = region.polygon.buffer(max(0.0, run_out - 1.0) + 0.05, join_style="mitre")
    beside = area.buffer(radius, quad_segs=QUADRANT).difference(stock)
    free = beside.buffer(LEAST_CUT - radius).intersection(area)
    if region.open_edges and not free.is_empty:
        return None, beside
    widest = shapely.maximum_inscribed_circle(area, tolerance=0.05)
    (x, y), rim = widest.coords[0], widest.length
    helix = min(WAY_IN * radius, rim)
    if helix < LEAST_WAY_IN * radius:
        return None, None
    return ((x, y), helix), Point(x, y).buffer(helix + radius, quad_segs=QUADRANT)


def _rims(piece: Polygon, done: BaseGeometry) -> list[Line]:
    """Stretches of an area's rim outside what is done already, its inside on their left."""
    found: list[Line] = []
    turned = orient(piece, 1.0)
    for ring in (turned.exterior, *turned.interiors):
        whole = LineString(ring.coords)
        open_ends = whole.difference(done)
        if open_ends.is_empty:
            continue
        for one in lines(joined(open_ends)):
            line = one.simplify(SMOOTH)
            found.append(tuple((round(x, 4), round(y, 4)) for x, y in line.coords))
    return found


def _off_wall(line: Line, walls: BaseGeometry, ae: float) -> Line:
    """A front without the step that it makes along a wall before it turns off: what that would take is a hair."""
    if line[0] == line[-1]:
        return line
    walked, i = 0.0, 0
    while i + 2 < len(line) and walls.distance(Point(line[i + 1])) < 2 * SMOOTH:
        walked += hypot(line[i + 1][0] - line[i][0], line[i + 1][1] - line[i][1])
        i += 1
    return line[i:] if walked <= ALONG_WALL * ae else line


def _in_order(fronts: Sequence[Front], helix: tuple[Flat, float] | None) -> list[Front]:
    """One end first, then the next: always the nearest front whose way is clear."""
    waiting = set(range(len(fronts)))
    done: set[int] = set()
    at: Flat | None = helix[0] if helix else None
    ordered: list[Front] = []
    while waiting:
        ready = [i for i in waiting if done.issuperset(fronts[i].after)]

        def away(i: int, at: Flat | None = at) -> tuple[float, int]:
            x, y = fronts[i].line[0]
            return (0.0 if at is None else hypot(x - at[0], y - at[1]), i)

        chosen = min(ready, key=away)
        waiting.discard(chosen)
        done.add(chosen)
        ordered.append(fronts[chosen])
        at = fronts[chosen].line[-1]
    return ordered


@at_any_feed
@wherever
def engaged_path(space: Space, ae: float, down: Down, vf: float, *, predrilled: bool) -> Motion | None:
    """Clear regions at a radial depth of at most `ae`, layer by layer; None where one is too narrow for that.

    From one front to the next the tool comes back over what is clear, a little lifted and faster than it cuts.
    """
    walk = Walk(down.clearance)
    for region in space.regions:
        areas = engaged_areas(region, space.radius, space.allowance, space.run_out, ae)
        if areas is None:
            return None
        centre = space.centre_area(region)
        z_before = down.top
        for z in down.levels:
            layer = _Layer(centre, space.radius, z_before, z, vf, down.ramp_angle, predrilled)
            for one in areas:
                _cut_layer(walk, one, layer)
            z_before = z
    return walk.leave() if walk.strokes else None  # no room for any front where it may not run out far


@dataclass(frozen=True)
class _Layer:
    """Where the tool's centre may be, and one step down in there."""

    centre: BaseGeometry
    radius: float
    above: float  # level
    z: float
    vf: float
    ramp_angle: float
    predrilled: bool


def _cut_layer(walk: Walk, one: Engaged, layer: _Layer) -> None:
    z, vf = layer.z, layer.vf
    if one.helix is not None:
        _bore_in(walk, *one.helix, layer)
    entered = one.helix is not None
    for step in _steps(Same(one), Same(layer.centre), layer.radius):
        line = step.front
        ring = line[0] == line[-1]
        if not entered or walk.at is None:
            _come_down(walk, step.beside, layer)
        elif walk.at[:2] != line[0]:
            at = walk.at[:2]
            near = hypot(at[0] - line[0][0], at[1] - line[0][1]) < layer.radius / 2
            if near or ring:
                pass
            elif step.clear:
                lifted = z + LIFT
                walk.cut(BACK * vf, [(*at, lifted), (*step.beside, lifted), (*step.beside, z)])
            else:
                _come_down(walk, step.beside, layer)
        entered = True
        points: list[Vec] = [(x, y, z) for x, y in line]
        assert walk.at is not None
        walk.cut(vf, points[1:] if walk.at == points[0] else points)


@dataclass(frozen=True)
class _Step:
    """A front, where the tool stands free beside its start, and whether the way there from the one before is clear."""

    front: Line
    beside: Flat
    clear: bool


@lru_cache(maxsize=128)
def _steps(one: Same[Engaged], centre: Same[BaseGeometry], radius: float) -> tuple[_Step, ...]:
    """The same on every level of an area: looked at once."""
    found: list[_Step] = []
    cleared = one.value.cleared
    at: Flat | None = None
    if one.value.helix is not None:
        (x, y), orbit = one.value.helix
        at = (round(x + orbit, 4), round(y, 4))
    for front in one.value.fronts:
        line = front.line
        # a tool that stands free comes to the start of the front without cutting more than the front itself does
        free = _free(cleared, centre.value, radius, Point(line[0]))
        if free.is_empty or free.distance(Point(line[0])) > 2 * radius:
            free = cleared.buffer(-radius, quad_segs=QUADRANT).intersection(centre.value)
        beside = _nearest(free, line[0])
        clear = False
        if at is not None and at != line[0] and line[0] != line[-1]:
            way = LineString((at, beside))
            there = _free(cleared, centre.value, radius, way)
            clear = at == beside or prep(there.buffer(2 * SMOOTH)).covers(way)
        found.append(_Step(line, beside, clear))
        cleared = shapely.union_all([cleared, LineString(line).buffer(radius, quad_segs=QUADRANT)])
        at = line[-1]
    return tuple(found)


def _free(cleared: BaseGeometry, centre: BaseGeometry, radius: float, near: BaseGeometry) -> BaseGeometry:
    """Where the tool stands free, as far as it is near to something: right within two radii of it."""
    x0, y0, x1, y1 = near.bounds
    by = 4 * radius
    window = box(x0 - by, y0 - by, x1 + by, y1 + by)
    try:
        return cleared.intersection(window).buffer(-radius, quad_segs=QUADRANT).intersection(centre)
    except GEOSException:  # many unions leave a hair that crosses itself
        plain = shapely.intersection(shapely.make_valid(cleared), window, grid_size=GRID)
        free = plain.buffer(-radius, quad_segs=QUADRANT)
        return shapely.intersection(free, shapely.make_valid(centre), grid_size=GRID)


def _nearest(free: BaseGeometry, point: Flat) -> Flat:
    if free.is_empty:
        return point
    found = nearest_points(free, Point(point))[0]
    return (round(found.x, 4), round(found.y, 4))


def _come_down(walk: Walk, at: Flat, layer: _Layer) -> None:
    walk.over(*at)
    walk.down(layer.above + APPROACH)
    walk.cut(BACK * layer.vf, [(*at, layer.z)])


def _bore_in(walk: Walk, middle: Flat, orbit: float, layer: _Layer) -> None:
    """Down in a helix at the ramp angle, and once round on the floor."""
    x, y = middle
    start = (round(x + orbit, 4), round(y, 4))
    walk.over(*start)
    walk.down(layer.above + APPROACH)
    if layer.predrilled:
        walk.cut(layer.vf, [(*start, layer.z)])
    else:
        walk.cut(layer.vf * RAMP_FEED, [(*start, layer.above)])
        pitch = 2 * pi * orbit * tan(radians(layer.ramp_angle))
        turns = ceil(round((layer.above - layer.z) / pitch, 6))
        walk.cut(layer.vf * RAMP_FEED, circling(middle, orbit, turns, layer.above, layer.z))
    walk.cut(layer.vf, circling(middle, orbit, 1, layer.z, layer.z))
