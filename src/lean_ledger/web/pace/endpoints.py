"""Speeds and feeds tried out, what is most worth working on, and how long tools last."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from flask import Response
from flask_openapi3 import Tag

from lean_ledger.core.operations.alike import alike
from lean_ledger.core.operations.cutting.forces import ToolLoad, load_of
from lean_ledger.core.operations.cutting.wear import ToolUse, life_minutes, tool_uses
from lean_ledger.core.pace import Outcome, Worth, paced, worth_working_on
from lean_ledger.core.pace.tried import find, pace_change
from lean_ledger.core.shop.habits import LastUsed, last_used, words_of
from lean_ledger.core.shop.magazine import where
from lean_ledger.core.shop.shopping import shopping_list
from lean_ledger.store import Desk, Opened
from lean_ledger.web.pace import schemas as s
from lean_ledger.web.plans.schemas import PlanPath, Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.figures import figure, tool_view
from lean_ledger.web.shared.requests import desk
from lean_ledger.web.shared.works import BESIDE, aside

blueprint = Described("pace", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="pace")])

READS: dict[Any, Any] = {404: Problem, 422: Problem}


@blueprint.get("/<int:plan_id>/operations/<operation>/figures", responses={200: s.FiguresView, **READS})
def figures(path: s.OperationPath) -> Response:
    """Each number of an operation with the formula that it comes from: long, and looked at one by one."""
    ledger = desk().open(path.plan_id, with_stock=False).ledger
    call = ledger.call_of(find(ledger, path.operation).id)
    body = s.FiguresView(figures=[figure(f) for f in call.figures])
    return Response(body.model_dump_json(), mimetype="application/json")


@blueprint.get("/<int:plan_id>/operations/<operation>/pace", responses={200: s.PaceView, **READS})
def pace(path: s.OperationPath, query: s.PaceQuery) -> Response:
    """One operation at shares of its usual speed and feed, beside how it is now; changes nothing."""
    opened = desk().open(path.plan_id, with_stock=False)
    ledger = opened.ledger
    tried = paced(ledger, opened.part, opened.shelf.library, path.operation, query.speed, query.feed)
    body = s.PaceView(
        operation=tried.operation,
        speed=tried.speed,
        feed=tried.feed,
        speed_most=tried.limits.speed,
        speed_stop=tried.limits.speed_stop,
        feed_most=tried.limits.feed,
        feed_stop=tried.limits.feed_stop,
        before=_outcome(tried.before),
        after=_outcome(tried.after),
        quantity=ledger.plan.quantities[0],
        change=pace_change(find(ledger, path.operation), query.speed, query.feed),
        alike=len(alike(find(ledger, path.operation), ledger.operations, opened.part)),
    )
    return Response(body.model_dump_json(), mimetype="application/json")


@blueprint.get("/<int:plan_id>/worth", responses={200: s.WorthsView, **BESIDE})
def worth(path: PlanPath) -> Response:
    """The ten entries that save most at their limits, each tried out; changes nothing."""
    return aside(path.plan_id, "Trying what is worth working on", __name__, "worth_body")


def worth_body(asked: Desk, plan_id: int) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    rows = [_worth(w) for w in worth_working_on(opened.ledger, opened.part, opened.shelf.library)]
    return s.WorthsView(entries=rows).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/last-used", responses={200: s.LastUsedView, **READS})
def habits(path: PlanPath) -> Response:
    """Values that other plans have for the same kind of operation, tool and material, where this one has none."""
    opened = desk().open(path.plan_id, with_stock=False)
    found = last_used(opened.ledger, desk().habits_elsewhere(path.plan_id, opened.ledger.material.name))
    names = {op.id: op.name for op in opened.ledger.operations}
    body = s.LastUsedView(
        entries=[
            s.LastUsedEntry(operation=one.operation, name=names[one.operation], words=words_of(one.values),
                            source=one.source,
                            edit=_edit(one))
            for one in found
        ]
    )  # fmt: skip
    return Response(body.model_dump_json(), mimetype="application/json")


def _edit(one: LastUsed) -> dict[str, Any]:
    values = {str(name): value for name, value in one.values.items()}
    return {"change": "edit-operation", "operation": one.operation, **values}


@blueprint.get("/<int:plan_id>/tool-use", responses={200: s.ToolUsesView, **READS})
def tool_use(path: PlanPath) -> Response:
    """What a piece and a batch take of each tool, and what each of its operations asks of it."""
    opened = desk().open(path.plan_id, with_stock=False)
    uses = tool_uses(opened.ledger.operations, opened.shelf.library, opened.ledger.material)
    missing = [buy.words for buy in shopping_list(opened.ledger, opened.shelf.library) if buy.is_missing]
    body = s.ToolUsesView(tools=[_use(opened, use) for use in uses], missing=missing)
    return Response(body.model_dump_json(), mimetype="application/json")


def _use(opened: Opened, use: ToolUse) -> s.ToolUseView:
    ledger = opened.ledger
    work = []
    for op in (find(ledger, id) for id in use.operations):
        load = load_of(op, ledger.setup(op.setup).machine, ledger.material)
        life = life_minutes(op, opened.shelf.library, ledger.material) or 0.0
        work.append(
            s.ToolWorkView(
                operation=op.id, setup=op.setup, name=op.name, seconds=op.cut_each, speed=op.cutting.speed,
                feed=op.cutting.feed, life=life, load=load_view(load),
            )
        )  # fmt: skip
    return s.ToolUseView(
        where=where(to_set=any(use.tool in one.built.to_set for one in ledger.setups)),
        tool=tool_view(use.tool),
        minutes=use.minutes,
        life=use.life,
        pieces=use.pieces if use.pieces != float("inf") else None,
        cost=use.cost,
        price=use.tool.price,
        work=work,
        batches=[
            s.BatchView(quantity=q, used_up=use.used_up(q), changes=use.changes(q)) for q in ledger.plan.quantities
        ],
    )


def _outcome(outcome: Outcome) -> s.OutcomeView:
    values = {name: getattr(outcome, name) for name in ("n", "vf", "seconds", "per_piece", "each", "life", "changes")}
    return s.OutcomeView(**values, load=load_view(outcome.load))


def load_view(load: ToolLoad) -> s.LoadView:
    nearest, share = load.nearest
    return s.LoadView(**asdict(load), nearest=nearest, share=share)


def _worth(w: Worth) -> s.WorthView:
    cheapest = s.CheapestView(**asdict(w.cheapest)) if w.cheapest is not None else None
    return s.WorthView(
        title=w.title, setup=w.setup, operation=w.operation, seconds=w.seconds, saving=w.saving, each=w.each,
        stop=w.stop, change=w.change, life_before=w.life[0] if w.life else None,
        life_after=w.life[1] if w.life else None, cheapest=cheapest,
    )  # fmt: skip
