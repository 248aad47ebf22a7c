"""What a part is bought as: other forms beside a plan, sides that stay as bought, hexagonal bars in three jaws."""

from __future__ import annotations

from dataclasses import replace
from math import atan2, degrees, hypot, sqrt

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.first.bought import bought_otherwise
from lean_ledger.core.first.machine import begun, begun_on
from lean_ledger.core.first.mended import errors_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.holding.obstacles import Prism
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.papers.plan_document import followed_plan
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, Said, StockChoice
from lean_ledger.core.stock.sizes import listed_sides
from lean_ledger.library import shipped_library
from tests.cases.parts.named import Z
from tests.cases.parts.wider import hexagon, hexagon_fitting, nut
from tests.conftest import built, quick, quick_ledger, with_machines

LIB = shipped_library()
FEW = with_machines("mill-762", "lathe-320", "lathe-driven")


PLATE = built(block((0, 0, 0), (60, 40, 20)) - rod((30, 20, 0), Z, 6, 20))
FITTING = built(hexagon_fitting())


def changed(part: Part, plan: Plan, **change: object) -> tuple[Plan, str]:
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    return read_change({"change": "set-stock", **change}).apply(plan, scene)


def test_every_other_form_stands_beside_the_plan_the_least_first() -> None:
    """Of the list 60 × 40, 40 × 20, 60 × 20 and plate 20, 40, 60 have sides of 60 × 40 × 20; nothing holds less than
    the block and spares no side.
    """
    ledger = quick_ledger(PLATE)
    found = bought_otherwise(quick(PLATE), ledger, PLATE, LIB)
    evaluated = [one for one in found if one.ledger is not None]
    assert {one.words for one in evaluated} == {
        "rectangular bar 60 × 40 × 24, X and Y as bought", "rectangular bar 40 × 20 × 64, Y and Z as bought",
        "rectangular bar 60 × 20 × 44, X and Z as bought", "plate 20, 64 × 44, Z as bought",
        "plate 40, 64 × 24, Y as bought", "plate 60, 44 × 24, X as bought",
    }  # fmt: skip
    assert [one.each for one in evaluated] == sorted(one.each for one in evaluated if one.each is not None)
    assert found[: len(evaluated)] == tuple(evaluated)
    for one in found[len(evaluated) :]:
        assert one.only_more
        assert one.more >= 0
        # what is not evaluated is not cheaper
        assert evaluate(one.plan, PLATE, LIB).prices[0].each >= ledger.prices[0].each
    first = evaluated[0]
    # 60 × 40 × 24 beside 64 × 44 × 24
    assert first.more == pytest.approx(60 * 40 * 24 - 64 * 44 * 24)
    plan, words = changed(PLATE, quick(PLATE), form="rectangular bar", along="Z", sizing="next size up", stay=True)
    assert words == "stock: rectangular bar, along Z, the next size up of the list, X and Y as bought"
    now = evaluate(plan, PLATE, LIB)
    assert now.prices[0].each == first.each
    assert first.each_change == now.prices[0].each - ledger.prices[0].each
    assert not any("outline" in op.id for op in now.operations)
    followed = followed_plan(PLATE, now)
    assert isinstance(followed.outcome, Followed)
    assert stock_findings(PLATE, now, followed.outcome) == []


def test_what_there_was_no_time_for_is_not_said_to_be_more() -> None:
    found = bought_otherwise(quick(PLATE), quick_ledger(PLATE), PLATE, LIB, until=0.0)
    assert all(one.ledger is None for one in found)
    assert {one.only_more for one in found} == {True, False}
    words = replace(begun(PLATE, "al-6082", (10,), FEW), otherwise=found).words
    assert words.endswith("; 6 other forms hold more; 6 not tried, it would take too long")


def test_of_a_flat_bar_only_what_is_at_size_stays() -> None:
    """48 × 20 out of 50 × 20: those 20 apart stay; the width is milled."""
    part = built(block((0, 0, 0), (90, 48, 20)))
    plan = replace(quick(part), stock=StockChoice("rectangular bar", sizing="next size up"))
    assert listed_sides(plan, part, LIB.stock) == ("Z-", "Z+")
    taken, _ = changed(part, plan, stay=True)
    box = evaluate(taken, part, LIB).stock.bounds
    assert box.size == pytest.approx((94.0, 60.0, 20.0))  # 52 asked for, 60 × 20 is the least with both


def test_what_a_drawing_asks_more_of_does_not_stay() -> None:
    top = next(f.id for f in PLATE.features if getattr(f, "normal", None) == (0.0, 0.0, 1.0))
    plan = replace(quick(PLATE), said=(Said(top, tolerance="±0.02"),))
    with pytest.raises(PlanError, match=f"{top} is to have ±0.02, which no bar or plate comes with"):
        changed(PLATE, plan, form="plate", sizing="next size up", stay=True)
    with pytest.raises(PlanError, match="take the next size up"):
        changed(PLATE, plan, form="plate", stay=True)
    with pytest.raises(PlanError, match="no side of the part is as large as a listed size"):
        changed(PLATE, plan, form="block", sizing="next size up", stay=True)
    assert all("Z" not in "".join(one.stays) for one in bought_otherwise(plan, quick_ledger(PLATE), PLATE, LIB))


def test_sides_that_stayed_get_stock_again_where_what_is_bought_then_does_not_have_them() -> None:
    """Two sides of the bar stay; sawn from a plate they would be as sawn."""
    bar, _ = changed(PLATE, quick(PLATE), form="rectangular bar", along="Z", sizing="next size up", stay=True)
    assert [bar.allowances.on(side) for side in ("X-", "X+", "Y-", "Y+", "Z-", "Z+")] == [0, 0, 0, 0, 2, 2]
    plate, words = changed(PLATE, bar, form="plate", along="Z", stay=True)
    assert words == "stock: plate, along Z, 2 over X and Y again, Z as bought"
    assert [plate.allowances.on(side) for side in ("X-", "X+", "Y-", "Y+", "Z-", "Z+")] == [2, 2, 2, 2, 0, 0]


@pytest.mark.parametrize("turned", [0, 30])
def test_fitting_is_turned_from_the_hexagonal_bar_that_its_flats_are(turned: int) -> None:
    """24 across flats: √3/2 · 24² · 51 = 25 440 mm³, beside π/4 · 31.71² · 51 = 40 280 of the round bar around it.
    Three jaws close on the flats, then on the Ø18 that was turned.
    """
    part = built(hexagon_fitting(turned)) if turned else FITTING
    first, *others = begun(part, "al-6082", (10,), FEW).plans
    assert first.name == "Lathe 1"
    assert first.left == 0
    assert first.bought == "hexagonal bar 24 across flats × 51, its flats as bought"
    assert first.ledger.stock.volume == pytest.approx(sqrt(3) / 2 * 24**2 * 51)
    grips = [dict(s.built.hold.words)["grips"] for s in first.ledger.setups]
    assert grips[0].startswith("a rough hexagon 24 across flats")
    assert grips[1].startswith("a finished cylinder Ø18")
    assert all(one.left or one.each > first.each for one in others)
    followed = followed_plan(part, first.ledger)
    assert isinstance(followed.outcome, Followed)
    assert stock_findings(part, first.ledger, followed.outcome) == []
    again = begun_on(quick(part), ("lathe-320",), part, FEW)
    assert (again.each, again.bought) == (first.each, first.bought), "what is named is what one gets"


def test_nut_s_corners_are_turned_between_jaws_that_close_on_its_flats() -> None:
    part = built(nut())
    best = begun(part, "al-6082", (10,), FEW).best
    assert (best.name, best.left) == ("Lathe 1", 0)
    last = best.ledger.setups[-1]
    assert "hexagon 24 across flats" in dict(last.built.hold.words)["grips"]
    corners = next(f.id for f in part.features if type(f).__name__ == "FreeSurface")
    assert [op.kind for op in best.ledger.operations if corners in op.features] == ["finish turn"]
    followed = followed_plan(part, best.ledger)
    assert isinstance(followed.outcome, Followed)
    assert stock_findings(part, best.ledger, followed.outcome) == []


@pytest.mark.parametrize("turned", [0, 30])
def test_jaws_of_a_hexagon_stand_on_flats(turned: int) -> None:
    """Each 12 off the axis, square to every second flat of the part."""
    part = built(hexagon_fitting(turned)) if turned else FITTING
    hold = begun_on(quick(part), ("lathe-320",), part, FEW).ledger.setups[0].built.hold
    jaws = [piece for piece in hold.obstacles if isinstance(piece, Prism) and piece.what == "jaw"]
    assert len(jaws) == 3
    for jaw in jaws:
        a, _, _, b = jaw.rings[0]
        x, y, _ = hold.frame.in_part(((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, 0.0))
        assert hypot(x, y) == pytest.approx(12)
        assert (degrees(atan2(y, x)) - 30 - turned) % 60 == pytest.approx(0, abs=1e-6) or (
            (degrees(atan2(y, x)) - 30 - turned) % 60 == pytest.approx(60, abs=1e-6)
        )


def test_short_disc_is_not_faced_between_the_jaws() -> None:
    """5 high, and jaws that need 6: turned over, its end would lie 1 to 5 below theirs."""
    part = built(rod((0, 0, 0), Z, 30, 5) - rod((0, 0, -1), Z, 10, 9))
    lathe = LIB.machine("lathe-320")
    assert lathe is not None
    ledger = evaluate(moved_to(quick(part), lathe, part, LIB), part, LIB)
    for one in ledger.setups:
        faced = [op for op in one.built.operations if op.kind == OperationKind.FACE_TURN]
        end = one.built.home.frame.box(part.model.solid.bounds).max[2]
        assert bool(faced) == (one.built.hold.jaw_top <= end + 1e-6)
    (between,) = [f for f in errors_of(ledger) if f.code == "cut-below-jaws"]
    assert between.setup == ledger.setups[-1].decision.id


@settings(max_examples=12)
@given(st.sampled_from([*LIB.stock.hexagonal, 12.5, 23.0, 33.3]), st.sampled_from([0.0, 30.0, 17.0]))
def test_flats_stay_where_the_list_has_the_size_and_the_bar_lies_as_the_part(flats: float, turned: float) -> None:
    part = built(hexagon(flats, 0, 10, turned) + rod((0, 0, 10), Z, flats / 2, 10))
    plan = replace(quick(part), stock=StockChoice("hexagonal bar", along="Z", sizing="next size up"))
    stays = listed_sides(plan, part, LIB.stock)
    assert stays == (("X-", "X+", "Y-", "Y+") if flats in LIB.stock.hexagonal and turned != 17.0 else ())
