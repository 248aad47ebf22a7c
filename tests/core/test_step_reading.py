"""Reading STEP: units, solids, plain data that agrees with formulas, and refusals with a reason."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest

from lean_ledger.core.basis.errors import FileRefused
from lean_ledger.core.geometry import Bend
from lean_ledger.core.geometry.alignment import upright_turn
from lean_ledger.core.geometry.host import KernelHost
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import block, rod, rounded_block, write_step
from lean_ledger.core.geometry.step import read_part, read_solid
from lean_ledger.core.geometry.step_text import check_step_text
from lean_ledger.core.part.model import analyse
from tests.conftest import CASES, case_model, demo_part, quick


def test_block_is_read_with_its_size_volume_and_area(tmp_path: Path) -> None:
    write_step(block((1, 2, 3), (41, 32, 23)), tmp_path / "b.step", "block")
    model = read_solid(tmp_path / "b.step", "b.step")
    assert model.solid.bounds.min == pytest.approx((1, 2, 3))
    assert model.solid.bounds.size == pytest.approx((40, 30, 20))
    assert model.solid.volume == pytest.approx(40 * 30 * 20)
    assert model.solid.area == pytest.approx(2 * (40 * 30 + 40 * 20 + 30 * 20))
    assert len(model.solid.faces) == 6
    assert model.length_unit == "mm"


def test_inch_file_is_read_in_mm(tmp_path: Path) -> None:
    write_step(block((0, 0, 0), (25.4, 50.8, 12.7)), tmp_path / "i.step", "inch", unit="INCH")
    model = read_solid(tmp_path / "i.step", "i.step")
    assert model.length_unit == "inch"
    assert model.solid.bounds.size == pytest.approx((25.4, 50.8, 12.7), abs=1e-5)


def test_edges_of_a_block_are_convex_and_of_a_bore_floor_concave() -> None:
    solid = plain_solid((block((0, 0, 0), (20, 20, 10)) - rod((10, 10, 4), (0, 0, 1), 6, 6)).shape, "bored")
    bends = [edge.bend for edge in solid.edges]
    assert bends.count(Bend.CONVEX) == 12 + 1  # the block's, and the mouth of the bore
    assert bends.count(Bend.CONCAVE) == 1  # where its wall meets its floor


def test_bore_wall_faces_inward_and_boss_wall_outward() -> None:
    part = block((0, 0, 0), (30, 20, 10)) - rod((8, 10, 0), (0, 0, 1), 6, 10) + rod((22, 10, 10), (0, 0, 1), 8, 5)
    walls = {round(f.radius, 3): f.inward for f in plain_solid(part.shape, "p").faces if f.surface == "cylinder"}
    assert walls == {3.0: True, 4.0: False}


@pytest.mark.parametrize("name", ["sensor-base-plate", "louvre-bracket", "hex-standoff-inch"])
def test_planar_loops_wind_with_the_material_on_the_left(name: str) -> None:
    solid = case_model(name).solid
    for face in solid.faces:
        if face.surface != "plane":
            continue
        area = 0.0
        for loop in face.loops:
            points = np.array(solid.loop_points(loop))
            doubled = np.cross(points, np.roll(points, -1, axis=0)).sum(axis=0) @ np.array(face.axis)
            assert (doubled > 0) == loop.outer
            area += doubled / 2
        assert area == pytest.approx(face.area, rel=0.003, abs=0.2)


def test_mesh_encloses_the_volume_and_knows_its_faces() -> None:
    solid = demo_part("mast-clamp-half").model.solid
    corners = np.array(solid.mesh.vertices)[np.array(solid.mesh.triangles)]
    volume = np.einsum("ij,ij->i", corners[:, 0], np.cross(corners[:, 1], corners[:, 2])).sum() / 6
    assert volume == pytest.approx(solid.volume, rel=0.003)
    assert set(solid.mesh.faces) == {face.index for face in solid.faces}


@pytest.mark.parametrize("name", ["cable-gland-plate", "louvre-bracket", "instrument-pair", "sensor-base-plate"])
def test_mesh_covers_each_face_with_its_area(name: str) -> None:
    solid = case_model(name).solid
    corners = np.array(solid.mesh.vertices)[np.array(solid.mesh.triangles)]
    areas = np.linalg.norm(np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]), axis=1) / 2
    by_face = np.bincount(np.array(solid.mesh.faces), weights=areas, minlength=len(solid.faces))
    for face in solid.faces:
        assert by_face[face.index] == pytest.approx(face.area, rel=0.02, abs=0.02), face.index


def test_second_solid_can_be_chosen() -> None:
    model = case_model("instrument-pair", 1)
    assert (model.solids, model.solid_index) == (2, 1)
    assert model.solid.volume != pytest.approx(case_model("instrument-pair").solid.volume)


def test_missing_solid_number_is_refused() -> None:
    with pytest.raises(FileRefused, match="there is no solid 7; the file has 2"):
        read_solid(CASES / "features/instrument-pair.step", "pair.step", 7)


@pytest.mark.parametrize(
    ("file", "code", "reason"),
    [
        ("empty.step", "file-empty", "empty"),
        ("letter.step", "file-not-step", "ISO-10303-21"),
        ("blob.step", "file-not-step", "ISO-10303-21"),
        ("truncated.step", "file-truncated", "END-ISO-10303-21"),
        ("wireframe.step", "file-no-solid", "no solid"),
        ("shell-only.step", "file-no-solid", "no solid"),
    ],
)
def test_bad_file_is_refused_with_name_and_reason(kernel: KernelHost, file: str, code: str, reason: str) -> None:
    with pytest.raises(FileRefused) as refused:
        kernel.read_part(CASES / "bad" / file, file)
    assert refused.value.code == code
    assert reason in str(refused.value)
    assert str(refused.value).startswith(file)


def test_file_over_100_mb_is_refused_before_it_is_parsed() -> None:
    content = b"ISO-10303-21;\n" + b" " * (101 * 1024 * 1024) + b"END-ISO-10303-21;"
    with pytest.raises(FileRefused, match="101 MB; at most 100 MB"):
        check_step_text("large.step", content)


def test_kernel_that_hangs_is_given_up_and_the_next_file_is_read() -> None:
    host = KernelHost(seconds=0.001, most=0.001)
    path = CASES / "features/sensor-base-plate.step"
    with pytest.raises(FileRefused, match="given up after"):
        host.read_solid(path, "slow.step")
    host._seconds = host._most = 60
    assert host.read_solid(path, "again.step").solid.volume > 0
    host.close()


def test_drawings_show_the_outline_from_all_sides() -> None:
    model = demo_part("anemometer-arm-block").model
    assert len(model.drawings) == 12
    top = next(d for d in model.drawings if d.view == (0, 0, 1))
    xs = [x for line in top.visible for x, _ in line]
    ys = [y for line in top.visible for _, y in line]
    assert (min(xs), max(xs)) == pytest.approx((0, 44))
    assert (min(ys), max(ys)) == pytest.approx((0, 26))
    end = next(d for d in model.drawings if d.view == (1, 0, 0))
    assert any(end.hidden), "the bores are hidden from the side"


def test_part_that_lies_askew_is_turned_along_its_axes_for_planning(tmp_path: Path) -> None:
    body = block((0, 0, 0), (60, 40, 16)) - rod((30, 20, 0), (0, 0, 1), 10, 16)
    askew = body.turned((0.3, 0.5, 0.8), 27).moved((400, -90, 1000))
    write_step(askew, tmp_path / "askew.step", "askew")
    as_filed = read_solid(tmp_path / "askew.step", "askew.step")
    for_planning = read_part(tmp_path / "askew.step", "askew.step")
    assert not as_filed.aligned
    assert for_planning.aligned
    assert for_planning.solid.bounds.size == pytest.approx((60, 40, 16), abs=1e-4), "turned no further than needed"
    assert for_planning.solid.volume == pytest.approx(as_filed.solid.volume)
    ups = {s.up for s in quick(analyse(for_planning)).setups}
    assert len(ups) == 2


def test_straight_part_is_left_as_it_lies() -> None:
    part = demo_part("louvre-bracket")
    assert not part.model.aligned
    assert upright_turn(part.model.solid) is None
    assert upright_turn(case_model("hex-standoff-inch").solid) is None, "a hexagon's slanted flats turn nothing"
    assert upright_turn(case_model("vane-hub").solid) is None


def test_turn_is_a_rotation() -> None:
    solid = plain_solid(block((0, 0, 0), (60, 40, 16)).turned((1.0, 2.0, 3.0), 33).shape, "askew")
    rows = upright_turn(solid)
    assert rows is not None
    matrix = np.array(rows)
    assert matrix @ matrix.T == pytest.approx(np.eye(3), abs=1e-9)
    assert np.linalg.det(matrix) == pytest.approx(1)


def test_rounded_block_has_the_volume_of_its_formula() -> None:
    solid = plain_solid(rounded_block((0, 0, 0), (30, 20, 5), 4).shape, "r")
    assert solid.volume == pytest.approx((30 * 20 - (4 - math.pi) * 16) * 5)
