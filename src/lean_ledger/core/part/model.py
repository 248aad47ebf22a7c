"""What is computed once from a part's model, whatever plan is made for it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient

from lean_ledger.core.control.foreign import ForeignProgram
from lean_ledger.core.features import Feature, recognise
from lean_ledger.core.features.patches import PatchedSolid, patch_up
from lean_ledger.core.features.planar import patch_rings
from lean_ledger.core.features.turned import Axis
from lean_ledger.core.geometry.flat import largest
from lean_ledger.core.geometry.model import PartModel, Solid, Surface
from lean_ledger.core.geometry.near_net import NearNet
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.geometry.vectors import SIX, Vec, dot
from lean_ledger.core.geometry.views import RIGHT, back_of
from lean_ledger.core.revisions.match import FeaturePair

#: Goes up when recognition changes, so that stored analyses are made again.
ANALYSIS_VERSION = 7

Point = tuple[float, float]


@dataclass(frozen=True)
class Silhouette:
    """The part's shadow along a direction, outside boundary only, in the direction's (right, back) plane."""

    direction: Vec
    ring: tuple[Point, ...]


@dataclass(frozen=True)
class Part:
    """A solid with its features and silhouettes; pure data, stored under the hash of its file."""

    version: int
    model: PartModel
    features: tuple[Feature, ...]
    axis: Axis | None  # of a rotational part
    silhouettes: tuple[Silhouette, ...]
    revision: str = "A"
    newest: str = "A"  # the newest revision of the job
    since: tuple[
        FeaturePair, ...
    ] = ()  # what became of the features since the revision before, by their ids in the plan
    near_net: NearNet | None = None  # the plan's stock, where it is a model of its own
    programs: tuple[ForeignProgram, ...] = ()  # that the plan has setups or operations timed by

    @cached_property
    def by_id(self) -> dict[str, Feature]:
        return {feature.id: feature for feature in self.features}

    def silhouette(self, direction: Vec) -> Silhouette:
        return max(self.silhouettes, key=lambda s: dot(s.direction, direction))


def analyse(model: PartModel, report: Report = silent) -> Part:
    """Recognise the features of a solid and draw its shadow along the six axes."""
    body = patch_up(model.solid)
    silhouettes = []
    for direction in SIX:
        report("drawing the outline", 0.93)
        silhouettes.append(_silhouette(body, direction))
    found = recognise(model.solid, report)
    return Part(ANALYSIS_VERSION, model, found.features, found.axis, tuple(silhouettes))


def _silhouette(body: PatchedSolid, direction: Vec) -> Silhouette:
    """Union of all that faces the direction: flat faces by their exact outlines, round ones by their mesh."""
    right, back = RIGHT[direction], back_of(direction, RIGHT[direction])
    solid = body.solid
    pieces: list[BaseGeometry] = []
    flat_faces: set[int] = set()
    for patch in body.planes:
        flat_faces.update(patch.face_indexes)
        if dot(patch.axis, direction) > 1e-4:
            rings, _ = patch_rings(solid, patch)
            outer, *inner = ([(dot(p, right), dot(p, back)) for p in ring] for ring in rings)
            pieces.append(Polygon(outer, inner).buffer(0))
    # the wall of a round hole never stands out of the shadow of what it is bored into
    bored = {f for p in body.patches if p.full_turn and p.face.inward for f in p.face_indexes}
    pieces.append(_round_shadow(solid, flat_faces | bored, direction, right, back))
    shadow = shapely.union_all([piece.buffer(1e-4) for piece in pieces if not piece.is_empty]).buffer(-1e-4)
    ring = orient(largest(Polygon(largest(shadow).exterior).simplify(0.003))).exterior.coords
    return Silhouette(direction, tuple((round(x, 5), round(y, 5)) for x, y in ring[:-1]))


def _round_shadow(solid: Solid, without: set[int], direction: Vec, right: Vec, back: Vec) -> BaseGeometry:
    rounds = {face.index for face in solid.faces if face.surface != Surface.PLANE} - without
    chosen = [t for t, owner in zip(solid.mesh.triangles, solid.mesh.faces, strict=True) if owner in rounds]
    if not chosen:
        return Polygon()
    corners = np.array(solid.mesh.vertices)[np.array(chosen)]
    normal = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    facing = normal @ np.array(direction) > 1e-3 * np.linalg.norm(normal, axis=1)
    plane = corners[facing] @ np.array([right, back]).T
    if len(plane) == 0:
        return Polygon()
    return shapely.union_all(shapely.polygons(plane), grid_size=1e-5)
