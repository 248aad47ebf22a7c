"""What a revision that was taken over costs beside the one before, and the note about it for the customer."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import Tag

from lean_ledger.core.revised.note import NoteWords, change_note, note_pdf
from lean_ledger.store import Desk
from lean_ledger.store.revised import RevisionPrice
from lean_ledger.web.alternatives import revision_schemas as s
from lean_ledger.web.plans.endpoints import PDF, file_answer
from lean_ledger.web.plans.schemas import PlanPath, Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import desk
from lean_ledger.web.shared.works import BESIDE, of_plan

blueprint = Described("revision", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="revision")])

NOTE: dict[Any, Any] = {
    200: {"description": "the note", "content": {PDF: {"schema": {"type": "string"}}}}, 404: Problem, 422: Problem,
}  # fmt: skip


@blueprint.get("/<int:plan_id>/revision-price", responses={200: s.RevisionPriceView, **BESIDE})
def revision_price(path: PlanPath) -> Response:
    """The plan as it last made the revision before, beside the plan as it stands: seconds, money, programs."""
    return of_plan(path.plan_id, "Pricing the revision", _body)


def _body(asked: Desk, plan_id: int) -> bytes:
    return _view(asked.revised.price(plan_id)).model_dump_json().encode()


@blueprint.get("/<int:plan_id>/papers/change-note.pdf", responses=NOTE)
def note(path: PlanPath) -> Response:
    """For the customer: what changed on the part and what that does to the price."""
    found = desk().revised.price(path.plan_id)
    opened = found.opened
    job, version = opened.job, opened.version
    words = NoteWords(job.number, job.name, job.customer, version.seq, version.at.date())
    content = note_pdf(change_note(found.priced, words))
    return file_answer(content, PDF, f"{job.number}-v{version.seq}-change-note.pdf", "inline")


def _view(found: RevisionPrice) -> s.RevisionPriceView:
    priced = found.priced
    names = {op.id: op.name for op in found.opened.ledger.operations}
    return s.RevisionPriceView(
        before=priced.before,
        after=priced.after,
        line=found.line,
        features=[
            s.FeatureCostView(feature=one.feature, title=one.title, became=one.became.value, words=one.words,
                              before=one.before, after=one.after, each=one.each)
            for one in priced.features
        ],
        rest=list(priced.rest),
        setups=[
            s.SetupCostView(setup=one.setup, seconds=list(one.seconds),
                            hours=[None if h is None else float(h) for h in one.hours], each=list(one.each))
            for one in priced.setups
        ],
        prices=[
            s.RevisedPriceView(
                quantity=now.quantity, before=was.each, after=now.each,
                lines=[s.LineChange(line=line, each=each) for line, each in priced.by_line(k)],
            )
            for k, (was, now) in enumerate(priced.prices)
        ],
        once=[s.OnceView(what=one.what, how=one.how, amount=one.amount) for one in priced.once],
        paid_once=priced.paid_once,
        fixtures=found.opened.plan.one_off.fixtures,
        on_shelf=found.opened.plan.one_off.on_shelf,
        programs=[
            s.SubprogramView(program=one.program, operation=one.operation, name=names.get(one.operation, ""),
                             number=one.number, stays=one.stays)
            for one in found.programs
        ],
    )  # fmt: skip
