"""Constant engagement: the radial depth stays what it is said to be, all is cleared, no wall is touched."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from math import acos, pi

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import clip_by_rect
from shapely.geometry import LineString, Point

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import block, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.engaged import LEAST_CUT, engaged_areas, engaged_path
from lean_ledger.core.operations.milling.paths import Down, Space, clear_path
from lean_ledger.core.operations.milling.regions import Line, Region, centre_area
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import OperationEdit
from lean_ledger.core.timing.motion import time_strokes
from lean_ledger.library import shipped_library
from tests.conftest import built, quick, quick_ledger

LIB = shipped_library()


def rectangle(x0: float, y0: float, x1: float, y1: float) -> Line:
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))


CLOSED = Region((rectangle(0, 0, 60, 40),))
ISLAND = Region((rectangle(0, 0, 80, 50), rectangle(30, 20, 50, 30)))
OPEN = Region((rectangle(0, 0, 60, 30),), (((0.0, 0.0), (60.0, 0.0)),))
RADIUS, LEAVE, RUN_OUT, AE = 5.0, 0.2, 1.0, 1.2


@pytest.fixture(scope="module")
def deep() -> Part:
    """A block with a pocket 60 × 40, 30 deep, corners R6."""
    return built(block((0, 0, 0), (90, 70, 45)) - rounded_block((15, 15, 15), (75, 55, 45), 6))


def engaged_angles(region: Region) -> list[tuple[float, float]]:
    """(radians of the tool in stock, length walked) along all fronts, the stock being cut as the tool goes."""
    found: list[tuple[float, float]] = []
    for area in engaged_areas(region, RADIUS, LEAVE, RUN_OUT, AE) or ():
        cleared = area.cleared
        for front in area.fronts:
            line = LineString(front.line)
            count = max(2, int(line.length / 0.5))
            before = line.interpolate(0.0)
            for k in range(count + 1):
                at = line.interpolate(k / count, normalized=True)
                if at.distance(before) > 0:
                    cleared = cleared.union(LineString([before, at]).buffer(RADIUS, quad_segs=24))
                rim = at.buffer(RADIUS + 0.001, quad_segs=48).exterior
                x0, y0, x1, y1 = at.buffer(RADIUS + 1).bounds
                near = clip_by_rect(cleared, x0, y0, x1, y1)
                ahead = rim.difference(near.buffer(0.02)).intersection(region.polygon)
                found.append((ahead.length / RADIUS, line.length / count))
                before = at
    return found


@pytest.mark.parametrize("region", [ISLAND, OPEN])
def test_all_is_cleared_and_no_wall_is_touched(region: Region) -> None:
    centre = centre_area(region, RADIUS, LEAVE, RUN_OUT)
    areas = engaged_areas(region, RADIUS, LEAVE, RUN_OUT, AE)
    assert areas is not None
    swept = areas[0].cleared
    for front in areas[0].fronts:
        assert centre.buffer(0.02).covers(LineString(front.line))
        swept = swept.union(LineString(front.line).buffer(RADIUS, quad_segs=24))
    wanted = centre.buffer(RADIUS, quad_segs=24).intersection(region.polygon)
    assert wanted.difference(swept.buffer(LEAST_CUT + 0.02)).area < 0.01


@pytest.mark.parametrize("region", [CLOSED, OPEN])
def test_nine_tenths_of_the_way_engage_no_more_than_a_straight_cut_and_a_half(region: Region) -> None:
    straight = acos(1 - AE / RADIUS)
    angles = sorted(engaged_angles(region))
    length = sum(own for _, own in angles)
    walked, most = 0.0, 0.0
    for angle, own in angles:
        walked += own
        if walked > 0.9 * length:
            most = angle
            break
    assert most < 1.6 * straight
    # cutting in steps engages half the tool in its first loop
    assert most < pi / 2


def test_fronts_climb() -> None:
    """The stock lies on the right of the way: just right of a front's middle nothing is cleared yet."""
    areas = engaged_areas(OPEN, RADIUS, LEAVE, RUN_OUT, AE)
    assert areas is not None
    front = areas[0].fronts[1].line
    (x0, y0), (x1, y1) = front[0], front[-1]
    right = Point((x0 + x1) / 2 + (y1 - y0) / 10, (y0 + y1) / 2 - (x1 - x0) / 10)
    assert right.y > (y0 + y1) / 2  # the open side is below, the stock above


def test_no_room_for_a_helix_is_no_path() -> None:
    slot = Region((rectangle(0, 0, 60, 10.6),))
    assert engaged_areas(slot, RADIUS, LEAVE, RUN_OUT, AE) is None
    path = engaged_path(Space((slot,), 10, LEAVE, RUN_OUT), AE, Down(0, -20, 1, 5, 3), 2000, predrilled=False)
    assert path is None


@settings(max_examples=8, deadline=None)
@given(width=st.floats(16, 60), height=st.floats(16, 60), share=st.floats(0.06, 0.3))
def test_path_stays_inside_and_ends_at_its_depth(width: float, height: float, share: float) -> None:
    region = Region((rectangle(0, 0, width, height),))
    motion = engaged_path(Space((region,), 10, LEAVE, 1.0), share * 10, Down(0, -18, 1, 5, 3), 1500, predrilled=False)
    assert motion is not None
    points = [p for stroke in motion.strokes for p in stroke.points]
    assert min(z for _, _, z in points) == -18
    assert all(5.19 <= x <= width - 5.19 and 5.19 <= y <= height - 5.19 for x, y, _ in points)
    assert points[0][2] == points[-1][2] == 5


def test_worked_time_of_one_layer_in_place_of_two() -> None:
    """60 × 40 × 20 with Ø10: in steps 2 layers at 1400, engaged 1 layer at 2500."""
    mill = LIB.machines[0]
    steps = clear_path(Space((CLOSED,), 10, LEAVE, 1.0), 4, Down(0, -20, 2, 5, 3), 1400, predrilled=False)
    engaged = engaged_path(Space((CLOSED,), 10, LEAVE, 1.0), AE, Down(0, -20, 1, 5, 3), 2500, predrilled=False)
    assert engaged is not None
    assert time_strokes(engaged.strokes, mill).cut < 0.8 * time_strokes(steps.strokes, mill).cut


def roughing(ledger: Ledger) -> Operation:
    return next(op for op in ledger.operations if op.kind == OperationKind.ROUGH_POCKET)


def test_quicker_way_is_taken_and_both_are_told(deep: Part) -> None:
    op = roughing(quick_ledger(deep))
    times = dict(op.strategies)
    assert op.strategy == min(times, key=lambda one: times[one]) == "constant engagement"
    assert times["constant engagement"] < 0.8 * times["in steps"]
    labels = {f.label: f.value for f in op.figures}
    assert labels["in steps instead"] == pytest.approx(times["in steps"])
    assert op.cutting.ae == pytest.approx(0.14 * op.tool.diameter)


def test_way_set_by_hand_stays_and_the_stock_comes_out_right(deep: Part) -> None:
    ledger = quick_ledger(deep)
    id = roughing(ledger).id
    change = read_change({"change": "edit-operation", "operation": id, "strategy": "in steps"})
    plan, words = change.apply(ledger.plan, Scene(deep, LIB, ledger))
    assert "in steps" in words
    by_hand = evaluate(plan, deep, LIB)
    assert roughing(by_hand).strategy == "in steps"
    assert by_hand.per_piece > ledger.per_piece
    for one in (ledger, by_hand):
        result = followed(course_of(deep, one))
        assert not result.remainders
        assert not result.collisions


def test_way_is_refused_where_there_is_none(deep: Part) -> None:
    ledger = quick_ledger(deep)
    face = next(op for op in ledger.operations if op.kind == OperationKind.FACE)
    for field, value, code in (("strategy", "in steps", "one-way"), ("direction", "climb", "no-direction")):
        change = read_change({"change": "edit-operation", "operation": face.id, field: value})
        with pytest.raises(PlanError) as error:
            change.apply(ledger.plan, Scene(deep, LIB, ledger))
        assert error.value.code == code


@pytest.mark.parametrize("way", ["in a helix", "in rows"])
def test_way_of_another_kind_is_refused(deep: Part, way: str) -> None:
    ledger = quick_ledger(deep)
    change = read_change({"change": "edit-operation", "operation": roughing(ledger).id, "strategy": way})
    with pytest.raises(PlanError, match="it can be in steps, constant engagement"):
        change.apply(ledger.plan, Scene(deep, LIB, ledger))


def test_asked_for_where_there_is_no_room_it_is_cut_in_steps_and_said() -> None:
    part = built(block((0, 0, 0), (80, 40, 20)) - rounded_block((10, 14.9, 10), (70, 25.1, 20), 5.05))
    ledger = quick_ledger(part)
    op = roughing(ledger)
    edit = OperationEdit(op.id, strategy="constant engagement", tool="EA10", allowance=0.0)
    by_hand = evaluate(replace(quick(part), edits=(edit,)), part, LIB)
    assert roughing(by_hand).strategy == "in steps"
    assert any(f.code == "not-that-way" and f.operation == op.id for f in by_hand.findings)


def test_conventional_walks_the_wall_the_other_way(deep: Part) -> None:
    plan = quick(deep)
    id = next(op.id for op in quick_ledger(deep).operations if op.kind == OperationKind.FINISH_WALL)
    turned = evaluate(replace(plan, edits=(OperationEdit(id, direction="conventional"),)), deep, LIB)

    def area(ledger: Ledger) -> float:
        """Above 0 where the wall is walked counter-clockwise."""
        op = next(op for op in ledger.operations if op.id == id)
        ring = max((s.points for s in op.motion.strokes if not s.is_rapid), key=len)
        return sum(a[0] * b[1] - b[0] * a[1] for a, b in pairwise(ring))

    assert area(quick_ledger(deep)) > 0 > area(turned)
    assert not followed(course_of(deep, turned)).remainders


def test_conventional_roughing_is_in_steps(deep: Part) -> None:
    """Constant engagement climbs by its fronts: it is neither drawn nor said to work against the cut."""
    plan, id = quick(deep), roughing(quick_ledger(deep)).id
    ledger = evaluate(replace(plan, edits=(OperationEdit(id, direction="conventional"),)), deep, LIB)
    op = roughing(ledger)
    assert (op.strategy, op.direction) == ("in steps", "conventional")
    assert [one for one, _ in op.strategies] == ["in steps"]
    both = OperationEdit(id, direction="conventional", strategy="constant engagement")
    asked = evaluate(replace(plan, edits=(both,)), deep, LIB)
    assert roughing(asked).strategy == "in steps"
    assert "It climbs" in next(f for f in asked.findings if f.code == "not-that-way").why
