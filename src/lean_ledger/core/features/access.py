"""From where a straight tool reaches a feature, tried on the tessellated part by parallel rays."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from lean_ledger.core.geometry.model import Mesh, Vec

Floats = NDArray[np.float64]

CLEAR = 0.03  # mm that a ray starts off the surface: above the mesh's own error
SAMPLES = 16  # triangles tried per feature face


class Sight:
    """Answers which points of the part's surface see out along a direction."""

    def __init__(self, mesh: Mesh) -> None:
        self._vertices: Floats = np.array(mesh.vertices, dtype=float).reshape(-1, 3)
        self._triangles = np.array(mesh.triangles, dtype=int).reshape(-1, 3)
        owners = np.array(mesh.faces, dtype=int)
        corners = self._vertices[self._triangles]
        cross = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
        length = np.linalg.norm(cross, axis=1)
        keep = length > 1e-9
        self._corners: Floats = corners[keep]
        self._normals: Floats = cross[keep] / length[keep, None]
        self._areas: Floats = length[keep] / 2
        owners = owners[keep]
        order = np.argsort(owners, kind="stable")
        starts = np.searchsorted(owners[order], np.arange(owners.max(initial=-1) + 2))
        self._of_face = [order[starts[i] : starts[i + 1]] for i in range(len(starts) - 1)]
        self._trees: dict[Vec, tuple[shapely.STRtree, Floats, Floats]] = {}

    def reached(self, faces: Iterable[int], directions: Sequence[Vec]) -> tuple[Vec, ...]:
        """Those of `directions` along which all of the faces are seen from outside."""
        points, normals = self._samples(faces)
        if len(points) == 0:
            return ()
        return tuple(d for d in directions if self._all_free(points, normals, d))

    def free(self, points: Sequence[Vec], direction: Vec) -> bool:
        """Whether all of these points, given in free space, see out along a direction."""
        at = np.array(points, dtype=float)
        return self._unblocked(at, np.array(direction), direction)

    def _samples(self, faces: Iterable[int]) -> tuple[Floats, Floats]:
        points, normals = [], []
        for face in faces:
            if face >= len(self._of_face) or len(self._of_face[face]) == 0:
                continue
            triangles = self._of_face[face]
            step = max(1, len(triangles) // SAMPLES)
            largest = triangles[np.argsort(-self._areas[triangles], kind="stable")[:SAMPLES]]
            chosen = np.unique(np.concatenate([triangles[::step], largest]))
            corners, normal = self._corners[chosen], self._normals[chosen]
            middle = corners.mean(axis=1)
            points.append(middle + CLEAR * normal)
            normals.append(normal)
            for i in range(3):
                points.append(0.94 * corners[:, i] + 0.06 * middle + CLEAR * normal)
                normals.append(normal)
        if not points:
            return np.empty((0, 3)), np.empty((0, 3))
        return np.concatenate(points), np.concatenate(normals)

    def _all_free(self, points: Floats, normals: Floats, direction: Vec) -> bool:
        d = np.array(direction)
        if (normals @ d).min() < -0.02:
            return False
        return self._unblocked(points, d, direction)

    def _unblocked(self, points: Floats, d: Floats, direction: Vec) -> bool:
        tree, flat, plane = self._tree(direction)
        basis = _basis(d)
        queries = shapely.points(points @ basis.T)
        hits = tree.query(queries)
        if hits.shape[1] == 0:
            return True
        at = points[hits[0]] @ basis.T
        triangle = hits[1]
        inside = _inside(at, flat[triangle])
        if not inside.any():
            return True
        normal, offset = plane[triangle, :3], plane[triangle, 3]
        origin = points[hits[0]]
        distance = (offset - np.einsum("ij,ij->i", normal, origin)) / (normal @ d)
        return not bool((inside & (distance > 1e-6)).any())

    def _tree(self, direction: Vec) -> tuple[shapely.STRtree, Floats, Floats]:
        if direction not in self._trees:
            d = np.array(direction)
            # triangles along the ray cannot stop it, their neighbours do
            numbers = np.nonzero(np.abs(self._normals @ d) > 1e-4)[0]
            flat = self._corners[numbers] @ _basis(d).T
            low, high = flat.min(axis=1), flat.max(axis=1)
            tree = shapely.STRtree(shapely.box(low[:, 0], low[:, 1], high[:, 0], high[:, 1]))
            normal = self._normals[numbers]
            offset = np.einsum("ij,ij->i", normal, self._corners[numbers][:, 0])
            self._trees[direction] = (tree, flat, np.column_stack([normal, offset]))
        return self._trees[direction]


def _basis(direction: Floats) -> Floats:
    helper = np.array([1.0, 0, 0]) if abs(direction[0]) < 0.9 else np.array([0, 1.0, 0])
    u = np.cross(helper, direction)
    u /= np.linalg.norm(u)
    return np.array([u, np.cross(direction, u)])


def _inside(points: Floats, triangles: Floats) -> NDArray[np.bool_]:
    """Whether each 2D point lies in its triangle, borders left out."""
    a, b, c = triangles[:, 0], triangles[:, 1], triangles[:, 2]

    def side(p: Floats, q: Floats) -> Floats:
        return (q[:, 0] - p[:, 0]) * (points[:, 1] - p[:, 1]) - (q[:, 1] - p[:, 1]) * (points[:, 0] - p[:, 0])

    one, two, three = side(a, b), side(b, c), side(c, a)
    all_left = (one > 1e-9) & (two > 1e-9) & (three > 1e-9)
    all_right = (one < -1e-9) & (two < -1e-9) & (three < -1e-9)
    return all_left | all_right
