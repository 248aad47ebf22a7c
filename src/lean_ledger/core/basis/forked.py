"""A second process for half of a long computation: it knows all that this one knows, and hands back what it found."""

from __future__ import annotations

import os
import pickle
import signal
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from typing import TypeVar

T = TypeVar("T")


@contextmanager
def beside(makes: Sequence[Callable[[], T]]) -> Iterator[Callable[[], list[T]]]:
    """Begins to make several things, one after the other, in a process of its own; what is given waits for them, or
    makes them here where that process failed or could not begin.

    For processes that run nothing else. The other one is ended with the block; it ends by itself, between two things,
    once this one is gone.
    """
    here = os.getpid()
    far, near = os.pipe()
    try:
        child = os.fork()
    except OSError:
        child = -1
    if child == 0:
        _make(makes, near, here)
    os.close(near)
    with os.fdopen(far, "rb") as come:

        def found() -> list[T]:
            try:
                there: list[T] = pickle.load(come)
            except (EOFError, pickle.UnpicklingError):
                return [make() for make in makes]
            return there

        try:
            yield found
        finally:
            if child > 0:
                with suppress(ProcessLookupError):
                    os.kill(child, signal.SIGKILL)
                os.waitpid(child, 0)


def _make(makes: Sequence[Callable[[], T]], near: int, parent: int) -> None:
    """All of them before the first is sent: a pipe takes little until somebody listens."""
    try:
        # what it has inherited it would keep open beyond the end of the one that has to be seen to end
        os.closerange(3, near)
        os.closerange(near + 1, os.sysconf("SC_OPEN_MAX"))
        made = []
        for make in makes:
            if os.getppid() != parent:
                return
            made.append(make())
        with os.fdopen(near, "wb") as out:
            pickle.dump(made, out, pickle.HIGHEST_PROTOCOL)
    finally:
        os._exit(0)  # nothing of this process is its own to tidy up
