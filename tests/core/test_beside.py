"""Two turrets on one spindle: speeds that are shared, tools that would meet, waits, programs that run together."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from itertools import combinations
from math import pi

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.changes.beside import as_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.followed.play import played, way_of
from lean_ledger.core.geometry.solids import revolved, rod
from lean_ledger.core.ledger.beside_findings import beside_findings
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to
from lean_ledger.core.loads.balanced import Arranged, heaviest_clique
from lean_ledger.core.loads.meeting import Taken, met, taken_by
from lean_ledger.core.loads.speeds import at_speed, most_speed, shared_speed
from lean_ledger.core.loads.told import longest_chain, waits_of
from lean_ledger.core.papers.sheet import JobWords, setup_sheet, tool_lines
from lean_ledger.core.plan import AtOneSpeed, Plan, StockChoice
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.program.stations import numbers_by_operation
from lean_ledger.library.dialects import dialects_for
from tests.conftest import built, quick
from tests.core.beside_shop import (
    DRILL,
    FACE,
    FINISH,
    LIB,
    ROUGH,
    SPOT,
    TWIN,
    UP,
    changed,
    finder,
    ledger,
    load,
    on_second,
    one_after_other,
    part,
)
from tests.core.test_bars import RING, advance


@pytest.fixture(scope="module")
def beside() -> Plan:
    """The bore is drilled below while the outside is roughed above, both at one speed."""
    plan = on_second(SPOT, DRILL)
    return changed(plan, change="share-speed", load="L1", operations=[ROUGH, DRILL])


# ---- speeds


def test_shared_speed_is_what_the_slowest_can_and_the_feed_a_turn_stays() -> None:
    rough = finder().operations[ROUGH]
    spin = rough.motion.spin
    assert spin is not None
    # it cuts farthest out where the first pass ends at the shoulder's outside
    radius = max(abs(p[0]) for s in rough.motion.strokes if not s.is_rapid for p in s.points)
    assert most_speed(rough) == pytest.approx(1000 * spin.vc / (2 * pi * radius))
    steady = at_speed(rough, 1400.0, TWIN)
    feeds = {round(s.feed_mm_per_min, 6) for s in steady.motion.strokes if not s.is_rapid}
    assert feeds == {round(1400.0 * spin.per_turn, 6)}
    assert steady.motion.spin is None
    assert steady.cutting.n == 1400.0
    assert steady.time.cut > rough.time.cut


def test_drill_at_half_its_speed_takes_twice_as_long_in_feed() -> None:
    drill = finder().operations[DRILL]
    half = at_speed(drill, drill.cutting.n / 2, TWIN)
    assert half.time.nominal_cut == pytest.approx(2 * drill.time.nominal_cut)
    assert half.power == pytest.approx(drill.power / 2)
    assert half.motion.cycle is not None
    assert drill.motion.cycle is not None
    assert half.motion.cycle.feed == pytest.approx(drill.motion.cycle.feed / 2)


def test_surface_speed_that_is_kept_has_the_spindle_to_itself() -> None:
    one, stands = finder(), load(one_after_other()).placed[0].stands
    assert shared_speed(one.operations[ROUGH], stands) is None
    assert shared_speed(one.operations[DRILL], stands) == f"{one.operations[DRILL].cutting.n:.0f}"


# ---- what meets


def test_rectangles_meet_within_the_clearance() -> None:
    shank, holder = Taken((10, 1000), (-30, 25), "shank"), Taken((-12, 12), (26.5, 80), "holder")
    assert shank.meets(holder)  # 1.5 along Z
    assert not shank.meets(Taken((-12, 12), (27.5, 80), "holder"))


def test_holder_of_a_drill_meets_a_turning_tool_where_it_is_thicker_than_the_work() -> None:
    one, stands = finder(), load(one_after_other()).placed[0].stands
    finish, drill = one.operations[FINISH], one.operations[DRILL]
    above, below = taken_by(finish, stands, "behind"), taken_by(drill, stands, "front")
    # the drill's tip goes 40 below the end, its holder comes to 43 above: beyond the shank, which ends at 25 + 2
    assert met(above, below) is None
    # a holder of Ø40 goes round farther out than the shank stands, at Ø30, and comes to 10 above the end
    holder = replace(drill.tool.holder, diameter=40.0)
    thick = replace(drill, tool=replace(drill.tool, reach=50.0, holder=holder))
    assert met(above, taken_by(thick, stands, "front")) == ("shank", "holder")


def test_two_tools_on_the_axis_always_meet() -> None:
    one, stands = finder(), load(one_after_other()).placed[0].stands
    spot, drill = one.operations[SPOT], one.operations[DRILL]
    assert met(taken_by(spot, stands, "behind"), taken_by(drill, stands, "front")) is not None


# ---- lanes and waits


def test_by_itself_all_is_made_one_after_the_other() -> None:
    one = load(one_after_other())
    first, second = one.timeline.lanes
    assert second.calls == ()
    assert one.timeline.marks == ()
    assert one.cycle == pytest.approx(sum(call.total for call in first.calls) + sum(first.back.values()))
    assert one.seconds["waiting"] == 0.0


def test_drill_runs_beside_roughing_and_the_cycle_is_the_longest_chain(beside: Plan) -> None:
    one = load(beside)
    calls = {c.operation.id: (b, lane.carriage) for lane in one.timeline.lanes
             for c, b in zip(lane.calls, lane.beats, strict=True)}  # fmt: skip
    rough, drill = calls[ROUGH][0], calls[DRILL][0]
    assert max(rough.go, drill.go) < min(rough.end, drill.end)
    assert calls[DRILL][1] == "turret 2"
    # what comes before the finish is over when it goes on
    assert calls[FINISH][0].go >= rough.end
    chain = longest_chain(one.timeline)
    last = one.timeline.lanes[chain[-1][0]]
    assert last.end == one.cycle
    assert chain[0][1] == 0
    assert {w.why for w in waits_of(one)} == {
        "the spindle turns for one of them at a time: they want other speeds", "the end is faced before it is drilled",
    }  # fmt: skip


def test_lane_s_seconds_and_waits_fill_the_cycle(beside: Plan) -> None:
    one = load(beside)
    assert sum(one.timeline.seconds.values()) == pytest.approx(one.cycle)
    assert one.timeline.seconds["waiting"] > 0
    assert one.idle == pytest.approx(one.load_seconds)  # waiting for one another is the machine's own time
    for lane in one.timeline.lanes:
        assert lane.end == pytest.approx(
            sum(call.total for call in lane.calls) + lane.waiting + sum(lane.back.values())
        )


def test_spindle_is_run_up_once_for_both(beside: Plan) -> None:
    one = load(beside)
    runs = {c.operation.id: c.transition.spindle for c in one.timeline.calls}
    start = TWIN.spindle.start
    # they go on at the same mark: one asks for it, both wait until it turns
    assert (runs[ROUGH], runs[DRILL], runs[FINISH]) == pytest.approx((start, start, start))
    later = load(on_second(SPOT, DRILL, FINISH))  # each at its own speed: it runs up anew for each that cuts
    assert sum(c.transition.spindle for c in later.timeline.calls) == pytest.approx(4 * start)


# ---- programs


ALL = (FACE, ROUGH, SPOT, DRILL, FINISH)


@st.composite
def arranged(draw: st.DrawFn) -> Arranged:
    on = tuple((id, "turret 2") for id in ALL if draw(st.booleans()))
    group = frozenset(id for id in ALL if draw(st.booleans()))
    return Arranged(on, (group,) if len(group) > 1 else (), ALL)


@settings(deadline=None, max_examples=10)
@given(arranged())
def test_programs_of_both_turrets_run_together_as_the_ledger_says(one: Arranged) -> None:
    asked = finder()
    plan = one_after_other().with_load(asked.as_load(one))
    made = ledger(plan)
    programs = [c for c in checked_programs(made, part(), "T-1") if c.program.setup == "S1"]
    for each in programs:
        assert each.troubles == ()
        assert abs(each.agreement.difference) < 1e-3
    assert max(c.run.total for c in programs) == pytest.approx(made.loads[0].cycle, rel=1e-4)
    marks = [f"M{500 + mark.number}" for mark in made.loads[0].timeline.marks]
    for mark in marks:  # in both programs, once each
        assert [c.program.text.split("\n").count(mark) for c in programs] == [1, 1]


def test_pieces_of_an_advance_are_made_on_both_turrets() -> None:
    plan = advance(3)
    for change in (
        {"change": "set-machine", "setup": "S1", "machine": "lathe-twin"},
        {"change": "set-scope", "load": "L1", "operation": "S1.outside.rough-turn", "scope": "row"},
        {"change": "set-carriage", "load": "L1", "operation": "S1.H1.drill", "carriage": "turret 2"},
        {"change": "set-carriage", "load": "L1", "operation": "S1.H1.spot", "carriage": "turret 2"},
        {"change": "share-speed", "load": "L1", "operations": ["S1.outside.rough-turn", "S1.H1.spot"]},
    ):
        plan = read_change(change).apply(plan, Scene(RING, LIB, evaluate(plan, RING, LIB)))[0]
    made = evaluate(plan, RING, LIB)
    one = made.loads[0]
    assert [len(lane.calls) for lane in one.timeline.lanes] == [8, 6]  # faced and roughed once
    cut = {c.place: b.end for lane in one.timeline.lanes for c, b in zip(lane.calls, lane.beats, strict=True)
           if c.operation.id.endswith("cut-off")}  # fmt: skip
    for lane in one.timeline.lanes:  # what lies behind a piece is come to when that one is off
        for call, beat in zip(lane.calls, lane.beats, strict=True):
            if call.operation.over == 1:
                assert all(beat.go >= end for place, end in cut.items() if int(place) < int(call.place))
    for each in (c for c in checked_programs(made, RING, "T-1") if c.program.setup == "S1"):
        assert each.troubles == ()
        assert abs(each.agreement.difference) < 1e-3


def test_stock_is_followed_as_one_after_the_other_leaves_it(beside: Plan) -> None:
    found = []
    for plan in (one_after_other(), beside):
        made = ledger(plan)
        found.append([f.title for f in stock_findings(part(), made, followed(course_of(part(), made)))])
        # the drill's cone stays in a bore that ends flat
        assert [f.code for f in made.findings if f.code == "tip-left"] == ["tip-left"]
    assert found[0] == found[1] == []


def test_play_shows_both_at_once_the_lower_one_from_the_front(beside: Plan) -> None:
    made = ledger(beside)
    run, total = played(made)
    assert total == pytest.approx(sum(one.cycle for one in made.loads))
    shown = {one.operation: one for one in run if one.setup == "S1"}
    rough, drill = shown[ROUGH], shown[DRILL]
    assert max(rough.start, drill.start) < min(rough.start + rough.lead + rough.seconds, drill.start + drill.lead)
    assert [one.before for one in run] == sorted(one.before for one in run)
    axis = made.setup("S1").built.stands.foot[0]
    below = way_of(ledger(on_second(FINISH)), FINISH)
    above = way_of(ledger(one_after_other()), FINISH)
    assert below.from_front
    assert not above.from_front
    for a, b in zip(above.points, below.points, strict=True):
        assert (b[0], b[2]) == pytest.approx((2 * axis - a[0], a[2]))


def test_each_turret_has_stations_of_its_own_and_only_the_last_stops_the_spindle(beside: Plan) -> None:
    above, below = (c.program for c in checked_programs(ledger(beside), part(), "T-1") if c.program.setup == "S1")
    assert (above.file, below.file) == ("O1000.nc", "O2000.nc")
    assert "T0101" in above.text
    assert "T0101" in below.text
    assert [text.count("\nM5\n") for text in (above.text, below.text)] == [1, 0]
    assert [d.id for d in dialects_for(TWIN)] == ["lathe-paths"]


def test_paper_calls_each_tool_as_the_program_of_its_turret_does() -> None:
    plan = on_second(SPOT, DRILL, FACE)
    made = ledger(plan)
    one = made.setup("S1")
    written: dict[str, int] = {}
    for checked in (c for c in checked_programs(made, part(), "T-1") if c.program.setup == "S1"):
        calls, tool = dict(checked.program.calls), 0
        for line in checked.program.text.split("\n"):
            tool = int(line[1:3]) if line.startswith("T") else tool
            if line.startswith("M98 P"):
                written[calls[int(line[5:])]] = tool
    assert numbers_by_operation(one) == written
    assert written[FACE] == written[ROUGH] == 1  # a station of each turret
    on_sheet = {(line.number, line.description) for line in tool_lines(one)}
    for id, number in written.items():
        op, carriage = made.call_of(id).operation, made.call_of(id).carriage
        assert (number, f"{op.tool.description}, {carriage}") in on_sheet
    sheet = setup_sheet(JobWords("T-1", "Socket", "A", ""), made, part(), 1, date(2027, 1, 4)).setups[0]
    assert [line.tool for line in sheet.operations] == [written[row.operation.id] for row in one.rows]
    texts = [c.program.text for c in checked_programs(made, part(), "T-1") if c.program.setup == "S1"]
    heads = {line.split("(")[1].split()[0] for text in texts for line in text.split("\n") if "(S1." in line}
    assert heads == {f"S1.{line.number}" for line in sheet.operations}


# ---- found


def test_least_cycle_is_that_of_all_arrangements_of_a_small_load() -> None:
    asked = finder()
    found = asked.best(20)
    best = found.now
    for count in range(len(ALL) + 1):
        for second in combinations(ALL, count):
            on = tuple((id, "turret 2") for id in sorted(second))
            for size in (0, 2, 3, 4, 5):
                for group in combinations(ALL, size):
                    one = Arranged(on, (frozenset(group),) if group else (), asked.now.order)
                    best = min(best, asked.seconds(one))
    assert found.cycle <= best + 1e-3
    assert found.bound <= found.cycle < found.one_by_one
    assert asked.gains()[0].saves <= found.now - found.cycle + 1e-9


def test_heaviest_clique_is_that_of_all_subsets() -> None:
    weights, linked = [3.0, 2.0, 4.0, 1.5, 2.5], [0b01110, 0b00101, 0b01011, 0b10101, 0b01000]

    def is_clique(some: tuple[int, ...]) -> bool:
        return all(linked[a] >> b & 1 for a, b in combinations(some, 2))

    best = max(sum(weights[k] for k in some) for n in range(6) for some in combinations(range(5), n) if is_clique(some))
    assert heaviest_clique(weights, linked) == best


def test_speed_that_was_set_slower_than_it_can_be_comes_first() -> None:
    slow = grouped(300.0, ROUGH, DRILL, on=(DRILL,))
    (gain,) = finder(slow).gains()
    assert (gain.operations, gain.at) == ((ROUGH, DRILL), finder().shared(frozenset({ROUGH, DRILL})))
    assert load(slow).cycle - load(slow.with_load(gain.load)).cycle == pytest.approx(gain.saves, abs=1e-6)


@settings(deadline=None, max_examples=8)
@given(arranged())
def test_each_gain_saves_what_it_says(one: Arranged) -> None:
    plan = one_after_other().with_load(finder().as_load(one))
    for gain in finder(plan).gains():
        assert gain.operations
        taken = changed(plan, **as_change(gain.load, tuple(op for _, op in gain.load.order)))
        assert load(plan).cycle - load(taken).cycle == pytest.approx(gain.saves, abs=1e-6)


@settings(deadline=None, max_examples=8)
@given(arranged())
def test_whatever_the_search_tries_can_be_taken(one: Arranged) -> None:
    asked, plan = finder(), one_after_other()
    tried = [one, *asked._neighbours(one)]
    for other in (*tried[:: max(1, len(tried) // 6)], tried[-1]):
        taken = changed(plan, **as_change(asked.as_load(other), other.order))
        assert load(taken).cycle == pytest.approx(asked.seconds(other))


def test_what_is_found_is_taken_as_one_change() -> None:
    asked = finder()
    found = asked.best(5)
    plan = changed(one_after_other(), **as_change(found.load, found.arranged.order))
    assert load(plan).cycle == pytest.approx(found.cycle)
    back = changed(plan, change="one-after-other", load="L1")
    assert load(back).cycle == pytest.approx(found.one_by_one, abs=1e-6)


# ---- refused, and found wrong


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"change": "set-carriage", "operation": ROUGH, "carriage": "turret 3"}, "no-such-carriage"),
        ({"change": "set-carriage", "operation": "S1.nothing", "carriage": "turret 2"}, "no-such-operation"),
        ({"change": "share-speed", "operations": [ROUGH]}, "one-operation"),
        ({"change": "share-speed", "operations": [ROUGH, DRILL], "n": 0.0}, "out-of-range"),
    ],
)
def test_refused(change: dict[str, object], code: str) -> None:
    with pytest.raises(PlanError) as refused:
        changed(one_after_other(), load="L1", **change)
    assert refused.value.code == code


def test_machine_of_one_carriage_shares_nothing() -> None:
    plan = changed(one_after_other(), change="move-to-machine", machine="lathe-320")
    with pytest.raises(PlanError, match="Lathe 1, swing 320 has one carriage"):
        changed(plan, change="set-carriage", load="L1", operation=ROUGH, carriage="turret")


def grouped(n: float, *operations: str, on: tuple[str, ...] = ()) -> Plan:
    plan = on_second(*on)
    return plan.with_load(replace(plan.loads[0], at_one_speed=(AtOneSpeed(operations, n),)))


def test_speed_that_is_too_fast_for_one_is_found_and_mended() -> None:
    plan = grouped(3000.0, ROUGH, DRILL, on=(DRILL,))
    (wrong,) = beside_findings(load(plan))
    assert wrong.code == "shared-too-fast"
    assert "Rough outside" in wrong.title
    assert list(beside_findings(load(changed(plan, **wrong.cures[0].change)))) == []


def test_speed_that_is_shared_on_one_turret_is_found_and_mended() -> None:
    plan = grouped(1200.0, ROUGH, DRILL)
    (wrong,) = beside_findings(load(plan))
    assert wrong.code == "shares-for-nothing"
    assert list(beside_findings(load(changed(plan, **wrong.cures[0].change)))) == []


def test_tap_reverses_the_spindle_and_shares_it_with_nobody() -> None:
    tapped = built(revolved([(0, 0), (20, 0), (20, 50), (0, 50)]) - rod((0, 0, 20), UP, 10.2, 30))
    plan = replace(quick(tapped), stock=StockChoice("round bar", sizing="next size up", along="Z"))
    plan = moved_to(plan, TWIN, tapped, LIB)
    for change in (
        {"change": "set-thread", "diameter": 10.2, "thread": "M12"},
        {"change": "set-carriage", "load": "L1", "operation": "S1.H1.tap", "carriage": "turret 2"},
    ):
        scene = Scene(tapped, LIB, evaluate(plan, tapped, LIB))
        plan = read_change(change).apply(plan, scene)[0]
    group = AtOneSpeed((FACE, "S1.H1.tap"), 300.0)
    plan = plan.with_load(replace(plan.loads[0], at_one_speed=(group,)))
    made = evaluate(plan, tapped, LIB)
    (wrong,) = (f for f in made.findings if f.code == "alone-on-spindle")
    assert "shares no speed" in wrong.title
    tap = made.call_of("S1.H1.tap").operation
    assert tap.cutting.n != 300.0  # it keeps its own
    with pytest.raises(PlanError, match="has the spindle to itself"):
        read_change({"change": "share-speed", "load": "L1", "operations": [FACE, tap.id]}).apply(
            plan, Scene(tapped, LIB, made)
        )


def test_travel_is_that_of_the_turret_that_makes_it() -> None:
    short = replace(TWIN.carriages[1], travel=(TWIN.carriages[1].travel[0], (0.0, 0.0), (0.0, 200.0)))
    machine = replace(TWIN, carriages=(TWIN.carriages[0], short))
    library = replace(LIB, machines=tuple(machine if m.id == TWIN.id else m for m in LIB.machines))
    codes = {f.code for f in evaluate(one_after_other(), part(), library).findings}
    assert "past-travel" not in codes
    far = evaluate(on_second(DRILL), part(), library).findings
    assert "Drill" in next(f for f in far if f.code == "past-travel").title
