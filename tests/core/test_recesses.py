"""Undercuts, openings, notches, and what stays whole although something breaks into it."""

from __future__ import annotations

from math import cos, pi, radians, sin

import pytest

from lean_ledger.core.features import Chamfer, Hole, OuterFace, Pocket, Slot, recognise
from lean_ledger.core.features.recognise import Recognised
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import Body, at_level, block, prism, rod, rounded_block, upright
from lean_ledger.core.ledger.part_findings import in_the_way
from tests.conftest import built

UP, DOWN = (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)
BLOCK = block((0, 0, 0), (80, 60, 30))


def found(body: Body) -> Recognised:
    return recognise(plain_solid(body.shape, "built"))


def one(body: Body, kind):  # type: ignore[no-untyped-def]
    members = [f for f in found(body).features if isinstance(f, kind)]
    assert len(members) == 1, [(f.id, f.kind) for f in members]
    return members[0]


def test_t_slot_is_known_as_undercut_and_reached_along_it_only() -> None:
    slot = one(BLOCK - block((0, 25, 20), (80, 35, 30)) - block((0, 20, 14), (80, 40, 20)), Slot)
    assert (slot.width, slot.depth, slot.length, slot.open_ends, slot.undercut) == (10, 16, 80, 2, True)
    # 10 · 10 above, 20 · 6 below
    assert slot.volume == pytest.approx((10 * 10 + 20 * 6) * 80)
    assert set(slot.access) == {(1.0, 0.0, 0.0), (-1.0, 0.0, 0.0)}


def test_dovetail_is_measured_at_its_mouth() -> None:
    cut = prism([(25, 40), (55, 40), (50, 52), (30, 52)], 0, 100).turned((1, 0, 0), 90).moved((0, 61, -22))
    slot = one(BLOCK - cut, Slot)
    assert (slot.width, slot.depth, slot.undercut) == (20, 12, True)
    assert slot.volume == pytest.approx((20 + 30) / 2 * 12 * 60)
    assert UP not in slot.access


def test_notch_in_a_thin_plate_is_a_slot_through_with_one_open_end() -> None:
    plate = block((0, 0, 0), (80, 60, 6))
    square = one(plate - block((30, -1, 0), (40, 12, 6)), Slot)
    assert (square.width, square.depth, square.length, square.through, square.open_ends) == (10, 6, 12, True, 1)
    rounded = one(plate - block((30, -1, 0), (40, 12, 6)) - rod((35, 12, 0), UP, 10, 6), Slot)
    assert (rounded.length, rounded.corner_radius) == (17, 5)
    assert rounded.volume == pytest.approx((12 * 10 + pi * 25 / 2) * 6, rel=1e-3)
    assert {UP, DOWN} <= set(rounded.access)


def test_round_bottomed_groove_is_a_slot_along_the_part() -> None:
    slot = one(BLOCK - block((30, -1, 25), (40, 61, 31)) - rod((35, -1, 25), (0, 1, 0), 10, 62), Slot)
    assert (slot.width, slot.depth, slot.length, slot.through, slot.open_ends) == (10, 10, 60, False, 2)
    # 10 · 5 above the half round of radius 5
    assert slot.volume == pytest.approx((50 + pi * 25 / 2) * 60, rel=1e-6)


def test_hole_that_breaks_into_a_pocket_leaves_both_whole() -> None:
    pocket_cut = rounded_block((10, 10, 22), (50, 50, 30), 5)
    part = found(BLOCK - pocket_cut - rod((50, 30, 10), UP, 10, 25))
    (pocket,) = [f for f in part.features if isinstance(f, Pocket)]
    (hole,) = [f for f in part.features if isinstance(f, Hole)]
    assert pocket.area == pytest.approx(40 * 40 - (4 - pi) * 25, rel=1e-3)
    assert (hole.diameter, hole.depth, hole.through) == (10, 20, False)
    assert hole.position == pytest.approx((50, 30, 30))


def test_hole_in_the_corner_of_a_pocket_does_not_round_its_outline() -> None:
    part = found(BLOCK - block((10, 10, 22), (50, 50, 30)) - rod((50, 50, 10), UP, 8, 25))
    (pocket,) = [f for f in part.features if isinstance(f, Pocket)]
    assert (pocket.area, pocket.corner_radius) == (1600, 0)


def test_low_island_does_not_shorten_its_pocket() -> None:
    islands = rod((30, 30, 22), UP, 10, 5), block((50, 25, 22), (60, 35, 30))
    pocket = one(BLOCK - (rounded_block((10, 10, 22), (70, 50, 30), 5) - islands[0] - islands[1]), Pocket)
    assert (pocket.depth, pocket.islands) == (8, 2)


def test_pocket_is_measured_over_its_floor_radius() -> None:
    cut = block((10, 10, 22), (70, 50, 30)).rounded(5, upright).rounded(2, at_level(22))
    body = BLOCK - cut
    pocket = one(body, Pocket)
    assert (pocket.depth, pocket.corner_radius, pocket.floor_radius) == (8, 5, 2)
    assert pocket.area == pytest.approx(60 * 40 - (4 - pi) * 25, rel=1e-3)
    assert plain_solid(body.shape, "x").volume + pocket.volume == pytest.approx(80 * 60 * 30, rel=1e-3)


def test_obround_with_a_floor_radius_is_still_a_slot() -> None:
    ends = rod((25, 30, 24), UP, 12, 6), rod((55, 30, 24), UP, 12, 6)
    cut = (block((25, 24, 24), (55, 36, 30)) + ends[0] + ends[1]).rounded(1, at_level(24))
    slot = one(BLOCK - cut, Slot)
    assert (slot.width, slot.length, slot.open_ends) == (12, 42, 0)


def test_chamfered_rim_belongs_to_the_depth() -> None:
    body = (BLOCK - rounded_block((10, 10, 22), (70, 50, 30), 5)).chamfered(
        1, lambda a, b: abs(a[2] - 30) < 1e-6 and abs(b[2] - 30) < 1e-6 and 5 < a[0] < 75 and 5 < a[1] < 55
    )
    assert one(body, Pocket).depth == 8
    assert one(body, Chamfer).access == (UP,)


def test_counterbore_with_a_corner_radius_reaches_its_flat() -> None:
    hole = one(BLOCK - rod((40, 30, 0), UP, 10, 30) - rod((40, 30, 18), UP, 24, 12).rounded(2, at_level(18)), Hole)
    assert [(s.from_diameter, s.depth) for s in hole.segments] == [(24, 12), (10, 18)]
    assert hole.access == (UP,)


def test_window_in_a_tube_is_an_obround_slot() -> None:
    tube = rod((0, 0, 0), UP, 60, 80) - rod((0, 0, 0), UP, 52, 80)
    cut = block((0, -6, 30), (40, 6, 50)) + rod((0, 0, 30), (1, 0, 0), 12, 40) + rod((0, 0, 50), (1, 0, 0), 12, 40)
    slot = one(tube - cut, Slot)
    assert (slot.width, slot.length, slot.through, slot.access) == (12, 32, True, ((1.0, 0.0, 0.0),))


def test_slot_across_a_boss_ends_where_the_boss_does() -> None:
    body = block((0, 0, 0), (80, 60, 10)) + rod((40, 30, 10), UP, 30, 12) - block((0, 26, 15), (80, 34, 30))
    slot = one(body, Slot)
    assert (slot.width, slot.depth, slot.length, slot.open_ends) == (8, 7, 30, 2)


def test_slanted_hole_has_its_exact_volume() -> None:
    into = (sin(radians(20)), 0.0, cos(radians(20)))
    hole = one(BLOCK - rod((40, 30, -20), into, 8, 80), Hole)
    # π 4² · 30 / cos 20° = 1604.74
    assert hole.volume == pytest.approx(pi * 16 * 30 / cos(radians(20)), rel=1e-4)
    assert abs(hole.axis[2]) == pytest.approx(cos(radians(20)))


def test_access_is_tried_along_the_parts_own_directions() -> None:
    wedge = prism([(0, 0), (60, 0), (60, 20), (0, 45)], 0, 40)
    faces = [f for f in found(wedge).features if isinstance(f, OuterFace)]
    slanted = next(f for f in faces if 0.1 < f.normal[1] < 0.99)
    assert slanted.normal in slanted.access


def test_holder_keeps_a_short_hole_beside_a_tall_wall_out_of_reach() -> None:
    """A drill of Ø2 stands 24 mm out; above that the holder widens and meets the wall that stands 2 mm away."""
    floor = block((0, 0, 0), (60, 40, 10))
    near = floor + block((0, 0, 10), (20, 40, 90)) - rod((22.5, 20, 0), UP, 2, 10)
    far = floor + block((0, 0, 10), (20, 40, 90)) - rod((45, 20, 0), UP, 2, 10)
    assert one(near, Hole).access == (DOWN,)
    assert set(one(far, Hole).access) == {UP, DOWN}


def test_feature_without_access_names_what_is_in_the_way() -> None:
    body = block((0, 0, 0), (40, 40, 30)) - block((-1, 10, 10), (41, 30, 20)) - rod((20, 20, 5), UP, 6, 6)
    part = built(body)
    hole = next(f for f in part.features if isinstance(f, Hole))
    assert hole.access == ()
    assert "In the way:" in in_the_way(part, hole)


def deep_groove(wide: float) -> Body:
    """A slot of 4 at the foot of a groove, 120 below the top."""
    half = wide / 2
    body = block((0, 0, 0), (60, 60, 130)) - block((-1, 30 - half, 20), (61, 30 + half, 130))
    return body - block((-1, 28, 10), (61, 32, 21))


def test_holder_that_does_not_fit_takes_the_way_from_above() -> None:
    # 12 × 4 above the slot's floor the cone begins; at the top it is 2 + (120 − 48) tan 5° = 8.3 to each side
    narrow = one(deep_groove(10), Slot)
    assert UP not in narrow.access
    assert (1.0, 0.0, 0.0) in narrow.access
    assert UP in one(deep_groove(20), Slot).access


def test_what_stops_the_holder_is_named() -> None:
    body = block((0, 0, 0), (60, 60, 130)) - block((20, 25, 20), (40, 35, 131)) - block((25, 28, 10), (35, 32, 21))
    part = built(body)
    pocket = next(f for f in part.features if isinstance(f, Pocket | Slot) and not f.access)
    words = in_the_way(part, pocket)
    assert words.startswith("In the way: P") or words.startswith("In the way: G"), words
