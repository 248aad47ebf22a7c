"""How far points are from a part's surface, and from which face of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from lean_ledger.core.geometry.model import Mesh, Vec

Floats = NDArray[np.float64]

LEAST = 1e-9  # mm², twice a triangle's area, below which it is none
CHORD = 0.3  # mm that triangles may lie off a round face
NEAR = 0.5  # mm around the points that triangles are looked for first
AT_ONCE = 100  # points whose triangles are looked for at once: far off the part these may be all of them
PAIRS = 200_000  # of a point and a triangle, whose distance is computed at once


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
        self._normals = sides[proper] / np.linalg.norm(sides[proper], axis=1, keepdims=True)
        self._low = self._corners.min(axis=1)
        self._high = self._corners.max(axis=1)
        # a tree is built when it is first asked
        self._tree = shapely.STRtree(shapely.box(*self._low[:, :2].T, *self._high[:, :2].T))

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
            for some in np.array_split(waiting, len(waiting) // AT_ONCE + 1):
                of, near = self._near(points[some], within)
                parts = len(of) // PAIRS + 1
                gaps = np.concatenate([
                    self._gaps(points[some[a]], b)
                    for a, b in zip(np.array_split(of, parts), np.array_split(near, parts), strict=True)
                ])  # fmt: skip
                order = np.lexsort((near, gaps, of))
                first = order[np.unique(of[order], return_index=True)[1]]
                away[some[of[first]]], faces[some[of[first]]] = gaps[first], self._faces[near[first]]
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

    def _near(self, points: Floats, within: float) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """Pairs of a point and a triangle that may be so near: whose box is, and whose plane."""
        low, high = points - within, points + within
        of, near = self._tree.query(shapely.box(*low[:, :2].T, *high[:, :2].T))
        level = (self._low[near, 2] <= high[of, 2]) & (self._high[near, 2] >= low[of, 2])
        of, near = of[level], near[level]
        off = np.abs(_dot(points[of] - self._corners[near, 0], self._normals[near]))
        return of[off <= within], near[off <= within]

    def _gaps(self, points: Floats, triangles: NDArray[np.intp]) -> Floats:
        """How far each point is from its triangle, both of shape (n,): to the plane inside, else to an edge."""
        corners, normal = self._corners[triangles], self._normals[triangles]
        inside = np.ones(len(points), dtype=bool)
        edges = np.full(len(points), np.inf)
        for i in range(3):
            way, off = corners[:, (i + 1) % 3] - corners[:, i], points - corners[:, i]
            # which side of the edge a point lies on is the same for it and for its foot on the plane
            inside &= _dot(off, np.cross(normal, way)) >= 0
            share = np.clip(_dot(off, way) / _dot(way, way), 0, 1)
            edges = np.minimum(edges, np.linalg.norm(off - share[:, None] * way, axis=1))
        return np.where(inside, np.abs(_dot(points - corners[:, 0], normal)), edges)


def _off_round(points: Floats, one: RoundFace) -> Floats:
    """Square to the surface, outward: (r − R) cos a − h sin a for a point at r off the axis and h from the apex."""
    off = points - np.array(one.origin)
    axis = np.array(one.axis)
    along = off @ axis
    r = np.linalg.norm(off - along[:, None] * axis, axis=1)
    c, s = np.cos(one.half_angle), np.sin(one.half_angle)
    return np.asarray((r - one.radius) * c - np.abs(along) * s)


def _dot(a: Floats, b: Floats) -> Floats:
    """Of rows, shape (n,)."""
    return np.asarray(np.einsum("ij,ij->i", a, b))
