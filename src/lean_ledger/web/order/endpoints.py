"""The order of each load's cycle: as it is, beside plain ones, and the best that is found."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint, Tag

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.ordering import best_order
from lean_ledger.core.order.problem import COUNTS, Count
from lean_ledger.store import Desk, Opened
from lean_ledger.web.order import schemas as s
from lean_ledger.web.order.views import best_view, cycle_view
from lean_ledger.web.plans.schemas import Problem
from lean_ledger.web.shared.requests import desk
from lean_ledger.web.shared.works import BESIDE, aside

blueprint = APIBlueprint("order", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="order")])

READS: dict[Any, Any] = {404: Problem, 422: Problem}


@blueprint.get("/<int:plan_id>/order/<load>", responses={200: s.CycleView, **READS})
def cycle(path: s.OrderPath) -> Response:
    """A load's cycle step by step, and what plain orders of it would come to."""
    opened = desk().open(path.plan_id, with_stock=False)
    return Response(cycle_view(_load(opened, path.load)).model_dump_json(), mimetype="application/json")


@blueprint.get("/<int:plan_id>/order/<load>/best", responses={200: s.BestView, **BESIDE})
def best(path: s.OrderPath, query: s.BestQuery) -> Response:
    """The order that costs least, searched for some seconds; changes nothing."""
    title = f"Looking for the best order of {path.load}"
    return aside(path.plan_id, title, __name__, "best_body", path.load, query.goal, query.seconds)


def best_body(asked: Desk, plan_id: int, load: str, goal: str, seconds: float) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    found = best_order(_load(opened, load), _goal(goal), seconds)
    return best_view(found).model_dump_json().encode()


def _goal(words: str) -> tuple[Count, ...] | None:
    """Raises PlanError for what is neither seconds nor a ranking of all counts."""
    if words == "seconds":
        return None
    named = words.split(",")
    if sorted(named) != sorted(COUNTS):
        raise PlanError("goal", f"{words!r} is neither seconds nor a ranking of {', '.join(COUNTS)}")
    return tuple(name for word in named for name in COUNTS if name == word)


def _load(opened: Opened, id: str) -> LoadLedger:
    """Raises PlanError for a load that there is not."""
    found = next((one for one in opened.ledger.loads if one.load.id == id), None)
    if found is None:
        raise PlanError("no-load", f"there is no load {id}; the plan has "
                        f"{', '.join(one.load.id for one in opened.ledger.loads)}")  # fmt: skip
    return found
