"""Whether a shop's hours can be what somebody meant."""

from __future__ import annotations

from lean_ledger.core.basis.bounds import Bounds, must_hold
from lean_ledger.core.basis.errors import PlanError
from lean_ledger.library.business import Closed, Shift, ShopHours

DAYS = Bounds(0, 365, whole=True)
DAYS_A_WEEK = Bounds(0, 7, whole=True)
HOURS = Bounds(0, 24)
SHARE = Bounds(0.01, 1)
SURCHARGE = Bounds(0, 5)
MOST_CLOSED = 100
LONGEST_CLOSED = 366  # days
CODE = "hours"


def check_hours(hours: ShopHours) -> None:
    """Raises PlanError hours, with the place and what would be right."""
    must_hold(DAYS, hours.material_days, "the days until stock is here", CODE)
    must_hold(DAYS, hours.outside_days, "the days of work elsewhere", CODE)
    must_hold(HOURS, hours.overtime, "the overtime a day", CODE)
    must_hold(SURCHARGE, hours.surcharge, "the surcharge of overtime", CODE)
    for machine, shift in hours.shifts.items():
        _check_shift(shift, f"of {machine}")
    _check_shift(hours.shift, "of machines without a shift of their own")
    if len(hours.closed) > MOST_CLOSED:
        raise PlanError(CODE, f"the shop is closed {len(hours.closed)} times; at most {MOST_CLOSED} are kept")
    for one in hours.closed:
        _check_closed(one)


def _check_closed(one: Closed) -> None:
    when = f"closed from {one.first} to {one.last}"
    if one.last < one.first:
        raise PlanError(CODE, f"{when} ends before it begins")
    if (one.last - one.first).days > LONGEST_CLOSED or not 2000 <= one.first.year <= 2200:
        raise PlanError(CODE, f"{when} is not of these years, or more than {LONGEST_CLOSED} days")


def _check_shift(shift: Shift, whose: str) -> None:
    must_hold(HOURS, shift.hours, f"the hours a day {whose}", CODE)
    must_hold(DAYS_A_WEEK, shift.days, f"the days a week {whose}", CODE)
    must_hold(SHARE, shift.available, f"the share that can be booked {whose}", CODE)
