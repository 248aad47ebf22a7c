"""Where plans are made and changed: loads them, lets core compute, and writes down what was decided."""

from __future__ import annotations

import hashlib
import tempfile
import threading
import zlib
from collections import OrderedDict
from dataclasses import dataclass
from datetime import UTC, date, datetime
from decimal import Decimal
from pathlib import Path
from typing import Any, Generic, TypeVar

from pydantic import TypeAdapter
from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from lean_ledger.core import reading
from lean_ledger.core.changes import Change, Scene
from lean_ledger.core.effect import Effect, effect_of
from lean_ledger.core.errors import LedgerError, PlanError
from lean_ledger.core.geometry.host import KernelHost
from lean_ledger.core.geometry.step_text import check_step_text
from lean_ledger.core.ledger import Ledger, evaluate
from lean_ledger.core.part import ANALYSIS_VERSION, Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.quick import quick_plan
from lean_ledger.library.types import Library
from lean_ledger.store.database import Database
from lean_ledger.store.models import AnalysisRow, FileRow, JobRow, PlanRow, VersionRow

PARTS: TypeAdapter[Part] = TypeAdapter(Part)
PLANS: TypeAdapter[Plan] = TypeAdapter(Plan)
EFFECTS: TypeAdapter[Effect] = TypeAdapter(Effect)

STATUSES = ("quoting", "ordered", "in work", "done")
NO_EFFECT = Effect(0.0, 0.0, Decimal(0), Decimal(0), 0, 0)
KEPT = 64  # ledgers and parts held in memory

K = TypeVar("K")
V = TypeVar("V")


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
    status: str = "quoting"
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


class Desk:
    """Safe to share between threads; all state is in the database, memory holds only what can be computed again."""

    def __init__(self, database: Database, library: Library, kernel: KernelHost) -> None:
        self._database = database
        self.library = library
        self._kernel = kernel
        self._parts: _Kept[tuple[str, int], Part] = _Kept()
        self._ledgers: _Kept[tuple[str, int, Plan], Ledger] = _Kept()

    # ---- jobs

    def add_job(self, new: JobNew) -> int:
        """Read the file, make the quick plan, keep both; returns the plan's id.

        Raises FileRefused for a file that cannot be used, PlanError for a material or quantity that cannot.
        """
        check_step_text(new.file_name, new.content)
        hash = hashlib.sha256(new.content).hexdigest()
        part = self._read(hash, new)
        plan = quick_plan(part, new.material, new.quantities, self.library)
        ledger = self._evaluate(hash, new.solid, plan, part)
        with self._database.writing() as session:
            if session.get(FileRow, hash) is None:
                session.add(FileRow(hash=hash, name=new.file_name, content=new.content, at=_now()))
                session.flush()
            self._keep_analysis(session, hash, new.solid, part)
            stem = Path(new.file_name).stem
            job = JobRow(
                number=new.number or _next_number(session),
                name=new.name or stem.replace("-", " ").replace("_", " ").strip().capitalize(),
                customer=new.customer,
                revision="A",
                status=new.status,
                due=new.due,
                file=hash,
                solid=new.solid,
                at=_now(),
            )
            session.add(job)
            session.flush()
            row = PlanRow(job=job.id, name="quick price", edition=1, current=1)
            session.add(row)
            session.flush()
            words = f"quick price: {len(plan.setups)} setups, {len(ledger.operations)} operations"
            session.add(_version(row.id, 1, None, plan, new.author, words, NO_EFFECT))
            return row.id

    def jobs(self) -> list[Opened]:
        """Every plan with its job, newest job first."""
        with self._database.reading() as session:
            ids = session.scalars(select(PlanRow.id).join(JobRow, JobRow.id == PlanRow.job).order_by(JobRow.id.desc()))
            return [self._open(session, id) for id in ids]

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

    def open(self, plan_id: int) -> Opened:
        """Raises PlanError no-such-plan."""
        with self._database.reading() as session:
            return self._open(session, plan_id)

    def part_of(self, plan_id: int) -> Part:
        with self._database.reading() as session:
            row = _plan_row(session, plan_id)
            job = session.get_one(JobRow, row.job)
            return self._part(session, job.file, job.solid)

    def change(self, plan_id: int, edition: int, change: Change, author: str) -> Opened:
        """Apply a change to the current version. Raises StaleEdition where the plan moved on since `edition`."""
        with self._database.reading() as session:
            before = self._open(session, plan_id)
            if before.edition != edition:
                raise StaleEdition(before, _since(session, plan_id, edition))
        plan, words = change.apply(before.plan, Scene(before.part, self.library, before.ledger))
        ledger = self._evaluate(before.job.file, before.job.solid, plan, before.part)
        effect = effect_of(before.ledger, ledger)
        with self._database.writing() as session:
            self._claim(session, plan_id, edition)
            seq = 1 + (session.scalar(select(func.max(VersionRow.seq)).where(VersionRow.plan == plan_id)) or 0)
            session.add(_version(plan_id, seq, before.version.seq, plan, author, words, effect))
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
            if _version_row(session, plan_id, seq) is None:
                raise PlanError("no-such-version", f"the journal has no line {seq}")
            session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(current=seq))
        return self.open(plan_id)

    # ---- inside

    def _step(self, plan_id: int, edition: int, way: str) -> Opened:
        with self._database.writing() as session:
            row = _plan_row(session, plan_id)
            self._claim(session, plan_id, edition)
            version = _version_row(session, plan_id, row.current)
            assert version is not None
            target = version.parent if way == "undo" else _newest_child(session, plan_id, row.current)
            if target is None:
                raise PlanError(f"nothing-to-{way}", f"there is nothing to {way}")
            session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(current=target))
        return self.open(plan_id)

    def _claim(self, session: Session, plan_id: int, edition: int) -> None:
        """Take the next edition; whoever comes second on the same one is told what happened."""
        row = _plan_row(session, plan_id)
        if row.edition != edition:
            raise StaleEdition(self._open(session, plan_id), _since(session, plan_id, edition))
        session.execute(update(PlanRow).where(PlanRow.id == plan_id).values(edition=edition + 1))

    def _open(self, session: Session, plan_id: int) -> Opened:
        row = _plan_row(session, plan_id)
        job = session.get_one(JobRow, row.job)
        version = _version_row(session, plan_id, row.current)
        assert version is not None
        plan = PLANS.validate_json(version.decisions)
        part = self._part(session, job.file, job.solid)
        journal = tuple(session.scalars(select(VersionRow).where(VersionRow.plan == plan_id).order_by(VersionRow.seq)))
        return Opened(
            plan_id=plan_id,
            edition=row.edition,
            job=job,
            plan=plan,
            part=part,
            ledger=self._evaluate(job.file, job.solid, plan, part),
            version=version,
            journal=journal,
            effect=EFFECTS.validate_json(version.effect),
            can_undo=version.parent is not None,
            can_redo=any(v.parent == version.seq for v in journal),
        )

    def _evaluate(self, file: str, solid: int, plan: Plan, part: Part) -> Ledger:
        return self._ledgers.get((file, solid, plan), lambda: evaluate(plan, part, self.library))

    def _read(self, hash: str, new: JobNew) -> Part:
        with self._database.reading() as session:
            row = session.get(AnalysisRow, (hash, new.solid))
            if row is not None and row.version == ANALYSIS_VERSION:
                return self._part(session, hash, new.solid)
        return self._analysed(new.content, new.file_name, new.solid)

    def _analysed(self, content: bytes, name: str, solid: int) -> Part:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "part.step"
            path.write_bytes(content)
            found: Part = self._kernel.run(reading.MODULE, "read_analysed", path, name, solid)
        return found

    def _part(self, session: Session, file: str, solid: int) -> Part:
        def load() -> Part:
            row = session.get(AnalysisRow, (file, solid))
            if row is not None and row.version == ANALYSIS_VERSION:
                return PARTS.validate_json(zlib.decompress(row.part))
            stored = session.get_one(FileRow, file)
            return self._analysed(stored.content, stored.name, solid)

        return self._parts.get((file, solid), load)

    def _keep_analysis(self, session: Session, file: str, solid: int, part: Part) -> None:
        row = session.get(AnalysisRow, (file, solid))
        if row is None or row.version != ANALYSIS_VERSION:
            packed = zlib.compress(PARTS.dump_json(part), 6)
            session.merge(AnalysisRow(file=file, solid=solid, version=ANALYSIS_VERSION, part=packed))


class _Kept(Generic[K, V]):
    """The last few values, computed on demand."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._values: OrderedDict[K, V] = OrderedDict()

    def get(self, key: K, make: Any) -> V:
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key]
        value: V = make()
        with self._lock:
            self._values[key] = value
            while len(self._values) > KEPT:
                self._values.popitem(last=False)
        return value


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None, microsecond=0)


def _next_number(session: Session) -> str:
    count = session.scalar(select(func.count()).select_from(JobRow)) or 0
    return f"J-{count + 101}"


def _plan_row(session: Session, plan_id: int) -> PlanRow:
    row = session.get(PlanRow, plan_id)
    if row is None:
        raise PlanError("no-such-plan", f"there is no plan {plan_id}")
    return row


def _version_row(session: Session, plan_id: int, seq: int) -> VersionRow | None:
    return session.scalar(select(VersionRow).where(VersionRow.plan == plan_id, VersionRow.seq == seq))


def _newest_child(session: Session, plan_id: int, seq: int) -> int | None:
    query = select(func.max(VersionRow.seq)).where(VersionRow.plan == plan_id, VersionRow.parent == seq)
    return session.scalar(query)


def _since(session: Session, plan_id: int, edition: int) -> list[VersionRow]:
    """The journal's last lines that another hand may have written since that edition."""
    row = _plan_row(session, plan_id)
    behind = max(1, row.edition - edition)
    query = select(VersionRow).where(VersionRow.plan == plan_id).order_by(VersionRow.seq.desc()).limit(behind)
    return list(reversed(list(session.scalars(query))))


def _version(
    plan_id: int, seq: int, parent: int | None, plan: Plan, author: str, words: str, effect: Effect
) -> VersionRow:
    return VersionRow(
        plan=plan_id,
        seq=seq,
        parent=parent,
        decisions=PLANS.dump_json(plan).decode(),
        author=author,
        words=words,
        effect=EFFECTS.dump_json(effect).decode(),
        at=_now(),
    )
