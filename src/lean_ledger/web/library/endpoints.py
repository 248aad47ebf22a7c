"""The shop's library, as far as screens choose from it."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import Tag

from lean_ledger.library.types import Library
from lean_ledger.store.opened import STATUSES
from lean_ledger.web.library import schemas as s
from lean_ledger.web.library.schemas import LibraryView
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.figures import tool_view
from lean_ledger.web.shared.requests import desk

blueprint = Described("library", __name__, url_prefix="/api/library", abp_tags=[Tag(name="library")])


@blueprint.get("", responses={200: LibraryView})
def get_library() -> Response:
    return Response(library_view(desk().library).model_dump_json(), mimetype="application/json")


def library_view(library: Library) -> s.LibraryView:
    return s.LibraryView(
        machines=[
            s.MachineChoice(
                id=m.id, name=m.name, rate=m.rate, max_rpm=m.spindle.max_rpm, power=m.spindle.power,
                tool_change=m.tool_change, kind="lathe" if m.turns_work else "mill", axes=m.axes,
            )
            for m in library.machines
        ],
        fixtures=[s.FixtureChoice(id=f.id, name=f.name, kind=f.kind, mount=f.mount) for f in library.fixtures],
        materials=[
            s.MaterialChoice(id=m.id, name=m.name, density=m.density, price_per_kg=m.price_per_kg)
            for m in library.materials
        ],
        threads=[
            s.ThreadChoice(name=t.name, series=t.series, major=t.major, pitch=t.pitch, tap_drill=t.tap_drill)
            for t in library.threads
        ],
        tools=[tool_view(t) for t in library.tools],
        statuses=list(STATUSES),
    )  # fmt: skip
