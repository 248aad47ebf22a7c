"""What a mill takes at each place of its path, from the stock that stands there and not from its nominal step.

The stock is a map of heights over the path, turned against the axes so that no straight cut lies along its rows. The
mill is a flat disc that walks along the path; what its steps lower the map by is what they take.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import ceil, cos, sin
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.geometry.vectors import Vec

TURNED = 0.3  # radians of the map against the axes
FINEST, COARSEST = 80, 40  # pixels across the tool
OF_STEP = 5  # pixels across the radial step, where the tool's own bounds leave room
PHASES = 4  # places of the disc between two pixels, each way
MOST_PIXELS = 4_000_000
STEP = 1 / 12  # of the diameter that the tool walks at once, at least
OF_SWEPT = 1 / 5  # of the diameter, where only what stays behind is asked for
LEVEL = 1e-6

Rectangle = tuple[float, float, float, float]
Line3 = tuple[Vec, ...]
Points = NDArray[np.float64]  # points of a line, n × 3, mm
Map = NDArray[Any]
Discs = list[list[Map]]


@dataclass(frozen=True)
class Swept:
    """What was cut before: lines, the radius of the tool that walked them, and mm that its point is long."""

    lines: Sequence[Line3 | Points]
    radius: float
    point: float = 0.0


@dataclass(frozen=True)
class Steps:
    """Along a line: where each step ends, mm from its start, and what it takes, mm³."""

    ends: NDArray[np.float64]
    volumes: NDArray[np.float64]


def rates(lines: Sequence[Line3], steps: Sequence[Steps], window: float) -> list[NDArray[np.float64]]:
    """Of each step the mm³ that are taken for each mm of way, in the mean over `window` mm around it.

    Lines that follow each other without a rapid are one way.
    """
    found: list[NDArray[np.float64]] = []
    for first, last in _chains(lines):
        own = steps[first:last]
        starts = np.concatenate(([0.0], np.cumsum([s.ends[-1] if len(s.ends) else 0.0 for s in own])))
        ends = np.concatenate([s.ends + start for s, start in zip(own, starts, strict=False)])
        rate = _rate(ends, np.concatenate([s.volumes for s in own]), window)
        found += np.split(rate, np.cumsum([len(s.ends) for s in own])[:-1])
    return found


def _chains(lines: Sequence[Line3]) -> Iterator[tuple[int, int]]:
    first = 0
    for k in range(1, len(lines) + 1):
        if k == len(lines) or lines[k][0] != lines[k - 1][-1]:
            yield first, k
            first = k


def _rate(ends: NDArray[np.float64], volumes: NDArray[np.float64], window: float) -> NDArray[np.float64]:
    if not len(ends):
        return ends
    ends = np.concatenate(([0.0], ends))
    total = np.concatenate(([0.0], np.cumsum(volumes)))
    middle = (ends[1:] + ends[:-1]) / 2
    low, high = np.maximum(middle - window / 2, 0.0), np.minimum(middle + window / 2, ends[-1])
    taken: NDArray[np.float64] = np.interp(high, ends, total) - np.interp(low, ends, total)
    rate: NDArray[np.float64] = taken / np.maximum(high - low, 1e-9)
    return rate


class Heights:
    """The stock's top over a path, mm; −inf where nothing stands."""

    def __init__(self, lines: Sequence[Line3 | Points], radius: float, step: float) -> None:
        """Over where the `lines` go; `step` is the radial depth that is to be told apart."""
        points = np.concatenate([np.asarray(line)[:, :2] for line in lines])
        turned = _turned(points)
        low, high = turned.min(axis=0) - 1.5 * radius, turned.max(axis=0) + 1.5 * radius
        pixel = min(max(step / OF_STEP, 2 * radius / FINEST), 2 * radius / COARSEST)
        area = float(np.prod(high - low))
        self.pixel = float(max(pixel, (area / MOST_PIXELS) ** 0.5))
        self._low = low
        self._shape = tuple(int(n) + 1 for n in np.ceil((high - low) / self.pixel))
        self.top: NDArray[np.float64] = np.full(self._shape, -np.inf)
        self._made: dict[float, Discs] = {}

    def fill(self, rectangle: Rectangle, top: float) -> None:
        """A block stands there, up to `top`."""
        x0, y0, x1, y1 = rectangle
        u = self._low[0] + (np.arange(self._shape[0])[:, None] + 0.5) * self.pixel
        v = self._low[1] + (np.arange(self._shape[1])[None, :] + 0.5) * self.pixel
        x, y = u * cos(TURNED) + v * sin(TURNED), v * cos(TURNED) - u * sin(TURNED)
        inside = (x >= x0) & (x <= x1) & (y >= y0) & (y <= y1)
        self.top[inside] = np.maximum(self.top[inside], top)

    def sweep(self, swept: Swept) -> None:
        """Lower what a tool took that went along lines."""
        discs = self._discs(swept.radius)
        above = [[np.where(disc, 0.0, np.inf) for disc in row] for row in discs]  # added to: a masked minimum is slow
        for line in swept.lines:
            for walked, _ in _walked(line, 2 * swept.radius * OF_SWEPT):
                places = walked[self._met(walked, self._reach(swept.radius))]
                if not len(places):
                    continue
                level, cells = places[:, 2] + swept.point, self._cells(places)
                if level.min() == level.max():
                    self._lower_flat(cells, discs, float(level[0]))
                    continue
                for cell, z in zip(cells, level, strict=True):
                    window, over = self._window(self.top, above, cell)
                    np.minimum(window, over + z, out=window)

    def _lower_flat(self, cells: list[list[int]], discs: Discs, z: float) -> None:
        """All discs of a run at one level are painted first: what is painted is lowered once."""
        top, low = self._part(cells, len(discs[0][0]) // 2)
        painted = np.zeros(top.shape, dtype=np.bool_)
        for i, j, u, v in cells:
            window, mask = self._window(painted, discs, [i - low[0], j - low[1], u, v])
            window |= mask
        np.minimum(top, z, out=top, where=painted)

    def cut(self, line: Line3 | Points, radius: float) -> Steps:
        """What a tool takes along a line; the map is lowered by it."""
        ends: list[float] = [0.0]
        volumes: list[NDArray[np.float64]] = []
        for places, lengths in _walked(line, max(2 * radius * STEP, 3 * self.pixel)):
            level = places[:, 2]
            flat = len(places) > 1 and float(np.ptp(level)) < LEVEL
            took = self._cut_flat(places, radius) if flat else self._cut_down(places, radius)
            volumes.append(took * self.pixel**2)
            ends.extend(ends[-1] + np.cumsum(lengths))
        return Steps(np.array(ends[1:]), np.concatenate(volumes) if volumes else np.zeros(0))

    def _cut_flat(self, places: NDArray[np.float64], radius: float) -> NDArray[np.float64]:
        """At one level: painted from the end to the start, each pixel keeps the first step that comes to it."""
        discs, cells = self._discs(radius), self._cells(places)
        top, low = self._part(cells, self._reach(radius))
        first = np.full(top.shape, -1, dtype=np.int32)
        for k in range(len(places) - 1, -1, -1):
            i, j, u, v = cells[k]
            window, mask = self._window(first, discs, [i - low[0], j - low[1], u, v])
            if window.size:
                np.copyto(window, k, where=mask)
        z = float(places[0, 2])
        met = (first >= 0) & (top > z)
        depth = top[met] - z
        top[met] = z
        took: NDArray[np.float64] = np.bincount(first[met], weights=depth, minlength=len(places)).astype(float)
        return took

    def _part(self, cells: list[list[int]], reach: int) -> tuple[Map, tuple[int, int]]:
        """The map where discs lie, and its first pixel: thousands of short lines lie on one of millions of pixels."""
        i, j = [cell[0] for cell in cells], [cell[1] for cell in cells]
        low = (max(min(i) - reach, 0), max(min(j) - reach, 0))
        high = (max(max(i) + reach + 1, low[0]), max(max(j) + reach + 1, low[1]))
        return self.top[low[0] : high[0], low[1] : high[1]], low

    def _cut_down(self, places: NDArray[np.float64], radius: float) -> NDArray[np.float64]:
        discs = self._discs(radius)
        took = np.zeros(len(places))
        for k, (cell, z) in enumerate(zip(self._cells(places), places[:, 2], strict=True)):
            window, mask = self._window(self.top, discs, cell)
            if window.size:
                lower = np.maximum(window - z, 0.0) * mask
                took[k] = lower.sum()
                window -= lower
        return took

    def cells_of(self, points: NDArray[np.float64]) -> NDArray[np.float64]:
        """Points (… × 2, mm) in pixels, whole at the middle of one."""
        found: NDArray[np.float64] = (_turned(points) - self._low) / self.pixel - 0.5
        return found

    def _cells(self, places: NDArray[np.float64]) -> list[list[int]]:
        """Of each place its pixel, two numbers, and where in it, two phases."""
        at = (_turned(places[:, :2]) - self._low) / self.pixel
        cell = np.floor(at)
        phase = ((at - cell) * PHASES).astype(int)
        found: list[list[int]] = np.hstack([cell.astype(int), phase]).tolist()
        return found

    def _met(self, places: NDArray[np.float64], reach: int) -> NDArray[np.bool_]:
        """Whether a disc there comes onto the map."""
        at = (_turned(places[:, :2]) - self._low) / self.pixel
        found: NDArray[np.bool_] = ((at > -reach - 1) & (at < np.array(self._shape) + reach + 1)).all(axis=1)
        return found

    def _discs(self, radius: float) -> Discs:
        """The disc at each phase, on pixels that reach one farther than it; made once for each radius."""
        if radius not in self._made:
            self._made[radius] = self._disc(radius)
        return self._made[radius]

    def _disc(self, radius: float) -> Discs:
        reach = self._reach(radius)
        at = np.arange(-reach, reach + 1)
        off = [at + 0.5 - (k + 0.5) / PHASES for k in range(PHASES)]
        most = (radius / self.pixel) ** 2
        return [[u[:, None] ** 2 + v[None, :] ** 2 <= most for v in off] for u in off]

    def _reach(self, radius: float) -> int:
        return ceil(radius / self.pixel) + 1

    def _window(self, of: Map, discs: list[list[Map]], cell: list[int]) -> tuple[Map, Map]:
        """The part of a map under the disc, and the disc as far as it lies on the map."""
        i, j, u, v = cell
        disc = discs[u][v]
        reach = len(disc) // 2
        i0, j0 = max(i - reach, 0), max(j - reach, 0)
        i1, j1 = min(i + reach + 1, of.shape[0]), min(j + reach + 1, of.shape[1])
        if i0 >= i1 or j0 >= j1:
            return of[:0, :0], disc[:0, :0]
        return of[i0:i1, j0:j1], disc[i0 - i + reach : i1 - i + reach, j0 - j + reach : j1 - j + reach]


def _turned(points: NDArray[np.float64]) -> NDArray[np.float64]:
    found: NDArray[np.float64] = points @ np.array([[cos(TURNED), sin(TURNED)], [-sin(TURNED), cos(TURNED)]])
    return found


def _walked(line: Line3 | Points, step: float) -> Iterator[tuple[NDArray[np.float64], NDArray[np.float64]]]:
    """The places after each step along a line, and the steps' lengths, mm: runs at one level, and others one by one."""
    for level, points in _runs(np.asarray(line)):
        moves = np.diff(points, axis=0)
        lengths = np.sqrt((moves**2).sum(axis=1))
        counts = np.maximum(1, np.ceil(lengths / step).astype(int))
        of = np.repeat(np.arange(len(moves)), counts)
        within = np.arange(len(of)) - np.repeat(np.cumsum(counts) - counts, counts) + 1
        places = points[of] + (within / counts[of])[:, None] * moves[of]
        each = lengths[of] / counts[of]
        if level:  # from its start: what stands there is taken with the first step
            places, each = np.vstack([points[0], places]), np.concatenate(([0.0], each))
        yield places, each


def _runs(line: Points) -> Iterator[tuple[bool, Points]]:
    """Parts of a line at one level, and those that go up or down."""
    level = np.abs(np.diff(line[:, 2])) < LEVEL
    if not len(level):
        return
    bounds = [0, *(np.flatnonzero(level[1:] != level[:-1]) + 1).tolist(), len(level)]
    for first, last in pairwise(bounds):
        run = line[first : last + 1]
        if (run[1:] != run[:-1]).any():
            yield bool(level[first]), run
