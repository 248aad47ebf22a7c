"""Line drawings by exact hidden-line projection. Imports the CAD kernel."""

from __future__ import annotations

from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepLib import BRepLib
from OCP.GCPnts import GCPnts_TangentialDeflection
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.HLRAlgo import HLRAlgo_Projector
from OCP.HLRBRep import HLRBRep_Algo, HLRBRep_HLRToShape
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Shape

from lean_ledger.core.geometry.model import Drawing, Vec
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.geometry.views import axis_views, isometric_views


def standard_drawings(shape: TopoDS_Shape, report: Report = silent) -> tuple[Drawing, ...]:
    """The part seen along its six axes and isometrically above each of its six sides."""
    views = (*axis_views(), *isometric_views())
    drawings = []
    for i, (view, right) in enumerate(views):
        report("drawing", 0.55 + 0.4 * i / len(views))
        drawings.append(draw(shape, view, right))
    return tuple(drawings)


def draw(shape: TopoDS_Shape, view: Vec, right: Vec) -> Drawing:
    """Project along `view` with hidden lines apart.

    Visible lines are sharp edges and outlines; hidden lines are sharp edges only, which is what a drawing shows dashed.
    """
    algorithm = HLRBRep_Algo()
    algorithm.Add(shape)
    algorithm.Projector(HLRAlgo_Projector(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(*view), gp_Dir(*right))))
    algorithm.Update()
    algorithm.Hide()
    lines = HLRBRep_HLRToShape(algorithm)
    visible = [lines.VCompound(), lines.OutLineVCompound()]
    hidden = [lines.HCompound(), lines.OutLineHCompound()]
    return Drawing(view, right, _polylines(visible), _polylines(hidden))


def _polylines(compounds: list[Any]) -> tuple[tuple[tuple[float, float], ...], ...]:
    found: dict[tuple[tuple[float, float], ...], None] = {}
    for compound in compounds:
        if compound is None or compound.IsNull():
            continue
        BRepLib.BuildCurves3d_s(compound)
        edges = TopExp_Explorer(compound, TopAbs_ShapeEnum.TopAbs_EDGE)
        while edges.More():
            sampled = GCPnts_TangentialDeflection(BRepAdaptor_Curve(TopoDS.Edge(edges.Current())), 0.12, 0.03)
            line = tuple(
                (round(sampled.Value(i).X(), 3), round(sampled.Value(i).Y(), 3))
                for i in range(1, sampled.NbPoints() + 1)
            )
            if len(set(line)) > 1:
                found[line if line[0] <= line[-1] else line[::-1]] = None
            edges.Next()
    return tuple(sorted(found))
