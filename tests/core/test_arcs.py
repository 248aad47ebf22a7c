"""Arcs that a polyline of chords stands for, and the moves of a chain."""

from __future__ import annotations

from math import cos, pi, sin

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, box

from lean_ledger.core.timing.arcs import segments
from lean_ledger.core.timing.chain import Arc, MoveChain
from lean_ledger.core.timing.motion import feed, time_strokes
from lean_ledger.library import shipped_library

MILL = shipped_library().machines[0]


def chords(radius: float, turn: float, count: int, fall: float = 0.0) -> list[tuple[float, float, float]]:
    return [
        (radius * cos(turn * i / count), radius * sin(turn * i / count), -fall * i / count) for i in range(count + 1)
    ]


@given(st.floats(0.5, 300), st.floats(0.3, pi), st.booleans(), st.floats(0, 5))
def test_chords_of_a_circle_are_one_arc(radius: float, turn: float, back: bool, fall: float) -> None:
    count = max(4, int(turn / pi * 96))
    points = chords(radius, -turn if back else turn, count, fall)
    found = segments(points)
    assert len(found) == 1
    arc = found[0]
    assert isinstance(arc, Arc)
    assert arc.angle == pytest.approx(-turn if back else turn, rel=1e-6)
    assert arc.radius == pytest.approx(radius, rel=1e-4)
    assert arc.end == points[-1]


@given(st.floats(0.5, 300), st.floats(0, 5), st.floats(-100, 100), st.integers(0, 3))
def test_the_same_way_at_another_level_has_the_same_arcs_there(
    radius: float, fall: float, level: float, straight: int
) -> None:  # fmt: skip
    """Found once for all levels; two points that are the same count once."""
    begin = [(radius + 10.0 * (straight - k), 0.0, 0.0) for k in range(straight)]
    own = [*begin, *chords(radius, pi / 2, 48, fall)]
    own.insert(len(begin), own[len(begin)])
    there = [(x, y, z + level) for x, y, z in own]
    found, moved = segments(tuple(own)), segments(tuple(there))
    assert len(found) == straight + 1
    for one, other in zip(found, moved, strict=True):
        if isinstance(one, Arc) and isinstance(other, Arc):
            assert (other.angle, other.centre[:2]) == (one.angle, one.centre[:2])
            assert other.centre[2] == other.start[2]
            pairs = [(one.start, other.start), (one.end, other.end)]
        else:
            pairs = list(zip(one, other, strict=True))  # type: ignore[arg-type]
        assert all(q == (p[0], p[1], p[2] + level) for p, q in pairs)


def test_whole_circle_is_two_halves() -> None:
    found = segments(chords(10, 2 * pi, 96))
    assert [s.angle for s in found if isinstance(s, Arc)] == pytest.approx([pi, pi])


def test_corners_and_polygons_stay_what_they_are() -> None:
    square = [(0.0, 0.0, 0.0), (10.0, 0.0, 0.0), (10.0, 10.0, 0.0), (0.0, 10.0, 0.0), (0.0, 0.0, 0.0)]
    assert all(not isinstance(s, Arc) for s in segments(square))
    hexagon = chords(20, 2 * pi, 6)
    assert all(not isinstance(s, Arc) for s in segments(hexagon))


def test_offset_curve_is_its_lines_and_its_quarter_arcs() -> None:
    ring = [(x, y, -2.0) for x, y in box(0, 0, 40, 20).buffer(5, quad_segs=24).exterior.coords]
    found = segments(ring)
    arcs = [s for s in found if isinstance(s, Arc)]
    assert len(found) - len(arcs) == 4
    assert sum(abs(a.angle) for a in arcs) == pytest.approx(2 * pi, abs=1e-6)
    assert {round(a.radius, 3) for a in arcs} == {5.0}


@given(st.lists(st.tuples(st.floats(0, 60), st.floats(0, 60)), min_size=2, max_size=5, unique=True))
def test_arcs_go_where_the_chords_go(corners: list[tuple[float, float]]) -> None:
    line = LineString(corners)
    if line.length < 1:
        return
    around = line.buffer(4, quad_segs=24)
    points = [(x, y, 0.0) for x, y in around.exterior.coords]
    at = points[0]
    for segment in segments(points):
        start, end = (segment.start, segment.end) if isinstance(segment, Arc) else segment
        assert start == at, "without a gap"
        at = end
        if isinstance(segment, Arc):
            middle = segment.angle / 2
            x, y = start[0] - segment.centre[0], start[1] - segment.centre[1]
            there = Point(
                segment.centre[0] + x * cos(middle) - y * sin(middle),
                segment.centre[1] + x * sin(middle) + y * cos(middle),
            )
            assert around.exterior.distance(there) < 0.05
    assert at == points[-1]


def test_arc_takes_its_own_length_and_not_that_of_its_chords() -> None:
    # radius 20 at 1000 mm/min, half a turn: 20π/16.667 and the two ramps of 16.667/3000/2 each
    time = time_strokes([feed(1000, chords(20, pi, 48))], MILL)
    assert time.cut_length == pytest.approx(20 * pi)
    assert time.cut == pytest.approx(20 * pi / (1000 / 60) + (1000 / 60) / 3000)


def test_small_arc_is_held_back_to_the_root_of_a_r() -> None:
    # radius 1: sqrt(3000 · 1) = 54.77 mm/s, whatever the feed
    time = time_strokes([feed(12000, chords(1, pi, 48))], MILL)
    assert time.cut == pytest.approx(pi / 54.772 + 54.772 / 3000, rel=1e-4)


def test_helix_shares_its_acceleration() -> None:
    chain = MoveChain()
    chain.arc(Arc((10, 0, 0), (10, 0, -5), (0, 0, 0), 2 * pi), 20, (3000, 3000, 2500))
    # sqrt((20π)² + 5²) = 63.03 long; 3000 · 63.03/62.83 = 3009.5 mm/s²
    assert chain.length[0] == pytest.approx(63.0305, abs=1e-3)
    assert chain.acceleration[0] == pytest.approx(3009.5, abs=0.1)
