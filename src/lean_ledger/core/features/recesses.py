"""Recesses with a floor or right through: pockets, slots and steps."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

from lean_ledger.core.features.model import Pocket, Ring, Slot, Step
from lean_ledger.core.features.patches import LENGTH, Patch, PatchedSolid
from lean_ledger.core.features.planar import chain_edges, flatten, lift, patch_rings, polygon_of
from lean_ledger.core.geometry.model import Bend, Curve, Edge, Surface, Vec
from lean_ledger.core.geometry.vectors import SIX, cross, dot, neg, norm, parallel, sub

Recess = Pocket | Slot | Step


@dataclass(frozen=True)
class _Floor:
    patch: Patch
    rings: list[Ring]
    members: list[list[Edge]]
    walls: tuple[Patch, ...]
    open_edges: list[Edge]  # of the outer boundary
    fillet: tuple[Patch, ...]  # between floor and walls

    @property
    def closed(self) -> bool:
        return not self.open_edges


def find_recesses(body: PatchedSolid, used: set[int]) -> tuple[list[Recess], set[int]]:
    """Pockets, slots and steps among the patches that are not used yet, and what they use."""
    taken: set[int] = set()
    found: list[Recess] = []
    floors = [floor for patch in body.planes if patch.index not in used if (floor := _floor(body, patch, used))]
    shown = {d: sum(p.area for p in body.planes if dot(d, p.axis) > 1 - 1e-6) for d in SIX}

    def rank(floor: _Floor) -> tuple[bool, float, float]:
        """A floor between two facing walls first; of a step's floor and wall the one on the side that shows most."""
        between = _parallel_walls(floor.walls, floor.patch.axis) is not None
        best = max((area for d, area in shown.items() if dot(d, floor.patch.axis) > 1 - 1e-6), default=0.0)
        return (not between, -best, -floor.patch.area)

    def claim(floor: _Floor) -> None:
        found.append(_from_floor(body, floor))
        taken.update(patch.index for patch in (floor.patch, *floor.walls, *floor.fillet))

    for floor in floors:
        if floor.closed and floor.patch.index not in taken:
            claim(floor)
    through, through_taken = _through_recesses(body, used | taken)
    found += through
    taken |= through_taken
    for floor in sorted((f for f in floors if not f.closed), key=rank):
        if floor.patch.index not in taken:
            claim(floor)
    return found, taken


def _floor(body: PatchedSolid, patch: Patch, used: set[int]) -> _Floor | None:
    normal = patch.axis
    rings, members = patch_rings(body.solid, patch)
    beyond = {border.edge.index: border.beyond for border in patch.borders}
    walls: dict[int, Patch] = {}
    fillets: dict[int, Patch] = {}
    open_edges: list[Edge] = []
    for number, edges in enumerate(members):
        for edge in edges:
            other = body.patches[beyond[edge.index]] if beyond.get(edge.index, -1) >= 0 else None
            if other is None:
                continue
            if edge.bend == Bend.CONCAVE and body.is_wall(other, normal) and other.index not in used:
                walls[other.index] = other
            elif edge.bend == Bend.SMOOTH and _is_floor_fillet(other, normal):
                fillets[other.index] = other
                for border in other.borders:
                    if border.edge.bend == Bend.SMOOTH and body.is_wall(body.patches[border.beyond], normal):
                        walls[border.beyond] = body.patches[border.beyond]
            elif number == 0:
                open_edges.append(edge)
    if not walls:
        return None
    return _Floor(patch, rings, members, tuple(walls.values()), open_edges, tuple(fillets.values()))


def _is_floor_fillet(patch: Patch, normal: Vec) -> bool:
    if patch.surface == Surface.TORUS:
        return True
    return patch.surface == Surface.CYLINDER and patch.face.inward and abs(dot(patch.axis, normal)) < 1e-3


def _from_floor(body: PatchedSolid, floor: _Floor) -> Recess:
    normal, level = floor.patch.axis, floor.patch.extent(floor.patch.axis)[0]
    depth = round(min(wall.extent(normal)[1] for wall in floor.walls) - level, 6)
    floor_radius = min((patch.face.radius for patch in floor.fillet), default=0.0)
    region = tuple(floor.rings[:1]) + tuple(
        ring for ring, edges in zip(floor.rings[1:], floor.members[1:], strict=True) if _is_island(edges)
    )
    if floor_radius:
        grown = polygon_of(region, normal).buffer(floor_radius)
        region = tuple(lift(list(ring.coords)[:-1], level, normal) for ring in (grown.exterior, *grown.interiors))
    faces = tuple(sorted({f for patch in (floor.patch, *floor.walls, *floor.fillet) for f in patch.face_indexes}))
    corner = _corner_radius(body, floor.walls, normal)
    outline = polygon_of(region[:1], normal)
    volume = polygon_of(region, normal).area * depth
    if floor.closed:
        return _closed(normal, depth, corner, floor_radius, region, faces, floor.members[0], volume, through=False)
    opened = tuple(ring for ring, _ in chain_edges(floor.open_edges))
    pair = _parallel_walls(floor.walls, normal)
    if pair is not None:
        width, along = pair
        length = max(dot(p, along) for p in floor.rings[0]) - min(dot(p, along) for p in floor.rings[0])
        ends = 2 - sum(
            1
            for wall in floor.walls
            if (wall.surface == Surface.PLANE and parallel(wall.axis, along, 1e-3))
            or (wall.surface == Surface.CYLINDER and abs(2 * wall.face.radius - width) < 2 * LENGTH)
        )
        if length >= width * 0.999:
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
    return Step("", faces, (), volume, normal, depth, round(outline.area, 4), corner, region, opened)


def _is_island(edges: list[Edge]) -> bool:
    return any(edge.bend == Bend.CONCAVE for edge in edges)


def _parallel_walls(walls: tuple[Patch, ...], normal: Vec) -> tuple[float, Vec] | None:
    """Distance between two facing flat walls and the direction along them, of the nearest such pair."""
    best: tuple[float, Vec] | None = None
    flats = [wall for wall in walls if wall.surface == Surface.PLANE]
    for i, a in enumerate(flats):
        for b in flats[i + 1 :]:
            if dot(a.axis, b.axis) < -1 + 1e-6:
                width = dot(sub(b.face.origin, a.face.origin), a.axis)
                if width > LENGTH and (best is None or width < best[0]):
                    best = (width, cross(normal, a.axis))
    return best


def _corner_radius(body: PatchedSolid, walls: tuple[Patch, ...], normal: Vec) -> float:
    """Least radius of the inward round walls; 0 where two walls meet in a sharp inner corner."""
    indexes = {wall.index for wall in walls}
    for wall in walls:
        for border in wall.borders:
            if border.beyond in indexes and border.edge.bend == Bend.CONCAVE and border.edge.curve == Curve.LINE:
                a, b = border.edge.points[0], border.edge.points[-1]
                if norm(sub(a, b)) > LENGTH and abs(dot(sub(a, b), normal)) > 0.99 * norm(sub(a, b)):
                    return 0.0
    radii = [w.face.radius for w in walls if w.surface == Surface.CYLINDER and w.face.inward]
    return round(min(radii), 6) if radii else 0.0


def _closed(
    normal: Vec,
    depth: float,
    corner: float,
    floor_radius: float,
    region: tuple[Ring, ...],
    faces: tuple[int, ...],
    outline: list[Edge],
    volume: float,
    *,
    through: bool,
) -> Recess:
    area = polygon_of(region, normal).area
    obround = _obround(outline, area) if len(region) == 1 else None
    if obround is not None:
        width, length = obround
        return Slot("", faces, (), volume, normal, width, depth, length, through, 0, corner, region)
    return Pocket("", faces, (), volume, normal, through, depth, corner, floor_radius, round(area, 4), region)


def _obround(edges: list[Edge], area: float) -> tuple[float, float] | None:
    """Width and overall length where the outline is two straight sides and two half circles.

    Split arcs count as one, so the test is on the total turn and on the area 2 r · straight + π r².
    """
    lines = [e for e in edges if e.curve == Curve.LINE]
    arcs = [e for e in edges if e.curve == Curve.CIRCLE]
    if len(lines) + len(arcs) != len(edges) or not arcs or not lines:
        return None
    radius = arcs[0].radius
    if any(abs(e.radius - radius) > LENGTH for e in arcs):
        return None
    straight = sum(e.length for e in lines) / 2
    if abs(sum(e.length for e in arcs) - 2 * pi * radius) > 0.01 * radius:
        return None
    if abs(2 * radius * straight + pi * radius * radius - area) > 0.005 * area:
        return None
    return round(2 * radius, 6), round(straight + 2 * radius, 6)


def _through_recesses(body: PatchedSolid, used: set[int]) -> tuple[list[Recess], set[int]]:
    """Openings right through: rings of walls hanging from an inner boundary of a flat face."""
    found: list[Recess] = []
    taken: set[int] = set()
    for patch in sorted(body.planes, key=lambda p: _side_rank(p.axis)):
        normal = patch.axis
        rings, members = patch_rings(body.solid, patch)
        beyond = {border.edge.index: border.beyond for border in patch.borders}
        for ring, edges in zip(rings[1:], members[1:], strict=True):
            walls = _hanging_walls(body, [beyond.get(e.index, -1) for e in edges], patch, normal)
            if walls is None or any(w.index in used or w.index in taken for w in walls):
                continue
            top = max(w.extent(normal)[1] for w in walls)
            bottom = min(w.extent(normal)[0] for w in walls)
            depth = round(top - bottom, 6)
            region = (tuple(reversed(lift(flatten(ring, normal), bottom, normal))),)
            outline = edges
            corner = _corner_radius(body, tuple(walls), normal)
            faces = tuple(sorted({f for w in walls for f in w.face_indexes}))
            volume = polygon_of(region, normal).area * depth
            found.append(_closed(normal, depth, corner, 0.0, region, faces, outline, volume, through=True))
            taken |= {w.index for w in walls}
    return found, taken


def _side_rank(axis: Vec) -> int:
    return next((i for i, d in enumerate(SIX) if dot(d, axis) > 0.999), len(SIX))


def _hanging_walls(body: PatchedSolid, neighbours: list[int], patch: Patch, normal: Vec) -> list[Patch] | None:
    walls: dict[int, Patch] = {}
    for index in neighbours:
        if index < 0:
            return None
        other = body.patches[index]
        if not body.is_wall(other, normal):
            return None
        walls[index] = other
    low = {index: wall.extent(normal)[0] for index, wall in walls.items()}
    if max(low.values()) - min(low.values()) > LENGTH:
        return None
    below = neg(normal)
    floors = [body.patches[b.beyond] for w in walls.values() for b in w.borders if b.edge.bend == Bend.CONCAVE]
    if any(f.surface == Surface.PLANE and parallel(f.axis, below, 1e-3) for f in floors):
        return None  # a floor: not through
    return list(walls.values())
