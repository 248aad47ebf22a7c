"""Alike features that lie in a regular pattern: on a circle, in a grid, in a row."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, cos, hypot, pi, sin
from typing import Literal

from lean_ledger.core.features.model import Feature, Hole, Pocket, Slot
from lean_ledger.core.features.planar import frame, lift, polygon_of
from lean_ledger.core.geometry.vectors import Vec, dot

NEAR = 0.02  # mm by which a member may stray from its place
FEWEST_ON_CIRCLE, FEWEST_IN_ROW = 3, 3
MOST = 400  # members in which a pattern is looked for
EQUAL = 0.01  # rad between equal steps on a circle


@dataclass(frozen=True)
class Pattern:
    """`diameter` of a circle; `pitch` along rows and `row_pitch` between them, of a grid; a row has `rows` 1."""

    shape: Literal["circle", "grid", "row"]
    features: tuple[str, ...]
    center: Vec
    diameter: float = 0.0
    rows: int = 1
    columns: int = 1
    pitch: float = 0.0
    row_pitch: float = 0.0
    equal: bool = True  # the steps on a circle are equal

    @property
    def words(self) -> str:
        """How a drawing would put it: 'on Ø76, equally spaced', '3 × 4, pitch 20 × 15'."""
        if self.shape == "circle":
            return f"on Ø{self.diameter:.6g}" + (", equally spaced" if self.equal else "")
        if self.shape == "row":
            return f"in a row, pitch {self.pitch:.6g}"
        return f"{self.columns} × {self.rows}, pitch {self.pitch:.6g} × {self.row_pitch:.6g}"


def pattern_of(features: Sequence[Feature]) -> Pattern | None:
    """The pattern that a group of alike features makes as a whole, None where there is none.

    A grid with more than four members goes before a circle: four corners lie on a circle as well, and are one.
    """
    if not FEWEST_IN_ROW <= len(features) <= MOST:
        return None
    places = [place_of(feature) for feature in features]
    if any(place is None for place in places):
        return None
    points = [p for p, _ in places]  # type: ignore[misc]
    normal = places[0][1]  # type: ignore[index]
    if any(abs(abs(dot(n, normal)) - 1) > 1e-4 for _, n in places):  # type: ignore[misc]
        return None
    u, v = frame(normal)
    flat = [(dot(p, u), dot(p, v)) for p in points]
    if len({(round(x / NEAR), round(y / NEAR)) for x, y in flat}) < len(flat):
        return None
    ids = tuple(feature.id for feature in features)
    level = dot(points[0], normal)
    return _row(ids, flat, level, normal) or _grid(ids, flat, level, normal) or _circle(ids, flat, level, normal)


def place_of(feature: Feature) -> tuple[Vec, Vec] | None:
    """Where a feature is, and the direction it is sunk along; None for kinds that have no one place."""
    if isinstance(feature, Hole):
        return feature.position, feature.direction
    if isinstance(feature, Pocket | Slot) and feature.region:
        middle = polygon_of(feature.region[:1], feature.direction).centroid
        level = dot(feature.region[0][0], feature.direction)
        return lift([(middle.x, middle.y)], level, feature.direction)[0], feature.direction
    return None


Flats = Sequence[tuple[float, float]]


def _circle(ids: tuple[str, ...], flat: Flats, level: float, normal: Vec) -> Pattern | None:
    if len(flat) < FEWEST_ON_CIRCLE:
        return None
    centre = _centre(flat)
    if centre is None:
        return None
    x, y = centre
    radii = [hypot(a - x, b - y) for a, b in flat]
    if max(radii) - min(radii) > NEAR or radii[0] < NEAR:
        return None
    angles = sorted(atan2(b - y, a - x) for a, b in flat)
    steps = [b - a for a, b in itertools.pairwise([*angles, angles[0] + 2 * pi])]
    if max(steps) > pi + EQUAL:
        return None  # three holes at one side lie on some circle as well
    equal = max(steps) - min(steps) < EQUAL
    if not equal and len(flat) < 5:
        return None
    at = lift([centre], level, normal)[0]
    return Pattern("circle", ids, at, diameter=round(2 * sum(radii) / len(radii), 3), equal=equal)


def _centre(flat: Flats) -> tuple[float, float] | None:
    """Centre of the circle through the first point and two others far from it and from one another."""
    a = flat[0]
    b = max(flat, key=lambda p: hypot(p[0] - a[0], p[1] - a[1]))
    c = max(flat, key=lambda p: min(hypot(p[0] - a[0], p[1] - a[1]), hypot(p[0] - b[0], p[1] - b[1])))
    double = 2 * (a[0] * (b[1] - c[1]) + b[0] * (c[1] - a[1]) + c[0] * (a[1] - b[1]))
    if abs(double) < NEAR:
        return None
    sa, sb, sc = (p[0] ** 2 + p[1] ** 2 for p in (a, b, c))
    return (
        (sa * (b[1] - c[1]) + sb * (c[1] - a[1]) + sc * (a[1] - b[1])) / double,
        (sa * (c[0] - b[0]) + sb * (a[0] - c[0]) + sc * (b[0] - a[0])) / double,
    )


def _row(ids: tuple[str, ...], flat: Flats, level: float, normal: Vec) -> Pattern | None:
    (x0, y0), (x1, y1) = min(flat), max(flat)
    length = hypot(x1 - x0, y1 - y0)
    dx, dy = (x1 - x0) / length, (y1 - y0) / length
    if any(abs((x - x0) * dy - (y - y0) * dx) > NEAR for x, y in flat):
        return None
    steps = _steps([(x - x0) * dx + (y - y0) * dy for x, y in flat])
    if steps is None or steps[0] != len(flat):
        return None
    middle = lift([((x0 + x1) / 2, (y0 + y1) / 2)], level, normal)[0]
    return Pattern("row", ids, middle, columns=len(flat), pitch=steps[1])


def _grid(ids: tuple[str, ...], flat: Flats, level: float, normal: Vec) -> Pattern | None:
    """A full grid, along the directions from its first member to the nearest others."""
    x0, y0 = min(flat)
    for x1, y1 in sorted(flat, key=lambda p: hypot(p[0] - x0, p[1] - y0))[1:4]:
        angle = atan2(y1 - y0, x1 - x0)
        c, s = cos(angle), sin(angle)
        along, across = [x * c + y * s for x, y in flat], [y * c - x * s for x, y in flat]
        columns, rows = _steps(along), _steps(across)
        if columns is None or rows is None or min(columns[0], rows[0]) < 2 or columns[0] * rows[0] != len(flat):
            continue
        mx, my = (max(along) + min(along)) / 2, (max(across) + min(across)) / 2
        middle = lift([(mx * c - my * s, mx * s + my * c)], level, normal)[0]
        return Pattern("grid", ids, middle, rows=rows[0], columns=columns[0], pitch=columns[1], row_pitch=rows[1])
    return None


def _steps(values: Sequence[float]) -> tuple[int, float] | None:
    """How many different values there are, and their common step; None where the steps differ."""
    distinct: list[float] = []
    for value in sorted(values):
        if not distinct or value - distinct[-1] > NEAR:
            distinct.append(value)
    if len(distinct) < 2:
        return len(distinct), 0.0
    step = (distinct[-1] - distinct[0]) / (len(distinct) - 1)
    if any(abs(value - distinct[0] - i * step) > NEAR for i, value in enumerate(distinct)):
        return None
    return len(distinct), round(step, 3)
