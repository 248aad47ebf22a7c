"""A job's revisions on the desk: kept, compared, taken, undone; and old databases brought along."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from pathlib import Path

import ezdxf
import pytest
from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine

from lean_ledger.core.basis.errors import FileRefused, PlanError
from lean_ledger.core.changes import read_change
from lean_ledger.store import Database, Desk, JobNew, RevisionNew, Upload
from lean_ledger.store.models import FileRow
from tests.conftest import DEMO_PARTS

THREAD = {"change": "set-thread", "diameter": 5.0, "thread": "M6"}
TAKE = {"change": "take-revision", "revision": "B"}


def content(name: str) -> bytes:
    return (DEMO_PARTS / f"{name}.step").read_bytes()


@pytest.fixture
def plan_id(desk: Desk) -> int:
    return desk.add_job(JobNew("mast.step", content("mast-clamp-half"), "al-6082", (10, 50), machine="mill-762"))


def revise(desk: Desk, plan_id: int, name: str = "mast-clamp-half-b") -> str:
    return desk.add_revision(RevisionNew(desk.open(plan_id).job.id, Upload(f"{name}.step", content(name)), "Imke"))


def test_revision_is_kept_and_the_plan_stays_as_it_is(desk: Desk, plan_id: int) -> None:
    before = desk.open(plan_id)
    assert revise(desk, plan_id) == "B"
    after = desk.open(plan_id)
    assert [(row.letter, row.author) for row in after.revisions] == [("A", "planner"), ("B", "Imke")]
    assert after.plan == before.plan
    assert after.edition == before.edition
    assert [f.code for f in after.ledger.findings if f.code == "revision-waits"] == ["revision-waits"]


def test_taking_a_revision_is_a_line_of_the_journal_with_its_price_and_is_undone(desk: Desk, plan_id: int) -> None:
    desk.change(plan_id, 1, read_change(THREAD), "Imke")
    revise(desk, plan_id)
    before = desk.open(plan_id)
    after = desk.change(plan_id, 2, read_change(TAKE), "Imke")
    assert after.part.model.solid.bounds.size[0] == pytest.approx(124)
    assert after.version.words == "revision B in place of A"
    assert after.effect.each == after.ledger.prices[0].each - before.ledger.prices[0].each
    undone = desk.undo(plan_id, after.edition)
    assert undone.part.model.solid.bounds.size[0] == pytest.approx(120)
    assert undone.ledger.prices == before.ledger.prices


def test_first_revision_is_taken_again_and_an_unknown_one_is_refused(desk: Desk, plan_id: int) -> None:
    before = desk.open(plan_id)
    revise(desk, plan_id)
    taken = desk.change(plan_id, 1, read_change(TAKE), "Imke")
    again = desk.change(plan_id, taken.edition, read_change({**TAKE, "revision": "A"}), "Imke")
    assert again.version.words == "revision A in place of B"
    assert again.ledger.prices == before.ledger.prices
    with pytest.raises(PlanError, match="revision"):
        desk.change(plan_id, again.edition, read_change({**TAKE, "revision": "K"}), "Imke")
    assert desk.open(plan_id).edition == again.edition


def test_features_keep_their_ids_through_the_revision(desk: Desk, plan_id: int) -> None:
    revise(desk, plan_id)
    revised = desk.compared(plan_id, "B")
    assert {p.old for p in revised.found.features if p.old} == {f.id for f in revised.before.features}
    assert revised.after.by_id["H7"].diameter == 45  # type: ignore[union-attr]
    assert [p.new for p in revised.after.since if p.became == "new"] == ["G1"]


def test_pair_by_hand_is_a_decision_of_the_plan(desk: Desk, plan_id: int) -> None:
    revise(desk, plan_id)
    change = {"change": "pair-features", "revision": "B", "old": "H7", "new": None}
    opened = desk.change(plan_id, 1, read_change(change), "Imke")
    pairs = desk.compared(plan_id, "B").found.features
    assert next(p for p in pairs if p.old == "H7").became == "gone"
    desk.undo(plan_id, opened.edition)
    assert next(p for p in desk.compared(plan_id, "B").found.features if p.old == "H7").became == "resized"


def test_pair_with_a_feature_that_is_not_there_is_refused(desk: Desk, plan_id: int) -> None:
    revise(desk, plan_id)
    for old, new in (("H99", "H1"), ("H1", "H99")):
        with pytest.raises(PlanError, match="no feature H99"):
            desk.change(
                plan_id, 1, read_change({"change": "pair-features", "revision": "B", "old": old, "new": new}), "x"
            )


def test_same_file_again_and_unknown_revisions_are_refused(desk: Desk, plan_id: int) -> None:
    with pytest.raises(FileRefused, match="file of revision A"):
        revise(desk, plan_id, "mast-clamp-half")
    with pytest.raises(PlanError, match="no revision B; the job has A"):
        desk.change(plan_id, 1, read_change(TAKE), "Imke")
    with pytest.raises(PlanError, match="there is none before it"):
        desk.compared(plan_id, "A")
    with pytest.raises(PlanError, match="no job 99"):
        desk.add_revision(RevisionNew(99, Upload("b.step", content("louvre-bracket"))))


def test_revisions_are_there_again_after_a_restart(make_desk: Callable[[], Desk], desk: Desk, plan_id: int) -> None:
    revise(desk, plan_id)
    taken = desk.change(plan_id, 1, read_change(TAKE), "Imke")
    again = make_desk().open(plan_id)
    assert again.part.by_id.keys() == taken.part.by_id.keys()
    assert again.ledger.prices == taken.ledger.prices


def test_flat_drawing_is_kept_beside_the_plate_made_from_it(desk: Desk, tmp_path: Path) -> None:
    drawing = ezdxf.new(units=4)
    drawing.modelspace().add_lwpolyline([(0, 0), (90, 0), (90, 50), (0, 50)], close=True)
    drawing.modelspace().add_circle((20, 25), 5)
    drawing.saveas(tmp_path / "cover.dxf")
    raw = (tmp_path / "cover.dxf").read_bytes()
    with pytest.raises(FileRefused, match="needs a thickness"):
        desk.add_job(JobNew("cover.dxf", raw, "al-6082", (5,)))
    plan_id = desk.add_job(JobNew("cover.dxf", raw, "al-6082", (5,), thickness=8, machine="mill-762"))
    assert desk.open(plan_id).part.model.solid.volume == pytest.approx(8 * (90 * 50 - 25 * 3.14159265), rel=1e-6)
    with desk._database.reading() as session:
        rows = session.query(FileRow).all()
        made = next(row for row in rows if row.made_from)
        assert next(row for row in rows if row.hash == made.made_from).content == raw


def test_database_of_before_the_revisions_is_brought_along(tmp_path: Path) -> None:
    path = tmp_path / "old.sqlite"
    config = Config()
    config.set_main_option("script_location", "lean_ledger.store:migrations")
    config.set_main_option("path_separator", "os")
    with create_engine(f"sqlite:///{path}").connect() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0001")
        connection.commit()
    with sqlite3.connect(path) as raw:
        raw.execute("INSERT INTO file VALUES ('abc', 'a.step', x'00', '2026-11-01 08:00:00')")
        raw.execute("INSERT INTO job VALUES (1, 'J-1', 'Arm', '', 'A', 'done', NULL, 'abc', 2, '2026-11-01 08:00:00')")
        raw.execute("INSERT INTO plan VALUES (1, 1, 'quick price', 1, 1)")
    Database(path).close()
    with sqlite3.connect(path) as raw:
        assert raw.execute("SELECT job, letter, file, solid FROM revision").fetchall() == [(1, "A", "abc", 2)]
        assert raw.execute("SELECT number FROM job").fetchall() == [("J-1",)]
        assert raw.execute("SELECT job FROM plan").fetchall() == [(1,)]
        assert raw.execute("PRAGMA foreign_key_check").fetchall() == []
