"""Where plans are made and changed: loads them, lets core compute, and writes down what was decided."""

from __future__ import annotations

import threading
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal
from functools import partial
from pathlib import Path
from typing import Any

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from lean_ledger.core.changes import Change, Scene
from lean_ledger.core.changes.programs import AttachProgram
from lean_ledger.core.changes.stock import TakeStockModel
from lean_ledger.core.effect import Effect, effect_of
from lean_ledger.core.errors import FileRefused, LedgerError, PlanError
from lean_ledger.core.foreign import foreign_time
from lean_ledger.core.geometry.host import Cancelled, KernelHost, never
from lean_ledger.core.geometry.model import Vec
from lean_ledger.core.geometry.near_net import NearNet
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.ledger import Ledger, evaluate
from lean_ledger.core.part import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.program.blocks import ProgramError
from lean_ledger.core.quick import quick_plan
from lean_ledger.core.revisions import PairByHand
from lean_ledger.core.revisions.follow import Revised, follow
from lean_ledger.core.revisions.renamed import next_letter
from lean_ledger.core.stock.course import course_of
from lean_ledger.core.stock.findings import with_stock as stock_joined
from lean_ledger.core.tool_file import Brought
from lean_ledger.library.types import Library
from lean_ledger.store.database import Database
from lean_ledger.store.files import Files, Upload, read_program
from lean_ledger.store.kept import Kept
from lean_ledger.store.models import AnalysisRow, FileRow, JobRow, PlanRow, RevisionRow, VersionRow
from lean_ledger.store.rows import (
    EFFECTS,
    PLANS,
    Chain,
    chain_to,
    current_plan,
    model_key,
    new_version,
    newest_child,
    next_number,
    now,
    plan_row,
    revision_row,
    revision_rows,
    version_row,
    versions_since,
)
from lean_ledger.store.shop import Shop, What
from lean_ledger.store.stocks import Outcome, Stocks

#: what a ledger is computed from, with the job's newest revision and the number of the library
Key = tuple[Chain, str, Plan, int]

STATUSES = ("quoting", "ordered", "in work", "done")
NO_EFFECT = Effect(0.0, 0.0, Decimal(0), Decimal(0), 0, 0)


class StaleEdition(LedgerError):
    """A write on an edition that is no longer the plan's; carries what happened since."""

    def __init__(self, opened: Opened, since: list[VersionRow]) -> None:
        super().__init__("stale", "the plan was changed by someone else since you saw it; nothing was written")
        self.opened = opened
        self.since = since


@dataclass(frozen=True)
class JobNew:
    """What a new job needs; all but the file and the material has a default."""

    file_name: str
    content: bytes
    material: str
    quantities: tuple[int, ...]
    number: str = ""
    name: str = ""
    customer: str = ""
    due: date | None = None
    solid: int = 0
    thickness: float | None = None
    status: str = "quoting"
    author: str = "planner"

    @property
    def upload(self) -> Upload:
        return Upload(self.file_name, self.content, self.solid, self.thickness)


@dataclass(frozen=True)
class RevisionNew:
    """The next revision of a job's part."""

    job_id: int
    upload: Upload
    author: str = "planner"


@dataclass(frozen=True)
class Opened:
    """A plan as it stands, evaluated."""

    plan_id: int
    edition: int
    job: JobRow
    plan: Plan
    part: Part
    ledger: Ledger
    version: VersionRow
    journal: tuple[VersionRow, ...]
    effect: Effect
    can_undo: bool
    can_redo: bool
    revisions: tuple[RevisionRow, ...]
    followed: Outcome | None  # the stock through the operations; None where it was not followed yet


class Desk:
    """Safe to share between threads; all state is in the database, memory holds only what can be computed again."""

    def __init__(self, database: Database, library: Library, kernel: KernelHost) -> None:
        self._database = database
        self.shop = Shop(database, library)
        self.library = self.shop.library()
        self._shelf = 0  # counts how often the library changed
        self._shopping = threading.Lock()
        self.files = Files(database, kernel)
        self.stocks = Stocks()
        self._followings: Kept[tuple[Chain, tuple[PairByHand, ...]], tuple[Part, Revised | None]] = Kept()
        self._ledgers: Kept[Key, Ledger] = Kept()
        self._near_nets: Kept[tuple[Chain, str, Vec], NearNet] = Kept()

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

    def drop_own(self, what: What, key: str) -> None:
        """Take a row of the shop's own out of the library. Raises PlanError where there is none."""
        self.shop.drop(what, key)
        self._library_changed()

    @property
    def shelf(self) -> int:
        """Another number after each change of the library."""
        return self._shelf

    def _library_changed(self) -> None:
        with self._shopping:
            self.library = self.shop.library()
            self._shelf += 1

    # ---- jobs

    def add_job(self, new: JobNew, report: Report = silent, cancelled: Cancelled = never) -> int:
        """Read the file, make the quick plan, keep both; returns the plan's id.

        Raises FileRefused for a file that cannot be used, PlanError for a material or quantity that cannot.
        """
        read = self.files.read(new.upload, report, cancelled)
        plan = quick_plan(read.part, new.material, new.quantities, self.library)
        ledger = self._evaluate((read.key,), plan, read.part)
        with self._database.writing() as session:
            self.files.keep(session, read)
            stem = Path(new.file_name).stem
            job = JobRow(
                number=new.number or next_number(session),
                name=new.name or stem.replace("-", " ").replace("_", " ").strip().capitalize(),
                customer=new.customer,
                status=new.status,
                due=new.due,
                at=now(),
            )
            session.add(job)
            session.flush()
            session.add(revision_row(job.id, plan.revision, read, new.author))
            row = PlanRow(job=job.id, name="quick price", edition=1, current=1)
            session.add(row)
            session.flush()
            words = f"quick price: {len(plan.setups)} setups, {len(ledger.operations)} operations"
            session.add(new_version(row.id, 1, None, plan, new.author, words, NO_EFFECT))
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
        with self._database.writing() as session:
            self.files.keep(session, read)
            letter = next_letter(revision_rows(session, new.job_id)[-1].letter)
            session.add(revision_row(new.job_id, letter, read, new.author))
        return letter

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
        machine = self.library.machine(self.open(plan_id, with_stock=False).plan.setup(setup).machine)
        assert machine is not None, "a plan that opens has its machines"
        try:
            foreign_time(program, machine)
        except ProgramError as error:
            raise ProgramError(error.code, error.message, f"{program.file}, {error.place}") from error
        with self._database.writing() as session:
            self.files.keep_file(session, program.key, upload.file_name, upload.content, None)
        return self.change(plan_id, edition, AttachProgram(setup, program.file, program.key, operation), author)

    def jobs(self) -> list[Opened]:
        """Every plan with its job, newest job first."""
        with self._database.reading() as session:
            ids = session.scalars(select(PlanRow.id).join(JobRow, JobRow.id == PlanRow.job).order_by(JobRow.id.desc()))
            return [self._open(session, id) for id in ids]

    def others(self, plan_id: int, material: str) -> list[tuple[str, Ledger]]:
        """The other plans in a material under the numbers of their jobs, what was changed last first."""
        with self._database.reading() as session:
            rows = session.execute(
                select(PlanRow, JobRow)
                .join(JobRow, JobRow.id == PlanRow.job)
                .join(VersionRow, (VersionRow.plan == PlanRow.id) & (VersionRow.seq == PlanRow.current))
                .where(PlanRow.id != plan_id)
                .order_by(VersionRow.at.desc(), PlanRow.id)
            ).all()
            return [
                (job.number, self._open(session, row.id, with_stock=False).ledger)
                for row, job in rows
                if current_plan(session, row).material == material
            ]

    def set_job(self, job_id: int, **values: Any) -> None:
        """Change a job's own words: number, name, customer, due, status."""
        if values.get("status", STATUSES[0]) not in STATUSES:
            raise PlanError("status", f"a job is {', '.join(STATUSES)}; not {values['status']!r}")
        with self._database.writing() as session:
            job = session.get(JobRow, job_id)
            if job is None:
                raise PlanError("no-such-job", f"there is no job {job_id}")
            for name, value in values.items():
                setattr(job, name, value)

    # ---- plans

    def open(self, plan_id: int, *, with_stock: bool = True) -> Opened:
        """Raises PlanError no-such-plan. Without the stock the ledger has only what it computes by itself."""
        with self._database.reading() as session:
            return self._open(session, plan_id, with_stock=with_stock)

    def follow_stock(self, plan_id: int) -> Opened:
        """The plan with its stock followed through all operations: what stays on, what is cut into the part."""
        opened = self.open(plan_id)
        if opened.followed is None:
            course = course_of(opened.part, opened.ledger)
            key = self._key(opened.revisions, opened.plan, opened.part)
            self.stocks.follow(key, course, lambda: self._is_current(plan_id, opened.edition))
        return self.open(plan_id)

    def part_of(self, plan_id: int, revision: str = "") -> Part:
        """The part in the revision that the plan makes, or in another. Raises PlanError no-such-revision."""
        with self._database.reading() as session:
            row = plan_row(session, plan_id)
            plan = current_plan(session, row)
            return self._followed(session, row.job, revision or plan.revision, plan)[0]

    def compared(self, plan_id: int, revision: str) -> Revised:
        """A revision beside the one before it, in the plan's ids, with its pairs. Raises PlanError no-such-revision."""
        with self._database.reading() as session:
            row = plan_row(session, plan_id)
            _, revised = self._followed(session, row.job, revision, current_plan(session, row))
        if revised is None:
            raise PlanError("no-such-revision", f"revision {revision} is the first; there is none before it to compare")
        return revised

    def change(self, plan_id: int, edition: int, change: Change, author: str) -> Opened:
        """Apply a change to the current version. Raises StaleEdition where the plan moved on since `edition`."""
        with self._database.reading() as session:
            before = self._open(session, plan_id)
            if before.edition != edition:
                raise StaleEdition(before, versions_since(session, plan_id, edition))
        plan, words = change.apply(
            before.plan,
            Scene(
                before.part, self.library, before.ledger, partial(self.compared, plan_id), self._models(change)
            ),
        )  # fmt: skip
        with self._database.reading() as session:
            part, _ = self._followed(session, before.job.id, plan.revision, plan)
            part = self._with_files(session, part, chain_to(before.revisions, plan.revision), plan)
        ledger = self._evaluate(chain_to(before.revisions, plan.revision), plan, part)
        # compared without what the solids show, which is not known yet for the new one
        effect = effect_of(
            self._evaluate(chain_to(before.revisions, before.plan.revision), before.plan, before.part), ledger
        )
        with self._database.writing() as session:
            self._claim(session, plan_id, edition)
            seq = 1 + (session.scalar(select(func.max(VersionRow.seq)).where(VersionRow.plan == plan_id)) or 0)
            session.add(new_version(plan_id, seq, before.version.seq, plan, author, words, effect))
            session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(current=seq))
        return self.open(plan_id)

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
        return self.open(plan_id)

    # ---- inside

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
        return self.open(plan_id)

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
        plan = PLANS.validate_json(version.decisions)
        revisions = revision_rows(session, job.id)
        part, _ = self._followed(session, job.id, plan.revision, plan)
        part = self._with_files(session, part, chain_to(revisions, plan.revision), plan)
        ledger = self._evaluate(chain_to(revisions, plan.revision), plan, part)
        followed = self.stocks.known(self._key(revisions, plan, part))
        if followed is not None and with_stock:
            ledger = stock_joined(ledger, part, followed)
        journal = tuple(session.scalars(select(VersionRow).where(VersionRow.plan == plan_id).order_by(VersionRow.seq)))
        return Opened(
            plan_id=plan_id,
            edition=row.edition,
            job=job,
            plan=plan,
            part=part,
            ledger=ledger,
            version=version,
            journal=journal,
            effect=EFFECTS.validate_json(version.effect),
            can_undo=version.parent is not None,
            can_redo=any(v.parent == version.seq for v in journal),
            revisions=revisions,
            followed=followed,
        )

    def _is_current(self, plan_id: int, edition: int) -> bool:
        with self._database.reading() as session:
            return plan_row(session, plan_id).edition == edition

    def _with_files(self, session: Session, part: Part, chain: Chain, plan: Plan) -> Part:
        """The part with the programs that its plan is timed by, and with its near-net stock laid around it."""
        if plan.attached:
            kept = {a.key: session.get(FileRow, a.key) for a in plan.attached}
            programs = [read_program(Upload(row.name, row.content)) for row in kept.values() if row is not None]
            part = replace(part, programs=tuple(programs))
        stock = plan.stock
        if stock.form != "near-net" or not stock.model:
            return part
        file, solid = stock.model.rsplit(":", 1)

        def lay() -> NearNet:
            return self.files.near_net(part, self.files.part(session, file, int(solid)), stock.shift)

        return replace(part, near_net=self._near_nets.get((chain, stock.model, stock.shift), lay))

    def _models(self, change: Change) -> frozenset[str]:
        """The stock model or the program that a change names, where it was brought in."""
        if isinstance(change, AttachProgram):
            with self._database.reading() as session:
                return frozenset({change.key}) if session.get(FileRow, change.key) is not None else frozenset()
        if not isinstance(change, TakeStockModel):
            return frozenset()
        file, _, solid = change.model.partition(":")
        with self._database.reading() as session:
            known = solid.isdecimal() and session.get(AnalysisRow, (file, int(solid))) is not None
        return frozenset({change.model}) if known else frozenset()

    def _key(self, revisions: tuple[RevisionRow, ...], plan: Plan, part: Part) -> Key:
        return (chain_to(revisions, plan.revision), part.newest, plan, self._shelf)

    def _evaluate(self, chain: Chain, plan: Plan, part: Part) -> Ledger:
        library = self.library
        return self._ledgers.get((chain, part.newest, plan, self._shelf), lambda: evaluate(plan, part, library))

    def _followed(self, session: Session, job_id: int, letter: str, plan: Plan) -> tuple[Part, Revised | None]:
        """The part of a revision under the ids that the plan knows, and how it came from the one before."""
        rows = revision_rows(session, job_id)
        if all(row.letter != letter for row in rows):
            known = ", ".join(row.letter for row in rows)
            raise PlanError("no-such-revision", f"there is no revision {letter}; the job has {known}")
        way = rows[: 1 + [row.letter for row in rows].index(letter)]

        def make() -> tuple[Part, Revised | None]:
            return follow([(row.letter, self.files.part(session, row.file, row.solid)) for row in way], plan.pairs)

        part, revised = self._followings.get((chain_to(rows, letter), plan.pairs), make)
        return replace(part, newest=rows[-1].letter), revised
