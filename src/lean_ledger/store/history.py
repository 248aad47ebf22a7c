"""What the floor's history says of each machine and category, worked out again when more came back."""

from __future__ import annotations

import hashlib
import json
import threading
from collections.abc import Callable
from dataclasses import dataclass

from pydantic import TypeAdapter
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from lean_ledger.core.floor.book import Estimated, Event, book, observations_of
from lean_ledger.core.floor.measured import Factor, Observation, factors
from lean_ledger.core.floor.runs import RunRecord, Section, observations
from lean_ledger.library.types import Library, Measured
from lean_ledger.store.database import Database
from lean_ledger.store.models import FloorRow, JobRow, PlanRow, RunRow

EVENTS: TypeAdapter[Event] = TypeAdapter(Event)
SECTIONS: TypeAdapter[tuple[Section, ...]] = TypeAdapter(tuple[Section, ...])


@dataclass(frozen=True)
class Seen:
    """What was measured up to now; `stamp` is another hexadecimal text whenever a factor is another."""

    factors: tuple[Factor, ...] = ()
    measured: tuple[Measured, ...] = ()
    stamp: str = ""


class History:
    """Told from memory as long as nothing came back. Safe to share between threads."""

    def __init__(self, database: Database, library: Callable[[], Library]) -> None:
        self._database = database
        self._library = library
        self._working = threading.Lock()
        self._commits: object = None
        self._of: tuple[int, int, Library] | None = None  # last run, notes, and what they are judged by
        self._last_run = 0
        self._runs: list[Observation] = []
        self._seen = Seen()

    def seen(self) -> Seen:
        commits, library = self._database.commits(), self._library()
        with self._working:
            if self._commits == commits and self._of is not None and self._of[2] is library:
                return self._seen
            with self._database.reading() as session:
                last = session.scalar(select(func.max(RunRow.id))) or 0
                of = (last, session.scalar(select(func.count()).select_from(FloorRow)) or 0, library)
                if self._of is None or of[:2] != self._of[:2] or of[2] is not self._of[2]:
                    self._seen = self._worked_out(session, library)
            self._commits, self._of = commits, of
            return self._seen

    def _worked_out(self, session: Session, library: Library) -> Seen:
        new = run_records(session, after=self._last_run)
        self._runs += observations(record for _, record in new)
        self._last_run = new[-1][0] if new else self._last_run
        order = {machine.id: k for k, machine in enumerate(library.machines)}
        every = factors([*self._runs, *_noted(session)], dict(library.judgements))
        found = tuple(sorted(every, key=lambda one: order.get(one.machine, len(order))))
        measured = tuple(one.in_use for one in found)
        stamp = hashlib.sha256(repr(measured).encode()).hexdigest()[:8] if measured else ""
        return Seen(found, measured, stamp)


def run_records(session: Session, plan_id: int | None = None, after: int = 0) -> list[tuple[int, RunRecord]]:
    """Of a plan, or of all, with the number of their row, as they came in."""
    asked = (
        select(RunRow, JobRow.number)
        .join(PlanRow, PlanRow.id == RunRow.plan)
        .join(JobRow, JobRow.id == PlanRow.job)
        .where(RunRow.id > after)
        .order_by(RunRow.id)
    )
    found = session.execute(asked if plan_id is None else asked.where(RunRow.plan == plan_id)).all()
    return [
        (row.id, RunRecord(number, row.plan, row.seq, row.load, row.machine, row.program, f"run {row.number}", row.at,
                           SECTIONS.validate_json(row.sections)))
        for row, number in found
    ]  # fmt: skip


def _noted(session: Session) -> list[Observation]:
    """Of loading and setting up, at all machines."""
    rows = list(session.scalars(select(FloorRow).order_by(FloorRow.plan, FloorRow.load, FloorRow.at)))
    by_load: dict[tuple[int, str], list[FloorRow]] = {}
    for row in rows:
        by_load.setdefault((row.plan, row.load), []).append(row)
    found: list[Observation] = []
    for own in by_load.values():
        planned = Estimated(**json.loads(own[-1].data)["planned"])
        found += observations_of(book([event_of(row) for row in own]), planned)
    return found


def event_of(row: FloorRow) -> Event:
    return EVENTS.validate_python(json.loads(row.data)["event"])
