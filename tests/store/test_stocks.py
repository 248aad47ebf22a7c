"""The stock that a desk follows: kept by what it was computed from, not followed for what nobody looks at any more."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.changes import read_change
from lean_ledger.core.followed.cuts import Course
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.store import Desk, JobNew
from tests.conftest import DEMO_PARTS


def new_plan(desk: Desk) -> int:
    content = (DEMO_PARTS / "anemometer-arm-block.step").read_bytes()
    return desk.add_job(JobNew("arm.step", content, "al-6082", (10,)))


def change(desk: Desk, plan: int, **values: object) -> None:
    desk.change(plan, desk.open(plan).edition, read_change(values), "planner")


def test_followed_stock_joins_the_findings_and_comes_back_with_undo(desk: Desk) -> None:
    plan = new_plan(desk)
    assert desk.open(plan).followed is None
    first = desk.follow_stock(plan)
    assert isinstance(first.followed, Followed)
    assert first.followed.steps
    change(desk, plan, change="set-allowance", side="Z+", value=3)
    assert desk.open(plan).followed is None, "another plan, another stock"
    desk.undo(plan, desk.open(plan).edition)
    assert desk.open(plan).followed is first.followed, "what was computed is not computed again"


def test_without_the_stock_the_ledger_is_its_own(desk: Desk) -> None:
    plan = new_plan(desk)
    desk.follow_stock(plan)
    assert desk.open(plan, with_stock=False).ledger.findings == desk.open(plan).ledger.findings


def test_stock_of_an_edition_that_is_gone_is_not_followed(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    plan = new_plan(desk)
    calls: list[Course] = []
    kept = desk.stocks.follow

    def late(key: object, course: Course, wanted: Callable[[], bool], *watched: Any) -> None:
        change(desk, plan, change="set-allowance", side="Z+", value=4)  # while the request waits for its turn
        kept(key, course, lambda: calls.append(course) or wanted(), *watched)  # type: ignore[func-returns-value,arg-type]

    monkeypatch.setattr(desk.stocks, "follow", late)
    assert desk.follow_stock(plan).followed is None
    assert len(calls) == 1


def test_refusal_is_kept_and_said(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    plan = new_plan(desk)
    tries = []

    def refuse(*args: object, **named: object) -> None:
        tries.append(args)
        raise LedgerError("mesh-open", "the part's triangles leave gaps")

    monkeypatch.setattr(desk.stocks._kernel, "call", refuse)
    opened = desk.follow_stock(plan)
    assert isinstance(opened.followed, LedgerError)
    assert opened.ledger.findings[-1].code == "stock-unknown"
    desk.follow_stock(plan)
    assert len(tries) == 1
