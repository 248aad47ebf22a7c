"""The state of each plan: a text that is another whenever anything that is shown of it is another."""

from __future__ import annotations

import hashlib
import threading
from collections.abc import Callable

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from lean_ledger.store.database import Database
from lean_ledger.store.models import JobRow, PlanRow, RevisionRow
from lean_ledger.store.rows import plan_row


class States:
    """Told from memory as long as nobody commits and the shelf stays."""

    def __init__(self, database: Database, made_by: Callable[[], str]) -> None:
        self._database = database
        self._made_by = made_by
        self._seeing = threading.Lock()
        self._seen_at = (-1, -1)  # the number of commits at which these were read
        self._seen: dict[int, str] = {}
        self._shown_followed: dict[int, str] = {}  # by plan: the state in which its stock was known

    def forget(self) -> None:
        with self._seeing:
            self._seen = {}

    def of(self, plan_id: int) -> str:
        """Without evaluating anything. Raises PlanError no-such-plan."""
        commits = self._database.commits()
        with self._seeing:
            if commits != self._seen_at:
                self._seen_at, self._seen = commits, {}
            state = self._seen.get(plan_id)
        if state is None:
            with self._database.reading() as session:
                state = self.base(session, plan_id, self._made_by())
            with self._seeing:
                if self._seen_at == commits:
                    self._seen[plan_id] = state
        return self.with_stock(plan_id, state)

    def base(self, session: Session, plan_id: int, made_by: str) -> str:
        """The same before and after the stock is followed."""
        row = plan_row(session, plan_id)
        job = session.get_one(JobRow, row.job)
        last = session.scalar(select(func.max(RevisionRow.id)).where(RevisionRow.job == row.job))
        plans = session.execute(
            select(PlanRow.id, PlanRow.name, PlanRow.chosen, PlanRow.put_away).where(PlanRow.job == row.job)
        ).all()
        seen = (
            row.edition, row.current, job.number, job.name, job.customer, job.status, job.due, last, made_by,
            [tuple(one) for one in plans],
        )  # fmt: skip
        return f"{row.edition}-{hashlib.sha256(repr(seen).encode('utf-8', 'replace')).hexdigest()[:12]}"

    def with_stock(self, plan_id: int, state: str) -> str:
        return f"{state}f" if self._shown_followed.get(plan_id) == state else state

    def followed(self, plan_id: int, state: str, *, known: bool) -> None:
        """Whether a plan's stock was known when it was last opened in a state."""
        if known:
            self._shown_followed[plan_id] = state
        elif self._shown_followed.get(plan_id) == state:
            del self._shown_followed[plan_id]  # it was known, and is no longer kept
