"""What a rush costs the customer."""

from __future__ import annotations

from decimal import Decimal
from fractions import Fraction

from lean_ledger.core.pricing.price import PriceProblem, Terms, cents
from lean_ledger.library.business import ShopHours


def rush_price(on_top: Fraction, problem: PriceProblem, hours: ShopHours) -> Decimal:
    """Hours on top at the surcharge on the labour rate, with overhead and margin as all of the price has them.

    4 h at 42.00 and half as much again: 84.00; with 12 % overhead and a margin of 25 %: 84.00 · 1.12 / 0.75 = 125.44.
    """
    labour = max((Fraction(setup.labour_rate) for setup in problem.setups), default=Fraction(0))
    cost = on_top * labour * Fraction(hours.surcharge)
    return cents(Terms(problem).price(cost * (1 + Fraction(problem.overhead))))
