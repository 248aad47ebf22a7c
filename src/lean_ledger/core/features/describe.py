"""How features are called on screens and paper, and which of their measures are shown."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lean_ledger.core.features.model import (
    Chamfer,
    Contour,
    Feature,
    Fillet,
    Hole,
    OuterFace,
    Pocket,
    Slot,
    Step,
    Turned,
    flat_side,
)
from lean_ledger.core.geometry.vectors import axis_name


@dataclass(frozen=True)
class Measure:
    label: str
    value: float
    unit: str  # mm, deg, mm2 or nothing


@dataclass(frozen=True)
class FeatureGroup:
    """Features alike in everything but their place."""

    title: str
    features: tuple[Feature, ...]


_TURNED = {"outside": "turned outside", "inside": "turned inside", "groove": "turned groove", "taper": "taper"}


def measures(feature: Feature) -> tuple[Measure, ...]:
    """The dimensions that say what a feature is."""
    if isinstance(feature, Hole):
        rows = [Measure("Ø", feature.diameter, "mm"), Measure("deep", feature.depth, "mm")]
        for segment in feature.segments:
            if segment.shape == "cylinder" and segment.from_diameter > feature.diameter:
                rows.append(Measure("counterbore Ø", segment.from_diameter, "mm"))
                rows.append(Measure("counterbore deep", segment.depth, "mm"))
            elif segment.shape == "cone" and segment.to_diameter > 0:
                rows.append(Measure("countersink Ø", segment.from_diameter, "mm"))
                rows.append(Measure("angle", segment.angle, "deg"))
        return tuple(rows)
    if isinstance(feature, Pocket):
        return (
            Measure("deep", feature.depth, "mm"),
            Measure("area", feature.area, "mm2"),
            Measure("corner R", feature.corner_radius, "mm"),
        )
    if isinstance(feature, Slot):
        return (
            Measure("wide", feature.width, "mm"),
            Measure("long", feature.length, "mm"),
            Measure("deep", feature.depth, "mm"),
        )
    if isinstance(feature, Step):
        return (Measure("deep", feature.depth, "mm"), Measure("area", feature.area, "mm2"))
    if isinstance(feature, OuterFace):
        return (Measure("area", feature.area, "mm2"),)
    if isinstance(feature, Turned):
        rows = [Measure("Ø", feature.diameter, "mm")]
        for label, value in (("long", feature.length), ("wide", feature.width), ("deep", feature.depth)):
            if value is not None:
                rows.append(Measure(label, value, "mm"))
        return tuple(rows)
    if isinstance(feature, Contour):
        return (Measure("high", feature.height, "mm"), Measure("long", feature.length, "mm"))
    if isinstance(feature, Chamfer):
        return (
            Measure("wide", feature.width, "mm"),
            Measure("angle", feature.angle, "deg"),
            Measure("long", feature.length, "mm"),
        )
    if isinstance(feature, Fillet):
        return (Measure("R", feature.radius, "mm"), Measure("long", feature.length, "mm"))
    return (Measure("area", feature.area, "mm2"),)


def title(feature: Feature) -> str:
    """Kind and manner: 'through hole, counterbored', 'blind hole', 'face Z+'."""
    if isinstance(feature, Hole):
        words = "through hole" if feature.through else "blind hole"
        if any(s.shape == "cylinder" and s.from_diameter > feature.diameter for s in feature.segments):
            words += ", counterbored"
        if any(s.shape == "cone" and s.to_diameter > 0 for s in feature.segments):
            words += ", countersunk"
        return words
    if isinstance(feature, OuterFace):
        return f"face {axis_name(feature.normal)}"
    if isinstance(feature, Turned):
        return f"end {axis_name(feature.direction)}" if feature.where == "end" else _TURNED[feature.where]
    if isinstance(feature, Slot) and feature.undercut:
        return "undercut slot"
    if isinstance(feature, Pocket | Slot):
        through = "through " if feature.through else ""
        return f"{through}{feature.kind}"
    if isinstance(feature, Contour):
        return "rounded outline"
    if isinstance(feature, Fillet):
        return "rounded edge" if feature.convex else "rounded corner"
    return feature.kind


def grouped(features: Sequence[Feature]) -> tuple[FeatureGroup, ...]:
    """Alike features together, in the order of their first ones."""
    groups: dict[tuple[object, ...], list[Feature]] = {}
    for feature in features:
        sizes = tuple((m.label, round(m.value, 3)) for m in measures(feature))
        alone = feature.id if flat_side(feature) is not None else ""
        groups.setdefault((title(feature), sizes, alone), []).append(feature)
    return tuple(FeatureGroup(title(members[0]), tuple(members)) for members in groups.values())
