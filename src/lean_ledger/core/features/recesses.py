"""Recesses with a floor or right through: pockets, slots and steps."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import permutations
from math import pi

from lean_ledger.core.features.model import Pocket, Ring, Slot, Step
from lean_ledger.core.features.openings import find_openings, find_windows
from lean_ledger.core.features.patches import LENGTH, Patch, PatchedSolid
from lean_ledger.core.features.planar import chain_edges, lift, mended_ring, patch_rings, polygon_of
from lean_ledger.core.features.sight import Sight
from lean_ledger.core.features.undercuts import find_undercuts
from lean_ledger.core.features.walls import Recess, closed_recess, corner_radius, obround_of, parallel_walls
from lean_ledger.core.geometry.model import Bend, Edge, Surface, Vec
from lean_ledger.core.geometry.vectors import SIX, dot, parallel

BROKEN_EDGE = 5.0  # mm of height that a chamfer or rounding at the rim of a recess may have


@dataclass(frozen=True)
class _Floor:
    patch: Patch
    rings: list[Ring]
    members: list[list[Edge]]
    walls: tuple[Patch, ...]
    outer_walls: tuple[Patch, ...]  # those along the outer boundary
    open_edges: list[Edge]  # of the outer boundary
    fillet: tuple[Patch, ...]  # between floor and walls

    @property
    def closed(self) -> bool:
        return not self.open_edges


def find_recesses(
    body: PatchedSolid, used: set[int], holes: set[int], sight: Sight, around: Vec | None = None
) -> tuple[list[Recess], set[int]]:
    """Pockets, slots and steps among the patches that are not used yet, and what they use.

    Where one of the patches in `holes` breaks into a recess, the recess stays whole. `around` is the axis of a
    rotational part, whose ends show no more than its other sides.
    """
    found: list[Recess] = []
    undercuts, taken = find_undercuts(body, used)
    found += undercuts
    floors = [
        floor for patch in body.planes if patch.index not in used | taken if (floor := _floor(body, patch, used, holes))
    ]
    parted = _parted(floors)
    shown = {d: sum(p.area for p in body.planes if dot(d, p.axis) > 1 - 1e-6) for d in SIX}

    def rank(floor: _Floor) -> tuple[bool, bool, bool, bool, float, float]:
        """What a mill comes down to first; of these a floor between two facing walls, one without fillets before what
        is a floor only from the side; of a step's floor and wall the one that nothing parts, and that on the side
        that shows most.
        """
        hidden = not sight.reached(floor.patch.face_indexes, [floor.patch.axis])
        between = parallel_walls(floor.walls, floor.patch.axis) is not None
        sides = (area for d, area in shown.items() if dot(d, floor.patch.axis) > 1 - 1e-6)
        showing = 0.0 if between or around else -max(sides, default=0.0)
        return (hidden, not between, bool(floor.fillet), floor.patch.index in parted, showing, -floor.patch.area)

    def claim(floor: _Floor) -> None:
        found.append(_from_floor(body, floor))
        taken.update(patch.index for patch in (floor.patch, *floor.walls, *floor.fillet))

    for floor in floors:
        if floor.closed and floor.patch.index not in taken:
            claim(floor)
    for find in (find_windows, find_openings):
        more, more_taken = find(body, used | taken, holes, sight)
        found += more
        taken |= more_taken
    for floor in sorted((f for f in floors if not f.closed), key=rank):
        if floor.patch.index not in taken:
            claim(floor)
    return found, taken


def _parted(floors: list[_Floor]) -> set[int]:
    """Patches of which each is one of several pieces of a plane along one ledge, so that the ledge is the floor of them
    all: what parts them, a pocket for one, is open above it.
    """
    patches = {floor.patch.index for floor in floors}
    along: dict[int, list[_Floor]] = {}  # by the ledge
    for floor in floors:
        for index in {wall.index for wall in floor.walls} & patches:
            along.setdefault(index, []).append(floor)
    return {
        one.patch.index for together in along.values() for one, other in permutations(together, 2)
        if one.patch.index != other.patch.index and dot(one.patch.axis, other.patch.axis) > 1 - 1e-6
        and abs(other.patch.extent(one.patch.axis)[0] - one.patch.extent(one.patch.axis)[0]) < LENGTH
    }  # fmt: skip


def _floor(body: PatchedSolid, patch: Patch, used: set[int], holes: set[int]) -> _Floor | None:
    normal = patch.axis
    rings, members = patch_rings(body.solid, patch)
    beyond = {border.edge.index: border.beyond for border in patch.borders}
    walls: dict[int, Patch] = {}
    outer: dict[int, Patch] = {}
    fillets: dict[int, Patch] = {}
    open_edges: list[Edge] = []
    missing: set[int] = set()
    for number, edges in enumerate(members):
        for edge in edges:
            other = body.patches[beyond[edge.index]] if beyond.get(edge.index, -1) >= 0 else None
            if other is None:
                continue
            if other.index in holes and parallel(other.axis, normal, 1e-3):
                missing.add(edge.index)
                continue
            beside = _walls_beside(body, other, edge, normal) if other.index not in used else None
            if beside is None:
                if number == 0:
                    open_edges.append(edge)
                continue
            if other.index not in beside:
                fillets[other.index] = other
            walls |= beside
            if number == 0:
                outer |= beside
    if not walls:
        return None
    if missing and members and any(edge.index in missing for edge in members[0]):
        mended = mended_ring(members[0], missing)
        rings = [mended, *rings[1:]] if mended is not None else rings
    return _Floor(
        patch, rings, members, tuple(walls.values()), tuple((outer or walls).values()), open_edges,
        tuple(fillets.values()),
    )  # fmt: skip


def _walls_beside(body: PatchedSolid, other: Patch, edge: Edge, normal: Vec) -> dict[int, Patch] | None:
    """The walls that rise from a floor's edge, over its fillet if there is one; None where the edge is open."""
    if edge.bend == Bend.CONCAVE and body.is_wall(other, normal):
        return {other.index: other}
    if edge.bend == Bend.SMOOTH and _is_floor_fillet(other, normal):
        smooth = (body.patches[b.beyond] for b in other.borders if b.edge.bend == Bend.SMOOTH and b.beyond >= 0)
        return {wall.index: wall for wall in smooth if body.is_wall(wall, normal)}
    return None


def _is_floor_fillet(patch: Patch, normal: Vec) -> bool:
    if patch.surface in (Surface.TORUS, Surface.SPHERE):
        return patch.face.inward
    return patch.surface == Surface.CYLINDER and patch.face.inward and abs(dot(patch.axis, normal)) < 1e-3


def _from_floor(body: PatchedSolid, floor: _Floor) -> Recess:
    normal, level = floor.patch.axis, floor.patch.extent(floor.patch.axis)[0]
    depth = round(_opening_level(body, floor, normal) - level, 6)
    floor_radius = min((patch.face.radius for patch in floor.fillet), default=0.0)
    region = tuple(floor.rings[:1]) + tuple(
        ring for ring, edges in zip(floor.rings[1:], floor.members[1:], strict=True) if _is_island(edges)
    )
    if floor_radius:
        grown = polygon_of(region, normal).buffer(floor_radius)
        region = tuple(lift(list(ring.coords)[:-1], level, normal) for ring in (grown.exterior, *grown.interiors))
    faces = tuple(sorted({f for patch in (floor.patch, *floor.walls, *floor.fillet) for f in patch.face_indexes}))
    corner = corner_radius(floor.walls, normal)
    shape = polygon_of(region, normal)
    volume = shape.area * depth - (1 - pi / 4) * floor_radius**2 * shape.length  # a quarter round is left along walls
    if floor.closed:
        obround = obround_of(floor.members[0], shape.area, floor_radius)
        pocket = Pocket(
            "", faces, (), volume, normal, through=False, depth=depth, corner_radius=corner, floor_radius=floor_radius,
            area=shape.area, region=region,
        )  # fmt: skip
        return closed_recess(pocket, obround)
    opened = tuple(ring for ring, _ in chain_edges(floor.open_edges))
    pair = parallel_walls(floor.walls, normal)
    if pair is not None:
        width, along = pair
        low, high = floor.patch.extent(along)
        length = high - low if not floor_radius else _span(region[0], along)
        if length >= width * 0.999:
            ends = 2 - sum(1 for wall in floor.walls if _closes_end(wall, along, width))
            return Slot(
                id="",
                faces=faces,
                access=(),
                volume=volume,
                direction=normal,
                width=round(width, 6),
                depth=depth,
                length=round(length, 6),
                through=False,
                open_ends=max(1, ends),
                corner_radius=corner,
                region=region,
                open_edges=opened,
            )
    area = round(polygon_of(region[:1], normal).area, 4)
    return Step("", faces, (), volume, normal, depth, area, corner, region, opened)


def _span(ring: Ring, along: Vec) -> float:
    levels = [dot(p, along) for p in ring]
    return max(levels) - min(levels)


def _closes_end(wall: Patch, along: Vec, width: float) -> bool:
    if wall.surface == Surface.PLANE:
        return parallel(wall.axis, along, 1e-3)
    return wall.surface == Surface.CYLINDER and abs(2 * wall.face.radius - width) < 2 * LENGTH


def _opening_level(body: PatchedSolid, floor: _Floor, normal: Vec) -> float:
    """Where a recess opens: the lowest top of its walls, a broken edge included; on curved entries the highest."""
    tops = [_top_of(body, wall, normal) for wall in floor.outer_walls]
    curved = any(is_curved for _, is_curved in tops)
    return max(top for top, _ in tops) if curved else min(top for top, _ in tops)


def _top_of(body: PatchedSolid, wall: Patch, normal: Vec) -> tuple[float, bool]:
    """The upper end of a wall along `normal`, and whether what it opens into is curved around the recess."""
    top = wall.extent(normal)[1]
    level, curved = top, False
    for border in wall.borders:
        if (
            border.beyond < 0
            or border.edge.bend == Bend.CONCAVE
            or max(dot(p, normal) for p in border.edge.points) < top - LENGTH
        ):
            continue
        rim = body.patches[border.beyond]
        if rim.surface == Surface.PLANE and parallel(rim.axis, normal, 1e-3):
            return top, False
        low, high = rim.extent(normal)
        if 0 < high - top <= BROKEN_EDGE and high - low <= BROKEN_EDGE and _breaks_edge(body, rim, normal, high):
            level = high
        elif rim.surface in (Surface.CYLINDER, Surface.CONE, Surface.TORUS, Surface.SPHERE, Surface.REVOLUTION):
            curved = curved or not (rim.face.inward or body.is_wall(rim, normal))
    return level, curved


def _breaks_edge(body: PatchedSolid, rim: Patch, normal: Vec, level: float) -> bool:
    """Whether a rim is a chamfer or rounding up to a flat face at `level`."""
    flats = (body.patches[b.beyond] for b in rim.borders if b.beyond >= 0)
    return any(
        p.surface == Surface.PLANE and parallel(p.axis, normal, 1e-3) and abs(p.extent(normal)[0] - level) < LENGTH
        for p in flats
    )


def _is_island(edges: list[Edge]) -> bool:
    return any(edge.bend == Bend.CONCAVE for edge in edges)
