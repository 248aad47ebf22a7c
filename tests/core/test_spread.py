"""How far a price may be off: by hand, and that it says what it leaves out."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from math import sqrt

import pytest

from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.spread import sure
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import RateEdits
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.library import shipped_library
from tests.conftest import built

LIB = shipped_library()
#: Only setting up, the run and the programs cost anything.
BARE = RateEdits(
    labour_rate=Decimal(40), attendance=Decimal("0.5"), programming_hours=Decimal(1), programming_rate=Decimal(70),
    inspection_seconds=Decimal(0), fixtures=Decimal(0), tooling_per_piece=Decimal(0), price_per_kg=Decimal(0),
    scrap=Decimal(0), overhead=Decimal(0), margin=Decimal("0.5"),
)  # fmt: skip


@pytest.fixture(scope="module")
def part() -> Part:
    return built(block((0, 0, 0), (60, 40, 16)) - rod((12, 12, 0), (0, 0, 1), 5, 16))


def evaluated(part: Part, **changes: object) -> Ledger:
    plan = quick_plan(part, "al-6082", (10,), LIB)
    first, *others = plan.loads
    first = replace(first, hours=Decimal(1), rate=Decimal(50), load_seconds=Decimal(36), **changes)
    bare = [replace(one, hours=Decimal(0), rate=Decimal(0), load_seconds=Decimal(0)) for one in others]
    return evaluate(replace(plan, rates=BARE, loads=(first, *bare)), part, LIB)


def test_squares_of_what_each_figure_may_be_off_add_up(part: Part) -> None:
    """At a margin of half everything is offered at twice its cost. Of the first load an hour of setting up, 90 of ten
    pieces, 18 each, typed: ± 12 % are 2.16. 36 s of loading at 70 an hour 0.70, 1.40 each, ± 10 % are 0.14. The program
    70, 14 each, ± 15 % are 2.10. The cycle ± 8 %; of the second load only its run with half an operator at 40 counts.
    """
    ledger = evaluated(part)
    found = sure(ledger, LIB)
    by = {one.what: one for one in found.rests}
    assert set(by) == {"cycle", "loading", "setting up", "programming"}
    cycle = 2 * sum(load.cycle * rate for load, rate in zip(ledger.loads, [70, 20, 20, 20], strict=False)) / 3600
    wanted = {
        "setting up": (18, 2.16),
        "loading": (1.4, 0.14),
        "programming": (14, 2.1),
        "cycle": (cycle, 0.08 * cycle),
    }
    for what, (amount, moves) in wanted.items():
        assert float(by[what].amount) == pytest.approx(amount, abs=0.006)
        assert by[what].moves == pytest.approx(moves, abs=1e-3)
    assert found.off == pytest.approx(sqrt(sum(moves**2 for _, moves in wanted.values())), abs=1e-3)
    assert float(found.high - found.low) == pytest.approx(2 * found.off, abs=0.011)
    assert sum(found.part_of(one) for one in found.rests) == pytest.approx(1)
    assert sum(one.amount for one in found.rests) == pytest.approx(found.each, abs=Decimal("0.03"))
    assert found.rests[0].what == "setting up"
    assert found.words.startswith("setting up ± 12 %, programming ± 15 %, ")
    assert found.words.endswith("of the spread: being surer of it is worth most")
    assert by["setting up"].source == "typed"


def test_what_no_one_typed_is_the_shop_s_default_and_less_sure(part: Part) -> None:
    plan = quick_plan(part, "al-6082", (10, 1000), LIB)
    ledger = evaluate(plan, part, LIB)
    few, many = sure(ledger, LIB, 0), sure(ledger, LIB, 1)
    assert {one.what: one.source for one in few.rests}["setting up"] == "the shop's default"
    assert {one.what: one.source for one in few.rests}["cycle"] == "computed"
    for one in (few, many):
        assert sum(rest.amount for rest in one.rests) == pytest.approx(one.each, abs=Decimal("0.05"))
        assert one.low < one.each < one.high
    assert few.off / float(few.each) > many.off / float(many.each), "once is less of many"
    assert few.missing == ()


def test_part_that_is_not_made_whole_has_a_price_that_says_what_it_leaves_out() -> None:
    part = built(block((0, 0, 0), (60, 40, 30)) - block((10, 10, 1), (20, 12, 31)))
    ledger = evaluate(quick_plan(part, "al-6082", (10,), LIB), part, LIB)
    found = sure(ledger, LIB)
    assert found.each > 0
    assert any("pocket" in title or "slot" in title for title in found.missing)
