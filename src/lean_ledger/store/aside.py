"""Questions about plans that take seconds, answered in processes of their own: no request waits for their arithmetic.

The process opens the same database, reads the plan as it stands there, and gives back what it was asked for. It keeps
paths and parts between questions as the server does.
"""

from __future__ import annotations

from functools import cache
from importlib import import_module
from inspect import signature
from pathlib import Path
from typing import Any

from lean_ledger.core.basis.errors import LedgerError, PlanError
from lean_ledger.core.geometry.host import BEHIND, Cancelled, KernelHere, KernelHost, never
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.library import shipped_library
from lean_ledger.store.database import Database
from lean_ledger.store.desk import Desk

AT_ONCE = 2  # what is quick is not kept waiting by what takes long


class Aside:
    """Safe to share between threads."""

    def __init__(self, database: Path) -> None:
        self._database = database
        self._host = KernelHost(workers=AT_ONCE, niceness=BEHIND)

    def warm_up(self) -> None:
        """Start the process, so that the first question does not wait for it."""
        self._host.warm_up()

    def ask(
        self,
        module: str,
        function: str,
        *args: Any,
        made_by: str,
        report: Report = silent,
        cancelled: Cancelled = never,
    ) -> Any:
        """What `function(desk, *args)` of a module gives, with the library that `made_by` names; one that takes
        `report` says how far it is.

        Raises LedgerError as the function does, PlanError moved-on where the library changed in between.
        """
        return self._host.call(
            __name__, "answered", self._database, made_by, module, function, args, name="the plan",
            report=report, cancelled=cancelled,
        )  # fmt: skip

    def close(self) -> None:
        self._host.close()


def answered(
    database: Path, made_by: str, module: str, function: str, args: tuple[Any, ...], report: Report = silent
) -> Any:
    """In the process: looks the plan up and answers."""
    report("reading the plan", 0.05)
    desk = _desk(database)
    if desk.made_by != made_by:
        desk.read_library()
    if desk.made_by != made_by:
        raise PlanError("moved-on", "the shop's library changed meanwhile; ask again")
    report("computing", 0.2)
    asked = getattr(import_module(module), function)
    return asked(desk, *args, report=report) if "report" in signature(asked).parameters else asked(desk, *args)


@cache
def _desk(database: Path) -> Desk:
    return Desk(Database(database, made_ready=True), shipped_library(), KernelHere())


def row_of(desk: Desk, plan_id: int) -> Any:
    """A plan's row of the list of jobs."""
    try:
        return desk.summarised(plan_id)
    except LedgerError:
        return None  # it went while it waited
