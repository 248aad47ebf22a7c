"""Rows of the list of jobs, made again beside the requests once they are no longer what they would be now."""

from __future__ import annotations

import logging
import threading

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.store import Desk
from lean_ledger.store.aside import Aside

log = logging.getLogger("lean_ledger")

AGAIN_SECONDS = 30.0  # after something went wrong


class Refreshing:
    """One thread that computes what a change of the library, or a new build, made out of date; newest jobs first.

    It begins when a list is looked at that shows such a row: what nobody looks at is not computed.
    """

    def __init__(self, desk: Desk, aside: Aside) -> None:
        self._desk = desk
        self._aside = aside
        self._wake = threading.Event()
        self._ended = threading.Event()
        self._thread = threading.Thread(target=self._run, name="refreshing", daemon=True)
        desk.on_stale = self._wake.set

    def start(self) -> None:
        self._thread.start()

    def close(self) -> None:
        self._ended.set()
        self._wake.set()

    def _run(self) -> None:
        while not self._ended.is_set():
            self._wake.wait()
            self._wake.clear()
            try:
                self._desk.keep_thumbs()
                self._all()
            except LedgerError as error:
                log.warning("the list of jobs waits: %s", error)
                self._ended.wait(AGAIN_SECONDS)
            except Exception:
                log.exception("a row of the list of jobs could not be computed")

    def _all(self) -> None:
        """Until none waits, or the library changed again."""
        for plan_id in self._desk.waiting():
            if self._ended.is_set() or self._wake.is_set():
                return
            found = self._aside.ask("lean_ledger.store.aside", "row_of", plan_id, made_by=self._desk.made_by,
                                    cancelled=self._ended.is_set)  # fmt: skip
            if found is not None:
                self._desk.take_summary(plan_id, *found)
