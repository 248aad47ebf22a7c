"""The outside of a part: flat faces, the outline, and what is left."""

from __future__ import annotations

from lean_ledger.core.features.model import Contour, FreeSurface, Hole, OuterFace
from lean_ledger.core.features.patches import PatchedSolid
from lean_ledger.core.features.planar import patch_rings
from lean_ledger.core.features.walls import Recess
from lean_ledger.core.geometry.model import Surface, Vec
from lean_ledger.core.geometry.vectors import SIX, dot, parallel


def main_direction(body: PatchedSolid, holes: list[Hole], recesses: list[Recess]) -> Vec:
    """The direction that carries most machining: by removed volume, then the side the part is thinnest along."""
    size = body.solid.bounds.size
    weight = dict.fromkeys(SIX, 0.0)
    for feature in (*holes, *recesses):
        for d in SIX:
            along = dot(feature.direction, d)
            if along > 0.999 or (along < -0.999 and getattr(feature, "through", False)):
                weight[d] += feature.volume
    thin = {d: size[max(range(3), key=lambda i: abs(d[i]))] for d in SIX}
    return max(SIX, key=lambda d: (round(weight[d], 3), -thin[d]))


def find_outside(
    body: PatchedSolid, used: set[int], upright: Vec
) -> tuple[list[OuterFace | Contour | FreeSurface], set[int]]:
    found: list[OuterFace | Contour | FreeSurface] = []
    taken: set[int] = set()
    walls = []
    for patch in body.patches:
        if patch.index in used:
            continue
        if patch.surface == Surface.PLANE:
            rings, _ = patch_rings(body.solid, patch)
            faces = tuple(patch.face_indexes)
            found.append(OuterFace("", faces, (), 0.0, patch.axis, round(patch.area, 4), tuple(rings)))
            taken.add(patch.index)
        elif patch.surface == Surface.CYLINDER and parallel(patch.axis, upright, 1e-3):
            walls.append(patch)
            taken.add(patch.index)
        else:
            found.append(FreeSurface("", tuple(patch.face_indexes), (), 0.0, round(patch.area, 4)))
            taken.add(patch.index)
    if walls:
        low = min(w.extent(upright)[0] for w in walls)
        high = max(w.extent(upright)[1] for w in walls)
        length = sum(w.span * w.face.radius for w in walls)
        faces = tuple(sorted(f for w in walls for f in w.face_indexes))
        found.append(Contour("", faces, (), 0.0, upright, round(high - low, 6), round(length, 4)))
    return found, taken
