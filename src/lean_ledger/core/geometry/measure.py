"""Measuring between two picks on a solid: distance, angle, radius, depth. Lengths mm, angles degrees."""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, degrees

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.model import Face, Solid, Surface, Vec
from lean_ledger.core.geometry.vectors import add, angle_between, cross, dot, norm, parallel, scale, sub, unit

STRAIGHT = 1e-4  # rad within which directions count as parallel
ROUND = (Surface.CYLINDER, Surface.CONE, Surface.TORUS, Surface.REVOLUTION)


@dataclass(frozen=True)
class Pick:
    """A face, and the point on it that was pointed at."""

    face: int
    point: Vec


@dataclass(frozen=True)
class Reading:
    """One figure; `line` are its two ends where it can be drawn."""

    label: str
    value: float
    unit: str  # mm or deg
    line: tuple[Vec, Vec] | None = None


def measured(solid: Solid, picks: tuple[Pick, ...]) -> tuple[Reading, ...]:
    """What one or two picks measure. Raises PlanError for none, more than two, or a face that is not there."""
    if not 1 <= len(picks) <= 2:
        raise PlanError("picks", f"one or two picks are measured, not {len(picks)}")
    for pick in picks:
        if not 0 <= pick.face < len(solid.faces):
            raise PlanError("picks", f"there is no face {pick.face}; the part has {len(solid.faces)}")
    if len(picks) == 1:
        return tuple(_alone(solid.faces[picks[0].face]))
    a, b = picks
    first, second = solid.faces[a.face], solid.faces[b.face]
    readings = list(_between(first, second, a, b))
    readings.append(Reading("point to point", norm(sub(b.point, a.point)), "mm", (a.point, b.point)))
    for axis, label in enumerate("XYZ"):
        readings.append(Reading(f"along {label}", abs(b.point[axis] - a.point[axis]), "mm"))
    return tuple(readings)


def _alone(face: Face) -> list[Reading]:
    if face.surface == Surface.CYLINDER:
        return [Reading("Ø", 2 * face.radius, "mm"), Reading("radius", face.radius, "mm")]
    if face.surface == Surface.SPHERE:
        return [Reading("ball Ø", 2 * face.radius, "mm")]
    if face.surface == Surface.TORUS:
        return [Reading("radius", face.radius, "mm"), Reading("ring Ø", 2 * face.major, "mm")]
    if face.surface == Surface.CONE:
        return [Reading("included angle", 2 * degrees(face.half_angle), "deg")]
    return []


def _between(first: Face, second: Face, a: Pick, b: Pick) -> list[Reading]:
    flat = Surface.PLANE
    if first.surface == flat and second.surface == flat:
        if parallel(first.axis, second.axis, STRAIGHT):
            away = dot(sub(b.point, a.point), first.axis)
            label = "depth" if dot(first.axis, second.axis) > 0 else "distance"
            return [Reading(label, abs(away), "mm", (a.point, add(a.point, scale(first.axis, away))))]
        return [Reading("angle", 180 - angle_between(first.axis, second.axis), "deg")]
    if first.surface in ROUND and second.surface in ROUND:
        return _axes(first, second)
    if flat in (first.surface, second.surface) and (first.surface in ROUND or second.surface in ROUND):
        plane, other = (first, second) if first.surface == flat else (second, first)
        lean = abs(dot(plane.axis, other.axis))
        if lean < STRAIGHT:
            away = dot(sub(other.origin, plane.origin), plane.axis)
            return [Reading("axis to face", abs(away), "mm")]
        return [Reading("axis to face", _degrees_of_lean(lean), "deg")]
    return []


def _axes(first: Face, second: Face) -> list[Reading]:
    away = sub(second.origin, first.origin)
    if parallel(first.axis, second.axis, STRAIGHT):
        across = sub(away, scale(first.axis, dot(away, first.axis)))
        line = (first.origin, add(first.origin, across))
        return [Reading("between axes", norm(across), "mm", line if norm(across) > 1e-6 else None)]
    square = unit(cross(first.axis, second.axis))
    angle = angle_between(first.axis, second.axis)
    return [
        Reading("between axes", abs(dot(away, square)), "mm"),
        Reading("angle of axes", min(angle, 180 - angle), "deg"),
    ]


def _degrees_of_lean(lean: float) -> float:
    """Angle between an axis and a face, from the cosine to the face's normal."""
    return degrees(asin(min(1.0, lean)))
