"""The stock of plans that nobody looks at, followed beside the requests, so that their prices are sure in the list."""

from __future__ import annotations

import logging
import threading

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.geometry.progress import silent
from lean_ledger.store import Desk

QUIET = 15.0  # s after the start, in which the first pages come first
MOST = 50  # plans, the newest

log = logging.getLogger("lean_ledger")


class Following:
    """One thread that takes plan after plan whose row in the list is from before its stock was followed."""

    def __init__(self, desk: Desk, quiet: float = QUIET) -> None:
        self._desk = desk
        self._quiet = quiet
        self._ended = threading.Event()
        self._thread = threading.Thread(target=self._run, name="following", daemon=True)

    def start(self) -> None:
        self._thread.start()

    def close(self) -> None:
        self._ended.set()

    def _run(self) -> None:
        if self._ended.wait(self._quiet):
            return
        for plan_id in self._desk.unfollowed(MOST):
            if self._ended.is_set():
                return
            try:
                self._desk.follow_stock(plan_id, silent, self._ended.is_set)
            except LedgerError as error:  # of one plan: the next may be fine
                log.info("the stock of plan %s is not followed: %s", plan_id, error)
            except Exception:
                log.exception("the stock of plan %s could not be followed", plan_id)
