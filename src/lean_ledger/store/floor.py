"""What comes back from the floor: what was ticked at a machine, and the runs that machines reported."""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from dataclasses import asdict, dataclass
from datetime import date
from typing import TYPE_CHECKING, Any

from sqlalchemy import func, select

from lean_ledger.core.basis.errors import LedgerError, PlanError
from lean_ledger.core.basis.plain_text import check_text
from lean_ledger.core.floor.book import Book, Estimated, Event, book, check_event, estimated
from lean_ledger.core.floor.photo import checked_photo
from lean_ledger.core.floor.runs import RunRecord
from lean_ledger.core.floor.steps import Step, steps_of
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.standins.dnc import RunTimes
from lean_ledger.store.database import Database
from lean_ledger.store.history import EVENTS, SECTIONS, History, Seen, event_of, run_records
from lean_ledger.store.models import FileRow, FloorRow, RunRow
from lean_ledger.store.rows import now

if TYPE_CHECKING:
    from lean_ledger.store.desk import Desk
    from lean_ledger.store.opened import Opened

MOST_EVENTS = 200  # at once


@dataclass(frozen=True)
class AtMachine:
    """A load as it is set up and run, and what was ticked of it; it goes by the name of its first setup."""

    opened: Opened
    load: LoadLedger
    steps: tuple[Step, ...]
    book: Book


@dataclass(frozen=True)
class Taken:
    """How many events were new, and which were not taken, with the reason."""

    new: int
    refused: tuple[tuple[str, str], ...]  # (token, why)


class Floor:
    """Safe to share between threads, as the desk that it belongs to."""

    def __init__(self, desk: Desk, database: Database) -> None:
        self._desk = desk
        self._database = database
        self._history = History(database, lambda: desk.library)

    def at_machine(self, plan_id: int, setup: str) -> AtMachine:
        """Raises PlanError no-such-setup for one that the plan does not have, or not any more."""
        opened = self._desk.recalled(plan_id)
        if all(one.id != setup for one in opened.plan.setups):
            there = ", ".join(one.id for one in opened.plan.setups)
            raise PlanError("no-such-setup", f"the plan has no setup {setup!r} any more; it has {there}")
        load = opened.ledger.load_of(setup)
        job = opened.job
        words = JobWords(job.number, job.name, opened.plan.revision, job.customer)
        sheet = setup_sheet(words, opened.ledger, opened.part, opened.version.seq, date.min)
        sheets = tuple(one for one in sheet.setups if one.id in load.load.setups)
        steps = steps_of(load, sheets, opened.ledger.material.name)
        return AtMachine(opened, load, steps, book(self.events(plan_id, load.load.setups[0])))

    def events(self, plan_id: int, load: str) -> list[Event]:
        with self._database.reading() as session:
            rows = session.scalars(
                select(FloorRow).where(FloorRow.plan == plan_id, FloorRow.load == load).order_by(FloorRow.at)
            )
            return [event_of(row) for row in rows]

    def take(self, plan_id: int, setup: str, events: Sequence[Event], photos: dict[str, bytes], author: str) -> Taken:
        """Write down what was noted; what came before is not taken again. `photos`: pictures by their event's token.

        One that cannot be taken keeps no other back. Raises PlanError no-such-setup.
        """
        if len(events) > MOST_EVENTS:
            raise PlanError("events", f"{len(events)} events at once; at most {MOST_EVENTS} are taken")
        there = self.at_machine(plan_id, setup)
        planned = estimated(there.opened.job.number, there.load)
        load, at, new = there.load.load.setups[0], now(), 0
        refused: list[tuple[str, str]] = []
        for event in events:
            try:
                check_event(event, at)
                check_text(event.text, "the note")
                photo = checked_photo(photos.get(event.token, b"")) if event.kind == "photo" else None
            except LedgerError as error:
                refused.append((event.token, error.message))
                continue
            with self._database.writing() as session:
                if session.get(FloorRow, event.token) is not None:
                    continue
                hash = ""
                if photo is not None:
                    hash = self._desk.files.keep_content(session, photo.name, photo.content)
                session.add(_row(event, plan_id, load, planned, author, hash))
                new += 1
        return Taken(new, tuple(refused))

    def photo(self, plan_id: int, hash: str) -> bytes:
        """A picture that was noted for a plan. Raises PlanError no-such-picture."""
        with self._database.reading() as session:
            known = any(
                json.loads(row)["event"]["photo"] == hash
                for row in session.scalars(
                    select(FloorRow.data).where(FloorRow.plan == plan_id, FloorRow.kind == "photo")
                )
            )
            file = session.get(FileRow, hash) if known else None
            if file is None:
                raise PlanError("no-such-picture", "there is no such picture")
            return file.content

    # ---- runs

    def take_runs(self, plan_id: int, seq: int, answers: Iterable[RunTimes]) -> None:
        """Keep what the machines answered, each cycle a run."""
        at = now()
        with self._database.writing() as session:
            for answer in answers:
                of_program = select(func.count()).where(RunRow.plan == plan_id, RunRow.program == answer.program)
                before = session.scalar(of_program) or 0
                for k, sections in enumerate(answer.runs, start=1 + before):
                    row = RunRow(
                        plan=plan_id, seq=seq, load=answer.setup, machine=answer.machine_id, program=answer.program,
                        number=k, sections=SECTIONS.dump_json(sections).decode(), at=at,
                    )  # fmt: skip
                    session.add(row)

    def runs(self, plan_id: int | None = None) -> tuple[RunRecord, ...]:
        """Of a plan, or of all, as they came in."""
        with self._database.reading() as session:
            return tuple(record for _, record in run_records(session, plan_id))

    def run_count(self, plan_id: int) -> int:
        with self._database.reading() as session:
            return session.scalar(select(func.count()).where(RunRow.plan == plan_id)) or 0

    # ---- factors

    def seen(self) -> Seen:
        """What all that came back says of each machine and category."""
        return self._history.seen()

    def use_factor(self, machine: str, category: str, author: str) -> None:
        """Estimates are taken times what was measured, as it stands now. Raises PlanError where nothing was."""
        found = next((one for one in self.seen().factors if (one.machine, one.category) == (machine, category)), None)
        if found is None:
            raise PlanError("not-measured", f"nothing was measured of {category} on {machine} yet")
        self._desk.take_factor(found.in_use, author)


def _row(event: Event, plan_id: int, load: str, planned: Estimated, author: str, photo: str) -> FloorRow:
    data: dict[str, Any] = {"event": EVENTS.dump_python(event, mode="json"), "planned": asdict(planned)}
    data["event"] |= {"photo": photo, "author": author}
    return FloorRow(
        token=event.token, plan=plan_id, load=load, kind=event.kind, data=json.dumps(data, ensure_ascii=False),
        author=author, at=event.at, received=now(),
    )  # fmt: skip
