"""Where the pieces of a load stand in 3D: judged by their zeros on the machine."""

from __future__ import annotations

import pytest

from lean_ledger.core.followed.play import played, shows_all
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.loads.bars import step_of
from lean_ledger.core.loads.poses import Pose, apart, axis_of, pose_alone, poses, seen
from tests.core.loads_shop import LIB, LoadShop, Shop
from tests.core.test_bars import RING, advance

Point = tuple[float, float, float]


def brought(pose: Pose, p: Point) -> Point:
    """A point of a piece on the machine once the rotary has brought it up."""
    return Pose("", "", pose.brought, pose.brought).point(pose.point(p))


def zeros_are_where_the_control_finds_them(shop: LoadShop) -> None:
    by_place = {pose.place: pose for pose in poses(shop.load)}
    offsets = [o for o in offsets_of(shop.ledger, shop.part) if o.setup in shop.load.load.setups]
    assert len(offsets) >= len(by_place)
    for offset in offsets:
        zero = offset.way.frame.in_part(offset.zero)
        assert brought(by_place[offset.place], zero) == pytest.approx(offset.machine, abs=1e-3)


def test_pieces_of_a_row_stand_where_their_zeros_are() -> None:
    shop = Shop()
    shop.arrange(columns=3, rows=2)
    zeros_are_where_the_control_finds_them(shop)
    assert axis_of(shop.load) is None
    box = seen(shop.load)
    pitch = shop.load.where.pitch
    one = shop.load.where.placed[0].built.hold.stock.size
    assert box.size[:2] == pytest.approx((2 * pitch[0] + one[0], pitch[1] + one[1]))


def test_sides_of_a_tombstone_stand_round_its_axis_and_are_brought_up_one_by_one() -> None:
    shop = Shop(machine="mill-762-rotary")
    shop.change(change="set-carriers", setup="S1", carriers=("bar-480",))
    shop.change(change="set-fixture", setup="S1", fixture="vise-60-low")
    shop.arrange(sides=(0.0, 90.0, 180.0, 270.0), columns=2)
    zeros_are_where_the_control_finds_them(shop)
    axis = axis_of(shop.load)
    assert axis is not None
    at, about = axis
    assert about == (1.0, 0.0, 0.0)
    top = shop.load.where.placed[0].built.home.frame.in_part((0.0, 0.0, 20.0))
    heights = {p.place.id: pose.point(top) for p, pose in zip(shop.load.where.placed, poses(shop.load), strict=True)}
    away = heights["1"][2] - at[2]
    # a side at 180° hangs as far below the axis as the one at 0° stands above it, the ones at 90° and 270° stand out
    assert heights["5"][2] == pytest.approx(at[2] - away)
    assert heights["3"][1] - at[1] == pytest.approx(-away, abs=1e-6)
    assert heights["7"][1] - at[1] == pytest.approx(away, abs=1e-6)


def test_what_carries_several_stands_once() -> None:
    shop = Shop(machine="mill-762-rotary")
    shop.change(change="set-carriers", setup="S1", carriers=("bar-480",))
    shop.change(change="set-fixture", setup="S1", fixture="vise-60-low")
    shop.arrange(sides=(0.0, 180.0), columns=2)
    own, shared = apart(shop.load.where.placed[3])
    assert shared
    assert all(o.what == "carrier" for o in shared)
    assert not {o.what for o in own} & {"carrier", "plate"}
    alone = pose_alone(shop.load, "S1")
    first, second = poses(shop.load)[:2]
    middle = tuple((a + b) / 2 for a, b in zip(first.point((0, 0, 0)), second.point((0, 0, 0)), strict=True))
    assert alone.point((0.0, 0.0, 0.0)) == pytest.approx(middle)


def test_cycle_is_played_at_each_piece_in_its_order() -> None:
    shop = Shop()
    shop.arrange(columns=2)
    run, total = played(shop.ledger)
    own = [one for one in run if one.setup == "S1"]
    assert [(one.place, one.operation) for one in own] == [(c.place, c.operation.id) for c in shop.load.calls]
    assert [one.start for one in own] == pytest.approx(list(shop.load.timeline.lanes[0].starts))
    assert total == pytest.approx(sum(load.cycle for load in shop.ledger.loads))
    for piece in ("1", "2"):
        states = [(one.before, one.after) for one in own if one.place == piece]
        assert states == [(k, k + 1) for k in range(len(states))]


def test_all_pieces_of_an_advance_are_shown_one_behind_the_other() -> None:
    """Three, each 8 long with 0.3 to face and a blade of 3: the first is 22.6 farther out than the last."""
    ledger = evaluate(advance(3), RING, LIB)
    load = ledger.loads[0]
    assert shows_all(load)
    every, total = played(ledger)
    run = [one for one in every if one.setup == "S1"]
    assert [(one.place, one.operation) for one in run] == [(c.place, c.operation.id) for c in load.calls]
    assert {one.place for one in run} == {"1", "2", "3"}
    assert total == pytest.approx(sum(one.cycle for one in ledger.loads))
    found = poses(load)
    first, last = (pose.point((0.0, 0.0, 0.0)) for pose in (found[0], found[-1]))
    assert first[2] - last[2] == pytest.approx(2 * step_of(load.decision, load.built))
    assert [pose.holds for pose in found] == [False, False, True]
