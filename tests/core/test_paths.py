"""Paths of each kind of operation: lengths that can be added up by hand, and rules that hold for all."""

from __future__ import annotations

import itertools
from math import ceil, hypot, pi, radians, sin

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.operations.holes.hole_paths import PECK_STOP, drill_path, shortest_tour, tap_path
from lean_ledger.core.operations.milling.paths import (
    APPROACH,
    OVERLAP,
    RUN_OFF,
    Down,
    Rim,
    Space,
    chamfer_path,
    clear_path,
    face_path,
    finish_outline_path,
    rough_outline_path,
    wall_path,
)
from lean_ledger.core.operations.milling.regions import Region, circle
from lean_ledger.core.timing.motion import Stroke

BOX = Region((((0, 0), (60, 0), (60, 40), (0, 40)),))


def cut_length(strokes: tuple[Stroke, ...]) -> float:
    return sum(s.length for s in strokes if not s.is_rapid)


def connected(strokes: tuple[Stroke, ...]) -> bool:
    return all(a.points[-1] == pytest.approx(b.points[0]) for a, b in itertools.pairwise(strokes))


def test_levels_are_equal_and_end_at_the_bottom() -> None:
    assert Down(0, -14, 2, 10).levels == [-7, -14]


def test_facing_runs_off_both_ends_of_each_row() -> None:
    # 100 × 60 with a 50 cutter in two rows of 30: 2 · (100 + 2·(25 + 2)) along, 30 across
    motion = face_path((0, 0, 100, 60), 50, 2, Down(2, 0, 1, 10), 1000)
    assert cut_length(motion.strokes) == pytest.approx(2 * (100 + 2 * (25 + RUN_OFF)) + 30)
    rows = sorted({p[1] for s in motion.strokes if not s.is_rapid for p in s.points})
    assert rows == [15, 45]


def test_facing_goes_along_the_longer_side() -> None:
    motion = face_path((0, 0, 60, 100), 50, 2, Down(2, 0, 1, 10), 1000)
    assert cut_length(motion.strokes) == pytest.approx(2 * (100 + 54) + 30)


def test_drilling_feeds_from_the_approach_plane_and_comes_back_in_rapid() -> None:
    motion = drill_path(((0, 0), (20, 0)), 0, 15, 0, 300, 2, 10)
    assert cut_length(motion.strokes) == pytest.approx(2 * (15 + APPROACH))
    assert motion.start == motion.strokes[0].points[0] == (0, 0, 10)
    assert motion.end == (20, 0, 10)


def test_pecks_return_to_the_approach_plane_and_stop_short_of_the_last_depth() -> None:
    # 20 deep in pecks of 8 from 2 above: to 6, 14, 20; feeds 8, 0.5+8, 0.5+6
    motion = drill_path(((0, 0),), 0, 20, 8, 300, 2, 10)
    cuts = [s.length for s in motion.strokes if not s.is_rapid]
    assert cuts == pytest.approx([8, PECK_STOP + 8, PECK_STOP + 6])
    backs = [s for s in motion.strokes if s.is_rapid and s.points[1][2] == APPROACH and s.points[0][2] < 0]
    assert len(backs) == 3
    assert motion.cycle is not None
    assert motion.cycle.depths() == pytest.approx([-6, -14, -20])


def test_tapping_goes_in_and_out_and_reverses_once_a_hole() -> None:
    motion = tap_path(((0, 0), (10, 0), (20, 0)), 0, 12, 1.25, 500, 2, 10)
    start = max(APPROACH, 2.5)
    assert cut_length(motion.strokes) == pytest.approx(3 * 2 * (12 + start))
    assert motion.reversals == 3


def test_clearing_a_bore_ramps_down_and_walks_its_circle() -> None:
    # bore 20, tool 10, one pass of 3: a ramp of one lap or more at 5°, then the lap at the floor
    motion = clear_path(Space((circle((0, 0), 20),), 10), 5, Down(0, -3, 1, 10, 5), 1000, predrilled=False)
    lap = pi * 10
    laps = ceil(3 / (lap * sin(radians(5))))
    assert laps == 2
    ramp = hypot(laps * lap, 3) + APPROACH
    assert cut_length(motion.strokes) == pytest.approx(ramp + lap, rel=0.02)
    ramps = [s for s in motion.strokes if not s.is_rapid and s.feed_mm_per_min == 500]
    assert len(ramps) == 1, "the ramp goes at half the feed"


def test_drilled_hole_needs_no_ramp() -> None:
    motion = clear_path(Space((circle((0, 0), 20),), 10), 5, Down(0, -3, 1, 10, 5), 1000, predrilled=True)
    assert {s.feed_mm_per_min for s in motion.strokes if not s.is_rapid} == {1000}


def test_passes_repeat_the_loops_at_each_level() -> None:
    one = clear_path(Space((BOX,), 10, 0.2), 4, Down(0, -4, 1, 10, 5), 1000, predrilled=True)
    two = clear_path(Space((BOX,), 10, 0.2), 4, Down(0, -8, 2, 10, 5), 1000, predrilled=True)
    flat = lambda m: sum(  # noqa: E731
        hypot(b[0] - a[0], b[1] - a[1])
        for s in m.strokes if not s.is_rapid for a, b in zip(s.points, s.points[1:], strict=False)
    )  # fmt: skip
    assert flat(two) == pytest.approx(2 * flat(one))


def test_wall_pass_leads_in_and_overlaps_its_start() -> None:
    motion = wall_path(Space((BOX,), 10), Down(0, -8, 1, 10), 1000)
    around = 2 * (50 + 30)
    assert cut_length(motion.strokes) > around + OVERLAP + APPROACH
    assert cut_length(motion.strokes) < around + OVERLAP + APPROACH + 4 * 2.0 + 0.5


def test_finish_outline_is_once_around_at_the_tool_s_radius() -> None:
    ring = ((0, 0), (60, 0), (60, 40), (0, 40))
    motion = finish_outline_path(ring, 20, 0, Down(0, -10, 1, 10), 1000)
    around = 200 + 2 * pi * 10
    assert cut_length(motion.strokes) == pytest.approx(around + OVERLAP + 2 * 6, rel=0.02)
    assert {p[2] for s in motion.strokes if not s.is_rapid for p in s.points} == {-10}


def test_rough_outline_enters_beside_the_stock() -> None:
    ring = ((0, 0), (60, 0), (60, 40), (0, 40))
    motion = rough_outline_path(ring, Rim((-2, -2, 62, 42)), 16, 0.2, 2, Down(0, -10, 1, 10), 1000)
    down = next(s for s in motion.strokes if s.is_rapid and s.points[1][2] == -10)
    x, y, _ = down.points[1]
    assert x <= -10 + 1e-6 or x >= 70 - 1e-6 or y <= -10 + 1e-6 or y >= 50 - 1e-6


def test_chamfer_follows_its_edge_and_overlaps() -> None:
    square = ((0, 0), (10, 0), (10, 10), (0, 10), (0, 0))
    motion = chamfer_path((square,), -1, 600, 10)
    assert cut_length(motion.strokes) == pytest.approx(APPROACH + 40 + OVERLAP)


def test_tour_of_a_bolt_circle_goes_round() -> None:
    from math import cos, sin

    holes = tuple((round(30 * cos(k * pi / 4), 5), round(30 * sin(k * pi / 4), 5)) for k in (0, 3, 6, 1, 4, 7, 2, 5))
    tour = shortest_tour(holes)
    hops = [hypot(b[0] - a[0], b[1] - a[1]) for a, b in itertools.pairwise(tour)]
    assert sum(hops) == pytest.approx(7 * 2 * 30 * sin(pi / 8), rel=1e-3)


@settings(max_examples=15, deadline=None)
@given(st.lists(st.tuples(st.integers(0, 60), st.integers(0, 60)), min_size=1, max_size=9, unique=True))
def test_tour_visits_each_hole_once(points: list[tuple[float, float]]) -> None:
    assert sorted(shortest_tour(tuple(points))) == sorted(points)


@settings(max_examples=12, deadline=None)
@given(st.floats(24, 70), st.floats(24, 70), st.sampled_from([4.0, 6.0, 10.0, 16.0]), st.integers(1, 4))
def test_paths_hang_together_and_end_at_the_clearance_plane(w: float, h: float, d: float, passes: int) -> None:
    region = Region((((0, 0), (w, 0), (w, h), (0, h)),))
    for motion in (
        clear_path(Space((region,), d, 0.2), 0.4 * d, Down(0, -8, passes, 7, 4), 1000, predrilled=False),
        wall_path(Space((region,), d), Down(0, -8, passes, 7), 1000),
        face_path((0, 0, w, h), 50, 2, Down(2, 0, passes, 7), 1000),
    ):
        assert connected(motion.strokes)
        assert motion.start[2] == motion.end[2] == 7
        lowest = min(p[2] for s in motion.strokes for p in s.points)
        assert min(abs(lowest + 8), abs(lowest)) < 1e-9
        assert all(s.points[0][:2] == s.points[1][:2] or s.points[0][2] == 7 for s in motion.strokes if s.is_rapid)
