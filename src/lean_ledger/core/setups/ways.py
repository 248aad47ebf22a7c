"""The directions that the tool comes from in one setup: one, or several where the machine indexes the part."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, degrees

from lean_ledger.core.features import Feature, Hole, Pocket, Slot, Step, flat_side
from lean_ledger.core.geometry.vectors import SIX, Vec, cross, dot, norm, scale, sub, unit
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, SetupDecision
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.setups.profile import levels_of, turned_from
from lean_ledger.core.setups.sides import is_outline, reaches, reaches_inside

SQUARE = 1e-3
AT_END = 0.01  # mm


@dataclass(frozen=True)
class Way:
    """A direction towards the tool, the machine's axes in the part's, and what the rotary and the tilt stand at."""

    direction: Vec
    frame: Frame
    angle: float = 0.0  # degrees
    tilt: float = 0.0


def directions(setup: SetupDecision) -> tuple[Vec, ...]:
    """Sides that the tool comes from, `up` first, then around the free end by the least turn."""
    up = DIRECTIONS[setup.up]
    if setup.free is None:
        return (up,)
    axis = DIRECTIONS[setup.free]
    around = [d for d in SIX if abs(dot(d, axis)) < SQUARE]
    start = up if up in around else around[0]
    around.sort(key=lambda d: _turn(axis, start, d))
    return tuple(around) if start == up else (up, *around)


def way_of(part: Part, feature: Feature, setup: SetupDecision, axis: Vec) -> Vec | None:
    """The direction from which a setup makes a feature; None where it does not. `axis` is the outline's."""
    up = DIRECTIONS[setup.up]
    if setup.part_turns:
        return _on_lathe(part, feature, setup, up)
    if setup.free is None:
        return up if reaches(part, feature, up, axis) else None
    free, ways = DIRECTIONS[setup.free], directions(setup)
    flat = flat_side(feature)
    round_it = abs(dot(free, axis)) < 0.5 or (up == free and not has_flat_outline(part, axis))
    if is_outline(part, feature, axis) and round_it:
        # the tool goes round it along the part's own axis, if at all
        return next((d for d in ways if abs(dot(d, axis)) > 0.5), None)
    if flat is not None:
        if flat.normal in ways or any(dot(d, flat.normal) > 1 - 1e-6 for d in ways):
            return next(d for d in ways if dot(d, flat.normal) > 1 - 1e-6)
        if abs(dot(up, free)) < 0.5 and abs(dot(flat.normal, free)) < SQUARE:  # the rotary brings it upright
            return flat.normal
        # the free end is trimmed by the tool's flank
        return ways[0] if dot(flat.normal, free) > 1 - 1e-6 else None
    found = next((d for d in ways if reaches_inside(feature, d)), None)
    if found is not None:
        return found
    return reached_indexed(feature, free, indexed=abs(dot(up, free)) < 0.5)


def _on_lathe(part: Part, feature: Feature, setup: SetupDecision, up: Vec) -> Vec | None:
    if turned_from(part, feature, up):
        return up
    if setup.spindle != "part and driven tools":
        return None
    if isinstance(feature, Hole | Slot | Pocket | Step):
        # along the spindle's axis from its free end, or square to it; a flat from where its floor looks
        able = [d for d in feature.access if dot(d, up) > 0.999 or abs(dot(d, up)) < SQUARE]
        if not isinstance(feature, Hole) and _in_chuck(part, feature, up):
            able = []
        floor = feature.direction if isinstance(feature, Step) else up
        return min(able, key=lambda d: (-dot(d, floor), -dot(d, up)), default=None)
    return None


def comes_across(part: Part, feature: Feature, setup: SetupDecision) -> bool:
    """Whether a driven tool makes a feature of a lathe's setup square to the spindle."""
    up = DIRECTIONS[setup.up]
    found = _on_lathe(part, feature, setup, up) if setup.part_turns else None
    return found is not None and abs(dot(found, up)) < SQUARE


def _in_chuck(part: Part, feature: Feature, up: Vec) -> bool:
    """Whether a feature reaches the end that the chuck holds."""
    bounds = part.model.solid.bounds
    end = min(dot(bounds.min, up), dot(bounds.max, up))
    return levels_of(part, feature, up)[0] < end + AT_END


def has_flat_outline(part: Part, axis: Vec) -> bool:
    """Whether the outline around an axis is flat sides only, so that each can be cut from its own direction."""
    return all(flat_side(f) is not None for f in part.features if is_outline(part, f, axis))


def turns_sides_up(part: Part, setup: SetupDecision, axis: Vec) -> bool:
    """Whether a setup brings each side of the outline under the spindle, in place of going round it."""
    if setup.free is None or abs(dot(DIRECTIONS[setup.free], axis)) < 0.5:
        return False
    return setup.up != setup.free or has_flat_outline(part, axis)


def reached_indexed(feature: Feature, free: Vec, *, indexed: bool) -> Vec | None:
    """A hole along none of the part's axes, where the machine's axes bring it upright."""
    if not isinstance(feature, Hole):
        return None
    for d in feature.access:
        if indexed and abs(dot(d, free)) < SQUARE:
            return d
        if not indexed and dot(d, free) > SQUARE - 1:  # how far the tilt goes is the machine's to say
            return d
    return None


def way(setup: SetupDecision, direction: Vec, home: Frame, level: Frame) -> Way:
    """`home` has the holding's axes, `level` those of the machine while the axes stand at 0."""
    if setup.part_turns and abs(dot(direction, home.up)) < SQUARE:
        # a driven tool across: X towards it, the spindle turned until the place is there
        frame = _clean(Frame(home.up, cross(direction, home.up), direction))
        return Way(direction, frame, _turn(home.up, home.right, direction))
    if setup.free is None:
        return Way(direction, level)
    free = home.up
    if norm(cross(direction, free)) < 1e-6:
        return Way(direction, level)
    if abs(dot(level.up, free)) > 0.5:
        # on a tilting table: tilted about y, so that the free end looks along x
        right = unit(sub(free, scale(direction, dot(free, direction))))
        frame = _clean(Frame(right, cross(direction, right), direction))
        return Way(direction, frame, _turn(free, level.right, direction), round(degrees(_angle(free, direction)), 3))
    about_y = abs(dot(level.back, free)) > 0.5
    axis = scale(free, 1.0 if dot(level.back if about_y else level.right, free) > 0 else -1.0)
    right = cross(axis, direction) if about_y else axis
    frame = _clean(Frame(right, cross(direction, right), direction))
    return Way(direction, frame, _turn(axis, DIRECTIONS[setup.up], direction))


def turned_to(place: Vec, on_axis: Vec, home: Way) -> Way:
    """A driven tool along the spindle: the spindle turned until a place off its axis stands on X."""
    off = sub(place, on_axis)
    up = home.frame.up
    right = unit(sub(off, scale(up, dot(off, up))))
    return Way(home.direction, _clean(Frame(right, cross(up, right), up)), _turn(up, home.frame.right, right))


def _turn(axis: Vec, start: Vec, d: Vec) -> float:
    """From 0 up to 360 degrees about an axis."""
    flat = sub(d, scale(axis, dot(d, axis)))
    angle = degrees(atan2(dot(cross(start, flat), axis), dot(start, flat)))
    return round(angle % 360, 3) % 360


def _angle(a: Vec, b: Vec) -> float:
    return atan2(norm(cross(a, b)), dot(a, b))


def _clean(frame: Frame) -> Frame:
    def rounded(v: Vec) -> Vec:
        return (round(v[0], 12) + 0.0, round(v[1], 12) + 0.0, round(v[2], 12) + 0.0)

    return Frame(rounded(frame.right), rounded(frame.back), rounded(frame.up))


def used_ways(part: Part, features: Sequence[Feature], setup: SetupDecision, axis: Vec) -> tuple[Vec, ...]:
    """The directions that a setup's features ask for, in the order of the least turn; `up` where there are none."""
    asked = {d for f in features if (d := way_of(part, f, setup, axis)) is not None}
    known = directions(setup)
    order = [d for d in known if d in asked] + sorted(d for d in asked if d not in known)
    return tuple(order) or (DIRECTIONS[setup.up],)
