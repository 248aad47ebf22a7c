"""What is seen from where, tried on the tessellated part by parallel rays."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from lean_ledger.core.geometry.model import Mesh, Vec

Floats = NDArray[np.float64]

CLEAR = 0.09  # mm that a ray starts off the surface: above the mesh's own error
SAMPLES = 16  # triangles tried per feature face
FEW = 0.1  # share of the points that may be blocked by the mesh's own error
STEP_ASIDE = 0.1  # mm
ASKEW: Vec = (0.2341, 0.3917, 0.8898)  # a direction along which no part is built


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
        self._owners = owners
        self._highest: dict[Vec, float] = {}
        self._trees: dict[tuple[Vec, bool], tuple[shapely.STRtree, Floats, Floats, NDArray[np.intp]]] = {}

    def reached(self, faces: Iterable[int], directions: Sequence[Vec], facing: float | None = None) -> tuple[Vec, ...]:
        """Those of `directions` along which all of the faces are seen from outside.

        With `facing`, faces have to look towards the direction by that cosine, or all of them along it.
        """
        points, normals = self._samples(faces)
        if len(points) == 0:
            return ()
        if facing is not None:
            looks = [(d, normals @ np.array(d)) for d in directions]
            directions = [d for d, look in looks if look.min() > facing or np.abs(look).max() < 1e-3]
        return tuple(d for d in directions if self._all_free(points, normals, d))

    def free(self, points: Sequence[Vec], direction: Vec) -> bool:
        """Whether all of these points, given in free space, see out along a direction."""
        at = np.array(points, dtype=float)
        return self._unblocked(at, np.array(direction), direction)

    def blockers(self, points: Sequence[Vec], direction: Vec) -> tuple[int, ...]:
        """Faces that stand between these points and the outside along a direction."""
        at = np.array(points, dtype=float).reshape(-1, 3)
        _, triangles = self._crossings(at, np.array(direction), direction)
        return tuple(sorted({int(f) for f in self._owners[triangles]}))

    def first_met(self, points: Sequence[Vec], direction: Vec) -> tuple[int, ...]:
        """The faces that these points come to first along a direction."""
        at, d = np.array(points, dtype=float).reshape(-1, 3), np.array(direction)
        origins, triangles = self._crossings(at, d, direction)
        normals = self._normals[triangles]
        away = np.einsum("ij,ij->i", normals, self._corners[triangles][:, 0] - at[origins]) / (normals @ d)
        order = np.lexsort((away, origins))
        _, first = np.unique(origins[order], return_index=True)
        return tuple(sorted({int(f) for f in self._owners[triangles[order][first]]}))

    def points_on(self, faces: Iterable[int]) -> list[Vec]:
        """Points spread over some faces, just off the surface."""
        points, _ = self._samples(faces)
        return [(float(x), float(y), float(z)) for x, y, z in points]

    def inside(self, points: Sequence[Vec] | Floats) -> NDArray[np.bool_]:
        """Which of the points lie in the material: from there a ray crosses the surface an odd number of times."""
        at = np.array(points, dtype=float).reshape(-1, 3)
        origins, _ = self._crossings(at, np.array(ASKEW), ASKEW)
        return np.asarray(np.bincount(origins, minlength=len(at)) % 2 == 1)

    def hidden(self, points: Floats, direction: Vec) -> NDArray[np.bool_]:
        """Which of the points something stands before, seen from far along a direction."""
        found = np.zeros(len(points), dtype=bool)
        # whatever stands before a point, its last surface looks to the eye
        found[self._crossings(points, np.array(direction), direction, facing=True)[0]] = True
        return found

    def highest(self, direction: Vec) -> float:
        """The greatest coordinate of the part along a direction."""
        if direction not in self._highest:
            self._highest[direction] = float((self._vertices @ np.array(direction)).max(initial=0.0))
        return self._highest[direction]

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
        # a thin triangle on a wall's chord may lean over a little: whether more stands over it the ray tells
        if ((normals @ d) < -0.02).mean() > FEW:
            return False
        return self._unblocked(points, d, direction)

    def _unblocked(self, points: Floats, d: Floats, direction: Vec) -> bool:
        blocked = np.unique(self._crossings(points, d, direction)[0])
        if len(blocked) == 0:
            return True
        if len(blocked) > FEW * len(points):
            return False
        # chords of a curved wall may stand in the way of a point right beside it: a shade aside it must be free
        basis = _basis(d)
        aside = np.concatenate([points[blocked] + STEP_ASIDE * step for step in (*basis, *-basis)])
        stopped = np.zeros(len(aside), dtype=bool)
        stopped[self._crossings(aside, d, direction)[0]] = True
        still = stopped | self.inside(aside)
        return not bool(still.reshape(4, -1).all(axis=0).any())

    def _crossings(
        self, points: Floats, d: Floats, direction: Vec, *, facing: bool = False
    ) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """(point, triangle) for each triangle, or each that looks that way, that the ray from a point along a direction
        goes through.
        """
        tree, flat, plane, numbers = self._tree(direction, facing=facing)
        at = points @ _basis(d).T
        hits = tree.query(shapely.points(at))
        triangle = hits[1]
        normal, offset = plane[triangle, :3], plane[triangle, 3]
        distance = (offset - np.einsum("ij,ij->i", normal, points[hits[0]])) / (normal @ d)
        through = _inside(at[hits[0]], flat[triangle]) & (distance > 1e-6)
        return hits[0][through], numbers[triangle[through]]

    def _tree(self, direction: Vec, *, facing: bool) -> tuple[shapely.STRtree, Floats, Floats, NDArray[np.intp]]:
        if (direction, facing) not in self._trees:
            looks = self._normals @ np.array(direction)
            # triangles along the ray cannot stop it, their neighbours do
            numbers = np.nonzero((looks if facing else np.abs(looks)) > 1e-4)[0]
            d = np.array(direction)
            flat = self._corners[numbers] @ _basis(d).T
            low, high = flat.min(axis=1), flat.max(axis=1)
            tree = shapely.STRtree(shapely.box(low[:, 0], low[:, 1], high[:, 0], high[:, 1]))
            normal = self._normals[numbers]
            offset = np.einsum("ij,ij->i", normal, self._corners[numbers][:, 0])
            self._trees[direction, facing] = (tree, flat, np.column_stack([normal, offset]), numbers)
        return self._trees[direction, facing]


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
