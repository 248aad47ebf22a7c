"""Programs from elsewhere in the ledger: their seconds in place of our own motion, and what cannot be read said."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.control.blocks import ProgramError
from lean_ledger.core.control.foreign import ForeignProgram, foreign_time
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from tests.conftest import quick
from tests.core.test_turning import LIB

#: 100 mm at 600 mm/min and half a second: 10.0033 s of cutting on 3000 mm/s²
PROVEN = ForeignProgram("k1", "proven.nc", "G21 G90\nG1 X100 F600\nG4 P500\nM30\n")
ROTARY = ForeignProgram("k2", "turned.nc", "G21 G90\nG0 A90\nM30\n")


def attached(part: Part, program: ForeignProgram, operation: str = "") -> tuple[Plan, Part, Ledger]:
    plan = quick(part)
    part = replace(part, programs=(program,))
    scene = Scene(part, LIB, evaluate(plan, part, LIB), models=frozenset({program.key}))
    change = {"change": "attach-program", "setup": "S1", "file": program.file, "key": program.key}
    changed, _ = read_change({**change, "operation": operation}).apply(plan, scene)
    return changed, part, evaluate(changed, part, LIB)


def test_whole_setup_takes_the_program_s_seconds(sensor_plate: Part) -> None:
    own = evaluate(quick(sensor_plate), sensor_plate, LIB)
    _, _, ledger = attached(sensor_plate, PROVEN)
    first = ledger.loads[0]
    assert first.cycle == pytest.approx(10 + 10 / 3000 + 0.5)
    assert first.seconds["dwell"] == 0.5
    assert first.seconds["handling"] == own.loads[0].seconds["handling"]
    assert first.own_seconds == own.loads[0].own_seconds
    assert ledger.loads[1].cycle == own.loads[1].cycle
    assert ledger.prices[0].each < own.prices[0].each
    assert ledger.cycle == pytest.approx(sum(s.cycle for s in ledger.loads))


def test_one_operation_takes_them_and_keeps_the_way_to_it(sensor_plate: Part) -> None:
    own = evaluate(quick(sensor_plate), sensor_plate, LIB)
    entry = own.loads[0].calls[2]
    _, _, ledger = attached(sensor_plate, PROVEN, entry.operation.id)
    timed = ledger.loads[0].calls[2]
    assert timed.seconds["cutting"] == pytest.approx(10 + 10 / 3000)
    assert timed.seconds["tool change"] == entry.seconds["tool change"]
    assert timed.seconds["rapid"] == pytest.approx(entry.transition.rapid)
    assert "program proven.nc" in [f.label for f in timed.figures]
    saved = entry.total - timed.total
    assert own.cycle - ledger.cycle == pytest.approx(saved)


def test_taking_it_off_brings_the_own_motion_back(sensor_plate: Part) -> None:
    plan, part, ledger = attached(sensor_plate, PROVEN)
    scene = Scene(part, LIB, ledger)
    back, words = read_change({"change": "detach-program", "setup": "S1"}).apply(plan, scene)
    assert back == quick(sensor_plate)
    assert "own motion" in words
    with pytest.raises(PlanError, match="no program is attached"):
        read_change({"change": "detach-program", "setup": "S1"}).apply(back, scene)


def test_program_that_another_machine_cannot_read_is_a_finding_and_our_motion_counts(sensor_plate: Part) -> None:
    plan, part, ledger = attached(sensor_plate, ROTARY)
    (finding,) = [f for f in ledger.findings if f.code == "program-unread"]
    assert "line 2" in finding.why
    assert finding.cures[0].change["change"] == "detach-program"
    assert ledger.loads[0].cycle == evaluate(quick(sensor_plate), sensor_plate, LIB).loads[0].cycle
    lost = evaluate(plan, replace(part, programs=()), LIB)
    assert [f.code for f in lost.findings].count("program-unread") == 1
    with pytest.raises(ProgramError, match="A turns an axis"):
        foreign_time(ROTARY, LIB.machines[0])


def test_program_that_nobody_brought_in_is_refused(sensor_plate: Part) -> None:
    scene = Scene(sensor_plate, LIB, evaluate(quick(sensor_plate), sensor_plate, LIB))
    change = {"change": "attach-program", "setup": "S1", "file": "x.nc", "key": "none"}
    with pytest.raises(PlanError, match="bring its file in first"):
        read_change(change).apply(quick(sensor_plate), scene)
    with pytest.raises(PlanError, match="no operation"):
        read_change({**change, "operation": "S1.nothing"}).apply(quick(sensor_plate), scene)
