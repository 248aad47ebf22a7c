"""A turned part between the lathe's two ends and a mill: the least number, locks and wishes heard."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lean_ledger.core.features import Hole
from lean_ledger.core.geometry.solids import rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.assign import assign_features
from lean_ledger.core.setups.propose import divided
from tests.conftest import built, demo_part
from tests.core.test_turning import DRIVEN, FLANGED, LATHE, LIB, on_lathe
from tests.values import in_setups


@pytest.fixture(scope="module")
def hub() -> Part:
    return demo_part("vane-hub")


@pytest.fixture(scope="module")
def flange() -> Part:
    """Two necks and a flange, a bore through all of it and four holes around it, seen from above."""
    body = FLANGED - rod((0, 0, 0), (0, 0, 1), 8, 50)
    for x, y in ((15, 0), (-15, 0), (0, 15), (0, -15)):
        body = body - rod((x, y, 20), (0, 0, 1), 3, 10)
    return built(body)


def cross_hole(part: Part) -> str:
    return next(f.id for f in part.features if isinstance(f, Hole) and abs(f.axis[2]) < 0.5)


def bore(part: Part) -> str:
    return next(f.id for f in part.features if isinstance(f, Hole) and f.on_axis)


@pytest.mark.parametrize(("machine", "least"), [(LATHE, 3), (DRIVEN, 2)])
def test_least_number_is_proven(hub: Part, machine, least: int) -> None:  # type: ignore[no-untyped-def]
    found = divided(hub, on_lathe(hub, machine), LIB)
    assert (len(found.clamped), found.lower_bound, found.unreachable) == (least, least, ())


def test_both_ends_come_before_the_mill(flange: Part) -> None:
    found = divided(flange, on_lathe(flange), LIB)
    assert [one.setup.spindle for one in found.clamped] == ["part", "part", "tool"]
    assert {one.setup.up for one in found.clamped[:2]} == {"Z+", "Z-"}
    assert found.lower_bound == 3
    made = assign_features(flange, on_lathe(flange))
    assert {flange.by_id[id].kind for id in made["S3"]} == {"hole"}, "what was turned is not milled round again"


def test_bore_stays_on_the_lathe_and_may_be_asked_over_to_the_mill(flange: Part) -> None:
    plan = on_lathe(flange)
    around = [f.id for f in flange.features if isinstance(f, Hole) and not f.on_axis]
    assert bore(flange) in assign_features(flange, plan)["S1"]
    asked = replace(plan, together=((bore(flange), *around),))
    found = divided(flange, asked, LIB)
    assert (found.clashes, len(found.clamped)) == ((), 3)
    asked = replace(in_setups(asked, *found.clamped), moved=found.moved)
    assert set(assign_features(flange, asked)["S3"]) >= {bore(flange), *around}
    ledger = evaluate(asked, flange, LIB)
    assert [f for f in ledger.findings if f.code == "not-together"] == []


def test_wish_that_a_lathe_cannot_grant_is_named(hub: Part) -> None:
    turned = next(f.id for f in hub.features if f.kind == "turned")
    plan = replace(on_lathe(hub), together=((cross_hole(hub), turned),))
    assert divided(hub, plan, LIB).clashes == (f"{cross_hole(hub)} and {turned} in one setup",)
    plan = replace(on_lathe(hub, DRIVEN), together=((cross_hole(hub), bore(hub)),))
    assert divided(hub, plan, LIB).clashes == ()


@pytest.mark.parametrize("end", ["Z+", "Z-"])
def test_locked_end_stays_first_with_what_it_makes(hub: Part, end: str) -> None:
    plan = on_lathe(hub)
    first = next(one for one in plan.clamped if one.setup.up == end).renamed("S1")
    first = replace(first, setup=replace(first.setup, locked=True))
    rest = [one.renamed(f"S{k}") for k, one in enumerate((c for c in plan.clamped if c.setup.up != end), start=2)]
    plan = replace(in_setups(plan, first, *rest), moved=())
    made = assign_features(hub, plan)["S1"]
    found = divided(hub, plan, LIB)
    assert found.clamped[0] == first
    assert assign_features(hub, replace(in_setups(plan, *found.clamped), moved=found.moved))["S1"] == made
    assert (len(found.clamped), found.clashes) == (3, ())
