"""Offset loops and walls of flat regions."""

from __future__ import annotations

from math import pi

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Polygon
from shapely.ops import unary_union

from lean_ledger.core.operations.milling.regions import (
    Region,
    centre_area,
    circle,
    clearing_loops,
    fits,
    line_length,
    offset_ring,
    outline_loops,
    share_reached,
    wall_passes,
)


def rectangle(width: float, height: float) -> tuple[tuple[float, float], ...]:
    return ((0, 0), (width, 0), (width, height), (0, height))


BOX = Region((rectangle(60, 40),))
OPEN = Region((rectangle(60, 40),), (((60, 0), (60, 40)),))  # no wall on the right


def test_centre_keeps_off_the_walls_by_radius_and_allowance() -> None:
    area = centre_area(BOX, 5, 0.2, 0)
    assert area.bounds == pytest.approx((5.2, 5.2, 54.8, 34.8))


def test_centre_runs_out_over_an_open_edge_only() -> None:
    area = centre_area(OPEN, 5, 0.0, 1.0)
    assert area.bounds == pytest.approx((5, 5, 66, 35), abs=0.01)


def test_one_loop_in_a_circle_has_the_circumference_of_its_offset() -> None:
    # hole 20, tool 10: the centre walks a circle of diameter 10
    loops = clearing_loops(circle((0, 0), 20), 5, 0, 0, 5)
    assert line_length(loops[-1]) == pytest.approx(pi * 10, rel=2e-3)


def test_wall_pass_of_a_closed_region_is_closed_and_of_an_open_one_is_not() -> None:
    (closed,) = wall_passes(BOX, 5, 0, 0)
    assert closed[0] == closed[-1]
    assert line_length(closed) == pytest.approx(2 * (50 + 30))
    (along,) = wall_passes(OPEN, 5, 0, 1)
    assert along[0] != along[-1]
    # three walls at radius 5, run out by the radius over the open edge: 30 across and 60 along, twice
    assert line_length(along) == pytest.approx(30 + 2 * 60, abs=0.1)


def test_open_edge_opens_outward_only() -> None:
    # a narrow ledge: what lies behind its wall at y = 8 stays closed, however far the tool runs out in front
    ledge = Region((((0, 0), (80, 0), (80, 8), (0, 8)),), (((0, 8), (0, 0), (80, 0), (80, 8)),))
    area = centre_area(ledge, 10, 0.2, 3)
    assert area.bounds[3] == pytest.approx(8 - 10.2, abs=0.01)
    # an island inside a region that is open all round stays closed, too
    island = tuple((40 + x, 30 + y) for x, y in rectangle(10, 10))
    around = Region((rectangle(90, 70), island), ((*rectangle(90, 70), (0, 0)),))
    assert centre_area(around, 10, 0.0, 3).distance(Polygon(island)) == pytest.approx(10, abs=0.01)


def test_tool_fits_with_room_to_move_only() -> None:
    assert fits(BOX, 19)
    assert not fits(BOX, 20)


def test_share_reached_lacks_the_corners() -> None:
    # a round tool of radius 5 leaves (4 − π)·25 in four square corners
    assert share_reached(BOX, 5) == pytest.approx(1 - (4 - pi) * 25 / 2400, abs=2e-4)


def test_outline_loops_go_from_the_stock_inward_and_end_at_the_part() -> None:
    ring = rectangle(60, 40)
    loops = outline_loops(ring, (-12, -2, 72, 42), 5, 0.2, 4)
    assert loops[-1][0] == loops[-1][-1]
    assert line_length(loops[-1]) == pytest.approx(2 * 100 + 2 * pi * 5.2, rel=1e-3)
    assert len(loops) > 1, "12 mm of stock at both ends take more than one loop"


def test_two_mm_of_stock_take_one_loop() -> None:
    assert len(outline_loops(rectangle(60, 40), (-2, -2, 62, 42), 8, 0.2, 3)) == 1


def test_offset_ring_outward_rounds_the_corners() -> None:
    assert line_length(offset_ring(rectangle(60, 40), 4)) == pytest.approx(200 + 2 * pi * 4, rel=1e-3)


def test_offset_ring_inward_of_a_small_ring_is_empty() -> None:
    assert offset_ring(rectangle(6, 6), -4) == ()


SIZES = st.tuples(st.floats(20, 90), st.floats(20, 90), st.floats(2, 8), st.floats(0.3, 1.0))


@settings(max_examples=10, deadline=None)
@given(SIZES)
def test_clearing_sweeps_the_region_and_never_leaves_it(sizes: tuple[float, float, float, float]) -> None:
    width, height, radius, share = sizes
    region = Region((rectangle(width, height), tuple((width / 2 + x, height / 2 + y) for x, y in rectangle(1.5, 1.5))))
    loops = clearing_loops(region, radius, 0.0, 0.0, share * radius)
    swept = unary_union([LineString(line).buffer(radius, quad_segs=24) for line in loops])
    polygon = region.polygon
    assert swept.difference(polygon.buffer(0.02)).area < 1e-6
    reachable = centre_area(region, radius, 0, 0).buffer(radius * 0.999, quad_segs=24)
    assert reachable.difference(swept).area < 0.02 * reachable.area + 0.5


@settings(max_examples=15, deadline=None)
@given(st.floats(10, 80), st.floats(10, 80), st.floats(1, 12), st.floats(0, 1))
def test_outline_stays_off_the_part(width: float, height: float, radius: float, allowance: float) -> None:
    ring = rectangle(width, height)
    stock = (-3.0, -3.0, width + 3, height + 3)
    part = Polygon(ring)
    for line in outline_loops(ring, stock, radius, allowance, max(0.3 * radius, 0.3)):
        assert LineString(line).distance(part) >= radius + allowance - 0.02
