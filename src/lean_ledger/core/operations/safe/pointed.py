"""How deep a pointed tool goes straight down before its cone or its body meets the part."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import floor, inf, radians, tan

import numpy as np
import shapely
from numpy.typing import NDArray

from lean_ledger.core.geometry.dropping import Floats
from lean_ledger.core.operations.milling.surface_paths import Over, triangles_of

CELL = 4.0  # mm of the grid that places of edges are kept by
SPACING = 0.2  # mm between the places of an edge that are looked at
RINGS = (0.0, 0.35, 0.7, 0.95)  # of the radius, where the faces under the tool are looked at
AROUND = 12  # places of a ring
UPRIGHT = 1e-8  # mm², the square of how far an upright edge leans
FLAT = 1e-9


def lowest_tip(over: Over, at: tuple[float, float], radius: float, tip_angle: float, astray: float) -> float:
    """The level of the tip below which a cone of `tip_angle`, degrees, under a body of `radius`, mm, cuts the part by
    more than `astray` across; −inf where nothing of the part is within its radius.

    A place at a distance d of the axis and a level p lets the tip down to p − (d + astray) / tan(angle / 2): edges are
    looked at all along, faces under rings of places.
    """
    steep = tan(radians(tip_angle / 2))
    reach = radius - astray
    edges = _edges(over).near(at, reach)
    d = np.hypot(edges[:, 0] - at[0], edges[:, 1] - at[1])
    within = d < reach
    best = float((edges[within, 2] - (d[within] + astray) / steep).max(initial=-inf))
    rings = [_ring(at, share * reach) for share in RINGS]
    for share, top in zip(RINGS, _tops(over, rings), strict=True):
        best = max(best, top - (share * reach + astray) / steep)
    return best


def _ring(at: tuple[float, float], radius: float) -> Floats:
    turns = 2 * np.pi * np.arange(AROUND) / AROUND
    return np.array(at) + radius * np.stack([np.cos(turns), np.sin(turns)], axis=1)


@dataclass(frozen=True)
class _Places:
    """Points (n, 3) by the cells of a grid over X and Y: `first` cell, cells along Y, and the cell of each point."""

    points: Floats
    cells: NDArray[np.int64]
    first: tuple[int, int]
    along: int

    def near(self, at: tuple[float, float], reach: float) -> Floats:
        """Those of the cells that lie within `reach` of a place, mm, and of some around it."""
        (x0, x1), (y0, y1) = ([floor((at[i] + by) / CELL) - self.first[i] for by in (-reach, reach)] for i in (0, 1))
        y0, y1 = max(y0, 0), min(y1, self.along - 1)
        rows = range(max(x0, 0), x1 + 1) if y0 <= y1 else ()
        ends = np.searchsorted(self.cells, [(x * self.along + y0, x * self.along + y1 + 1) for x in rows])
        return np.concatenate([self.points[:0], *(self.points[a:b] for a, b in ends.reshape(-1, 2))])


@lru_cache(maxsize=32)
def _edges(over: Over) -> _Places:
    """Places along all edges of the mesh."""
    a, b = _ends(triangles_of(over))
    # an upright edge says all with its upper end
    upright = ((b - a)[:, :2] ** 2).sum(axis=1) < UPRIGHT
    tops = np.where((a[:, 2] > b[:, 2])[:, None], a, b)[upright]
    a, b = a[~upright], b[~upright]
    counts = np.ceil(np.sqrt(((b - a) ** 2).sum(axis=1)) / SPACING).astype(np.int64)
    of = np.repeat(np.arange(len(a)), counts + 1)
    k = np.arange(len(of)) - np.repeat(np.cumsum(counts + 1) - counts - 1, counts + 1)
    shares = np.where(k == counts[of], 1.0, k * (1.0 / counts[of]))
    points = np.concatenate([tops, a[of] + shares[:, None] * (b - a)[of]])
    cell = np.floor(points[:, :2] / CELL).astype(np.int64)
    first = cell.min(axis=0)
    along = int(cell[:, 1].max() - first[1]) + 1
    cells = (cell[:, 0] - first[0]) * along + cell[:, 1] - first[1]
    order = np.argsort(cells, kind="stable")
    return _Places(np.asarray(points[order], dtype=np.float64), cells[order], (int(first[0]), int(first[1])), along)


def _ends(triangles: Floats) -> tuple[Floats, Floats]:
    """Both ends of each edge, once. Those within a level or an upright face are left out: a cone touches the first on
    its axis or at its border, the other at its upper border.
    """
    corners, at = np.unique(triangles.reshape(-1, 3).round(5), axis=0, return_inverse=True)
    ring, count = at.reshape(-1, 3), len(corners)
    ways = np.concatenate([ring[:, [k, (k + 1) % 3]] for k in range(3)])
    found, first, many = np.unique(
        ways.min(axis=1) * count + ways.max(axis=1), return_index=True, return_counts=True
    )  # fmt: skip
    normal = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])
    size = np.linalg.norm(normal, axis=1)
    normal /= np.where(size > FLAT, size, np.inf)[:, None]
    of = np.tile(np.arange(len(triangles)), 3)
    # the sum over the triangles of an edge: of two in one plane it is twice the normal
    total = np.zeros((len(found), 3))
    np.add.at(total, np.searchsorted(found, ways.min(axis=1) * count + ways.max(axis=1)), normal[of])
    own = normal[of[first]]
    plain = (np.abs(own[:, 2]) > 1 - FLAT) | (np.abs(own[:, 2]) < FLAT)
    within = (many == 2) & plain & (np.abs(total - 2 * own).max(axis=1) < FLAT)
    a, b = (corners[k] for k in np.divmod(found[~within], count))
    return a, b


def _tops(over: Over, rings: list[Floats]) -> list[float]:
    """The highest of the part over the places of each ring, seen from above; −inf where there is none of it."""
    corners, boxes = _looking_up(over)
    places = np.concatenate(rings)
    own = corners[boxes.query(shapely.box(*places.min(axis=0), *places.max(axis=0)))]
    a, b, c = own[:, 0], own[:, 1], own[:, 2]
    size = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    x, y = places[:, 0][:, None], places[:, 1][:, None]
    v = ((x - a[:, 0]) * (c[:, 1] - a[:, 1]) - (y - a[:, 1]) * (c[:, 0] - a[:, 0])) / size
    w = ((b[:, 0] - a[:, 0]) * (y - a[:, 1]) - (b[:, 1] - a[:, 1]) * (x - a[:, 0])) / size
    inside = (v >= 0) & (w >= 0) & (v + w <= 1)
    heights = np.where(inside, a[:, 2] + v * (b[:, 2] - a[:, 2]) + w * (c[:, 2] - a[:, 2]), -inf)
    return [float(part.max(initial=-inf)) for part in np.split(heights, len(rings))]


@lru_cache(maxsize=32)
def _looking_up(over: Over) -> tuple[Floats, shapely.STRtree]:
    """The triangles that look up, and their boxes in X and Y."""
    corners = triangles_of(over)
    a, b, c = corners[:, 0], corners[:, 1], corners[:, 2]
    size = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    up = corners[size > FLAT]
    least, most = up[:, :, :2].min(axis=1), up[:, :, :2].max(axis=1)
    return up, shapely.STRtree(shapely.box(least[:, 0], least[:, 1], most[:, 0], most[:, 1]))
