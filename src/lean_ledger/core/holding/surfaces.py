"""What there is to hold on to: flats and cylinders of the stock as a setup finds it, in the holding's axes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from math import atan2, degrees, hypot, sqrt
from typing import Literal

import shapely
from shapely.geometry import Polygon, box

from lean_ledger.core.basis.same import Same
from lean_ledger.core.features import Feature, Hole, Pocket, Slot, Step, Turned
from lean_ledger.core.geometry.model import Bounds, Face, Solid, Surface
from lean_ledger.core.geometry.vectors import add, dot, parallel, scale
from lean_ledger.core.holding.hold import CONTACT, HeldStock
from lean_ledger.core.part.bodies import AddedBody
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.face_points import extent_of, points_of
from lean_ledger.core.setups.frame import Frame

JawSide = Literal["front", "back"]

OVERLAP = 0.2  # mm along z from which a surface counts as gripped


@dataclass(frozen=True)
class Contact:
    """Where a flat jaw lies against one side: area mm², and how far it goes along x and z."""

    area: float
    length: float
    height: float
    features: tuple[str, ...] = ()


NOTHING = Contact(0.0, 0.0, 0.0)


def is_finished(held: HeldStock, low: float, high: float) -> bool:
    """Whether the walls between two levels are at size."""
    return held.finished is not None and held.finished[0] <= low + CONTACT and held.finished[1] >= high - CONTACT


def flat_contact(held: HeldStock, frame: Frame, stock: Bounds, side: JawSide, window: Bounds) -> Contact:
    """Of a jaw's window (its x and z) with the stock's front or back side."""
    low, high = max(window.min[2], stock.min[2]), min(window.max[2], stock.max[2])
    left, right = max(window.min[0], stock.min[0]), min(window.max[0], stock.max[0])
    if high - low <= 0 or right - left <= 0:
        return NOTHING
    if is_finished(held, low, high):
        level = stock.max[1] if side == "back" else stock.min[1]
        return _of_part(held, frame, level, 1.0 if side == "back" else -1.0, box(left, low, right, high))
    if held.section == "near-net":
        level = stock.max[1] if side == "back" else stock.min[1]
        return _of_part(held, frame, level, 1.0 if side == "back" else -1.0, box(left, low, right, high))
    if held.section == "round" or (held.section == "hex" and not held.upright):
        return NOTHING
    if held.section == "hex":
        if stock.size[1] > stock.size[0]:  # a corner looks at the jaw
            return NOTHING
        flat = (stock.max[1] - stock.min[1]) / sqrt(3)
        middle = (stock.min[0] + stock.max[0]) / 2
        left, right = max(left, middle - flat / 2), min(right, middle + flat / 2)
    return Contact((right - left) * (high - low), right - left, high - low)


def _of_part(held: HeldStock, frame: Frame, level: float, outward: float, window: Polygon) -> Contact:
    found, features = [], []
    owner = owners(held.part)
    flats = [(owner.get(face.index), p) for face, p in flats_at(held.part.model.solid, frame, level, outward)]
    if held.part.near_net is not None:
        flats += [(None, p) for _, p in flats_at(held.part.near_net.solid, frame, level, outward)]
    for feature, polygon in (*flats, *((None, p) for p in _of_bodies(held.bodies, frame, level))):
        common = polygon.intersection(window)
        if common.area > CONTACT:
            found.append(common)
            features.append(feature)
    if not found:
        return NOTHING
    whole = shapely.union_all(found)
    x0, z0, x1, z1 = whole.bounds
    names = tuple(dict.fromkeys(f.id for f in features if f is not None))
    return Contact(float(whole.area), x1 - x0, z1 - z0, names)


def flats_at(solid: Solid, frame: Frame, level: float, outward: float) -> Iterator[tuple[Face, Polygon]]:
    """Flat faces that look outwards along y at a level, each as it is seen along y."""
    for face in solid.faces:
        if face.surface != Surface.PLANE or dot(face.axis, frame.back) * outward < 0.9999:
            continue
        rings = []
        for loop in sorted(face.loops, key=lambda one: not one.outer):
            points = [frame.point(p) for p in solid.loop_points(loop)]
            if abs(points[0][1] - level) > CONTACT:
                break
            rings.append([(p[0], p[2]) for p in points])
        if rings and len(rings[0]) > 2:
            polygon = Polygon(rings[0], rings[1:])
            yield face, polygon if polygon.is_valid else polygon.buffer(0)


def _of_bodies(bodies: Sequence[AddedBody], frame: Frame, level: float) -> Iterator[Polygon]:
    for body in bodies:
        ring = body.ring
        for a, b in zip(ring, (*ring[1:], ring[0]), strict=True):
            corners = [frame.point(p) for p in (a, b, add(b, scale(body.up, body.height)),
                                                add(a, scale(body.up, body.height)))]  # fmt: skip
            if all(abs(p[1] - level) < CONTACT for p in corners):
                yield Polygon([(p[0], p[2]) for p in corners])


@lru_cache(maxsize=64)
def _owners(features: tuple[Feature, ...]) -> dict[int, Feature]:
    return {face: feature for feature in features for face in feature.faces}


def owners(part: Part) -> dict[int, Feature]:
    """For each face the feature that it belongs to."""
    return _owners(part.features)


@dataclass(frozen=True)
class Round:
    """A cylinder about z that may be gripped, or what stands there instead of one."""

    diameter: float
    low: float
    high: float
    what: str  # cylinder, taper, radius, thread, flat, surface
    feature: str = ""


def rounds(held: HeldStock, frame: Frame, low: float, high: float) -> tuple[Round, ...]:
    """What the outside is between two levels where the walls are at size, the lowest first."""
    all_of_them = _rounds(Same(held.part), held.made, held.box, frame)
    return tuple(one for one in all_of_them if min(one.high, high) - max(one.low, low) >= OVERLAP)


@lru_cache(maxsize=32)
def _rounds(whole: Same[Part], made: frozenset[str], around: Bounds, frame: Frame) -> tuple[Round, ...]:
    part, found = whole.value, []
    solid, owner = part.model.solid, owners(part)
    x, y = turned_about(part, frame) or ((around.min[i] + around.max[i]) / 2 for i in (0, 1))
    for face in solid.faces:
        points = () if face.inward or _comes_later(made, owner.get(face.index)) else points_of(solid, face.index, frame)
        if not points:
            continue
        box = extent_of(solid, (face.index,), frame)
        z0, z1 = box.min[2], box.max[2]
        reach = max(hypot(p[0] - x, p[1] - y) for p in points)
        if not _is_outermost(around, reach, face, frame):
            continue
        feature = owner.get(face.index)
        what = _what(face, feature, frame, (x, y))
        found.append(Round(2 * reach, z0, z1, what, feature.id if feature is not None else ""))
    return tuple(sorted(found, key=lambda r: (r.low, r.what)))


def turned_about(part: Part, frame: Frame) -> tuple[float, float] | None:
    """Where the axis that the part is turned about stands in a holding's axes; None where there is none along z."""
    axis = part.axis
    if axis is None or not parallel(axis.direction, frame.up, 1e-3):
        return None
    x, y, _ = frame.point(axis.point)
    return x, y


def hexagon_of(held: HeldStock, frame: Frame, stock: Bounds, low: float, high: float) -> tuple[float, float] | None:
    """Size across the flats of the hexagon that jaws close on between two levels, and the angle, degrees, of one of
    them in a holding's axes; None where there is none. What is thinner between them stays clear of the jaws.
    """
    if not is_finished(held, low, high):
        x, y, _ = stock.size
        is_bar = held.section == "hex" and held.upright
        return ((y, 90.0) if y < x else (x, 0.0)) if is_bar else None
    around = [r for r in rounds(held, frame, low, high) if r.diameter > 0]
    return _flats_between(Same(held.part), frame, low, high, max((r.diameter for r in around), default=0.0))


@lru_cache(maxsize=32)
def _flats_between(
    whole: Same[Part], frame: Frame, low: float, high: float, widest: float
) -> tuple[float, float] | None:
    solid = whole.value.model.solid
    middle = turned_about(whole.value, frame)
    if middle is None:
        return None
    found: dict[int, float] = {}  # how far out, by whole degrees
    for face in solid.faces:
        if face.surface != Surface.PLANE or abs(dot(face.axis, frame.up)) > 1e-6:
            continue
        extent = extent_of(solid, (face.index,), frame)
        x, y = dot(face.axis, frame.right), dot(face.axis, frame.back)
        at = frame.point(face.origin)
        away = (at[0] - middle[0]) * x + (at[1] - middle[1]) * y
        if min(extent.max[2], high) - max(extent.min[2], low) >= OVERLAP and away > 0.4 * widest:
            found[round(degrees(atan2(y, x))) % 360] = away
    angles, most = sorted(found), max(found.values(), default=0.0)
    if len(angles) != 6 or any(b - a != 60 for a, b in pairwise(angles)) or most - min(found.values()) > CONTACT:
        return None
    return (2 * most, float(angles[0])) if widest <= 4 / sqrt(3) * most + CONTACT else None


def _comes_later(made: frozenset[str], feature: Feature | None) -> bool:
    """A flat, a slot or a hole in a turned wall that is still whole."""
    return isinstance(feature, Pocket | Slot | Step | Hole) and feature.id not in made


def _is_outermost(around: Bounds, reach: float, face: Face, frame: Frame) -> bool:
    """Walls of recesses lie inside; what looks along z is an end and no wall."""
    if face.surface == Surface.PLANE:
        return abs(dot(face.axis, frame.up)) < 1e-3 and reach >= 0.45 * max(around.size[:2])
    return True


def _what(face: Face, feature: Feature | None, frame: Frame, centre: tuple[float, float]) -> str:
    if isinstance(feature, Turned) and feature.thread is not None:
        return "thread"
    if face.surface == Surface.CYLINDER:
        x, y, _ = frame.point(face.origin)
        centred = hypot(x - centre[0], y - centre[1]) < CONTACT
        return "cylinder" if centred and parallel(face.axis, frame.up, 1e-3) else "surface"
    if face.surface == Surface.CONE:
        return "taper"
    if face.surface in (Surface.TORUS, Surface.SPHERE):
        return "radius"
    return "flat" if face.surface == Surface.PLANE else "surface"
