"""What many tests need and is slow to make: made once, kept between tests, workers and runs.

A part's analysis is kept under its file's content and the code that reads it; a shop with the demo's jobs once a run.
"""

from __future__ import annotations

import fcntl
import hashlib
import pickle
import shutil
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from functools import cache
from pathlib import Path
from typing import TypeVar

import pytest

import lean_ledger
from lean_ledger.core.geometry.host import KernelHost
from lean_ledger.demo.shop import load_demo
from lean_ledger.library import shipped_library
from lean_ledger.store import Database, Desk

ROOT = Path(__file__).parents[1]
KEPT = ROOT / ".pytest_cache" / "analyses"
#: What decides how a part is read.
READERS = ("core/geometry", "core/features", "core/part", "core/basis")

T = TypeVar("T")


@cache
def _readers() -> str:
    """Another text after any change of the code that reads parts."""
    found = hashlib.sha256()
    for folder in READERS:
        for path in sorted((Path(lean_ledger.__path__[0]) / folder).rglob("*.py")):
            found.update(path.read_bytes())
    return found.hexdigest()[:16]


def kept(of: bytes, what: str, make: Callable[[], T]) -> T:
    """What was made of a content before, by the same code; else it is made now."""
    name = hashlib.sha256(of + what.encode()).hexdigest()[:32]
    path = KEPT / _readers() / f"{name}.pickle"
    if path.exists():
        found: T = pickle.loads(path.read_bytes())
        return found
    path.parent.mkdir(parents=True, exist_ok=True)
    with _alone(path.with_suffix(".lock")):
        found = pickle.loads(path.read_bytes()) if path.exists() else make()
        part = path.with_suffix(".part")
        part.write_bytes(pickle.dumps(found))
        part.replace(path)
    return found


@contextmanager
def _alone(lock: Path) -> Iterator[None]:
    with lock.open("w") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        yield


def demo_shop(factory: pytest.TempPathFactory) -> Path:
    """A database with the demo's jobs, one for all workers of a run; to be copied, not to be opened."""
    base = factory.getbasetemp()
    folder = base.parent if base.name.startswith("popen-") else base
    path = folder / "demo-shop.sqlite"
    with _alone(folder / "demo-shop.lock"):
        if not path.exists():
            making = folder / "demo-making.sqlite"
            kernel = KernelHost()
            desk = Desk(Database(making), shipped_library(), kernel)
            load_demo(desk)
            desk.stocks.close()
            kernel.close()
            _copied(making, path)
    return path


def copy_of_demo(factory: pytest.TempPathFactory, to: Path) -> Path:
    shutil.copy(demo_shop(factory), to)
    return to


def _copied(database: Path, to: Path) -> None:
    """All of it, what still stands in its journal too; whole or not at all."""
    part = to.with_suffix(".part")
    with closing(sqlite3.connect(database)) as source, closing(sqlite3.connect(part)) as copy:
        source.backup(copy)
    part.rename(to)
