"""The plans of a job: forked from a line of a journal, named, put away, and the one that the job is made by."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import TYPE_CHECKING

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.plain_text import check_name
from lean_ledger.core.changes import Change
from lean_ledger.core.first.again import BeginAgain
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.shop.summary import Summary
from lean_ledger.store.database import Database
from lean_ledger.store.job_list import keep_evaluated, read_summary
from lean_ledger.store.models import PlanRow, SummaryRow, VersionRow
from lean_ledger.store.rows import NO_EFFECT, decided_in, new_version, now, plan_row, version_row

if TYPE_CHECKING:
    from lean_ledger.store.desk import Desk

MOST_PLANS = 30  # of a job
LONGEST = 80


@dataclass(frozen=True)
class PlanLine:
    """One plan of a job, from what was kept of it; `summary` is None until it is computed."""

    id: int
    name: str
    origin: str
    chosen: bool
    put_away: bool
    lines: int
    last: datetime  # when its journal grew
    summary: Summary | None
    fresh: bool
    chosen_by: str = ""
    chosen_at: datetime | None = None


class Alternatives:
    """Safe to share between threads, as the desk that it belongs to."""

    def __init__(self, desk: Desk, database: Database) -> None:
        self._desk = desk
        self._database = database

    def of(self, plan_id: int) -> tuple[PlanLine, ...]:
        """All plans of the job that a plan is of, the chosen one first. Raises PlanError no-such-plan."""
        made_by = self._desk.made_by
        with self._database.reading() as session:
            job = plan_row(session, plan_id).job
            grown = (
                select(VersionRow.plan, func.count().label("lines"), func.max(VersionRow.at).label("last"))
                .group_by(VersionRow.plan)
                .subquery()
            )
            rows = session.execute(
                select(PlanRow, SummaryRow, grown.c.lines, grown.c.last)
                .join(grown, grown.c.plan == PlanRow.id)
                .outerjoin(SummaryRow, (SummaryRow.plan == PlanRow.id) & (SummaryRow.seq == PlanRow.current))
                .where(PlanRow.job == job)
                .order_by(PlanRow.chosen.desc(), PlanRow.put_away, PlanRow.id)
            ).all()
        return tuple(
            PlanLine(
                row.id, row.name, row.origin, row.chosen, row.put_away, lines, last, read_summary(summary),
                summary is not None and summary.made_by == made_by, row.chosen_by, row.chosen_at,
            )
            for row, summary, lines, last in rows
        )  # fmt: skip

    def fork(
        self, plan_id: int, seq: int | None, name: str, author: str, changes: Sequence[Change | BeginAgain] = ()
    ) -> int:
        """A plan of the same job that begins at a line of another's journal, at its current one by itself, with some
        changes made to it at once; returns its id.

        Raises PlanError no-such-version, too-many-plans, and what a change is refused with: then there is no plan.
        """
        check_name(name, "the name of the plan", LONGEST)
        with self._database.reading() as session:
            row = plan_row(session, plan_id)
            version = version_row(session, plan_id, row.current if seq is None else seq)
            if version is None:
                raise PlanError("no-such-version", f"the journal has no line {seq}")
            job, origin = row.job, f"“{row.name}”, line {version.seq}"
            plan = decided_in(version)
        at = self._desk.evaluated(job, plan)
        steps = [(plan, f"forked from {origin}: {version.words}", NO_EFFECT, at)]
        for change in changes:
            steps.append(self._desk.stepped(plan_id, job, steps[-1][3], change))
        shelf = self._desk.shelf
        with self._database.writing() as session:
            there = list(session.scalars(select(PlanRow.name).where(PlanRow.job == job)))
            if len(there) >= MOST_PLANS:
                raise PlanError("too-many-plans", f"the job has {len(there)} plans, and {MOST_PLANS} are the most")
            new = PlanRow(
                job=job, name=_unlike(name or row.name, there), edition=1, current=len(steps), chosen=False,
                put_away=False, origin=origin,
            )  # fmt: skip
            session.add(new)
            session.flush()
            for k, (decided, words, effect, _) in enumerate(steps, start=1):
                session.add(new_version(new.id, k, k - 1 or None, decided, author, words, effect))
            keep_evaluated(session, new.id, len(steps), shelf.made_by, steps[-1][3].ledger, steps[-1][3].part)
            return new.id

    def choose(self, plan_id: int, author: str) -> None:
        """The job is made by this plan from now on; who says so is kept."""
        with self._database.writing() as session:
            chosen_now(session, plan_id, author)

    def rename(self, plan_id: int, name: str) -> None:
        """Raises PlanError for an empty name, and for one that another plan of the job has."""
        check_name(name, "the name of the plan", LONGEST)
        if not name:
            raise PlanError("name", "a plan needs a name")
        with self._database.writing() as session:
            row = plan_row(session, plan_id)
            if any(other.name == name for other in _others(session, row)):
                raise PlanError("name", f"the job has a plan “{name}” already")
            session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(name=name))

    def put_away(self, plan_id: int, *, away: bool) -> None:
        """Out of sight, or back. Raises PlanError for the plan that the job is made by."""
        with self._database.writing() as session:
            row = plan_row(session, plan_id)
            if row.chosen and away:
                raise PlanError("chosen", f"the job is made by “{row.name}”; choose another plan first")
            session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(put_away=away))

    def ledgers(self, plan_id: int, ids: Sequence[int]) -> tuple[tuple[str, Ledger], ...]:
        """Names and ledgers of some of the job's plans, evaluated. Raises PlanError for one of another job."""
        lines = {line.id: line for line in self.of(plan_id)}
        strange = [str(id) for id in ids if id not in lines]
        if strange:
            raise PlanError("no-such-plan", f"the job has no plan {', '.join(strange)}")
        return tuple((lines[id].name, self._desk.recalled(id).ledger) for id in dict.fromkeys(ids))


def chosen_now(session: Session, plan_id: int, author: str) -> None:
    """Nothing is written where it is the job's plan already."""
    row = plan_row(session, plan_id)
    if row.chosen:
        return
    session.execute(update(PlanRow).where(PlanRow.job == row.job, PlanRow.chosen).values(chosen=False))
    values = {"chosen": True, "put_away": False, "chosen_by": author, "chosen_at": now()}
    session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(**values))


def _others(session: Session, row: PlanRow) -> list[PlanRow]:
    return list(session.scalars(select(PlanRow).where(PlanRow.job == row.job, PlanRow.id != row.id)))


def _unlike(name: str, there: Sequence[str]) -> str:
    """The name, with a number behind it where another has it."""
    found, k = name, 2
    while found in there:
        found, k = f"{name[: LONGEST - 4]} {k}", k + 1
    return found
