"""How deep a pointed tool goes straight down before its cone or its body meets the part."""

from __future__ import annotations

from functools import lru_cache
from math import ceil, inf, radians, tan

import numpy as np

from lean_ledger.core.geometry.dropping import Floats
from lean_ledger.core.operations.milling.surface_paths import Over, triangles_of

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
    edges = _edges(over)
    first, last = np.searchsorted(edges[:, 0], (at[0] - reach, at[0] + reach))
    d = np.hypot(edges[first:last, 0] - at[0], edges[first:last, 1] - at[1])
    within = d < reach
    best = float((edges[first:last][within, 2] - (d[within] + astray) / steep).max(initial=-inf))
    rings = [_ring(at, share * reach) for share in RINGS]
    for share, top in zip(RINGS, _tops(over, rings), strict=True):
        best = max(best, top - (share * reach + astray) / steep)
    return best


def _ring(at: tuple[float, float], radius: float) -> Floats:
    turns = 2 * np.pi * np.arange(AROUND) / AROUND
    return np.array(at) + radius * np.stack([np.cos(turns), np.sin(turns)], axis=1)


@lru_cache(maxsize=32)
def _edges(over: Over) -> Floats:
    """Places along all edges of the mesh, (n, 3), by their X."""
    corners = triangles_of(over)
    a = np.concatenate([corners[:, k] for k in range(3)])
    b = np.concatenate([corners[:, (k + 1) % 3] for k in range(3)])
    ends = np.unique(np.hstack([a, b]).round(5), axis=0)
    a, b = ends[:, :3], ends[:, 3:]
    length: Floats = np.sqrt(((b - a) ** 2).sum(axis=1))
    # an upright edge says all with its upper end
    upright = ((b - a)[:, :2] ** 2).sum(axis=1) < UPRIGHT
    found = [np.where((a[:, 2] > b[:, 2])[:, None], a, b)[upright]]
    for count in np.unique(np.ceil(length[~upright] / SPACING)):
        own = ~upright & (np.ceil(length / SPACING) == count)
        shares = np.linspace(0, 1, ceil(count) + 1)[:, None, None]
        found.append((a[own] + shares * (b[own] - a[own])).reshape(-1, 3))
    places = np.concatenate(found)
    return np.asarray(places[np.argsort(places[:, 0], kind="stable")], dtype=np.float64)


def _tops(over: Over, rings: list[Floats]) -> list[float]:
    """The highest of the part over the places of each ring, seen from above; −inf where there is none of it."""
    corners, least, most = _looking_up(over)
    places = np.concatenate(rings)
    low, high = places.min(axis=0), places.max(axis=0)
    own = corners[((most >= low) & (least <= high)).all(axis=1)]
    a, b, c = own[:, 0], own[:, 1], own[:, 2]
    size = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    x, y = places[:, 0][:, None], places[:, 1][:, None]
    v = ((x - a[:, 0]) * (c[:, 1] - a[:, 1]) - (y - a[:, 1]) * (c[:, 0] - a[:, 0])) / size
    w = ((b[:, 0] - a[:, 0]) * (y - a[:, 1]) - (b[:, 1] - a[:, 1]) * (x - a[:, 0])) / size
    inside = (v >= 0) & (w >= 0) & (v + w <= 1)
    heights = np.where(inside, a[:, 2] + v * (b[:, 2] - a[:, 2]) + w * (c[:, 2] - a[:, 2]), -inf)
    return [float(part.max(initial=-inf)) for part in np.split(heights, len(rings))]


@lru_cache(maxsize=32)
def _looking_up(over: Over) -> tuple[Floats, Floats, Floats]:
    """The triangles that look up, and the least and the most of each in X and Y."""
    corners = triangles_of(over)
    a, b, c = corners[:, 0], corners[:, 1], corners[:, 2]
    size = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    up = corners[size > FLAT]
    return up, up[:, :, :2].min(axis=1), up[:, :, :2].max(axis=1)
