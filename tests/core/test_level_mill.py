"""A mill whose spindle lies: a tombstone in front of it, a pedestal that the pallet turns, what a plan makes there."""

from __future__ import annotations

import pytest

from lean_ledger.core.control.watch import watched
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.agree import agreement, run_of, setting_of
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.program.write import programs_of
from lean_ledger.core.setups.zero import touch_off
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick
from tests.core.test_indexed import indexed_plan
from tests.values import bed, changed

LIB = shipped_library()
LEVEL = next(m for m in LIB.machines if m.id == "mill-level")
ROTARY = next(m for m in LIB.machines if m.id == "mill-762-rotary")


@pytest.fixture(scope="module")
def carrier() -> Part:
    return demo_part("sonde-carrier")


@pytest.fixture(scope="module")
def on_tombstone(carrier: Part) -> Ledger:
    return evaluate(moved_to(quick(carrier), LEVEL, carrier, LIB), carrier, LIB)


@pytest.fixture(scope="module")
def on_pedestal(carrier: Part) -> Ledger:
    plan = indexed_plan(carrier)
    return evaluate(changed(changed(plan, "S1", machine=LEVEL.id), "S2", machine=LEVEL.id), carrier, LIB)


def test_only_the_mill_with_a_table_about_y_lies() -> None:
    assert [m.id for m in LIB.machines if m.spindle_lies] == [LEVEL.id]
    assert LEVEL.axes == "4-axis mill, spindle level"
    assert ROTARY.axes == "4-axis mill"


def test_a_face_of_the_tombstone_looks_to_the_spindle() -> None:
    # the pallet's z points up, along the machine's Y; the face stands 100 before the middle and 300 up
    (pallet,) = bed(LEVEL).seats
    assert pallet.turn[2] == (0, 1, 0)
    front, *others = bed(LEVEL, LIB, ("tombstone-200",)).seats
    assert front.at == (365, 300, 100)
    assert front.is_upright
    assert [seat.turn[2] for seat in others] == [(1, 0, 0), (0, 0, -1), (-1, 0, 0)]
    assert not any(seat.is_upright for seat in others)


def test_pallet_takes_what_brings_a_fixture_to_the_cut(on_tombstone: Ledger, on_pedestal: Ledger) -> None:
    def under(ledger: Ledger, setup: str) -> list[str]:
        return [stacked.carrier.id for stacked in ledger.load_of(setup).built.stands.seat.carriers]

    assert {load.built.hold.fixture.kind for load in on_tombstone.loads} == {"vise"}
    assert all(under(on_tombstone, load.decision.id) == ["tombstone-200"] for load in on_tombstone.loads)
    assert under(on_pedestal, "S1") == ["pedestal-200"]
    assert under(on_pedestal, "S2") == ["tombstone-200"]
    assert [f for f in (*on_tombstone.findings, *on_pedestal.findings) if f.severity == "error"] == []


def test_nose_comes_to_where_the_tombstone_holds_the_part(on_tombstone: Ledger) -> None:
    """Z of the nose = the face's 100 + bed to tip + the tool's length in its holder."""
    first = on_tombstone.loads[0]
    hold, op = first.built.hold, first.built.operations[0]
    tip = op.motion.strokes[-1].points[-1][2]
    above_mount = tip - (hold.floor - hold.seat)
    assert op.frame.up == hold.frame.up
    assert first.built.stands.shift(op.frame)[2] + tip == pytest.approx(100 + above_mount)


def test_pallet_turns_the_part_about_y_and_the_zero_stays(on_pedestal: Ledger, carrier: Part) -> None:
    first = on_pedestal.loads[0]
    assert {op.way.angle for op in first.built.operations} == {0, 90, 180, 270}
    # whatever side is turned to the spindle, the free end looks up: along Y
    assert {round(dot(op.frame.back, first.built.hold.frame.up), 9) for op in first.built.operations} == {1}
    zero, around = on_pedestal.zero_of(carrier, 0), on_pedestal.zero_place(carrier, 0)
    assert zero.of == "axis"
    words = touch_off(zero, around, "G54", "the jaws")
    assert words[0].startswith("G54 X Z: on the rotary's axis")
    assert words[1] == "G54 Y: touch the free end of the stock, then go 2.000 into it"


@pytest.mark.parametrize("which", ["on_tombstone", "on_pedestal"])
def test_stock_comes_out_as_the_part(which: str, carrier: Part, request: pytest.FixtureRequest) -> None:
    ledger: Ledger = request.getfixturevalue(which)
    found = followed(course_of(carrier, ledger))
    assert found.over_share == pytest.approx(0, abs=0.001)
    assert [f for f in stock_findings(carrier, ledger, found) if f.severity == "error"] == []


def test_simulated_machine_turns_b_and_takes_what_the_ledger_says(on_pedestal: Ledger, carrier: Part) -> None:
    for program in programs_of(on_pedestal, carrier, "test"):
        setup = on_pedestal.load_of(program.setup)
        run = run_of(program, setup)
        assert abs(agreement(run, setup).difference) < 1e-3
        tools = frozenset(tool_numbers(setup).values())
        assert watched(run, setup.machine, setting_of(program, setup), tools) == ()
        assert ("G0 B90" in program.text) == (program.setup == "S1")
        assert len({o.word for o in program.offsets}) == 1


def test_cutting_takes_as_long_as_under_an_upright_spindle(on_pedestal: Ledger, carrier: Part) -> None:
    upright = evaluate(indexed_plan(carrier), carrier, LIB)
    level, other = on_pedestal.loads[0], upright.loads[0]
    same = {op.name for op in level.built.operations} & {op.name for op in other.built.operations}
    assert len(same) >= len(other.built.operations) - 4
    # the same metal, at most another tool at hand for some of it
    assert level.seconds["cutting"] == pytest.approx(other.seconds["cutting"], rel=0.05)


def test_what_turns_with_the_pallet_has_no_table_under_it(on_pedestal: Ledger) -> None:
    assert on_pedestal.loads[0].built.stands.swing > 20
    assert "swing" not in {f.code for f in on_pedestal.findings}
