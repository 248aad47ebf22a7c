"""Faces that lie on one surface and touch are one patch: exporters split round walls and planes at will."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from math import pi

from lean_ledger.core.geometry.model import Bend, Edge, Face, Solid, Surface, Vec
from lean_ledger.core.geometry.vectors import cross, dot, norm, parallel, sub

LENGTH = 1e-3  # mm; model coordinates agree far better than this
FULL_TURN = 2 * pi - 0.02


@dataclass(frozen=True)
class Border:
    """An edge of a patch and the patch beyond it (-1 where there is none)."""

    edge: Edge
    beyond: int


@dataclass(frozen=True)
class Patch:
    index: int
    faces: tuple[Face, ...]
    borders: tuple[Border, ...]
    span: float  # radians of the turn covered, for round surfaces
    # asked again and again of a large face, by each wall that stands on it
    _extents: dict[Vec, tuple[float, float]] = field(default_factory=dict, compare=False, repr=False)

    @property
    def face(self) -> Face:
        return self.faces[0]

    @property
    def surface(self) -> Surface:
        return self.face.surface

    @property
    def axis(self) -> Vec:
        return self.face.axis

    @property
    def area(self) -> float:
        return sum(face.area for face in self.faces)

    @property
    def face_indexes(self) -> tuple[int, ...]:
        return tuple(face.index for face in self.faces)

    @property
    def full_turn(self) -> bool:
        return self.span >= FULL_TURN

    def extent(self, direction: Vec) -> tuple[float, float]:
        """Least and greatest coordinate along `direction` of the patch's borders."""
        known = self._extents.get(direction)
        if known is None:
            ends = [border.edge.extent(direction) for border in self.borders]
            at = dot(self.face.origin, direction)
            known = (min(low for low, _ in ends), max(high for _, high in ends)) if ends else (at, at)
            self._extents[direction] = known
        return known


@dataclass(frozen=True)
class PatchedSolid:
    solid: Solid
    patches: tuple[Patch, ...]
    of_face: tuple[int, ...]

    @cached_property
    def planes(self) -> tuple[Patch, ...]:
        return tuple(p for p in self.patches if p.surface == Surface.PLANE)

    def neighbours(self, patch: Patch, bend: Bend) -> set[int]:
        return {b.beyond for b in patch.borders if b.edge.bend == bend and b.beyond >= 0}

    def is_wall(self, patch: Patch, direction: Vec) -> bool:
        """Whether a patch runs along `direction`: a plane beside it, or a cylinder around it."""
        if patch.surface == Surface.PLANE:
            return abs(dot(patch.axis, direction)) < 1e-3
        return patch.surface == Surface.CYLINDER and parallel(patch.axis, direction, 1e-3)


def patch_up(solid: Solid) -> PatchedSolid:
    """Join touching faces of one surface into patches, in the order of their first faces."""
    leader = list(range(len(solid.faces)))

    def find(i: int) -> int:
        while leader[i] != i:
            leader[i] = leader[leader[i]]
            i = leader[i]
        return i

    for edge in solid.edges:
        if edge.bend == Bend.SMOOTH and _same_surface(solid.faces[edge.faces[0]], solid.faces[edge.faces[1]]):
            a, b = sorted(find(f) for f in edge.faces)
            leader[b] = a
    roots = sorted({find(i) for i in range(len(solid.faces))})
    number = {root: i for i, root in enumerate(roots)}
    of_face = tuple(number[find(i)] for i in range(len(solid.faces)))
    members: list[list[Face]] = [[] for _ in roots]
    for face in solid.faces:
        members[of_face[face.index]].append(face)
    borders: list[list[Border]] = [[] for _ in roots]
    for edge in solid.edges:
        sides = [of_face[f] for f in edge.faces]
        if len(sides) == 2 and sides[0] != sides[1]:
            borders[sides[0]].append(Border(edge, sides[1]))
            borders[sides[1]].append(Border(edge, sides[0]))
    patches = tuple(
        Patch(i, tuple(faces), tuple(borders[i]), sum(face.span for face in faces)) for i, faces in enumerate(members)
    )
    return PatchedSolid(solid, patches, of_face)


def _same_surface(a: Face, b: Face) -> bool:
    if a.surface != b.surface or a.surface in (Surface.OTHER, Surface.TORUS):
        return False
    if a.surface == Surface.PLANE:
        return dot(a.axis, b.axis) > 1 - 1e-6
    if a.surface == Surface.SPHERE:
        return norm(sub(a.origin, b.origin)) < LENGTH and abs(a.radius - b.radius) < LENGTH
    if a.inward != b.inward or not on_axis(a.origin, a.axis, b.origin) or not parallel(a.axis, b.axis):
        return False
    if a.surface == Surface.CYLINDER:
        return abs(a.radius - b.radius) < LENGTH
    return abs(a.half_angle - b.half_angle) < 1e-4 and norm(sub(a.origin, b.origin)) < LENGTH


def on_axis(origin: Vec, axis: Vec, point: Vec) -> bool:
    """Whether `point` lies on the line through `origin` along the unit vector `axis`."""
    return norm(cross(sub(point, origin), axis)) < LENGTH
