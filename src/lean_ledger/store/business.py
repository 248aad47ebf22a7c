"""The shop's own words and hours, and what its machines are booked with."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from fractions import Fraction
from typing import TYPE_CHECKING

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import select

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.capacity.booked import Book, Lot, booked
from lean_ledger.core.capacity.checked import check_hours
from lean_ledger.core.capacity.lots import Of, left_of, lot_of
from lean_ledger.core.floor.book import book
from lean_ledger.core.quoting.checked import check_terms
from lean_ledger.core.shop.summary import Summary
from lean_ledger.library.business import ShopHours, ShopTerms, shipped_business
from lean_ledger.store.database import Database
from lean_ledger.store.job_list import read_summary
from lean_ledger.store.models import JobRow, PlanRow, ShopRow, SummaryRow
from lean_ledger.store.rows import now

if TYPE_CHECKING:
    from lean_ledger.store.desk import Desk

TERMS: TypeAdapter[ShopTerms] = TypeAdapter(ShopTerms)
HOURS: TypeAdapter[ShopHours] = TypeAdapter(ShopHours)
WHAT = "business"
BOOKS = ("ordered", "in work")  # states of a job in which it takes hours


@dataclass(frozen=True)
class Ordered:
    """A job that takes hours, of the plan that it is made by; `lot` is None where the plan was not computed yet."""

    job: JobRow
    plan_id: int
    quantity: int
    lot: Lot | None
    made: Fraction = Fraction(0)  # hours that are done


class Business:
    """Safe to share between threads, as the desk that it belongs to."""

    def __init__(self, desk: Desk, database: Database) -> None:
        self._desk = desk
        self._database = database

    def terms(self) -> ShopTerms:
        text = self._kept("terms")
        try:
            return TERMS.validate_json(text) if text else shipped_business()[0]
        except ValidationError:  # another build's: what ships stands in its place
            return shipped_business()[0]

    def hours(self) -> ShopHours:
        text = self._kept("hours")
        try:
            return HOURS.validate_json(text) if text else shipped_business()[1]
        except ValidationError:
            return shipped_business()[1]

    def take_terms(self, terms: ShopTerms, author: str) -> None:
        """Raises PlanError with what is wrong of them."""
        check_terms(terms)
        self._keep("terms", TERMS.dump_json(terms).decode(), author)

    def take_hours(self, hours: ShopHours, author: str) -> None:
        """Raises PlanError with what is wrong of them."""
        known = {machine.id for machine in self._desk.library.machines}
        strange = [id for id in hours.shifts if id not in known]
        if strange:
            raise PlanError("no-such-machine", f"there is no machine {strange[0]!r} that could have a shift")
        check_hours(hours)
        self._keep("hours", HOURS.dump_json(hours).decode(), author)

    def ordered(self) -> tuple[Ordered, ...]:
        """Jobs that take hours, with their plans as they were computed last."""
        with self._database.reading() as session:
            rows = session.execute(
                select(JobRow, PlanRow.id, SummaryRow)
                .join(PlanRow, (PlanRow.job == JobRow.id) & PlanRow.chosen)
                .outerjoin(SummaryRow, (SummaryRow.plan == PlanRow.id) & (SummaryRow.seq == PlanRow.current))
                .where(JobRow.status.in_(BOOKS))
                .order_by(JobRow.id)
            ).all()
        return tuple(self._ordered(job, plan_id, read_summary(row)) for job, plan_id, row in rows)

    def _ordered(self, job: JobRow, plan_id: int, summary: Summary | None) -> Ordered:
        quantity = job.ordered or (summary.quantities[0] if summary is not None and summary.quantities else 0)
        if summary is None or not summary.hours:
            return Ordered(job, plan_id, quantity, None)
        lot, done = lot_of(Of(job.id, job.number, job.due), summary, quantity), Fraction(0)
        if job.status == "in work":
            books = [book(self._desk.floor.events(plan_id, one.load)) for one in summary.hours]
            lot, done = left_of(lot, summary, quantity, books)
        return Ordered(job, plan_id, quantity, lot, done)

    def lots(self, but: int = 0) -> list[Lot]:
        """Of all jobs that take hours, but one."""
        return [one.lot for one in self.ordered() if one.lot is not None and one.job.id != but]

    def book(self, today: date, but: int = 0) -> Book:
        """What is booked; without one job. Raises PlanError no-hours."""
        return booked(self.lots(but), self.hours(), today)

    def _kept(self, key: str) -> str:
        with self._database.reading() as session:
            row = session.get(ShopRow, (WHAT, key))
            return row.row if row is not None else ""

    def _keep(self, key: str, text: str, author: str) -> None:
        with self._database.writing() as session:
            session.merge(ShopRow(what=WHAT, key=key, row=text, author=author, at=now()))


def all_machines(orders: Sequence[Ordered]) -> list[str]:
    """That something is booked on, in the order in which they come."""
    return list(dict.fromkeys(machine for one in orders if one.lot for machine, _ in one.lot.loads))
