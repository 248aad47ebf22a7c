"""How fast a mill removes the stock that really stands on its way: what the plan says, looked at again."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.followed.cuts import Cut
from lean_ledger.core.geometry.masses import Mass
from lean_ledger.core.operations.milling.slowed import WINDOW
from lean_ledger.core.operations.milling.taken import Heights, Map, rates
from lean_ledger.library.types import ToolKind

LOOKED_AT = (ToolKind.END_MILL, ToolKind.FACE_MILL)
UPRIGHT = 1e-9  # mm², of a triangle seen from above, below which it is a wall
SMALL = 6  # pixels: triangles that are looked at together
AT_ONCE = 4000


def cut_sideways(cut: Cut) -> bool:
    """Whether it is a mill's, that takes its stock from the side."""
    return cut.tool.kind in LOOKED_AT and not cut.motion.turns


def most_per_mm(cut: Cut, before: Mass) -> tuple[float, ...]:
    """Of each cutting stroke the greatest mm³ that it takes for a mm of way, in the mean over half the mill's width.

    `before` is the stock in the cut's axes. On a floor the mill is looked at a pixel thinner: beside a wall of 30 a
    hair of 0.15 that the map has or has not would be 4.5 mm², many times the layer that is taken.
    """
    lines = [s.points for s in cut.motion.strokes if not s.is_rapid]
    if not lines:
        return ()
    radius = cut.tool.diameter / 2
    heights = Heights(lines, radius, cut.step or cut.tool.diameter)
    vertices, triangles = before.triangles()
    raise_to(heights, np.asarray(vertices)[np.asarray(triangles)])
    beside = heights.pixel if cut.on_floor else 0.0
    steps = [heights.cut(line, radius - beside) for line in lines]
    return tuple(float(rate.max(initial=0.0)) for rate in rates(lines, steps, WINDOW * cut.tool.diameter))


def raise_to(heights: Heights, triangles: NDArray[np.float64]) -> None:
    """The map as high as triangles (n × 3 × 3, mm) stand over each pixel's middle."""
    flat = heights.cells_of(triangles[:, :, :2])
    a, b, c = flat[:, 0], flat[:, 1], flat[:, 2]
    twice = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    low = np.ceil(flat.min(axis=1)).astype(int)
    high = np.floor(flat.max(axis=1)).astype(int)
    shape = np.array(heights.top.shape)
    low, high = np.maximum(low, 0), np.minimum(high, shape - 1)
    # what looks up, and lies over a pixel's middle at all
    worth = (twice > UPRIGHT) & (low <= high).all(axis=1)
    small = worth & ((high - low) < SMALL).all(axis=1)
    i, j = (grid.ravel() for grid in np.indices((SMALL, SMALL)))
    for part in np.array_split(np.flatnonzero(small), small.sum() // AT_ONCE + 1):
        _raise(heights, flat[part], triangles[part, :, 2], low[part, 0, None] + i, low[part, 1, None] + j)
    large = np.flatnonzero(worth & ~small)
    for corners, z, (i0, j0), (i1, j1) in zip(
        flat[large].tolist(), triangles[large, :, 2].tolist(), low[large].tolist(), high[large].tolist(), strict=True
    ):
        _raise_window(heights.top[i0 : i1 + 1, j0 : j1 + 1], corners, z, i0, j0)


def _raise_window(top: Map, corners: list[list[float]], z: list[float], i0: int, j0: int) -> None:
    """A part of the map, from its pixel (i0, j0) on, under one triangle that covers many of them."""
    (ax, ay), (bx, by), (cx, cy) = corners
    twice = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
    i, j = np.arange(i0, i0 + top.shape[0])[:, None] - ax, np.arange(j0, j0 + top.shape[1])[None, :] - ay
    of_b = (i * (cy - ay) - j * (cx - ax)) / twice
    of_c = ((bx - ax) * j - (by - ay) * i) / twice
    inside = (of_b >= 0) & (of_c >= 0) & (of_b + of_c <= 1)
    np.maximum(top, z[0] + of_b * (z[1] - z[0]) + of_c * (z[2] - z[0]), out=top, where=inside)


def _raise(
    heights: Heights, flat: NDArray[np.float64], z: NDArray[np.float64], i: NDArray[np.int_], j: NDArray[np.int_]
) -> None:  # fmt: skip
    """Of each triangle the pixels (i, j) that its plane covers, in whole pixels from the map's corner."""
    a, b, c = (flat[:, k, :, None] for k in range(3))
    twice = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    of_b = ((i - a[:, 0]) * (c[:, 1] - a[:, 1]) - (j - a[:, 1]) * (c[:, 0] - a[:, 0])) / twice
    of_c = ((b[:, 0] - a[:, 0]) * (j - a[:, 1]) - (b[:, 1] - a[:, 1]) * (i - a[:, 0])) / twice
    inside = (of_b >= 0) & (of_c >= 0) & (of_b + of_c <= 1)
    inside &= (i < heights.top.shape[0]) & (j < heights.top.shape[1])
    height = z[:, :1] + of_b * (z[:, 1:2] - z[:, :1]) + of_c * (z[:, 2:3] - z[:, :1])
    i, j = np.broadcast_to(i, inside.shape), np.broadcast_to(j, inside.shape)
    np.maximum.at(heights.top, (i[inside], j[inside]), height[inside])
