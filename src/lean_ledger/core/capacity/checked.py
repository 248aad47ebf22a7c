"""Whether a shop's terms and hours can be what somebody meant."""

from __future__ import annotations

from lean_ledger.core.basis.bounds import Bounds
from lean_ledger.core.basis.errors import PlanError
from lean_ledger.library.business import Shift, ShopHours, ShopTerms

CODE_LENGTH = 3  # of a currency (ISO 4217)
RATE = Bounds(0.0001, 100_000)
STEP = Bounds(0.0001, 100)
LEAST_LOT = Bounds(0, 1_000_000)
VALID = Bounds(1, 730, whole=True)
DAYS = Bounds(0, 365, whole=True)
HOURS = Bounds(0, 24)
SHARE = Bounds(0.01, 1)
SURCHARGE = Bounds(0, 5)
MOST_CLOSED = 100
LONGEST_CLOSED = 366  # days


def check_terms(terms: ShopTerms) -> None:
    """Raises PlanError terms, with the place and what would be right."""
    if not terms.name.strip():
        raise _wrong("the shop's name", "is missing; a quote is written in it")
    for code in (terms.currency, *(code for code, _ in terms.rates)):
        if len(code) != CODE_LENGTH or not code.isalpha() or not code.isupper():
            raise _wrong(f"currency “{code}”", "is no code of three capitals, such as EUR")
    codes = [code for code, _ in terms.rates]
    if len(set(codes)) < len(codes) or terms.currency in codes:
        raise _wrong("a currency", "stands twice; give each once, the shop's own without a rate")
    for code, rate in terms.rates:
        _hold(RATE, rate, f"the rate of {code}")
    _hold(STEP, terms.step, "the step of rounding")
    _hold(LEAST_LOT, terms.minimum_lot, "the least lot")
    _hold(VALID, terms.valid_days, "the days that a quote is valid")


def check_hours(hours: ShopHours) -> None:
    """Raises PlanError hours, with the place and what would be right."""
    _hold(DAYS, hours.material_days, "the days until stock is here")
    _hold(DAYS, hours.outside_days, "the days of work elsewhere")
    _hold(HOURS, hours.overtime, "the overtime a day")
    _hold(SURCHARGE, hours.surcharge, "the surcharge of overtime")
    for machine, shift in hours.shifts.items():
        _check_shift(shift, f"of {machine}")
    _check_shift(hours.shift, "of machines without a shift of their own")
    if len(hours.closed) > MOST_CLOSED:
        raise _wrong("the shop", f"is closed {len(hours.closed)} times; at most {MOST_CLOSED} are kept")
    for one in hours.closed:
        if one.last < one.first:
            raise _wrong(f"closed from {one.first} to {one.last}", "ends before it begins")
        if (one.last - one.first).days > LONGEST_CLOSED or not 2000 <= one.first.year <= 2200:
            raise _wrong(
                f"closed from {one.first} to {one.last}", f"is not of these years, or more than {LONGEST_CLOSED} days"
            )


def _check_shift(shift: Shift, whose: str) -> None:
    _hold(HOURS, shift.hours, f"the hours a day {whose}")
    _hold(Bounds(0, 7, whole=True), shift.days, f"the days a week {whose}")
    _hold(SHARE, shift.available, f"the share that can be booked {whose}")


def _hold(bounds: Bounds, value: object, what: str) -> None:
    if not bounds.hold(value):  # type: ignore[arg-type]  # all are numbers
        raise _wrong(what, f"is {value}; it is {bounds.words}")


def _wrong(what: str, words: str) -> PlanError:
    return PlanError("business", f"{what} {words}")
