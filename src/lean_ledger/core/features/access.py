"""From where a straight tool and its holder come to a feature without cutting the finished part."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import cos, pi, radians, sin, tan

from shapely.geometry import MultiPolygon, Polygon

from lean_ledger.core.features.coaxial import canonical
from lean_ledger.core.features.model import Chamfer, Contour, Feature, Hole, OuterFace, Pocket, Slot, Step, Turned
from lean_ledger.core.features.patches import PatchedSolid
from lean_ledger.core.features.planar import frame, lift, polygon_of
from lean_ledger.core.features.sight import Sight
from lean_ledger.core.geometry.model import Solid, Vec
from lean_ledger.core.geometry.vectors import SIX, add, dot, neg, parallel, same_way, scale

MOST_DIRECTIONS = 32  # of a part's own that are tried
REACH = 12.0  # times its width that a tool stands out of its holder, and at least the feature's depth
HOLDER_ANGLE = radians(5)  # of the holder's cone, half
HOLDER_WIDEST = 25.0  # mm of radius, where a holder goes over into the spindle
BROKEN = 0.1  # cosine at which a chamfer mill still breaks an edge with its end
ALONG = 6  # rings tried along the holder


def part_directions(body: PatchedSolid, holes: Sequence[Hole], broken: set[int]) -> tuple[Vec, ...]:
    """The directions that a part's own flat faces look in and its holes run along, and their opposites.

    The ones with most area first, broken edges left out; for a part that has none of its own, the six sides of
    the file's axes.
    """
    weights: list[tuple[Vec, float]] = []
    own = [(patch.axis, patch.area) for patch in body.planes if patch.index not in broken]
    own += [(hole.axis, hole.diameter * hole.depth) for hole in holes]
    for direction, weight in own:
        for i, (d, w) in enumerate(weights):
            if parallel(d, direction, 1e-3):
                weights[i] = (d, w + weight)
                break
        else:
            if len(weights) < 8 * MOST_DIRECTIONS:
                weights.append((direction, weight))
    weights.sort(key=lambda pair: -pair[1])
    lines = [canonical(d) for d, _ in weights[: MOST_DIRECTIONS // 2]]
    return tuple(way for d in lines for way in (d, neg(d))) or SIX


class Reach:
    """Tries the directions from which features are reached."""

    def __init__(self, solid: Solid, sight: Sight, directions: Sequence[Vec]) -> None:
        self._solid = solid
        self._sight = sight
        self._directions = directions

    def tried(self, feature: Feature) -> Feature:
        """The feature with its access, and with the faces in the way where there is none."""
        if isinstance(feature, Turned) and feature.access:
            return feature
        points = _inside_hole(feature) if isinstance(feature, Hole) else None
        candidates = self._candidates(feature)
        if points is not None:
            seen = tuple(d for d in candidates if self._sight.free(points, d))
        elif isinstance(feature, Turned):  # a ring in a bore
            at = [_middle(self._solid, feature)]
            seen = tuple(d for d in candidates if self._sight.free(at, d))
        else:
            seen = self._sight.reached(feature.faces, candidates, BROKEN if isinstance(feature, Chamfer) else None)
        access = tuple(d for d in seen if not self._holder_stopped(feature, d))
        if isinstance(feature, Slot) and feature.form is not None and feature.form.mouth_open:
            ends = feature.form.mouth
            mid = scale(add(add(ends[0], ends[1]), add(ends[2], ends[3])), 0.25)
            if self._sight.free([add(mid, scale(feature.direction, 0.1))], feature.direction):
                feature = replace(feature, form_access=(feature.direction,))
        if access or not candidates:
            return replace(feature, access=access)
        if seen:
            walls: set[int] = set()
            for towards, at in self._holder_stopped(feature, seen[0]).items():
                # between the tool's axis and what stands in its holder's way lies the wall that stops it
                walls.update(self._sight.first_met(at, towards))
            return replace(feature, blocked_by=tuple(sorted(walls - set(feature.faces))))
        tried = points if points is not None else self._sight.points_on(feature.faces)
        own = set(feature.faces)
        blockers = tuple(f for f in self._sight.blockers(tried, candidates[0]) if f not in own)
        return replace(feature, blocked_by=blockers)

    def _candidates(self, feature: Feature) -> list[Vec]:
        """Directions to try, the feature's own first; a hole or a closed recess is only reached along its own."""
        if isinstance(feature, Hole | Contour):
            return [feature.direction, neg(feature.direction)]
        if isinstance(feature, Turned):
            return [feature.direction, neg(feature.direction)]
        if isinstance(feature, Pocket) or (isinstance(feature, Slot) and feature.open_ends == 0):
            return [feature.direction, neg(feature.direction)]
        candidates = list(self._directions)
        if isinstance(feature, OuterFace | Slot | Step):
            own = feature.direction
            # a flat is cut by a tool's end, square to it, or by its flank, along it; slanted it leaves steps
            candidates = [d for d in candidates if abs(dot(d, own)) < 1e-3 or abs(dot(d, own)) > 1 - 1e-6]
            if not any(same_way(own, d) for d in candidates):
                candidates.append(own)
            candidates.sort(key=lambda d: -dot(d, own))
        return candidates

    def _holder_stopped(self, feature: Feature, direction: Vec) -> dict[Vec, list[Vec]]:
        """Points of the holder's cone, above the tool's reach, that lie in the part, by the way to the tool's axis.

        None where it comes in freely.
        """
        width, depth, places = _tool_places(feature, direction)
        if not places:
            return {}
        start = max(depth + 1.0, REACH * width)
        over = self._sight.highest(direction) - min(dot(p, direction) for p in places)
        if over <= start:
            return {}
        u, v = frame(direction)
        around = [add(scale(u, cos(a * pi / 6)), scale(v, sin(a * pi / 6))) for a in range(12)]
        points: list[Vec] = []
        for place in places:
            for k in range(ALONG + 1):
                height = start + (over - start) * k / ALONG
                radius = min(width / 2 + (height - start) * tan(HOLDER_ANGLE), HOLDER_WIDEST)
                middle = add(place, scale(direction, height))
                points += [add(middle, scale(out, radius)) for out in around]
        found: dict[Vec, list[Vec]] = {}
        for i, within in enumerate(self._sight.inside(points)):
            if within:
                found.setdefault(neg(around[i % len(around)]), []).append(points[i])
        return found


def _tool_places(feature: Feature, direction: Vec) -> tuple[float, float, list[Vec]]:
    """Width of a feature's tool, depth, and where its tip stands when it is deepest.

    For what a tool clears from above, holes, pockets, slots and steps: open or closed, the tool stands in its region.
    Faces and edges leave the tool's width to the planner.
    """
    if isinstance(feature, Hole):
        if dot(direction, feature.direction) > 0:
            return feature.diameter, feature.depth, [add(feature.position, scale(feature.axis, feature.depth))]
        return feature.diameter, feature.depth, [feature.position]
    if not isinstance(feature, Pocket | Slot | Step) or not feature.region:
        return 0.0, 0.0, []
    if abs(dot(direction, feature.direction)) < 0.99:
        return 0.0, 0.0, []
    polygon = polygon_of(feature.region, feature.direction)
    width = feature.width if isinstance(feature, Slot) else 2 * feature.corner_radius or polygon.area**0.5 / 4
    # a slot leaves its tool no room aside: a shade less, so that a line of places remains
    places = polygon.buffer(-(width / 2 - 0.02))
    level = dot(feature.region[0][0], feature.direction)
    return width, feature.depth, list(lift(_spread(places), level, feature.direction))


def _spread(area: Polygon | MultiPolygon) -> list[tuple[float, float]]:
    """Points along the outer boundaries of an area."""
    pieces = [piece for piece in (area.geoms if isinstance(area, MultiPolygon) else [area]) if not piece.is_empty]
    points = [piece.exterior.interpolate(k / 8, normalized=True) for piece in pieces for k in range(8)]
    return [(p.x, p.y) for p in points]


def _inside_hole(hole: Hole) -> list[Vec]:
    """Rings of points just inside the wall of each segment: where the tool's edge has to come.

    Taken from the measures and not from the mesh, whose chords would stand in the way of one another.
    """
    u, v = frame(hole.axis)
    points: list[Vec] = []
    start = 0.0
    for segment in hole.segments:
        for share in (0.06, 0.5, 0.94):
            radius = (segment.from_diameter + share * (segment.to_diameter - segment.from_diameter)) / 2
            inside = max(0.0, min(radius - 0.05, 0.95 * radius))
            level = start + share * segment.depth
            for k in range(12):
                x, y = inside * cos(k * pi / 6), inside * sin(k * pi / 6)
                at = add(hole.position, add(scale(hole.axis, level), add(scale(u, x), scale(v, y))))
                points.append(at)
        start += segment.depth
    return points


def _middle(solid: Solid, feature: Feature) -> Vec:
    """The middle of a ring's faces: on its axis."""
    points = solid.edge_points(feature.faces)
    low = [min(p[i] for p in points) for i in range(3)]
    high = [max(p[i] for p in points) for i in range(3)]
    return ((low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2)
