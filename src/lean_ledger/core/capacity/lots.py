"""What a job takes of its machines: of so many pieces, and what is left of it once some are made."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from fractions import Fraction

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.capacity.booked import Lot
from lean_ledger.core.floor.book import Book
from lean_ledger.core.shop.summary import Summary


@dataclass(frozen=True)
class Of:
    """A job as lots are named after it."""

    id: int
    number: str
    due: date | None = None


def lot_of(job: Of, summary: Summary, quantity: int) -> Lot:
    """What so many good pieces take. Raises PlanError for a plan that was not computed yet."""
    if not summary.hours:
        raise PlanError("not-computed", f"{job.number} was not computed yet; ask again in a moment")
    started = summary.started(quantity)
    loads = tuple((one.machine, one.at(started)) for one in summary.hours)
    return Lot(job.number, job.due, loads, summary.outside, id=job.id)


def left_of(lot: Lot, summary: Summary, quantity: int, books: Sequence[Book]) -> tuple[Lot, Fraction]:
    """Of a job in work what was not counted or ticked at its machines yet, and the hours that are done; its stock is
    here. `books`: one of each load.
    """
    started = summary.started(quantity)
    loads = tuple(
        (one.machine, one.left(started, kept.good + kept.scrapped, set_up=kept.setting_up is not None))
        for one, kept in zip(summary.hours, books, strict=True)
    )
    done = sum((hours for _, hours in lot.loads), Fraction(0)) - sum((hours for _, hours in loads), Fraction(0))
    return replace(lot, loads=loads, here=True), done
