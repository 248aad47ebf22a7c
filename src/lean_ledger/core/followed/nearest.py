"""How far points are from a part's surface, and from which face of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.geometry.model import Mesh, Vec

Floats = NDArray[np.float64]

LEAST = 1e-9  # mm², twice a triangle's area, below which it is none
CHORD = 0.3  # mm that triangles may lie off a round face
NEAR = 0.5  # mm around the points that triangles are looked for first
AT_ONCE = 200_000  # pairs of a point and a triangle


@dataclass(frozen=True)
class RoundFace:
    """A cylinder or a cone of the part: from its triangles, which lie on chords, points on it would be some way off.

    A cone has its apex in `origin` and a half angle, radians; its radius there is 0.
    """

    face: int
    origin: Vec
    axis: Vec
    radius: float
    half_angle: float = 0.0
    inward: bool = False  # the wall of a hole: the part is outside of it


class Surface:
    """The triangles of a part, and of the bodies that a plan adds to it (their faces are −1)."""

    def __init__(self, meshes: Sequence[Mesh], key: str = "", rounds: Sequence[RoundFace] = ()) -> None:
        self.key = key  # by which what was computed of it may be kept
        self._rounds = rounds
        corners, faces = [], []
        for i, mesh in enumerate(meshes):
            vertices = np.array(mesh.vertices, dtype=float).reshape(-1, 3)
            corners.append(vertices[np.array(mesh.triangles, dtype=int).reshape(-1, 3)])
            faces.append(np.array(mesh.faces, dtype=int) if i == 0 else np.full(len(mesh.triangles), -1))
        whole = np.concatenate(corners)
        sides = np.cross(whole[:, 1] - whole[:, 0], whole[:, 2] - whole[:, 0])
        proper = np.linalg.norm(sides, axis=1) > LEAST  # one without area would seem near to everything
        self._corners: Floats = whole[proper]
        self._faces = np.concatenate(faces)[proper]
        self._low = self._corners.min(axis=1)
        self._high = self._corners.max(axis=1)

    def distances(self, points: Floats, *, cut_into: bool | None = None) -> tuple[Floats, NDArray[np.int64]]:
        """For each point, shape (n, 3), the distance to the nearest triangle, mm, and the face that it belongs to.

        Beside a round face it is that to the face itself, and with `cut_into` said 0 on the other side of it: what is
        cut into lies in the part, what is left beside it.
        """
        away = np.full(len(points), np.inf)
        faces = np.zeros(len(points), dtype=np.int64)
        waiting = np.arange(len(points))
        within = NEAR
        while len(waiting):
            low, high = points[waiting].min(axis=0) - within, points[waiting].max(axis=0) + within
            near = np.nonzero(((self._low <= high) & (self._high >= low)).all(axis=1))[0]
            if len(near):
                # of long triangles the box says little: the middle's own distance tells which come near
                middle, radius = (low + high) / 2, float(np.linalg.norm(high - low)) / 2
                near = near[_to_triangles(middle[None], self._corners[near])[0] <= radius]
            if len(near):
                for some in np.array_split(waiting, len(waiting) * len(near) // AT_ONCE + 1):
                    found = _to_triangles(points[some], self._corners[near])
                    best = found.argmin(axis=1)
                    away[some], faces[some] = found[np.arange(len(some)), best], self._faces[near[best]]
                waiting = waiting[away[waiting] > within]
            within *= 4
        for one in self._rounds:
            own = np.nonzero((faces == one.face) & (away < CHORD))[0]
            if len(own):
                off = _off_round(points[own], one)
                into = off if one.inward else -off  # how far in the part
                deep = np.abs(off) if cut_into is None else np.maximum(into if cut_into else -into, 0.0)
                away[own] = np.minimum(away[own], deep)
        return away, faces


def _off_round(points: Floats, one: RoundFace) -> Floats:
    """Square to the surface, outward: (r − R) cos a − h sin a for a point at r off the axis and h from the apex."""
    off = points - np.array(one.origin)
    axis = np.array(one.axis)
    along = off @ axis
    r = np.linalg.norm(off - along[:, None] * axis, axis=1)
    c, s = np.cos(one.half_angle), np.sin(one.half_angle)
    return np.asarray((r - one.radius) * c - np.abs(along) * s)


def _to_triangles(points: Floats, corners: Floats) -> Floats:
    """Distances, shape (n, m), of points to triangles, shape (m, 3, 3): to the plane inside, else to an edge."""
    a, b, c = corners[:, 0], corners[:, 1], corners[:, 2]
    normal = np.cross(b - a, c - a)
    normal /= np.maximum(np.linalg.norm(normal, axis=1), 1e-300)[:, None]
    height = points @ normal.T - np.einsum("ij,ij->i", a, normal)
    inside = np.ones(height.shape, dtype=bool)
    edges = np.full(height.shape, np.inf)
    for p, q in ((a, b), (b, c), (c, a)):
        way = q - p
        # which side of the edge a point lies on is the same for it and for its foot on the plane
        across = np.cross(normal, way)
        inside &= points @ across.T >= np.einsum("ij,ij->i", p, across)
        length = np.maximum(np.einsum("ij,ij->i", way, way), 1e-300)
        share = np.clip((points @ way.T - np.einsum("ij,ij->i", p, way)) / length, 0, 1)
        gap = points[:, None, :] - p - share[:, :, None] * way
        edges = np.minimum(edges, np.sqrt(np.einsum("ijk,ijk->ij", gap, gap)))
    return np.where(inside, np.abs(height), edges)
