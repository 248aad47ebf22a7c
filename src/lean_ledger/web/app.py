"""The Flask application factory."""

from __future__ import annotations

import logging
from pathlib import Path
from typing import Any

from flask import Response, current_app, json, request, send_from_directory
from flask_openapi3 import Info, OpenAPI
from pydantic import ValidationError
from werkzeug.exceptions import HTTPException

from lean_ledger import __version__
from lean_ledger.core.errors import FileRefused, LedgerError
from lean_ledger.core.geometry.step_text import LARGEST_FILE
from lean_ledger.core.program.blocks import ProgramError
from lean_ledger.store import Desk, StaleEdition
from lean_ledger.tasks import Readings
from lean_ledger.web import views
from lean_ledger.web.jobs import blueprint as jobs
from lean_ledger.web.library import blueprint as library
from lean_ledger.web.pace import blueprint as pace
from lean_ledger.web.plans import blueprint as plans
from lean_ledger.web.play import blueprint as play
from lean_ledger.web.program import blueprint as program
from lean_ledger.web.readings import blueprint as readings
from lean_ledger.web.schemas import Problem, Stale
from lean_ledger.web.stock import blueprint as stock
from lean_ledger.web.tools import blueprint as tools

STATIC = Path(__file__).parent / "static"
NOT_FOUND = {"no-such-plan", "no-such-job", "no-such-setup", "no-such-reading", "no-such-revision"}

log = logging.getLogger("lean_ledger")


def create_app(desk: Desk) -> OpenAPI:
    app = OpenAPI(
        "lean_ledger",
        info=Info(title="Lean Ledger", version=__version__),
        security_schemes={},
        static_folder=None,
        validation_error_status=422,
        validation_error_callback=_invalid,
        validation_error_model=Problem,
        doc_ui=False,
    )
    app.config["MAX_CONTENT_LENGTH"] = LARGEST_FILE + 1024 * 1024  # the file, and a form around it
    app.config["DESK"] = desk
    app.config["READINGS"] = Readings(desk)
    app.json.sort_keys = False  # type: ignore[attr-defined]
    for blueprint in (jobs, plans, program, pace, play, stock, readings, library, tools):
        app.register_api(blueprint)
    app.register_error_handler(StaleEdition, _stale)
    app.register_error_handler(LedgerError, _refused)
    app.register_error_handler(HTTPException, _http)
    app.register_error_handler(Exception, _bug)
    app.add_url_rule("/openapi.json", "openapi_json", lambda: app.api_doc)
    app.add_url_rule("/", "page", _page, defaults={"path": ""})
    app.add_url_rule("/<path:path>", "page", _page)
    app.after_request(_headers)
    return app


def _page(path: str) -> Response:
    """The built front end; any address that is no file is one of its own."""
    if path.startswith("api/"):
        return _problem("not-found", 404, "there is nothing at this address")
    if path and (STATIC / path).is_file():
        response = send_from_directory(STATIC, path)
        if path.startswith("assets/"):
            response.cache_control.max_age = 31536000
        return response
    if not (STATIC / "index.html").is_file():
        return _problem("not-built", 503, "the front end is not built; run “make build”")
    return send_from_directory(STATIC, "index.html")


def _headers(response: Response) -> Response:
    response.headers.setdefault("X-Content-Type-Options", "nosniff")
    response.headers.setdefault("Referrer-Policy", "same-origin")
    response.headers.setdefault("Content-Security-Policy", "default-src 'self'; img-src 'self' data: blob:; "
                                "style-src 'self' 'unsafe-inline'; frame-ancestors 'self'")  # fmt: skip
    return response


def _problem(code: str, status: int, detail: str, place: str = "") -> Response:
    body = Problem(type=f"lean-ledger:{code}", title=code.replace("-", " "), status=status, detail=detail, place=place)
    return Response(body.model_dump_json(), status, mimetype="application/problem+json")


def _refused(error: LedgerError) -> Response:
    status = 404 if error.code in NOT_FOUND else 413 if error.code == "file-too-large" else 422
    place = error.place
    detail = f"{place}: {error.message}" if isinstance(error, FileRefused | ProgramError) else error.message
    return _problem(error.code, status, detail, place)


def _stale(error: StaleEdition) -> Response:
    desk: Desk = current_app.config["DESK"]
    current = error.opened.version.seq
    body = Stale(
        type="lean-ledger:stale",
        title="stale",
        status=409,
        detail=error.message,
        plan=views.plan_view(error.opened, desk.library),
        since=[views.journal_line(v, current, ahead=False) for v in error.since],
    )
    return Response(body.model_dump_json(), 409, mimetype="application/problem+json")


def _http(error: HTTPException) -> Response:
    status = error.code or 500
    if status == 413:
        return _problem("file-too-large", 413, "the file is larger than 100 MB; simplify the model or split it")
    return _problem(f"http-{status}", status, error.description or error.name)


def _invalid(error: ValidationError) -> Response:
    first = error.errors()[0]
    place = ".".join(str(part) for part in first["loc"])
    return _problem("invalid", 422, f"{place}: {first['msg']}", place)


def _bug(error: Exception) -> Response:
    log.exception("%s %s failed", request.method, request.path, exc_info=error)
    return _problem("bug", 500, "something went wrong here; nothing was changed. The log has the details")


def openapi_document(desk: Any) -> str:
    """The OpenAPI document as text, keys in a fixed order."""
    return json.dumps(create_app(desk).api_doc, indent=1, sort_keys=True, ensure_ascii=False) + "\n"
