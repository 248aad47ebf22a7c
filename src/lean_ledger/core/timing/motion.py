"""How long the machine takes for a path.

The rules are those of `program-time` in docs/formats.md: a rapid starts and ends at rest; consecutive feed moves are
joined at the speed that keeps within the corner tolerance; each move is a trapezoid or a triangle of speed over time.
Lengths mm, times s, speeds mm/s inside and mm/min at the interface.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from math import dist, sqrt

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.timing.arcs import Segment, segments
from lean_ledger.core.timing.chain import NOTHING, Arc, MoveChain, least_share, trapezoid_seconds
from lean_ledger.library.machines import Machine, Rotary

HAND_CHANGE = 45.0  # s, where the machine has no changer


@dataclass(frozen=True, slots=True)
class Stroke:
    """A polyline walked at one feed, or in rapid where `feed_mm_per_min` is 0; chords of a circle mean their arc.

    Consecutive feed strokes are one chain: the tool does not stop between them unless the direction asks for it.
    """

    points: tuple[Vec, ...]
    feed_mm_per_min: float = 0.0

    @property
    def is_rapid(self) -> bool:
        return self.feed_mm_per_min == 0.0

    @property
    def length(self) -> float:
        """Along the arcs that its points stand for."""
        if self.is_rapid:
            return sum(dist(a, b) for a, b in pairwise(self.points))
        return sum(s.length if isinstance(s, Arc) else dist(*s) for s in segments(self.points))


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
    x, y, z = end[0] - start[0], end[1] - start[1], end[2] - start[2]
    length = sqrt(x * x + y * y + z * z)
    if length < NOTHING:
        return 0.0
    direction = (x / length, y / length, z / length)
    speed = least_share(direction, machine.rapid) / 60
    acceleration = least_share(direction, machine.acceleration)
    return trapezoid_seconds(length, 0.0, speed, 0.0, acceleration)


def turn_seconds(axis: Rotary, degrees: float) -> float:
    """From rest to rest, clamps left out: 90° at 60 deg/s and 400 deg/s² take 90/60 + 60/400 = 1.65 s."""
    return trapezoid_seconds(degrees, 0.0, axis.rate, 0.0, axis.acceleration)


def change_seconds(machine: Machine) -> float:
    """Chip to chip; by hand where the machine has no pockets."""
    return machine.tool_change if machine.tool_pockets > 0 else HAND_CHANGE


def _time_rapid(stroke: Stroke, machine: Machine) -> StrokeTime:
    seconds = sum(rapid_seconds(a, b, machine) for a, b in zip(stroke.points, stroke.points[1:], strict=False))
    return StrokeTime(0.0, seconds, 0.0, stroke.length, 0.0)


def chained(strokes: Iterable[Stroke], acceleration: Vec) -> tuple[MoveChain, list[tuple[Segment, float]]]:
    """Feed strokes as one chain, and each of its moves with its feed in mm/s."""
    chain = MoveChain()
    moves: list[tuple[Segment, float]] = []
    for stroke in strokes:
        speed = stroke.feed_mm_per_min / 60
        for segment in segments(stroke.points):
            if isinstance(segment, Arc):
                there = chain.arc(segment, speed, acceleration)
            else:
                there = chain.line(*segment, speed, acceleration)
            if there:
                moves.append((segment, speed))
    return chain, moves


def _time_chain(strokes: Sequence[Stroke], machine: Machine) -> StrokeTime:
    same = tuple((Same(stroke.points), stroke.feed_mm_per_min) for stroke in strokes)
    return _chain_time(same, machine.acceleration, machine.corner_tolerance)


@lru_cache(maxsize=8_000)
def _chain_time(
    strokes: tuple[tuple[Same[tuple[Vec, ...]], float], ...], acceleration: Vec, tolerance: float
) -> StrokeTime:  # fmt: skip
    """Kept by the very same points: what lies between cuts changes more often than they do."""
    chain, moves = chained([Stroke(same.value, feed) for same, feed in strokes], acceleration)
    if not moves:
        return NO_TIME
    nominal = sum(length / speed for length, (_, speed) in zip(chain.length, moves, strict=True))
    return StrokeTime(sum(chain.seconds(tolerance)), 0.0, sum(chain.length), 0.0, nominal)
