"""How low a ball comes over a mesh, and the shadow of what rises above a level: what paths on free surfaces need.

Arrays are in a setup's axes, mm: triangles (n, 3, 3), points (m, 2).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely
from manifold3d import CrossSection, FillRule, JoinType
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

Floats = NDArray[np.float64]

MOST_PAIRS = 400_000  # of a triangle and a point that are looked at in one go
FLAT = 1e-9
HAIR = 1e-4  # mm by which areas of triangles come out wider


@dataclass(frozen=True)
class Grid:
    """Points at x0 + i·dx, y0 + j·dy; heights are (ny, nx)."""

    x0: float
    y0: float
    dx: float
    dy: float
    nx: int
    ny: int

    @property
    def xs(self) -> Floats:
        return np.asarray(self.x0 + self.dx * np.arange(self.nx), dtype=np.float64)

    @property
    def ys(self) -> Floats:
        return np.asarray(self.y0 + self.dy * np.arange(self.ny), dtype=np.float64)


def drop_ball(triangles: Floats, grid: Grid, radius: float, floor: float) -> Floats:
    """The lowest level of a ball's tip at each point of a grid, (ny, nx), so that it cuts into no triangle.

    The ball touches a corner, an edge or the inside of a triangle; each of the three gives a height, the highest
    counts. Over nothing it comes down to `floor`. After: Y.-S. Hwang, Interference-free tool-path generation in the NC
    machining of parametric compound surfaces, Computer-Aided Design 24 (1992).
    """
    heights = np.full((grid.ny, grid.nx), floor, dtype=float)
    for t, j, i in _pairs(triangles, grid, radius):
        np.maximum.at(heights, (j, i), _touching(triangles[t], grid.xs[i], grid.ys[j], radius))
    return heights


def drop_at(triangles: Floats, points: Floats, radius: float) -> Floats:
    """The same at single points, (m,), each beside the triangles near it; −inf where the ball touches nothing."""
    found = np.full(len(points), -np.inf)
    flat = triangles[:, :, :2]
    low, high = flat.min(axis=1) - radius, flat.max(axis=1) + radius
    tree = shapely.STRtree(shapely.box(low[:, 0], low[:, 1], high[:, 0], high[:, 1]))
    m, t = tree.query(shapely.points(points))
    for start in range(0, len(m), MOST_PAIRS):
        some = slice(start, start + MOST_PAIRS)
        level = _touching(triangles[t[some]], points[m[some], 0], points[m[some], 1], radius)
        np.maximum.at(found, m[some], level)
    return found


def _touching(corners: Floats, x: Floats, y: Floats, radius: float) -> Floats:
    """Level of the tip over (x, y) at which a ball touches a triangle; −inf where it does not reach it."""
    best = _on_face(corners, x, y, radius)
    for k in range(3):
        best = np.maximum(best, _on_corner(corners[:, k], x, y, radius))
        best = np.maximum(best, _on_edge(corners[:, k], corners[:, (k + 1) % 3], x, y, radius))
    return best


def _pairs(triangles: Floats, grid: Grid, radius: float) -> Iterator[tuple[NDArray[np.int64], ...]]:
    """Triangles, rows and columns of all points that lie within the radius of a triangle's box."""
    low, high = triangles[:, :, :2].min(axis=1) - radius, triangles[:, :, :2].max(axis=1) + radius
    i0 = np.clip(np.ceil((low[:, 0] - grid.x0) / grid.dx), 0, grid.nx).astype(np.int64)
    i1 = np.clip(np.floor((high[:, 0] - grid.x0) / grid.dx) + 1, 0, grid.nx).astype(np.int64)
    j0 = np.clip(np.ceil((low[:, 1] - grid.y0) / grid.dy), 0, grid.ny).astype(np.int64)
    j1 = np.clip(np.floor((high[:, 1] - grid.y0) / grid.dy) + 1, 0, grid.ny).astype(np.int64)
    wide, tall = np.maximum(i1 - i0, 0), np.maximum(j1 - j0, 0)
    counts = wide * tall
    used = np.nonzero(counts)[0]
    ends = np.cumsum(counts[used])
    start = 0
    while start < len(used):
        stop = max(start + 1, int(np.searchsorted(ends, (ends[start - 1] if start else 0) + MOST_PAIRS)))
        some = used[start:stop]
        t = np.repeat(some, counts[some])
        within = np.arange(len(t)) - np.repeat(np.cumsum(counts[some]) - counts[some], counts[some])
        yield t, j0[t] + within // wide[t], i0[t] + within % wide[t]
        start = stop


def _on_corner(p: Floats, x: Floats, y: Floats, r: float) -> Floats:
    rest = r * r - (p[:, 0] - x) ** 2 - (p[:, 1] - y) ** 2
    return np.where(rest >= 0, p[:, 2] + np.sqrt(np.maximum(rest, 0)) - r, -np.inf)


def _on_edge(p: Floats, q: Floats, x: Floats, y: Floats, r: float) -> Floats:
    """In the upright plane along the edge the ball is a circle of radius √(r² − d²), d its way off that plane."""
    ux, uy, dz = q[:, 0] - p[:, 0], q[:, 1] - p[:, 1], q[:, 2] - p[:, 2]
    length = np.hypot(ux, uy)
    safe = np.maximum(length, FLAT)
    ux, uy = ux / safe, uy / safe
    along = (x - p[:, 0]) * ux + (y - p[:, 1]) * uy
    aside = (x - p[:, 0]) * uy - (y - p[:, 1]) * ux
    rho = np.sqrt(np.maximum(r * r - aside**2, 0))
    slope = np.hypot(safe, dz)
    touch = along + rho * dz / slope
    z = p[:, 2] + touch / safe * dz + rho * safe / slope - r
    able = (length > FLAT) & (np.abs(aside) < r) & (touch >= 0) & (touch <= length)
    return np.where(able, z, -np.inf)


def _on_face(corners: Floats, x: Floats, y: Floats, r: float) -> Floats:
    a, b, c = corners[:, 0], corners[:, 1], corners[:, 2]
    normal = np.cross(b - a, c - a)
    size = np.linalg.norm(normal, axis=1)
    normal = normal / np.maximum(size, FLAT)[:, None]
    nz = normal[:, 2]
    up = (nz > 1e-6) & (size > FLAT)
    tx, ty = x - r * normal[:, 0], y - r * normal[:, 1]
    inside = up.copy()
    for p, q in ((a, b), (b, c), (c, a)):
        inside &= (q[:, 0] - p[:, 0]) * (ty - p[:, 1]) - (q[:, 1] - p[:, 1]) * (tx - p[:, 0]) >= -1e-12
    steep = np.maximum(nz, 1e-6)
    z = a[:, 2] - ((tx - a[:, 0]) * normal[:, 0] + (ty - a[:, 1]) * normal[:, 1]) / steep + r * nz - r
    return np.where(inside, z, -np.inf)


def shadow(triangles: Floats, level: float) -> BaseGeometry:
    """What of a closed mesh rises above a level, seen from above: what looks up there covers it."""
    normal_z = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])[:, 2]
    triangles = triangles[normal_z > FLAT]
    over = triangles[:, :, 2] - level
    count = (over > 0).sum(axis=1)
    return seen_from_above(
        np.concatenate([triangles[count == 3][:, :, :2], *(_cut_off(triangles, over, count == n) for n in (1, 2))])
    )


def _cut_off(triangles: Floats, over: Floats, chosen: NDArray[np.bool_]) -> Floats:
    """What of triangles of which one corner, or two, is over a level lies over it, seen from above (n, 3, 2)."""
    triangles, over = triangles[chosen], over[chosen]
    if not len(triangles):
        return np.empty((0, 3, 2))
    single = (over > 0).sum(axis=1)[0] == 1
    alone = (over > 0).argmax(axis=1) if single else (over <= 0).argmax(axis=1)  # the corner on its own side
    rows, turn = np.arange(len(over))[:, None], (alone[:, None] + np.arange(3)) % 3
    (a, b, c), h = np.moveaxis(triangles[rows, turn][:, :, :2], 1, 0), over[rows, turn]

    def between(p: Floats, q: Floats, hp: Floats, hq: Floats) -> Floats:
        """From the corner that is over it, so that neighbours come to the very same place."""
        return np.asarray(p + (q - p) * (hp / (hp - hq))[:, None])

    if single:
        on_ab, on_ac = between(a, b, h[:, 0], h[:, 1]), between(a, c, h[:, 0], h[:, 2])
        return np.stack([a, on_ab, on_ac], axis=1)
    on_ab, on_ac = between(b, a, h[:, 1], h[:, 0]), between(c, a, h[:, 2], h[:, 0])
    return np.concatenate([np.stack([on_ab, b, c], axis=1), np.stack([on_ab, c, on_ac], axis=1)])


def seen_from_above(flat: Floats) -> BaseGeometry:
    """The area that triangles (n, 3, 2) cover."""
    a, b = flat[:, 1] - flat[:, 0], flat[:, 2] - flat[:, 0]
    doubled = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]
    turned = np.where((doubled < 0)[:, None, None], flat[:, ::-1], flat)[np.abs(doubled) > FLAT]
    if not len(turned):
        return shapely.Polygon()
    # a hair wider, so that neighbours join
    whole = CrossSection(_around(turned), FillRule.NonZero).offset(HAIR, JoinType.Miter)
    rings = [shapely.LinearRing(ring) for ring in whole.to_polygons() if len(ring) > 2]
    return shapely.build_area(shapely.multilinestrings(rings))  # a hole may hold an island


def _around(triangles: Floats) -> list[Floats]:
    """Closed lines that wind as often about each place as counter-clockwise triangles (n, 3, 2) cover it: where two
    meet along a side, they run there and back, and neither is needed.
    """
    corners, at = np.unique(triangles.reshape(-1, 2) @ np.array([1, 1j]), return_inverse=True)
    a, b = at.reshape(-1), at.reshape(-1, 3)[:, [1, 2, 0]].reshape(-1)
    sides, of = np.unique(np.minimum(a, b) * len(corners) + np.maximum(a, b), return_inverse=True)
    over = np.bincount(of.reshape(-1), weights=np.sign(b - a)).astype(np.int64)  # there, less back
    low, high = np.divmod(np.repeat(sides, np.abs(over)), len(corners))
    forth = np.repeat(over > 0, np.abs(over))
    return [np.column_stack([corners[loop].real, corners[loop].imag]) for loop in _loops(
        np.where(forth, low, high).tolist(), np.where(forth, high, low).tolist()
    )]  # fmt: skip


def _loops(starts: list[int], ends: list[int]) -> list[list[int]]:
    """Directed sides, as many away from each corner as to it, as closed walks that come to no corner twice: the union
    of walks that touch themselves may lose a hole.
    """
    on: dict[int, list[int]] = {}
    for start, end in zip(starts, ends, strict=True):
        on.setdefault(start, []).append(end)
    found = []
    for first in starts:
        walk, at = [first], {first: 0}
        while on[walk[-1]]:
            here = on[walk[-1]].pop()
            if here in at:  # closed: what came before goes on
                loop = walk[at[here] :]
                found.append(loop)
                for corner in loop[1:]:
                    del at[corner]
                del walk[at[here] + 1 :]
            else:
                at[here] = len(walk)
                walk.append(here)
    return found
