"""How long the machine takes for a path.

The rules are those of `program-time` in docs/formats.md: a rapid starts and ends at rest; consecutive feed moves are
joined at the speed that keeps within the corner tolerance; each move is a trapezoid or a triangle of speed over time.
Lengths mm, times s, speeds mm/s inside and mm/min at the interface.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.errors import PlanError
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.library.types import Machine

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Stroke:
    """A polyline walked at one feed, or in rapid where `feed_mm_per_min` is 0.

    Consecutive feed strokes are one chain: the tool does not stop between them unless the direction asks for it.
    """

    points: tuple[Vec, ...]
    feed_mm_per_min: float = 0.0

    @property
    def is_rapid(self) -> bool:
        return self.feed_mm_per_min == 0.0

    @property
    def length(self) -> float:
        return float(np.linalg.norm(np.diff(np.array(self.points), axis=0), axis=1).sum())


@dataclass(frozen=True, slots=True)
class StrokeTime:
    cut: float
    rapid: float
    cut_length: float
    rapid_length: float
    nominal_cut: float  # length / feed, as if no move had to start and stop

    def __add__(self, other: StrokeTime) -> StrokeTime:
        return StrokeTime(
            self.cut + other.cut,
            self.rapid + other.rapid,
            self.cut_length + other.cut_length,
            self.rapid_length + other.rapid_length,
            self.nominal_cut + other.nominal_cut,
        )


NO_TIME = StrokeTime(0.0, 0.0, 0.0, 0.0, 0.0)


def rapid(*points: Vec) -> Stroke:
    return Stroke(points)


def feed(feed_mm_per_min: float, points: Sequence[Vec]) -> Stroke:
    """A cut along `points`. Raises PlanError where the feed is not above 0."""
    if feed_mm_per_min <= 0:
        raise PlanError("feed-not-positive", f"feed is {feed_mm_per_min:g} mm/min; it must be above 0")
    return Stroke(tuple(points), feed_mm_per_min)


def time_strokes(strokes: Iterable[Stroke], machine: Machine) -> StrokeTime:
    """Seconds and lengths of a path, rapids and cuts apart.

    >>> from lean_ledger.library import shipped_library
    >>> mill = shipped_library().machines[0]  # 3000 mm/s², 25 m/min in X
    >>> time_strokes([feed(600, [(0, 0, 0), (100, 0, 0)])], mill).cut.__round__(4)
    10.0033
    """
    total = NO_TIME
    chain: list[Stroke] = []
    for stroke in strokes:
        if stroke.is_rapid:
            total += _time_chain(chain, machine)
            chain = []
            total += _time_rapid(stroke, machine)
        else:
            chain.append(stroke)
    return total + _time_chain(chain, machine)


def rapid_seconds(start: Vec, end: Vec, machine: Machine) -> float:
    """One straight rapid from rest to rest."""
    delta = np.abs(np.array(end) - np.array(start))
    length = float(np.linalg.norm(delta))
    if length < 1e-9:
        return 0.0
    share = delta / length
    moving = share > 1e-12
    speed = float((np.array(machine.rapid)[moving] / 60 / share[moving]).min())
    acceleration = float((np.array(machine.acceleration)[moving] / share[moving]).min())
    return trapezoid_seconds(length, 0.0, speed, 0.0, acceleration)


def trapezoid_seconds(length: float, entry: float, top: float, exit: float, acceleration: float) -> float:
    """Time over `length` from speed `entry` to `exit`, at most `top`, all in mm/s, mm and mm/s².

    >>> trapezoid_seconds(100, 0, 10, 0, 100)  # 0.1 s up, 9.9 s along 99 mm, 0.1 s down
    10.1
    """
    peak = min(top, sqrt(acceleration * length + (entry * entry + exit * exit) / 2))
    ramps = (peak - entry) / acceleration + (peak - exit) / acceleration
    ramp_length = (peak * peak - entry * entry + peak * peak - exit * exit) / 2 / acceleration
    flat = max(0.0, length - ramp_length)
    return ramps + (flat / peak if peak > 0 else 0.0)


def _time_rapid(stroke: Stroke, machine: Machine) -> StrokeTime:
    seconds = sum(rapid_seconds(a, b, machine) for a, b in zip(stroke.points, stroke.points[1:], strict=False))
    return StrokeTime(0.0, seconds, 0.0, stroke.length, 0.0)


def _time_chain(chain: Sequence[Stroke], machine: Machine) -> StrokeTime:
    if not chain:
        return NO_TIME
    steps: list[Floats] = []
    speeds: list[Floats] = []
    for stroke in chain:
        run = np.diff(np.array(stroke.points, dtype=float), axis=0)
        steps.append(run)
        speeds.append(np.full(len(run), stroke.feed_mm_per_min / 60))
    delta, top = np.concatenate(steps), np.concatenate(speeds)
    length = np.linalg.norm(delta, axis=1)
    keep = length > 1e-9
    delta, top, length = delta[keep], top[keep], length[keep]
    if len(length) == 0:
        return NO_TIME
    share = np.abs(delta) / length[:, None]
    with np.errstate(divide="ignore"):
        acceleration = (np.array(machine.acceleration) / np.maximum(share, 1e-12)).min(axis=1)
    joins = _join_speeds(delta / length[:, None], top, acceleration, machine.corner_tolerance)
    seconds = _plan(length.tolist(), top.tolist(), acceleration.tolist(), joins.tolist())
    cut_length = float(length.sum())
    return StrokeTime(seconds, 0.0, cut_length, 0.0, float((length / top).sum()))


def _join_speeds(direction: Floats, top: Floats, acceleration: Floats, tolerance: float) -> Floats:
    """Greatest speed at each join of two moves: sqrt(a·t·sin(θ/2) / (1 − sin(θ/2))), θ the inner angle."""
    cosine = np.clip(-(direction[:-1] * direction[1:]).sum(axis=1), -1.0, 1.0)
    half_sine = np.sqrt((1 - cosine) / 2)
    lesser_a = np.minimum(acceleration[:-1], acceleration[1:])
    lesser_v = np.minimum(top[:-1], top[1:])
    gap = 1 - half_sine
    with np.errstate(divide="ignore", invalid="ignore"):
        corner = np.sqrt(lesser_a * tolerance * half_sine / gap)
    corner = np.where(gap < 1e-12, np.inf if tolerance > 0 else 0.0, corner)
    return np.minimum(lesser_v, corner)


def _plan(length: list[float], top: list[float], acceleration: list[float], joins: list[float]) -> float:
    """A backward and a forward pass make every join speed reachable; then the moves are timed one by one."""
    ends = [0.0, *joins, 0.0]
    for i in range(len(length) - 1, 0, -1):
        reachable = sqrt(ends[i + 1] ** 2 + 2 * acceleration[i] * length[i])
        ends[i] = min(ends[i], reachable)
    seconds = 0.0
    for i in range(len(length)):
        reachable = sqrt(ends[i] ** 2 + 2 * acceleration[i] * length[i])
        ends[i + 1] = min(ends[i + 1], reachable)
        seconds += trapezoid_seconds(length[i], ends[i], top[i], ends[i + 1], acceleration[i])
    return seconds
