"""The machine of a new plan, the bar of what is turned, and what holds a part seen from another side."""

from __future__ import annotations

from math import hypot

import pytest

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.features import Turned
from lean_ledger.core.first.machine import begun
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.holding.obstacles import Block, Rod, seen_along
from lean_ledger.core.ledger.machines import moved_to
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.papers.plan_document import first_plan
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.stock.block import Section
from lean_ledger.core.stock.sizes import sized_stock
from lean_ledger.library import shipped_library
from tests.cases.parts.drawn import drawn
from tests.conftest import built

LIB = shipped_library()
FROM_ABOVE = Frame((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
FROM_THE_SIDE = Frame((0.0, 1.0, 0.0), (0.0, 0.0, 1.0), (1.0, 0.0, 0.0))  # looking along −X


def errors(ledger: Ledger) -> list[str]:
    return [f.title for f in ledger.findings if f.severity == Severity.ERROR]


@pytest.mark.parametrize("seed", [14, 36, 82])
def test_round_part_that_a_mill_leaves_things_of_begins_on_a_lathe_from_a_bar(seed: int) -> None:
    part = built(drawn(seed))
    first, *others = begun(part, "al-6082", (10,), LIB)
    usual = others[-1]
    assert errors(usual.ledger)
    assert not errors(first.ledger)
    machine = first.ledger.loads[0].machine
    assert machine.turns_work
    assert first.ledger.stock.section == Section.ROUND
    left = len(errors(usual.ledger))
    what = "one thing to solve" if left == 1 else f"{left} things to solve"
    assert first.words == f"on {machine.name}, which makes all of it; Mill 1, travel 762 leaves {what}"
    whole = [one.ledger.prices[0].each for one in (first, *others[:-1])]
    assert whole == sorted(whole)
    found = first_plan(part, "al-6082", (10,), LIB)
    assert isinstance(found.outcome, Followed)
    assert [f.title for f in stock_findings(part, found.ledger, found.outcome) if f.code != "stock-left"] == []


def test_part_that_the_usual_mill_makes_stays_there() -> None:
    part = built(block((0, 0, 0), (60, 40, 20)) - rod((30, 20, 0), (0, 0, 1), 6, 20))
    (only,) = begun(part, "al-6082", (10,), LIB)
    assert only.words == ""
    assert only.plan == quick_plan(part, "al-6082", (10,), LIB)


def test_part_that_nothing_makes_whole_stays_on_the_usual_mill() -> None:
    part = built(block((0, 0, 0), (60, 40, 30)) - block((10, 10, 1), (20, 12, 31)))
    (only,) = begun(part, "al-6082", (10,), LIB)
    assert errors(only.ledger)
    assert only.words == ""


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
    (only,) = begun(built(drawn(36)), "al-6082", (10,), LIB, patience=0.0)
    assert only.words == f"{len(LIB.machines) - 1} machines were not tried"
