"""All features of a solid, with stable ids and their access."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import cos, pi, sin

from lean_ledger.core.features.access import Sight
from lean_ledger.core.features.edges import find_chamfers, find_fillets
from lean_ledger.core.features.holes import find_holes
from lean_ledger.core.features.model import Contour, Feature, Hole, OuterFace, Pocket, Slot, Step
from lean_ledger.core.features.outside import find_outside, main_direction
from lean_ledger.core.features.patches import patch_up
from lean_ledger.core.features.planar import frame
from lean_ledger.core.features.recesses import find_recesses
from lean_ledger.core.geometry.model import Solid
from lean_ledger.core.geometry.vectors import SIX, Vec, add, dot, neg, same_way, scale

#: Letters that ids begin with, in the order in which features are listed.
LETTERS = {
    "face": "F",
    "contour": "W",
    "pocket": "P",
    "slot": "G",
    "step": "L",
    "hole": "H",
    "chamfer": "C",
    "fillet": "R",
    "surface": "U",
}


def recognise(solid: Solid) -> tuple[Feature, ...]:
    """Every face in a feature; features in the order of LETTERS, then by size and place."""
    body = patch_up(solid)
    holes, used = find_holes(body)
    recesses, taken = find_recesses(body, used)
    used |= taken
    upright = main_direction(body, holes, recesses)
    chamfers, taken = find_chamfers(body, used)
    used |= taken
    fillets, taken = find_fillets(body, used, upright)
    used |= taken
    outside, _ = find_outside(body, used, upright)
    found: list[Feature] = [*holes, *recesses, *chamfers, *fillets, *outside]
    sight = Sight(solid.mesh)
    reached = [replace(feature, access=_access(sight, feature)) for feature in found]
    return _named(solid, [_entered(feature) for feature in reached])


def _access(sight: Sight, feature: Feature) -> tuple[Vec, ...]:
    if isinstance(feature, Hole):
        points = _inside_hole(feature)
        return tuple(d for d in _candidates(feature) if sight.free(points, d))
    return sight.reached(feature.faces, _candidates(feature))


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


def _candidates(feature: Feature) -> list[Vec]:
    """Directions to try: a hole is reached along its axis only, anything else from the six sides and its own."""
    if isinstance(feature, Hole):
        return [feature.direction, neg(feature.direction)]
    candidates = list(SIX)
    if isinstance(feature, OuterFace | Pocket | Slot | Step):
        own = feature.direction
        if isinstance(feature, Pocket) or (isinstance(feature, Slot) and feature.open_ends == 0):
            candidates = [own, neg(own)]
        # a flat is cut by a tool's end, square to it, or by its flank, along it; slanted it leaves steps
        candidates = [d for d in candidates if abs(dot(d, own)) < 1e-3 or abs(dot(d, own)) > 1 - 1e-6]
        if not any(same_way(own, d) for d in candidates):
            candidates.append(own)
    if isinstance(feature, Contour):
        candidates = [feature.direction, neg(feature.direction)]
    return candidates


def _entered(feature: Feature) -> Feature:
    """A hole is entered from a side that a tool reaches; both ends of a plain through hole are as good."""
    if not isinstance(feature, Hole) or not feature.through or len(feature.access) != 1:
        return feature
    if dot(feature.access[0], feature.direction) > 0:
        return feature
    far = tuple(p + feature.depth * a for p, a in zip(feature.position, feature.axis, strict=True))
    segments = tuple(
        replace(s, from_diameter=s.to_diameter, to_diameter=s.from_diameter) for s in reversed(feature.segments)
    )
    return replace(feature, position=far, axis=neg(feature.axis), segments=segments)  # type: ignore[arg-type]


def _named(solid: Solid, features: Sequence[Feature]) -> tuple[Feature, ...]:
    kinds = list(LETTERS)

    def place(feature: Feature) -> tuple[object, ...]:
        box = _box(solid, feature)
        if isinstance(feature, Hole):
            return (kinds.index("hole"), feature.diameter, feature.depth, *feature.axis, *box)
        return (kinds.index(feature.kind), -sum(solid.faces[f].area for f in feature.faces) // 1, *box)

    ordered = sorted(features, key=place)
    count: dict[str, int] = {}
    named: list[Feature] = []
    for feature in ordered:
        count[feature.kind] = count.get(feature.kind, 0) + 1
        named.append(replace(feature, id=f"{LETTERS[feature.kind]}{count[feature.kind]}"))
    return tuple(named)


def _box(solid: Solid, feature: Feature) -> tuple[float, ...]:
    points = [
        p for f in feature.faces for loop in solid.faces[f].loops for i, _ in loop.edges for p in solid.edges[i].points
    ]
    if not points:
        points = [solid.faces[f].origin for f in feature.faces]
    return tuple(round(min(p[i] for p in points), 3) for i in (2, 1, 0))
