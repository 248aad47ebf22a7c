"""The order of each load's cycle: as it is, beside plain ones, and the best that is found."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import Tag

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.loads.best import best_order
from lean_ledger.core.order.problem import COUNTS, Count
from lean_ledger.core.pace.again import ways_around
from lean_ledger.store import Desk
from lean_ledger.web.order import schemas as s
from lean_ledger.web.order.views import best_view, cycle_view
from lean_ledger.web.plans.schemas import Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import desk
from lean_ledger.web.shared.works import BESIDE, aside

blueprint = Described("order", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="order")])

READS: dict[Any, Any] = {404: Problem, 422: Problem}


@blueprint.get("/<int:plan_id>/order/<load>", responses={200: s.CycleView, **READS})
def cycle(path: s.OrderPath) -> Response:
    """A load's cycle step by step, and what plain orders of it would come to."""
    opened = desk().open(path.plan_id, with_stock=False)
    load = opened.ledger.load_named(path.load)
    view = cycle_view(load, opened.ledger.second_of(load.decision.id))
    return Response(view.model_dump_json(), mimetype="application/json")


@blueprint.get("/<int:plan_id>/order/<load>/best", responses={200: s.BestView, **BESIDE})
def best(path: s.OrderPath, query: s.BestQuery) -> Response:
    """The order that costs least, searched for some seconds; changes nothing."""
    _goal(query.goal)  # what is asked wrongly need not wait for a work
    title = f"Looking for the best order of {path.load}"
    return aside(path.plan_id, title, __name__, "best_body", path.load, query.goal, query.seconds)


def best_body(asked: Desk, plan_id: int, load: str, goal: str, seconds: float, report: Report = silent) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    asked_of = opened.ledger.load_named(load)
    found = best_order(asked_of, _goal(goal), seconds, report)
    return best_view(found, asked_of, opened.ledger.second_of(asked_of.decision.id)).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/order/<load>/again/<piece>/<operation>", responses={200: s.WaysAroundView, **BESIDE})
def again(path: s.StepPath) -> Response:
    """What it would take not to call a step's tool a second time, each way tried; changes nothing."""
    title = f"Trying how {path.operation} needs no call of its own"
    return aside(path.plan_id, title, __name__, "ways_body", path.load, path.piece, path.operation)


def ways_body(asked: Desk, plan_id: int, load: str, piece: str, operation: str) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    found = ways_around(opened.ledger, opened.part, opened.shelf.library, load, piece, operation)
    ways = [
        s.WayAroundView(title=w.title, calls=w.calls, saving=w.saving, each=w.each, changes=list(w.changes))
        for w in found
    ]
    return s.WaysAroundView(ways=ways).model_dump_json().encode()


def _goal(words: str) -> tuple[Count, ...] | None:
    """Raises PlanError for what is neither seconds nor a ranking of all counts."""
    if words == "seconds":
        return None
    named = words.split(",")
    if sorted(named) != sorted(COUNTS):
        raise PlanError("goal", f"{words!r} is neither seconds nor a ranking of {', '.join(COUNTS)}")
    return tuple(name for word in named for name in COUNTS if name == word)
