"""Planning bodies: material that the plan adds to the part to hold it by, and what that does to the part as planned."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import cos, pi, sin

import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient

from lean_ledger.core.features import Feature, Hole, OuterFace, Turned, flat_side
from lean_ledger.core.features.planar import frame, lift, polygon_of
from lean_ledger.core.geometry.flat import largest
from lean_ledger.core.geometry.model import Bounds, Mesh
from lean_ledger.core.geometry.vectors import Vec, add, dot, same_way, scale
from lean_ledger.core.geometry.views import RIGHT, back_of
from lean_ledger.core.part.model import Part, Silhouette
from lean_ledger.core.plan import Plan, PlanningBody

ROUND = 48  # sides that stand for a circle


@dataclass(frozen=True)
class AddedBody:
    """A prism in part coordinates: the ring that it stands on, how far it goes, and which way."""

    id: str
    ring: tuple[Vec, ...]
    up: Vec
    height: float
    words: str

    @property
    def corners(self) -> tuple[Vec, ...]:
        return (*self.ring, *(add(p, scale(self.up, self.height)) for p in self.ring))

    @property
    def mesh(self) -> Mesh:
        """Its triangles, outward; the ring runs with its inside on the left seen from above."""
        n = len(self.ring)
        sides = [t for i in range(n) for t in ((i, (i + 1) % n, n + i), ((i + 1) % n, n + (i + 1) % n, n + i))]
        caps = [t for i in range(1, n - 1) for t in ((0, i + 1, i), (n, n + i, n + i + 1))]
        return Mesh(self.corners, tuple(sides + caps), (0,) * (len(sides) + len(caps)))


def placed_bodies(part: Part, plan: Plan) -> tuple[AddedBody, ...]:
    """The bodies that the plan adds, where they stand; one whose side is gone stands nowhere and is left out."""
    found = []
    for body in plan.bodies:
        side = flat_side(part.by_id[body.on]) if body.on in part.by_id else None
        if side is not None and side.region:
            found.append(_placed(body, side))
    return tuple(found)


def plugs(part: Part, plan: Plan) -> tuple[AddedBody, ...]:
    """What fills the holes that the plan leaves out for now."""
    filled = [part.by_id[left.feature] for left in plan.left_out
              if left.reason == "filled for now" and left.feature in part.by_id]  # fmt: skip
    return tuple(_plug(hole) for hole in filled if isinstance(hole, Hole))


def _placed(body: PlanningBody, side: OuterFace | Turned) -> AddedBody:
    normal = side.normal
    middle = polygon_of(side.region[:1], normal).centroid
    centre = lift([(middle.x, middle.y)], dot(side.region[0][0], normal), normal)[0]
    x, y = body.u, body.v
    if body.kind == "boss":
        flat = _circle(x, y, body.length / 2)
        size = f"Ø{body.length:g} × {body.height:g}"
    else:
        a, b = body.length / 2, body.width / 2
        flat = [(x - a, y - b), (x + a, y - b), (x + a, y + b), (x - a, y + b)]
        size = f"{body.length:g} × {body.width:g} × {body.height:g}"
    right, back = _side_frame(normal)
    ring = tuple(add(centre, add(scale(right, a), scale(back, b))) for a, b in flat)
    return AddedBody(body.id, ring, normal, body.height, f"{body.kind} {size} on {body.on}")


def _side_frame(normal: Vec) -> tuple[Vec, Vec]:
    """Right and back on a side, as its setup has them; level and upright on the sides around."""
    for direction, right in RIGHT.items():
        if same_way(direction, normal):
            return right, back_of(normal, right)
    return frame(normal)


def _plug(hole: Hole) -> AddedBody:
    up = hole.direction
    u, v = frame(up)
    foot = add(hole.position, scale(hole.axis, hole.depth))
    ring = tuple(add(foot, add(scale(u, x), scale(v, y))) for x, y in _circle(0, 0, hole.diameter / 2))
    return AddedBody(hole.id, ring, up, hole.depth, f"{hole.id} filled")


def _circle(x: float, y: float, radius: float) -> list[tuple[float, float]]:
    return [(x + radius * cos(2 * pi * k / ROUND), y + radius * sin(2 * pi * k / ROUND)) for k in range(ROUND)]


def planned_part(part: Part, plan: Plan) -> Part:
    """The part as this plan machines it: bodies count in its bounds, its shadows and the sides that they stand on.

    A body counts over the whole height of the outline that goes around it, as its shadow does.
    """
    bodies = placed_bodies(part, plan)
    if not bodies:
        return part
    points = [p for body in bodies for p in body.corners]
    old = part.model.solid.bounds
    bounds = Bounds(_extreme(min, [old.min, *points]), _extreme(max, [old.max, *points]))
    model = replace(part.model, solid=replace(part.model.solid, bounds=bounds))
    silhouettes = tuple(_joined(silhouette, bodies) for silhouette in part.silhouettes)
    on = {body.id: body.on for body in plan.bodies}
    features = tuple(
        _cleared(feature, [body for body in bodies if on[body.id] == feature.id]) for feature in part.features
    )
    return replace(part, model=model, silhouettes=silhouettes, features=features)


def _extreme(best: object, points: Sequence[Vec]) -> Vec:
    xs, ys, zs = zip(*points, strict=True)
    return (best(xs), best(ys), best(zs))  # type: ignore[operator]


def _joined(silhouette: Silhouette, bodies: Sequence[AddedBody]) -> Silhouette:
    right = RIGHT[silhouette.direction]
    back = back_of(silhouette.direction, right)
    shadows = [shapely.MultiPoint([(dot(p, right), dot(p, back)) for p in body.corners]).convex_hull for body in bodies]
    whole = shapely.union_all([Polygon(silhouette.ring).buffer(1e-4), *(s.buffer(1e-4) for s in shadows)]).buffer(-1e-4)
    ring = orient(largest(Polygon(largest(whole).exterior).simplify(0.003))).exterior.coords
    return Silhouette(silhouette.direction, tuple((round(x, 5), round(y, 5)) for x, y in ring[:-1]))


def _cleared(feature: Feature, bodies: Sequence[AddedBody]) -> Feature:
    """A side without the footprints of what stands on it."""
    side = flat_side(feature)
    if side is None or not bodies:
        return feature
    level = dot(side.region[0][0], side.normal)
    left: BaseGeometry = polygon_of(side.region, side.normal)
    for body in bodies:
        left = left.difference(polygon_of((body.ring,), side.normal))
    area = largest(left)
    rings = [area.exterior, *area.interiors]
    region = tuple(lift(list(ring.coords)[:-1], level, side.normal) for ring in rings)
    return replace(side, region=region, area=round(area.area, 4))
