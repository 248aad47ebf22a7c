"""Whether a shop's terms, a customer's and what a quote asks for can be what somebody meant."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.basis.bounds import Bounds, must_hold
from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.plain_text import check_name, check_text
from lean_ledger.core.quoting.asked import Asked, CustomerTerms
from lean_ledger.library.business import ShopTerms

CODE_LENGTH = 3  # of a currency (ISO 4217)
RATE = Bounds(0.0001, 100_000)
STEP = Bounds(0.0001, 100)
LEAST_LOT = Bounds(0, 1_000_000)
VALID = Bounds(1, 730, whole=True)
DISCOUNT = Bounds(0, 0.9)
QUANTITY = Bounds(1, 9_999_999, whole=True)
MOST_LINES, MOST_BREAKS = 40, 12


def check_terms(terms: ShopTerms) -> None:
    """Raises PlanError terms, with the place and what would be right."""
    for text in (terms.name, *terms.address, terms.contact, terms.payment, terms.delivery, *terms.not_included):
        check_text(text, "the shop's terms")
    if not terms.name.strip():
        raise PlanError("terms", "the shop's name is missing; a quote is written in it")
    for code in (terms.currency, *(code for code, _ in terms.rates)):
        if len(code) != CODE_LENGTH or not code.isalpha() or not code.isupper():
            raise PlanError("terms", f"currency “{code}” is no code of three capitals, such as EUR")
    codes = [code for code, _ in terms.rates]
    if len(set(codes)) < len(codes) or terms.currency in codes:
        raise PlanError("terms", "a currency stands twice; give each once, the shop's own without a rate")
    for code, rate in terms.rates:
        must_hold(RATE, rate, f"the rate of {code}", "terms")
    must_hold(STEP, terms.step, "the step of rounding", "terms")
    must_hold(LEAST_LOT, terms.minimum_lot, "the least lot", "terms")
    must_hold(VALID, terms.valid_days, "how many days a quote is valid", "terms")


def check_customer(name: str, terms: CustomerTerms, shop: ShopTerms) -> None:
    """Raises PlanError customer or currency, with the place and what would be right."""
    check_name(name, "the customer's name", 120)
    if not name:
        raise PlanError("customer", "a customer needs a name")
    for text in (*terms.address, terms.contact, terms.payment, terms.delivery, terms.note):
        check_text(text, "the customer's terms")
    if terms.currency and shop.rate(terms.currency) is None:
        raise PlanError("currency", f"the shop has no rate of {terms.currency}; give it one in its terms first")
    must_hold(DISCOUNT, terms.discount, "the discount, as a share,", "customer")


def check_asked(asked: Asked, jobs: Sequence[int]) -> None:
    """`jobs`: of each line. Raises PlanError lines, quantities or valid, with what would be right."""
    if len(asked.lines) > MOST_LINES:
        raise PlanError("lines", f"{len(asked.lines)} parts; at most {MOST_LINES} are quoted together")
    if len(set(jobs)) < len(jobs):
        raise PlanError("lines", "a part stands twice; give it once, with all quantities")
    for one in asked.lines:
        if not 1 <= len(one.quantities) <= MOST_BREAKS or len(set(one.quantities)) < len(one.quantities):
            raise PlanError("quantities", f"a part is offered at 1 to {MOST_BREAKS} quantities, each once")
        for quantity in one.quantities:
            must_hold(QUANTITY, quantity, "a quantity", "quantities")
        check_text(one.note, "the note")
    for text in (asked.payment, asked.delivery, asked.words, *(asked.not_included or ())):
        check_text(text, "the quote")
    if asked.valid_days is not None:
        must_hold(VALID, asked.valid_days, "how many days the quote is valid", "valid")
