"""The plan that a new job begins with: its stock is known where that does not take long."""

from __future__ import annotations

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.first.again import BeginAgain
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.store import Desk, JobQuery, StaleEdition
from lean_ledger.store import beginning as module
from tests.conftest import journal_words
from tests.store.test_desk import new


def test_stock_that_decided_is_there_when_the_job_is_opened(desk: Desk) -> None:
    assert isinstance(desk.open(desk.add_job(new(machine=""))).followed, Followed)


def test_no_stock_is_waited_for_beyond_the_time(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "SOON", -1.0)
    opened = desk.open(desk.add_job(new(machine="")))
    assert opened.followed is None
    assert {load.machine for load in opened.plan.loads} == {"mill-500"}, "the cheapest all the same"


def test_stock_that_takes_too_long_is_let_go(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    """The time is up while it is followed: the cheapest plan stands, and nothing is said against it."""
    monkeypatch.setattr(module, "monotonic", iter([0.0, 0.0, *[100.0] * 1000]).__next__)
    plan = desk.add_job(new(machine=""))
    assert desk.open(plan).followed is None
    (words,) = journal_words(desk, plan)
    assert "passed over" not in words


def test_machine_that_there_is_not_keeps_no_job(desk: Desk) -> None:
    with pytest.raises(PlanError, match="there is no machine 'mill-9'"):
        desk.add_job(new(machine="mill-9"))
    assert desk.jobs(JobQuery()).all == 0


def test_begun_again_is_one_line_that_undo_takes_back(desk: Desk) -> None:
    plan = desk.add_job(new(machine="mill-762"))
    before = desk.open(plan)
    opened = desk.change(plan, 1, BeginAgain(("mill-500",)), "Imke")
    assert {load.machine for load in opened.plan.loads} == {"mill-500"}
    assert journal_words(desk, plan)[-1].startswith("begun again on Mill 2: ")
    assert opened.version.author == "Imke"
    with pytest.raises(StaleEdition):
        desk.change(plan, 1, BeginAgain(("mill-762",)), "Imke")
    assert desk.undo(plan, opened.edition).plan == before.plan
