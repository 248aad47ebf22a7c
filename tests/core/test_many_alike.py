"""Many alike pockets are one operation each: the same cuts, one line to look at, to set and to program."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from functools import cache
from math import dist
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import Body, block, rod, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations import build
from lean_ledger.core.operations.many import Alike, Led, put_together
from lean_ledger.core.operations.milling import recesses
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.part.lineage import follow
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import ChainChoice, OperationEdit
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.library import shipped_library
from tests.conftest import built, quick

LIB = shipped_library()


def plate_body(nx: int, ny: int, radius: float = 4.0, holes: int = 0) -> Body:
    """A grid of pockets of 24 × 24, 8 deep; the first so many of them with a hole in the floor."""
    body = block((0, 0, 0), (12 + 32 * nx, 12 + 32 * ny, 20))
    for k in range(nx * ny):
        x, y = 10 + 32 * (k % nx), 10 + 32 * (k // nx)
        low, high = (x, y, 12), (x + 24, y + 24, 21)
        body = body - (rounded_block(low, high, radius) if radius else block(low, high))
        if k < holes:
            body = body - rod((x + 12, y + 12, 0), (0, 0, 1), 6, 15)
    return body


@cache
def plate(nx: int, ny: int, radius: float = 4.0, holes: int = 0) -> Part:
    return built(plate_body(nx, ny, radius, holes), f"plate {nx} {ny} {radius} {holes}")


def planned(part: Part, **changes: Any) -> Ledger:
    return evaluate(replace(quick(part), **changes), part, LIB)


@pytest.fixture
def apart(monkeypatch: pytest.MonkeyPatch) -> Any:
    """A plan as it is where nothing is put together."""

    def made(part: Part) -> Ledger:
        build._built.cache_clear()
        with monkeypatch.context() as patched:
            patched.setattr(recesses, "MANY", 1000)
            found = planned(part)
        build._built.cache_clear()
        return found

    return made


def named(ledger: Ledger, word: str) -> list[Operation]:
    return [op for op in ledger.operations if word in op.name]


def test_six_pockets_are_one_line_each_and_cost_its_programming(apart: Any) -> None:
    ledger, single = planned(plate(3, 2)), apart(plate(3, 2))
    (rough,) = named(ledger, "Rough 6 pockets P1 to P6")
    assert rough.features == tuple(f"P{k}" for k in range(1, 7))
    assert next(f.value for f in rough.figures if f.label == "places") == 6
    lines = len(single.operations) - len(ledger.operations)
    assert lines == 5 * len(named(ledger, "6 pockets P1 to P6"))
    assert dict(rough.strategies)[rough.strategy or ""] == pytest.approx(rough.time.cut + rough.time.rapid)
    # the same cuts but for where a way around begins, the ways between them within the operation
    same = pytest.approx(sum(op.time.cut for op in named(single, "Rough pocket P")), rel=1e-4)
    assert rough.time.cut == same
    cut = sum(op.time.cut for op in single.operations)
    assert sum(op.time.cut for op in ledger.operations) == pytest.approx(cut, rel=1e-4)
    assert ledger.cycle <= single.cycle + 1e-6
    # an hour at the desk: so many lines at the shop's share of an hour each
    spared = lines * LIB.rates.programming_hours_per_operation
    assert single.problem.programming_hours - ledger.problem.programming_hours == spared > Decimal("0")


def test_each_is_gone_along_as_the_first_is() -> None:
    ledger = planned(plate(3, 2))
    for op in named(ledger, "6 pockets P1 to P6"):
        cuts = [stroke.points for stroke in op.motion.strokes if not stroke.is_rapid]
        own = len(cuts) // 6
        shapes = {
            tuple((round(x - cuts[k * own][0][0], 3) + 0.0, round(y - cuts[k * own][0][1], 3) + 0.0, z)
                  for points in cuts[k * own : (k + 1) * own] for x, y, z in points)
            for k in range(6)
        }  # fmt: skip
        assert len(shapes) == 1, op.name


def test_one_where_the_way_is_not_free_is_made_by_itself(monkeypatch: pytest.MonkeyPatch) -> None:
    free = Workplace.goes_as_it_is
    asked: list[str] = []

    def not_at_the_third(place: Workplace, named: Any, *args: Any) -> bool:
        asked.append(named.chain)
        return named.chain != "P3" and free(place, named, *args)

    whole = planned(plate(3, 2))
    build._built.cache_clear()
    monkeypatch.setattr(Workplace, "goes_as_it_is", not_at_the_third)
    found = planned(plate(3, 2))
    build._built.cache_clear()
    assert "P3" in asked
    assert {f for op in found.operations for f in op.features} == {f for op in whole.operations for f in op.features}
    assert found.cycle == pytest.approx(whole.cycle, rel=1e-3)


def test_three_stay_apart() -> None:
    assert [op.features for op in named(planned(plate(3, 1)), "Rough pocket")] == [("P1",), ("P2",), ("P3",)]


def test_it_goes_to_the_nearest_that_is_left_over_all_that_stands() -> None:
    ledger = planned(plate(3, 2))
    (wall,) = named(ledger, "Finish wall of 6 pockets")
    load = ledger.loads[0]
    top = load.shares[0].built.before.bounds.max[2]
    middles = []
    for k, stroke in enumerate(wall.motion.strokes):
        a, b = stroke.points[0], stroke.points[-1]
        if stroke.is_rapid and dist(a[:2], b[:2]) > 20:
            assert min(a[2], b[2]) > top, k
            middles.append(dist(a[:2], b[:2]))
    assert len(middles) == 5
    assert all(32 - 12 < way < 32 + 12 for way in middles), "neighbours are 32 apart"


def test_stock_comes_out_and_the_program_runs_as_the_ledger_says() -> None:
    part = plate(2, 2, 4.0, 2)
    ledger = planned(part)
    assert named(ledger, "Rough 4 pockets P1 to P4")
    assert stock_findings(part, ledger, followed(course_of(part, ledger))) == []
    for program in checked_programs(ledger, part, "plate"):
        assert abs(program.agreement.difference) < 0.002
        assert program.troubles == ()


def test_hole_in_the_floor_of_some_comes_after_them() -> None:
    ledger = planned(plate(2, 2, 4.0, 2))
    rough = named(ledger, "Rough 4 pockets")[0].id
    (spot, *_) = [op for op in ledger.operations if op.kind in ("spot", "drill")]
    order = [call.operation.id for call in ledger.loads[0].calls]
    assert order.index(rough) < order.index(spot.id)


def test_values_by_hand_are_those_of_all_and_can_be_cleared() -> None:
    part = plate(3, 2)
    ledger = planned(part)
    rough = named(ledger, "Rough 6 pockets")[0]
    thinner = next(t for t in LIB.tools if t.kind == "end_mill" and t.diameter == 10 and t.flutes == 3)
    change = {"change": "edit-operation", "operation": rough.id, "tool": thinner.id}
    plan, _ = read_change(change).apply(ledger.plan, Scene(part, LIB, ledger))
    there = evaluate(plan, part, LIB)
    (other,) = named(there, "Rough 6 pockets")
    assert (other.tool, other.features) == (thinner, rough.features)
    plan, _ = read_change({**change, "tool": None, "clear": ["tool"]}).apply(plan, Scene(part, LIB, there))
    assert named(evaluate(plan, part, LIB), "Rough 6 pockets")[0].tool == rough.tool


def test_depth_by_hand_is_that_of_all() -> None:
    part = plate(2, 2)
    ledger = planned(part)
    rough = named(ledger, "Rough 4 pockets")[0]
    plan, _ = read_change({"change": "set-depth", "operation": rough.id, "depth": 6.0}).apply(
        ledger.plan, Scene(part, LIB, ledger)
    )
    there = evaluate(plan, part, LIB)
    assert named(there, "Rough 4 pockets")[0].measured.value == 6.0  # type: ignore[union-attr]
    (short,) = [f for f in there.findings if f.code == "cut-short"]
    assert (short.operation, short.features) == (rough.id, ("P1", "P2", "P3", "P4"))
    assert short.title == "Rough pocket of 4 pockets P1 to P4 stops 2.00 short."


@pytest.mark.parametrize(
    ("values", "code"),
    [({"tool": "nothing"}, "tool-unusable"), ({"n": 99_999.0}, "speed"), ({"vf": 20_000.0}, "feed-beyond-tool")],
)
def test_value_that_cannot_be_is_said_once_of_all(values: dict[str, Any], code: str) -> None:
    part = plate(2, 2)
    ledger = planned(part, edits=(OperationEdit("S1.P1.rough-pocket", **values),))
    assert [f.operation for f in ledger.findings if f.code == code] == ["S1.P1.rough-pocket"]


def test_one_made_by_another_rule_stands_by_itself() -> None:
    ledger = planned(plate(3, 2), chains=(ChainChoice("P3", "rough-only"),))
    roughs = [op for op in ledger.operations if op.kind == "rough pocket"]
    assert sorted(len(op.features) for op in roughs) == [1, 5]
    assert next(op for op in roughs if len(op.features) == 1).features == ("P3",)
    assert "Rough 5 pockets like P1, 8 deep" in [op.name for op in roughs]


def test_whichever_of_them_has_values_leads_and_a_second_one_stands_by_itself() -> None:
    """As a revision leaves them: the one that led is gone, or another one came before it."""
    edit = OperationEdit("S1.P3.rough-pocket", speed=0.8)
    (rough,) = named(planned(plate(3, 2), edits=(edit,)), "Rough 6 pockets P1 to P6")
    assert (rough.id, rough.cutting.speed, rough.features[0]) == (edit.operation, pytest.approx(0.8, abs=0.01), "P3")
    both = planned(plate(3, 2), edits=(edit, OperationEdit("S1.P5.rough-pocket", speed=0.9)))
    roughs = {op.id: op for op in both.operations if op.kind == "rough pocket"}
    assert {id: len(op.features) for id, op in roughs.items()} == {"S1.P3.rough-pocket": 5, "S1.P5.rough-pocket": 1}
    assert roughs["S1.P5.rough-pocket"].cutting.speed == pytest.approx(0.9, abs=0.01)


def test_what_is_wrong_of_all_is_said_once() -> None:
    ledger = planned(plate(2, 2, 0.0))
    (corners,) = [f for f in ledger.findings if f.code == "corner-left"]
    assert corners.features == ("P1", "P2", "P3", "P4")
    assert "4 pockets P1 to P4" in corners.title
    assert corners.operation in {op.id for op in ledger.operations}


def test_order_that_has_others_between_keeps_them_apart() -> None:
    """First A then B of the first, then A then B of the second: neither A nor B can be one operation."""
    ledger = planned(plate(3, 1))
    a1, a2 = named(ledger, "Rough pocket P1")[0], named(ledger, "Rough pocket P2")[0]
    b1, b2 = (named(ledger, f"Finish wall of pocket P{k}")[0] for k in (1, 2))
    b1, b2 = replace(b1, after=((a1.id, "rough first"),)), replace(b2, after=((a2.id, "rough first"),))
    a2 = replace(a2, after=(*a2.after, (b1.id, "thin wall")))
    led = Led()
    led.add(Alike("pocket", ("P1", "P2")))
    machine = ledger.loads[0].machine
    together, _ = put_together([a1, b1, a2, b2], [], led, machine, 30.0)
    assert together == [a1, b1, a2, b2]
    plain, _ = put_together([a1, b1, replace(a2, after=a1.after), b2], [], led, machine, 30.0)
    assert len(plain) == 2


def test_names() -> None:
    row = Alike("slot", tuple(f"G{k}" for k in range(2, 7)))
    assert row.named("Rough slot G3, 4 deep") == "Rough 5 slots G2 to G6, 4 deep"
    assert row.named("Slot G2 is open") == "5 slots G2 to G6 is open"
    assert row.named("Rough slot G31") == "Rough slot G31"
    assert Alike("step", ("L1", "L4", "L9", "L2")).named("Finish step L9") == "Finish 4 steps like L1"


@settings(max_examples=2)
@given(st.integers(1, 3), st.integers(2, 3), st.sampled_from([3.0, 4.0, 6.5]), st.integers(0, 2))
def test_no_place_is_left_out_whatever_the_grid(nx: int, ny: int, radius: float, holes: int) -> None:
    part = plate(nx, ny, radius, holes)
    ledger = planned(part)
    roughs = [op for op in ledger.operations if op.kind == "rough pocket"]
    assert sorted(f for op in roughs for f in op.features) == sorted(f"P{k + 1}" for k in range(nx * ny))
    assert (len(roughs) == 1) == (nx * ny >= 4)
    ids = {op.id for op in ledger.operations}
    assert all(id in ids for op in ledger.operations for id, _ in op.after)


def test_values_stay_with_those_that_are_left_in_a_revision() -> None:
    """Revision B has no P1 any more, under which the plan keeps what was set for all six."""
    part = plate(3, 2)
    plan = replace(quick(part), edits=(OperationEdit("S1.P1.rough-pocket", speed=0.8),))
    ledger = evaluate(plan, part, LIB)
    body = block((0, 0, 0), (108, 76, 20))
    for k in range(1, 6):
        x, y = 10 + 32 * (k % 3), 10 + 32 * (k // 3)
        body = body - rounded_block((x, y, 12), (x + 24, y + 24, 21), 4)
    later, between = follow([("A", part), ("B", built(body, "plate b"))], ())
    assert between is not None
    assert "P1" not in later.by_id
    scene = Scene(part, LIB, ledger, compare=lambda _: between)
    taken, _ = read_change({"change": "take-revision", "revision": "B"}).apply(plan, scene)
    (rough,) = [op for op in evaluate(taken, later, LIB).operations if op.kind == "rough pocket"]
    assert (len(rough.features), rough.cutting.speed) == (5, pytest.approx(0.8, abs=0.01))
    assert not [f for f in evaluate(taken, later, LIB).findings if f.code == "decided-for-gone"]
