"""Work beside the requests: in line, watched, shared by all that ask, stopped on demand."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator

import pytest

from lean_ledger.core.basis.errors import LedgerError, PlanError
from lean_ledger.core.geometry.host import Cancelled
from lean_ledger.core.geometry.progress import Report
from lean_ledger.tasks import Work, Works, WorkState
from lean_ledger.tasks import works as module


@pytest.fixture
def works() -> Iterator[Works]:
    made = Works()
    yield made
    made.close()


class Held:
    """Work that goes on until it is let go."""

    def __init__(self, answer: bytes = b"{}") -> None:
        self.begun, self.go, self.count = threading.Event(), threading.Event(), 0
        self._answer = answer

    def __call__(self, report: Report, cancelled: Cancelled) -> bytes:
        self.count += 1
        report("half way", 0.5)
        self.begun.set()
        while not self.go.wait(0.01):
            if cancelled():
                raise LedgerError("file-cancelled", "stopped")
        return self._answer


def ended(works: Works, id: str) -> Work:
    while (now := works.get(id)) is not None and now.state not in module.ENDED:
        time.sleep(0.005)
    assert now is not None
    return now


def begin(works: Works, key: str, make: Held, lane: str = "a") -> Work:
    found = works.ask(key, f"work {key}", lane, make)
    assert isinstance(found, Work)
    return found


def test_work_is_watched_and_its_answer_is_there_for_all_that_ask(works: Works) -> None:
    held = Held(b"42")
    first = begin(works, "x", held)
    assert held.begun.wait(5)
    now = begin(works, "x", held)
    assert now.id == first.id
    assert (now.state, now.place, now.stage, now.share) == (WorkState.WORKING, 0, "half way", 0.5)
    held.go.set()
    assert ended(works, first.id).state == WorkState.DONE
    assert works.ask("x", "", "a", held) == b"42"
    assert held.count == 1


def test_place_in_line_counts_those_before_it_in_its_lane(works: Works) -> None:
    holding = [Held() for _ in range(module.AT_ONCE)]
    for i, held in enumerate(holding):
        begin(works, f"h{i}", held)
        assert held.begun.wait(5)
    waiting = [begin(works, f"w{i}", Held()) for i in range(3)]
    assert [works.get(w.id).place for w in waiting] == [1, 2, 3]  # type: ignore[union-attr]
    other = Held()
    begin(works, "other", other, lane="b")
    assert other.begun.wait(5), "another kind is not held up"
    works.cancel(waiting[0].id)
    assert [works.get(w.id).place for w in waiting[1:]] == [1, 2]  # type: ignore[union-attr]
    for held in (*holding, other):
        held.go.set()


def test_stopped_work_ends_and_begins_anew_when_it_is_asked_for_again(works: Works) -> None:
    held = Held()
    first = begin(works, "x", held)
    assert held.begun.wait(5)
    works.cancel(first.id)
    assert ended(works, first.id).state == WorkState.CANCELLED
    again = begin(works, "x", held)
    assert again.id != first.id
    held.go.set()
    assert ended(works, again.id).state == WorkState.DONE


@pytest.mark.parametrize(
    ("error", "code"), [(PlanError("no-such", "there is none"), "no-such"), (KeyError("x"), "bug")]
)
def test_refusal_is_told_once_and_a_fault_in_words(works: Works, error: Exception, code: str) -> None:
    def fails(_report: Report, _cancelled: Cancelled) -> bytes:
        raise error

    found = works.ask("x", "Trying", "a", fails)
    assert isinstance(found, Work)
    assert ended(works, found.id).state == WorkState.FAILED
    with pytest.raises(LedgerError) as told:
        works.ask("x", "Trying", "a", fails)
    assert told.value.code == code
    assert isinstance(works.ask("x", "Trying", "a", fails), Work)


def test_old_answers_are_forgotten_and_what_is_under_way_is_not(works: Works, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "KEPT", 3)
    held = Held()
    first = begin(works, "held", held)
    for i in range(8):
        done = works.ask(i, "", "b", lambda _r, _c: b"1")
        if isinstance(done, Work):
            ended(works, done.id)
    assert works.get(first.id) is not None
    assert sum(isinstance(works.ask(i, "", "b", lambda _r, _c: b"1"), bytes) for i in range(8)) < 8
    held.go.set()


def test_unknown_work_is_none(works: Works) -> None:
    assert works.get("x") is None
    assert works.cancel("x") is None
