"""A chain of feed moves that are walked without a stop, and how long each of them takes.

The rules are those of `program-time` in docs/formats.md: moves are joined at the speed that keeps within the corner
tolerance, every join speed is made reachable from both sides, and each move is a trapezoid or a triangle of speed over
time. Lengths mm, times s, speeds mm/s, accelerations mm/s².
"""

from __future__ import annotations

from dataclasses import dataclass, field
from math import cos, hypot, inf, sin, sqrt

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.geometry.vectors import Vec

Floats = NDArray[np.float64]
NOTHING = 1e-9  # mm: a move of no length does not exist

#: The axes of a plane in turning order, and the one square to it: G17, G18, G19.
XY, ZX, YZ = (0, 1, 2), (2, 0, 1), (1, 2, 0)
Plane = tuple[int, int, int]


@dataclass(frozen=True, slots=True)
class Arc:
    """From one point to another about a centre in a plane, `angle` radians, above 0 counter-clockwise.

    Along the plane's third axis it goes evenly: a helix.
    """

    start: Vec
    end: Vec
    centre: Vec
    angle: float
    plane: Plane = XY

    @property
    def radius(self) -> float:
        i, j, _ = self.plane
        return hypot(self.start[i] - self.centre[i], self.start[j] - self.centre[j])

    @property
    def length(self) -> float:
        """A turn of radius 10 that falls by 5 is sqrt((20π)² + 5²) = 63.03 long."""
        k = self.plane[2]
        return hypot(self.radius * self.angle, self.end[k] - self.start[k])

    def at(self, share: float) -> Vec:
        """The point after a share of its way: half of a quarter turn of radius 10 from (10, 0) is (7.07, 7.07)."""
        i, j, k = self.plane
        x, y = self.start[i] - self.centre[i], self.start[j] - self.centre[j]
        c, s = cos(self.angle * share), sin(self.angle * share)
        point = [0.0, 0.0, 0.0]
        point[i] = self.centre[i] + x * c - y * s
        point[j] = self.centre[j] + x * s + y * c
        point[k] = self.start[k] + (self.end[k] - self.start[k]) * share
        return (point[0], point[1], point[2])


@dataclass
class MoveChain:
    """Columns of the moves: lengths, greatest speeds, accelerations, directions at both ends (three numbers each)."""

    length: list[float] = field(default_factory=list)
    top: list[float] = field(default_factory=list)
    acceleration: list[float] = field(default_factory=list)
    first: list[Vec] = field(default_factory=list)
    last: list[Vec] = field(default_factory=list)

    def __len__(self) -> int:
        return len(self.length)

    def line(self, start: Vec, end: Vec, speed: float, most: Vec) -> bool:
        """A straight move; `most` are the axes' accelerations. False for one of no length, which does not exist."""
        x, y, z = end[0] - start[0], end[1] - start[1], end[2] - start[2]
        length = sqrt(x * x + y * y + z * z)
        if length < NOTHING:
            return False
        d = (x / length, y / length, z / length)
        self.length.append(length)
        self.top.append(speed)
        self.acceleration.append(least_share(d, most))
        self.first.append(d)
        self.last.append(d)
        return True

    def arc(self, arc: Arc, speed: float, most: Vec) -> bool:
        """An arc or helix: no faster than sqrt(a·r). False for one of no length."""
        i, j, k = arc.plane
        radius = arc.radius
        flat, rise = radius * abs(arc.angle), arc.end[k] - arc.start[k]
        length = hypot(flat, rise)
        if length < NOTHING:
            return False
        acceleration = inf
        if flat > NOTHING:
            acceleration = min(most[i], most[j]) * length / flat
        if abs(rise) > NOTHING:
            acceleration = min(acceleration, most[k] * length / abs(rise))
        sign = 1.0 if arc.angle > 0 else -1.0
        ends = []
        for at in (arc.start, arc.end):
            along = [0.0, 0.0, 0.0]
            share = sign * flat / length / radius if radius > NOTHING else 0.0
            along[i] = -(at[j] - arc.centre[j]) * share
            along[j] = (at[i] - arc.centre[i]) * share
            along[k] = rise / length
            ends.append((along[0], along[1], along[2]))
        self.length.append(length)
        self.top.append(min(speed, sqrt(acceleration * radius)) if flat > NOTHING else speed)
        self.acceleration.append(acceleration)
        self.first.append(ends[0])
        self.last.append(ends[1])
        return True

    def seconds(self, tolerance: float) -> list[float]:
        """Of each move, the chain starting and ending at rest; `tolerance` is that of the corners, mm."""
        if not self.length:
            return []
        if len(self.length) == 1:
            return [trapezoid_seconds(self.length[0], 0.0, self.top[0], 0.0, self.acceleration[0])]
        ends = [0.0, *self._joins(tolerance), 0.0]
        length, top, acceleration = self.length, self.top, self.acceleration
        for i in range(len(length) - 1, 0, -1):
            reachable = sqrt(ends[i + 1] ** 2 + 2 * acceleration[i] * length[i])
            ends[i] = min(ends[i], reachable)
        seconds = []
        for i in range(len(length)):
            reachable = sqrt(ends[i] ** 2 + 2 * acceleration[i] * length[i])
            ends[i + 1] = min(ends[i + 1], reachable)
            seconds.append(trapezoid_seconds(length[i], ends[i], top[i], ends[i + 1], acceleration[i]))
        return seconds

    def _joins(self, tolerance: float) -> list[float]:
        """Greatest speed at each join of two moves: sqrt(a·t·sin(θ/2) / (1 − sin(θ/2))), θ the inner angle."""
        last, first = np.array(self.last[:-1]), np.array(self.first[1:])
        top, acceleration = np.array(self.top), np.array(self.acceleration)
        cosine = np.clip(-(last * first).sum(axis=1), -1.0, 1.0)
        half_sine = np.sqrt((1 - cosine) / 2)
        lesser_a = np.minimum(acceleration[:-1], acceleration[1:])
        lesser_v = np.minimum(top[:-1], top[1:])
        gap = 1 - half_sine
        with np.errstate(divide="ignore", invalid="ignore"):
            corner = np.sqrt(lesser_a * tolerance * half_sine / gap)
        corner = np.where(gap < 1e-12, np.inf if tolerance > 0 else 0.0, corner)
        found: list[float] = np.minimum(lesser_v, corner).tolist()
        return found


def least_share(direction: Vec, most: Vec) -> float:
    """The greatest speed or acceleration along a unit vector at which no axis goes beyond its own."""
    x, y, z = abs(direction[0]), abs(direction[1]), abs(direction[2])
    found = inf
    if x > 1e-12:
        found = most[0] / x
    if y > 1e-12:
        found = min(found, most[1] / y)
    if z > 1e-12:
        found = min(found, most[2] / z)
    return found


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
