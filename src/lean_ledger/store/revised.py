"""A revision that a plan has taken over, beside the plan as it last made the one before."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import select
from sqlalchemy.orm import Session

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.part.lineage import Revised
from lean_ledger.core.program.write import programs_of
from lean_ledger.core.revised.priced import Priced, priced
from lean_ledger.core.revised.subprograms import Subprogram, subprograms
from lean_ledger.store.database import Database
from lean_ledger.store.models import PlanRow, VersionRow
from lean_ledger.store.rows import decided_in, plan_row, revision_rows, version_row

if TYPE_CHECKING:
    from lean_ledger.store.desk import Desk
    from lean_ledger.store.opened import Opened


@dataclass(frozen=True)
class RevisionPrice:
    """`line` of the journal is the one at which the plan last made the revision before."""

    opened: Opened
    revised: Revised
    line: int
    priced: Priced
    programs: tuple[Subprogram, ...]


class RevisedPlans:
    """Safe to share between threads, as the desk that it belongs to."""

    def __init__(self, desk: Desk, database: Database) -> None:
        self._desk = desk
        self._database = database

    def price(self, plan_id: int) -> RevisionPrice:
        """What the revision that a plan makes costs beside the one before. Raises PlanError no-revision-taken."""
        opened = self._desk.open(plan_id)
        with self._database.reading() as session:
            version = _last_before(session, plan_id, opened.plan.revision)
            if version is None:
                raise PlanError(
                    "no-revision-taken", f"the plan has made revision {opened.plan.revision} from its first line on; "
                    "bring in another revision and take it into the plan",
                )  # fmt: skip
            plan = decided_in(version)
        before = self._desk.evaluated(opened.job.id, plan)
        revised = self._desk.compared(plan_id, opened.plan.revision)
        words = opened.job.number
        programs = subprograms(
            programs_of(before.ledger, before.part, words), programs_of(opened.ledger, opened.part, words)
        )
        found = priced(before.ledger, opened.ledger, revised, opened.shelf.library.rates, programs)
        return RevisionPrice(opened, revised, version.seq, found, programs)

    def superseded_by(self, opened: Opened) -> str:
        """The newest revision that any plan of the job has ever taken over, where it is newer than this plan's; else
        nothing.
        """
        letters = [row.letter for row in opened.revisions]
        with self._database.reading() as session:
            rows = session.scalars(
                select(VersionRow.decisions).join(PlanRow, PlanRow.id == VersionRow.plan).where(
                    PlanRow.job == opened.job.id
                )
            ) if letters[-1] != opened.plan.revision else ()  # fmt: skip
            taken = {_letter(decisions) for decisions in rows}
        newest = max((letters.index(one) for one in taken if one in letters), default=0)
        return letters[newest] if newest > letters.index(opened.plan.revision) else ""


def _last_before(session: Session, plan_id: int, letter: str) -> VersionRow | None:
    """On the way to the current line, the last one that makes another revision; of one before this, not after it."""
    row = plan_row(session, plan_id)
    letters = [one.letter for one in revision_rows(session, row.job)]
    version = version_row(session, plan_id, row.current)
    while version is not None:
        made = _letter(version.decisions)
        if made in letters and letters.index(made) < letters.index(letter):
            return version
        version = version_row(session, plan_id, version.parent) if version.parent is not None else None
    return None


def _letter(decisions: str) -> str:
    """The revision that a line makes; nothing of one that is damaged."""
    try:
        return str(json.loads(decisions).get("revision", "A"))
    except (ValueError, AttributeError):
        return ""
