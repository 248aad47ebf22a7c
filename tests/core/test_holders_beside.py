"""A holder beside stock that is yet to be cut."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, box

from lean_ledger.core.geometry.solids import block, rounded_block
from lean_ledger.core.operations import build
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.safe import standing
from lean_ledger.core.operations.safe.holders import ROOM, holder_meets, off_stock
from lean_ledger.core.operations.safe.stock_there import Standing, left_before
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.timing.motion import feed, rapid
from lean_ledger.library.types import ToolKind
from tests.conftest import built, quick_ledger
from tests.core.test_safe_paths import tool

HIGH = 60.0
TOP = 50.0
STOCK = Standing(((box(0, 0, 100, 60), TOP),), top=TOP)


@pytest.fixture(scope="module")
def some() -> Operation:
    ledger = quick_ledger(built(block((0, 0, 0), (60, 40, 20))))
    return ledger.operations[0]


def mill(some: Operation, id: str, diameter: float, z: float, *ys: float, reach: float, holder: float) -> Operation:
    """Straight across the block at each y."""
    strokes = []
    for y in ys:
        strokes += [rapid((-30, y, HIGH), (-30, y, z)), feed(300, [(-30, y, z), (130, y, z)])]
        strokes += [rapid((130, y, z), (130, y, HIGH)), rapid((130, y, HIGH), (-30, y, HIGH))]
    used = tool(ToolKind.END_MILL, diameter, reach=reach, holder=holder)
    return replace(some, id=id, tool=used, motion=Motion(tuple(strokes)), after=())


def test_nose_in_stock_beside_a_slot_is_met(some: Operation) -> None:
    # the tip at 10, the nose 30 above it: 10 under the top, 20 to each side of the slot
    slot = mill(some, "slot", 10, 10, 30, reach=30, holder=40)
    (met,) = holder_meets(slot, STOCK, TOP, ())
    assert met.at[2] == 40
    # its own slot is 10 wide: 15 of each side stand in the way, along 100
    assert met.rest.area == pytest.approx(2 * 15 * 100, rel=0.01)


@pytest.mark.parametrize(("ys", "z", "free"), [((19, 41), 40, True), ((19, 41), 41, False), ((25, 35), 40, False)])
def test_what_comes_before_clears_the_way(some: Operation, ys: tuple[float, ...], z: float, free: bool) -> None:
    slot = mill(some, "slot", 10, 10, 30, reach=30, holder=40)
    # an end mill of 25 at two lines 22 apart clears from 12.5 under the first to 12.5 over the second
    before = mill(some, "before", 25, z, *ys, reach=80, holder=20)
    assert (not holder_meets(slot, STOCK, TOP, (before,))) == free


def test_holder_above_all_stock_meets_nothing(some: Operation) -> None:
    assert not holder_meets(mill(some, "slot", 10, 10, 30, reach=40, holder=40), STOCK, TOP, ())


def test_way_ends_where_the_nose_would_touch(some: Operation) -> None:
    # stock from x = 50 on only: the nose of 40 stays 20 and the room off it
    half = Standing(((box(50, 0, 100, 60), TOP),), top=TOP)
    slot = mill(some, "slot", 10, 10, 30, reach=30, holder=40)
    way, left_out = off_stock(slot, half, TOP, (), HIGH)
    assert way is not None
    cut = [p[0] for s in way.strokes if not s.is_rapid for p in s.points if p[2] == 10]
    # where it does not cut, its own slot is not open any more: the whole end of the stock stands
    assert max(x for x in cut if x < 75) == pytest.approx(50 - 20 - ROOM, abs=0.05)
    assert min(x for x in cut if x > 75) == pytest.approx(100 + 20 + ROOM, abs=0.05)
    assert left_out == pytest.approx(50 + 2 * (20 + ROOM), abs=0.1)


@settings(max_examples=15, deadline=None)
@given(y=st.floats(5, 55), z=st.floats(5, 45), reach=st.floats(5, 60), holder=st.sampled_from([12.0, 25.0, 40.0]))
def test_what_is_kept_meets_nothing(some: Operation, y: float, z: float, reach: float, holder: float) -> None:
    slot = mill(some, "slot", 10, round(z, 2), round(y, 2), reach=round(reach, 1), holder=holder)
    met = holder_meets(slot, STOCK, TOP, ())
    nose = slot.motion.strokes[1].points[0][2] + slot.tool.reach
    block_there = box(0, 0, 100, 60).difference(LineString([(-30, y), (130, y)]).buffer(5, cap_style="flat"))
    sweep = LineString([(-30, y), (130, y)]).buffer(holder / 2)
    # by plain areas, without any of the code's own bookkeeping
    assert bool(met) == (nose < TOP - 0.1 and block_there.intersection(sweep).area > 1) or TOP - 0.2 < nose < TOP
    way, _ = off_stock(slot, STOCK, TOP, (), HIGH)
    assert (way is slot.motion) == (not met)
    assert way is None or not holder_meets(replace(slot, motion=way), STOCK, TOP, ())


def test_what_earlier_setups_left_is_no_box(monkeypatch: pytest.MonkeyPatch) -> None:
    """From below first: a pocket through, one from there and the outline up to the jaws. Three pockets are left."""
    body = block((0, 0, 0), (90, 60, 30)) - block((60, 40, -1), (91, 61, 31))
    body = body - rounded_block((10, 10, -1), (30, 40, 31), 5) - rounded_block((40, 8, -1), (80, 32, 12), 5)
    for x in (45, 55, 65):
        body = body - rounded_block((x, 6, 22), (x + 8, 14, 31), 3)
    seen = []

    def watched(place: Workplace) -> Standing:
        seen.append((place, left_before(place)))
        return seen[-1][1]

    monkeypatch.setattr(standing, "left_before", watched)
    build._built.cache_clear()
    ledger = quick_ledger(built(body))
    build._built.cache_clear()
    assert [setup.decision.up for setup in ledger.setups] == ["Z-", "Z+"]
    ((place, there),) = seen
    assert place.setup == "S2"

    def stands_at(x: float, y: float, level: float) -> bool:
        at = Point(place.frame.point((x, y, 0.0))[:2])
        high = place.frame.point((0.0, 0.0, level))[2]
        return any(area.contains(at) for area, _ in there.over(high))

    assert stands_at(49, 10, 25), "a pocket that is yet to be cut"
    assert not stands_at(49, 10, 15), "under it is the part, which is looked at by itself"
    assert not stands_at(20, 25, 6), "through since the first setup"
    assert not stands_at(35, 50, 6), "the part itself"
    assert stands_at(75, 50, 6), "outside of the outline, over what the jaws let be cut"
    low, high = place.hold.held.finished or (0.0, 0.0)
    assert (low, high) == pytest.approx((0.0, 23.0))
    assert not any(area.contains(Point(place.frame.point((75, 50, 0))[:2])) for area, top in there.areas if top < 24)
