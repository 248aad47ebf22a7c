"""The triangles of a kernel shape. Imports the CAD kernel."""

from __future__ import annotations

from typing import Any

import numpy as np
from OCP.BRep import BRep_Tool
from OCP.BRepMesh import BRepMesh_IncrementalMesh
from OCP.BRepTools import BRepTools
from OCP.IMeshTools import IMeshTools_MeshAlgoType, IMeshTools_Parameters
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS_Shape

from lean_ledger.core.geometry.model import Mesh, Vec

MESH_SAG = 0.08
MESH_ANGLE = 0.25
FINER = ((MESH_SAG, 0.2), (MESH_SAG / 2, MESH_ANGLE))
FEW = 300  # faces that are meshed sooner one after the other than by several threads
MOST_AGAIN = 200_000  # triangles that are made a second time


def mesh_of(shape: TopoDS_Shape, faces: list[Any]) -> Mesh:
    """Where triangles leave gaps, which the mesher does now and then, a little finer ones are tried; the first ones
    where those leave gaps as well.
    """
    found = _meshed(shape, faces, MESH_SAG, MESH_ANGLE)
    if is_closed(found) or len(found.triangles) > MOST_AGAIN:
        return found
    for sag, angle in FINER:
        BRepTools.Clean_s(shape)
        again = _meshed(shape, faces, sag, angle)
        if is_closed(again):
            return again
    return found


def is_closed(mesh: Mesh) -> bool:
    """Whether each edge of a triangle is met by as many the other way round."""
    _, place = np.unique(np.array(mesh.vertices).reshape(-1, 3), axis=0, return_inverse=True)
    corners = place.reshape(-1)[np.array(mesh.triangles, dtype=np.int64).reshape(-1, 3)]
    edges = np.concatenate([corners[:, [0, 1]], corners[:, [1, 2]], corners[:, [2, 0]]])
    edges = edges[edges[:, 0] != edges[:, 1]]
    count = len(place) + 1
    ways, there = np.unique(edges[:, 0] * count + edges[:, 1], return_counts=True)
    back, again = np.unique(edges[:, 1] * count + edges[:, 0], return_counts=True)
    return bool(np.array_equal(ways, back) and np.array_equal(there, again))


def _meshed(shape: TopoDS_Shape, faces: list[Any], sag: float, angle: float) -> Mesh:
    wanted = IMeshTools_Parameters()
    wanted.Deflection, wanted.Angle, wanted.Relative, wanted.InParallel = sag, angle, False, len(faces) > FEW
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
        moved = None if location.IsIdentity() else location.Transformation()
        for i in range(1, mesh.NbNodes() + 1):
            p = mesh.Node(i) if moved is None else mesh.Node(i).Transformed(moved)
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


def mesh_nodes(face: Any) -> list[Vec]:
    """The nodes of a face that was meshed before; none where it could not be."""
    location = TopLoc_Location()
    mesh = BRep_Tool.Triangulation_s(face, location)
    if mesh is None:
        return []
    transform = location.Transformation()
    points = (mesh.Node(i).Transformed(transform) for i in range(1, mesh.NbNodes() + 1))
    return [(p.X(), p.Y(), p.Z()) for p in points]
