"""The plans of a job: told apart, made, chosen; beside one another; and all combinations that can be made."""

from __future__ import annotations

from flask import Response, current_app
from flask_openapi3 import Tag

from lean_ledger.core.alternatives.grid import Grid, change_of, grid
from lean_ledger.core.alternatives.side_by_side import Compared, Row, Value, compared
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.store import Desk
from lean_ledger.store.alternatives import PlanLine
from lean_ledger.web.alternatives import schemas as s
from lean_ledger.web.plans.schemas import Created, PlanPath, Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import author, desk
from lean_ledger.web.shared.works import BESIDE, aside

blueprint = Described("alternatives", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="alternatives")])


@blueprint.get("/<int:plan_id>/alternatives", responses={200: s.AlternativesView, 404: Problem})
def alternatives(path: PlanPath) -> Response:
    """All plans of the job, the one that it is made by first; nothing is computed for it."""
    return _told(path.plan_id)


@blueprint.post("/<int:plan_id>/alternatives", responses={201: Created, 404: Problem, 422: Problem})
def add_alternative(path: PlanPath, body: s.NewAlternative) -> Response:
    """Forks a plan; the new one has a journal of its own, and this one stays as it is."""
    changes = [change_of(change) for change in body.changes]
    plan_id = desk().alternatives.fork(path.plan_id, body.seq, body.name.strip(), author(), changes)
    current_app.config["FOLLOW"](plan_id)
    return Response(Created(plan_id=plan_id).model_dump_json(), 201, mimetype="application/json")


@blueprint.patch("/<int:plan_id>/alternatives", responses={200: s.AlternativesView, 404: Problem, 422: Problem})
def edit_alternative(path: PlanPath, body: s.AlternativeEdit) -> Response:
    """Its name, and whether it is in sight."""
    if body.name is not None:
        desk().alternatives.rename(path.plan_id, body.name.strip())
    if body.put_away is not None:
        desk().alternatives.put_away(path.plan_id, away=body.put_away)
    return _told(path.plan_id)


@blueprint.post("/<int:plan_id>/alternatives/choice", responses={200: s.AlternativesView, 404: Problem})
def choose(path: PlanPath) -> Response:
    """The job is made by this plan from now on; the others stay."""
    desk().alternatives.choose(path.plan_id, author())
    return _told(path.plan_id)


@blueprint.get("/<int:plan_id>/alternatives/compared", responses={200: s.SideBySideView, **BESIDE})
def side_by_side(path: PlanPath, query: s.SideBySideQuery) -> Response:
    """Plans of the job beside one another, and the quantities at which one overtakes another."""
    ids = list(dict.fromkeys(int(id) for id in query.plans.split(",")))
    states = ",".join(desk().base_state(id) for id in ids)
    return aside(path.plan_id, "Putting plans beside one another", __name__, "compared_body", tuple(ids), states)


def compared_body(asked: Desk, plan_id: int, ids: tuple[int, ...], _states: str) -> bytes:
    found = asked.alternatives.ledgers(plan_id, ids)
    names = [name for name, _ in found]
    return _side_by_side(ids, names, compared(names, [ledger for _, ledger in found])).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/alternatives/grid", responses={200: s.GridView, **BESIDE})
def combinations(path: PlanPath) -> Response:
    """Machine × stock × pieces a cycle × order, each a whole plan with its own ledger; changes nothing."""
    return aside(path.plan_id, "Making all combinations", __name__, "grid_body")


def grid_body(asked: Desk, plan_id: int, report: Report = silent) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    found = grid(opened.ledger, opened.part, opened.shelf.library, opened.name, report)
    return _grid(found, opened.version.seq).model_dump_json().encode()


def _told(plan_id: int) -> Response:
    body = s.AlternativesView(plans=[_line(line) for line in desk().alternatives.of(plan_id)])
    return Response(body.model_dump_json(), mimetype="application/json")


def _line(line: PlanLine) -> s.AlternativeView:
    summary = line.summary if line.summary is not None and not line.summary.trouble else None
    return s.AlternativeView(
        id=line.id, name=line.name, origin=line.origin, chosen=line.chosen,
        chosen_by=line.chosen_by if line.chosen else "", chosen_at=line.chosen_at if line.chosen else None,
        put_away=line.put_away, lines=line.lines, last=line.last, fresh=line.fresh,
        quantity=summary.quantities[0] if summary else None,
        cycle=summary.cycle if summary else None, each=summary.each if summary else None,
        errors=summary.errors if summary else 0, warnings=summary.warnings if summary else 0,
        followed=summary is not None and summary.followed, trouble=line.summary.trouble if line.summary else "",
    )  # fmt: skip


def _side_by_side(ids: tuple[int, ...], names: list[str], found: Compared) -> s.SideBySideView:
    points = zip(*found.curves, strict=True)
    return s.SideBySideView(
        plans=list(ids),
        names=names,
        rows=[_row(row) for row in found.rows],
        curve=[s.CurvePointOf(quantity=of[0][0], each=[each for _, each in of]) for of in points],
        stretches=[s.StretchView(first=one.first, last=one.last, least=list(one.least)) for one in found.stretches],
        most=found.most,
        words=found.words,
    )


def _row(row: Row) -> s.SideRow:
    values = [_text(value) for value in row.values]
    return s.SideRow(group=row.group, name=row.name, unit=row.unit, values=values, best=list(row.best),
                     differs=row.differs)  # fmt: skip


def _text(value: Value) -> str:
    return value if isinstance(value, str) else str(value)


def _grid(found: Grid, line: int) -> s.GridView:
    return s.GridView(
        line=line,
        quantities=list(found.quantities),
        combinations=[
            s.CombinationView(
                on=one.on, stock=one.stock, pieces=one.pieces, order=one.order, counts=list(one.counts), name=one.name,
                each=list(one.each), cycle=one.cycle,
                setup_hours=float(one.setup_hours), left=list(one.left),
                changes=list(one.changes),
            )
            for one in found.combinations
        ],
        refused=[s.RefusedMachine(name=name, why=why) for name, why in found.refused],
        untried=list(found.untried),
    )  # fmt: skip
