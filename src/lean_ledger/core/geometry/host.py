"""Runs the CAD kernel in processes of its own: a crash or a hang there is an error here, and nothing more."""

from __future__ import annotations

import importlib
import logging
import multiprocessing
import os
import resource
import signal
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from lean_ledger.core.basis.collector import keep_what_is_there
from lean_ledger.core.basis.errors import FileRefused, LedgerError
from lean_ledger.core.geometry.model import PartModel, SolidEntry
from lean_ledger.core.geometry.progress import Report, silent

SILENT_SECONDS = 60.0  # without a word from the kernel until it counts as hanging, for a file of up to EASY bytes
EASY = 4 * 1024**2  # larger files get as much more time, for the kernel's own steps say nothing in between
MOST_SECONDS = 150.0  # that one call may take in all, for a file of up to EASY bytes
SLOW_SECONDS = 5.0  # after which a call makes room for others, and goes on at a lower priority
BEHIND = 10  # niceness of what no hand on the keys waits for
YIELDING = 10  # by which the priority of what takes long is lowered
MEMORY = 12 * 1024**3  # bytes of address space that one reading may take
STEP = "lean_ledger.core.geometry.step"
TICK = 0.1

UNREADABLE = "the geometry in this file is not sound enough to be read; mend it in the CAD system and export it again"
FAULT = "something went wrong here while this file was worked on; the log has the details"

log = logging.getLogger("lean_ledger")

Cancelled = Callable[[], bool]


def never() -> bool:
    return False


def load_before(*modules: str) -> None:
    """Have modules loaded once for all kernel processes, beside the kernel itself: to be said before the first begins.

    Each process is forked from one that has loaded them and does nothing else: it is there in milliseconds.
    """
    _CONTEXT.set_forkserver_preload([STEP, *modules])


_CONTEXT = multiprocessing.get_context("forkserver")
load_before()


def _work(connection: Connection) -> None:
    """The kernel's own process: takes one call after another until the pipe closes."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl C is for the server, which then closes the pipe
    with suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    keep_what_is_there(looked_through=False)  # shared with the process it was forked from: not to be written to
    while True:
        try:
            module, name, args = connection.recv()
        except (EOFError, OSError):
            return
        try:
            answer = ("done", _call(connection, module, name, args))
        except LedgerError as error:
            answer = ("refused", error)
        except OSError as error:
            answer = ("failed", f"cannot be opened: {error.strerror}")
        except MemoryError:
            answer = ("failed", "takes more memory to read than there is; simplify the model or split it")
        except RecursionError:
            answer = ("failed", "is nested too deeply to be read; export the part again, without its history")
        except BaseException as error:
            log.exception("%s.%s failed", module, name)
            answer = ("failed", UNREADABLE if type(error).__module__.startswith("OCP") else FAULT)
        with suppress(BrokenPipeError):
            connection.send(answer)


def _call(connection: Connection, module: str, name: str, args: tuple[Any, ...]) -> Any:
    def report(stage: str, share: float) -> None:
        connection.send(("progress", (stage, share)))

    function = getattr(importlib.import_module(module), name)
    return function(*args, report) if args else function()


class _Worker:
    def __init__(self, niceness: int = 0) -> None:
        self.connection, far = _CONTEXT.Pipe()
        self.process = _CONTEXT.Process(target=_work, args=(far,), daemon=True)
        self.process.start()
        far.close()
        if niceness:
            self.hurry(niceness)

    def hurry(self, niceness: int) -> bool:
        """Whether its priority could be set."""
        try:
            os.setpriority(os.PRIO_PROCESS, self.process.pid or 0, niceness)
        except (OSError, AttributeError):
            return False
        return True

    def kill(self) -> None:
        """End it and close the way to it: only for who holds it, since nobody may listen on what is closed."""
        self.process.kill()
        self.connection.close()
        self.process.join(timeout=5)


class _Place:
    """Where a call runs: among the quick ones, until it moves beside them."""

    def __init__(self, quick: threading.Semaphore, beside: threading.Semaphore) -> None:
        self._held, self._beside = quick, beside
        self.moved = False

    def move(self) -> bool:
        """Make room for others, where there is a place beside; whether it has just done so."""
        if self.moved or not self._beside.acquire(blocking=False):
            return False
        self._held.release()
        self._held, self.moved = self._beside, True
        return True

    def leave(self) -> None:
        self._held.release()


class KernelHost:
    """Up to `workers` warm kernel processes, replaced when they die or hang. Safe to share between threads.

    A call that takes long gives its place up and goes on beside: up to `workers` more, so that what is quick does not
    wait for what is slow or hangs.
    """

    def __init__(
        self,
        seconds: float = SILENT_SECONDS,
        workers: int = 2,
        *,
        most: float = MOST_SECONDS,
        slow: float = SLOW_SECONDS,
        niceness: int = 0,
    ) -> None:
        """`niceness` is the priority of its processes: above 0 for what nobody waits for with a hand on the keys."""
        self._niceness = niceness
        self._seconds, self._most, self._slow_after = seconds, most, slow
        self._places = threading.Semaphore(workers)
        self._beside = threading.Semaphore(workers)
        self._lock = threading.Lock()
        self._idle: list[_Worker] = []
        self._busy: set[_Worker] = set()
        self._ended = False

    def warm_up(self) -> None:
        """Have a process begin, so that the first upload does not wait for the kernel to load; returns at once."""
        threading.Thread(target=self._begin, name="warming up", daemon=True).start()

    def _begin(self) -> None:
        with suppress(EOFError, OSError):  # ended before it was needed: the first call has another begin
            worker = _Worker(self._niceness)
            worker.connection.send((STEP, "loaded", ()))
            self._put_back(worker, fit=True)

    def read_part(self, path: Path, name: str, solid_index: int = 0) -> PartModel:
        """Read one solid with its drawings. Raises FileRefused, also for a kernel that crashed or hung."""
        found: PartModel = self.run(STEP, "read_part", path, name, solid_index)
        return found

    def read_solid(self, path: Path, name: str, solid_index: int = 0) -> PartModel:
        """Read one solid without drawings; raises as `read_part` does."""
        found: PartModel = self.run(STEP, "read_solid", path, name, solid_index)
        return found

    def list_solids(self, path: Path, name: str) -> tuple[SolidEntry, ...]:
        """The solids of a file, to choose from; raises as `read_part` does."""
        found: tuple[SolidEntry, ...] = self.run(STEP, "list_solids", path, name)
        return found

    def run(
        self,
        module: str,
        function: str,
        path: Path,
        name: str,
        *args: Any,
        report: Report = silent,
        cancelled: Cancelled = never,
    ) -> Any:
        """Call a function of core on a file in a kernel process.

        The function takes the path, the file's name, `args`, and last a `Report`. Raises FileRefused with code
        file-cancelled, file-too-slow (nothing was heard for too long), file-crashed-reader or file-unreadable, and
        what the function itself refuses.
        """
        times = max(1.0, (path.stat().st_size if path.is_file() else 0) / EASY)
        return self._run(module, function, (path, name, *args), name, times, report, cancelled)

    def call(
        self, module: str, function: str, *args: Any, name: str, report: Report = silent, cancelled: Cancelled = never
    ) -> Any:
        """Call a function of core that takes `args` and last a `Report`; `name` is what a refusal is about."""
        return self._run(module, function, args, name, 1.0, report, cancelled)

    def _run(
        self,
        module: str,
        function: str,
        args: tuple[Any, ...],
        name: str,
        times: float,
        report: Report,
        cancelled: Cancelled,
    ) -> Any:
        while not self._places.acquire(timeout=TICK):
            if cancelled():
                raise FileRefused("file-cancelled", "reading was cancelled", name)
        place = _Place(self._places, self._beside)
        try:
            worker = self._take()
            try:
                worker.connection.send((module, function, args))
                kind, answer = self._listen(worker, name, times, report, cancelled, place)
            except (EOFError, OSError):
                self._drop(worker)
                raise FileRefused(
                    "file-crashed-reader", "the geometry in this file cannot be read; export the part again", name
                ) from None
            except BaseException:
                self._drop(worker)
                raise
            self._put_back(worker, fit=not place.moved or worker.hurry(self._niceness))
        finally:
            place.leave()
        if kind == "refused":
            raise answer
        if kind == "failed":
            raise FileRefused("file-unreadable", answer, name)
        return answer

    def close(self) -> None:
        """End all processes; a call under way is refused, and its own thread puts the worker away."""
        with self._lock:
            idle, busy = self._idle, list(self._busy)
            self._idle, self._ended = [], True
        for worker in busy:
            worker.process.kill()
        for worker in idle:
            worker.kill()

    def _take(self) -> _Worker:
        with self._lock:
            while self._idle:
                worker = self._idle.pop()
                if worker.process.is_alive():
                    break
                worker.kill()
            else:
                worker = _Worker(self._niceness)
            self._busy.add(worker)
        return worker

    def _put_back(self, worker: _Worker, *, fit: bool) -> None:
        """For the next call, where it is fit for one and there will be any."""
        with self._lock:
            fit = fit and not self._ended
            if fit:
                self._busy.discard(worker)
                self._idle.append(worker)
        if not fit:
            self._drop(worker)

    def _drop(self, worker: _Worker) -> None:
        with self._lock:
            self._busy.discard(worker)
        worker.kill()

    def _listen(
        self, worker: _Worker, name: str, times: float, report: Report, cancelled: Cancelled, place: _Place
    ) -> tuple[str, Any]:
        begun = heard = time.monotonic()
        while True:
            if worker.connection.poll(TICK):
                kind, content = worker.connection.recv()
                if kind == "progress":
                    heard = time.monotonic()
                    report(*content)
                elif content is not LOADED_ANSWER:
                    return kind, content
            if cancelled():
                raise FileRefused("file-cancelled", "reading was cancelled", name)
            now = time.monotonic()
            for spent, patience in ((now - heard, times * self._seconds), (now - begun, times * self._most)):
                if spent > patience:
                    raise FileRefused(
                        "file-too-slow", f"reading was given up after {patience:.0f} s; simplify the model", name
                    )
            if now - begun > self._slow_after and place.move():
                worker.hurry(self._niceness + YIELDING)


class KernelHere(KernelHost):
    """The same in the process that asks, for one that is itself beside the server."""

    def __init__(self) -> None:
        super().__init__()

    def _run(
        self,
        module: str,
        function: str,
        args: tuple[Any, ...],
        name: str,
        times: float,
        report: Report,
        cancelled: Cancelled,
    ) -> Any:
        return getattr(importlib.import_module(module), function)(*args, report)


#: What the warm-up call answers: nothing that anybody waits for.
LOADED_ANSWER = None
