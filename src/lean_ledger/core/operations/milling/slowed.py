"""A mill's path at the feed that its engagement allows.

Where it takes k times what it may for each mm of way, it goes at 1/k of its feed: power, torque and the rate of removal
stay those of the straight cut that its data are for. A path that runs full width somewhere goes at a full-width feed.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise
from math import dist, radians, tan

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon, box

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.flat import way_seen
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.milling.taken import Heights, Line3, Rectangle, Steps, Swept, rates
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.operations.safe.mended import Mended
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.types import Tool, ToolKind

WINDOW = 0.5  # of the diameter, over which what is taken is a mean
ALLOWED = 1.1  # times what it may take, that it takes before it goes slower
SHARES = (0.07, 0.1, 0.12, 0.16, 0.2, 0.25, 0.32, 0.4, 0.5, 0.6, 0.7, 0.85, 1.0)  # few: programs stay short
BESIDE = 0.12  # of the diameter, that it slows down before and after
NOTHING = 1e-4  # mm
FAR = 2.0  # diameters around a path
ASIDE = 4  # pixels by which discs on a map are wider than their tools, and some
SAME = 9  # decimals of mm to which cuts are alike
THIN = 3.0  # pixels, below which a radial step is not measured well
CHORD = 1.5  # mm; shorter ones may be an arc's, and are not parted


#: Where a path cuts, by the very same points: another feed does not change them.
Lines = tuple[Same[Line3], ...]


def lines_of(motion: Motion) -> Lines:
    return tuple(Same(s.points) for s in motion.strokes if not s.is_rapid)


@dataclass(frozen=True)
class Standing:
    """What a path meets: a block up to `top` (mm, in the way's axes), less what was cut before."""

    rectangle: Rectangle
    top: float
    before: tuple[tuple[Lines, Tool], ...] = ()


@dataclass(frozen=True)
class Mill:
    """Diameter and radial step, mm, and the mm³ that it may take for each mm of way."""

    diameter: float
    ae: float
    most: float


@dataclass(frozen=True)
class Slowed:
    """A path, the greatest rate at which it removes, mm³/min, and the least share of its feed that it goes at."""

    motion: Motion
    rate: float = 0.0
    least_share: float = 1.0


def slowed(motion: Motion, vf: float, mill: Mill, standing: Standing) -> Slowed:
    """`vf` is the feed of the straight cut; strokes at a share of it, as on ramps, count with that share."""
    feeds = [s.feed_mm_per_min for s in motion.strokes if not s.is_rapid]
    asked = tuple((line, round(feed / vf, 6)) for line, feed in zip(lines_of(motion), feeds, strict=True))
    found = _parted(asked, mill, standing)
    parts = iter(found.parts)
    strokes: list[Stroke] = []
    for stroke in motion.strokes:
        if stroke.is_rapid:
            strokes.append(stroke)
            continue
        strokes += [Stroke(points, stroke.feed_mm_per_min * share) for points, share in next(parts)]
    if all(share == 1.0 for own in found.parts for _, share in own):
        return Slowed(motion, found.most * vf)
    return Slowed(replace(motion, strokes=tuple(strokes)), found.most * vf, found.least)


def in_stock(motion: Motion, mill: Mill, standing: Standing, clearance: float) -> Motion:
    """A path without the passes, from rapid to rapid, that take nothing: they lie beside the stock."""
    taken = _taken(lines_of(motion), mill.diameter, mill.ae, standing)
    volumes = iter(float(steps.volumes.sum()) for steps in taken.steps)
    passes: list[tuple[list[Stroke], float]] = []
    for stroke in motion.strokes:
        if stroke.is_rapid or not passes or passes[-1][0][-1].is_rapid:
            passes.append(([], 0.0))
        own, volume = passes.pop()
        passes.append(([*own, stroke], volume if stroke.is_rapid else volume + next(volumes)))
    if all(volume > NOTHING or own[0].is_rapid for own, volume in passes):
        return motion
    walk = Mended(clearance, standing.top)
    for own, volume in passes:
        for stroke in own:
            if stroke.is_rapid:
                walk.rapid(stroke)
            elif volume > NOTHING:
                walk.cut(stroke.feed_mm_per_min, stroke.points)
    return replace(motion, strokes=walk.ended()) if walk.cuts else motion


@dataclass(frozen=True)
class _Parted:
    parts: tuple[tuple[tuple[Line3, float], ...], ...]  # of each line: pieces and their share of its feed
    most: float  # mm³ for each mm of way at the feed of the straight cut
    least: float


@lru_cache(maxsize=512)
def _parted(asked: tuple[tuple[Same[Line3], float], ...], mill: Mill, standing: Standing) -> _Parted:
    taken = _taken(tuple(same for same, _ in asked), mill.diameter, mill.ae, standing)
    # a finishing cut is thinner than a pixel: one more or less is no more stock
    thin = mill.ae < THIN * taken.pixel
    allowed = max(ALLOWED, 1 + 2 * taken.pixel / mill.ae) if thin else ALLOWED
    parts: list[tuple[tuple[Line3, float], ...]] = []
    most, least = 0.0, 1.0
    lines = [same.value for same, _ in asked]
    by_line = rates(lines, taken.steps, WINDOW * mill.diameter)
    for (same, fed), steps, per_mm in zip(asked, taken.steps, by_line, strict=True):
        if not len(per_mm):
            parts.append(((same.value, 1.0),))
            continue
        rate = per_mm * fed
        beside = round(BESIDE * mill.diameter * len(rate) / max(steps.ends[-1], NOTHING))
        shares = _shares(rate / mill.most, allowed, min(beside, len(rate)))
        parts.append(_pieces(same.value, steps.ends, shares))
        most = max(most, float((rate * shares).max()))
        least = min(least, float(shares.min()))
    return _Parted(tuple(parts), most, least)


@dataclass(frozen=True)
class _Taken:
    steps: tuple[Steps, ...]  # along each line
    pixel: float  # mm, of the map that it was measured on


@lru_cache(maxsize=512)
def _taken(lines: Lines, diameter: float, ae: float, standing: Standing) -> _Taken:
    """Kept by the very same points: another feed asks for the same."""
    own = [_array(same) for same in lines]
    low, high = np.min([line.min(axis=0) for line in own], axis=0), np.max([line.max(axis=0) for line in own], axis=0)
    by = FAR * diameter  # nothing farther off is looked at
    x0, y0, x1, y1 = standing.rectangle
    near = (max(x0, float(low[0]) - by), max(y0, float(low[1]) - by),
            min(x1, float(high[0]) + by), min(y1, float(high[1]) + by))  # fmt: skip
    x, y, _ = lines[0].value[0]
    before = tuple((_counted_from(x, y, cut), tool) for cut, tool in standing.before)
    block = (round(near[0] - x, SAME), round(near[1] - y, SAME), round(near[2] - x, SAME), round(near[3] - y, SAME))
    return _measured(_counted_from(x, y, lines), diameter, ae, (block, standing.top), before)


@lru_cache(maxsize=20_000)
def _array(line: Same[Line3]) -> NDArray[np.float64]:
    return np.array(line.value)


class _Counted:
    """A line counted from elsewhere: alike cuts are measured once, wherever they lie."""

    __slots__ = ("_key", "points")

    def __init__(self, points: NDArray[np.float64]) -> None:
        self.points = points
        self._key = points.tobytes()

    def __hash__(self) -> int:
        return hash(self._key)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Counted) and other._key == self._key


def _counted_from(x: float, y: float, lines: Lines) -> tuple[_Counted, ...]:
    found = []
    for line in lines:
        points = _array(line).copy()
        points[:, :2] = np.round(points[:, :2] - (x, y), SAME) + 0.0  # no −0: its bytes are others
        found.append(_Counted(points))
    return tuple(found)


@lru_cache(maxsize=512)
def _measured(
    lines: tuple[_Counted, ...], diameter: float, ae: float, block: tuple[Rectangle, float],
    before: tuple[tuple[tuple[_Counted, ...], Tool], ...],
) -> _Taken:  # fmt: skip
    """Kept by value: more stock elsewhere makes the same cuts anew."""
    own = [line.points for line in lines]
    heights = Heights(own, diameter / 2, ae)
    heights.fill(*block)
    ways = shapely.geometrycollections([way_seen(line) for line in own])
    shapely.prepare(ways)
    for earlier, tool in before:
        if not shapely.dwithin(ways, _box_of(earlier), (diameter + tool.diameter) / 2 + ASIDE * heights.pixel):
            continue  # on the map, but nowhere near
        point = tool.diameter / 2 / tan(radians(tool.tip_angle / 2)) if tool.kind == ToolKind.DRILL else 0.0
        heights.sweep(Swept([line.points for line in earlier], tool.diameter / 2, point))
    return _Taken(tuple(heights.cut(line, diameter / 2) for line in own), heights.pixel)


def _box_of(lines: tuple[_Counted, ...]) -> Polygon:
    low = np.min([line.points[:, :2].min(axis=0) for line in lines], axis=0)
    high = np.max([line.points[:, :2].max(axis=0) for line in lines], axis=0)
    return box(*low, *high)


def _shares(times: NDArray[np.float64], allowed: float, beside: int) -> NDArray[np.float64]:
    """Of the feed, at each step: the greatest of SHARES with which no more is taken than allowed, there and beside."""
    ladder = np.array(SHARES)
    found = np.searchsorted(ladder, allowed / np.maximum(times, 1e-9), side="right") - 1
    padded = np.pad(ladder[np.maximum(found, 0)], beside, mode="edge")
    shares: NDArray[np.float64] = np.lib.stride_tricks.sliding_window_view(padded, 2 * beside + 1).min(axis=1)
    return shares


def _pieces(line: Line3, ends: NDArray[np.float64], shares: NDArray[np.float64]) -> tuple[tuple[Line3, float], ...]:
    """A line parted where the share changes: in long moves anywhere, short ones go at the least on them."""
    if float(np.ptp(shares)) == 0.0:
        return ((line, float(shares[0])),)
    found: list[tuple[list[Vec], float]] = []
    walked = 0.0
    for a, b in pairwise(line):
        length = dist(a, b)
        for point, share in _along_move(a, b, walked, ends, shares):
            if found and found[-1][1] == share:
                found[-1][0].append(point)
            else:
                found.append(([found[-1][0][-1] if found else line[0], point], share))
        walked += length
    return tuple((tuple(points), share) for points, share in found)


def _along_move(
    a: Vec, b: Vec, walked: float, ends: NDArray[np.float64], shares: NDArray[np.float64]
) -> list[tuple[Vec, float]]:
    """Where the parts of a straight move end, and the share of each."""
    length = dist(a, b)
    first = min(int(np.searchsorted(ends, walked + NOTHING, side="right")), len(ends) - 1)
    last = min(int(np.searchsorted(ends, walked + length - NOTHING, side="left")), len(ends) - 1)
    own = shares[first : max(first, last) + 1]
    if length <= CHORD or float(np.ptp(own)) == 0.0:
        return [(b, float(own.min()))]
    found: list[tuple[Vec, float]] = []
    for k in np.flatnonzero(np.diff(own)):
        part = (float(ends[first + k]) - walked) / length
        x, y, z = (round(p + (q - p) * part, 5) for p, q in zip(a, b, strict=True))
        found.append(((x, y, z), float(own[k])))
    return [*found, (b, float(own[-1]))]
