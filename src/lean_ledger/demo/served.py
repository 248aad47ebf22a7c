"""The application in a process of its own, for tests, benchmarks and pictures."""

from __future__ import annotations

import os
import re
import shutil
import signal
import subprocess
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import Literal, Self

#: What the application's own pages send; without it nothing is changed.
MARK = {"X-Requested-With": "lean-ledger"}

#: No graphics processor is needed: 3D is drawn by software, the page around it without going through 3D.
CHROMIUM_ARGS = [
    "--no-sandbox",
    "--use-angle=swiftshader-webgl",
    "--disable-gpu",
    "--enable-unsafe-swiftshader",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
]


def chromium() -> str:
    """Debian's headless Chromium; the whole one, which loads a page in twice the time, where that is missing."""
    return shutil.which("chromium-headless-shell") or shutil.which("chromium") or "/usr/bin/chromium"


@dataclass(frozen=True)
class Served:
    """A running server on a free port; use as a context manager, or `stop` it by hand."""

    process: subprocess.Popen[str]
    url: str

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        self.stop(signal.SIGTERM)

    def stop(self, how: signal.Signals) -> None:
        """End it and the kernel's process with it."""
        if self.process.poll() is None:
            os.killpg(self.process.pid, how)
            self.process.wait(timeout=20)


def start(command: Literal["serve", "demo"], db: Path, log: Path | None = None) -> Served:
    """Start and wait for the address; `log` gets what it says meanwhile.

    Raises RuntimeError where the server does not come up.
    """
    said = log.open("w") if log is not None else subprocess.DEVNULL
    process = subprocess.Popen(
        [sys.executable, "-m", "lean_ledger.cli", command, "--db", str(db), "--port", "0", "--no-follow"],
        stdout=subprocess.PIPE,
        stderr=said,
        text=True,
        env={**os.environ, "PYTHONUNBUFFERED": "1"},
        start_new_session=True,
    )
    assert process.stdout is not None
    line = process.stdout.readline()
    match = re.search(r"http://127\.0\.0\.1:\d+", line)
    if match is None:
        raise RuntimeError(f"the server did not start: {line!r}")
    return Served(process, match.group())
