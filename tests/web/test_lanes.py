"""Which request comes next: what changes something first, and some threads are always left for what is quick."""

from __future__ import annotations

import threading
import time
from types import SimpleNamespace

import pytest

from lean_ledger.web.serving.lanes import AT_ONCE, LONG, READING, WRITING, Dispatcher, dispatcher, lane_of


@pytest.mark.parametrize(("method", "path", "lane"), [
    ("GET", "/api/jobs", READING), ("POST", "/api/jobs", LONG), ("GET", "/api/plans/7", READING),
    ("POST", "/api/plans/7/changes", WRITING), ("GET", "/api/plans/7/papers/setup-sheet.pdf", LONG),
    ("GET", "/api/plans/7/program", LONG), ("POST", "/api/plans/7/stock-model", LONG),
    ("PATCH", "/api/jobs/7", WRITING),
    ("GET", "/assets/x.js", READING), ("GET", "/api/plans/7/stock", READING), ("DELETE", "/api/works/x", WRITING),
])  # fmt: skip
def test_lane_of_a_request(method: str, path: str, lane: str) -> None:
    assert lane_of(method, path) == lane


class Asked:
    """A connection with one request, which is under way until it is let go."""

    def __init__(self, method: str, path: str, order: list[str]) -> None:
        self.requests = [SimpleNamespace(command=method, path=path, error=None)]
        self.begun, self.go = threading.Event(), threading.Event()
        self._order = order

    def service(self) -> None:
        self._order.append(f"{self.requests[0].command} {self.requests[0].path}")
        self.begun.set()
        self.go.wait(10)

    def cancel(self) -> None:
        pass


def test_writer_goes_before_readers_that_wait(monkeypatch: pytest.MonkeyPatch) -> None:
    order: list[str] = []
    made = Dispatcher()
    asked = [Asked("GET", f"/api/plans/{i}", order) for i in range(5)] + [Asked("POST", "/api/plans/1/changes", order)]
    for one in asked:
        made.add_task(one)
        one.go.set()
    made.set_thread_count(1)
    assert asked[4].begun.wait(5)
    made.shutdown()
    assert order[0] == "POST /api/plans/1/changes"
    assert order[1:] == [f"GET /api/plans/{i}" for i in range(5)]


def test_long_ones_never_hold_all_threads() -> None:
    order: list[str] = []
    made = dispatcher()
    long = [Asked("GET", f"/api/plans/{i}/papers/tools.csv", order) for i in range(20)]
    for one in long:
        made.add_task(one)
    for one in long[: AT_ONCE[LONG]]:
        assert one.begun.wait(5)
    quick = Asked("GET", "/api/library", order)
    made.add_task(quick)
    assert quick.begun.wait(5), "it waits for none of the twenty"
    assert len(order) == AT_ONCE[LONG] + 1
    for one in (*long, quick):
        one.go.set()
    deadline = time.monotonic() + 5
    while len(order) < len(long) + 1 and time.monotonic() < deadline:
        time.sleep(0.01)
    made.shutdown()
    assert len(order) == len(long) + 1
