"""Inner edges of an outline that the model has sharp: what a round tool leaves there is said once, not refused."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from math import pi, radians, sin

import pytest

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import Followed, Remainder
from lean_ledger.core.followed.sharp import is_sharp, left_in_corner
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.papers.plan_document import FirstPlan, first_plan, followed_plan
from lean_ledger.core.part.model import Part
from lean_ledger.library import shipped_library
from tests.cases.parts.wider import spur_gear
from tests.conftest import built, quick_ledger

LIB = shipped_library()
TEETH = 16


@pytest.mark.parametrize(("degrees", "stays"), [(90, 1.5 * (1 - 0.70711)), (120, 1.5 * (1 - 0.86603)), (180, 0.0)])
def test_what_stays_in_a_corner_by_hand(degrees: float, stays: float) -> None:
    """Its middle lies r / sin(half) off the edge, r less at the arc, and sin(half) of that off the walls."""
    assert left_in_corner(1.5, radians(degrees)) == pytest.approx(stays, abs=1e-4)
    half = radians(degrees) / 2
    assert left_in_corner(1.5, radians(degrees)) == pytest.approx((1.5 / sin(half) - 1.5) * sin(half))
    assert left_in_corner(1.5, pi) == pytest.approx(0)


@cache
def gear() -> tuple[Part, FirstPlan]:
    part = built(spur_gear(TEETH))
    return part, first_plan(part, "al-6082", (10,), LIB, ["mill-762"])


def test_gear_is_made_but_for_its_roots_which_are_said_once() -> None:
    _, found = gear()
    assert [f.title for f in found.ledger.findings if f.severity == Severity.ERROR] == []
    (one,) = [f for f in found.ledger.findings if f.code == "stock-left"]
    assert one.severity == Severity.WARNING
    assert len(one.features) == TEETH, "a root between each two teeth"
    assert "sharp" in one.why
    assert "R1.5" in one.why
    # a mill that comes between the teeth would take all of the stock around them for twelve minutes
    first = [op for op in found.ledger.operations if op.setup == "S1" and op.chain == "outline"]
    assert [op.kind for op in first] == ["rough outline", "clean corners", "finish outline"]
    rough, clean, finish = first
    assert rough.tool.diameter >= 10
    assert clean.tool == finish.tool
    assert clean.tool.diameter == 3
    assert clean.id in {before for before, _ in finish.after}
    assert rough.time.cut + clean.time.cut < 300


def test_stock_elsewhere_or_thicker_is_no_matter_of_corners() -> None:
    part, found = gear()
    outcome = found.outcome
    assert isinstance(outcome, Followed)
    makers = [op for op in found.ledger.operations if op.kind == "finish outline"]
    frames, radius = [makers[0].frame], makers[0].tool.diameter / 2

    def sharp(piece: Remainder) -> bool:
        return is_sharp(part, piece, frames, lambda _: radius)

    piece = next(one for one in outcome.remainders if sharp(one))
    assert not sharp(replace(piece, amount=piece.amount + 0.2))
    assert not sharp(replace(piece, vertices=tuple((x + 6, y, z) for x, y, z in piece.vertices)))


def test_stock_that_one_operation_leaves_on_several_features_is_one_finding(sensor_plate: Part) -> None:
    ledger = quick_ledger(sensor_plate)
    outcome = followed_plan(sensor_plate, ledger).outcome
    assert isinstance(outcome, Followed)
    widen = next(op for op in ledger.operations if op.name.startswith("Countersink"))
    holes = list(widen.features)[:3]
    # 2 × 2 × 2 on each of three holes, and as much on the pocket
    corners = ((0.0, 0.0, 0.0), (2.0, 0.0, 0.0), (0.0, 2.0, 0.0), (0.0, 0.0, 2.0))
    rings = ((0, 2, 1), (0, 1, 3), (0, 3, 2), (1, 2, 3))
    left = tuple(
        Remainder(False, 1.0 + k / 10, 4.0, (0.0, 0.0, 0.0), sensor_plate.by_id[id].faces[0], "", corners, rings,
                  (1.0,) * 4)
        for k, id in enumerate([*holes, "P1"])
    )  # fmt: skip
    found = [
        f for f in stock_findings(sensor_plate, ledger, replace(outcome, remainders=left)) if f.code == "stock-left"
    ]
    assert [f.features for f in found] == [tuple(holes), ("P1",)]
    assert found[0].title == f"Stock stays on 3 features, {', '.join(holes)}: up to 1.20 in 3 places."
    assert "12.0 mm³ in all" in found[0].why
    (leave,) = found[0].cures
    assert leave.change == {"change": "accept-rest", "feature": holes[0], "amount": 1.2, "also": holes[1:]}
    plan, words = read_change(leave.change).apply(ledger.plan, Scene(sensor_plate, LIB, ledger))
    assert words == f"1.2 of stock may stay on {', '.join(holes)}"
    after = evaluate(plan, sensor_plate, LIB)
    rest = stock_findings(sensor_plate, after, replace(outcome, remainders=left))
    assert [f.features for f in rest if f.code == "stock-left"] == [("P1",)]
