"""Rotational parts: the axis, and what a lathe makes around it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from math import atan2, cos, degrees, pi
from operator import sub as sub_

from lean_ledger.core.features.coaxial import canonical, cone_ends
from lean_ledger.core.features.holes import InnerGroove
from lean_ledger.core.features.model import Slot, Turned
from lean_ledger.core.features.patches import LENGTH, Patch, PatchedSolid, on_axis
from lean_ledger.core.features.planar import patch_rings
from lean_ledger.core.geometry.model import Bend, Curve, Surface, Vec
from lean_ledger.core.geometry.vectors import cross, dot, neg, norm, parallel, scale, sub

ROUNDS = (Surface.CYLINDER, Surface.CONE, Surface.TORUS, Surface.SPHERE, Surface.REVOLUTION)
MOSTLY = 0.5  # share of the walls around the axis that are turned, where nothing stands out beyond them
SURELY = 0.7  # the same, whatever stands out
GROOVE = 0.5  # of its bottom's diameter that a groove is wide at the most
BREAK = 5.0  # mm of leg up to which a cone at an end is a broken edge and not a taper
BREAK_ANGLES = (25.0, 65.0)


@dataclass(frozen=True)
class Axis:
    point: Vec
    direction: Vec

    def radius(self, p: Vec) -> float:
        away = sub(p, self.point)
        return norm(sub(away, scale(self.direction, dot(away, self.direction))))

    def holds(self, patch: Patch) -> bool:
        """Whether a patch is turned about this axis."""
        if patch.surface == Surface.SPHERE:
            return on_axis(self.point, self.direction, patch.face.origin)
        if patch.surface not in ROUNDS or not parallel(patch.axis, self.direction):
            return False
        return on_axis(self.point, self.direction, patch.face.origin)


def find_axis(body: PatchedSolid, used: set[int]) -> Axis | None:
    """The axis of a rotational part, None for a prismatic one.

    `used` are the patches of holes. Of the walls around the axis at least half are turned about it, and the part's
    outermost points lie on turned ones; or nearly all are.
    """
    groups: list[tuple[Axis, float]] = []
    for patch in body.patches:
        if patch.index in used or patch.surface not in (Surface.CYLINDER, Surface.CONE, Surface.REVOLUTION):
            continue
        if patch.face.inward:
            continue
        for i, (axis, area) in enumerate(groups):
            if axis.holds(patch):
                groups[i] = (axis, area + patch.area)
                break
        else:
            groups.append((Axis(patch.face.origin, canonical(patch.axis)), patch.area))
    if not groups:
        return None
    axis, turned = max(groups, key=lambda pair: pair[1])
    flats = _bar_flats(body, axis)
    turned += sum(p.area for p in flats)
    around = sum(p.area for p in body.patches if p.index not in used and _stands_around(axis, p))
    if around <= 0 or turned < MOSTLY * around or not _goes_round(body, axis, used):
        return None
    if turned < SURELY * around and not flats and not _nothing_stands_out(body, axis):
        return None
    return Axis(sub(axis.point, scale(axis.direction, dot(axis.point, axis.direction))), axis.direction)


def _bar_flats(body: PatchedSolid, axis: Axis) -> list[Patch]:
    """The six flats of a hexagonal bar about the axis, where the part is made of one."""
    sides: dict[float, list[Patch]] = {}
    for patch in body.planes:
        if abs(dot(patch.axis, axis.direction)) < 1e-3:
            distance = dot(sub(patch.face.origin, axis.point), patch.axis)
            sides.setdefault(round(distance, 2), []).append(patch)
    for distance, patches in sides.items():
        first = patches[0].axis
        steps = {
            round(degrees(atan2(dot(cross(first, p.axis), axis.direction), dot(first, p.axis))), 1) % 360
            for p in patches
        }
        if distance > 0 and steps == {0.0, 60.0, 120.0, 180.0, 240.0, 300.0}:
            return patches
    return []


def _stands_around(axis: Axis, patch: Patch) -> bool:
    """Walls around the axis: all outward patches but those square to it."""
    if patch.surface == Surface.PLANE:
        return abs(dot(patch.axis, axis.direction)) < cos(pi / 6)
    return not patch.face.inward


def _goes_round(body: PatchedSolid, axis: Axis, used: set[int]) -> bool:
    """Some turned wall covers more than half of a turn."""
    spans: dict[tuple[str, float], float] = {}
    for patch in body.patches:
        if patch.index not in used and axis.holds(patch) and not patch.face.inward:
            key = (patch.surface.value, round(patch.face.radius, 3))
            spans[key] = spans.get(key, 0.0) + patch.span
    return max(spans.values(), default=0.0) > pi


def _nothing_stands_out(body: PatchedSolid, axis: Axis) -> bool:
    turned = max(
        (axis.radius(p) for patch in body.patches if axis.holds(patch) and not patch.face.inward
         for border in patch.borders for p in border.edge.points),
        default=0.0,
    )  # fmt: skip
    most = max(axis.radius(p) for edge in body.solid.edges for p in edge.points)
    return most <= turned + 0.02 * turned


def find_turned(body: PatchedSolid, axis: Axis, used: set[int]) -> tuple[list[Turned], set[int]]:
    """What is turned on the outside and on the ends, and the patches that it uses; holes' patches are in `used`."""
    d = axis.direction
    rounds = [p for p in body.patches if p.index not in used and axis.holds(p) and not p.face.inward]
    flats = {
        p.index: p for p in body.planes if p.index not in used and parallel(p.axis, d) and _ringed(body, axis, p, used)
    }
    found: list[Turned] = []
    taken: set[int] = set()
    for make in (_face_grooves, _grooves):
        more, patches = make(body, axis, rounds, {i: p for i, p in flats.items() if i not in taken})
        found += more
        taken |= patches
    rounds = [p for p in rounds if p.index not in taken]
    cylinders: dict[float, list[Patch]] = {}
    for patch in rounds:
        if patch.surface == Surface.CYLINDER:
            cylinders.setdefault(round(patch.face.radius, 3), []).append(patch)
        elif patch.surface == Surface.CONE and not _breaks_an_edge(body, axis, patch):
            found.append(_taper(axis, patch))
            taken.add(patch.index)
        elif patch.surface in (Surface.REVOLUTION, Surface.SPHERE):
            found.append(_outside([patch], _widest(axis, patch), d))
            taken.add(patch.index)
    for same in cylinders.values():
        for run in _runs(body, axis, same):
            found.append(_outside(run, 2 * run[0].face.radius, d))
            taken |= {p.index for p in run}
    ends: dict[tuple[float, bool], list[Patch]] = {}
    for patch in flats.values():
        if patch.index not in taken:
            ends.setdefault((round(dot(patch.face.origin, d), 3), dot(patch.axis, d) > 0), []).append(patch)
    for level in sorted(ends):
        found.append(_end(body, axis, ends[level]))
        taken |= {p.index for p in ends[level]}
    return found, taken


def _ringed(body: PatchedSolid, axis: Axis, patch: Patch, used: set[int]) -> bool:
    """Whether a flat square to the axis was turned: most of a circle about the axis leads to something turned."""
    turns: dict[float, float] = {}
    for border in patch.borders:
        edge = border.edge
        if edge.curve == Curve.CIRCLE and edge.center is not None and axis.radius(edge.center) < 10 * LENGTH:
            beyond = body.patches[border.beyond] if border.beyond >= 0 else None
            if beyond is not None and (axis.holds(beyond) or beyond.index in used):
                radius = round(edge.radius, 3)
                turns[radius] = turns.get(radius, 0.0) + edge.length / edge.radius
    return max(turns.values(), default=0.0) > pi


def _face_grooves(
    body: PatchedSolid, axis: Axis, rounds: Sequence[Patch], flats: dict[int, Patch]
) -> tuple[list[Turned], set[int]]:
    """Rings cut into a flat end: a flat floor between an inner and an outer round wall."""
    found: list[Turned] = []
    taken: set[int] = set()
    for flat in flats.values():
        beside = [body.patches[i] for i in body.neighbours(flat, Bend.CONCAVE)]
        inner = [p for p in beside if p in rounds and p.surface == Surface.CYLINDER]
        outer = [p for p in beside if axis.holds(p) and p.face.inward and p.surface == Surface.CYLINDER]
        if not inner or not outer or inner[0].face.radius >= outer[0].face.radius:
            continue
        small, large = inner[0].face.radius, outer[0].face.radius
        floor = dot(flat.face.origin, flat.axis)
        depth = min(p.extent(flat.axis)[1] for p in (inner[0], outer[0])) - floor
        patches = [flat, *inner, *outer]
        # the inner wall may be the outside of a long boss: only what lies in the groove is its wall
        if inner[0].extent(flat.axis)[1] > floor + depth + LENGTH:
            patches.remove(inner[0])
        volume = pi * (large**2 - small**2) * depth
        found.append(
            _turned("groove", patches, flat.axis, 2 * large, (None, large - small, depth), volume, on_end=True)
        )
        taken |= {p.index for p in patches}
    return found, taken


def _grooves(
    body: PatchedSolid, axis: Axis, rounds: Sequence[Patch], flats: dict[int, Patch]
) -> tuple[list[Turned], set[int]]:
    """Grooves around the outside: a bottom between two walls that face one another."""
    d = axis.direction
    found: list[Turned] = []
    taken: set[int] = set()
    for run in _same_surface(rounds):
        bottom = run[0]
        walls: dict[int, Patch] = {}
        corners: dict[int, Patch] = {}
        for patch in run:
            for border in patch.borders:
                near = body.patches[border.beyond] if border.beyond >= 0 else None
                if near is None or border.edge.curve != Curve.CIRCLE:
                    continue
                if border.edge.bend == Bend.CONCAVE and near.index in flats:
                    walls[near.index] = near
                elif near.surface == Surface.TORUS and near.face.inward and axis.holds(near):
                    corners[near.index] = near
                    walls |= {b.beyond: flats[b.beyond] for b in near.borders if b.beyond in flats}
        if bottom.surface == Surface.CYLINDER and _face_each_other(walls.values(), d):
            low = min(dot(w.face.origin, d) for w in walls.values())
            high = max(dot(w.face.origin, d) for w in walls.values())
            radius = bottom.face.radius
            width = high - low
            top = min(_outer_radius(axis, w) for w in walls.values())
            if width > max(GROOVE * 2 * radius, LENGTH) or top <= radius + LENGTH:
                continue
            reaching = [w for w in walls.values() if abs(_outer_radius(axis, w) - top) < LENGTH]
            patches = [*run, *corners.values(), *reaching]
            volume = pi * (top**2 - radius**2) * width
            found.append(_turned("groove", patches, d, 2 * radius, (None, width, top - radius), volume))
            taken |= {p.index for p in patches}
    for patch in body.patches:  # round-bottomed
        if patch.surface == Surface.TORUS and axis.holds(patch) and patch.face.inward and patch.index not in taken:
            beside = [b for b in patch.borders if b.beyond >= 0]
            if beside and all(b.edge.bend == Bend.CONVEX for b in beside) and patch.face.major > patch.face.radius:
                low, high = patch.extent(d)
                radius = patch.face.major - patch.face.radius
                top = min(axis.radius(p) for b in beside for p in b.edge.points)
                if top > radius:
                    section = pi * patch.face.radius**2 / 2
                    volume = 2 * pi * patch.face.major * section
                    found.append(_turned("groove", [patch], d, 2 * radius, (None, high - low, top - radius), volume))
                    taken.add(patch.index)
    return found, taken


def _same_surface(rounds: Iterable[Patch]) -> list[list[Patch]]:
    """Cylinders of one radius that cover the same stretch, as a keyway leaves them in pieces."""
    runs: list[list[Patch]] = []
    for patch in rounds:
        for run in runs:
            if (
                patch.surface == run[0].surface == Surface.CYLINDER
                and abs(patch.face.radius - run[0].face.radius) < LENGTH
                and max(map(abs, map(sub_, patch.extent(run[0].axis), run[0].extent(run[0].axis)))) < LENGTH
            ):  # fmt: skip
                run.append(patch)
                break
        else:
            runs.append([patch])
    return runs


def _face_each_other(walls: Iterable[Patch], d: Vec) -> bool:
    """A wall that looks along the axis, and beyond it one that looks back."""
    up = [dot(w.face.origin, d) for w in walls if dot(w.axis, d) > 0]
    down = [dot(w.face.origin, d) for w in walls if dot(w.axis, d) < 0]
    return bool(up) and bool(down) and max(up) < min(down)


def _outer_radius(axis: Axis, patch: Patch) -> float:
    return max(axis.radius(p) for border in patch.borders for p in border.edge.points)


def _runs(body: PatchedSolid, axis: Axis, same: list[Patch]) -> list[list[Patch]]:
    """Cylinders of one radius, as one where only grooves or cuts lie between them."""
    d = axis.direction
    ordered = sorted(same, key=lambda p: p.extent(d))
    runs = [[ordered[0]]]
    for patch in ordered[1:]:
        gap_low, gap_high = max(p.extent(d)[1] for p in runs[-1]), patch.extent(d)[0]
        between = [
            p for p in body.patches
            if axis.holds(p) and not p.face.inward and p.surface in (Surface.CYLINDER, Surface.CONE)
            and p.extent(d)[0] > gap_low - LENGTH and p.extent(d)[1] < gap_high + LENGTH
        ]  # fmt: skip
        narrow = gap_high - gap_low <= GROOVE * 2 * patch.face.radius
        lower = all(_outer_radius(axis, p) <= patch.face.radius + LENGTH for p in between)
        if narrow and lower:
            runs[-1].append(patch)
        else:
            runs.append([patch])
    return runs


def _breaks_an_edge(body: PatchedSolid, axis: Axis, patch: Patch) -> bool:
    """A short cone at about 45 degrees beside a flat end: a chamfer."""
    ends = cone_ends(patch, axis.point, axis.direction)
    if len(ends) != 2:
        return False
    leg, run = abs(ends[1][1] - ends[0][1]) / 2, abs(ends[1][0] - ends[0][0])
    beside_flat = any(
        b.beyond >= 0 and body.patches[b.beyond].surface == Surface.PLANE
        and parallel(body.patches[b.beyond].axis, axis.direction) and b.edge.bend == Bend.CONVEX
        for b in patch.borders
    )  # fmt: skip
    lean = degrees(atan2(leg, run))
    return max(leg, run) <= BREAK and BREAK_ANGLES[0] <= lean <= BREAK_ANGLES[1] and beside_flat


def _taper(axis: Axis, patch: Patch) -> Turned:
    ends = cone_ends(patch, axis.point, axis.direction)
    low, high = patch.extent(axis.direction)
    length = high - low
    if len(ends) == 1:  # runs out in a point
        length = abs(dot(patch.face.origin, axis.direction) - ends[0][0])
    diameter = max(diameter for _, diameter in ends)
    return _turned("taper", [patch], axis.direction, diameter, (length, None, None))


def _widest(axis: Axis, patch: Patch) -> float:
    if patch.surface == Surface.SPHERE:
        return 2 * patch.face.radius
    return 2 * _outer_radius(axis, patch)


def _outside(run: Sequence[Patch], diameter: float, d: Vec) -> Turned:
    low, high = min(p.extent(d)[0] for p in run), max(p.extent(d)[1] for p in run)
    return _turned("outside", run, d, diameter, (high - low, None, None))


def _end(body: PatchedSolid, axis: Axis, patches: Sequence[Patch]) -> Turned:
    region = tuple(ring for patch in patches for ring in patch_rings(body.solid, patch)[0])
    diameter = 2 * max(_outer_radius(axis, patch) for patch in patches)
    area = sum(patch.area for patch in patches)
    end = _turned("end", patches, patches[0].axis, diameter, (None, None, None), region=region)
    return replace(end, area=round(area, 4))


def _turned(
    where: str,
    patches: Sequence[Patch],
    direction: Vec,
    diameter: float,
    sizes: tuple[float | None, float | None, float | None],
    volume: float = 0.0,
    region: tuple[tuple[Vec, ...], ...] = (),
    *,
    on_end: bool = False,
) -> Turned:
    """`sizes` are length, width and depth, as far as it has them."""

    def measured(value: float | None) -> float | None:
        return None if value is None else round(value, 5)

    faces = tuple(sorted({f for patch in patches for f in patch.face_indexes}))
    # an end, and a ring cut into it, is turned from its side; the outside from both ends
    access = (direction,) if region or on_end else (direction, neg(direction))
    length, width, depth = map(measured, sizes)
    return Turned(
        "", faces, access, volume, where, direction, round(diameter, 6), length, width, depth, region  # type: ignore[arg-type]
    )  # fmt: skip


def inner_groove(body: PatchedSolid, groove: InnerGroove, axis: Axis | None) -> Turned | Slot:
    """A ring in a bore: turned where the bore lies on a rotational part's axis, else a slot with an undercut."""
    faces = tuple(sorted(f for i in groove.patches for f in body.patches[i].face_indexes))
    depth = (groove.diameter - groove.bore) / 2
    volume = pi / 4 * (groove.diameter**2 - groove.bore**2) * groove.width
    on = axis is not None and parallel(axis.direction, groove.axis) and axis.radius(groove.middle) < 10 * LENGTH
    if on:
        return Turned(
            "", faces, (), volume, "groove", groove.axis, round(groove.diameter, 6), None, round(groove.width, 6),
            round(depth, 6),
        )  # fmt: skip
    return Slot(
        "", faces, (), volume, groove.axis, round(groove.width, 6), round(depth, 6),
        round(pi * groove.diameter, 6), through=False, open_ends=0, corner_radius=0.0, region=(), undercut=True,
    )  # fmt: skip
