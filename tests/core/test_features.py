"""Recognition: exact answers on the case parts, each kind on a part built for it, and what must not change."""

from __future__ import annotations

import json
import math
from itertools import pairwise
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.features import Chamfer, Contour, Hole, OuterFace, Pocket, Slot, Step, recognise
from lean_ledger.core.features.contract import features_document
from lean_ledger.core.features.describe import grouped, title
from lean_ledger.core.geometry.model import PartModel
from lean_ledger.core.geometry.solids import (
    at_level,
    block,
    cone,
    countersunk,
    drilled,
    obround,
    rod,
    rounded_block,
    upright,
)
from lean_ledger.core.geometry.vectors import dot, neg
from tests.conftest import CASES, built, case_model, demo_part
from tests.core.expectations import failures

UP, DOWN = (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)
EXPECTATIONS = sorted((CASES / "features").glob("*.expect.json"))


def case_of(path: Path) -> tuple[PartModel, dict[str, Any]]:
    case = json.loads(path.read_text(encoding="utf-8"))
    solid = int(case["args"][1]) if "args" in case else 0
    return case_model(case["part"].removesuffix(".step"), solid), case["expect"]


@pytest.mark.parametrize("path", EXPECTATIONS, ids=lambda path: path.name.removesuffix(".expect.json"))
def test_case_part_is_recognised_exactly(path: Path) -> None:
    model, expect = case_of(path)
    assert failures(features_document(model, recognise(model.solid)), expect) == []


@pytest.mark.parametrize("path", EXPECTATIONS, ids=lambda path: path.name.removesuffix(".expect.json"))
def test_each_face_is_in_a_feature_and_ids_are_unique(path: Path) -> None:
    solid = case_of(path)[0].solid
    features = recognise(solid).features
    assert {f for feature in features for f in feature.faces} == {face.index for face in solid.faces}
    assert len({feature.id for feature in features}) == len(features)


def one(part, kind):  # type: ignore[no-untyped-def]
    found = [f for f in part.features if isinstance(f, kind)]
    assert len(found) == 1, [f.kind for f in part.features]
    return found[0]


def test_blind_drilled_hole_has_a_cylinder_and_a_tip() -> None:
    hole = one(built(block((0, 0, 0), (30, 30, 20)) - drilled((15, 15, 20), DOWN, 6, 12)), Hole)
    assert (hole.diameter, hole.depth, hole.through) == (6, 12, False)
    assert hole.axis == DOWN
    assert [s.shape for s in hole.segments] == ["cylinder", "cone"]
    # 118° tip: 3 / tan 59° = 1.8026
    assert hole.segments[1].depth == pytest.approx(1.8026, abs=1e-4)
    assert hole.volume == pytest.approx(math.pi * 9 * 12 + math.pi * 9 * 1.8026 / 3, rel=1e-4)
    assert hole.access == (UP,)


def test_through_hole_is_reached_from_both_ends() -> None:
    hole = one(built(block((0, 0, 0), (30, 30, 20)) - rod((15, 15, 0), UP, 6, 20)), Hole)
    assert hole.through
    assert set(hole.access) == {UP, DOWN}
    assert hole.volume == pytest.approx(math.pi * 9 * 20)


def test_counterbore_is_one_hole_entered_from_its_wide_end() -> None:
    body = block((0, 0, 0), (30, 30, 20)) - rod((15, 15, 0), UP, 6.6, 20) - rod((15, 15, 0), UP, 11, 7)
    hole = one(built(body), Hole)
    assert [(s.from_diameter, s.depth) for s in hole.segments] == [(11, 7), (6.6, 13)]
    assert hole.access == (DOWN,)
    assert hole.position == pytest.approx((15, 15, 0))


def test_counterbore_that_breaks_out_of_the_part_is_its_hole_s() -> None:
    """Ø13 on Ø7 with a step 4 beside either side and the end 4.5 off: of its wall 2 · asin(4 / 6.5) = 76° are left."""
    body = block((0, 0, 0), (40, 30, 20)) - rod((35.5, 15, -1), UP, 7, 22) - rod((35.5, 15, 14), UP, 13, 7)
    body = body - block((-1, 19, 8), (41, 31, 21)) - block((-1, -1, 8), (41, 11, 21))
    hole = one(built(body), Hole)
    assert [(s.from_diameter, s.depth) for s in hole.segments] == [(13, 6), (7, 14)]
    assert hole.access == (UP,)


def test_round_end_of_a_slot_is_no_counterbore_of_the_hole_in_its_floor() -> None:
    slot = block((-1, 9, 14), (25, 21, 21)) + rod((25, 15, 14), UP, 12, 7)
    body = block((0, 0, 0), (40, 30, 20)) - slot - rod((25, 15, -1), UP, 6, 22)
    part = built(body)
    assert [(s.from_diameter, s.depth) for s in one(part, Hole).segments] == [(6, 14)]
    assert one(part, Slot).width == pytest.approx(12)


def test_countersink_belongs_to_its_hole() -> None:
    hole = one(built(block((0, 0, 0), (30, 30, 10)) - countersunk((15, 15, 10), DOWN, 5.5, 11, 10)), Hole)
    sink = hole.segments[0]
    assert (sink.shape, sink.from_diameter, sink.to_diameter, sink.angle) == ("cone", 11, 5.5, 90)
    assert sink.depth == pytest.approx(2.75)
    assert hole.depth == pytest.approx(10)


def test_hole_wider_at_both_ends_is_two_holes_split_at_the_waist() -> None:
    body = block((0, 0, 0), (30, 30, 20)) - rod((15, 15, 0), UP, 6, 20)
    body = body - rod((15, 15, 0), UP, 10, 4) - rod((15, 15, 14), UP, 12, 6)
    holes = [f for f in built(body).features if isinstance(f, Hole)]
    assert sorted([s.from_diameter for s in h.segments] for h in holes) == [[10], [12, 6]]
    assert all(h.through for h in holes)


def test_coaxial_holes_across_a_gap_are_two_holes() -> None:
    fork = block((0, 0, 0), (30, 40, 20)) - block((0, 12, 5), (30, 28, 20))
    holes = [f for f in built(fork - rod((15, 0, 14), (0, 1, 0), 6, 40)).features if isinstance(f, Hole)]
    assert [h.depth for h in holes] == [12, 12]


def test_pocket_has_depth_corner_radius_and_net_area() -> None:
    body = block((0, 0, 0), (80, 60, 20)) - rounded_block((10, 10, 12), (60, 50, 20), 6)
    pocket = one(built(body), Pocket)
    area = 50 * 40 - (4 - math.pi) * 36
    assert (pocket.depth, pocket.corner_radius, pocket.through) == (8, 6, False)
    assert pocket.area == pytest.approx(area, rel=1e-3)
    assert pocket.volume == pytest.approx(area * 8, rel=1e-3)
    assert pocket.access == (UP,)


def test_step_along_a_side_that_a_pocket_parts_is_one_step() -> None:
    """A ledge 20 down along a side, its wall parted by a pocket that breaks out over it: what stands between the pieces
    of the wall goes with the step, whose floor is the ledge. 120 × 20 less what the pocket has of it, 60 × 12.
    """
    body = block((0, 0, 0), (120, 60, 50)) - block((-1, 40, 30), (121, 61, 51)) - block((30, 20, 20), (90, 52, 51))
    part = built(body)
    step = one(part, Step)
    assert (step.direction, step.depth) == (UP, 20)
    assert step.area == pytest.approx(120 * 20 - 60 * 12)


def test_sharp_pocket_has_corner_radius_0() -> None:
    body = block((0, 0, 0), (80, 60, 20)) - block((10, 10, 12), (60, 50, 20))
    assert one(built(body), Pocket).corner_radius == 0


def test_island_stands_in_its_pocket() -> None:
    body = block((0, 0, 0), (80, 60, 20)) - (
        rounded_block((10, 10, 12), (60, 50, 20), 6) - rod((35, 30, 12), UP, 14, 8)
    )
    pocket = one(built(body), Pocket)
    assert pocket.islands == 1
    assert pocket.area == pytest.approx(50 * 40 - (4 - math.pi) * 36 - math.pi * 49, rel=1e-3)


def test_nested_pocket_is_a_pocket_of_its_own_depth() -> None:
    body = block((0, 0, 0), (80, 60, 30)) - rounded_block((10, 10, 20), (70, 50, 30), 6)
    pockets = [f for f in built(body - rounded_block((20, 20, 14), (50, 40, 20), 4)).features if f.kind == "pocket"]
    assert sorted(p.depth for p in pockets) == [6, 10]


def test_window_is_a_through_pocket_and_obround_a_slot() -> None:
    body = block((0, 0, 0), (80, 60, 6)) - rounded_block((10, 10, 0), (30, 40, 6), 3) - obround((55, 30, 6), 30, 8, 6)
    part = built(body)
    window, slot = one(part, Pocket), one(part, Slot)
    assert window.through
    assert window.corner_radius == 3
    assert (slot.width, slot.length, slot.open_ends, slot.through) == (8, 30, 0, True)
    assert set(slot.access) == {UP, DOWN}


def test_groove_across_is_a_slot_with_two_open_ends() -> None:
    slot = one(built(block((0, 0, 0), (60, 40, 20)) - block((0, 15, 14), (60, 23, 20))), Slot)
    assert (slot.width, slot.depth, slot.length, slot.open_ends) == (8, 6, 60, 2)
    assert UP in slot.access
    assert DOWN not in slot.access


def test_shoulder_is_a_step_and_its_side_is_the_wall() -> None:
    step = one(built(block((0, 0, 0), (60, 40, 20)) - block((0, 30, 14), (60, 40, 20))), Step)
    assert (step.depth, step.area) == (6, 600)
    assert step.direction == UP


def test_plain_block_has_six_faces_and_nothing_else() -> None:
    part = built(block((0, 0, 0), (60, 40, 20)))
    assert [f.kind for f in part.features] == ["face"] * 6
    top = next(f for f in part.features if isinstance(f, OuterFace) and f.normal == UP)
    assert UP in top.access
    assert DOWN not in top.access


def test_rounded_uprights_are_the_outline_and_not_fillets() -> None:
    contour = one(built(rounded_block((0, 0, 0), (60, 40, 10), 8)), Contour)
    assert contour.height == 10
    assert contour.length == pytest.approx(2 * math.pi * 8)


def test_chamfer_loop_is_one_feature_with_its_length() -> None:
    chamfer = one(built(block((0, 0, 0), (60, 40, 20)).chamfered(1.5, at_level(20))), Chamfer)
    assert (chamfer.width, chamfer.angle) == (1.5, 45)
    assert chamfer.length == pytest.approx(2 * (60 + 40))
    assert chamfer.path[0][0] == pytest.approx(chamfer.path[0][-1]), "the path comes back to its start"


def test_chamfer_follows_rounded_corners() -> None:
    part = built(rounded_block((0, 0, 0), (60, 40, 10), 8).chamfered(1, at_level(10)))
    assert one(part, Chamfer).length == pytest.approx(2 * (44 + 24) + 2 * math.pi * 8, rel=1e-3)


def test_slanted_faces_of_a_hexagon_are_no_chamfers() -> None:
    model = case_model("hex-standoff-inch")
    assert not [f for f in recognise(model.solid).features if f.kind == "chamfer"]


def test_conical_bottom_is_a_hole_only_with_a_cylinder() -> None:
    part = built(block((0, 0, 0), (30, 30, 20)) - cone((15, 15, 20), DOWN, 10, 0, 5))
    assert not [f for f in part.features if isinstance(f, Hole)]


def test_deep_recess_under_an_overhang_is_not_reached_from_above() -> None:
    body = block((0, 0, 0), (40, 40, 30)) - block((5, 0, 10), (35, 40, 18))  # a slot through, under a roof
    floor = [f for f in built(body).features if UP in f.access and f.kind not in ("face", "contour")]
    assert floor == []


@settings(max_examples=15, deadline=None)
@given(st.floats(2, 9), st.floats(3, 18), st.booleans())
def test_hole_volume_is_what_the_part_lacks(diameter: float, depth: float, through: bool) -> None:
    diameter, depth = round(diameter, 2), round(depth, 2)
    cutter = rod((20, 20, 0), UP, diameter, 25) if through else rod((20, 20, 25 - depth), UP, diameter, depth)
    part = built(block((0, 0, 0), (40, 40, 25)) - cutter)
    hole = one(part, Hole)
    assert hole.through == through
    assert part.model.solid.volume + hole.volume == pytest.approx(40 * 40 * 25, rel=1e-6)


def test_access_of_a_hole_is_its_entry_side() -> None:
    for feature in demo_part("louvre-bracket").features:
        if isinstance(feature, Hole):
            assert any(dot(d, neg(feature.axis)) > 0.999 for d in feature.access)


def test_alike_features_are_grouped_and_named() -> None:
    groups = grouped(demo_part("sensor-base-plate").features)
    titles = {g.title: len(g.features) for g in groups}
    assert titles["blind hole"] == 6
    assert titles["through hole, countersunk"] == 4
    assert titles["through slot"] == 2
    assert title(demo_part("sensor-base-plate").by_id["P1"]) == "pocket"


def test_silhouette_is_the_outline_without_holes() -> None:
    part = demo_part("gear-housing-lid")
    ring = part.silhouette(UP).ring
    doubled = sum(a[0] * b[1] - b[0] * a[1] for a, b in pairwise((*ring, ring[0])))
    assert doubled / 2 == pytest.approx(110 * 110 - (4 - math.pi) * 14**2, rel=1e-3)


def test_upright_edges_are_told_from_level_ones() -> None:
    assert upright((1, 2, 0), (1, 2, 9))
    assert not upright((1, 2, 0), (4, 2, 0))
