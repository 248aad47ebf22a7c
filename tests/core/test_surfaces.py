"""Free surfaces: the ball touches and never cuts into the part, the rest is its own radius."""

from __future__ import annotations

from dataclasses import replace
from math import cos, radians, sin, sqrt, tan

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.ball import ball_mass, outside
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.cuts import Blank, Course, Cut
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.dropping import Grid, drop_ball, seen_from_above, shadow
from lean_ledger.core.geometry.solids import at_level, block, prism, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.milling.surface_paths import Over, step_for, triangles_of
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.model import OperationKind as K
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import OperationEdit, Said
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.timing.motion import feed
from lean_ledger.library import shipped_library
from tests.cases.parts.drawn import drawn
from tests.conftest import built, quick

LIB = shipped_library()


@pytest.fixture(scope="module")
def edge() -> Part:
    """36 × 26 × 16, all around the top rounded by R3."""
    return built(block((0, 0, 0), (36, 26, 16)).rounded(3, at_level(16.0)))


@pytest.fixture(scope="module")
def dome() -> Part:
    """60 × 30, flats at 8, between them an arch of R40 up to 14."""
    arch = rod((30, -1, -26), (0, 1, 0), 80, 32)
    return built(block((0, 0, 0), (60, 30, 14)) - (block((-1, -1, 8), (61, 31, 15)) - arch))


def finish_of(ledger: Ledger) -> Operation:
    return next(op for op in ledger.operations if op.kind == K.FINISH_SURFACE)


def test_ball_that_would_cut_the_walls_beside_gives_way_to_a_thinner_one() -> None:
    """A surface beside a slot: all of the way of the ball of 12, which its depth would take, comes nearer than 6."""
    part = built(drawn(80228))
    plan = quick_plan(part, "steel-c45", (10,), LIB)
    finish = finish_of(evaluate(plan, part, LIB))
    assert finish.tool.diameter == 10
    by_hand = replace(plan, edits=(OperationEdit(finish.id, tool="BA12"),))
    assert [f.title for f in evaluate(by_hand, part, LIB).findings if f.code == "would-cut"] == [
        "“Finish U1 in levels” is left out: Ball mill 12 z2 would cut the part or what holds it."
    ]
    # it stays where a planner can give it another tool
    there = evaluate(by_hand, part, LIB)
    (left,) = there.left_out
    assert (left.id, left.tool.id) == (finish.id, "BA12")
    again = read_change({"change": "edit-operation", "operation": left.id, "tool": "BA6"})
    mended, words = again.apply(replace(by_hand, edits=()), Scene(part, LIB, there))
    assert words.startswith("Finish U1 in levels: ")
    assert finish_of(evaluate(mended, part, LIB)).tool.id == "BA6"
    assert evaluate(mended, part, LIB).left_out == ()


def slope(angle: float) -> np.ndarray:
    """Rising along X from 0, 40 wide."""
    high = 40 * tan(radians(angle))
    a, b, c, d = (0, 0, 0), (40, 0, high), (40, 40, high), (0, 40, 0)
    return np.array([(a, b, c), (a, c, d)], dtype=float)


@given(angle=st.floats(0, 70), radius=st.floats(0.5, 4))
def test_ball_on_a_slope_hangs_over_it(angle: float, radius: float) -> None:
    """By r·(1/cos − 1): 0.8284 for r = 2 at 45°."""
    heights = drop_ball(slope(angle), Grid(16, 16, 2, 2, 4, 4), radius, -99)
    expected = np.array([16, 18, 20, 22]) * tan(radians(angle)) + radius * (1 / cos(radians(angle)) - 1)
    assert heights[2] == pytest.approx(expected)


def test_ball_on_a_corner_and_on_an_edge() -> None:
    flat = np.array([((0, 0, 5), (20, 0, 5), (0, 20, 5))], dtype=float)
    heights = drop_ball(flat, Grid(-1, 10, 1, 1, 2, 1), 2, -9)
    assert heights[0] == pytest.approx([5 + sqrt(4 - 1) - 2, 5])  # 1 beside the edge, and on it
    corner = drop_ball(flat, Grid(-1, -1, 1, 1, 1, 1), 2, -9)
    assert corner[0, 0] == pytest.approx(5 + sqrt(4 - 2) - 2)
    assert drop_ball(flat, Grid(-3, 10, 1, 1, 1, 1), 2, -9)[0, 0] == -9


def test_shadow_of_what_rises_above_a_level() -> None:
    assert shadow(slope(45), 10).area == pytest.approx(30 * 40, rel=1e-4)
    assert seen_from_above(slope(45)[:, :, :2]).area == pytest.approx(1600, rel=1e-4)
    assert shadow(slope(45), 50).is_empty


@pytest.mark.parametrize(("radius", "cusp", "step"), [(3, 0.01, 0.4895), (6, 0.01, 0.6925), (2, 0.02, 0.5643)])
def test_step_between_rows(radius: float, cusp: float, step: float) -> None:
    assert step_for(radius, cusp) == pytest.approx(step, abs=1e-4)
    # half a step off its middle a ball stands a cusp higher
    assert radius - sqrt(radius**2 - (step / 2) ** 2) == pytest.approx(cusp, rel=1e-3)


def test_what_a_ball_takes_on_a_straight_way() -> None:
    """Half a cylinder and half a ball at its ends, up to the middle: π/2·r²·L + 2/3·π·r³, less what stands upright."""
    mass = ball_mass([[(0.0, 0.0, 0.0), (20.0, 0.0, 0.0)]], 4.0, 3.0)
    # up to 3 of 4 high: the segment of a circle of radius 4, as wide as 2·√15
    segment = 16 * (np.pi / 2 - np.arcsin(0.25)) - 1 * sqrt(15)
    ends = np.pi * 9 * (3 * 4 - 3) / 3
    assert mass.volume == pytest.approx(20 * segment + ends, rel=0.02)


def test_outside_of_what_a_ball_goes_through() -> None:
    """r = 4 along X, its middle at z = 4: 5 beside the middle is 1 outside, at z = −2 below it 2; above the middle
    the shank: at y = 4.5 it is 0.5, however high; 10 past its end 10 − 4 = 6.
    """
    points = np.array([(10.0, 1, 4), (10, 5, 4), (10, 0, -2), (10, 4.5, 9), (30, 0, 4)])
    assert outside([[(0.0, 0.0, 0.0), (20.0, 0.0, 0.0)]], 4.0, points) == pytest.approx([0, 1, 2, 0.5, 6])


@pytest.mark.parametrize(("deeper", "found"), [(0.0, False), (0.3, True)])
def test_ridge_that_a_ball_passes_on_both_sides(deeper: float, found: bool) -> None:
    """A steep roof, its ridge at y = 10.15: the ball touches either slope, its middle r off it, square to the slope. On
    the grid that the ball's solid is drawn on, 0.07 of the ridge would be rounded off.
    """
    ridge, r = np.array([10.15, 20.0]), 4.0
    outline = ((0, 0), (20, 0), (20, 1), (10.15, 20), (0, 1))
    roof = built(prism(outline, 0, 14).turned((1, 1, 1), 120))  # its X is the prism's length
    lines = []
    for foot in ((0.0, 1.0), (20.0, 1.0)):
        down = (np.array(foot) - ridge) / np.linalg.norm(np.array(foot) - ridge)
        square = np.array([-down[1], down[0]]) * np.sign(down[0])  # away from the roof
        for k in range(40):
            y, z = ridge + 0.25 * k * down + r * square
            lines.append([(x, float(y), float(z) - r - deeper) for x in (-5.0, 19.0)])
    ball = next(t for t in LIB.tools if t.kind == "ball_mill" and t.diameter == 8)
    strokes = tuple(feed(1000, line) for line in lines)
    cut = Cut("ball", Motion(strokes), ball, Frame((1, 0, 0), (0, 1, 0), (0, 0, 1)), 25.0)
    outcome = followed(Course(Blank(roof.model.solid.bounds), (roof.model.solid.mesh,), (cut,)))
    assert any(one.cut_into for one in outcome.remainders) == found


def test_part_comes_out_and_the_ball_never_cuts_into_it(edge: Part) -> None:
    ledger = evaluate(quick(edge), edge, LIB)
    assert not [f for f in ledger.findings if f.severity == "error"]
    assert finish_of(ledger).tool.kind == "ball_mill"
    result = followed(course_of(edge, ledger))
    assert not [r for r in result.remainders if r.cut_into]
    assert not result.collisions
    assert all(r.amount < 0.1 for r in result.remainders)


def test_tip_stays_on_or_above_the_part_along_its_way(dome: Part) -> None:
    ledger = evaluate(quick(dome), dome, LIB)
    op = finish_of(ledger)
    radius = op.tool.diameter / 2
    triangles = triangles_of(Over(dome.model.solid.mesh, op.frame))
    points = [p for s in op.motion.strokes if not s.is_rapid for p in s.points][::7]
    for x, y, z in points:
        least = drop_ball(triangles, Grid(x, y, 1, 1, 1, 1), radius, -99)[0, 0]
        assert z >= least - 0.02


def test_opened_before_and_the_outline_before(dome: Part, edge: Part) -> None:
    kinds = [op.kind for op in evaluate(quick(dome), dome, LIB).operations]
    assert kinds.index(K.ROUGH_SURFACE) < kinds.index(K.FINISH_SURFACE)
    ledger = evaluate(quick(edge), edge, LIB)
    ops = [e.operation for e in ledger.loads[-1].calls]
    assert [op.kind for op in ops][-1] == K.FINISH_SURFACE
    assert K.ROUGH_SURFACE not in {op.kind for op in ops}  # R3 is no more than the ball takes
    assert finish_of(ledger).features == ("R1", "R2", "R3", "R4")


def test_way_and_finish_by_choice(dome: Part) -> None:
    plan = quick(dome)
    ledger = evaluate(plan, dome, LIB)
    op = finish_of(ledger)
    times = dict(op.strategies)
    assert op.strategy == min(times, key=lambda one: times[one])
    other = next(one for one in ("in rows", "in levels") if one != op.strategy)
    by_hand = evaluate(replace(plan, edits=(OperationEdit(op.id, strategy=other),)), dome, LIB)  # type: ignore[arg-type]
    assert finish_of(by_hand).strategy == other
    coarse = evaluate(replace(plan, said=(Said("U1", finish=6.3),)), dome, LIB)
    # cusps of 4 · 6.3 µm in place of 10 µm: the step grows with their root
    assert finish_of(coarse).cutting.ae / op.cutting.ae == pytest.approx(sqrt(25.2 / 10), rel=0.01)
    assert coarse.per_piece < ledger.per_piece


def test_low_flat_beside_something_that_rises_keeps_off_it(dome: Part) -> None:
    ledger = evaluate(quick(dome), dome, LIB)
    rough = [op for op in ledger.operations if op.kind == K.ROUGH_POCKET]
    assert len(rough) == 2
    foot = 30 - sqrt(40**2 - 34**2)
    for op in rough:
        xs = [p[0] for s in op.motion.strokes if not s.is_rapid for p in s.points]
        off = op.tool.diameter / 2
        assert max(xs) <= foot - off + 0.01 or min(xs) >= 60 - foot + off - 0.01


@settings(max_examples=10, deadline=None)
@given(radius=st.floats(2, 8))
def test_radius_between_flats_of_a_turn(radius: float) -> None:
    """What a ball leaves in an inner corner of 90°: r·(√2 − 1), measured on two faces."""
    wall = np.array([((0, 0, 0), (40, 0, 0), (40, 40, 0)), ((0, 0, 0), (40, 40, 0), (0, 40, 0)),
                     ((0, 0, 0), (0, 40, 0), (0, 40, 40)), ((0, 0, 0), (0, 40, 40), (0, 0, 40))], float)  # fmt: skip
    heights = drop_ball(wall, Grid(radius, 20, 1, 1, 1, 1), radius, -9)
    assert heights[0, 0] == pytest.approx(0, abs=1e-9)
    assert sin(radians(45)) * radius * 2 - radius == pytest.approx(radius * (sqrt(2) - 1))
