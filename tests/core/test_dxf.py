"""Flat work: a drawing's closed outlines become a plate that goes the same way as any model."""

from __future__ import annotations

from math import pi
from pathlib import Path

import ezdxf
import pytest

from lean_ledger.core.basis.errors import FileRefused
from lean_ledger.core.features import Contour, Hole, Pocket, Slot, recognise
from lean_ledger.core.geometry.dxf import plates_of_dxf
from lean_ledger.core.geometry.model import Solid
from lean_ledger.core.geometry.step import list_solids, read_solid

Drawing = ezdxf.document.Drawing


def drawing(units: int = 4) -> Drawing:
    made = ezdxf.new()
    made.header["$INSUNITS"] = units
    return made


def outline(made: Drawing, width: float = 100, height: float = 60, x: float = 0) -> None:
    corners = [(x, 0), (x + width, 0), (x + width, height), (x, height)]
    made.modelspace().add_lwpolyline(corners, close=True, dxfattribs={"layer": "OUTLINE"})


def solid_of(made: Drawing, tmp_path: Path, thickness: float = 6.0) -> Solid:
    made.saveas(tmp_path / "flat.dxf")
    plates_of_dxf(tmp_path / "flat.dxf", "flat.dxf", thickness, tmp_path / "flat.step")
    return read_solid(tmp_path / "flat.step", "flat.step").solid


def test_outline_with_holes_and_a_slot_becomes_a_plate(tmp_path: Path) -> None:
    made = drawing()
    space = made.modelspace()
    # one corner rounded with R10: bulge tan(90°/4) = 0.41421356
    space.add_lwpolyline(
        [(0, 0, 0), (100, 0, 0), (100, 50, 0.41421356), (90, 60, 0), (0, 60, 0)], format="xyb", close=True
    )
    space.add_circle((20, 20), 4)
    for y in (26, 34):
        space.add_line((40, y), (60, y))
    space.add_arc((40, 30), 4, 90, 270)
    space.add_arc((60, 30), 4, 270, 90)
    solid = solid_of(made, tmp_path)
    # 100·60 less the corner (100 − π·100/4), the hole π·16 and the slot 20·8 + π·16, times 6
    assert solid.volume == pytest.approx(6 * (6000 - (100 - 25 * pi) - 16 * pi - (160 + 16 * pi)), rel=1e-6)
    features = recognise(solid).features
    (hole,) = [f for f in features if isinstance(f, Hole)]
    (slot,) = [f for f in features if isinstance(f, Slot)]
    assert (hole.diameter, hole.depth, hole.through) == (8, 6, True)
    assert (slot.width, slot.length, slot.through) == (8, 28, True)
    assert sum(isinstance(f, Contour) for f in features) == 1


def test_layer_says_how_deep_its_outlines_are_cut(tmp_path: Path) -> None:
    made = drawing()
    outline(made)
    space = made.modelspace()
    deep = {"layer": "POCKETS deep 2.5"}
    space.add_lwpolyline([(10, 10), (50, 10), (50, 50), (10, 50)], close=True, dxfattribs=deep)
    space.add_circle((30, 30), 5, dxfattribs=deep)
    space.add_circle((80, 30), 4, dxfattribs={"layer": "SEATS_depth_3"})
    space.add_circle((90, 50), 2, dxfattribs={"layer": "HOLES 3"})
    solid = solid_of(made, tmp_path)
    # 100·60·6, less the pocket (40² − 25π)·2.5, the seat 16π·3 and the hole through 4π·6
    assert solid.volume == pytest.approx(36000 - (1600 - 25 * pi) * 2.5 - 48 * pi - 24 * pi, rel=1e-6)
    features = recognise(solid).features
    (pocket,) = [f for f in features if isinstance(f, Pocket)]
    assert (pocket.depth, pocket.islands, pocket.through) == (2.5, 1, False)
    assert sorted((f.diameter, f.depth, f.through) for f in features if isinstance(f, Hole)) == [
        (4, 6, True),
        (8, 3, False),
    ]


def test_layer_deeper_than_the_plate_is_refused(tmp_path: Path) -> None:
    made = drawing()
    outline(made)
    made.modelspace().add_circle((80, 30), 4, dxfattribs={"layer": "seats deep 9"})
    with pytest.raises(FileRefused, match=r"asks for 9 mm, the plate is 6 mm thick") as refused:
        solid_of(made, tmp_path)
    assert refused.value.place == "flat.dxf, layer seats deep 9"


def test_gap_on_a_layer_with_a_depth_is_named(tmp_path: Path) -> None:
    made = drawing()
    outline(made)
    made.modelspace().add_lwpolyline([(10, 10), (50, 10), (50, 50)], dxfattribs={"layer": "pocket deep 2"})
    with pytest.raises(FileRefused, match=r"join the ends"):
        solid_of(made, tmp_path)


def test_layers_that_are_off_or_frozen_are_left_out(tmp_path: Path) -> None:
    made = drawing()
    outline(made)
    made.layers.add("CLAMPS").off()
    made.layers.add("FRAME").freeze()
    made.modelspace().add_circle((80, 30), 4, dxfattribs={"layer": "CLAMPS"})
    outline_of_frame = [(-50, -50), (200, -50), (200, 150), (-50, 150)]
    made.modelspace().add_lwpolyline(outline_of_frame, close=True, dxfattribs={"layer": "FRAME"})
    assert solid_of(made, tmp_path).volume == pytest.approx(36000)


@pytest.mark.parametrize(("units", "factor"), [(0, 1), (1, 25.4), (4, 1), (5, 10), (6, 1000)])
def test_lengths_follow_the_unit_of_the_drawing(tmp_path: Path, units: int, factor: float) -> None:
    made = drawing(units)
    outline(made, 2, 1)
    assert solid_of(made, tmp_path, 1.0).bounds.size == pytest.approx((2 * factor, factor, 1.0))


def test_two_outlines_are_two_solids_and_one_within_a_hole_is_one_too(tmp_path: Path) -> None:
    made = drawing()
    outline(made)
    outline(made, 30, 30, x=200)
    made.modelspace().add_circle((50, 30), 20)
    made.modelspace().add_circle((50, 30), 8)
    made.saveas(tmp_path / "flat.dxf")
    layers = plates_of_dxf(tmp_path / "flat.dxf", "flat.dxf", 5, tmp_path / "flat.step")
    volumes = sorted(entry.volume for entry in list_solids(tmp_path / "flat.step", "flat.step"))
    assert layers == ("0", "OUTLINE")
    assert volumes == pytest.approx(sorted([5 * (6000 - 400 * pi), 5 * 900, 5 * 64 * pi]))


def test_lines_join_where_their_ends_nearly_meet(tmp_path: Path) -> None:
    made = drawing()
    for a, b in (((0, 0), (50, 0.01)), ((50, 0), (50, 30)), ((0, 30), (50, 30)), ((0, 30), (0.01, 0))):
        made.modelspace().add_line(a, b)
    assert solid_of(made, tmp_path, 4.0).volume == pytest.approx(50 * 30 * 4, rel=1e-3)


def test_spline_and_ellipse_are_followed(tmp_path: Path) -> None:
    made = drawing()
    made.modelspace().add_ellipse((0, 0), major_axis=(30, 0), ratio=0.5)
    assert solid_of(made, tmp_path, 10.0).volume == pytest.approx(pi * 30 * 15 * 10, rel=2e-3)


def test_open_outline_names_the_gap(tmp_path: Path) -> None:
    made = drawing()
    made.modelspace().add_lwpolyline([(0, 0), (50, 0), (50, 30), (0, 30), (0, 0.4)])
    made.saveas(tmp_path / "open.dxf")
    with pytest.raises(FileRefused, match=r"no outline is closed: at X 0\.000 Y 0\.\d00.* 0\.400 mm from") as refusal:
        plates_of_dxf(tmp_path / "open.dxf", "open.dxf", 6, tmp_path / "out.step")
    assert refusal.value.code == "file-no-outline"


@pytest.mark.parametrize(
    ("content", "thickness", "words"),
    [
        (b"Dear workshop,\nplease find the part attached.\n", 6, "not a DXF drawing"),
        (b"", 6, "not a DXF drawing"),
        (None, 0, "a thickness of 0 mm"),
        (None, 900, "a thickness of 900 mm"),
    ],
)
def test_what_is_no_flat_work_is_refused(tmp_path: Path, content: bytes | None, thickness: float, words: str) -> None:
    path = tmp_path / "bad.dxf"
    if content is None:
        made = drawing()
        outline(made)
        made.saveas(path)
    else:
        path.write_bytes(content)
    with pytest.raises(FileRefused, match=words):
        plates_of_dxf(path, "bad.dxf", thickness, tmp_path / "out.step")


def test_empty_drawing_says_where_the_outline_belongs(tmp_path: Path) -> None:
    made = drawing()
    made.saveas(tmp_path / "empty.dxf")
    with pytest.raises(FileRefused, match="model space"):
        plates_of_dxf(tmp_path / "empty.dxf", "empty.dxf", 6, tmp_path / "out.step")


def refused(made: Drawing, tmp_path: Path) -> FileRefused:
    with pytest.raises(FileRefused) as found:
        solid_of(made, tmp_path)
    return found.value


def left_out(made: Drawing, tmp_path: Path) -> tuple[str, ...]:
    solid_of(made, tmp_path)
    return read_solid(tmp_path / "flat.step", "flat.step").left_out


@pytest.mark.parametrize(("circles", "place"), [
    ([(30, 30, 5), (35, 30, 5)], "at X 32.500 Y 25.670"),  # 2.5 from each centre, √(25 − 6.25) = 4.33 down
    ([(100, 30, 5)], "at X 100.000 Y 25.000"),
    ([(10, 30, 10)], "at X 0.000 Y 30.000"),
])  # fmt: skip
def test_outlines_that_cross_or_touch_are_refused_with_the_place(
    tmp_path: Path, circles: list[tuple[float, float, float]], place: str
) -> None:
    made = drawing()
    outline(made)
    for x, y, r in circles:
        made.modelspace().add_circle((x, y), r)
    found = refused(made, tmp_path)
    assert found.code == "outlines-cross"
    assert place in found.message


def test_outline_that_crosses_itself_is_refused(tmp_path: Path) -> None:
    made = drawing()
    outline(made)
    made.modelspace().add_lwpolyline([(10, 10), (30, 30), (30, 10), (10, 30)], close=True)
    assert refused(made, tmp_path).code == "outline-crossed"


def test_depth_outside_of_every_plate_is_refused_and_one_over_the_edge_is_cut(tmp_path: Path) -> None:
    made = drawing()
    outline(made)
    made.modelspace().add_circle((100, 30), 5, dxfattribs={"layer": "seat deep 2"})
    # half a circle of r 5, 2 deep: 25π/2 · 2
    assert solid_of(made, tmp_path).volume == pytest.approx(36000 - 25 * pi, rel=1e-6)
    made.modelspace().add_circle((150, 30), 5, dxfattribs={"layer": "seat deep 2"})
    found = refused(made, tmp_path)
    assert found.code == "outline-outside"
    assert "X 155.000 Y 30.000" in found.message


def test_what_is_not_in_the_part_is_listed_with_its_place(tmp_path: Path) -> None:
    made = drawing()
    outline(made)
    space = made.modelspace()
    space.add_circle((30, 30), 5)
    space.add_circle((30, 30), 5)
    space.add_line((10, 10), (20, 20))
    space.add_3dface([(0, 0), (4, 0), (4, 2)])
    space.add_text("A note that is no geometry")
    made.layers.add("FRAME").freeze()
    space.add_circle((80, 30), 4, dxfattribs={"layer": "FRAME"})
    found = left_out(made, tmp_path)
    assert [one.split(" at X")[0] for one in found] == [
        "3DFACE on layer 0", "1 on layer FRAME, which is off or frozen", "an outline drawn twice",
        "an open line that ends",
    ]  # fmt: skip
    assert "X 35.000 Y 30.000" in found[2]


def test_drawing_without_anything_left_out_says_nothing(tmp_path: Path) -> None:
    made = drawing()
    outline(made)
    assert left_out(made, tmp_path) == ()


def test_unit_that_is_not_known_is_refused(tmp_path: Path) -> None:
    made = drawing(17)
    outline(made)
    assert refused(made, tmp_path).code == "file-unit"


def test_refusal_names_the_drawing_and_no_folder(tmp_path: Path) -> None:
    path = tmp_path / "drawing.dxf"
    path.write_bytes(b"0\nSECTION\n2\nHEADER\nnonsense")
    with pytest.raises(FileRefused) as found:
        plates_of_dxf(path, "flat.dxf", 6, tmp_path / "out.step")
    assert str(tmp_path) not in str(found.value)
    assert "drawing.dxf" not in str(found.value)
