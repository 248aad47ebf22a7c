"""Which of several prices is the least at which quantity: by hand, and against looking at each quantity."""

from __future__ import annotations

import json
from dataclasses import replace
from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.alternatives.side_by_side import least_words
from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.pricing import parse_price_problem, price
from lean_ledger.core.pricing.overtaking import Stretch, least_by_quantity
from lean_ledger.core.pricing.price import PriceProblem, PriceSetup, Terms, cents
from tests.core.test_price import PROBLEM

BASE = parse_price_problem(json.dumps(PROBLEM))


def made(hours: str, cycle: str, pieces: int = 1, scrap: str = "0", margin: str = "0.2") -> PriceProblem:
    """A machine at 50, labour at 40 of which the run takes half: setting up costs 90 an hour, the run 70."""
    setup = PriceSetup("S1", Decimal(50), Decimal(40), Decimal("0.5"), Decimal(hours), Decimal(cycle), pieces,
                       Decimal(0), load_during_cycle=False)  # fmt: skip
    return replace(BASE, setups=(setup,), scrap=Decimal(scrap), margin=Decimal(margin))


def test_what_takes_longer_to_set_up_and_less_to_run_overtakes() -> None:
    """An hour more is 90; 72 s less of each piece 72 / 3600 · 70 = 1.40: 90 / 1.40 = 64.3. Four hours more and another
    72 s less: 360 / 1.40 = 257.1. What is the same of all, overhead and margin change nothing.
    """
    found = least_by_quantity([made("0.5", "172"), made("1.5", "100"), made("5.5", "28")], 4000)
    assert found == (Stretch(1, 64, (0,)), Stretch(65, 257, (1,)), Stretch(258, 4000, (2,)))
    assert (
        least_words(found, ["vise", "two vises", "pallet"])
        == "up to 64 pieces “vise”; 65 to 257 “two vises”; from 258 on “pallet”"
    )


def test_cycles_that_are_not_full_let_the_other_come_back() -> None:
    """100 s a piece, 1.9444 each; or 10 in 500 s, 9.7222 a cycle that is begun whole, and half an hour more, 45. Five
    cycles are 93.61: 48 pieces one by one are 93.33, less; 49 are 95.28, more. Six are 103.33: 53 one by one are
    103.06, 54 are 105.00. Seven are 113.06, less than the 118.61 of the 61 that begin them, and so on.
    """
    found = least_by_quantity([made("0.5", "100"), made("1.0", "500", 10)], 1000)
    assert found == (Stretch(1, 48, (0,)), Stretch(49, 53, (0, 1)), Stretch(54, 1000, (1,)))
    assert least_words(found, ["a", "b"]) == (
        "up to 48 pieces “a”; 49 to 53 “a” or “b”, as cycles and bars come out full; from 54 on “b”"
    )


def test_of_equals_the_first_at_every_quantity() -> None:
    found = least_by_quantity([made("1", "100"), made("1", "100")], 300)
    assert found == (Stretch(1, 300, (0,)),)
    assert least_words(found, ["a", "b"]) == "“a” at every quantity up to 300"
    assert least_words((Stretch(1, 1, (0,)), Stretch(2, 9, (1,))), ["a", "b"]) == "1 piece: “a”; from 2 on “b”"


@st.composite
def problems(draw: st.DrawFn) -> PriceProblem:
    number = st.integers(0, 60)
    found = made(
        f"{draw(number) / 10}", f"{draw(st.integers(1, 900))}", draw(st.sampled_from([1, 2, 4, 16])),
        draw(st.sampled_from(["0", "0.03", "0.1"])), draw(st.sampled_from(["0", "0.2"])),
    )  # fmt: skip
    bar = replace(BASE.material, kind="bar", length=Decimal(draw(st.integers(20, 300))))
    life = draw(st.sampled_from([None, Decimal(300)]))
    return replace(found, material=draw(st.sampled_from([BASE.material, bar])), fixture_life=life)


@settings(max_examples=10)
@given(st.lists(problems(), min_size=2, max_size=5))
def test_each_quantity_is_told_as_it_is(several: list[PriceProblem]) -> None:
    """By the price of every quantity; the growth that is compared is that price, to the cent."""
    most = 400
    found = least_by_quantity(several, most)
    assert [s.first for s in found] == [1, *(s.last + 1 for s in found[:-1])]
    assert found[-1].last == most
    terms = [Terms(one) for one in several]

    def whole(k: int, quantity: int) -> Fraction:
        return terms[k].whole.at(terms[k].started(quantity))

    for stretch in found:
        least = [
            min(range(len(several)), key=lambda k: (whole(k, q), k)) for q in range(stretch.first, stretch.last + 1)
        ]
        assert set(least) <= set(stretch.least)
        assert len(stretch.least) > 1 or set(least) == set(stretch.least)
    for quantity in (1, 7, most):
        for k, one in enumerate(several):
            assert price(replace(one, quantities=(quantity,)))[0].price == cents(whole(k, quantity))


def test_bar_that_is_too_short_is_said() -> None:
    bar = replace(BASE.material, kind="bar", bar_length=Decimal(90))
    with pytest.raises(PlanError, match="buy longer bars"):
        least_by_quantity([BASE, replace(BASE, material=bar)], 10)
