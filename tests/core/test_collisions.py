"""Tools and holders against fixture and stock, forces against the grip: each check trips, and the free one passes."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lean_ledger.core.followed.collisions import (
    Collision,
    holder_sweep,
    into_fixture,
    into_solid,
    into_stock,
    is_follower,
    rapid_into,
)
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.cuts import STRAIGHT, Blank, Course, Cut
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.followed.sweep import swept
from lean_ledger.core.geometry.masses import box_mass, united
from lean_ledger.core.geometry.model import Bounds, Mesh
from lean_ledger.core.geometry.solids import block, obround, rod
from lean_ledger.core.loads.force import cutting_force, force_findings
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.timing.motion import feed, rapid
from lean_ledger.library import shipped_library
from lean_ledger.library.types import Holder, Tool, ToolKind
from tests.conftest import built, demo_part, quick_ledger

MILL = next(t for t in shipped_library().tools if t.kind == ToolKind.END_MILL and t.diameter == 10)
#: two jaws whose tops are at 0, 60 apart
JAWS = (Bounds((-50, -50, -30), (50, -30, 0)), Bounds((-50, 30, -30), (50, 50, 0)))


def nose(diameter: float) -> Holder:
    return Holder("nose", f"nose Ø{diameter:g}", diameter, 55.0)


def across(z: float) -> Motion:
    return Motion((feed(500, [(0, -45, z), (0, 45, z)]),))


def met(motion: Motion, tool: Tool = MILL) -> list[Collision]:
    return into_fixture("op", motion, tool, swept(motion, tool, 40), united([box_mass(jaw) for jaw in JAWS]), 40)


def test_tool_that_goes_through_the_jaws_is_found_and_one_above_is_not() -> None:
    assert met(across(0.5)) == []
    (found,) = met(across(-3))
    assert (found.what, found.into, found.depth) == ("tool", "fixture", 3)
    assert found.at[2] == -1.5


def test_holder_meets_the_jaws_where_the_tool_reaches_down_between_them() -> None:
    stubby = replace(MILL, reach=20.0, holder=nose(70.0))
    down = Motion((feed(100, [(0, 0, 10), (0, 0, -25)]),))
    # the nose of Ø70 stands at −5: it reaches 35 to each side, 5 into each jaw
    (found,) = met(down, stubby)
    assert (found.what, found.into) == ("holder", "fixture")
    assert found.depth == 5
    assert met(down, replace(stubby, reach=26.0)) == []


def test_holder_meets_a_wall_beside_the_hole() -> None:
    wall = box_mass(Bounds((-40, -40, 0), (-6, 40, 60)))
    drill = replace(MILL, diameter=5.0, reach=40.0, holder=nose(20.0))
    down = Motion((feed(100, [(0, 0, 12), (0, 0, -5)]),))
    # the nose is 20 wide from 35 up: 4 into a wall that stands 6 beside the hole and 60 high
    (found,) = into_stock("op", down, drill, wall, 65)
    assert (found.what, found.into, found.depth) == ("holder", "stock", pytest.approx(4, abs=0.02))
    assert into_stock("op", down, replace(drill, reach=66.0), wall, 65) == []
    assert into_stock("op", down, replace(drill, holder=nose(11.0)), wall, 65) == []


def test_holder_is_swept_above_the_reach_only() -> None:
    swept_nose = holder_sweep(across(-3), replace(MILL, reach=20.0, holder=nose(30.0)), 40)
    assert swept_nose.bounds.min[2] == pytest.approx(17)
    assert swept_nose.bounds.max[0] == pytest.approx(15, abs=0.02)


def test_rapid_through_what_still_stands_is_found_and_one_beside_is_not() -> None:
    block_ = box_mass(Bounds((0, 0, -20), (40, 40, 0)))
    beside = [rapid((-6, 20, 5), (-6, 20, -10))]  # radius 5: 1 mm off
    into = [rapid((3, 20, 5), (3, 20, -4))]
    above = [rapid((-20, 20, 2), (60, 20, 2))]
    assert rapid_into("op", "stock", beside, MILL, block_, 40) == []
    assert rapid_into("op", "stock", above, MILL, block_, 40) == []
    (found,) = rapid_into("op", "stock", into, MILL, block_, 40)
    assert (found.what, found.into, found.depth) == ("rapid", "stock", 4)


def test_tap_at_rapid_is_as_solid_as_a_mill() -> None:
    tap = next(t for t in shipped_library().tools if t.kind == ToolKind.TAP)
    wall = box_mass(Bounds((0, -20, -20), (40, 20, 0)))
    assert rapid_into("op", "fixture", [rapid((1, 0, 5), (1, 0, -8))], tap, wall, 40)[0].into == "fixture"


def test_first_rapids_meet_all_of_the_stock_and_later_ones_what_is_left() -> None:
    # 8 off the middle of a block: the way down at rapid is not the cut's own doing
    cut = feed(300, [(20, 20, -2), (20, 20, -8), (20, 60, -8)])
    slot = Motion((rapid((20, -10, 5), (20, 20, 5), (20, 20, -2)), cut, rapid((20, 60, -8), (20, 60, 5))))
    course = one_cut(slot)
    (found,) = followed(course).collisions
    assert (found.what, found.into, found.depth) == ("rapid", "stock", 2)
    sound = Motion((rapid((20, 20, 5), (20, 20, 2)), feed(300, [(20, 20, 2), (20, 20, -8), (20, 60, -8)]),
                    rapid((20, 60, -8), (20, 60, 5))))  # fmt: skip
    assert followed(one_cut(sound)).collisions == ()


def one_cut(motion: Motion) -> Course:
    box = Bounds((0, 0, -20), (40, 40, 0))
    target = box_mass(Bounds((0, 0, -20), (40, 40, -9)))
    vertices, triangles = target.triangles()
    mesh = Mesh(tuple(map(tuple, vertices.tolist())), tuple(map(tuple, triangles.tolist())), (0,) * len(triangles))
    approach = (rapid((*motion.start[:2], 40.0), motion.start),)
    return Course(Blank(box), (mesh,), (Cut("op", motion, MILL, STRAIGHT, 10.0, approach=approach),))


def test_narrow_slot_is_come_down_in_where_roughing_was() -> None:
    # Ø5 in a slot 6 wide: 0.5 of room to each side, and 0.3 of stock on the walls
    part = built(block((0, 0, 0), (60, 30, 15)) - obround((30, 15, 15), 30, 6, 9))
    ledger = quick_ledger(part)
    finish = next(op for op in ledger.operations if op.kind == "finish wall")
    assert finish.tool.diameter == 5
    found = followed(course_of(part, ledger))
    assert [c for c in found.collisions if c.what == "rapid"] == []


def test_jaws_stand_beside_the_stock_and_end_at_the_grip() -> None:
    hold = quick_ledger(demo_part("sensor-base-plate")).loads[0].built.hold
    front, behind, bed, *under = (piece.box for piece in hold.obstacles)
    assert [piece.max[2] for piece in under] == [hold.floor] * 2, "the parallels carry the stock"
    assert (front.max[1], behind.min[1]) == hold.gripped_y
    assert front.max[2] == behind.max[2] == hold.jaw_top == hold.stock.min[2] + hold.grip
    assert bed.max[2] == pytest.approx(hold.stock.min[2] - (hold.vise.jaw_height - hold.grip))


def test_spot_close_to_a_tall_wall_is_left_out_and_named() -> None:
    body = block((0, 0, 0), (60, 40, 45)) - block((20, 0, 10), (60, 40, 45)) - rod((26, 20, 0), (0, 0, 1), 5, 10)
    part = built(body)
    ledger = quick_ledger(part)
    # the wall stands 6 off the hole's axis and 35 high: the spot drill's holder does not go down beside it
    assert all(f.code == "stock-left" for f in stock_findings(part, ledger, followed(course_of(part, ledger))))
    left_out = [f for f in ledger.findings if f.code == "no-spot"]
    assert {f.features for f in left_out} == {("H1",)}
    assert "is drilled without it" in left_out[0].why
    assert not [op for op in ledger.operations if op.kind == "spot"]
    (drill,) = [op for op in ledger.operations if op.kind == "drill"]
    assert drill.tool.reach > 35, "the drill is long enough"


def test_tap_needs_an_open_hole() -> None:
    tap = next(t for t in shipped_library().tools if t.kind == ToolKind.TAP and t.diameter == 6)
    plate = box_mass(Bounds((-20, -20, 0), (20, 20, 20)))
    drilled = swept(Motion((feed(100, [(0, 0, 22), (0, 0, -2)]),)), replace(MILL, diameter=5.0), 40)
    down = Motion((feed(500, [(0, 0, 22), (0, 0, -1)]),))
    assert into_solid("op", down, tap, plate.minus([drilled]), 40) == []
    shallow = swept(Motion((feed(100, [(0, 0, 22), (0, 0, 6)]),)), replace(MILL, diameter=5.0), 40)
    (found,) = into_solid("op", down, tap, plate.minus([shallow]), 40)
    # its core of 6 − 2 · 1 goes 6 through solid stock; the least extent is its width
    assert (found.what, found.into, found.depth) == ("follower", "stock", pytest.approx(4, abs=0.02))


@pytest.mark.parametrize(
    ("kind", "diameter", "hole"), [(ToolKind.REAMER, 8.0, 7.8), (ToolKind.BORING_HEAD, 30.0, 28.0)]
)
def test_reamer_and_boring_head_only_widen(kind: ToolKind, diameter: float, hole: float) -> None:
    found = next(t for t in shipped_library().tools if t.kind == kind)
    follower = replace(found, diameter=diameter)
    plate = box_mass(Bounds((-40, -40, 0), (40, 40, 20)))
    down = Motion((feed(100, [(0, 0, 22), (0, 0, -1)]),))
    assert is_follower(follower)
    opened = swept(Motion((feed(100, [(0, 0, 22), (0, 0, -2)]),)), replace(MILL, diameter=hole), 40)
    assert into_solid("op", down, follower, plate.minus([opened]), 40) == []
    assert into_solid("op", down, follower, plate, 40)


# ---- force


def test_force_and_friction_by_hand() -> None:
    ledger = quick_ledger(demo_part("sensor-base-plate"))
    face = ledger.loads[0].calls[0].operation
    assert face.kind == "face"
    half = replace(face, power=1.5, cutting=replace(face.cutting, vc=180.0))
    assert cutting_force(half) == pytest.approx(500)
    drill = next(op for op in ledger.operations if op.kind == "drill")
    assert cutting_force(drill) == 0
    hold = ledger.loads[0].built.hold
    # two jaws of 20 kN at µ 0.15
    assert replace(hold, vise=replace(hold.vise, force_kn=20.0)).friction == pytest.approx(6000)


def test_weak_grip_slips_and_a_strong_one_does_not() -> None:
    setup = quick_ledger(demo_part("sensor-base-plate")).loads[0]
    operations, hold = setup.built.operations, setup.built.hold
    assert force_findings(setup.decision, hold, operations) == []
    force = max(cutting_force(op) for op in operations)
    # 2.5 times the force needs 2.5 F / (2 · 0.15) of clamping
    enough = 2.5 * force / 0.3 / 1000
    at_the_limit = replace(hold, vise=replace(hold.vise, force_kn=enough * 1.001))
    below = replace(hold, vise=replace(hold.vise, force_kn=enough * 0.99))
    assert force_findings(setup.decision, at_the_limit, operations) == []
    (finding,) = force_findings(setup.decision, below, operations)
    assert (finding.code, finding.setup) == ("grip-slips", "S1")
    assert "2.5 times that, where 2.5 are asked for" in finding.why


def test_stock_that_stands_far_out_of_the_jaws_is_named() -> None:
    low = quick_ledger(demo_part("sensor-base-plate")).loads[0]
    tall = replace(low.built.hold, boxes=(Bounds((0, 0, 0), (60, 20, 90)),), grip=8.0)
    (finding,) = force_findings(low.decision, tall, ())
    assert finding.code == "stands-far-out"
    assert "stands 82 out of the jaws and is 20 wide" in finding.title
    assert force_findings(low.decision, replace(tall, boxes=(Bounds((0, 0, 0), (60, 30, 90)),)), ()) == []
