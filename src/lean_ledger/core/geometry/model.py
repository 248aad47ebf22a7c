"""Solids as plain data: what the rest of core sees of a CAD model. Lengths in mm, areas mm², volumes mm³."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

import numpy as np

from lean_ledger.core.geometry.vectors import Vec, dot, norm, sub

__all__ = [
    "Bend",
    "Bounds",
    "Curve",
    "Drawing",
    "Edge",
    "Face",
    "Loop",
    "Mesh",
    "PartModel",
    "Solid",
    "SolidEntry",
    "Surface",
    "Vec",
]


class Surface(StrEnum):
    PLANE = "plane"
    CYLINDER = "cylinder"
    CONE = "cone"
    SPHERE = "sphere"
    TORUS = "torus"
    REVOLUTION = "revolution"  # any other profile turned about an axis
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

    def meets(self, other: Bounds) -> bool:
        return all(self.min[i] <= other.max[i] and other.min[i] <= self.max[i] for i in range(3))

    def grown(self, by: float) -> Bounds:
        x, y, z = self.min
        u, v, w = self.max
        return Bounds((x - by, y - by, z - by), (u + by, v + by, w + by))


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

    def extent(self, direction: Vec) -> tuple[float, float]:
        """Least and greatest coordinate along a unit vector; of a circle its own, not those of its chords."""
        along = [dot(p, direction) for p in self.points]
        low, high = min(along), max(along)
        if self.curve == Curve.LINE or len(along) < 3:
            return low, high
        closed = norm(sub(self.points[0], self.points[-1])) < 1e-6
        if self.center is not None and self.axis is not None:
            middle = dot(self.center, direction)
            swing = self.radius * max(0.0, 1 - dot(self.axis, direction) ** 2) ** 0.5
            # the chords' extreme at an end of the arc is the arc's own
            if closed or along.index(high) not in (0, len(along) - 1):
                high = max(high, middle + swing)
            if closed or along.index(low) not in (0, len(along) - 1):
                low = min(low, middle - swing)
            return low, high
        ring = along[:-1] if closed else along
        return -_crest([-a for a in ring], closed=closed), _crest(ring, closed=closed)


def _crest(values: list[float], *, closed: bool) -> float:
    """The greatest value of a smooth run of samples: the top of the parabola through the three about the highest."""
    i = values.index(max(values))
    if not closed and i in (0, len(values) - 1):
        return values[i]
    a, b, c = values[i - 1], values[i], values[(i + 1) % len(values)]
    bow = a - 2 * b + c
    return b - (c - a) ** 2 / (8 * bow) if bow < -1e-12 else b


@dataclass(frozen=True, slots=True)
class Loop:
    """One boundary of a face, material on the left seen against the outward normal."""

    outer: bool
    edges: tuple[tuple[int, bool], ...]  # edge index, and whether it is walked backwards


@dataclass(frozen=True, slots=True)
class Face:
    """One face of the boundary.

    `axis` is a plane's outward normal, or the axis of a round surface; a cone's `origin` is its apex. A torus has its
    tube's radius in `radius`, that of the tube's centre line in `major`. `inward` says that the outward normal
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
    major: float = 0.0
    half_angle: float = 0.0
    span: float = 0.0
    inward: bool = False


@dataclass(frozen=True, slots=True)
class Mesh:
    """Triangles of the whole boundary; `faces[i]` is the B-rep face that triangle i lies on."""

    vertices: tuple[Vec, ...]
    triangles: tuple[tuple[int, int, int], ...]
    faces: tuple[int, ...]

    @property
    def volume(self) -> float:
        """What the triangles enclose, mm³: a sixth of the sum of (a × b) · c, by the divergence theorem."""
        if not self.triangles:
            return 0.0
        corners = np.array(self.vertices)[np.array(self.triangles)] - self.vertices[0]
        a, b, c = corners[:, 0], corners[:, 1], corners[:, 2]
        return float(abs(np.einsum("ij,ij->", np.cross(a, b), c))) / 6


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

    def edge_points(self, faces: Iterable[int]) -> list[Vec]:
        """Along the edges of some faces, face by face; an edge between two of them twice."""
        loops = (loop for f in faces for loop in self.faces[f].loops)
        return [p for loop in loops for i, _ in loop.edges for p in self.edges[i].points]


@dataclass(frozen=True, slots=True)
class SolidEntry:
    """One solid of a file, as it is listed to choose from."""

    name: str
    size: Vec
    volume: float


@dataclass(frozen=True)
class PartModel:
    """One solid of one file, with all that was computed from its geometry."""

    file: str
    length_unit: str  # as declared in the file; everything here is in mm
    solids: int
    solid_index: int
    solid: Solid
    drawings: tuple[Drawing, ...]
    entries: tuple[SolidEntry, ...] = ()  # all solids of the file
    doubts: tuple[str, ...] = ()  # what is wrong with the geometry, in sentences
    left_out: tuple[str, ...] = ()  # of the drawing that it was made from
    aligned: bool = False  # turned to lie along X, Y and Z by its own largest faces
