"""The cycle to be looked at again: the seconds are the ledger's, the tool is where its path says."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.followed.course import around_of
from lean_ledger.core.followed.in_process import around_mesh
from lean_ledger.core.followed.play import played, timed_moves, tool_shape, way_of
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.plan import OperationEdit
from lean_ledger.core.timing.chain import Arc
from lean_ledger.core.timing.motion import feed, rapid, time_strokes
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick_ledger
from tests.core.test_indexed import indexed_plan
from tests.core.test_turning import on_lathe

LIB = shipped_library()
MILL = LIB.machines[0]


@cache
def ledgers() -> tuple[Ledger, ...]:
    hub, sonde = demo_part("vane-hub"), demo_part("sonde-carrier")
    return (
        quick_ledger(demo_part("sensor-base-plate")),
        evaluate(on_lathe(hub), hub, LIB),
        evaluate(indexed_plan(sonde), sonde, LIB),
    )


def test_point_on_an_arc_by_hand() -> None:
    quarter = Arc((10.0, 0.0, 0.0), (0.0, 10.0, 6.0), (0.0, 0.0, 0.0), 3.14159265 / 2)
    assert quarter.at(0.5) == pytest.approx((7.0711, 7.0711, 3.0), abs=1e-4)
    assert quarter.at(1.0) == pytest.approx((0, 10, 6), abs=1e-6)


def test_moves_take_their_seconds_by_hand() -> None:
    moves = list(timed_moves([feed(600, [(0, 0, 0), (100, 0, 0)]), rapid((100, 0, 0), (100, 0, 50))], MILL))
    assert moves[0] == (pytest.approx(10.0033, abs=1e-4), (100, 0, 0), False)
    assert moves[1][1:] == ((100, 0, 50), True)


@given(
    st.lists(
        st.tuples(st.floats(-50, 50), st.floats(-50, 50), st.floats(-20, 20), st.booleans()), min_size=2, max_size=12
    )
)
def test_moves_together_take_what_the_path_takes(steps: list[tuple[float, float, float, bool]]) -> None:
    points = [(round(x, 2), round(y, 2), round(z, 2)) for x, y, z, _ in steps]
    strokes = [
        rapid(a, b) if step[3] else feed(800, [a, b]) for (a, b), step in zip(pairwise(points), steps[1:], strict=True)
    ]
    time = time_strokes(strokes, MILL)
    assert sum(s for s, _, _ in timed_moves(strokes, MILL)) == pytest.approx(time.cut + time.rapid, abs=1e-9)


def test_run_takes_the_ledger_s_cycles() -> None:
    for ledger in ledgers():
        run, total = played(ledger)
        assert total == pytest.approx(ledger.cycle)
        assert [one.operation for one in run] == [op.id for op in ledger.operations]
        for before, after in pairwise(run):
            assert after.start >= before.start + before.lead + before.seconds - 1e-9


def test_way_ends_where_the_path_does_in_the_part_s_coordinates() -> None:
    for ledger in ledgers():
        for op in ledger.operations:
            way = way_of(ledger, op.id)
            assert way.points[0] == pytest.approx(op.frame.in_part(op.motion.start))
            assert way.points[-1] == pytest.approx(op.frame.in_part(op.motion.end), abs=1e-6)
            assert list(way.times) == sorted(way.times)
            assert way.times[-1] == pytest.approx(op.time.cut + op.time.rapid + op.reversal_seconds)
    with pytest.raises(PlanError, match="no operation S9"):
        way_of(ledgers()[0], "S9")


def test_tools_are_drawn_from_tip_to_spindle() -> None:
    ledger = ledgers()[0]
    mill = next(op for op in ledger.operations if op.tool.id == "EA16")
    cutter, holder = tool_shape(mill)
    assert max(r for r, _ in cutter) == 8
    assert max(z for _, z in cutter) == mill.tool.reach == holder[0][1]
    assert max(z for _, z in holder) == mill.tool.gauge
    assert max(r for r, _ in holder) == mill.tool.holder.diameter / 2
    insert = next(op for op in ledgers()[1].operations if op.motion.turned)
    assert len(tool_shape(insert)) == 2


def test_fixture_stands_under_the_part() -> None:
    ledger = ledgers()[0]
    setup = ledger.loads[0]
    mesh = around_mesh(around_of(setup))
    up = setup.built.home.frame.up
    highest = max(dot(v, up) for v in mesh.vertices)
    assert highest == pytest.approx(setup.built.hold.jaw_top)


def test_what_is_wrong_with_an_operation_stands_at_it() -> None:
    part = demo_part("sensor-base-plate")
    plain = quick_ledger(part)
    rough = next(op for op in plain.operations if op.kind == "rough pocket")
    plan = replace(plain.plan, edits=(OperationEdit(rough.id, vf=1.7 * rough.cutting.vf),))
    run, _ = played(evaluate(plan, part, LIB))
    assert next(one for one in run if one.operation == rough.id).finding.endswith("170 % of its usual feed.")
