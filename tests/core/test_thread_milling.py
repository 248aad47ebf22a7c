"""Threads without a tap: milled, timed, written and run, and what is not to be had is said."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from math import hypot, pi

import pytest

from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.cutting.choose import thread_mill_for
from lean_ledger.core.operations.holes.thread_milling import Rounds, thread_mill_path, turns_of
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.library import Library, shipped_library
from lean_ledger.library.types import ToolKind
from tests.conftest import built, quick

LIB = shipped_library()


@cache
def threaded_part() -> Part:
    """A block with Ø14 right through and Ø17.5, 20 deep."""
    through, blind = rod((25, 30, 0), (0, 0, 1), 14, 25), rod((55, 30, 5), (0, 0, 1), 17.5, 20)
    return built(block((0, 0, 0), (80, 60, 25)) - through - blind)


def threaded(library: Library = LIB, **threads: str) -> Ledger:
    part = threaded_part()
    plan = quick(part)
    for diameter, name in ((14.0, "M16"), (17.5, "M20")):
        scene = Scene(part, library, evaluate(plan, part, library))
        wanted = threads.get(name, name)
        plan, _ = read_change({"change": "set-thread", "diameter": diameter, "thread": wanted}).apply(plan, scene)
    return evaluate(plan, part, library)


def milled(ledger: Ledger) -> list[Operation]:
    return [op for op in ledger.operations if op.kind == OperationKind.THREAD_MILL]


def test_threads_without_a_tap_are_milled_after_the_bore() -> None:
    ledger = threaded()
    m16, m20 = sorted(milled(ledger), key=lambda op: op.tool.id)
    assert (m16.tool.id, m20.tool.id) == ("TH2", "TH2_5")
    assert (m16.depth, m20.depth) == (26, 19), "through and half a pitch; blind and 1 off the floor"
    assert {before.split(".")[-1] for op in (m16, m20) for before, _ in op.after} == {
        "drill", "counterbore-1", "face",
    }  # fmt: skip
    assert not {f.code for f in ledger.findings} & {"no-tap", "stock-left"}
    # at the edge it feeds vf, in the middle a quarter of it: (20 − 15)/20
    centre = next(f.value for f in m20.figures if f.label == "feed of the centre")
    assert centre == pytest.approx(m20.cutting.vf / 4)


def test_path_climbs_once_round_and_up_by_its_pitch() -> None:
    motion = thread_mill_path(((10.0, 20.0),), 0.0, 19.0, Rounds(2.5, 2.5, 1, 30.0), 240.0, 2.0, 5.0)
    cuts = [p for s in motion.strokes if not s.is_rapid for p in s.points]
    assert cuts[0] == (10, 20, -19)
    assert cuts[-1] == pytest.approx((10, 20, -14))
    assert max(hypot(x - 10, y - 20) for x, y, _ in cuts) == pytest.approx(2.5)
    whole = motion.strokes[[s.is_rapid for s in motion.strokes].index(False) + 1]
    assert whole.length == pytest.approx(hypot(5 * pi, 2.5), rel=1e-4)
    assert whole.points[-1][2] - whole.points[0][2] == pytest.approx(2.5)
    heights = [z for _, _, z in cuts]
    assert heights == sorted(heights), "never down while it cuts"
    area = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(whole.points, whole.points[1:], strict=False))
    assert area > 0, "counter-clockwise: a right-hand thread from the bottom up"


def test_short_teeth_go_round_again() -> None:
    tool = replace(next(t for t in LIB.tools if t.id == "TH1_5"), cutting_length=30.0)
    assert turns_of(tool, 20) == (1, 28.5)
    assert turns_of(tool, 31.5) == (1, 28.5)
    assert turns_of(tool, 45) == (2, 28.5)
    twice = thread_mill_path(((0.0, 0.0),), 0.0, 45.0, Rounds(1.0, 1.5, 2, 28.5), 200.0, 2.0, 5.0)
    starts = [s.points[0][2] for s in twice.strokes if not s.is_rapid][::3]
    assert starts == [-45, -16.5]


def test_program_of_a_milled_thread_runs_and_leaves_what_it_should() -> None:
    part, ledger = threaded_part(), threaded()
    for one in checked_programs(ledger, part, "thread"):
        assert one.troubles == ()
        assert abs(one.agreement.difference) < 1e-4
        if one.program.setup == "S1":
            assert "G3 X17.5 Z-19.75 I1.25 J0." in one.program.text
    assert stock_findings(part, ledger, followed(course_of(part, ledger))) == []


def test_thread_with_neither_tap_nor_mill_is_a_finding() -> None:
    none = replace(LIB, tools=tuple(t for t in LIB.tools if t.kind != ToolKind.THREAD_MILL))
    ledger = threaded(none)
    assert milled(ledger) == []
    titles = sorted(f.title for f in ledger.findings if f.code == "no-tap")
    assert len(titles) == 2
    assert "no tap or thread mill M16 for Ø14, through" in titles[0]


def test_mill_is_the_thickest_that_circles_in_the_hole() -> None:
    thread = LIB.thread("M20")
    material = LIB.material("steel-c45")
    assert thread is not None
    assert material is not None
    found = thread_mill_for(thread, 30, LIB, material)
    assert found is not None
    assert found.id == "TH2_5"
    assert thread_mill_for(thread, 60, LIB, material) is None, "too deep"
    assert thread_mill_for(replace(thread, tap_drill=15.5), 30, LIB, material) is None, "no room to circle"
