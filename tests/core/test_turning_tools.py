"""Turning tools beside what their inserts cut: shank, blade and bar against the jaws and the turned work."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lean_ledger.core.followed.collisions import turning_into, turning_rapid_into
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.followed.turning_tools import turned_sweep
from lean_ledger.core.geometry.masses import Mass, lathe_mass
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.operations.turning.insert_outline import insert_of, shank_of
from lean_ledger.core.timing.motion import feed, rapid
from lean_ledger.library import shipped_library
from tests.conftest import demo_part
from tests.core.test_turning import DRIVEN, LIB, on_lathe
from tests.values import machine_with

TOOLS = {t.id: t for t in shipped_library().tools}
AXIS = (0.0, 0.0)


def ring(inner: float, outer: float, low: float, high: float) -> Mass:
    """A disc with a hole, about the axis."""
    whole = lathe_mass([(0, low), (outer, low), (outer, high), (0, high)], AXIS, outer)
    return whole.minus([lathe_mass([(0, low - 1), (inner, low - 1), (inner, high + 1), (0, high + 1)], AXIS, inner)])


def along(r: float, start: float, end: float) -> Motion:
    return Motion((feed(200, [(r, 0, start), (r, 0, end)]),), turned=(((r, end), (90, end), (90, start), (r, start)),))


def test_sections_by_hand() -> None:
    turning, groove, bar = TOOLS["TR08"], TOOLS["GR3"], TOOLS["BB10"]
    assert [p.bounds for p in shank_of(turning)] == [(10, 0, 40, 25)]
    (wedge,) = insert_of(turning)
    # 80° between the edges: at the shank's full 25 of width the flank has risen by 25 / tan 80° = 4.408
    assert wedge.contains_properly(wedge.representative_point())
    assert min(x for x, z in wedge.exterior.coords if z == 25) == pytest.approx(4.408, abs=1e-3)
    assert insert_of(groove)[0].bounds == (0, 0, 12, 3)
    assert [p.bounds for p in shank_of(groove)] == [(12, 0, 40, 25)]
    # Ø10 at the least: 8.5 of bar and tip, the bar itself 7 thick
    assert [p.bounds for p in shank_of(bar)] == [(-8.5, 0, -1.5, 50), (-18.5, 50, 10, 90)]


def test_insert_above_the_jaws_is_free_and_one_that_goes_below_them_is_not() -> None:
    jaws = ring(20, 60, -30, 0)
    assert turning_into("op", "fixture", along(20, 40, 1), TOOLS["TR08"], jaws) == []
    tool = turning_into("op", "fixture", along(18, 40, -2), TOOLS["TR08"], jaws)
    assert [(c.what, c.depth) for c in tool] == [("holder", pytest.approx(2, abs=0.06)),
                                                 ("tool", pytest.approx(2, abs=0.06))]  # fmt: skip


def test_shank_of_a_grooving_tool_meets_the_flange_beside_a_deep_groove() -> None:
    # the bottom of the groove is at Ø20; a blade 12 long leaves the shank at Ø44, and a flange of Ø60 stands beside it
    plunge = Motion((feed(60, [(32, 0, 0), (10, 0, 0)]),))
    flange = ring(0, 30, 5, 15)
    (found,) = turning_into("op", "stock", plunge, TOOLS["GR3"], flange)
    assert (found.what, found.into) == ("holder", "stock")
    assert found.depth == pytest.approx(30 - 22, abs=0.1)
    assert turning_into("op", "stock", plunge, TOOLS["GR3"], ring(0, 21.9, 5, 15)) == []
    # beyond the shank's 25 of width it stands clear
    assert turning_into("op", "stock", plunge, TOOLS["GR3"], ring(0, 30, 25.1, 30)) == []


def test_sleeve_of_a_bar_meets_the_face_of_a_bore_deeper_than_it_reaches() -> None:
    bore = ring(8, 30, -60, 0)
    assert turning_into("op", "stock", along(8, 2, -48), TOOLS["BB10"], bore) == []
    (found,) = turning_into("op", "stock", along(8, 2, -53), TOOLS["BB10"], bore)
    assert (found.what, found.depth) == ("holder", pytest.approx(3, abs=0.06))


def test_bar_thicker_than_half_the_bore_meets_the_far_wall() -> None:
    # a bar's back reaches 8.5 from its tip: in a bore of Ø12, with the tip at its wall, 2.5 beyond the axis
    assert turning_into("op", "stock", along(6, 2, -20), TOOLS["BB10"], ring(6, 30, -60, 0)) == []
    assert turned_sweep(shank_of(TOOLS["BB10"])[:1], along(3, 2, -20).strokes, AXIS).bounds.max[0] == pytest.approx(
        5.45, abs=0.01
    )


def test_turning_tool_at_rapid_goes_round_what_stands() -> None:
    work = ring(0, 25, -60, 0)
    across = [rapid((80, 0, 40), (20, 0, -10))]
    (found,) = turning_rapid_into("op", "stock", across, TOOLS["TR08"], work, AXIS)
    assert found.what == "rapid"
    assert found.depth > 3
    beside = [rapid((80, 0, 40), (26, 0, 2), (26, 0, -30))]
    assert turning_rapid_into("op", "stock", beside, TOOLS["TR08"], work, AXIS) == []


def test_bar_that_is_swapped_for_a_short_one_is_named_by_the_plan_s_stock() -> None:
    part = demo_part("vane-hub")
    ledger = evaluate(on_lathe(part), part, LIB)
    course = course_of(part, ledger)
    assert followed(course).collisions == ()
    (bore,) = (cut for cut in course.cuts if cut.operation.endswith(".bore"))
    assert bore.tool.reach == 30
    stubby = replace(bore, tool=replace(bore.tool, reach=8.0))
    swapped = replace(course, cuts=tuple(stubby if cut is bore else cut for cut in course.cuts))
    met = followed(swapped)
    # 12 deep: the sleeve goes 4 into the end's face
    (named,) = (f for f in stock_findings(part, ledger, met) if f.code == "holder-in-stock")
    assert named.operation == bore.operation
    assert next(c.depth for c in met.collisions if c.what == "holder") == pytest.approx(4, abs=0.1)


def test_holes_beside_the_axis_are_brought_to_x_where_x_does_not_come_to_them() -> None:
    part = demo_part("shield-cap")
    ledger = evaluate(on_lathe(part, DRIVEN), part, LIB)
    first = ledger.loads[0]
    drilled = [op for op in first.built.operations if op.kind == "drill" and op.tool.diameter == 4.2]
    assert len(drilled) == 6
    assert len({op.way.angle for op in drilled}) == 6
    for op in drilled:
        x, y, _ = first.built.stands.on_lathe(op.frame, op.motion.start)
        assert x == pytest.approx(36, abs=0.01)
        assert y == pytest.approx(0, abs=0.01)
    assert first.seconds["index"] > 5
    assert {f.code for f in stock_findings(part, ledger, followed(course_of(part, ledger)))} == set()
    far = replace(LIB, machines=tuple(
        machine_with(m, travel=((-100.0, 280.0), *m.travel[1:])) if m.id == DRIVEN.id else m for m in LIB.machines
    ))  # fmt: skip
    at_once = evaluate(on_lathe(part, DRIVEN), part, far).loads[0]
    assert len([op for op in at_once.built.operations if op.kind == "drill" and op.tool.diameter == 4.2]) == 1
