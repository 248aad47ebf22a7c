"""Which request is worked on next: what changes something first, and never all threads for what takes long.

Requests share a few threads, and these share the interpreter. Files that are read and papers that are printed hold
theirs for seconds: some are always left for the rest. Many readers at once would leave a writer a small share.
"""

from __future__ import annotations

import re
from time import monotonic
from typing import Any

from waitress.task import ThreadedTaskDispatcher

HEAVY = re.compile(r"^/api/(jobs$|plans/\d+/(stock-model|papers/|program))")
WRITING, READING, LONG = "writing", "reading", "long"
#: In the order in which they are served, and how many at once.
AT_ONCE = {WRITING: 2, READING: 4, LONG: 3}
THREADS = sum(AT_ONCE.values())
QUICK_SECONDS = 0.1  # readers are served one after the other, as long as none takes longer than this


def lane_of(method: str, path: str) -> str:
    """A list of jobs is read, a new one takes long."""
    if HEAVY.match(path) and not (path == "/api/jobs" and method == "GET"):
        return LONG
    return READING if method in ("GET", "HEAD", "OPTIONS") else WRITING


class Dispatcher(ThreadedTaskDispatcher):  # type: ignore[misc]
    """Gives each thread the first request of the first lane that has room."""

    def __init__(self) -> None:
        super().__init__()
        self._busy: dict[Any, tuple[str, float]] = {}  # by request: its lane and since when

    def handler_thread(self, thread_no: int) -> None:
        while True:
            with self.lock:
                while (found := self._next()) is None and self.stop_count == 0:
                    self.active_count -= 1
                    self.queue_cv.wait(QUICK_SECONDS if self.queue else None)
                    self.active_count += 1
                if self.stop_count > 0:
                    self.active_count -= 1
                    self.stop_count -= 1
                    self.threads.discard(thread_no)
                    self.thread_exit_cv.notify()
                    return
                assert found is not None
                lane, task = found
                self._busy[task] = (lane, monotonic())
            try:
                task.service()
            except BaseException:
                self.logger.exception("a request could not be answered")
            finally:
                with self.lock:
                    self._busy.pop(task, None)
                    self.queue_cv.notify()

    def add_task(self, task: Any) -> None:
        with self.lock:
            self.queue.append(task)
            self.queue_cv.notify()

    def _next(self) -> tuple[str, Any] | None:
        waiting: dict[str, Any] = {}
        for task in self.queue:
            waiting.setdefault(_lane(task), task)
            if len(waiting) == len(AT_ONCE):
                break
        for lane, most in AT_ONCE.items():
            if lane in waiting and self._room(lane, most):
                self.queue.remove(waiting[lane])
                return lane, waiting[lane]
        return None

    def _room(self, lane: str, most: int) -> bool:
        begun = [since for other, since in self._busy.values() if other == lane]
        quick = lane != READING or all(monotonic() - since > QUICK_SECONDS for since in begun)
        return len(begun) < most and quick


def _lane(channel: Any) -> str:
    """Of a connection's first request; one that could not be parsed is answered at once."""
    request = channel.requests[0] if channel.requests else None
    if request is None or request.error:
        return WRITING
    return lane_of(request.command, request.path)


def dispatcher() -> Dispatcher:
    made = Dispatcher()
    made.set_thread_count(THREADS)
    return made
