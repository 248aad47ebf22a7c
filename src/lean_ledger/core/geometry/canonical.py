"""What a face or an edge is, whatever an exporter wrote it as: free-form descriptions of planes, cylinders, cones,
spheres, lines and circles are taken for what they are. Imports the CAD kernel.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_SurfaceType
from OCP.gp import gp_Circ, gp_Cone, gp_Cylinder, gp_Lin, gp_Pln, gp_Sphere
from OCP.ShapeAnalysis import ShapeAnalysis_CanonicalRecognition

from lean_ledger.core.geometry.model import Curve, Surface, Vec

TOLERANCE = 2e-4  # mm that a free form may stray from the form it is taken for

_SURFACES = {
    GeomAbs_SurfaceType.GeomAbs_Plane: Surface.PLANE,
    GeomAbs_SurfaceType.GeomAbs_Cylinder: Surface.CYLINDER,
    GeomAbs_SurfaceType.GeomAbs_Cone: Surface.CONE,
    GeomAbs_SurfaceType.GeomAbs_Sphere: Surface.SPHERE,
    GeomAbs_SurfaceType.GeomAbs_Torus: Surface.TORUS,
    GeomAbs_SurfaceType.GeomAbs_SurfaceOfRevolution: Surface.REVOLUTION,
}


@dataclass(frozen=True)
class CanonicalSurface:
    """`origin` and `axis` as in `model.Face`, the axis' sign as the kernel has it; `exact` where the file says so."""

    surface: Surface
    origin: Vec = (0.0, 0.0, 0.0)
    axis: Vec = (0.0, 0.0, 1.0)
    radius: float = 0.0
    major: float = 0.0
    half_angle: float = 0.0
    exact: bool = True


@dataclass(frozen=True)
class CanonicalCurve:
    curve: Curve
    center: Vec | None = None
    axis: Vec | None = None
    radius: float = 0.0


def surface_of(face: Any, adaptor: BRepAdaptor_Surface) -> CanonicalSurface:
    """What kind of surface a face lies on, with its measures."""
    kind = _SURFACES.get(adaptor.GetType(), Surface.OTHER)
    if kind in (Surface.OTHER, Surface.REVOLUTION):
        found = _recognised_surface(face)
        if found is not None:
            return found
    if kind == Surface.REVOLUTION:
        axis = adaptor.AxeOfRevolution()
        return CanonicalSurface(kind, _xyz(axis.Location()), _xyz(axis.Direction()))
    if kind == Surface.OTHER:
        return CanonicalSurface(kind)
    read = {
        Surface.PLANE: adaptor.Plane,
        Surface.CYLINDER: adaptor.Cylinder,
        Surface.CONE: adaptor.Cone,
        Surface.SPHERE: adaptor.Sphere,
        Surface.TORUS: adaptor.Torus,
    }[kind]
    return _measured(kind, read(), exact=True)


def _recognised_surface(face: Any) -> CanonicalSurface | None:
    reader = ShapeAnalysis_CanonicalRecognition(face)
    plane, cylinder, cone, sphere = gp_Pln(), gp_Cylinder(), gp_Cone(), gp_Sphere()
    if reader.IsPlane(TOLERANCE, plane):
        return _measured(Surface.PLANE, plane, exact=False)
    if reader.IsCylinder(TOLERANCE, cylinder):
        return _measured(Surface.CYLINDER, cylinder, exact=False)
    if reader.IsCone(TOLERANCE, cone):
        return _measured(Surface.CONE, cone, exact=False)
    if reader.IsSphere(TOLERANCE, sphere):
        return _measured(Surface.SPHERE, sphere, exact=False)
    return None


def _measured(kind: Surface, form: Any, *, exact: bool) -> CanonicalSurface:
    origin = form.Apex() if kind == Surface.CONE else form.Location()
    radius, major, half_angle = 0.0, 0.0, 0.0
    if kind == Surface.TORUS:
        radius, major = form.MinorRadius(), form.MajorRadius()
    elif kind in (Surface.CYLINDER, Surface.SPHERE):
        radius = form.Radius()
    elif kind == Surface.CONE:
        half_angle = abs(form.SemiAngle())
    axis = _xyz(form.Position().Direction())
    return CanonicalSurface(kind, _xyz(origin), axis, radius, major, half_angle, exact)


def curve_of(edge: Any, adaptor: BRepAdaptor_Curve) -> CanonicalCurve:
    """What kind of curve an edge is."""
    kind = adaptor.GetType()
    if kind == GeomAbs_CurveType.GeomAbs_Line:
        return CanonicalCurve(Curve.LINE)
    if kind == GeomAbs_CurveType.GeomAbs_Circle:
        return _circle(adaptor.Circle())
    reader = ShapeAnalysis_CanonicalRecognition(edge)
    line, circle = gp_Lin(), gp_Circ()
    if reader.IsLine(TOLERANCE, line):
        return CanonicalCurve(Curve.LINE)
    if reader.IsCircle(TOLERANCE, circle):
        return _circle(circle)
    return CanonicalCurve(Curve.OTHER)


def _circle(circle: Any) -> CanonicalCurve:
    return CanonicalCurve(Curve.CIRCLE, _xyz(circle.Location()), _xyz(circle.Axis().Direction()), circle.Radius())


def _xyz(p: Any) -> Vec:
    return (p.X(), p.Y(), p.Z())
