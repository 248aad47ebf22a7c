"""Feature kinds. Lengths mm, angles degrees, areas mm², volumes mm³; directions are unit vectors.

`access` lists the directions, out of the part towards the tool, along which a straight tool reaches all of a feature.
Regions are closed polylines in part coordinates: the outer boundary first, then the islands.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from math import pi
from typing import Literal

from lean_ledger.core.geometry.vectors import Vec, neg

Ring = tuple[Vec, ...]


@dataclass(frozen=True)
class _Common:
    id: str
    faces: tuple[int, ...]
    access: tuple[Vec, ...]
    volume: float
    blocked_by: tuple[int, ...] = field(default=(), kw_only=True)  # faces in the way where there is no access


@dataclass(frozen=True)
class HoleSegment:
    """A stretch of a hole from the entry inward; a cylinder has equal diameters and angle 0."""

    shape: Literal["cylinder", "cone"]
    from_diameter: float
    to_diameter: float
    depth: float
    angle: float = 0.0

    @property
    def volume(self) -> float:
        a, b = self.from_diameter, self.to_diameter
        return pi / 12 * self.depth * (a * a + a * b + b * b)


@dataclass(frozen=True)
class ModelledThread:
    """A thread whose helix the model has."""

    diameter: float  # major
    pitch: float
    length: float
    hand: Literal["right", "left"]


@dataclass(frozen=True)
class Hole(_Common):
    position: Vec  # centre of the entry
    axis: Vec  # into the part
    diameter: float  # of the narrowest cylinder
    depth: float  # entry to the end of the last cylinder
    through: bool
    segments: tuple[HoleSegment, ...]
    on_axis: bool | None = None  # of a rotational part: whether it lies on the part's axis
    thread: ModelledThread | None = None
    kind: Literal["hole"] = "hole"

    @property
    def direction(self) -> Vec:
        return neg(self.axis)


@dataclass(frozen=True)
class Pocket(_Common):
    direction: Vec  # from the floor to the opening
    through: bool
    depth: float
    corner_radius: float  # smallest internal vertical radius, 0 where sharp
    floor_radius: float
    area: float
    region: tuple[Ring, ...]
    kind: Literal["pocket"] = "pocket"

    @property
    def islands(self) -> int:
        return len(self.region) - 1


@dataclass(frozen=True)
class Undercut:
    """The part of a slot that lies wider than its mouth, from the floor up: `height` with a `width` at the floor.

    `flank` is the angle of its walls to the floor, degrees: 90 in a T-slot, less in a dovetail. `mouth` is the mouth's
    outline at floor level, with the stretches of it that are open to the outside.
    """

    width: float
    height: float
    flank: float
    mouth: Ring
    mouth_open: tuple[Ring, ...]


@dataclass(frozen=True)
class Slot(_Common):
    direction: Vec
    width: float
    depth: float
    length: float
    through: bool
    open_ends: int
    corner_radius: float
    region: tuple[Ring, ...]
    open_edges: tuple[Ring, ...] = ()
    undercut: bool = False  # wider below its mouth: a T-slot, a dovetail, a ring in a bore
    form: Undercut | None = None  # of a T-slot or a dovetail
    form_access: tuple[Vec, ...] = ()  # along which a tool of that form comes in from an open end
    kind: Literal["slot"] = "slot"


@dataclass(frozen=True)
class Step(_Common):
    direction: Vec
    depth: float
    area: float
    corner_radius: float
    region: tuple[Ring, ...]
    open_edges: tuple[Ring, ...]  # stretches of the boundary without a wall
    kind: Literal["step"] = "step"


@dataclass(frozen=True)
class OuterFace(_Common):
    normal: Vec
    area: float
    region: tuple[Ring, ...]
    kind: Literal["face"] = "face"

    @property
    def direction(self) -> Vec:
        return self.normal


Where = Literal["outside", "inside", "end", "groove", "taper"]


@dataclass(frozen=True)
class Turned(_Common):
    """What a lathe makes around the axis; measures that do not apply are None."""

    where: Where
    direction: Vec  # an end's normal, else along the axis
    diameter: float  # the greater one of a taper or an end, the bottom of a groove
    length: float | None  # along the axis
    width: float | None  # of a groove
    depth: float | None
    region: tuple[Ring, ...] = ()  # of an end
    area: float | None = None  # of an end
    thread: ModelledThread | None = None
    kind: Literal["turned"] = "turned"

    @property
    def normal(self) -> Vec:
        return self.direction


@dataclass(frozen=True)
class Contour(_Common):
    direction: Vec  # along the walls
    height: float
    length: float
    kind: Literal["contour"] = "contour"


@dataclass(frozen=True)
class Chamfer(_Common):
    width: float  # leg along the face it breaks
    angle: float
    length: float
    path: tuple[Ring, ...]  # open or closed polylines along its outer edge
    kind: Literal["chamfer"] = "chamfer"


@dataclass(frozen=True)
class Fillet(_Common):
    radius: float
    length: float
    convex: bool
    kind: Literal["fillet"] = "fillet"


@dataclass(frozen=True)
class FreeSurface(_Common):
    area: float
    kind: Literal["surface"] = "surface"


Feature = Hole | Pocket | Slot | Step | OuterFace | Turned | Contour | Chamfer | Fillet | FreeSurface


def flat_side(feature: Feature) -> OuterFace | Turned | None:
    """The feature where it is a flat side of the part, milled or turned: what facing makes; else None."""
    if isinstance(feature, OuterFace) or (isinstance(feature, Turned) and feature.where == "end"):
        return feature
    return None


def tool_ways(feature: Feature) -> tuple[Vec, ...]:
    """The directions from which a tool makes a feature, straight ones first, then those with the undercut's form."""
    return (*feature.access, *(feature.form_access if isinstance(feature, Slot) else ()))
