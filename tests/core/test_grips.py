"""Grips that are suggested, and what else may go wrong with what is gripped."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.geometry.solids import Body, block, rod, rounded_block
from lean_ledger.core.holding.checks import THIN_WALL
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.made import grips_in
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Allowances, Plan, Said
from lean_ledger.library import shipped_library
from tests.conftest import built, demo_part, quick

LIB = shipped_library()
UP = (0.0, 0.0, 1.0)


def of(ledger: Ledger, code: str, setup: str = "") -> list[Finding]:
    return [f for f in ledger.findings if f.code == code and setup in ("", f.setup)]


def tried(plan: Plan, part: Part, index: int = 0):  # type: ignore[no-untyped-def]
    ledger = evaluate(plan, part, LIB)
    one = ledger.loads[index]
    return grips_in(one, ledger.plan, LIB)


# ---- suggestions


def test_grips_that_hold_come_first_the_quickest_of_them_first(sensor_plate: Part) -> None:
    found = tried(quick(sensor_plate), sensor_plate)
    holding = [g.holds for g in found]
    assert holding == sorted(holding, reverse=True)
    clean = [g for g in found if not g.findings]
    assert clean[0].hold.fixture.id in ("vise-100", "vise-125-double")
    assert [g.hold.load_seconds for g in clean] == sorted(g.hold.load_seconds for g in clean)


def test_every_refusal_has_its_reason(sensor_plate: Part) -> None:
    refused = {g.hold.fixture.id: [f.code for f in g.findings] for g in tried(quick(sensor_plate), sensor_plate)
               if not g.holds}  # fmt: skip
    assert "not-round" in refused["chuck-200"]
    assert "no-mount" in refused["chuck-200"]
    assert "too-few-screws" in refused["plate-300"]
    assert all(refused.values())


def test_safety_is_friction_over_the_greatest_cutting_force(sensor_plate: Part) -> None:
    ledger = evaluate(quick(sensor_plate), sensor_plate, LIB)
    one = ledger.loads[0]
    force = max(60_000 * op.power / op.cutting.vc for op in one.built.operations if "mill" in op.tool.kind)
    grip = next(g for g in grips_in(one, ledger.plan, LIB)
                if g.hold.fixture.id == "vise-100")  # fmt: skip
    # two jaws of 20 kN at µ 0.15
    assert grip.safety == pytest.approx(6000 / force)


def test_finding_about_a_grip_offers_what_would_hold() -> None:
    part = demo_part("shield-cap")
    plan = quick(part)
    hard = plan.with_setup(replace(plan.setups[1], fixture="vise-125"))
    ledger = evaluate(hard, part, LIB)
    (found,) = of(ledger, "grip-not-flat", "S2")
    cure = found.cures[0]
    assert cure.change["fixture"] == "vise-125-soft"
    mended, words = read_change(cure.change).apply(hard, Scene(part, LIB, ledger))
    assert words == "setup S2: Vise 125, soft jaws, turned to 0°"
    assert not of(evaluate(mended, part, LIB), "grip-not-flat")


def test_part_that_nothing_holds_any_more_is_said_with_the_reasons() -> None:
    # a ball-like knob on a thin neck: cut whole in the first setup, nothing is left to hold it by
    body = rod((0, 0, 0), UP, 12, 2) + rod((0, 0, 2), UP, 30, 10)
    part = built(body)
    plan = replace(quick(part), allowances=Allowances(2, 2, 2, 2, 8, 2))
    ledger = evaluate(plan, part, LIB)
    lonely = replace(LIB, fixtures=tuple(f for f in LIB.fixtures if f.id == "vise-100"))
    bare = evaluate(plan.with_setup(replace(plan.setups[-1], fixture=None)), part, lonely)
    (found,) = of(bare, "cannot-be-held")
    assert found.setup == plan.setups[-1].id
    assert "touches 0 of its" in found.why
    assert not of(ledger, "cannot-be-held"), "soft jaws hold it"


# ---- what is gripped


def test_finished_seat_between_the_jaws_is_a_warning(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    side = next(f for f in sensor_plate.features if f.kind == "face" and f.normal == (0, 1, 0))
    assert not of(evaluate(plan, sensor_plate, LIB), "seat-gripped")
    fine = replace(plan, said=(Said(side.id, finish=0.8),))
    (found,) = of(evaluate(fine, sensor_plate, LIB), "seat-gripped")
    assert (found.setup, found.features) == ("S2", (side.id,))
    assert "Ra 0.8" in found.title


def box_with_pocket(wall: float, floor: float, width: float = 60.0) -> Body:
    return block((0, 0, 0), (120, width, 30)) - rounded_block((15, wall, floor), (105, width - wall, 30), 5)


def thin(body: Body, code: str) -> list[Finding]:
    part = built(body)
    plan = quick(part)
    # turned over the jaws press beside the pocket that is there by then
    return of(evaluate(plan, part, LIB), code, "S2")


def test_wall_that_the_jaws_would_bend_is_a_warning() -> None:
    # it spans 2 × 25 of depth: below a tenth of that, 5 mm
    assert THIN_WALL * 50 == 5
    (found,) = thin(box_with_pocket(3.0, 5.0), "thin-wall")
    assert "on a wall 3.0 thick" in found.title
    assert thin(box_with_pocket(5.5, 5.0), "thin-wall") == []


def test_floor_that_the_jaws_would_bulge_is_a_warning() -> None:
    # 80 wide: below a twentieth, 4 mm
    assert thin(box_with_pocket(8.0, 5.0, 96.0), "thin-floor") == []
    assert len(thin(box_with_pocket(8.0, 3.0, 96.0), "thin-floor")) == 1
