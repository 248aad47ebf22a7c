"""Paths keep off the part, off what holds it and off stock that stands, whatever they were made for."""

from __future__ import annotations

from dataclasses import replace
from math import inf, radians, sqrt, tan

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.dropping import drop_at, shadow
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.solids import Body, block, rod
from lean_ledger.core.holding.obstacles import Block, Obstacle, Rod
from lean_ledger.core.operations.holes.drilling import opened_beyond
from lean_ledger.core.operations.holes.hole_paths import drill_path
from lean_ledger.core.operations.milling.surface_paths import Over, triangles_of
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.operations.safe.cleared import path_of, went
from lean_ledger.core.operations.safe.mended import Mended
from lean_ledger.core.operations.safe.off_part import STRAY, Keep, kept_off
from lean_ledger.core.operations.safe.pointed import lowest_tip
from lean_ledger.core.operations.safe.ridges import beside_ridges, over_ridges, ridges_along
from lean_ledger.core.operations.safe.shadows import bores_along
from lean_ledger.core.operations.safe.tool_outline import covering, slices_of
from lean_ledger.core.setups.frame import frame_of
from lean_ledger.core.timing.motion import Stroke, feed, rapid
from lean_ledger.library import shipped_library
from lean_ledger.library.types import Tool, ToolKind
from tests.conftest import built

LIB = shipped_library()
UP = frame_of("Z+", 0)
X, Y, Z = (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)


def tool(kind: ToolKind, diameter: float, reach: float = 60.0, holder: float = 40.0) -> Tool:
    found = next(t for t in LIB.tools if t.kind == kind and abs(t.diameter - diameter) < 1e-6)
    return replace(found, reach=reach, holder=replace(found.holder, diameter=holder))


def keep(body: Body, *fixture: Obstacle, top: float = 20.0) -> Keep:
    solid = built(body).model.solid
    return Keep(
        Over(solid.mesh, UP), bores_along(Same(solid), UP), ridges_along(Same(solid), UP), fixture, 40.0, top
    )  # fmt: skip


def path(*points: tuple[float, float, float]) -> Motion:
    high = 40.0
    start, end = points[0], points[-1]
    return Motion((
        rapid((*start[:2], high), (*start[:2], start[2] + 2)), feed(100, [(*start[:2], start[2] + 2), start]),
        feed(200, points), rapid(end, (*end[:2], high)),
    ))  # fmt: skip


def lengths(motion: Motion, level: float) -> float:
    """mm that are cut at a level."""
    return sum(s.length for s in motion.strokes if not s.is_rapid and all(p[2] == level for p in s.points))


# ---- off the part


def test_way_past_a_wall_is_left_as_it_is() -> None:
    step = block((0, 0, 0), (60, 40, 10)) + block((40, 0, 0), (60, 40, 20))
    way = path((-10, 20, 10), (34.99, 20, 10))  # a mill of 10 up to 35: its edge is on the wall at 40
    found = kept_off(Same(way), tool(ToolKind.END_MILL, 10), keep(step))
    kept = found.path
    assert kept is way
    assert found.length == 0


def test_way_into_a_wall_ends_where_the_tool_touches_it() -> None:
    step = block((0, 0, 0), (60, 40, 10)) + block((40, 0, 0), (60, 40, 20))
    found = kept_off(Same(path((-10, 20, 10), (55, 20, 10))), tool(ToolKind.END_MILL, 10), keep(step))
    kept = found.path
    assert kept is not None
    # from −10 to 35: the last 20 are found.length out
    assert lengths(kept, 10) == pytest.approx(45, abs=2 * STRAY)
    assert found.length == pytest.approx(20, abs=2 * STRAY)
    assert max(p[0] for s in kept.strokes if not s.is_rapid for p in s.points) <= 35 + STRAY + 1e-6


def test_wall_of_a_slot_stands_where_a_bore_in_its_floor_reaches_behind_it() -> None:
    """The bore's circle goes 0.3 behind the wall, below the floor only: there the wall stands in its circle."""
    slotted = block((0, 0, 0), (60, 40, 20)) - block((-1, 10, 11), (61, 16.5, 21)) - rod((30, 13, -1), Z, 6.6, 13)
    near = path((-10, 12.84, 11), (70, 12.84, 11))  # a mill of 6: 0.16 into the wall at 10
    assert lengths(near, 11) == 80
    kept = kept_off(Same(near), tool(ToolKind.END_MILL, 6), keep(slotted)).path
    assert kept is not None
    assert not any(4 < p[0] < 56 for s in kept.strokes if not s.is_rapid for p in s.points)
    free = path((-10, 13, 11), (70, 13, 11))
    assert kept_off(Same(free), tool(ToolKind.END_MILL, 6), keep(slotted)).path is free


def test_way_across_a_boss_goes_over_it_at_the_clearance() -> None:
    plate = block((0, 0, 0), (80, 40, 10)) + rod((40, 20, 9), Z, 10, 11)
    found = kept_off(Same(path((-10, 20, 10), (90, 20, 10))), tool(ToolKind.END_MILL, 10), keep(plate))
    kept = found.path
    assert kept is not None
    # the boss is 10 wide, the tool too: 20 around its middle are found.length out
    assert found.length == pytest.approx(20, abs=0.2)
    over = [s for s in kept.strokes if s.is_rapid and s.points[0][0] < 35 and s.points[-1][0] > 45]
    assert len(over) == 1
    assert {p[2] for p in over[0].points} == {40.0}, "across the boss only at the clearance plane"
    again = kept.strokes.index(over[0])
    assert kept.strokes[again + 1].points[-1][2] == 22.0, "at rapid to above all that stands"
    assert not kept.strokes[again + 2].is_rapid, "from there at feed"


def test_way_that_is_all_in_the_part_is_refused() -> None:
    found = kept_off(
        Same(path((10, 10, 5), (40, 10, 5))), tool(ToolKind.END_MILL, 10), keep(block((0, 0, 0), (60, 40, 20)))
    )
    kept = found.path
    assert kept is None


def test_holder_counts_as_the_tool_does() -> None:
    step = block((0, 0, 0), (60, 40, 10)) + block((40, 0, 0), (60, 40, 50))
    short = tool(ToolKind.END_MILL, 10, reach=30, holder=40)  # the wall rises 40 over the floor
    found = kept_off(Same(path((-10, 20, 10), (34, 20, 10))), short, keep(step, top=50))
    kept = found.path
    assert kept is not None
    # a holder of 40 stays 20 off the wall: up to 20 instead of 34
    assert found.length == pytest.approx(14, abs=2 * STRAY)
    assert (
        kept_off(
            Same(path((-10, 20, 10), (34, 20, 10))), tool(ToolKind.END_MILL, 10, reach=41), keep(step, top=50)
        ).length
        == 0
    )


def test_jaw_counts_as_the_part_does() -> None:
    plate = block((0, 0, 0), (60, 40, 20))
    jaw = Block("jaw", Bounds((0, 40, 0), (60, 60, 12)))
    way = path((-10, 46, 11), (70, 46, 11))
    found = kept_off(Same(way), tool(ToolKind.END_MILL, 10), keep(plate, jaw))
    assert found.length == pytest.approx(60 + 2 * 5, abs=0.1), "the jaw is 60 long, the tool 5 on either side"
    above = path((-10, 46, 12), (70, 46, 12))
    assert kept_off(Same(above), tool(ToolKind.END_MILL, 10), keep(plate, jaw)).path is above


def test_bore_is_a_circle_however_it_is_drawn() -> None:
    # chords of a Ø60 bore stand 0.08 into it; an end mill of 10 goes round at 25
    plate = block((0, 0, 0), (100, 100, 20)) - rod((50, 50, -1), Z, 60, 22)
    turns = np.linspace(0, 2 * np.pi, 200)
    way = path(*((50 + 25 * np.cos(t), 50 + 25 * np.sin(t), 2.0) for t in turns))
    assert kept_off(Same(way), tool(ToolKind.END_MILL, 10), keep(plate)).path is way


@settings(max_examples=10, deadline=None)
@given(st.floats(-8, 68), st.floats(-8, 48), st.floats(-8, 68), st.floats(-8, 48))
def test_no_way_comes_nearer_to_the_part_than_the_tool_is_thick(x0: float, y0: float, x1: float, y1: float) -> None:
    """Judged by the distance to a box, which the code under test does not use."""
    body = block((0, 0, 0), (60, 40, 5)) + block((20, 10, 0), (40, 30, 20))
    found = kept_off(Same(path((x0, y0, 5.0), (x1, y1, 5.0))), tool(ToolKind.END_MILL, 10), keep(body))
    kept = found.path
    for stroke in kept.strokes if kept is not None else ():
        if stroke.is_rapid:
            continue
        for share in np.linspace(0, 1, 40):
            a, b = np.array(stroke.points[0]), np.array(stroke.points[-1])
            x, y, z = a + share * (b - a)
            if z < 20 - 1e-9:
                gap = sqrt(max(20 - x, 0, x - 40) ** 2 + max(10 - y, 0, y - 30) ** 2)
                assert gap >= 5 - STRAY - 0.012, "and a chord of an offset"


# ---- pointed tools


def test_cone_of_a_drill_by_hand() -> None:
    # a Ø10 bore in a plate 20 thick over a seat: a Ø14 drill of 118° may come down until its cone touches the rim
    plate = block((0, 0, 0), (60, 60, 20)) - rod((30, 30, -1), Z, 10, 22)
    solid = built(plate).model.solid
    found = lowest_tip(Over(solid.mesh, UP), (30.0, 30.0), 7.0, 118.0, 0.0)
    # at the rim, 5 off the axis and 20 up, the cone is 5 / tan 59° above its tip: 20 − 3.004
    assert found == pytest.approx(20 - 5 / tan(radians(59)), abs=0.05)
    assert lowest_tip(Over(solid.mesh, UP), (30.0, 30.0), 4.9, 118.0, 0.0) == -inf


def test_drill_over_a_flat_seat_stops_at_it() -> None:
    seat = block((0, 0, 0), (60, 60, 40)) - rod((30, 30, 22), Z, 30, 20)
    found = kept_off(
        Same(drill_path(((30.0, 30.0),), 40.0, 25.0, 0.0, 100.0, 45.0, 45.0)), tool(ToolKind.DRILL, 14, reach=90),
        keep(seat, top=40),
    )  # fmt: skip
    kept = found.path
    assert kept is not None
    assert kept.cycle is not None
    # the tip on the floor at 22, and deeper by what may be taken across: (0.02 + 0.008 · 7) / tan 70°
    assert kept.cycle.bottom == pytest.approx(22 - (STRAY + 0.056) / tan(radians(70)), abs=0.02)
    assert found.shallower > 0


def test_hole_that_may_not_be_begun_is_left_out_and_the_others_are_made() -> None:
    plate = block((0, 0, 0), (60, 60, 20)) - rod((15, 15, -1), Z, 6, 22)
    both = drill_path(((15.0, 15.0), (45.0, 45.0)), 20.0, 23.0, 0.0, 100.0, 22.0, 25.0)
    found = kept_off(Same(both), tool(ToolKind.DRILL, 6, reach=60), keep(plate))
    kept = found.path
    assert kept is not None
    assert kept.cycle is not None
    assert kept.cycle.points == ((15.0, 15.0),)
    assert found.holes == 1


@settings(max_examples=12, deadline=None)
@given(st.floats(1, 12), st.floats(60, 150), st.floats(0.5, 11))
def test_tip_over_a_round_hole_for_any_cone(radius: float, angle: float, hole: float) -> None:
    plate = block((0, 0, 0), (60, 60, 20)) - rod((30, 30, -1), Z, 2 * hole, 22)
    found = lowest_tip(Over(built(plate).model.solid.mesh, UP), (30.0, 30.0), radius, angle, 0.0)
    expected = 20 - hole / tan(radians(angle / 2)) if radius > hole else -inf
    # chords of the rim: 1 − cos of half a step of 0.25
    assert (
        found == expected
        or abs(found - expected) <= 0.012 * hole / tan(radians(angle / 2)) + 1e-6
        or (abs(radius - hole) < 0.01 * hole)
    )


def test_outline_of_tools_up_to_their_holders() -> None:
    mill = tool(ToolKind.END_MILL, 10, reach=35, holder=42)
    assert slices_of(mill) == [(5.0, 0.0), (21.0, 35.0)]
    drill = tool(ToolKind.DRILL, 8, reach=60, holder=40)
    # quarters of its cone: (1, 1 / tan 70°) and so on up to the full radius
    for k, (radius, height) in enumerate(slices_of(drill)[:4], start=1):
        assert radius == pytest.approx(k)
        assert height == pytest.approx(k / tan(radians(drill.tip_angle / 2)))
    # from the level at which the quarter below it ends: nothing of the cone lies outside
    for k, (radius, height) in enumerate(covering(drill)[:4], start=1):
        assert radius == pytest.approx(k)
        assert height == pytest.approx((k - 1) / tan(radians(drill.tip_angle / 2)))
    assert covering(drill)[4] == slices_of(drill)[4] == (20.0, 60.0)
    assert covering(mill) == slices_of(mill)


def test_tip_of_a_drill_keeps_out_of_what_the_bar_stands_on() -> None:
    bush = rod((0, 0, 0), Z, 40, 30) - rod((0, 0, -1), Z, 15, 32)
    chuck = Rod("chuck", 0, 0, 100, -80, -2)
    drill = tool(ToolKind.DRILL, 15, reach=120)
    # 1 beyond the end with the full diameter: its tip 1 + 7.5 / tan 70° = 3.73 below, 1.73 of it in the chuck
    way = drill_path(((0, 0),), 30, 33.73, 0.0, 200, 32, 40)
    kept = kept_off(Same(way), drill, keep(bush, chuck))
    assert kept.path is not None
    assert kept.path.cycle is not None
    assert kept.path.cycle.bottom == pytest.approx(-2, abs=0.03)
    assert kept.shallower == pytest.approx(1.73, abs=0.03)
    assert kept_off(Same(way), drill, keep(bush, replace(chuck, high=-4))).path is way


# ---- balls


def test_ball_keeps_off_a_jaw_beside_the_part() -> None:
    jaw = Block("jaw", Bounds((62, 0, 0), (80, 40, 25)))
    ball = tool(ToolKind.BALL_MILL, 12)
    way = path((10, 20, 20), (70, 20, 20))  # along the top, on into the jaw
    found = kept_off(Same(way), ball, keep(block((0, 0, 0), (60, 40, 20)), jaw))
    assert found.path is not None
    # 5 below the jaw's top a ball of R6 is √(36 − 1) wide; it is taken as a cylinder of 6 at most: up to 56
    assert max(p[0] for s in found.path.strokes if not s.is_rapid for p in s.points) == pytest.approx(56, abs=0.2)
    assert found.length == pytest.approx(14, abs=0.2)
    assert kept_off(Same(way), ball, keep(block((0, 0, 0), (60, 40, 20)))).path is way


def test_ball_beside_an_edge_is_lifted_onto_it() -> None:
    body = block((0, 0, 0), (60, 40, 20))
    ball = tool(ToolKind.BALL_MILL, 12)
    # 4 beside the wall the ball of R6 touches the upper edge: 20 + √(36 − 16) − 6
    level = 20 + sqrt(36 - 16) - 6
    free = path((-20, -4, level), (80, -4, level))
    assert kept_off(Same(free), ball, keep(body)).path is free
    low = path((-20, -4, level - 0.5), (80, -4, level - 0.5))
    found = kept_off(Same(low), ball, keep(body))
    kept = found.path
    assert kept is not None
    assert kept is not low
    for stroke in kept.strokes:
        for x, y, z in stroke.points if not stroke.is_rapid else ():
            reach = drop_at(triangles_of(keep(body).part), np.array([[x, y]]), 6.0)[0]
            assert z >= reach - 0.05


def test_ball_rolls_over_a_round_and_not_over_its_chords() -> None:
    body = block((0, 0, 0), (60, 40, 20)).rounded(10, lambda a, b: a[2] > 19 and b[2] > 19 and a[1] > 39 and b[1] > 39)
    (ridge,) = ridges_along(Same(built(body).model.solid), UP)
    assert ridge.radius == 10
    # about the axis at Y 30, Z 10: a ball of R6 at 45° has its middle 16 off it
    off = 16 * sqrt(0.5)
    on_it = np.array([[30, 30 + off, 10 + off - 6]])
    assert over_ridges(on_it, 6.0, (ridge,)) == pytest.approx([0.0])
    # 0.07 nearer along that way: lifted by 0.07 / cos 45°
    near = on_it - np.array([[0, 0.07 * sqrt(0.5), 0.07 * sqrt(0.5)]])
    assert over_ridges(near, 6.0, (ridge,)) == pytest.approx([0.07 / sqrt(0.5)], rel=1e-3)
    beside = on_it + np.array([[0, 0, -20]])
    assert over_ridges(beside, 6.0, (ridge,)) == pytest.approx([0.0]), "below the round the wall is flat"


def test_ball_keeps_off_an_upright_round_and_not_off_its_chords() -> None:
    body = block((0, 0, 0), (60, 40, 20)).rounded(10, lambda a, b: a[:2] == b[:2] == (60, 40))
    (ridge,) = ridges_along(Same(built(body).model.solid), UP)
    # about the axis at X 50, Y 30: a ball of R6 at 45° has its middle 16 off it
    on_it = np.array([[50 + 16 * sqrt(0.5), 30 + 16 * sqrt(0.5), 2.0]])
    assert beside_ridges(on_it, 6.0, (ridge,)) == pytest.approx(on_it)
    near = on_it - np.array([[0.1 * sqrt(0.5), 0.1 * sqrt(0.5), 0]])
    assert beside_ridges(near, 6.0, (ridge,)) == pytest.approx(on_it)
    assert over_ridges(near, 6.0, (ridge,)) == pytest.approx([0.0]), "a lift would not help"
    elsewhere = np.array([[30.0, 45.9, 2.0]])
    assert beside_ridges(elsewhere, 6.0, (ridge,)) == pytest.approx(elsewhere)


# ---- what lies above


def test_island_in_a_hole_casts_its_shadow() -> None:
    pocket = block((0, 0, 0), (60, 60, 20)) - block((10, 10, 5), (50, 50, 21)) + block((25, 25, 4), (35, 35, 20))
    over = shadow(triangles_of(Over(built(pocket).model.solid.mesh, UP)), 10.0)
    assert over.area == pytest.approx(60 * 60 - 40 * 40 + 10 * 10, rel=1e-3)


@pytest.mark.parametrize(
    ("below", "later", "expected"), [(5.0, 4.5, 5.0), (8.0, 4.5, 5.0), (2.0, 4.5, 2.0), (0.0, 9.0, 1.0)]
)
def test_hole_is_opened_as_far_as_what_follows_needs(below: float, later: float, expected: float) -> None:
    # a tap goes 3 pitches beyond: 4.5 for M10, and half a millimetre of room; through air the drill's own 1 will do
    assert opened_beyond(below, later) == expected


def test_rapid_goes_over_what_stands_higher_than_its_plane() -> None:
    """A jaw 100 high between two cuts that lie beside it: up to over it, across, and down again; the cuts stay."""
    jaw = Block("jaw", Bounds((28, -30, 0), (32, 60, 100)))
    mill = tool(ToolKind.END_MILL, 6, reach=120)
    motion = Motion((
        feed(200, [(10.0, 5.0, 25.0), (10.0, 25.0, 25.0)]), rapid((10.0, 25.0, 25.0), (10.0, 25.0, 40.0)),
        rapid((10.0, 25.0, 40.0), (50.0, 5.0, 40.0)), rapid((50.0, 5.0, 40.0), (50.0, 5.0, 25.0)),
        feed(200, [(50.0, 5.0, 25.0), (50.0, 25.0, 25.0)]),
    ))  # fmt: skip
    kept = kept_off(Same(motion), mill, keep(block((0, 0, 0), (60, 30, 20)), jaw)).path
    assert kept is not None
    assert [s.points for s in kept.strokes if not s.is_rapid] == [s.points for s in motion.strokes if not s.is_rapid]
    over = [s for s in kept.strokes if s.is_rapid and s.points[0][:2] != s.points[-1][:2]]
    assert [min(p[2] for p in s.points) > 100 for s in over] == [True]
    low = keep(block((0, 0, 0), (60, 30, 20)), Block("jaw", Bounds((28, -30, 0), (32, 60, 30))))
    assert kept_off(Same(motion), mill, low).path == motion


@settings(max_examples=12, deadline=None)
@given(turns=st.integers(1, 12), orbit=st.floats(1, 20), radius=st.floats(0.5, 10))
def test_way_in_pieces_clears_what_it_clears_as_a_whole(turns: int, orbit: float, radius: float) -> None:
    """A line that winds around itself: the same area, whether it is widened at once or piece by piece."""
    angles = [2 * np.pi * k / 36 for k in range(36 * turns + 1)]
    line = [(orbit * float(np.cos(a)), orbit * float(np.sin(a)), -3.0) for a in angles]
    mill = replace(tool(ToolKind.END_MILL, 10), diameter=2 * radius)
    found = went(path_of(Same(Motion((feed(500, line),)))), mill).area(-3.0)
    once = LineString([p[:2] for p in line[:37]]).buffer(radius, quad_segs=24)
    assert found.symmetric_difference(once).area < 0.01 * once.area


def test_way_ends_where_it_cuts_last() -> None:
    """Rapids to where all was left out are none: neither between two cuts nor after the last."""
    walk = Mended(40.0, 20.0)
    walk.rapid(rapid((0.0, 0.0, 40.0), (0.0, 0.0, 22.0)))
    walk.cut(200, [(0.0, 0.0, 10.0), (9.0, 0.0, 10.0)])
    for x in (20.0, 30.0):
        walk.rapid(rapid((x, 0.0, 10.0), (x, 0.0, 40.0)))
        walk.rapid(rapid((x, 0.0, 40.0), (x + 5, 5.0, 40.0)))
    ends = [s.points[-1] for s in walk.ended() if s.is_rapid]
    assert ends == [(0.0, 0.0, 22.0), (9.0, 0.0, 40.0)]


def test_what_goes_the_same_way_at_another_feed_is_one_path() -> None:
    """An edit of a feed finds what was worked out of the way before; another point, and it is another way."""
    points = ((0.0, 0.0, 5.0), (10.0, 0.0, 5.0))
    slow, fast, other = (
        Motion((Stroke(((0.0, 0.0, 9.0), points[0])), Stroke(way, feed)))
        for way, feed in ((points, 300.0), (points, 900.0), ((points[0], (10.5, 0.0, 5.0)), 300.0))
    )
    assert path_of(Same(slow)) == path_of(Same(fast))
    assert path_of(Same(slow)) != path_of(Same(other))
    assert [s.is_rapid for s in path_of(Same(slow)).value.strokes] == [True, False]
    rapid = Motion((*slow.strokes[:1], Stroke(points)))
    assert path_of(Same(rapid)) != path_of(Same(slow))
