"""A plan on other machines: computed again, compared, moved; and fixtures that find no place there."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to, on_machines
from lean_ledger.core.part.model import Part
from lean_ledger.library import shipped_library
from tests.conftest import quick
from tests.values import changed

LIB = shipped_library()


def test_each_machine_is_computed_and_compared_with_now(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    now = evaluate(plan, sensor_plate, LIB)
    found = {one.machine.id: one for one in on_machines(plan, sensor_plate, LIB, now)}
    assert list(found) == [m.id for m in LIB.machines]
    here = found[plan.loads[0].machine]
    assert here.current
    assert here.effect is not None
    assert (here.effect.cycle, here.effect.each, here.come, here.gone) == (0, 0, (), ())
    quick_mill = found["mill-500"]
    assert quick_mill.ledger is not None
    assert quick_mill.effect is not None
    # twice the rapids and a changer of 1.6 s against 4.2 s
    assert quick_mill.effect.cycle == pytest.approx(quick_mill.ledger.cycle - now.cycle, abs=1e-3)
    assert quick_mill.effect.cycle < -30
    assert "not round about an axis; choose a mill" in found["lathe-320"].refused


def test_fixture_without_its_mount_is_a_finding_that_lists_what_there_is(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    plan = replace(plan, setups=tuple(replace(s, fixture="vise-125") for s in plan.setups))
    tried = on_machines(plan, sensor_plate, LIB, evaluate(plan, sensor_plate, LIB))
    five = next(one for one in tried if one.machine.id == "mill-five")
    assert five.ledger is not None
    (finding, _) = [f for f in five.ledger.findings if f.code == "no-mount"]
    assert finding.title.endswith("finds no place on Mill 4, tilting rotary table.")
    assert "sits on a mount named “table”; Mill 4, tilting rotary table offers: rotary face" in finding.why
    assert [words.split(":")[0] for words in five.come] == ["S1", "S2"]


def test_moving_takes_all_setups_and_leaves_the_old_machine_s_rate_behind(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    dear = changed(plan, plan.setups[0].id, rate=Decimal(140))
    change = read_change({"change": "move-to-machine", "machine": "mill-500"})
    moved, words = change.apply(dear, Scene(sensor_plate, LIB, evaluate(dear, sensor_plate, LIB)))
    assert words == "all setups on Mill 2, travel 500, quick"
    assert {(load.machine, load.rate) for load in moved.loads} == {("mill-500", None)}
    # a setup that stays on its machine keeps its rate
    assert moved_to(dear, LIB.machines[0], sensor_plate, LIB) == dear
    with pytest.raises(PlanError, match="not round about an axis; choose a mill"):
        moved_to(plan, next(m for m in LIB.machines if m.turns_work), sensor_plate, LIB)
