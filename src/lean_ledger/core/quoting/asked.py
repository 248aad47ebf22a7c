"""What a quote is to offer, and what comes of it with the customer's terms and the shop's."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import date, timedelta
from decimal import Decimal

from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.spread import missing_in
from lean_ledger.core.pricing.price import price
from lean_ledger.core.quoting.offer import Offer, OfferLine, break_of, rate_in
from lean_ledger.library.business import ShopTerms


@dataclass(frozen=True)
class CustomerTerms:
    """What is agreed with a customer; empty texts are the shop's own. `discount` is a share of the price."""

    address: tuple[str, ...] = ()
    contact: str = ""
    currency: str = ""
    payment: str = ""
    delivery: str = ""
    discount: Decimal = Decimal(0)
    note: str = ""  # for the shop


@dataclass(frozen=True)
class AskedLine:
    plan: int
    quantities: tuple[int, ...]
    note: str = ""


@dataclass(frozen=True)
class Asked:
    """What a quote is to offer; empty texts and None are the customer's own, else the shop's."""

    lines: tuple[AskedLine, ...] = ()
    valid_days: int | None = None
    payment: str = ""
    delivery: str = ""
    not_included: tuple[str, ...] | None = None
    words: str = ""


@dataclass(frozen=True)
class QuoteOf:
    """Whose quote it is, under which number, and who writes it on which day."""

    number: str
    version: int
    customer: str
    terms: CustomerTerms
    author: str
    today: date


@dataclass(frozen=True)
class Priced:
    """The plan that a line is priced by, as it stands."""

    job: str
    name: str
    plan_name: str
    version: int
    ledger: Ledger


def line_of(
    asked: AskedLine, by: Priced, terms: CustomerTerms, shop: ShopTerms, ready: Callable[[int], date]
) -> OfferLine:
    """`ready`: when so many pieces are. Raises PlanError currency."""
    ledger = by.ledger
    prices = price(replace(ledger.problem, quantities=tuple(sorted(asked.quantities))))
    currency = terms.currency or shop.currency
    breaks = tuple(break_of(one, shop, currency, terms.discount, ready(one.quantity)) for one in prices)
    return OfferLine(
        asked.plan, by.plan_name, by.version, by.job, by.name, ledger.plan.revision, ledger.material.name, breaks,
        asked.note, missing_in(ledger),
    )  # fmt: skip


def offer_of(asked: Asked, of: QuoteOf, lines: tuple[OfferLine, ...], shop: ShopTerms) -> Offer:
    """What is asked for goes before the customer's terms, these before the shop's. Raises PlanError currency."""
    own = of.terms
    currency = own.currency or shop.currency
    valid = asked.valid_days if asked.valid_days is not None else shop.valid_days
    return Offer(
        of.number, of.version, of.customer, own.address, own.contact, of.today, of.today + timedelta(days=valid),
        currency, rate_in(currency, shop), lines, asked.payment or own.payment or shop.payment,
        asked.delivery or own.delivery or shop.delivery,
        shop.not_included if asked.not_included is None else asked.not_included, asked.words, of.author,
    )  # fmt: skip
