"""A lot that is wanted by a day: what overtime that takes and costs, and who would be late if it went first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal
from fractions import Fraction

from lean_ledger.core.capacity.booked import Book, Done, Lot, booked, pushed
from lean_ledger.core.pricing.price import PriceProblem, cents, terms_of
from lean_ledger.library.business import ShopHours


@dataclass(frozen=True)
class Rush:
    """`ready` with `a_day` hours on top, `hours` in all, which add `price` to the lot. `first_ready`: where it goes
    before all others instead, and `late`: what is late for that.
    """

    wanted: date
    ready: date
    a_day: Fraction
    hours: Fraction
    price: Decimal
    first_ready: date
    late: tuple[Done, ...]

    @property
    def possible(self) -> bool:
        return self.ready <= self.wanted


def rush(lot: Lot, wanted: date, others: Sequence[Lot], hours: ShopHours, today: date, problem: PriceProblem) -> Rush:
    """Behind and before `others`. Raises PlanError no-hours."""
    found = booked(others, hours, today).rush(lot, wanted)
    first = Book(hours, today).tried(lot)
    late = pushed(others, replace(lot, due=wanted), hours, today)
    return Rush(
        wanted, found.ready, found.a_day, found.hours, rush_price(found.hours, problem, hours), first.ready, late
    )


def rush_price(on_top: Fraction, problem: PriceProblem, hours: ShopHours) -> Decimal:
    """Hours on top at the surcharge on the labour rate, with overhead and margin as all of the price has them.

    4 h at 42.00 and half as much again: 84.00; with 12 % overhead and a margin of 25 %: 84.00 · 1.12 / 0.75 = 125.44.
    """
    labour = max((Fraction(setup.labour_rate) for setup in problem.setups), default=Fraction(0))
    cost = on_top * labour * Fraction(hours.surcharge)
    return cents(terms_of(problem).price(cost * (1 + Fraction(problem.overhead))))
