"""Opening the SQLite file: WAL, foreign keys, every commit on disk before it is confirmed, migrations.

What SQLite or the disk refuses is a StoreError here: one line that names the file, the reason and what to do.
"""

from __future__ import annotations

import os
import shutil
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from time import monotonic
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.util.exc import CommandError
from sqlalchemy import Connection, create_engine, event
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session, sessionmaker

from lean_ledger.store.errors import StoreError

LOOK_SECONDS = 0.25  # between two looks at whether somebody else wrote
PATIENCE = 10  # s that a write waits for another program's
_HEADER = b"SQLite format 3\x00"


class Database:
    """One SQLite file, brought to the newest schema when opened. Raises StoreError for one that cannot be used."""

    def __init__(self, path: Path, *, made_ready: bool = False) -> None:
        """`made_ready`: another process has it open and brought it to the newest schema."""
        self.path = path
        if not made_ready:
            _prepare(path)
        self._engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": PATIENCE}, pool_size=16)
        event.listen(self._engine, "connect", _on_connect)
        event.listen(self._engine, "begin", _on_begin)
        self._sessions = sessionmaker(self._engine, expire_on_commit=False)
        self._watch: sqlite3.Connection | None = None
        self._watching = threading.Lock()
        self._looked, self._version, self._own_commits = 0.0, -1, 0
        if not made_ready:
            with _told(path):
                self._migrate()

    @contextmanager
    def reading(self) -> Iterator[Session]:
        with _told(self.path), self._sessions() as session:
            yield session

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """A transaction that holds the write lock from its first statement; rolled back on any error."""
        with _told(self.path), self._sessions() as session:
            session.connection(execution_options={"writing": True})
            yield session
            session.commit()  # without it, closing the session rolls back
            self._own_commits += 1

    def commits(self) -> tuple[int, int]:
        """Another pair of numbers after every commit.

        One's own are counted; those of anybody else, of whom there should be none, are looked for now and then.
        """
        now = monotonic()
        if now - self._looked > LOOK_SECONDS:
            with self._watching, _told(self.path):
                self._looked = now
                if self._watch is None:
                    self._watch = sqlite3.connect(self.path, timeout=PATIENCE, check_same_thread=False)
                self._version = int(self._watch.execute("PRAGMA data_version").fetchone()[0])
        return self._own_commits, self._version

    @property
    def workplace(self) -> Path:
        """A folder for files that are being read; what a killed server left there goes with `sweep`."""
        folder = self.path.parent / f".{self.path.name}.reading"
        folder.mkdir(exist_ok=True)
        return folder

    def sweep(self) -> None:
        """Only for whoever holds the database alone."""
        shutil.rmtree(self.workplace, ignore_errors=True)

    def close(self) -> None:
        self._engine.dispose()
        with self._watching:
            if self._watch is not None:
                self._watch.close()
                self._watch = None

    def _migrate(self) -> None:
        with self._engine.connect().execution_options(migrating=True) as connection:
            command.upgrade(migration_config(connection), "head")
            connection.commit()
        self._engine.dispose()  # connections are opened anew, with foreign keys watched


def migration_config(connection: Connection) -> Config:
    """For alembic's commands on one connection."""
    config = Config()
    config.set_main_option("script_location", "lean_ledger.store:migrations")
    config.set_main_option("path_separator", "os")
    config.attributes["connection"] = connection
    return config


def _prepare(path: Path) -> None:
    """A file that is there must be a shop's database; a new one appears whole or not at all."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        if path.exists():
            _check_file(path)
        else:
            _create(path)
    except OSError as error:
        words = f"cannot be used: {error.strerror or error}; check the path, its rights and the disk, or name another"
        raise StoreError("store-unusable", words, str(path)) from error


def _check_file(path: Path) -> None:
    if path.is_dir():
        raise StoreError("store-folder", "is a folder; name a file in it", str(path))
    with path.open("rb") as file:
        head = file.read(len(_HEADER))
    if not head:
        raise StoreError(
            "store-empty", "has a length of 0: it holds no shop. Restore it from a backup, or remove it to begin anew",
            str(path),
        )  # fmt: skip
    if head != _HEADER:
        raise StoreError("store-foreign", "is no database; name the shop's own file, or one that is not there yet",
                         str(path))  # fmt: skip
    with _told(path), closing(sqlite3.connect(path, timeout=PATIENCE)) as connection:
        tables = {name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    if tables and "alembic_version" not in tables:
        raise StoreError("store-foreign", "is a database of another program; name the shop's own file", str(path))


def _create(path: Path) -> None:
    """An empty database with the newest schema, made beside and moved to its place when it is whole."""
    beside = path.with_name(f".{path.name}.{os.getpid()}.new")
    beside.unlink(missing_ok=True)
    engine = create_engine(f"sqlite:///{beside}")
    event.listen(engine, "connect", _on_connect)
    event.listen(engine, "begin", _on_begin)
    try:
        with _told(path), engine.connect().execution_options(migrating=True) as connection:
            command.upgrade(migration_config(connection), "head")
            connection.commit()
        engine.dispose()  # its last connection writes the log into the file
        os.replace(beside, path)
    finally:
        engine.dispose()
        for left in (beside, beside.with_name(f"{beside.name}-wal"), beside.with_name(f"{beside.name}-shm")):
            left.unlink(missing_ok=True)


#: What SQLite says, and what it means to whoever runs the shop: code and words.
_SAYINGS: tuple[tuple[str, str, str], ...] = (
    ("disk is full", "store-full", "the disk is full; free some space there. Nothing was changed"),
    ("disk i/o error", "store-disk", "the disk cannot be read or written; look at it before going on"),
    ("locked", "store-locked",
     f"another program has held it for more than {PATIENCE} s; end that program, or try again when it is done"),
    ("readonly", "store-read-only", "cannot be written; give this user the right to write the file and its folder"),
    ("unable to open", "store-unusable", "cannot be opened; check that it is there and that this user may write it"),
    ("malformed", "store-damaged", "is damaged; stop the server and restore the file from a backup"),
    ("not a database", "store-damaged", "is damaged or no database; restore it from a backup"),
    ("no such table", "store-damaged", "lacks a part of what a shop's database holds; restore it from a backup"),
    ("no such column", "store-damaged", "lacks a part of what a shop's database holds; restore it from a backup"),
)  # fmt: skip


def trouble(path: Path, error: BaseException) -> StoreError | None:
    """What SQLite, alembic or the disk said, as a refusal; None for what is a fault of the program's own."""
    if isinstance(error, CommandError):
        words = "was written by a newer Lean Ledger; start that one, or restore a backup from before"
        return StoreError("store-newer", words, str(path))
    if isinstance(error, DBAPIError | sqlite3.Error):
        said = str(error.orig if isinstance(error, DBAPIError) else error).lower()
        for part, code, words in _SAYINGS:
            if part in said:
                return StoreError(code, words, str(path))
    return None


@contextmanager
def _told(path: Path) -> Iterator[None]:
    try:
        yield
    except (DBAPIError, sqlite3.Error, CommandError) as error:
        found = trouble(path, error)
        if found is None:
            raise
        raise found from error


def _on_connect(connection: Any, _record: Any) -> None:
    connection.isolation_level = None  # the driver's own transaction handling would get in the way
    connection.create_function("folded", 1, lambda text: text.casefold() if isinstance(text, str) else "",
                               deterministic=True)  # fmt: skip
    cursor = connection.cursor()
    cursor.execute("PRAGMA journal_mode=WAL")
    cursor.execute("PRAGMA synchronous=FULL")
    cursor.execute("PRAGMA foreign_keys=ON")
    cursor.close()


def _on_begin(connection: Any) -> None:
    if connection.get_execution_options().get("migrating", False):
        connection.exec_driver_sql("PRAGMA foreign_keys=OFF")  # a table that others point to may be built anew
    writing = connection.get_execution_options().get("writing", False)
    connection.exec_driver_sql("BEGIN IMMEDIATE" if writing else "BEGIN")
