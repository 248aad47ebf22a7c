"""The stock that a desk follows: kept by what it was computed from, not followed for what nobody looks at any more."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from sqlalchemy import func, select, update

from lean_ledger.core.basis.errors import FileRefused, LedgerError, PlanError
from lean_ledger.core.changes import read_change
from lean_ledger.core.followed.cuts import Course
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.store import Database, Desk, JobNew
from lean_ledger.store.followed import row_key
from lean_ledger.store.job_list import JobQuery
from lean_ledger.store.models import FollowedRow
from lean_ledger.tasks import Following
from tests.conftest import DEMO_PARTS


def new_plan(desk: Desk) -> int:
    content = (DEMO_PARTS / "anemometer-arm-block.step").read_bytes()
    return desk.add_job(JobNew("arm.step", content, "al-6082", (10,), machine="mill-762"))


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


def test_papers_are_issued_from_a_plan_whose_stock_is_followed(desk: Desk) -> None:
    plan = new_plan(desk)
    assert desk.open(plan).followed is None
    issued = desk.issued(plan)
    assert isinstance(issued.followed, Followed)
    assert desk.open(plan).followed is issued.followed


def test_nothing_is_issued_from_a_plan_that_moved_on_meanwhile(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    plan = new_plan(desk)
    monkeypatch.setattr(desk, "_is_current", lambda *_: False)
    with pytest.raises(PlanError, match="ask again") as refused:
        desk.issued(plan)
    assert refused.value.code == "stock-not-followed"


def test_list_says_whether_the_stock_was_followed_and_the_rest_is_followed_by_itself(desk: Desk) -> None:
    plans = [new_plan(desk), new_plan(desk)]
    assert [row.summary.followed for row in desk.jobs(JobQuery()).lines if row.summary] == [False, False]
    assert set(desk.unfollowed(10)) == set(plans)
    assert len(desk.unfollowed(1)) == 1
    following = Following(desk, quiet=0.0)
    following.start()
    following._thread.join(60)
    assert desk.unfollowed(10) == ()
    assert all(row.summary and row.summary.followed for row in desk.jobs(JobQuery()).lines)
    following.close()


def test_planning_is_told_setup_by_setup_and_can_be_cancelled(desk: Desk) -> None:
    content = (DEMO_PARTS / "mast-clamp-half.step").read_bytes()
    stages: list[str] = []

    def planning() -> bool:
        return bool(stages) and stages[-1] == "planning setup S1"

    with pytest.raises(FileRefused, match="planning was cancelled"):
        desk.add_job(JobNew("clamp.step", content, "al-6082", (10,)), lambda stage, _: stages.append(stage), planning)
    assert stages[-1] == "planning setup S1"
    assert desk.plans_by_number() == {}, "nothing of it is kept"
    desk.add_job(JobNew("clamp.step", content, "al-6082", (10,)), lambda stage, _: stages.append(stage))
    assert stages[-2:] == ["planning setup S1", "planning setup S2"]


def restarted(desk: Desk) -> Desk:
    """The server started again on the same database, with nothing in memory."""
    return Desk(Database(desk.path), desk.library, desk.files._kernel)


def test_what_was_followed_is_there_at_once_after_a_start(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    plan = new_plan(desk)
    before = desk.follow_stock(plan)
    again = restarted(desk)
    monkeypatch.setattr(again.stocks, "follow", lambda *_: pytest.fail("followed twice"))
    assert again.open(plan).followed is None
    after = again.follow_stock(plan)
    assert after.followed == before.followed
    assert after.ledger.findings == before.ledger.findings
    again.stocks.close()


def test_rows_that_cannot_be_read_and_other_plans_are_followed_anew(desk: Desk) -> None:
    plan = new_plan(desk)
    before = desk.follow_stock(plan).followed
    database = Database(desk.path)
    with database.writing() as session:
        session.execute(update(FollowedRow).values(content=b"torn"))
    again = restarted(desk)
    assert again.follow_stock(plan).followed == before
    change(again, plan, change="set-allowance", side="Z+", value=3)
    other = again.follow_stock(plan).followed
    assert isinstance(other, Followed)
    assert isinstance(before, Followed)
    assert other.start > before.start, "3 mm more on top"
    with database.reading() as session:
        assert session.scalar(select(func.count()).select_from(FollowedRow)) == 2
    again.stocks.close()


def test_another_build_or_library_follows_anew(desk: Desk) -> None:
    key = desk.open(new_plan(desk)).key
    assert row_key(key, "this") == row_key(key, "this")
    assert row_key(key, "this") != row_key(key, "another")
