"""The machine of a new plan, the bar of what is turned, and what holds a part seen from another side."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from math import hypot

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.features import Turned
from lean_ledger.core.first.again import BeginAgain
from lean_ledger.core.first.machine import beginnings, begun, begun_on
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.solids import block, rod, rounded_block
from lean_ledger.core.holding.obstacles import Block, Rod, seen_along
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to, on_machines
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.papers.plan_document import first_plan, followed_plan
from lean_ledger.core.plan import RateEdits, Said
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.stock.block import Section
from lean_ledger.core.stock.sizes import sized_stock
from lean_ledger.library import shipped_library
from tests.cases.parts.drawn import drawn
from tests.cases.parts.named import NAMED
from tests.cases.parts.wider import WIDER
from tests.conftest import built, demo_part, with_machines

LIB = shipped_library()
FROM_ABOVE = Frame((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
FROM_THE_SIDE = Frame((0.0, 1.0, 0.0), (0.0, 0.0, 1.0), (1.0, 0.0, 0.0))  # looking along −X


def errors(ledger: Ledger) -> list[str]:
    return [f.title for f in ledger.findings if f.severity == Severity.ERROR]


MILL = LIB.machines[0]
#: A plan is not begun where several carriages would have to be put to work at once.
BEGUN = tuple(machine for machine in LIB.machines if not machine.works_at_once and not machine.counter)
FEW = with_machines("mill-762", "lathe-320", "lathe-driven")
PLATE = block((0, 0, 0), (60, 40, 20)) - rod((30, 20, 0), (0, 0, 1), 6, 20)


@pytest.mark.parametrize("seed", [36])
def test_round_part_that_a_mill_leaves_things_of_begins_on_a_lathe_from_a_bar(seed: int) -> None:
    part = built(drawn(seed))
    plans = begun(part, "al-6082", (10,), FEW).plans
    usual = next(one for one in plans if one.machines == (MILL,))
    assert errors(usual.ledger)
    first = plans[0]
    assert not errors(first.ledger)
    assert first.machines[0].turns_work
    assert first.ledger.loads[0].machine == first.machines[0]
    assert first.ledger.stock.section == Section.ROUND
    found = followed_plan(part, first.ledger)
    assert isinstance(found.outcome, Followed)
    assert [f.title for f in stock_findings(part, first.ledger, found.outcome) if f.code != "stock-left"] == []


@pytest.mark.parametrize("name", ["flange"])
def test_no_single_machine_makes_it_for_less(name: str) -> None:
    """Each machine asked by itself; one that leaves something to solve is no cheaper, it makes less."""
    part = built(NAMED[name]())
    found = begun(part, "al-6082", (10,), LIB)
    plan = quick_plan(part, "al-6082", (10,), LIB)
    every = [one for one in on_machines(plan, part, LIB, found.best.ledger) if one.machine in BEGUN]
    alone = [one.ledger for one in every if one.ledger is not None]
    assert len(alone) + len(found.refused) == len(BEGUN)
    whole = [ledger.prices[0].each for ledger in alone if not errors(ledger)]
    if found.best.left:
        assert not whole
    assert all(found.best.each <= each for each in whole)


def test_what_was_compared_is_told_the_best_first() -> None:
    found = begun(built(PLATE), "al-6082", (10,), LIB)
    prices = [one.each for one in found.plans]
    assert prices == sorted(prices)
    assert [machine.name for machine, _ in found.refused] == [m.name for m in BEGUN if m.turns_work]
    first, second, third, fourth = found.plans[:4]
    beside = " · ".join(f"{one.name}: {one.each:.2f}" for one in (second, third, fourth))
    assert found.words.startswith(
        f"on {first.name}: {first.each:.2f} each; next best {beside}; bought as block 64 × 44"
    )


def test_of_equals_the_usual_machine() -> None:
    """Two machines that are the same: the first of the shelf is taken."""
    twins = replace(LIB, machines=(replace(MILL, id="twin-1"), replace(MILL, id="twin-2")))
    found = begun(built(PLATE), "al-6082", (10,), twins)
    assert [one.machines for one in found.plans] == [(m,) for m in twins.machines]
    assert found.plans[0].each == found.plans[1].each


def test_what_a_lathe_leaves_goes_to_the_mill_that_does_it_best() -> None:
    """A cross hole, and a lathe without driven tools: the chain with each mill made by hand, none is cheaper."""
    part = built(rod((0, 0, 0), (0, 0, 1), 40, 30) - rod((0, -25, 15), (0, 1, 0), 6, 50))
    lathe = next(m for m in LIB.machines if m.turns_work and not m.drives_tools)
    (chain,) = [one for one in begun(part, "al-6082", (10,), LIB).plans if one.machines[0] == lathe]
    assert {load.machine for load in chain.plan.loads} == {m.id for m in chain.machines}
    plan = quick_plan(part, "al-6082", (10,), LIB)
    mills = [m for m in LIB.machines if not m.turns_work]
    each = {m.id: begun_on(plan, (lathe.id, m.id), part, LIB) for m in mills}
    assert chain.left == min(one.left for one in each.values())
    assert chain.each == min(one.each for one in each.values() if one.left == chain.left)


def test_begun_again_elsewhere_what_is_known_of_the_part_stays() -> None:
    part = built(PLATE)
    plan = replace(quick_plan(part, "al-6082", (10,), LIB), rates=RateEdits(margin=Decimal("0.4")))
    plan = replace(plan, said=(Said("H1", tolerance="H7"),), setups=tuple(reversed(plan.setups)))
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    other = next(m for m in LIB.machines if m.id == "mill-500")
    found, words = BeginAgain((other.id,)).apply(plan, scene)
    assert words.startswith("begun again on Mill 2: ")
    assert {load.machine for load in found.loads} == {other.id}
    assert (found.rates, found.said) == (plan.rates, plan.said)
    assert [s.up for s in found.setups] == [s.up for s in reversed(plan.setups)]
    with pytest.raises(PlanError, match="there is no machine 'lathe-9'"):
        BeginAgain(("lathe-9",)).apply(plan, scene)
    with pytest.raises(PlanError, match="not round about an axis"):
        BeginAgain(("lathe-320",)).apply(plan, scene)


def test_part_that_nothing_makes_whole_says_what_it_leaves() -> None:
    part = built(block((0, 0, 0), (60, 40, 30)) - block((10, 10, 1), (20, 12, 31)))
    found = begun(part, "al-6082", (10,), LIB)
    assert errors(found.best.ledger)
    assert f"each, but {'leaves one thing' if found.best.left == 1 else 'leaves'}" in found.words


def test_bar_lies_about_the_axis_that_the_part_is_turned_about() -> None:
    """Ø22 with a flat 7.5 off the axis: its box is 22 × 18.5, the bar Ø22 + 2 · 2 about the axis, not about the box."""
    body = rod((0, 0, 0), (0, 0, 1), 22, 27) - block((-12, 7.5, -1), (12, 12, 28))
    part = built(body)
    assert part.axis is not None
    assert any(isinstance(f, Turned) for f in part.features)
    lathe = next(m for m in LIB.machines if m.turns_work)
    plan = moved_to(quick_plan(part, "al-6082", (10,), LIB), lathe, part, LIB)
    assert plan.stock.form == "round bar"
    box = sized_stock(plan, part, LIB.stock).state(part).bounds
    assert box.size[:2] == pytest.approx((26.0, 26.0), abs=0.01)
    assert [(box.min[i] + box.max[i]) / 2 for i in (0, 1)] == pytest.approx([0.0, 0.0], abs=1e-6)


def test_block_seen_from_the_side_is_itself() -> None:
    """10 × 20 × 30 from X 5 on: along −X its top is at X 15, it is 20 wide and 30 high."""
    seen = seen_along(Block("jaw", Bounds((5, 0, 0), (15, 20, 30))), FROM_ABOVE, FROM_THE_SIDE)
    assert (seen.low, seen.high) == (5, 15)
    assert seen.box.min[:2] == (0, 0)
    assert seen.box.max[:2] == (20, 30)


def test_rod_seen_from_the_side_is_as_wide_and_as_high_as_it_is_thick() -> None:
    rod_ = Rod("chuck", 0.0, 0.0, 50.0, 0.0, 80.0)
    side = seen_along(rod_, FROM_ABOVE, FROM_THE_SIDE)
    assert side.high >= 50.0
    assert side.high == pytest.approx(50.0, rel=0.01)
    assert side.box.size[:2] == pytest.approx((100.0, 80.0), rel=0.01)
    same = seen_along(rod_, FROM_ABOVE, FROM_ABOVE)
    assert min(hypot(x, y) for x, y in same.rings[0]) >= 50.0, "chords are not to lie within it"


def test_machines_that_there_was_no_time_for_are_said() -> None:
    """Lathes come first for what is round about an axis."""
    found = begun(built(drawn(36)), "al-6082", (10,), LIB, patience=0.0)
    assert [one.machines for one in found.plans] == [(MILL,)]
    others = sorted(BEGUN[1:], key=lambda machine: not machine.turns_work)
    assert found.untried == tuple(others)
    assert found.words.endswith(
        "not tried, it would take too long: " + ", ".join(m.name.partition(",")[0] for m in others)
    )


@pytest.mark.parametrize(("name", "machine"), [("slanted-corner", "Mill 3"), ("radial-ring", "Lathe 2")])
def test_slanted_faces_and_holes_begin_where_an_axis_brings_them_upright(name: str, machine: str) -> None:
    """A part's own division on a rotary, with stock to hold it by; on a lathe the spindle turns each hole up."""
    part = built((NAMED | WIDER)[name]())
    some = with_machines("mill-762", "mill-762-rotary", "lathe-320", "lathe-driven")
    begin = begun(part, "al-6082", (10,), some)
    assert begin.best.name == machine
    assert begin.best.left == 0
    assert any(cure.startswith("Leave ") for cure in begin.best.cures), "there is none to hold it by at first"
    found = followed_plan(part, begin.best.ledger)
    assert isinstance(found.outcome, Followed)
    found_in_solids = stock_findings(part, begin.best.ledger, found.outcome)
    assert [f.title for f in found_in_solids if f.severity == Severity.ERROR] == []


@pytest.mark.parametrize("size", [(320, 310, 20), (640, 340, 16)])
def test_plate_beyond_the_vises_is_clamped_on_the_table_and_made_whole(size: tuple[float, float, float]) -> None:
    x, y, z = size
    body = block((0, 0, 0), size) - rounded_block((20, 20, z - 8), (x - 20, y - 20, z + 1), 6)
    for u, v in ((10, 10), (x - 10, y - 10)):
        body = body - rod((u, v, 0), (0, 0, 1), 6.6, z)
    part = built(body)
    best = begun(part, "al-6082", (10,), with_machines("mill-762")).best
    assert [s.built.hold.fixture.id for s in best.ledger.setups] == ["toe-table", "toe-table"]
    assert errors(best.ledger) == []
    found = followed_plan(part, best.ledger)
    assert isinstance(found.outcome, Followed)
    assert stock_findings(part, best.ledger, found.outcome) == []


@pytest.mark.parametrize(("name", "kind"), [("seat-ring", "bore"), ("long-shaft", "groove")])
def test_lathe_makes_tapers_inside_and_narrow_ring_grooves(name: str, kind: str) -> None:
    """The grooves of 1.3 are plunged from the end near which they lie: from the other the shaft is in the way."""
    part = built(WIDER[name]())
    found = first_plan(part, "al-6082", (10,), LIB, ["lathe-320"])
    assert errors(found.ledger) == []
    made = [(op.setup, op) for op in found.ledger.operations if op.kind == kind]
    assert len(made) == 2
    assert {setup for setup, _ in made} == {"S1", "S2"}
    if kind == "bore":
        assert all(" to Ø" in op.name for _, op in made)


def test_spacer_too_short_for_both_ends_jaws_gets_more_stock_to_hold_by() -> None:
    """11.9 long: each end's jaws cover what the other's do, so that some of the outside is turned from neither. With
    what the cure names it is, and that is cheaper than on a mill.
    """
    part = demo_part("bearing-spacer")
    lathe = LIB.machine("lathe-320")
    assert lathe is not None
    ledger = evaluate(moved_to(quick_plan(part, "al-6082", (10,), LIB), lathe, part, LIB), part, LIB)
    (between,) = [f for f in ledger.findings if f.code == "cut-below-jaws"]
    assert "lies between the jaws of both ends' setups" in between.title
    plan, _ = read_change(between.cures[0].change).apply(ledger.plan, Scene(part, LIB, ledger))
    assert not errors(evaluate(plan, part, LIB))
    best = begun(part, "al-6082", (10,), FEW).best
    assert (best.name, best.left, best.cures) == ("Lathe 1", 0, (between.cures[0].label,))
    found = followed_plan(part, best.ledger)
    assert isinstance(found.outcome, Followed)
    assert stock_findings(part, best.ledger, found.outcome) == []


def test_what_costs_more_than_a_whole_plan_is_not_mended_for_a_new_job_but_where_all_are_compared() -> None:
    part = demo_part("bearing-spacer")
    plan = quick_plan(part, "al-6082", (10,), LIB)
    (new,) = [one for one in begun(part, "al-6082", (10,), LIB).plans if one.name == "Lathe 2"]
    (compared,) = [one for one in beginnings(plan, part, LIB).plans if one.name == "Lathe 2"]
    assert (new.left, new.cures) == (1, ())
    assert compared.left == 0
    assert compared.each == begun_on(plan, ("lathe-driven",), part, LIB).each, "what is named is what one gets"
