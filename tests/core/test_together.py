"""Programs of several paths on one machine: marks at which they wait, and a spindle that all of them use."""

from __future__ import annotations

import pytest

from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.setting import Setting
from lean_ledger.core.control.together import Together, run_together
from lean_ledger.library import shipped_library

TWIN = next(m for m in shipped_library().machines if m.id == "lathe-twin")
SETTING = Setting(wait=500)


def together(*texts: str) -> Together:
    runs = [run_program(text, TWIN.on(c.id), SETTING) for text, c in zip(texts, TWIN.carriages, strict=False)]
    return run_together(runs, [TWIN.spindle.start])


def waits(ran: Together, path: int) -> list[float]:
    return [step.seconds for step in ran.runs[path].steps if step.kind == "wait"]


def test_path_that_comes_first_waits_for_the_other() -> None:
    ran = together("G4 P4000\nM500\nG4 P1000\nM30", "G4 P1500\nM500\nG4 P3000\nM30")
    assert waits(ran, 0) == [0]
    assert waits(ran, 1) == [pytest.approx(2.5)]
    assert ran.total == pytest.approx(7)
    assert ran.troubles == ((), ())


def test_spindle_runs_up_once_for_both_and_again_for_another_speed() -> None:
    ran = together("G97 S1000 M3\nM500\nG97 S2000 M3\nM30", "G97 S1000 M3\nM500\nM30")
    starts = [[s.seconds for s in run.steps if s.kind == "spindle"] for run in ran.runs]
    assert starts[0] == [1.6, 1.6]
    assert starts[1] == [pytest.approx(1.6)]  # it waits until the spindle is up, asked for at the same moment
    late = together("G97 S1000 M3\nG4 P3000\nM500\nM30", "G4 P2000\nG97 S1000 M3\nM500\nM30")
    assert [s.seconds for s in late.runs[1].steps if s.kind == "spindle"] == [0]


def test_mark_that_one_program_has_is_waited_at_for_ever() -> None:
    ran = together("M500\nG4 P1000\nM30", "G4 P1000\nM30")
    (trouble,) = ran.troubles[0]
    assert (trouble.code, trouble.line) == ("waits-for-ever", 1)
    assert "No other path has this mark" in trouble.why


def test_two_that_wait_crosswise_are_found_in_both() -> None:
    ran = together("M500\nM501\nM30", "M501\nM500\nM30")
    assert [t[0].code for t in ran.troubles] == ["waits-for-ever", "waits-for-ever"]
    assert "path 2 at M501 in line 1" in ran.troubles[0][0].why


def test_speed_changed_under_a_cut_is_found() -> None:
    cut = "G97 S1000 M3\nG1 Z-100 F100\nM30"
    ran = together(cut, "G4 P5000\nG97 S2000 M3\nM30")
    (trouble,) = ran.troubles[0]
    assert trouble.code == "spindle-shared"
    assert "path 2 has the spindle at 2000 rpm" in trouble.title
    assert together(cut, "G4 P5000\nG97 S1000 M3\nG1 Z-10 F100\nM30").troubles == ((), ())


def test_spindle_stopped_under_a_cut_is_found() -> None:
    ran = together("G97 S1000 M3\nG1 Z-100 F100\nM30", "G4 P5000\nM5\nM30")
    assert "path 2 stopped the spindle" in ran.troubles[0][0].title


def test_turret_of_several_indexes_while_the_spindle_turns() -> None:
    run = run_program("G97 S1000 M3\nT0202\nG1 Z-10 F100\nM30", TWIN.on("turret 1"), SETTING)
    cut = next(step for step in run.steps if step.kind == "cut")
    assert cut.n == 1000
