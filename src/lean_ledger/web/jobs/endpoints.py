"""Jobs: the list, a new one from a file, its own words."""

from __future__ import annotations

import re
from datetime import date
from typing import Any

from flask import Response, current_app
from flask_openapi3 import FileStorage, Tag
from pydantic import BaseModel, Field

from lean_ledger.core.basis.bounds import Bounds, read_decimal
from lean_ledger.core.basis.errors import FileRefused, PlanError
from lean_ledger.store import JobNew, JobQuery
from lean_ledger.store.files import FLAT_ENDINGS, STEP_ENDINGS
from lean_ledger.web.plans import views
from lean_ledger.web.plans.schemas import Created, JobEdit, JobList, JobPath, JobsQuery, PicturePath, Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import Text, Uploaded, author, desk, typed

blueprint = Described("jobs", __name__, url_prefix="/api/jobs", abp_tags=[Tag(name="jobs")])


THICKNESS = Bounds(0.05, 500)  # mm, of flat work


class JobForm(BaseModel):
    file: Uploaded = Field(description="A STEP file, .step or .stp, or a DXF drawing of flat work")
    material: str = "al-6082"
    quantities: Text = Field("10", description="Whole numbers, separated by commas or blanks")
    number: Text = Field("", max_length=40)
    name: Text = Field("", max_length=120)
    customer: Text = Field("", max_length=120)
    due: Text = Field("", description="A date, or nothing")
    solid: int | None = Field(None, ge=0, le=100_000, description="Which of the file's solids, from 0")
    thickness: Text = Field("", description="Of flat work, mm")
    machine: Text = Field("", description="Id of the machine that it begins on; the one of the least price by itself")
    size_meant: bool = Field(default=False, description="The part is of an odd size, and that is meant")


PICTURE: dict[Any, Any] = {
    200: {"description": "the drawing", "content": {"image/svg+xml": {"schema": {"type": "string"}}}},
    404: Problem,
}


@blueprint.get("", responses={200: JobList, 422: Problem})
def list_jobs(query: JobsQuery) -> Response:
    """A page of the jobs, from what was kept with their plans: nothing is computed for it."""
    asked = JobQuery(**dict(query))
    body = views.job_list(desk().jobs(asked), asked)
    return Response(body.model_dump_json(), mimetype="application/json")


@blueprint.get("/pictures/<file>/<int:solid>", responses=PICTURE)
def picture(path: PicturePath) -> Response:
    """A part's small drawing: it never changes under its address."""
    response = Response(desk().thumb(path.file, path.solid), mimetype="image/svg+xml")
    response.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


@blueprint.post("", responses={201: Created, 413: Problem, 422: Problem})
def add_job(form: JobForm) -> Response:
    """Reads the file, makes the quick plan and keeps both. A file that cannot be used is refused with the reason."""
    job = job_of(form)
    if form.solid is None:
        desk().files.must_be_one(job.upload)
    plan_id = desk().add_job(job)
    current_app.config["FOLLOW"](plan_id)
    return Response(Created(plan_id=plan_id).model_dump_json(), 201, mimetype="application/json")


def job_of(form: JobForm) -> JobNew:
    return JobNew(
        file_name=file_name(form.file),
        content=form.file.read(),
        material=form.material,
        quantities=read_quantities(typed("quantities", "10")),
        number=typed("number"),
        name=typed("name"),
        customer=typed("customer"),
        due=_date(typed("due")),
        solid=form.solid or 0,
        thickness=read_thickness(typed("thickness")),
        author=author(),
        machine=typed("machine"),
        size_meant=form.size_meant,
    )


def file_name(file: FileStorage) -> str:
    """The upload's name. Raises FileRefused for a kind of file that is not read."""
    name = file.filename or "part.step"
    if not name.lower().endswith((*STEP_ENDINGS, *FLAT_ENDINGS)):
        raise FileRefused("file-not-step", "only .step, .stp and .dxf files are read", name)
    return name


def read_thickness(text: str) -> float | None:
    if not text.strip():
        return None
    value = read_decimal(text, lambda code, words: PlanError("thickness", f"the thickness {words}, such as 6"))
    if not THICKNESS.hold(value):
        raise PlanError("thickness", f"the thickness is {value} mm; it must be {THICKNESS.words}")
    return float(value)


@blueprint.patch("/<int:job_id>", responses={204: None, 404: Problem, 422: Problem})
def edit_job(path: JobPath, body: JobEdit) -> Response:
    given = {name: getattr(body, name) for name in body.model_fields_set}
    for name, value in given.items():
        if value is None and name not in ("due", "ordered"):
            raise PlanError("missing", f"{name} must not be empty")
    desk().set_job(path.job_id, **given)
    return Response(status=204)


def read_quantities(text: str) -> tuple[int, ...]:
    """'10, 50, 250' → (10, 50, 250). Raises PlanError that names the word which is no quantity."""
    words = [word for word in re.split(r"[\s,;]+", text.strip()) if word]
    for word in words:
        if not re.fullmatch(r"[1-9]\d{0,6}", word):
            raise PlanError("quantities", f"“{word}” is no quantity; give whole numbers above 0, such as 10, 50, 250")
    if not words:
        raise PlanError("quantities", "at least one quantity is needed, such as 10, 50, 250")
    if len(words) > MOST_QUANTITIES:
        raise PlanError("quantities", f"{len(words)} quantities; at most {MOST_QUANTITIES} are priced side by side")
    return tuple(int(word) for word in words)


MOST_QUANTITIES = 12


def _date(text: str) -> date | None:
    if not text.strip():
        return None
    try:
        return date.fromisoformat(text.strip())
    except ValueError:
        raise PlanError("due", f"“{text}” is no date; give one like 2026-12-24") from None
