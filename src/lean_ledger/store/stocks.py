"""The stock through the operations of plans: followed in a process of its own, kept by what it was computed from."""

from __future__ import annotations

import threading
from collections.abc import Callable, Hashable

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.followed import in_process
from lean_ledger.core.followed.cuts import Around, Course
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.host import BEHIND, Cancelled, KernelHost, never
from lean_ledger.core.geometry.model import Mesh, Vec
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.store.kept import Kept

AT_ONCE = 2

Outcome = Followed | LedgerError


class Stocks:
    """Safe to share between threads.

    Two processes, so that a part that takes long holds up no other; the one used last is taken first, so that it finds
    again what it computed before.
    """

    def __init__(self) -> None:
        self._kernel = KernelHost(workers=AT_ONCE, niceness=BEHIND)
        self._outcomes: Kept[Hashable, Outcome] = Kept()
        self._turn = threading.Semaphore(AT_ONCE)

    def known(self, key: Hashable) -> Outcome | None:
        """What was found before; None where the stock was not followed yet."""
        return self._outcomes.peek(key)

    def take(self, key: Hashable, found: Followed) -> None:
        """What was found before the server started."""
        self._outcomes.put(key, found)

    def follow(
        self,
        key: Hashable,
        course: Course,
        wanted: Callable[[], bool],
        report: Report = silent,
        cancelled: Cancelled = never,
    ) -> None:
        """Seconds at first, less after a change. A refusal is an outcome too, but for one that was cancelled.

        `wanted` is asked when the turn has come: what nobody looks at any more is not followed.
        """

        def make() -> Outcome:
            try:
                found: Followed = self._kernel.call(
                    in_process.MODULE, "followed", course, name="the stock", report=report, cancelled=cancelled
                )
            except LedgerError as error:
                if error.code == "file-cancelled":
                    raise
                return error
            return found

        with self._turn:
            if self._outcomes.peek(key) is None and wanted():
                self._outcomes.get(key, make)

    def tried(self, key: Hashable, course: Course, report: Report = silent, cancelled: Cancelled = never) -> Followed:
        """The stock through a course that is no plan's. Raises LedgerError."""

        def make() -> Outcome:
            found: Followed = self._kernel.call(
                in_process.MODULE, "followed", course, name="the stock", report=report, cancelled=cancelled
            )
            return found

        outcome = self._outcomes.get(key, make)
        assert isinstance(outcome, Followed), "a refusal is raised and not kept"
        return outcome

    def after(self, course: Course, count: int, report: Report = silent, cancelled: Cancelled = never) -> Mesh:
        found: Mesh = self._kernel.call(
            in_process.MODULE, "stock_after", course, count, name="the stock", report=report, cancelled=cancelled
        )
        return found

    def around(self, around: Around) -> Mesh:
        """What holds the stock, as a mesh."""
        found: Mesh = self._kernel.call(in_process.MODULE, "around_mesh", around, name="what holds it")
        return found

    def height(self, course: Course, count: int, point: Vec, along: Vec) -> float:
        found: float = self._kernel.call(in_process.MODULE, "height_at", course, count, point, along, name="the stock")
        return found

    def close(self) -> None:
        self._kernel.close()
