"""Threads turned outside, rings in a bore, and the piece off its bar."""

from __future__ import annotations

from math import sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import revolved
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.model import OperationKind as K
from lean_ledger.core.operations.turning.thread_turning import DEEP, infeeds, passes_for, thread_path
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.timing.motion import time_strokes
from lean_ledger.library import shipped_library
from tests.conftest import built, quick

LIB = shipped_library()
LATHE = next(m for m in LIB.machines if m.turns_work)


@pytest.fixture(scope="module")
def stud() -> Part:
    """Ø40, 25 long; a neck of Ø16, 4 wide; Ø20 to 55; a bore of Ø12 with a ring of Ø15, 3 wide, from 27 on."""
    outside = [(6, 0), (20, 0), (20, 25), (8, 25), (8, 29), (10, 29), (10, 55)]
    return built(revolved([*outside, (6, 55), (6, 30), (7.5, 30), (7.5, 27), (6, 27)]))


def changed(plan: Plan, part: Part, **change: object) -> Plan:
    return read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))[0]


@pytest.fixture(scope="module")
def on_the_lathe(stud: Part) -> Plan:
    plan = changed(quick(stud), stud, change="move-to-machine", machine=LATHE.id)
    return changed(plan, stud, change="set-stock", form="round bar", along="Z")


def outside_of(part: Part, diameter: float) -> str:
    return next(f.id for f in part.features if f.kind == "turned" and f.where == "outside"
                and abs(f.diameter - diameter) < 0.01)  # fmt: skip


def of_kind(ledger: Ledger, kind: K) -> Operation:
    return next(op for op in ledger.operations if op.kind == kind)


@pytest.mark.parametrize(("pitch", "passes"), [(0.5, 5), (1.0, 6), (1.5, 8), (2.0, 9), (2.5, 11)])
def test_passes_by_pitch(pitch: float, passes: int) -> None:
    assert passes_for(pitch) == passes


def test_infeeds_of_equal_area() -> None:
    """0.92 in four: 0.92·√(1/4), √(2/4), √(3/4), 1; the last goes over it again."""
    assert infeeds(0.92, 5) == [0.46, pytest.approx(0.6505, abs=1e-4), pytest.approx(0.7967, abs=1e-4), 0.92, 0.92]


@given(depth=st.floats(0.2, 2), passes=st.integers(2, 15))
def test_each_pass_takes_the_same_area(depth: float, passes: int) -> None:
    """A triangle's area goes with the square of its depth."""
    found = infeeds(depth, passes)
    assert len(found) == passes
    assert found[-1] == found[-2] == round(depth, 4)
    areas = [b**2 - a**2 for a, b in zip([0.0, *found], found[:-1], strict=False)]
    assert areas == pytest.approx([depth**2 / (passes - 1)] * (passes - 1), rel=0.02, abs=1e-3)


def test_worked_time_of_a_thread() -> None:
    """One pass of 40 at 1000 rpm and a pitch of 1.5, 25 mm/s: 40/25 + 25/2500 s."""
    path = thread_path((0.0, 0.0), 10.0, 0.0, -40.0, (0.5,), 1500.0, 12.0, 1.5)
    assert time_strokes(path.strokes, LIB.machines[0]).cut == pytest.approx(40 / 25 + 25 / 2500)


def test_thread_is_turned_after_the_outside_and_the_machine_agrees(stud: Part, on_the_lathe: Plan) -> None:
    plan = changed(on_the_lathe, stud, change="say-thread", features=[outside_of(stud, 20)], thread="M20")
    ledger = evaluate(plan, stud, LIB)
    op = of_kind(ledger, K.THREAD_TURN)
    assert op.cutting.n == round(op.cutting.n)
    assert op.cutting.vf == op.cutting.n * 2.5
    feeds = [s for s in op.motion.strokes if not s.is_rapid]
    radii = [s.points[0][0] for s in feeds]
    assert radii == pytest.approx([10 - d for d in infeeds(DEEP * 2.5, 11)], abs=1e-4)
    # into the neck of Ø16, which is deeper than the thread: 1 beyond its edge
    assert {s.points[-1][2] for s in feeds} == {28.0}
    kinds = [o.kind for o in ledger.operations]
    assert kinds.index(K.THREAD_TURN) > max(kinds.index(K.FINISH_TURN), kinds.index(K.GROOVE))
    checked = checked_programs(ledger, stud, "X")
    for one in checked:
        assert not one.troubles
        assert abs(one.agreement.difference) < 0.001
    lines = [line for line in checked[0].program.text.split("\n") if line.startswith("G33")]
    assert lines == ["G33 Z-27. K2.5"] * 11
    assert not followed(course_of(stud, ledger)).collisions


def test_thread_that_does_not_fit_is_refused(stud: Part, on_the_lathe: Plan) -> None:
    for feature, why in ((outside_of(stud, 40), "major diameter"), ("T3", "carries no thread")):
        with pytest.raises(PlanError, match=why):
            changed(on_the_lathe, stud, change="say-thread", features=[feature], thread="M20")


def test_ring_in_a_bore_is_plunged_from_inside(stud: Part, on_the_lathe: Plan) -> None:
    ledger = evaluate(on_the_lathe, stud, LIB)
    op = of_kind(ledger, K.BORE_GROOVE)
    # 1.5 wide for 3: at most 0.85 · 1.5 apart, so three plunges; each in from R5.5 to R7.5
    feeds = [s for s in op.motion.strokes if not s.is_rapid]
    # (each is two moves: to where the spindle is at its cap, and on)
    assert sorted({s.points[0][2] for s in feeds}) == pytest.approx([27, 27.75, 28.5])
    assert (min(s.points[0][0] for s in feeds), max(s.points[-1][0] for s in feeds)) == (5.5, 7.5)
    assert all(p[0] <= 5.5 for s in op.motion.strokes if s.is_rapid for p in s.points[1:-1])
    result = followed(course_of(stud, ledger))
    assert not [r for r in result.remainders if r.cut_into]
    removed = next(s.removed for s in result.steps if s.operation == op.id)
    assert removed == pytest.approx(3.14159 * (7.5**2 - 6**2) * 3, rel=0.02)


def test_cut_off_leaves_the_rest_in_the_chuck(stud: Part, on_the_lathe: Plan) -> None:
    plan = changed(on_the_lathe, stud, change="set-cut-off", setup="S1", left=0.5)
    found = next(f for f in evaluate(plan, stud, LIB).findings if f.code == "cut-off-in-jaws")
    plan = changed(plan, stud, **found.cures[0].change)
    ledger = evaluate(plan, stud, LIB)
    op = of_kind(ledger, K.CUT_OFF)
    assert ledger.loads[0].calls[-1].operation.id == op.id
    facing = [o for o in ledger.loads[1].built.operations if o.kind == K.FACE_TURN]
    assert facing[0].depth == 0.5
    result = followed(course_of(stud, ledger))
    assert not result.remainders
    assert not result.collisions
    bought, price_before = ledger.stock.volume, evaluate(on_the_lathe, stud, LIB).stock.volume
    assert bought > price_before  # the rest in the chuck is paid for


def test_cut_off_is_refused_on_a_mill(stud: Part) -> None:
    with pytest.raises(PlanError, match="only a lathe"):
        changed(quick(stud), stud, change="set-cut-off", setup="S1", left=0.5)


def test_area_of_flanks() -> None:
    """ISO 68-1: 17/24 of H = 0.866 P are 0.6134 P."""
    assert pytest.approx(17 / 24 * sqrt(3) / 2, abs=1e-4) == DEEP
