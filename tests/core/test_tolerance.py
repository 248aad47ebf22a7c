"""Tolerances as drawings write them, what they ask for, and the reaming that follows."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.features import Hole
from lean_ledger.core.features.tolerance import GRADES, RANGES, asks_for, grade_width, read_tolerance
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.library import shipped_library
from tests.conftest import built, quick

LIB = shipped_library()
UP = (0.0, 0.0, 1.0)


@pytest.mark.parametrize(
    ("text", "nominal", "upper", "lower"),
    [
        ("H7", 8, 0.015, 0.0),  # ISO 286: IT7 over 6 to 10 mm is 15 µm
        ("H7", 10, 0.015, 0.0),
        ("H7", 10.5, 0.018, 0.0),
        ("h6", 40, 0.0, -0.016),
        ("JS9", 25, 0.026, -0.026),
        ("±0.02", 8, 0.02, -0.02),
        ("+-0,02", 8, 0.02, -0.02),
        ("+0.05/0", 8, 0.05, 0.0),
        ("-0.01/-0.03", 8, -0.01, -0.03),
    ],
)
def test_tolerance_gives_its_limits(text: str, nominal: float, upper: float, lower: float) -> None:
    found = read_tolerance(text, nominal)
    assert (found.upper, found.lower) == (upper, lower)
    assert found.width == pytest.approx(upper - lower)


def test_fit_that_is_not_on_zero_has_a_width_only() -> None:
    found = read_tolerance("P7", 8)
    assert (found.width, found.upper) == (0.015, None)


@pytest.mark.parametrize(("text", "nominal"), [("snug", 8), ("H3", 8), ("H7", 900), ("±0", 8), ("±40", 8), ("", 8)])
def test_what_is_no_tolerance_is_refused(text: str, nominal: float) -> None:
    with pytest.raises(PlanError, match=r"tolerance|covered|leaves"):
        read_tolerance(text, nominal)


@given(st.sampled_from(sorted(GRADES)), st.floats(0.5, 499), st.floats(0.5, 499))
def test_grades_widen_with_size_and_number(grade: int, one: float, other: float) -> None:
    small, large = sorted((one, other))
    assert grade_width(grade, small) <= grade_width(grade, large)
    if grade + 1 in GRADES:
        assert grade_width(grade, small) < grade_width(grade + 1, small)


def test_every_grade_covers_every_range() -> None:
    assert all(len(widths) == len(RANGES) for widths in GRADES.values())


def plate_with(diameter: float, depth: float | None = None) -> Part:
    cut = rod((20, 20, 0 if depth is None else 16 - depth), UP, diameter, 16 if depth is None else depth)
    return built(block((0, 0, 0), (60, 40, 16)) - cut)


def toleranced(part: Part, tolerance: str) -> Plan:
    plan = quick(part)
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    change = {"change": "say-tolerance", "features": ["H1"], "tolerance": tolerance}
    return read_change(change).apply(plan, scene)[0]


@pytest.mark.parametrize(
    ("diameter", "tolerance", "asked"),
    [(8, "H7", "reaming"), (8, "±0.2", ""), (8, "±0.05", "reaming"), (30, "H7", "boring"), (8, "", "")],
)
def test_narrow_holes_are_reamed_or_bored(diameter: float, tolerance: str, asked: str) -> None:
    hole = next(f for f in plate_with(diameter).features if isinstance(f, Hole))
    assert asks_for(hole, tolerance) == asked


def test_h7_hole_is_drilled_smaller_and_reamed_to_size() -> None:
    part = plate_with(8)
    ledger = evaluate(toleranced(part, "H7"), part, LIB)
    chain = [op for op in ledger.operations if op.features == ("H1",)]
    assert [op.kind for op in chain] == [OperationKind.SPOT, OperationKind.DRILL, OperationKind.REAM]
    assert chain[1].tool.diameter == 7.8
    assert chain[2].tool.diameter == 8
    assert chain[2].depth == pytest.approx(16 + 2)
    assert not [f for f in ledger.findings if f.code in ("drill-size", "tolerance-not-made")]
    reamed, drilled = evaluate(toleranced(part, "H7"), part, LIB), evaluate(quick(part), part, LIB)
    assert reamed.cycle > drilled.cycle


def test_blind_reamed_hole_stays_off_its_bottom() -> None:
    part = plate_with(8, depth=10)
    ream = next(op for op in evaluate(toleranced(part, "H7"), part, LIB).operations if op.kind == OperationKind.REAM)
    assert ream.depth == pytest.approx(9)


def test_size_without_a_reamer_is_a_finding_with_a_way_out() -> None:
    part = plate_with(7)
    plan = toleranced(part, "H7")
    ledger = evaluate(plan, part, LIB)
    finding = next(f for f in ledger.findings if f.code == "tolerance-not-made")
    assert "no reamer of 7" in finding.why
    scene = Scene(part, LIB, ledger)
    mended = read_change(finding.cures[1].change).apply(plan, scene)[0]
    assert mended.said == ()


def test_hole_with_its_own_thread_leaves_the_others_of_its_size_alone() -> None:
    body = block((0, 0, 0), (60, 40, 16)) - rod((20, 20, 0), UP, 5, 16) - rod((40, 20, 0), UP, 5, 16)
    part = built(body)
    plan = quick(part)
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    plan = read_change({"change": "say-thread", "features": ["H1"], "thread": "M6"}).apply(plan, scene)[0]
    taps = [op for op in evaluate(plan, part, LIB).operations if op.kind == OperationKind.TAP]
    assert [op.features for op in taps] == [("H1",)]
    plan = read_change({"change": "set-thread", "diameter": 5.0, "thread": "M6"}).apply(plan, scene)[0]
    plan = read_change({"change": "say-thread", "features": ["H2"], "thread": "plain"}).apply(plan, scene)[0]
    taps = [op for op in evaluate(plan, part, LIB).operations if op.kind == OperationKind.TAP]
    assert [op.features for op in taps] == [("H1",)]


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"change": "say-finish", "features": ["H1"], "finish": 900}, "Ra is 900"),
        ({"change": "say-note", "features": ["H1"], "note": "x" * 401}, "at most 400"),
        ({"change": "say-thread", "features": ["F1"], "thread": "M6"}, "F1 is no hole"),
        ({"change": "say-thread", "features": ["H1"], "thread": "M99"}, "no thread 'M99'"),
        ({"change": "say-thread", "features": ["H1"], "thread": "M3"}, "cannot carry M3"),
        ({"change": "say-tolerance", "features": ["H9"], "tolerance": "H7"}, "no feature H9"),
    ],
)
def test_what_cannot_be_said_is_refused(change, words: str) -> None:  # type: ignore[no-untyped-def]
    part = plate_with(8)
    plan = quick(part)
    with pytest.raises(PlanError, match=words):
        read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))


def test_what_was_said_is_taken_back_whole() -> None:
    part = plate_with(8)
    plan = quick(part)
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    for change, back in (
        ({"change": "say-tolerance", "tolerance": "H7"}, {"tolerance": None}),
        ({"change": "say-finish", "finish": 1.6}, {"finish": None}),
        ({"change": "say-note", "note": "deburr  both sides"}, {"note": ""}),
    ):
        said, _ = read_change({**change, "features": ["H1"]}).apply(plan, scene)
        assert said.said_of("H1") != plan.said_of("H1")
        assert read_change({**change, **back, "features": ["H1"]}).apply(said, scene)[0] == plan
