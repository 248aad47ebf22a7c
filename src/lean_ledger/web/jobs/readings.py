"""Files read in the background: start, look, choose a solid, stop."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import Tag
from pydantic import BaseModel, Field

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.store import RevisionNew, Upload
from lean_ledger.tasks import Reading
from lean_ledger.web.jobs.endpoints import JobForm, file_name, job_of, read_thickness
from lean_ledger.web.plans.schemas import Problem, ReadingPath, ReadingView, SolidChoice, SolidView
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import Text, Uploaded, author, readings, typed

blueprint = Described("readings", __name__, url_prefix="/api/readings", abp_tags=[Tag(name="readings")])


class RevisionForm(BaseModel):
    file: Uploaded = Field(description="The next revision's model")
    job_id: int = Field(ge=1)
    thickness: Text = Field("", description="Of flat work, mm")


@blueprint.post("/job", responses={202: ReadingView, 413: Problem, 422: Problem})
def read_job(form: JobForm) -> Response:
    """Begin to read a new job's part; the job and its quick plan are there when the reading is done."""
    return _answer(readings().start(job_of(form), solid_chosen=form.solid is not None), 202)


@blueprint.post("/revision", responses={202: ReadingView, 413: Problem, 422: Problem})
def read_revision(form: RevisionForm) -> Response:
    """Begin to read the next revision of a job's part. No plan changes by that."""
    upload = Upload(file_name(form.file), form.file.read(), 0, read_thickness(typed("thickness")))
    return _answer(readings().start(RevisionNew(form.job_id, upload, author())), 202)


@blueprint.get("/<reading>", responses={200: ReadingView, 404: Problem})
def get_reading(path: ReadingPath) -> Response:
    return _answer(readings().get(path.reading))


@blueprint.delete("/<reading>", responses={200: ReadingView, 404: Problem})
def cancel_reading(path: ReadingPath) -> Response:
    return _answer(readings().cancel(path.reading))


@blueprint.post("/<reading>/solid", responses={200: ReadingView, 404: Problem, 422: Problem})
def choose_solid(path: ReadingPath, body: SolidChoice) -> Response:
    return _answer(readings().choose(path.reading, body.solid))


@blueprint.post("/<reading>/size", responses={200: ReadingView, 404: Problem, 422: Problem})
def mean_size(path: ReadingPath) -> Response:
    """Go on with a part of an odd size: the planner means it."""
    return _answer(readings().mean_it(path.reading))


def _answer(reading: Reading | None, status: int = 200) -> Response:
    if reading is None:
        raise PlanError("no-such-reading", "there is no such reading; upload the file again")
    view = ReadingView(
        id=reading.id,
        file_name=reading.file_name,
        state=reading.state.value,
        stage=reading.stage,
        share=reading.share,
        error=reading.error,
        question=reading.question,
        solids=[SolidView(name=one.name, size=one.size, volume=one.volume) for one in reading.solids],
        plan_id=reading.plan_id,
        revision=reading.revision,
    )
    return Response(view.model_dump_json(), status, mimetype="application/json")
