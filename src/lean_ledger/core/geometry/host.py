"""Runs the CAD kernel in a process of its own: a crash or a hang there is an error here, and nothing more."""

from __future__ import annotations

import multiprocessing
import threading
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures import TimeoutError as FutureTimeout
from concurrent.futures.process import BrokenProcessPool
from pathlib import Path

from lean_ledger.core.errors import FileRefused
from lean_ledger.core.geometry.model import PartModel

READ_SECONDS = 60.0


def _read(what: str, path: str, name: str, solid_index: int) -> PartModel:
    from lean_ledger.core.geometry import step  # only the kernel's own process imports it

    found: PartModel = getattr(step, what)(Path(path), name, solid_index)
    return found


def _warm() -> None:
    import lean_ledger.core.geometry.step  # noqa: F401


class KernelHost:
    """One warm kernel process, replaced when it dies or takes too long. Safe to share between threads."""

    def __init__(self, seconds: float = READ_SECONDS) -> None:
        self._seconds = seconds
        self._lock = threading.Lock()
        self._pool: ProcessPoolExecutor | None = None

    def warm_up(self) -> None:
        """Start the process, so that the first upload does not wait for the kernel to load."""
        with self._lock:
            self._ready().submit(_warm)

    def read_part(self, path: Path, name: str, solid_index: int = 0) -> PartModel:
        """Read one solid with its drawings. Raises FileRefused, also for a kernel that crashed or hung."""
        return self._run("read_part", path, name, solid_index)

    def read_solid(self, path: Path, name: str, solid_index: int = 0) -> PartModel:
        """Read one solid without drawings; raises as `read_part` does."""
        return self._run("read_solid", path, name, solid_index)

    def _run(self, what: str, path: Path, name: str, solid_index: int) -> PartModel:
        with self._lock:
            future: Future[PartModel] = self._ready().submit(_read, what, str(path), name, solid_index)
            try:
                return future.result(timeout=self._seconds)
            except FutureTimeout:
                self._replace()
                raise FileRefused(
                    "file-too-slow", f"reading was given up after {self._seconds:.0f} s; simplify the model", name
                ) from None
            except BrokenProcessPool:
                self._replace()
                raise FileRefused(
                    "file-crashed-reader", "the geometry in this file cannot be read; export the part again", name
                ) from None
            except FileRefused:
                raise
            except OSError as error:
                raise FileRefused("file-unreadable", f"cannot be opened: {error.strerror}", name) from error
            except Exception as error:
                raise FileRefused(
                    "file-unreadable", f"the geometry in this file cannot be read ({type(error).__name__})", name
                ) from error

    def close(self) -> None:
        with self._lock:
            self._replace()

    def _ready(self) -> ProcessPoolExecutor:
        if self._pool is None:
            self._pool = ProcessPoolExecutor(max_workers=1, mp_context=multiprocessing.get_context("spawn"))
        return self._pool

    def _replace(self) -> None:
        if self._pool is not None:
            for process in list(self._pool._processes.values()):
                process.kill()
            self._pool.shutdown(wait=False, cancel_futures=True)
            self._pool = None
