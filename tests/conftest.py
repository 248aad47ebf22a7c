"""Parts, plans and a desk for all tests. Parts are read or built once per process."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import cache
from pathlib import Path

import pytest
from hypothesis import settings

from lean_ledger.core.geometry.drawing import standard_drawings
from lean_ledger.core.geometry.host import KernelHost
from lean_ledger.core.geometry.model import PartModel
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import Body
from lean_ledger.core.geometry.step import read_part, read_solid
from lean_ledger.core.ledger import Ledger, evaluate
from lean_ledger.core.part import Part, analyse
from lean_ledger.core.plan import Plan
from lean_ledger.core.quick import quick_plan
from lean_ledger.library import Library, shipped_library
from lean_ledger.store import Database, Desk

# a busy machine is slow now and then: no test measures time
settings.register_profile("untimed", deadline=None)
settings.load_profile("untimed")

CASES = Path(__file__).parent / "cases"
DEMO_PARTS = Path(__file__).parents[1] / "src/lean_ledger/demo/parts"


@pytest.fixture(scope="session")
def library() -> Library:
    return shipped_library()


@cache
def demo_part(name: str) -> Part:
    return analyse(read_part(DEMO_PARTS / f"{name}.step", f"{name}.step"))


@cache
def case_model(name: str, solid: int = 0) -> PartModel:
    return read_solid(CASES / "features" / f"{name}.step", f"{name}.step", solid)


def built(body: Body, name: str = "built") -> Part:
    """A part from a body of core.geometry.solids, as if it had been read from a file in mm."""
    shape = body.shape
    return analyse(PartModel(f"{name}.step", "mm", 1, 0, plain_solid(shape, name), standard_drawings(shape)))


def quick(part: Part, material: str = "al-6082", quantities: tuple[int, ...] = (10,)) -> Plan:
    return quick_plan(part, material, quantities, shipped_library())


def quick_ledger(part: Part, material: str = "al-6082") -> Ledger:
    return evaluate(quick(part, material), part, shipped_library())


@pytest.fixture(scope="session")
def sensor_plate() -> Part:
    return demo_part("sensor-base-plate")


@pytest.fixture(scope="session")
def kernel() -> Iterator[KernelHost]:
    host = KernelHost()
    yield host
    host.close()


@pytest.fixture
def make_desk(tmp_path: Path, library: Library, kernel: KernelHost) -> Iterator[Callable[[], Desk]]:
    """Opens the test's own database, again each time it is called: as if the server was started again."""
    opened: list[Desk] = []

    def make() -> Desk:
        opened.append(Desk(Database(tmp_path / "test.sqlite"), library, kernel))
        return opened[-1]

    yield make
    for desk in opened:
        desk.stocks.close()


@pytest.fixture
def desk(make_desk: Callable[[], Desk]) -> Desk:
    return make_desk()
