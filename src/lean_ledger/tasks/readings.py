"""Files being read in the background, each with its stage, its share done, and a way to stop it."""

from __future__ import annotations

import logging
import threading
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, replace
from enum import StrEnum
from uuid import uuid4

from lean_ledger.core.basis.errors import FileRefused, LedgerError, PlanError
from lean_ledger.core.geometry.model import SolidEntry
from lean_ledger.store import Desk, JobNew, RevisionNew

AT_ONCE = 4  # files under way; how many of them hold a quick place is the host's to say
KEPT = 200  # readings remembered; the oldest ended ones are forgotten first

log = logging.getLogger("lean_ledger")


class State(StrEnum):
    WAITING = "waiting"
    READING = "reading"
    CHOOSE = "choose"  # the file holds several solids
    ASK = "ask"  # its size is odd: `question` says why
    DONE = "done"
    FAILED = "failed"
    CANCELLED = "cancelled"


@dataclass(frozen=True)
class Reading:
    """How far one file is. `plan_id` or `revision` says what came of it."""

    id: str
    file_name: str
    state: State = State.WAITING
    stage: str = "waiting"
    share: float = 0.0
    code: str = ""
    error: str = ""
    question: str = ""
    solids: tuple[SolidEntry, ...] = ()
    plan_id: int | None = None
    revision: str = ""


@dataclass
class _Kept:
    reading: Reading
    wanted: JobNew | RevisionNew
    stop: threading.Event = field(default_factory=threading.Event)


class Readings:
    """Safe to share between threads."""

    def __init__(self, desk: Desk, planned: Callable[[int], None] = lambda plan_id: None) -> None:
        """`planned` is told of each plan that a file became."""
        self._desk = desk
        self._planned = planned
        self._pool = ThreadPoolExecutor(AT_ONCE, thread_name_prefix="reading")
        self._lock = threading.Lock()
        self._kept: OrderedDict[str, _Kept] = OrderedDict()

    def start(self, wanted: JobNew | RevisionNew, *, solid_chosen: bool = False) -> Reading:
        """Begin to read a file; a file with several solids asks which one first, unless it was chosen."""
        name = wanted.file_name if isinstance(wanted, JobNew) else wanted.upload.file_name
        kept = _Kept(Reading(uuid4().hex, name), wanted)
        with self._lock:
            self._kept[kept.reading.id] = kept
            self._forget()
        self._pool.submit(self._run, kept, solid_chosen=solid_chosen)
        return kept.reading

    def get(self, id: str) -> Reading | None:
        with self._lock:
            kept = self._kept.get(id)
            return kept.reading if kept else None

    def cancel(self, id: str) -> Reading | None:
        """Stop a reading; what is done already stays done."""
        with self._lock:
            kept = self._kept.get(id)
            if kept is None:
                return None
            kept.stop.set()
            if kept.reading.state in (State.WAITING, State.CHOOSE, State.ASK):
                kept.reading = replace(kept.reading, state=State.CANCELLED, stage="cancelled")
            return kept.reading

    def choose(self, id: str, solid: int) -> Reading | None:
        """Go on with one of a file's solids. Raises FileRefused where it has no such solid or does not ask."""
        with self._lock:
            kept = self._kept.get(id)
            if kept is None:
                return None
            if kept.reading.state != State.CHOOSE or not 0 <= solid < len(kept.reading.solids):
                raise FileRefused(
                    "file-no-such-solid",
                    f"there is no solid {solid} to choose; the file has {len(kept.reading.solids)}, numbered from 0",
                    kept.reading.file_name,
                )
            kept.wanted = _with_solid(kept.wanted, solid)
            kept.reading = replace(kept.reading, state=State.WAITING, stage="waiting", share=0.0)
        self._pool.submit(self._run, kept, solid_chosen=True)
        return kept.reading

    def mean_it(self, id: str) -> Reading | None:
        """Go on with a size that was asked about. Raises PlanError where nothing is asked."""
        with self._lock:
            kept = self._kept.get(id)
            if kept is None:
                return None
            if kept.reading.state != State.ASK:
                raise PlanError("nothing-asked", f"nothing is asked about {kept.reading.file_name}")
            kept.wanted = replace(kept.wanted, size_meant=True)
            kept.reading = replace(kept.reading, state=State.WAITING, stage="waiting", share=0.0, question="")
        self._pool.submit(self._run, kept, solid_chosen=True)
        return kept.reading

    def close(self) -> None:
        with self._lock:
            for kept in self._kept.values():
                kept.stop.set()
        self._pool.shutdown(wait=False, cancel_futures=True)

    def _run(self, kept: _Kept, *, solid_chosen: bool) -> None:
        if kept.stop.is_set():
            return
        try:
            self._set(kept, state=State.READING, stage="reading the file")
            if not solid_chosen and self._asks(kept):
                return
            if isinstance(kept.wanted, JobNew):
                plan_id = self._desk.add_job(kept.wanted, self._reporter(kept), kept.stop.is_set)
                self._set(kept, state=State.DONE, stage="done", share=1.0, plan_id=plan_id)
                self._planned(plan_id)
            else:
                letter = self._desk.add_revision(kept.wanted, self._reporter(kept), kept.stop.is_set)
                self._set(kept, state=State.DONE, stage="done", share=1.0, revision=letter)
        except LedgerError as error:
            if error.code == "size-asked":
                self._set(kept, state=State.ASK, stage="is that its size?", question=error.message)
                return
            state = State.CANCELLED if error.code == "file-cancelled" else State.FAILED
            self._set(kept, state=state, stage=state.value, code=error.code, error=str(error))
        except Exception:
            log.exception("reading %s failed", kept.reading.file_name)
            text = f"{kept.reading.file_name}: something went wrong here; nothing was kept. The log has the details"
            self._set(kept, state=State.FAILED, stage="failed", code="bug", error=text)

    def _asks(self, kept: _Kept) -> bool:
        solids = self._desk.files.several(kept.wanted.upload, self._reporter(kept), kept.stop.is_set)
        if not solids:
            return False
        self._set(kept, state=State.CHOOSE, stage="which solid?", share=0.0, solids=solids)
        return True

    def _reporter(self, kept: _Kept) -> Callable[[str, float], None]:
        def report(stage: str, share: float) -> None:
            self._set(kept, stage=stage, share=share)

        return report

    def _set(self, kept: _Kept, **values: object) -> None:
        with self._lock:
            kept.reading = replace(kept.reading, **values)  # type: ignore[arg-type]

    def _forget(self) -> None:
        ended = [
            id for id, kept in self._kept.items() if kept.reading.state in (State.DONE, State.FAILED, State.CANCELLED)
        ]
        for id in ended[: max(0, len(self._kept) - KEPT)]:
            del self._kept[id]


def _with_solid(wanted: JobNew | RevisionNew, solid: int) -> JobNew | RevisionNew:
    if isinstance(wanted, JobNew):
        return replace(wanted, solid=solid)
    return replace(wanted, upload=replace(wanted.upload, solid=solid))
