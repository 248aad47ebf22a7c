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
    ModelledThread,
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
    source: str = ""  # where on the model it was taken


@dataclass(frozen=True)
class FeatureGroup:
    """Features alike in everything but their place."""

    title: str
    features: tuple[Feature, ...]


_TURNED = {"outside": "turned outside", "inside": "turned inside", "groove": "turned groove", "taper": "taper"}
_RIM = "from the floor up to the lowest rim of the walls"
_CORNER = "smallest upright inner round; 0 where two walls meet sharp"


def measures(feature: Feature) -> tuple[Measure, ...]:
    """The dimensions that say what a feature is, each with where it was taken."""
    if isinstance(feature, Hole):
        return _hole_measures(feature)
    if isinstance(feature, Pocket):
        return (
            Measure("deep", feature.depth, "mm", _RIM),
            Measure("area", feature.area, "mm2", "inside of the outline, less the islands"),
            Measure("corner R", feature.corner_radius, "mm", _CORNER),
            *(
                (Measure("floor R", feature.floor_radius, "mm", "between floor and walls"),)
                if feature.floor_radius
                else ()
            ),
        )
    if isinstance(feature, Slot):
        return (
            Measure("wide", feature.width, "mm", "between the facing walls" + (", at the mouth" * feature.undercut)),
            Measure("long", feature.length, "mm", "overall, along the walls"),
            Measure("deep", feature.depth, "mm", _RIM),
        )
    if isinstance(feature, Step):
        return (
            Measure("deep", feature.depth, "mm", "from the floor to the next level above"),
            Measure("area", feature.area, "mm2", "of the floor"),
        )
    if isinstance(feature, OuterFace):
        return (Measure("area", feature.area, "mm2", "of the face, without its openings"),)
    if isinstance(feature, Turned):
        return _turned_measures(feature)
    if isinstance(feature, Contour):
        return (
            Measure("high", feature.height, "mm", "of the walls"),
            Measure("long", feature.length, "mm", "around the round walls"),
        )
    if isinstance(feature, Chamfer):
        return (
            Measure("wide", feature.width, "mm", "leg along the face it breaks"),
            Measure("angle", feature.angle, "deg", "to the face it breaks"),
            Measure("long", feature.length, "mm", "along its outer edge"),
        )
    if isinstance(feature, Fillet):
        return (
            Measure("R", feature.radius, "mm", "of the rounding"),
            Measure("long", feature.length, "mm", "along the rounding"),
        )
    return (Measure("area", feature.area, "mm2", "of the surface"),)


def _hole_measures(hole: Hole) -> tuple[Measure, ...]:
    rows = [
        Measure("Ø", hole.diameter, "mm", "of the narrowest cylinder"),
        Measure("deep", hole.depth, "mm", "entry to the end of the last cylinder, tip left out"),
    ]
    for segment in hole.segments:
        if segment.shape == "cylinder" and segment.from_diameter > hole.diameter:
            rows.append(Measure("counterbore Ø", segment.from_diameter, "mm", "of the wider cylinder"))
            rows.append(Measure("counterbore deep", segment.depth, "mm", "down to its shoulder"))
        elif segment.shape == "cone" and segment.to_diameter > 0:
            rows.append(Measure("countersink Ø", segment.from_diameter, "mm", "where the cone is widest"))
            rows.append(Measure("angle", segment.angle, "deg", "included, of the cone"))
    return (*rows, *_thread_measures(hole.thread))


def _thread_measures(thread: ModelledThread | None) -> tuple[Measure, ...]:
    if thread is None:
        return ()
    return (
        Measure("thread Ø", thread.diameter, "mm", "over the root of the modelled helix"),
        Measure("pitch", thread.pitch, "mm", f"way along the axis per turn, {thread.hand}-handed"),
        Measure("thread long", thread.length, "mm", "from the first to the last of the helix"),
    )


def _turned_measures(turned: Turned) -> tuple[Measure, ...]:
    around = {"groove": "of its bottom", "taper": "of the wide end", "end": "of the outer edge"}.get(turned.where, "")
    rows = [Measure("Ø", turned.diameter, "mm", around or "of the cylinder")]
    sources = (
        ("long", turned.length, "along the axis"),
        ("wide", turned.width, "between its walls"),
        ("deep", turned.depth, "from the smaller neighbour down"),
    )
    rows += [Measure(label, value, "mm", source) for label, value, source in sources if value is not None]
    return (*rows, *_thread_measures(turned.thread))


def title(feature: Feature) -> str:
    """Kind and manner: 'through hole, counterbored', 'blind hole', 'face Z+'."""
    if isinstance(feature, Hole):
        words = "through hole" if feature.through else "blind hole"
        if any(s.shape == "cylinder" and s.from_diameter > feature.diameter for s in feature.segments):
            words += ", counterbored"
        if any(s.shape == "cone" and s.to_diameter > 0 for s in feature.segments):
            words += ", countersunk"
        return words + (", threaded" if feature.thread is not None else "")
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
