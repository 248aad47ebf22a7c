"""The stock of a plan: its way through the operations, its shape after any of them, its height at a point."""

from __future__ import annotations

from collections.abc import Callable

from flask import Response
from flask_openapi3 import Tag

from lean_ledger.core.followed.course import course_of
from lean_ledger.core.geometry.host import Cancelled, never
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.store import Desk, Opened
from lean_ledger.tasks.works import Make, Works
from lean_ledger.web.plans.schemas import PlanPath
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import desk
from lean_ledger.web.shared.works import BESIDE, beside, until
from lean_ledger.web.stock.schemas import HeightQuestion, HeightView, StockPath, StockSolidView, StockView
from lean_ledger.web.stock.views import solid_view, stock_view

FOLLOWING = "Following the stock"

blueprint = Described("stock", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="stock")])


@blueprint.get("/<int:plan_id>/stock", responses={200: StockView, **BESIDE})
def stock(path: PlanPath) -> Response:
    """What each operation takes off, what stays on the part and what is cut into it. Takes seconds at first."""
    asked = desk()
    if asked.recalled(path.plan_id).followed is not None:  # no reason to stand in line
        return Response(_followed_view(asked, path.plan_id), mimetype="application/json")
    return _beside("stock", path.plan_id, FOLLOWING, "following", _following(asked, path.plan_id))


def begin_following(asked: Desk, works: Works, plan_id: int) -> None:
    """Right after a plan is made, whether somebody looks at it or not."""
    if asked.recalled(plan_id).followed is not None:
        asked.follow_stock(plan_id)  # the list is to say so
        return
    works.ask(("stock", plan_id, asked.base_state(plan_id)), FOLLOWING, "following", _following(asked, plan_id))


def issued(plan_id: int, make: Callable[[Opened], Response]) -> Response:
    """What `make` issues from a plan whose stock is followed; 202 with the work that follows it where that takes long.

    Papers, programs and packages are issued through here only.
    """
    asked = desk()
    if asked.recalled(plan_id).followed is not None:
        return make(asked.issued(plan_id))
    key = ("stock", plan_id, asked.base_state(plan_id))
    waiting = until(key, FOLLOWING, "following", _following(asked, plan_id))
    return waiting or make(asked.issued(plan_id))


def _followed_view(
    asked: Desk, plan_id: int, report: Report = silent, cancelled: Cancelled = never
) -> bytes:  # fmt: skip
    return stock_view(asked.follow_stock(plan_id, report, cancelled)).model_dump_json().encode()


def _following(asked: Desk, plan_id: int) -> Make:
    def make(report: Report, cancelled: Cancelled) -> bytes:
        return _followed_view(asked, plan_id, report, cancelled)

    return make


@blueprint.get("/<int:plan_id>/stock/<int:count>", responses={200: StockSolidView, **BESIDE})
def stock_after(path: StockPath) -> Response:
    """The stock after the first `count` operations."""
    asked = desk()

    def make(report: Report, cancelled: Cancelled) -> bytes:
        opened = asked.open(path.plan_id, with_stock=False)
        mesh = asked.stocks.after(course_of(opened.part, opened.ledger), path.count, report, cancelled)
        return solid_view(mesh).model_dump_json().encode()

    return _beside(f"after {path.count}", path.plan_id, "Drawing the stock", "looking", make)


@blueprint.post("/<int:plan_id>/stock/<int:count>/height", responses={200: HeightView, **BESIDE})
def height(path: StockPath, body: HeightQuestion) -> Response:
    """How much stock stands there along a direction; changes nothing."""
    asked = desk()

    def make(_report: Report, _cancelled: Cancelled) -> bytes:
        opened = asked.open(path.plan_id, with_stock=False)
        found = asked.stocks.height(course_of(opened.part, opened.ledger), path.count, body.point, body.along)
        return HeightView(height=round(found, 4)).model_dump_json().encode()

    what = f"height {path.count} {body.point} {body.along}"
    return _beside(what, path.plan_id, "Measuring the stock", "looking", make)


def _beside(what: str, plan_id: int, title: str, lane: str, make: Make) -> Response:
    return beside((what, plan_id, desk().base_state(plan_id)), title, lane, make)
