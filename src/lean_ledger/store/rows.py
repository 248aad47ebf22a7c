"""Rows of jobs, revisions and plans: looked up, counted on, made."""

from __future__ import annotations

import logging
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from decimal import Decimal

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import func, select
from sqlalchemy.orm import Session, defer
from sqlalchemy.sql.base import ExecutableOption

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.ledger.effect import Effect
from lean_ledger.core.plan import Plan
from lean_ledger.store.errors import PlanBroken
from lean_ledger.store.files import Read
from lean_ledger.store.models import JobRow, PlanRow, RevisionRow, VersionRow

PLANS: TypeAdapter[Plan] = TypeAdapter(Plan)
EFFECTS: TypeAdapter[Effect] = TypeAdapter(Effect)
NO_EFFECT = Effect(0.0, 0.0, Decimal(0), Decimal(0), 0, 0)

log = logging.getLogger("lean_ledger")


MOST_SINCE = 50  # lines of a journal that a refusal tells

Lineage = tuple[tuple[str, int], ...]  # (file, solid) of each revision up to the one that is meant


def model_key(file: str, solid: int) -> str:
    return f"{file}:{solid}"


def now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None, microsecond=0)


def next_number(session: Session) -> str:
    count = session.scalar(select(func.count()).select_from(JobRow)) or 0
    return f"J-{count + 101}"


def revision_row(job_id: int, letter: str, read: Read, author: str) -> RevisionRow:
    hash, solid = read.key
    return RevisionRow(job=job_id, letter=letter, file=hash, solid=solid, author=author, at=now())


def revision_rows(session: Session, job_id: int) -> tuple[RevisionRow, ...]:
    rows = tuple(session.scalars(select(RevisionRow).where(RevisionRow.job == job_id).order_by(RevisionRow.id)))
    if not rows:
        raise PlanError("no-such-job", f"there is no job {job_id}")
    return rows


def lineage_to(rows: Sequence[RevisionRow], letter: str) -> Lineage:
    """What identifies a part: its revisions' solids up to a letter."""
    last = [row.letter for row in rows].index(letter)
    return tuple((row.file, row.solid) for row in rows[: last + 1])


def current_plan(session: Session, row: PlanRow) -> Plan:
    """Raises PlanBroken for decisions that cannot be read."""
    version = version_row(session, row.id, row.current)
    assert version is not None
    return decided_in(version)


def decided_in(version: VersionRow) -> Plan:
    """The decisions of a line. Raises PlanBroken for those that cannot be read."""
    try:
        return PLANS.validate_json(version.decisions)
    except ValidationError as error:
        log.warning("plan %d, line %d of its journal cannot be read: %s", version.plan, version.seq, error.errors()[0])
        words = f"cannot be read: line {version.seq} of its journal is damaged; go back to another line"
        raise PlanBroken("plan-broken", words) from error


def effect_in(version: VersionRow) -> Effect:
    """What a line of the journal did; nothing where that cannot be read any more."""
    try:
        return EFFECTS.validate_json(version.effect)
    except ValidationError:
        return NO_EFFECT


def plan_row(session: Session, plan_id: int) -> PlanRow:
    row = session.get(PlanRow, plan_id)
    if row is None:
        raise PlanError("no-such-plan", f"there is no plan {plan_id}")
    return row


def plans_in_sight(session: Session, job_id: int) -> int:
    """How many of a job's plans are not put away."""
    query = select(func.count()).where(PlanRow.job == job_id, PlanRow.put_away.is_(False))
    return session.scalar(query) or 0


def version_row(session: Session, plan_id: int, seq: int) -> VersionRow | None:
    return session.scalar(select(VersionRow).where(VersionRow.plan == plan_id, VersionRow.seq == seq))


def newest_child(session: Session, plan_id: int, seq: int) -> int | None:
    query = select(func.max(VersionRow.seq)).where(VersionRow.plan == plan_id, VersionRow.parent == seq)
    return session.scalar(query)


@dataclass(frozen=True)
class JournalPart:
    """Some lines of a plan's journal, the newest last; `earlier` says whether there are more before them.

    `way` holds the numbers of all lines that lead to the current one.
    """

    lines: tuple[VersionRow, ...]
    current: int
    way: frozenset[int]
    earlier: bool


def journal_part(session: Session, plan_id: int, before: int | None, count: int) -> JournalPart:
    """The last `count` lines, or the last before a number."""
    row = plan_row(session, plan_id)
    query = select(VersionRow).where(VersionRow.plan == plan_id)
    if before is not None:
        query = query.where(VersionRow.seq < before)
    found = list(session.scalars(query.order_by(VersionRow.seq.desc()).limit(count + 1).options(defer_decisions())))
    way: set[int] = set()
    links = session.execute(select(VersionRow.seq, VersionRow.parent).where(VersionRow.plan == plan_id))
    parents = dict(links.all())
    at: int | None = row.current
    while at is not None and at not in way:
        way.add(at)
        at = parents.get(at)
    return JournalPart(tuple(reversed(found[:count])), row.current, frozenset(way), len(found) > count)


def defer_decisions() -> ExecutableOption:
    """A line of the journal shows no decisions; each holds all of its plan's."""
    return defer(VersionRow.decisions)


def versions_since(session: Session, plan_id: int, edition: int) -> list[VersionRow]:
    """The journal's last lines that another hand may have written since that edition."""
    row = plan_row(session, plan_id)
    behind = min(max(1, row.edition - edition), MOST_SINCE)
    query = select(VersionRow).where(VersionRow.plan == plan_id).order_by(VersionRow.seq.desc()).limit(behind)
    query = query.options(defer_decisions())
    return list(reversed(list(session.scalars(query))))


def new_version(
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
        at=now(),
    )
