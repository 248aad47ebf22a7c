"""Round holes: coaxial inward cylinders and cones, joined by shoulders, read from the entry inward."""

from __future__ import annotations

import itertools
from collections.abc import Sequence, Set
from dataclasses import dataclass, replace
from math import cos, degrees, pi, sin

from lean_ledger.core.features.coaxial import Coaxial, Stretch, between, coaxial_groups, floor_of
from lean_ledger.core.features.model import Hole, HoleSegment
from lean_ledger.core.features.patches import LENGTH, Patch, PatchedSolid
from lean_ledger.core.features.planar import frame
from lean_ledger.core.features.sight import Sight
from lean_ledger.core.geometry.model import Bend, Edge, Surface, Vec
from lean_ledger.core.geometry.vectors import add, dot, neg, norm, parallel, scale, sub

ROUND = 6  # decimals kept of measured lengths
MORE_THAN_HALF = pi + 0.1  # rad that a wall must cover for a drill to be held in it


@dataclass(frozen=True)
class InnerGroove:
    """A ring cut into the wall of a bore, lengths in mm."""

    patches: frozenset[int]
    axis: Vec
    middle: Vec  # on the axis
    width: float
    diameter: float
    bore: float


@dataclass(frozen=True)
class FoundHoles:
    holes: list[Hole]
    grooves: list[InnerGroove]
    used: set[int]


@dataclass(frozen=True)
class _Chain:
    """Pieces that meet, low to high, with the rings between them."""

    group: Coaxial
    pieces: tuple[Stretch, ...]
    rings: tuple[frozenset[int], ...]

    def patches_of(self, first: int, last: int) -> set[int]:
        """Patches of the pieces first..last and of the rings between them."""
        found: set[int] = set()
        for piece in self.pieces[first : last + 1]:
            found |= piece.indexes
        for ring in self.rings[first:last]:
            found |= ring
        return found


def find_holes(body: PatchedSolid, sight: Sight, skip: Set[int] = frozenset()) -> FoundHoles:
    """All round holes, ids left empty, the grooves in them, and the patches that both use; none of those in `skip`."""
    result = FoundHoles([], [], set())
    for group in coaxial_groups(body, lambda patch: patch.face.inward and patch.index not in skip):
        round_enough = [piece for piece in group.pieces if piece.full_turn or _is_bore(sight, group, piece)]
        own = [p for p in group.pieces if p in round_enough or _is_broken_out(body, sight, group, p, round_enough)]
        for chain in _chains(body, replace(group, pieces=tuple(own))):
            _add_chain(body, chain, result)
    return result


def _is_bore(sight: Sight, group: Coaxial, piece: Stretch) -> bool:
    """Whether a wall with gaps is still that of a bore: most of the turn is there, and nothing stands within."""
    return piece.span >= MORE_THAN_HALF and piece.is_cylinder and _is_free(sight, group, piece)


def _is_broken_out(body: PatchedSolid, sight: Sight, group: Coaxial, piece: Stretch, bores: Sequence[Stretch]) -> bool:
    """Whether what is left of a wall is that of a counterbore on a bore, most of which broke out: it ends in
    sharp edges, where a slot's round end or a pocket's corner goes on in its walls.
    """
    if not piece.is_cylinder or not any(_sits_on(body, group, piece, bore) for bore in bores):
        return False
    sides = [
        border.edge for index in piece.indexes for border in body.patches[index].borders
        if border.beyond not in piece.indexes and _runs_along(border.edge, group.axis)
    ]  # fmt: skip
    return all(edge.bend == Bend.CONVEX for edge in sides) and _is_free(sight, group, piece)


def _sits_on(body: PatchedSolid, group: Coaxial, piece: Stretch, bore: Stretch) -> bool:
    """Whether a ledge leads from a wider piece down to a bore."""
    low, high = (bore, piece) if bore.low < piece.low else (piece, bore)
    if bore.width > piece.width - LENGTH or abs(high.low - low.high) > LENGTH:
        return False
    return between(body, low, high, group.axis) is not None


def _runs_along(edge: Edge, axis: Vec) -> bool:
    low, high = edge.extent(axis)
    return high - low > LENGTH


def _is_free(sight: Sight, group: Coaxial, piece: Stretch) -> bool:
    """Whether nothing stands within a wall."""
    u, v = frame(group.axis)
    middle = group.at((piece.low + piece.high) / 2)
    radius = 0.45 * piece.low_diameter
    ring = [
        add(middle, add(scale(u, radius * cos(k * pi / 12)), scale(v, radius * sin(k * pi / 12)))) for k in range(24)
    ]
    return not bool(sight.inside(ring).any())


def _chains(body: PatchedSolid, group: Coaxial) -> list[_Chain]:
    chains: list[tuple[list[Stretch], list[frozenset[int]]]] = []
    for piece in group.pieces:
        ring = between(body, chains[-1][0][-1], piece, group.axis) if chains else None
        if ring is not None and _meet(body, chains[-1][0][-1], piece, ring):
            chains[-1][0].append(piece)
            chains[-1][1].append(ring)
        else:
            chains.append(([piece], []))
    return [_Chain(group, tuple(pieces), tuple(rings)) for pieces, rings in chains]


def _meet(body: PatchedSolid, a: Stretch, b: Stretch, ring: frozenset[int]) -> bool:
    """Whether one piece ends where the next begins, but for the corner radii between them."""
    radii = sum(body.patches[i].face.radius for i in ring if body.patches[i].surface != Surface.PLANE)
    return abs(b.low - a.high) < radii + 2 * LENGTH


def _add_chain(body: PatchedSolid, chain: _Chain, result: FoundHoles) -> None:
    if not any(piece.is_cylinder for piece in chain.pieces) or _stands_round_an_island(body, chain):
        return
    members = chain.patches_of(0, len(chain.pieces) - 1)
    axis = chain.group.axis
    low_open, low_floor = floor_of(body, chain.pieces[0], members, axis, at_low=True)
    high_open, high_floor = floor_of(body, chain.pieces[-1], members, axis, at_low=False)
    if not low_open and not high_open:
        return
    grooves, plain = _without_grooves(chain)
    result.grooves.extend(grooves)
    result.used.update(members, low_floor, high_floor)
    last = len(plain.pieces) - 1
    ends = low_floor | high_floor
    if not (low_open and high_open):
        result.holes.append(_hole(body, plain, 0, last, ends, from_high=high_open, through=False))
        return
    waist = min(range(last + 1), key=lambda i: (plain.pieces[i].width, i))
    narrow = plain.pieces[waist].width + LENGTH
    end_of_waist = max(i for i in range(waist, last + 1) if all(p.width < narrow for p in plain.pieces[waist : i + 1]))
    wide_low = any(piece.width > narrow for piece in plain.pieces[:waist])
    wide_high = any(piece.width > narrow for piece in plain.pieces[end_of_waist + 1 :])
    if wide_low and wide_high:  # two holes; the waist is drilled with the one that takes out more, else from above
        below = sum(piece.width**2 * piece.length for piece in plain.pieces[:waist])
        above = sum(piece.width**2 * piece.length for piece in plain.pieces[end_of_waist + 1 :])
        first = waist if above >= below - LENGTH else end_of_waist + 1
        ring = set(plain.rings[first - 1])
        rings = (ring, set[int]()) if first > waist else (set[int](), ring)
        result.holes.append(_hole(body, plain, first, last, rings[0], from_high=True, through=True))
        result.holes.append(_hole(body, plain, 0, first - 1, rings[1], from_high=False, through=True))
    else:
        from_high = wide_high or not wide_low
        result.holes.append(_hole(body, plain, 0, last, ends, from_high=from_high, through=True))


def _without_grooves(chain: _Chain) -> tuple[list[InnerGroove], _Chain]:
    """Takes out what is wider than both its neighbours; the bore runs on across it."""
    grooves: list[InnerGroove] = []
    pieces, rings = list(chain.pieces), list(chain.rings)
    i = 1
    while i < len(pieces) - 1:
        before, here, after = pieces[i - 1 : i + 2]
        if not (here.is_cylinder and before.is_cylinder and after.is_cylinder and here.width > before.width + LENGTH
                and here.width > after.width + LENGTH):  # fmt: skip
            i += 1
            continue
        members = here.indexes | rings[i - 1] | rings[i]
        middle = chain.group.at((here.low + here.high) / 2)
        bore = max(before.width, after.width)
        grooves.append(InnerGroove(frozenset(members), chain.group.axis, middle, here.length, here.width, bore))
        if abs(before.width - after.width) < LENGTH:
            joined = Stretch(before.patches + after.patches, before.low, after.high, before.width, after.width)
            pieces[i - 1 : i + 2] = [joined]
            rings[i - 1 : i + 1] = []
        else:
            wide = i - 1 if before.width > after.width else i + 1
            kept = pieces[wide]
            pieces[wide] = replace(kept, high=here.high) if wide < i else replace(kept, low=here.low)
            del pieces[i]
            rings[i - 1 : i + 1] = [frozenset()]
    return grooves, _Chain(chain.group, tuple(pieces), tuple(rings))


def _stands_round_an_island(body: PatchedSolid, chain: _Chain) -> bool:
    """Whether something rises from the floor inside: then it is a round pocket, and drilling it would cut that away."""
    members = chain.patches_of(0, len(chain.pieces) - 1)
    for piece in (chain.pieces[0], chain.pieces[-1]):
        for border in (border for patch in piece.patches for border in patch.borders):
            if border.edge.bend != Bend.CONCAVE or border.beyond in members or border.beyond < 0:
                continue
            floor = body.patches[border.beyond]
            if floor.surface == Surface.PLANE and parallel(floor.axis, chain.group.axis):
                rising = [b for b in floor.borders if b.edge.bend == Bend.CONCAVE and b.beyond not in members]
                if any(_rises_within(body, b.beyond, b.edge, floor, piece, chain.group) for b in rising):
                    return True
    return False


def _rises_within(body: PatchedSolid, index: int, edge: Edge, floor: Patch, piece: Stretch, group: Coaxial) -> bool:
    if index < 0 or not body.is_wall(body.patches[index], floor.axis):
        return False
    radius = piece.low_diameter / 2
    away = [sub(p, group.at(dot(p, group.axis))) for p in edge.points]
    return all(norm(a) < radius - LENGTH for a in away)


def _hole(
    body: PatchedSolid, chain: _Chain, first: int, last: int, more: set[int], *, from_high: bool, through: bool
) -> Hole:
    group, pieces = chain.group, chain.pieces[first : last + 1]
    patches = chain.patches_of(first, last) | more
    entry = pieces[-1].high if from_high else pieces[0].low
    ordered = [_Step(piece, entry, from_high=from_high) for piece in (pieces[::-1] if from_high else pieces)]
    # a corner radius between two steps belongs to the wider one, which reaches down to its flat
    ends = [b.start if a.piece.width > b.piece.width else a.end for a, b in itertools.pairwise(ordered)]
    ends.append(max(ordered[-1].end, *(_flat_below(body.patches[i], group.axis, entry) for i in more), 0.0))
    segments: list[HoleSegment] = []
    depth = start = 0.0
    for step, end in zip(ordered, ends, strict=True):
        segments.append(step.segment(end - start))
        start = end
        if step.piece.is_cylinder:
            depth = end
    return Hole(
        id="",
        faces=tuple(sorted(f for index in patches for f in body.patches[index].face_indexes)),
        access=(),
        volume=sum(segment.volume for segment in segments) - _beyond_the_rims(body, pieces, patches, group.axis),
        position=group.at(entry),
        axis=neg(group.axis) if from_high else group.axis,
        diameter=round(min((p.width for p in pieces if p.is_cylinder), default=min(p.width for p in pieces)), ROUND),
        depth=round(depth or start, ROUND),
        through=through,
        segments=tuple(segments),
    )


@dataclass(frozen=True)
class _Step:
    """A piece seen from the entry at a coordinate along the axis."""

    piece: Stretch
    entry: float
    from_high: bool

    @property
    def start(self) -> float:
        return self.entry - self.piece.high if self.from_high else self.piece.low - self.entry

    @property
    def end(self) -> float:
        return self.start + self.piece.length

    def segment(self, depth: float) -> HoleSegment:
        outer, inner = self.piece.low_diameter, self.piece.high_diameter
        if self.from_high:
            outer, inner = inner, outer
        if self.piece.is_cylinder:
            return HoleSegment("cylinder", round(outer, ROUND), round(outer, ROUND), round(depth, ROUND))
        angle = round(2 * degrees(self.piece.patch.face.half_angle), 4)
        return HoleSegment("cone", round(outer, ROUND), round(inner, ROUND), round(depth, ROUND), angle)


def _flat_below(floor: Patch, axis: Vec, entry: float) -> float:
    """Depth of a flat floor below the entry; 0 for what rounds its corner."""
    return abs(floor.extent(axis)[0] - entry) if floor.surface == Surface.PLANE else 0.0


def _beyond_the_rims(body: PatchedSolid, pieces: Sequence[Stretch], members: set[int], axis: Vec) -> float:
    """What of a hole's volume lies outside of a slanted or curved entry or exit, in mm³.

    A slanted plane cuts the hole at the mean height of its rim. On a curve the mean over the hole's section lies
    halfway between that and the rim's highest point: exact for a cylinder much larger than the hole.
    """
    total = 0.0
    for piece, sign in ((pieces[0], -1), (pieces[-1], 1)):
        middle = (piece.low + piece.high) / 2
        borders = [border for patch in piece.patches for border in patch.borders if border.beyond not in members]
        if all(high - low < LENGTH for low, high in (border.edge.extent(axis) for border in borders)):
            continue
        rim = [
            (dot(add(a, b), axis) / 2 * sign, norm(sub(b, a)), border.beyond)
            for border in borders for a, b in itertools.pairwise(border.edge.points)
            if (dot(add(a, b), axis) / 2 - middle) * sign > 0 and abs(dot(sub(b, a), axis)) < 0.98 * norm(sub(b, a))
        ]  # fmt: skip
        length = sum(run for _, run, _ in rim)
        diameter = piece.high_diameter if sign > 0 else piece.low_diameter
        if not length or diameter <= 0:
            continue
        top = piece.high if sign > 0 else -piece.low
        mean = sum(level * run for level, run, _ in rim) / length
        flat = all(b >= 0 and body.patches[b].surface == Surface.PLANE for _, _, b in rim)
        if top - mean > LENGTH:
            total += pi / 4 * diameter**2 * (top - mean if flat else (top - mean) / 2)
    return total
