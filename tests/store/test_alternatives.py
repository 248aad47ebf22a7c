"""Several plans of a job: forked, named, chosen, put away; nothing of the plan that they come from changes."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from pathlib import Path

import pytest
from alembic import command
from sqlalchemy import update

from lean_ledger.core.basis.errors import LedgerError, PlanError
from lean_ledger.core.changes import read_change
from lean_ledger.store import Database, Desk, JobQuery
from lean_ledger.store.database import migration_config
from lean_ledger.store.models import VersionRow
from tests.conftest import journal_words
from tests.store.test_desk import MARGIN, THREAD, new


@pytest.fixture
def plan_id(desk: Desk) -> int:
    first = desk.add_job(new())
    desk.change(first, 1, read_change(THREAD), "Imke")
    return first


def test_fork_begins_at_a_line_and_goes_its_own_way(desk: Desk, plan_id: int) -> None:
    before = desk.open(plan_id)
    fork = desk.alternatives.fork(plan_id, 1, "plain holes", "Per")
    there = desk.open(fork)
    assert there.plan.threads == ()
    assert there.job.id == before.job.id
    assert (there.name, there.chosen, there.plans) == ("plain holes", False, 2)
    assert journal_words(desk, fork)[0].startswith("forked from “quick price”, line 1: quick price: ")
    desk.change(fork, 1, read_change(MARGIN), "Per")
    assert desk.open(plan_id).plan == before.plan
    assert len(journal_words(desk, plan_id)) == 2


def test_changes_come_with_the_fork_each_a_line_with_its_effect(desk: Desk, plan_id: int) -> None:
    fork = desk.alternatives.fork(plan_id, None, "", "Per", [read_change(MARGIN)])
    there, before = desk.open(fork), desk.open(plan_id)
    assert (there.name, there.version.seq, there.can_undo) == ("quick price 2", 2, True)
    assert there.effect.each == there.ledger.prices[0].each - before.ledger.prices[0].each > 0
    desk.undo(fork, there.edition)
    assert desk.open(fork).plan == before.plan


def test_change_that_is_refused_leaves_no_plan(desk: Desk, plan_id: int) -> None:
    bad = read_change({"change": "set-hold", "setup": "S9", "fixture": "vise-100", "turn": 0})
    with pytest.raises(PlanError, match="no setup S9"):
        desk.alternatives.fork(plan_id, None, "x", "Per", [read_change(MARGIN), bad])
    with pytest.raises(PlanError, match="no line 7"):
        desk.alternatives.fork(plan_id, 7, "x", "Per")
    assert len(desk.alternatives.of(plan_id)) == 1


def test_line_that_is_damaged_is_said_and_not_forked(desk: Desk, plan_id: int) -> None:
    with desk._database.writing() as session:
        session.execute(
            update(VersionRow).where(VersionRow.plan == plan_id, VersionRow.seq == 1).values(decisions="{}")
        )
    with pytest.raises(LedgerError, match="line 1 of its journal is damaged"):
        desk.alternatives.fork(plan_id, 1, "x", "Per")


def test_one_is_chosen_and_the_list_shows_it_with_the_others(desk: Desk, plan_id: int) -> None:
    fork = desk.alternatives.fork(plan_id, 1, "plain holes", "Per")
    (line,) = desk.jobs(JobQuery()).lines
    assert line.plan_id == plan_id
    assert [(id, name) for id, name, _ in line.others] == [(fork, "plain holes")]
    state = desk.state(plan_id)
    desk.alternatives.choose(fork, "Per")
    chosen = desk.alternatives.of(fork)[0]
    assert (chosen.name, chosen.chosen_by, chosen.chosen_at is not None) == ("plain holes", "Per", True)
    assert desk.state(plan_id) != state, "what is shown of it is another"
    (line,) = desk.jobs(JobQuery()).lines
    assert (line.plan_id, line.plan_name) == (fork, "plain holes")
    assert [chosen.chosen for chosen in desk.alternatives.of(plan_id)] == [True, False]


def test_put_away_and_brought_back_but_never_the_chosen_one(desk: Desk, plan_id: int) -> None:
    fork = desk.alternatives.fork(plan_id, None, "other", "Per")
    desk.alternatives.put_away(fork, away=True)
    assert desk.jobs(JobQuery()).lines[0].others == ()
    assert desk.open(plan_id).plans == 1
    assert desk.alternatives.of(plan_id)[1].put_away, "it is still there"
    desk.alternatives.put_away(fork, away=False)
    assert desk.open(plan_id).plans == 2
    with pytest.raises(PlanError, match="choose another plan first"):
        desk.alternatives.put_away(plan_id, away=True)


@pytest.mark.parametrize(("name", "words"), [("", "needs a name"), ("quick price", "already"), ("a\nb", "one line")])
def test_name_that_cannot_be(desk: Desk, plan_id: int, name: str, words: str) -> None:
    fork = desk.alternatives.fork(plan_id, None, "other", "Per")
    with pytest.raises(PlanError, match=words):
        desk.alternatives.rename(fork, name)


def test_plans_of_another_job_are_not_compared(desk: Desk, plan_id: int) -> None:
    stranger = desk.add_job(new(number="other"))
    with pytest.raises(PlanError, match=f"no plan {stranger}"):
        desk.alternatives.ledgers(plan_id, [plan_id, stranger])


def test_job_from_before_there_were_alternatives_is_made_by_its_first_plan(tmp_path: Path) -> None:
    path = tmp_path / "old.sqlite"
    database = Database(path)
    with database._engine.connect().execution_options(migrating=True) as connection:
        command.downgrade(migration_config(connection), "0007")
        connection.exec_driver_sql("INSERT INTO job VALUES (1, 'J', 'x', '', 'quoting', NULL, '2026-01-01 00:00:00')")
        for id in (3, 4):
            connection.exec_driver_sql(
                f"INSERT INTO plan (id, job, name, edition, current) VALUES ({id}, 1, 'x', 1, 1)"
            )
        connection.commit()
    database.close()
    Database(path).close()
    with closing(sqlite3.connect(path)) as there:
        assert there.execute("SELECT id, chosen, put_away, origin FROM plan").fetchall() == [
            (3, 1, 0, ""),
            (4, 0, 0, ""),
        ]
