"""Where plans are made and changed: loads them, lets core compute, and writes down what was decided."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from lean_ledger.core.basis.errors import FileRefused, PlanError
from lean_ledger.core.basis.plain_text import LONGEST_NAME, check_name
from lean_ledger.core.changes import Change, Scene
from lean_ledger.core.changes.programs import AttachProgram
from lean_ledger.core.changes.stock import TakeStockModel
from lean_ledger.core.control.blocks import ProgramError
from lean_ledger.core.control.foreign import foreign_time
from lean_ledger.core.first.again import BeginAgain
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import with_stock as stock_joined
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.host import Cancelled, KernelHost, never
from lean_ledger.core.geometry.model import Vec
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.ledger.effect import Effect, effect_of
from lean_ledger.core.part.lineage import Revised
from lean_ledger.core.part.model import Part
from lean_ledger.core.part.part_size import revision_question, size_question
from lean_ledger.core.plan import Plan
from lean_ledger.core.revisions.renamed import next_letter
from lean_ledger.core.shop.summary import Summary, summary_of
from lean_ledger.library.types import Library
from lean_ledger.store.alternatives import Alternatives
from lean_ledger.store.beginning import planning_told
from lean_ledger.store.business import Business
from lean_ledger.store.database import Database
from lean_ledger.store.errors import PlanBroken
from lean_ledger.store.files import Upload, models_of, read_program
from lean_ledger.store.floor import Floor
from lean_ledger.store.followed import keep_followed, kept_followed, row_key
from lean_ledger.store.job_list import (
    keep_evaluated,
    read_summary,
)
from lean_ledger.store.kept import Kept
from lean_ledger.store.ledgers import key_of
from lean_ledger.store.models import JobRow, PlanRow, RevisionRow, SummaryRow, VersionRow
from lean_ledger.store.opened import Evaluated, JobNew, Opened, RevisionNew, StaleEdition
from lean_ledger.store.quotes import Quotes
from lean_ledger.store.revised import RevisedPlans
from lean_ledger.store.rows import (
    NO_EFFECT,
    JournalPart,
    current_plan,
    effect_in,
    journal_part,
    model_key,
    new_version,
    newest_child,
    next_number,
    now,
    plan_row,
    plans_in_sight,
    revision_row,
    revision_rows,
    version_row,
    versions_since,
)
from lean_ledger.store.shop_desk import ShopDesk


def _ask_of_size(question: str) -> None:
    if question:
        raise PlanError("size-asked", question)


FIRST_PLAN = "quick price"  # its name
OPENED = 16  # plans as they were opened last


class Desk(ShopDesk):
    """Safe to share between threads; all state is in the database, memory holds only what can be computed again."""

    def __init__(self, database: Database, library: Library, kernel: KernelHost) -> None:
        super().__init__(database, library, kernel)
        self._opened: Kept[int, tuple[tuple[int, int], Opened]] = Kept(OPENED)
        self.alternatives = Alternatives(self, database)
        self.revised = RevisedPlans(self, database)
        self.floor = Floor(self, database)
        self.business = Business(self, database)
        self.quotes = Quotes(self, database)

    # ---- jobs

    def read_ahead(self, upload: Upload) -> None:
        """Read a file and keep what was found, so that a job or a revision of it need not wait for that."""
        read = self.files.read(upload)
        with self._database.writing() as session:
            self.files.keep(session, read)

    def add_job(self, new: JobNew, report: Report = silent, cancelled: Cancelled = never) -> int:
        """Read the file, make the quick plan, keep both; returns the plan's id.

        Raises FileRefused for a file that cannot be used, PlanError for a material or quantity that cannot, and for a
        size that the planner is to be asked about (size-asked).
        """
        for name, longest in (("number", 40), ("name", LONGEST_NAME), ("customer", LONGEST_NAME)):
            check_name(getattr(new, name), f"the {name}", longest)
        read = self.files.read(new.upload, report, cancelled)
        if not new.size_meant:
            _ask_of_size(size_question(read.part.model.solid.bounds.size, read.part.model.length_unit, self.library))
        shelf = self.shelf
        planning = planning_told(read.part.model.file, report, cancelled)
        plan, told = self._beginning.first_of(new, read, shelf, planning, cancelled)
        ledger = self._ledgers.of(key_of((read.key,), read.part, plan, shelf), read.part, shelf, planning)
        with self._database.writing() as session:
            self.files.keep(session, read)
            stem = Path(new.file_name).stem
            job = JobRow(
                number=new.number or next_number(session),
                name=new.name or stem.replace("-", " ").replace("_", " ").strip().capitalize() or "Part",
                customer=new.customer,
                status=new.status,
                due=new.due,
                at=now(),
            )
            session.add(job)
            session.flush()
            session.add(revision_row(job.id, plan.revision, read, new.author))
            row = PlanRow(job=job.id, name=FIRST_PLAN, edition=1, current=1, chosen=True, put_away=False, origin="")
            session.add(row)
            session.flush()
            words = f"quick price: {len(plan.setups)} setups, {len(ledger.operations)} operations, {told}"
            session.add(new_version(row.id, 1, None, plan, new.author, words, NO_EFFECT))
            keep_evaluated(session, row.id, 1, shelf.made_by, ledger, read.part)
            return row.id

    def add_revision(self, new: RevisionNew, report: Report = silent, cancelled: Cancelled = never) -> str:
        """Read the next revision of a job's part and keep it; returns its letter. No plan changes by that.

        Raises FileRefused, PlanError no-such-job, and same-model where the file is that of the newest revision.
        """
        with self._database.reading() as session:
            rows = revision_rows(session, new.job_id)
        read = self.files.read(new.upload, report, cancelled)
        if read.key == (rows[-1].file, rows[-1].solid):
            raise FileRefused(
                "same-model",
                f"this is the file of revision {rows[-1].letter}; choose the new one",
                new.upload.file_name,
            )
        size = read.part.model.solid.bounds.size
        if not new.size_meant:
            _ask_of_size(
                size_question(size, read.part.model.length_unit, self.library)
                or revision_question(size, self._size_of(rows[-1]))
            )
        with self._database.writing() as session:
            self.files.keep(session, read)
            letter = next_letter(revision_rows(session, new.job_id)[-1].letter)
            session.add(revision_row(new.job_id, letter, read, new.author))
            plans = list(session.scalars(select(PlanRow.id).where(PlanRow.job == new.job_id)))
        for plan_id in plans:
            self.take_summary(plan_id, *self.summarised(plan_id))  # a revision that waits is among its findings
        return letter

    def _size_of(self, row: RevisionRow) -> Vec:
        with self._database.reading() as session:
            return self.files.part(session, row.file, row.solid).model.solid.bounds.size

    def take_stock_model(self, plan_id: int, edition: int, upload: Upload, author: str) -> Opened:
        """Read a model of near-net stock, keep it, and lay it on the plan's part.

        Raises FileRefused for a file that cannot be used, StaleEdition as `change` does.
        """
        read = self.files.read(upload)
        with self._database.writing() as session:
            self.files.keep(session, read)
        key = model_key(*read.key)
        return self.change(plan_id, edition, TakeStockModel(key), author)

    def take_program(
        self, plan_id: int, edition: int, setup: str, operation: str, upload: Upload, author: str
    ) -> Opened:
        """Time a setup, or one operation of it, by a program from elsewhere; the file is kept as it came.

        Raises ProgramError for one that the setup's machine cannot read, StaleEdition as `change` does.
        """
        program = read_program(upload)
        machine = self.library.machine(self.open(plan_id, with_stock=False).plan.load_of(setup).machine)
        assert machine is not None, "a plan that opens has its machines"
        try:
            foreign_time(program, machine)
        except ProgramError as error:
            raise ProgramError(error.code, error.message, f"{program.file}, {error.place}") from error
        with self._database.writing() as session:
            self.files.keep_file(session, program.key, upload.file_name, upload.content, None)
        return self.change(plan_id, edition, AttachProgram(setup, program.file, program.key, operation), author)

    def summarised(self, plan_id: int) -> tuple[int, str, Summary]:
        """The current version, what it was computed with and its row of the list; a plan that is broken says so."""
        made_by = self.made_by
        try:
            opened = self.open(plan_id)
        except PlanBroken as error:
            with self._database.reading() as session:
                row = plan_row(session, plan_id)
                last = revision_rows(session, row.job)[-1]
            return (
                row.current,
                made_by,
                Summary("", "", (), last.letter, "", "mm", aligned=False, trouble=error.message),
            )
        return opened.version.seq, made_by, _summary(opened)

    # ---- plans

    def open(self, plan_id: int, *, with_stock: bool = True) -> Opened:
        """Raises PlanError no-such-plan. Without the stock the ledger has only what it computes by itself."""
        at = self._database.commits()
        with self._database.reading() as session:
            opened = self._open(session, plan_id, with_stock=with_stock)
        if with_stock:
            self._opened.put(plan_id, (at, opened))
        return opened

    def _as_opened(self, plan_id: int) -> Opened:
        """As it was opened last, where nothing has happened since: for an edit, which claims its edition later."""
        at, opened = self._opened.peek(plan_id) or (None, None)
        if opened is not None and at == self._database.commits() and opened.shelf is self.shelf:
            if self.stocks.known(opened.key) is opened.followed:
                return opened
        return self.open(plan_id)

    def state(self, plan_id: int) -> str:
        """What `Opened.state` would be, without evaluating anything. Raises PlanError no-such-plan."""
        return self._states.of(plan_id)

    def base_state(self, plan_id: int) -> str:
        """As `state`, but the same before and after the stock is followed."""
        with self._database.reading() as session:
            return self._states.base(session, plan_id, self._shelf.made_by)

    def journal(self, plan_id: int, before: int | None = None, count: int = 50) -> tuple[JournalPart, int]:
        """The last lines of the journal, or the last before a number; and the edition. Raises PlanError."""
        with self._database.reading() as session:
            return journal_part(session, plan_id, before, count), plan_row(session, plan_id).edition

    def follow_stock(self, plan_id: int, report: Report = silent, cancelled: Cancelled = never) -> Opened:
        """The plan with its stock followed through all operations: what stays on, what is cut into the part."""
        opened = self.recalled(plan_id)
        if opened.followed is None:
            self._follow(opened, report, cancelled)
            opened = self.open(plan_id)
        if opened.followed is not None and not self._says_followed(opened):
            self._summarise(opened)
        return opened

    def recalled(self, plan_id: int) -> Opened:
        """The plan with what its stock showed when it was followed here or at an earlier start; follows nothing."""
        opened = self.open(plan_id)
        if opened.followed is not None:
            return opened
        kept = kept_followed(self._database, row_key(opened.key, opened.shelf.made_by))
        if kept is None:
            return opened
        self.stocks.take(opened.key, kept)
        return self.open(plan_id)

    def _follow(self, opened: Opened, report: Report, cancelled: Cancelled) -> None:
        course = course_of(opened.part, opened.ledger)
        wanted = partial(self._is_current, opened.plan_id, opened.edition)
        self.stocks.follow(opened.key, course, wanted, report, cancelled)
        found = self.stocks.known(opened.key)
        if isinstance(found, Followed):
            keep_followed(self._database, row_key(opened.key, opened.shelf.made_by), found)

    def _says_followed(self, opened: Opened) -> bool:
        """Whether the plan's row in the list holds what the stock shows; another plan of the same may have had it."""
        with self._database.reading() as session:
            row = read_summary(session.get(SummaryRow, (opened.plan_id, opened.version.seq)))
        return row is not None and row.followed

    def issued(self, plan_id: int) -> Opened:
        """The plan as papers and programs are issued from it: its stock is followed first, where it was not yet.

        Raises PlanError stock-not-followed where the plan was changed meanwhile.
        """
        opened = self.follow_stock(plan_id)
        if opened.followed is None:
            raise PlanError(
                "stock-not-followed",
                "the plan was changed while its stock was followed; ask again, and the papers are those of the new one",
            )
        return opened

    def part_of(self, plan_id: int, revision: str = "") -> Part:
        """The part in the revision that the plan makes, or in another. Raises PlanError no-such-revision."""
        with self._database.reading() as session:
            row = plan_row(session, plan_id)
            plan = current_plan(session, row)
            return self._ledgers.part_of(session, row.job, revision or plan.revision, plan)[0]

    def compared(self, plan_id: int, revision: str) -> Revised:
        """A revision beside the one before it, in the plan's ids, with its pairs. Raises PlanError no-such-revision."""
        with self._database.reading() as session:
            row = plan_row(session, plan_id)
            _, revised = self._ledgers.part_of(session, row.job, revision, current_plan(session, row))
        if revised is None:
            raise PlanError("no-such-revision", f"revision {revision} is the first; there is none before it to compare")
        return revised

    def change(self, plan_id: int, edition: int, change: Change | BeginAgain, author: str) -> Opened:
        """Apply a change to the current version. Raises StaleEdition where the plan moved on since `edition`."""
        before = self._as_opened(plan_id)
        if before.edition != edition:  # perhaps another process wrote just now, which is looked for now and then
            before = self.open(plan_id)
        if before.edition != edition:
            with self._database.reading() as session:
                raise StaleEdition(before, versions_since(session, plan_id, edition))
        shelf = before.shelf
        now = Evaluated(before.part, before.ledger, before.key)
        plan, words, effect, after = self.stepped(plan_id, before.job.id, now, change)
        with self._database.writing() as session:
            self._claim(session, plan_id, edition)
            seq = 1 + (session.scalar(select(func.max(VersionRow.seq)).where(VersionRow.plan == plan_id)) or 0)
            session.add(new_version(plan_id, seq, before.version.seq, plan, author, words, effect))
            keep_evaluated(session, plan_id, seq, shelf.made_by, after.ledger, after.part)
            session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(current=seq))
        return self.open(plan_id)

    def evaluated(self, job_id: int, plan: Plan) -> Evaluated:
        """What a plan of a job comes to. Raises PlanError, and PlanBroken for one that cannot be computed."""
        shelf = self.shelf
        with self._database.reading() as session:
            part, lineage = self._ledgers.part_for(session, job_id, plan)
        key = key_of(lineage, part, plan, shelf)
        return Evaluated(part, self._ledgers.of(key, part, shelf), key)

    def stepped(
        self, plan_id: int, job_id: int, now: Evaluated, change: Change | BeginAgain
    ) -> tuple[Plan, str, Effect, Evaluated]:
        """What a change makes of a plan: its decisions, the words, the effect and what it comes to then; nothing is
        written. Raises PlanError where it cannot be made.
        """
        shelf = self.shelf
        scene = Scene(
            now.part, shelf.library, now.ledger, partial(self.compared, plan_id), models_of(self._database, change)
        )
        plan, words = change.apply(now.key[2], scene)
        try:
            after = self.evaluated(job_id, plan)
        except PlanBroken as error:
            raise PlanError("not-computable", f"“{words}” was not taken: with it the plan {error.message}") from error
        # compared without what the solids show, which is not known yet for the new one
        effect = effect_of(self._ledgers.of(now.key, now.part, shelf), after.ledger)
        return plan, words, effect, after

    def undo(self, plan_id: int, edition: int) -> Opened:
        """Back to the version before. Raises PlanError nothing-to-undo at the first one."""
        return self._step(plan_id, edition, "undo")

    def redo(self, plan_id: int, edition: int) -> Opened:
        """Forward to the newest version made from the current one."""
        return self._step(plan_id, edition, "redo")

    def go_to(self, plan_id: int, edition: int, seq: int) -> Opened:
        """Make any line of the journal the current one."""
        with self._database.writing() as session:
            self._claim(session, plan_id, edition)
            if version_row(session, plan_id, seq) is None:
                raise PlanError("no-such-version", f"the journal has no line {seq}")
            session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(current=seq))
        return self._gone_to(plan_id)

    # ---- inside

    def _gone_to(self, plan_id: int) -> Opened:
        """The plan at another line of its journal; its row of the list is from when that line was written."""
        opened = self.open(plan_id)
        self._summarise(opened)
        return opened

    def _summarise(self, opened: Opened) -> None:
        self.take_summary(opened.plan_id, opened.version.seq, opened.shelf.made_by, _summary(opened))

    def _step(self, plan_id: int, edition: int, way: str) -> Opened:
        with self._database.writing() as session:
            row = plan_row(session, plan_id)
            self._claim(session, plan_id, edition)
            version = version_row(session, plan_id, row.current)
            assert version is not None
            target = version.parent if way == "undo" else newest_child(session, plan_id, row.current)
            if target is None:
                raise PlanError(f"nothing-to-{way}", f"there is nothing to {way}")
            session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(current=target))
        return self._gone_to(plan_id)

    def _claim(self, session: Session, plan_id: int, edition: int) -> None:
        """Take the next edition; whoever comes second on the same one is told what happened."""
        row = plan_row(session, plan_id)
        if row.edition != edition:
            raise StaleEdition(self._open(session, plan_id), versions_since(session, plan_id, edition))
        session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(edition=edition + 1))

    def _open(self, session: Session, plan_id: int, *, with_stock: bool = True) -> Opened:
        row = plan_row(session, plan_id)
        job = session.get_one(JobRow, row.job)
        version = version_row(session, plan_id, row.current)
        assert version is not None
        revisions = revision_rows(session, job.id)
        plan = current_plan(session, row)
        shelf = self.shelf
        state = self._states.base(session, plan_id, shelf.made_by)
        part, lineage = self._ledgers.part_for(session, job.id, plan)
        key = key_of(lineage, part, plan, shelf)
        ledger = self._ledgers.of(key, part, shelf)
        followed = self.stocks.known(key)
        if followed is not None and with_stock:
            ledger = stock_joined(ledger, part, followed)
        self._states.followed(plan_id, state, known=followed is not None)
        return Opened(
            plan_id=plan_id,
            edition=row.edition,
            job=job,
            plan=plan,
            part=part,
            ledger=ledger,
            version=version,
            lines=session.scalar(select(func.count()).where(VersionRow.plan == plan_id)) or 0,
            effect=effect_in(version),
            can_undo=version.parent is not None,
            can_redo=newest_child(session, plan_id, version.seq) is not None,
            revisions=revisions,
            followed=followed,
            key=key,
            shelf=shelf,
            name=row.name,
            chosen=row.chosen,
            plans=plans_in_sight(session, row.job),
            state=self._states.with_stock(plan_id, state),
        )

    def _is_current(self, plan_id: int, edition: int) -> bool:
        with self._database.reading() as session:
            return plan_row(session, plan_id).edition == edition


def _summary(opened: Opened) -> Summary:
    return summary_of(opened.ledger, opened.part, followed=opened.followed is not None)
