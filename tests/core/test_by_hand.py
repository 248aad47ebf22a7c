"""Dividing by hand from an empty plan: features wait, are placed, and taken out again."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.revisions.carried import without_decisions
from lean_ledger.core.setups import assign_features
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick

LIB = shipped_library()


def made(plan: Plan, part: Part, change: dict[str, object]) -> Plan:
    return read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))[0]


def test_empty_plan_has_one_setup_and_everything_waits(sensor_plate: Part) -> None:
    plan = made(quick(sensor_plate), sensor_plate, {"change": "start-empty", "up": "Z+"})
    assert [s.up for s in plan.setups] == ["Z+"]
    assert {sensor_plate.by_id[id].kind for id in plan.parked} >= {"hole", "pocket", "slot"}
    assert "face" not in {sensor_plate.by_id[id].kind for id in plan.parked}, "sides go with the side that is up"
    (waiting,) = [f for f in evaluate(plan, sensor_plate, LIB).findings if f.code == "not-placed"]
    assert waiting.features == plan.parked
    assert waiting.cures[-1].change == {"change": "divide-again"}


def test_placing_every_feature_by_hand_gives_the_plan_that_the_solver_gives(sensor_plate: Part) -> None:
    proposed = quick(sensor_plate)
    plan = made(proposed, sensor_plate, {"change": "start-empty", "up": "Z+"})
    plan = made(plan, sensor_plate, {"change": "add-setup", "up": "Z-"})
    plan = made(plan, sensor_plate, {"change": "move-feature", "features": plan.parked, "setup": "S1"})
    assert plan.parked == ()
    assert assign_features(sensor_plate, plan) == assign_features(sensor_plate, proposed)
    assert evaluate(plan, sensor_plate, LIB).cycle == pytest.approx(evaluate(proposed, sensor_plate, LIB).cycle)


def test_feature_that_no_setup_reaches_yet_says_which_side_would(sensor_plate: Part) -> None:
    part = demo_part("louvre-bracket")
    plan = made(quick(part), part, {"change": "start-empty", "up": "Z+"})
    front = next(f.id for f in part.features if f.kind == "hole" and f.axis == (0, 1, 0))
    found = next(f for f in evaluate(plan, part, LIB).findings if f.code == "not-placed")
    assert f"{front} would be reached with Y- up" in found.why
    # a setup more places nothing by itself
    assert [c.change for c in found.cures] == [{"change": "divide-again"}]


def test_feature_is_taken_out_and_a_side_is_not(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    parked = made(plan, sensor_plate, {"change": "park-features", "features": ["P1"]})
    assert parked.parked == ("P1",)
    assert all("P1" not in ids for ids in assign_features(sensor_plate, parked).values())
    side = next(f.id for f in sensor_plate.features if f.kind == "face")
    with pytest.raises(PlanError, match="goes with the side that is up"):
        made(plan, sensor_plate, {"change": "park-features", "features": [side]})


def test_dividing_again_places_what_waits_and_splitting_does_too(sensor_plate: Part) -> None:
    plan = made(quick(sensor_plate), sensor_plate, {"change": "start-empty", "up": "Z+"})
    assert made(plan, sensor_plate, {"change": "divide-again"}).parked == ()
    split = made(plan, sensor_plate, {"change": "split-setup", "setup": "S1", "features": ["P1"], "up": None})
    assert "P1" not in split.parked
    assert "P1" in assign_features(sensor_plate, split)["S2"]


def test_decision_to_wait_goes_with_the_feature(sensor_plate: Part) -> None:
    plan = replace(quick(sensor_plate), parked=("P1", "H1"))
    assert without_decisions(plan, ["P1"]).parked == ("H1",)
