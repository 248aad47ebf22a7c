"""What runs at the same time in a plan's loads, what the next step would gain, and the least cycle that is found."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import Tag

from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.loads.drum import DrumFinder, finder_of
from lean_ledger.core.pace.ends import at_other_end, both_ends, pulled_on
from lean_ledger.store import Desk
from lean_ledger.web.balance import schemas as s
from lean_ledger.web.balance.cells import cell_view
from lean_ledger.web.balance.views import (
    at_other_end_view,
    balance_view,
    both_ends_view,
    both_sides_view,
    found_view,
    gain_view,
    pulled_view,
    split_view,
)
from lean_ledger.web.plans.schemas import PlanPath, Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import desk
from lean_ledger.web.shared.works import BESIDE, aside

blueprint = Described("balance", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="balance")])

READS: dict[Any, Any] = {404: Problem, 422: Problem}


@blueprint.get("/<int:plan_id>/balance", responses={200: s.BalanceView, **READS})
def balance(path: PlanPath) -> Response:
    """Each load's lanes over the time of its cycle, who waits for whom, and what one after the other would take."""
    view = balance_view(desk().open(path.plan_id, with_stock=False))
    return Response(view.model_dump_json(), mimetype="application/json")


@blueprint.get("/<int:plan_id>/balance/cell", responses={200: s.CellView, **READS})
def cell(path: PlanPath) -> Response:
    """The plan's machines beside one another, tended by people: the pace, who sets it, and what a piece then costs."""
    view = cell_view(desk().open(path.plan_id, with_stock=False))
    return Response(view.model_dump_json(), mimetype="application/json")


@blueprint.get("/<int:plan_id>/balance/<load>/gains", responses={200: s.GainsView, **BESIDE})
def gains(path: s.BalancePath) -> Response:
    """Single steps that shorten a load's cycle, each tried; changes nothing."""
    return aside(path.plan_id, f"Trying what shortens {path.load}", __name__, "gains_body", path.load)


def gains_body(asked: Desk, plan_id: int, load: str) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    own = opened.ledger.load_named(load)
    second = opened.ledger.second_of(own.decision.id)
    one_carriage = not own.machine.works_at_once and own.where.handed_over  # nothing but the ends to share out
    finder = None if one_carriage else finder_of(own)
    views = [gain_view(one, finder, second) for one in finder.gains()] if finder is not None else []
    if finder is not None:
        views += [both_sides_view(one, finder, second) for one in finder.both_gains()]
    if isinstance(finder, DrumFinder):
        views += [split_view(one, finder, second) for one in finder.split_gains()]
    ends = at_other_end(own, opened.ledger, opened.part, asked.shelf.library)
    views += [at_other_end_view(one, opened) for one in ends]
    pulled = pulled_on(own, opened.ledger, opened.part, asked.shelf.library)
    views += [pulled_view(pulled, load)] if pulled is not None else []
    views.sort(key=lambda one: -one.saves)
    return s.GainsView(gains=views).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/balance/both-ends", responses={200: s.BothEndsOffersView, **BESIDE})
def ends(path: PlanPath) -> Response:
    """Both ends in one load of each lathe with a counter spindle, tried; changes nothing."""
    return aside(path.plan_id, "Trying both ends in one load", __name__, "ends_body")


def ends_body(asked: Desk, plan_id: int, report: Report = silent) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    found = both_ends(opened.ledger, opened.part, asked.shelf.library, report)
    return both_ends_view(found, opened.ledger).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/balance/<load>/best", responses={200: s.FoundCycleView, **BESIDE})
def best(path: s.BalancePath, query: s.BalanceQuery) -> Response:
    """The least cycle over the carriages, searched for some seconds; changes nothing."""
    title = f"Looking for the least cycle of {path.load}"
    return aside(path.plan_id, title, __name__, "best_body", path.load, query.seconds)


def best_body(asked: Desk, plan_id: int, load: str, seconds: float, report: Report = silent) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    finder = finder_of(opened.ledger.load_named(load))
    found = finder.best(seconds, report)
    second = opened.ledger.second_of(finder.load.decision.id)
    return found_view(found, finder.load, second).model_dump_json().encode()
