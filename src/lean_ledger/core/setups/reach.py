"""What a machine reaches in one clamping, for every way in which a part may lie in it (docs/formats.md, machine)."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import acos, asin, cos, pi, radians, sin, sqrt

from lean_ledger.core.features import Feature
from lean_ledger.core.features.model import Hole, Turned
from lean_ledger.core.features.turned import Axis
from lean_ledger.core.geometry.model import Face, Solid, Surface
from lean_ledger.core.geometry.vectors import Vec, add, cross, dot, neg, norm, parallel, scale, sub, unit
from lean_ledger.library.machines import Machine, Rotary

SQUARE = radians(0.5)  # to which directions count as square, and tilts as within their range
ON_AXIS = 0.02  # mm


@dataclass(frozen=True)
class Clamping:
    """A way to lie in a machine. `line` is the rotary's or the spindle's axis in the part, None for three axes."""

    up: Vec | None  # towards the spindle at rest; None where it is left to what is cut
    line: Vec | None
    reached: frozenset[int]  # indexes of the directions that were asked for


def clampings(machine: Machine, directions: Sequence[Vec], axis: Axis | None) -> tuple[Clamping, ...]:
    """All ways to lie that no other way outdoes, for the directions that something has to be cut from.

    `axis` is the part's own where it is rotational: a lathe clamps by it, and finds nothing to do on other parts.
    """
    if machine.turns_work:
        return _on_lathe(machine, directions, axis)
    if machine.rotary is None:
        return tuple(Clamping(d, None, frozenset([i])) for i, d in enumerate(directions))
    if machine.tilt is None:
        return _most(_around(line, directions) for line in _lines(directions))
    low, high = tilt_angles(machine.rotary, machine.tilt)
    return _most(_tilted(line, low, high, machine.rotary, directions) for line in _poles(directions, low, high))


def tilt_angles(rotary: Rotary, tilt: Rotary) -> tuple[float, float]:
    """Least and greatest angle between the rotary's line and a direction that the tilt brings upright, radians.

    The angle is |tilt| where the rotary turns about z, and |90° − tilt| where it turns about x or y.
    """
    ends = tilt.range if tilt.range is not None else (-180.0, 180.0)
    if rotary.about != "z":
        ends = (90 - ends[1], 90 - ends[0])
    low = 0.0 if ends[0] <= 0 <= ends[1] else min(abs(e) for e in ends)
    return radians(low), radians(min(180.0, max(abs(e) for e in ends)))


def _on_lathe(machine: Machine, directions: Sequence[Vec], axis: Axis | None) -> tuple[Clamping, ...]:
    if axis is None:
        return ()
    found = []
    for up in (axis.direction, neg(axis.direction)):
        reached = {
            i for i, d in enumerate(directions)
            if dot(d, up) > cos(SQUARE) or (machine.rotary is not None and abs(dot(d, up)) < sin(SQUARE))
        }  # fmt: skip
        found.append(Clamping(up, axis.direction, frozenset(reached)))
    return tuple(found)


def made_on(machine: Machine, solid: Solid, feature: Feature, axis: Axis | None) -> bool:
    """Whether a machine of this kind makes a feature at all, from wherever: a lathe what is round about its spindle.

    With driven tools a lathe also makes what lies along or square to the axis, which its directions say.
    """
    if not machine.turns_work or axis is None or machine.rotary is not None:
        return True
    if isinstance(feature, Turned):
        return True
    if isinstance(feature, Hole):
        return bool(feature.on_axis)
    return all(_is_round_about(solid.faces[f], axis) for f in feature.faces)


def _is_round_about(face: Face, axis: Axis) -> bool:
    if face.surface == Surface.PLANE:
        return parallel(face.axis, axis.direction, SQUARE)
    if face.surface not in (Surface.CYLINDER, Surface.CONE, Surface.TORUS):
        return False
    return parallel(face.axis, axis.direction, SQUARE) and axis.radius(face.origin) < ON_AXIS


# ---- rotary axes


def _lines(directions: Sequence[Vec]) -> Iterable[Vec]:
    """Lines that two directions are square to; where all are parallel those square to them nearest to the file's axes.

    Nearest to the axes of the file a line may have a third direction within its tolerance by chance, and as the part is
    modelled in another place it has not.
    """
    found = list(_distinct(cross(a, b) for a, b in itertools.combinations(directions, 2)))
    yield from found
    for d in directions if not found else ():
        yield from _distinct(_square_to(d, axis) for axis in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)))


def _square_to(direction: Vec, near: Vec) -> Vec:
    return sub(near, scale(direction, dot(near, direction)))


def _around(line: Vec, directions: Sequence[Vec]) -> Clamping:
    return Clamping(None, line, frozenset(i for i, d in enumerate(directions) if abs(dot(d, line)) < sin(SQUARE)))


def _poles(directions: Sequence[Vec], low: float, high: float) -> Iterable[Vec]:
    """Lines at which a set of directions within the tilt's angles may be largest.

    As a line moves, a direction enters or leaves the set where its angle is `low` or `high`: sets are largest at the
    directions themselves, square to two, or where two of those circles cross.
    """
    seeds: list[Vec] = [w for d in directions for w in (d, neg(d))]
    for d in directions:
        seeds += [_square_to(d, axis) for axis in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))]
    for a, b in itertools.combinations(directions, 2):
        n = cross(a, b)
        if norm(n) < SQUARE:
            continue
        n = unit(n)
        seeds += [n, neg(n), add(a, b), sub(a, b), sub(b, a)]
        for angle_a, angle_b in itertools.product((low, high), repeat=2):
            seeds += _crossings(a, b, n, angle_a, angle_b)
    return _distinct(seeds)


def _crossings(a: Vec, b: Vec, n: Vec, angle_a: float, angle_b: float) -> list[Vec]:
    """Unit vectors at given angles to two unit vectors `a` and `b`, square to both of which is `n`."""
    c = dot(a, b)
    ca, cb = cos(angle_a), cos(angle_b)
    s = 1 - c * c
    x, y = (ca - c * cb) / s, (cb - c * ca) / s
    rest = 1 - x * x - y * y - 2 * x * y * c
    if rest < 0:
        return []
    flat = add(scale(a, x), scale(b, y))
    return [add(flat, scale(n, sqrt(rest))), sub(flat, scale(n, sqrt(rest)))]


def _tilted(line: Vec, low: float, high: float, rotary: Rotary, directions: Sequence[Vec]) -> Clamping:
    """The side by which the part is held, against the line, is not reached whatever the tilt allows."""
    reached = set()
    for i, d in enumerate(directions):
        angle = acos(max(-1.0, min(1.0, dot(d, line))))
        if low - SQUARE <= angle <= high + SQUARE and angle < pi - SQUARE:
            reached.add(i)
    return Clamping(line if rotary.about == "z" else None, line, frozenset(reached))


def _distinct(vectors: Iterable[Vec]) -> Iterable[Vec]:
    seen: set[tuple[int, int, int]] = set()
    for v in vectors:
        if norm(v) < asin(SQUARE):
            continue
        d = unit(v)
        key = (round(d[0] * 1e4), round(d[1] * 1e4), round(d[2] * 1e4))
        if key not in seen:
            seen.add(key)
            yield d


def _most(found: Iterable[Clamping]) -> tuple[Clamping, ...]:
    """Those whose directions are not all reached by another one too; of equals the first."""
    unique: dict[frozenset[int], Clamping] = {}
    for one in found:
        if one.reached:
            unique.setdefault(one.reached, one)
    ranked = sorted(unique.values(), key=lambda c: -len(c.reached))
    kept: list[Clamping] = []
    for one in ranked:
        if not any(one.reached < other.reached for other in kept):
            kept.append(one)
    return tuple(kept)
