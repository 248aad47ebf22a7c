"""Values that were used the last time carry on: offered where the same is done with the same tool."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.model import OperationKind as K
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import OperationEdit
from lean_ledger.core.shop.habits import carried, habits_of, last_used, words_of
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick

LIB = shipped_library()


@pytest.fixture(scope="module")
def plate() -> Part:
    return demo_part("sensor-base-plate")


def edited(part: Part, kind: K, material: str = "al-6082", **values: object) -> Ledger:
    plan = quick(part, material)
    op = next(op for op in evaluate(plan, part, LIB).operations if op.kind == kind)
    return evaluate(replace(plan, edits=(OperationEdit(op.id, **values),)), part, LIB)  # type: ignore[arg-type]


def test_what_carries_on_is_no_tool() -> None:
    edit = OperationEdit("x", tool="EA8", speed=1.1, ae=3.2, strategy="in steps")
    assert carried(edit) == {"speed": 1.1, "ae": 3.2, "strategy": "in steps"}
    assert words_of(carried(edit)) == "speed 110 %, ae 3.2, in steps"


def test_values_are_offered_for_the_same_tool_kind_and_material(plate: Part) -> None:
    ledger = evaluate(quick(plate), plate, LIB)
    before = edited(plate, K.SPOT, speed=1.2)
    found = last_used(ledger, [("AB-1", habits_of(before))])
    tool = next(op for op in before.operations if op.kind == K.SPOT).tool.id
    assert {one.operation for one in found} == {
        op.id for op in ledger.operations if op.kind == K.SPOT and op.tool.id == tool
    }
    assert {one.source for one in found} == {"AB-1"}
    assert all(one.values == {"speed": 1.2} for one in found)


def test_the_last_one_counts_and_own_values_stay(plate: Part) -> None:
    first, last = edited(plate, K.FACE, feed=0.8), edited(plate, K.FACE, feed=1.2)
    ledger = evaluate(quick(plate), plate, LIB)
    assert last_used(ledger, [("B", habits_of(last)), ("A", habits_of(first))])[0].values == {"feed": 1.2}
    own = edited(plate, K.FACE, feed=1.0)
    face = next(op for op in own.operations if op.kind == K.FACE)
    assert face.id not in {one.operation for one in last_used(own, [("B", habits_of(last))])}


def test_taking_them_is_one_step(plate: Part) -> None:
    ledger = evaluate(quick(plate), plate, LIB)
    found = last_used(
        ledger, [("B", habits_of(edited(plate, K.FACE, feed=1.2))), ("A", habits_of(edited(plate, K.SPOT, speed=1.1)))]
    )
    edits = [{"change": "edit-operation", "operation": one.operation, **one.values} for one in found]
    plan, words = read_change({"change": "take-values", "edits": edits}).apply(ledger.plan, Scene(plate, LIB, ledger))
    assert words == f"values last used taken for {len(found)} operations"
    there = evaluate(plan, plate, LIB)
    assert {round(op.cutting.feed, 6) for op in there.operations if op.kind == K.FACE} == {1.2}
    assert last_used(there, [("B", habits_of(edited(plate, K.FACE, feed=1.2)))]) == ()


def test_nothing_to_take_and_what_is_refused_is_not_taken(plate: Part) -> None:
    ledger = evaluate(quick(plate), plate, LIB)
    scene = Scene(plate, LIB, ledger)
    with pytest.raises(PlanError, match="no values"):
        read_change({"change": "take-values", "edits": []}).apply(ledger.plan, scene)
    face = next(op for op in ledger.operations if op.kind == K.FACE)
    bad = [{"operation": face.id, "feed": 1.1}, {"operation": face.id, "ap": -1}]
    with pytest.raises(PlanError, match=r"must be from 0\.01 to 500"):
        read_change({"change": "take-values", "edits": bad}).apply(ledger.plan, scene)


def test_tool_by_hand_that_does_not_come_everywhere_is_an_error() -> None:
    part = demo_part("gear-housing-lid")
    plan = quick(part, "steel-c45", (500,))
    wall = next(op for op in evaluate(plan, part, LIB).operations if op.id.endswith("P1.finish-wall"))
    assert wall.tool.id == "EU12"
    thick = evaluate(replace(plan, edits=(OperationEdit(wall.id, tool="EU16"),)), part, LIB)
    assert "EU12" not in next(f for f in thick.findings if f.code == "too-thick").title
