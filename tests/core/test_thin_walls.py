"""A thin wall between two pockets is finished once both are roughed."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.geometry.solids import block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.safe.thin_walls import SLENDER, wall_between
from lean_ledger.core.part.model import Part
from tests.conftest import built, quick
from tests.core.loads_shop import LIB


def two_pockets(apart: float, deep: float, deeper: float) -> Part:
    def upright(a: tuple[float, ...], b: tuple[float, ...]) -> bool:
        return a[:2] == b[:2]

    first = block((10, 10, 30 - deep), (45, 50, 30)).rounded(5, upright)
    second = block((45 + apart, 10, 30 - deeper), (90 + apart, 50, 30)).rounded(5, upright)
    return built(block((0, 0, 0), (110, 60, 30)) - first - second)


def operations(part: Part) -> dict[tuple[str, OperationKind], Operation]:
    ledger = evaluate(quick(part), part, LIB)
    return {(op.features[0], op.kind): op for op in ledger.operations if op.features}


def test_wall_is_as_thick_as_drawn_and_as_high_as_both_pockets() -> None:
    """Pockets 12 and 20 deep, 2 apart: 2 thick and 12 high, six times as high as thick."""
    ops = operations(two_pockets(2.0, 12.0, 20.0))
    finish = next(op for (f, kind), op in ops.items() if kind == OperationKind.FINISH_WALL and op.depth < 15)
    rough = next(op for (f, kind), op in ops.items() if kind == OperationKind.ROUGH_POCKET and op.depth > 15)
    found = wall_between(finish, rough)
    assert found == pytest.approx((2.0, 12.0), abs=0.25)
    assert any(before == rough.id and "would shake" in why for before, why in finish.after)


@settings(max_examples=6)
@given(st.floats(1.0, 12.0), st.floats(4.0, 20.0))
def test_only_thin_walls_wait(apart: float, deep: float) -> None:
    if abs(deep / apart - SLENDER) < 0.7:  # roughing leaves some on the floor
        return
    ops = operations(two_pockets(round(apart, 1), round(deep, 1), round(deep, 1)))
    waits = [why for op in ops.values() for _, why in op.after if "would shake" in why]
    assert len(waits) == (2 if deep / apart > SLENDER else 0)
