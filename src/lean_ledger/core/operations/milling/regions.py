"""Flat regions to be cleared, and the lines that a tool's centre walks in them."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from math import hypot

import shapely
from shapely.geometry import LineString, MultiLineString, Point, Polygon, box
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient
from shapely.ops import linemerge, unary_union

from lean_ledger.core.geometry.flat import lines, polygons
from lean_ledger.core.operations.in_blank import Rectangle

Flat = tuple[float, float]
Line = tuple[Flat, ...]

QUADRANT = 24  # segments of a quarter circle in an offset: chords of 3.75 degrees
TIP = 0.02  # mm by which passes overlap
LEAST_TIP = 0.05  # mm² left standing that is worth a loop
SAME = 9  # decimals of mm to which regions are alike: what their places' own digits leave
SLIVER = 1e-4  # mm by which neighbours overlap, so that they join


@dataclass(frozen=True)
class Region:
    """What a tool has to clear, seen from above, in setup coordinates.

    `open_edges` are stretches of the outer ring with no wall: the tool may run out over them, within `limit`.
    """

    rings: tuple[Line, ...]
    open_edges: tuple[Line, ...] = ()
    limit: Rectangle | None = None

    @property
    def polygon(self) -> Polygon:
        return _polygon(self.rings)


def counted_from(region: Region, at: Flat) -> Region:
    """The region with `at` as its origin."""

    def shifted(line: Line) -> Line:
        return tuple((round(x - at[0], SAME), round(y - at[1], SAME)) for x, y in line)

    limit = None
    if region.limit is not None:
        x0, y0, x1, y1 = region.limit
        limit = (round(x0 - at[0], SAME), round(y0 - at[1], SAME), round(x1 - at[0], SAME), round(y1 - at[1], SAME))
    return Region(tuple(map(shifted, region.rings)), tuple(map(shifted, region.open_edges)), limit)


@lru_cache(maxsize=2048)
def wherever_it_lies(region: Region) -> Region:
    """One and the same for all regions that differ only by where they lie."""
    return counted_from(region, region.rings[0][0])


@lru_cache(maxsize=2048)
def _polygon(rings: tuple[Line, ...]) -> Polygon:
    polygon = Polygon(rings[0], rings[1:])
    return polygon if polygon.is_valid else polygon.buffer(0)


def circle(center: Flat, diameter: float) -> Region:
    ring = Point(center).buffer(diameter / 2, quad_segs=QUADRANT).exterior.coords[:-1]
    return Region((tuple((x, y) for x, y in ring),))


@lru_cache(maxsize=4096)
def centre_area(region: Region, radius: float, wall_allowance: float, run_out: float) -> BaseGeometry:
    """Where the centre of a tool of that radius may go: off every wall by radius + allowance, out over open edges."""
    polygon = region.polygon
    keep_off = radius + wall_allowance
    if not region.open_edges:
        return polygon.buffer(-keep_off, quad_segs=QUADRANT)
    # far enough out that the inward offset of the whole leaves radius + run-out beyond the open edge; the sides of
    # the strips carry the walls on in a straight line
    reach = radius + run_out + keep_off
    strips = [_outward_strip(edge, polygon, reach).buffer(SLIVER) for edge in region.open_edges]
    found = unary_union([polygon, *strips]).buffer(-keep_off - SLIVER, quad_segs=QUADRANT)
    return found if region.limit is None else _within(found, region.limit, radius)


def _within(area: BaseGeometry, limit: Rectangle, radius: float) -> BaseGeometry:
    """Where a tool's centre may go so that all of it stays within a rectangle, which may be endless."""
    if area.is_empty:
        return area
    x0, y0, x1, y1 = area.bounds
    x0, y0 = max(x0, limit[0] + radius), max(y0, limit[1] + radius)
    x1, y1 = min(x1, limit[2] - radius), min(y1, limit[3] - radius)
    return area.intersection(box(x0, y0, x1, y1)) if x0 < x1 and y0 < y1 else Polygon()


def _outward_strip(edge: Line, polygon: Polygon, width: float) -> BaseGeometry:
    """What lies beyond an open edge, on the side away from the region only: behind it may stand a wall or an island."""
    if edge[0] == edge[-1]:
        filled = Polygon(edge)
        return filled.buffer(width, join_style="mitre").difference(filled)
    sides = [LineString(edge).buffer(w, single_sided=True, join_style="mitre") for w in (width, -width)]
    return min(sides, key=lambda side: side.intersection(polygon).area)


def wall_lines(region: Region) -> BaseGeometry:
    """The region's boundary less its open edges."""
    boundary = region.polygon.boundary
    if not region.open_edges:
        return boundary
    opened = unary_union([LineString(edge) for edge in region.open_edges]).buffer(0.01, cap_style="flat")
    rest = boundary.difference(opened)
    return linemerge(rest) if isinstance(rest, MultiLineString) else rest


def fits(region: Region, radius: float) -> bool:
    """Whether a tool goes in at all, with a little room to move."""
    return not centre_area(region, radius, 0.05, 1.0).is_empty


def share_reached(region: Region, radius: float) -> float:
    """Share of the region's area that a tool of that radius sweeps."""
    polygon = region.polygon
    if polygon.area == 0:
        return 0.0
    swept = centre_area(region, radius, 0.0, 1.0).buffer(radius, quad_segs=QUADRANT).intersection(polygon)
    return float(swept.area / polygon.area)


@lru_cache(maxsize=4096)
def clearing_loops(
    region: Region, radius: float, wall_allowance: float, run_out: float, step: float
) -> tuple[Line, ...]:
    """Closed loops that clear the region, innermost first; each begins near where the one before ends.

    Successive inward offsets of the centre area by `step`, and small loops around what those leave standing between
    them: where the area narrows away between two offsets. A closed line repeats its first point.
    """
    return loops_of(centre_area(region, radius, wall_allowance, run_out), radius, step)


def loops_of(whole: BaseGeometry, radius: float, step: float) -> tuple[Line, ...]:
    """The same for an area that the tool's centre may go."""
    area = whole
    layers: list[list[Line]] = []
    while not area.is_empty and len(layers) < 400:
        layers.append([line for polygon in polygons(area) for line in _rings(polygon)])
        area = area.buffer(-step, quad_segs=QUADRANT)
    if step > radius / 2:
        layers.insert(0, _tips(whole, layers, radius))  # last, when the rest is clear
    ordered: list[Line] = []
    at: Flat | None = None
    for layer in reversed(layers):
        waiting = [line for line in layer if line_length(line) > 1e-3]
        while waiting:
            chosen = min(waiting, key=lambda line: _nearest(line, at)[0])
            waiting.remove(chosen)
            line = _begin_near(chosen, at)
            ordered.append(line)
            at = line[-1]
    return tuple(ordered)


def _tips(area: BaseGeometry, layers: list[list[Line]], radius: float) -> list[Line]:
    """Rings around the places that a tool on the loops does not come over."""
    loops = [LineString(line) for layer in layers for line in layer]
    missed = area.difference(unary_union([line.buffer(radius - TIP, quad_segs=QUADRANT) for line in loops]))
    rings = []
    for polygon in polygons(missed):
        if polygon.area > LEAST_TIP:
            around = polygon.buffer(TIP, quad_segs=2).intersection(area)
            rings += [ring for piece in polygons(around) for ring in _rings(piece)]
    return rings


@lru_cache(maxsize=4096)
def wall_passes(region: Region, radius: float, wall_allowance: float, run_out: float) -> tuple[Line, ...]:
    """Lines along the walls at the tool's radius: closed rings, or open stretches where the region is open."""
    area = centre_area(region, radius, wall_allowance, run_out)
    if area.is_empty:
        return ()
    if not region.open_edges:
        return tuple(line for polygon in polygons(area) for line in _rings(polygon))
    near = wall_lines(region).buffer(radius + wall_allowance + 0.01, cap_style="square", quad_segs=QUADRANT)
    along = area.boundary.intersection(near)
    merged = linemerge(along) if isinstance(along, MultiLineString) else along
    found = (tuple((x, y) for x, y in line.coords) for line in lines(merged) if line.length > 0.2 * radius)
    return tuple(_inside_left(line, area) for line in found)


def _inside_left(line: Line, area: BaseGeometry) -> Line:
    """A stretch of an area's rim, walked with the area on its left."""
    a, b = max(itertools.pairwise(line), key=lambda pair: hypot(pair[1][0] - pair[0][0], pair[1][1] - pair[0][1]))
    length = hypot(b[0] - a[0], b[1] - a[1])
    off = 1e-3 / length
    left = Point((a[0] + b[0]) / 2 - off * (b[1] - a[1]), (a[1] + b[1]) / 2 + off * (b[0] - a[0]))
    return line if area.covers(left) else line[::-1]


def farthest_stock(ring: Line, stock: tuple[float, float, float, float]) -> float:
    """How far the stock's farthest corner stands off the part's outline."""
    part = _polygon((ring,))
    x0, y0, x1, y1 = stock
    return float(max(part.distance(Point(corner)) for corner in ((x0, y0), (x1, y0), (x1, y1), (x0, y1))))


@lru_cache(maxsize=512)
def outline_loops(
    ring: Line, stock: tuple[float, float, float, float], radius: float, allowance: float, step: float
) -> tuple[Line, ...]:
    """Loops around a part from the stock's edge inward, clipped to where there is stock.

    `stock` is (x least, y least, x greatest, y greatest). Loop k runs at radius + allowance + k·step off the part; the
    outermost is the one that still touches the stock.
    """
    part = _polygon((ring,))
    block = Polygon([(stock[0], stock[1]), (stock[2], stock[1]), (stock[2], stock[3]), (stock[0], stock[3])])
    rest = farthest_stock(ring, stock) - allowance
    count = max(1, int(-(-rest // step))) if rest > 1e-6 else 1
    touching = block.buffer(radius * 0.98, quad_segs=QUADRANT)
    found: list[Line] = []
    for k in range(count - 1, -1, -1):
        loop = orient(part.buffer(radius + allowance + k * step, quad_segs=QUADRANT), -1.0).exterior
        clipped = loop if k == 0 else loop.intersection(touching)
        for line in lines(joined(clipped)):
            if line.length > 1.0:
                found.append(tuple((x, y) for x, y in line.coords))
    return tuple(found)


@lru_cache(maxsize=512)
def offset_ring(ring: Line, distance: float) -> Line:
    """A closed line at a distance outside (or inside, below 0) of a ring; empty where nothing is left. It climbs along
    what lies on the ring's other side.
    """
    grown = _polygon((ring,)).buffer(distance, quad_segs=QUADRANT)
    found = polygons(grown)
    if not found:
        return ()
    largest = orient(max(found, key=lambda p: p.area), -1.0 if distance > 0 else 1.0)
    return tuple((x, y) for x, y in largest.exterior.coords)


def line_length(line: Line) -> float:
    return sum(hypot(b[0] - a[0], b[1] - a[1]) for a, b in itertools.pairwise(line))


def _rings(polygon: Polygon) -> Iterator[Line]:
    """With the inside on their left and the wall on their right: a tool on them climbs."""
    turned = orient(polygon, 1.0)
    for ring in (turned.exterior, *turned.interiors):
        yield tuple((x, y) for x, y in ring.coords)


def joined(shape: BaseGeometry) -> BaseGeometry:
    """Lines that meet as one, each walked as it was."""
    return shapely.line_merge(shape, directed=True) if isinstance(shape, MultiLineString) else shape


def turned_round(line: Line, *, climb: bool) -> Line:
    """A line that climbs, or the same walked against the cut."""
    return line if climb else line[::-1]


def _nearest(line: Line, at: Flat | None) -> tuple[float, int]:
    if at is None:
        return (0.0, 0)
    return min((hypot(x - at[0], y - at[1]), i) for i, (x, y) in enumerate(line))


def _begin_near(line: Line, at: Flat | None) -> Line:
    """Turn a closed line so that it begins at its corner nearest to `at`."""
    if at is None or line[0] != line[-1]:
        return line
    _, i = _nearest(line[:-1], at)
    return line[i:-1] + line[: i + 1]
