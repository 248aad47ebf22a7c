"""Solids of triangles, and what tools sweep: volumes against formulas that can be followed by hand."""

from __future__ import annotations

from dataclasses import replace
from math import cos, pi, radians, sin, sqrt, tan

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Polygon, box

from lean_ledger.core.followed.nearest import RoundFace, Surface
from lean_ledger.core.followed.sweep import swept
from lean_ledger.core.geometry.masses import (
    MassError,
    box_mass,
    lathe_mass,
    mass_of_mesh,
    prism_mass,
    segments,
    united,
)
from lean_ledger.core.geometry.model import Bounds, Mesh
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.timing.motion import feed, rapid
from lean_ledger.library import shipped_library
from lean_ledger.library.types import Tool, ToolKind
from tests.conftest import case_model, demo_part

BLOCK = box_mass(Bounds((0, 0, 0), (40, 30, 20)))
MILL = next(t for t in shipped_library().tools if t.kind == ToolKind.END_MILL and t.diameter == 10)


def tool(kind: ToolKind, diameter: float, tip_angle: float = 0.0, corner_radius: float = 0.0) -> Tool:
    return replace(MILL, kind=kind, diameter=diameter, tip_angle=tip_angle, corner_radius=corner_radius)


# ---- solids


def test_volume_of_a_block_less_a_prism_and_what_both_share() -> None:
    prism = prism_mass(box(10, 10, 50, 20), 5, 30)
    # within the block it is 30 · 10 · 15
    assert BLOCK.minus([prism]).volume == pytest.approx(40 * 30 * 20 - 30 * 10 * 15)
    assert BLOCK.common(prism).volume == pytest.approx(4500)
    assert united([BLOCK, prism]).volume == pytest.approx(24000 + 40 * 10 * 25 - 4500)


def test_prism_over_an_area_with_a_hole_and_islands() -> None:
    area = Polygon([(0, 0), (20, 0), (20, 20), (0, 20)], [[(5, 5), (15, 5), (15, 15), (5, 15)]])
    assert prism_mass(area, -1, 3).volume == pytest.approx((400 - 100) * 4)
    assert prism_mass(Polygon(), 0, 1).is_empty


def test_pieces_are_told_apart_by_what_hangs_together() -> None:
    cut = BLOCK.minus([prism_mass(box(15, -1, 25, 31), -1, 21)])
    volumes = sorted(piece.volume for piece in cut.pieces())
    assert volumes == [pytest.approx(15 * 30 * 20)] * 2
    assert sum(piece.mass.volume for piece in cut.pieces()) == pytest.approx(cut.volume)
    # a plate of 15 × 30 × 20 is 2 · 9000 / (2 · (450 + 300 + 600)) thick in the mean
    assert cut.pieces()[0].mean_thickness == pytest.approx(18000 / 2700)


def test_thickness_adds_up_what_a_line_goes_through() -> None:
    bridge = BLOCK.minus([prism_mass(box(10, 10, 30, 20), 6, 14)])
    assert bridge.thickness_at((20, 15, 30), (0.0, 0.0, 1.0)) == pytest.approx(12)
    assert bridge.thickness_at((20, 15, 10), (1.0, 0.0, 0.0)) == pytest.approx(20)
    assert bridge.thickness_at((99, 15, 10), (0.0, 0.0, 1.0)) == 0


def test_turning_keeps_the_volume_and_moves_the_axes() -> None:
    turned = BLOCK.placed((0.0, 1.0, 0.0), (0.0, 0.0, 1.0), (1.0, 0.0, 0.0))
    assert turned.volume == pytest.approx(24000)
    # x of the block runs along Y, y along Z, z along X
    assert turned.bounds.max == pytest.approx((20, 40, 30))


def test_turned_cone_is_as_the_formula_says() -> None:
    cone = lathe_mass([(0, 0), (6, 9), (0, 9)], (3, 4), 6)
    assert cone.volume == pytest.approx(pi * 36 * 9 / 3, rel=0.004)


@pytest.mark.parametrize("name", ["sensor-base-plate", "louvre-bracket", "spindle-bushing", "mirror-cell"])
def test_part_is_the_solid_inside_its_triangles(name: str) -> None:
    solid = case_model(name).solid
    assert mass_of_mesh(solid.mesh).volume == pytest.approx(solid.volume, rel=0.005)


def test_triangles_with_a_gap_are_refused() -> None:
    mesh = demo_part("louvre-bracket").model.solid.mesh
    with pytest.raises(MassError, match="leave gaps"):
        mass_of_mesh(Mesh(mesh.vertices, mesh.triangles[:-40], mesh.faces[:-40]))


def test_distance_to_the_surface_and_the_face_it_is_nearest_to() -> None:
    corners = ((0.0, 0.0, 0.0), (10.0, 0.0, 0.0), (0.0, 10.0, 0.0), (0.0, 0.0, 10.0), (5.0, 5.0, 0.0))
    # two triangles on the axes' planes, and one without any area, that must not seem near
    surface = Surface([Mesh(corners, ((0, 1, 2), (0, 1, 3), (1, 4, 2)), (7, 8, 9))])
    away, faces = surface.distances(np.array([[2.0, 2.0, 3.0], [2.0, 1.0, 2.0], [20.0, 0.0, 0.0], [0.0, 90.0, 0.0]]))
    assert away == pytest.approx([2, 1, 10, 80])
    assert list(faces[:2]) == [8, 8]
    assert faces[3] == 7


@settings(max_examples=10, deadline=None)
@given(st.integers(0, 10**6), st.sampled_from((0.05, 3.0, 40.0)))
def test_distances_are_those_to_all_triangles_one_by_one(seed: int, astray: float) -> None:
    """Looked for by boxes and planes, against the nearest of many points on every triangle."""
    random = np.random.default_rng(seed)
    vertices = random.uniform(0, 50, (24, 3))
    triangles = random.permutation(24).reshape(8, 3)
    mesh = Mesh(tuple(map(tuple, vertices)), tuple(map(tuple, triangles.tolist())), tuple(range(8)))
    shares = np.array([(a, b, 40 - a - b) for a in range(41) for b in range(41 - a)]) / 40
    on_them = shares @ vertices[triangles]  # (8, 861, 3)
    points = on_them[:, ::97].reshape(-1, 3) + random.normal(0, astray, (8 * 9, 3))
    away, faces = Surface([mesh]).distances(points)
    gaps = np.linalg.norm(points[:, None, None] - on_them[None], axis=3).min(axis=2)
    nearest, spacing = gaps.min(axis=1), 60 / 40  # between two points of a triangle, at the most
    assert (away <= nearest + 1e-9).all()
    assert (away >= nearest - spacing).all()
    assert (gaps[np.arange(len(points)), faces] <= nearest + spacing).all()


@settings(max_examples=10, deadline=None)
@given(st.lists(st.tuples(*[st.integers(0, 30)] * 4), min_size=1, max_size=5))
def test_what_is_left_and_what_is_common_make_the_block(cuts: list[tuple[int, int, int, int]]) -> None:
    prisms = [prism_mass(box(x, y, x + 1 + w, y + 1 + d), 4, 30) for x, y, w, d in cuts]
    left = BLOCK.minus(prisms)
    assert left.volume + BLOCK.common(united(prisms)).volume == pytest.approx(24000)


# ---- sweeps


def test_slot_is_the_tool_s_way_widened_by_its_radius() -> None:
    motion = Motion((rapid((0, 0, 20), (0, 0, 2)), feed(500, [(0, 0, 2), (0, 0, -3), (40, 0, -3)])))
    # a rectangle 40 × 10 and two half circles of R5, from −3 up to 5
    assert swept(motion, MILL, 5).volume == pytest.approx((400 + 25 * pi) * 8, rel=1e-3)


def test_lower_pass_takes_what_the_one_above_took() -> None:
    level = [feed(500, [(0, 0, z), (40, 0, z)]) for z in (-1.0, -2.0, -3.0)]
    assert swept(Motion(tuple(level)), MILL, 5).volume == pytest.approx((400 + 25 * pi) * 8, rel=1e-3)


def test_rapids_take_nothing_and_neither_does_a_tap() -> None:
    assert swept(Motion((rapid((0, 0, 5), (0, 0, -9)),)), MILL, 5).is_empty
    plunge = Motion((feed(100, [(0, 0, 5), (0, 0, -9)]),))
    assert swept(plunge, tool(ToolKind.TAP, 8), 5).is_empty


def test_drilled_hole_is_a_cylinder_with_its_tip() -> None:
    motion = Motion((feed(100, [(7, 7, 2), (7, 7, -10)]),))
    tip = 4 / tan(radians(59))  # 2.4034 for Ø8 and 118°
    expected = pi * 16 * (10 - tip + 5) + pi * 16 * tip / 3
    assert swept(motion, tool(ToolKind.DRILL, 8, 118), 5).volume == pytest.approx(expected, rel=3e-3)


def test_ramp_alone_takes_the_hull_of_its_two_ends() -> None:
    motion = Motion((feed(100, [(0, 0, 0), (30, 0, -6)]),))
    # the tool's front edge makes the floor: 30 · 10 that falls from 0 to −6, then the whole tool at −6
    expected = 300 * (5 + 3) + 25 * pi * (5 + 6)
    assert swept(motion, MILL, 5).volume == pytest.approx(expected, rel=5e-3)


def test_chamfer_mill_along_an_edge_takes_a_triangle() -> None:
    # 90° mill, tip 4 below the edge and 4 beside it, past a block whose edge lies along X at Y 0, Z 0
    motion = Motion((feed(300, [(-20, -3, -4), (60, -3, -4)]),))
    block = box_mass(Bounds((0, 0, -20), (40, 30, 0)))
    left = block.minus([swept(motion, tool(ToolKind.CHAMFER_MILL, 16, 90), 5)])
    # at Z 0 the cone is 4 wide: it reaches 1 beyond the edge, 1 × 1 / 2 over 40
    assert block.volume - left.volume == pytest.approx(40 * 0.5, rel=0.01)


def test_corner_radius_leaves_its_round_at_a_wall() -> None:
    motion = Motion((feed(500, [(-30, 0, -5), (70, 0, -5)]),))
    block = box_mass(Bounds((0, -20, -20), (40, 20, 0)))
    square = block.minus([swept(motion, MILL, 5)]).volume
    rounded = block.minus([swept(motion, tool(ToolKind.END_MILL, 10, corner_radius=2), 5)]).volume
    # on both sides a fillet of R2: r² (1 − π/4) along 40
    assert rounded - square == pytest.approx(2 * 4 * (1 - pi / 4) * 40, rel=0.12)


def test_chords_stray_no_more_than_asked() -> None:
    for radius in (0.5, 3, 12, 60):
        count = segments(radius)
        assert count % 4 == 0
        assert radius * (1 - sqrt(1 - (pi / count) ** 2)) <= 0.0101


def test_point_on_a_round_wall_is_on_it_however_coarse_its_triangles() -> None:
    # one chord of a Ø40 cylinder from 0° to 28.96°: its middle lies 20 · (1 − cos 14.48°) = 0.635 inside
    a, b = (20.0, 0.0), (17.5, 9.682)
    mesh = Mesh(((*a, 0.0), (*b, 0.0), (*b, 10.0), (*a, 10.0)), ((0, 1, 2), (0, 2, 3)), (4, 4))
    on_it = np.array([[19.364, 5.0, 5.0]])  # √(20² − 5²)
    chords = Surface([mesh]).distances(on_it)[0][0]
    assert chords == pytest.approx(0.635, abs=0.01)
    # farther than chords of the reading may stray, a point is no point of the wall
    assert Surface([mesh], "", (RoundFace(4, (0, 0, 0), (0, 0, 1), 20.0),)).distances(on_it)[0][0] == chords


@pytest.mark.parametrize(("inward", "half_angle"), [(True, 0.0), (False, 0.0), (True, pi / 4), (False, pi / 4)])
def test_point_beside_a_chord_is_in_the_part_or_beside_it_as_the_face_says(inward: bool, half_angle: float) -> None:
    # one chord over 0.2 rad of a circle of R20: its middle lies 20 · (1 − cos 0.1) = 0.09992 inside
    a, b = (20.0, 0.0), (20 * cos(0.2), 20 * sin(0.2))
    top = 10.0 * (half_angle > 0)  # a cone of 45° from the apex below: 10 higher it is 10 wider
    c, d = ((20 + top) * cos(0.2), (20 + top) * sin(0.2)), (20.0 + top, 0.0)
    mesh = Mesh(((*a, 20.0), (*b, 20.0), (*c, 30.0), (*d, 30.0)), ((0, 1, 2), (0, 2, 3)), (4, 4))
    apex = (0.0, 0.0, 0.0)
    surface = Surface([mesh], "", (RoundFace(4, apex, (0, 0, 1), 0.0 if half_angle else 20.0, half_angle, inward),))
    r = 20 - 0.03 if not half_angle else 25 - 0.03
    point = np.array([[r * cos(0.1), r * sin(0.1), 25.0]])
    square = 0.03 * cos(half_angle)
    into, beside = (surface.distances(point, cut_into=said)[0][0] for said in (True, False))
    # inside of the wall of a hole is air, inside of a boss is the part
    assert (into, beside) == pytest.approx((0.0, square) if inward else (square, 0.0), abs=1e-6)
