"""The shop's library and the list of its jobs: what is asked and changed without a plan being computed."""

from __future__ import annotations

import threading
from collections.abc import Callable, Sequence
from typing import Any

from sqlalchemy import func, select, update

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.plain_text import LONGEST_NAME, check_name
from lean_ledger.core.files.tool_file import Brought
from lean_ledger.core.geometry.host import KernelHost
from lean_ledger.core.shop.habits import Habit
from lean_ledger.core.shop.summary import Summary, thumb_svg
from lean_ledger.library.types import Library, Measured
from lean_ledger.store.beginning import Beginning
from lean_ledger.store.database import Database
from lean_ledger.store.files import Files
from lean_ledger.store.job_list import (
    JobPage,
    JobQuery,
    habits_elsewhere,
    job_page,
    keep_summary,
    unfollowed_plans,
    waiting_plans,
)
from lean_ledger.store.ledgers import Ledgers
from lean_ledger.store.models import AnalysisRow, JobRow, NoteRow, PlanRow
from lean_ledger.store.opened import STATUSES
from lean_ledger.store.shelf import Shelf, first_shelf
from lean_ledger.store.shop import Shop, What
from lean_ledger.store.states import States
from lean_ledger.store.stocks import Stocks


def nothing() -> None:
    """What is done about a row that is out of date where nobody computes it again."""


class ShopDesk:
    """Safe to share between threads; what it holds in memory can be computed again."""

    def __init__(self, database: Database, library: Library, kernel: KernelHost) -> None:
        self._database = database
        self.shop = Shop(database, library)
        self._shelf = first_shelf(self.shop.library())  # in one piece: swapped, never changed
        self.on_stale: Callable[[], None] = nothing  # called when a list shows a row that is out of date
        self._states = States(database, lambda: self._shelf.made_by)
        self._shopping = threading.Lock()
        self.files = Files(database, kernel)
        self.path = database.path
        self.stocks = Stocks()
        self._ledgers = Ledgers(self.files)
        self._beginning = Beginning(database, self.stocks)

    # ---- the shop

    def take_tools(self, text: str, author: str) -> Brought:
        """Bring tools into the library; every plan is computed with them from now on. Raises ProblemError."""
        brought = self.shop.take_tools(text, author)
        self._library_changed()
        return brought

    def take_cutting(self, text: str, author: str) -> int:
        """Bring cutting data into the library; how many rows. Raises ProblemError."""
        rows = self.shop.take_cutting(text, author)
        self._library_changed()
        return len(rows)

    def take_chains(self, text: str, author: str) -> None:
        """Rules for how features are made; every plan is computed by them from now on. Raises ProblemError."""
        self.shop.take_chains(text, author)
        self._library_changed()

    def take_magazine(self, machine: str, tools: Sequence[str], author: str) -> None:
        """Which tools stand in a machine; every plan is computed with them from now on. Raises PlanError."""
        self.shop.take_magazine(machine, tools, author)
        self._library_changed()

    def take_factor(self, measured: Measured, author: str) -> None:
        """A factor that was measured; every plan is computed with it from now on."""
        self.shop.take_factor(measured, author)
        self._library_changed()

    def drop_own(self, what: What, key: str) -> None:
        """Take a row of the shop's own out of the library. Raises PlanError where there is none."""
        self.shop.drop(what, key)
        self._library_changed()

    @property
    def shelf(self) -> Shelf:
        """The library as it stands now. What is asked of it twice is asked of one and the same shelf."""
        return self._shelf

    @property
    def library(self) -> Library:
        return self._shelf.library

    @property
    def made_by(self) -> str:
        return self._shelf.made_by

    def read_library(self) -> None:
        """The library as it is in the database now: another process may have changed it."""
        self._library_changed()

    def _library_changed(self) -> None:
        with self._shopping:
            self._shelf = self._shelf.followed_by(self.shop.library())
        self._states.forget()

    # ---- the list of jobs

    def jobs(self, query: JobQuery) -> JobPage:
        """A page of the list, from what was kept with each version."""
        with self._database.reading() as session:
            found = job_page(session, query, self.made_by)
        if not all(line.fresh for line in found.lines):
            self.on_stale()
        return found

    def habits_elsewhere(self, plan_id: int, material: str) -> list[tuple[str, tuple[Habit, ...]]]:
        """What other plans in a material set by hand, by the numbers of their jobs, the last changed first."""
        with self._database.reading() as session:
            found = habits_elsewhere(session, plan_id, material)
        return [(number, summary.habits) for number, summary in found]

    def waiting(self) -> tuple[int, ...]:
        """Plans whose row in the list is not what it would be now."""
        with self._database.reading() as session:
            return waiting_plans(session, self.made_by)

    def unfollowed(self, most: int) -> tuple[int, ...]:
        """Plans whose row in the list does not hold what their stock shows, the newest first."""
        with self._database.reading() as session:
            return unfollowed_plans(session, most)

    def plans_by_number(self) -> dict[str, int]:
        """The first plan of each job, by the job's number."""
        with self._database.reading() as session:
            rows = session.execute(
                select(JobRow.number, func.min(PlanRow.id)).join(PlanRow, PlanRow.job == JobRow.id).group_by(JobRow.id)
            )
            return dict(rows.all())

    def note(self, key: str) -> str | None:
        """What the program noted for itself."""
        with self._database.reading() as session:
            row = session.get(NoteRow, key)
            return row.value if row is not None else None

    def take_note(self, key: str, value: str) -> None:
        with self._database.writing() as session:
            session.merge(NoteRow(key=key, value=value))

    def take_summary(self, plan_id: int, seq: int, made_by: str, summary: Summary) -> None:
        with self._database.writing() as session:
            keep_summary(session, plan_id, seq, made_by, summary)

    def thumb(self, file: str, solid: int) -> str:
        """The small picture of a solid, SVG. Raises PlanError no-such-picture."""
        with self._database.reading() as session:
            found = session.scalar(
                select(AnalysisRow.thumb).where(AnalysisRow.file == file, AnalysisRow.solid == solid)
            )
        if found is None:
            raise PlanError("no-such-picture", "there is no picture of such a part")
        return found

    def keep_thumbs(self) -> None:
        """Small pictures for parts that were read before there were any."""
        with self._database.reading() as session:
            keys = session.execute(select(AnalysisRow.file, AnalysisRow.solid).where(AnalysisRow.thumb.is_(None)))
            missing = list(keys)
        for file, solid in missing:
            with self._database.reading() as session:
                part = self.files.part(session, file, solid)
            with self._database.writing() as session:
                session.execute(
                    update(AnalysisRow)
                    .where(AnalysisRow.file == file, AnalysisRow.solid == solid)
                    .values(thumb=thumb_svg(part))
                )

    def set_job(self, job_id: int, **values: Any) -> None:
        """Change a job's own words: number, name, customer, due, status."""
        if values.get("status", STATUSES[0]) not in STATUSES:
            raise PlanError("status", f"a job is {', '.join(STATUSES)}; not {values['status']!r}")
        for name, longest in (("number", 40), ("name", LONGEST_NAME), ("customer", LONGEST_NAME)):
            if name in values:
                check_name(values[name], f"the {name}", longest)
        with self._database.writing() as session:
            job = session.get(JobRow, job_id)
            if job is None:
                raise PlanError("no-such-job", f"there is no job {job_id}")
            for name, value in values.items():
                setattr(job, name, value)
