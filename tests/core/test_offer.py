"""What a quote offers: rounded by hand, the least lot, breaks; what a version changed; what became of quotes."""

from __future__ import annotations

import itertools
from dataclasses import replace
from datetime import date
from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.papers.projection import View
from lean_ledger.core.pricing.price import QuantityPrice
from lean_ledger.core.quoting.offer import Break, Offer, OfferLine, break_of, cheaper_from, differences
from lean_ledger.core.quoting.pdf import quote_pdf
from lean_ledger.core.quoting.record import (
    Decided,
    Ordered,
    Outcome,
    by_customer,
    by_material,
    by_reason,
    check_ordered,
    sold,
)
from lean_ledger.library.business import shipped_business

TERMS = replace(
    shipped_business()[0], currency="EUR", rates=(("USD", Decimal("1.08")),), step=Decimal("0.05"),
    minimum_lot=Decimal(100),
)  # fmt: skip
READY = date(2026, 12, 18)


def priced(quantity: int, price: str, cost: str = "0") -> QuantityPrice:
    each = Decimal(price) / quantity
    return QuantityPrice(quantity, quantity, (), Decimal(cost), Decimal(price), each, Decimal(0))


def offered(quantity: int, each: str, cost: str = "0") -> Break:
    return Break(quantity, Decimal(each), Decimal(each) * quantity, Decimal(cost), READY)


def test_price_each_is_rounded_in_the_customer_s_currency() -> None:
    """123.44 for ten are 12.344 each; at 1.08 and less 5 %: 12.664944, to a step of 0.05: 12.65, the lot 126.50."""
    found = break_of(priced(10, "123.44"), TERMS, "USD", Decimal("0.05"), READY)
    assert (found.each, found.lot, found.raised) == (Decimal("12.65"), Decimal("126.50"), False)


def test_least_lot_raises_each_price_as_far_as_it_needs() -> None:
    """Ten at 3.00 are 30.00; at least 100.00: 10.00 each. Seven: 14.2857, up to 14.30, the lot 100.10."""
    assert break_of(priced(10, "30.00"), TERMS, "EUR", Decimal(0), READY).each == Decimal("10.00")
    seven = break_of(priced(7, "21.00"), TERMS, "EUR", Decimal(0), READY)
    assert (seven.each, seven.lot, seven.raised) == (Decimal("14.30"), Decimal("100.10"), True)


def test_currency_without_a_rate_is_refused() -> None:
    with pytest.raises(PlanError, match="does not quote in NOK; it does in EUR, USD"):
        break_of(priced(10, "30.00"), TERMS, "NOK", Decimal(0), READY)


@given(st.integers(1, 5000), st.integers(1, 10_000_000), st.integers(0, 50))
def test_offer_is_off_by_half_a_step_at_most_and_never_below_the_least_lot(
    quantity: int, price: int, discount: int
) -> None:
    exact = Decimal(price) / 100
    found = break_of(priced(quantity, str(exact)), TERMS, "EUR", Decimal(discount) / 100, READY)
    assert found.lot == found.each * quantity >= TERMS.minimum_lot
    assert found.each % TERMS.step == 0
    wanted = Fraction(exact) / quantity * (1 - Fraction(discount, 100))
    if not found.raised:
        assert abs(Fraction(found.each) - wanted) <= Fraction(TERMS.step) / 2


@given(st.lists(st.tuples(st.integers(1, 400), st.integers(1, 900)), min_size=2, max_size=4, unique_by=lambda t: t[0]))
def test_from_where_the_next_break_is_cheaper_is_what_trying_every_quantity_finds(asked: list[tuple[int, int]]) -> None:
    breaks = [offered(quantity, str(Decimal(each) / 100)) for quantity, each in sorted(asked)]
    tried = []
    for one, then in itertools.pairwise(breaks):
        least = next((q for q in range(one.quantity, then.quantity) if q * one.each > then.lot), None)
        if least is not None:
            tried.append((least, then.quantity))
    assert list(cheaper_from(breaks)) == tried


LINE = OfferLine(
    7, "quick price", 3, "SB-220", "Base plate", "A", "Aluminium",
    (offered(10, "3.75", "26.00"), offered(50, "3.10", "124.00")), missing=("the dovetail P2",),
)  # fmt: skip
OFFER = Offer(
    "Q-2026-004", 1, "Tarnwell Observatories", ("Gale Street 8",), "Stores", date(2026, 11, 30), date(2026, 12, 30),
    "EUR", Decimal(1), (LINE,), "30 days", "ex works", ("tax",), "", "Imke",
)  # fmt: skip


def test_version_says_what_it_changed() -> None:
    cheaper = replace(LINE, version=5, breaks=(offered(10, "3.60"), replace(offered(100, "2.90"), ready=READY)))
    other = replace(LINE, plan=9, job="WV-271", name="Spacer")
    after = replace(OFFER, version=2, payment="14 days", lines=(cheaper, other))
    assert differences(OFFER, after) == (
        "payment: 30 days → 14 days",
        "SB-220: plan quick price, version 3 → quick price, version 5",
        "SB-220: 50 pieces are not offered any more",
        "SB-220: 10 pieces 3.75 → 3.60 each, -4.0 %",
        "SB-220: 100 pieces at 2.90 each are new",
        "WV-271 Spacer is new",
    )
    assert differences(OFFER, OFFER) == ()
    assert [OFFER.has_expired(date(2026, 12, day)) for day in (30, 31)] == [False, True]


def test_what_is_ordered_is_sold_at_the_break_that_it_reaches() -> None:
    """60 reach the break of 50: 186.00, and cost 124.00 / 50 · 60 = 148.80."""
    assert sold(LINE, 60, Decimal(1)) == (186, Fraction("148.8"))
    assert sold(LINE, 60, Decimal("1.2"))[0] == 155
    check_ordered(OFFER, [Ordered(7, 10)])
    for ordered, words in (
        ([], "at least one part"),
        ([Ordered(7, 9)], "9 of SB-220 Base plate are fewer than the least that is offered, 10"),
        ([Ordered(8, 10)], "does not offer plan 8"),
    ):
        with pytest.raises(PlanError, match=words):
            check_ordered(OFFER, ordered)


def test_win_rate_and_margin_by_hand() -> None:
    """Won 60 for 186.00 that cost 148.80: a margin of 20 %. Of three that were decided one was won."""
    steel = replace(OFFER, number="Q-5", lines=(replace(LINE, material="Steel"),))
    outcomes = (
        Outcome(OFFER, "won", Decided((Ordered(7, 60),))),
        Outcome(steel, "lost", Decided(reason="price")),
        Outcome(replace(OFFER, number="Q-6"), "lost", Decided(reason="too late")),
        Outcome(replace(OFFER, number="Q-7"), "open", Decided()),
    )
    (customer,) = by_customer(outcomes)
    assert (customer.won, customer.lost, customer.open) == (1, 2, 1)
    assert customer.rate == pytest.approx(1 / 3)
    assert (customer.ordered, customer.margin) == (Decimal("186.00"), pytest.approx(0.2))
    assert [(one.name, one.rate) for one in by_material(outcomes)] == [("Aluminium", 0.5), ("Steel", 0)]
    two = replace(OFFER, number="Q-8", lines=(LINE, replace(LINE, plan=8, material="Brass")))
    (plain, brass) = by_material([Outcome(two, "won", Decided((Ordered(7, 10),)))])
    assert (plain.won, brass.won, brass.lost, brass.margin) == (1, 0, 1, None), "of the brass part nothing was ordered"
    assert by_reason(outcomes) == (("price", 1), ("too late", 1))


def test_paper_is_the_same_to_the_byte_and_long_quotes_go_on() -> None:
    view = View("iso", (((0.0, 0.0), (10.0, 5.0)),), ())
    many = replace(OFFER, lines=tuple(replace(LINE, plan=k, job=f"J-{k}") for k in range(12)))
    assert quote_pdf(many, TERMS, [view] * 12) == quote_pdf(many, TERMS, [view] * 12)
