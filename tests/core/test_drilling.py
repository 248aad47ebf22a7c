"""Drill tips, depths, threads, pecks; and which operations a hole gets."""

from __future__ import annotations

from dataclasses import replace
from math import radians, tan

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import block, countersunk, drilled, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.operations import OperationKind
from lean_ledger.core.operations.holes.drilling import DrillCut, thread_depth
from lean_ledger.core.plan import ThreadChoice
from lean_ledger.library import shipped_library
from lean_ledger.library.types import Thread
from tests.conftest import built, quick

UP, DOWN = (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)
LIB = shipped_library()
K = OperationKind


def test_tip_of_118_degrees_is_0_3004_diameters() -> None:
    assert DrillCut(1, 118, 10).tip_length == pytest.approx(0.3004, abs=1e-4)


def test_through_hole_needs_the_whole_tip_outside() -> None:
    # tip 6.8/2/tan 59° = 2.043; 20 + 2.043 + 1 = 23.043
    assert DrillCut(6.8, 118, 20, 1).travel == pytest.approx(23.043, abs=1e-3)


def test_blind_hole_has_its_full_diameter_down_to_its_depth() -> None:
    assert DrillCut(6, 118, 12).travel == pytest.approx(12 + 3 / tan(radians(59)))


def test_flat_floor_is_drilled_to_the_tip_only() -> None:
    assert DrillCut(6, 118, 12, to_tip=True).travel == 12


M6 = Thread("M6", "", 6, 1.0, 5.0)


def test_blind_thread_stops_short_of_the_bottom() -> None:
    # drilled 16: less 3 pitches of lead and 1 mm
    assert thread_depth(M6, 16, through=False) == 12


def test_through_thread_goes_on_by_the_lead() -> None:
    assert thread_depth(M6, 16, through=True) == 19


def test_thread_fits_from_tap_drill_to_major_diameter() -> None:
    assert [d for d in (4.8, 4.95, 5.0, 5.6, 6.0, 6.1) if M6.fits(d)] == [4.95, 5.0, 5.6, 6.0]


@given(st.sampled_from(LIB.threads))
def test_each_thread_fits_its_own_tap_drill_and_has_a_drill(thread: Thread) -> None:
    assert thread.fits(thread.tap_drill)
    assert thread.tap_drill == pytest.approx(thread.major - thread.pitch, abs=0.31)
    assert any(t.kind == "drill" and abs(t.diameter - thread.tap_drill) < 0.06 for t in LIB.tools)


def chain(body, feature: str = "H1", **changes):  # type: ignore[no-untyped-def]
    part = built(body)
    ledger = evaluate(replace(quick(part), **changes), part, LIB)
    return [op for op in ledger.operations if feature in op.features], ledger


def kinds(ops):  # type: ignore[no-untyped-def]
    return [op.kind for op in ops]


def test_plain_hole_is_spotted_and_drilled() -> None:
    ops, _ = chain(block((0, 0, 0), (40, 40, 20)) - rod((20, 20, 0), UP, 6, 20))
    assert kinds(ops) == [K.SPOT, K.DRILL]
    assert ops[1].after[0] == (ops[0].id, "spot before drill")


def test_named_thread_brings_its_tap_drill_and_tap() -> None:
    body = block((0, 0, 0), (40, 40, 20)) - drilled((20, 20, 20), DOWN, 6, 16)
    plain, before = chain(body)
    ops, after = chain(body, threads=(ThreadChoice(6.0, "M6"),))
    assert kinds(plain) == [K.SPOT, K.DRILL]
    assert kinds(ops) == [K.SPOT, K.DRILL, K.TAP]
    assert ops[1].tool.diameter == 5.0
    assert ops[2].tool.id == "TM6"
    assert ops[2].depth == 12
    assert after.cycle > before.cycle


def test_tapping_takes_in_and_out_at_pitch_times_n_and_a_reversal_each() -> None:
    body = block((0, 0, 0), (60, 40, 20)) - drilled((20, 20, 20), DOWN, 5, 16) - drilled((40, 20, 20), DOWN, 5, 16)
    ops, _ = chain(body, threads=(ThreadChoice(5.0, "M6"),))
    tap = ops[-1]
    # two holes, 12 deep + 2 mm above, in and out: 2 · 2 · 14 mm at n · 1.0
    assert tap.time.cut_length == pytest.approx(2 * 2 * 14)
    assert tap.time.nominal_cut == pytest.approx(60 * 56 / tap.cutting.vf)
    assert tap.reversal_seconds == 2 * 1.5


def test_thread_in_a_shallow_hole_is_a_finding() -> None:
    body = block((0, 0, 0), (40, 40, 20)) - drilled((20, 20, 20), DOWN, 5, 4)
    ops, ledger = chain(body, threads=(ThreadChoice(5.0, "M6"),))
    assert K.TAP not in kinds(ops)
    assert "thread-shallow" in {f.code for f in ledger.findings}


def test_missing_tap_is_a_finding_that_names_the_holes() -> None:
    body = block((0, 0, 0), (40, 40, 20)) - drilled((20, 20, 20), DOWN, 10.7, 16)
    _, ledger = chain(body, threads=(ThreadChoice(10.7, "1/2-13 UNC"),))
    found = next(f for f in ledger.findings if f.code == "no-tap")
    assert "1/2-13 UNC" in found.title
    assert found.features == ("H1",)


def test_counterbore_and_countersink_follow_the_drill() -> None:
    bore = block((0, 0, 0), (40, 40, 20)) - rod((20, 20, 0), UP, 6.6, 20) - rod((20, 20, 13), UP, 11, 7)
    assert kinds(chain(bore)[0]) == [K.SPOT, K.DRILL, K.COUNTERBORE]
    sink = block((0, 0, 0), (40, 40, 20)) - countersunk((20, 20, 20), DOWN, 5.5, 11, 20)
    ops, _ = chain(sink)
    assert kinds(ops) == [K.SPOT, K.DRILL, K.COUNTERSINK]
    # a pointed 90° tool goes as deep as the head's radius
    assert ops[2].depth == pytest.approx(5.5)


def test_large_bore_is_milled_below_the_far_face() -> None:
    ops, _ = chain(block((0, 0, 0), (80, 80, 20)) - rod((40, 40, 0), UP, 30, 20))
    assert kinds(ops) == [K.MILL_BORE, K.FINISH_WALL]
    lowest = min(p[2] for op in ops for stroke in op.motion.strokes for p in stroke.points)
    assert lowest == pytest.approx(-1.0)


def test_flat_bottomed_hole_is_drilled_to_the_tip_and_its_floor_milled() -> None:
    ops, _ = chain(block((0, 0, 0), (40, 40, 30)) - rod((20, 20, 18), UP, 10, 12))
    assert kinds(ops) == [K.SPOT, K.DRILL, K.COUNTERBORE]
    lowest = [min(p[2] for s in op.motion.strokes for p in s.points) for op in ops[1:]]
    assert lowest == [pytest.approx(18), pytest.approx(18)]


def test_hole_deeper_than_three_diameters_is_pecked() -> None:
    shallow, _ = chain(block((0, 0, 0), (40, 40, 14)) - rod((20, 20, 0), UP, 5, 14))
    deep, _ = chain(block((0, 0, 0), (40, 40, 30)) - rod((20, 20, 0), UP, 5, 30))
    assert not any(f.label == "pecks" for f in shallow[1].figures)
    pecks = next(f for f in deep[1].figures if f.label == "pecks")
    # 30 + tip 2.5/tan 70° + 1 = 31.91; at most 7.5 each: 5
    assert pecks.value == 5


def test_hole_without_a_drill_is_named_in_a_finding() -> None:
    ops, ledger = chain(block((0, 0, 0), (40, 40, 20)) - drilled((20, 20, 20), DOWN, 3.7, 10))
    assert ops == []
    found = next(f for f in ledger.findings if f.code == "no-drill")
    assert "H1" in found.title
    assert found.cures[0].change == {"change": "leave-out", "features": ["H1"], "reason": "made elsewhere"}
    assert "no-operation" not in {f.code for f in ledger.findings}, "said once"


def test_alike_holes_are_one_operation_in_a_short_tour() -> None:
    body = block((0, 0, 0), (100, 40, 10))
    for x in (10, 90, 30, 70, 50):
        body = body - rod((x, 20, 0), UP, 6, 10)
    ops, _ = chain(body)
    assert len(ops[1].features) == 5
    drill = ops[1].motion.strokes
    xs = [s.points[-1][0] for s in drill if not s.is_rapid]
    assert xs == sorted(xs) or xs == sorted(xs, reverse=True)


def test_slender_drill_begins_in_a_pilot() -> None:
    """Ø4 through 111 is 27 × D: a short Ø4 makes 3 × 4 = 12 first, to its tip."""
    ops, ledger = chain(block((0, 0, 0), (40, 30, 111)) - rod((20, 15, 0), UP, 4, 111))
    assert [op.kind for op in ops] == [K.SPOT, K.DRILL, K.DRILL]
    pilot, deep = ops[1:]
    assert pilot.depth == 12
    assert pilot.tool.diameter == deep.tool.diameter == 4
    assert pilot.tool.cutting_length < 20 * 4 < deep.tool.cutting_length
    assert pilot.id in {before for before, _ in deep.after}
    assert not [f for f in ledger.findings if f.severity == "error"]


def test_flat_floor_that_no_mill_reaches_keeps_the_drills_point() -> None:
    """Ø4 and 52 deep: no end mill goes in. The point of 140° stays, 2 / tan 70° = 0.73, and is said once."""
    body = block((0, 0, 0), (40, 40, 70)) - rod((20, 20, 18), UP, 4, 52)
    ops, ledger = chain(body)
    assert [op.kind for op in ops] == [K.SPOT, K.DRILL]
    (said,) = [f for f in ledger.findings if f.code == "tip-left"]
    assert "0.7" in said.title
    assert said.severity == "warning"
    part = built(body)
    outcome = followed(course_of(part, ledger))
    assert not [f for f in stock_findings(part, ledger, outcome) if "H1" in f.features]
