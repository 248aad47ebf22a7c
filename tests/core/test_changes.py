"""Every change: what it does to the plan, how the journal words it, and what it refuses."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import CHANGES, Scene, read_change
from lean_ledger.core.ledger.effect import effect_of
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.setups import assign_features
from lean_ledger.core.setups.assign import movable_to
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick
from tests.values import in_setups

LIB = shipped_library()


def apply(plan: Plan, part: Part, change: dict[str, Any]) -> tuple[Plan, str]:
    return read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))


GOOD: list[tuple[dict[str, Any], str]] = [
    ({"change": "set-material", "material": "steel-c45"}, "material Carbon steel C45"),
    ({"change": "set-quantities", "quantities": [5, 5, 20]}, "quantities 5, 20"),
    ({"change": "set-allowance", "side": "Z+", "value": 3.5}, "allowance Z+ 3.5"),
    ({"change": "set-thread", "diameter": 4.2, "thread": "M5"}, "thread M5 in 6 × Ø4.2"),
    ({"change": "edit-operation", "operation": "S1.P1.rough-pocket", "vf": 900, "passes": 2},
     "Rough pocket P1, 8 deep: vf 900, passes 2"),
    ({"change": "leave-out", "features": ["C1"], "reason": "deburring"}, "C1 left to deburring"),
    ({"change": "move-feature", "features": ["H11"], "setup": "S2"}, "H11 to setup S2"),
    ({"change": "set-up", "setup": "S2", "up": "X+"}, "setup S2: X+ up"),
    ({"change": "set-turn", "setup": "S1", "turn": 90}, "setup S1: turned to 90°"),
    ({"change": "set-fixture", "setup": "S1", "fixture": "vise-160"}, "setup S1: Vise 160"),
    ({"change": "set-grip", "setup": "S1", "grip": 4}, "setup S1: grip 4"),
    ({"change": "set-zero", "setup": "S1", "of": "part", "place": "left back", "level": "bottom"},
     "setup S1: zero part, left back, bottom"),
    ({"change": "set-machine", "setup": "S1", "machine": "mill-500"}, "setup S1: Mill 2, travel 500, quick"),
    ({"change": "zero-by-rule", "setup": "S2"}, "setup S2: zero by the rule"),
    ({"change": "move-to-machine", "machine": "mill-500"}, "all setups on Mill 2, travel 500, quick"),
    ({"change": "accept-rest", "feature": "P1", "amount": 0.5}, "0.5 of stock may stay on P1"),
    ({"change": "add-setup", "up": "Y+"}, "setup S3 added, Y+ up"),
    ({"change": "remove-setup", "setup": "S2"}, "setup S2 removed"),
    ({"change": "divide-again"}, "divided again: 2 setups, none can be spared"),
    ({"change": "lock-setup", "setup": "S2", "locked": True}, "setup S2 stays when divided again"),
    ({"change": "keep-together", "features": ["H1", "H11"]}, "H1, H11 in one setup"),
    ({"change": "come-first", "first": "H11", "then": "P1"}, "H11 in no later setup than P1"),
    ({"change": "group-by-tool", "setup": "S1"}, "setup S1: grouped by tool"),
    ({"change": "order-by-rule", "setup": "S1"}, "setup S1: order by the rule"),
    ({"change": "set-rate", "name": "margin", "value": "0.30"}, "margin 0.3"),
    ({"change": "set-rate", "name": "margin", "value": None}, "margin by the shop's rate"),
    ({"change": "set-setup-cost", "setup": "S1", "machine_rate": "92.50"}, "setup S1: machine rate 92.5"),
    ({"change": "set-setup-cost", "setup": "S1", "clear": ["hours"]}, "setup S1: hours by the rule"),
    ({"change": "set-setup-cost", "setup": "S1", "load_seconds": "75"}, "setup S1: load seconds 75"),
    ({"change": "set-rate", "name": "outside_lot", "value": "60"}, "outside work per lot 60"),
    ({"change": "set-buy", "buy": "bar"}, "material bought as whole bars"),
    ({"change": "take-in", "features": ["C1"]}, "C1 made here after all"),
]  # fmt: skip


@pytest.mark.parametrize(("change", "words"), GOOD, ids=[w for _, w in GOOD])
def test_change_is_worded_and_its_plan_can_be_evaluated(sensor_plate: Part, change: dict[str, Any], words: str) -> None:
    plan, said = apply(quick(sensor_plate), sensor_plate, change)
    assert said == words
    assert evaluate(plan, sensor_plate, LIB).cycle > 0
    if change["change"] not in ("add-setup", "remove-setup"):
        assert apply(plan, sensor_plate, change)[0] == plan, "made twice it is the same"


BAD: list[tuple[dict[str, Any], str]] = [
    ({"change": "set-material", "material": "cheese"}, "no material 'cheese'; the library has al-6082"),
    ({"change": "set-quantities", "quantities": []}, "at least one quantity"),
    ({"change": "set-quantities", "quantities": [0]}, "whole number above 0"),
    ({"change": "set-allowance", "side": "Z+", "value": -1}, "the allowance on Z+ is -1; it must be from 0 to 200"),
    ({"change": "set-allowance", "side": "up", "value": 1}, "side: "),
    ({"change": "set-thread", "diameter": 4.2, "thread": "M12"}, "Ø4.2 cannot carry M12: its tap drill is 10.2"),
    ({"change": "set-thread", "diameter": 99, "thread": "M5"}, "no hole of Ø99"),
    ({"change": "set-thread", "diameter": 4.2, "thread": "M5.5"}, "no thread 'M5.5'"),
    ({"change": "edit-operation", "operation": "S1.X.drill", "n": 100}, "no operation S1.X.drill"),
    ({"change": "edit-operation", "operation": "S1.P1.rough-pocket", "vf": -2},
     "vf is -2; it must be from 0.1 to 100000"),
    ({"change": "edit-operation", "operation": "S1.P1.rough-pocket", "passes": 0}, "passes is 0"),
    ({"change": "edit-operation", "operation": "S1.P1.rough-pocket", "allowance": -0.1},
     "allowance is -0.1; it must be from 0 to 50"),
    ({"change": "edit-operation", "operation": "S1.P1.rough-pocket", "tool": "XX"}, "no tool 'XX'"),
    ({"change": "edit-operation", "operation": "S1.P1.rough-pocket", "speed": 3}, "speed"),
    ({"change": "leave-out", "features": ["Q9"], "reason": "deburring"}, "no feature Q9"),
    ({"change": "leave-out", "features": [], "reason": "deburring"}, "none named"),
    ({"change": "move-feature", "features": ["P1"], "setup": "S2"}, "P1 cannot be reached with Z- up"),
    ({"change": "move-feature", "features": ["P1"], "setup": "S9"}, "no setup S9; the plan has S1, S2"),
    ({"change": "set-fixture", "setup": "S1", "fixture": "vise-9"}, "no fixture 'vise-9'"),
    ({"change": "set-hold", "setup": "S1", "fixture": "vise-9", "turn": 0}, "no fixture 'vise-9'"),
    ({"change": "set-hold", "setup": "S1", "fixture": "vise-100", "turn": 45}, "turn"),
    ({"change": "set-carriers", "setup": "S1", "carriers": ["riser-9"]}, "no carrier 'riser-9'"),
    ({"change": "park-features", "features": ["H99"]}, "no feature H99"),
    ({"change": "set-stock", "form": "tube"}, "form"),
    ({"change": "set-grip", "setup": "S1", "grip": 0}, "the grip is 0"),
    ({"change": "set-machine", "setup": "S1", "machine": "lathe"}, "no machine 'lathe'"),
    ({"change": "set-rate", "name": "margin", "value": "1"}, "margin is 100 %; it must be at most 95 %"),
    ({"change": "set-rate", "name": "labour_rate", "value": "-4"}, "must not be negative"),
    ({"change": "set-rate", "name": "fixture_life", "value": "0"}, "must be above 0"),
    ({"change": "set-rate", "name": "colour", "value": "1"}, "name: "),
    ({"change": "set-setup-cost", "setup": "S1", "hours": "-1"}, "must not be negative"),
    ({"change": "set-order", "setup": "S1", "order": ["nobody"]}, "names nobody"),
    ({"change": "paint-it"}, "paint-it"),
    ({}, "change"),
    ("paint it", "change"),  # type: ignore[list-item]
]  # fmt: skip


@pytest.mark.parametrize(("change", "reason"), BAD)
def test_change_that_cannot_be_made_is_refused_with_the_reason(
    sensor_plate: Part, change: dict[str, Any], reason: str
) -> None:
    with pytest.raises(PlanError) as refused:
        apply(quick(sensor_plate), sensor_plate, change)
    assert reason in str(refused.value)


def test_unknown_words_in_a_change_are_not_ignored(sensor_plate: Part) -> None:
    with pytest.raises(PlanError, match="sped"):
        read_change({"change": "set-buy", "buy": "bar", "sped": 1})


def test_last_setup_cannot_be_removed(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    alone = in_setups(plan, plan.clamped[0])
    with pytest.raises(PlanError, match="at least one setup"):
        apply(alone, sensor_plate, {"change": "remove-setup", "setup": "S1"})


def test_edit_is_cleared_back_to_the_rule(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    id = "S1.P1.rough-pocket"
    edited, _ = apply(plan, sensor_plate, {"change": "edit-operation", "operation": id, "vf": 900, "n": 3000})
    half, words = apply(edited, sensor_plate, {"change": "edit-operation", "operation": id, "clear": ["vf"]})
    assert words == "Rough pocket P1, 8 deep: vf by the rule"
    assert (half.edit_of(id).vf, half.edit_of(id).n) == (None, 3000)
    whole, _ = apply(half, sensor_plate, {"change": "edit-operation", "operation": id, "clear": ["n"]})
    assert whole == plan


def test_moving_one_operation_is_worded_by_its_name(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    order = [e.operation.id for e in evaluate(plan, sensor_plate, LIB).loads[0].calls]
    at = order.index("S1.P1.rough-pocket")
    order.insert(at - 1, order.pop(at))
    moved, words = apply(plan, sensor_plate, {"change": "set-order", "setup": "S1", "order": order})
    assert words in ("setup S1: “Rough pocket P1, 8 deep” moved", "setup S1: “Rough slot G2, 16 deep, through” moved")
    after = [e.operation.id for e in evaluate(moved, sensor_plate, LIB).loads[0].calls]
    assert after == order


def test_move_before_what_it_needs_is_refused(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    order = [e.operation.id for e in evaluate(plan, sensor_plate, LIB).loads[0].calls]
    order.remove("S1.H1.drill")
    order.insert(0, "S1.H1.drill")
    with pytest.raises(PlanError, match=r"cannot come before .*: spot before drill"):
        apply(plan, sensor_plate, {"change": "set-order", "setup": "S1", "order": order})


@pytest.mark.parametrize("name", ["sensor-base-plate", "louvre-bracket", "gear-housing-lid"])
def test_each_cure_that_a_finding_offers_can_be_made(name: str) -> None:
    part = demo_part(name)
    plan = quick(part)
    ledger = evaluate(plan, part, LIB)
    for finding in ledger.findings:
        for cure in finding.cures:
            mended, _ = apply(plan, part, cure.change)
            after = evaluate(mended, part, LIB)
            gone = {(f.code, f.features, f.setup) for f in ledger.findings} - {
                (f.code, f.features, f.setup) for f in after.findings
            }
            assert (finding.code, finding.features, finding.setup) in gone, (finding.code, cure.label)


@pytest.mark.parametrize("name", ["sensor-base-plate", "louvre-bracket", "mast-clamp-half"])
def test_each_move_that_is_offered_can_be_made_and_no_other(name: str) -> None:
    part = demo_part(name)
    plan = quick(part)
    assigned = assign_features(part, plan)
    for feature in part.features:
        placed = [setup for setup, ids in assigned.items() if feature.id in ids]
        offered = movable_to(part, plan, feature, placed)
        for setup in (s.id for s in plan.setups if s.id not in placed):
            change = {"change": "move-feature", "features": [feature.id], "setup": setup}
            if setup in offered:
                moved, _ = apply(plan, part, change)
                assert feature.id in assign_features(part, moved)[setup]
            elif feature.kind in ("hole", "pocket", "slot", "step", "chamfer"):
                with pytest.raises(PlanError, match="cannot be reached"):
                    apply(plan, part, change)


def test_effect_is_after_less_before(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    before = evaluate(plan, sensor_plate, LIB)
    changed, _ = apply(plan, sensor_plate, {"change": "group-by-tool", "setup": "S1"})
    after = evaluate(changed, sensor_plate, LIB)
    effect = effect_of(before, after)
    assert effect.cycle == pytest.approx(after.cycle - before.cycle, abs=1e-3)
    assert effect.each == after.prices[0].each - before.prices[0].each
    assert (effect.findings_gone, effect.findings_new) == (1, 0)


def test_nothing_changed_has_no_effect(sensor_plate: Part) -> None:
    ledger = evaluate(quick(sensor_plate), sensor_plate, LIB)
    effect = effect_of(ledger, ledger)
    assert (effect.cycle, effect.each, effect.findings_gone, effect.findings_new) == (0, Decimal(0), 0, 0)


def test_changes_survive_the_way_through_json() -> None:
    for change, _ in GOOD:
        made = read_change(change)
        assert CHANGES.validate_json(CHANGES.dump_json(made)) == made
