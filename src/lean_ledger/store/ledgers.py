"""Plans computed: the part of a revision under the plan's ids, what was brought in with it, and the ledger of both."""

from __future__ import annotations

import logging
from dataclasses import replace

from sqlalchemy.orm import Session

from lean_ledger.core.basis.errors import LedgerError, PlanError
from lean_ledger.core.geometry.model import Vec
from lean_ledger.core.geometry.near_net import NearNet
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.lineage import Revised, follow
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import PairByHand, Plan
from lean_ledger.store.errors import PlanBroken
from lean_ledger.store.files import Files, Upload, read_program
from lean_ledger.store.kept import Kept
from lean_ledger.store.models import FileRow, RevisionRow
from lean_ledger.store.rows import Lineage, lineage_to, revision_rows
from lean_ledger.store.shelf import Shelf

#: what a ledger is computed from, with the job's newest revision and the number of the shelf
Key = tuple[Lineage, str, Plan, int]

log = logging.getLogger("lean_ledger")


class Ledgers:
    """The last few, kept by what they are computed from."""

    def __init__(self, files: Files) -> None:
        self._files = files
        self._followings: Kept[tuple[Lineage, tuple[PairByHand, ...], str], tuple[Part, Revised | None]] = Kept()
        self._with: Kept[tuple[object, ...], Part] = Kept()
        self._ledgers: Kept[Key, Ledger] = Kept()
        self._near_nets: Kept[tuple[Lineage, str, Vec], NearNet] = Kept()

    def part_for(self, session: Session, job_id: int, plan: Plan) -> tuple[Part, Lineage]:
        """The part that a plan makes, with all that was brought in with it. Raises PlanError no-such-revision."""
        rows = revision_rows(session, job_id)
        part, _ = self._of_revision(session, rows, plan.revision, plan)
        lineage = lineage_to(rows, plan.revision)
        return self._with_files(session, part, lineage, plan), lineage

    def of(self, key: Key, part: Part, shelf: Shelf, report: Report = silent) -> Ledger:
        """Raises PlanError, and PlanBroken for a plan that cannot be computed."""
        plan = key[2]

        def make() -> Ledger:
            try:
                return evaluate(plan, part, shelf.library, report)
            except LedgerError:
                raise
            except Exception as error:
                log.exception("a plan of %s cannot be computed", part.model.file)
                words = f"cannot be computed ({type(error).__name__}); go back to an earlier line of its journal"
                raise PlanBroken("plan-broken", words) from error

        return self._ledgers.get(key, make)

    def part_of(self, session: Session, job_id: int, letter: str, plan: Plan) -> tuple[Part, Revised | None]:
        """The part of a revision under the ids that the plan knows, and how it came from the one before."""
        return self._of_revision(session, revision_rows(session, job_id), letter, plan)

    def _of_revision(
        self, session: Session, rows: tuple[RevisionRow, ...], letter: str, plan: Plan
    ) -> tuple[Part, Revised | None]:  # fmt: skip
        if all(row.letter != letter for row in rows):
            known = ", ".join(row.letter for row in rows)
            raise PlanError("no-such-revision", f"there is no revision {letter}; the job has {known}")
        way = rows[: 1 + [row.letter for row in rows].index(letter)]

        def make() -> tuple[Part, Revised | None]:
            found = [(row.letter, self._files.part(session, row.file, row.solid)) for row in way]
            part, revised = follow(found, plan.pairs)
            return part if part.newest == newest else replace(part, newest=newest), revised

        newest = rows[-1].letter
        # the same object each time: what is kept by the part it was made from is found again
        return self._followings.get((lineage_to(rows, letter), plan.pairs, newest), make)

    def _with_files(self, session: Session, part: Part, lineage: Lineage, plan: Plan) -> Part:
        """The part with the programs that its plan is timed by, and with its near-net stock laid around it."""
        programs = tuple(a.key for a in plan.attached)
        stock = plan.stock
        model = stock.model if stock.form == "near-net" else ""
        if not programs and not model:
            return part

        def make() -> Part:
            kept = [session.get(FileRow, key) for key in dict.fromkeys(programs)]
            texts = tuple(read_program(Upload(row.name, row.content)) for row in kept if row is not None)
            whole = replace(part, programs=texts) if programs else part
            if not model:
                return whole
            file, solid = model.rsplit(":", 1)

            def lay() -> NearNet:
                return self._files.near_net(whole, self._files.part(session, file, int(solid)), stock.shift)

            return replace(whole, near_net=self._near_nets.get((lineage, model, stock.shift), lay))

        key = (lineage, part.newest, plan.pairs, programs, model, stock.shift if model else None)
        return self._with.get(key, make)


def key_of(lineage: Lineage, part: Part, plan: Plan, shelf: Shelf) -> Key:
    return (lineage, part.newest, plan, shelf.number)
