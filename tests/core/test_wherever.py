"""Alike regions are worked out once: the way in one is that of another, moved there. Passes in air are left out."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.operations.milling.engaged import engaged_path
from lean_ledger.core.operations.milling.paths import Down, Space, clear_path
from lean_ledger.core.operations.milling.regions import Region
from lean_ledger.core.operations.milling.slowed import Mill, Standing, in_stock, lines_of, slowed
from lean_ledger.core.operations.milling.wherever import wherever
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.timing.motion import feed, rapid
from lean_ledger.library.types import ToolKind
from tests.core.test_safe_paths import tool

DOWN = Down(20.0, 12.0, 2, 25.0, 3.0)


def pocket(x: float, y: float, wide: float = 40.0, deep: float = 24.0) -> Region:
    return Region((((x, y), (x + wide, y), (x + wide, y + deep), (x, y + deep)),))


def moved(motion: Motion, x: float, y: float) -> list[tuple[tuple[float, float, float], ...]]:
    return [tuple((round(a + x, 4), round(b + y, 4), c) for a, b, c in s.points) for s in motion.strokes]


@settings(max_examples=10, deadline=None)
@given(x=st.floats(-200, 200), y=st.floats(-200, 200))
def test_path_of_a_pocket_elsewhere_is_the_same_moved(x: float, y: float) -> None:
    x, y = round(x, 3), round(y, 3)
    here, there = Space((pocket(0, 0),), 10.0, 0.2), Space((pocket(x, y),), 10.0, 0.2)
    args, clear, engaged = (DOWN, 900.0), clear_path, engaged_path
    for one, other in (
        (clear(here, 4.0, *args, predrilled=False), clear(there, 4.0, *args, predrilled=False)),
        (engaged(here, 1.4, *args, predrilled=False), engaged(there, 1.4, *args, predrilled=False)),
    ):
        assert one is not None
        assert other is not None
        assert moved(one, x, y) == moved(other, 0, 0)
        assert [s.feed_mm_per_min for s in one.strokes] == [s.feed_mm_per_min for s in other.strokes]


def test_another_clearance_plane_lies_over_the_very_same_cuts() -> None:
    """More stock on the top asks for no other cut; at a plane where it lies already no rapid goes up to it."""
    space, down = Space((pocket(0, 0),), 8.0, 0.2), DOWN
    low = clear_path(space, 3.0, down, 600.0, predrilled=False)
    high = clear_path(space, 3.0, replace(down, clearance=31.5), 900.0, predrilled=False)
    cuts, again = ([s for s in motion.strokes if not s.is_rapid] for motion in (low, high))
    assert all(a.points is b.points for a, b in zip(cuts, again, strict=True))
    assert [b.feed_mm_per_min for b in again] == pytest.approx([1.5 * a.feed_mm_per_min for a in cuts])
    for motion, plane in ((low, 25.0), (high, 31.5)):
        rapids = [s for s in motion.strokes if s.is_rapid]
        assert motion.end[2] == max(p[2] for s in rapids for p in s.points) == plane
    assert [s.points for s in low.strokes if s.is_rapid] == [
        tuple((x, y, 25.0 if z == 31.5 else z) for x, y, z in s.points) for s in high.strokes if s.is_rapid
    ]
    flush = clear_path(space, 3.0, replace(down, clearance=22.0), 600.0, predrilled=False)
    assert all(len(set(s.points)) > 1 for s in flush.strokes)


def test_alike_ones_are_worked_out_once() -> None:
    asked: list[Region] = []

    @wherever
    def path(space: Space, vf: float) -> Motion:
        asked.append(space.regions[0])
        x, y = space.regions[0].rings[0][0]
        return Motion((feed(vf, [(x, y, 0.0), (x + 1, y, 0.0)]),))

    places = [(0.0, 0.0), (50.1, 0.0), (100.2, 33.3)]
    starts = [path(Space((pocket(x, y),), 10.0), 100.0).start for x, y in places]
    assert [p[:2] for p in starts] == places
    assert len(asked) == 1
    path(Space((pocket(0, 0, wide=41),), 10.0), 100.0)
    assert len(asked) == 2


@pytest.mark.parametrize("by", [(0.0, 0.0), (123.456, -77.7)])
def test_engagement_is_that_of_the_place_itself(by: tuple[float, float]) -> None:
    """A slot of 10, 5 deep, at the feed of a row 2 wide: at 0.2 of it wherever it lies, but beside the stock not."""
    x, y = by
    mill = Mill(10.0, 2.0, 2.0 * 5.0)
    way = Motion((feed(1000, [(x, y + 20, 15.0), (x + 80, y + 20, 15.0)]),))
    standing = Standing((x - 30, y, x + 110, y + 40), 20.0)
    full = slowed(way, 1000.0, mill, standing)
    assert full.least_share == pytest.approx(0.2)
    assert full.rate == pytest.approx(50 * 200, rel=0.06)
    air = slowed(way, 1000.0, mill, replace(standing, rectangle=(x - 30, y + 40, x + 110, y + 80)))
    assert air.least_share == 1.0
    assert air.rate == 0.0


def across(*ys: float) -> Motion:
    """Straight through at each y, 8 under the top, by rapid over the clearance from one to the next."""
    strokes = []
    for y in ys:
        strokes += [rapid((-20, y, 30.0), (-20, y, 12.0)), feed(900, [(-20, y, 12.0), (80, y, 12.0)])]
        strokes += [rapid((80, y, 12.0), (80, y, 30.0)), rapid((80, y, 30.0), (-20, y, 30.0))]
    return Motion(tuple(strokes))


def test_pass_beside_the_stock_is_left_out_and_the_others_stay() -> None:
    # a block of 60 × 40; a mill of 10 at y = −6 goes past it, at −4 it cuts 1 deep, at 50 it goes past again
    mill, block = Mill(10.0, 2.0, 16.0), Standing((0, 0, 60, 40), 20.0)
    kept = in_stock(across(-6, -4, 20, 50), mill, block, 30.0)
    assert [s.points[0][1] for s in kept.strokes if not s.is_rapid] == [-4, 20]
    assert all(s.feed_mm_per_min == 900 for s in kept.strokes if not s.is_rapid)
    # what was taken before counts: the block's near half is gone
    before = (tuple(lines_of(across(0, 5, 10, 15))), tool(ToolKind.END_MILL, 10))
    gone = in_stock(across(-4, 10, 30), mill, replace(block, before=(before,)), 30.0)
    assert [s.points[0][1] for s in gone.strokes if not s.is_rapid] == [30]
    whole = across(5, 30)
    assert in_stock(whole, mill, block, 30.0) is whole
    air = across(60, 70)
    assert in_stock(air, mill, block, 30.0) is air, "nothing would be left"
