"""Fixtures on mounts, carriers between, and every tool's positions against the machine's travels."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.geometry.vectors import cross, dot, norm
from lean_ledger.core.holding.placement import mount_findings, seats, stacks, turn_of
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.travel import travel_findings
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, SetupDecision
from lean_ledger.library import shipped_library
from lean_ledger.library.fixtures import Fixture
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import ToolKind
from tests.conftest import demo_part, quick
from tests.core.test_indexed import indexed_plan
from tests.values import bed, changed, machine_with

LIB = shipped_library()
MILL = LIB.machines[0]
ROTARY = next(m for m in LIB.machines if m.id == "mill-762-rotary")
RIGHT = st.sampled_from([0.0, 90.0, 180.0, -90.0])


def fixture(id: str) -> Fixture:
    found = LIB.fixture(id)
    assert found is not None
    return found


def codes(findings: list[Finding]) -> set[str]:
    return {f.code for f in findings}


@given(st.tuples(RIGHT, RIGHT, RIGHT))
def test_a_mount_s_axes_stay_right_handed(rotation: tuple[float, float, float]) -> None:
    x, y, z = turn_of(rotation)
    assert cross(x, y) == pytest.approx(z)
    assert norm(x) == pytest.approx(1)
    assert dot(x, z) == pytest.approx(0)


def test_rotation_is_about_x_then_y_then_z() -> None:
    # about y by −90° z goes to −x
    assert turn_of((0, -90, 0))[2] == (-1, 0, 0)
    # about x by 90° y goes to z, then about z by 90° z stays
    assert turn_of((90, 0, 90))[1] == (0, 0, 1)


def test_riser_lifts_what_stands_on_it() -> None:
    riser = LIB.carrier("riser-60")
    assert riser is not None
    (bare,) = seats(MILL, ())
    (lifted,) = seats(MILL, (riser,))
    assert bare.at == (381, 203, 0)
    assert lifted.at == (381, 203, 60)
    (twice,) = seats(MILL, (riser, riser))
    assert twice.at[2] == 120


def test_turned_base_plate_turns_the_fixture_and_with_it_the_machine_s_axes(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    turned = changed(plan, plan.setups[0].id, on=("base-turned",))
    straight, across = (evaluate(p, sensor_plate, LIB).loads[0].built for p in (plan, turned))
    assert across.hold.frame == straight.hold.frame, "the part lies in the vise as before"
    assert straight.home.frame == straight.hold.frame
    # the vise's x points along the machine's y: the machine's x is the vise's −y
    assert across.home.frame.right == pytest.approx(tuple(-c for c in across.hold.frame.back))
    size = across.home.frame.box(across.before.bounds).size
    assert size[1] > size[0]


def test_tombstone_stands_its_fixture_on_the_rotary(sensor_plate: Part) -> None:
    bar = LIB.carrier("bridge-rotary")
    assert bar is not None
    found = {s.name: s for s in seats(ROTARY, (bar,))}
    assert set(found) == {"table", "side 2", "side 3", "side 4"}
    # the bar lies along −X from the rotary's face at X 640: its first side is 150 along it and 40 off the axis
    assert found["table"].at == pytest.approx((640 - 150, 203, 160 + 40))
    assert found["table"].turn[2] == pytest.approx((0, 0, 1))
    plan = quick(sensor_plate)
    on_bridge = changed(plan, plan.setups[0].id, machine=ROTARY.id, on=("bridge-rotary",))
    one = evaluate(on_bridge, sensor_plate, LIB).loads[0]
    assert not codes(mount_findings(one.decision, one.built.hold.fixture, bed(ROTARY, LIB, ("bridge-rotary",))))


def test_carrier_without_its_mount_is_a_finding_that_lists_what_there_is() -> None:
    setup = SetupDecision("S1", "Z+")
    (found,) = mount_findings(setup, fixture("vise-100"), bed(MILL, LIB, ("bridge-rotary",)))
    assert found.code == "no-mount"
    assert "sits on a mount named “rotary face”; here is offered: table" in found.why
    assert found.cures[0].change == {"change": "set-carriers", "setup": "S1", "carriers": []}


def test_fixture_on_a_face_that_looks_sideways_needs_indexing() -> None:
    chuck = fixture("chuck-160-four")
    upright = SetupDecision("S1", "Z+", fixture=chuck.id)
    assert codes(mount_findings(upright, chuck, bed(ROTARY))) == {"lies-sideways"}
    assert codes(mount_findings(replace(upright, free="X+"), chuck, bed(ROTARY))) == set()
    vise = fixture("vise-100")
    assert codes(mount_findings(replace(upright, free="X+"), vise, bed(ROTARY))) == {"not-on-axis"}
    assert codes(mount_findings(upright, vise, bed(ROTARY))) == set()


# ---- travels


def evaluated(plan: Plan, part: Part, machine: Machine) -> tuple[Ledger, list[Finding]]:
    """Against the travels of a machine that may differ from the plan's."""
    ledger = evaluate(plan, part, LIB)
    first = ledger.loads[0]
    return ledger, travel_findings(first.decision, first.built.stands, machine, first.built.operations)


def test_every_tool_position_stays_in_the_travels(sensor_plate: Part) -> None:
    _, found = evaluated(quick(sensor_plate), sensor_plate, MILL)
    assert found == []


def test_travel_is_checked_with_the_tool_s_run_off_counted(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    ledger = evaluate(plan, sensor_plate, LIB)
    built = ledger.loads[0].built
    shift = built.stands.shift(built.home.frame)
    far = max(p[0] + shift[0] for op in built.operations for s in op.motion.strokes for p in s.points)
    # the face mill's centre runs beyond the stock, which is 144 long about X 381
    assert far > 381 + 72
    enough = machine_with(MILL, travel=((0.0, far + 0.02), *MILL.travel[1:]))
    short = machine_with(MILL, travel=((0.0, far - 2.0), *MILL.travel[1:]))
    assert evaluated(plan, sensor_plate, enough)[1] == []
    (found,) = evaluated(plan, sensor_plate, short)[1]
    assert (found.code, found.setup) == ("past-travel", "S1")
    assert "X of Mill 1, travel 762 runs 2 past its travel" in found.title
    assert found.operation


def test_spindle_s_nose_must_come_down_to_the_deepest_cut(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    ledger = evaluate(plan, sensor_plate, LIB)
    built = ledger.loads[0].built
    shift = built.stands.shift(built.home.frame)[2]
    lowest = min(p[2] + shift + op.tool.gauge for op in built.operations for s in op.motion.strokes for p in s.points)
    raised = machine_with(MILL, travel=(*MILL.travel[:2], (lowest + 5, 508.0)))
    (found,) = evaluated(plan, sensor_plate, raised)[1]
    assert found.title.startswith("Z of Mill 1")
    assert "the spindle's nose" in found.why


def test_part_that_swings_into_the_table_is_a_finding() -> None:
    part = demo_part("sonde-carrier")
    plan = indexed_plan(part)
    first = evaluate(plan, part, LIB).loads[0]
    stands = first.built.stands
    # the chuck's jaws reach out to its body's edge, 80; their corners a little more
    assert stands.swing == pytest.approx((80**2 + 14**2) ** 0.5, abs=0.5)
    assert travel_findings(first.decision, stands, ROTARY, ()) == []
    low = replace(stands, seat=replace(stands.seat, at=(640.0, 203.0, 70.0)))
    assert codes(travel_findings(first.decision, low, ROTARY, ())) == {"swing"}


def test_seat_is_the_one_that_the_fixture_names() -> None:
    table, face = (
        bed(ROTARY).seat_of(fixture("vise-100")),
        bed(ROTARY).seat_of(fixture("chuck-160-four")),
    )
    assert table is not None
    assert face is not None
    assert (table.name, face.name) == ("table", "rotary face")
    assert bed(ROTARY).seat_of(fixture("collet-42")) is None


def test_carriers_stand_in_the_tool_s_way_as_solids(sensor_plate: Part) -> None:
    plan = quick(sensor_plate)
    risen = changed(plan, plan.setups[0].id, on=("riser-60",))
    built = evaluate(risen, sensor_plate, LIB).loads[0].built
    (block,) = built.stands.carriers(built.hold)
    # 60 high right under the vise's mount, 250 × 200 about its middle
    mount = built.hold.floor - built.hold.seat
    assert (block.box.min[2], block.box.max[2]) == (pytest.approx(mount - 60), pytest.approx(mount))
    assert block.box.size[:2] == pytest.approx((250, 200))
    barred = changed(plan, plan.setups[0].id, machine=ROTARY.id, on=("bridge-rotary",))
    built = evaluate(barred, sensor_plate, LIB).loads[0].built
    (bar,) = built.stands.carriers(built.hold)
    # the bar's own half width lies between its axis and the face that the vise sits on
    assert bar.box.max[2] == pytest.approx(built.hold.floor - built.hold.seat)
    assert bar.box.size[2] == pytest.approx(80)
    assert max(bar.box.size) == pytest.approx(260)


def test_stacks_are_those_that_find_their_mounts() -> None:
    def names(machine: Machine) -> set[tuple[str, ...]]:
        return {tuple(c.id for c in stack) for stack in stacks(machine, LIB)}

    assert ("riser-60", "base-turned") in names(MILL)
    assert ("bridge-rotary",) not in names(MILL)
    assert ("bridge-rotary", "riser-60") in names(ROTARY)


# ---- travels of a lathe


def lathe_findings(**travel: tuple[float, float]) -> list[Finding]:
    part = demo_part("vane-hub")
    lathe = next(m for m in LIB.machines if m.id == "lathe-320")
    first = evaluate(moved_to(quick(part), lathe, part, LIB), part, LIB).loads[0]
    axes = {name: travel.get(name, reach) for name, reach in zip("xyz", lathe.travel, strict=True)}
    short = machine_with(lathe, travel=(axes["x"], axes["y"], axes["z"]))
    return travel_findings(first.decision, first.built.stands, short, first.built.operations)


def test_lathe_s_travel_counts_x_as_a_diameter_and_z_at_the_turret() -> None:
    assert lathe_findings() == []
    # facing goes 0.4 past the middle: X −0.8
    (past,) = lathe_findings(x=(0.0, 320.0))
    assert past.operation.endswith("face-in-the-lathe")
    assert "runs 1 past" in past.title
    assert "the tool's tip comes to X -1" in past.why
    # the longest drill's turret stands its reach and the holder's 55 in front of the tip
    part = demo_part("vane-hub")
    lathe = next(m for m in LIB.machines if m.id == "lathe-320")
    first = evaluate(moved_to(quick(part), lathe, part, LIB), part, LIB).loads[0]
    stands = first.built.stands
    most = max(
        stands.on_lathe(op.frame, stands.lathe_clear(op.frame))[2]
        + (0 if op.tool.kind == ToolKind.TURNING else op.tool.gauge)
        for op in first.built.operations
    )
    assert lathe_findings(z=(0.0, most + 0.1)) == []
    (long,) = lathe_findings(z=(0.0, most - 20))
    assert "runs 20 past" in long.title
    assert "the turret comes to Z" in long.why
