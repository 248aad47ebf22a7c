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
LARGE = 2000  # pixels of a box that is looked at by itself
FILLED = 0.2  # of its box, twice the area of a triangle that fills it
AT_ONCE = 20_000  # rows of pixels under triangles that are looked at together
GRAZED = 1e-9  # of a pixel, and of a triangle, by which a middle on an edge still lies under it


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
    """The map as high as triangles (n × 3 × 3, mm) stand over each pixel's middle.

    Those that fill their box are looked at box by box, the others row by row: a thin one across the whole map covers
    few pixels, its box nearly all.
    """
    flat = heights.cells_of(triangles[:, :, :2])
    a, b, c = flat[:, 0], flat[:, 1], flat[:, 2]
    twice = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    low = np.maximum(np.ceil(flat.min(axis=1)).astype(int), 0)
    high = np.minimum(np.floor(flat.max(axis=1)).astype(int), np.array(heights.top.shape) - 1)
    # what looks up, and lies over a pixel's middle at all
    worth = (twice > UPRIGHT) & (low <= high).all(axis=1)
    box = (high - low + 1).prod(axis=1)
    large = worth & (box > LARGE) & (twice > FILLED * box)
    for corners, of, (i0, j0), (i1, j1) in zip(
        flat[large].tolist(), triangles[large, :, 2].tolist(), low[large].tolist(), high[large].tolist(), strict=True
    ):
        _raise_window(heights.top[i0 : i1 + 1, j0 : j1 + 1], corners, of, i0, j0)
    worth = np.flatnonzero(worth & ~large)
    rows = high[worth, 0] - low[worth, 0] + 1
    for part in np.split(np.arange(len(worth)), np.flatnonzero(np.diff(np.cumsum(rows) // AT_ONCE)) + 1):
        _raise(heights.top, flat[worth[part]], triangles[worth[part], :, 2], low[worth[part]], high[worth[part]])


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
    top: Map, flat: NDArray[np.float64], z: NDArray[np.float64], low: NDArray[np.int_], high: NDArray[np.int_]
) -> None:
    """Under triangles, in whole pixels from the map's corner, of which each covers what lies from low to high."""
    of, i = _counted(low[:, 0], high[:, 0])
    a, b, c = (flat[of, k] for k in range(3))
    twice = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    # shares of the corners b and c along a row: at its first pixel, and more with each further one
    b0 = ((i - a[:, 0]) * (c[:, 1] - a[:, 1]) + a[:, 1] * (c[:, 0] - a[:, 0])) / twice
    c0 = -((b[:, 0] - a[:, 0]) * a[:, 1] + (b[:, 1] - a[:, 1]) * (i - a[:, 0])) / twice
    b1, c1 = -(c[:, 0] - a[:, 0]) / twice, (b[:, 0] - a[:, 0]) / twice
    first, last = low[of, 1].astype(float), high[of, 1].astype(float)
    with np.errstate(divide="ignore", invalid="ignore"):
        for share, more in ((b0, b1), (c0, c1), (1 - b0 - c0, -b1 - c1)):
            edge = -share / more
            first = np.where(more > 0, np.fmax(first, np.ceil(edge - GRAZED)), first)
            last = np.where(more < 0, np.fmin(last, np.floor(edge + GRAZED)), last)
    some = first <= last
    row, j = _counted(first[some].astype(int), last[some].astype(int))
    i, of, b0, b1, c0, c1 = (values[some][row] for values in (i, of, b0, b1, c0, c1))
    of_b, of_c = b0 + b1 * j, c0 + c1 * j
    inside = (of_b >= -GRAZED) & (of_c >= -GRAZED) & (of_b + of_c <= 1 + GRAZED)
    z = z[of[inside]]
    height = z[:, 0] + of_b[inside] * (z[:, 1] - z[:, 0]) + of_c[inside] * (z[:, 2] - z[:, 0])
    np.maximum.at(top.reshape(-1), i[inside] * top.shape[1] + j[inside], height)


def _counted(first: NDArray[np.int_], last: NDArray[np.int_]) -> tuple[NDArray[np.int_], NDArray[np.int_]]:
    """All whole numbers from each first to its last, and of which pair each is."""
    counts = last - first + 1
    of = np.repeat(np.arange(len(counts)), counts)
    return of, np.arange(counts.sum()) - np.repeat(np.cumsum(counts) - counts, counts) + first[of]
