"""Where a setup's zero is, how the setter finds it, and where everything lies from there."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.features import Feature, Hole
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec, parallel
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, Zero, ZeroPlace
from lean_ledger.core.setups.face_points import extent_of
from lean_ledger.core.setups.frame import Frame, frame_of

LEAST_BORE = 6.0  # mm that a bore is wide for an indicator to go round in it
GOOD_BORE = 10.0  # mm from which the rule prefers a bore to edges

PLACES: tuple[ZeroPlace, ...] = get_args(ZeroPlace)
_SHARE: Mapping[str, tuple[float, float]] = {
    "centre": (0.5, 0.5),
    "left front": (0.0, 0.0),
    "right front": (1.0, 0.0),
    "left back": (0.0, 1.0),
    "right back": (1.0, 1.0),
    "left": (0.0, 0.5),
    "right": (1.0, 0.5),
    "front": (0.5, 0.0),
    "back": (0.5, 1.0),
}


@dataclass(frozen=True)
class Bore:
    """A round hole along the setup's Z that is there before the setup begins."""

    id: str
    x: float
    y: float
    diameter: float


@dataclass(frozen=True)
class RotaryAxis:
    """The axis that an indexed setup turns about: along the machine's X or Y, at the part's free end."""

    along: Literal["X", "Y"]
    end: Vec


@dataclass(frozen=True)
class Surroundings:
    """What a zero can be on: boxes of stock and part in setup coordinates, and the bores that are there."""

    stock: Bounds
    part: Bounds
    bores: tuple[Bore, ...] = ()
    axis: RotaryAxis | None = None  # where the setup is indexed
    spun: bool = False  # the part turns, about Z

    def bore(self, id: str) -> Bore | None:
        return next((bore for bore in self.bores if bore.id == id), None)


@dataclass(frozen=True)
class Choice:
    """A place for the zero, in setup coordinates."""

    zero: Zero
    x: float
    y: float


def bores_there(part: Part, frame: Frame, made_before: Sequence[str]) -> tuple[Bore, ...]:
    """The bores wide enough to find that earlier setups made, the widest first."""
    found = []
    for id in made_before:
        hole = part.by_id.get(id)
        if isinstance(hole, Hole) and hole.diameter >= LEAST_BORE and parallel(hole.axis, frame.up, 1e-3):
            x, y, _ = frame.point(hole.position)
            found.append(Bore(id, round(x, 4), round(y, 4), hole.diameter))
    return tuple(sorted(found, key=lambda bore: (-bore.diameter, bore.id)))


def zero_point(zero: Zero, place: Surroundings) -> Vec:
    """The zero in setup coordinates. A bore that is not there stands for the part's middle."""
    if zero.of == "axis" and place.axis is not None:
        return place.axis.end
    box = place.stock if zero.of == "stock" else place.part
    z = round(box.max[2] if zero.level == "top" else box.min[2], 4)
    bore = place.bore(zero.bore) if zero.of == "bore" else None
    if bore is not None:
        return (bore.x, bore.y, z)
    share = _SHARE["centre" if zero.of in ("bore", "axis") else zero.place]
    x, y = (box.min[i] + share[i] * box.size[i] for i in (0, 1))
    return (round(x, 4), round(y, 4), z)


def choices(place: Surroundings) -> tuple[Choice, ...]:
    """Every corner, edge middle and centre of stock and part, and every bore, each with where it is."""
    found: list[Choice] = []
    for zero in (
        *(Zero(of, at) for of in ("stock", "part") for at in PLACES),
        *(Zero("bore", bore=bore.id) for bore in place.bores),
        *((Zero("axis"),) if place.axis is not None else ()),
    ):
        x, y, _ = zero_point(zero, place)
        if not any(abs(c.x - x) < 1e-3 and abs(c.y - y) < 1e-3 for c in found if zero.of in ("stock", "part")):
            found.append(Choice(zero, x, y))
    return tuple(found)


def least_of_stock(zero: Zero, place: Surroundings) -> tuple[float, float]:
    """The lowest X and Y that the stock has from a zero: not below 0 where all of it is positive."""
    x, y, _ = zero_point(zero, place)
    return (round(place.stock.min[0] - x, 4), round(place.stock.min[1] - y, 4))


def proposed_zero(position: int, place: Surroundings) -> tuple[Zero, str]:
    """What the rule takes in the setup at a position from 0, and why."""
    if place.axis is not None:
        return Zero("axis"), "every side then has the same zero, whatever the rotary stands at"
    if place.spun:
        return Zero("part", "centre"), "a lathe counts from the spindle's axis and the finished end"
    if position == 0:
        return Zero(), "nothing is finished yet: from the stock's middle its allowance is shared evenly"
    good = [bore for bore in place.bores if bore.diameter >= GOOD_BORE]
    if good:
        return Zero("bore", bore=good[0].id), f"{good[0].id} is finished and wide enough to indicate"
    return Zero("part", "left front"), "two finished edges can be touched there"


def touch_off(zero: Zero, place: Surroundings, offset: str, rests_on: str, turn: int = 0) -> tuple[str, ...]:
    """Instructions for the setter, X and Y first, then Z; lengths in mm. Of a piece that is turned by so many degrees,
    counter-clockwise seen from above, its sides as they look at the setter: what is left of it is in front after 90.

    The finished part's top does not exist yet while stock stands on it: then Z is taken from what the
    stock rests on.
    """
    if zero.of == "axis" and place.axis is not None:
        along, i = place.axis.along, "XY".index(place.axis.along)
        low, high, end = place.stock.min[i], place.stock.max[i], place.axis.end[i]
        over = abs((high if end > (low + high) / 2 else low) - end)
        return (
            f"{offset} {'Y' if along == 'X' else 'X'} Z: on the rotary's axis, as measured in for this machine",
            f"{offset} {along}: touch the free end of the stock, then go {over:.3f} into it",
        )
    if place.spun and zero.of == "part" and zero.level == "top":
        over = place.stock.max[2] - place.part.max[2]
        where = f"touch the stock's end, then go {over:.3f} into it" if over > 1e-6 else "touch the finished end"
        return (f"{offset} X: on the spindle's axis, by the tools' own offsets", f"{offset} Z: {where}")
    what = "the stock" if zero.of == "stock" else "the finished part"
    stock, part = place.stock, place.part
    box, across = stock if zero.of == "stock" else part, turn % 180 != 0
    wide, deep = box.size[1::-1] if across else box.size[:2]
    bore = place.bore(zero.bore) if zero.of == "bore" else None
    if bore is not None:
        plane = f"{offset} X Y: indicate bore {bore.id}, Ø{bore.diameter:.2f}, zero on its axis"
    elif zero.of == "bore" or zero.place == "centre":
        plane = (
            f"{offset} X Y: edge finder on both sides of {what} along X ({wide:.2f}) and Y ({deep:.2f}), "
            "zero in the middle"
        )
    elif " " in zero.place:
        x, y = (_seen(side, turn) for side in zero.place.split()[:: -1 if across else 1])
        plane = f"{offset} X Y: edge finder on the {x} and the {y} side of {what}"
    else:
        side = _seen(zero.place, turn)
        along, size = ("Y", deep) if side in ("left", "right") else ("X", wide)
        plane = (
            f"{offset} X Y: edge finder on the {side} side of {what}, and on both along {along} "
            f"({size:.2f}), zero in the middle"
        )
    if zero.level == "bottom":
        z = f"{offset} Z: touch {rests_on}"
    elif zero.of == "stock":
        z = f"{offset} Z: touch the top of the stock"
    else:
        z = f"{offset} Z: touch {rests_on}, then add {part.max[2] - stock.min[2]:.3f}"
    return (plane, z)


def touch_off_bar(zero: Zero, place: Surroundings, offset: str, *, plate: bool = False) -> str:
    """X and Y of the first piece of a bar, of which only the left end is free: from there and from its front, or in the
    middle between front and back; in a plate from its left end and front. Lengths in mm.
    """
    (x, y, _), stock = zero_point(zero, place), place.stock
    middle = not plate and abs(2 * y - stock.min[1] - stock.max[1]) < 1e-3
    depth = (
        f"on both along Y ({stock.size[1]:.2f}), in the middle" if middle
        else f"on its front, then {y - stock.min[1]:.3f} along Y"
    )  # fmt: skip
    what = "plate" if plate else "bar"
    return f"{offset} X Y: edge finder on the {what}'s left end, then {x - stock.min[0]:.3f} along X; {depth}"


_AROUND = ("left", "front", "right", "back")


def _seen(side: str, turn: int) -> str:
    """Where a side of a piece looks once that is turned."""
    return _AROUND[(_AROUND.index(side) + turn // 90) % 4]


@dataclass(frozen=True)
class Coordinates:
    """Where a feature lies from the zero: the middle of it (a hole's axis), its top, and its bottom."""

    feature: str
    x: float
    y: float
    top: float
    bottom: float


def coordinates(part: Part, frame: Frame, features: Sequence[Feature], zero: Vec) -> tuple[Coordinates, ...]:
    """All features of a setup in its work coordinates."""
    return tuple(_coordinates(part, frame, feature, zero) for feature in features)


def _coordinates(part: Part, frame: Frame, feature: Feature, zero: Vec) -> Coordinates:
    box = extent_of(part.model.solid, feature.faces, frame)
    low, high = ([end[i] - zero[i] for i in range(3)] for end in (box.min, box.max))
    x, y = ((low[i] + high[i]) / 2 for i in (0, 1))
    if isinstance(feature, Hole) and parallel(feature.axis, frame.up, 1e-3):
        x, y, _ = (a - b for a, b in zip(frame.point(feature.position), zero, strict=True))
    return Coordinates(
        feature.id, round(x, 4) + 0.0, round(y, 4) + 0.0, round(high[2], 4) + 0.0, round(low[2], 4) + 0.0
    )


def zero_findings(part: Part, plan: Plan, assigned: Mapping[str, tuple[str, ...]]) -> list[Finding]:
    """A zero on a bore that is not there when its setup begins."""
    found = []
    before: list[str] = []
    for setup in plan.setups:
        frame = frame_of(setup.up, 0)
        zero = setup.zero or Zero()
        wanted = zero.bore
        there = bores_there(part, frame, before)
        if zero.of == "bore" and all(bore.id != wanted for bore in there):
            names = ", ".join(f"{bore.id} Ø{bore.diameter:g}" for bore in there) or "none that is wide enough"
            found.append(
                Finding(
                    "zero-on-nothing", Severity.ERROR, Chapter.SETUPS,
                    f"The zero is on bore {wanted}, which is not there when {setup.id} begins.",
                    f"Bores that earlier setups made along its Z: {names}. Put the zero on one of them or on an edge.",
                    setup.id, (wanted,) if wanted in part.by_id else (),
                    cures=(Cure("Zero at the part's left front", {
                        "change": "set-zero", "setup": setup.id, "of": "part", "place": "left front",
                        "level": zero.level,
                    }),),
                )
            )  # fmt: skip
        before += assigned[setup.id]
    return found
