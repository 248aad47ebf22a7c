"""Hours of machines: booked by hand, never more than there are; rush, closed days, what is pushed."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.capacity.booked import Book, Lot, booked, pushed, weeks
from lean_ledger.core.capacity.checked import check_hours
from lean_ledger.core.capacity.rush import rush_price
from lean_ledger.core.pricing.hours import LoadHours
from lean_ledger.core.quoting.checked import check_terms
from lean_ledger.library.business import Closed, Shift, ShopHours, shipped_business
from tests.core.test_overtaking import made

MONDAY = date(2026, 11, 30)
HOURS = ShopHours(
    material_days=0, outside_days=2, overtime=Decimal(2), surcharge=Decimal("0.5"), closed=(),
    shift=Shift(Decimal(10), 5, Decimal("0.8")), shifts={},
)  # fmt: skip


def lot(job: str, *loads: tuple[str, float], due: date | None = None, **more: object) -> Lot:
    return Lot(job, due, tuple((m, Fraction(str(h))) for m, h in loads), id=sum(map(ord, job)), **more)  # type: ignore[arg-type]


def day(k: int) -> date:
    return MONDAY + timedelta(days=k)


def test_hours_of_a_plan_by_hand() -> None:
    """Half an hour, then two a cycle of 90 s: 100 pieces are 50 cycles, 1.25 h; 101 are 51."""
    load = LoadHours("m", Decimal("0.5"), Decimal(90), 2)
    assert load.at(100) == Fraction(7, 4)
    assert load.at(101) == Fraction(7, 4) + Fraction(90, 3600)
    assert load.left(100, 30, set_up=True) == Fraction(7, 8), "35 cycles"
    assert load.left(100, 120, set_up=False) == Fraction(1, 2)


def test_lots_take_the_first_free_hours_one_after_the_other() -> None:
    """8 hours a day can be booked. 12 h are Monday and half of Tuesday; 6 h more what is left of it, and 2 of
    Wednesday. To another machine a lot goes the next day.
    """
    book = booked([lot("B", ("m", 6), due=day(20)), lot("A", ("m", 12), ("n", 1), due=day(5))], HOURS, MONDAY)
    first, then = book.done
    assert [(p.job, p.machine, p.day, p.hours) for p in first.parts] == [
        ("A", "m", day(0), 8), ("A", "m", day(1), 4), ("A", "n", day(2), 1),
    ]  # fmt: skip
    assert [(p.day, p.hours) for p in then.parts] == [(day(1), 4), (day(2), 2)]
    assert (first.ready, then.ready) == (day(2), day(2))
    (week, after) = weeks(book, "m", 2)
    assert (week.hours, week.booked, week.jobs) == (40, 18, (("A", 12), ("B", 6)))
    assert (after.hours, after.booked) == (40, 0)


def test_two_setups_on_one_machine_go_on_the_same_day() -> None:
    found = Book(HOURS, MONDAY).tried(lot("A", ("m", 3), ("m", 3)))
    assert [(p.day, p.hours) for p in found.parts] == [(day(0), 3), (day(0), 3)]


def test_stock_work_elsewhere_weekends_and_closed_days() -> None:
    """Stock takes 4 working days: Friday. 8 h then; two working days elsewhere, Monday is closed: Wednesday."""
    hours = replace(HOURS, material_days=4, closed=(Closed(day(7), day(7), "stocktaking"),))
    found = Book(hours, MONDAY).tried(lot("A", ("m", 8), outside=True))
    assert (found.begins, found.parts[0].day, found.ready) == (day(4), day(4), day(9))
    assert Book(hours, MONDAY).tried(lot("A", ("m", 8), here=True)).parts[0].day == MONDAY


def test_rush_is_the_least_overtime_that_is_in_time() -> None:
    """24 h are three days of 8. By Tuesday: 12 a day would be 4 on top, and 2 are the most: not to be had. By Wednesday
    none. 18 h by Tuesday: 9 a day, one hour on top each: 2 h.
    """
    book = Book(HOURS, MONDAY)
    none = book.rush(lot("A", ("m", 24)), day(2))
    assert (none.hours, none.ready) == (0, day(2))
    never = book.rush(lot("A", ("m", 24)), day(1))
    assert (never.ready, never.a_day) == (day(2), 2)
    found = book.rush(lot("A", ("m", 18)), day(1))
    assert (found.a_day, found.hours, found.ready) == (1, 2, day(1))


def test_price_of_a_rush_by_hand() -> None:
    """4 h at 42.00 and half as much again are 84.00; with 12 % overhead and a margin of 25 %: 84 · 1.12 / 0.75."""
    asked = made("0.5", "10", 1)
    one = replace(asked.setups[0], labour_rate=Decimal(42))
    asked = replace(asked, setups=(one,), overhead=Decimal("0.12"), margin=Decimal("0.25"))
    assert rush_price(Fraction(4), asked, HOURS) == Decimal("125.44")


def test_what_goes_before_others_makes_them_late() -> None:
    lots = [lot("A", ("m", 16), due=day(1)), lot("B", ("m", 8), due=day(9))]
    late = pushed(lots, lot("C", ("m", 8)), HOURS, MONDAY)
    assert [(one.lot.job, one.ready, one.late) for one in late] == [("A", day(2), 1)]


def test_machine_without_hours_is_said() -> None:
    hours = replace(HOURS, shifts={"m": Shift(Decimal(0), 5, Decimal(1))})
    with pytest.raises(PlanError, match="machine m has no hours free"):
        Book(hours, MONDAY).tried(lot("A", ("m", 1)))


def test_lot_that_no_hours_are_found_for_leaves_the_others_booked() -> None:
    hours = replace(HOURS, shifts={"m": Shift(Decimal(0), 5, Decimal(1))})
    book = booked([lot("A", ("m", 1), due=day(1)), lot("B", ("n", 8))], hours, MONDAY)
    assert [done.lot.job for done in book.done] == ["B"]
    assert "give it a shift" in book.refused[ord("A")]
    assert pushed([lot("A", ("m", 1), due=day(1))], lot("B", ("n", 8)), hours, MONDAY) == ()


LOTS = st.lists(
    st.tuples(st.sampled_from("mn"), st.integers(1, 300), st.integers(0, 30)).map(
        lambda t: (t[0], t[1] / 10, t[2])
    ),
    min_size=1, max_size=8,
)  # fmt: skip


@given(LOTS)
def test_all_hours_are_booked_and_no_day_has_more_than_it_has(asked: list[tuple[str, float, int]]) -> None:
    lots = [lot(f"J{k}", (machine, hours), due=day(due)) for k, (machine, hours, due) in enumerate(asked)]
    book = booked(lots, HOURS, MONDAY)
    days: dict[tuple[str, date], Fraction] = {}
    for done in book.done:
        assert sum(p.hours for p in done.parts) == done.lot.loads[0][1]
        assert done.ready == max(p.day for p in done.parts)
        for p in done.parts:
            days[p.machine, p.day] = days.get((p.machine, p.day), Fraction(0)) + p.hours
    assert all(hours <= book.calendar.hours(*key) for key, hours in days.items())
    busy = sorted(day for _, day in days)
    assert all((m, d) in days or m not in {a for a, _ in days} for m in "mn" for d in busy[:1]), "none idles at first"


def test_terms_and_hours_that_cannot_be_meant_are_refused() -> None:
    terms, hours = shipped_business()
    check_terms(terms)
    check_hours(hours)
    for bad, words in (
        (replace(terms, name=" "), "the shop's name is missing"),
        (replace(terms, currency="euro"), "currency “euro” is no code"),
        (replace(terms, rates=(("EUR", Decimal(1)),)), "stands twice"),
        (replace(terms, step=Decimal(0)), "the step of rounding is 0"),
    ):
        with pytest.raises(PlanError, match=words):
            check_terms(bad)
    for worse, words in (
        (replace(hours, closed=(Closed(day(3), day(1), ""),)), "ends before it begins"),
        (replace(hours, closed=(Closed(MONDAY, date.max, ""),)), "or more than 366 days"),
        (replace(hours, shift=Shift(Decimal(25), 5, Decimal(1))), "the hours a day of machines without"),
    ):
        with pytest.raises(PlanError, match=words):
            check_hours(worse)
