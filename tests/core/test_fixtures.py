"""What holds: chucks, collets, plates, toe clamps, soft jaws; each check trips, and the sound hold passes it."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.features import Turned
from lean_ledger.core.features.model import ModelledThread
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.solids import Body, block, cone, drilled, prism, rod, rounded_block
from lean_ledger.core.holding import Found, Hold, resolve_hold
from lean_ledger.core.holding.checks import grip_findings
from lean_ledger.core.holding.chuck import ChuckHold, ColletHold
from lean_ledger.core.holding.obstacles import Block, Prism, Rod
from lean_ledger.core.holding.plate import PlateHold
from lean_ledger.core.holding.toe_clamps import ToeHold
from lean_ledger.core.holding.vise import ViseHold
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Allowances, SetupDecision, material_of
from lean_ledger.core.stock import StockState, first_stock
from lean_ledger.core.stock.block import Section
from lean_ledger.library import shipped_library
from tests.conftest import built, quick
from tests.values import bed

LIB = shipped_library()
MILL = LIB.machines[0]
UP = (0.0, 0.0, 1.0)
ALL = frozenset(f"H{i}" for i in range(1, 20))


@cache
def part_of(name: str) -> Part:
    bodies: dict[str, Body] = {
        "shaft": rod((0, 0, 0), UP, 40, 90),
        "collared": rod((0, 0, 0), UP, 30, 70) + rod((0, 0, 30), UP, 40, 6),
        "tapered": cone((0, 0, 0), UP, 44, 30, 40) + rod((0, 0, 40), UP, 30, 40),
        "block": block((0, 0, 0), (90, 50, 22)),
        "round plate": rounded_block((0, 0, 0), (80, 60, 16), 20),
        "disc": rod((0, 0, 0), UP, 84, 16),
        "wedge": prism([(0, 0), (80, 0), (60, 40), (20, 40)], 0, 20),
        "plate": _with_holes(6.6),
        "thin": block((0, 0, 0), (120, 90, 22)) - rounded_block((12, 12, 2), (108, 85, 22), 6),
    }
    return built(bodies[name])


def _with_holes(diameter: float) -> Body:
    part = block((0, 0, 0), (100, 60, 14))
    for x in (10, 90):
        for y in (10, 50):
            part -= rod((x, y, 0), UP, diameter, 14)
    return part


def finished(part: Part) -> StockState:
    """All walls around Z at size, nothing standing on the ends."""
    bounds = part.model.solid.bounds
    state = first_stock(bounds, Allowances(0, 0, 0, 0, 0, 0))
    return state.outlined(UP, bounds.min[2], bounds.max[2])


def held(part: Part, state: StockState, fixture: str, **more: object) -> Hold:
    decided = {key: more.pop(key) for key in ("grip", "turn") if key in more}
    setup = SetupDecision("S1", "Z+", fixture=fixture, **decided)  # type: ignore[arg-type]
    return resolve_hold(setup, Found(part, state, **more), LIB, bed(MILL))  # type: ignore[arg-type]


def codes(hold: Hold) -> set[str]:
    return {f.code for f in hold.findings("S1")}


# ---- chucks and collets


def test_chuck_grips_a_finished_cylinder_and_stands_on_its_body() -> None:
    part = part_of("shaft")
    hold = held(part, finished(part), "chuck-200")
    assert isinstance(hold, ChuckHold)
    assert hold.size == (40, 40)
    # nine tenths of Ø40 are 36, within the jaws' 38
    assert hold.grip == pytest.approx(36, abs=0.1)
    assert codes(hold) == set()
    # body 92 high, jaws 38 long, 36 of them gripping
    assert hold.seat == pytest.approx(92 + 38 - hold.grip)
    # 60 kN at µ 0.15
    assert hold.friction == pytest.approx(9000)


def test_chuck_has_three_jaws_that_touch_the_cylinder_and_a_round_body() -> None:
    part = part_of("shaft")
    *jaws, body = held(part, finished(part), "chuck-200").obstacles
    assert len(jaws) == 3
    assert isinstance(body, Rod)
    assert body.radius == 100
    for jaw in jaws:
        assert isinstance(jaw, Prism)
        inner = min((x * x + y * y) ** 0.5 for x, y in jaw.rings[0])
        assert inner == pytest.approx((20**2 + 16**2) ** 0.5), "its flat face touches in the middle"


@pytest.mark.parametrize(
    ("name", "code"), [("tapered", "taper-gripped"), ("block", "not-round"), ("round plate", "not-round")]
)
def test_chuck_refuses_what_is_no_cylinder(name: str, code: str) -> None:
    part = part_of(name)
    assert code in codes(held(part, finished(part), "chuck-200"))


def test_chuck_over_a_collar_closes_on_the_collar_only() -> None:
    part = part_of("collared")
    # Ø40 is 6 long, 10 are needed
    assert "grip-shallow" in codes(held(part, finished(part), "chuck-200", grip=36.0))
    below = held(part, finished(part), "chuck-200", grip=28.0)
    assert codes(below) == set()
    assert below.touches == "a finished cylinder Ø30, 28 long"


def test_rule_grips_up_to_the_shoulder() -> None:
    body = rod((0, 0, 0), UP, 30, 20) + rod((0, 0, 20), UP, 60, 40)
    part = built(body)
    assert held(part, finished(part), "chuck-200").grip == pytest.approx(20)


def test_chuck_takes_round_bar_and_no_square_block() -> None:
    part = part_of("shaft")
    bar = first_stock(part.model.solid.bounds, Allowances(), Section.ROUND, UP)
    assert codes(held(part, bar, "chuck-200")) == set()
    lying = replace(bar, along=(1.0, 0.0, 0.0))
    assert "not-round" in codes(held(part, lying, "chuck-200"))
    assert "not-round" in codes(held(part, first_stock(part.model.solid.bounds, Allowances()), "chuck-200"))


def test_four_jaws_take_a_square_block() -> None:
    part = part_of("shaft")
    hold = held(part, first_stock(part.model.solid.bounds, Allowances()), "chuck-160-four")
    assert codes(hold) == set()
    assert sum(isinstance(p, Block) for p in hold.obstacles) == 4


def test_chuck_s_range_is_checked() -> None:
    part = part_of("disc")
    big = first_stock(Bounds((-90, -90, 0), (90, 90, 40)), Allowances(), Section.ROUND, UP)
    assert "chuck-range" in codes(held(part, big, "chuck-200"))
    assert "chuck-range" not in codes(held(part, finished(part), "chuck-200"))


def test_short_grip_in_a_chuck_is_a_finding() -> None:
    part = part_of("shaft")
    assert "grip-shallow" in codes(held(part, finished(part), "chuck-200", grip=5.0))
    assert "grip-deep" in codes(held(part, finished(part), "chuck-200", grip=60.0))


def test_long_free_end_asks_for_support() -> None:
    part = built(rod((0, 0, 0), UP, 20, 90))
    # 18 gripped: 72 free, over three times 20
    assert "stands-far-out" in codes(held(part, finished(part), "chuck-200"))
    short = built(rod((0, 0, 0), UP, 20, 70))
    assert "stands-far-out" not in codes(held(short, finished(short), "chuck-200"))


def test_collet_takes_its_sizes_only() -> None:
    exact, odd = built(rod((0, 0, 0), UP, 20, 60)), built(rod((0, 0, 0), UP, 21, 60))
    hold = held(exact, finished(exact), "collet-42")
    assert isinstance(hold, ColletHold)
    assert codes(hold) == set()
    assert "collet-size" in codes(held(odd, finished(odd), "collet-42"))


@given(st.floats(min_value=0.0, max_value=0.5))
def test_collet_closes_by_half_a_millimetre(smaller: float) -> None:
    part = part_of("shaft")
    size = 40 - smaller
    bar = first_stock(Bounds((-size / 2, -size / 2, 0), (size / 2, size / 2, 90)), Allowances(0, 0, 0, 0, 0, 0))
    hold = held(part, replace(bar, section=Section.ROUND), "collet-42")
    assert "collet-size" not in codes(hold)


# ---- plates


def test_part_is_screwed_down_through_the_holes_that_are_there() -> None:
    part = part_of("plate")
    hold = held(part, finished(part), "plate-300", made=ALL)
    assert isinstance(hold, PlateHold)
    assert [s.way for s in hold.screws] == ["from above"] * 4
    assert codes(hold) == set()
    # four screws of 9 kN at µ 0.15, over and under the part: 2 · 0.15 · 36 kN
    assert hold.friction == pytest.approx(10_800)
    # 30 s to lay it on, 12 s a screw
    assert hold.load_seconds == 30 + 4 * 12
    heads = [p for p in hold.obstacles if p.what == "screw"]
    assert {(p.box.min[2], p.box.max[2]) for p in heads} == {(14, 20)}


def test_screw_heads_sink_into_counterbores() -> None:
    part = _with_holes(6.6)
    for x in (10, 90):
        for y in (10, 50):
            part -= rod((x, y, 8), UP, 11, 6)
    one = built(part)
    hold = held(one, finished(one), "plate-300", made=ALL)
    assert isinstance(hold, PlateHold)
    assert {s.head for s in hold.screws} == {8}


def test_holes_that_this_setup_makes_hold_nothing_and_are_named() -> None:
    part = part_of("plate")
    hold = held(part, finished(part), "plate-300", here=ALL)
    (finding,) = [f for f in hold.findings("S1") if f.code == "too-few-screws"]
    assert "this setup makes them itself" in finding.why


def test_threads_take_screws_from_below_that_leave_the_top_free() -> None:
    body = block((0, 0, 0), (100, 60, 14))
    for x in (10, 90):
        body -= drilled((x, 30, 0), UP, 5, 10)
    part = built(body)
    tapped = {f.id: 6.0 for f in part.features if f.kind == "hole"}
    hold = held(part, finished(part), "plate-300", made=ALL, tapped=tapped)
    assert isinstance(hold, PlateHold)
    assert [s.way for s in hold.screws] == ["from below"] * 2
    assert codes(hold) == set()
    assert all(p.what != "screw" for p in hold.obstacles)
    wrong = held(part, finished(part), "plate-300", made=ALL, tapped=dict.fromkeys(tapped, 8.0))
    assert "too-few-screws" in codes(wrong), "M8 threads take no M6 screws"


def test_dowels_go_into_holes_of_their_size() -> None:
    body = _with_holes(6.6) - rod((30, 30, 0), UP, 6, 14) - rod((70, 30, 0), UP, 6, 14)
    part = built(body)
    hold = held(part, finished(part), "plate-300", made=ALL)
    assert isinstance(hold, PlateHold)
    assert {part.by_id[id].diameter for id in hold.dowels} == {6}  # type: ignore[union-attr]
    assert dict(hold.words)["lies by"].startswith("dowels Ø6 in H")
    plain = held(part_of("plate"), finished(part_of("plate")), "plate-300", made=ALL)
    assert dict(plain.words)["lies by"] == "pins at two of its sides"


def test_screws_close_together_are_a_warning() -> None:
    body = block((0, 0, 0), (100, 60, 14)) - rod((40, 30, 0), UP, 6.6, 14) - rod((60, 30, 0), UP, 6.6, 14)
    part = built(body)
    assert "screws-near" in codes(held(part, finished(part), "plate-300", made=ALL))


def test_part_without_a_flat_underside_does_not_lie_on_a_plate() -> None:
    body = block((0, 0, 0), (100, 60, 14)) - rounded_block((1, 1, 0), (99, 59, 10), 5)
    for x in (10, 90):
        body -= rod((x, 30, 0), UP, 6.6, 14)
    part = built(body)
    assert "base-not-flat" in codes(held(part, finished(part), "plate-300", made=ALL))


def test_part_larger_than_the_plate_is_a_finding() -> None:
    part = built(block((0, 0, 0), (320, 60, 14)))
    assert "plate-small" in codes(held(part, finished(part), "plate-300"))


# ---- toe clamps and soft jaws


def test_toe_clamps_bite_low_and_leave_the_top_free() -> None:
    part = part_of("block")
    hold = held(part, first_stock(part.model.solid.bounds, Allowances()), "toe-400")
    assert isinstance(hold, ToeHold)
    assert codes(hold) == set()
    assert hold.lowest_outside_cut == pytest.approx(-2 + 5 + 1)
    # two pairs of 14 kN
    assert hold.friction == pytest.approx(2 * 0.15 * 28_000)
    toes = [p for p in hold.obstacles if p.what == "clamp"]
    assert len(toes) == 4
    assert {p.box.max[2] for p in toes} == {3}


def test_toe_clamps_need_flats_where_they_bite() -> None:
    disc = part_of("disc")
    assert "grip-not-flat" in codes(held(disc, finished(disc), "toe-400"))


def test_ground_jaws_need_flats_and_soft_jaws_take_the_outline() -> None:
    disc = part_of("disc")
    state = finished(disc)
    assert "grip-not-flat" in codes(held(disc, state, "vise-125"))
    soft = held(disc, state, "vise-125-soft")
    assert codes(soft) == set()
    around = [p for p in soft.obstacles if isinstance(p, Prism)]
    assert around, "the pocket has the part's outline"
    for piece in around:
        assert min((x * x + y * y) ** 0.5 for x, y in piece.rings[0]) >= 42 - 0.05


def test_sides_that_are_not_parallel_are_no_grip() -> None:
    wedge = part_of("wedge")
    state = finished(wedge)
    assert codes(held(wedge, state, "vise-125", turn=0)) <= {"grip-short"}
    assert "grip-not-flat" in codes(held(wedge, state, "vise-125", turn=90))


def test_the_rule_turns_to_soft_jaws_where_ground_ones_find_nothing_flat() -> None:
    disc = part_of("disc")
    setup = SetupDecision("S1", "Z+")
    assert resolve_hold(setup, Found(disc, finished(disc)), LIB, bed(MILL)).fixture.id == "vise-125-soft"
    plain = part_of("block")
    assert resolve_hold(setup, Found(plain, finished(plain)), LIB, bed(MILL)).fixture.id == "vise-100"


def test_double_station_vise_has_a_third_jaw_behind() -> None:
    part = part_of("block")
    hold = held(part, finished(part), "vise-125-double")
    assert isinstance(hold, ViseHold)
    jaws = sorted((p for p in hold.obstacles if p.what == "jaw"), key=lambda p: p.box.min[1])
    assert len(jaws) == 3
    # the free station stands open as far as the one in use
    assert jaws[2].box.min[1] - jaws[1].box.max[1] == pytest.approx(jaws[1].box.min[1] - jaws[0].box.max[1])


# ---- what is not to be gripped


def test_radius_is_no_grip_and_the_cylinder_above_it_is() -> None:
    body = rod((0, 0, 0), UP, 40, 60).rounded(15, lambda a, b: a[2] == b[2] == 0)
    part = built(body)
    assert "radius-gripped" in codes(held(part, finished(part), "chuck-200", grip=12.0))
    # Ø40 begins at 15: 13 of it lie between the jaws
    assert codes(held(part, finished(part), "chuck-200", grip=28.0)) == set()


def test_thread_is_no_grip() -> None:
    part = part_of("shaft")
    wall = next(f for f in part.features if isinstance(f, Turned) and f.where == "outside")
    stud = replace(wall, thread=ModelledThread(40.0, 1.5, 90.0, "right"))
    threaded = replace(part, features=tuple(stud if f.id == wall.id else f for f in part.features))
    assert "thread-gripped" in codes(held(threaded, finished(part), "chuck-200"))
    assert "thread-gripped" not in codes(held(part, finished(part), "chuck-200"))


def test_jaws_on_what_the_setup_is_to_cut_are_a_finding() -> None:
    part = built(rod((0, 0, 0), UP, 30, 40) + rod((0, 0, 40), UP, 50, 20))
    neck = next(f for f in part.features if isinstance(f, Turned) and f.where == "outside" and f.diameter == 30)
    plan = quick(part)
    own = held(part, finished(part), "chuck-200", here=frozenset([neck.id]))
    assert "grips-own-work" in {f.code for f in grip_findings("S1", own, plan, material_of(plan, LIB))}
    other = held(part, finished(part), "chuck-200", made=frozenset([neck.id]))
    assert grip_findings("S1", other, plan, material_of(plan, LIB)) == []
