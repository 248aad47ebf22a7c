"""Solids of triangles and their booleans, exact and fast (manifold3d). Lengths mm, volumes mm³."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, pi, sqrt
from typing import Any

import numpy as np
import shapely
from manifold3d import CrossSection, Error, FillRule, Manifold, Mesh64, OpType
from numpy.typing import NDArray
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.geometry.model import Bounds, Mesh, Vec

SAG = 0.01  # mm that a chord of a round solid may stray from its arc
WELD = 1e-6  # mm within which vertices are the same
LEAST_AREA = 1e-6  # mm² of a flat piece that counts

Floats = NDArray[np.float64]


class MassError(LedgerError):
    """Triangles that enclose no volume."""


@dataclass(frozen=True)
class Mass:
    """A solid that never changes; every operation returns a new one."""

    _solid: Any

    @property
    def volume(self) -> float:
        return float(self._solid.volume())

    @property
    def area(self) -> float:
        return float(self._solid.surface_area())

    @property
    def is_empty(self) -> bool:
        return bool(self._solid.is_empty())

    @property
    def bounds(self) -> Bounds:
        box = self._solid.bounding_box()
        return Bounds(tuple(box[:3]), tuple(box[3:]))

    def minus(self, others: Sequence[Mass]) -> Mass:
        """What is left after all of the others are taken off."""
        solids = [o._solid for o in others if not o._solid.is_empty()]
        if not solids:
            return self
        return Mass(Manifold.batch_boolean([self._solid, *solids], OpType.Subtract))

    def common(self, other: Mass) -> Mass:
        return Mass(self._solid ^ other._solid)

    def pieces(self) -> tuple[Lump, ...]:
        """The parts that do not hang together, by their triangles."""
        vertices, triangles = self.triangles()
        if len(triangles) == 0:
            return ()
        label = _joined(len(vertices), triangles)
        order = np.argsort(label[triangles[:, 0]], kind="stable")
        starts = np.nonzero(np.diff(label[triangles[order, 0]], prepend=-1))[0]
        found = []
        for own in np.split(triangles[order], starts[1:]):
            used, renamed = np.unique(own, return_inverse=True)
            found.append(Lump(vertices[used], renamed.reshape(-1, 3)))
        return tuple(found)

    def placed(self, right: Vec, back: Vec, up: Vec) -> Mass:
        """Turned from coordinates along X, Y, Z into those in which the three axes are given."""
        turn = np.zeros((3, 4))
        turn[:, 0], turn[:, 1], turn[:, 2] = right, back, up
        return Mass(self._solid.transform(turn))

    def simplified(self, tolerance: float) -> Mass:
        """With fewer triangles, none moved by more than a tolerance: for a picture."""
        return Mass(self._solid.simplify(tolerance))

    def triangles(self) -> tuple[Floats, NDArray[np.int64]]:
        """Vertices, shape (n, 3), and triangles as indexes of them, shape (m, 3)."""
        mesh = self._solid.to_mesh64()
        return (
            np.asarray(mesh.vert_properties, dtype=float)[:, :3].copy(),
            np.asarray(mesh.tri_verts, dtype=np.int64).copy(),
        )

    def thickness_at(self, point: Vec, along: Vec) -> float:
        """Length of material that a line through a point along a unit vector has in this solid, mm."""
        box = self.bounds
        reach = 2 * sqrt(sum((b - a) ** 2 for a, b in zip(box.min, box.max, strict=True))) + 1
        start = [p - reach * d for p, d in zip(point, along, strict=True)]
        end = [p + reach * d for p, d in zip(point, along, strict=True)]
        # hits are told as shares of the ray
        hits = sorted(2 * reach * float(hit.distance) for hit in self._solid.ray_cast(start, end))
        return sum(b - a for a, b in zip(hits[::2], hits[1::2], strict=False))

    def depth_along(self, point: Vec, along: Vec) -> float:
        """From a point inside to where a unit vector leaves the solid, mm; 0 for a point outside."""
        hits = self._hits(point, along)
        return hits[0] if len(hits) % 2 else 0.0

    def gap_along(self, point: Vec, along: Vec) -> float:
        """From a point outside to where a unit vector meets the solid, mm; 0 for a point inside, or where it never
        does."""
        hits = self._hits(point, along)
        return hits[0] if hits and len(hits) % 2 == 0 else 0.0

    def _hits(self, point: Vec, along: Vec) -> list[float]:
        box = self.bounds
        reach = sqrt(sum((b - a) ** 2 for a, b in zip(box.min, box.max, strict=True))) + sqrt(
            sum((p - a) ** 2 for p, a in zip(point, box.min, strict=True))
        )
        end = [p + reach * d for p, d in zip(point, along, strict=True)]
        return sorted(reach * float(hit.distance) for hit in self._solid.ray_cast(list(point), end))


@dataclass(frozen=True)
class Lump:
    """A part of a solid that hangs together: vertices, shape (n, 3), triangles, shape (m, 3)."""

    vertices: Floats
    triangles: NDArray[np.int64]

    @property
    def volume(self) -> float:
        a, b, c = (self.vertices[self.triangles[:, i]] - self.vertices[0] for i in range(3))
        return float(np.einsum("ij,ij->i", np.cross(a, b), c).sum() / 6)

    @property
    def areas(self) -> Floats:
        """Of each triangle, mm²."""
        a, b, c = (self.vertices[self.triangles[:, i]] for i in range(3))
        return np.asarray(np.linalg.norm(np.cross(b - a, c - a), axis=1) / 2)

    @property
    def mean_thickness(self) -> float:
        """Twice the volume over the area: that of a plate, however wide."""
        area = float(self.areas.sum())
        return 2 * self.volume / area if area > 0 else 0.0

    @property
    def least_size(self) -> float:
        """The least of its three extents along X, Y and Z."""
        return float(np.ptp(self.vertices, axis=0).min())

    @property
    def mass(self) -> Mass:
        return Mass(Manifold(Mesh64(vert_properties=self.vertices, tri_verts=self.triangles.astype(np.uint64))))


def _joined(count: int, triangles: NDArray[np.int64]) -> NDArray[np.int64]:
    """For each vertex the lowest one that it hangs together with: labels flow along edges until none changes."""
    label = np.arange(count)
    while True:
        least = label[triangles].min(axis=1)
        new = label.copy()
        for i in range(3):
            np.minimum.at(new, triangles[:, i], least)
        new = new[new]  # jump on, so that long chains take few rounds
        if (new == label).all():
            return label
        label = new


def united(masses: Sequence[Mass]) -> Mass:
    return Mass(Manifold.batch_boolean([m._solid for m in masses], OpType.Add)) if masses else Mass(Manifold())


def mass_of_mesh(mesh: Mesh) -> Mass:
    """The solid inside a part's triangles. Raises MassError where they leave gaps."""
    vertices = np.array(mesh.vertices, dtype=float).reshape(-1, 3)
    _, first, place = np.unique(
        np.round(vertices / WELD).astype(np.int64), axis=0, return_index=True, return_inverse=True
    )
    triangles = place.reshape(-1)[np.array(mesh.triangles, dtype=np.int64).reshape(-1, 3)]
    proper = (
        (triangles[:, 0] != triangles[:, 1])
        & (triangles[:, 1] != triangles[:, 2])
        & (triangles[:, 2] != triangles[:, 0])
    )
    return mass_of_arrays(vertices[first], triangles[proper])


def mass_of_arrays(vertices: NDArray[np.float64], triangles: NDArray[np.int64]) -> Mass:
    """The solid inside triangles (n, 3) over vertices (m, 3). Raises MassError where they leave gaps."""
    welded = Mesh64(vert_properties=vertices, tri_verts=triangles.astype(np.uint64))
    welded.merge()
    solid = Manifold(welded)
    if solid.status() != Error.NoError or solid.volume() <= 0:
        raise MassError("mesh-open", "the part's triangles leave gaps, its volume cannot be followed")
    return Mass(solid)


def box_mass(box: Bounds) -> Mass:
    size = [b - a for a, b in zip(box.min, box.max, strict=True)]
    return Mass(Manifold.cube(size).translate(list(box.min)))


def prism_mass(area: BaseGeometry, low: float, high: float) -> Mass:
    """What stands on a flat area between two levels along Z."""
    rings = _rings(area)
    if not rings or high <= low:
        return Mass(Manifold())
    section = CrossSection(rings, FillRule.EvenOdd)
    return Mass(Manifold.extrude(section, high - low).translate([0, 0, low]))


def lathe_mass(profile: Sequence[tuple[float, float]], at: tuple[float, float], widest: float) -> Mass:
    """A profile of (radius, z), closed along the axis, turned about Z through a point."""
    section = CrossSection([np.array(profile, dtype=float)], FillRule.NonZero)
    return Mass(Manifold.revolve(section, segments(widest)).translate([at[0], at[1], 0]))


def revolved_mass(area: BaseGeometry, at: tuple[float, float]) -> Mass:
    """An area of (radius, z), none of it below radius 0, turned about Z through a point."""
    rings = _rings(area)
    if not rings:
        return Mass(Manifold())
    section = CrossSection(rings, FillRule.EvenOdd)
    widest = max(float(ring[:, 0].max()) for ring in rings)
    return Mass(Manifold.revolve(section, segments(widest)).translate([at[0], at[1], 0]))


def hull_mass(points: Sequence[Vec]) -> Mass:
    return Mass(Manifold.hull_points(np.array(points, dtype=float)))


def segments(radius: float) -> int:
    """Chords of a full circle that stray no more than SAG, a multiple of four."""
    if radius <= SAG:
        return 8
    return max(16, 4 * ceil(pi / sqrt(2 * SAG / radius) / 4))


def _rings(area: BaseGeometry) -> list[NDArray[np.float64]]:
    """Outlines counter-clockwise, holes clockwise."""
    turned = [orient(piece) for piece in _polygons(area)]
    return [np.array(ring.coords[:-1]) for one in turned for ring in (one.exterior, *one.interiors)]


def _polygons(area: BaseGeometry) -> list[Polygon]:
    pieces = area.geoms if isinstance(area, MultiPolygon | shapely.GeometryCollection) else [area]
    return [p for p in pieces if isinstance(p, Polygon) and p.area > LEAST_AREA]
