"""What faces and features are known by when two revisions are compared: kind, size, direction, place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.features import Feature, Hole, OuterFace
from lean_ledger.core.features.describe import measures
from lean_ledger.core.geometry.model import Solid
from lean_ledger.core.geometry.vectors import Vec, add, cross, dot, norm, scale, sub

GRAIN = 0.02  # mm to which places are told apart
ANYWAY: Vec = (0.0, 0.0, 0.0)  # of what has no direction of its own


@dataclass(frozen=True)
class FeatureSign:
    """`shape` is equal for features alike in all measures, wherever they are; `box` is the size of its own box, mm."""

    id: str
    kind: str
    shape: tuple[object, ...]
    direction: Vec
    place: Vec
    box: Vec
    values: tuple[float, ...]
    either_way: bool = False  # a plain through hole has no first end

    @property
    def size(self) -> float:
        return norm(self.box)

    @property
    def whole(self) -> tuple[object, ...]:
        direction = max(self.direction, scale(self.direction, -1.0)) if self.either_way else self.direction
        return (*self.shape, _grain(self.place), tuple(round(c, 2) + 0.0 for c in direction))

    def laid(self, turn: tuple[Vec, Vec, Vec], shift: Vec) -> FeatureSign:
        direction, place = _turned(self.direction, turn), add(_turned(self.place, turn), shift)
        box = _turned(self.box, turn)
        return replace(self, direction=direction, place=place, box=(abs(box[0]), abs(box[1]), abs(box[2])))

    def looks(self, other: FeatureSign) -> bool:
        """Whether both look the same way; a feature without a direction looks every way."""
        if ANYWAY in (self.direction, other.direction):
            return self.direction == other.direction
        along = dot(self.direction, other.direction)
        return along > 0.999 or (self.either_way and other.either_way and along < -0.999)

    def on_line(self, other: FeatureSign) -> bool:
        """Whether two places lie on one line along the common direction, or close enough for their size."""
        away = sub(other.place, self.place)
        if self.direction == ANYWAY:
            return True
        beside = norm(sub(away, scale(self.direction, dot(away, self.direction))))
        return beside <= max(0.25 * min(self.size, other.size), GRAIN)

    def like(self, other: FeatureSign) -> bool:
        """Whether the sizes are of one order: none more than doubled or halved."""
        if len(self.values) != len(other.values):
            return False
        pairs = zip(self.values, other.values, strict=True)
        return all(min(abs(a), abs(b)) >= 0.5 * max(abs(a), abs(b)) - GRAIN for a, b in pairs)


def feature_signs(solid: Solid, features: Sequence[Feature]) -> list[FeatureSign]:
    return [_feature_sign(solid, feature) for feature in features]


def _feature_sign(solid: Solid, feature: Feature) -> FeatureSign:
    low, high = box_of(solid, feature.faces)
    place = scale(add(low, high), 0.5)
    direction: Vec = getattr(feature, "direction", ANYWAY)
    if isinstance(feature, Hole):
        place = add(feature.position, scale(feature.axis, feature.depth / 2))
    values = tuple(m.value for m in measures(feature))
    shape: tuple[object, ...] = (feature.kind, *(round(v, 2) for v in values))
    if isinstance(feature, OuterFace):
        shape = (*shape, len(feature.faces))
    either = isinstance(feature, Hole) and feature.through and len(feature.segments) == 1
    return FeatureSign(feature.id, feature.kind, shape, direction, place, sub(high, low), values, either)


@dataclass(frozen=True)
class FaceSign:
    kind: str
    inward: bool
    direction: Vec
    place: Vec
    area: float
    radius: float

    @property
    def whole(self) -> tuple[object, ...]:
        direction = self.direction if self.kind == "plane" else ANYWAY
        return (
            self.kind, self.inward, round(self.area, 1), round(self.radius, 2), _grain(self.place),
            tuple(round(c, 2) + 0.0 for c in direction),
        )  # fmt: skip

    def laid(self, turn: tuple[Vec, Vec, Vec], shift: Vec) -> FaceSign:
        return replace(self, direction=_turned(self.direction, turn), place=add(_turned(self.place, turn), shift))

    def looks(self, other: FaceSign) -> bool:
        if self.kind != other.kind or self.inward != other.inward:
            return False
        if self.kind == "plane":
            return dot(self.direction, other.direction) > 0.999
        return self.kind == "other" or abs(dot(self.direction, other.direction)) > 0.999

    def distance(self, other: FaceSign) -> float:
        return norm(sub(self.place, other.place)) + abs(self.radius - other.radius)

    def on_surface(self, other: FaceSign, tolerance: float) -> bool:
        away = sub(other.place, self.place)
        if self.kind == "plane":
            return abs(dot(away, self.direction)) < tolerance
        if self.kind == "cylinder":
            beside = norm(cross(away, self.direction))
            return beside < max(self.radius, tolerance) and abs(self.radius - other.radius) < tolerance
        return norm(away) < tolerance


def face_signs(solid: Solid) -> list[FaceSign]:
    signs = []
    for face in solid.faces:
        low, high = box_of(solid, (face.index,))
        place = scale(add(low, high), 0.5)
        direction = ANYWAY if face.surface == "other" else face.axis
        radius = face.radius or face.half_angle
        signs.append(FaceSign(face.surface.value, face.inward, direction, place, face.area, radius))
    return signs


def box_of(solid: Solid, faces: Sequence[int]) -> tuple[Vec, Vec]:
    """The box about the edges of some faces."""
    points = solid.edge_points(faces)
    points = points or [solid.faces[f].origin for f in faces]
    xs, ys, zs = zip(*points, strict=True)
    return (min(xs), min(ys), min(zs)), (max(xs), max(ys), max(zs))


def _grain(place: Vec) -> tuple[int, int, int]:
    return (round(place[0] / GRAIN), round(place[1] / GRAIN), round(place[2] / GRAIN))


def _turned(v: Vec, turn: tuple[Vec, Vec, Vec]) -> Vec:
    return (dot(turn[0], v), dot(turn[1], v), dot(turn[2], v))
