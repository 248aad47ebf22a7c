"""Reading STEP files (ISO 10303-21) into plain solids. Imports the CAD kernel."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from OCP.BRep import BRep_Tool
from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.collections import DataMap_TCollection_AsciiString_TCollection_AsciiString as TextMap
from OCP.collections import Sequence_TCollection_AsciiString as NameSequence
from OCP.gp import gp_Trsf
from OCP.GProp import GProp_GProps
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Message import Message
from OCP.STEPControl import STEPControl_Reader
from OCP.TCollection import TCollection_AsciiString
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Shape

from lean_ledger.core.basis.errors import FileRefused
from lean_ledger.core.geometry.alignment import upright_turn
from lean_ledger.core.geometry.drawing import standard_drawings
from lean_ledger.core.geometry.model import Bend, Curve, PartModel, Solid, SolidEntry, Vec
from lean_ledger.core.geometry.plain import plain_bounds, plain_solid
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.geometry.step_text import Claimed, check_step_text, claimed_of, dangling, said

MOST_DRAWN = 300  # faces of which exact line drawings are made
MOST_WOUND = 400  # points along free curves, threads above all, that exact line drawings can stand
MESH_ERROR = 0.02  # share by which the volume of the triangles may differ: chords of round walls
SMALLEST, LARGEST = 0.05, 20_000.0  # mm of a part's longest side
MEETING = 0.05  # mm within which faces, edges and corners meet in a sound solid
MANY_FACES = 600  # beyond which wires are taken as they stand in the file

_UNIT_NAMES = {
    "millimetre": "mm",
    "millimeter": "mm",
    "mm": "mm",
    "centimetre": "cm",
    "centimeter": "cm",
    "metre": "m",
    "meter": "m",
    "m": "m",
    "inch": "inch",
    "in": "inch",
    "foot": "ft",
    "feet": "ft",
    "ft": "ft",
}


def loaded() -> None:
    """Called to have the kernel loaded before it is needed."""


def list_solids(path: Path, name: str, report: Report = silent) -> tuple[SolidEntry, ...]:
    """The solids of a STEP file with name, size and volume; raises as `read_solid` does."""
    return _open(path, name, report).entries


def read_part(path: Path, name: str, solid_index: int = 0, report: Report = silent) -> PartModel:
    """Read one solid of a STEP file for planning, with its standard drawings; raises as `read_solid` does.

    Exact drawings of many faces or of a thread take minutes: beyond MOST_DRAWN and MOST_WOUND there are none yet
    (`core.line_drawing`). A part that lies askew is turned along X, Y and Z by its own largest faces, as it would lie
    in a vise.
    """
    model, shape = _read(path, name, solid_index, report)
    turn = upright_turn(model.solid)
    if turn is not None:
        shape = _turned(shape, turn)
        model = replace(model, solid=plain_solid(shape, model.solid.name, report), aligned=True)
    wound = sum(len(edge.points) for edge in model.solid.edges if edge.curve == Curve.OTHER)
    if len(model.solid.faces) > MOST_DRAWN or wound > MOST_WOUND:
        return model
    return replace(model, drawings=standard_drawings(shape, report))


def read_solid(path: Path, name: str, solid_index: int = 0, report: Report = silent) -> PartModel:
    """Read one solid of a STEP file, without drawings.

    Raises FileRefused for a file that cannot be used (see `check_step_text`), has no solid (file-no-solid), or has no
    solid of that number (file-no-such-solid).
    """
    return _read(path, name, solid_index, report)[0]


@dataclass(frozen=True)
class _Opened:
    """A file's text and what the kernel makes of it. Where one solid fell apart, its largest piece comes first."""

    content: bytes
    reader: STEPControl_Reader
    solids: list[TopoDS_Shape]
    unit: str
    broken: str  # the first reference to nothing, in words

    @property
    def entries(self) -> tuple[SolidEntry, ...]:
        return tuple(_entry(self.reader, shape, i, len(self.solids)) for i, shape in enumerate(self.solids))


def _open(path: Path, name: str, report: Report) -> _Opened:
    report("reading the file", 0.0)
    content = path.read_bytes()
    check_step_text(name, content)
    faces = content.count(b"ADVANCED_FACE")
    Message.DefaultMessenger_s().ChangePrinters().Clear()  # the kernel would write to standard output
    reader = STEPControl_Reader()
    if reader.ReadFile(str(path)) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise FileRefused("file-unreadable", "the STEP text cannot be parsed; export the part again", name)
    unit_name = _length_unit(reader)
    if faces > MANY_FACES:
        reader.SetShapeFixParameters(_without_wire_checks())
    report("building the solid", 0.1)
    reader.TransferRoots()
    lost = dangling(content)
    if reader.NbShapes() == 0:
        words = f"{lost}; export the part again" if lost else "the file holds no shape; export the part as a solid"
        raise FileRefused("file-no-solid", words, name)
    solids = _solids(reader.OneShape())
    if not solids and lost:
        raise FileRefused("file-no-solid", f"no solid can be built: {lost}; export the part again", name)
    if not solids:
        raise FileRefused(
            "file-no-solid", "the file holds no solid, only surfaces or lines; export the part as a solid", name
        )
    if _fell_apart(claimed_of(content), solids):
        solids.sort(key=lambda shape: -_volume(shape))
    return _Opened(content, reader, solids, unit_name, lost)


def _fell_apart(claimed: Claimed, solids: Sequence[TopoDS_Shape]) -> bool:
    return not claimed.instances and 0 < claimed.solids < len(solids)


def _lost(claimed: Claimed, solids: Sequence[TopoDS_Shape]) -> tuple[str, ...]:
    """What the file describes and the solids that were read do not hold: a broken reference takes faces with it."""
    found = []
    if _fell_apart(claimed, solids):
        found.append(f"the file describes {claimed.solids} solid{'s' if claimed.solids > 1 else ''}, "
                     f"which fell apart into {len(solids)}; this is the largest piece")  # fmt: skip
    faces = sum(_count(shape, TopAbs_ShapeEnum.TopAbs_FACE) for shape in solids)
    if faces < claimed.faces:
        found.append(f"only {faces} of its {claimed.faces} faces are in a solid")
    return tuple(found)


def _count(shape: TopoDS_Shape, kind: TopAbs_ShapeEnum) -> int:
    found = 0
    explorer = TopExp_Explorer(shape, kind)
    while explorer.More():
        found += 1
        explorer.Next()
    return found


def _widest_tolerance(shape: TopoDS_Shape) -> float:
    """By how much edges and vertices may lie beside their faces: the kernel widens it until they meet, mm."""
    widest = 0.0
    for kind, cast in ((TopAbs_ShapeEnum.TopAbs_VERTEX, TopoDS.Vertex), (TopAbs_ShapeEnum.TopAbs_EDGE, TopoDS.Edge)):
        explorer = TopExp_Explorer(shape, kind)
        while explorer.More():
            widest = max(widest, BRep_Tool.Tolerance_s(cast(explorer.Current())))
            explorer.Next()
    return widest


def _volume(shape: TopoDS_Shape) -> float:
    props = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, props)
    volume: float = abs(props.Mass())
    return volume


def _read(path: Path, name: str, solid_index: int, report: Report) -> tuple[PartModel, TopoDS_Shape]:
    opened = _open(path, name, report)
    solids = opened.solids
    if not 0 <= solid_index < len(solids):
        raise FileRefused(
            "file-no-such-solid",
            f"there is no solid {solid_index}; the file has {len(solids)}, numbered from 0",
            name,
        )
    shape = solids[solid_index]
    longest = max(plain_bounds(shape).size)
    if not SMALLEST <= longest <= LARGEST:
        shown = f"{longest / 1000:.6g} m" if longest > LARGEST else f"{longest:.3g} mm"
        raise FileRefused(
            "size-impossible",
            f"the part's longest side is {shown}; parts from {SMALLEST:g} mm to {LARGEST / 1000:g} m are planned. "
            f"Lengths are in {opened.unit} by this file: check its unit and export it again",
            name,
        )
    solid = plain_solid(shape, Path(name).stem, report)
    if solid.volume <= 0 or not solid.faces:
        raise FileRefused("file-no-solid", "the solid in the file encloses no volume; export the part again", name)
    broken = [opened.broken] if opened.broken else []
    doubts = (*broken, *_lost(claimed_of(opened.content), solids), *_doubts(shape, solid))
    model = PartModel(
        name, opened.unit, len(solids), solid_index, solid, (), entries=opened.entries, doubts=doubts,
        left_out=said(opened.content),
    )  # fmt: skip
    return model, shape


def _doubts(shape: TopoDS_Shape, solid: Solid) -> tuple[str, ...]:
    """What is wrong with a solid that was read all the same."""
    found: list[str] = []
    if len(solid.faces) <= MANY_FACES and not BRepCheck_Analyzer(shape).IsValid():
        found.append("faces cross one another or do not meet along their edges")
    wide = _widest_tolerance(shape)
    if wide > MEETING:
        found.append(f"edges and corners are up to {wide:.2f} mm beside their faces")
    if any(len(edge.faces) < 2 and edge.bend != Bend.SEAM for edge in solid.edges):
        found.append("the surface has gaps")
    enclosed = solid.mesh.volume
    if abs(enclosed - solid.volume) > MESH_ERROR * max(enclosed, solid.volume):
        found.append(f"its triangles enclose {enclosed:.0f} mm³, its faces {solid.volume:.0f} mm³")
    return tuple(found)


def _entry(reader: STEPControl_Reader, shape: TopoDS_Shape, index: int, count: int) -> SolidEntry:
    name = _name(reader, shape)
    return SolidEntry(name or (f"solid {index}" if count > 1 else ""), plain_bounds(shape).size, _volume(shape))


def _name(reader: STEPControl_Reader, shape: TopoDS_Shape) -> str:
    """The name that the file gives a solid: its own, or that of the part whose instance it is."""
    entity = reader.WS().TransferReader().EntityFromShapeResult(shape, 1)
    if hasattr(entity, "RelatedProductDefinition"):
        product = entity.RelatedProductDefinition().Formation().OfProduct()
        return _text(product.Name()) or _text(entity.Name())
    return _text(entity.Name()) if hasattr(entity, "Name") else ""


def _text(word: Any) -> str:
    return str(word.ToCString()).strip() if word is not None else ""


def _turned(shape: TopoDS_Shape, rows: tuple[Vec, Vec, Vec]) -> TopoDS_Shape:
    turn = gp_Trsf()
    (a, b, c), (d, e, f), (g, h, i) = rows
    turn.SetValues(a, b, c, 0, d, e, f, 0, g, h, i, 0)
    return BRepBuilderAPI_Transform(shape, turn, True).Shape()


def _without_wire_checks() -> TextMap:
    """Every wire of a face against every other: a mending that grows with the square of a plate's holes."""
    parameters = TextMap()
    for mode in ("FixSelfIntersectionMode", "FixIntersectingWiresMode"):
        parameters.Bind(TCollection_AsciiString(f"FixShape.{mode}"), TCollection_AsciiString("0"))
    return parameters


def _length_unit(reader: STEPControl_Reader) -> str:
    lengths, angles, solid_angles = NameSequence(), NameSequence(), NameSequence()
    reader.FileUnits(lengths, angles, solid_angles)
    if lengths.Length() == 0:
        return "mm"
    name = lengths.Value(1).ToCString().lower()
    return str(_UNIT_NAMES.get(name, name))


def _solids(shape: TopoDS_Shape) -> list[TopoDS_Shape]:
    found = []
    explorer = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_SOLID)
    while explorer.More():
        found.append(explorer.Current())
        explorer.Next()
    return found
