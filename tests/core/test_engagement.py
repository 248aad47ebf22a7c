"""What a mill takes at each place of its path, and the feed that it goes at there."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from math import dist, pi

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, box

from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.cuts import STRAIGHT, Cut
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import Followed, StockStep, followed
from lean_ledger.core.followed.rates import most_per_mm, raise_to
from lean_ledger.core.followed.sweep import swept
from lean_ledger.core.geometry.masses import box_mass
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.solids import block, rod, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.operations.cutting.forces import FINISHING
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.slowed import ALLOWED, Mill, Standing, lines_of, slowed
from lean_ledger.core.operations.milling.taken import Heights, Line3, Swept, rates
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.plan import DepthChoice
from lean_ledger.core.timing.motion import feed, rapid
from lean_ledger.library import shipped_library
from tests.conftest import built, quick, quick_ledger

LIB = shipped_library()
D10 = next(t for t in LIB.tools if t.kind == "end_mill" and t.diameter == 10)
RECTANGLE = (0.0, -20.0, 120.0, 20.0)
SLOT: Line3 = ((-10.0, 0.0, -5.0), (100.0, 0.0, -5.0))


def rate_along(line: Line3, *before: Line3, step: float = 4.0) -> list[float]:
    """mm³ for each mm of way of a Ø10 mill through 40 × 120 of stock, 5 deep."""
    heights = Heights([line, *before], 5, step)
    heights.fill(RECTANGLE, 0)
    heights.sweep(Swept(before, 5))
    return [float(r) for r in rates([line], [heights.cut(line, 5)], 5.0)[0]]


def test_full_slot_takes_its_width_and_its_depth() -> None:
    """Ø10 · 5 deep are 50 mm³ for each mm; before it reaches the stock it takes nothing."""
    found = rate_along(SLOT)
    assert found[0] == 0.0
    assert found[len(found) // 2] == pytest.approx(50, rel=0.02)


@pytest.mark.parametrize(("ae", "within"), [(4.0, 0.05), (1.4, 0.08), (0.7, 0.1)])
def test_row_beside_a_slot_takes_its_radial_step(ae: float, within: float) -> None:
    row = tuple((x, y + ae, z) for x, y, z in SLOT)
    found = rate_along(row, SLOT, step=ae)
    middle = found[len(found) // 3 : 2 * len(found) // 3]
    assert min(middle) > (1 - within) * ae * 5
    assert max(middle) < (1 + within) * ae * 5


def test_flat_mill_on_a_ramp_cuts_as_deep_ahead_as_behind() -> None:
    """Down 5 over 50 mm: 50 · 10 · 2.5 mm³ as it goes down, and its own disc, 5 deep, at the end: 1250 + 25π · 5."""
    line: Line3 = ((20.0, 0.0, 0.0), (70.0, 0.0, -5.0))
    heights = Heights([line], 5, 10)
    heights.fill(RECTANGLE, 0)
    assert heights.cut(line, 5).volumes.sum() == pytest.approx(1250 + 25 * pi * 5, rel=0.02)


@settings(max_examples=10, deadline=None)
@given(st.lists(st.tuples(st.floats(0, 60), st.floats(0, 40)), min_size=2, max_size=8), st.floats(3, 20))
def test_all_steps_together_take_what_the_tool_sweeps(points: list[tuple[float, float]], diameter: float) -> None:
    line: Line3 = tuple((x, y, -3.0) for x, y in points)
    if all(a == b for a, b in pairwise(line)):
        return
    heights = Heights([line], diameter / 2, diameter / 2)
    heights.fill((0, 0, 60, 40), 0)
    took = heights.cut(line, diameter / 2).volumes.sum()
    area = LineString(points).buffer(diameter / 2, quad_segs=32).intersection(box(0, 0, 60, 40)).area
    # a pixel more or less along its border
    border = heights.pixel * LineString(points).buffer(diameter / 2).intersection(box(0, 0, 60, 40)).length
    assert took == pytest.approx(3 * area, rel=0.03, abs=3 * max(0.5, border / 2))


def path(*lines: Line3, vf: float = 1000.0) -> Motion:
    strokes = [rapid((*lines[0][0][:2], 5.0), lines[0][0])]
    for line in lines:
        strokes.append(feed(vf, line))
    return Motion(tuple(strokes))


def test_where_it_goes_full_width_it_goes_at_a_full_width_feed() -> None:
    """Meant for 2 mm of Ø10, 10 mm³ for each mm at 5 deep: a slot takes 50, and goes at a fifth (1.1 are allowed)."""
    beside: Line3 = tuple((x, y + 2.0, z) for x, y, z in reversed(SLOT))
    found = slowed(path(SLOT, beside), 1000, Mill(10, 2, 10), Standing(RECTANGLE, 0))
    feeds = {s.feed_mm_per_min: s.length for s in found.motion.strokes if not s.is_rapid}
    assert min(feeds) == pytest.approx(200)
    assert found.least_share == 0.2
    # before the stock at full feed, 95 or so in it slow, and back beside it at full feed again
    assert feeds[1000] == pytest.approx(8 + 110, abs=8)
    assert feeds[200] == pytest.approx(98, abs=6)
    assert found.rate <= 1000 * 10 * ALLOWED * 1.01


def test_thin_cut_as_it_was_meant_is_left_as_it_is() -> None:
    before = Motion((rapid((-10.0, 0.0, 5.0), SLOT[0]), feed(1000, SLOT)))
    motion = path(((-10.0, 2.0, -5.0), (80.0, 2.0, -5.0)))
    found = slowed(motion, 1000, Mill(10, 2, 10), Standing(RECTANGLE, 0, ((lines_of(before), D10),)))
    assert found.motion is motion
    assert found.rate == pytest.approx(1000 * 10, rel=0.1)


@settings(max_examples=10, deadline=None)
@given(st.lists(st.tuples(st.floats(-5, 65), st.floats(-5, 45)), min_size=2, max_size=7), st.floats(0.5, 4))
def test_slower_is_the_same_way_and_takes_no_more_than_allowed(points: list[tuple[float, float]], ae: float) -> None:
    line: Line3 = tuple((x, y, -3.0) for x, y in points)
    if any(dist(a, b) < 0.1 for a, b in pairwise(line)):
        return
    found = slowed(path(line), 1000, Mill(8, ae, 3 * ae), Standing((0, 0, 60, 40), 0))
    cuts = [s for s in found.motion.strokes if not s.is_rapid]
    walked = [p for s in cuts for p in s.points]
    assert (walked[0], walked[-1]) == (line[0], line[-1])
    assert all(a.points[-1] == b.points[0] for a, b in pairwise(cuts))
    assert sum(s.length for s in cuts) == pytest.approx(LineString(points).length, abs=0.01)
    lines = [s.points for s in cuts]
    heights = Heights(lines, 4, ae)
    heights.fill((0, 0, 60, 40), 0)
    again = rates(lines, [heights.cut(one, 4) for one in lines], 4.0)
    most = max(float(r.max(initial=0)) * s.feed_mm_per_min for r, s in zip(again, cuts, strict=True))
    # 0.07 of the feed is the least that it goes at; one more pixel row is the measure's own
    assert most < max(1000 * 3 * ae * ALLOWED, 0.07 * 1000 * 3 * 8) * 1.1 + 1000 * 3 * 0.2


def test_solids_stand_as_high_on_the_map_as_they_are() -> None:
    mass = box_mass(Bounds((0, 0, -10), (40, 30, 0))).minus([box_mass(Bounds((10, 5, -4), (30, 25, 1)))])
    line: Line3 = ((-10.0, 15.0, -8.0), (50.0, 15.0, -8.0))
    heights = Heights([line], 5, 10)
    vertices, triangles = mass.triangles()
    raise_to(heights, vertices[triangles])
    # 10 wide: 10 mm long 8 deep, 20 mm 4 deep, 10 mm 8 deep
    assert heights.cut(line, 5).volumes.sum() == pytest.approx(10 * (10 * 8 + 20 * 4 + 10 * 8), rel=0.02)


def test_stated_rate_is_what_solids_lose() -> None:
    """Of a pocket's roughing the solids before and after each 5 mm of way are taken apart."""
    part = built(block((0, 0, 0), (90, 70, 30)) - rounded_block((15, 15, 20), (75, 55, 30), 6))
    ledger = quick_ledger(part)
    op = next(op for op in ledger.operations if op.kind == OperationKind.ROUGH_POCKET)
    stock = box_mass(op.frame.box(part.model.solid.bounds))  # the face is milled before
    strokes = op.motion.strokes
    most = 0.0
    for k, stroke in enumerate(strokes):
        if stroke.is_rapid or stroke.length < 5 or k % 3:
            continue
        before = stock.minus([swept(Motion(strokes[:k]), op.tool, 100.0)])
        after = stock.minus([swept(Motion(strokes[: k + 1]), op.tool, 100.0)])
        most = max(most, (before.volume - after.volume) / stroke.length * stroke.feed_mm_per_min)
    assert 0.2 * op.rate < most < 1.2 * op.rate


def test_fork_and_pocket_take_what_they_say() -> None:
    """A deep slot that the outline runs through would be cut full width at the feed of a thin chip."""
    body = block((0, 0, 0), (100, 60, 30)) - block((30, -1, -1), (100 + 1, 36, 31))
    part = built(body)
    ledger = quick_ledger(part)
    outcome = followed(course_of(part, ledger))
    operations = {op.id: op for op in ledger.operations}
    looked_at = 0
    for step in outcome.steps:
        op = operations[step.operation]
        if op.rate > 0 and op.kind not in FINISHING:
            looked_at += 1
            assert step.rate <= 1.2 * op.rate, op.id
            assert op.power <= op.power_limit * 1.01, op.id
    assert looked_at >= 3
    assert not [f for f in stock_findings(part, ledger, outcome) if f.code == "takes-more"]


def test_more_than_stated_is_a_finding() -> None:
    part = built(block((0, 0, 0), (90, 70, 30)) - rounded_block((15, 15, 20), (75, 55, 30), 6))
    ledger = quick_ledger(part)
    rough = next(op for op in ledger.operations if op.kind == OperationKind.ROUGH_POCKET)
    for times, said in ((1.1, 0), (1.5, 1)):
        outcome = Followed(1.0, 1.0, (StockStep(rough.id, 1.0, 1.0, times * rough.rate),), ())
        assert len([f for f in stock_findings(part, ledger, outcome) if f.code == "takes-more"]) == said


def test_pocket_under_a_step_that_stops_short_counts_on_what_that_leaves() -> None:
    """The step is cut 4 deep by hand where the pocket begins at 12: the mill for that goes through 8 more, at a feed
    for all of it. It would take 268 cm³/min and say 160.
    """
    body = block((0, 0, 0), (90, 60, 40)) - block((-1, -1, 28), (61, 61, 41))
    part = built(body - rounded_block((12, 12, 16), (48, 48, 29), 6))
    plan = quick(part)
    step = next(op for op in evaluate(plan, part, LIB).operations if op.id == "S1.L1.rough-pocket")
    ledger = evaluate(replace(plan, depths=(DepthChoice(step.id, 4.0),)), part, LIB)
    op = next(op for op in ledger.operations if op.id == "S1.P1.rough-pocket")
    taken = next(s.rate for s in followed(course_of(part, ledger)).steps if s.operation == op.id)
    assert taken == pytest.approx(op.rate, rel=0.2)
    assert op.power <= op.power_limit * 1.01
    figures = {f.label: f.value for f in op.figures}
    assert figures["removed at the most"] == pytest.approx(op.rate / 1000)


def test_followed_rate_is_measured_as_finely_as_the_step_asks() -> None:
    """Ø20 at 1 beside a wall of 30: 30 mm³ for each mm. On half a millimetre's pixels it is a third off."""
    mill = next(t for t in LIB.tools if t.kind == "end_mill" and t.diameter == 20)
    stock = box_mass(Bounds((0, 0, 0), (100, 40, 30)))
    line = feed(1000, [(-20.0, -9.0, 0.0), (120.0, -9.0, 0.0)])
    rate = {
        step: max(most_per_mm(Cut("cut", Motion((line,)), mill, STRAIGHT, 35.0, step=step), stock))
        for step in (0.0, 1.0)
    }
    assert rate[1.0] == pytest.approx(30, rel=0.1)
    assert abs(rate[0.0] - 30) > abs(rate[1.0] - 30)


def test_what_is_looked_at_finely_and_what_a_pixel_thinner() -> None:
    """Roughing by its step; a floor that a drill's point is taken off like any other floor, beside a drilled wall."""
    body = block((0, 0, 0), (90, 70, 30)) - rounded_block((15, 15, 20), (55, 55, 31), 6)
    part = built(body - rod((75, 35, 14), (0, 0, 1), 4, 17))
    ledger = quick_ledger(part)
    cuts = {cut.operation: cut for cut in course_of(part, ledger).cuts}
    for op in ledger.operations:
        assert cuts[op.id].step == (0.0 if op.kind in FINISHING else op.cutting.ae)
    flat = next(op for op in ledger.operations if op.kind == OperationKind.COUNTERBORE)
    assert flat.name.startswith("Flat floor")
    thin = {op.id for op in ledger.operations if cuts[op.id].on_floor}
    assert thin == {flat.id, *(op.id for op in ledger.operations if op.kind == OperationKind.FINISH_FLOOR)}
