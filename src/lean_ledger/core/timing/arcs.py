"""Arcs in a polyline: what was made as chords of a circle is walked, timed and written as an arc.

Offset curves come as chords of one length whose points all lie on their circle, so a run of such points is one. A
corner, a straight wall between two roundings, or a polygon with its corners on a circle is none: its chords stray too
far, or one of them is longer than all others.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import atan2, hypot, pi, tau

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.timing.chain import Arc

ON_CIRCLE = 0.002  # mm that a point may lie off the circle
STRAY = 0.03  # mm between a chord and its arc
STRAY_OF_MANY = 0.2  # mm, where many even chords leave no doubt
LEAST, MANY = 3, 8  # chords that make an arc
ALIKE = 0.03  # share that even chords differ by
EVEN = 1e-4  # mm that a height may lie off an even slope
LARGEST = 2000.0  # mm of radius, beyond which it is straight
SAME = 9  # decimals of mm to which heights are alike

Segment = Arc | tuple[Vec, Vec]


def segments(points: tuple[Vec, ...]) -> list[Segment]:
    """A polyline as lines and arcs about Z, arcs of half a turn at the most; points that repeat are left out."""
    return _segments(Same(points))  # the same shape at another feed has the very same points


@lru_cache(maxsize=20_000)
def _segments(same: Same[tuple[Vec, ...]]) -> list[Segment]:
    points = [p for p, before in zip(same.value, (None, *same.value), strict=False) if p != before]
    level = points[0][2]
    shape = _shape(tuple((x, y, round(z - level, SAME)) for x, y, z in points))
    return [
        Arc(points[one.first], points[one.last], (*one.centre, points[one.first][2]), one.angle)
        if one.centre is not None else (points[one.first], points[one.last])
        for one in shape
    ]  # fmt: skip


@dataclass(frozen=True)
class _Stretch:
    """From one point of a polyline to another: straight, or by an angle about a centre."""

    first: int
    last: int
    centre: tuple[float, float] | None = None
    angle: float = 0.0


@lru_cache(maxsize=4_000)
def _shape(points: tuple[Vec, ...]) -> list[_Stretch]:
    """Of a way counted from the level that it begins at: a pocket's levels have the same ways below one another."""
    found: list[_Stretch] = []
    i, last = 0, len(points) - 1
    while i < last:
        arc = _arc_from(points, i) if last - i >= LEAST else None
        found.append(arc or _Stretch(i, i + 1))
        i = found[-1].last
    return found


def _arc_from(points: Sequence[Vec], i: int) -> _Stretch | None:
    """The longest arc that starts at a point."""
    circle = _circle(points[i], points[i + 1], points[i + 2])
    if circle is None:
        return None
    cx, cy, radius = circle
    start = points[i]
    turned = _turn(start, points[i + 1], cx, cy)
    sign = 1 if turned > 0 else -1
    slope = (points[i + 1][2] - start[2]) / turned if turned else 0.0
    total, j = 0.0, i
    steps: list[float] = []
    while j + 1 < len(points):
        a, b = points[j], points[j + 1]
        if abs(hypot(b[0] - cx, b[1] - cy) - radius) > ON_CIRCLE:
            break
        step = _turn(a, b, cx, cy)
        stray = radius * step * step / 8
        if step * sign <= 0 or abs(step) > pi / 6 or stray > STRAY_OF_MANY or abs(total + step) > pi + 1e-6:
            break
        if abs(b[2] - start[2] - slope * (total + step)) > EVEN:
            break
        total += step
        steps.append(abs(step))
        j += 1
    if not _is_one(steps, radius):
        return None
    return _Stretch(i, j, (cx, cy), total)


def _is_one(steps: Sequence[float], radius: float) -> bool:
    """Whether chords that turn by these angles were made as one arc: the longest of them has company."""
    if len(steps) < LEAST:
        return False
    longest = max(steps)
    alike = sum(1 for step in steps if step > (1 - ALIKE) * longest)
    many = alike >= max(MANY, len(steps) - 2)
    return alike >= 2 and (many or radius * longest * longest / 8 <= STRAY)


def _circle(a: Vec, b: Vec, c: Vec) -> tuple[float, float, float] | None:
    """Centre and radius of the circle through three points seen from above; None where they are in line."""
    bx, by, cx, cy = b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]
    area = 2 * (bx * cy - by * cx)
    b2, c2 = bx * bx + by * by, cx * cx + cy * cy
    if abs(area) <= 2e-9 * max(b2, c2):
        return None
    x, y = (cy * b2 - by * c2) / area, (bx * c2 - cx * b2) / area
    radius = hypot(x, y)
    return (a[0] + x, a[1] + y, radius) if radius <= LARGEST else None


def _turn(a: Vec, b: Vec, cx: float, cy: float) -> float:
    """Radians from one point to another about a centre, the shorter way."""
    turned = atan2(b[1] - cy, b[0] - cx) - atan2(a[1] - cy, a[0] - cx)
    return (turned + pi) % tau - pi
