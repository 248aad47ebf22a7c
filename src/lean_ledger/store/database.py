"""Opening the SQLite file: WAL, foreign keys, every commit on disk before it is confirmed, migrations."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, create_engine, event
from sqlalchemy.orm import Session, sessionmaker


class Database:
    """One SQLite file, brought to the newest schema when opened."""

    def __init__(self, path: Path) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        self.path = path
        self._engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 30})
        event.listen(self._engine, "connect", _on_connect)
        event.listen(self._engine, "begin", _on_begin)
        self._sessions = sessionmaker(self._engine, expire_on_commit=False)
        self._migrate()

    @contextmanager
    def reading(self) -> Iterator[Session]:
        with self._sessions() as session:
            yield session

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """A transaction that holds the write lock from its first statement; rolled back on any error."""
        with self._sessions() as session:
            session.connection(execution_options={"writing": True})
            with session.begin_nested():
                yield session
            session.commit()

    def close(self) -> None:
        self._engine.dispose()

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


def _on_connect(connection: Any, _record: Any) -> None:
    connection.isolation_level = None  # the driver's own transaction handling would get in the way
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
