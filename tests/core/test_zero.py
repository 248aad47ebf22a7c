"""The zero: its point, how it is touched off, what the rule proposes, and where features lie from it."""

from __future__ import annotations

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.features import Hole
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, Zero
from lean_ledger.core.setups.frame import frame_of
from lean_ledger.core.setups.zero import Bore, Surroundings, choices, coordinates, proposed_zero, touch_off, zero_point
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick, quick_ledger

LIB = shipped_library()
BLOCK = Surroundings(Bounds((-2, -2, -2), (92, 52, 24)), Bounds((0, 0, 0), (90, 50, 22)), (Bore("H7", 30, 20, 42),))


@pytest.mark.parametrize(
    ("zero", "point"),
    [
        (Zero(), (45, 25, 24)),
        (Zero("part", "left front", "bottom"), (0, 0, 0)),
        (Zero("stock", "right back", "top"), (92, 52, 24)),
        (Zero("stock", "left"), (-2, 25, 24)),
        (Zero("part", "back"), (45, 50, 22)),
        (Zero("bore", bore="H7"), (30, 20, 22)),
        (Zero("bore", bore="H9"), (45, 25, 22)),  # not there: the part's middle, and a finding
    ],
)
def test_point_of_a_zero(zero: Zero, point: tuple[float, float, float]) -> None:
    assert zero_point(zero, BLOCK) == point


@pytest.mark.parametrize(
    ("zero", "words"),
    [
        (Zero("part", "left front"), "edge finder on the left and the front side of the finished part"),
        (Zero("stock", "front"),
         "edge finder on the front side of the stock, and on both along X (94.00), zero in the middle"),
        (Zero("part", "right"),
         "edge finder on the right side of the finished part, and on both along Y (50.00), zero in the middle"),
        (Zero("bore", bore="H7"), "indicate bore H7, Ø42.00, zero on its axis"),
        (Zero(), "edge finder on both sides of the stock along X (94.00) and Y (54.00), zero in the middle"),
    ],
)  # fmt: skip
def test_touch_off_says_which_sides_or_which_bore(zero: Zero, words: str) -> None:
    assert touch_off(zero, BLOCK, "G55", "the parallels")[0] == f"G55 X Y: {words}"


@pytest.mark.parametrize(
    ("zero", "turn", "words"),
    [
        (Zero("part", "left front"), 90, "edge finder on the right and the front side of the finished part"),
        (Zero("part", "left front"), 180, "edge finder on the right and the back side of the finished part"),
        (Zero("part", "left front"), 270, "edge finder on the left and the back side of the finished part"),
        (Zero("stock", "front"), 90,
         "edge finder on the right side of the stock, and on both along Y (94.00), zero in the middle"),
        (Zero("stock", "front"), 180,
         "edge finder on the back side of the stock, and on both along X (94.00), zero in the middle"),
        (Zero(), 270, "edge finder on both sides of the stock along X (54.00) and Y (94.00), zero in the middle"),
        (Zero("bore", bore="H7"), 90, "indicate bore H7, Ø42.00, zero on its axis"),
    ],
)  # fmt: skip
def test_touch_off_of_a_turned_piece_names_the_sides_that_the_setter_sees(zero: Zero, turn: int, words: str) -> None:
    assert touch_off(zero, BLOCK, "G55", "the parallels", turn)[0] == f"G55 X Y: {words}"


def test_touch_off_of_a_top_that_does_not_exist_yet_counts_from_the_parallels() -> None:
    place = Surroundings(Bounds((-2, -2, 0), (92, 52, 24)), BLOCK.part)
    assert (
        touch_off(Zero("part", "left front"), place, "G55", "the parallels")[1]
        == "G55 Z: touch the parallels, then add 22.000"
    )


def test_choices_are_corners_edge_middles_centres_and_bores_each_once() -> None:
    found = choices(BLOCK)
    # nine of the stock, eight more of the part whose middle is the stock's, one bore
    assert len(found) == 9 + 8 + 1
    assert (found[-1].zero.bore, found[-1].x, found[-1].y) == ("H7", 30, 20)
    assert len(choices(Surroundings(BLOCK.part, BLOCK.part))) == 9


def test_rule_takes_the_stock_first_then_a_wide_bore_else_an_edge() -> None:
    assert proposed_zero(0, BLOCK)[0] == Zero()
    zero, why = proposed_zero(1, BLOCK)
    assert (zero.of, zero.bore) == ("bore", "H7")
    assert "wide enough to indicate" in why
    narrow = Surroundings(BLOCK.stock, BLOCK.part, (Bore("H1", 5, 5, 8),))
    assert proposed_zero(1, narrow)[0] == Zero("part", "left front")


def moved(plan: Plan, part: Part, **change: object) -> tuple[Ledger, str]:
    made, words = read_change({"change": "set-zero", **change}).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))
    return evaluate(made, part, LIB), words


def test_bore_counts_once_a_setup_before_has_made_it() -> None:
    part = demo_part("mast-clamp-half")
    plan = quick(part)
    bore = next(f.id for f in part.features if isinstance(f, Hole) and f.diameter == 42)
    there, words = moved(plan, part, setup="S2", of="bore", bore=bore)
    assert words == f"setup S2: zero bore {bore}, top"
    assert "zero-on-nothing" not in {f.code for f in there.findings}
    place = there.zero_place(part, 1)
    assert place.bores[0].id == bore
    assert there.zero_place(part, 0).bores == ()
    early, _ = moved(plan, part, setup="S1", of="bore", bore=bore)
    finding = next(f for f in early.findings if f.code == "zero-on-nothing")
    assert "which is not there when S1 begins" in finding.title
    assert finding.cures[0].change["of"] == "part"
    with pytest.raises(PlanError, match="no feature H99"):
        moved(plan, part, setup="S2", of="bore", bore="H99")


def test_coordinates_of_a_feature_count_from_the_zero() -> None:
    part = demo_part("sensor-base-plate")
    ledger = quick_ledger(part)
    place = ledger.zero_place(part, 0)
    corner = zero_point(Zero("stock", "left front"), place)
    hole = next(f for f in part.features if isinstance(f, Hole) and f.diameter == 30)
    (found,) = coordinates(part, frame_of("Z+", 0), [hole], corner)
    low, high = place.stock.min, place.part.max
    assert (found.x, found.y) == pytest.approx((hole.position[0] - low[0], hole.position[1] - low[1]))
    # the stock's top is 2 above the part's: the bore begins there and goes through 16
    assert (found.top, found.bottom) == pytest.approx((high[2] - place.stock.max[2], -2 - hole.depth))
    all_of_it = coordinates(part, frame_of("Z+", 0), part.features, corner)
    assert all(c.x >= 0 and c.y >= 0 for c in all_of_it), "from the stock's corner all X and Y are positive"


def test_zero_that_nobody_set_is_the_rule_s_and_follows_what_is_made_before() -> None:
    part = demo_part("mast-clamp-half")
    plan = quick(part)
    assert all(setup.zero is None for setup in plan.setups)
    ledger = evaluate(plan, part, LIB)
    assert ledger.zero_of(part, 0) == Zero()
    bore = ledger.zero_of(part, 1)
    assert (bore.of, part.by_id[bore.bore].kind) == ("bore", "hole")
    # without the bore in the first setup the second one has an edge to touch
    change = read_change({"change": "leave-out", "features": [bore.bore], "reason": "made elsewhere"})
    left_out = change.apply(plan, Scene(part, LIB, ledger))[0]
    without = evaluate(left_out, part, LIB).zero_of(part, 1)
    assert without != bore
    by_hand, _ = moved(plan, part, setup="S2", of="part", place="left front")
    assert by_hand.zero_of(part, 1) == Zero("part", "left front")
