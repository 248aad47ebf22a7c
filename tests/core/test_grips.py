"""Grips that are suggested, and what else may go wrong with what is gripped."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.geometry.solids import Body, block, rod, rounded_block
from lean_ledger.core.holding.checks import THIN_WALL
from lean_ledger.core.holding.ears import Bent, bent, most_force
from lean_ledger.core.holding.vise import ViseHold
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


# ---- ears that stand free


def test_ear_bends_as_a_cantilever() -> None:
    # I = 60 · 12³ / 12 = 8640; 20 000 · 20³ / (3 · 70 000 · 8640) = 0.0882; 6 · 20 000 · 20 / (60 · 144) = 277.8
    assert bent(20_000, 20, 60, 12, 70_000) == Bent(0.088, 278)
    # twice as thick: an eighth of the way, a quarter of the stress
    assert bent(20_000, 20, 60, 24, 70_000) == Bent(0.011, 69)


def fork(thick: float) -> list[Finding]:
    """Of a fork whose slot is cut first; turned over, the jaws are at its ears."""
    part = built(block((0, 0, 0), (60, 2 * thick + 16, 50)) - block((-1, thick, 18), (61, thick + 16, 51)))
    plan = quick(part)
    assert [s.up for s in plan.setups] == ["Z+", "Z-"]
    return of(evaluate(plan, part, LIB), "ears-bend")


def test_fork_is_not_clamped_across_its_open_ears() -> None:
    (found,) = fork(16.0)
    # 20 kN, 28 above the root of an ear 60 × 16: 0.102 each and 219 N/mm²
    assert found.setup == "S2", "in S1 the jaws lie against the solid foot"
    assert "together by 0.20" in found.title
    assert "16.0 thick, pressed 28.0 from their root: 219 N/mm²" in found.why
    assert "Put a spacer of 16.00 between them" in found.why
    assert fork(30.0) == []


def forked(thick: float) -> tuple[Part, Plan]:
    part = built(block((0, 0, 0), (60, 2 * thick + 16, 50)) - block((-1, thick, 18), (61, thick + 16, 51)))
    return part, quick(part)


def ears(part: Part, plan: Plan) -> list[Finding]:
    return of(evaluate(plan, part, LIB), "ears-bend")


def test_most_force_is_where_the_ear_gives_as_much_as_it_may() -> None:
    """0.0882 mm at 20 kN: 0.05 at 11.34 kN; of a weak material the yield strength is come to first."""
    aluminium = LIB.material("al-6082")
    assert aluminium is not None
    force = most_force(20, 60, 12, replace(aluminium, modulus=70_000, yield_strength=10_000))
    assert force == pytest.approx(11_340, rel=0.001)
    assert bent(force, 20, 60, 12, 70_000).by == pytest.approx(0.05, abs=0.0006)
    # 100 N/mm² · 60 · 12² / (6 · 20) = 7200 N
    assert most_force(20, 60, 12, replace(aluminium, modulus=70_000, yield_strength=100)) == pytest.approx(7200)


def test_each_cure_of_ears_that_bend_cures_them() -> None:
    part, plan = forked(9)
    (found,) = ears(part, plan)
    own = {str(cure.change["change"]): cure for cure in found.cures}
    assert own["set-spacer"].label.startswith("Spacer of 16.00 in ")
    assert own["set-force"].label.startswith("Press with ")
    for cure in (own["set-spacer"], own["set-force"]):
        cured, words = read_change(dict(cure.change)).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))
        assert ears(part, cured) == [], words
    assert "pressed with" in words


def test_spacer_stands_between_the_ears_and_in_the_sheet() -> None:
    part, plan = forked(9)
    (found,) = ears(part, plan)
    change = next(dict(cure.change) for cure in found.cures if cure.change["change"] == "set-spacer")
    cured, words = read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))
    slot = str(change["feature"])
    assert words == f"setup {found.setup}: a spacer in {slot}"
    hold = next(s for s in evaluate(cured, part, LIB).loads if s.decision.id == found.setup).built.hold
    assert isinstance(hold, ViseHold)
    ((of_slot, block_between),) = hold.spacers
    assert of_slot == slot
    assert block_between.box.size[1] == pytest.approx(16)
    assert block_between.box.size[2] == pytest.approx(hold.grip)
    assert block_between in hold.obstacles
    assert dict(hold.words)["spacer"] == f"16.00 in {slot}"
    out, _ = read_change({"change": "set-spacer", "setup": found.setup, "feature": slot, "there": False}).apply(
        cured, Scene(part, LIB, evaluate(cured, part, LIB))
    )
    assert out == plan


def test_spacer_is_told_only_where_it_lies_between_the_jaws() -> None:
    """Turned, the slot runs from jaw to jaw: nothing is put in there, and the sheet does not say so."""
    part, plan = forked(9)
    setup = plan.setups[1]
    spaced = replace(setup, spacers=("G1",))
    for turn, count in ((setup.turn, 1), (90, 0)):
        turned = plan.with_setup(replace(spaced, turn=turn))
        hold = evaluate(turned, part, LIB).load_of(setup.id).built.hold
        assert isinstance(hold, ViseHold)
        assert len(hold.spacers) == count, turn
        assert ("spacer" in dict(hold.words)) == bool(count)


def test_less_force_holds_less() -> None:
    part, plan = forked(9)
    setup = plan.setups[1].id
    ledger = evaluate(plan, part, LIB)
    pressed, words = read_change({"change": "set-force", "setup": setup, "force": 5.0}).apply(
        plan, Scene(part, LIB, ledger)
    )
    assert words == f"setup {setup}: pressed with 5 kN"
    before, after = (evaluate(p, part, LIB).load_of(setup).built.hold for p in (plan, pressed))
    assert isinstance(before, ViseHold)
    assert isinstance(after, ViseHold)
    # 2 · 0.15 · 5 kN
    assert after.friction == pytest.approx(1500)
    assert after.friction < before.friction
    assert dict(after.words)["force"] == f"5 kN of {before.force_kn:g}"


@pytest.mark.parametrize(("change", "code"), [
    ({"change": "set-force", "force": 500.0}, "out-of-range"), ({"change": "set-force", "force": 0.0}, "out-of-range"),
    ({"change": "set-spacer", "feature": "G99", "there": True}, "no-such-feature"),
])  # fmt: skip
def test_force_and_spacers_that_cannot_be_are_refused(change: dict[str, object], code: str) -> None:
    part, plan = forked(9)
    with pytest.raises(PlanError) as refused:
        read_change({**change, "setup": plan.setups[1].id}).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))
    assert refused.value.code == code
