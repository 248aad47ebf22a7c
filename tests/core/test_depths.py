"""Depths set by hand: a positive number, or to a face that is pointed at.

The part: a plate 80 × 60 × 20 with a pocket 8 deep, a blind hole Ø8 that is 14 deep, one Ø5 through.
"""

from __future__ import annotations

from functools import cache
from math import radians, tan

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.geometry.solids import block, drilled, rod, rounded_block
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DepthChoice, Plan
from lean_ledger.core.revisions.carried import decided_features, without_decisions
from lean_ledger.library import shipped_library
from tests.conftest import built, quick

K = OperationKind
LIB = shipped_library()


@cache
def part() -> Part:
    body = block((0, 0, 0), (80, 60, 20)) - rounded_block((10, 10, 12), (50, 50, 21), 6.0)
    body = body - drilled((65, 15, 20), (0, 0, -1), 8, 14) - rod((65, 45, -1), (0, 0, 1), 5, 22)
    return built(body)


@cache
def ledger() -> Ledger:
    return evaluate(quick(part()), part(), LIB)


def of(kind: OperationKind, there: Ledger | None = None, diameter: float = 0.0) -> Operation:
    return next(
        op for op in (there or ledger()).operations
        if op.kind == kind and (not diameter or abs(op.tool.diameter - diameter) < 0.1)
    )  # fmt: skip


def changed(op: Operation, **values: object) -> tuple[Plan, str]:
    change = read_change({"change": "set-depth", "operation": op.id, **values})
    return change.apply(ledger().plan, Scene(part(), LIB, ledger()))


def deep(op: Operation, **values: object) -> Ledger:
    return evaluate(changed(op, **values)[0], part(), LIB)


def codes(there: Ledger, op: Operation) -> list[str]:
    return [f.code for f in there.findings if f.operation == op.id]


def face_at(level: float, up: tuple[float, float, float] = (0, 0, 1)) -> int:
    """A flat face across Z at a level, looking up."""
    return next(
        f.index for f in part().model.solid.faces
        if f.surface.name == "PLANE" and dot(f.axis, up) > 0.999 and abs(f.origin[2] - level) < 1e-6
    )  # fmt: skip


def test_rule_takes_depths_from_the_model() -> None:
    assert of(K.DRILL, diameter=8).measured.value == 14  # type: ignore[union-attr]
    assert of(K.ROUGH_POCKET).measured.value == 8  # type: ignore[union-attr]
    assert of(K.DRILL, diameter=8).measured.words == ""  # type: ignore[union-attr]


def test_drill_goes_so_deep_with_its_tip_below() -> None:
    """10 deep and the tip of Ø8 at 140°: 4 / tan 70° = 1.456, so 11.456 of travel from the entry."""
    drill = of(K.DRILL, diameter=8)
    there = deep(drill, depth=10)
    now = of(K.DRILL, there, 8)
    tip = 4 / tan(radians(drill.tool.tip_angle / 2))
    assert now.depth == pytest.approx(10 + tip, abs=1e-3)
    lowest = min(p[2] for s in now.motion.strokes for p in s.points)
    was = min(p[2] for s in drill.motion.strokes for p in s.points)
    assert lowest == pytest.approx(was + 4)
    assert now.time.cut < drill.time.cut
    assert codes(there, now) == ["cut-short"]
    finding = next(f for f in there.findings if f.code == "cut-short")
    assert finding.title == f"Drill of {drill.features[0]} stops 4.00 short."
    assert finding.cures[0].change == {"change": "set-depth", "operation": drill.id}


def test_blind_hole_drilled_too_deep_is_an_error_and_a_through_one_may_go_farther() -> None:
    blind, through = of(K.DRILL, diameter=8), of(K.DRILL, diameter=5)
    assert codes(deep(blind, depth=15), blind) == ["cut-too-deep"]
    assert codes(deep(through, depth=23), through) == []


def test_through_hole_to_its_far_face_has_no_break_through() -> None:
    """20 and the tip; the rule goes 1 beyond."""
    through = of(K.DRILL, diameter=5)
    there = of(K.DRILL, deep(through, face=face_at(0, (0, 0, -1))), 5)
    assert there.depth == pytest.approx(through.depth - 1)


def test_face_that_is_pointed_at_is_followed_with_what_goes_beyond() -> None:
    """From the faced top at 20 to the pocket's floor at 12 are 8; 0.5 beyond is 8.5."""
    drill = of(K.DRILL, diameter=8)
    plan, words = changed(drill, face=face_at(12), beyond=0.5)
    pocket = next(f.id for f in part().features if f.kind == "pocket")
    assert plan.depths == (DepthChoice(drill.id, None, pocket, "bottom", 0.5),)
    assert words == f"{drill.name}: to the bottom of {pocket} and 0.5 beyond"
    now = of(K.DRILL, evaluate(plan, part(), LIB), 8)
    assert now.measured is not None
    assert (now.measured.value, now.measured.rule) == (8.5, 14)
    assert now.measured.words == f"to the bottom of {pocket} and 0.5 beyond"


def test_pocket_s_operations_all_follow_its_depth() -> None:
    """8 deep by the rule; to 5 every pass that is made on it stops at 15."""
    rough = of(K.ROUGH_POCKET)
    there = deep(rough, depth=5)
    pocket = rough.features[0]
    own = [op for op in there.operations if pocket in op.features]
    assert {op.kind for op in own} == {K.ROUGH_POCKET, K.FINISH_FLOOR, K.FINISH_WALL}
    for op in own:
        assert op.depth == pytest.approx(5, abs=0.31)  # roughing leaves its allowance on the floor
        assert min(p[2] for s in op.motion.strokes for p in s.points) >= op.frame.point((0, 0, 15))[2] - 1e-6


def test_outline_cut_to_half_leaves_the_rest_to_the_other_side() -> None:
    outline = of(K.ROUGH_OUTLINE)
    there = deep(outline, depth=9)
    first, second = (s for s in there.loads)
    assert of(K.FINISH_OUTLINE, there).depth == 9
    rest = [e.operation for e in second.calls if e.operation.kind == K.ROUGH_OUTLINE]
    assert len(rest) == 1
    assert rest[0].depth == pytest.approx(20 - 9 + 0.3)  # what is left, and the overlap
    assert first.decision.id == "S1"


def test_decision_goes_back_to_the_rule_and_with_its_feature() -> None:
    drill = of(K.DRILL, diameter=8)
    plan, _ = changed(drill, depth=10)
    hole = drill.features[0]
    assert decided_features(plan)[hole] == (f"{drill.id}: its depth set by hand",)
    assert without_decisions(plan, [hole]).depths == ()
    back, words = read_change({"change": "set-depth", "operation": drill.id}).apply(plan, Scene(part(), LIB, ledger()))
    assert back == ledger().plan
    assert words == f"{drill.name}: depth by the rule"


def test_lost_minus_sign_and_faces_without_a_depth_are_refused() -> None:
    drill, spot = of(K.DRILL, diameter=8), of(K.SPOT)
    wall = next(f.index for f in part().model.solid.faces if abs(f.axis[2]) < 0.1 and f.surface.name == "PLANE")
    for op, values, code in (
        (drill, {"depth": -10}, "out-of-range"),
        (drill, {"depth": 0}, "out-of-range"),
        (drill, {"face": wall}, "no-one-depth"),
        (drill, {"face": 9999}, "no-such-face"),
        (drill, {"face": face_at(20)}, "above"),
        (drill, {"face": face_at(12), "depth": 3}, "two-depths"),
        (drill, {"face": face_at(12), "beyond": 80}, "out-of-range"),
        (spot, {"depth": 3}, "no-depth-of-its-own"),
    ):
        with pytest.raises(PlanError) as refused:
            changed(op, **values)
        assert refused.value.code == code, values
    with pytest.raises(PlanError, match="there is no operation S9"):
        read_change({"change": "set-depth", "operation": "S9", "depth": 3}).apply(
            ledger().plan, Scene(part(), LIB, ledger())
        )


def test_face_that_a_revision_took_away_is_said_and_the_rule_stands() -> None:
    drill = of(K.DRILL, diameter=8)
    plan, _ = changed(drill, depth=10)
    lost = evaluate(
        type(plan)(**{**vars(plan), "depths": (DepthChoice(drill.id, None, "P9"),)}), part(), LIB
    )  # fmt: skip
    assert codes(lost, drill) == ["no-depth"]
    assert of(K.DRILL, lost, 8).measured.value == 14  # type: ignore[union-attr]


@settings(max_examples=8)
@given(st.integers(min_value=2, max_value=130))
def test_deeper_takes_longer(tenths: int) -> None:
    drill = of(K.DRILL, diameter=8)
    one, other = (of(K.DRILL, deep(drill, depth=d / 10), 8) for d in (tenths, tenths + 5))
    assert one.time.cut < other.time.cut


def test_tool_that_is_too_short_for_the_depth_is_an_error() -> None:
    """The drill Ø5's flutes carry chips out of so many mm; 60 deep and the tip are more."""
    through = of(K.DRILL, diameter=5)
    assert through.tool.cutting_length < 60
    there = deep(through, depth=60)
    finding = next(f for f in there.findings if f.code == "tool-short")
    assert finding.operation == through.id
    assert finding.why == f"It cuts {through.tool.cutting_length:g}, the cut is {of(K.DRILL, there, 5).depth:.1f} deep."
    assert "tool-short" not in {f.code for f in ledger().findings}
