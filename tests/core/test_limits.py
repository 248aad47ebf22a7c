"""Reading has limits of its own, and what hangs holds nobody up."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from lean_ledger.core.basis.errors import FileRefused
from lean_ledger.core.geometry.host import KernelHost

SLOW = "tests.core.slow_calls"
HERE = Path(__file__)


@pytest.fixture
def host() -> Iterator[KernelHost]:
    made = KernelHost(workers=2, slow=0.3, most=60.0)
    yield made
    made.close()


def test_two_that_hang_make_room_for_a_good_one(host: KernelHost) -> None:
    stop = threading.Event()
    refusals: list[str] = []

    def hang(name: str) -> None:
        try:
            host.run(SLOW, "sleeping", HERE, name, 60.0, cancelled=stop.is_set)
        except FileRefused as error:
            refusals.append(error.code)

    threads = [threading.Thread(target=hang, args=(f"{i}",)) for i in range(2)]
    for thread in threads:
        thread.start()
    begun = time.monotonic()
    assert host.run(SLOW, "sleeping", HERE, "good", 0.05) == "good"
    assert time.monotonic() - begun < 30, "it does not wait for the sixty seconds of the others"
    stop.set()
    for thread in threads:
        thread.join()
    assert refusals == ["file-cancelled", "file-cancelled"]


def test_what_takes_long_goes_on_at_a_lower_priority_and_the_next_one_does_not(host: KernelHost) -> None:
    assert host.run(SLOW, "niceness", HERE, "long", 1.5) == 10
    assert host.run(SLOW, "niceness", HERE, "short", 0.0) == 0


def test_reading_ends_after_its_time_however_busy_it_says_it_is() -> None:
    host = KernelHost(most=0.8)
    try:
        with pytest.raises(FileRefused, match="given up after 1 s") as refused:
            host.run(SLOW, "sleeping", HERE, "busy.step", 30.0)
        assert refused.value.code == "file-too-slow"
        assert host.run(SLOW, "sleeping", HERE, "good.step", 0.0) == "good.step"
    finally:
        host.close()


@pytest.mark.parametrize(("kind", "words"), [
    ("deep", "nested too deeply"), ("memory", "more memory"), ("kernel", "not sound enough to be read"),
    ("other", "something went wrong here"),
])  # fmt: skip
def test_what_goes_wrong_in_reading_is_told_in_words_that_help(host: KernelHost, kind: str, words: str) -> None:
    with pytest.raises(FileRefused, match=words) as refused:
        host.run(SLOW, "stumbling", HERE, "odd.step", kind)
    for name in ("Error", "StdFail", "KeyError", "("):
        assert name not in refused.value.message
