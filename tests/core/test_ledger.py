"""The whole evaluation: sums that add up, decisions that carry through, and findings that name their place."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.solids import block, drilled, rod, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.operations import OperationKind
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Allowances, LeftOut, OperationEdit, RateEdits, SetupDecision, ThreadChoice
from lean_ledger.core.pricing.of_plan import effective_rates
from lean_ledger.library import shipped_library
from tests.conftest import built, demo_part, quick, quick_ledger
from tests.values import changed, in_setups, machine_with

LIB = shipped_library()
NAMES = ["sensor-base-plate", "mast-clamp-half", "gear-housing-lid", "louvre-bracket", "anemometer-arm-block"]
K = OperationKind


def codes(ledger) -> set[str]:  # type: ignore[no-untyped-def]
    return {f.code for f in ledger.findings}


#: Each part in another of the materials.
IN_TURN = [(name, LIB.materials[i % len(LIB.materials)].id) for i, name in enumerate(NAMES)]


@pytest.mark.parametrize(("name", "material"), IN_TURN)
def test_quick_plan_of_each_demo_part_works_in_each_material(name: str, material: str) -> None:
    ledger = quick_ledger(demo_part(name), material)
    assert 30 < ledger.cycle < 6000
    assert 1 < ledger.prices[0].each < 1000
    allowed = {"tool-called-again", "corner-left"}
    if name == "louvre-bracket":
        allowed |= {"no-drill", "no-operation"}
    assert codes(ledger) <= allowed


@pytest.mark.parametrize("name", NAMES)
def test_seconds_add_up_from_operation_to_piece(name: str) -> None:
    ledger = quick_ledger(demo_part(name))
    for setup in ledger.loads:
        entries = sum(e.total for e in setup.calls)
        assert setup.cycle == pytest.approx(entries + setup.return_rapid)
    assert ledger.cycle == pytest.approx(sum(s.cycle for s in ledger.loads))
    assert sum(ledger.seconds.values()) == pytest.approx(ledger.per_piece)
    assert ledger.per_piece == pytest.approx(ledger.cycle + sum(s.load_seconds for s in ledger.loads))


@pytest.mark.parametrize("name", NAMES)
def test_every_feature_is_made_named_or_left_out(name: str) -> None:
    part = demo_part(name)
    ledger = quick_ledger(part)
    made = {f for op in ledger.operations for f in op.features}
    named = {f for finding in ledger.findings for f in finding.features}
    assert {f.id for f in part.features} <= made | named


def test_same_decisions_give_the_same_ledger_to_the_last_digit() -> None:
    part = demo_part("gear-housing-lid")
    one, two = quick_ledger(part), quick_ledger(part)
    assert one.cycle == two.cycle
    assert one.prices == two.prices
    assert [e.operation.id for s in one.loads for e in s.calls] == [e.operation.id for s in two.loads for e in s.calls]


@pytest.mark.parametrize("name", NAMES)
def test_cut_removes_no_part_of_the_walls(name: str) -> None:
    """No cutting move of a pocket brings the tool's edge beyond the pocket's own walls."""
    from shapely.geometry import LineString

    from lean_ledger.core.features import Pocket
    from lean_ledger.core.operations.milling.regions import Region

    part = demo_part(name)
    ledger = quick_ledger(part)
    for setup in ledger.loads:
        for op in setup.built.operations:
            feature = part.by_id.get(op.features[0]) if op.features else None
            if not isinstance(feature, Pocket) or op.kind not in (K.ROUGH_POCKET, K.FINISH_WALL, K.FINISH_FLOOR):
                continue
            frame = setup.built.hold.frame
            region = Region(tuple(frame.flat(r) for r in feature.region)).polygon.buffer(0.03)
            for stroke in op.motion.strokes:
                if not stroke.is_rapid:
                    flat = [(x, y) for x, y, _ in stroke.points]
                    if len(set(flat)) > 1:
                        assert region.covers(LineString(flat).buffer(op.tool.diameter / 2 - 0.01)), op.id


def test_finish_tool_is_no_larger_than_the_corner_allows(sensor_plate: Part) -> None:
    finish = next(op for op in quick_ledger(sensor_plate).operations if op.id == "S1.P1.finish-wall")
    assert finish.tool.diameter <= 2 * 6


def test_sharp_corners_are_a_warning_that_says_what_is_left() -> None:
    body = block((0, 0, 0), (80, 60, 20)) - block((10, 10, 12), (60, 50, 20))
    found = next(f for f in quick_ledger(built(body)).findings if f.code == "corner-left")
    assert "drawn sharp" in found.title
    assert found.severity == "warning"


def test_pocket_that_no_mill_enters_is_a_finding_that_names_it() -> None:
    body = block((0, 0, 0), (60, 40, 40)) - rounded_block((20, 10, 2), (24, 30, 40), 1.0)
    found = next(f for f in quick_ledger(built(body)).findings if f.code == "no-mill")
    assert found.features in (("P1",), ("G1",))


def test_what_cannot_be_made_as_decided_is_a_finding_and_the_rest_stands(sensor_plate: Part) -> None:
    edit = OperationEdit("S1.P1.finish-wall", tool="EA20", allowance=30.0)
    ledger = evaluate(replace(quick(sensor_plate), edits=(edit,)), sensor_plate, LIB)
    found = next(f for f in ledger.findings if f.features == ("P1",) and f.severity == "error")
    assert "takes a thinner one" in found.why or "take a thinner one" in found.why
    assert any(op.features == ("H11",) for op in ledger.operations)


def test_hole_in_a_pocket_floor_comes_after_the_pocket() -> None:
    body = block((0, 0, 0), (80, 60, 20)) - rounded_block((10, 10, 12), (60, 50, 20), 6)
    part = built(body - drilled((30, 30, 12), (0, 0, -1), 5, 6))
    setup = quick_ledger(part).loads[0]
    order = [e.operation.id for e in setup.calls]
    assert order.index("S1.H1.spot") > order.index("S1.P1.finish-wall")
    spot = next(op for op in setup.built.operations if op.id == "S1.H1.spot")
    assert ("S1.P1.finish-wall", "the holes start at its floor") in spot.after


def test_nested_pocket_begins_at_the_outer_one_s_floor() -> None:
    body = block((0, 0, 0), (80, 60, 30)) - rounded_block((10, 10, 20), (70, 50, 30), 6)
    part = built(body - rounded_block((20, 20, 14), (50, 40, 20), 4))
    ops = {op.id: op for op in quick_ledger(part).operations}
    inner = next(op for op in ops.values() if op.kind == K.ROUGH_POCKET and "6 deep" in op.name)
    highest = max(p[2] for s in inner.motion.strokes if not s.is_rapid for p in s.points)
    assert highest == pytest.approx(20 + 2.0), "from the floor plus the approach"
    assert any(reason == "it begins at that one's floor" for _, reason in inner.after)


def test_rough_leaves_stock_that_finishing_takes(sensor_plate: Part) -> None:
    ops = {op.id: op for op in quick_ledger(sensor_plate).operations}
    rough, floor = ops["S1.P1.rough-pocket"], ops["S1.P1.finish-floor"]
    lowest = [min(p[2] for s in op.motion.strokes for p in s.points) for op in (rough, floor)]
    assert lowest == [pytest.approx(8.2), pytest.approx(8.0)]


def test_allowance_set_to_0_needs_no_finishing(sensor_plate: Part) -> None:
    plan = replace(quick(sensor_plate), edits=(OperationEdit("S1.P1.rough-pocket", allowance=0.0),))
    ids = {op.id for op in evaluate(plan, sensor_plate, LIB).operations}
    assert "S1.P1.rough-pocket" in ids
    assert "S1.P1.finish-wall" not in ids


def test_facing_goes_as_deep_as_the_stock_stands(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    higher = replace(plan, allowances=plan.allowances.with_side("Z+", 5.0))
    face = next(op for op in evaluate(higher, sensor_plate, LIB).operations if op.id == "S1.Z+.face")
    assert face.depth == 5
    assert face.cutting.passes == 2  # at most 2.5 in aluminium


def test_no_stock_on_top_needs_no_facing(sensor_plate: Part) -> None:
    plan = replace(quick(sensor_plate), allowances=Allowances(z_plus=0))
    assert "S1.Z+.face" not in {op.id for op in evaluate(plan, sensor_plate, LIB).operations}


def test_faster_feed_shortens_the_cycle_and_lowers_the_price(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    before = evaluate(plan, sensor_plate, LIB)
    op = next(op for op in before.operations if op.id == "S1.P1.rough-pocket")
    faster = replace(plan, edits=(OperationEdit(op.id, vf=op.cutting.vf * 1.5),))
    after = evaluate(faster, sensor_plate, LIB)
    assert after.cycle < before.cycle
    assert after.prices[0].each < before.prices[0].each


@pytest.mark.parametrize(
    ("edit", "code"),
    [
        (OperationEdit("S1.P1.rough-pocket", vf=60_000.0), "power"),
        (OperationEdit("S1.P1.rough-pocket", n=20_000.0), "speed"),
        (OperationEdit("S1.G1.rough-pocket", ap=17.0), "step-too-deep"),
        (OperationEdit("S1.P1.rough-pocket", tool="D5"), "tool-unusable"),
        (OperationEdit("S1.P1.rough-pocket", tool="none-such"), "tool-unusable"),
        (OperationEdit("S1.H1.drill", tool="D5"), "drill-size"),
    ],
)
def test_wrong_value_is_a_finding_whose_cure_mends_it(sensor_plate: Part, edit: OperationEdit, code: str) -> None:
    plan = quick(sensor_plate)
    assert code not in codes(evaluate(plan, sensor_plate, LIB))
    ledger = evaluate(replace(plan, edits=(edit,)), sensor_plate, LIB)
    found = next(f for f in ledger.findings if f.code == code)
    assert found.operation == edit.operation
    assert found.cures, "it offers a way out"


def test_left_out_feature_has_no_operation_and_no_finding() -> None:
    part = demo_part("louvre-bracket")
    plan = quick(part)
    assert "no-drill" in codes(evaluate(plan, part, LIB))
    out = tuple(LeftOut(id, "made elsewhere") for id in ("R1", "H1", "H2"))
    ledger = evaluate(replace(plan, left_out=out), part, LIB)
    assert not [f for f in ledger.findings if f.severity == "error"]


def test_feature_that_no_setup_reaches_is_named_with_the_side_it_needs() -> None:
    part = demo_part("louvre-bracket")
    plan = quick(part)
    two = in_setups(plan, *plan.clamped[:2])
    found = next(f for f in evaluate(two, part, LIB).findings if f.features == ("H5",))
    assert "Y-" in found.why
    assert {"change": "add-setup", "up": "Y-"} in [c.change for c in found.cures]


def test_slanted_hole_is_named_as_slanted() -> None:
    body = block((0, 0, 0), (60, 60, 40)) - rod((30, 30, 20), (0.6, 0, 0.8), 6, 60)
    ledger = quick_ledger(built(body))
    assert any("slanted" in f.why for f in ledger.findings)


def test_more_tools_than_pockets_is_a_finding(sensor_plate: Part) -> None:
    from lean_ledger.library.types import Library

    small = machine_with(LIB.machines[0], tool_pockets=4)
    shop: Library = replace(LIB, machines=(small, LIB.machines[1]))
    assert "too-many-tools" in codes(evaluate(quick(sensor_plate), sensor_plate, shop))
    assert "too-many-tools" not in codes(quick_ledger(sensor_plate))


def test_tall_stock_on_the_low_machine_has_no_room_to_change() -> None:
    part = built(block((0, 0, 0), (60, 60, 140)) - rod((30, 30, 0), (0, 0, 1), 10, 140))
    upright = in_setups(quick(part), (SetupDecision("S1", "Z+"), "mill-500"))
    assert "z-travel" in codes(evaluate(upright, part, LIB))
    roomy = in_setups(upright, (SetupDecision("S1", "Z+"), "mill-762"))
    assert "z-travel" not in codes(evaluate(roomy, part, LIB))
    assert "z-travel" not in codes(quick_ledger(demo_part("sensor-base-plate")))


def test_quick_machine_is_quicker(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    other = replace(plan, loads=tuple(replace(load, machine="mill-500") for load in plan.loads))
    slow, fast = evaluate(plan, sensor_plate, LIB), evaluate(other, sensor_plate, LIB)
    assert fast.seconds["tool change"] < slow.seconds["tool change"]
    assert fast.seconds["rapid"] < slow.seconds["rapid"]
    assert max(op.cutting.n for op in fast.operations) > 8100


def test_thread_on_one_size_leaves_the_others(sensor_plate: Part) -> None:
    plan = replace(quick(sensor_plate), threads=(ThreadChoice(4.2, "M5"),))
    taps = [op for op in evaluate(plan, sensor_plate, LIB).operations if op.kind == K.TAP]
    assert len(taps) == 1
    assert len(taps[0].features) == 6


def test_price_problem_holds_the_ledger_s_own_times(sensor_plate: Part) -> None:
    ledger = quick_ledger(sensor_plate)
    cycles = [float(s.cycle_seconds) for s in ledger.problem.setups]
    assert cycles == pytest.approx([s.cycle for s in ledger.loads], abs=5e-4)
    # stock 144 × 94 × 20: the longest is the length, the others the section
    assert ledger.problem.material.length == Decimal("144.00")
    assert ledger.problem.material.section_area == Decimal("94.00") * Decimal("20.00")


def test_setup_hours_are_a_base_and_a_share_per_tool(sensor_plate: Part) -> None:
    ledger = quick_ledger(sensor_plate)
    standing = set(LIB.in_machine(ledger.loads[0].machine))
    hours = []
    for setup in ledger.loads:  # what stands in the machine, and what the setup before put there, needs no setting up
        used = {e.operation.tool.id for e in setup.calls}
        hours.append(Decimal("0.30") + len(used - standing) * Decimal("0.05"))
        standing |= used
    assert [s.setup_hours for s in ledger.loads] == hours == [Decimal("0.50"), Decimal("0.30")]


def test_tool_wear_by_hand() -> None:
    from lean_ledger.core.pricing.of_plan import tooling_per_piece

    part = built(block((0, 0, 0), (60, 40, 20)))
    ledger = quick_ledger(part)
    face = next(op for op in ledger.operations if op.kind == K.FACE)
    amount, _ = tooling_per_piece([face], LIB, ledger.material)
    life = LIB.data(face.tool, ledger.material)
    assert life is not None
    by_hand = face.time.cut / 60 / life.life_minutes * float(face.tool.price)
    assert float(amount) == pytest.approx(by_hand, abs=5e-5)


def test_plan_s_rates_stand_over_the_shop_s() -> None:
    part = demo_part("anemometer-arm-block")
    plan = replace(quick(part), rates=RateEdits(margin=Decimal("0.5"), price_per_kg=Decimal(20)))
    material = LIB.material(plan.material)
    assert material is not None
    rates = effective_rates(plan, LIB.rates, material)
    assert (rates["margin"], rates["price_per_kg"]) == (Decimal("0.5"), Decimal(20))
    dear, usual = evaluate(plan, part, LIB).prices[0], quick_ledger(part).prices[0]
    assert dear.each > usual.each


def lines(plan) -> dict[str, Decimal]:  # type: ignore[no-untyped-def]
    return dict(evaluate(plan, demo_part("anemometer-arm-block"), LIB).prices[0].lines)


def test_outline_takes_usual_stock_in_one_loop_and_a_cut_away_corner_in_steps() -> None:
    plain = quick_ledger(built(block((0, 0, 0), (90, 60, 20))))
    rough = next(op for op in plain.operations if op.kind == K.ROUGH_OUTLINE)
    assert rough.cutting.ae == pytest.approx(2 - 0.2), "as thick as the stock stands on the sides"
    around = 2 * (90 + 60)
    assert rough.time.cut_length < 1.5 * around * rough.cutting.passes
    cut_away = built(block((0, 0, 0), (90, 60, 20)) - block((50, 25, 0), (90, 60, 20)))
    stepped = next(op for op in quick_ledger(cut_away).operations if op.kind == K.ROUGH_OUTLINE)
    assert stepped.cutting.ae == pytest.approx(0.4 * stepped.tool.diameter)
    assert stepped.time.cut_length > rough.time.cut_length + 4 * 35, "more loops, clipped to the notch"


def test_outside_work_fixtures_and_loading_can_be_set() -> None:
    plan = quick(demo_part("anemometer-arm-block"))
    usual = lines(plan)
    assert usual["outside"] == 0
    rates = RateEdits(outside_per_piece=Decimal("1.5"), outside_lot=Decimal(40), fixtures=Decimal(200))
    # 11 started · 1.5 + 40
    assert lines(replace(plan, rates=rates))["outside"] == Decimal("56.50")
    assert lines(replace(plan, rates=rates))["fixtures"] == 200
    spread = replace(rates, fixture_life=Decimal(1000))
    assert lines(replace(plan, rates=spread))["fixtures"] == Decimal("2.20")
    slow = changed(plan, "S1", load_seconds=Decimal(400))
    assert lines(slow)["run"] > usual["run"]


def test_bars_are_bought_whole_and_one_that_is_too_short_is_refused() -> None:
    plan = replace(quick(demo_part("anemometer-arm-block")), buy="bar")
    assert lines(plan)["material"] > lines(replace(plan, buy="blank"))["material"]
    short = replace(plan, rates=RateEdits(bar_length=Decimal(90)))
    with pytest.raises(PlanError, match=r"a bar of 90 mm holds no piece of 48\.00 mm; buy longer bars, or blanks"):
        lines(short)


def test_unknown_material_and_machine_are_refused_with_the_known_ones(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    with pytest.raises(PlanError, match="no material 'cheese'; the library has al-6082"):
        evaluate(replace(plan, material="cheese"), sensor_plate, LIB)
    with pytest.raises(PlanError, match="no machine 'm9'; the library has mill-762"):
        evaluate(in_setups(plan, (SetupDecision("S1", "Z+"), "m9")), sensor_plate, LIB)


def test_quick_plan_refuses_what_it_cannot_price(sensor_plate: Part) -> None:
    with pytest.raises(PlanError, match="no material 'cheese'"):
        quick(sensor_plate, "cheese")
    with pytest.raises(PlanError, match="at least one quantity"):
        quick(sensor_plate, quantities=())


@pytest.mark.parametrize("name", NAMES)
def test_figures_of_each_operation_lead_to_its_seconds(name: str) -> None:
    for entry in (e for s in quick_ledger(demo_part(name)).loads for e in s.calls):
        op = entry.operation
        figures = {f.label: f.value for f in entry.figures}
        assert figures["cutting"] == op.time.cut
        assert figures["rapid, within"] + figures["rapid, way to it"] == pytest.approx(entry.seconds["rapid"])
        parts = ("cutting", "rapid, within", "rapid, way to it", "reversals", "tool change", "spindle start")
        assert sum(figures.get(label, 0.0) for label in parts) == pytest.approx(figures["total"])
        assert figures["total"] == entry.total
        assert figures["time at feed"] + figures["starting, stopping, corners"] == pytest.approx(op.time.cut)
        assert figures["n"] == op.cutting.n


def test_library_holds_what_a_shop_needs() -> None:
    assert len(LIB.machines) >= 2
    assert len(LIB.vises) >= 3
    assert len(LIB.tools) >= 30
    kinds = {tool.kind.value for tool in LIB.tools}
    assert kinds == {
        "face_mill", "end_mill", "drill", "spot_drill", "tap", "thread_mill", "reamer", "chamfer_mill", "countersink",
        "turning", "boring_bar", "grooving", "ball_mill", "t_slot_mill", "dovetail_mill", "threading", "bore_grooving",
        "profiling", "probe", "boring_head",
    }  # fmt: skip
    assert len({tool.number for tool in LIB.tools}) == len({tool.id for tool in LIB.tools}) == len(LIB.tools)
    for material in LIB.materials:
        covered = {t.kind.value for t in LIB.tools if LIB.data(t, material) is not None}
        assert covered == kinds - {"probe"}, material.id
    assert all(c.source for c in LIB.cutting), "each row of cutting data says where it comes from"
