"""The Flask application factory."""

from __future__ import annotations

import logging
from collections.abc import Iterable
from functools import cache
from itertools import count
from pathlib import Path
from secrets import token_hex
from time import perf_counter

from flask import Response, current_app, g, json, request, send_from_directory
from flask_openapi3 import Info, OpenAPI
from pydantic import ValidationError
from werkzeug.exceptions import HTTPException, MethodNotAllowed

from lean_ledger import __version__
from lean_ledger.core.basis.errors import FileRefused, LedgerError
from lean_ledger.core.control.blocks import ProgramError
from lean_ledger.core.geometry.step_text import LARGEST_FILE
from lean_ledger.store import Desk, StaleEdition, StoreError
from lean_ledger.store.aside import Aside
from lean_ledger.store.kept import Kept
from lean_ledger.tasks import Readings, Works
from lean_ledger.web.alternatives.endpoints import blueprint as alternatives
from lean_ledger.web.alternatives.revision import blueprint as revision
from lean_ledger.web.balance.endpoints import blueprint as balance
from lean_ledger.web.capacity.endpoints import blueprint as capacity
from lean_ledger.web.floor.endpoints import blueprint as floor
from lean_ledger.web.jobs.endpoints import blueprint as jobs
from lean_ledger.web.jobs.readings import blueprint as readings
from lean_ledger.web.library.endpoints import blueprint as library
from lean_ledger.web.order.endpoints import blueprint as order
from lean_ledger.web.pace.endpoints import blueprint as pace
from lean_ledger.web.plans import views
from lean_ledger.web.plans.endpoints import blueprint as plans
from lean_ledger.web.plans.schemas import Problem, Stale
from lean_ledger.web.program.endpoints import blueprint as program
from lean_ledger.web.program.play import blueprint as play
from lean_ledger.web.quotes.endpoints import blueprint as quotes
from lean_ledger.web.serving.guard import Barred, Guard
from lean_ledger.web.shared import requests
from lean_ledger.web.shared.described import described
from lean_ledger.web.shared.document import completed
from lean_ledger.web.shared.works import blueprint as works
from lean_ledger.web.stock.endpoints import begin_following
from lean_ledger.web.stock.endpoints import blueprint as stock
from lean_ledger.web.tools.endpoints import blueprint as tools

STATIC = Path(__file__).parent / "static"
NOT_FOUND = {
    "no-such-plan", "no-such-job", "no-such-setup", "no-such-reading", "no-such-revision", "no-such-work",
    "no-such-picture", "no-such-quote", "no-such-customer",
}  # fmt: skip
LARGEST_BODY = LARGEST_FILE + 1024 * 1024  # the file, and a form around it
STORE_STATUS = {"store-full": 507, "store-locked": 503}
BLUEPRINTS = (
    jobs, plans, alternatives, revision, program, order, balance, pace, play, stock, readings, library, tools, floor,
    quotes, capacity, works,
)  # fmt: skip
PLAN_BODIES = 16  # of plans as they were last sent

BOOT = token_hex(3)  # another at each start, before the request's number
_count = count(1)

log = logging.getLogger("lean_ledger")
requests_log = logging.getLogger("lean_ledger.requests")


def create_app(desk: Desk, hosts: Iterable[str] = ()) -> OpenAPI:
    """`hosts` are names beside those of the loopback that it answers under."""
    app = addresses(hosts)
    serve_desk(app, desk)
    return app


def serve_desk(app: OpenAPI, desk: Desk) -> None:
    """Have a desk answer at an application's addresses, with works, readings and kept answers of its own."""
    app.config["DESK"] = desk
    app.config["WORKS"] = made = Works()
    app.config["FOLLOW"] = lambda plan_id: begin_following(desk, made, plan_id)
    app.config["READINGS"] = Readings(desk, app.config["FOLLOW"])
    app.config["ASIDE"] = Aside(desk.path) if desk is not None else None
    app.config["PLAN_BODIES"] = Kept(PLAN_BODIES)


def addresses(hosts: Iterable[str] = ()) -> OpenAPI:
    """All that it answers to, before there is a desk."""
    app = _application()
    app.config["MAX_CONTENT_LENGTH"] = LARGEST_BODY
    app.json.sort_keys = False  # type: ignore[attr-defined]
    guard = Guard(hosts)
    app.before_request(_begin)
    app.before_request(lambda: guard.check(request))
    for blueprint in BLUEPRINTS:
        app.register_api(blueprint)
    app.register_error_handler(StaleEdition, _stale)
    app.register_error_handler(LedgerError, _refused)
    app.register_error_handler(HTTPException, _http)
    app.register_error_handler(Exception, _bug)
    document = cache(lambda: completed(described(_application(), BLUEPRINTS)))
    app.config["DOCUMENT"] = document
    app.add_url_rule("/openapi.json", "openapi_json", document)
    app.add_url_rule("/", "page", _page, defaults={"path": ""})
    app.add_url_rule("/<path:path>", "page", _page)
    app.after_request(_headers)
    app.after_request(_logged)
    return app


def _application() -> OpenAPI:
    return OpenAPI(
        "lean_ledger",
        info=Info(title="Lean Ledger", version=__version__),
        security_schemes={},
        static_folder=None,
        validation_error_status=422,
        validation_error_callback=_invalid,
        validation_error_model=Problem,
        doc_ui=False,
    )


def close_app(app: OpenAPI) -> None:
    """End what runs beside the requests."""
    for name in ("READINGS", "WORKS", "ASIDE"):
        app.config[name].close()


def _begin() -> None:
    g.begun = perf_counter()
    g.request_id = f"{BOOT}-{next(_count)}"


def _page(path: str) -> Response:
    """The built front end; any address that is no file is one of its own."""
    if path.startswith("api/"):
        return _problem("not-found", 404, "there is nothing at this address")
    if path in _files():
        response = send_from_directory(STATIC, path)
        if path.startswith("assets/"):
            response.cache_control.max_age = 31536000
        return response
    if not (STATIC / "index.html").is_file():
        return _problem("not-built", 503, "the front end is not built; run “make build”")
    return send_from_directory(STATIC, "index.html")


def _files() -> frozenset[str]:
    """What the front end was built to: looked at once, so that no address is tried against the disk."""
    found: frozenset[str] | None = current_app.config.get("STATIC_FILES")
    if found is None:
        found = frozenset(p.relative_to(STATIC).as_posix() for p in STATIC.rglob("*") if p.is_file())
        current_app.config["STATIC_FILES"] = found
    return found


def _headers(response: Response) -> Response:
    response.headers.setdefault("X-Content-Type-Options", "nosniff")
    response.headers.setdefault("Referrer-Policy", "same-origin")
    response.headers.setdefault("Cross-Origin-Resource-Policy", "same-origin")
    response.headers.setdefault("Content-Security-Policy", "default-src 'self'; img-src 'self' data: blob:; "
                                "font-src 'self'; style-src 'self' 'unsafe-inline'; "
                                "frame-ancestors 'self'")  # fmt: skip
    response.headers["X-Request-Id"] = g.get("request_id", "")
    return response


def _logged(response: Response) -> Response:
    """One line a request, with the id that an error page shows."""
    ms = 1000 * (perf_counter() - g.get("begun", perf_counter()))
    requests_log.info("%s %s %s %d %.0f ms", g.get("request_id", "-"), request.method,
                      ascii(request.path)[1:-1][:200], response.status_code, ms)  # fmt: skip
    return response


def _problem(code: str, status: int, detail: str, place: str = "") -> Response:
    body = Problem(type=f"lean-ledger:{code}", title=code.replace("-", " "), status=status, detail=detail, place=place,
                   request=g.get("request_id", ""))  # fmt: skip
    response = Response(body.model_dump_json(), status, mimetype="application/problem+json")
    if status == 503:
        response.headers["Retry-After"] = "2"
    return response


def _refused(error: LedgerError) -> Response:
    if isinstance(error, Barred):
        return _problem(error.code, error.status, error.message)
    if error.code == "bug":
        return _problem("bug", 500, error.message)
    if isinstance(error, StoreError):
        log.error("%s", error)
        return _problem(error.code, STORE_STATUS.get(error.code, 500), str(error), error.place)
    status = 404 if error.code in NOT_FOUND else 413 if error.code == "file-too-large" else 422
    place = error.place
    detail = f"{place}: {error.message}" if isinstance(error, FileRefused | ProgramError) else error.message
    return _problem(error.code, status, detail, place)


def _stale(error: StaleEdition) -> Response:
    current = error.opened.version.seq
    body = Stale(
        type="lean-ledger:stale",
        title="stale",
        status=409,
        detail=error.message,
        plan=views.plan_view(error.opened, requests.desk().floor.seen().measured),
        since=[views.journal_line(v, current, ahead=False) for v in error.since],
    )
    return Response(body.model_dump_json(), 409, mimetype="application/problem+json")


def _http(error: HTTPException) -> Response:
    status = error.code or 500
    if status == 413:
        if (request.content_length or 0) > LARGEST_BODY:
            return _problem("file-too-large", 413, "the file is larger than 100 MB; simplify the model or split it")
        return _problem("form-too-large", 413, "the form has too many fields, or text too long for one; "
                        "send the file, and the few fields that belong to it")  # fmt: skip
    if isinstance(error, MethodNotAllowed):
        allowed = ", ".join(error.valid_methods or ())
        response = _problem("method", 405, f"{request.method} is not answered here; {allowed or 'nothing'} is")
        response.headers["Allow"] = allowed
        return response
    return _problem(f"http-{status}", status, error.description or error.name)


def _invalid(error: ValidationError) -> Response:
    first = error.errors()[0]
    place = ".".join(str(part) for part in first["loc"])
    return _problem("invalid", 422, f"{place}: {first['msg']}", place)


def _bug(error: Exception) -> Response:
    log.exception("%s %s %s failed", g.get("request_id", "-"), request.method, request.path, exc_info=error)
    words = f"something went wrong here; nothing was changed. The log has the details under {g.get('request_id', '-')}"
    return _problem("bug", 500, words)


def openapi_document() -> str:
    """The OpenAPI document as text, keys in a fixed order."""
    return json.dumps(addresses().config["DOCUMENT"](), indent=1, sort_keys=True, ensure_ascii=False) + "\n"
