"""Parts, plans and a desk for all tests. Parts are read or built once per process."""

from __future__ import annotations

import os
import shutil
import time
from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import cache
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient
from flask_openapi3 import OpenAPI
from hypothesis import settings
from werkzeug.test import TestResponse
from xdist.scheduler import LoadScopeScheduling

from lean_ledger.core.basis.collector import keep_what_is_there
from lean_ledger.core.geometry.drawing import standard_drawings
from lean_ledger.core.geometry.host import Cancelled, KernelHost, load_before, never
from lean_ledger.core.geometry.model import PartModel
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.geometry.solids import Body
from lean_ledger.core.geometry.step import read_part, read_solid
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part, analyse
from lean_ledger.core.plan import Plan
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.demo.served import MARK
from lean_ledger.library import Library, shipped_library
from lean_ledger.store import Database, Desk, JobNew, JobQuery, Opened, stocks
from lean_ledger.store import aside as in_company
from lean_ledger.store.beginning import Beginning
from lean_ledger.store.files import Files, Read
from lean_ledger.store.shelf import Shelf
from lean_ledger.web import create_app
from lean_ledger.web.app import addresses, close_app, serve_desk
from tests.cures import OFFERED, TESTS, all_mend, watched
from tests.kept import kept

# a busy machine is slow now and then: no test measures time. Each run draws others.
settings.register_profile("untimed", deadline=None, max_examples=30)
settings.load_profile("untimed")

load_before(create_app.__module__)
keep_what_is_there()

#: Tests that share a server or a browser, all by one worker: two browsers at once are slower than one, and the other
#: worker has no need to wait for the demo shop that both begin with.
TOGETHER = {"tests/browser/": "browser", "tests/web/test_server.py": "browser"}

#: Where tests of a file begin with the same plans: one worker makes them, once.
BY_FILE = ("tests/core/", "tests/web/test_demo_and_fuzz.py")


class Grouped(LoadScopeScheduling):
    """Hands out tests one by one, but for those that stand together."""

    def _split_scope(self, nodeid: str) -> str:
        alone = nodeid.partition("::")[0] if nodeid.startswith(BY_FILE) else nodeid
        return next((group for begin, group in TOGETHER.items() if nodeid.startswith(begin)), alone)


@pytest.hookimpl(optionalhook=True)
def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> LoadScopeScheduling:
    return Grouped(config, log)


GIVING_WAY = 5  # niceness of workers beside the browser's


@pytest.hookimpl(tryfirst=True)
def pytest_runtest_setup(item: pytest.Item) -> None:
    """The worker of the browser waits most of the time: the others leave it the machine when it wants it."""
    together = any(item.nodeid.startswith(begin) for begin in TOGETHER)
    if "PYTEST_XDIST_WORKER" in os.environ and not together and os.nice(0) == 0:
        os.nice(GIVING_WAY)
        for module in (stocks, in_company):
            module.BEHIND = 0  # its own processes no farther behind than it is


CASES = Path(__file__).parent / "cases"
DEMO_PARTS = Path(__file__).parents[1] / "src/lean_ledger/demo/parts"


@pytest.fixture(autouse=True)
def _cures_mend(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    kinds = OFFERED.get(request.node.nodeid.removeprefix(TESTS), ())
    seen = watched(monkeypatch) if kinds else []
    yield
    if kinds:
        all_mend(seen, kinds)


@pytest.fixture(scope="session")
def library() -> Library:
    return shipped_library()


@cache
def demo_part(name: str) -> Part:
    path = DEMO_PARTS / f"{name}.step"
    return kept(path.read_bytes(), name, lambda: analyse(read_part(path, path.name)))


@cache
def case_model(name: str, solid: int = 0) -> PartModel:
    path = CASES / "features" / f"{name}.step"
    return kept(path.read_bytes(), f"{name} {solid}", lambda: read_solid(path, path.name, solid))


def built(body: Body, name: str = "built", *, drawn: bool = False) -> Part:
    """A part from a body of core.geometry.solids, as if it had been read from a file in mm; its drawings, which take
    most of the time of reading, only for papers.
    """
    drawings = standard_drawings(body.shape) if drawn else ()
    return analyse(PartModel(f"{name}.step", "mm", 1, 0, plain_solid(body.shape, name), drawings))


#: What tests of a file begin with, by the part's own identity, which it keeps: made once.
_QUICK: dict[tuple[int, str, tuple[int, ...]], tuple[Part, Plan]] = {}
_LEDGERS: dict[tuple[int, str], Ledger] = {}


def quick(part: Part, material: str = "al-6082", quantities: tuple[int, ...] = (10,)) -> Plan:
    key = (id(part), material, quantities)
    if key not in _QUICK:
        _QUICK[key] = part, quick_plan(part, material, quantities, shipped_library())
    return _QUICK[key][1]


def with_machines(*ids: str) -> Library:
    """The shipped library with some of its machines: where many are compared, each is planned."""
    library = shipped_library()
    return replace(library, machines=tuple(m for m in library.machines if m.id in ids))


def quick_ledger(part: Part, material: str = "al-6082") -> Ledger:
    plan, key = quick(part, material), (id(part), material)
    if key not in _LEDGERS:
        _LEDGERS[key] = evaluate(plan, part, shipped_library())
    return _LEDGERS[key]


@pytest.fixture(scope="module", autouse=True)
def _begun_with_ends() -> Iterator[None]:
    yield
    _QUICK.clear()
    _LEDGERS.clear()


def opened_jobs(desk: Desk) -> list[Opened]:
    """Every plan, evaluated, the newest job first."""
    return [desk.open(line.plan_id) for line in desk.jobs(JobQuery(size=200)).lines]


def journal_words(desk: Desk, plan_id: int) -> list[str]:
    return [line.words for line in desk.journal(plan_id, count=200)[0].lines]


@pytest.fixture(scope="session")
def sensor_plate() -> Part:
    return demo_part("sensor-base-plate")


@pytest.fixture(scope="session")
def kernel() -> Iterator[KernelHost]:
    host = KernelHost()
    yield host
    host.close()


class PlannerClient(FlaskClient):
    """Asks as the application's own pages do: marked, and again once work beside the requests is done."""

    def open(self, *args: Any, **kwargs: Any) -> TestResponse:
        kwargs["headers"] = {**MARK, **dict(kwargs.get("headers") or {})}
        answer = super().open(*args, **kwargs)
        if answer.status_code != 202 or "/api/works/" not in answer.headers.get("Location", ""):
            return answer
        work = answer.headers["Location"]
        while super().get(work).json["state"] in ("waiting", "working"):  # type: ignore[index]
            time.sleep(0.02)
        return super().open(*args, **kwargs)


_opened_apps: list[OpenAPI] = []
#: Made once: taking in all addresses is most of what a short test would take. A desk at a time.
_addresses = cache(addresses)


def client_of(desk: Desk) -> PlannerClient:
    """A client of the application on a desk; what runs beside its requests ends with the test."""
    while _opened_apps:
        close_app(_opened_apps.pop())
    app = _addresses()
    serve_desk(app, desk)
    app.testing = True
    app.config["FOLLOW"] = lambda plan_id: None  # tests that want the stock followed ask for it
    app.config["PROPAGATE_EXCEPTIONS"] = False
    app.test_client_class = PlannerClient
    _opened_apps.append(app)
    client = app.test_client()
    assert isinstance(client, PlannerClient)
    return client


@pytest.fixture(autouse=True)
def _apps_end() -> Iterator[None]:
    yield
    while _opened_apps:
        close_app(_opened_apps.pop())


_analysed = Files._analysed


def _analysed_once(
    files: Files, step: bytes, name: str, solid: int, report: Report, cancelled: Cancelled
) -> Part:  # fmt: skip
    """What nobody watches is read once a process, and is one object: plans of it find what was computed before."""
    if report is not silent or cancelled is not never:
        return _analysed(files, step, name, solid, report, cancelled)
    key = (step, name, solid)
    if key not in _READ:
        _READ[key] = _analysed(files, step, name, solid, report, cancelled)
    return _READ[key]


_READ: dict[tuple[bytes, str, int], Part] = {}


_first_of = Beginning.first_of


def _first_once(
    beginning: Beginning, new: JobNew, read: Read, shelf: Shelf, report: Report, cancelled: Cancelled
) -> tuple[Plan, str]:  # fmt: skip
    """On a machine that is named, for a part that was read before: made once a process, as its reading is."""
    if report is not silent or not new.machine:
        return _first_of(beginning, new, read, shelf, report, cancelled)
    key = (read.key, new.material, new.quantities, new.machine, shelf.made_by)
    if key not in _FIRST:
        _FIRST[key] = _first_of(beginning, new, read, shelf, report, cancelled)
    return _FIRST[key]


_FIRST: dict[tuple[object, ...], tuple[Plan, str]] = {}


@pytest.fixture(autouse=True)
def _read_once(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(Files, "_analysed", _analysed_once)
    monkeypatch.setattr(Beginning, "first_of", _first_once)


@pytest.fixture(scope="session")
def empty_shop(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Made by all migrations, once; to be copied."""
    path = tmp_path_factory.mktemp("empty") / "shop.sqlite"
    Database(path).close()
    return path


@pytest.fixture
def make_desk(
    tmp_path: Path, empty_shop: Path, library: Library, kernel: KernelHost
) -> Iterator[Callable[[], Desk]]:  # fmt: skip
    """Opens the test's own database, again each time it is called: as if the server was started again."""
    opened: list[Desk] = []
    path = Path(shutil.copy(empty_shop, tmp_path / "test.sqlite"))

    def make() -> Desk:
        opened.append(Desk(Database(path), library, kernel))
        return opened[-1]

    yield make
    for desk in opened:
        desk.stocks.close()


@pytest.fixture
def desk(make_desk: Callable[[], Desk]) -> Desk:
    return make_desk()
