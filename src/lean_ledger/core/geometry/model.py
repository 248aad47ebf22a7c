"""Solids as plain data: what the rest of core sees of a CAD model. Lengths in mm, areas mm², volumes mm³."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from lean_ledger.core.geometry.vectors import Vec

__all__ = ["Bend", "Bounds", "Curve", "Drawing", "Edge", "Face", "Loop", "Mesh", "PartModel", "Solid", "Surface", "Vec"]


class Surface(StrEnum):
    PLANE = "plane"
    CYLINDER = "cylinder"
    CONE = "cone"
    SPHERE = "sphere"
    TORUS = "torus"
    OTHER = "other"


class Curve(StrEnum):
    LINE = "line"
    CIRCLE = "circle"
    OTHER = "other"


class Bend(StrEnum):
    """How the material turns at an edge, seen from outside."""

    CONVEX = "convex"
    CONCAVE = "concave"
    SMOOTH = "smooth"
    SEAM = "seam"  # a face meets itself, or has no neighbour


@dataclass(frozen=True, slots=True)
class Bounds:
    """An axis-aligned box."""

    min: Vec
    max: Vec

    @property
    def size(self) -> Vec:
        return (self.max[0] - self.min[0], self.max[1] - self.min[1], self.max[2] - self.min[2])


@dataclass(frozen=True, slots=True)
class Edge:
    index: int
    curve: Curve
    points: tuple[Vec, ...]  # along the edge, ends included; chords leave an arc by less than 0.02 mm or 4 degrees
    length: float
    bend: Bend
    faces: tuple[int, ...]  # one or two indexes
    center: Vec | None = None  # of a circle
    axis: Vec | None = None
    radius: float = 0.0


@dataclass(frozen=True, slots=True)
class Loop:
    """One boundary of a face, material on the left seen against the outward normal."""

    outer: bool
    edges: tuple[tuple[int, bool], ...]  # edge index, and whether it is walked backwards


@dataclass(frozen=True, slots=True)
class Face:
    """One face of the boundary.

    `axis` is a plane's outward normal, or the axis of a cylinder, cone or torus; a cone's `origin` is its apex.
    `inward` says that the outward normal
    points towards that axis: the face is the wall of a hole rather than of a boss. `span` is the part of the full turn
    a round face covers, in radians; `half_angle` belongs to cones, in radians.
    """

    index: int
    surface: Surface
    area: float
    origin: Vec
    axis: Vec
    loops: tuple[Loop, ...]
    radius: float = 0.0
    half_angle: float = 0.0
    span: float = 0.0
    inward: bool = False


@dataclass(frozen=True, slots=True)
class Mesh:
    """Triangles of the whole boundary; `faces[i]` is the B-rep face that triangle i lies on."""

    vertices: tuple[Vec, ...]
    triangles: tuple[tuple[int, int, int], ...]
    faces: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class Drawing:
    """A line drawing seen from `view` (unit vector from the part to the eye), x to the right along `right`.

    Polylines in mm; the origin of the drawing is the part's origin, projected.
    """

    view: Vec
    right: Vec
    visible: tuple[tuple[tuple[float, float], ...], ...]
    hidden: tuple[tuple[tuple[float, float], ...], ...]


@dataclass(frozen=True)
class Solid:
    name: str
    bounds: Bounds
    volume: float
    area: float
    faces: tuple[Face, ...]
    edges: tuple[Edge, ...]
    mesh: Mesh

    @cached_property
    def neighbours(self) -> tuple[tuple[tuple[int, int], ...], ...]:
        """For each face its (edge, other face) pairs, seams left out."""
        found: list[list[tuple[int, int]]] = [[] for _ in self.faces]
        for edge in self.edges:
            if len(edge.faces) == 2:
                a, b = edge.faces
                found[a].append((edge.index, b))
                found[b].append((edge.index, a))
        return tuple(tuple(pairs) for pairs in found)

    def loop_points(self, loop: Loop) -> list[Vec]:
        """The loop as one closed polyline, its first point not repeated."""
        points: list[Vec] = []
        for index, backwards in loop.edges:
            run = self.edges[index].points
            points.extend(reversed(run[1:]) if backwards else run[:-1])
        return points


@dataclass(frozen=True)
class PartModel:
    """One solid of one file, with all that was computed from its geometry."""

    file: str
    length_unit: str  # as declared in the file; everything here is in mm
    solids: int
    solid_index: int
    solid: Solid
    drawings: tuple[Drawing, ...]
    aligned: bool = False  # turned to lie along X, Y and Z by its own largest faces
