"""Bodies that the plan adds to hold by, and holes filled for now: in stock and time, never in the customer's model."""

from __future__ import annotations

from math import pi

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.features import OuterFace
from lean_ledger.core.features.planar import polygon_of
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.bodies import placed_bodies, planned_part, plugs
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.library import shipped_library
from tests.conftest import built, quick

LIB = shipped_library()
PART = built(block((0, 0, 0), (80, 50, 16)) - rod((20, 25, 0), (0, 0, 1), 8, 16))


def side(normal: tuple[float, float, float]) -> OuterFace:
    return next(f for f in PART.features if isinstance(f, OuterFace) and f.normal == normal)


TOP, RIGHT = side((0, 0, 1)), side((1, 0, 0))


def applied(plan: Plan, *changes: dict, part: Part = PART) -> Plan:  # type: ignore[type-arg]
    for change in changes:
        plan, _ = read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))
    return plan


def with_lug() -> Plan:
    return applied(quick(PART), {"change": "add-body", "kind": "lug", "on": RIGHT.id})


def codes(ledger: Ledger) -> set[str]:
    return {f.code for f in ledger.findings}


def test_lug_stands_level_in_the_middle_of_its_side() -> None:
    (lug,) = placed_bodies(PART, with_lug())
    xs, ys, zs = zip(*lug.corners, strict=True)
    # 24 along the side, 12 up and down, 10 out, about (80, 25, 8)
    assert (min(xs), max(xs)) == pytest.approx((80, 90))
    assert (min(ys), max(ys)) == pytest.approx((13, 37))
    assert (min(zs), max(zs)) == pytest.approx((2, 14))
    assert lug.mesh.volume == pytest.approx(24 * 12 * 10)


def test_boss_is_round_and_moves_with_its_place() -> None:
    plan = applied(
        quick(PART), {"change": "add-body", "kind": "boss", "on": TOP.id},
        {"change": "size-body", "body": "B1", "measure": "u", "value": 15},
        {"change": "size-body", "body": "B1", "measure": "height", "value": 6},
    )  # fmt: skip
    (boss,) = placed_bodies(PART, plan)
    assert boss.mesh.volume == pytest.approx(pi * 64 * 6, rel=0.01)
    middle = polygon_of(TOP.region[:1], TOP.normal).centroid
    assert sum(p[0] for p in boss.ring) / len(boss.ring) == pytest.approx(middle.x + 15)


def test_stock_grows_with_a_body_and_the_model_does_not() -> None:
    before, after = evaluate(quick(PART), PART, LIB), evaluate(with_lug(), PART, LIB)
    assert after.stock.bounds.max[0] == before.stock.bounds.max[0] + 10
    assert after.prices[0].each > before.prices[0].each
    assert PART.model.solid.bounds.max[0] == 80


def test_outline_goes_around_the_lug() -> None:
    shadow = planned_part(PART, with_lug()).silhouette((0, 0, 1))
    assert max(x for x, _ in shadow.ring) == pytest.approx(90, abs=1e-3)
    assert {round(y, 3) for x, y in shadow.ring if x > 85} == {13, 37}


def test_side_is_cut_around_what_stands_on_it() -> None:
    plan = applied(quick(PART), {"change": "add-body", "kind": "lug", "on": TOP.id})
    planned = planned_part(PART, plan).by_id[TOP.id]
    assert isinstance(planned, OuterFace)
    assert planned.area == pytest.approx(TOP.area - 24 * 12, rel=1e-4)
    assert len(planned.region) == len(TOP.region) + 1


def test_body_that_nobody_takes_off_is_a_finding_until_somebody_does() -> None:
    plan = with_lug()
    finding = next(f for f in evaluate(plan, PART, LIB).findings if f.code == "body-stays-on")
    for cure in finding.cures:
        assert "body-stays-on" not in codes(evaluate(applied(plan, cure.change), PART, LIB))
    assert applied(plan, finding.cures[-1].change).bodies == ()


def test_body_whose_side_a_revision_took_away_is_an_error() -> None:
    other = built(rod((0, 0, 0), (0, 0, 1), 40, 16))
    ledger = evaluate(with_lug(), other, LIB)
    assert "body-without-side" in codes(ledger)
    assert placed_bodies(other, with_lug()) == ()


def test_filled_hole_is_not_made_and_not_forgotten() -> None:
    change = {"change": "leave-out", "features": ["H1"], "reason": "filled for now"}
    plan = applied(quick(PART), change)
    ledger = evaluate(plan, PART, LIB)
    assert not [op for op in ledger.operations if "H1" in op.features]
    finding = next(f for f in ledger.findings if f.code == "filled-for-now")
    assert finding.features == ("H1",)
    (plug,) = plugs(PART, plan)
    assert plug.mesh.volume == pytest.approx(pi * 16 * 16, rel=0.01)
    assert applied(plan, finding.cures[0].change) == quick(PART)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"change": "add-body", "kind": "lug", "on": "H1"}, "H1 is no flat side"),
        ({"change": "add-body", "kind": "lug", "on": "F99"}, "no feature F99"),
        ({"change": "size-body", "body": "B7", "measure": "length", "value": 5}, "adds no body B7"),
        ({"change": "size-body", "body": "B1", "measure": "length", "value": 0}, "the length of B1 is 0"),
        ({"change": "drop-body", "body": "B9"}, "adds no body B9"),
    ],
)
def test_what_cannot_be_added_is_refused(change, words: str) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(PlanError, match=words):
        applied(with_lug(), change)
