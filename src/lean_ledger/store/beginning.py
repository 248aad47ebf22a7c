"""The plan that a new job begins with."""

from __future__ import annotations

from dataclasses import dataclass
from time import monotonic

from lean_ledger.core.basis.errors import FileRefused, LedgerError
from lean_ledger.core.first.machine import begun, begun_on
from lean_ledger.core.followed.chosen import Outcome, chosen
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.host import Cancelled
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.plan import Plan
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.store.database import Database
from lean_ledger.store.files import Read
from lean_ledger.store.followed import keep_followed, row_key
from lean_ledger.store.ledgers import key_of
from lean_ledger.store.opened import JobNew
from lean_ledger.store.shelf import Shelf
from lean_ledger.store.stocks import Stocks

PATIENCE = 7.0  # s after which no further machine is tried
READ = 0.99  # of the share done, when a file is read and its plan is to be made
SOON = 9.0  # s within which a new job's plan is there: stock that takes longer is followed behind it


@dataclass(frozen=True)
class Beginning:
    """Safe to share between threads."""

    database: Database
    stocks: Stocks

    def first_of(self, new: JobNew, read: Read, shelf: Shelf, report: Report, cancelled: Cancelled) -> tuple[Plan, str]:
        """The plan, and what was compared in words. What its stock came to is kept.

        Raises PlanError for a material, a quantity or a machine that there is not.
        """
        part, library = read.part, shelf.library
        if new.machine:
            there = begun_on(quick_plan(part, new.material, new.quantities, library), (new.machine,), part, library)
            return there.plan, there.words
        soon = monotonic() + SOON
        found = begun(part, new.material, new.quantities, library, report, PATIENCE)
        if len(found.plans) == 1:  # nothing to choose from: its stock is followed like any other's
            return found.best.plan, found.words

        def follow(ledger: Ledger) -> Outcome:
            report("following its stock", 0.0)
            key = key_of((read.key,), part, ledger.plan, shelf)
            try:
                course = course_of(part, ledger)
                self.stocks.follow(key, course, lambda: True, silent, lambda: cancelled() or monotonic() > soon)
            except LedgerError as error:
                if cancelled():
                    raise
                return error
            outcome = self.stocks.known(key)
            assert outcome is not None, "what is wanted is followed"
            if isinstance(outcome, Followed):
                keep_followed(self.database, row_key(key, shelf.made_by), outcome)
            return outcome

        if monotonic() > soon:
            return found.best.plan, found.words
        best = chosen(found.plans, part, follow, soon)
        return best.begun.plan, "; ".join(words for words in (found.words_of(best.begun), best.words) if words)


def planning_told(file: str, report: Report, cancelled: Cancelled) -> Report:
    """Tells how far the planning is, and ends it where the planner does not want it any more."""

    def tell(stage: str, share: float) -> None:
        if cancelled():
            raise FileRefused("file-cancelled", "planning was cancelled", file)
        report(stage, READ + (1 - READ) * share)

    return tell
