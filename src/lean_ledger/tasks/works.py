"""Long work beside the requests: each has its place in line, its stage and share done, and can be cancelled.

Work is known by what it is asked about. Who asks for the same again finds the same work, or what came of it.
"""

from __future__ import annotations

import logging
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, replace
from enum import StrEnum
from uuid import uuid4

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.geometry.host import Cancelled
from lean_ledger.core.geometry.progress import Report

AT_ONCE = 2  # of a lane: one that takes long does not hold up another kind
KEPT = 100  # works remembered with what came of them

log = logging.getLogger("lean_ledger")


class WorkState(StrEnum):
    WAITING = "waiting"
    WORKING = "working"
    DONE = "done"
    FAILED = "failed"
    CANCELLED = "cancelled"


ENDED = (WorkState.DONE, WorkState.FAILED, WorkState.CANCELLED)


@dataclass(frozen=True)
class Work:
    """How far a piece of work is; `place` counts those before it in line, 0 once it has begun."""

    id: str
    title: str
    state: WorkState = WorkState.WAITING
    place: int = 0
    stage: str = "waiting"
    share: float = 0.0


Make = Callable[[Report, Cancelled], bytes]


@dataclass
class _Held:
    work: Work
    lane: str
    make: Make
    stop: threading.Event = field(default_factory=threading.Event)
    ended: threading.Event = field(default_factory=threading.Event)
    answer: bytes | None = None
    error: LedgerError | None = None


class Works:
    """Safe to share between threads. What came of a work is kept for a while, a refusal as well."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._held: OrderedDict[Hashable, _Held] = OrderedDict()
        self._lanes: dict[str, ThreadPoolExecutor] = {}

    def ask(self, key: Hashable, title: str, lane: str, make: Make, patience: float = 0.0) -> bytes | Work:
        """The answer where it is there, else the work that makes it, begun now if nobody asked before.

        It is waited for as many seconds as `patience`: what is quick needs no second question. Raises the LedgerError
        that the work ended with, once; asked again it begins anew.
        """
        found, ended = self._asked(key, title, lane, make)
        if ended is None or not ended.wait(patience):
            return found
        return self._asked(key, title, lane, make)[0]

    def _asked(self, key: Hashable, title: str, lane: str, make: Make) -> tuple[bytes | Work, threading.Event | None]:
        """And what is set when it has ended, where it has not."""
        with self._lock:
            held = self._held.get(key)
            if held is not None and held.work.state in (WorkState.FAILED, WorkState.CANCELLED):
                del self._held[key]
                if held.error is not None:
                    raise held.error
                held = None
            if held is None:
                held = _Held(Work(uuid4().hex, title), lane, make)
                self._held[key] = held
                self._forget()
                if lane not in self._lanes:
                    self._lanes[lane] = ThreadPoolExecutor(AT_ONCE, thread_name_prefix=lane)
                self._lanes[lane].submit(self._run, held)
            self._held.move_to_end(key)
            if held.answer is not None:
                return held.answer, None
            return self._placed(held), held.ended

    def get(self, id: str) -> Work | None:
        with self._lock:
            held = self._find(id)
            return self._placed(held) if held else None

    def cancel(self, id: str) -> Work | None:
        """Stop a work; one that is done stays done."""
        with self._lock:
            held = self._find(id)
            if held is None:
                return None
            held.stop.set()
            if held.work.state == WorkState.WAITING:
                held.work = replace(held.work, state=WorkState.CANCELLED, stage="cancelled")
            return held.work

    def close(self) -> None:
        with self._lock:
            for held in self._held.values():
                held.stop.set()
            lanes = list(self._lanes.values())
        for lane in lanes:
            lane.shutdown(wait=False, cancel_futures=True)

    def _run(self, held: _Held) -> None:
        with self._lock:
            if held.stop.is_set():
                return
            held.work = replace(held.work, state=WorkState.WORKING, stage="begun")

        def report(stage: str, share: float) -> None:
            with self._lock:
                held.work = replace(held.work, stage=stage, share=share)

        state = WorkState.FAILED
        try:
            held.answer = held.make(report, held.stop.is_set)
            state = WorkState.DONE
        except LedgerError as error:
            if held.stop.is_set():
                state = WorkState.CANCELLED
            else:
                held.error = error
        except Exception:
            log.exception("%s failed", held.work.title)
            words = f"{held.work.title}: something went wrong here; nothing was changed. The log has the details"
            held.error = LedgerError("bug", words)
        with self._lock:
            held.work = replace(held.work, state=state, stage=state.value, share=1.0 if held.answer else 0.0)
        held.ended.set()

    def _find(self, id: str) -> _Held | None:
        return next((held for held in self._held.values() if held.work.id == id), None)

    def _placed(self, held: _Held) -> Work:
        if held.work.state != WorkState.WAITING:
            return held.work
        line = [h for h in self._held.values() if h.lane == held.lane and h.work.state == WorkState.WAITING]
        return replace(held.work, place=1 + line.index(held))

    def _forget(self) -> None:
        ended = [key for key, held in self._held.items() if held.work.state in ENDED]
        for key in ended[: max(0, len(self._held) - KEPT)]:
            del self._held[key]
