"""Ways over free surfaces: rows and levels of a ball, levels of a flat mill that opens them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import ceil, cos, floor, hypot, pi, sin, sqrt

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString, Point
from shapely.geometry.base import BaseGeometry
from shapely.prepared import prep

from lean_ledger.core.geometry.dropping import Floats, Grid, drop_at, drop_ball, seen_from_above, shadow
from lean_ledger.core.geometry.flat import lines, polygons
from lean_ledger.core.geometry.model import Mesh
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.milling.paths import APPROACH, RAMP_FEED, Down, Walk, ramp
from lean_ledger.core.operations.milling.regions import QUADRANT, Line, loops_of
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.setups.frame import Frame

STRAY = 0.003  # mm that a way may leave the ball's own
ALONG = 0.4  # mm between points of a row
TOUCH = 0.02  # mm that the ball is off a face that it counts as on
SEEN = 0.5  # mm between places of a level's way where that is looked at
FLATTEST = 0.08  # of the step, that levels come near one another at the most
MOST_LEVELS = 500
SLICES = 16  # of a ball's lower half, by angle
FINE = 0.02  # mm to which heights are taken for what rises above them
LEAST_SHARE = 0.2  # of the step on a flat, below which rows on a steep wall come no closer
DOWN = 0.02  # least upward part of a normal that a tool from above sees


@dataclass(frozen=True)
class Over:
    """A mesh in a setup's axes; alike by what it was made from, so that it is a key."""

    mesh: Mesh
    frame: Frame

    def __hash__(self) -> int:
        return hash((id(self.mesh), self.frame))

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Over) and other.mesh is self.mesh and other.frame == self.frame


@dataclass(frozen=True)
class Room:
    """Of a ball: all stock is below `top`, at most `left` of it over the faces; its tip does not go below `lowest`."""

    top: float
    left: float
    lowest: float
    clearance: float


@lru_cache(maxsize=64)
def triangles_of(over: Over) -> Floats:
    axes = np.array([over.frame.right, over.frame.back, over.frame.up])
    points = np.array(over.mesh.vertices, dtype=float) @ axes.T
    return np.asarray(points[np.array(over.mesh.triangles, dtype=np.int64)], dtype=np.float64)


@lru_cache(maxsize=128)
def surface_of(over: Over, faces: frozenset[int]) -> tuple[BaseGeometry, Floats]:
    """What of some faces is seen from above, and those triangles."""
    owners = np.array(over.mesh.faces)
    own = triangles_of(over)[np.isin(owners, sorted(faces))]
    normal = np.cross(own[:, 1] - own[:, 0], own[:, 2] - own[:, 0])
    size = np.linalg.norm(normal, axis=1)
    seen = own[(size > 1e-9) & (normal[:, 2] > DOWN * size)]
    return seen_from_above(seen[:, :, :2]) if len(seen) else shapely.Polygon(), seen


@lru_cache(maxsize=128)
def tips_over(over: Over, faces: frozenset[int], radius: float) -> tuple[BaseGeometry, Floats]:
    """Around where the ball's tip is, seen from above, while it touches the faces, and its level over each triangle.

    It is off the place that it touches by r along the surface's normal, and down by r.
    """
    area, own = surface_of(over, faces)
    normal = np.cross(own[:, 1] - own[:, 0], own[:, 2] - own[:, 0])
    normal /= np.linalg.norm(normal, axis=1)[:, None]
    aside = radius * float(np.sqrt(1 - normal[:, 2].min() ** 2))
    return area.buffer(aside), own[:, :, 2] + radius * (normal[:, 2] - 1)[:, None]


def step_for(radius: float, cusp: float) -> float:
    """Way between two rows of a ball that leaves cusps of a height on a flat: 2·√(2·r·h − h²).

    >>> round(step_for(3, 0.01), 3)  # 2·√0.0599
    0.489
    """
    return 2 * sqrt(2 * radius * cusp - cusp * cusp)


def row_share(own: Floats) -> float:
    """How near rows have to come to keep the step on a slope, as a share of it, for nine tenths of the area: across a
    slope a row's way grows with 1/nz.
    """
    normal = np.cross(own[:, 1] - own[:, 0], own[:, 2] - own[:, 0])
    size = np.linalg.norm(normal, axis=1)
    nz = np.clip(normal[:, 2] / size, 0, 1)
    order = np.argsort(nz)
    area = np.cumsum(size[order])
    return max(LEAST_SHARE, float(nz[order][np.searchsorted(area, 0.1 * area[-1])]))


def ways_by_area(over: Over, faces: frozenset[int], radius: float, row: float, level: float) -> tuple[float, float]:
    """About how long rows and levels are, mm: the area that the tip goes over and that of the faces, by the steps."""
    _, own = surface_of(over, faces)
    area = np.linalg.norm(np.cross(own[:, 1] - own[:, 0], own[:, 2] - own[:, 0]), axis=1).sum() / 2
    return float(tips_over(over, faces, radius)[0].area / row), float(area / level)


#: A stretch that the ball goes along, and from how far it comes to its start without going up, mm
Way = tuple[tuple[Vec, ...], float]


@lru_cache(maxsize=128)
def rows_path(over: Over, faces: frozenset[int], radius: float, step: float, room: Room, vf: float) -> Motion:
    """Back and forth over the faces along their longer side, the ball on the part all the way."""
    return _walked(_rows_over(over, faces, radius, step, room.lowest), room, vf).leave()


@lru_cache(maxsize=64)
def _rows_over(over: Over, faces: frozenset[int], radius: float, step: float, lowest: float) -> tuple[Way, ...]:
    area, tips = tips_over(over, faces, radius)
    x0, y0, x1, y1 = area.bounds
    swap = y1 - y0 > x1 - x0
    triangles, own = triangles_of(over), surface_of(over, faces)[1]
    if swap:
        triangles, own = (each[:, ::-1, [1, 0, 2]] for each in (triangles, own))
        x0, y0, x1, y1 = y0, x0, y1, x1
    rows, along = (max(1, ceil((long - 2 * STRAY) / apart)) for long, apart in ((y1 - y0, step), (x1 - x0, ALONG)))
    grid = Grid(x0, y0, (x1 - x0) / along, (y1 - y0) / rows, along + 1, rows + 1)
    heights = drop_ball(triangles, grid, radius, max(lowest, float(tips.min())))
    on_them = drop_ball(own, grid, radius, -np.inf) >= heights - TOUCH
    found: list[Way] = []
    forth = True
    for j in range(grid.ny):
        runs = _runs(on_them[j])
        for start, stop in runs if forth else reversed(runs):
            points = _straightened(grid.xs[start:stop], heights[j, start:stop])
            line: list[Vec] = [(float(grid.ys[j]), float(x), z) if swap else (float(x), float(grid.ys[j]), z)
                               for x, z in (points if forth else points[::-1])]  # fmt: skip
            found.append((tuple(line), 2.5 * grid.dy))
        forth = not forth
    return tuple(found)


def _walked(ways: Sequence[Way], room: Room, vf: float) -> Walk:
    walk = Walk(room.clearance)
    for line, near in ways:
        _onto(walk, line, near, min(room.top, line[0][2] + room.left), vf)
    return walk


def _runs(inside: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """Stretches of points that lie inside, two points long at the least."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], inside, [False]]).astype(np.int8)))
    return [(int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True) if b - a > 1]


def _straightened(xs: Floats, zs: Floats) -> list[tuple[float, float]]:
    line = LineString(np.column_stack([xs, zs])).simplify(STRAY)
    return [(round(float(x), 4), round(float(z), 4)) for x, z in line.coords]


def _onto(walk: Walk, line: Sequence[Vec], near: float, stock: float, vf: float) -> None:
    """On from where the tool is where that is beside it, else over the clearance plane and down to over the stock."""
    first = line[0]
    if walk.at is None or hypot(walk.at[0] - first[0], walk.at[1] - first[1]) > near:
        walk.over(first[0], first[1])
        walk.down(max(first[2], stock) + APPROACH)
    walk.cut(vf, [_fine(p) for p in line])


def _fine(p: Vec) -> Vec:
    return (round(p[0], 4), round(p[1], 4), round(p[2], 4))


@lru_cache(maxsize=4096)
def risen(over: Over, level: float) -> BaseGeometry:
    """What of the part rises above a level, seen from above."""
    return shadow(triangles_of(over), level).simplify(STRAY)


@lru_cache(maxsize=128)
def levels_path(over: Over, faces: frozenset[int], radius: float, step: float, room: Room, vf: float) -> Motion | None:
    """Round the faces at one level after the other, from the top down; None where no level meets them.

    Levels lie so near that the way down the surface from one to the next is the step. At a level the ball keeps off all
    that rises above each height of its lower half by its radius at that height. The rest as for rows.
    """
    walk = _walked(_levels_over(over, faces, radius, step, room.lowest), room, vf)
    return walk.leave() if walk.strokes else None


@lru_cache(maxsize=64)
def _levels_over(over: Over, faces: frozenset[int], radius: float, step: float, lowest: float) -> tuple[Way, ...]:
    area, tips = tips_over(over, faces, radius)
    own = surface_of(over, faces)[1]
    high = float(own[:, :, 2].max())
    # without holes: their rims would count as walls
    near = shapely.union_all([shapely.Polygon(piece.exterior) for piece in polygons(area.buffer(2 * radius))])
    turned = [k * pi / 2 / SLICES for k in range(SLICES + 1)]
    found: list[Way] = []
    for z in _even_levels(tips, own, step, lowest):
        heights = [(z + radius * (1 - cos(t)), radius * sin(t)) for t in turned]
        keep_off = shapely.union_all([
            risen(over, floor(h / FINE) * FINE).intersection(near).buffer(wide, quad_segs=QUADRANT)
            for h, wide in heights
            if h < high
        ])  # fmt: skip
        barred = prep(keep_off.buffer(-2 * STRAY))
        for piece in polygons(keep_off):
            for ring in (piece.exterior, *piece.interiors):
                for line in _on_them(LineString(ring.coords), own, radius, z):
                    if line.length > ALONG:
                        way = tuple((x, y, z) for x, y in line.coords)
                        at = _fine(found[-1][0][-1]) if found else None
                        free = at is not None and not barred.intersects(LineString([at[:2], way[0][:2]]))
                        found.append((way, 2 * step if free else 0.0))
    return tuple(found)


def _on_them(ring: LineString, own: Floats, radius: float, z: float) -> list[LineString]:
    """Stretches of a level's way on which the ball touches the faces."""
    fine = ring.simplify(STRAY).segmentize(SEEN)
    points = np.array(fine.coords)
    touching = drop_at(own, points, radius) >= z - TOUCH
    if touching.all():
        return lines(fine.simplify(STRAY))
    return [line for a, b in _runs(touching) for line in lines(LineString(points[a:b]).simplify(STRAY))]


def _even_levels(tips: Floats, own: Floats, step: float, lowest: float) -> list[float]:
    """Of the tip, from the top down, the nearer the flatter the surface is there."""
    normal = np.cross(own[:, 1] - own[:, 0], own[:, 2] - own[:, 0])
    size = np.linalg.norm(normal, axis=1)
    steep = np.sqrt(np.clip(1 - (normal[:, 2] / size) ** 2, 0, 1))
    bottoms, tops = tips.min(axis=1), tips.max(axis=1)
    low, z = max(lowest, float(bottoms.min())), float(tops.max())
    found: list[float] = []
    while z > low + 1e-6 and len(found) < MOST_LEVELS:
        here = (tops >= z - step) & (bottoms <= z)
        share = float(np.quantile(steep[here], 0.25)) if here.any() else 1.0
        z = max(low, z - step * max(FLATTEST, share))
        found.append(z)
    return found


@lru_cache(maxsize=128)
def opening_path(
    over: Over, faces: frozenset[int], radius: float, leave: float, step: float, down: Down, vf: float,
    stock: tuple[float, float, float, float],
) -> Motion | None:  # fmt: skip
    """A flat mill's levels over the faces, off all of the part that rises above each by `leave`.

    It enters beside the stock where a loop leads out there, else by a ramp.
    """
    return levels_off_part(over, surface_of(over, faces)[0], radius, step, down, vf, stock, leave)


def levels_off_part(
    over: Over, area: BaseGeometry, radius: float, step: float, down: Down, vf: float,
    stock: tuple[float, float, float, float], leave: float = -FINE,
) -> Motion | None:  # fmt: skip
    """A flat mill's levels over an area, off all of the part that rises above each by `leave`; below 0 it touches
    floors at the level itself.
    """
    walk = Walk(down.clearance)
    z_before = down.top
    x0, y0, x1, y1 = stock
    block = shapely.box(x0 - radius, y0 - radius, x1 + radius, y1 + radius)
    for k in range(1, down.passes + 1):
        z = down.top - (down.top - down.bottom) * k / down.passes
        keep_off = risen(over, round(z - leave, 6)).buffer(radius + max(leave, 0.0) + (STRAY if leave < 0 else 0.0))
        allowed = area.buffer(radius).difference(keep_off)
        # what is cleared already needs no second visit: only where the level meets stock over the area
        for piece in polygons(allowed):
            if piece.buffer(-0.05).is_empty:
                continue
            for loop in loops_of(piece, radius, step):
                line = _from_beside(loop, block)
                walk.over(*line[0])
                if block.contains(Point(line[0])):
                    walk.down(z_before + APPROACH)
                    walk.cut(vf * RAMP_FEED, ramp(line, z_before, z, down.ramp_angle))
                else:
                    walk.down(z)
                walk.cut(vf, [(x, y, z) for x, y in line[1:]])
        z_before = z
    return walk.leave() if walk.strokes else None


def _from_beside(line: Line, block: BaseGeometry) -> Line:
    for i, point in enumerate(line[:-1]):
        if not block.contains(Point(point)):
            return line[i:-1] + line[: i + 1]
    return line
