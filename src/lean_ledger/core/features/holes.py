"""Round holes: coaxial inward cylinders and cones, joined by shoulders, read from the entry inward."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from itertools import product
from math import degrees

from lean_ledger.core.features.model import Hole, HoleSegment
from lean_ledger.core.features.patches import LENGTH, Patch, PatchedSolid, on_axis
from lean_ledger.core.geometry.model import Bend, Surface, Vec
from lean_ledger.core.geometry.vectors import SIX, add, dot, neg, parallel, scale, sub

ROUND = 6  # decimals kept of measured lengths
CELL = 1.0  # mm


@dataclass(frozen=True)
class _Piece:
    """A full cylinder or cone between `low` and `high` along the common axis."""

    patch: Patch
    low: float
    high: float
    low_diameter: float
    high_diameter: float


def find_holes(body: PatchedSolid) -> tuple[list[Hole], set[int]]:
    """All round holes with ids left empty, and the patches that they use."""
    holes: list[Hole] = []
    used: set[int] = set()
    for axis_origin, axis, pieces in _coaxial_pieces(body):
        for chain in _chains(body, pieces, axis):
            found = _holes_of_chain(body, chain, axis_origin, axis)
            holes.extend(hole for hole, _ in found)
            for _, patches in found:
                used |= patches
    return holes, used


def _coaxial_pieces(body: PatchedSolid) -> list[tuple[Vec, Vec, list[_Piece]]]:
    groups: list[tuple[Vec, Vec, list[_Piece]]] = []
    near: dict[tuple[int, ...], list[int]] = {}  # groups by the cell that their axis passes through
    for patch in body.patches:
        if patch.surface not in (Surface.CYLINDER, Surface.CONE) or not patch.face.inward or not patch.full_turn:
            continue
        axis = _canonical(patch.axis)
        cells = _cells(axis, patch.face.origin)
        for number in (n for cell in cells for n in near.get(cell, ())):
            origin, other, pieces = groups[number]
            if parallel(other, axis) and on_axis(origin, other, patch.face.origin):
                pieces.append(_piece(patch, origin, other))
                break
        else:
            near.setdefault(cells[0], []).append(len(groups))
            groups.append((patch.face.origin, axis, [_piece(patch, patch.face.origin, axis)]))
    for _, _, pieces in groups:
        pieces.sort(key=lambda piece: (piece.low, piece.high))
    return groups


def _cells(axis: Vec, origin: Vec) -> list[tuple[int, ...]]:
    """The cell of a grid where an axis is nearest to the part's origin, and its neighbours; lines meet in few cells."""
    foot = sub(origin, scale(axis, dot(origin, axis)))
    own = tuple(round(c / CELL) for c in foot)
    around = [tuple(o + d for o, d in zip(own, step, strict=True)) for step in product((-1, 0, 1), repeat=3)]
    return [own, *(cell for cell in around if cell != own)]


def _canonical(axis: Vec) -> Vec:
    """Of an axis and its opposite the one that the six directions list first, so that a file's choice has no effect."""
    for direction in SIX:
        if dot(axis, direction) > 0.5:
            return axis
        if dot(axis, direction) < -0.5:
            return neg(axis)
    return axis


def _piece(patch: Patch, origin: Vec, axis: Vec) -> _Piece:
    base = dot(origin, axis)
    low, high = (value - base for value in patch.extent(axis))
    if patch.surface == Surface.CYLINDER:
        return _Piece(patch, low, high, 2 * patch.face.radius, 2 * patch.face.radius)
    ends = _cone_ends(patch, origin, axis)
    if len(ends) == 1:  # a tip: the apex is no edge
        (at, diameter), apex = ends[0], dot(sub(patch.face.origin, origin), axis)
        return _Piece(patch, *((at, apex, diameter, 0.0) if apex > at else (apex, at, 0.0, diameter)))
    (low, low_diameter), (high, high_diameter) = ends[0], ends[-1]
    return _Piece(patch, low, high, low_diameter, high_diameter)


def _cone_ends(patch: Patch, origin: Vec, axis: Vec) -> list[tuple[float, float]]:
    """(position along the axis, diameter) of the cone's border circles, by position."""
    ends: dict[float, float] = {}
    for border in patch.borders:
        for point in border.edge.points:
            away = sub(point, origin)
            along = dot(away, axis)
            radial = sub(away, scale(axis, along))
            ends[round(along, 3)] = 2 * dot(radial, radial) ** 0.5
    places = sorted(ends)
    if places and places[-1] - places[0] < LENGTH:
        places = places[:1]
    return [(place, ends[place]) for place in (places if len(places) < 3 else (places[0], places[-1]))]


def _chains(body: PatchedSolid, pieces: list[_Piece], axis: Vec) -> list[list[_Piece]]:
    chains: list[list[_Piece]] = []
    for piece in pieces:
        if chains and abs(chains[-1][-1].high - piece.low) < 2 * LENGTH and _joined(body, chains[-1][-1], piece, axis):
            chains[-1].append(piece)
        else:
            chains.append([piece])
    return chains


def _joined(body: PatchedSolid, a: _Piece, b: _Piece, axis: Vec) -> bool:
    if any(border.beyond == b.patch.index for border in a.patch.borders):
        return True
    return _shoulder(body, a, b, axis) is not None


def _shoulder(body: PatchedSolid, a: _Piece, b: _Piece, axis: Vec) -> Patch | None:
    """The flat ring between two pieces."""
    around_b = {border.beyond for border in b.patch.borders}
    for border in a.patch.borders:
        if border.beyond in around_b and border.beyond >= 0:
            ring = body.patches[border.beyond]
            low, high = ring.extent(axis)
            if ring.surface == Surface.PLANE and parallel(ring.axis, axis) and high - low < LENGTH:
                return ring
    return None


def _holes_of_chain(body: PatchedSolid, chain: list[_Piece], origin: Vec, axis: Vec) -> list[tuple[Hole, set[int]]]:
    if not any(piece.patch.surface == Surface.CYLINDER for piece in chain):
        return []
    if _stands_round_an_island(body, chain, axis):
        return []
    low_open, low_floor = _end(body, chain, axis, at_low=True)
    high_open, high_floor = _end(body, chain, axis, at_low=False)
    if not low_open and not high_open:
        return []
    patches = {piece.patch.index for piece in chain}
    for a, b in itertools.pairwise(chain):
        ring = _shoulder(body, a, b, axis)
        if ring is not None:
            patches.add(ring.index)
    patches |= {floor for floor in (low_floor, high_floor) if floor is not None}
    if low_open and high_open:
        waist = min(range(len(chain)), key=lambda i: (_width(chain[i]), i))
        wide_low = any(_width(p) > _width(chain[waist]) + LENGTH for p in chain[:waist])
        last = max(i for i in range(len(chain)) if _width(chain[i]) < _width(chain[waist]) + LENGTH)
        wide_high = any(_width(p) > _width(chain[waist]) + LENGTH for p in chain[last + 1 :])
        if wide_low and wide_high:
            return _two_sided(body, chain, waist, origin, axis, patches)
        from_high = wide_high or (not wide_low and not wide_high)
    else:
        from_high = high_open
    hole = _hole(body, chain, origin, axis, patches, from_high=from_high, through=low_open and high_open)
    return [(hole, patches)]


def _stands_round_an_island(body: PatchedSolid, chain: list[_Piece], axis: Vec) -> bool:
    """Whether something rises from the floor inside: then it is a round pocket, and drilling it would cut that away."""
    members = {piece.patch.index for piece in chain}
    for piece in (chain[0], chain[-1]):
        for border in piece.patch.borders:
            if border.edge.bend != Bend.CONCAVE or border.beyond in members or border.beyond < 0:
                continue
            floor = body.patches[border.beyond]
            if floor.surface == Surface.PLANE and parallel(floor.axis, axis):
                rising = (b for b in floor.borders if b.edge.bend == Bend.CONCAVE and b.beyond not in members)
                if any(body.is_wall(body.patches[b.beyond], floor.axis) for b in rising if b.beyond >= 0):
                    return True
    return False


def _two_sided(
    body: PatchedSolid, chain: list[_Piece], waist: int, origin: Vec, axis: Vec, patches: set[int]
) -> list[tuple[Hole, set[int]]]:
    """Wider at both ends: two holes, the narrowest cylinder with the one that is entered from the canonical side."""
    upper, lower = chain[waist:], chain[:waist]
    upper_patches = {piece.patch.index for piece in upper}
    for a, b in itertools.pairwise(upper):
        ring = _shoulder(body, a, b, axis)
        if ring is not None:
            upper_patches.add(ring.index)
    lower_patches = patches - upper_patches
    return [
        (_hole(body, upper, origin, axis, upper_patches, from_high=True, through=True), upper_patches),
        (_hole(body, lower, origin, axis, lower_patches, from_high=False, through=True), lower_patches),
    ]


def _width(piece: _Piece) -> float:
    if piece.patch.surface == Surface.CYLINDER:
        return piece.low_diameter
    return (piece.low_diameter + piece.high_diameter) / 2


def _end(body: PatchedSolid, chain: list[_Piece], axis: Vec, *, at_low: bool) -> tuple[bool, int | None]:
    """Whether the chain opens at an end, and the patch of the flat floor that closes it."""
    piece = chain[0] if at_low else chain[-1]
    if (piece.low_diameter if at_low else piece.high_diameter) == 0:
        return False, None
    members = {p.patch.index for p in chain}
    middle = sum(piece.patch.extent(axis)) / 2
    for border in piece.patch.borders:
        if border.beyond in members:
            continue
        at = sum(dot(p, axis) for p in border.edge.points) / len(border.edge.points)
        if (at < middle) == at_low:
            if border.edge.bend == Bend.CONCAVE:
                floor = body.patches[border.beyond]
                flat = floor.surface == Surface.PLANE and parallel(floor.axis, axis)
                closed = flat and all(b.edge.bend == Bend.CONCAVE for b in floor.borders if b.beyond in members)
                return (not flat), (floor.index if closed and _only_touches(floor, members) else None)
            return True, None
    return True, None


def _only_touches(floor: Patch, members: set[int]) -> bool:
    return all(border.beyond in members for border in floor.borders)


def _hole(
    body: PatchedSolid,
    chain: list[_Piece],
    origin: Vec,
    axis: Vec,
    patches: set[int],
    *,
    from_high: bool,
    through: bool,
) -> Hole:
    ordered = chain[::-1] if from_high else chain
    segments = []
    depth = position = 0.0
    for piece in ordered:
        outer, inner = (
            (piece.high_diameter, piece.low_diameter) if from_high else (piece.low_diameter, piece.high_diameter)
        )
        length = piece.high - piece.low
        position += length
        if piece.patch.surface == Surface.CYLINDER:
            segments.append(HoleSegment("cylinder", round(outer, ROUND), round(outer, ROUND), round(length, ROUND)))
            depth = position
        else:
            angle = round(2 * degrees(piece.patch.face.half_angle), 4)
            segments.append(HoleSegment("cone", round(outer, ROUND), round(inner, ROUND), round(length, ROUND), angle))
    entry = chain[-1].high if from_high else chain[0].low
    inward = neg(axis) if from_high else axis
    faces = sorted(f for index in patches for f in body.patches[index].face_indexes)
    return Hole(
        id="",
        faces=tuple(faces),
        access=(),
        volume=sum(segment.volume for segment in segments),
        position=add(origin, scale(axis, entry)),
        axis=inward,
        diameter=round(min(2 * p.patch.face.radius for p in chain if p.patch.surface == Surface.CYLINDER), ROUND)
        if any(p.patch.surface == Surface.CYLINDER for p in chain)
        else round(min(p.low_diameter for p in chain), ROUND),
        depth=round(depth or position, ROUND),
        through=through,
        segments=tuple(segments),
    )
