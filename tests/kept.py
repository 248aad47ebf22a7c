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
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing, contextmanager
from datetime import date
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TypeVar

import pytest

import lean_ledger
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.host import KernelHost
from lean_ledger.demo.shop import load_demo
from lean_ledger.library import shipped_library
from lean_ledger.store import Database, Desk, JobNew, stocks
from lean_ledger.store.followed import keep_followed, row_key

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


@cache
def demo_shop() -> Path:
    """A database with the demo's jobs, their stock followed; to be copied, not to be opened.

    Made once by each build and day.
    """
    folder = ROOT / ".pytest_cache" / "shops"
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / f"{_all_sources()}.sqlite"
    with _alone(folder / "shop.lock"):
        if not path.exists():
            for old in folder.glob("*.sqlite"):
                old.unlink()
            with TemporaryDirectory() as making:
                _made_shop(Path(making) / "shop.sqlite", path)
    return path


def _made_shop(making: Path, path: Path) -> None:
    kernel = KernelHost()
    # every worker waits for this one: not behind what the others do
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(stocks, "BEHIND", 0)
        _filled_shop(kernel, making)
    kernel.close()
    _copied(making, path)


def _filled_shop(kernel: KernelHost, making: Path) -> None:
    desk = Desk(Database(making), shipped_library(), kernel)
    load_demo(desk)
    # what most browser tests begin with: its stock is known, the job is not in the shop
    beside = Desk(Database(making.with_name("beside.sqlite")), shipped_library(), kernel)
    part = (ROOT / "src/lean_ledger/demo/parts/sensor-base-plate.step").read_bytes()
    plate = beside.add_job(JobNew("sensor-base-plate.step", part, "al-6082", (10, 50), machine="mill-762"))
    with ThreadPoolExecutor(2) as two:
        followings = [two.submit(beside.follow_stock, plate)]
        followings += [two.submit(desk.follow_stock, plan) for plan in desk.plans_by_number().values()]
        for one in followings:
            one.result()
    known = beside.stocks.known(beside.open(plate).key)
    assert isinstance(known, Followed)
    keep_followed(Database(making), row_key(beside.open(plate).key, beside.made_by), known)
    desk.stocks.close()
    beside.stocks.close()


def _all_sources() -> str:
    found = hashlib.sha256(date.today().isoformat().encode())
    for path in sorted(Path(lean_ledger.__path__[0]).rglob("*")):
        if path.suffix in (".py", ".toml", ".csv", ".json", ".step", ".dxf"):
            found.update(path.read_bytes())
    return found.hexdigest()[:16]


def copy_of_demo(to: Path) -> Path:
    shutil.copy(demo_shop(), to)
    return to


def _copied(database: Path, to: Path) -> None:
    """All of it, what still stands in its journal too; whole or not at all."""
    part = to.with_suffix(".part")
    with closing(sqlite3.connect(database)) as source, closing(sqlite3.connect(part)) as copy:
        source.backup(copy)
    part.rename(to)
