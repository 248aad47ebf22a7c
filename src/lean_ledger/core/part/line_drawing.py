"""Line drawings of large parts from their mesh: sharp edges and outlines, tried for visibility piece by piece.

The kernel's exact hidden-line algorithm grows with the square of the faces; this one with the pieces of line.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Sequence
from functools import partial

import numpy as np
import shapely
from numpy.typing import NDArray

from lean_ledger.core.features.sight import Sight
from lean_ledger.core.geometry.model import Bend, Curve, Drawing, Edge, Mesh, Solid, Surface, Vec
from lean_ledger.core.geometry.vectors import cross
from lean_ledger.core.geometry.views import axis_views, isometric_views

PIECES = 60  # that the part's greatest size is divided into at the most, to see where a line goes behind something
GRID = 2e-3  # mm to which lines count as one
FLAT = 1 / 2000  # of the greatest size that a chord may stray from its arc
OFF = 0.15  # mm from a line towards the eye that sight begins: above the mesh's own error

Floats = NDArray[np.float64]
Polylines = tuple[tuple[tuple[float, float], ...], ...]


def mesh_drawings(solid: Solid) -> Sequence[Callable[[], Drawing]]:
    """Makes the part as it is seen along its six axes and, without what is hidden, isometrically above each of its six
    sides.
    """
    sight = Sight(solid.mesh)
    edges = _sharp_runs(solid)
    folds = _Folds(solid)
    axes = [partial(_drawing, sight, edges, folds, *view, dashed=True) for view in axis_views()]
    return axes + [partial(_drawing, sight, edges, folds, *view, dashed=False) for view in isometric_views()]


def _drawing(sight: Sight, edges: list[Floats], folds: _Folds, view: Vec, right: Vec, *, dashed: bool) -> Drawing:
    runs = [*edges, *folds.outline(view)]
    starts = np.concatenate([run[:-1] for run in runs])
    ends = np.concatenate([run[1:] for run in runs])
    hidden = sight.hidden((starts + ends) / 2 + OFF * np.array(view), view)
    plane = np.array([right, cross(view, right)]).T
    shown: list[Floats] = []
    behind: list[Floats] = []
    at = 0
    for run in runs:
        flat = run @ plane
        states = hidden[at : at + len(run) - 1]
        at += len(states)
        begin = 0
        for k in range(1, len(states) + 1):
            if k == len(states) or states[k] != states[begin]:
                if dashed or not states[begin]:
                    (behind if states[begin] else shown).append(flat[begin : k + 1])
                begin = k
    return Drawing(view, right, _tidy(shown), _tidy(behind))


def _tidy(lines: list[Floats]) -> Polylines:
    """Joined end to end, straight runs without their inner points; what lies on one another once."""
    if not lines:
        return ()
    pieces = [shapely.LineString(line) for line in lines if len(line) > 1]
    merged = shapely.line_merge(shapely.union_all(pieces, grid_size=GRID))
    found = set()
    for piece in shapely.get_parts(shapely.simplify(merged, GRID, preserve_topology=False)):
        points = tuple((round(float(x), 3), round(float(y), 3)) for x, y in piece.coords)
        if len(set(points)) > 1:
            found.add(min(points, points[::-1]))
    return tuple(sorted(found))


def _sharp_runs(solid: Solid) -> list[Floats]:
    """The sharp edges as polylines of pieces short enough to be seen or hidden as a whole."""
    longest = max(solid.bounds.size) / PIECES
    runs = []
    for edge in solid.edges:
        if edge.bend not in (Bend.CONVEX, Bend.CONCAVE):
            continue
        points = np.array(edge.points)[_kept(edge, longest * PIECES * FLAT)]
        pieces = [points[:1]]
        for a, b in itertools.pairwise(points):
            count = max(1, int(np.ceil(np.linalg.norm(b - a) / longest)))
            pieces.append(a + (b - a) * np.linspace(0, 1, count + 1)[1:, None])
        runs.append(np.concatenate(pieces))
    return runs


def _kept(edge: Edge, sag: float) -> list[int]:
    """Which of an edge's points are drawn: of a small circle fewer than a close look would need."""
    last = len(edge.points) - 1
    stride = 1
    if edge.curve == Curve.CIRCLE and edge.radius > sag and last > 0:
        stride = max(1, int(2 * np.arccos(1 - sag / edge.radius) * edge.radius / (edge.length / last)))
    return [*range(0, last, stride), last]


class _Folds:
    """The mesh edges inside of curved faces, where outlines come from."""

    def __init__(self, solid: Solid) -> None:
        mesh: Mesh = solid.mesh
        curved = np.array([face.surface != Surface.PLANE for face in solid.faces])
        triangles = np.array(mesh.triangles, dtype=int).reshape(-1, 3)
        triangles = triangles[curved[np.array(mesh.faces, dtype=int)]] if len(triangles) else triangles
        self._vertices: Floats = np.array(mesh.vertices, dtype=float).reshape(-1, 3)
        corners = self._vertices[triangles]
        normals = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
        self._normals: Floats = normals / np.maximum(np.linalg.norm(normals, axis=1), 1e-12)[:, None]
        _, welded = np.unique(np.round(self._vertices, 3), axis=0, return_inverse=True)  # across a round face's seam
        triangles = welded.reshape(-1)[triangles]
        self._places = np.zeros((len(self._vertices), 3))
        self._places[welded.reshape(-1)] = self._vertices
        sides = np.concatenate([triangles[:, [0, 1]], triangles[:, [1, 2]], triangles[:, [2, 0]]])
        owners = np.tile(np.arange(len(triangles)), 3)
        sides = np.sort(sides, axis=1)
        order = np.lexsort((sides[:, 1], sides[:, 0]))
        sides, owners = sides[order], owners[order]
        same = (sides[1:] == sides[:-1]).all(axis=1) if len(sides) else np.zeros(0, dtype=bool)
        self._pairs = np.column_stack([owners[:-1][same], owners[1:][same]])
        self._sides = sides[:-1][same]

    def outline(self, view: Vec) -> list[Floats]:
        """The mesh edges between a triangle that faces the eye and one that does not."""
        facing = self._normals @ np.array(view) > 1e-3
        turning = facing[self._pairs[:, 0]] != facing[self._pairs[:, 1]]
        return list(self._places[self._sides[turning]])
