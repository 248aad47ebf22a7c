"""Programs tried in the stock: what comes off, what is run into and in which line."""

from __future__ import annotations

import pytest

from lean_ledger.core.errors import PlanError
from lean_ledger.core.ledger import Ledger
from lean_ledger.core.part import Part
from lean_ledger.core.program.blocks import ProgramError
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.program.trial import TrialResult, plan_until, result_of, trial_of
from lean_ledger.core.stock.in_process import followed
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick_ledger

LIB = shipped_library()


@pytest.fixture(scope="module")
def carrier() -> Part:
    return demo_part("sonde-carrier")


@pytest.fixture(scope="module")
def ledger(carrier: Part) -> Ledger:
    return quick_ledger(carrier)


def own_text(ledger: Ledger, part: Part, setup: str) -> str:
    return next(c.program.text for c in checked_programs(ledger, part, "X") if c.program.setup == setup)


def tried(part: Part, ledger: Ledger, setup: str, text: str) -> tuple[TrialResult, tuple[int, ...]]:
    trial = trial_of(part, ledger, LIB, setup, text)
    course, before = plan_until(part, ledger, setup)
    assert before == trial.before
    return result_of(trial, followed(trial.course), followed(course)), tuple(use.tool.number for use in trial.uses)


def number_of(text: str, line: str) -> int:
    return text.split("\n").index(line) + 1


@pytest.mark.parametrize("setup", ["S1", "S2"])
def test_own_program_takes_off_what_the_plan_does(carrier: Part, ledger: Ledger, setup: str) -> None:
    result, tools = tried(carrier, ledger, setup, own_text(ledger, carrier, setup))
    assert result.met == ()
    assert sum(result.removed) == pytest.approx(result.planned, rel=1e-3)
    used = [e.operation.tool.number for e in ledger.setup_of(setup).entries]
    assert list(tools) == [n for i, n in enumerate(used) if i == 0 or used[i - 1] != n]


def test_rapid_into_the_stock_is_told_with_its_line(carrier: Part, ledger: Ledger) -> None:
    text = own_text(ledger, carrier, "S1")
    lines = text.split("\n")
    # the pocket's tool comes down to 3 below the zero in rapid, where the stock still stands
    at = next(i for i, line in enumerate(lines) if line.startswith("G43 H9"))
    lines.insert(at + 1, "G0 Z-3.")
    result, _ = tried(carrier, ledger, "S1", "\n".join(lines))
    first = result.met[0]
    assert (first.how, first.what, first.tool, first.line) == ("rapid", "stock", 9, at + 2)
    # 3 below the stock's top, of which 2 are faced off before
    assert first.amount == pytest.approx(1.0, abs=0.05)


def test_cut_into_the_part_is_told_with_its_line(carrier: Part, ledger: Ledger) -> None:
    text = own_text(ledger, carrier, "S1")
    foreign = "%\nO1\nG21 G90 G94\nT9 M6\nS6000 M3\nG54 G0 X0. Y0.\nG43 H9 Z5.\nG1 Z-20. F500\nX20.\nG0 Z50.\nM30\n%"
    result, tools = tried(carrier, ledger, "S1", foreign)
    assert tools == (9,)
    cut = next(m for m in result.met if m.what == "part")
    assert cut.how == "cut"
    assert cut.line in (number_of(foreign, "G1 Z-20. F500"), number_of(foreign, "X20."))
    assert sum(result.removed) < result.planned
    assert text != foreign


@pytest.mark.parametrize(("text", "error", "words"), [
    ("T999 M6\nS100 M3\nG54 G0 X0 Y0\nG1 Z-1 F100\nM30", PlanError, "line 4: T999 is no tool of the shop"),
    ("T9 M6\nS100 M3\nG57 G0 X0 Y0\nG1 Z-1 F100\nM30", PlanError, "G57 is not set in S1; it has G54"),
    ("G0 X0\nG1 Z-1 F100\nM30", PlanError, "moves before any tool"),
    ("T9 M6\nG999 X0\nM30", ProgramError, "G999"),
])  # fmt: skip
def test_what_cannot_be_tried_says_why(
    carrier: Part, ledger: Ledger, text: str, error: type[Exception], words: str
) -> None:
    with pytest.raises(error, match=words):
        trial_of(carrier, ledger, LIB, "S1", text)


def test_machine_s_own_troubles_are_told_too(carrier: Part, ledger: Ledger) -> None:
    text = own_text(ledger, carrier, "S1").replace("S8100 M3", "M5", 1)
    trial = trial_of(carrier, ledger, LIB, "S1", text)
    assert "spindle-off" in {t.code for t in trial.troubles}


def test_lathe_is_not_tried() -> None:
    part = demo_part("vane-hub")
    from lean_ledger.core.changes import Scene, read_change
    from lean_ledger.core.ledger import evaluate
    from tests.conftest import quick

    plan = quick(part)
    lathe = next(m.id for m in LIB.machines if m.kind == "lathe")
    change = read_change({"change": "move-to-machine", "machine": lathe})
    turned = evaluate(change.apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))[0], part, LIB)
    setup = next(s.decision.id for s in turned.setups if s.machine.kind == "lathe")
    with pytest.raises(PlanError, match="lathe"):
        trial_of(part, turned, LIB, setup, "T1 M6\nM30")
