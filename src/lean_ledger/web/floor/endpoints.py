"""The floor: the page at a machine, what came back of a plan, what was measured of the machines."""

from __future__ import annotations

import base64
import binascii
from typing import Any

from flask import Response, request
from flask_openapi3 import Tag

from lean_ledger.core.floor.book import Event
from lean_ledger.web.floor import schemas as s
from lean_ledger.web.floor.views import factors_view, floor_view, plan_floor_view
from lean_ledger.web.plans.schemas import PlanPath, Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import author, desk

blueprint = Described("floor", __name__, url_prefix="/api", abp_tags=[Tag(name="floor")])

ASKED: dict[Any, Any] = {404: Problem, 422: Problem}
PICTURE: dict[Any, Any] = {
    200: {"description": "the photo", "content": {"image/jpeg": {"schema": {"type": "string", "format": "binary"}}}},
    **ASKED,
}


@blueprint.get("/floor/<int:plan_id>/<setup>", responses={200: s.FloorView, **ASKED})
def at_machine(path: s.FloorPath) -> Response:
    """A load's steps at the machine, and what was ticked of them."""
    body = floor_view(desk().floor.at_machine(path.plan_id, path.setup))
    return Response(body.model_dump_json(), mimetype="application/json")


@blueprint.post("/floor/<int:plan_id>/<setup>/events", responses={200: s.EventsTaken, **ASKED})
def take_events(path: s.FloorPath, body: s.EventsBody) -> Response:
    """What a device noted, each under a token of its own: one that was sent before is not taken again."""
    events, photos = [], {}
    for one in body.events:
        events.append(Event(one.token, one.kind, one.at, "", one.step, one.seconds, one.count, one.reason,
                            one.text.strip(), "", one.of))  # fmt: skip
        photos[one.token] = _picture(one.picture)
    taken = desk().floor.take(path.plan_id, path.setup, events, photos, author())
    found = s.EventsTaken(
        new=taken.new,
        refused=[s.RefusedEvent(token=token, why=why) for token, why in taken.refused],
        floor=floor_view(desk().floor.at_machine(path.plan_id, path.setup)),
    )
    return Response(found.model_dump_json(), mimetype="application/json")


@blueprint.get("/floor/<int:plan_id>/photos/<hash>", responses=PICTURE)
def photo(path: s.FloorPhotoPath) -> Response:
    """A photo that was taken at the machine."""
    content = desk().floor.photo(path.plan_id, path.hash)
    kind = "image/png" if content.startswith(b"\x89PNG") else "image/jpeg"
    return Response(content, mimetype=kind, headers={"Cache-Control": "private, max-age=31536000, immutable"})


@blueprint.get("/plans/<int:plan_id>/floor", responses={200: s.PlanFloorView, **ASKED})
def plan_floor(path: PlanPath) -> Response:
    """Estimate beside actual of a plan, and its loads' pages."""
    floor, plan = desk().floor, desk().open(path.plan_id)
    there = [floor.at_machine(path.plan_id, load.load.setups[0]) for load in plan.ledger.loads]
    body = plan_floor_view(there, floor.runs(path.plan_id), request.host_url.rstrip("/"))
    return Response(body.model_dump_json(), mimetype="application/json")


@blueprint.get("/shop/factors", responses={200: s.FactorsView})
def factors() -> Response:
    """What was measured of each machine and category, and which of it estimates are taken times."""
    return _factors()


@blueprint.put("/shop/factors/<machine>/<category>", responses={200: s.FactorsView, **ASKED})
def use_factor(path: s.FactorPath) -> Response:
    """Take coming estimates times what was measured, as it stands now; every plan is computed with it."""
    desk().floor.use_factor(path.machine, path.category, author())
    return _factors()


@blueprint.delete("/shop/factors/<machine>/<category>", responses={200: s.FactorsView, **ASKED})
def drop_factor(path: s.FactorPath) -> Response:
    """Take coming estimates by the machine's data again."""
    desk().drop_own("factor", f"{path.machine} {path.category}")
    return _factors()


def _factors() -> Response:
    body = factors_view(desk().floor.seen().factors, desk().library)
    return Response(body.model_dump_json(), mimetype="application/json")


def _picture(text: str) -> bytes:
    """What is no base64 is no picture either, and is refused as such."""
    try:
        return base64.b64decode(text, validate=True)
    except (binascii.Error, ValueError):
        return b""
