"""Near-net stock: a casting or forging of its own model around the part, and how much of it stands over each face."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, replace

import numpy as np

from lean_ledger.core.geometry.masses import Mass, mass_of_mesh
from lean_ledger.core.geometry.model import Bounds, Edge, Face, Mesh, Solid
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.geometry.vectors import Vec, add

MODULE = __name__

TRIED = 12  # triangles of each face, the largest, at whose middles the stock is measured
OFF = 2e-3  # mm from a face that a ray begins, on its outside
NOTHING = 0.05  # mm that are no stock: chords of arcs stray as much


@dataclass(frozen=True)
class NearNet:
    """Stock as it comes, laid around the part. `over` has an entry for each face of the part, mm; it is 0 where the
    stock's skin is the part's own, and below 0 where the part sticks out of it.
    """

    file: str
    solid: Solid
    over: tuple[float, ...]

    @property
    def bounds(self) -> Bounds:
        return self.solid.bounds

    @property
    def volume(self) -> float:
        return self.solid.volume

    def over_faces(self, faces: tuple[int, ...]) -> float:
        """The most that stands over any of some faces."""
        return max((self.over[f] for f in faces), default=0.0)


def near_net(part: Solid, stock: Solid, shift: Vec, file: str, report: Report = silent) -> NearNet:
    """Lay the stock's model over the part's, moved by `shift`. Raises MassError for a model that encloses nothing."""
    moved = moved_solid(stock, shift)
    report("measuring the stock over each face", 0.3)
    return NearNet(file, moved, _over(part, mass_of_mesh(moved.mesh)))


def moved_solid(solid: Solid, by: Vec) -> Solid:
    if by == (0.0, 0.0, 0.0):
        return solid

    def edge(e: Edge) -> Edge:
        return replace(
            e, points=tuple(add(p, by) for p in e.points), center=None if e.center is None else add(e.center, by)
        )

    def face(f: Face) -> Face:
        return replace(f, origin=add(f.origin, by))

    mesh = Mesh(tuple(add(v, by) for v in solid.mesh.vertices), solid.mesh.triangles, solid.mesh.faces)
    bounds = Bounds(add(solid.bounds.min, by), add(solid.bounds.max, by))
    return replace(
        solid, bounds=bounds, faces=tuple(map(face, solid.faces)), edges=tuple(map(edge, solid.edges)), mesh=mesh
    )


def _over(part: Solid, stock: Mass) -> tuple[float, ...]:
    corners = np.array(part.mesh.vertices)[np.array(part.mesh.triangles)]
    normals = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    doubled = np.linalg.norm(normals, axis=1)
    of_face: dict[int, list[int]] = defaultdict(list)
    for i, face in enumerate(part.mesh.faces):
        if doubled[i] > 1e-9:
            of_face[face].append(i)
    found = []
    for index in range(len(part.faces)):
        chosen = sorted(of_face[index], key=lambda i: -doubled[i])[:TRIED]
        amounts = [_at(stock, corners[i].mean(axis=0), normals[i] / doubled[i]) for i in chosen]
        most, least = max(amounts, default=0.0), min(amounts, default=0.0)
        value = most if most > NOTHING else least if least < -NOTHING else 0.0
        found.append(round(value, 3) + 0.0)
    return tuple(found)


def _at(stock: Mass, point: np.ndarray, normal: np.ndarray) -> float:
    """Stock outside a point of the part; below 0 the part's depth outside the stock."""
    outward = stock.depth_along(tuple(point + OFF * normal), tuple(normal))
    if outward > 0:
        return outward + OFF
    inward = stock.gap_along(tuple(point - OFF * normal), tuple(-normal))
    return -(inward + OFF) if inward > 0 else 0.0
