"""What a quote offers: prices in the customer's currency, rounded as the shop rounds, and what a version changed.

The formulas stand in docs/formulas.md. Tax is left to bookkeeping.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from fractions import Fraction
from math import ceil, floor

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.pricing.price import QuantityPrice
from lean_ledger.library.business import ShopTerms


@dataclass(frozen=True)
class Break:
    """A quantity with its price each and for the lot, in the quote's currency; `cost` is the lot's, in the shop's.

    `raised`: to the least that a lot is made for.
    """

    quantity: int
    each: Decimal
    lot: Decimal
    cost: Decimal
    ready: date
    raised: bool = False


@dataclass(frozen=True)
class OfferLine:
    """A part: the plan that it is priced by, with its version, and what of the part that price leaves out."""

    plan: int
    plan_name: str
    version: int
    job: str
    name: str
    revision: str
    material: str
    breaks: tuple[Break, ...]
    note: str = ""
    missing: tuple[str, ...] = ()

    @property
    def title(self) -> str:
        return f"{self.job} {self.name}"

    def at(self, quantity: int) -> Break | None:
        """The break whose price each a quantity is sold at: the largest that it reaches."""
        reached = [one for one in self.breaks if one.quantity <= quantity]
        return max(reached, key=lambda one: one.quantity) if reached else None


@dataclass(frozen=True)
class Offer:
    """A quote as it was issued. `rate`: of its currency for one of the shop's."""

    number: str
    version: int
    customer: str
    address: tuple[str, ...]
    contact: str
    issued: date
    until: date
    currency: str
    rate: Decimal
    lines: tuple[OfferLine, ...]
    payment: str
    delivery: str
    not_included: tuple[str, ...]
    words: str
    author: str

    @property
    def known_as(self) -> str:
        return f"{self.number} version {self.version}" if self.version > 1 else self.number

    def has_expired(self, today: date) -> bool:
        """Valid until a day means on it, too."""
        return today > self.until

    @property
    def least(self) -> Decimal:
        """The smallest lots of all lines together."""
        return sum((line.breaks[0].lot for line in self.lines), Decimal(0))


def break_of(price: QuantityPrice, shop: ShopTerms, currency: str, discount: Decimal, ready: date) -> Break:
    """The price of a quantity as it is offered: each is rounded to the shop's step, halves up, the lot is so many times
    that; below the least that a lot is made for, each is as much as the lot needs, rounded up.

    12.344 each at 1.08, less 5 %: 12.664944, to a step of 0.05: 12.65. Raises PlanError currency for one that the shop
    does not quote in.
    """
    rate = rate_in(currency, shop)
    step = Fraction(shop.step)
    exact = Fraction(price.price) / price.quantity * Fraction(rate) * (1 - Fraction(discount))
    each = floor(exact / step + Fraction(1, 2)) * step
    least = Fraction(shop.minimum_lot) * Fraction(rate)
    raised = each * price.quantity < least
    if raised:
        each = ceil(least / price.quantity / step) * step
    return Break(
        price.quantity, _decimal(each, shop.step), _decimal(each * price.quantity, shop.step), price.cost, ready, raised
    )


def rate_in(currency: str, shop: ShopTerms) -> Decimal:
    """Raises PlanError currency for one that the shop does not quote in."""
    rate = shop.rate(currency)
    if rate is None:
        known = ", ".join([shop.currency, *(code for code, _ in shop.rates)])
        raise PlanError("currency", f"the shop does not quote in {currency}; it does in {known}")
    return rate


def cheaper_from(breaks: Sequence[Break]) -> tuple[tuple[int, int], ...]:
    """(quantity, break): from how many pieces on the next break costs less in all than they do at their own price.

    3.75 each from 10 and 3.10 from 50 (155.00): 41 pieces are 153.75, 42 are 157.50; from 42 on 50 are cheaper.
    """
    found = []
    ordered = sorted(breaks, key=lambda one: one.quantity)
    for one, then in itertools.pairwise(ordered):
        if one.each > 0:
            least = max(one.quantity, floor(Fraction(then.lot) / Fraction(one.each)) + 1)
            if least < then.quantity:
                found.append((least, then.quantity))
    return tuple(found)


def differences(before: Offer, after: Offer) -> tuple[str, ...]:
    """What a version says otherwise than the one before, in words."""
    found = []
    for what, was, now in (
        ("currency", before.currency, after.currency), ("payment", before.payment, after.payment),
        ("delivery", before.delivery, after.delivery), ("valid until", str(before.until), str(after.until)),
        ("not included", "; ".join(before.not_included), "; ".join(after.not_included)),
        ("words", before.words, after.words),
    ):  # fmt: skip
        if was != now:
            found.append(f"{what}: {was or 'nothing'} → {now or 'nothing'}")
    old, new = ({line.job: line for line in one.lines} for one in (before, after))
    found += [f"{line.title} is not offered any more" for job, line in old.items() if job not in new]
    for job, line in new.items():
        if job not in old:
            found.append(f"{line.title} is new")
            continue
        found += [f"{job}: {words}" for words in _line_differences(old[job], line)]
    return tuple(found)


def _line_differences(was: OfferLine, now: OfferLine) -> list[str]:
    found = []
    for what, before, after in (
        ("revision", was.revision, now.revision), ("material", was.material, now.material),
        ("plan", f"{was.plan_name}, version {was.version}", f"{now.plan_name}, version {now.version}"),
        ("note", was.note, now.note), ("left out", "; ".join(was.missing), "; ".join(now.missing)),
    ):  # fmt: skip
        if before != after:
            found.append(f"{what} {before or 'nothing'} → {after or 'nothing'}")
    old, new = ({one.quantity: one for one in line.breaks} for line in (was, now))
    found += [f"{quantity} pieces are not offered any more" for quantity in old if quantity not in new]
    for quantity, one in new.items():
        if quantity not in old:
            found.append(f"{quantity} pieces at {one.each} each are new")
            continue
        before_each = old[quantity].each
        if before_each != one.each:
            share = f", {100 * (one.each / before_each - 1):+.1f} %" if before_each else ""
            found.append(f"{quantity} pieces {before_each} → {one.each} each{share}")
        if old[quantity].ready != one.ready:
            found.append(f"{quantity} pieces ready {old[quantity].ready} → {one.ready}")
    return found


def _decimal(value: Fraction, step: Decimal) -> Decimal:
    """As many places as the step has, two at least."""
    places = max(2, -int(step.as_tuple().exponent))
    return Decimal(int(value * 10**places)).scaleb(-places)
