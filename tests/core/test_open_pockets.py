"""Pockets that open at a side: their floor is what a mill stands on, not the wall that shows most."""

from __future__ import annotations

import pytest

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.features import Step
from lean_ledger.core.geometry.solids import Body, block, rounded_block
from lean_ledger.core.papers.plan_document import first_plan
from lean_ledger.library import shipped_library
from tests.cases.parts.drawn import drawn
from tests.conftest import built

UP = (0.0, 0.0, 1.0)


def opened(depth: float, width: float, out: float) -> Body:
    """A block of 60 × 50 × 40 with a pocket, corners of R6, `out` into its front side."""
    return block((0, 0, 0), (60, 50, 40)) - rounded_block(
        (30 - width / 2, -30, 40 - depth), (30 + width / 2, out, 50), 6
    )


@pytest.mark.parametrize(("depth", "width", "out"), [(30, 40, 14), (8, 50, 9)])
def test_floor_of_an_open_pocket_looks_where_the_mill_comes_from(depth: float, width: float, out: float) -> None:
    part = built(opened(depth, width, out))
    (found,) = [f for f in part.features if getattr(f, "depth", None) is not None and len(f.faces) > 1]
    assert found.direction == UP  # type: ignore[union-attr]
    assert UP in found.access
    assert found.depth == pytest.approx(depth)  # type: ignore[union-attr]


def test_corner_pocket_stands_on_its_floor() -> None:
    """Two walls that meet in R5: each of them shows more than the floor does."""
    body = block((0, 0, 0), (60, 50, 60)) - rounded_block((-30, -30, 15), (14, 12, 90), 5)
    part = built(body)
    (step,) = [f for f in part.features if isinstance(f, Step)]
    assert step.direction == UP
    assert step.depth == pytest.approx(45)


@pytest.mark.parametrize("seed", [10054])
def test_drawn_parts_with_open_pockets_are_made_whole(seed: int) -> None:
    """The second has a wall whose thin triangles lean over by a chord: that is no overhang."""
    found = first_plan(built(drawn(seed)), "al-6082", (10,), shipped_library(), ["mill-762"])
    assert [f.title for f in found.ledger.findings if f.severity == Severity.ERROR] == []


@pytest.mark.parametrize("seed", [10004])
def test_small_rests_between_recesses_are_cleared(seed: int) -> None:
    """3.8 and 8.0 mm³ that no tool took, 2.5 and 12 high: 1.5 and 0.7 mm² of floor."""
    part = built(drawn(seed))
    found = first_plan(part, "al-6082", (10,), shipped_library(), ["mill-762"])
    assert [f.title for f in found.ledger.findings if f.severity == Severity.ERROR] == []
    assert any(op.name.startswith("Clear the rest of") for op in found.ledger.operations)
