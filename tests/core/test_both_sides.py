"""Two turrets rough one outside together, a pass each, on either side of the axis."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.followed.play import played, timed_moves
from lean_ledger.core.geometry.solids import revolved
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to
from lean_ledger.core.loads.balanced import Finder
from lean_ledger.core.loads.both_sides import BEHIND, of_the_other, opposite, pairs_in
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.told import waits_of
from lean_ledger.core.plan import Plan, StockChoice
from lean_ledger.core.program.checked import checked_programs
from tests.conftest import built, quick
from tests.core.beside_shop import (
    DRILL,
    FACE,
    FINISH,
    LIB,
    ROUGH,
    SPOT,
    TWIN,
    changed,
    ledger,
    load,
    one_after_other,
    part,
)
from tests.core.test_bars import RING, advance

OTHERS = (FACE, SPOT, DRILL, FINISH)


def both(plan: Plan | None = None) -> Plan:
    return changed(plan or one_after_other(), change="from-both-sides", load="L1", operation=ROUGH, on=True)


def passes(one: LoadLedger) -> dict[str, tuple[str, float, float]]:
    """By operation: the carriage, when it goes on from its mark, when it ends."""
    return {
        call.operation.id: (lane.carriage, beat.go, beat.end)
        for lane in one.timeline.lanes for call, beat in zip(lane.calls, lane.beats, strict=True)
        if call.operation.id.startswith(ROUGH)
    }  # fmt: skip


def test_four_passes_are_two_pairs_that_begin_together_at_one_speed() -> None:
    """Radii 24 down to 15.4 in four passes of 2.4: two on each turret. 350 m/min at Ø45.2: 1000 · 350 / (π · 45.2)
    = 2464 rpm for all, since two speeds would cost a run-up more than the second gains.
    """
    plan = both()
    found, alone = load(plan), load(one_after_other())
    at = passes(found)
    assert {id: carriage for id, (carriage, _, _) in at.items()} == {
        ROUGH: "turret 1", f"{ROUGH}~2": "turret 2", f"{ROUGH}~3": "turret 1", f"{ROUGH}~4": "turret 2",
    }  # fmt: skip
    assert at[ROUGH][1] == at[f"{ROUGH}~2"][1]
    assert at[f"{ROUGH}~3"][1] == at[f"{ROUGH}~4"][1]
    assert at[f"{ROUGH}~3"][1] >= max(at[ROUGH][2], at[f"{ROUGH}~2"][2]) - 1e-9
    ops = {c.operation.id: c.operation for c in found.calls}
    assert {ops[id].cutting.n for id in at} == {2464.0}
    assert found.timeline.makespan < alone.timeline.makespan - 1
    (gain,) = Finder(alone).both_gains()
    assert gain == (ROUGH, pytest.approx(alone.timeline.makespan - found.timeline.makespan))
    # what waited for the roughing waits for both of its last passes
    assert {f"{ROUGH}~3", f"{ROUGH}~4"} <= {before for before, _ in ops[FINISH].after}


def test_the_deeper_pass_is_never_ahead_of_the_other() -> None:
    found = load(both())
    machine = found.machine
    beats = {c.operation.id: (c, b) for lane in found.timeline.lanes
             for c, b in zip(lane.calls, lane.beats, strict=True)}  # fmt: skip
    for first, second in pairs_in(beats, (ROUGH,)):
        way = []
        for id in (first, second):
            call, beat = beats[id]
            strokes = call.operation.motion.strokes
            own = call.operation.time.cut + call.operation.time.rapid
            at, z, track = beat.end - own, strokes[0].points[0][2], []
            cutting = False
            for seconds, point, is_rapid in timed_moves(strokes, machine):
                if not is_rapid:
                    cutting = True
                    track.append((at, z, at + seconds, point[2]))
                elif cutting:
                    break
                at, z = at + seconds, point[2]
            way.append(track)
        ahead, behind = way
        for begin, z0, end, z1 in behind:
            for k in range(11):
                t, z = begin + (end - begin) * k / 10, z0 + (z1 - z0) * k / 10
                there = [a + (b - a) * (t - s) / (e - s) for s, a, e, b in ahead if s <= t <= e]
                if there:
                    assert z >= there[0] + BEHIND / 2
        assert behind[0][0] == pytest.approx(ahead[0][0], abs=0.5)


def test_each_pass_takes_what_the_whole_takes_there_and_no_more() -> None:
    whole = {c.operation.id: c.operation for c in load(one_after_other()).calls}[ROUGH]
    own = [c.operation for c in load(both()).calls if c.operation.id.startswith(ROUGH)]

    def area(ring: tuple[tuple[float, float], ...]) -> float:
        return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in pairwise((*ring, ring[0])))) / 2

    # each down to its own depth, the last to all that the whole takes: 11.1 wide and 26.1 long, and 3.9 by 1.9 behind
    assert [sum(map(area, op.motion.turned)) for op in own] == pytest.approx(
        [3.9 * 28, 6.3 * 26.1 + 3.9 * 1.9, 8.7 * 26.1 + 3.9 * 1.9, 11.1 * 26.1 + 3.9 * 1.9], rel=2e-3
    )
    assert max(map(area, whole.motion.turned)) == pytest.approx(11.1 * 26.1, rel=2e-3)
    outcome = followed(course_of(part(), ledger(both())))
    assert outcome.collisions == ()
    assert [f.title for f in stock_findings(part(), ledger(both()), outcome)] == []
    run, _ = played(ledger(both()))
    assert len({one.operation for one in run if one.operation.startswith(ROUGH)}) == 4


@settings(deadline=None, max_examples=8)
@given(st.sets(st.sampled_from(OTHERS)), st.booleans())
def test_both_programs_meet_before_each_pair_and_run_as_the_ledger_says(second: set[str], last_first: bool) -> None:
    plan = one_after_other()
    for id in sorted(second, reverse=last_first):
        plan = changed(plan, change="set-carriage", load="L1", operation=id, carriage="turret 2")
    plan = both(plan)
    made = ledger(plan)
    programs = [c for c in checked_programs(made, part(), "T-1") if c.program.setup == "S1"]
    for each in programs:
        assert each.troubles == ()
        assert abs(each.agreement.difference) < 1e-3
    assert max(c.run.total for c in programs) == pytest.approx(made.loads[0].cycle, rel=1e-4)
    at = passes(made.loads[0])
    for a, b in pairs_in(at, (ROUGH,)):
        assert at[a][1] == at[b][1]
        assert at[a][0] != at[b][0]


def test_roughing_begun_by_the_second_turret_is_joined_by_the_first() -> None:
    plan = changed(one_after_other(), change="set-carriage", load="L1", operation=ROUGH, carriage="turret 2")
    at = passes(load(both(plan)))
    assert [at[id][0] for id in (ROUGH, f"{ROUGH}~2")] == ["turret 2", "turret 1"]
    assert opposite(TWIN, "turret 1") == "turret 2"
    assert [of_the_other(id) for id in (ROUGH, f"{ROUGH}~2", f"{ROUGH}~3")] == [False, True, False]


def test_waits_say_that_both_sides_begin_together() -> None:
    why = {w.why for w in waits_of(load(both()))}
    assert why & {"both sides begin together", "both sides are off the work before the next two passes"}


def test_it_is_taken_back_and_goes_with_all_one_after_the_other() -> None:
    plan = both()
    off = changed(plan, change="from-both-sides", load="L1", operation=ROUGH, on=False)
    assert load(off).timeline.makespan == load(one_after_other()).timeline.makespan
    assert Finder(load(plan)).one_by_one == load(one_after_other()).timeline.makespan
    one = changed(plan, change="one-after-other", load="L1")
    assert (one.loads[0].both_sides, load(one).cycle) == ((), load(one_after_other()).cycle)
    parts = changed(plan, change="split-operation", load="L1", operation=ROUGH, parts=2)
    assert parts.loads[0].both_sides == ()
    assert both(parts).loads[0].split == ()


def test_search_keeps_what_is_made_from_both_sides() -> None:
    plan = both()
    found = Finder(load(plan)).best(2)
    assert found.cycle <= load(plan).timeline.makespan
    taken = load(plan.with_load(found.load))
    assert taken.timeline.makespan == pytest.approx(found.cycle)
    at = passes(taken)
    assert len(at) == 4
    assert all(at[a][1] == at[b][1] for a, b in pairs_in(at, (ROUGH,)))


@pytest.mark.parametrize(
    ("operation", "why"),
    [(DRILL, "only what is roughed by turning"), (FINISH, "only what is roughed by turning")],
)
def test_what_is_not_made_from_both_sides_says_why(operation: str, why: str) -> None:
    with pytest.raises(PlanError, match=why):
        changed(one_after_other(), change="from-both-sides", load="L1", operation=operation, on=True)


def test_more_refusals() -> None:
    with pytest.raises(PlanError, match="has no operation"):
        changed(one_after_other(), change="from-both-sides", load="L1", operation="S1.nothing", on=True)
    with pytest.raises(PlanError, match="make it from one side first"):
        changed(both(), change="set-carriage", load="L1", operation=f"{ROUGH}~2", carriage="turret 1")
    thin = built(revolved([(0, 0), (15, 0), (15, 40), (0, 40)]))
    bar = replace(quick(thin), stock=StockChoice("round bar", sizing="next size up", along="Z"))
    plan = moved_to(bar, TWIN, thin, LIB)
    made = evaluate(plan, thin, LIB)
    assert Finder(made.loads[0]).both_gains() == []
    change = {"change": "from-both-sides", "load": "L1", "operation": ROUGH, "on": True}
    with pytest.raises(PlanError, match="it has one pass"):
        read_change(change).apply(plan, Scene(thin, LIB, made))


def test_what_runs_once_through_all_pieces_is_not_made_from_both_sides() -> None:
    plan = advance(3).with_load(replace(advance(3).loads[0], both_sides=(ROUGH,)))
    for change in (
        {"change": "set-machine", "setup": "S1", "machine": "lathe-twin"},
        {"change": "set-scope", "load": "L1", "operation": ROUGH, "scope": "row"},
    ):
        plan = read_change(change).apply(plan, Scene(RING, LIB, evaluate(plan, RING, LIB)))[0]
    assert plan.loads[0].both_sides == ()
    made = evaluate(plan, RING, LIB)
    both_sides = {"change": "from-both-sides", "load": "L1", "operation": ROUGH, "on": True}
    with pytest.raises(PlanError, match="once through all pieces of the advance; let it run on each piece first"):
        read_change(both_sides).apply(plan, Scene(RING, LIB, made))
    assert Finder(made.loads[0]).both_gains() == []
    # a plan that has both said, as one could be stored: the whole runs once
    said = both()
    assert set(passes(load(said.with_load(replace(said.loads[0], in_rows=(ROUGH,)))))) == {ROUGH}


def test_machine_without_two_sides_leaves_it_whole() -> None:
    """Moved to another lathe the decision waits: there the roughing is made as ever."""
    plan = both()
    lathe = next(m for m in LIB.machines if m.id == "lathe-320")
    moved = moved_to(plan, lathe, part(), LIB)
    assert {c.operation.id for c in ledger(moved).loads[0].calls if c.operation.id.startswith(ROUGH)} == {ROUGH}
