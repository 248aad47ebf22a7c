"""Hours of machines, booked by what was ordered: when a lot is done, what a rush takes, how full a week is.

Lots are booked one after the other, by the day that they are due, each load in the first hours that its machine has
free. A lot goes on to another machine the next working day. There is no scheduling beyond that.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from fractions import Fraction

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.library.business import ShopHours

DAY = timedelta(days=1)
MOST_DAYS = 3 * 366  # that are looked ahead
LATE = date.max
OVERTIME_STEP = Fraction(1, 4)  # hours a day


@dataclass(frozen=True)
class Lot:
    """Hours at each machine, in the order in which the loads are run; `outside`: work elsewhere follows; `here`: its
    stock is in the house.
    """

    job: str
    due: date | None
    loads: tuple[tuple[str, Fraction], ...]
    outside: bool = False
    here: bool = False
    id: int = 0  # of the job: two may have one number

    @property
    def by_machine(self) -> dict[str, Fraction]:
        found: dict[str, Fraction] = {}
        for machine, hours in self.loads:
            found[machine] = found.get(machine, Fraction(0)) + hours
        return found


@dataclass(frozen=True)
class Part:
    """Hours of a lot on a day."""

    job: str
    machine: str
    day: date
    hours: Fraction


@dataclass(frozen=True)
class Done:
    """When a lot is ready, and how late that is; `parts` are its hours."""

    lot: Lot
    begins: date
    ready: date
    parts: tuple[Part, ...]

    @property
    def late(self) -> int:
        """Days after it is due; 0 in time."""
        return max(0, (self.ready - self.lot.due).days) if self.lot.due else 0


def weeks_to(day: date, today: date) -> int:
    """Weeks from today until a day, begun ones counted: 8 days are 2."""
    return -(-(day - today).days // 7)


class Calendar:
    """Working days of the shop and hours of each machine on them."""

    def __init__(self, hours: ShopHours) -> None:
        self._hours = hours

    def hours(self, machine: str, day: date) -> Fraction:
        """That can be booked on a day."""
        shift = self._hours.of(machine)
        if day.weekday() >= shift.days or self._closed(day):
            return Fraction(0)
        return Fraction(shift.hours) * Fraction(shift.available)

    def after(self, day: date, count: int) -> date:
        """So many working days later; the shop works from Monday to Friday."""
        for _ in range(count):
            day += DAY
            while day.weekday() >= 5 or self._closed(day):
                day += DAY
        return day

    def _closed(self, day: date) -> bool:
        return any(one.first <= day <= one.last for one in self._hours.closed)


@dataclass(frozen=True)
class Overtime:
    """What it takes to be ready by a day: hours on top, at most so many a day. `ready` is when it then is."""

    ready: date
    a_day: Fraction
    hours: Fraction


class Book:
    """What is booked so far; lots are added in the order in which they come first."""

    def __init__(self, hours: ShopHours, today: date) -> None:
        self._said = hours
        self.calendar = Calendar(hours)
        self.today = today
        self._used: dict[tuple[str, date], Fraction] = {}
        self.done: list[Done] = []
        self.refused: dict[int, str] = {}  # lots that cannot be booked, by their id: why

    def add(self, lot: Lot) -> Done:
        """Book a lot behind the others. Raises PlanError no-hours for a machine that is never free."""
        found = self.tried(lot)
        for part in found.parts:
            key = (part.machine, part.day)
            self._used[key] = self._used.get(key, Fraction(0)) + part.hours
        self.done.append(found)
        return found

    def tried(self, lot: Lot, *, extra: Fraction = Fraction(0)) -> Done:
        """When a lot would be done behind the others, with so many hours a working day on top; books nothing."""
        begins = day = self.today if lot.here else self.calendar.after(self.today, self._said.material_days)
        parts: list[Part] = []
        for k, (machine, hours) in enumerate(lot.loads):
            if k and machine != lot.loads[k - 1][0]:
                day = self.calendar.after(day, 1)
            own = list(self._filled(lot.job, machine, hours, day, parts, extra))
            parts += own
            day = own[-1].day if own else day
        ready = self.calendar.after(day, self._said.outside_days) if lot.outside else day
        return Done(lot, begins, ready, tuple(parts))

    def rush(self, lot: Lot, wanted: date) -> Overtime:
        """The fewest hours a day on top with which a lot is ready in time; the most there are where none do."""
        found = self.tried(lot)
        if found.ready <= wanted:
            return Overtime(found.ready, Fraction(0), Fraction(0))
        most, extra = Fraction(self._said.overtime), Fraction(0)
        while extra < most:
            extra = min(most, extra + OVERTIME_STEP)
            found = self.tried(lot, extra=extra)
            if found.ready <= wanted:
                break
        return Overtime(found.ready, extra, self._on_top(found))

    def _on_top(self, found: Done) -> Fraction:
        """Hours of a lot that no regular ones are left for."""
        days: dict[tuple[str, date], Fraction] = {}
        for part in found.parts:
            days[part.machine, part.day] = days.get((part.machine, part.day), Fraction(0)) + part.hours
        return sum((max(Fraction(0), hours - self._free(*key)) for key, hours in days.items()), Fraction(0))

    def _free(self, machine: str, day: date) -> Fraction:
        return max(Fraction(0), self.calendar.hours(machine, day) - self._used.get((machine, day), Fraction(0)))

    def _filled(
        self, job: str, machine: str, hours: Fraction, day: date, before: Sequence[Part], extra: Fraction
    ) -> Iterator[Part]:
        """The first hours that a machine has free from a day on; `before`: what the lot takes already."""
        taken: dict[date, Fraction] = {}
        for part in before:
            if part.machine == machine:
                taken[part.day] = taken.get(part.day, Fraction(0)) + part.hours
        left, last = hours, day + timedelta(days=MOST_DAYS)
        while left > 0:
            regular = self.calendar.hours(machine, day)
            free = self._free(machine, day) + (extra if regular else 0) - taken.get(day, Fraction(0))
            if free > 0:
                yield Part(job, machine, day, min(free, left))
                left -= free
            day += DAY
            if day > last:
                raise PlanError("no-hours", f"machine {machine} has no hours free within three years; give it a shift")


def booked(lots: Iterable[Lot], hours: ShopHours, today: date) -> Book:
    """All that was ordered, what is due first before the rest."""
    return _all_added(Book(hours, today), lots)


def _all_added(found: Book, lots: Iterable[Lot]) -> Book:
    """What cannot be booked is left out with its reason: the rest stands, and hours can be given."""
    for lot in sorted(lots, key=lambda one: (one.due or LATE, one.job)):
        try:
            found.add(lot)
        except PlanError as error:
            found.refused[lot.id] = error.message
    return found


def pushed(lots: Sequence[Lot], first: Lot, hours: ShopHours, today: date) -> tuple[Done, ...]:
    """Lots that come late where one goes before all others, and would not otherwise."""
    as_it_is = {done.lot.id: done.late for done in booked(lots, hours, today).done}
    found = Book(hours, today)
    found.add(first)
    _all_added(found, lots)
    return tuple(done for done in found.done[1:] if done.late > as_it_is[done.lot.id])


@dataclass(frozen=True)
class Week:
    """Hours of a machine in a week: what it has, and what is booked of it by each job."""

    monday: date
    hours: Fraction
    jobs: tuple[tuple[str, Fraction], ...]

    @property
    def booked(self) -> Fraction:
        return sum((hours for _, hours in self.jobs), Fraction(0))


def weeks(book: Book, machine: str, count: int) -> tuple[Week, ...]:
    """From the week that today is in; of that one the days that are left."""
    monday = book.today - timedelta(days=book.today.weekday())
    found = []
    for k in range(count):
        first = monday + timedelta(weeks=k)
        days = [first + timedelta(days=i) for i in range(7) if first + timedelta(days=i) >= book.today]
        hours = sum((book.calendar.hours(machine, day) for day in days), Fraction(0))
        jobs: dict[str, Fraction] = {}
        for done in book.done:
            for part in done.parts:
                if part.machine == machine and part.day in days:
                    jobs[part.job] = jobs.get(part.job, Fraction(0)) + part.hours
        found.append(Week(first, hours, tuple(jobs.items())))
    return tuple(found)
