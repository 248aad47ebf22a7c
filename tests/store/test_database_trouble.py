"""A database that cannot be used: one line that names it and says what to do, and nothing is written."""

from __future__ import annotations

import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest
from sqlalchemy import Connection, event
from sqlalchemy.exc import OperationalError

from lean_ledger.store import Database, StoreError
from lean_ledger.store import database as module
from lean_ledger.store.database import trouble
from lean_ledger.store.lock import Lock
from lean_ledger.store.models import NoteRow
from tests.called import called


def made(path: Path) -> Path:
    Database(path).close()
    return path


def refused(path: Path) -> StoreError:
    with pytest.raises(StoreError) as found:
        Database(path)
    return found.value


def test_new_database_is_there_whole_and_nothing_else_is(tmp_path: Path) -> None:
    path = made(tmp_path / "deep" / "shop.sqlite")
    assert path.stat().st_size > 10_000
    assert {p.name for p in path.parent.iterdir()} <= {"shop.sqlite", "shop.sqlite-wal", "shop.sqlite-shm"}


def test_file_of_no_length_is_not_taken_for_a_shop(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    path.write_bytes(b"")
    assert refused(path).code == "store-empty"
    assert path.read_bytes() == b"", "it is left as it is"


@pytest.mark.parametrize("content", [b"ISO-10303-21;", b"SQLite", b"\x00" * 4096])
def test_file_that_is_no_database_is_refused(tmp_path: Path, content: bytes) -> None:
    path = tmp_path / "shop.sqlite"
    path.write_bytes(content)
    assert refused(path).code == "store-foreign"
    assert path.read_bytes() == content


def test_database_of_another_program_is_left_alone(tmp_path: Path) -> None:
    path = tmp_path / "songs.sqlite"
    with sqlite3.connect(path) as connection:
        connection.execute("CREATE TABLE song (title TEXT)")
    before = path.read_bytes()
    assert "another program" in refused(path).message
    assert path.read_bytes() == before


def test_newer_database_says_so(tmp_path: Path) -> None:
    path = made(tmp_path / "shop.sqlite")
    with sqlite3.connect(path) as connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
    found = refused(path)
    assert found.code == "store-newer"
    assert "newer Lean Ledger" in found.message


def test_damaged_database_says_so_at_start_or_when_it_is_read(tmp_path: Path) -> None:
    path = made(tmp_path / "shop.sqlite")
    content = bytearray(path.read_bytes())
    content[100:4096] = b"\xff" * 3996
    path.write_bytes(bytes(content))
    assert refused(path).code == "store-damaged"


def test_folder_and_a_folder_that_cannot_be_made(tmp_path: Path) -> None:
    assert refused(tmp_path).code == "store-folder"
    (tmp_path / "file").write_text("x")
    assert refused(tmp_path / "file" / "shop.sqlite").code == "store-unusable"


def test_lock_of_another_program_is_named_after_a_while(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "PATIENCE", 0.2)
    database = Database(tmp_path / "shop.sqlite")
    other = sqlite3.connect(tmp_path / "shop.sqlite", isolation_level=None)
    other.execute("BEGIN EXCLUSIVE")
    with pytest.raises(StoreError) as found, database.writing() as session:
        session.merge(NoteRow(key="a", value="b"))
    assert found.value.code == "store-locked"
    other.execute("ROLLBACK")
    with database.writing() as session:
        session.merge(NoteRow(key="a", value="b"))
    other.close()


def _no_page_more(connection: Connection) -> None:
    """As on a full disk: SQLite finds no room to grow, and takes the whole transaction back by itself."""
    connection.exec_driver_sql("PRAGMA max_page_count = 1")


def test_full_disk_is_named_and_nothing_is_changed(tmp_path: Path) -> None:
    database = Database(tmp_path / "shop.sqlite")
    with database.writing() as session:
        session.merge(NoteRow(key="a", value="before"))
    event.listen(database._engine, "begin", _no_page_more)
    with pytest.raises(StoreError) as found, database.writing() as session:
        session.merge(NoteRow(key="a", value="x" * 10_000_000))
    event.remove(database._engine, "begin", _no_page_more)
    assert found.value.code == "store-full"
    with database.reading() as session:
        assert session.get_one(NoteRow, "a").value == "before"


@pytest.mark.parametrize(("said", "code"), [
    ("database or disk is full", "store-full"), ("database is locked", "store-locked"),
    ("attempt to write a readonly database", "store-read-only"), ("unable to open database file", "store-unusable"),
    ("database disk image is malformed", "store-damaged"), ("disk I/O error", "store-disk"),
])  # fmt: skip
def test_what_sqlite_says_in_a_planners_words(said: str, code: str) -> None:
    found = trouble(Path("shop.sqlite"), OperationalError("UPDATE", {}, sqlite3.OperationalError(said)))
    assert found is not None
    assert found.code == code
    assert found.place == "shop.sqlite"


def test_a_fault_of_the_programs_own_is_not_blamed_on_the_disk(tmp_path: Path) -> None:
    assert trouble(tmp_path, OperationalError("x", {}, sqlite3.OperationalError('near "x": syntax error'))) is None


def test_database_is_served_once(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    with Lock(path) as lock:
        lock.say("http://127.0.0.1:8321")
        with pytest.raises(StoreError, match=r"served already by process \d+ on http://127\.0\.0\.1:8321"):
            Lock(path)
    with Lock(path):
        pass


@pytest.mark.parametrize(("args", "words"), [
    (("--host", "0.0.0.0"), "nobody-is-kept-out"), (("--host", "::"), "nobody-is-kept-out"),
    (("--host", "no-such-host.invalid"), "there is no such host"),
    (("--db", "/proc/nothing/shop.sqlite"), "cannot be used"),
])  # fmt: skip
def test_start_that_cannot_be_is_one_line(tmp_path: Path, args: tuple[str, ...], words: str) -> None:
    given = args if "--db" in args else (*args, "--db", str(tmp_path / "shop.sqlite"))
    done = called("serve", "--port", "0", *given)
    assert (done.returncode, done.stdout) == (2, "")
    assert len(done.stderr.strip().split("\n")) == 1, done.stderr
    assert words in done.stderr


def test_start_on_a_damaged_file_is_one_line(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    path.write_bytes(b"")
    done = subprocess.run([sys.executable, "-m", "lean_ledger.cli", "serve", "--port", "0", "--db", str(path)],
                          capture_output=True, text=True, timeout=60, check=False)  # fmt: skip
    assert done.returncode == 2
    assert "length of 0" in done.stderr
    assert len(done.stderr.strip().split("\n")) == 1
