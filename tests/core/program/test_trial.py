"""Programs tried in the stock: what comes off, what is run into and in which line."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Polygon

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.control.blocks import ProgramError
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.followed.turning_tools import turned_away
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.program.trial import TrialResult, plan_until, result_of, trial_of
from lean_ledger.core.timing.motion import feed, rapid
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick_ledger
from tests.core.test_turning import on_lathe

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
    return result_of(trial, followed(trial.course), followed(course)), tuple(use.number for use in trial.uses)


def number_of(text: str, line: str) -> int:
    return text.split("\n").index(line) + 1


@pytest.mark.parametrize("setup", ["S1", "S2"])
def test_own_program_takes_off_what_the_plan_does(carrier: Part, ledger: Ledger, setup: str) -> None:
    result, tools = tried(carrier, ledger, setup, own_text(ledger, carrier, setup))
    assert result.met == ()
    assert sum(result.removed) == pytest.approx(result.planned, rel=1e-3)
    used = [e.operation.tool.number for e in ledger.load_of(setup).calls]
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


@cache
def turned(machine: str = "lathe-320") -> tuple[Part, Ledger]:
    part = demo_part("vane-hub")
    return part, evaluate(on_lathe(part, LIB.machine(machine)), part, LIB)


@pytest.mark.parametrize("machine", ["lathe-driven"])
def test_lathe_s_program_takes_off_what_the_plan_does(machine: str) -> None:
    """The insert's way, turned about the axis, against the sections that the plan's cuts are: from two sides the same.
    On the driven lathe the cross hole is spotted and drilled by tools that come across the axis.
    """
    part, ledger = turned(machine)
    text = own_text(ledger, part, "S1")
    assert trial_of(part, ledger, LIB, "S1", text).troubles == (), "the travel counts from the tool's tip here as well"
    result, called = tried(part, ledger, "S1", text)
    assert result.met == ()
    assert sum(result.removed) == pytest.approx(result.planned, rel=1e-3)
    stations = tool_numbers(ledger.loads[0])
    assert set(called) == set(stations.values())


def test_insert_that_goes_too_deep_is_told_with_its_line() -> None:
    part, ledger = turned()
    lines = own_text(ledger, part, "S1").split("\n")
    finish = next(i for i, line in enumerate(lines) if line.startswith("O") and "FINISH OUTSIDE" in line)
    at = next(i for i in range(finish, len(lines)) if lines[i].startswith("X28. Z"))
    lines[at] = lines[at].replace("X28.", "X22.")  # the seat Ø28 is to be
    result, _ = tried(part, ledger, "S1", "\n".join(lines))
    assert {(m.how, m.what) for m in result.met} >= {("cut", "part")}
    # from there on it goes along at Ø22, as far as the shoulder in the fourth line
    assert all(at + 1 <= m.line <= at + 4 for m in result.met)
    assert result.met[0].amount == pytest.approx(3.0, abs=0.02)


def test_station_that_holds_nothing_is_said() -> None:
    part, ledger = turned()
    text = own_text(ledger, part, "S1").replace("T0101", "T1111", 1)
    with pytest.raises(PlanError, match="T11 is no tool in the turret"):
        trial_of(part, ledger, LIB, "S1", text)


@settings(max_examples=10)
@given(st.floats(min_value=6, max_value=20), st.floats(min_value=1, max_value=8), st.floats(min_value=2, max_value=20))
def test_what_an_insert_takes_is_the_ring_it_goes_over(radius: float, deep: float, long: float) -> None:
    """Along at one radius: from there out to as far as the insert stands, so long as it goes; a ring's area."""
    insert = next(t for t in LIB.tools if t.id == "GR3")  # a blade 3 wide
    move = feed(100.0, ((radius, 0.0, 0.0), (radius, 0.0, -long)))
    (ring,) = turned_away(insert, (move,), (0.0, 0.0))
    assert Polygon(ring).area == pytest.approx(insert.cutting_length * (long + insert.diameter))
    assert min(r for r, _ in ring) == pytest.approx(radius)
    assert turned_away(insert, (rapid((radius, 0.0, 0.0), (radius - deep, 0.0, 0.0)),), (0.0, 0.0)) == ()


def test_rings_fill_what_is_cut_all_round() -> None:
    """Four grooves round an island: a ring with a hole is told as rings that have none, together as large."""
    blade = next(t for t in LIB.tools if t.id == "GR3")
    box = ((40.0, 0.0, 0.0), (70.0, 0.0, 0.0), (70.0, 0.0, -30.0), (40.0, 0.0, -30.0), (40.0, 0.0, 0.0))
    thin = replace(blade, cutting_length=2.0)
    rings = [Polygon(ring) for ring in turned_away(thin, (feed(100.0, box),), (0.0, 0.0))]
    # outside 32 × 33, inside 28 × 27
    assert sum(r.area for r in rings) == pytest.approx(32 * 33 - 28 * 27)
    assert all(not r.interiors for r in rings)
