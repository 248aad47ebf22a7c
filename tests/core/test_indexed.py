"""Setups that a rotary turns: which way each feature is cut from, what turns and how long, what is left to hold by."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.geometry.vectors import cross, dot, norm
from lean_ledger.core.holding.placement import Seat
from lean_ledger.core.holding.standing import STRAIGHT, Standing
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.between import Stop, index_seconds
from lean_ledger.core.loads.travel import travel_findings
from lean_ledger.core.operations.model import HOME, Operation
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Plan, SetupDecision, Zero, alone
from lean_ledger.core.setups.frame import frame_of
from lean_ledger.core.setups.propose import divided
from lean_ledger.core.setups.ways import directions, way, way_of
from lean_ledger.library import shipped_library
from lean_ledger.library.machines import Machine
from tests.conftest import built, demo_part, quick
from tests.values import changed, in_setups, machine_with

LIB = shipped_library()
ROTARY = next(m for m in LIB.machines if m.id == "mill-762-rotary")
FIVE = next(m for m in LIB.machines if m.id == "mill-five")
SIDES = sorted(DIRECTIONS)


def indexed_plan(part: Part, held: float = 30.0) -> Plan:
    """Four sides in one clamping with X+ free, then the end that was held."""
    plan = quick(part)
    first = alone(SetupDecision("S1", "Z+", free="X+"), ROTARY.id)
    then = alone(SetupDecision("S2", "X-"), "mill-762")
    return replace(in_setups(plan, first, then), allowances=plan.allowances.with_side("X-", held))


@pytest.fixture(scope="module")
def carrier() -> Part:
    return demo_part("sonde-carrier")


@pytest.fixture(scope="module")
def ledger(carrier: Part) -> Ledger:
    return evaluate(indexed_plan(carrier), carrier, LIB)


# ---- ways


def test_sides_follow_one_another_by_the_least_turn() -> None:
    sides = directions(SetupDecision("S1", "Z+", free="X+"))
    assert [next(n for n, d in DIRECTIONS.items() if d == side) for side in sides] == ["Z+", "Y-", "Z-", "Y+"]
    assert directions(SetupDecision("S1", "Z+")) == (DIRECTIONS["Z+"],)
    assert len(directions(SetupDecision("S1", "Z+", free="Z+"))) == 5


@given(st.sampled_from(SIDES), st.sampled_from(SIDES), st.sampled_from([0, 90, 180, 270]))
def test_a_way_s_axes_are_right_handed_and_its_free_end_lies_along_x(free: str, up: str, turn: int) -> None:
    if free[0] == up[0]:
        return
    setup = SetupDecision("S1", up, free=free)  # type: ignore[arg-type]
    home = frame_of(free, turn)
    # the rotary's face looks along −X of the machine
    level = frame_of(up, 0)
    level = replace(level, right=tuple(-c for c in home.up), back=cross(level.up, tuple(-c for c in home.up)))  # type: ignore[arg-type]
    for d in directions(setup):
        frame = way(setup, d, home, level).frame
        assert frame.up == pytest.approx(d)
        assert cross(frame.right, frame.back) == pytest.approx(frame.up)
        assert norm(frame.right) == pytest.approx(1)
        assert dot(frame.right, home.up) == pytest.approx(-1)


def test_every_feature_is_cut_from_the_side_it_opens_to(carrier: Part) -> None:
    plan = indexed_plan(carrier)
    first = plan.setups[0]
    for feature in carrier.features:
        found = way_of(carrier, feature, first, plan.outline_axis)
        if feature.kind in ("hole", "pocket"):
            assert found in feature.access
        elif feature.direction[0] < -0.9:  # type: ignore[union-attr]
            assert found is None, "the end that is held"
        elif abs(feature.direction[0]) < 0.1:  # type: ignore[union-attr]
            assert found == feature.direction  # type: ignore[union-attr]


def test_slanted_hole_is_brought_upright_by_the_rotary() -> None:
    into = (0.0, 2**-0.5, -(2**-0.5))
    body = block((0, 0, 0), (90, 40, 40)) - rod((40, 5, 47), into, 6, 24)
    part = built(body)
    plan = indexed_plan(part)
    hole = next(f for f in part.features if f.kind == "hole")
    assert way_of(part, hole, replace(plan.setups[0], free=None), plan.outline_axis) is None
    found = way_of(part, hole, plan.setups[0], plan.outline_axis)
    assert found == pytest.approx((0, -(2**-0.5), 2**-0.5))
    made = evaluate(plan, part, LIB)
    drill = next(op for op in made.operations if op.kind == "drill")
    # −Y comes up at 90° from Z+ by the turn that the rotary makes for it, the slant at half of it
    assert drill.way.angle % 90 == pytest.approx(45)
    assert drill.motion.end[2] > drill.frame.point(hole.position)[2] - 15  # type: ignore[union-attr]


# ---- what comes of it


def test_four_sides_are_made_in_one_clamping_and_the_stub_in_a_second(ledger: Ledger, carrier: Part) -> None:
    assert [s.decision.id for s in ledger.loads] == ["S1", "S2"]
    assert not [f for f in ledger.findings if f.severity == "error"]
    first, second = ledger.loads
    assert {op.way.angle for op in first.built.operations} == {0, 90, 180, 270}
    assert first.built.hold.fixture.id == "chuck-160-four"
    assert first.built.after.walls is not None
    assert (first.built.after.walls.low, first.built.after.walls.high) == (0, 82)
    assert [op.kind for op in second.built.operations] == ["face"]
    assert second.built.hold.touches.startswith("two finished sides 36.0 apart")


def test_stock_of_an_indexed_setup_comes_out_as_the_part(ledger: Ledger, carrier: Part) -> None:
    found = followed(course_of(carrier, ledger))
    assert found.over_share == pytest.approx(0, abs=0.001)
    assert stock_findings(carrier, ledger, found) == []


def test_nothing_is_cut_where_the_part_is_held(ledger: Ledger) -> None:
    first = ledger.loads[0].built
    jaws = first.hold.frame.up  # the free end's direction
    limit = first.hold.lowest_outside_cut
    for op in first.operations:
        if op.kind == "rough pocket" and "side" in op.name:
            along = 1 if dot(op.frame.right, jaws) > 0 else -1
            radius = op.tool.diameter / 2
            lowest = min(p[0] * along for s in op.motion.strokes if not s.is_rapid for p in s.points) - radius
            assert lowest >= limit - 0.02, op.name


def test_part_held_over_its_own_length_says_how_much_stock_is_lacking(carrier: Part) -> None:
    short = evaluate(indexed_plan(carrier, held=10.0), carrier, LIB)
    found = next(f for f in short.findings if f.code == "cut-below-jaws")
    change = next(c.change for c in found.cures if c.change["change"] == "set-allowance")
    assert change["side"] == "X-"
    mended = evaluate(indexed_plan(carrier, held=change["value"]), carrier, LIB)
    assert "cut-below-jaws" not in {f.code for f in mended.findings}


def test_zero_of_an_indexed_setup_is_on_the_rotary_s_axis(ledger: Ledger, carrier: Part) -> None:
    assert ledger.zero_of(carrier, 0) == Zero("axis")
    axis = ledger.zero_place(carrier, 0).axis
    assert axis is not None
    frame = ledger.loads[0].built.home.frame
    # the free end of the part, in the middle of the square stock
    assert frame.in_part(axis.end) == pytest.approx((82, 18, 18))


def test_machine_without_a_rotary_is_a_finding_with_the_machines_that_turn(carrier: Part) -> None:
    plan = indexed_plan(carrier)
    moved = changed(plan, plan.setups[0].id, machine="mill-762")
    found = next(f for f in evaluate(moved, carrier, LIB).findings if f.code == "no-rotary")
    assert "Mill 3, travel 762, rotary" in found.why
    assert found.cures[0].change == {"change": "set-indexed", "setup": "S1", "free": None}


# ---- seconds


UPRIGHT = Standing(Seat("", (0, 0, 0), STRAIGHT), (0, 0, 0), HOME.frame, 0.0)


def turned(angle: float, tilt: float = 0.0) -> Stop:
    """Where an operation is made that the work is turned for; of its motion nothing is asked."""
    operation = Operation.__new__(Operation)
    object.__setattr__(operation, "way", replace(HOME, angle=angle, tilt=tilt))
    return Stop(operation, UPRIGHT)


def test_index_is_unclamped_turned_and_clamped() -> None:
    # 90° at 60 deg/s and 400 deg/s²: 90/60 + 60/400 = 1.65 s; clamps 0.4 + 0.6 s
    assert index_seconds(turned(0), turned(90), ROTARY) == (pytest.approx(2.65), 90)
    # 270° is not the shorter way round: 270/60 + 0.15 + 1.0
    assert index_seconds(turned(0), turned(270), ROTARY) == (pytest.approx(5.65), 270)
    assert index_seconds(turned(90), turned(90), ROTARY) == (0, 0)


def test_tilting_table_turns_both_axes() -> None:
    # rotary 90/120 + 120/900 + 0.7, tilt 90/60 + 60/500 + 1.0
    seconds, degrees = index_seconds(turned(0, 0), turned(90, 90), FIVE)
    assert seconds == pytest.approx(90 / 120 + 120 / 900 + 0.7 + 90 / 60 + 60 / 500 + 1.0)
    assert degrees == 180


def test_indexes_stand_in_the_ledger_as_a_category_of_their_own(ledger: Ledger) -> None:
    first = ledger.loads[0]
    indexed = [e for e in first.calls if e.transition.turned]
    assert first.seconds["index"] == pytest.approx(sum(e.transition.index for e in indexed))
    assert first.seconds["index"] > 5
    assert ledger.loads[1].seconds["index"] == 0
    for e in indexed:
        assert sum(e.seconds.values()) == pytest.approx(e.total)
        assert any(f.label == "index" for f in e.figures)


# ---- dividing and deciding


def on(plan: Plan, machine: Machine) -> Plan:
    return replace(plan, loads=tuple(replace(load, machine=machine.id) for load in plan.loads))


def test_division_takes_the_rotary_where_it_spares_setups(carrier: Part) -> None:
    plan = quick(carrier)
    assert len(divided(carrier, plan).clamped) == 4
    found = divided(carrier, on(plan, ROTARY), LIB)
    assert [(one.setup.up, one.setup.free) for one in found.clamped][1][1] is None
    assert found.clamped[0].setup.free in ("X+", "X-")
    assert len(found.clamped) == found.lower_bound == 2


def test_division_holds_by_the_end_that_has_stock_to_hold_by(carrier: Part) -> None:
    plan = quick(carrier)
    for end, free in (("X-", "X+"), ("X+", "X-")):
        stubbed = replace(plan, allowances=plan.allowances.with_side(end, 30.0))
        assert divided(carrier, on(stubbed, ROTARY), LIB).clamped[0].setup.free == free


def test_flat_part_gains_nothing_from_a_rotary(sensor_plate: Part) -> None:
    found = divided(sensor_plate, on(quick(sensor_plate), ROTARY), LIB)
    assert [(one.setup.up, one.setup.free) for one in found.clamped] == [("Z+", None), ("Z-", None)]


def test_tilting_table_makes_five_sides(carrier: Part) -> None:
    plan = quick(carrier)
    plan = replace(plan, loads=tuple(replace(load, machine=FIVE.id) for load in plan.loads),
                   allowances=plan.allowances.with_side("X-", 12.0))  # fmt: skip
    found = divided(carrier, plan, LIB)
    assert len(found.clamped) == 2
    made = evaluate(replace(in_setups(plan, *found.clamped), moved=found.moved), carrier, LIB)
    first = made.loads[0]
    assert first.decision.up == first.decision.free
    assert {op.way.tilt for op in first.built.operations} == {0, 90}
    assert not [f for f in made.findings if f.severity == "error" and f.code != "grip-low-share"]


def test_setup_is_indexed_on_a_machine_that_can(carrier: Part) -> None:
    plan = quick(carrier)
    scene = Scene(carrier, LIB, evaluate(plan, carrier, LIB))
    change = read_change({"change": "set-indexed", "setup": "S1", "free": "X+"})
    with pytest.raises(PlanError, match="does not index a part; these do: Mill 3"):
        change.apply(plan, scene)
    able = changed(plan, plan.setups[0].id, machine=ROTARY.id)
    turned_plan, words = change.apply(able, scene)
    assert words == "setup S1: indexed, X+ stands free"
    assert (turned_plan.setups[0].up, turned_plan.setups[0].free) == ("Z+", "X+")
    with pytest.raises(PlanError, match="a side square to X"):
        read_change({"change": "set-up", "setup": "S1", "up": "X-"}).apply(turned_plan, scene)
    back, words = read_change({"change": "set-indexed", "setup": "S1", "free": None}).apply(turned_plan, scene)
    assert words == "setup S1: from Z+ only"
    assert back.setups[0].free is None
    on_axis, _ = read_change({"change": "set-zero", "setup": "S1", "of": "axis"}).apply(turned_plan, scene)
    assert on_axis.setups[0].zero == Zero("axis")
    off, _ = read_change({"change": "set-indexed", "setup": "S1", "free": None}).apply(on_axis, scene)
    assert off.setups[0].zero is None, "there is no axis any more to count from"
    with pytest.raises(PlanError, match="not indexed"):
        read_change({"change": "set-zero", "setup": "S1", "of": "axis"}).apply(off, scene)


def test_turn_beyond_what_the_machine_s_axes_do_is_a_finding(ledger: Ledger) -> None:
    first = ledger.loads[0]
    rotary = ROTARY.rotary
    assert rotary is not None
    held_back = machine_with(ROTARY, rotary=replace(rotary, range=(-90.0, 200.0)))
    args = (first.decision, first.built.stands)
    (found,) = travel_findings(*args, held_back, first.built.operations)
    assert found.code == "past-turn"
    assert "does not come to 270°" in found.title
    assert (
        travel_findings(*args, machine_with(ROTARY, rotary=replace(rotary, range=(0.0, 270.0))), first.built.operations)
        == []
    )
