"""Plans: as they stand, their changes, their papers."""

from __future__ import annotations

from typing import Any
from urllib.parse import quote

from flask import Response, current_app, request
from flask_openapi3 import Tag
from pydantic import BaseModel, Field, RootModel

from lean_ledger.core.basis.plain_text import as_ascii
from lean_ledger.core.changes import Change, read_change
from lean_ledger.core.changes.engraving import Engrave
from lean_ledger.core.files.dxf_drawing import lines_of_dxf
from lean_ledger.core.first.again import BeginAgain
from lean_ledger.core.geometry.measure import Pick, measured
from lean_ledger.core.ledger.counts import counts_of
from lean_ledger.core.ledger.scopes import scopes_of
from lean_ledger.core.papers.lists import (
    OPERATION_HEAD,
    TOOL_HEAD,
    ZERO_HEAD,
    Row,
    as_csv,
    as_xlsx,
    operation_rows,
    shopping_head,
    shopping_rows,
    tool_rows,
    zero_rows,
)
from lean_ledger.core.papers.pdf import sheet_pdf
from lean_ledger.core.papers.projection import view_of
from lean_ledger.core.papers.sheet import JobWords, SetupSheet, setup_sheet
from lean_ledger.core.shop.shopping import shopping_list
from lean_ledger.store import Desk, Opened, Upload
from lean_ledger.store.history import Seen
from lean_ledger.store.kept import Kept
from lean_ledger.web.jobs.endpoints import file_name
from lean_ledger.web.part import views as part_views
from lean_ledger.web.part.schemas import CompareView, DrawingView, MeshView, PickReadings, PickReadingView, PicksBody
from lean_ledger.web.plans import views
from lean_ledger.web.plans.schemas import (
    DrawingQuery,
    GoTo,
    JournalQuery,
    JournalView,
    LoadPath,
    MeshQuery,
    PaperPath,
    PlanPath,
    PlanView,
    Problem,
    RevisionPath,
    SetupPath,
    Stale,
    WriteHeader,
)
from lean_ledger.web.setups.division import beginnings_view, bought_view, division_view, machines_view
from lean_ledger.web.setups.division_schemas import (
    BeginAgainBody,
    BeginningsView,
    BoughtView,
    DivisionView,
    MachinesView,
)
from lean_ledger.web.setups.holds import grips_view
from lean_ledger.web.setups.holds_schemas import GripsView
from lean_ledger.web.setups.layout import counts_view, layout_views, scopes_view
from lean_ledger.web.setups.layout_schemas import CountsView, LayoutsView, ScopesView
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import Text, Uploaded, author, desk, edition
from lean_ledger.web.shared.works import BESIDE, aside, of_plan
from lean_ledger.web.stock.endpoints import issued

blueprint = Described("plans", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="plans")])

WRITES: dict[Any, Any] = {200: PlanView, 404: Problem, 409: Stale, 422: Problem}
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


class ChangeBody(RootModel[Change]):
    """One change; `change` names its kind."""


Body = tuple[str, bytes]  # a plan's state and what is sent of it


def plan_answer(opened: Opened) -> Response:
    """The plan as it stands; made once for all that ask."""
    seen = desk().floor.seen()
    state = opened.state + seen.stamp
    return _plan_response(_bodies().get((opened.plan_id, state), lambda: (state, _body(opened, seen))))


def _bodies() -> Kept[tuple[int, str], Body]:
    found: Kept[tuple[int, str], Body] = current_app.config["PLAN_BODIES"]
    return found


def _body(opened: Opened, seen: Seen) -> bytes:
    return views.plan_view(opened, seen.measured).model_dump_json().encode()


def _plan_response(body: Body) -> Response:
    response = Response(body[1], mimetype="application/json")
    response.set_etag(body[0])
    response.headers["Cache-Control"] = "no-cache"  # kept by the browser, asked for each time
    return response


@blueprint.get("/<int:plan_id>", responses={200: PlanView, 304: None, 404: Problem})
def get_plan(path: PlanPath) -> Response:
    """The plan as it stands. With the ETag of an earlier answer in If-None-Match: 304 where nothing is another."""
    asked = desk()
    seen = asked.floor.seen()
    state = asked.state(path.plan_id) + seen.stamp
    if request.if_none_match.contains(state):
        response = Response(status=304)
        response.set_etag(state)
        return response

    def make() -> Body:
        opened = asked.open(path.plan_id)
        return opened.state + seen.stamp, _body(opened, seen)

    return _plan_response(_bodies().get((path.plan_id, state), make))


@blueprint.get("/<int:plan_id>/journal", responses={200: JournalView, 404: Problem, 422: Problem})
def journal(path: PlanPath, query: JournalQuery) -> Response:
    """The last lines of the plan's journal, or those before one; also of a plan that cannot be computed."""
    part, edition = desk().journal(path.plan_id, query.before, query.count)
    return Response(views.journal_view(part, edition).model_dump_json(), mimetype="application/json")


@blueprint.post("/<int:plan_id>/changes", responses=WRITES)
def change_plan(path: PlanPath, header: WriteHeader, body: ChangeBody) -> Response:
    change = read_change(request.get_json())
    return plan_answer(desk().change(path.plan_id, edition(), change, author()))


class StockModelForm(BaseModel):
    file: Uploaded = Field(description="The model of a casting or forging, laid where the part lies")


@blueprint.post("/<int:plan_id>/stock-model", responses={**WRITES, 413: Problem})
def take_stock_model(path: PlanPath, header: WriteHeader, form: StockModelForm) -> Response:
    """Bring in the model of near-net stock and plan from it."""
    upload = Upload(file_name(form.file), form.file.read())
    desk().files.must_be_one(upload)
    return plan_answer(desk().take_stock_model(path.plan_id, edition(), upload, author()))


class EngravingForm(BaseModel):
    file: Uploaded = Field(description="A DXF drawing; all its lines are engraved")
    face: Text = Field(description="The flat side that they are engraved on")


@blueprint.post("/<int:plan_id>/engraving", responses={**WRITES, 413: Problem})
def engrave(path: PlanPath, header: WriteHeader, form: EngravingForm) -> Response:
    """Engrave the lines of a drawing on a flat side."""
    name = file_name(form.file)
    change = Engrave(form.face, lines=lines_of_dxf(form.file.read(), name), name=name)
    return plan_answer(desk().change(path.plan_id, edition(), change, author()))


@blueprint.post("/<int:plan_id>/undo", responses=WRITES)
def undo(path: PlanPath, header: WriteHeader) -> Response:
    return plan_answer(desk().undo(path.plan_id, edition()))


@blueprint.post("/<int:plan_id>/redo", responses=WRITES)
def redo(path: PlanPath, header: WriteHeader) -> Response:
    return plan_answer(desk().redo(path.plan_id, edition()))


@blueprint.post("/<int:plan_id>/version", responses=WRITES)
def go_to(path: PlanPath, header: WriteHeader, body: GoTo) -> Response:
    return plan_answer(desk().go_to(path.plan_id, edition(), body.seq))


@blueprint.post("/<int:plan_id>/begin-again", responses=WRITES)
def begin_again(path: PlanPath, header: WriteHeader, body: BeginAgainBody) -> Response:
    """Divide, hold and make the part by the rules again, on a machine or on a lathe and a mill."""
    return plan_answer(desk().change(path.plan_id, edition(), BeginAgain(tuple(body.machines)), author()))


@blueprint.get("/<int:plan_id>/mesh", responses={200: MeshView, 404: Problem})
def mesh(path: PlanPath, query: MeshQuery) -> Response:
    body = part_views.mesh_view(desk().part_of(path.plan_id, query.revision)).model_dump_json()
    return Response(body, mimetype="application/json")


@blueprint.post("/<int:plan_id>/measure", responses={200: PickReadings, 404: Problem, 422: Problem})
def measure(path: PlanPath, body: PicksBody) -> Response:
    """Distance, angle, radius or depth between one or two picks; changes nothing."""
    part = desk().part_of(path.plan_id, body.revision)
    readings = measured(part.model.solid, tuple(Pick(pick.face, pick.point) for pick in body.picks))
    rows = [PickReadingView(label=r.label, value=r.value, unit=r.unit, line=r.line) for r in readings]
    return Response(PickReadings(readings=rows).model_dump_json(), mimetype="application/json")


@blueprint.get("/<int:plan_id>/revisions/<revision>", responses={200: CompareView, 404: Problem})
def compare(path: RevisionPath) -> Response:
    """A revision of the part beside the one before it: what became of each feature and face."""
    revised = desk().compared(path.plan_id, path.revision)
    body = part_views.compare_view(revised, desk().open(path.plan_id).plan).model_dump_json()
    return Response(body, mimetype="application/json")


@blueprint.get("/<int:plan_id>/setups/<setup>/drawing", responses={200: DrawingView, 404: Problem})
def drawing(path: SetupPath, query: DrawingQuery) -> Response:
    """The part's lines in a setup's own coordinates."""
    opened = desk().open(path.plan_id)
    opened.plan.setup(path.setup)
    hold = opened.ledger.setup(path.setup).built.hold
    view = view_of(opened.part, hold.frame, query.view)
    body = DrawingView(visible=[list(li) for li in view.visible], hidden=[list(li) for li in view.hidden])
    return Response(body.model_dump_json(), mimetype="application/json")


@blueprint.get("/<int:plan_id>/setups/<setup>/grips", responses={200: GripsView, **BESIDE})
def grips(path: SetupPath) -> Response:
    """All that the shop could hold a setup with, the best first; changes nothing."""
    return of_plan(path.plan_id, f"Trying what could hold {path.setup}", _grips_body, path.setup)


def _grips_body(asked: Desk, plan_id: int, setup: str) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    opened.plan.setup(setup)
    return grips_view(opened, setup, opened.shelf.library).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/layout", responses={200: LayoutsView, 404: Problem})
def layout(path: PlanPath) -> Response:
    """Where the pieces of each load stand, on which offsets, and how many more would go on."""
    opened = desk().open(path.plan_id, with_stock=False)
    body = LayoutsView(loads=layout_views(opened))
    return Response(body.model_dump_json(), mimetype="application/json")


@blueprint.get("/<int:plan_id>/layout/<load>/counts", responses={200: CountsView, **BESIDE})
def counts(path: LoadPath) -> Response:
    """The price and the seconds of each number of pieces that go on, each computed; changes nothing."""
    return of_plan(path.plan_id, f"Computing the counts of {path.load}", _counts_body, path.load)


def _counts_body(asked: Desk, plan_id: int, load: str) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    found = counts_of(opened.ledger, opened.part, opened.shelf.library, load)
    return counts_view(opened, found, load).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/layout/<load>/scopes", responses={200: ScopesView, **BESIDE})
def scopes(path: LoadPath) -> Response:
    """Where each operation of a load runs, and what it saves to run it once over each row; changes nothing."""
    return of_plan(path.plan_id, f"Trying one pass over the rows of {path.load}", _scopes_body, path.load)


def _scopes_body(asked: Desk, plan_id: int, load: str) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    found = scopes_of(opened.ledger, opened.part, opened.shelf.library, load)
    return scopes_view(found, load).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/division", responses={200: DivisionView, **BESIDE})
def division(path: PlanPath) -> Response:
    """The least division of the part around what is locked and asked for; changes nothing."""
    return of_plan(path.plan_id, "Dividing the part", _division_body)


def _division_body(asked: Desk, plan_id: int) -> bytes:
    opened = asked.open(plan_id)
    return division_view(opened, opened.shelf.library).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/machines", responses={200: MachinesView, **BESIDE})
def machines(path: PlanPath) -> Response:
    """The plan on each machine of the shop, computed again, beside how it is now; changes nothing."""
    return aside(path.plan_id, "Trying the machines", __name__, "machines_body")


def machines_body(asked: Desk, plan_id: int) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    return machines_view(opened, opened.shelf.library).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/beginnings", responses={200: BeginningsView, **BESIDE})
def begun_anew(path: PlanPath) -> Response:
    """The part begun anew by the rules on each machine of the shop, the best first; changes nothing."""
    return aside(path.plan_id, "Beginning anew on each machine", __name__, "beginnings_body")


def beginnings_body(asked: Desk, plan_id: int) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    return beginnings_view(opened, opened.shelf.library).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/bought-as", responses={200: BoughtView, **BESIDE})
def bought_as(path: PlanPath) -> Response:
    """The plan from every other form of stock that the list has, however it lies, beside how it is; changes nothing."""
    return aside(path.plan_id, "Comparing what it is bought as", __name__, "bought_body")


def bought_body(asked: Desk, plan_id: int) -> bytes:
    opened = asked.open(plan_id, with_stock=False)
    return bought_view(opened, opened.shelf.library).model_dump_json().encode()


PDF = "application/pdf"
CSV = "text/csv"
PAPERS: dict[Any, Any] = {
    200: {"description": "the paper", "content": {kind: {"schema": {"type": "string"}} for kind in (PDF, CSV, XLSX)}},
    **BESIDE,
}


@blueprint.get("/<int:plan_id>/papers/<paper>", responses=PAPERS)
def papers(path: PaperPath) -> Response:
    """The setup sheet and the lists, issued from the plan as it stands, once its stock is followed."""
    return issued(path.plan_id, lambda opened: _paper(opened, path.paper))


def _paper(opened: Opened, paper: str) -> Response:
    sheet = sheet_of(opened, desk().revised.superseded_by(opened), request.host_url)
    stem = f"{opened.job.number}-v{opened.version.seq}"
    if sheet.superseded_by:
        stem += f"-superseded-by-{sheet.superseded_by}"
    if paper == "setup-sheet.pdf":
        return file_answer(sheet_pdf(sheet), PDF, f"{stem}-setup-sheet.pdf", "inline")
    what, ending = paper.split(".")
    buys = shopping_list(opened.ledger, opened.shelf.library) if what == "shopping" else ()
    tables: dict[str, tuple[tuple[str, ...], list[Row]]] = {
        "operations": (OPERATION_HEAD, operation_rows(sheet)),
        "tools": (TOOL_HEAD, tool_rows(sheet)),
        "zeros": (ZERO_HEAD, zero_rows(opened.ledger, opened.part)),
        "shopping": (shopping_head(opened.plan.quantities), shopping_rows(buys)),
    }
    head, rows = tables[what]
    if ending == "csv":
        return file_answer(as_csv(head, rows), "text/csv; charset=utf-8", f"{stem}-{what}.csv", "attachment")
    return file_answer(as_xlsx(what, head, rows, sheet.date), XLSX, f"{stem}-{what}.xlsx", "attachment")


def sheet_of(opened: Opened, superseded: str = "", site: str = "") -> SetupSheet:
    """`superseded`: the revision that was taken over since; `site`: where its pages at the machines are."""
    address = f"{site.rstrip('/')}/floor/{opened.plan_id}" if site else ""
    job = JobWords(opened.job.number, opened.job.name, opened.plan.revision, opened.job.customer, superseded, address)
    return setup_sheet(job, opened.ledger, opened.part, opened.version.seq, opened.version.at.date())


def file_answer(content: bytes, kind: str, name: str, disposition: str) -> Response:
    """A file under a name of any letters: in plain ASCII, and in full beside it (RFC 6266)."""
    name = "".join("-" if c in '/\\:*?"<>|' else c for c in name)
    plain = as_ascii(name)
    response = Response(content, mimetype=None, content_type=kind)
    more = {} if plain == name else {"filename*": f"UTF-8''{quote(name, safe='')}"}
    response.headers.set("Content-Disposition", disposition, filename=plain, **more)
    return response
