"""What a probe feels, how long it takes, and that the machine stands still meanwhile."""

from __future__ import annotations

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.control.blocks import ProgramError
from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.setting import Setting
from lean_ledger.core.control.steps import StepKind
from lean_ledger.core.control.watch import watched
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.model import OperationKind as K
from lean_ledger.core.operations.probing import Touch, probe_path
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.timing.chain import trapezoid_seconds
from lean_ledger.core.timing.motion import time_strokes
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick, quick_ledger
from tests.values import changed

LIB = shipped_library()
MILL = LIB.machines[0]


@pytest.fixture(scope="module")
def carrier() -> Part:
    return demo_part("sonde-carrier")


def probed(part: Part, *what: str, plan: Plan | None = None) -> Ledger:
    plan = plan or quick(part)
    for one in what:
        change = read_change({"change": "set-probe", "setup": "S1", "what": one, "on": True})
        plan = change.apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))[0]
    return evaluate(plan, part, LIB)


def probes_of(ledger: Ledger) -> list[Operation]:
    return [op for op in ledger.operations if op.kind == K.PROBE]


def test_worked_time_of_a_touch() -> None:
    """Down 10 at 50 mm/s, 10 at 10, 3 back at 50, 1.5 at 1, 7.5 back at 50: each from rest to rest."""
    path = probe_path([Touch(0.0, 0.0, -5.0, (1.0, 0.0, 0.0))], 5.0)
    moves = [(10, 50, 2500), (10, 10, 3000), (3, 50, 3000), (1.5, 1, 3000), (8.5, 50, 3000)]
    expected = sum(trapezoid_seconds(length, 0.0, speed, 0.0, most) for length, speed, most in moves)
    assert time_strokes(path.strokes, MILL).cut == pytest.approx(expected, rel=1e-6)
    assert expected == pytest.approx(10 / 50 + 10 / 10 + 3 / 50 + 1.5 / 1 + 8.5 / 50, abs=0.1)


def test_zero_is_felt_before_the_first_cut(carrier: Part) -> None:
    ledger = probed(carrier, "zero")
    first = ledger.loads[0].calls[0]
    op = first.operation
    assert op.kind == K.PROBE
    # both sides along X and Y, and the top: the zero is the stock's middle
    assert {f.label: f.value for f in op.figures}["touches"] == 5
    assert first.seconds["probing"] == pytest.approx(op.time.cut)
    assert first.seconds["cutting"] == first.seconds["spindle"] == 0
    assert ledger.seconds["probing"] == pytest.approx(op.time.cut)
    assert ledger.per_piece > quick_ledger(carrier).per_piece + op.time.cut
    assert ledger.prices[0].each > quick_ledger(carrier).prices[0].each


def test_bore_is_measured_after_its_last_cut(carrier: Part) -> None:
    ledger = probed(carrier, "H7")
    (op,) = probes_of(ledger)
    assert op.features == ("H7",)
    order = [e.operation for e in ledger.loads[0].calls]
    assert order.index(op) > max(i for i, o in enumerate(order) if "H7" in o.features and o.kind != K.PROBE)
    # Ø12 with a ball of 4: the ball's centre comes 4 from the axis, and 2 beyond
    x, y, _ = op.frame.point(carrier.by_id["H7"].position)  # type: ignore[union-attr]
    points = [p for s in op.motion.strokes for p in s.points if p[2] < op.motion.start[2] - 1]
    assert max(p[0] for p in points) - x == pytest.approx(4 + 2)
    assert y - min(p[1] for p in points) == pytest.approx(4 + 2)


def test_program_probes_with_a_standing_spindle_and_agrees(carrier: Part) -> None:
    checked = checked_programs(probed(carrier, "zero", "H7"), carrier, "X")
    one = checked[0]
    assert not one.troubles
    assert abs(one.agreement.difference) < 0.001
    assert one.agreement.machine["probing"] == pytest.approx(one.agreement.ledger["probing"], rel=1e-4)
    assert one.agreement.machine["probing"] > 20
    main = one.program.text.split("O1001")[0].split("\n")
    at = next(i for i, line in enumerate(main) if line.startswith("T141"))
    assert main[at + 1] == "M9"
    assert not main[at + 2].startswith("S")


def test_control_that_cannot_probe_refuses_the_word() -> None:
    with pytest.raises(ProgramError, match="G31 is no code"):
        run_program("T1 M6\nG31 Z-5 F100\nM30", MILL)


def test_a_probe_must_not_spin() -> None:
    setting = Setting(more_g=frozenset({31.0}))
    run = run_program("T1 M6\nS1000 M3\nG31 Z-5 F100\nM30", MILL, setting)
    assert run.seconds(StepKind.PROBE) == pytest.approx(5 / (100 / 60), rel=0.01)
    assert [t.code for t in watched(run, MILL, setting)] == ["probe-spins"]


@pytest.mark.parametrize(("what", "code"), [("F1", "not-probed"), ("H1", "not-made-here"), ("H99", "not-probed")])
def test_what_cannot_be_probed_is_refused(carrier: Part, what: str, code: str) -> None:
    with pytest.raises(PlanError) as error:
        probed(carrier, what)
    assert error.value.code == code


def test_bore_too_small_for_the_ball_is_said() -> None:
    part = demo_part("sensor-base-plate")
    small = next(f.id for f in part.features if f.kind == "hole" and f.diameter < 6)  # type: ignore[union-attr]
    setup = next(id for id, ids in quick_ledger(part).assigned.items() if small in ids)
    change = read_change({"change": "set-probe", "setup": setup, "what": small, "on": True})
    plan = change.apply(quick(part), Scene(part, LIB, quick_ledger(part)))[0]
    ledger = evaluate(plan, part, LIB)
    finding = next(f for f in ledger.findings if f.code == "not-probed")
    assert "6 wide or more" in finding.why
    assert not probes_of(ledger)
    back = read_change(finding.cures[0].change).apply(plan, Scene(part, LIB, ledger))[0]
    assert back == quick(part)


def test_speed_of_a_probe_cannot_be_set(carrier: Part) -> None:
    ledger = probed(carrier, "zero")
    change = read_change({"change": "edit-operation", "operation": probes_of(ledger)[0].id, "vf": 900})
    with pytest.raises(PlanError, match="a probe cuts nothing"):
        change.apply(ledger.plan, Scene(carrier, LIB, ledger))


def test_where_sides_are_turned_up_nothing_is_probed_and_that_is_said(carrier: Part) -> None:
    """A setup that was probed and is indexed after keeps its wish as a finding; a new one is refused."""
    rotary = next(m.id for m in LIB.machines if not m.turns_work and m.rotary is not None)
    plan = probed(carrier, "zero").plan
    indexed = changed(plan, plan.setups[0].id, machine=rotary, free="X+")
    ledger = evaluate(indexed, carrier, LIB)
    assert not probes_of(ledger)
    found = next(f for f in ledger.findings if f.code == "not-probed")
    without = read_change(found.cures[0].change).apply(indexed, Scene(carrier, LIB, ledger))[0]
    assert without.setups[0].probes == ()
    with pytest.raises(PlanError, match="turned up"):
        probed(carrier, "zero", plan=without)
