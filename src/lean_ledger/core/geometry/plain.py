"""Turning a kernel solid into plain data: faces, edges with their bend, mesh. Imports the CAD kernel."""

from __future__ import annotations

import itertools
import math
from dataclasses import replace
from typing import Any

from OCP.Bnd import Bnd_Box
from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Curve2d, BRepAdaptor_Surface
from OCP.BRepBndLib import BRepBndLib
from OCP.BRepGProp import BRepGProp
from OCP.BRepLProp import BRepLProp_SLProps
from OCP.BRepTools import BRepTools, BRepTools_WireExplorer
from OCP.collections import IndexedMap_TopoDS_Shape_TopTools_ShapeMapHasher as ShapeMap
from OCP.GCPnts import GCPnts_TangentialDeflection
from OCP.GProp import GProp_GProps
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopExp import TopExp, TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Shape

from lean_ledger.core.geometry.canonical import CanonicalSurface, curve_of, surface_of
from lean_ledger.core.geometry.meshing import mesh_nodes, mesh_of
from lean_ledger.core.geometry.model import Bend, Bounds, Edge, Face, Loop, Solid, Surface, Vec
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.geometry.vectors import cross, dot, neg, norm, scale, sub, unit

ARC_ANGLE = math.radians(3.75)
ARC_SAG = 0.02
SMOOTH_ANGLE = math.radians(1.0)
WIDEST_STEP = 0.6  # rad between the mesh nodes of a face that goes all round


def plain_solid(shape: TopoDS_Shape, name: str, report: Report = silent) -> Solid:
    """Turn a kernel solid into plain data, with its mesh."""
    face_map, edge_map = ShapeMap(), ShapeMap()
    TopExp.MapShapes_s(shape, TopAbs_ShapeEnum.TopAbs_FACE, face_map)
    TopExp.MapShapes_s(shape, TopAbs_ShapeEnum.TopAbs_EDGE, edge_map)
    faces = [_KernelFace(TopoDS.Face(face_map.FindKey(i))) for i in range(1, face_map.Extent() + 1)]
    edges: list[Any] = [TopoDS.Edge(edge_map.FindKey(i)) for i in range(1, edge_map.Extent() + 1)]
    edge_numbers = _real_edges(edges)
    report("meshing", 0.3)
    mesh = mesh_of(shape, [face.shape for face in faces])
    owners: list[list[int]] = [[] for _ in edges]
    turned: list[set[int]] = [set() for _ in faces]
    for number, face in enumerate(faces):
        for kernel_index, backwards in _edges_of(face.shape, edge_map):
            owners[kernel_index].append(number)
            if backwards:
                turned[number].add(kernel_index)
    report("reading the faces", 0.4)
    plain_edges = []
    for kernel_index, number in sorted(edge_numbers.items(), key=lambda pair: pair[1]):
        edge = edges[kernel_index]
        plain_edges.append(_plain_edge(number, edge, kernel_index, owners[kernel_index], faces, turned))
    plain_faces = tuple(
        _wound(_plain_face(i, face, edge_map, edge_numbers), plain_edges) for i, face in enumerate(faces)
    )
    volume, area = GProp_GProps(), GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, volume)
    BRepGProp.SurfaceProperties_s(shape, area)
    return Solid(
        name=name,
        bounds=plain_bounds(shape),
        volume=abs(volume.Mass()),
        area=area.Mass(),
        faces=plain_faces,
        edges=tuple(plain_edges),
        mesh=mesh,
    )


def plain_bounds(shape: TopoDS_Shape) -> Bounds:
    box = Bnd_Box()
    BRepBndLib.AddOptimal_s(shape, box, False, False)
    return Bounds(_round(_xyz(box.CornerMin())), _round(_xyz(box.CornerMax())))


def _round(v: Vec) -> Vec:
    """Take off the kernel's noise in the last digits; a nanometre is far below any tolerance here."""
    return (round(v[0], 6) + 0.0, round(v[1], 6) + 0.0, round(v[2], 6) + 0.0)


class _KernelFace:
    """A face with its surface at hand: an adaptor that knew the face's borders would read them all each time."""

    def __init__(self, shape: Any) -> None:
        self.shape = shape
        self.surface = BRepAdaptor_Surface(shape, False)
        self.reversed = shape.Orientation() == TopAbs_Orientation.TopAbs_REVERSED

    def outward(self, u: float, v: float) -> Vec:
        """Unit normal out of the material."""
        props = BRepLProp_SLProps(self.surface, u, v, 1, 1e-9)
        if not props.IsNormalDefined():
            return (0.0, 0.0, 1.0)
        normal = _xyz(props.Normal())
        return neg(normal) if self.reversed else normal


def _real_edges(edges: list[Any]) -> dict[int, int]:
    """Number the edges that are curves; degenerate ones (the tip of a cone) have no length and are left out."""
    real = [i for i, edge in enumerate(edges) if not BRep_Tool.Degenerated_s(edge)]
    return {kernel_index: number for number, kernel_index in enumerate(real)}


def _xyz(p: Any) -> Vec:
    return (p.X(), p.Y(), p.Z())


def _edges_of(face: Any, edge_map: ShapeMap) -> list[tuple[int, bool]]:
    """The edges that a face walks, and whether it walks them against their own direction."""
    found = []
    explorer = TopExp_Explorer(face, TopAbs_ShapeEnum.TopAbs_EDGE)
    while explorer.More():
        edge = explorer.Current()
        found.append((edge_map.FindIndex(edge) - 1, edge.Orientation() == TopAbs_Orientation.TopAbs_REVERSED))
        explorer.Next()
    return found


def _plain_edge(
    number: int, edge: Any, kernel_index: int, owners: list[int], faces: list[_KernelFace], turned: list[set[int]]
) -> Edge:
    curve = BRepAdaptor_Curve(edge)
    sampled = GCPnts_TangentialDeflection(curve, ARC_ANGLE, ARC_SAG)
    points = tuple(_round(_xyz(sampled.Value(i))) for i in range(1, sampled.NbPoints() + 1))
    form = curve_of(edge, curve)
    center = _round(form.center) if form.center is not None else None
    props = GProp_GProps()
    BRepGProp.LinearProperties_s(edge, props)
    unique = tuple(dict.fromkeys(owners))
    bend = Bend.SEAM
    if len(unique) == 2:
        backwards = kernel_index in turned[unique[0]]
        bend = _bend(edge, faces[unique[0]], faces[unique[1]], backwards=backwards)
    return Edge(number, form.curve, points, props.Mass(), bend, unique, center, form.axis, form.radius)


def _bend(edge: Any, first: _KernelFace, second: _KernelFace, *, backwards: bool) -> Bend:
    """Sign of (n1 × n2) · t, t along the edge with the first face's material on its left."""
    curve = BRepAdaptor_Curve(edge)
    middle = (curve.FirstParameter() + curve.LastParameter()) / 2
    tangent = curve.DN(middle, 1)
    t = unit((tangent.X(), tangent.Y(), tangent.Z()))
    if backwards:
        t = neg(t)
    n1, n2 = _normal_on_edge(edge, first, middle), _normal_on_edge(edge, second, middle)
    turn = cross(n1, n2)
    if norm(turn) < math.sin(SMOOTH_ANGLE):
        return Bend.SMOOTH
    return Bend.CONVEX if dot(turn, t) > 0 else Bend.CONCAVE


def _normal_on_edge(edge: Any, face: _KernelFace, parameter: float) -> Vec:
    at = BRepAdaptor_Curve2d(edge, face.shape).Value(parameter)
    return face.outward(at.X(), at.Y())


def _plain_face(index: int, kernel: _KernelFace, edge_map: ShapeMap, numbers: dict[int, int]) -> Face:
    face = kernel.shape
    u0, u1, v0, v1 = BRepTools.UVBounds_s(face)
    u, v = (u0 + u1) / 2, (v0 + v1) / 2
    normal, point = kernel.outward(u, v), _xyz(kernel.surface.Value(u, v))
    form = surface_of(face, kernel.surface)
    origin, axis, span, inward = form.origin, form.axis, 0.0, False
    if form.surface in (Surface.PLANE, Surface.OTHER):
        origin, axis = point, normal
    else:
        span = u1 - u0 if form.exact else _turned_about(face, form)
        inward = dot(_away(form, point), normal) < 0
    props = GProp_GProps()
    BRepGProp.SurfaceProperties_s(face, props)
    return Face(
        index=index,
        surface=form.surface,
        area=props.Mass(),
        origin=_round(origin),
        axis=axis,
        loops=_loops(face, edge_map, numbers),
        radius=form.radius,
        major=form.major,
        half_angle=form.half_angle,
        span=span,
        inward=inward,
    )


def _away(form: CanonicalSurface, point: Vec) -> Vec:
    """From a round surface's axis, centre or centre line to a point on it."""
    away = sub(point, form.origin)
    if form.surface == Surface.SPHERE:
        return away
    radial = sub(away, scale(form.axis, dot(away, form.axis)))
    if form.surface == Surface.TORUS and norm(radial) > 1e-9:
        return sub(away, scale(unit(radial), form.major))
    return radial


def _turned_about(face: Any, form: CanonicalSurface) -> float:
    """How much of the full turn a face covers, for a surface whose own parameters are not angles."""
    nodes = mesh_nodes(face)
    helper = (1.0, 0.0, 0.0) if abs(form.axis[0]) < 0.9 else (0.0, 1.0, 0.0)
    u = unit(cross(helper, form.axis))
    v = cross(form.axis, u)
    away = [sub(p, form.origin) for p in nodes]
    angles = sorted(math.atan2(dot(a, v), dot(a, u)) for a in away)
    if len(angles) < 3:
        return 0.0
    gaps = [b - a for a, b in itertools.pairwise([*angles, angles[0] + 2 * math.pi])]
    return 2 * math.pi if max(gaps) < WIDEST_STEP else 2 * math.pi - max(gaps)


def _loops(face: Any, edge_map: ShapeMap, numbers: dict[int, int]) -> tuple[Loop, ...]:
    outer = BRepTools.OuterWire_s(face)
    loops = []
    wires = TopExp_Explorer(face, TopAbs_ShapeEnum.TopAbs_WIRE)
    while wires.More():
        wire = TopoDS.Wire(wires.Current())
        walk = BRepTools_WireExplorer(wire, face)
        edges = []
        while walk.More():
            kernel_index = edge_map.FindIndex(walk.Current()) - 1
            if kernel_index in numbers:
                backwards = walk.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
                edges.append((numbers[kernel_index], backwards))
            walk.Next()
        loops.append(Loop(outer=wire.IsSame(outer), edges=tuple(edges)))
        wires.Next()
    return tuple(loops)


def _wound(face: Face, edges: list[Edge]) -> Face:
    """Turn a plane's loops so that the material is on the left; the kernel's walk follows the surface's own normal."""
    if face.surface != Surface.PLANE:
        return face
    return replace(face, loops=tuple(_wound_loop(face, loop, edges) for loop in face.loops))


def _wound_loop(face: Face, loop: Loop, edges: list[Edge]) -> Loop:
    points: list[Vec] = []
    for index, backwards in loop.edges:
        points.extend(reversed(edges[index].points) if backwards else edges[index].points)
    doubled = sum(
        dot(cross(sub(a, face.origin), sub(b, face.origin)), face.axis)
        for a, b in zip(points, [*points[1:], points[0]], strict=True)
    )
    if (doubled > 0) == loop.outer:
        return loop
    return Loop(loop.outer, tuple((index, not backwards) for index, backwards in reversed(loop.edges)))
