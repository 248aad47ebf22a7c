"""Turns evaluated plans into what the screens show. Selects and formats; computes nothing."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from lean_ledger.core.basis.findings import Finding, Severity
from lean_ledger.core.changes import RATE_WORDS
from lean_ledger.core.features.describe import grouped, title
from lean_ledger.core.ledger.effect import Effect
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.spread import Sure, sure
from lean_ledger.core.plan import DIRECTIONS
from lean_ledger.core.pricing.of_plan import effective_rates
from lean_ledger.core.pricing.price import price_curve
from lean_ledger.core.shop.summary import Summary
from lean_ledger.core.stock.sizes import over_features
from lean_ledger.library.types import Measured
from lean_ledger.store.job_list import JobLine, JobPage, JobQuery
from lean_ledger.store.models import VersionRow
from lean_ledger.store.opened import Opened
from lean_ledger.store.rows import JournalPart, effect_in
from lean_ledger.web.part.views import body_views, feature_views, group_view, hole_views
from lean_ledger.web.plans import schemas as s
from lean_ledger.web.setups.views import views_of_setups
from lean_ledger.web.shared.figures import figure, seconds_view

_UNITS: dict[str, Any] = {
    "attendance": "share", "scrap": "share", "overhead": "share", "margin": "share",
    "programming_hours": "hours", "inspection_seconds": "seconds", "fixture_life": "pieces",
    "kerf": "length", "bar_length": "length", "remnant": "length",
}  # fmt: skip


_OF_BARS = {"kerf", "bar_length", "remnant", "cut_charge"}


def job_ref(opened: Opened) -> s.JobRef:
    job = opened.job
    return s.JobRef(
        id=job.id,
        number=job.number,
        name=job.name,
        customer=job.customer,
        revision=opened.plan.revision,
        status=job.status,
        due=job.due,
        file=opened.part.model.file,
        length_unit=opened.part.model.length_unit,
        aligned=opened.part.model.aligned,
        ordered=job.ordered,
    )


def job_row(line: JobLine) -> s.JobRow:
    job, found = line.job, line.summary
    if found is None:
        state: Any = "waiting"
        found = Summary("", "", (), "", "", "mm", aligned=False)
    else:
        state = "broken" if found.trouble else "fresh" if line.fresh else "older"
    return s.JobRow(
        job=s.JobRef(
            id=job.id, number=job.number, name=job.name, customer=job.customer, revision=found.revision,
            status=job.status, due=job.due, file=found.file, length_unit=found.length_unit, aligned=found.aligned,
            ordered=job.ordered,
        ),
        plan_id=line.plan_id,
        material=found.material_name,
        quantities=list(found.quantities),
        cycle=found.cycle if state in ("fresh", "older") else None,
        each=found.each if state in ("fresh", "older") else None,
        errors=found.errors,
        warnings=found.warnings,
        picture=f"/api/jobs/pictures/{line.thumb[0]}/{line.thumb[1]}" if line.thumb else "",
        state=state,
        trouble=found.trouble,
        followed=found.followed,
        plan_name=line.plan_name,
        others=[_other(*one) for one in line.others],
    )  # fmt: skip


def _other(plan_id: int, name: str, found: Summary | None) -> s.OtherPlan:
    told = found if found is not None and not found.trouble else None
    return s.OtherPlan(plan_id=plan_id, name=name, cycle=told.cycle if told else None,
                       each=told.each if told else None, errors=told.errors if told else 0)  # fmt: skip


def job_list(page: JobPage, query: JobQuery) -> s.JobList:
    return s.JobList(
        jobs=[job_row(line) for line in page.lines], total=page.total, all=page.all, page=query.page,
        pages=max(1, -(-page.total // query.size)), customers=list(page.customers),
    )  # fmt: skip


def _count(ledger: Ledger, severity: Severity) -> int:
    return sum(1 for f in ledger.findings if f.severity == severity)


def plan_view(opened: Opened, seen: Sequence[Measured]) -> s.PlanView:
    """`seen`: what was measured on the floor up to now."""
    library, ledger, part, plan = opened.shelf.library, opened.ledger, opened.part, opened.plan
    bounds, stock = part.model.solid.bounds, ledger.stock.bounds
    return s.PlanView(
        plan_id=opened.plan_id,
        plan_name=opened.name,
        chosen=opened.chosen,
        plans=opened.plans,
        edition=opened.edition,
        version=opened.version.seq,
        job=job_ref(opened),
        material=plan.material,
        material_name=ledger.material.name,
        quantities=list(plan.quantities),
        allowances=[s.AllowanceView(side=side, value=ledger.plan.allowances.on(side)) for side in DIRECTIONS],
        revisions=[s.RevisionView(letter=row.letter, author=row.author, at=row.at) for row in opened.revisions],
        bodies=body_views(opened),
        form="prismatic" if part.axis is None else "rotational",
        axis=s.AxisView(point=part.axis.point, direction=part.axis.direction) if part.axis else None,
        stock=stock.size,
        part_size=bounds.size,
        part_volume=part.model.solid.volume,
        chips_share=1 - part.model.solid.volume / ledger.stock.volume,
        parked=[id for id in plan.parked if id in part.by_id],
        stock_choice=s.StockChoiceView(
            form=plan.stock.form,
            along=("X", "Y", "Z")[ledger.sized.along],
            along_decided=plan.stock.along is not None,
            sizing=plan.stock.sizing,
            named=ledger.sized.named,
            kg=ledger.material.kg(ledger.stock.volume),
            shift=plan.stock.shift,
            over=[s.OverView(feature=f.id, title=title(f), over=over) for f, over in over_features(part)],
        ),
        strip=_strip(opened),
        findings=[_finding(f) for f in ledger.findings],
        features=feature_views(opened, library),
        groups=[group_view(g) for g in grouped(part.features)],
        holes=hole_views(opened, library),
        setups=views_of_setups(opened, library),
        price=_price(opened, seen),
        now=journal_line(opened.version, opened.version.seq, ahead=False),
        lines=opened.lines,
        can_undo=opened.can_undo,
        can_redo=opened.can_redo,
        beside=opened.ledger.beside,
        stock_followed=opened.followed is not None,
    )


def _strip(opened: Opened) -> s.Strip:
    ledger = opened.ledger
    first = ledger.prices[0]
    last = effect_view(opened.effect, opened.version.words) if opened.version.parent is not None else None
    return s.Strip(
        cycle=ledger.cycle,
        per_piece=ledger.per_piece,
        setup_hours=ledger.setup_hours,
        each=first.each,
        quantity=first.quantity,
        errors=_count(ledger, Severity.ERROR),
        warnings=_count(ledger, Severity.WARNING),
        seconds=seconds_view(ledger.seconds),
        last=last,
    )


def effect_view(effect: Effect, words: str) -> s.EffectView:
    return s.EffectView(
        words=words,
        cycle=effect.cycle,
        per_piece=effect.per_piece,
        setup_hours=effect.setup_hours,
        each=effect.each,
        findings_gone=effect.findings_gone,
        findings_new=effect.findings_new,
    )


def _finding(f: Finding) -> s.FindingView:
    return s.FindingView(
        code=f.code,
        severity=f.severity.value,
        chapter=f.chapter.value,
        title=f.title,
        why=f.why,
        setup=f.setup,
        features=list(f.features),
        operation=f.operation,
        cures=[s.CureView(label=c.label, change=c.change) for c in f.cures],
    )


def _price(opened: Opened, seen: Sequence[Measured]) -> s.PriceView:
    library, ledger, plan = opened.shelf.library, opened.ledger, opened.plan
    rates = effective_rates(plan, library.rates, ledger.material)
    problem = ledger.problem
    values = {**rates, "programming_hours": problem.programming_hours, "tooling_per_piece": problem.tooling_per_piece}
    material = problem.material
    every = [sure(ledger, library, k, seen) for k in range(len(ledger.prices))]
    return s.PriceView(
        sure=[_sure(one) for one in every],
        missing=list(every[0].missing),
        quantities=[
            s.QuantityView(
                quantity=q.quantity,
                started=q.started,
                lines=[s.PriceLine(line=line, cost=cost) for line, cost in q.lines],
                cost=q.cost,
                price=q.price,
                each=q.each,
                machine_hours=q.machine_hours,
            )
            for q in ledger.prices
        ],
        rates=[
            s.RateView(
                name=name,
                label=label,
                value=values.get(name),
                decided=getattr(plan.rates, name) is not None,
                unit=_UNITS.get(name, "money"),
            )
            for name, label in RATE_WORDS.items()
            if plan.buy == "bar" or name not in _OF_BARS
        ],
        curve=[s.CurvePoint(quantity=q, each=each) for q, each in price_curve(problem)],
        buy=plan.buy,
        material_kg=float(material.section_area * material.length * material.density / 10**6),
        tool_wear=figure(ledger.tool_wear),
    )


def _sure(one: Sure) -> s.SureView:
    rests = [
        s.RestView(what=rest.what, source=rest.source, amount=rest.amount, share=rest.share, moves=rest.moves,
                   part=one.part_of(rest))
        for rest in one.rests
    ]  # fmt: skip
    return s.SureView(quantity=one.quantity, low=one.low, high=one.high, rests=rests, words=one.words)


def journal_view(part: JournalPart, edition: int) -> s.JournalView:
    lines = [journal_line(v, part.current, v.seq not in part.way) for v in part.lines]
    return s.JournalView(edition=edition, current=part.current, lines=lines, earlier=part.earlier)


def journal_line(v: VersionRow, current: int, ahead: bool) -> s.JournalLine:  # noqa: FBT001 - a fact of the line
    return s.JournalLine(
        seq=v.seq,
        parent=v.parent,
        author=v.author,
        at=v.at,
        words=v.words,
        effect=effect_view(effect_in(v), v.words),
        current=v.seq == current,
        ahead=ahead,
    )
