"""Half of a long computation in a process of its own: what comes over, and what does not, is the same."""

from __future__ import annotations

import os
from functools import partial

import pytest

from lean_ledger.core.basis.forked import beside


def squared(n: int, *, dies_at: int = -1, own: int = 0) -> tuple[int, int]:
    """The square, and which process made it; where it is told to, another process than `own` dies."""
    if n == dies_at and os.getpid() != own:
        os._exit(1)
    return n * n, os.getpid()


def test_another_process_makes_them_in_order() -> None:
    with beside([partial(squared, n) for n in range(4)]) as found:
        made = found()
    assert [n for n, _ in made] == [0, 1, 4, 9]
    (other,) = {pid for _, pid in made}
    assert other != os.getpid()


def test_what_a_process_that_dies_would_have_made_is_made_here() -> None:
    with beside([partial(squared, n, dies_at=2, own=os.getpid()) for n in range(4)]) as found:
        made = found()
    assert [n for n, _ in made] == [0, 1, 4, 9]
    assert [pid == os.getpid() for _, pid in made] == [True] * 4


def test_it_is_gone_with_its_block_and_its_error_is_raised_here(monkeypatch: pytest.MonkeyPatch) -> None:
    def fails() -> int:
        raise ValueError("no such view")

    begun: list[int] = []
    fork = os.fork
    monkeypatch.setattr(os, "fork", lambda: begun.append(pid := fork()) or pid)
    with pytest.raises(ValueError, match="no such view"), beside([fails]) as found:
        found()
    with pytest.raises(ChildProcessError):
        os.waitpid(begun[0], os.WNOHANG)
