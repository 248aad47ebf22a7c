"""Reading STEP files (ISO 10303-21) into plain solids. Imports the CAD kernel."""

from __future__ import annotations

import math
from dataclasses import replace
from pathlib import Path
from typing import Any

from OCP.Bnd import Bnd_Box
from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Curve2d, BRepAdaptor_Surface
from OCP.BRepBndLib import BRepBndLib
from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
from OCP.BRepGProp import BRepGProp
from OCP.BRepLProp import BRepLProp_SLProps
from OCP.BRepMesh import BRepMesh_IncrementalMesh
from OCP.BRepTools import BRepTools, BRepTools_WireExplorer
from OCP.collections import IndexedMap_TopoDS_Shape_TopTools_ShapeMapHasher as ShapeMap
from OCP.collections import Sequence_TCollection_AsciiString as NameSequence
from OCP.GCPnts import GCPnts_TangentialDeflection
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_SurfaceType
from OCP.gp import gp_Trsf
from OCP.GProp import GProp_GProps
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.IMeshTools import IMeshTools_MeshAlgoType, IMeshTools_Parameters
from OCP.Message import Message
from OCP.STEPControl import STEPControl_Reader
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopExp import TopExp, TopExp_Explorer
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS, TopoDS_Shape

from lean_ledger.core.errors import FileRefused
from lean_ledger.core.geometry.alignment import upright_turn
from lean_ledger.core.geometry.drawing import standard_drawings
from lean_ledger.core.geometry.model import Bend, Bounds, Curve, Edge, Face, Loop, Mesh, PartModel, Solid, Surface, Vec
from lean_ledger.core.geometry.step_text import check_step_text
from lean_ledger.core.geometry.vectors import cross, dot, neg, norm, sub, unit

ARC_ANGLE = math.radians(3.75)
ARC_SAG = 0.02
MESH_SAG = 0.08
MESH_ANGLE = 0.25
SMOOTH_ANGLE = math.radians(1.0)

_SURFACES = {
    GeomAbs_SurfaceType.GeomAbs_Plane: Surface.PLANE,
    GeomAbs_SurfaceType.GeomAbs_Cylinder: Surface.CYLINDER,
    GeomAbs_SurfaceType.GeomAbs_Cone: Surface.CONE,
    GeomAbs_SurfaceType.GeomAbs_Sphere: Surface.SPHERE,
    GeomAbs_SurfaceType.GeomAbs_Torus: Surface.TORUS,
}
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


def read_part(path: Path, name: str, solid_index: int = 0) -> PartModel:
    """Read one solid of a STEP file for planning, with its standard drawings; raises as `read_solid` does.

    A part that lies askew is turned along X, Y and Z by its own largest faces, as it would lie in a vise.
    """
    model, shape = _read(path, name, solid_index)
    turn = upright_turn(model.solid)
    if turn is not None:
        shape = _turned(shape, turn)
        model = replace(model, solid=plain_solid(shape, model.solid.name), aligned=True)
    return replace(model, drawings=standard_drawings(shape))


def read_solid(path: Path, name: str, solid_index: int = 0) -> PartModel:
    """Read one solid of a STEP file, without drawings.

    Raises FileRefused for a file that cannot be used (see `check_step_text`), has no solid (file-no-solid), or has no
    solid of that number (file-no-such-solid).
    """
    return _read(path, name, solid_index)[0]


def _read(path: Path, name: str, solid_index: int) -> tuple[PartModel, TopoDS_Shape]:
    content = path.read_bytes()
    check_step_text(name, content)
    del content
    Message.DefaultMessenger_s().ChangePrinters().Clear()  # the kernel would write to standard output
    reader = STEPControl_Reader()
    if reader.ReadFile(str(path)) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise FileRefused("file-unreadable", "the STEP text cannot be parsed; export the part again", name)
    unit_name = _length_unit(reader)
    reader.TransferRoots()
    if reader.NbShapes() == 0:
        raise FileRefused("file-no-solid", "the file holds no shape; export the part as a solid", name)
    solids = _solids(reader.OneShape())
    if not solids:
        raise FileRefused(
            "file-no-solid", "the file holds no solid, only surfaces or lines; export the part as a solid", name
        )
    if not 0 <= solid_index < len(solids):
        raise FileRefused(
            "file-no-such-solid",
            f"there is no solid {solid_index}; the file has {len(solids)}, numbered from 0",
            name,
        )
    shape = solids[solid_index]
    solid = plain_solid(shape, Path(name).stem)
    return PartModel(name, unit_name, len(solids), solid_index, solid, ()), shape


def _turned(shape: TopoDS_Shape, rows: tuple[Vec, Vec, Vec]) -> TopoDS_Shape:
    turn = gp_Trsf()
    (a, b, c), (d, e, f), (g, h, i) = rows
    turn.SetValues(a, b, c, 0, d, e, f, 0, g, h, i, 0)
    return BRepBuilderAPI_Transform(shape, turn, True).Shape()


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


def plain_solid(shape: TopoDS_Shape, name: str) -> Solid:
    """Turn a kernel solid into plain data, with its mesh."""
    face_map, edge_map = ShapeMap(), ShapeMap()
    TopExp.MapShapes_s(shape, TopAbs_ShapeEnum.TopAbs_FACE, face_map)
    TopExp.MapShapes_s(shape, TopAbs_ShapeEnum.TopAbs_EDGE, edge_map)
    faces = [_KernelFace(TopoDS.Face(face_map.FindKey(i))) for i in range(1, face_map.Extent() + 1)]
    edges: list[Any] = [TopoDS.Edge(edge_map.FindKey(i)) for i in range(1, edge_map.Extent() + 1)]
    edge_numbers = _real_edges(edges)
    owners: list[list[int]] = [[] for _ in edges]
    turned: list[set[int]] = [set() for _ in faces]
    for number, face in enumerate(faces):
        for kernel_index, backwards in _edges_of(face.shape, edge_map):
            owners[kernel_index].append(number)
            if backwards:
                turned[number].add(kernel_index)
    plain_edges = []
    for kernel_index, number in sorted(edge_numbers.items(), key=lambda pair: pair[1]):
        edge = edges[kernel_index]
        plain_edges.append(_plain_edge(number, edge, kernel_index, owners[kernel_index], faces, turned))
    plain_faces = tuple(
        _wound(_plain_face(i, face, edge_map, edge_numbers), plain_edges) for i, face in enumerate(faces)
    )
    box = Bnd_Box()
    BRepBndLib.AddOptimal_s(shape, box, False, False)
    volume, area = GProp_GProps(), GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, volume)
    BRepGProp.SurfaceProperties_s(shape, area)
    return Solid(
        name=name,
        bounds=Bounds(_round(_xyz(box.CornerMin())), _round(_xyz(box.CornerMax()))),
        volume=abs(volume.Mass()),
        area=area.Mass(),
        faces=plain_faces,
        edges=tuple(plain_edges),
        mesh=_mesh(shape, [face.shape for face in faces]),
    )


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
    kind, center, axis, radius = Curve.OTHER, None, None, 0.0
    if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line:
        kind = Curve.LINE
    elif curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
        circle = curve.Circle()
        kind, radius = Curve.CIRCLE, circle.Radius()
        center, axis = _round(_xyz(circle.Location())), _xyz(circle.Axis().Direction())
    props = GProp_GProps()
    BRepGProp.LinearProperties_s(edge, props)
    unique = tuple(dict.fromkeys(owners))
    bend = Bend.SEAM
    if len(unique) == 2:
        backwards = kernel_index in turned[unique[0]]
        bend = _bend(edge, faces[unique[0]], faces[unique[1]], backwards=backwards)
    return Edge(number, kind, points, props.Mass(), bend, unique, center, axis, radius)


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
    face, surface = kernel.shape, kernel.surface
    kind = _SURFACES.get(surface.GetType(), Surface.OTHER)
    u0, u1, v0, v1 = BRepTools.UVBounds_s(face)
    u, v = (u0 + u1) / 2, (v0 + v1) / 2
    normal, point = kernel.outward(u, v), _xyz(surface.Value(u, v))
    origin, axis, radius, half_angle, span, inward = point, normal, 0.0, 0.0, 0.0, False
    if kind in (Surface.CYLINDER, Surface.CONE, Surface.TORUS, Surface.SPHERE):
        shape = {
            Surface.CYLINDER: surface.Cylinder,
            Surface.CONE: surface.Cone,
            Surface.TORUS: surface.Torus,
            Surface.SPHERE: surface.Sphere,
        }[kind]()
        position = shape.Position()
        origin = _xyz(shape.Apex() if kind == Surface.CONE else position.Location())
        axis = _xyz(position.Direction())
        radius = {
            Surface.CONE: float,
            Surface.TORUS: getattr(shape, "MinorRadius", float),
        }.get(kind, getattr(shape, "Radius", float))()
        half_angle = abs(shape.SemiAngle()) if kind == Surface.CONE else 0.0
        span = u1 - u0
        away = sub(point, origin)
        if kind == Surface.TORUS:  # away from the tube's own centre line
            ring = sub(away, tuple(c * dot(away, axis) for c in axis))  # type: ignore[arg-type]
            spine = tuple(c * shape.MajorRadius() for c in unit(ring)) if norm(ring) > 1e-9 else (0.0, 0.0, 0.0)
            away = sub(away, spine)  # type: ignore[arg-type]
        elif kind != Surface.SPHERE:
            away = sub(away, tuple(c * dot(away, axis) for c in axis))  # type: ignore[arg-type]
        inward = dot(away, normal) < 0
    props = GProp_GProps()
    BRepGProp.SurfaceProperties_s(face, props)
    return Face(
        index=index,
        surface=kind,
        area=props.Mass(),
        origin=_round(origin),
        axis=axis,
        loops=_loops(face, edge_map, numbers),
        radius=radius,
        half_angle=half_angle,
        span=span,
        inward=inward,
    )


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


def _mesh(shape: TopoDS_Shape, faces: list[Any]) -> Mesh:
    wanted = IMeshTools_Parameters()
    wanted.Deflection, wanted.Angle, wanted.Relative = MESH_SAG, MESH_ANGLE, False
    # the kernel's usual mesher takes quadratic time in the holes of a plate
    wanted.MeshAlgo = IMeshTools_MeshAlgoType.IMeshTools_MeshAlgoType_Delabella
    BRepMesh_IncrementalMesh(shape, wanted)
    vertices: list[Vec] = []
    triangles: list[tuple[int, int, int]] = []
    owners: list[int] = []
    for index, face in enumerate(faces):
        location = TopLoc_Location()
        mesh = BRep_Tool.Triangulation_s(face, location)
        if mesh is None:
            continue
        base = len(vertices)
        transform = location.Transformation()
        for i in range(1, mesh.NbNodes() + 1):
            p = mesh.Node(i).Transformed(transform)
            vertices.append((round(p.X(), 4), round(p.Y(), 4), round(p.Z(), 4)))
        flip = face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
        for i in range(1, mesh.NbTriangles() + 1):
            corner = mesh.Triangle(i)
            a, b, c = corner.Value(1), corner.Value(2), corner.Value(3)
            if flip:
                b, c = c, b
            triangles.append((base + a - 1, base + b - 1, base + c - 1))
            owners.append(index)
    return Mesh(tuple(vertices), tuple(triangles), tuple(owners))
