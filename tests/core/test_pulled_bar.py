"""The counter spindle pulls the bar on: its seconds, its program, what the simulated machine stops at."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import date
from math import floor

import pytest

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.control.blocks import ProgramError
from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.setting import CounterCodes, Setting
from lean_ledger.core.files.machine_file import parse_machine
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.loads.lanes import taken_over_in
from lean_ledger.core.pace.ends import pulled_on
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.plan import Plan
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.library import Library, shipped_library
from lean_ledger.library.machines import Machine
from tests.conftest import demo_part
from tests.core.test_handover import COUNTER, FILE, ONE, arranged, changed, hub, ledger, load

LIB = shipped_library()
HUB = demo_part("vane-hub")
CODES = CounterCodes((71.0, 72.0), 63.0, 75.0, 76.0, 77.0, 78.0, 79.0)


def pulled(plan: Plan) -> Plan:
    return changed(plan, HUB, {"change": "pull-bar", "load": "L1"})


def test_bar_is_pulled_by_what_a_piece_takes_of_it_in_these_seconds() -> None:
    """59 long, 0.5 left to face behind, the blade's 3 and 2 before it are 64.5: twice the collet's 0.6, and 64.5 at
    100 mm/s with 100 / 3000 s to get going and to stop.
    """
    fed, plan = hub("lathe-counter"), pulled(hub("lathe-counter"))
    one, before = taken_over_in(load(plan).where), taken_over_in(load(fed).where)
    assert one is not None
    assert before is not None
    assert one.by == pytest.approx(64.5)
    assert one.pull == pytest.approx(2 * 0.6 + 64.5 / 100 + 100 / 3000)
    assert one.before == pytest.approx(before.before + one.pull)
    assert one.at == before.at
    # it goes back from where it pulled the piece to: 64.5 less of its 24 m/min
    assert one.away == pytest.approx(before.away - 64.5 / 400)
    # each bar is laid in once: (3000 − 200) / 64.5 pieces of it
    assert load(fed).idle == 7.0
    rates = LIB.rates
    pieces = floor((float(rates.bar_length) - float(rates.remnant)) / 64.5)
    assert load(plan).idle == pytest.approx(7.0 / pieces)


def test_what_it_saves_is_offered_and_is_what_it_then_saves() -> None:
    fed = hub("lathe-counter")
    one = pulled_on(load(fed), ledger(fed), HUB, LIB)
    assert one is not None
    then = ledger(pulled(fed))
    assert one.each == ledger(fed).prices[0].each - then.prices[0].each > 0
    assert one.saves == pytest.approx(ledger(fed).per_piece - then.per_piece)
    assert pulled_on(then.loads[0], then, HUB, LIB) is None
    again = changed(pulled(fed), HUB, {"change": "pull-bar", "load": "L1", "on": False})
    assert again == fed


def test_blade_comes_beside_the_bar_and_follows_it_once_it_is_pulled() -> None:
    """Before, the counter spindle comes over the piece: a blade before its end would stand in the way."""
    one = checked_programs(ledger(pulled(hub("lathe-counter"))), HUB, "hub")[0]
    lines = one.program.text.split("\n")
    closes = lines.index("M77")
    taken = taken_over_in(load(pulled(hub("lathe-counter"))).where)
    assert taken is not None
    came = next(line for line in reversed(lines[:closes]) if line.startswith("G54 G0"))
    assert lines[closes - 1] == f"G1 W{taken.at:g} F1200."
    assert lines[closes + 1 : closes + 6] == [
        "M78 (THE BAR IS PULLED ON)", "G1 W333. F6000.", "M79", "G52 X0. Z64.5", came.removeprefix("G54 "),
    ]  # fmt: skip
    assert lines[closes + 6].startswith("M98 P")
    assert lines[closes + 7] == "G0 W860."
    assert one.troubles == ()
    assert abs(one.agreement.difference) < 1e-5
    for kind in ("pick-off", "rapid"):
        assert one.agreement.machine[kind] == pytest.approx(one.agreement.ledger[kind], abs=1e-3)


@pytest.mark.parametrize("seed", [1, 3])
def test_machine_runs_what_is_pulled_as_the_ledger_says_however_the_work_is_shared_out(seed: int) -> None:
    for one in checked_programs(ledger(pulled(arranged(seed))), HUB, "hub"):
        assert abs(one.agreement.difference) < 0.001
        assert one.troubles == ()


def test_what_is_made_of_a_piece_is_the_same() -> None:
    """The bar goes on under the piece: in its own axes no path is another."""
    fed, then = ledger(hub("lathe-counter")), ledger(pulled(hub("lathe-counter")))
    assert [row.operation.motion for s in fed.setups for row in s.rows] == [
        row.operation.motion for s in then.setups for row in s.rows
    ]


def test_setup_sheet_says_that_the_bar_is_pulled() -> None:
    job = JobWords("VH-333", "Wind vane hub", "A", "Hochwart Wind Vanes")
    for plan, told in (
        (hub("lathe-counter"), ""),
        (pulled(hub("lathe-counter")), "; then it pulls the bar on by 64.5"),
    ):
        first = setup_sheet(job, ledger(plan), HUB, 1, date(2027, 2, 26)).setups[0]
        assert dict(first.fixture)["main spindle"].partition(" Z ")[2].lstrip("0123456789.") == told


def run(*words: str) -> None:
    assert ONE is not None
    start = ("G94", "G0 W200.", "M77")
    run_program("\n".join(["%", "O1", *start, *words, "M30", "%", ""]), ONE, Setting(counter=CODES))


def test_simulated_machine_pulls_and_stops_at_what_would_tear_or_drop_the_bar() -> None:
    run("M78", "G1 W250. F6000.", "M79", "G1 X1. F100.", "G0 W860.")
    run("G1 X1. F100.", "G0 W860.")  # cut off, nothing pulled
    for words, code, line in (
        (("G0 W860.",), "bar-held", 6), (("M78", "G1 X1. F100."), "bar-loose", 7),
        (("M78", "G1 W250. F6000.", "M79", "G0 W860."), "bar-held", 9),
    ):  # fmt: skip
        with pytest.raises(ProgramError) as refused:
            run(*words)
        assert (refused.value.code, refused.value.place) == (code, f"line {line}")
    assert ONE is not None
    with pytest.raises(ProgramError) as refused:
        run_program("%\nO1\nM78\nM30\n%\n", ONE, Setting(counter=CODES))
    assert (refused.value.code, refused.value.place) == ("bar-loose", "line 3")
    with pytest.raises(ProgramError) as refused:
        run_program("%\nO1\nM77\nM78\nM30\n%\n", no_collet(ONE), Setting(counter=CODES))
    assert (refused.value.code, refused.value.place) == ("no-collet", "line 4")


def no_collet(machine: Machine) -> Machine:
    """The same, its main collet closed for good while the counter spindle has the bar."""
    spindles = (replace(s, facing=replace(s.facing, collet=0.0)) if s.facing else s for s in machine.work_spindles)
    return replace(machine, work_spindles=tuple(spindles))


def test_what_cannot_be_pulled_is_refused_with_its_reason() -> None:
    alone = changed(hub("lathe-counter"), HUB, {"change": "load-apart", "load": "L1"})
    with pytest.raises(PlanError, match="load L1: No counter spindle takes its pieces over"):
        pulled(alone)
    other = parse_machine(json.dumps(FILE | {"counter_spindle": COUNTER}))
    assert other.counter is not None
    assert other.counter.facing is not None
    assert other.counter.facing.collet == 0
    with_collet = parse_machine(json.dumps(FILE | {"counter_spindle": COUNTER | {"collet": 0.7}}))
    assert with_collet.counter.facing.collet == 0.7  # type: ignore[union-attr]
    with pytest.raises(ProblemError) as refused:
        parse_machine(json.dumps(FILE | {"counter_spindle": COUNTER | {"collet": -1}}))
    assert refused.value.place == "counter_spindle.collet"
    # on a machine that does not, what was decided rests, and the bar is fed
    shop = replace(LIB, machines=tuple(map(no_collet, LIB.machines)))
    found = evaluate(pulled(hub("lathe-counter")), HUB, shop)
    assert found.loads[0].cycle == load(hub("lathe-counter")).cycle
    assert found.loads[0].idle == 7.0


def shorter(travel: float) -> Library:
    """A shop whose lathes go no farther along Z."""
    machines = tuple(
        replace(m, carriages=tuple(replace(c, travel=(*c.travel[:2], (c.travel[2][0], travel))) for c in m.carriages))
        if m.turns_work else m for m in LIB.machines
    )  # fmt: skip
    return replace(LIB, machines=machines)


def test_bar_that_would_be_pulled_past_the_blade_s_travel_is_found_and_fed_again() -> None:
    """Where it is fed the blade comes out to 201.5 of the machine: 201.5 + 64.5 are 266."""
    for travel, beyond in ((267.0, []), (260.0, ["6.0"])):
        found = [f for f in evaluate(pulled(hub("lathe-counter")), HUB, shorter(travel)).findings
                 if f.code == "pulled-too-far"]  # fmt: skip
        assert [f.title.partition(" farther")[0].rpartition(" ")[2] for f in found] == beyond
        assert all(f.setup == "S1" and f.cures for f in found)
