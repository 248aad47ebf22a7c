"""The list of jobs, in pages, from what was kept with each version: nothing is computed to show it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Literal

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import ColumnElement, func, or_, select
from sqlalchemy.orm import Session, aliased

from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.shop.summary import Summary, summary_of
from lean_ledger.store.models import AnalysisRow, JobRow, PlanRow, RevisionRow, SummaryRow, VersionRow

SUMMARIES: TypeAdapter[Summary] = TypeAdapter(Summary)

SortBy = Literal["added", "number", "customer", "due", "status", "material", "cycle", "each", "findings"]


@dataclass(frozen=True)
class JobQuery:
    """Which jobs, in which order; `page` counts from 1. Empty texts and None ask for all."""

    search: str = ""  # in number, name, customer and material
    status: str = ""
    customer: str = ""
    due_from: date | None = None
    due_to: date | None = None
    sort: SortBy = "added"
    down: bool = True
    page: int = 1
    size: int = 50


@dataclass(frozen=True)
class JobLine:
    """A job with the plan that it is made by; `summary` is None until it is computed, `fresh`: with what stands now."""

    job: JobRow
    plan_id: int
    plan_name: str
    summary: Summary | None
    fresh: bool
    thumb: tuple[str, int] | None  # file and solid of its small picture
    others: tuple[tuple[int, str, Summary | None], ...] = ()  # its other plans in sight: id, name, summary


@dataclass(frozen=True)
class JobPage:
    lines: tuple[JobLine, ...]
    total: int  # jobs that were asked for
    all: int  # jobs of the shop
    customers: tuple[str, ...]


def job_page(session: Session, query: JobQuery, made_by: str) -> JobPage:
    current = (SummaryRow.plan == PlanRow.id) & (SummaryRow.seq == PlanRow.current)
    base: Any = (
        select(JobRow, PlanRow.id, PlanRow.name, SummaryRow)
        .join(PlanRow, (PlanRow.job == JobRow.id) & PlanRow.chosen)
        .outerjoin(SummaryRow, current)
        .where(*_wanted(query))
    )
    total = session.scalar(base.with_only_columns(func.count(), maintain_column_froms=True)) or 0
    way = _sorted(base, query).limit(query.size).offset((query.page - 1) * query.size)
    found = session.execute(way).all()
    thumbs = _thumbs(session, [job.id for job, *_ in found])
    others = _others(session, [job.id for job, *_ in found])
    lines = []
    for job, plan_id, name, row in found:
        summary = read_summary(row)
        fresh = summary is not None and row.made_by == made_by
        lines.append(JobLine(job, plan_id, name, summary, fresh, thumbs.get(job.id), tuple(others.get(job.id, ()))))
    customers = session.scalars(
        select(JobRow.customer).where(JobRow.customer != "").distinct().order_by(JobRow.customer)
    )
    return JobPage(tuple(lines), total, session.scalar(select(func.count()).select_from(JobRow)) or 0, tuple(customers))


def _wanted(query: JobQuery) -> list[ColumnElement[bool]]:
    found: list[ColumnElement[bool]] = []
    for word in query.search.casefold().split():
        texts = (JobRow.number, JobRow.name, JobRow.customer, SummaryRow.material)
        found.append(or_(*(func.folded(text).contains(word, autoescape=True) for text in texts)))
    if query.status:
        found.append(JobRow.status == query.status)
    if query.customer:
        found.append(JobRow.customer == query.customer)
    if query.due_from is not None:
        found.append(JobRow.due >= query.due_from)
    if query.due_to is not None:
        found.append(JobRow.due <= query.due_to)
    return found


def _sorted(base: Any, query: JobQuery) -> Any:
    keys: dict[str, tuple[ColumnElement[Any], ...]] = {
        "added": (JobRow.id,),  # type: ignore[dict-item]
        "number": (func.folded(JobRow.number),),
        "customer": (func.folded(JobRow.customer),),
        "due": (JobRow.due,),  # type: ignore[dict-item]
        "status": (JobRow.status,),  # type: ignore[dict-item]
        "material": (SummaryRow.material,),  # type: ignore[dict-item]
        "cycle": (SummaryRow.cycle,),  # type: ignore[dict-item]
        "each": (SummaryRow.each,),  # type: ignore[dict-item]
        "findings": (SummaryRow.errors, SummaryRow.warnings),  # type: ignore[dict-item]
    }
    way = [(key.desc() if query.down else key.asc()).nulls_last() for key in keys[query.sort]]
    return base.order_by(*way, JobRow.id.desc(), PlanRow.id)


def _thumbs(session: Session, jobs: Sequence[int]) -> dict[int, tuple[str, int]]:
    """The file and the solid of each job's newest revision, where there is a small picture of it."""
    newest = select(func.max(RevisionRow.id)).where(RevisionRow.job.in_(jobs)).group_by(RevisionRow.job)
    rows = session.execute(
        select(RevisionRow.job, RevisionRow.file, RevisionRow.solid)
        .join(AnalysisRow, (AnalysisRow.file == RevisionRow.file) & (AnalysisRow.solid == RevisionRow.solid))
        .where(RevisionRow.id.in_(newest), AnalysisRow.thumb.is_not(None))
    )
    return {job: (file, solid) for job, file, solid in rows}


def _others(session: Session, jobs: Sequence[int]) -> dict[int, list[tuple[int, str, Summary | None]]]:
    """The alternatives of each job, as far as they are in sight, in the order in which they were made."""
    current = (SummaryRow.plan == PlanRow.id) & (SummaryRow.seq == PlanRow.current)
    rows = session.execute(
        select(PlanRow.job, PlanRow.id, PlanRow.name, SummaryRow)
        .outerjoin(SummaryRow, current)
        .where(PlanRow.job.in_(jobs), PlanRow.chosen.is_(False), PlanRow.put_away.is_(False))
        .order_by(PlanRow.id)
    )
    found: dict[int, list[tuple[int, str, Summary | None]]] = {}
    for job, id, name, row in rows:
        found.setdefault(job, []).append((id, name, read_summary(row)))
    return found


def read_summary(row: SummaryRow | None) -> Summary | None:
    """None where there is none, or it is from another build and cannot be read."""
    if row is None:
        return None
    try:
        return SUMMARIES.validate_json(row.row)
    except ValidationError:
        return None


def keep_summary(session: Session, plan_id: int, seq: int, made_by: str, summary: Summary) -> None:
    session.merge(
        SummaryRow(
            plan=plan_id, seq=seq, made_by=made_by, material=summary.material_name, cycle=summary.cycle,
            each=float(summary.each), errors=summary.errors, warnings=summary.warnings,
            row=SUMMARIES.dump_json(summary).decode(),
        )
    )  # fmt: skip


def keep_evaluated(session: Session, plan_id: int, seq: int, made_by: str, ledger: Ledger, part: Part) -> None:
    keep_summary(session, plan_id, seq, made_by, summary_of(ledger, part))


def waiting_plans(session: Session, made_by: str) -> tuple[int, ...]:
    """Plans whose current version has no summary made by what stands now, the newest first."""
    current = (SummaryRow.plan == PlanRow.id) & (SummaryRow.seq == PlanRow.current)
    return tuple(
        session.scalars(
            select(PlanRow.id)
            .outerjoin(SummaryRow, current)
            .where((SummaryRow.plan.is_(None)) | (SummaryRow.made_by != made_by))
            .order_by(PlanRow.id.desc())
        )
    )


def unfollowed_plans(session: Session, most: int) -> tuple[int, ...]:
    """Of the newest plans those whose current summary is from before their stock was followed."""
    current = (SummaryRow.plan == PlanRow.id) & (SummaryRow.seq == PlanRow.current)
    rows = session.scalars(select(SummaryRow).join(PlanRow, current).order_by(PlanRow.id.desc()).limit(most))
    found = ((row.plan, read_summary(row)) for row in rows)
    return tuple(
        plan for plan, summary in found if summary is not None and not summary.followed and not summary.trouble
    )


def habits_elsewhere(session: Session, plan_id: int, material: str) -> list[tuple[str, Summary]]:
    """Numbers of other jobs in a material, with summaries of plans that set values by hand, the last changed first."""
    version = aliased(VersionRow)
    rows = session.execute(
        select(JobRow.number, SummaryRow)
        .join(PlanRow, PlanRow.job == JobRow.id)
        .join(SummaryRow, (SummaryRow.plan == PlanRow.id) & (SummaryRow.seq == PlanRow.current))
        .join(version, (version.plan == PlanRow.id) & (version.seq == PlanRow.current))
        .where(
            PlanRow.id != plan_id,
            PlanRow.chosen,
            SummaryRow.material == material,
            SummaryRow.row.not_like('%"habits":[]%'),
        )
        .order_by(version.at.desc(), PlanRow.id)
    )
    found = [(number, read_summary(row)) for number, row in rows]
    return [(number, summary) for number, summary in found if summary is not None]
