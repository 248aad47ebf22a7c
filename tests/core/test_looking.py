"""Patterns, measuring between picks, and line drawings from the mesh."""

from __future__ import annotations

from itertools import pairwise
from math import cos, pi, radians, sin

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.features import Hole
from lean_ledger.core.features.describe import grouped
from lean_ledger.core.features.patterns import pattern_of
from lean_ledger.core.geometry.drawing import standard_drawings
from lean_ledger.core.geometry.measure import Pick, measured
from lean_ledger.core.geometry.model import Solid, Surface
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import Body, block, prism, rod
from lean_ledger.core.part.line_drawing import mesh_drawings
from tests.conftest import built

UP = (0.0, 0.0, 1.0)


def holes_at(places: list[tuple[float, float]], size: tuple[float, float] = (120, 120)) -> list[Hole]:
    body = block((-size[0] / 2, -size[1] / 2, 0), (size[0] / 2, size[1] / 2, 8))
    for x, y in places:
        body = body - rod((x, y, 0), UP, 5, 8)
    return [f for f in built(body).features if isinstance(f, Hole)]


def circle(n: int, diameter: float, start: float = 0) -> list[tuple[float, float]]:
    angles = [radians(start + 360 * i / n) for i in range(n)]
    return [(diameter / 2 * cos(a), diameter / 2 * sin(a)) for a in angles]


def test_bolt_circle_has_its_diameter_and_centre() -> None:
    pattern = pattern_of(holes_at(circle(6, 76, 10)))
    assert pattern is not None
    assert (pattern.shape, pattern.diameter, pattern.equal) == ("circle", 76, True)
    assert pattern.center[:2] == pytest.approx((0, 0), abs=1e-6)
    assert pattern.words == "on Ø76, equally spaced"


def test_circle_with_a_hole_left_out_is_not_equally_spaced() -> None:
    pattern = pattern_of(holes_at(circle(8, 80)[:-1]))
    assert pattern is not None
    assert (pattern.shape, pattern.equal) == ("circle", False)


def test_grid_counts_rows_and_columns() -> None:
    pattern = pattern_of(holes_at([(20 * i - 30, 15 * j - 15) for i in range(4) for j in range(3)]))
    assert pattern is not None
    assert pattern.shape == "grid"
    assert sorted([(pattern.columns, pattern.pitch), (pattern.rows, pattern.row_pitch)]) == [(3, 15), (4, 20)]


def test_slanted_row_has_one_pitch() -> None:
    pattern = pattern_of(holes_at([(12 * i - 30, 5 * i - 10) for i in range(5)]))
    assert pattern is not None
    assert (pattern.shape, pattern.columns, pattern.pitch) == ("row", 5, 13)


@pytest.mark.parametrize(
    "places", [[(0, 0), (20, 0)], [(0, 0), (10, 0), (35, 0)], [(-40, 3), (10, 44), (31, -20), (5, 5)]]
)
def test_no_pattern_in(places: list[tuple[float, float]]) -> None:
    assert pattern_of(holes_at(places)) is None


def test_pattern_belongs_to_its_group() -> None:
    body = block((-60, -60, 0), (60, 60, 8))
    for x, y in circle(5, 60):
        body = body - rod((x, y, 0), UP, 6, 8)
    groups = [g for g in grouped(built(body - rod((0, 0, 0), UP, 20, 8)).features) if isinstance(g.features[0], Hole)]
    assert [pattern_of(g.features) is not None for g in groups] == [True, False]


# ---- measuring


def face_where(solid: Solid, surface: Surface, axis: tuple[float, float, float], at: float | None = None) -> Pick:
    for face in solid.faces:
        level = sum(a * b for a, b in zip(face.origin, axis, strict=True))
        alike = face.surface == surface and sum(a * b for a, b in zip(face.axis, axis, strict=True)) > 0.999
        if alike and (at is None or abs(level - at) < 1e-3):
            return Pick(face.index, face.origin)
    raise AssertionError((surface, axis, at))


STEPPED = plain_solid(
    (block((0, 0, 0), (60, 40, 20)) - block((30, 0, 14), (60, 40, 20)) - rod((10, 10, 0), UP, 6, 20)
     - rod((10, 30, 0), UP, 8, 20)).shape, "stepped",
)  # fmt: skip


def figures(*picks: Pick) -> dict[str, float]:
    return {r.label: round(r.value, 4) for r in measured(STEPPED, picks)}


def test_faces_that_look_the_same_way_have_a_depth_between_them() -> None:
    top, floor = (face_where(STEPPED, Surface.PLANE, UP, z) for z in (20, 14))
    assert figures(top, floor)["depth"] == 6


def test_faces_that_look_away_from_one_another_have_a_distance() -> None:
    left, right = face_where(STEPPED, Surface.PLANE, (-1, 0, 0)), face_where(STEPPED, Surface.PLANE, (1, 0, 0), 60)
    assert figures(left, right)["distance"] == 60


def test_square_faces_have_an_angle() -> None:
    top, side = face_where(STEPPED, Surface.PLANE, UP, 20), face_where(STEPPED, Surface.PLANE, (0, -1, 0))
    assert figures(top, side)["angle"] == 90


def test_wedge_has_its_own_angle() -> None:
    wedge = plain_solid(prism([(0, 0), (60, 0), (60, 60)], 0, 20).shape, "wedge")
    slanted = next(f for f in wedge.faces if f.axis[0] < -0.5 and f.axis[1] > 0.5)
    bottom = next(f for f in wedge.faces if f.axis[1] < -0.99)
    readings = {
        r.label: r.value
        for r in measured(wedge, (Pick(slanted.index, slanted.origin), Pick(bottom.index, bottom.origin)))
    }
    assert readings["angle"] == pytest.approx(45)


def test_holes_are_measured_between_their_axes_and_alone() -> None:
    small, large = (
        Pick(f.index, (0, 0, 0)) for f in sorted(STEPPED.faces, key=lambda f: f.radius) if f.surface == Surface.CYLINDER
    )
    assert figures(small, large)["between axes"] == 20
    assert figures(large) == {"Ø": 8, "radius": 4}
    assert figures(small, face_where(STEPPED, Surface.PLANE, (-1, 0, 0)))["axis to face"] == 10
    assert figures(small, face_where(STEPPED, Surface.PLANE, UP, 20))["axis to face"] == 90


def test_points_are_measured_along_each_axis() -> None:
    found = figures(Pick(0, (1, 2, 3)), Pick(0, (4, 6, 3)))
    assert (found["point to point"], found["along X"], found["along Y"], found["along Z"]) == (5, 3, 4, 0)


@pytest.mark.parametrize("picks", [(), (Pick(0, (0, 0, 0)),) * 3, (Pick(999, (0, 0, 0)),)])
def test_picks_that_cannot_be_measured_are_refused(picks: tuple[Pick, ...]) -> None:
    with pytest.raises(PlanError, match=r"picks|face 999"):
        measured(STEPPED, picks)


# ---- line drawings from the mesh


def drawn_length(lines) -> float:  # type: ignore[no-untyped-def]
    return sum(((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2) ** 0.5 for line in lines for a, b in pairwise(line))


@pytest.mark.parametrize(
    "body",
    [block((0, 0, 0), (60, 40, 20)) - rod((20, 20, 0), UP, 16, 20), rod((0, 0, 0), UP, 30, 50)],
    ids=["block with a hole", "rod"],
)
def test_drawing_from_the_mesh_is_that_of_the_exact_algorithm(body: Body) -> None:
    exact, quick = standard_drawings(body.shape), [make() for make in mesh_drawings(plain_solid(body.shape, "x"))]
    assert [d.view for d in quick] == [d.view for d in exact]
    for a, b in zip(exact, quick, strict=True):
        assert drawn_length(b.visible) == pytest.approx(drawn_length(a.visible), rel=0.03), a.view


def test_top_view_of_a_disc_is_its_circle() -> None:
    top = mesh_drawings(plain_solid(rod((0, 0, 0), UP, 40, 10).shape, "disc"))[0]()
    assert drawn_length(top.visible) == pytest.approx(40 * pi, rel=0.01)
