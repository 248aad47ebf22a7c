"""From which sides a feature can be made, and which of them need machining at all."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from shapely.geometry import LinearRing, Point

from lean_ledger.core.features import (
    Chamfer,
    Contour,
    Feature,
    Fillet,
    Pocket,
    Slot,
    Step,
    Turned,
    flat_side,
    tool_ways,
)
from lean_ledger.core.features.planar import rectangle
from lean_ledger.core.geometry.vectors import Vec, cross, dot, parallel
from lean_ledger.core.geometry.views import RIGHT, back_of
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Plan
from lean_ledger.core.setups.bar_lies import is_flat_of_bar
from lean_ledger.core.setups.profile import outer_chain

NEAR = 0.1  # mm within which a mouth lies on an outline of chords
SHOULDER = 0.05  # mm by which a wall stands out farther than another
DEEP = 2.0  # times its width that a slot is milled in from an edge


def needs_machining(part: Part, feature: Feature, plan: Plan) -> bool:
    """A flat side without stock on it is as bought; all else has to be cut. Near-net stock says it for every face."""
    if part.near_net is not None:
        return part.near_net.over_faces(feature.faces) > 0
    flat = flat_side(feature)
    if flat is None:
        return True
    side = next((name for name, d in DIRECTIONS.items() if dot(d, flat.normal) > 1 - 1e-6), None)
    return (side is None or plan.allowances.on(side) > 0) and not is_flat_of_bar(part, feature, plan)


def is_outline(part: Part, feature: Feature, axis: Vec) -> bool:
    """Whether a feature is part of the walls around `axis` that one pass around the part makes.

    Near-net stock has none: each side that has stock on it is cut by itself.
    """
    if part.near_net is not None:
        return False
    flat = flat_side(feature)
    if flat is not None:
        return abs(dot(flat.normal, axis)) < 1e-3
    if isinstance(feature, Contour):
        return parallel(feature.direction, axis, 1e-3)
    if isinstance(feature, Turned):
        return feature.where == "outside" and parallel(feature.direction, axis, 1e-3) and _is_widest(part, feature)
    faces = [part.model.solid.faces[f] for f in feature.faces]
    upright = all(
        (face.surface == "plane" and abs(dot(face.axis, axis)) < 1e-3)
        or (face.surface == "cylinder" and parallel(face.axis, axis, 1e-3))
        for face in faces
    )
    if isinstance(feature, Chamfer | Fillet):
        return upright and not any(face.inward for face in faces)
    # a notch right through along the axis: its floor and its walls are stretches of the outline
    if getattr(feature, "undercut", False):
        return False
    return isinstance(feature, Step | Slot) and upright and _opens_outwards(part, feature, axis)


def is_keyway(part: Part, feature: Feature) -> bool:
    """A slot right through along a bore that it opens into: a tool that turns comes along it, but not into its
    corners.
    """
    if not isinstance(feature, Slot) or feature.open_ends < 2 or len(feature.open_edges) < 2:
        return False
    along = [d for d in tool_ways(feature) if abs(dot(d, feature.direction)) < 1e-3]
    return bool(along) and not any(_opens_outwards(part, feature, d) for d in along)


def _opens_outwards(part: Part, feature: Step | Slot, axis: Vec) -> bool:
    """Whether its mouth lies on the part's outer outline: a keyway in a bore opens inwards."""
    outline = part.silhouette(axis)
    right = RIGHT[outline.direction]
    back = back_of(outline.direction, right)
    ring = LinearRing(outline.ring)
    ends = {p for edge in feature.open_edges for p in (edge[0], edge[-1])}
    return any(ring.distance(Point(dot(p, right), dot(p, back))) < NEAR for p in ends)


def _is_widest(part: Part, turned: Turned) -> bool:
    """No other turned wall is wider, nor are flats that stay as a bar has them: a stub on a hexagon is no outline."""
    if max((r for _, r in outer_chain(part, turned.direction)), default=0.0) > turned.diameter / 2 + SHOULDER:
        return False
    return all(
        f.diameter <= turned.diameter + 1e-3
        for f in part.features
        if isinstance(f, Turned) and f.where in ("outside", "taper")
    )


def reaches(part: Part, feature: Feature, up: Vec, outline_axis: Vec) -> bool:
    """Whether a setup with `up` towards the spindle can make the feature."""
    if is_outline(part, feature, outline_axis):
        return parallel(up, outline_axis, 1e-3)
    flat = flat_side(feature)
    if flat is not None:
        return dot(flat.normal, up) > 1 - 1e-6
    return reaches_inside(feature, up) or from_open_side(feature, up) is not None


def from_open_side(feature: Feature, up: Vec) -> Slot | None:
    """A slot right through that comes in from an edge of the part, as a mill finds it that comes in from there: a floor
    between two walls, open at both ends. None of another feature, from another side, where its inner corners are round,
    which such a mill would not make, and where it is deep for its width: there no mill gets in.

    86 wide, 45 in from the edge and 66 through: 86 wide, 45 deep and 66 long.
    """
    if not isinstance(feature, Slot) or not feature.through or feature.undercut or feature.corner_radius:
        return None
    along, ring = feature.direction, feature.region[0]
    if (
        len(feature.open_edges) != 1
        or abs(dot(along, up)) > 1e-6
        or not any(dot(way, up) > 1 - 1e-6 for way in feature.access)
    ):
        return None
    across = cross(up, along)
    (low, high), (left, right) = (_span(ring, axis) for axis in (up, across))
    square = all(min(abs(dot(p, axis) - end) for end in ends) < NEAR / 10
                 for axis, ends in ((up, (low, high)), (across, (left, right))) for p in ring)  # fmt: skip
    mouth = all(abs(dot(p, up) - high) < NEAR / 10 for p in feature.open_edges[0])
    deep = high - low > DEEP * (right - left)
    if not square or not mouth or deep or any(abs(c) > 1e-9 and abs(abs(c) - 1) > 1e-9 for c in (*up, *along)):
        return None
    begin, _ = _span(ring, along)
    end = begin + feature.depth
    region = rectangle(up, low, (across, left, right), (along, begin, end))
    ends = tuple(tuple(p for p in region if abs(dot(p, along) - at) < 1e-6) for at in (begin, end))
    return replace(
        feature, direction=up, width=right - left, depth=high - low, length=feature.depth, through=False, open_ends=2,
        region=(region,), open_edges=ends,
    )  # fmt: skip


def _span(ring: Sequence[Vec], axis: Vec) -> tuple[float, float]:
    levels = [dot(p, axis) for p in ring]
    return min(levels), max(levels)


def reaches_inside(feature: Feature, up: Vec) -> bool:
    """Whether a tool from `up` gets at all of a feature that is neither a flat side nor the outline."""
    if isinstance(feature, Step | Slot | Pocket):
        along = dot(feature.direction, up)
        square = along > 1 - 1e-6 or (along < -1 + 1e-6 and getattr(feature, "through", False))
        return square and any(dot(direction, up) > 1 - 1e-6 for direction in tool_ways(feature))
    return any(dot(direction, up) > 1 - 1e-6 for direction in feature.access)
