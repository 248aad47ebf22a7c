"""The shop's library, as far as screens choose from it."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import APIBlueprint, Tag

from lean_ledger.web import views
from lean_ledger.web.requests import desk
from lean_ledger.web.schemas import LibraryView

blueprint = APIBlueprint("library", __name__, url_prefix="/api/library", abp_tags=[Tag(name="library")])


@blueprint.get("", responses={200: LibraryView})
def get_library() -> Response:
    return Response(views.library_view(desk().library).model_dump_json(), mimetype="application/json")
