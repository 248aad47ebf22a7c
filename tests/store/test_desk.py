"""Keeping plans: nothing confirmed is lost, nothing is overwritten unseen."""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext

from lean_ledger.core.basis.errors import FileRefused, PlanError
from lean_ledger.core.changes import read_change
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.store import Database, Desk, JobNew, JobQuery, StaleEdition, database
from lean_ledger.store.ledgers import Key
from lean_ledger.store.models import Base
from lean_ledger.store.shelf import Shelf
from tests.conftest import CASES, DEMO_PARTS, journal_words

THREAD = {"change": "set-thread", "diameter": 3.3, "thread": "M4"}
MARGIN = {"change": "set-rate", "name": "margin", "value": "0.4"}


def new(**changes: Any) -> JobNew:
    content = (DEMO_PARTS / "anemometer-arm-block.step").read_bytes()
    return JobNew(**{"file_name": "anemometer-arm-block.step", "content": content, "material": "pom-c",
                     "quantities": (10, 50), "machine": "mill-762", **changes})  # fmt: skip


@pytest.fixture
def plan_id(desk: Desk) -> int:
    return desk.add_job(new())


def test_new_job_has_a_plan_a_price_and_defaults(desk: Desk) -> None:
    opened = desk.open(desk.add_job(new(machine="")))
    assert opened.job.number == "J-101"
    assert opened.job.name == "Anemometer arm block"
    assert opened.job.status == "quoting"
    assert opened.edition == 1
    assert opened.ledger.prices[0].each > 0
    (words,) = journal_words(desk, opened.plan_id)
    each = opened.ledger.prices[0].each
    assert words.startswith(f"quick price: 2 setups, 12 operations, on Mill 2: {each:.2f} each; next ")
    assert "Mill 1: " in words
    assert not opened.can_undo


def test_file_is_kept_as_it_came_and_only_once(desk: Desk, plan_id: int) -> None:
    from lean_ledger.store.models import FileRow

    desk.add_job(new(number="second"))
    with desk._database.reading() as session:
        rows = session.query(FileRow).all()
        assert len(rows) == 1
        assert rows[0].content == (DEMO_PARTS / "anemometer-arm-block.step").read_bytes()


def test_change_is_kept_with_author_words_and_effect(desk: Desk, plan_id: int) -> None:
    before = desk.open(plan_id)
    after = desk.change(plan_id, 1, read_change(THREAD), "Imke")
    line = after.version
    assert (line.author, line.words) == ("Imke", "thread M4 in 2 × Ø3.3")
    assert after.effect.per_piece == pytest.approx(after.ledger.per_piece - before.ledger.per_piece, abs=1e-3)
    assert after.edition == 2


def test_undo_and_redo_walk_the_journal(desk: Desk, plan_id: int) -> None:
    first = desk.open(plan_id)
    desk.change(plan_id, 1, read_change(THREAD), "a")
    changed = desk.change(plan_id, 2, read_change(MARGIN), "a")
    back = desk.undo(plan_id, 3)
    back = desk.undo(plan_id, back.edition)
    assert back.plan == first.plan
    assert back.can_redo
    assert not back.can_undo
    again = desk.redo(plan_id, back.edition)
    again = desk.redo(plan_id, again.edition)
    assert again.plan == changed.plan
    assert again.ledger.prices == changed.ledger.prices


def test_nothing_to_undo_is_said(desk: Desk, plan_id: int) -> None:
    with pytest.raises(PlanError, match="nothing to undo"):
        desk.undo(plan_id, 1)
    assert desk.open(plan_id).edition == 1, "a refused write takes no edition"


def test_change_after_undo_keeps_the_undone_line(desk: Desk, plan_id: int) -> None:
    desk.change(plan_id, 1, read_change(THREAD), "a")
    desk.undo(plan_id, 2)
    other = desk.change(plan_id, 3, read_change(MARGIN), "a")
    assert journal_words(desk, other.plan_id)[1:] == ["thread M4 in 2 × Ø3.3", "margin 0.4"]
    threaded = desk.go_to(plan_id, other.edition, 2)
    assert threaded.plan.threads
    assert threaded.plan.rates.margin is None


def test_line_that_is_not_there_is_refused(desk: Desk, plan_id: int) -> None:
    with pytest.raises(PlanError, match="no line 9"):
        desk.go_to(plan_id, 1, 9)


def test_write_on_an_old_edition_is_refused_and_shows_what_happened(desk: Desk, plan_id: int) -> None:
    desk.change(plan_id, 1, read_change(THREAD), "Imke")
    with pytest.raises(StaleEdition) as stale:
        desk.change(plan_id, 1, read_change(MARGIN), "Ole")
    assert [v.words for v in stale.value.since] == ["thread M4 in 2 × Ø3.3"]
    assert stale.value.opened.edition == 2
    assert stale.value.opened.plan.rates.margin is None
    mended = desk.change(plan_id, 2, read_change(MARGIN), "Ole")
    assert mended.plan.threads, "both are there"
    assert mended.plan.rates.margin is not None


def test_edit_begins_with_what_another_process_wrote(
    make_desk: Callable[[], Desk], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(database, "LOOK_SECONDS", 3600.0)  # nobody looks whether others wrote
    one, other = make_desk(), make_desk()
    plan_id = one.add_job(new())
    one.open(plan_id)
    other.change(plan_id, 1, read_change(THREAD), "Imke")
    with pytest.raises(StaleEdition) as stale:
        one.change(plan_id, 1, read_change(MARGIN), "Ole")
    assert stale.value.opened.edition == 2
    assert one.change(plan_id, 2, read_change(MARGIN), "Ole").plan.threads, "both are there"
    other.change(plan_id, 3, read_change({"change": "set-buy", "buy": "bar"}), "Imke")
    assert one.change(plan_id, 4, read_change(THREAD), "Ole").plan.buy == "bar"


def test_of_many_writers_on_one_edition_exactly_one_gets_through(desk: Desk, plan_id: int) -> None:
    outcomes: list[str] = []

    def write(value: int) -> None:
        try:
            desk.change(plan_id, 1, read_change({"change": "set-allowance", "side": "Z+", "value": value}), f"w{value}")
            outcomes.append("kept")
        except StaleEdition:
            outcomes.append("told")

    threads = [threading.Thread(target=write, args=(v,)) for v in range(1, 7)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(outcomes) == ["kept"] + ["told"] * 5
    assert desk.open(plan_id).lines == 2


def test_plan_is_there_again_after_a_restart(make_desk: Callable[[], Desk]) -> None:
    one = make_desk()
    plan_id = one.add_job(new())
    changed = one.change(plan_id, 1, read_change(THREAD), "a")
    again = make_desk().open(plan_id)
    assert again.plan == changed.plan
    assert again.ledger.cycle == changed.ledger.cycle
    assert again.lines == changed.lines


def test_refused_file_leaves_no_trace(desk: Desk) -> None:
    content = (CASES / "bad/wireframe.step").read_bytes()
    with pytest.raises(FileRefused, match="no solid"):
        desk.add_job(new(file_name="wireframe.step", content=content))
    assert desk.jobs(JobQuery()).lines == ()


def test_refused_change_leaves_no_trace(desk: Desk, plan_id: int) -> None:
    with pytest.raises(PlanError):
        desk.change(plan_id, 1, read_change({**THREAD, "thread": "M12"}), "a")
    assert desk.open(plan_id).edition == 1
    assert desk.open(plan_id).lines == 1


def test_job_s_words_can_be_changed_but_not_to_an_unknown_state(desk: Desk, plan_id: int) -> None:
    job = desk.open(plan_id).job.id
    desk.set_job(job, status="ordered", customer="Nordlys")
    assert desk.open(plan_id).job.status == "ordered"
    with pytest.raises(PlanError, match="a job is quoting, ordered"):
        desk.set_job(job, status="lost")
    with pytest.raises(PlanError, match="no job 99"):
        desk.set_job(99, name="x")


def test_unknown_plan_is_refused(desk: Desk) -> None:
    with pytest.raises(PlanError, match="no plan 7"):
        desk.open(7)


def test_old_analysis_is_made_again(desk: Desk, plan_id: int, make_desk: Callable[[], Desk]) -> None:
    from sqlalchemy import update

    from lean_ledger.store.models import AnalysisRow

    cycle = desk.open(plan_id).ledger.cycle
    with desk._database.writing() as session:
        session.execute(update(AnalysisRow).values(version=0, part=b"of another time"))
    assert make_desk().open(plan_id).ledger.cycle == cycle


def test_migrations_make_the_tables_that_the_models_describe(tmp_path: Path) -> None:
    database = Database(tmp_path / "m.sqlite")
    with database._engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
        assert connection.exec_driver_sql("PRAGMA journal_mode").scalar() == "wal"
        assert connection.exec_driver_sql("PRAGMA foreign_keys").scalar() == 1
        assert connection.exec_driver_sql("PRAGMA synchronous").scalar() == 2


def test_plan_opened_while_the_library_changes_is_of_one_library(
    desk: Desk, plan_id: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Read apart, an old ledger could be kept under the number of the new library."""
    first, compute = desk.shelf, desk._ledgers.of

    def changed_meanwhile(key: Key, part: Part, shelf: Shelf) -> Ledger:
        desk.read_library()  # as another thread might, after the library was looked at and before it is computed with
        return compute(key, part, shelf)

    monkeypatch.setattr(desk._ledgers, "of", changed_meanwhile)
    opened = desk.open(plan_id)
    assert desk.shelf.number == first.number + 1
    assert (opened.shelf, opened.key[-1]) == (first, first.number)
    monkeypatch.undo()
    assert desk.open(plan_id).shelf is desk.shelf
