"""Frames, zero points, stock through the setups, division into setups, and holding with each of its checks."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.solids import block, drilled, rod
from lean_ledger.core.geometry.vectors import cross, dot, norm
from lean_ledger.core.holding import JAW_CLEARANCE, Found, resolve_hold
from lean_ledger.core.holding.picture import end_view, top_view
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Allowances, MovedFeature, SetupDecision
from lean_ledger.core.setups import assign_features, frame_of, propose_setups
from lean_ledger.core.setups.frame import default_turn
from lean_ledger.core.stock import StockState, first_stock
from lean_ledger.library import shipped_library
from tests.conftest import built, demo_part, quick, quick_ledger
from tests.values import bed, in_setups

LIB = shipped_library()
MILL = LIB.machines[0]
PART = Bounds((0, 0, 0), (90, 50, 22))
SIDES = st.sampled_from(sorted(DIRECTIONS))
TURNS = st.sampled_from([0, 90, 180, 270])


# ---- frames


@given(SIDES, TURNS)
def test_frame_is_right_handed_with_the_side_up(side: str, turn: int) -> None:
    frame = frame_of(side, turn)
    assert frame.up == DIRECTIONS[side]
    assert cross(frame.right, frame.back) == pytest.approx(frame.up)
    assert norm(frame.right) == pytest.approx(1)
    assert dot(frame.right, frame.up) == 0


@given(SIDES, TURNS)
def test_box_keeps_its_volume_in_every_frame(side: str, turn: int) -> None:
    size = frame_of(side, turn).box(PART).size
    assert size[0] * size[1] * size[2] == pytest.approx(90 * 50 * 22)


def test_longer_side_lies_along_the_jaws() -> None:
    assert default_turn("Z+", PART) == 0
    assert default_turn("Z+", Bounds((0, 0, 0), (50, 90, 22))) == 90


# ---- stock


def test_stock_is_the_part_and_its_allowances() -> None:
    state = first_stock(PART, Allowances(1, 2, 3, 4, 5, 6))
    assert state.bounds == Bounds((-1, -3, -5), (92, 54, 28))
    assert state.boxes() == (state.bounds,)


def test_faced_side_has_nothing_left_on_it() -> None:
    state = first_stock(PART, Allowances()).faced("Z+")
    assert state.bounds.max[2] == 22
    assert state.over_side("Z+") == 0
    assert state.over_side("Z-") == 2


def test_half_cut_outline_leaves_a_finished_and_a_rough_stretch() -> None:
    state = first_stock(PART, Allowances()).faced("Z+").outlined((0, 0, 1), 7, 22)
    rough, finished = state.boxes()
    assert (rough.min, rough.max) == ((-2, -2, -2), (92, 52, 7))
    assert (finished.min, finished.max) == ((0, 0, 7), (90, 50, 22))
    assert state.over_side("Y+") == 2, "stock still stands on the rough stretch"
    whole = state.outlined((0, 0, 1), 0, 7)
    assert whole.over_side("Y+") == 0
    assert len(whole.boxes()) == 2, "what is below the part is rough still"


# ---- division


def test_plate_takes_two_setups_most_machining_first() -> None:
    setups = propose_setups(demo_part("sensor-base-plate"), Allowances(), MILL.id)
    assert [one.setup.up for one in setups] == ["Z+", "Z-"]


def test_plate_without_stock_below_takes_one_setup() -> None:
    setups = propose_setups(demo_part("sensor-base-plate"), Allowances(z_minus=0), MILL.id)
    assert [one.setup.up for one in setups] == ["Z+"]


def test_hole_in_the_front_asks_a_third_setup_after_the_outline_is_whole() -> None:
    setups = propose_setups(demo_part("louvre-bracket"), Allowances(), MILL.id)
    assert [one.setup.up for one in setups] == ["Z+", "Z-", "Y-"]


def test_more_machining_from_below_turns_the_part_over_first() -> None:
    body = block((0, 0, 0), (60, 40, 20)) - drilled((30, 20, 0), (0, 0, 1), 10, 12)
    assert [one.setup.up for one in propose_setups(built(body), Allowances(), MILL.id)] == ["Z-", "Z+"]


@pytest.mark.parametrize("name", ["sensor-base-plate", "louvre-bracket", "gear-housing-lid", "mast-clamp-half"])
def test_each_feature_stands_in_a_setup_that_reaches_it(name: str) -> None:
    part = demo_part(name)
    plan = quick(part)
    assigned = assign_features(part, plan)
    placed = {f for ids in assigned.values() for f in ids}
    assert placed == {f.id for f in part.features}
    for setup in plan.setups:
        for id in assigned[setup.id]:
            feature = part.by_id[id]
            if feature.kind in ("hole", "pocket", "slot", "step"):
                assert any(dot(d, DIRECTIONS[setup.up]) > 0.999 for d in feature.access)


def test_through_hole_can_be_moved_to_the_other_setup() -> None:
    part = demo_part("mast-clamp-half")
    plan = quick(part)
    assert "H7" in assign_features(part, plan)["S1"]
    moved = replace(plan, moved=(MovedFeature("H7", "S2"),))
    assert "H7" in assign_features(part, moved)["S2"]
    assert "H7" not in assign_features(part, moved)["S1"]


# ---- holding


@cache
def block_of(bounds: Bounds) -> Part:
    return built(block(bounds.min, bounds.max))


def held_in(setup: SetupDecision, state: StockState):  # type: ignore[no-untyped-def]
    return resolve_hold(setup, Found(block_of(state.part), state), LIB, bed(MILL))


def hold(bounds: Bounds = PART, allowances: Allowances | None = None, **decided):  # type: ignore[no-untyped-def]
    setup = SetupDecision("S1", "Z+", **decided)
    return setup, held_in(setup, first_stock(bounds, allowances or Allowances()))


def codes(setup, held) -> set[str]:  # type: ignore[no-untyped-def]
    return {f.code for f in held.findings(setup.id)}


def test_rule_takes_the_smallest_vise_that_opens_wide_enough() -> None:
    assert hold()[1].vise.id == "vise-100"
    assert hold(Bounds((0, 0, 0), (200, 110, 22)))[1].vise.id == "vise-125"
    assert codes(*hold()) == set()


def test_grip_by_the_rule_lies_on_a_parallel_of_the_shop() -> None:
    _, held = hold()
    assert held.grip == 8
    assert held.parallel == held.vise.jaw_height - 8
    assert held.jaw_top == pytest.approx(-2 + 8)
    assert held.lowest_outside_cut == held.jaw_top + JAW_CLEARANCE


def test_low_stock_is_gripped_over_a_third_at_most() -> None:
    _, held = hold(Bounds((0, 0, 0), (90, 50, 8)))
    assert held.grip <= 0.34 * 12


def test_stock_wider_than_the_vise_opens_is_a_finding_with_a_cure() -> None:
    _, held = hold(Bounds((0, 0, 0), (300, 120, 22)), fixture="vise-100")
    found = next(f for f in held.findings("S1") if f.code == "vise-opening")
    assert "124.0 wide" in found.title
    assert found.cures[0].change == {"change": "set-fixture", "setup": "S1", "fixture": None}
    assert "vise-opening" not in codes(*hold(Bounds((0, 0, 0), (150, 120, 22)), fixture="vise-125"))


def test_grip_below_the_vise_s_least_is_a_finding() -> None:
    assert "grip-shallow" in codes(*hold(grip=2.0))
    assert "grip-shallow" not in codes(*hold(grip=3.0))


def test_grip_over_the_jaws_height_is_a_finding() -> None:
    assert "grip-deep" in codes(*hold(Bounds((0, 0, 0), (90, 50, 60)), grip=40.0))
    assert "grip-deep" not in codes(*hold(Bounds((0, 0, 0), (90, 50, 60)), grip=24.0))


def test_tall_part_on_a_low_grip_is_a_warning() -> None:
    assert "grip-low-share" in codes(*hold(Bounds((0, 0, 0), (90, 50, 100)), grip=4.0))
    assert "grip-low-share" not in codes(*hold(Bounds((0, 0, 0), (90, 50, 100)), grip=12.0))


def test_grip_without_a_parallel_names_the_nearest() -> None:
    _, held = hold(grip=7.3)
    found = next(f for f in held.findings("S1") if f.code == "no-parallel")
    assert found.cures[0].change == {"change": "set-grip", "setup": "S1", "grip": 8.0}
    assert "no-parallel" not in codes(*hold(grip=8.0))


def test_jaws_over_the_edge_of_finished_and_rough_wall_are_a_finding() -> None:
    setup = SetupDecision("S2", "Z-", grip=18.0)
    state = first_stock(PART, Allowances()).faced("Z+").outlined((0, 0, 1), 7, 22)
    assert "grip-over-edge" in codes(setup, held_in(setup, state))
    low = replace(setup, grip=8.0)
    assert "grip-over-edge" not in codes(low, held_in(low, state))


def test_second_setup_grips_finished_walls_clear_of_its_own_cut() -> None:
    ledger = quick_ledger(demo_part("sensor-base-plate"))
    second = ledger.loads[1].built.hold
    assert second.opening == pytest.approx(90), "the part's own width, not the stock's"
    cuts = [op for op in ledger.loads[1].built.operations if op.kind == "finish outline"]
    lowest = min(p[2] for op in cuts for s in op.motion.strokes for p in s.points)
    assert lowest >= second.lowest_outside_cut - 1e-6


def test_unknown_vise_is_refused_with_the_known_ones() -> None:
    with pytest.raises(PlanError, match="there is no fixture v9; the library has vise-100"):
        hold(fixture="v9")


def test_nothing_is_cut_below_the_jaws() -> None:
    for name in ("sensor-base-plate", "mast-clamp-half", "gear-housing-lid", "anemometer-arm-block"):
        for setup in quick_ledger(demo_part(name)).loads:
            held = setup.built.hold
            for op in setup.built.operations:
                if op.kind in ("rough outline", "finish outline", "face"):
                    lowest = min(p[2] for s in op.motion.strokes for p in s.points)
                    assert lowest >= held.jaw_top + JAW_CLEARANCE - 1e-6, (name, op.id)


def test_outline_is_cut_over_the_whole_height_by_both_setups_together() -> None:
    ledger = quick_ledger(demo_part("mast-clamp-half"))
    assert "outline-short" not in {f.code for f in ledger.findings}
    last = ledger.loads[-1].built.after
    assert last.walls is not None
    assert (last.walls.low, last.walls.high) == (pytest.approx(0), pytest.approx(24))


def test_single_setup_leaves_the_outline_short_and_says_what_helps() -> None:
    part = demo_part("mast-clamp-half")
    plan = quick(part)
    one = replace(in_setups(plan, plan.clamped[0]), allowances=plan.allowances.with_side("Z-", 0.0))
    found = next(f for f in evaluate(one, part, LIB).findings if f.code == "outline-short")
    assert {"change": "add-setup", "up": "Z-"} in [c.change for c in found.cures]
    deeper = next(c.change for c in found.cures if c.change["change"] == "set-allowance")
    mended = replace(one, allowances=one.allowances.with_side("Z-", float(deeper["value"])))
    assert "outline-short" not in {f.code for f in evaluate(mended, part, LIB).findings}


def test_part_that_is_cut_from_below_first_has_its_outline_whole() -> None:
    body = block((0, 0, 0), (60, 40, 20)) - drilled((30, 20, 0), (0, 0, 1), 10, 12)
    ledger = quick_ledger(built(body))
    assert [s.decision.up for s in ledger.loads] == ["Z-", "Z+"]
    assert not ledger.findings
    assert ledger.loads[1].built.hold.opening == pytest.approx(40), "it grips the walls that are finished"


@pytest.mark.parametrize("up", ["X-", "X+", "Y-", "Y+", "Z-", "Z+"])
def test_holding_and_outline_work_whichever_side_is_up_first(up: str) -> None:
    into = tuple(-c for c in DIRECTIONS[up])
    entry = tuple(35.0 if c > 0 else 0.0 if c < 0 else 17.5 for c in DIRECTIONS[up])
    part = built(block((0, 0, 0), (35, 35, 35)) - drilled(entry, into, 10, 12))  # type: ignore[arg-type]
    ledger = quick_ledger(part)
    assert ledger.loads[0].decision.up == up
    assert not [f for f in ledger.findings if f.severity == "error"]
    assert len(ledger.loads) == 2


def test_thin_plate_gets_stock_to_hold_by() -> None:
    part = built(block((0, 0, 0), (100, 60, 4)) - rod((50, 30, 0), (0, 0, 1), 8, 4))
    assert quick(part).allowances.z_minus == 5
    assert not [f for f in quick_ledger(part).findings if f.severity == "error"]


def test_picture_is_to_scale() -> None:
    _, held = hold()
    boxes = {b.what: b for b in end_view(held)}
    stock = boxes["stock"]
    assert (stock.width, stock.height) == (54, 26)
    jaws = [b for b in end_view(held) if b.what == "jaw"]
    assert max(b.y + b.height for b in jaws) == pytest.approx(held.jaw_top)
    assert jaws[0].x + jaws[0].width == pytest.approx(stock.x)
    assert {b.what for b in top_view(held)} == {"jaw", "stock"}
