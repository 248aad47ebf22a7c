"""What is bought: bars and plates over the part, from the list or fixed, and castings by their own model."""

from __future__ import annotations

from dataclasses import replace
from math import pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.near_net import moved_solid, near_net
from lean_ledger.core.geometry.solids import Body, block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Allowances, Plan, StockChoice
from lean_ledger.core.setups.sides import needs_machining
from lean_ledger.core.stock.block import Section
from lean_ledger.core.stock.sizes import Sized, over_features, sized_stock
from lean_ledger.library import shipped_library
from tests.conftest import built, demo_part, quick

LIB = shipped_library()
UP = (0.0, 0.0, 1.0)
LONG = built(block((0, 0, 0), (90, 36, 28)))


def sized(part: Part, **choice: object) -> Sized:
    return sized_stock(replace(quick(part), stock=StockChoice(**choice)), part, LIB.stock)  # type: ignore[arg-type]


def volume_of(part: Part, **choice: object) -> float:
    return sized(part, **choice).state(part).volume


# ---- sizes


def test_block_follows_the_part_by_its_allowances() -> None:
    assert sized(LONG).allowances == Allowances()
    assert sized(LONG).named == "block 94 × 40 × 32"


def test_rectangular_bar_is_the_next_section_of_the_list() -> None:
    # 40 × 32 are needed across: 40 × 40 is the least listed section that has both; the length follows the part
    found = sized(LONG, form="rectangular bar", sizing="next size up")
    assert found.named == "rectangular bar 40 × 40 × 94"
    # 40 − 36 = 4 over Y as asked for; 40 − 28 = 12 over Z, shared evenly
    assert (found.allowances.y_minus, found.allowances.y_plus) == (2, 2)
    assert (found.allowances.z_minus, found.allowances.z_plus) == (6, 6)
    assert (found.allowances.x_minus, found.allowances.x_plus) == (2, 2)


def test_plate_is_as_thick_as_the_next_of_the_list() -> None:
    found = sized(LONG, form="plate", sizing="next size up")
    # 28 + 4 = 32: 35 is next
    assert found.named == "plate 35, 94 × 40"
    assert found.along == 2


def test_round_bar_goes_round_the_part_s_corners() -> None:
    # the diagonal of 36 × 28 is 45.607, with 2 over it on each side 49.607; the bar lies along X
    over = sized(LONG, form="round bar")
    assert over.named == "round bar Ø49.607 × 94"
    assert over.section == Section.ROUND
    listed = sized(LONG, form="round bar", sizing="next size up")
    assert listed.named == "round bar Ø50 × 94"
    # it stands evenly over both pairs of sides: (50 − 36) / 2 and (50 − 28) / 2
    assert (listed.allowances.y_plus, listed.allowances.z_plus) == (7, 11)
    assert volume_of(LONG, form="round bar", sizing="next size up") == pytest.approx(pi / 4 * 50**2 * 94)


def test_hexagonal_bar_is_counted_across_its_flats() -> None:
    part = built(rod((0, 0, 0), UP, 26, 50))
    found = sized(part, form="hexagonal bar", sizing="next size up", along="Z")
    # 26 + 2 · 2 = 30, which is listed; 2 · 30 / √3 = 34.641 across the corners
    assert found.named == "hexagonal bar 30 across flats × 54"
    size = found.state(part).bounds.size
    assert size == (pytest.approx(34.641, abs=0.01), pytest.approx(30, abs=0.01), pytest.approx(54))
    # √3/2 · F² · L
    assert found.state(part).volume == pytest.approx(sqrt(3) / 2 * 30**2 * 54, rel=1e-3)


@given(st.floats(min_value=10, max_value=180), st.floats(min_value=5, max_value=95))
def test_bar_of_the_list_holds_the_part_and_its_least_allowance(width: float, height: float) -> None:
    part = replace(LONG, model=replace(LONG.model, solid=built_box(width, height)))
    for form in ("round bar", "rectangular bar", "plate"):
        found = sized(part, form=form, sizing="next size up", along="X" if form != "plate" else "Z")
        least = min(found.allowances.on(side) for side in ("Y-", "Y+", "Z-", "Z+"))
        assert found.missing or least >= 2 - 1e-6, form


def built_box(width: float, height: float):  # type: ignore[no-untyped-def]
    """The long block's solid with other sizes: sizing looks at bounds and corners only."""
    solid = LONG.model.solid
    corners = tuple((x, y * width / 36, z * height / 28) for x, y, z in solid.mesh.vertices)
    bounds = replace(solid.bounds, max=(90.0, width, height))
    return replace(solid, bounds=bounds, mesh=replace(solid.mesh, vertices=corners))


def test_surplus_goes_to_the_sides_that_have_any() -> None:
    plan = replace(quick(LONG), allowances=Allowances(z_minus=0.0), stock=StockChoice("plate", sizing="next size up"))
    # 28 + 2 = 30 is listed
    assert sized_stock(plan, LONG, LIB.stock).allowances.z_plus == 2
    thicker = replace(plan, allowances=Allowances(z_minus=0.0, z_plus=3.0))
    found = sized_stock(thicker, LONG, LIB.stock).allowances
    # 31 asks for 35; what lies on the plate stays as bought
    assert (found.z_minus, found.z_plus) == (0, 7)


def test_longer_revision_gets_a_longer_blank_and_a_fixed_one_does_not() -> None:
    longer = built(block((0, 0, 0), (120, 36, 28)))
    assert sized(longer, form="round bar", sizing="next size up").named == "round bar Ø50 × 124"
    fixed = StockChoice("block", sizing="fixed", fixed=(94.0, 40.0, 32.0))
    plan = replace(quick(longer), stock=fixed)
    found = [f for f in evaluate(plan, longer, LIB).findings if f.code == "stock-small"]
    assert "X+ by 13.0, X- by 13.0" in found[0].title
    assert not [f for f in evaluate(replace(quick(LONG), stock=fixed), LONG, LIB).findings if f.code == "stock-small"]


def test_list_without_a_size_is_a_finding_and_the_part_is_still_priced() -> None:
    wide = built(block((0, 0, 0), (300, 220, 20)))
    plan = replace(quick(wide), stock=StockChoice("round bar", sizing="next size up", along="Z"))
    ledger = evaluate(plan, wide, LIB)
    (found,) = [f for f in ledger.findings if f.code == "no-stock-size"]
    assert "200 is the largest" in found.title
    assert found.cures[0].change == {"change": "set-stock", "sizing": "over the part"}
    assert ledger.prices[0].each > 0


def test_material_is_priced_by_the_bar_s_own_section() -> None:
    plan = replace(quick(LONG), stock=StockChoice("round bar", sizing="next size up"))
    material = evaluate(plan, LONG, LIB).problem.material
    # π/4 · 50² = 1963.5 mm², 94 long
    assert float(material.section_area) == pytest.approx(1963.5, abs=0.01)
    assert material.length == 94


def test_round_bar_in_solids_is_round() -> None:
    part = built(rod((0, 0, 0), UP, 40, 30))
    plan = replace(quick(part), stock=StockChoice("round bar", sizing="next size up", along="Z"))
    ledger = evaluate(plan, part, LIB)
    found = followed(course_of(part, ledger))
    # 40 + 4 = 44 asks for 45
    assert found.start == pytest.approx(pi / 4 * 45**2 * 34, rel=1e-3)
    for axis, size in (("X", 40), ("Y", 40)):
        lying = built(rod((0, 0, 0), (1.0, 0.0, 0.0) if axis == "X" else (0.0, 1.0, 0.0), size, 30))
        along = replace(quick(lying), stock=StockChoice("hexagonal bar", along=axis))  # type: ignore[arg-type]
        start = followed(course_of(lying, evaluate(along, lying, LIB))).start
        assert start == pytest.approx(sqrt(3) / 2 * 44**2 * 34, rel=2e-3)


# ---- changes


def test_stock_is_decided_step_by_step() -> None:
    plan = quick(LONG)
    scene = Scene(LONG, LIB, evaluate(plan, LONG, LIB))
    barred, words = read_change({"change": "set-stock", "form": "round bar"}).apply(plan, scene)
    assert (barred.stock.form, words) == ("round bar", "stock: round bar")
    fixed, words = read_change({"change": "set-stock", "sizing": "fixed"}).apply(plan, scene)
    assert fixed.stock.fixed == (94, 40, 32), "fixed sizes begin as they are now"
    sized_, words = read_change({"change": "set-stock-size", "axis": "X", "value": 100}).apply(fixed, scene)
    assert (sized_.stock.fixed, words) == ((100, 40, 32), "stock 100 along X")
    for change, reason in (
        ({"change": "set-stock"}, "say a form, an axis"),
        ({"change": "set-stock-size", "axis": "X", "value": 100}, "follow the part; fix them first"),
        ({"change": "set-stock", "form": "near-net"}, "bring its STEP file in first"),
        ({"change": "take-stock-model", "model": "nothing:0"}, "no such model of the stock"),
        ({"change": "shift-stock-model", "axis": "X", "value": 1}, "only near-net stock"),
    ):
        with pytest.raises(PlanError, match=reason):
            read_change(change).apply(plan, scene)


# ---- near-net


def cast(part: Body, stock: Body, shift: tuple[float, float, float] = (0.0, 0.0, 0.0)) -> Part:
    one, blank = built(part), built(stock)
    return replace(one, near_net=near_net(one.model.solid, blank.model.solid, shift, "casting.step"))


def cast_plan(part: Part) -> Plan:
    plan = quick(part)
    return replace(plan, stock=StockChoice("near-net", model="x"))


PLATE = block((0, 0, 0), (80, 60, 12)) - rod((40, 30, 0), UP, 20, 12)
CASTING = block((0, 0, -3), (80, 60, 14.5)) - rod((40, 30, -3), UP, 15, 17.5)


def test_stock_over_each_face_is_measured_along_its_normal() -> None:
    part = cast(PLATE, CASTING)
    over = {f.id: o for f, o in over_features(part)}
    by_normal = {f.normal: over.get(f.id, 0.0) for f in part.features if f.kind == "face"}
    assert by_normal[(0, 0, 1)] == pytest.approx(2.5, abs=0.01)
    assert by_normal[(0, 0, -1)] == pytest.approx(3.0, abs=0.01)
    assert by_normal[(1, 0, 0)] == 0
    hole = next(f for f in part.features if f.kind == "hole")
    # cored Ø15 in Ø20: chords of both circles stray a little
    assert over[hole.id] == pytest.approx(2.5, abs=0.03)


def test_what_has_no_stock_on_it_needs_no_machining() -> None:
    part = cast(PLATE, CASTING)
    plan = cast_plan(part)
    wanted = {f.id for f in part.features if needs_machining(part, f, plan)}
    assert wanted == {f.id for f in part.features if f.kind == "hole" or (f.kind == "face" and abs(f.normal[2]) == 1)}


def test_hole_that_is_not_cored_is_solid() -> None:
    part = cast(PLATE, block((0, 0, -3), (80, 60, 14.5)))
    hole = next(f for f in part.features if f.kind == "hole")
    assert {f.id: o for f, o in over_features(part)}[hole.id] is None


def test_casting_is_cut_down_to_the_part_and_weighed_as_it_comes() -> None:
    part = cast(PLATE, CASTING)
    ledger = evaluate(cast_plan(part), part, LIB)
    assert [f.title for f in ledger.findings if f.severity == "error"] == []
    assert ledger.stock.volume == pytest.approx((80 * 60 - pi / 4 * 15**2) * 17.5, rel=1e-3)
    assert {op.kind for op in ledger.operations} >= {"face"}
    assert not [op for op in ledger.operations if "outline" in op.kind], "the sides stay as they are cast"
    found = followed(course_of(part, ledger))
    assert found.start == pytest.approx(ledger.stock.volume, rel=1e-3)
    assert found.over_share == pytest.approx(0, abs=0.002)
    assert stock_findings(part, ledger, found) == []


def test_casting_that_is_too_small_somewhere_is_a_finding() -> None:
    part = cast(PLATE, CASTING, (0.0, 0.0, 4.0))
    # moved up by 4 its underside lies at 1: the part sticks out by 1
    ledger = evaluate(cast_plan(part), part, LIB)
    (found,) = [f for f in ledger.findings if f.code == "stock-small"]
    below = next(f.id for f in part.features if f.kind == "face" and f.normal == (0, 0, -1))
    assert f"{below} by 1.00" in found.title
    assert not [f for f in evaluate(cast_plan(cast(PLATE, CASTING)), cast(PLATE, CASTING), LIB).findings
                if f.code == "stock-small"]  # fmt: skip


def test_moved_model_has_all_its_geometry_moved() -> None:
    solid = built(CASTING).model.solid
    moved = moved_solid(solid, (1.0, 2.0, 3.0))
    assert moved.bounds.min == pytest.approx(tuple(a + b for a, b in zip(solid.bounds.min, (1, 2, 3), strict=True)))
    assert moved.mesh.volume == pytest.approx(solid.mesh.volume)
    assert moved.edges[0].points[0] == pytest.approx(
        tuple(a + b for a, b in zip(solid.edges[0].points[0], (1, 2, 3), strict=True))
    )
    assert moved_solid(solid, (0.0, 0.0, 0.0)) is solid


def test_demo_casting_is_screwed_to_its_plate_by_the_threads_that_came_before() -> None:
    part, stock = demo_part("gauge-base"), demo_part("gauge-base-casting")
    part = replace(part, near_net=near_net(part.model.solid, stock.model.solid, (0.0, 0.0, 0.0), "casting.step"))
    plan = cast_plan(part)
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    for change in (
        {"change": "set-thread", "diameter": 5.0, "thread": "M6"},
        {"change": "set-fixture", "setup": "S1", "fixture": "toe-400"},
        {"change": "set-fixture", "setup": "S2", "fixture": "plate-300"},
    ):
        plan, _ = read_change(change).apply(plan, scene)
    ledger = evaluate(plan, part, LIB)
    assert ledger.findings == ()
    assert ledger.loads[1].built.hold.touches == "4 screws M6 in H1, H2, H3, H4"
    found = followed(course_of(part, ledger))
    assert found.over_share == pytest.approx(0, abs=0.001)
    assert stock_findings(part, ledger, found) == []
