"""What a kernel's process is asked to do in the tests of its limits: these run there, not here."""

from __future__ import annotations

import time
from pathlib import Path

from lean_ledger.core.geometry.progress import Report


def sleeping(path: Path, name: str, seconds: float, report: Report) -> str:
    """Says something all the while."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        report("sleeping", 0.5)
        time.sleep(0.05)
    return name


def niceness(path: Path, name: str, seconds: float, report: Report) -> int:
    """Of its own process, after a while."""
    import os

    sleeping(path, name, seconds, report)
    return os.getpriority(os.PRIO_PROCESS, 0)


def stumbling(path: Path, name: str, kind: str, report: Report) -> None:
    if kind == "deep":
        raise RecursionError("maximum recursion depth exceeded")
    if kind == "memory":
        raise MemoryError
    if kind == "kernel":
        from OCP.StdFail import StdFail_NotDone

        raise StdFail_NotDone("BRep_API: command not done")
    raise KeyError(kind)
