"""Which decisions hang on which feature: said in words, and dropped together."""

from __future__ import annotations

from dataclasses import replace

from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.plan import AcceptedRest, Plan
from lean_ledger.core.revisions.carried import decided_features, without_decisions
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick

LIB = shipped_library()
PART = demo_part("sensor-base-plate")


def decided() -> Plan:
    plan = quick(PART)
    for change in (
        {"change": "keep-together", "features": ["H1", "H11"]},
        {"change": "come-first", "first": "H11", "then": "P1"},
        {"change": "accept-rest", "feature": "P1", "amount": 0.4},
        {"change": "say-tolerance", "features": ["H11"], "tolerance": "H7"},
        {"change": "leave-out", "features": ["C1"], "reason": "deburring"},
    ):
        plan = read_change(change).apply(plan, Scene(PART, LIB, evaluate(plan, PART, LIB)))[0]
    return plan


def test_each_feature_says_what_was_decided_for_it() -> None:
    found = decided_features(decided())
    assert found["H1"] == ("in one setup with H11",)
    assert set(found["H11"]) == {"tolerance H7", "in one setup with H1", "before P1"}
    assert set(found["P1"]) == {"0.4 of stock may stay on it", "after H11"}
    assert found["C1"] == ("left to deburring",)


def test_dropping_a_feature_s_decisions_drops_the_wishes_it_stands_in() -> None:
    plan = decided()
    bare = without_decisions(plan, ["H11"])
    assert (bare.together, bare.before, bare.said) == ((), (), ())
    assert bare.accepted == (AcceptedRest("P1", 0.4),)
    assert without_decisions(plan, ["P1"]).before == ()
    assert without_decisions(plan, ["P1"]).together == plan.together
    assert without_decisions(plan, []) == plan


def test_wishes_and_locks_are_part_of_the_plan_s_identity() -> None:
    plan = decided()
    assert replace(plan, together=()) != plan
    locked = plan.with_setup(replace(plan.setups[0], locked=True))
    assert locked != plan
    assert hash(locked) != hash(plan)
