"""T-slots and dovetails: recesses that are wider below than at their mouth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, degrees

from lean_ledger.core.features.model import Slot, Undercut
from lean_ledger.core.features.patches import LENGTH, Patch, PatchedSolid
from lean_ledger.core.features.planar import patch_rings
from lean_ledger.core.geometry.model import Bend, Surface, Vec
from lean_ledger.core.geometry.vectors import add, cross, dot, parallel, scale, sub, unit


@dataclass(frozen=True)
class _Side:
    """One side of an undercut: its patches from the floor up, the plane of its mouth, the level where it opens."""

    patches: tuple[Patch, ...]
    inward: Vec  # from this side to the other, square to the floor's normal
    mouth: Vec  # a point on the edge or wall that bounds the mouth
    shoulder: float  # level up to which it is wide
    top: float


def find_undercuts(body: PatchedSolid, used: set[int]) -> tuple[list[Slot], set[int]]:
    found: list[Slot] = []
    taken: set[int] = set()
    for floor in body.planes:
        if floor.index in used or floor.index in taken:
            continue
        sides = [side for border in floor.borders if (side := _side(body, floor, border.beyond, used)) is not None]
        pair = _facing(sides)
        if pair is None:
            continue
        slot, patches = _slot(body, floor, *pair)
        found.append(slot)
        taken |= patches
    return found, taken


def _side(body: PatchedSolid, floor: Patch, index: int, used: set[int]) -> _Side | None:
    if index < 0 or index in used:
        return None
    wall, normal = body.patches[index], floor.axis
    if wall.surface != Surface.PLANE or index not in body.neighbours(floor, Bend.CONCAVE):
        return None
    lean = dot(wall.axis, normal)
    if -0.98 < lean < -0.02:  # leans over the floor: a dovetail's flank
        inward = unit(sub(wall.axis, scale(normal, lean)))
        top = wall.extent(normal)[1]
        edge = max((p for b in wall.borders for p in b.edge.points), key=lambda p: dot(p, normal))
        return _Side((wall,), inward, edge, top, top)
    if abs(lean) > 1e-3:
        return None
    for ceiling_index in body.neighbours(wall, Bend.CONCAVE):
        ceiling = body.patches[ceiling_index]
        if ceiling_index in used or ceiling.surface != Surface.PLANE or dot(ceiling.axis, normal) > -1 + 1e-6:
            continue
        for neck_index in body.neighbours(ceiling, Bend.CONVEX):
            neck = body.patches[neck_index]
            if neck.surface == Surface.PLANE and dot(neck.axis, wall.axis) > 1 - 1e-6:
                shoulder, top = ceiling.extent(normal)[0], neck.extent(normal)[1]
                return _Side((wall, ceiling, neck), wall.axis, neck.face.origin, shoulder, top)
    return None


def _facing(sides: list[_Side]) -> tuple[_Side, _Side] | None:
    for i, a in enumerate(sides):
        for b in sides[i + 1 :]:
            if dot(a.inward, b.inward) < -1 + 1e-6 and dot(sub(b.mouth, a.mouth), a.inward) > LENGTH:
                return a, b
    return None


def _slot(body: PatchedSolid, floor: Patch, a: _Side, b: _Side) -> tuple[Slot, set[int]]:
    normal, across = floor.axis, a.inward
    along = cross(normal, across)
    level = floor.extent(normal)[0]
    top = min(a.top, b.top)
    mouth = dot(sub(b.mouth, a.mouth), across)
    low, high = floor.extent(across)
    wide = high - low
    start, end = floor.extent(along)
    if len(a.patches) == 1:
        section = (wide + mouth) / 2 * (top - level)
    else:
        section = wide * (a.shoulder - level) + mouth * (top - a.shoulder)
    patches = [floor, *a.patches, *b.patches]
    ends = [
        body.patches[i] for i in body.neighbours(floor, Bend.CONCAVE)
        if body.patches[i].surface == Surface.PLANE and parallel(body.patches[i].axis, along, 1e-3)
    ]  # fmt: skip
    patches += ends
    rings, _ = patch_rings(body.solid, floor)
    slot = Slot(
        id="",
        faces=tuple(sorted({f for patch in patches for f in patch.face_indexes})),
        access=(),
        volume=section * (end - start),
        direction=normal,
        width=round(mouth, 6),
        depth=round(top - level, 6),
        length=round(end - start, 6),
        through=False,
        open_ends=2 - len(ends),
        corner_radius=0.0,
        region=tuple(rings[:1]),
        open_edges=_open_edges(rings[0], along, start, end, ends_closed=_closed(body, ends, along, start, end)),
        undercut=True,
        form=_form(floor, a, b, along, (start, end), ends_closed=_closed(body, ends, along, start, end)),
    )
    return slot, {patch.index for patch in patches}


def _closed(
    body: PatchedSolid, ends: list[Patch], along: Vec, start: float, end: float
) -> tuple[bool, bool]:  # fmt: skip
    """Whether a wall stands at the first end and at the last."""
    levels = [patch.extent(along)[0] for patch in ends]
    return any(abs(at - start) < LENGTH for at in levels), any(abs(at - end) < LENGTH for at in levels)


def _open_edges(
    ring: Sequence[Vec], along: Vec, start: float, end: float, ends_closed: tuple[bool, bool]
) -> tuple[tuple[Vec, Vec], ...]:
    """The stretches of a floor's outline with no wall: across its open ends."""
    found = []
    for a, b in zip(ring, (*ring[1:], ring[0]), strict=True):
        for level, closed in zip((start, end), ends_closed, strict=True):
            if not closed and all(abs(dot(p, along) - level) < LENGTH for p in (a, b)):
                found.append((a, b))
    return tuple(found)


def _form(
    floor: Patch, a: _Side, b: _Side, along: Vec, reach: tuple[float, float], ends_closed: tuple[bool, bool]
) -> Undercut:
    """From the sides' measures; the mouth is drawn on the floor, below where it is."""
    normal, across = floor.axis, a.inward
    level = floor.extent(normal)[0]
    low, high = floor.extent(across)
    sides = dot(a.mouth, across), dot(b.mouth, across)

    def at(u: float, v: float) -> Vec:
        return add(add(scale(along, u), scale(across, v)), scale(normal, level))

    start, end = reach
    mouth = (at(start, sides[0]), at(end, sides[0]), at(end, sides[1]), at(start, sides[1]))
    open_ends = [(mouth[3], mouth[0])] * (not ends_closed[0]) + [(mouth[1], mouth[2])] * (not ends_closed[1])
    height = min(a.shoulder, b.shoulder) - level
    lean = ((high - low) - (sides[1] - sides[0])) / 2
    flank = 90.0 if len(a.patches) > 1 else degrees(atan2(height, lean))
    return Undercut(
        round(high - low, 6), round(height, 6), round(flank, 4), mouth, tuple(open_ends)
    )  # fmt: skip
