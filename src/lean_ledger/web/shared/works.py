"""Work that takes long: how far it is, and stopping it. The address that was asked gives its answer once it is done."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from typing import Any, Literal

from flask import Response, current_app
from flask_openapi3 import Tag
from pydantic import BaseModel, Field

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.host import Cancelled
from lean_ledger.core.geometry.progress import Report
from lean_ledger.store.aside import Aside
from lean_ledger.tasks.works import Make, Work, Works
from lean_ledger.web.plans.schemas import Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import desk

PATIENCE = 0.08  # s that a request waits by itself for what it asked for
FILE_PATIENCE = 5.0  # s for a file, that a link asks for: nobody asks a second time

blueprint = Described("works", __name__, url_prefix="/api/works", abp_tags=[Tag(name="works")])


class WorkView(BaseModel):
    """Work under way beside the requests. Ask its own address until it has ended, then the one that was asked again."""

    id: str
    title: str
    state: Literal["waiting", "working", "done", "failed", "cancelled"]
    place: int = Field(description="in line; 0 once it has begun")
    stage: str
    share: float


class WorkPath(BaseModel):
    work: str


#: What an address answers whose answer is made beside the requests.
BESIDE: dict[Any, Any] = {202: WorkView, 404: Problem, 422: Problem}


@blueprint.get("/<work>", responses={200: WorkView, 404: Problem})
def get_work(path: WorkPath) -> Response:
    return _answer(_works().get(path.work), 200)


@blueprint.delete("/<work>", responses={200: WorkView, 404: Problem})
def cancel_work(path: WorkPath) -> Response:
    return _answer(_works().cancel(path.work), 200)


def beside(key: Hashable, title: str, lane: str, make: Make) -> Response:
    """The JSON that `make` gives where it is made already; else 202 with the work that makes it."""
    found = _works().ask(key, title, lane, make, PATIENCE)
    if isinstance(found, Work):
        return _answer(found, 202)
    return Response(found, mimetype="application/json")


def until(key: Hashable, title: str, lane: str, make: Make) -> Response | None:
    """None once a work is done; 202 with the work while it is under way, after some seconds of waiting for it."""
    found = _works().ask(key, title, lane, make, FILE_PATIENCE)
    return _answer(found, 202) if isinstance(found, Work) else None


def aside(plan_id: int, title: str, module: str, function: str, *args: Any) -> Response:
    """As `beside`, computed for a plan as it stands in a process of its own: `function(desk, plan_id, *args)`."""
    host: Aside = current_app.config["ASIDE"]
    made_by = desk().made_by

    def make(report: Report, cancelled: Cancelled) -> bytes:
        found: bytes = host.ask(module, function, plan_id, *args, made_by=made_by, report=report, cancelled=cancelled)
        return found

    return beside((function, desk().base_state(plan_id), plan_id, *args), title, "computing", make)


def of_plan(plan_id: int, title: str, answer: Callable[..., bytes], *args: Any) -> Response:
    """As `aside`, here, where the plan is evaluated already: for what takes a moment as a rule."""
    asked = desk()

    def make(_report: Report, _cancelled: Cancelled) -> bytes:
        return answer(asked, plan_id, *args)

    return beside((answer.__name__, asked.state(plan_id), plan_id, *args), title, "looking", make)


def _answer(work: Work | None, status: int) -> Response:
    if work is None:
        raise PlanError("no-such-work", "there is no such work any more; ask for its answer again")
    view = WorkView(id=work.id, title=work.title, state=work.state.value, place=work.place, stage=work.stage,
                    share=work.share)  # fmt: skip
    response = Response(view.model_dump_json(), status, mimetype="application/json")
    response.headers["Location"] = f"/api/works/{work.id}"
    return response


def _works() -> Works:
    found: Works = current_app.config["WORKS"]
    return found
