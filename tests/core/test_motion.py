"""Seconds of motion: trapezoids, joins and rapids, each with arithmetic that can be followed by hand."""

from __future__ import annotations

from dataclasses import replace
from math import hypot, pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.timing.chain import trapezoid_seconds
from lean_ledger.core.timing.motion import feed, rapid, rapid_seconds, time_strokes
from lean_ledger.library import Machine, shipped_library
from tests.values import machine_with

MILL = shipped_library().machines[0]  # X and Y: 25 m/min, 3000 mm/s²; Z: 20 m/min, 2500 mm/s²
STOPPING = replace(MILL, corner_tolerance=0.0)


def test_trapezoid_speeds_up_holds_and_slows_down() -> None:
    # to 10 mm/s at 100 mm/s²: 0.1 s over 0.5 mm, and again at the end; 99 mm at 10 mm/s between
    assert trapezoid_seconds(100, 0, 10, 0, 100) == pytest.approx(0.1 + 9.9 + 0.1)


def test_short_move_is_a_triangle() -> None:
    # peak sqrt(100·1) = 10 mm/s, half the way up, half down: 2 · 10/100 s
    assert trapezoid_seconds(1, 0, 1000, 0, 100) == pytest.approx(0.2)


def test_move_between_speeds_needs_no_stop() -> None:
    assert trapezoid_seconds(10, 5, 5, 5, 100) == pytest.approx(2.0)


def test_rapid_goes_at_the_slowest_axis_for_its_share() -> None:
    # 300 mm in X alone: 416.67 mm/s, reached over 416.67²/2/3000 = 28.94 mm
    v = 25000 / 60
    assert rapid_seconds((0, 0, 0), (300, 0, 0), MILL) == pytest.approx(300 / v + v / 3000)
    # at 45° in XY both axes run at their most: √2 of speed and of acceleration
    v, a = v * sqrt(2), 3000 * sqrt(2)
    assert rapid_seconds((0, 0, 0), (300, 300, 0), MILL) == pytest.approx(300 * sqrt(2) / v + v / a)


def test_rapid_upward_is_held_back_by_z() -> None:
    v = 20000 / 60
    assert rapid_seconds((0, 0, 0), (0, 0, 200), MILL) == pytest.approx(200 / v + v / 2500)


def test_rapid_of_no_length_takes_no_time() -> None:
    assert rapid_seconds((1, 2, 3), (1, 2, 3), MILL) == 0


def test_feed_along_a_line_is_length_over_feed_and_two_ramps() -> None:
    # 600 mm/min = 10 mm/s; each ramp costs half of v/a beyond the nominal time
    time = time_strokes([feed(600, [(0, 0, 0), (100, 0, 0)])], MILL)
    assert time.nominal_cut == pytest.approx(10)
    assert time.cut == pytest.approx(10 + 10 / 3000)
    assert (time.cut_length, time.rapid) == (pytest.approx(100), 0)


def test_points_on_a_straight_line_do_not_slow_it() -> None:
    whole = time_strokes([feed(3000, [(0, 0, 0), (100, 0, 0)])], MILL)
    split = time_strokes([feed(3000, [(x, 0, 0) for x in range(101)])], MILL)
    assert split.cut == pytest.approx(whole.cut)


def test_right_angle_is_taken_at_the_speed_of_the_corner_tolerance() -> None:
    # θ = 90°: sin 45° = 0.7071; v = sqrt(3000 · 0.02 · 0.7071 / 0.2929) = 12.036 mm/s
    corner = sqrt(3000 * 0.02 * sqrt(0.5) / (1 - sqrt(0.5)))
    assert corner == pytest.approx(12.036, abs=1e-3)
    # feed 100 mm/s, 50 mm each: to 100 from rest, down to the corner's speed, and the same again
    one = trapezoid_seconds(50, 0, 100, corner, 3000)
    time = time_strokes([feed(6000, [(0, 0, 0), (50, 0, 0), (50, 50, 0)])], MILL)
    assert time.cut == pytest.approx(2 * one)


def test_turning_back_stops() -> None:
    time = time_strokes([feed(6000, [(0, 0, 0), (50, 0, 0), (0, 0, 0)])], MILL)
    assert time.cut == pytest.approx(2 * trapezoid_seconds(50, 0, 100, 0, 3000))


def test_without_a_tolerance_each_move_ends_at_rest() -> None:
    points = [(0.0, 0.0, 0.0), (50.0, 0.0, 0.0), (100.0, 1.0, 0.0)]
    time = time_strokes([feed(6000, points)], STOPPING)
    first = trapezoid_seconds(50, 0, 100, 0, 3000)
    second = trapezoid_seconds(hypot(50, 1), 0, 100, 0, 3000 / (50 / hypot(50, 1)))
    assert time.cut == pytest.approx(first + second)


def test_rapid_breaks_a_chain() -> None:
    ahead = [feed(6000, [(0, 0, 0), (50, 0, 0)]), feed(6000, [(50, 0, 0), (100, 0, 0)])]
    joined = time_strokes(ahead, MILL).cut
    broken = time_strokes([ahead[0], rapid((50, 0, 0), (50, 0, 0)), ahead[1]], MILL).cut
    assert broken > joined
    assert broken == pytest.approx(2 * trapezoid_seconds(50, 0, 100, 0, 3000))


def test_fine_circle_is_not_slowed_by_its_chords() -> None:
    from math import cos, sin

    points = [(20 * cos(t * 2 * pi / 96), 20 * sin(t * 2 * pi / 96), 0.0) for t in range(97)]
    time = time_strokes([feed(1500, points)], MILL)
    assert time.cut == pytest.approx(2 * pi * 20 / 25, rel=0.01)


@pytest.mark.parametrize("vf", [0.0, -5.0])
def test_feed_must_be_above_0(vf: float) -> None:
    with pytest.raises(PlanError, match="must be above 0"):
        feed(vf, [(0, 0, 0), (1, 0, 0)])


POINTS = st.lists(
    st.tuples(*[st.floats(-200, 200).map(lambda v: round(v, 3))] * 3), min_size=2, max_size=25, unique=True
)
FEEDS = st.floats(50, 8000)


@given(POINTS, FEEDS)
def test_motion_never_beats_its_nominal_time_and_doubles_with_its_length(points, vf) -> None:  # type: ignore[no-untyped-def]
    time = time_strokes([feed(vf, points)], MILL)
    assert time.cut >= time.nominal_cut - 1e-9
    larger = time_strokes([feed(vf, [(2 * x, 2 * y, 2 * z) for x, y, z in points])], MILL)
    assert larger.cut > time.cut


@given(POINTS, FEEDS)
def test_quicker_machine_is_never_slower(points, vf) -> None:  # type: ignore[no-untyped-def]
    quick = machine_with(MILL, acceleration=(9000, 9000, 9000))
    assert time_strokes([feed(vf, points)], quick).cut <= time_strokes([feed(vf, points)], MILL).cut + 1e-9


@given(POINTS, FEEDS)
def test_a_path_walked_backwards_takes_as_long(points, vf) -> None:  # type: ignore[no-untyped-def]
    there = time_strokes([feed(vf, points)], MILL)
    back = time_strokes([feed(vf, points[::-1])], MILL)
    assert back.cut == pytest.approx(there.cut, rel=1e-6)


def test_machines_are_hashable_keys() -> None:
    assert isinstance(hash(MILL), int)
    assert isinstance(MILL, Machine)
