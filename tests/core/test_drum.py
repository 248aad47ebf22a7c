"""A bar automatic with a drum of spindles: which position makes what, what sets the pace, all programs together."""

from __future__ import annotations

import json
from dataclasses import replace
from functools import cache
from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Polygon
from shapely.ops import unary_union

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.files.machine_file import parse_machine
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.drum import DrumFinder, SpreadProblem, by_position, finder_of, pieces_an_hour, spread
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.parts import _ends, in_parts, most_parts
from lean_ledger.core.loads.runs import Selection, filling_seconds
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Plan
from lean_ledger.core.program.checked import checked_part, checked_programs
from lean_ledger.library import Library, shipped_library
from tests.conftest import demo_part, quick
from tests.core.test_handover import FILE

LIB = shipped_library()
FACE, ROUGH, FINISH, GROOVE, SPOT, DRILL, BORE, BLADE = (
    f"S1.{id}"
    for id in (
        "end.face-in-the-lathe", "outside.rough-turn", "outside.finish-turn", "T4.groove", "H1.spot", "H1.drill",
        "H1.bore", "end.cut-off",
    )
)  # fmt: skip


def changed(plan: Plan, *changes: dict[str, object], library: Library = LIB) -> Plan:
    part = demo_part("guide-bush")
    for change in changes:
        plan, _ = read_change(change).apply(plan, Scene(part, library, evaluate(plan, part, library)))
    return plan


@cache
def bush(left: float = 0.0) -> Plan:
    """All at the first position but the cut that parts it."""
    return changed(
        quick(demo_part("guide-bush"), quantities=(2000,)),
        {"change": "set-stock", "form": "round bar"}, {"change": "set-stock", "sizing": "next size up"},
        {"change": "move-to-machine", "machine": "drum-six"},
        {"change": "set-cut-off", "setup": "S1", "left": left},
        {"change": "set-allowance", "side": "Z-", "value": 4.0 + left},
        {"change": "set-fixture", "setup": "S1", "fixture": "bar-collet-65"},
        {"change": "set-buy", "buy": "bar"},
        {"change": "remove-setup", "setup": "S2"},
    )  # fmt: skip


@cache
def shared_out() -> Plan:
    return changed(bush(), {"change": "spread-out", "load": "L1"})


def ledger(plan: Plan, library: Library = LIB) -> Ledger:
    return evaluate(plan, demo_part("guide-bush"), library)


def load(plan: Plan) -> LoadLedger:
    return ledger(plan).loads[0]


def finder(plan: Plan, library: Library = LIB) -> DrumFinder:
    found = finder_of(ledger(plan, library).loads[0])
    assert isinstance(found, DrumFinder)
    return found


# ---- the spread by itself


def test_spread_by_hand() -> None:
    """Turning 5 and 3 from the side, drilling 4 and 2 from the end, spot before drill; the cut of 3 in the last of two.

    Both slides at once: 5 and the cut cannot share a position better than 5 | 3 + 3; one after the other 17 in two: 9.
    """
    problem = SpreadProblem(
        {"rough": 5.0, "groove": 3.0, "drill": 4.0, "spot": 2.0, "cut": 3.0},
        {"rough": "cross", "groove": "cross", "drill": "end", "spot": "end", "cut": "cross"},
        {id: id for id in ("rough", "groove", "drill", "spot", "cut")},
        (("spot", "drill"), ("rough", "cut"), ("groove", "cut"), ("drill", "cut")), ("cut",), 2, 2,
    )  # fmt: skip
    assert spread(problem, at_once=True)[1:] == (6.0, True)
    where, fullest, _ = spread(problem, at_once=False)
    assert fullest == 9.0
    assert where["spot"] <= where["drill"]
    assert where["cut"] == 2
    with pytest.raises(PlanError, match="5 tools do not go onto the slides of 2 positions"):
        spread(replace(problem, tools=1), at_once=True)


OPS = st.lists(
    st.tuples(st.integers(1, 9), st.sampled_from(["cross", "end"]), st.sampled_from("AB")), min_size=2, max_size=5
)


@settings(max_examples=15)
@given(OPS, st.integers(1, 3), st.integers(1, 2), st.booleans(), st.data())
def test_spread_is_the_least_of_all_that_are_allowed(
    ops: list[tuple[int, str, str]], positions: int, tools: int, at_once: bool, data: st.DataObject
) -> None:
    ids = [f"o{k}" for k in range(len(ops))]
    pairs = [(a, b) for k, a in enumerate(ids) for b in ids[k + 1 :]]
    before = tuple(data.draw(st.lists(st.sampled_from(pairs), max_size=3)))
    problem = SpreadProblem(
        {id: float(op[0]) for id, op in zip(ids, ops, strict=True)},
        {id: op[1] for id, op in zip(ids, ops, strict=True)},
        {id: f"{op[1]} {op[2]}" for id, op in zip(ids, ops, strict=True)}, before, ids[-1:] and (ids[-1],), positions,
        tools,
    )  # fmt: skip

    def fullest(at: dict[str, int]) -> float | None:
        """By the rules as they are told; None where they are broken."""
        if any(at[a] > at[b] for a, b in before) or at[ids[-1]] != positions:
            return None
        most = 0.0
        for p in range(1, positions + 1):
            there = [id for id in ids if at[id] == p]
            by_slide = [[id for id in there if problem.slide[id] == slide] for slide in ("cross", "end")]
            if any(len({problem.tool[id] for id in own}) > tools for own in by_slide):
                return None
            sums = [sum(problem.seconds[id] for id in own) for own in by_slide]
            most = max(most, max(sums) if at_once else sum(sums))
        return most

    every = (dict(zip(ids, at, strict=True)) for at in product(range(1, positions + 1), repeat=len(ids)))
    able = [found for at in every if (found := fullest(at)) is not None]
    if not able:
        with pytest.raises(PlanError, match="do not go onto"):
            spread(problem, at_once=at_once)
        return
    where, least, proven = spread(problem, at_once=at_once)
    assert proven
    assert least == min(able)
    assert fullest(where) == least


# ---- the bush


def test_slowest_position_and_the_index_are_the_cycle_and_the_others_wait() -> None:
    one = load(shared_out())
    positions = dict(by_position(one))
    assert one.cycle == pytest.approx(max(positions.values()))
    drum = one.machine.drum
    assert drum is not None
    for lane, slide in zip(one.timeline.lanes, one.machine.carriages, strict=True):
        if lane.calls:
            own = sum(call.total for call in lane.calls)
            fed = drum.feed if slide.position == drum.positions else 0.0
            assert lane.end == pytest.approx(one.cycle)
            assert own + lane.back["rapid"] + drum.index + fed + lane.waiting == pytest.approx(one.cycle)
    assert one.cycle < load(bush()).cycle / 2
    assert one.load_seconds == 0.0
    # 3600 s of which 85 % run
    assert pieces_an_hour(one, 0.85) == pytest.approx(3060 / one.cycle)
    # six spindles: the first piece comes with the sixth cycle
    assert filling_seconds(one) == pytest.approx(5 * one.cycle)


def test_all_slides_run_together_on_the_simulated_machine() -> None:
    programs = checked_programs(ledger(shared_out()), demo_part("guide-bush"), "bush")
    assert len(programs) == 7
    for one in programs:
        assert abs(one.agreement.difference) < 1e-4
        assert one.troubles == ()
        assert one.run.total == pytest.approx(load(shared_out()).cycle, rel=1e-4)
        before, index, end = _last_three(one.program.text)
        assert (before.split()[0], index, end) == ("M599", "M80", "M30")


def _last_three(text: str) -> list[str]:
    lines = text.split("\n")
    end = lines.index("M30")
    return lines[end - 2 : end + 1]


def test_two_slides_of_a_position_wait_for_one_another_and_of_others_for_nobody() -> None:
    """The groove is cut across and the spot drilled from the end: at other speeds, so one after the other."""
    plan = changed(shared_out(), {"change": "set-carriage", "load": "L1", "operation": SPOT, "carriage": "end 2"},
                   {"change": "set-carriage", "load": "L1", "operation": GROOVE, "carriage": "cross 2"})  # fmt: skip
    one = load(plan)
    met = {carriage for mark in one.timeline.marks for carriage, _ in mark.after}
    assert met == {"cross 2", "end 2"}
    for program in checked_programs(ledger(plan), demo_part("guide-bush"), "bush"):
        assert abs(program.agreement.difference) < 1e-4
        assert program.troubles == ()


def test_proving_out_runs_some_positions_only() -> None:
    made = checked_part(ledger(shared_out()), demo_part("guide-bush"), "bush", "L1", Selection(positions=(1, 6)))
    assert [one.program.carriage for one in made] == ["cross 1", "cross 6"]
    assert all(abs(one.agreement.difference) < 1e-4 for one in made)
    assert Selection(positions=(1, 6)).words == "only position 1, 6"
    # one slide alone waits for nobody
    (alone,) = checked_part(ledger(shared_out()), demo_part("guide-bush"), "bush", "L1", Selection(positions=(6,)))
    assert alone.troubles == ()
    assert "M599" not in alone.program.text


def test_speed_is_shared_at_one_position_only() -> None:
    with pytest.raises(PlanError, match="turn in two spindles"):
        changed(shared_out(), {"change": "share-speed", "load": "L1", "operations": [DRILL, FINISH]})


def test_search_is_between_its_bound_and_the_spread() -> None:
    found = finder(shared_out())
    best = found.best(5)
    assert found.bound <= best.cycle + 1e-6
    assert best.cycle <= load(shared_out()).cycle + 1e-6
    assert best.one_by_one > 2 * best.cycle


def test_search_on_two_positions_finds_what_trying_all_does() -> None:
    machine = LIB.machine("drum-six")
    assert machine is not None
    assert machine.drum is not None
    slides = tuple(replace(one, pockets=4) for one in machine.carriages[:4])
    small = replace(machine, carriages=slides, drum=replace(machine.drum, positions=2, tools=4))
    library = replace(LIB, machines=tuple(small if one is machine else one for one in LIB.machines))
    found = finder(bush(), library)
    free = [id for id in found.operations if id != BLADE]
    names = {"cross": ("cross 1", "cross 2"), "end": ("end 1", "end 2")}
    sides = {id: found._slides[found._usual(id)].slide for id in free}
    least = min(
        found.seconds(replace(found.now, on=tuple(
            (id, one) for id, one in zip(free, at, strict=True) if one != found._usual(id))))
        for at in product(*(names[sides[id]] for id in free))
    )  # fmt: skip
    assert found.best(20).cycle <= least + 1e-6


# ---- in parts


def whole(id: str) -> Operation:
    return next(op for op in load(bush()).built.operations if op.id == id)


def test_drill_in_parts_goes_on_where_the_part_before_left_off() -> None:
    op = whole(DRILL)
    cycle = op.motion.cycle
    assert cycle is not None
    deep = replace(op, motion=replace(op.motion, cycle=replace(cycle, r=2.0, bottom=-38.0, peck=0.0, code=81)))
    machine = load(bush()).machine
    one, two = (part.motion.cycle for part in in_parts([deep], [(DRILL, 2)], machine))
    assert one is not None
    assert two is not None
    assert (one.r, one.bottom) == (2.0, -18.0)
    assert (two.r, two.bottom) == (-17.0, -38.0)


def test_parts_of_a_roughing_have_the_passes_that_cut_as_far_and_take_all_of_it() -> None:
    assert _ends([4.0, 2.0, 1.0, 1.0], 2) == [1, 4]
    assert _ends([1.0, 1.0, 1.0], 3) == [1, 2, 3]
    machine = load(bush()).machine
    for id in (ROUGH, BORE):
        op = whole(id)
        if most_parts(op) < 2:
            continue
        parts = in_parts([op], [(id, 2)], machine)
        assert [part.id for part in parts] == [id, f"{id}~2"]
        assert parts[1].after[-1] == (id, "its parts come one after the other")
        assert sum(part.time.cut for part in parts) == pytest.approx(op.time.cut, rel=0.02)
        taken = [unary_union([Polygon(ring) for ring in part.motion.turned]) for part in parts]
        every = unary_union([Polygon(ring) for ring in op.motion.turned])
        assert unary_union(taken).area == pytest.approx(every.area, rel=1e-4)
        # all down to its own depth: nothing stays where two of them meet
        assert taken[0].difference(taken[1]).area == pytest.approx(0, abs=1e-3)
        assert taken[1].area > taken[0].area + 1
    assert most_parts(whole(BORE)) > 1
    assert [most_parts(whole(id)) for id in (SPOT, FINISH, GROOVE, BLADE)] == [1, 1, 1, 1]


def test_what_waits_for_an_operation_waits_for_its_last_part() -> None:
    ops = in_parts(load(bush()).built.operations, [(DRILL, 2)], load(bush()).machine)
    bore = next(op for op in ops if op.id == BORE)
    assert {DRILL, f"{DRILL}~2"} <= {before for before, _ in bore.after}


def test_split_drill_is_quicker_at_each_position_and_leaves_the_part_as_it_was() -> None:
    part = demo_part("guide-bush")
    plan = changed(shared_out(), {"change": "split-operation", "load": "L1", "operation": DRILL, "parts": 2})
    made = ledger(plan)
    assert made.findings == ()
    (one, two) = (c for c in made.loads[0].timeline.calls if c.operation.id.startswith(DRILL))
    assert one.carriage != two.carriage
    assert stock_findings(part, made, followed(course_of(part, made))) == []
    for program in checked_programs(made, part, "bush"):
        assert abs(program.agreement.difference) < 1e-4
        assert program.troubles == ()
    with pytest.raises(PlanError, match="holds for all parts"):
        changed(plan, {"change": "edit-operation", "operation": f"{DRILL}~2", "n": 2000})
    with pytest.raises(PlanError, match="goes into 2 at the most"):
        changed(plan, {"change": "split-operation", "load": "L1", "operation": DRILL, "parts": 3})
    back = changed(plan, {"change": "split-operation", "load": "L1", "operation": DRILL, "parts": 1})
    assert load(back).cycle == pytest.approx(load(shared_out()).cycle)


def test_gain_of_a_split_is_what_the_cycle_then_has() -> None:
    slow = changed(shared_out(), {"change": "edit-operation", "operation": DRILL, "n": 2000, "vf": 150})
    id, parts, saves, _ = finder(slow).split_gains()[0]
    assert (id, parts) == (DRILL, 2)
    split = changed(slow, {"change": "split-operation", "load": "L1", "operation": id, "parts": parts})
    assert load(slow).cycle - load(split).cycle == pytest.approx(saves)


# ---- what is wrong


def codes(plan: Plan) -> list[str]:
    return [f.code for f in ledger(plan).findings]


def test_slide_with_two_tools_is_found_and_spreading_mends_it() -> None:
    assert "slide-full" in codes(bush())
    assert codes(shared_out()) == []


def on(*pairs: tuple[str, str]) -> Plan:
    one = ledger(shared_out()).plan.loads[0]
    kept = tuple(pair for pair in one.carriage_of if pair[0] not in dict(pairs))
    return shared_out().with_load(replace(one, carriage_of=(*kept, *pairs)))


def test_what_comes_too_early_is_found_and_spreading_mends_it() -> None:
    assert codes(on((DRILL, "end 1"), (SPOT, "end 2"))) == ["too-early"]


def test_cut_before_the_last_position_is_found_and_spreading_mends_it() -> None:
    assert set(codes(on((BLADE, "cross 5")))) == {"cut-off-early"}


def test_tool_on_the_wrong_slide_is_refused_and_found_and_spreading_mends_it() -> None:
    with pytest.raises(PlanError, match="works across the spindle"):
        changed(shared_out(), {"change": "set-carriage", "load": "L1", "operation": DRILL, "carriage": "cross 3"})
    assert "wrong-slide" in codes(on((DRILL, "cross 3")))


def test_spread_asks_for_a_drum() -> None:
    plan = changed(bush(), {"change": "move-to-machine", "machine": "lathe-twin"})
    with pytest.raises(PlanError, match="has no drum"):
        changed(plan, {"change": "spread-out", "load": "L1"})


def test_blade_makes_the_end_where_nothing_is_left_to_face() -> None:
    (blade,) = (op for op in load(bush()).built.operations if op.id == BLADE)
    assert blade.features == ("T3",)
    assert blade.name.endswith("its end as the blade leaves it")
    left = ledger(bush(0.3))
    (blade,) = (op for op in left.loads[0].built.operations if op.id == BLADE)
    assert blade.features == ()
    assert "no-operation" in [f.code for f in left.findings]


DRUM = {
    "positions": 4, "index": 0.8, "feed": 1, "tools": 2,
    "end_slide": {key: FILE[key] for key in ("travel", "rapid", "acceleration")},
}  # fmt: skip


def test_machine_file_with_a_drum_is_read() -> None:
    machine = parse_machine(json.dumps(FILE | {"drum": DRUM}))
    assert machine.axes == "bar automatic, 4 spindles"
    assert [one.id for one in machine.carriages[:3]] == ["cross 1", "end 1", "cross 2"]
    assert {one.pockets for one in machine.carriages} == {2}


@pytest.mark.parametrize(
    ("row", "place"),
    [({"drum": DRUM | {"positions": 0}}, "drum.positions"), ({"drum": DRUM, "kind": "mill"}, "drum"),
     ({"drum": DRUM, "further_carriages": []}, "further_carriages")],
)  # fmt: skip
def test_drum_that_cannot_be_is_refused_with_its_place(row: dict[str, object], place: str) -> None:
    with pytest.raises(ProblemError) as refused:
        parse_machine(json.dumps(FILE | row))
    assert refused.value.place == place
