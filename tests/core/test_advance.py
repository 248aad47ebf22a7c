"""Operations that run once through all pieces of an advance of the bar: paths, order, seconds, program, what each piece
meets of them.
"""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.followed.play import played, way_of
from lean_ledger.core.geometry.solids import Body, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.scopes import scopes_of
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.papers.sheet import order_words
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.program.proof import course_of_programs
from lean_ledger.library import shipped_library
from tests.conftest import built
from tests.core.test_bar_collet import barred
from tests.core.test_bars import EACH, RING, advance
from tests.core.test_turning import UP

LIB = shipped_library()
ROUGH, FINISH, SPOT, DRILL, BLADE = (
    f"S1.{id}" for id in ("outside.rough-turn", "outside.finish-turn", "H1.spot", "H1.drill", "end.cut-off")
)


def through(plan: Plan, *operations: str, part: Part = RING, scope: str = "row") -> Plan:
    for id in operations:
        scene = Scene(part, LIB, evaluate(plan, part, LIB))
        change = {"change": "set-scope", "load": "L1", "operation": id, "scope": scope}
        plan = read_change(change).apply(plan, scene)[0]
    return plan


@pytest.fixture(scope="module")
def alone() -> Ledger:
    return evaluate(advance(5), RING, LIB)


@pytest.fixture(scope="module")
def common() -> Ledger:
    return evaluate(through(advance(5), ROUGH, FINISH, DRILL), RING, LIB)


def lowest(op: Operation) -> float:
    return min(p[2] for s in op.motion.strokes for p in s.points)


def test_passes_go_on_to_the_back_of_the_last_piece(alone: Ledger, common: Ledger) -> None:
    for id in (ROUGH, FINISH, DRILL):
        one, all_five = (ledger.loads[0] for ledger in (alone, common))
        own, long = (next(r.operation for r in load.rows if r.operation.id == id) for load in (one, all_five))
        assert lowest(long) == pytest.approx(lowest(own) - 4 * EACH)
        assert max(p[2] for s in long.motion.strokes for p in s.points) == own.motion.start[2]
        assert long.over == 5
    drill = next(r.operation for r in common.loads[0].rows if r.operation.id == DRILL)
    # from 2 over the front of 8 to the tip 46 farther down: over 3 D, so in pecks of 1.5 × 16
    cycle = drill.motion.cycle
    assert cycle is not None
    assert (cycle.code, cycle.peck, cycle.r) == (83, 24.0, 10.0)
    assert cycle.depths()[:2] == [-14.0, -38.0]


def test_all_is_made_at_the_first_piece_and_the_blade_takes_them_off(alone: Ledger, common: Ledger) -> None:
    load = common.loads[0]
    calls = [(c.operation.id, c.place) for c in load.calls]
    assert calls[1:] == [
        (ROUGH, "1"),
        (SPOT, "1"),
        (DRILL, "1"),
        (FINISH, "1"),
        *((BLADE, str(k)) for k in range(1, 6)),
    ]
    assert load.where.made_with("1", DRILL) == ("1", "2", "3", "4", "5")
    assert common.findings == alone.findings


def test_tools_are_called_once_an_advance(alone: Ledger, common: Ledger) -> None:
    one, all_five = alone.loads[0], common.loads[0]
    call = one.machine.tool_change
    # five tools on each of five pieces, against five in all (the first faces and roughs)
    assert (one.seconds["tool change"], all_five.seconds["tool change"]) == (25 * call, 5 * call)
    assert all_five.cycle < one.cycle - 20 * call


def test_what_saves_is_told_before_it_is_taken(alone: Ledger, common: Ledger) -> None:
    told = {one.operation: one for one in scopes_of(alone, RING, LIB, "L1")}
    assert told[DRILL].in_row is not None
    once = evaluate(through(advance(5), DRILL), RING, LIB)
    assert told[DRILL].in_row == pytest.approx(once.loads[0].cycle - alone.loads[0].cycle)
    assert told[FINISH].why == "“Rough outside, Ø32.0 to Ø28.8” comes before it on each piece"
    assert told[BLADE].why == "the blade cuts one piece off after the other"
    assert told[SPOT].why.startswith("it only begins a hole")
    assert "the blade faces those behind" in told["S1.end.face-in-the-lathe"].why
    assert {one.operation for one in scopes_of(common, RING, LIB, "L1") if one.scope == "row"} == {ROUGH, FINISH, DRILL}


def test_what_comes_before_goes_back_to_each_and_what_follows_says_so() -> None:
    plan = through(through(advance(5), ROUGH, FINISH), ROUGH, scope="each")
    (said,) = [f for f in evaluate(plan, RING, LIB).findings if f.code == "not-in-one-pass"]
    assert said.operation == FINISH
    assert said.title == "“Finish outside, 8.0 long” cannot run once through all pieces of the advance."
    (cure,) = said.cures
    mended = read_change(cure.change).apply(plan, Scene(RING, LIB, evaluate(plan, RING, LIB)))[0]
    assert not [f for f in evaluate(mended, RING, LIB).findings if f.code == "not-in-one-pass"]


def test_drill_that_is_too_short_for_all_of_them_is_told() -> None:
    tool = next(r.operation.tool for r in evaluate(advance(5), RING, LIB).loads[0].rows if r.operation.id == DRILL)
    # 8 and the tip under it: 8 + 3.9; each one more is 11.5
    many = 2 + int((tool.cutting_length - 8 - 3.9) // EACH)
    through(advance(many - 1), DRILL)
    with pytest.raises(PlanError, match=f"cuts {tool.cutting_length:g} deep, all pieces are"):
        through(advance(many), DRILL)


@pytest.mark.parametrize(
    ("count", "words"), [(7, ""), (9, "Boring bar from Ø16, R0.4 reaches 80 deep, all pieces are 92")]
)
def test_boring_bar_reaches_through_all_of_them_or_bores_each(count: int, words: str) -> None:
    part = built(rod((0, 0, 0), UP, 50, 7) - rod((0, 0, 0), UP, 19.3, 7))
    plan = barred(part)
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    plan = read_change({"change": "set-arrangement", "load": "L1", "on_bar": count}).apply(plan, scene)[0]
    drilled = through(plan, DRILL, part=part)
    told = {one.operation: one for one in scopes_of(evaluate(drilled, part, LIB), part, LIB, "L1")}
    bored = told["S1.H1.bore"]
    # 7 of piece and a little out behind it, 8 × 10.5 to the last of nine
    assert bored.why == words
    assert (bored.in_row is None) == bool(words)


def shouldered() -> Body:
    return rod((0, 0, 0), UP, 28, 6) + rod((0, 0, 6), UP, 20, 6) - rod((0, 0, 7), UP, 10, 6)


def test_what_turns_or_ends_within_a_piece_is_refused() -> None:
    part = built(shouldered())
    plan = barred(part)
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    plan = read_change({"change": "set-arrangement", "load": "L1", "on_bar": 3}).apply(plan, scene)[0]
    ledger = evaluate(plan, part, LIB)
    told = {one.operation: one.why for one in scopes_of(ledger, part, LIB, "L1")}
    turned = [why for id, why in told.items() if "turn" in id and "face" not in id]
    assert turned
    assert all(turned)
    assert any("turns within the piece" in why for why in turned)
    assert "ends within the piece" in " ".join(told.values())


def test_sheet_and_journal_say_what_goes_through_all_of_them(common: Ledger) -> None:
    words = order_words(common.setups[0])
    through_all = ("Rough outside, Ø32.0 to Ø28.8", "Finish outside, 8.0 long", "Drill Ø16, through")
    assert sorted(words) == sorted(f"Once through all pieces of the advance: “{name}”" for name in through_all)
    scene = Scene(RING, LIB, evaluate(advance(5), RING, LIB))
    change = {"change": "set-scope", "load": "L1", "operation": DRILL, "scope": "row"}
    assert read_change(change).apply(advance(5), scene)[1].endswith("once through all pieces of the advance")


def test_play_shows_all_pieces_by_the_machine_s_clock(common: Ledger) -> None:
    """What is run once through all of them, then what each has of its own, until the blade takes the last one off."""
    shown, _ = played(common)
    calls = common.loads[0].calls
    every = [one for one in shown if one.setup == "S1"]
    assert [(one.place, one.operation) for one in every] == [(c.place, c.operation.id) for c in calls]
    assert every[-1].start + every[-1].lead + every[-1].seconds == pytest.approx(
        sum(sum(c.own_seconds.values()) for c in calls)
    )
    # the drill goes on through the four behind, 11.5 apart, in its own time
    track = way_of(common, DRILL)
    assert min(z for _, _, z in track.points) == pytest.approx(-3.9 - 4 * 11.5, abs=0.1)
    drilled = next(one for one in every if one.operation == DRILL)
    assert track.times[-1] == pytest.approx(drilled.seconds)
    # and so all five are drilled once it is done
    after = {one.place: one.before for one in every if one.operation.endswith("cut-off")}
    assert len(after) == 5


def test_machine_runs_the_program_as_the_ledger_says(common: Ledger) -> None:
    for program in checked_programs(common, RING, "ring"):
        assert abs(program.agreement.difference) < 0.01
        assert program.troubles == ()


def test_each_piece_comes_out_by_the_plan_and_by_the_program(common: Ledger) -> None:
    found = followed(course_of(RING, common))
    assert stock_findings(RING, common, found) == []
    ran = [(one.program, one.setting, one.run) for one in checked_programs(common, RING, "ring")]
    again = followed(course_of_programs(RING, common, ran))
    assert stock_findings(RING, common, again) == []
    assert again.steps[-1].volume == pytest.approx(found.steps[-1].volume, abs=1.0)


@settings(max_examples=8)
@given(st.integers(2, 5), st.sampled_from([(DRILL,), (ROUGH,), (ROUGH, FINISH), (ROUGH, FINISH, DRILL)]))
def test_what_runs_once_is_never_longer_and_leaves_no_piece_out(count: int, operations: tuple[str, ...]) -> None:
    each, once = (evaluate(plan, RING, LIB) for plan in (advance(count), through(advance(count), *operations)))
    assert once.loads[0].cycle < each.loads[0].cycle
    assert once.prices[0].each <= each.prices[0].each
    made = {(piece, c.operation.id) for c in once.loads[0].calls
            for piece in once.loads[0].where.made_with(c.place, c.operation.id)}  # fmt: skip
    wanted = {(c.place, c.operation.id) for c in each.loads[0].calls}
    left = {id for _, id in wanted - made}
    assert left <= ({SPOT} if DRILL in operations else set())
