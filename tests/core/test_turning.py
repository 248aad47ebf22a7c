"""The lathe: what an end reaches, passes and their seconds, grooves and bores, and what goes on to a mill."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import Body, revolved, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import is_on, moved_to, on_machines
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.turning.lathe_paths import Spun, _at_one_speed
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, StockChoice, Zero
from lean_ledger.core.setups.profile import Profile, outer_chain, reached_chain, section_of, turned_from
from lean_ledger.library import shipped_library
from tests.conftest import built, demo_part, quick
from tests.values import changed, in_setups, machine_with

LIB = shipped_library()
LATHE = next(m for m in LIB.machines if m.id == "lathe-320")
DRIVEN = next(m for m in LIB.machines if m.id == "lathe-driven")
UP, DOWN = (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)
#: a flange between two necks
FLANGED = revolved([(0, 0), (10, 0), (10, 20), (18, 20), (18, 30), (12, 30), (12, 50), (0, 50)])


def on_lathe(part: Part, machine=LATHE, **stock: object) -> Plan:  # type: ignore[no-untyped-def]
    choice = StockChoice("round bar", sizing="next size up", along="Z")
    return moved_to(replace(quick(part), stock=replace(choice, **stock)), machine, part, LIB)  # type: ignore[arg-type]


def turned(body: Body) -> tuple[Ledger, Part]:
    part = built(body)
    return evaluate(on_lathe(part), part, LIB), part


def op_of(setup: LoadLedger, kind: str) -> Operation:
    return next(op for op in setup.built.operations if op.kind == kind)


# ---- profiles


def test_chain_is_the_part_s_half_section_from_the_free_end() -> None:
    part = built(FLANGED)
    assert outer_chain(part, UP) == ((50, 0), (50, 12), (30, 12), (30, 18), (20, 18), (20, 10), (0, 10), (0, 0))
    assert outer_chain(part, DOWN)[1] == (0, 10)
    assert section_of(outer_chain(part, UP)).area == pytest.approx(20 * 10 + 10 * 18 + 20 * 12)


def test_an_end_reaches_no_farther_in_than_the_widest_wall_before() -> None:
    part = built(FLANGED)
    assert reached_chain(outer_chain(part, UP))[-4:] == ((20, 18), (20, 18), (0, 18), (0, 18))
    by_diameter = {f.diameter: f for f in part.features if f.kind == "turned" and f.where == "outside"}
    assert turned_from(part, by_diameter[24], UP)
    assert not turned_from(part, by_diameter[24], DOWN), "the flange stands in the way"
    assert not turned_from(part, by_diameter[20], UP)
    assert turned_from(part, by_diameter[20], DOWN)
    assert turned_from(part, by_diameter[36], UP)
    assert turned_from(part, by_diameter[36], DOWN), "the widest wall is reached from both ends"


@given(st.lists(st.tuples(st.floats(0, 50), st.floats(0.5, 40)), min_size=2, max_size=8))
def test_reached_section_holds_the_part_and_never_narrows(points: list[tuple[float, float]]) -> None:
    zs = sorted({round(z, 2) for z, _ in points}, reverse=True)
    chain: Profile = tuple((z, round(r, 2)) for z, (_, r) in zip(zs, points, strict=False))
    reach = reached_chain(chain)
    radii = [r for _, r in reach]
    assert radii == sorted(radii)
    assert max(radii) == max(r for _, r in chain)
    if len(chain) > 1:
        assert section_of(reach).area >= section_of(chain).area - 1e-6


# ---- seconds


def test_facing_takes_what_the_formula_says_until_the_cap() -> None:
    spun = Spun(None, vc=200, per_turn=0.25, cap=1e9)  # type: ignore[arg-type]
    # from d1 60 to d2 20: π(d1² − d2²)/(4·1000·vc·f) = π·3200/(4·1000·200·0.25) = 0.0503 min
    exact = pi * (60**2 - 20**2) / (4 * 1000 * 200 * 0.25)
    length = (60 - 20) / 2
    assert length / (spun.speed(40) * spun.per_turn) == pytest.approx(exact)
    assert exact == pytest.approx(0.05027, abs=1e-5)


def test_move_is_parted_where_the_spindle_reaches_its_cap() -> None:
    spun = Spun(None, vc=200, per_turn=0.25, cap=4000)  # type: ignore[arg-type]
    # 1000·200/(π·4000) = 15.915: below that diameter n does not grow
    (out, inner) = _at_one_speed((30.0, 0.0), (0.0, 0.0), spun)
    assert out[1][0] == inner[0][0] == pytest.approx(15.915 / 2, abs=1e-3)
    assert spun.speed(10) == 4000
    # inside it the mean of its ends turns at the cap too: radius / (f · n)
    assert out[1][0] / (spun.speed(out[1][0]) * spun.per_turn) == pytest.approx(7.958 / 1000, rel=1e-3)
    assert _at_one_speed((30.0, 5.0), (30.0, -5.0), spun) == [((30.0, 5.0), (30.0, -5.0))]


def test_longitudinal_cut_takes_length_over_feed_per_turn_and_speed() -> None:
    ledger, _ = turned(rod((0, 0, 0), UP, 40, 60))
    finish = op_of(ledger.loads[0], "finish turn")
    n = min(LATHE.spindle.max_rpm, 1000 * finish.cutting.vc / (pi * 40))
    along = [s for s in finish.motion.strokes if not s.is_rapid and s.points[0][0] == s.points[-1][0]]
    length = sum(s.length for s in along)
    assert length > 20
    # 0.5 of the usual feed a turn, for the finish
    assert finish.time.nominal_cut == pytest.approx(60 * length / (n * finish.cutting.fz), rel=0.05)


def test_rough_passes_are_equal_and_within_the_insert_s_depth() -> None:
    ledger, _ = turned(FLANGED)
    rough = op_of(ledger.loads[0], "rough turn")
    # from Ø40 bar to 0.4 over R12: 7.6 in steps of at most 3
    assert rough.cutting.passes == 3
    assert rough.cutting.ap == pytest.approx((20 - 12.4) / 3)
    radii = sorted({round(p[0], 3) for s in rough.motion.strokes if not s.is_rapid for p in s.points}, reverse=True)
    assert radii == pytest.approx([20 - 7.6 / 3, 20 - 15.2 / 3, 12.4], abs=1e-3)


# ---- the part


def test_flanged_part_comes_whole_out_of_its_bar_from_both_ends() -> None:
    ledger, part = turned(FLANGED)
    assert [(s.decision.up, s.machine.id) for s in ledger.loads] == [("Z+", "lathe-320"), ("Z-", "lathe-320")]
    assert [f.title for f in ledger.findings if f.severity == "error"] == []
    found = followed(course_of(part, ledger))
    assert found.over_share == pytest.approx(0, abs=0.003)
    assert stock_findings(part, ledger, found) == []
    first, second = ledger.loads
    assert first.built.hold.fixture.id == "chuck-200"
    assert second.built.hold.fixture.id == "chuck-200-soft"
    # up to the flange, which rests against the jaws
    assert second.built.hold.touches == "a finished cylinder Ø24, 20 long"
    assert ledger.zero_of(part, 0) == Zero("part", "centre")


def test_nothing_is_turned_between_the_jaws() -> None:
    for body in (FLANGED, rod((0, 0, 0), UP, 40, 60), revolved([(0, 0), (16, 0), (16, 30), (8, 60), (0, 60)])):
        ledger, _ = turned(body)
        for setup in ledger.loads:
            limit = setup.built.hold.lowest_outside_cut
            for op in setup.built.operations:
                if op.motion.turned and op.kind != "bore":
                    lowest = min(p[2] for s in op.motion.strokes if not s.is_rapid for p in s.points)
                    assert lowest >= limit - 1e-6, op.name


def test_groove_is_plunged_by_an_insert_that_fits() -> None:
    body = revolved([(0, 0), (16, 0), (16, 20), (13, 20), (13, 25), (16, 25), (16, 50), (0, 50)])
    ledger, part = turned(body)
    groove = op_of(next(s for s in ledger.loads if any(op.kind == "groove" for op in s.built.operations)), "groove")
    assert groove.tool.diameter == 3
    # 5 wide with 3: one plunge and one more, 2 beside it
    starts = sorted({round(s.points[0][2], 3) for s in groove.motion.strokes if not s.is_rapid})
    assert len(starts) == 2
    assert starts[1] - starts[0] == pytest.approx(2)
    assert groove.depth == pytest.approx(3)
    assert stock_findings(part, ledger, followed(course_of(part, ledger))) == []
    narrow = revolved([(0, 0), (16, 0), (16, 20), (13, 20), (13, 21), (16, 21), (16, 50), (0, 50)])
    assert "no-insert" in {f.code for f in turned(narrow)[0].findings}


def test_bore_that_no_drill_has_is_bored_to_size() -> None:
    body = rod((0, 0, 0), UP, 50, 40) - rod((0, 0, 0), UP, 23.4, 40)
    ledger, part = turned(body)
    kinds = [op.kind for s in ledger.loads for op in s.built.operations]
    assert {"spot", "drill", "bore"} <= set(kinds)
    bore = next(op for s in ledger.loads for op in s.built.operations if op.kind == "bore")
    drill = next(op for s in ledger.loads for op in s.built.operations if op.kind == "drill")
    assert drill.tool.diameter <= 23.4 - 0.8
    assert bore.tool.diameter <= drill.tool.diameter, "the bar goes into the drilled hole"
    assert max(p[0] for s in bore.motion.strokes if not s.is_rapid for p in s.points) == pytest.approx(11.7)
    assert stock_findings(part, ledger, followed(course_of(part, ledger))) == []


# ---- machines


def test_lathe_sends_the_cross_hole_to_a_mill_as_a_further_setup() -> None:
    part = demo_part("vane-hub")
    plan = on_lathe(part)
    assert [(s.up, s.spindle) for s in plan.setups] == [("Z+", "part"), ("Z-", "part"), ("Y+", "tool")]
    ledger = evaluate(plan, part, LIB)
    assert not ledger.loads[2].machine.turns_work
    assert {op.kind for op in ledger.loads[2].built.operations} == {"spot", "drill"}
    assert [f.title for f in ledger.findings if f.severity == "error"] == []


def test_driven_tools_spare_the_mill() -> None:
    part = demo_part("vane-hub")
    plan = on_lathe(part, DRIVEN)
    assert [(s.up, s.spindle) for s in plan.setups] == [(u, "part and driven tools") for u in ("Z+", "Z-")]
    first = evaluate(plan, part, LIB).loads[0]
    across = [op for op in first.built.operations if abs(op.frame.up[2]) < 0.5]
    assert {op.kind for op in across} == {"spot", "drill"}
    assert first.seconds["index"] > 0


def test_lathe_refuses_what_is_not_round(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    scene = Scene(sensor_plate, LIB, evaluate(plan, sensor_plate, LIB))
    for change in ({"change": "set-machine", "setup": "S1", "machine": "lathe-320"},
                   {"change": "move-to-machine", "machine": "lathe-320"}):  # fmt: skip
        with pytest.raises(PlanError, match="not round about an axis; choose a mill"):
            read_change(change).apply(plan, scene)


def test_only_an_end_of_the_axis_is_up_in_a_lathe() -> None:
    part = built(FLANGED)
    plan = on_lathe(part)
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    with pytest.raises(PlanError, match="turns the part about Z"):
        read_change({"change": "set-up", "setup": "S1", "up": "X+"}).apply(plan, scene)
    milled, _ = read_change({"change": "set-machine", "setup": "S1", "machine": "mill-762"}).apply(plan, scene)
    assert milled.setups[0].spindle == "tool"
    assert milled.setups[0].fixture is None


def test_stock_larger_than_the_lathe_is_a_finding() -> None:
    part = built(rod((0, 0, 0), UP, 140, 60))
    ledger = evaluate(on_lathe(part), part, LIB)
    assert "past-travel" not in {f.code for f in ledger.findings}
    small = replace(LIB, machines=tuple(
        machine_with(m, travel=((0.0, 120.0), *m.travel[1:])) if m.id == LATHE.id else m for m in LIB.machines
    ))  # fmt: skip
    found = next(f for f in evaluate(on_lathe(part), part, small).findings if f.code == "past-travel")
    assert found.title.startswith("The stock asks X 1")


def test_moving_between_lathes_leaves_the_milled_setup_on_its_mill() -> None:
    part = demo_part("vane-hub")
    plan = on_lathe(part)
    own = changed(plan, plan.setups[2].id, machine="mill-500", fixture="vise-125-soft")
    assert is_on(own, LATHE)
    assert not is_on(own, DRIVEN)
    again = moved_to(own, LATHE, part, LIB)
    assert again.setups == own.setups, "it is there already: nothing changes"
    tried = {one.machine.id: one for one in on_machines(own, part, LIB, evaluate(own, part, LIB))}
    assert tried["lathe-320"].current
    assert not tried["lathe-driven"].current
    assert [load.machine for load in moved_to(own, DRIVEN, part, LIB).loads] == ["lathe-driven"] * 2
    milled = moved_to(own, LIB.machines[0], part, LIB)
    assert {(one.load.machine, one.setup.spindle) for one in milled.clamped} == {("mill-762", "tool")}


def test_setup_that_is_added_beside_a_lathe_s_goes_where_it_can_be_made() -> None:
    part = demo_part("vane-hub")
    plan = on_lathe(part)
    plan = in_setups(plan, *plan.clamped[:2])
    scene = Scene(part, LIB, evaluate(plan, part, LIB))

    def added(change: dict[str, object]) -> tuple[str, str]:
        last = read_change(change).apply(plan, scene)[0].clamped[-1]
        return (last.load.machine, last.setup.spindle)

    assert added({"change": "add-setup", "up": "Y+"}) == ("mill-762", "tool")
    assert added({"change": "add-setup", "up": "Z+"}) == ("lathe-320", "part")
    assert added({"change": "start-empty", "up": "Z-"}) == ("lathe-320", "part")


def test_groove_between_the_jaws_is_said() -> None:
    body = revolved([(0, 0), (16, 0), (16, 20), (13, 20), (13, 25), (16, 25), (16, 50), (0, 50)])
    part = built(body)
    plan = on_lathe(part)
    deep = plan.with_setup(replace(plan.setups[0], grip=36.0))
    groove = next(f.id for f in part.features if f.kind == "turned" and f.where == "groove")
    found = [f for f in evaluate(deep, part, LIB).findings if f.code == "cut-below-jaws" and groove in f.features]
    assert len(found) == 1
    assert not [f for f in evaluate(plan, part, LIB).findings if f.code == "cut-below-jaws"]
