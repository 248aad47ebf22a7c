"""How many requests of a kind are worked on at once, so that none keeps the others waiting.

Answers come from a few threads that share the interpreter. Those that read files or print papers hold theirs for
seconds: some threads are always left for the rest. Reading a plan is quick, but many readers at once would leave a
writer a small share of the time.
"""

from __future__ import annotations

import threading

from flask import g, request

from lean_ledger.web.guard import Barred

HEAVY = frozenset({
    "jobs.add_job", "plans.take_stock_model", "plans.papers", "program.package", "program.send", "program.program",
    "program.attach",
})  # fmt: skip
HEAVY_AT_ONCE = 3
PATIENCE = 10.0  # s
READERS_AT_ONCE = 2


class Lanes:
    def __init__(self) -> None:
        self._heavy = threading.Semaphore(HEAVY_AT_ONCE)
        self._readers = threading.Semaphore(READERS_AT_ONCE)

    def enter(self) -> None:
        """Raises Barred, 503, where too many heavy requests are under way."""
        if request.endpoint in HEAVY:
            if not self._heavy.acquire(timeout=PATIENCE):
                raise Barred("busy", "too many files and papers are asked for at once; try again in a moment", 503)
            g.lane = self._heavy
        elif request.method == "GET" and request.endpoint != "page":
            self._readers.acquire()
            g.lane = self._readers

    def leave(self, _error: BaseException | None) -> None:
        lane: threading.Semaphore | None = g.pop("lane", None)
        if lane is not None:
            lane.release()
