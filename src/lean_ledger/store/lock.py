"""One server at a time on a database: each keeps the library and its answers in memory."""

from __future__ import annotations

import fcntl
import os
from pathlib import Path
from types import TracebackType

from lean_ledger.store.errors import StoreError


class Lock:
    """Held as long as the process lives, however it ends. Raises StoreError store-served where another has it."""

    def __init__(self, database: Path) -> None:
        self._database = database
        path = database.with_name(f".{database.name}.lock")
        try:
            database.parent.mkdir(parents=True, exist_ok=True)
            self._file = path.open("a+", encoding="utf-8")
        except OSError as error:
            words = f"cannot be used: {path.name} beside it cannot be written ({error.strerror}); check the folder"
            raise StoreError("store-unusable", words, str(database)) from error
        try:
            fcntl.flock(self._file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            self._file.seek(0)
            who = self._file.read().strip() or "another process"
            self._file.close()
            words = f"is served already by {who}; use that server, stop it first, or name another --db"
            raise StoreError("store-served", words, str(database)) from None
        self.say("")

    def say(self, url: str) -> None:
        """Where the server that holds it is found."""
        self._file.truncate(0)
        self._file.write(f"process {os.getpid()}{f' on {url}' if url else ''}")
        self._file.flush()

    def __enter__(self) -> Lock:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._file.close()
