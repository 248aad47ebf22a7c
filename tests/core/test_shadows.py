"""Shadows and what is left of areas: quick ways to them beside the plain ones."""

from __future__ import annotations

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import MultiPolygon, Point, Polygon, box
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.dropping import seen_from_above, shadow
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.operations.safe.cleared import path_of, went
from lean_ledger.core.operations.safe.shadows import _opened
from lean_ledger.core.operations.safe.stock_there import stands
from lean_ledger.core.timing.motion import feed
from lean_ledger.library.types import ToolKind
from tests.core.test_safe_paths import tool

#: A pyramid of 20 × 20 and 10 high: at half of its height it is half as wide.
BASE = [(-10, -10, 0), (10, -10, 0), (10, 10, 0), (-10, 10, 0)]
PYRAMID = np.array([[a, b, (0, 0, 10)] for a, b in zip(BASE, [*BASE[1:], BASE[0]], strict=True)], dtype=float)

numbers = st.integers(-20, 20)


@pytest.mark.parametrize(("level", "area"), [(-1.0, 400.0), (5.0, 100.0), (9.0, 4.0), (10.0, 0.0)])
def test_what_rises_above_a_level_of_a_pyramid(level: float, area: float) -> None:
    assert shadow(PYRAMID, level).area == pytest.approx(area, abs=0.02)


def test_two_corners_over_a_level_leave_what_the_third_cuts_off() -> None:
    """Corners 10, 10 and 0 high: over 5 a quarter of 200 is missing."""
    assert shadow(np.array([[(0, 0, 10), (20, 0, 10), (0, 20, 0)]], float), 5.0).area == pytest.approx(150, abs=0.02)


@given(st.integers(0, 10**6), st.integers(3, 9), st.integers(1, 14))
def test_triangles_cover_what_each_of_them_covers(seed: int, corners: int, count: int) -> None:
    """Between a few corners, so that many meet along their sides, lie over one another or twice at the same place."""
    drawn = np.random.default_rng(seed)
    places = drawn.uniform(-20, 20, (corners, 2))
    triangles = places[np.array([drawn.choice(corners, 3, replace=False) for _ in range(count)])]
    found = seen_from_above(triangles)
    sides = shapely.multilinestrings([[a, b] for t in triangles for a, b in zip(t, np.roll(t, 1, axis=0), strict=True)])
    for x, y in drawn.uniform(-20, 20, (80, 2)):
        if sides.distance(Point(x, y)) > 0.01:  # point by point: a union of them all is no better judge
            turns = [[np.sign((b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]))
                      for a, b in zip(t, np.roll(t, 1, axis=0), strict=True)] for t in triangles]  # fmt: skip
            assert found.contains(Point(x, y)) == any(len(set(own)) == 1 for own in turns)


@settings(max_examples=60)
@given(st.lists(st.tuples(numbers, numbers, st.floats(0.5, 9)), min_size=1, max_size=8), st.booleans())
def test_discs_are_taken_off_wherever_they_lie(discs: list[tuple[int, int, float]], parted: bool) -> None:
    """In holes, over their rims, over two of them, over two pieces, in the middle of what stands."""
    holes = [[(-18, -18), (-8, -18), (-8, -8), (-18, -8)], [(4, 4), (15, 4), (15, 15), (4, 15)]]
    found: BaseGeometry = Polygon(box(-25, -25, 25, 25).exterior, holes)
    if parted:
        found = MultiPolygon([Polygon(box(-25, -25, 0, 25).exterior, holes[:1]), box(0.5, -25, 25, 25)])
    circles = [Point(x, y).buffer(radius) for x, y, radius in discs]
    plain = found.difference(shapely.union_all(circles))
    assert _opened(found, circles).symmetric_difference(plain).area < 1e-6


@given(st.lists(st.tuples(numbers, numbers, st.integers(0, 3)), min_size=2, max_size=60), numbers, numbers)
def test_what_cuts_leave_of_a_place_is_what_is_without_them(
    points: list[tuple[int, int, int]], x: int, y: int
) -> None:  # fmt: skip
    line = [(float(u), float(v), float(z)) for u, v, z in points]
    way = went(path_of(Same(Motion((feed(500, line),)))), tool(ToolKind.END_MILL, 4))
    rest = Point(x, y).buffer(3)
    for level in (1.0, 3.0):
        left = way.left_of(rest, level, lambda area: stands(area, 5.0))
        plain = rest.difference(way.area(level))
        if stands(plain, 5.0):
            assert left.symmetric_difference(plain).area < 1e-6
        else:
            assert not stands(left, 5.0)
