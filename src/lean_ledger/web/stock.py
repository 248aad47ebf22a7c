"""The stock of a plan: its way through the operations, its shape after any of them, its height at a point."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import APIBlueprint, Tag

from lean_ledger.core.stock.course import course_of
from lean_ledger.web.requests import desk
from lean_ledger.web.schemas import PlanPath, Problem
from lean_ledger.web.stock_schemas import HeightQuestion, HeightView, StockPath, StockSolidView, StockView
from lean_ledger.web.stock_views import solid_view, stock_view

blueprint = APIBlueprint("stock", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="stock")])


@blueprint.get("/<int:plan_id>/stock", responses={200: StockView, 404: Problem})
def stock(path: PlanPath) -> Response:
    """What each operation takes off, what stays on the part and what is cut into it. Takes seconds at first."""
    body = stock_view(desk().follow_stock(path.plan_id)).model_dump_json()
    return Response(body, mimetype="application/json")


@blueprint.get("/<int:plan_id>/stock/<int:count>", responses={200: StockSolidView, 404: Problem, 422: Problem})
def stock_after(path: StockPath) -> Response:
    """The stock after the first `count` operations."""
    opened = desk().open(path.plan_id)
    mesh = desk().stocks.after(course_of(opened.part, opened.ledger), path.count)
    return Response(solid_view(mesh).model_dump_json(), mimetype="application/json")


@blueprint.post("/<int:plan_id>/stock/<int:count>/height", responses={200: HeightView, 404: Problem, 422: Problem})
def height(path: StockPath, body: HeightQuestion) -> Response:
    """How much stock stands there along a direction; changes nothing."""
    opened = desk().open(path.plan_id)
    found = desk().stocks.height(course_of(opened.part, opened.ledger), path.count, body.point, body.along)
    return Response(HeightView(height=round(found, 4)).model_dump_json(), mimetype="application/json")
