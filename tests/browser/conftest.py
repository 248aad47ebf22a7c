"""Drives the built application, served with the demo shop, in Debian's Chromium."""

from __future__ import annotations

import re
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
import requests
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Page, expect

from lean_ledger.demo.served import CHROMIUM_ARGS, MARK, chromium, start
from tests.kept import copy_of_demo

PATIENT = 60_000  # ms: a picture may wait for a busy machine; what is there at once passes at once
expect.set_options(timeout=PATIENT)

ROUGH = "Rough pocket P1, 8 deep"  # the operation most tests of the sensor base plate turn to

FOLLOWING = re.compile(r"/api/plans/\d+/stock$")
TRYING = re.compile(r"/api/plans/\d+/(machines|beginnings)$")


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return {"executable_path": chromium(), "args": CHROMIUM_ARGS}


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, Any]:
    return {"viewport": {"width": 1280, "height": 800}}


@pytest.fixture(scope="session")
def shared(browser: Browser, browser_context_args: dict[str, Any]) -> Iterator[BrowserContext]:
    """One for all tests of a worker: what was loaded and compiled for one page is there for the next."""
    context = browser.new_context(**browser_context_args)
    yield context
    context.close()


@pytest.fixture
def page(shared: BrowserContext, site: str, request: pytest.FixtureRequest) -> Iterator[Page]:
    """A page of its own, in a browser that remembers nothing of the planner before.

    It has the stock followed where the test is about that (marked `follows`), and other machines tried where it is
    about those (`tries`): every change of every test would keep both processors busy with them.
    """
    page = shared.new_page()
    if request.node.get_closest_marker("follows") is None:
        page.route(FOLLOWING, lambda route: route.abort())
    if request.node.get_closest_marker("tries") is None:
        page.route(TRYING, lambda route: route.abort())
    page.goto(f"{site}/api/library")  # the same origin, with nothing that runs
    page.evaluate("localStorage.clear(); sessionStorage.clear()")
    yield page
    page.close()


@pytest.fixture(scope="session")
def site(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The address of a server with fresh demo data, one for all browser tests of a worker."""
    db = copy_of_demo(tmp_path_factory.mktemp("site") / "demo.sqlite")
    with start("demo", db) as server:
        yield server.url


class Planner:
    """A planner at a browser: goes to chapters, reads the strip, asks the API for the same plan."""

    def __init__(self, page: Page, site: str) -> None:
        self.page = page
        self.site = site

    def job(self, number: str) -> int:
        """Plan id of the newest job with that number."""
        rows = requests.get(f"{self.site}/api/jobs?size=200", timeout=60).json()["jobs"]
        return int(next(row["plan_id"] for row in rows if row["job"]["number"] == number))

    def copy_of(self, part: str, number: str, material: str = "al-6082") -> int:
        """A job of one's own, made over the API, so that tests do not stand in each other's way."""
        from tests.conftest import DEMO_PARTS

        with (DEMO_PARTS / f"{part}.step").open("rb") as file:
            answer = requests.post(
                f"{self.site}/api/jobs",
                files={"file": (f"{part}.step", file)},
                data={"number": number, "material": material, "quantities": "10, 50", "machine": "mill-762"},
                headers=MARK,
                timeout=60,
            )
        assert answer.status_code == 201, answer.text
        return int(answer.json()["plan_id"])

    def open(self, plan_id: int, chapter: str = "part") -> None:
        self.page.goto(f"{self.site}/plans/{plan_id}/{chapter}")
        expect(self.page.get_by_test_id("strip-cycle")).to_be_visible()

    def plan(self, plan_id: int) -> dict[str, Any]:
        answer = requests.get(f"{self.site}/api/plans/{plan_id}", timeout=60)
        assert answer.status_code == 200
        return dict(answer.json())

    def issued(self, plan_id: int, path: str) -> requests.Response:
        """A paper or a program over the API, asked for again until the plan's stock is followed."""
        deadline = time.monotonic() + 120
        while True:
            answer = requests.get(f"{self.site}/api/plans/{plan_id}/{path}", timeout=60)
            if answer.status_code != 202 or time.monotonic() > deadline:
                assert answer.status_code == 200, answer.text
                return answer

    def figure(self, name: str) -> str:
        return self.page.get_by_test_id(f"strip-{name}").inner_text()

    def settled(self) -> None:
        """Until the last change is answered."""
        expect(self.page.locator(".last[aria-busy=true]")).to_have_count(0)

    def shows(self, plan_id: int) -> None:
        """Until the page shows the plan as it is: an answer may be there before it is drawn."""
        edition = str(self.plan(plan_id)["edition"])
        expect(self.page.locator("footer.strip")).to_have_attribute("data-edition", edition)

    def type_into(self, label: str, text: str) -> None:
        cell = self.page.get_by_label(label, exact=True)
        cell.click()
        cell.fill(text)
        cell.press("Enter")
        self.settled()


@pytest.fixture
def planner(page: Page, site: str) -> Iterator[Planner]:
    page.set_default_timeout(PATIENT)
    problems: list[str] = []

    def said(message: ConsoleMessage) -> None:
        # a refusal that a test asks for is told by the browser too: that is an answer, and no fault of the page; that
        # 3D drawn by software is read back for the page around it is the tests' own browser
        told = message.text.startswith("Failed to load resource") or "GPU stall due to ReadPixels" in message.text
        if message.type in ("error", "warning") and not told:
            problems.append(message.text)

    page.on("pageerror", lambda error: problems.append(str(error)))
    page.on("console", said)
    yield Planner(page, site)
    assert problems == []


@pytest.fixture
def plate(planner: Planner, request: pytest.FixtureRequest) -> int:
    """A fresh copy of the sensor base plate's job."""
    return planner.copy_of("sensor-base-plate", f"T-{abs(hash(request.node.name)) % 100000}")


@pytest.fixture(scope="session")
def axe() -> str:
    path = Path(__file__).parents[2] / "frontend/node_modules/axe-core/axe.min.js"
    return path.read_text(encoding="utf-8")
