"""First plans of made-up parts that would once have cut into something, judged by solids."""

from __future__ import annotations

from math import hypot

import pytest

from lean_ledger.core.changes.part import SetThread
from lean_ledger.core.changes.scene import Scene
from lean_ledger.core.followed.findings import stock_findings, with_stock
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.solids import Body, at_level, block, prism, rod, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.papers.plan_document import FirstPlan, first_plan, followed_plan, plan_document
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.library import shipped_library
from tests.cases.parts.drawn import drawn
from tests.cases.parts.named import NAMED, X, Z
from tests.conftest import built, demo_part, quick_ledger, with_machines

LIB = shipped_library()


def planned(body: Body, material: str = "al-6082") -> tuple[Part, FirstPlan]:
    """On the usual mill, whatever it leaves: whether another machine makes more is another question."""
    part = built(body)
    return part, followed_plan(part, quick_ledger(part, material))


def harm(part: Part, found: FirstPlan) -> list[str]:
    assert isinstance(found.outcome, Followed)
    return [f.title for f in stock_findings(part, found.ledger, found.outcome) if f.code != "stock-left"]


@pytest.mark.parametrize("material", ["steel-c45"])
def test_far_eye_of_a_fork_is_drilled_with_the_near_one(material: str) -> None:
    part, found = planned(NAMED["fork"](), material)
    assert harm(part, found) == []
    drilled = [op for op in found.ledger.operations if op.kind == "drill"]
    assert [len(op.features) for op in drilled] == [2]
    # 40 over both ears and the gap, the tip of 140° and 1 beyond: 40 + 6 / tan 70° + 1
    assert drilled[0].depth == pytest.approx(40 + 6 / 2.7475 + 1, abs=0.01)
    assert "in line over 40" in drilled[0].name


def test_two_eyes_of_other_sizes_are_not_one_hole() -> None:
    body = block((0, 0, 0), (60, 40, 50)) - block((-1, 12, 18), (61, 28, 51))
    _, found = planned(body - rod((30, -1, 36), (0, 1, 0), 14, 20) - rod((30, 20, 36), (0, 1, 0), 8, 30))
    assert all(len(op.features) == 1 for op in found.ledger.operations if op.kind == "drill")


def test_document_says_what_the_solids_say() -> None:
    part, found = planned(NAMED["link-plate"]())
    document = plan_document(part, found)
    assert document["part"]["volume"] == pytest.approx(part.model.solid.volume)
    assert [row["id"] for row in document["setups"]] == [load.decision.id for load in found.ledger.loads]
    assert isinstance(found.outcome, Followed)
    into = sum(r.volume for r in found.outcome.remainders if r.cut_into)
    assert document["into"]["volume"] == pytest.approx(into)


def test_the_same_seed_draws_the_same_part() -> None:
    for seed in (1, 2, 5):
        assert built(drawn(seed)).model.solid.volume == built(drawn(seed)).model.solid.volume
    assert len(NAMED) >= 27


def test_hole_under_standing_stock_is_drilled_from_the_top_of_it() -> None:
    # nothing cuts the stock over the ledge down: the rotary of the shop is not on this mill
    part, found = planned(NAMED["shaft-with-flats"]())
    assert harm(part, found) == []
    (cross,) = [op for op in found.ledger.operations if op.kind == "drill"]
    entry = cross.frame.point(next(f.position for f in part.features if f.id in cross.features))[2]  # type: ignore[union-attr]
    feed = [p[2] for s in cross.motion.strokes if not s.is_rapid for p in s.points]
    assert max(feed) > entry + 5, "it is fed down through what stands there"


#: Each would once have cut something: what, is said at the part.
SAFE = (
    "clevis", "flat-seat", "step-across-slot", "turned-rim", "lug-plate", "small-inch-clip",
)  # fmt: skip
#: Drawn ones that once were unsafe: a bore's wall, steps into one another, spots at walls, a countersink. Slower ones
#: (0, 19, 84, 103, 177, 312, 322, 429, 653, 805, 855, 1088) and the other named ones are judged by hand:
#: `bench/first_go.py`.
ONCE_UNSAFE = (58, 132, 216)


@pytest.mark.parametrize("name", SAFE)
def test_first_plan_of_a_part_harms_nothing(name: str) -> None:
    assert harm(*planned(NAMED[name]())) == []


@pytest.mark.parametrize("seed", ONCE_UNSAFE)
def test_first_plan_of_a_drawn_part_harms_nothing(seed: int) -> None:
    assert harm(*planned(drawn(seed))) == []


def test_walls_that_go_round_nothing_are_no_pocket() -> None:
    assert built(drawn(86)).features, "a slot's walls and a pocket's lie in one plane there"


def with_thread(body: Body, diameter: float, thread: str) -> tuple[Part, FirstPlan]:
    part = built(body)
    plan = quick_plan(part, "al-6082", (10,), LIB)
    plan, _ = SetThread(diameter, thread).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))
    return part, followed_plan(part, evaluate(plan, part, LIB))


def test_through_hole_is_drilled_beyond_the_tap_where_stock_stands_below() -> None:
    body = block((0, 0, 0), (60, 40, 20)) - rod((30, 20, -1), (0, 0, 1), 6.8, 22)
    part, found = with_thread(body, 6.8, "M8")
    assert harm(part, found) == []
    tap = next(op for op in found.ledger.operations if op.kind == "tap")
    drill = next(op for op in found.ledger.operations if op.kind == "drill")
    below = 20 - found.ledger.loads[0].built.before.bounds.min[2] - 20  # of stock under the part
    # 3 · 1.25 beyond for the tap; the drill at its full diameter through the stock below it at the most
    assert tap.depth == pytest.approx(20 + 3 * 1.25)
    assert drill.depth - 3.4 / 2.7475 == pytest.approx(20 + max(1.0, min(3 * 1.25 + 0.5, below)), abs=0.01)


def test_parallels_lie_where_no_tool_comes_through() -> None:
    # a row of holes along each long side, right over where parallels usually lie
    body = block((0, 0, 0), (90, 50, 20))
    for x in (20, 45, 70):
        body = body - rod((x, 7, -1), (0, 0, 1), 6.8, 22) - rod((x, 43, -1), (0, 0, 1), 6.8, 22)
    part, found = with_thread(body, 6.8, "M8")
    assert harm(part, found) == []
    hold = found.ledger.loads[0].built.hold
    holes = [(7 - 4, 7 + 4), (43 - 4, 43 + 4)]
    for piece in hold.under:
        low, high = piece.box.min[1], piece.box.max[1]
        assert all(high <= a or low >= b for a, b in holes), (low, high)
    assert ", 6 wide, " in dict(hold.words)["parallels"]


def test_hold_says_where_parallels_find_no_room() -> None:
    hold = quick_ledger(demo_part("sensor-base-plate")).loads[0].built.hold
    low, high = hold.gripped_y  # type: ignore[attr-defined]
    (left, right) = hold.stock.min[0], hold.stock.max[0]
    assert hold.clear_of([]) is hold
    nowhere = hold.clear_of([(left, low, right, high)])
    assert nowhere.under == ()
    assert [f.code for f in nowhere.findings("S1") if f.code == "no-seat"] == ["no-seat"]
    moved = hold.clear_of([(left, low, right, low + 12)])
    assert min(piece.box.min[1] for piece in moved.under) == pytest.approx(low + 13)
    assert not [f for f in moved.findings("S1") if f.code == "no-seat"]


def test_edge_of_a_boss_is_broken_from_outside() -> None:
    body = block((0, 0, 0), (60, 60, 10)) + rod((30, 30, 9), (0, 0, 1), 30, 11)
    body = body - rod((30, 30, -1), (0, 0, 1), 14, 22)
    part, found = planned(body.chamfered(1.0, at_level(20)))
    assert harm(part, found) == []
    (bevel,) = [op for op in found.ledger.operations if op.kind == "chamfer"]
    cuts = [s.points for s in bevel.motion.strokes if not s.is_rapid]
    x, y, z = cuts[-1][-1]
    # the flank's middle, 1.5 off the axis of a mill of 6, runs on the wall's edge: 15 + 1.5, and 1.5 below it
    assert hypot(x - 30, y - 30) == pytest.approx(16.5, abs=0.05)
    assert z == pytest.approx(19 - 1.5)
    assert any(op.kind == "countersink" for op in found.ledger.operations), "the hole's edge is broken along its axis"


def test_what_clears_the_way_down_comes_first() -> None:
    # the flange's holes begin in a shoulder that is cleared from 28 higher up
    ledger = quick_ledger(built(NAMED["flange"]()))
    spot = next(op for op in ledger.operations if op.kind == "spot")
    assert ("S1.T2.rough-pocket", "it clears the way down") in spot.after
    assert spot.motion.cycle is not None
    assert spot.motion.cycle.r == 16, "so that it is 2 above the shoulder at rapid"


def test_rapid_ends_above_what_nothing_clears() -> None:
    # the lug's cross hole begins 38 below stock that stays until the outline is cut from another side
    ledger = quick_ledger(built(NAMED["lug-plate"]()))
    spot = next(op for op in ledger.operations if op.id == "S3.H3.spot")
    top = ledger.loads[2].built.before.boxes()
    stands = max(spot.frame.box(one).max[2] for one in top)
    assert spot.motion.cycle is not None
    assert spot.motion.cycle.r >= stands - 1e-6
    assert spot.motion.cycle.bottom < stands - 30, "the rest of the way is fed"


@pytest.mark.parametrize("seed", [94, 132])
def test_nobody_waits_for_what_is_left_out(seed: int) -> None:
    ledger = quick_ledger(built(drawn(seed)))
    made = {op.id for op in ledger.operations}
    left_out = {f.operation for f in ledger.findings if f.code == "would-cut"}
    assert not made & left_out
    assert all(before in made for op in ledger.operations for before, _ in op.after)
    # they are still there to be given another tool
    assert {op.id for op in ledger.left_out} >= left_out


@pytest.mark.parametrize("seed", [494])
def test_bores_half_in_a_wall_small_rounds_and_walls_over_a_slot_are_safe(seed: int) -> None:
    part, found = planned(drawn(seed))
    assert harm(part, found) == []


@pytest.mark.parametrize("seed", [1371])
def test_part_that_once_broke_its_plan_is_planned_and_followed(seed: int) -> None:
    """A jaw that touches nothing beside a slot, a chamfer that no mill comes to, triangles that left a gap."""
    part, found = planned(drawn(seed))
    assert harm(part, found) == []


def test_bore_in_a_flange_that_is_turned_before_is_milled_all_the_same() -> None:
    """What stands over it is a ring of the bar: its mill comes down through that at feed, as it cannot in a helix."""
    hub = rod((0, 0, 0), Z, 104.8, 11.6) + rod((0, 0, 0), Z, 33.6, 28.6) - rod((0, 0, -1), Z, 13.9, 30.6)
    for x, y, d in ((36.68, 0, 4.4), (11.33, 34.88, 11.3), (-29.67, 21.56, 9.4), (-29.67, -21.56, 10.8)):
        hub -= rod((x, y, -1), Z, d, 13.6)
    hub -= rod((11.33, -34.88, -1), Z, 14.2, 13.6) + rod((0, 0, 20.1), X, 4.7, 57.4)
    part = built(hub)
    found = first_plan(part, "al-6082", (10,), LIB, ["lathe-driven"])
    assert [f for f in found.ledger.findings if f.severity == "error"] == []
    assert harm(part, found) == []


def test_corners_that_a_boss_makes_with_the_walls_are_said_to_stay_round() -> None:
    """A housing with a boss in a corner, lower than its walls: the pocket's own corners are round, those are sharp, and
    the step on the boss has the same walls as the pocket beneath it, which a thicker mill finishes.
    """
    housing = rounded_block((0, 0, 0), (70, 60, 31), 9) - rounded_block((5, 5, 5), (65, 55, 32), 4)
    housing += block((4.9, 4.9, 4.9), (14, 14, 28))
    part, found = planned(housing)
    assert harm(part, found) == []
    left = [f for f in stock_findings(part, found.ledger, found.outcome) if f.code == "stock-left"]  # type: ignore[arg-type]
    assert left
    assert {f.severity for f in left} == {"warning"}
    assert all("that the model has sharp" in f.why for f in left)


def test_flat_floor_of_a_bore_on_the_spindles_axis_keeps_the_drills_point_and_says_so() -> None:
    shaft = rod((0, 0, 0), Z, 30, 60) - rod((0, 0, 38), Z, 7.4, 23)
    part = built(shaft)
    found = first_plan(part, "al-6082", (10,), LIB, ["lathe-320"])
    (tip,) = [f for f in found.ledger.findings if f.code == "tip-left"]
    # Ø7.4 with 118°: 3.7 / tan 59° = 2.2
    assert tip.title.endswith("keeps its point, 2.2.")
    assert "On a lathe's axis nothing takes it off." in tip.why
    assert [f for f in stock_findings(part, found.ledger, found.outcome) if f.severity == "error"] == []  # type: ignore[arg-type]


def test_hole_beside_a_flange_that_the_holder_meets_is_one_finding_with_its_reason() -> None:
    """What stays lies in the hole, though films hang on it along the turned wall: and why is known before."""
    hub = rod((0, 0, 0), Z, 118, 14.5) + rod((0, 0, 0), Z, 41, 30) - rod((0, 0, -1), Z, 24.3, 32)
    part = built(hub - rod((0, 0, 22.25), X, 4.1, 64))
    found = first_plan(part, "al-6082", (10,), with_machines("mill-762", "lathe-320"))
    told = [f for f in with_stock(found.ledger, part, found.outcome).findings if f.severity == "error"]
    assert [f.code for f in told] == ["hole-short"]
    assert "out of its holder" in told[0].why


def test_wedge_turned_up_side_by_side_is_held_by_more_stock_where_jaws_keep_its_mill_off() -> None:
    wedge = prism([(0, 0), (70.9, 0), (70.9, 12.8), (40.75, 28.7), (0, 28.7)], 0, 56.7)
    part = built(wedge - rod((21.27, -1, 28.35), (0, 1, 0), 7.7, 33.7))
    found = first_plan(part, "al-6082", (10,), LIB, ["mill-762-rotary"])
    assert [f for f in found.ledger.findings if f.severity == "error"] == []
    assert [f for f in found.ledger.findings if f.code == "way-limited" and f.cures] == []
    assert harm(part, found) == []
    # 12 leave jaws 1.5 below the part. A holder of Ø28 wants its radius and 1 over them where its mill of Ø16 comes to
    # the part's end, 8 above it: 14 + 1 − 1.5 − 8 = 5.5 more free, of 25 more that the chuck grips as well
    assert found.ledger.plan.allowances.z_minus == 37
    assert found.ledger.setup("S1").built.hold.jaw_top <= -1.5 - 5.5
