"""Loads, the life of tools, what stops an operation, what is most worth working on: by hand and against the plan."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from functools import cache

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.alike import alike
from lean_ledger.core.operations.cutting.forces import bent, edge_force, load_of
from lean_ledger.core.operations.cutting.wear import ToolUse, life_minutes, tool_uses
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.pace import Worth, cheapest_pace, limits_of, paced, worth_working_on
from lean_ledger.core.pace.limits import Limits
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import OperationEdit, Plan
from lean_ledger.library import shipped_library
from lean_ledger.library.types import CuttingData, Tool
from tests.conftest import demo_part, quick, quick_ledger
from tests.core.test_turning import on_lathe
from tests.values import machine_with

LIB = shipped_library()
LID = "gear-housing-lid"


@cache
def lid(material: str = "al-6082") -> tuple[Part, Ledger]:
    part = demo_part(LID)
    return part, evaluate(quick(part, material, (500,)), part, LIB)


def of_kind(ledger: Ledger, kind: OperationKind) -> Operation:
    return next(op for op in ledger.operations if op.kind == kind)


def data_of(ledger: Ledger, op: Operation) -> CuttingData:
    data = LIB.data(op.tool, ledger.material)
    assert data is not None
    return data


def tool(id: str) -> Tool:
    found = LIB.tool(id)
    assert found is not None
    return found


# ---- life


def test_life_falls_with_speed_and_feed() -> None:
    data = replace(data_of(lid()[1], lid()[1].operations[0]), life_minutes=100.0, life_vc=4.0, life_fz=1.5)
    assert data.life_at(1.0, 1.0) == 100
    assert data.life_at(1.2, 1.0) == pytest.approx(100 / 2.0736)  # 1.2⁴
    assert data.life_at(1.0, 1.44) == pytest.approx(100 / 1.728)  # 1.44^1.5
    assert data.life_at(0.5, 1.0) == 400, "four times at the most, not sixteen"


@given(st.floats(0.8, 1.4), st.floats(0.8, 1.4), st.floats(1.001, 1.3))
def test_life_never_grows_with_speed_or_feed(speed: float, feed: float, more: float) -> None:
    for data in LIB.cutting:
        assert data.life_at(speed * more, feed) <= data.life_at(speed, feed)
        assert data.life_at(speed, feed * more) <= data.life_at(speed, feed)


def test_tools_of_a_batch_by_hand() -> None:
    use = ToolUse(tool("EA12"), ("a",), minutes=1.3, share=0.013)
    assert use.life == pytest.approx(100)
    assert use.pieces == pytest.approx(76.92, abs=0.01)
    assert use.cost == pytest.approx(0.013 * 55)
    assert (use.used_up(76), use.used_up(77), use.used_up(100)) == (1, 2, 2)
    assert use.changes(100) == 1
    assert ToolUse(tool("EA12"), (), 0.0, 0.0).used_up(1000) == 1


def test_tool_wear_of_a_plan_is_the_sum_of_its_tools() -> None:
    _, ledger = lid()
    uses = tool_uses(ledger.operations, LIB, ledger.material)
    assert {use.tool.id for use in uses} == {op.tool.id for op in ledger.operations}
    assert sum(use.minutes for use in uses) == pytest.approx(sum(op.time.cut for op in ledger.operations) / 60)
    assert float(ledger.problem.tooling_per_piece) == pytest.approx(sum(u.cost for u in uses), abs=1e-4)
    slow = of_kind(ledger, OperationKind.DRILL)
    # the spindle does not turn as fast as the drill could: its life is longer
    assert slow.cutting.speed < 1
    assert (life_minutes(slow, LIB, ledger.material) or 0) > data_of(ledger, slow).life_minutes


# ---- load


def test_force_of_a_mill_by_hand() -> None:
    _, ledger = lid()
    rough = of_kind(ledger, OperationKind.ROUGH_POCKET)
    cut = replace(rough.cutting, ae=2.0, ap=5.0, fz=0.05)
    # D10 z3: φ = arccos(1 − 4/10) = 53.13°, h = 0.05 · 0.8, less than one edge in cut: 800 · 5 · 0.04
    soft = replace(ledger.material, kc=800.0)
    assert edge_force(tool("EA10"), cut, soft) == pytest.approx(160)
    # a full slot: chips of fz, three edges over half a turn are 1.5 at once: 800 · 5 · 0.05 · 1.5
    assert edge_force(tool("EA10"), replace(cut, ae=10.0), soft) == pytest.approx(300)


def test_bending_of_a_mill_by_hand() -> None:
    assert bent(tool("EA10"), 100.0) == pytest.approx(0.0144, abs=1e-4)
    assert bent(tool("EA10"), 200.0) == pytest.approx(2 * bent(tool("EA10"), 100.0))
    steel = replace(tool("EA10"), material="hss")
    assert bent(steel, 100.0) == pytest.approx(bent(tool("EA10"), 100.0) * 580 / 210)
    assert bent(tool("EA3"), 100.0) > 5 * bent(tool("EA10"), 100.0)


def test_torque_is_power_over_speed_and_the_nearest_limit_is_named() -> None:
    _, ledger = lid()
    rough = of_kind(ledger, OperationKind.ROUGH_POCKET)
    machine = ledger.load_of(rough.setup).machine
    load = load_of(replace(rough, power=1.5, cutting=replace(rough.cutting, n=3000.0)), machine, ledger.material)
    assert load.torque == pytest.approx(9549 * 1.5 / 3000)
    assert load.nearest == max((("power", load.power / load.power_limit), ("torque", load.torque / load.torque_limit),
                                ("bending", load.bend / load.bend_limit)), key=lambda one: one[1])  # fmt: skip


# ---- limits


def test_speed_stops_at_the_tool_or_at_the_spindle_and_feed_at_the_nearest() -> None:
    _, ledger = lid()
    rough = of_kind(ledger, OperationKind.ROUGH_POCKET)  # Ø12 at 260 m/min: 6897 rpm of 8100
    machine, data = ledger.load_of(rough.setup).machine, data_of(ledger, rough)
    limits = limits_of(rough, machine, ledger.material, data)
    assert (limits.speed, limits.speed_stop) == (1.17, "the spindle's 8100 rpm")
    assert (limits.feed, limits.feed_stop) == (1.35, "the tool's edges")
    quick_spindle = machine_with(machine, spindle=replace(machine.spindle, max_rpm=20_000.0))
    assert limits_of(rough, quick_spindle, ledger.material, data).speed_stop == "the tool's 338 m/min"
    weak = machine_with(machine, spindle=replace(machine.spindle, power=rough.power * 1.2))
    held = limits_of(rough, weak, ledger.material, data)
    # 1.2 times the power, of which 1.17 go to the speed
    assert held.feed == 1.02
    assert held.feed_stop == "the spindle's power at 8069 rpm"
    long = replace(rough, tool=replace(rough.tool, reach=120.0))
    assert limits_of(long, machine, ledger.material, data).feed_stop == "the mill bends 0.1 mm"


def test_tap_s_feed_is_its_pitch() -> None:
    part = demo_part(LID)
    hole = next(f for f in part.features if f.kind == "hole" and abs(f.diameter - 5.0) < 0.06)
    plan = quick(part)
    threaded = {"change": "set-thread", "diameter": hole.diameter, "thread": "M6"}
    ledger = evaluate(read_change(threaded).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))[0], part, LIB)
    tap = of_kind(ledger, OperationKind.TAP)
    limits = limits_of(tap, ledger.load_of(tap.setup).machine, ledger.material, data_of(ledger, tap))
    assert (limits.feed, limits.feed_stop) == (1.0, "a tap feeds its pitch")
    assert limits.speed == 1.22  # 22 of 18 m/min


# ---- tried out


def changed(plan: Plan, part: Part, **values: object) -> Ledger:
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    there, _ = read_change({"change": "edit-operation", **values}).apply(plan, scene)
    return evaluate(there, part, LIB)


def test_pace_that_is_tried_is_what_the_change_makes() -> None:
    part, ledger = lid()
    rough = of_kind(ledger, OperationKind.ROUGH_POCKET)
    tried = paced(ledger, part, LIB, rough.id, 1.1, 1.2)
    there = changed(ledger.plan, part, operation=rough.id, speed=1.1, feed=1.2)
    after = next(op for op in there.operations if op.id == rough.id)
    assert tried.after.n == pytest.approx(1.1 * rough.cutting.n)
    assert tried.after.vf == pytest.approx(1.32 * rough.cutting.vf)
    assert after.cutting.vf == tried.after.vf
    assert tried.after.per_piece == there.per_piece
    assert tried.after.each == there.prices[0].each
    assert tried.before.per_piece == ledger.per_piece
    assert tried.after.life == pytest.approx(tried.before.life / (1.1**4 * 1.2**1.5))
    # what is cut at feed takes its share of the time, less what starting and stopping keep
    assert after.time.nominal_cut == pytest.approx(rough.time.nominal_cut / 1.32)


def test_turned_cut_keeps_its_surface_speed_at_the_pace() -> None:
    part = demo_part("vane-hub")
    plan = on_lathe(part)
    ledger = evaluate(plan, part, LIB)
    rough = of_kind(ledger, OperationKind.ROUGH_TURN)
    there = changed(plan, part, operation=rough.id, speed=1.2, feed=1.25)
    after = next(op for op in there.operations if op.id == rough.id)
    assert rough.motion.spin is not None
    assert after.motion.spin is not None
    assert after.motion.spin.vc == pytest.approx(1.2 * rough.motion.spin.vc)
    assert after.motion.spin.per_turn == pytest.approx(1.25 * rough.motion.spin.per_turn)
    assert after.time.cut < rough.time.cut


def test_pace_that_a_tool_does_not_stand_is_refused_and_hand_values_are_warned_of() -> None:
    part, ledger = lid()
    rough = of_kind(ledger, OperationKind.ROUGH_POCKET)
    with pytest.raises(PlanError, match=r"speed is 140 % of the usual; End mill 12 z3 stands 50 to 130 %"):
        changed(ledger.plan, part, operation=rough.id, speed=1.4)
    with pytest.raises(PlanError, match=r"feed is 150 % of the usual"):
        changed(ledger.plan, part, operation=rough.id, feed=1.5)
    by_hand = changed(ledger.plan, part, operation=rough.id, vf=1.6 * rough.cutting.vf)
    (found,) = (f for f in by_hand.findings if f.code == "feed-beyond-tool")
    assert "at 160 % of its usual feed" in found.title
    cured, _ = read_change(found.cures[0].change).apply(by_hand.plan, Scene(part, LIB, by_hand))
    assert "feed-beyond-tool" not in {f.code for f in evaluate(cured, part, LIB).findings}


def test_cap_of_a_turned_cut_stays_and_a_share_below_0_is_refused() -> None:
    part = demo_part("vane-hub")
    plan = on_lathe(part)
    ledger = evaluate(plan, part, LIB)
    rough = of_kind(ledger, OperationKind.ROUGH_TURN)
    slow = changed(plan, part, operation=rough.id, n=900.0)
    tried = paced(slow, part, LIB, rough.id, 1.2, 1.3)
    assert tried.after.n <= 900, "the chuck turns no faster for it"
    assert tried.after.vf > tried.before.vf
    # an operation that the plan makes no longer has edits still, which are checked too
    gone = replace(plan, edits=(OperationEdit("S1.gone", n=100.0),))
    for name in ("speed", "feed"):
        for value in (-1.0, 0.0, float("nan")):
            with pytest.raises(PlanError, match=r"must be (0 or )?from 0\.0"):
                changed(gone, part, operation="S1.gone", **{name: value})


# ---- what is most worth working on


def test_cheapest_pace_by_hand() -> None:
    _, ledger = lid()
    rough = of_kind(ledger, OperationKind.ROUGH_POCKET)
    op = replace(rough, time=replace(rough.time, cut=60.0))
    data = replace(data_of(ledger, rough), life_vc=4.0, life_fz=1.5)
    free = Limits(1.3, "", 1.3, "")
    # 60 s at 60 an hour are 1.00; f at its limit, then 1/(1.3·s) + 0.25·s³·1.3^0.5 is least where s⁴ = 0.9: s = 0.97
    assert cheapest_pace(op, free, data, 60 / 3600, 0.25) == (0.95, 1.3)
    # wear that costs nothing: as fast as it goes; wear that is all: as slow
    assert cheapest_pace(op, free, data, 60 / 3600, 0.0) == (1.3, 1.3)
    assert cheapest_pace(op, free, data, 60 / 3600, 50.0)[0] == 0.7


@cache
def worth_of_lid() -> tuple[Worth, ...]:
    part, ledger = lid()
    return worth_working_on(ledger, part, LIB)


@cache
def worth_of_plate() -> tuple[Part, Ledger, tuple[Worth, ...]]:
    part = demo_part("sensor-base-plate")
    ledger = evaluate(quick(part, "steel-c45"), part, LIB)
    return part, ledger, worth_working_on(ledger, part, LIB)


def test_entries_worth_working_on_gain_what_they_say() -> None:
    part, ledger = lid()
    entries = worth_of_lid()
    assert 5 <= len(entries) <= 10
    assert [e.money for e in entries] == sorted((e.money for e in entries), reverse=True)
    for entry in entries:
        plan, _ = read_change(entry.change).apply(ledger.plan, Scene(part, LIB, ledger))
        there = evaluate(plan, part, LIB)
        assert ledger.per_piece - there.per_piece == pytest.approx(entry.saving)
        assert ledger.prices[0].each - there.prices[0].each == entry.each
        if entry.cheapest is not None:
            assert entry.cheapest.each >= entry.each
            assert entry.cheapest.each > Decimal(0)


def test_one_tool_fewer_is_among_what_is_worth_working_on() -> None:
    """A countersink that the smaller chamfer mill makes as well: a change and a tool to set up are spared."""
    part, ledger, entries = worth_of_plate()
    fewer = [w for w in entries if w.change["change"] == "take-values"]
    assert any("Chamfer mill 16" in w.title and "Chamfer mill 6" in w.stop for w in fewer)
    for entry in fewer:
        plan, _ = read_change(entry.change).apply(ledger.plan, Scene(part, LIB, ledger))
        there = evaluate(plan, part, LIB)
        assert sum(len(s.built.operations) for s in there.loads) == len(ledger.operations)
        assert ledger.per_piece - there.per_piece == pytest.approx(entry.saving)
        assert ledger.prices[0].each - there.prices[0].each == entry.each > 0
        assert len(there.findings) <= len(ledger.findings)


def test_calling_each_tool_once_is_worth_working_on() -> None:
    _, _, entries = worth_of_plate()
    grouped = next(e for e in entries if e.change["change"] == "group-by-tool")
    assert grouped.title == "14 tool calls where 11 do"
    assert grouped.saving > 15


def test_what_runs_at_its_limit_is_worth_no_more() -> None:
    part, ledger = lid()
    first = next(e for e in worth_of_lid() if e.operation)
    plan, _ = read_change(first.change).apply(ledger.plan, Scene(part, LIB, ledger))
    again = worth_working_on(evaluate(plan, part, LIB), part, LIB)
    assert first.operation not in {e.operation for e in again}


# ---- the same for all alike


def test_what_is_set_for_one_is_taken_for_all_of_its_sort() -> None:
    part = demo_part("sensor-base-plate")
    ledger = quick_ledger(part)
    slots = [op for op in ledger.operations if op.kind == OperationKind.ROUGH_POCKET and op.features[0].startswith("G")]
    assert len(slots) == 2
    assert [op.id for op in alike(slots[0], ledger.operations, part)] == [slots[1].id]
    with pytest.raises(PlanError, match="nothing is set by hand"):
        read_change({"change": "same-for-alike", "operation": slots[0].id}).apply(ledger.plan, Scene(part, LIB, ledger))
    plan = ledger.plan
    for change in (
        {"change": "edit-operation", "operation": slots[0].id, "feed": 1.2, "passes": 3},
        {"change": "same-for-alike", "operation": slots[0].id},
    ):
        plan, words = read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))
    assert words.endswith("the same for 1 other of its sort")
    there = {op.id: op for op in evaluate(plan, part, LIB).operations}
    assert there[slots[0].id].cutting == there[slots[1].id].cutting
    assert there[slots[1].id].cutting.passes == 3
    pocket = next(op for op in ledger.operations if op.id.endswith("P1.rough-pocket"))
    assert there[pocket.id].cutting == pocket.cutting, "another size is of another sort"
    faster = {"change": "edit-operation", "operation": pocket.id, "feed": 1.1}
    alone, _ = read_change(faster).apply(ledger.plan, Scene(part, LIB, ledger))
    same = read_change({"change": "same-for-alike", "operation": pocket.id})
    with pytest.raises(PlanError, match="no other operation is of the sort"):
        same.apply(alone, Scene(part, LIB, ledger))
