"""The outer half-section of a rotational part, and what of it a turning tool reaches from one end.

A chain is a polyline of (z, r), z along the end that stands free, from that end inwards: z never rises along it.
"""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise

import shapely
from shapely.geometry import Point, Polygon, box
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient

from lean_ledger.core.basis.same import Same
from lean_ledger.core.features import Chamfer, Feature, Fillet, FreeSurface, Hole, OuterFace, Turned
from lean_ledger.core.features.turned import Axis
from lean_ledger.core.geometry.flat import largest
from lean_ledger.core.geometry.model import Face, Solid, Surface
from lean_ledger.core.geometry.vectors import Vec, dot, parallel
from lean_ledger.core.part.model import Part

Profile = tuple[tuple[float, float], ...]

SAME = 0.02  # mm within which a wall counts as reached
FAR = 1e4


def outer_chain(part: Part, up: Vec) -> Profile:
    """The part's own, from the faces around its axis. Empty for a part without one along `up`."""
    if part.axis is None or not parallel(part.axis.direction, up, 1e-3):
        return ()
    return _outer_chain(Same(part.model.solid), part.axis, up)


@lru_cache(maxsize=64)
def _outer_chain(key: Same[Solid], axis: Axis, up: Vec) -> Profile:
    solid = key.value
    pieces = [_piece(solid, face, axis, up) for face in solid.faces if not face.inward]
    whole = shapely.union_all([p.buffer(0) for p in pieces if p is not None])
    return chain_of(whole)


def _piece(solid: Solid, face: Face, axis: Axis, up: Vec) -> BaseGeometry | None:
    """What stands between a face of the outside and the axis; None for one that looks along the axis."""
    if face.surface == Surface.PLANE and abs(dot(face.axis, up)) > 0.999:
        return None
    edges = [p for loop in face.loops for i, _ in loop.edges for p in solid.edges[i].points]
    coaxial = face.surface != Surface.PLANE and parallel(face.axis, up, 1e-3) and axis.radius(face.origin) < SAME
    if face.surface == Surface.CYLINDER and coaxial:
        zs = [dot(p, up) for p in edges]
        return box(min(zs), 0.0, max(zs), face.radius)
    if face.surface == Surface.PLANE and abs(dot(face.axis, up)) < SAME:
        # a flat along the axis is widest on its edges, and not as wide all along
        lines = [[(dot(p, up), axis.radius(p)) for p in solid.edges[i].points] for loop in face.loops
                 for i, _ in loop.edges]  # fmt: skip
        under = [Polygon([(a[0], 0.0), a, b, (b[0], 0.0)]) for line in lines for a, b in pairwise(line)
                 if abs(a[0] - b[0]) > SAME]  # fmt: skip
        return shapely.union_all([one.buffer(0) for one in under]) if under else None
    if not coaxial:  # as far as their corners go round
        zs = [dot(p, up) for p in edges]
        return box(min(zs), 0.0, max(zs), max(axis.radius(p) for p in edges))
    points = edges if face.surface == Surface.CONE else [*edges, *_mesh_points(solid, face.index)]
    most: dict[float, float] = {}
    for p in points:
        z = round(dot(p, up), 4)
        most[z] = max(most.get(z, 0.0), axis.radius(p))
    line = sorted(most.items())
    return Polygon([(line[0][0], 0.0), *line, (line[-1][0], 0.0)]) if len(line) > 1 else None


def _mesh_points(solid: Solid, index: int) -> list[Vec]:
    mesh = solid.mesh
    return [mesh.vertices[i] for t, face in zip(mesh.triangles, mesh.faces, strict=True) if face == index for i in t]


def chain_of(section: BaseGeometry) -> Profile:
    """The outer boundary of a half-section that stands on r = 0."""
    ring = list(orient(largest(section)).exterior.coords)[
        :-1
    ]  # counter-clockwise: along r = 0 towards the free end, then back
    start = max(range(len(ring)), key=lambda i: (round(ring[i][0], 6), -ring[i][1]))
    turned = ring[start:] + ring[:start]
    low = min(p[0] for p in ring)
    chain = []
    for z, r in turned:
        chain.append((round(z, 5), round(max(r, 0.0), 5)))
        if z <= low + 1e-6 and r < 1e-6:
            break
    return tuple(chain)


def section_of(chain: Profile) -> Polygon:
    """What lies between a chain and the axis."""
    if len(chain) < 2:
        return Polygon()
    return Polygon([(chain[0][0], 0.0), *chain, (chain[-1][0], 0.0)]).buffer(0)


def reached_chain(chain: Profile) -> Profile:
    """What stays when all that a tool comes at from the free end is turned off: the radius so far, never less."""
    found: list[tuple[float, float]] = []
    most = 0.0
    last: tuple[float, float] | None = None
    for z, r in chain:
        if last is not None and r > most and last[1] < most and z < last[0]:
            share = (most - last[1]) / (r - last[1])
            found.append((round(last[0] + share * (z - last[0]), 5), most))
        most = max(most, r)
        found.append((z, most))
        last = (z, r)
    return tuple(found)


def turned_from(part: Part, feature: Feature, up: Vec) -> bool:
    """Whether a lathe whose spindle's axis is the part's makes a feature from the end that looks along `up`."""
    axis = part.axis
    if axis is None or not parallel(axis.direction, up, 1e-3):
        return False
    if isinstance(feature, Turned):
        if feature.where == "end":
            return dot(feature.direction, up) > 0.999
        return feature.where != "inside" and _free_from(part, feature, up)
    if isinstance(feature, OuterFace):
        return dot(feature.normal, up) > 0.999 and _is_round(part, feature, axis)
    if isinstance(feature, Hole):
        return bool(feature.on_axis) and any(dot(d, up) > 0.999 for d in feature.access)
    if isinstance(feature, Chamfer | Fillet):
        return _goes_round(part, feature, axis) and _free_from(part, feature, up)
    if isinstance(feature, FreeSurface) and not is_inner(part, feature):
        # round about the axis but for flats that its ends run out on: the corners of a nut
        faces = [part.model.solid.faces[f] for f in feature.faces]
        centred = all(axis.radius(face.origin) < SAME for face in faces)
        return (
            centred
            and _goes_round(part, feature, axis)
            and _on_chain(part, feature, up)
            and _free_from(part, feature, up)
        )
    return False


def levels_of(part: Part, feature: Feature, up: Vec) -> tuple[float, float]:
    """Along `up`, of a feature's faces."""
    return _levels(Same(part.model.solid), feature.faces, up)


@lru_cache(maxsize=4096)
def _levels(solid: Same[Solid], faces: tuple[int, ...], up: Vec) -> tuple[float, float]:
    along = [dot(p, up) for p in solid.value.edge_points(faces)]
    return min(along), max(along)


@lru_cache(maxsize=4096)
def _radii(solid: Same[Solid], faces: tuple[int, ...], axis: Axis) -> tuple[float, float]:
    """Least and greatest, off an axis."""
    found = [axis.radius(p) for p in solid.value.edge_points(faces)]
    return min(found), max(found)


def _free_from(part: Part, feature: Feature, up: Vec) -> bool:
    """Nothing nearer to the free end stands out farther; a groove is plunged into from outside."""
    assert part.axis is not None
    low, high = levels_of(part, feature, up)
    chain = outer_chain(part, up)
    if isinstance(feature, Turned) and (feature.where == "groove" or is_neck(part, feature)):
        return True
    if is_inner(part, feature):
        return True
    _, most = _radii(Same(part.model.solid), feature.faces, part.axis)
    before = [r for z, r in chain if z >= high - SAME]
    return max(before, default=0.0) <= most + SAME and high > low - SAME


def _on_chain(part: Part, feature: Feature, up: Vec) -> bool:
    """Whether nothing beside it, at any angle, stands out farther than a wall does."""
    assert part.axis is not None
    whole = section_of(outer_chain(part, up))
    points = part.model.solid.edge_points(feature.faces)
    rim = [Point(dot(p, up), part.axis.radius(p)) for p in points]
    return not whole.is_empty and all(whole.exterior.distance(p) < SAME for p in rim)


def is_neck(part: Part, feature: Feature) -> bool:
    """Whether a cylinder lies between two shoulders that stand out farther: no cut along the axis comes into it, it is
    plunged into from outside as a groove is.
    """
    if not isinstance(feature, Turned) or feature.where != "outside" or part.axis is None or is_inner(part, feature):
        return False
    up = part.axis.direction
    low, high = levels_of(part, feature, up)
    _, own = _radii(Same(part.model.solid), feature.faces, part.axis)
    chain = outer_chain(part, up)
    sides = ([r for z, r in chain if z >= high - SAME], [r for z, r in chain if z <= low + SAME])
    return high > low + SAME and all(max(side, default=0.0) > own + SAME for side in sides)


def is_inner(part: Part, feature: Feature) -> bool:
    """Whether a feature lies inside a bore."""
    return any(part.model.solid.faces[f].inward for f in feature.faces)


def _goes_round(part: Part, feature: Feature, axis: Axis) -> bool:
    faces = [part.model.solid.faces[f] for f in feature.faces]
    rounds = (Surface.CONE, Surface.TORUS, Surface.SPHERE, Surface.REVOLUTION)
    return all(f.surface in rounds and parallel(f.axis, axis.direction, 1e-3) for f in faces)


def _is_round(part: Part, face: OuterFace, axis: Axis) -> bool:
    radii = [axis.radius(p) for p in face.region[0]]
    return max(radii) - min(radii) < SAME
