"""The programs of a plan, the package for the floor, and the stand-in that takes it there."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from flask import Response, request
from flask_openapi3 import Tag
from pydantic import BaseModel, Field

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.host import Cancelled
from lean_ledger.core.geometry.progress import Report
from lean_ledger.core.papers.package import program_package
from lean_ledger.core.papers.pdf import sheet_pdf
from lean_ledger.core.program.checked import Checked, checked_part
from lean_ledger.core.program.joined import joined_programs
from lean_ledger.standins.dnc import received
from lean_ledger.store import Desk, Opened, Upload
from lean_ledger.store.trials import try_program
from lean_ledger.web.plans.endpoints import WRITES, file_answer, plan_answer, sheet_of
from lean_ledger.web.plans.schemas import PlanPath, Problem, WriteHeader
from lean_ledger.web.program.schemas import (
    MachineProgramPath,
    PartProgramView,
    PartQuery,
    ProgramPath,
    ProgramsView,
    RunTimesView,
    SendQuery,
    SentView,
    TrialMetView,
    TrialPath,
    TrialUseView,
    TrialView,
    TroubleView,
    WhichQuery,
)
from lean_ledger.web.program.views import checked_of, part_view, programs_view, selection_of
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import Text, Uploaded, author, desk, edition
from lean_ledger.web.shared.works import BESIDE, beside
from lean_ledger.web.stock.endpoints import issued

blueprint = Described("program", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="program")])

READS: dict[Any, Any] = {404: Problem, 422: Problem}


@blueprint.get("/<int:plan_id>/program", responses={200: ProgramsView, **READS})
def program(path: PlanPath) -> Response:
    """Each setup's program, run on the simulated machine beside the ledger."""
    body = programs_view(desk().open(path.plan_id, with_stock=False)).model_dump_json()
    return Response(body, mimetype="application/json")


def _file(kind: str, words: str) -> dict[Any, Any]:
    return {200: {"description": words, "content": {kind: {"schema": {"type": "string"}}}}, **BESIDE}


TEXT = _file("text/plain", "a program")


@blueprint.get("/<int:plan_id>/program/<setup>/text", responses=TEXT)
def text(path: ProgramPath, query: WhichQuery) -> Response:
    """The program of a setup as a file, once the plan's stock is followed."""
    return issued(path.plan_id, lambda opened: _program_file(opened, path.setup, query.which))


def _program_file(opened: Opened, setup: str, which: int) -> Response:
    opened.plan.setup(setup)
    own = [c for c in checked_of(opened) if setup in c.program.setups]
    if not own:
        raise PlanError("no-program", f"setup {setup} has no operation to write a program for", setup)
    one = _one_of(own, which, setup)
    name = f"{opened.job.number}-{setup}-{one.program.file}"
    return file_answer(one.program.text.encode("ascii"), "text/plain; charset=us-ascii", name, "attachment")


@blueprint.get("/<int:plan_id>/program/<setup>/part", responses={200: PartProgramView, **READS})
def part(path: ProgramPath, query: PartQuery) -> Response:
    """A part of a load's program on the simulated machine: the plan stays as it is."""
    opened = desk().open(path.plan_id, with_stock=False)
    view = part_view(_part_of(opened, path.setup, query), selection_of(query))
    return Response(view.model_dump_json(), mimetype="application/json")


@blueprint.get("/<int:plan_id>/program/<setup>/part/text", responses=TEXT)
def part_text(path: ProgramPath, query: PartQuery) -> Response:
    """That program as a file, once the plan's stock is followed."""
    return issued(path.plan_id, lambda opened: _part_file(opened, path.setup, query))


def _one_of(programs: Sequence[Checked], which: int, setup: str) -> Checked:
    if which > len(programs):
        raise PlanError("no-program", f"setup {setup} has no program {which}; it has {len(programs)}", setup)
    return programs[which - 1]


def _part_of(opened: Opened, setup: str, query: PartQuery) -> tuple[Checked, ...]:
    load = opened.plan.load_of(setup)
    words = f"{opened.job.number} {opened.job.name}"
    return checked_part(opened.ledger, opened.part, words, load.id, selection_of(query))


def _part_file(opened: Opened, setup: str, query: PartQuery) -> Response:
    one = _one_of(_part_of(opened, setup, query), query.which, setup)
    name = f"{opened.job.number}-part-{one.program.file}"
    return file_answer(one.program.text.encode("ascii"), "text/plain; charset=us-ascii", name, "attachment")


@blueprint.get("/<int:plan_id>/program/machine/<machine>/text", responses=TEXT)
def machine_text(path: MachineProgramPath) -> Response:
    """The programs of all setups that a machine makes, as one file, once the plan's stock is followed."""
    return issued(path.plan_id, lambda opened: _machine_file(opened, path.machine))


def _machine_file(opened: Opened, machine: str) -> Response:
    one = next((j for j in joined_programs(checked_of(opened)) if j.machine.id == machine), None)
    if one is None or one.refused:
        why = one.refused if one is not None else "it does not make more than one setup of this plan"
        raise PlanError("no-one-file", f"there is no one file for {machine}: {why}", machine)
    name = f"{opened.job.number}-{'-'.join(one.setups)}-{one.file}"
    return file_answer(one.text.encode("ascii"), "text/plain; charset=us-ascii", name, "attachment")


@blueprint.get("/<int:plan_id>/program/package", responses=_file("application/zip", "the package"))
def package(path: PlanPath) -> Response:
    """Programs, offsets, lists, sheet and manifest in one zip, once the plan's stock is followed."""
    return issued(path.plan_id, _package_file)


def _package_file(opened: Opened) -> Response:
    name = f"{opened.job.number}-v{opened.version.seq}-programs.zip"
    return file_answer(_package(opened), "application/zip", name, "attachment")


class ProgramForm(BaseModel):
    file: Uploaded = Field(description="A program in ISO 6983 words")
    operation: Text = Field(default="", description="The operation that it makes; empty for the whole setup")


@blueprint.post("/<int:plan_id>/program/<setup>/attached", responses={**WRITES, 413: Problem})
def attach(path: ProgramPath, header: WriteHeader, form: ProgramForm) -> Response:
    """Time a setup, or one operation of it, by a program from elsewhere."""
    upload = Upload(form.file.filename or "program.nc", form.file.read())
    return plan_answer(desk().take_program(path.plan_id, edition(), path.setup, form.operation, upload, author()))


@blueprint.get("/<int:plan_id>/program/<setup>/trial/<which>", responses={200: TrialView, **BESIDE})
def trial(path: TrialPath) -> Response:
    """A setup's program followed through the stock: what it takes off, and what it runs into. Takes seconds."""
    asked = desk()

    def make(report: Report, cancelled: Cancelled) -> bytes:
        return _tried(asked, path, report, cancelled)

    key = ("trial", path.plan_id, asked.base_state(path.plan_id), path.setup, path.which)
    return beside(key, f"Trying the program of {path.setup}", "trials", make)


def _tried(asked: Desk, path: TrialPath, report: Report, cancelled: Cancelled) -> bytes:
    tried, result = try_program(asked, path.plan_id, path.setup, path.which, report, cancelled)
    view = TrialView(
        setup=path.setup, which=path.which, seconds=tried.seconds, removed=sum(result.removed), planned=result.planned,
        uses=[
            TrialUseView(path=use.path, tool=use.number, description=use.tool.description, line=use.line,
                         seconds=use.seconds, removed=removed)
            for use, removed in zip(tried.uses, result.removed, strict=True)
        ],
        met=[TrialMetView(path=m.path, line=m.line, tool=m.tool, how=m.how, what=m.what, amount=m.amount)
             for m in result.met],
        troubles=[TroubleView(code=t.code, line=t.line, operation="", title=t.title, why=t.why)
                  for t in tried.troubles],
    )  # fmt: skip
    return view.model_dump_json().encode()


@blueprint.post("/<int:plan_id>/program/send", responses={200: SentView, **BESIDE})
def send(path: PlanPath, query: SendQuery) -> Response:
    """Send the package to the machines' stand-in; it answers with the run times of so many cycles, which are kept."""
    return issued(path.plan_id, lambda opened: _sent(opened, query.runs))


def _sent(opened: Opened, count: int) -> Response:
    machines = {m.id: m for m in opened.shelf.library.machines}
    floor = desk().floor
    seed = 1000 * opened.version.seq + floor.run_count(opened.plan_id)  # each sending runs otherwise
    runs = received(_package(opened), machines, seed, count)
    floor.take_runs(opened.plan_id, opened.version.seq, runs)
    rows = [
        RunTimesView(
            setup=r.setup, program=r.program, machine=r.machine, planned=r.planned, seconds=list(r.seconds),
            mean=r.mean, over=r.over,
        )
        for r in runs
    ]  # fmt: skip
    return Response(SentView(runs=rows).model_dump_json(), mimetype="application/json")


def _package(opened: Opened) -> bytes:
    sheet = sheet_of(opened, desk().revised.superseded_by(opened), request.host_url)
    by_machine = opened.plan.issued_by == "machine"
    return program_package(sheet, sheet_pdf(sheet), checked_of(opened), by_machine=by_machine)
