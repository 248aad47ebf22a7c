"""Programs from elsewhere: what the simulated machine takes for one stands in the ledger in place of our own motion."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.control.modal import LOCAL, PROBE, THREAD
from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.setting import Setting
from lean_ledger.core.control.steps import CATEGORY
from lean_ledger.library.machines import Machine

ANY_CONTROL = Setting(more_g=frozenset({PROBE, THREAD, LOCAL}))


@dataclass(frozen=True)
class ForeignProgram:
    """A program as it came; `key` is what the plan knows it by."""

    key: str
    file: str
    text: str


@dataclass(frozen=True)
class ForeignTime:
    """Seconds by category that a machine takes for a program, its offsets counting as zero."""

    file: str
    lines: int
    seconds: Mapping[str, float]

    @property
    def total(self) -> float:
        return sum(self.seconds.values())


@lru_cache(maxsize=64)
def foreign_time(program: ForeignProgram, machine: Machine) -> ForeignTime:
    """Raises ProgramError, which names the line, for a program that this machine cannot read."""
    run = run_program(program.text, machine, ANY_CONTROL)
    return ForeignTime(program.file, run.lines, {name: run.seconds(kind) for kind, name in CATEGORY.items()})


def time_or_finding(
    program: ForeignProgram | None, file: str, setup: str, operation: str, machine: Machine
) -> ForeignTime | Finding:
    """The time of an attached program; a finding where it cannot be had: then our own motion counts."""
    try:
        if program is None:
            raise LedgerError("gone", "the file is not there")
        return foreign_time(program, machine)
    except LedgerError as error:
        return Finding(
            "program-unread", Severity.ERROR, Chapter.OPERATIONS, f"{file} gives no time on {machine.name}.",
            f"{error}. The plan's own motion counts until it does.", setup, operation=operation,
            cures=(Cure("Take it off", {"change": "detach-program", "setup": setup, "operation": operation}),),
        )  # fmt: skip
