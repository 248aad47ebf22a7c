"""Turns evaluated plans into what the screens show. Selects and formats; computes nothing."""

from __future__ import annotations

from typing import Any

from lean_ledger.core.bodies import placed_bodies, plugs
from lean_ledger.core.changes import RATE_WORDS
from lean_ledger.core.effect import Effect
from lean_ledger.core.features import Feature, Hole, Turned, flat_side, tool_ways
from lean_ledger.core.features.describe import FeatureGroup, grouped, measures, title
from lean_ledger.core.features.patterns import pattern_of
from lean_ledger.core.findings import Finding, Severity
from lean_ledger.core.holding.picture import Box2, end_view, top_view
from lean_ledger.core.ledger import Ledger, SetupLedger
from lean_ledger.core.papers.sheet import tool_lines
from lean_ledger.core.part import Part
from lean_ledger.core.part_findings import in_the_way
from lean_ledger.core.plan import DIRECTIONS, Plan, PlanningBody
from lean_ledger.core.pricing.of_plan import effective_rates
from lean_ledger.core.pricing.price import price_curve
from lean_ledger.core.program.offsets import words_of_setups
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.revisions import Match
from lean_ledger.core.revisions.carried import decided_features
from lean_ledger.core.revisions.follow import Revised
from lean_ledger.core.setups.assign import movable_to
from lean_ledger.core.setups.sides import needs_machining
from lean_ledger.core.stock.sizes import over_features
from lean_ledger.core.tolerance import asks_for
from lean_ledger.library.types import Library
from lean_ledger.store.desk import EFFECTS, Opened
from lean_ledger.store.models import VersionRow
from lean_ledger.web import part_schemas as ps
from lean_ledger.web import schemas as s
from lean_ledger.web import setup_schemas as su
from lean_ledger.web.entries import Sorts, entry_view, features_by_sort, probe_views
from lean_ledger.web.figures import figure, seconds_view
from lean_ledger.web.hold_views import hold_view
from lean_ledger.web.zero_views import zero_view

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
    )


def job_row(opened: Opened) -> s.JobRow:
    ledger = opened.ledger
    return s.JobRow(
        job=job_ref(opened),
        plan_id=opened.plan_id,
        material=ledger.material.name,
        quantities=list(opened.plan.quantities),
        cycle=ledger.cycle,
        each=ledger.prices[0].each,
        errors=_count(ledger, Severity.ERROR),
        warnings=_count(ledger, Severity.WARNING),
        thumb=s.ThumbView(lines=[list(line) for line in _thumb(opened.part)]),
    )


def _thumb(part: Part) -> Any:
    iso = next((d for d in part.model.drawings if d.view[2] > 0.5 and abs(d.view[0]) > 0.5), None)
    return iso.visible if iso else ()


def _count(ledger: Ledger, severity: Severity) -> int:
    return sum(1 for f in ledger.findings if f.severity == severity)


def plan_view(opened: Opened, library: Library) -> s.PlanView:
    ledger, part, plan = opened.ledger, opened.part, opened.plan
    bounds, stock = part.model.solid.bounds, ledger.stock.bounds
    return s.PlanView(
        plan_id=opened.plan_id,
        edition=opened.edition,
        version=opened.version.seq,
        job=job_ref(opened),
        material=plan.material,
        material_name=ledger.material.name,
        quantities=list(plan.quantities),
        allowances=[s.AllowanceView(side=side, value=ledger.plan.allowances.on(side)) for side in DIRECTIONS],
        revisions=[s.RevisionView(letter=row.letter, author=row.author, at=row.at) for row in opened.revisions],
        bodies=_bodies(opened),
        form="prismatic" if part.axis is None else "rotational",
        axis=s.AxisView(point=part.axis.point, direction=part.axis.direction) if part.axis else None,
        stock=stock.size,
        part_size=bounds.size,
        part_volume=part.model.solid.volume,
        chips_share=1 - part.model.solid.volume / ledger.stock.volume,
        parked=[id for id in plan.parked if id in part.by_id],
        stock_choice=s.StockChoiceView(
            form=plan.stock.form,
            along="XYZ"[ledger.sized.along],
            along_decided=plan.stock.along is not None,
            sizing=plan.stock.sizing,
            named=ledger.sized.named,
            kg=ledger.material.kg(ledger.stock.volume),
            shift=plan.stock.shift,
            over=[s.OverView(feature=f.id, title=title(f), over=over) for f, over in over_features(part)],
        ),
        strip=_strip(opened),
        findings=[_finding(f) for f in ledger.findings],
        features=_features(opened, library),
        groups=[_group(g) for g in grouped(part.features)],
        holes=_holes(opened, library),
        setups=_setups(opened, library),
        price=_price(opened, library),
        journal=journal(opened),
        can_undo=opened.can_undo,
        can_redo=opened.can_redo,
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


def _features(opened: Opened, library: Library) -> list[ps.FeatureView]:
    ledger = opened.ledger
    out = {left.feature: left.reason for left in opened.plan.left_out}
    made: dict[str, list[str]] = {}
    for op in ledger.operations:
        for feature in op.features:
            made.setdefault(feature, []).append(op.id)
    became = {pair.new: pair.became.value for pair in opened.part.since}
    placed = {f.id: [setup for setup, ids in ledger.assigned.items() if f.id in ids] for f in opened.part.features}
    return [
        ps.FeatureView(
            id=f.id,
            kind=f.kind,
            title=title(f),
            faces=list(f.faces),
            access=list(tool_ways(f)),
            volume=f.volume,
            measures=[ps.MeasureView(label=m.label, value=m.value, unit=m.unit, source=m.source) for m in measures(f)],
            setups=placed[f.id],
            operations=made.get(f.id, []),
            left_out=out.get(f.id),
            said=_said(opened, f),
            threads=_threads_for(f, library),
            became=became.get(f.id, "same"),
            in_the_way=in_the_way(opened.part, f) if not tool_ways(f) else "",
            is_flat_side=flat_side(f) is not None,
            movable_to=list(movable_to(opened.part, opened.plan, f, placed[f.id])),
            needs_machining=needs_machining(opened.part, f, ledger.plan.allowances),
        )
        for f in opened.part.features
    ]


def _said(opened: Opened, feature: Feature) -> ps.SaidView:
    said = opened.plan.said_of(feature.id)
    return ps.SaidView(
        thread=said.thread,
        tolerance=said.tolerance,
        finish=said.finish,
        note=said.note,
        asks_for=asks_for(feature, said.tolerance),
    )


def _bodies(opened: Opened) -> list[s.BodyView]:
    decided = {body.id: body for body in opened.plan.bodies}
    views = []
    for placed in (*placed_bodies(opened.part, opened.plan), *plugs(opened.part, opened.plan)):
        body = decided.get(placed.id) or PlanningBody(placed.id, "boss", placed.id, 0.0, 0.0, placed.height)
        mesh = placed.mesh
        views.append(
            s.BodyView(
                id=placed.id, kind=body.kind if placed.id in decided else "plug", on=body.on, words=placed.words,
                length=body.length, width=body.width, height=body.height, u=body.u, v=body.v, removal=body.removal,
                vertices=[c for p in mesh.vertices for c in p], triangles=[i for t in mesh.triangles for i in t],
            )
        )  # fmt: skip
    return views


def _group(group: FeatureGroup) -> ps.FeatureGroupView:
    pattern = pattern_of(group.features)
    return ps.FeatureGroupView(
        title=group.title,
        ids=[f.id for f in group.features],
        pattern=ps.PatternView(
            shape=pattern.shape, words=pattern.words, center=pattern.center, diameter=pattern.diameter,
            rows=pattern.rows, columns=pattern.columns, pitch=pattern.pitch, row_pitch=pattern.row_pitch,
        ) if pattern else None,
    )  # fmt: skip


def compare_view(revised: Revised, plan: Plan) -> ps.CompareView:
    before, after, found = revised.before, revised.after, revised.found
    decided = decided_features(plan)
    faces = _face_words(found, before, after)
    return ps.CompareView(
        before=before.revision,
        after=after.revision,
        pairs=[
            ps.FeaturePairView(
                old=pair.old,
                new=revised.names[pair.new] if pair.new else None,
                own=pair.new,
                title=title(before.by_id[pair.old] if pair.old else after.by_id[revised.names[pair.new or ""]]),
                became=pair.became.value,
                moved=pair.moved,
                changes=[
                    ps.ChangedView(label=c.label, before=c.before, after=c.after, unit=c.unit) for c in pair.changes
                ],
                by_hand=pair.by_hand,
                decided=list(decided.get(pair.old or "", ())),
            )
            for pair in found.features
        ],
        before_faces=faces[0],
        after_faces=faces[1],
        before_features={f.id: list(f.faces) for f in before.features},
        after_features={f.id: list(f.faces) for f in after.features},
    )


def _face_words(found: Match, before: Part, after: Part) -> tuple[list[str], list[str]]:
    old, new = ["gone"] * len(before.model.solid.faces), ["new"] * len(after.model.solid.faces)
    for pair in found.faces:
        if pair.old is not None:
            old[pair.old] = pair.became.value
        if pair.new is not None:
            new[pair.new] = pair.became.value
    return old, new


def _holes(opened: Opened, library: Library) -> list[ps.HoleSizeView]:
    sizes: dict[float, list[str]] = {}
    for f in opened.part.features:
        if isinstance(f, Hole):
            sizes.setdefault(f.diameter, []).append(f.id)
    return [
        ps.HoleSizeView(
            diameter=diameter,
            features=ids,
            thread=opened.plan.thread_of(diameter),
            options=[t.name for t in library.threads if t.fits(diameter)],
        )
        for diameter, ids in sorted(sizes.items())
    ]


def _attached(opened: Opened, one: SetupLedger) -> list[su.AttachedView]:
    timed = {"": one.foreign, **{e.operation.id: e.foreign for e in one.entries}}
    return [
        su.AttachedView(
            operation=a.operation,
            file=a.file,
            lines=time.lines if (time := timed.get(a.operation)) else 0,
            seconds=time.total if time else 0.0,
        )
        for a in opened.plan.attached
        if a.setup == one.decision.id
    ]


def _setups(opened: Opened, library: Library) -> list[su.SetupView]:
    words = words_of_setups(opened.ledger, opened.part)
    sorts = features_by_sort(opened)
    return [
        _setup(opened, one, i, words[one.decision.id], sorts, library) for i, one in enumerate(opened.ledger.setups)
    ]


def _setup(
    opened: Opened, one: SetupLedger, index: int, offset: str, sorts: Sorts, library: Library
) -> su.SetupView:  # fmt: skip
    hold, decided = one.built.hold, one.decision
    names = {e.operation.id: e.operation.name for e in one.entries}
    numbers = tool_numbers(one)
    rate = decided.machine_rate if decided.machine_rate is not None else one.machine.rate
    return su.SetupView(
        id=decided.id,
        attached=_attached(opened, one),
        up=decided.up,
        locked=decided.locked,
        right=one.built.home.frame.right,
        back=one.built.home.frame.back,
        above=one.built.home.frame.up,
        turn=hold.turn,
        turn_decided=decided.turn,
        machine=one.machine.id,
        machine_name=one.machine.name,
        hold=hold_view(opened, one, index, library),
        zero=zero_view(opened, index, offset),
        stock=hold.stock.size,
        features=list(opened.ledger.assigned[decided.id]),
        seconds=seconds_view(one.seconds),
        cycle=one.cycle,
        load=one.load_seconds,
        standing=one.standing,
        probes=probe_views(opened, one, library),
        cut_off=decided.cut_off,
        can_cut_off=decided.spindle != "tool",
        hand=[su.HandWorkView(id=w.id, kind=w.kind, seconds=float(w.seconds), during=w.during) for w in decided.hand],
        setup_hours=one.setup_hours,
        hours_decided=decided.hours is not None,
        machine_rate=rate,
        rate_decided=decided.machine_rate is not None,
        load_decided=decided.load_seconds is not None,
        calls=one.calls,
        grouped_calls=one.grouped_calls,
        grouping_saves=one.grouping_saves,
        order_decided=bool(decided.order),
        entries=[entry_view(opened, e, names, numbers[e.operation.tool.id], sorts, library) for e in one.entries],
        tools=[
            su.ToolLineView(
                number=line.number,
                description=line.description,
                stick_out=line.stick_out,
                minutes=line.minutes,
                where=line.where,
            )
            for line in tool_lines(one)
        ],
        in_machine=list(one.in_machine),
        end_boxes=[_box(b) for b in end_view(hold)],
        top_boxes=[_box(b) for b in top_view(hold)],
    )


def _box(b: Box2) -> su.BoxView:
    return su.BoxView(what=b.what, x=b.x, y=b.y, width=b.width, height=b.height, round=b.round, ring=list(b.ring))


def _threads_for(feature: Feature, library: Library) -> list[str]:
    if isinstance(feature, Hole):
        return [t.name for t in library.threads if t.fits(feature.diameter)]
    if isinstance(feature, Turned) and feature.where == "outside":
        return [t.name for t in library.threads if t.fits_outside(feature.diameter)]
    return []


def _price(opened: Opened, library: Library) -> s.PriceView:
    ledger, plan = opened.ledger, opened.plan
    rates = effective_rates(plan, library.rates, ledger.material)
    problem = ledger.problem
    values = {**rates, "programming_hours": problem.programming_hours, "tooling_per_piece": problem.tooling_per_piece}
    material = problem.material
    return s.PriceView(
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


def journal(opened: Opened) -> list[s.JournalLine]:
    parents = {v.seq: v.parent for v in opened.journal}
    way: set[int] = set()
    at: int | None = opened.version.seq
    while at is not None:
        way.add(at)
        at = parents[at]
    return [journal_line(v, opened.version.seq, v.seq not in way) for v in opened.journal]


def journal_line(v: VersionRow, current: int, ahead: bool) -> s.JournalLine:  # noqa: FBT001 - a fact of the line
    return s.JournalLine(
        seq=v.seq,
        parent=v.parent,
        author=v.author,
        at=v.at,
        words=v.words,
        effect=effect_view(EFFECTS.validate_json(v.effect), v.words),
        current=v.seq == current,
        ahead=ahead,
    )


def mesh_view(part: Part) -> ps.MeshView:
    mesh, bounds = part.model.solid.mesh, part.model.solid.bounds
    sharp = [e for e in part.model.solid.edges if e.bend in ("convex", "concave")]
    return ps.MeshView(
        vertices=[c for v in mesh.vertices for c in v],
        triangles=[i for t in mesh.triangles for i in t],
        faces=list(mesh.faces),
        edges=[[round(c, 3) for p in e.points for c in p] for e in sharp],
        min=bounds.min,
        max=bounds.max,
    )
