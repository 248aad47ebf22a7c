"""A counter spindle takes pieces over: where it comes to, what that takes, and both spindles' programs together."""

from __future__ import annotations

import json
import re
from dataclasses import replace
from datetime import date
from functools import cache
from random import Random

import pytest

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.control.blocks import ProgramError
from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.setting import CounterCodes, Setting
from lean_ledger.core.files.machine_file import parse_machine
from lean_ledger.core.geometry.solids import revolved
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.loads.handover import handover_findings
from lean_ledger.core.loads.lanes import taken_over_in
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.runs import Selection, run_of
from lean_ledger.core.loads.told import waits_of
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.pace.ends import at_other_end, both_ends
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.program.checked import checked_part, checked_programs
from lean_ledger.library import shipped_library
from lean_ledger.library.machines import Machine
from tests.conftest import built, demo_part, quick

LIB = shipped_library()
ONE, TWO = (LIB.machine(id) for id in ("lathe-counter", "lathe-both"))
CODES = CounterCodes((71.0, 72.0), 63.0, 75.0, 76.0, 77.0)
H = "S2.H1"  # the hole across the hub, once it is made in the counter spindle


def changed(plan: Plan, part: Part, *changes: dict[str, object]) -> Plan:
    for change in changes:
        plan, _ = read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))
    return plan


@cache
def hub(machine: str) -> Plan:
    part = demo_part("vane-hub")
    thread = {"change": "set-thread", "diameter": 5.0, "thread": "M6"}
    return changed(quick(part), part, thread, {"change": "hand-over", "machine": machine})


def ledger(plan: Plan) -> Ledger:
    return evaluate(plan, demo_part("vane-hub"), LIB)


def load(plan: Plan) -> LoadLedger:
    return ledger(plan).loads[0]


@cache
def with_driven() -> Plan:
    """The hole across and its thread in the counter spindle as well, by driven tools."""
    return changed(
        hub("lathe-both"), demo_part("vane-hub"), {"change": "move-feature", "features": ["H1"], "setup": "S2"}
    )


def test_counter_spindle_comes_so_far_that_the_piece_is_where_it_was_and_takes_these_seconds() -> None:
    one = load(hub("lathe-counter"))
    taken = taken_over_in(one.where)
    assert taken is not None
    part = demo_part("vane-hub")
    front, back = (o.at[2] for o in offsets_of(ledger(hub("lathe-counter")), part)[:2])
    # the first zero is the piece's front, 59 before its other end, which is the second one's, seen from the other side
    assert taken.at == pytest.approx(front - 59.0 + back)
    # 860 − at − 5 at 400 mm/s and 3000 mm/s², 5 at 20 mm/s: s / v + v / a each
    fast = (860 - taken.at - 5) / 400 + 400 / 3000
    slow = 5 / 20 + 20 / 3000
    assert taken.approach == pytest.approx(fast + slow)
    assert taken.away == pytest.approx((860 - taken.at) / 400 + 400 / 3000)
    assert taken.before == pytest.approx(1.5 + 0.8 + taken.approach + 0.6)
    # the cycle has it once, in a category of its own
    assert one.timeline.seconds["pick-off"] == pytest.approx(taken.before + taken.away)
    # half a millimetre is left at the blade, the grip is at the other end of 59
    grip = one.where.placed[1].built.hold.grip
    assert taken.between == pytest.approx(59.0 + 0.5 - grip)


def test_bar_is_fed_and_nobody_loads_the_second_end() -> None:
    one = load(hub("lathe-counter"))
    assert one.load_seconds == one.where.placed[0].built.hold.load_seconds
    first, second = one.shares
    assert (first.load_seconds, second.load_seconds) == (one.load_seconds, 0.0)


@pytest.mark.parametrize("machine", ["lathe-counter", "lathe-both"])
def test_shares_of_both_ends_sum_up_to_the_cycle(machine: str) -> None:
    one = load(hub(machine))
    assert sum(share.cycle for share in one.shares) == pytest.approx(one.cycle)
    for name, seconds in one.timeline.seconds.items():
        assert sum(s.seconds[name] for s in one.shares if name not in ("handling", "hand work")) == pytest.approx(
            0 if name in ("handling", "hand work") else seconds
        )


def test_ends_that_run_at_the_same_time_take_the_longer_and_the_pick_off() -> None:
    one, after = load(hub("lathe-both")), load(hub("lathe-counter"))
    front, back = one.timeline.lanes
    assert {call.operation.setup for call in front.calls} == {"S1"}
    assert {call.operation.setup for call in back.calls} == {"S2"}
    assert one.cycle == pytest.approx(front.end)
    assert back.end - back.waiting < front.end
    # one carriage does both, one after the other
    assert after.cycle > sum(call.total for call in after.calls if call.operation.setup == "S1")


def test_next_piece_is_cut_off_when_the_counter_spindle_is_empty() -> None:
    one = load(with_driven())
    (blade,) = (c for c in one.timeline.lanes[0].calls if c.operation.kind == OperationKind.CUT_OFF)
    own = {call.operation.id: beat for lane in one.timeline.lanes
           for call, beat in zip(lane.calls, lane.beats, strict=True)}  # fmt: skip
    ends = [own[c.operation.id].end for c in one.calls if c.operation.setup == "S2"]
    assert max(ends) <= own[blade.operation.id].go
    # and the turret that waits there has gone off the work before
    back = one.timeline.lanes[1]
    assert back.last_wait > 0
    assert one.cycle - back.last_wait > max(ends)


def arranged(seed: int) -> Plan:
    """Operations on either turret, as drawn."""
    random, plan, part = Random(seed), with_driven(), demo_part("vane-hub")
    for call in load(plan).timeline.calls:
        if random.random() < 0.4:
            change = {"change": "set-carriage", "load": "L1", "operation": call.operation.id,
                      "carriage": random.choice(["turret 1", "turret 2"])}  # fmt: skip
            plan = changed(plan, part, change)
    return plan


@pytest.mark.parametrize("seed", [1, 2, 3, 4])
def test_machine_runs_both_programs_as_the_ledger_says_however_the_work_is_shared_out(seed: int) -> None:
    plan = arranged(seed)
    for one in checked_programs(ledger(plan), demo_part("vane-hub"), "hub"):
        assert abs(one.agreement.difference) < 0.001
        assert one.troubles == ()


def test_one_carriage_goes_from_spindle_to_spindle_as_the_ledger_says() -> None:
    plan = hub("lathe-counter")
    one = checked_programs(ledger(plan), demo_part("vane-hub"), "hub")[0]
    assert abs(one.agreement.difference) < 1e-4
    assert one.agreement.machine["pick-off"] == pytest.approx(one.agreement.ledger["pick-off"])
    assert one.troubles == ()


def test_blade_draws_out_across_while_the_counter_spindle_has_the_piece() -> None:
    one = checked_programs(ledger(hub("lathe-both")), demo_part("vane-hub"), "hub")[0]
    lines = one.program.text.split("\n")
    closes = lines.index("M77")
    assert lines[closes - 2].startswith("G0 W")
    assert lines[closes - 1].startswith("G1 W")
    called = re.fullmatch(r"M98 P(\d+)", lines[closes + 1])
    assert called is not None
    begin = next(k for k, line in enumerate(lines) if line.startswith(f"O{called[1]}"))
    own = lines[begin : lines.index("M99", begin)]
    assert not any("Z" in line for line in own[1:])
    assert lines[closes + 2] == "G0 W960."


def test_cycles_that_fill_and_empty_run_by_themselves() -> None:
    plan = hub("lathe-both")
    assert run_of(load(plan), 10).cycles == ((("S1",), 1), (("S1", "S2"), 9), (("S2",), 1))
    for setups in (("S1",), ("S2",)):
        made = checked_part(ledger(plan), demo_part("vane-hub"), "hub", "L1", Selection(setups))
        assert all(abs(one.agreement.difference) < 0.001 and not one.troubles for one in made)


def test_who_waits_is_told_with_the_reason() -> None:
    plan = changed(with_driven(), demo_part("vane-hub"), {"change": "one-after-other", "load": "L1"})
    assert load(plan).timeline.lanes[1].calls == ()
    # the blade on the other turret than the last of the counter spindle: it has to wait for that
    plan = changed(plan, demo_part("vane-hub"), {"change": "set-carriage", "load": "L1",
                                                 "operation": "S1.end.cut-off", "carriage": "turret 2"})  # fmt: skip
    words = [one.why for one in waits_of(load(plan)) if one.at[0] == 1]
    assert any("counter spindle" in why or "finished before it falls" in why for why in words)


# ---- by one change, and as an offer


def test_both_ends_are_offered_with_the_seconds_and_the_money_that_the_change_then_has() -> None:
    part = demo_part("vane-hub")
    plan = quick(part)
    now = evaluate(plan, part, LIB)
    for offer in both_ends(now, part, LIB):
        assert not offer.refused
        assert offer.ledger is not None
        taken = evaluate(changed(plan, part, {"change": "hand-over", "machine": offer.machine.id}), part, LIB)
        assert [p.each for p in offer.ledger.prices] == [p.each for p in taken.prices]
        assert taken.loads[0].where.handed_over
        assert offer.ledger.per_piece < now.per_piece


def test_what_goes_to_the_other_spindle_is_offered_where_the_cycle_gets_shorter() -> None:
    plan, part = hub("lathe-both"), demo_part("vane-hub")
    now = ledger(plan)
    best = at_other_end(now.loads[0], now, part, LIB)[0]
    assert (best.feature, best.to) == ("H1", "S2")
    assert best.saves == pytest.approx(now.loads[0].cycle - load(with_driven()).cycle)
    assert best.each == now.prices[0].each - ledger(with_driven()).prices[0].each


def test_part_that_no_two_ends_make_is_refused() -> None:
    plate = demo_part("sensor-base-plate")
    with pytest.raises(PlanError, match=r"not round|no two setups"):
        changed(quick(plate), plate, {"change": "hand-over", "machine": "lathe-both"})
    with pytest.raises(PlanError, match="no lathe with a counter spindle"):
        changed(quick(plate), plate, {"change": "hand-over", "machine": "lathe-320"})
    assert both_ends(evaluate(quick(plate), plate, LIB), plate, LIB) == ()


def test_one_piece_a_cycle_goes_over_and_no_more() -> None:
    with pytest.raises(PlanError, match="one piece a cycle"):
        changed(hub("lathe-both"), demo_part("vane-hub"), {"change": "set-arrangement", "load": "L1", "on_bar": 2})


def test_piece_that_would_not_be_cut_off_is_not_skipped() -> None:
    """The counter spindle would go back with the bar in it."""
    part = demo_part("vane-hub")
    with pytest.raises(PlanError, match="not cut off"):
        changed(hub("lathe-both"), part, {"change": "skip-pieces", "load": "L1", "pieces": ["1"]})
    plan = changed(hub("lathe-both"), part, {"change": "skip-pieces", "load": "L1", "pieces": ["2"]})
    assert all(one.troubles == () for one in checked_programs(ledger(plan), part, "hub"))


# ---- what is wrong


@cache
def spacer() -> Part:
    return built(revolved([(8, 0), (16, 0), (16, 8), (8, 8)]), "spacer")


def test_short_piece_would_meet_the_blade_and_each_end_goes_by_itself() -> None:
    plan = changed(quick(spacer()), spacer(), {"change": "hand-over", "machine": "lathe-both"})
    found = [f for f in evaluate(plan, spacer(), LIB).findings if f.code == "counter-meets-blade"]
    assert [f.setup for f in found] == ["S2"]


def test_what_no_longer_goes_over_is_said_and_taken_apart() -> None:
    change = {"change": "set-fixture", "setup": "S1", "fixture": "chuck-200"}
    plan = changed(hub("lathe-counter"), demo_part("vane-hub"), change)
    (found,) = (f for f in ledger(plan).findings if f.code == "not-as-arranged")
    assert "Nothing cuts the piece of setup S1 off a bar" in found.why


def codes(machine: Machine, **facing: object) -> list[str]:
    counter = machine.work_spindles[1]
    assert counter.facing is not None
    narrower = replace(counter, facing=replace(counter.facing, **facing))
    one = load(hub("lathe-both")).where
    first, second = ((p.decision, p.built) for p in one.placed)
    found = handover_findings("L1", first, second, replace(machine, work_spindles=(machine.work_spindles[0], narrower)))
    return [f.code for f in found]


def test_counter_spindle_that_does_not_come_so_near_is_found() -> None:
    assert TWO is not None
    assert codes(TWO) == []
    assert codes(TWO, travel=(400.0, 960.0)) == ["counter-short"]


def test_turret_that_cannot_get_out_of_its_way_is_found() -> None:
    assert TWO is not None
    one = load(hub("lathe-both")).where
    first, second = ((p.decision, p.built) for p in one.placed)
    near = replace(second[1], stands=replace(second[1].stands, room=90.0))
    assert [f.code for f in handover_findings("L1", first, (second[0], near), TWO)] == ["counter-meets-turret"]


# ---- machine, program, papers


def test_z_counts_out_of_the_spindle_that_is_meant() -> None:
    assert ONE is not None
    faced = ONE.faced()
    assert faced.travel[2] == (0.0, 860.0)
    assert (faced.counter, faced.nose, ONE.nose) == (None, 860.0, None)
    text = "%\nO1\nG21 G90\nM71\nG0 X100. Z100.\nM72\nG0 Z700.\nG0 Z100.\nM71\nG0 Z100.\nM30\n%\n"
    run = run_program(text, ONE, Setting(counter=CODES))
    # 100 before the main spindle is 760 before the other; its 100 is 760 of the main one's
    assert [(s.start[2], s.end[2], s.spindle) for s in run.steps] == [
        (0.0, 100.0, 0), (760.0, 700.0, 1), (700.0, 100.0, 1), (760.0, 100.0, 0)
    ]  # fmt: skip


@pytest.mark.parametrize(("words", "code"), [("G0 W100.", "past-slide"), ("G0 X10. W300.", "slide-alone"),
                                             ("G1 W300.", "no-feed")])  # fmt: skip
def test_slide_is_moved_by_itself_within_its_travel_at_a_feed(words: str, code: str) -> None:
    assert ONE is not None
    with pytest.raises(ProgramError) as refused:
        run_program(f"%\nO1\n{words}\nM30\n%\n", ONE, Setting(counter=CODES))
    assert (refused.value.code, refused.value.place) == (code, "line 3")


FILE = {
    "format": "lean-ledger/machine@1", "name": "a lathe", "kind": "lathe",
    "travel": {"x": [0, 200], "y": [0, 0], "z": [0, 500]}, "rapid": {"x": 1, "y": 1, "z": 1},
    "acceleration": {"x": 1, "y": 1, "z": 1}, "tool_change": 1, "tool_pockets": 8, "corner_tolerance": 0.01,
    "rotary": None, "tilt": None, "spindle": {"max_rpm": 1, "start": 1, "power": 1, "torque": [[0, 1]]},
    "offsets": "basic", "mounts": [{"name": "nose", "at": [0, 0, 0], "rotation": [0, 0, 0]},
                                   {"name": "other", "at": [0, 0, 500], "rotation": [0, 180, 0]}],
}  # fmt: skip
COUNTER = {
    "mount": "other", "spindle": FILE["spindle"], "rotary": None, "travel": [100, 500], "rapid": 1000,
    "acceleration": 100, "synchronise": 1, "close": 1, "eject": 1,
}  # fmt: skip


def test_machine_file_with_a_counter_spindle_is_read() -> None:
    machine = parse_machine(json.dumps(FILE | {"counter_spindle": COUNTER}))
    assert machine.axes == "lathe with a counter spindle"
    assert machine.counter is not None


@pytest.mark.parametrize(
    ("row", "counter", "place"),
    [({}, {"mount": "nose"}, "counter_spindle.mount"), ({}, {"travel": [100, 480]}, "counter_spindle.travel"),
     ({"kind": "mill"}, {}, "counter_spindle"), ({}, {"eject": -1}, "counter_spindle.eject")],
)  # fmt: skip
def test_counter_spindle_that_faces_nothing_is_refused_with_its_place(
    row: dict[str, object], counter: dict[str, object], place: str
) -> None:
    with pytest.raises(ProblemError) as refused:
        parse_machine(json.dumps(FILE | row | {"counter_spindle": COUNTER | counter}))
    assert refused.value.place == place


def test_sheet_says_which_spindle_and_tools_stand_the_other_way() -> None:
    plan, part = with_driven(), demo_part("vane-hub")
    job = JobWords("VH-333", "Wind vane hub", "A", "Hochwart Wind Vanes")
    first, second = setup_sheet(job, ledger(plan), part, 1, date(2027, 2, 26)).setups
    assert dict(first.fixture)["main spindle"].startswith("for S2 the counter spindle takes it over")
    assert dict(second.fixture)["counter spindle"].startswith("takes it over from S1")
    tools = {call.operation.tool.id for call in load(plan).timeline.lanes[1].calls}
    assert all(id.endswith("#c") for id in tools)
    assert not tools & {call.operation.tool.id for call in load(plan).timeline.lanes[0].calls}
