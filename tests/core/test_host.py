"""The kernel runs in a process of its own: what happens to it is an error here and nothing more."""

from __future__ import annotations

import os
import signal
import threading
import time

import pytest

from lean_ledger.core.basis.errors import FileRefused, LedgerError, PlanError
from lean_ledger.core.geometry.host import KernelHost
from tests.conftest import CASES

PATH = CASES / "features/louvre-bracket.step"


@pytest.fixture
def host():  # type: ignore[no-untyped-def]
    made = KernelHost()
    yield made
    made.close()


def test_killed_kernel_is_a_refusal_and_is_replaced(host: KernelHost) -> None:
    assert host.read_solid(PATH, "one.step").solid.faces
    (worker,) = host._idle
    process = worker.process

    def kill_soon() -> None:
        time.sleep(0.02)
        os.kill(process.pid, signal.SIGKILL)

    killer = threading.Thread(target=kill_soon)
    killer.start()
    try:
        with pytest.raises(FileRefused, match=r"two\.step: the geometry in this file cannot be read"):
            read_until_killed(host)
    finally:
        killer.join()
    assert host.read_solid(PATH, "three.step").solid.volume == pytest.approx(196330.7, rel=1e-5)


def read_until_killed(host: KernelHost) -> None:
    for _ in range(50):
        host.read_part(PATH, "two.step")


def test_missing_file_is_a_refusal(host: KernelHost) -> None:
    with pytest.raises(FileRefused, match="cannot be opened: No such file"):
        host.read_solid(CASES / "no-such.step", "no-such.step")


def test_threads_share_one_kernel(host: KernelHost) -> None:
    volumes: list[float] = []

    def read() -> None:
        volumes.append(host.read_solid(CASES / "features/vane-hub.step", "p.step").solid.volume)

    threads = [threading.Thread(target=read) for _ in range(3)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(volumes) == 3
    assert len(set(volumes)) == 1


@pytest.mark.parametrize("kind", [LedgerError, FileRefused, PlanError])
def test_refusals_survive_the_way_between_processes(kind: type[LedgerError]) -> None:
    import pickle

    error = pickle.loads(pickle.dumps(kind("code", "a sentence", "a place")))
    assert type(error) is kind
    assert (error.code, error.message, error.place) == ("code", "a sentence", "a place")
    assert str(error) == "a place: a sentence"


def test_end_during_calls_refuses_them_and_closes_each_way_once() -> None:
    """Closed by two, the second would close what another part of the program had opened meanwhile."""
    host = KernelHost()
    outcomes: list[object] = []

    def read() -> None:
        try:
            outcomes.append(host.read_solid(PATH, "one.step"))
        except FileRefused as refused:
            outcomes.append(refused.code)

    threads = [threading.Thread(target=read) for _ in range(2)]
    for thread in threads:
        thread.start()
    while len(host._busy) < 2:
        time.sleep(0.01)
    busy = list(host._busy)
    host.close()
    for thread in threads:
        thread.join(30)
    assert outcomes == ["file-crashed-reader"] * 2
    assert all(worker.connection.closed and not worker.process.is_alive() for worker in busy)
    assert (host._busy, host._idle) == (set(), [])
    assert host.read_solid(PATH, "one.step").solid.faces, "who asks after the end gets a process of its own"
    assert host._idle == [], "which does not stay"
