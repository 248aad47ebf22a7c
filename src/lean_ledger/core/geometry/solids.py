"""Building simple solids and writing them as STEP, for demo parts and tests. Imports the CAD kernel."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import radians, tan
from pathlib import Path
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakePolygon, BRepBuilderAPI_Transform
from OCP.BRepFilletAPI import BRepFilletAPI_MakeChamfer, BRepFilletAPI_MakeFillet
from OCP.BRepPrimAPI import (
    BRepPrimAPI_MakeBox,
    BRepPrimAPI_MakeCone,
    BRepPrimAPI_MakeCylinder,
    BRepPrimAPI_MakePrism,
    BRepPrimAPI_MakeRevol,
)
from OCP.gp import gp_Ax1, gp_Ax2, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Interface import Interface_Static
from OCP.Message import Message
from OCP.ShapeUpgrade import ShapeUpgrade_UnifySameDomain
from OCP.STEPControl import STEPControl_StepModelType, STEPControl_Writer
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS

from lean_ledger.core.geometry.model import Vec

EdgeTest = Callable[[Vec, Vec], bool]  # of an edge's two end points


@dataclass(frozen=True)
class Body:
    """A kernel solid with the operations that parts are made of; every one returns a new body."""

    shape: Any

    def __sub__(self, other: Body) -> Body:
        return Body(BRepAlgoAPI_Cut(self.shape, other.shape).Shape())

    def __add__(self, other: Body) -> Body:
        joined = ShapeUpgrade_UnifySameDomain(BRepAlgoAPI_Fuse(self.shape, other.shape).Shape())
        joined.Build()
        return Body(joined.Shape())

    def chamfered(self, size: float, of: EdgeTest) -> Body:
        maker = BRepFilletAPI_MakeChamfer(self.shape)
        for edge in self._edges(of):
            maker.Add(size, edge)
        return Body(maker.Shape())

    def rounded(self, radius: float, of: EdgeTest) -> Body:
        maker = BRepFilletAPI_MakeFillet(self.shape)
        for edge in self._edges(of):
            maker.Add(radius, edge)
        return Body(maker.Shape())

    def moved(self, by: Vec) -> Body:
        move = gp_Trsf()
        move.SetTranslation(gp_Vec(*by))
        return Body(BRepBuilderAPI_Transform(self.shape, move, True).Shape())

    def turned(self, axis: Vec, degrees: float) -> Body:
        """Turned about an axis through the origin."""
        turn = gp_Trsf()
        turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(*axis)), radians(degrees))
        return Body(BRepBuilderAPI_Transform(self.shape, turn, True).Shape())

    def _edges(self, of: EdgeTest) -> list[Any]:
        found: list[Any] = []
        explorer = TopExp_Explorer(self.shape, TopAbs_ShapeEnum.TopAbs_EDGE)
        while explorer.More():
            edge = TopoDS.Edge(explorer.Current())
            curve = BRepAdaptor_Curve(edge)
            a, b = curve.Value(curve.FirstParameter()), curve.Value(curve.LastParameter())
            if of((a.X(), a.Y(), a.Z()), (b.X(), b.Y(), b.Z())) and not any(edge.IsSame(e) for e in found):
                found.append(edge)
            explorer.Next()
        return found


def block(low: Vec, high: Vec) -> Body:
    return Body(BRepPrimAPI_MakeBox(gp_Pnt(*low), gp_Pnt(*high)).Shape())


def rounded_block(low: Vec, high: Vec, radius: float) -> Body:
    """A block with its upright edges rounded."""
    return block(low, high).rounded(radius, upright)


def upright(a: Vec, b: Vec) -> bool:
    return abs(a[0] - b[0]) < 1e-6 and abs(a[1] - b[1]) < 1e-6


def at_level(z: float) -> EdgeTest:
    return lambda a, b: abs(a[2] - z) < 1e-6 and abs(b[2] - z) < 1e-6


def rod(base: Vec, axis: Vec, diameter: float, length: float) -> Body:
    frame = gp_Ax2(gp_Pnt(*base), gp_Dir(*axis))
    return Body(BRepPrimAPI_MakeCylinder(frame, diameter / 2, length).Shape())


def cone(base: Vec, axis: Vec, diameter: float, end_diameter: float, length: float) -> Body:
    frame = gp_Ax2(gp_Pnt(*base), gp_Dir(*axis))
    return Body(BRepPrimAPI_MakeCone(frame, diameter / 2, end_diameter / 2, length).Shape())


def obround(center: Vec, length: float, width: float, depth: float) -> Body:
    """An upright block with half-round ends along x, its top at the centre's level."""
    x, y, z = center
    low = (x - length / 2, y - width / 2, z - depth)
    # a shade under half the width: the kernel rounds no edge away entirely
    core = block((low[0] + width / 2, low[1], low[2]), (x + length / 2 - width / 2, y + width / 2, z))
    ends = [rod((x + s * (length - width) / 2, y, z - depth), (0, 0, 1), width, depth) for s in (-1, 1)]
    return core + ends[0] + ends[1]


def prism(outline: Sequence[tuple[float, float]], low: float, high: float) -> Body:
    """A straight prism over a polygon in X and Y, between two levels of Z."""
    maker = BRepBuilderAPI_MakePolygon()
    for x, y in outline:
        maker.Add(gp_Pnt(x, y, low))
    maker.Close()
    face = BRepBuilderAPI_MakeFace(maker.Wire()).Face()
    return Body(BRepPrimAPI_MakePrism(face, gp_Vec(0, 0, high - low)).Shape())


def revolved(profile: Sequence[tuple[float, float]]) -> Body:
    """A closed profile of (radius, z) points, turned about Z."""
    maker = BRepBuilderAPI_MakePolygon()
    for radius, z in profile:
        maker.Add(gp_Pnt(radius, 0, z))
    maker.Close()
    face = BRepBuilderAPI_MakeFace(maker.Wire()).Face()
    return Body(BRepPrimAPI_MakeRevol(face, gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))).Shape())


def drilled(entry: Vec, into: Vec, diameter: float, depth: float, tip_angle: float = 118.0) -> Body:
    """The body of a blind hole with a drill's tip."""
    tip = diameter / 2 / tan(radians(tip_angle / 2))
    end = tuple(e + depth * d for e, d in zip(entry, into, strict=True))
    return rod(entry, into, diameter, depth) + cone(end, into, diameter, 0.0, tip)  # type: ignore[arg-type]


def countersunk(entry: Vec, into: Vec, diameter: float, head: float, depth: float, angle: float = 90.0) -> Body:
    """The body of a through hole with a conical head."""
    sink = (head - diameter) / 2 / tan(radians(angle / 2))
    return rod(entry, into, diameter, depth) + cone(entry, into, head, diameter, sink)


def write_step(body: Body, path: Path, name: str, unit: str = "MM") -> None:
    """Write as AP214 in mm or inch ('INCH'), with a fixed date, so that the same part gives the same file."""
    Message.DefaultMessenger_s().ChangePrinters().Clear()
    writer = STEPControl_Writer()
    Interface_Static.SetCVal_s("write.step.unit", unit)
    Interface_Static.SetCVal_s("write.step.product.name", name)
    writer.Transfer(body.shape, STEPControl_StepModelType.STEPControl_AsIs)
    if writer.Write(str(path)) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise OSError(f"cannot write {path}")
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    text = path.read_text(encoding="utf-8")
    text = re.sub(r"'\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d'", "'2026-01-01T00:00:00'", text)
    text = re.sub(rf"'{re.escape(name)} \d+'", f"'{name}'", text)  # the writer counts its calls
    # and folds a line after the count's last digit
    text = re.sub(r"= PRODUCT\([^;]*;", lambda found: re.sub(r"\n *", "", found[0]), text)
    path.write_text(text, encoding="utf-8")
