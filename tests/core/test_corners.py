"""What a thick tool leaves in corners is taken in steps before the walls are finished."""

from __future__ import annotations

from dataclasses import replace
from math import sqrt

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import block, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.operations.milling.corners import corner_path, rest_after
from lean_ledger.core.operations.milling.paths import Down, Space
from lean_ledger.core.operations.milling.regions import Region, centre_area
from lean_ledger.core.operations.model import OperationKind as K
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import OperationEdit
from lean_ledger.library import shipped_library
from tests.cases.parts.drawn import drawn
from tests.conftest import built, quick, quick_ledger

LIB = shipped_library()
SQUARE = Region((((0.0, 0.0), (60.0, 0.0), (60.0, 40.0), (0.0, 40.0)),))


@pytest.fixture(scope="module")
def deep() -> Part:
    """A pocket 60 × 40, 22 deep, corners R3."""
    return built(block((0, 0, 0), (90, 70, 45)) - rounded_block((15, 15, 23), (75, 55, 45), 3))


def test_rest_of_a_square_corner() -> None:
    """R8 leaves 8·(√2 − 1) = 3.31 to the corner itself, R4 half of it: 1.66 between them."""
    rest = rest_after(SQUARE, 8, 4, 0.0, 0.0)
    assert rest.thickness == pytest.approx((8 - 4) * (sqrt(2) - 1), abs=0.03)
    # four corners: what lies outside R8 and inside R4 is (8² − 4²)·(1 − π/4) each
    assert rest.pieces.area == pytest.approx(4 * (64 - 16) * (1 - 0.785398), rel=0.06)


def test_same_tool_leaves_nothing() -> None:
    assert rest_after(SQUARE, 5, 5, 0.2, 0.0).thickness == 0
    assert corner_path(Space((SQUARE,), 10, 0.2), 10, 2, Down(0, -8, 1, 5, 3), 600) is None


@settings(max_examples=10, deadline=None)
@given(thin=st.floats(1.5, 4), more=st.floats(1, 5), leave=st.floats(0, 0.4))
def test_path_keeps_off_the_walls_and_takes_the_rest(thin: float, more: float, leave: float) -> None:
    from shapely.geometry import LineString

    thick = thin + more
    motion = corner_path(Space((SQUARE,), 2 * thin, leave), 2 * thick, 0.4 * thin, Down(0, -8, 2, 5, 3), 600)
    assert motion is not None
    allowed = centre_area(SQUARE, thin, leave, 0.0).buffer(0.03)
    cuts = [s.points for s in motion.strokes if not s.is_rapid]
    assert all(
        allowed.covers(LineString([p[:2] for p in points])) for points in cuts if len({p[:2] for p in points}) > 1
    )
    rest = rest_after(SQUARE, thick, thin, leave, 0.0).pieces
    deepest = [LineString([p[:2] for p in points]) for points in cuts if {p[2] for p in points} == {-8}]
    swept = [line.buffer(thin + 0.05) for line in deepest]
    for one in swept:
        rest = rest.difference(one)
    assert rest.area < 0.05


def test_corners_come_between_roughing_and_finishing(deep: Part) -> None:
    ledger = quick_ledger(deep, "steel-c45")
    ops = [op for op in ledger.operations if op.chain == "P1"]
    assert [op.kind for op in ops] == [K.ROUGH_POCKET, K.FINISH_FLOOR, K.CLEAN_CORNERS, K.FINISH_WALL]
    rough, floor, corners, wall = ops
    assert rough.tool == floor.tool
    assert rough.tool.diameter > corners.tool.diameter == wall.tool.diameter == 6
    # the finishing pass would have met more than a roughing step: that is the reason
    figures = {f.label: f.value for f in corners.figures}
    assert figures["left in corners"] == pytest.approx((rough.tool.diameter / 2 - 3) * (sqrt(2) - 1), abs=0.05)
    assert figures["load of a finishing pass"] > 0.8 * 0.25 * 6**2
    result = followed(course_of(deep, ledger))
    assert not result.collisions
    assert not [r for r in result.remainders if r.cut_into]
    steps = {s.operation: s.removed for s in result.steps}
    # 22 deep, less the floor's allowance; four corners beside R_rough, R3.2 where the allowance stays
    assert 0 < steps[corners.id] < 0.1 * steps[rough.id]


def test_shallow_pocket_needs_none() -> None:
    part = built(block((0, 0, 0), (90, 70, 45)) - rounded_block((15, 15, 42), (75, 55, 45), 3))
    kinds = [op.kind for op in quick_ledger(part).operations]
    assert K.FINISH_WALL in kinds
    assert K.CLEAN_CORNERS not in kinds


def test_large_floor_with_small_corners_is_finished_by_the_thick_tool() -> None:
    """90 × 60 with R1: a Ø2 alone would go over 5,400 mm² in rows of 1.2, 4.5 m. The rougher does it, the corners go
    down to the floor with the thin one, and nothing is left.
    """
    part = built(block((0, 0, 0), (110, 80, 20)) - rounded_block((10, 10, 16), (100, 70, 21), 1))
    ledger = quick_ledger(part)
    by_kind = {op.kind: op for op in ledger.operations if "P1" in op.features}
    floor, corners = by_kind[K.FINISH_FLOOR], by_kind[K.CLEAN_CORNERS]
    assert floor.tool == by_kind[K.ROUGH_POCKET].tool
    assert floor.tool.diameter > 2 * corners.tool.diameter
    assert corners.depth == 4
    assert floor.time.cut_length < 5400 / (0.6 * corners.tool.diameter) / 2
    outcome = followed(course_of(part, ledger))
    assert not stock_findings(part, ledger, outcome)


def test_rest_behind_a_neck_is_cleared_through_what_opens_beside_it() -> None:
    """In drawn part 5037 a step has a corner that its own mill comes to only through the floor beside it."""
    part = built(drawn(5037))
    ledger = quick_ledger(part)
    (rest,) = [op for op in ledger.operations if op.id.endswith("-rest")]
    assert rest.kind == K.CLEAN_CORNERS
    assert rest.name == "Clear the rest of L1"
    around = {op.id for op in ledger.operations if op.kind == K.FINISH_FLOOR and op.setup == rest.setup}
    assert around <= {before for before, _ in rest.after}
    assert not stock_findings(part, ledger, followed(course_of(part, ledger)))


def test_what_stays_on_walls_by_hand_is_no_rest() -> None:
    """0.5 left for somebody to grind: nothing clears it behind the planner's back."""
    part = built(block((0, 0, 0), (80, 60, 20)) - rounded_block((15, 12, 10), (65, 48, 20), 8))
    plan = quick(part)
    by_kind = {op.kind: op.id for op in evaluate(plan, part, LIB).operations if "P1" in op.features}
    edits = (
        OperationEdit(by_kind[K.ROUGH_POCKET], allowance=0.8),
        OperationEdit(by_kind[K.FINISH_WALL], allowance=0.5),
    )
    left = evaluate(replace(plan, edits=edits), part, LIB)
    assert [op.cutting.allowance for op in left.operations if op.id in by_kind.values()] == [0.8, 0.0, 0.5]
    assert not [op for op in left.operations if op.id.endswith("-rest")]
