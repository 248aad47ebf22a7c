"""Recesses known by their walls alone: windows in a flat face, openings in curved ones, notches in from an edge."""

from __future__ import annotations

from dataclasses import dataclass
from math import acos, cos, pi, sin

from lean_ledger.core.features.coaxial import canonical
from lean_ledger.core.features.model import Pocket, Ring, Slot
from lean_ledger.core.features.patches import LENGTH, Border, Patch, PatchedSolid
from lean_ledger.core.features.planar import flatten, frame, lift, mended_ring, patch_rings, polygon_of, rectangle
from lean_ledger.core.features.sight import Sight
from lean_ledger.core.features.walls import Recess, closed_recess, corner_radius, obround_of, parallel_walls
from lean_ledger.core.geometry.model import Bend, Curve, Edge, Surface, Vec
from lean_ledger.core.geometry.vectors import SIX, add, cross, dot, neg, norm, parallel, scale, sub, unit

HALF_TURN = 0.02  # rad that the round end of a slot may miss of a half turn
NOTCH_ROUND = 3.0  # times its width that a notch with round inner corners may be thick; beyond it is a groove


def find_windows(body: PatchedSolid, used: set[int], holes: set[int], sight: Sight) -> tuple[list[Recess], set[int]]:
    """Openings right through: rings of walls hanging from an inner boundary of a flat face."""
    found: list[Recess] = []
    taken: set[int] = set()
    for patch in sorted(body.planes, key=lambda p: _side_rank(p.axis)):
        normal = patch.axis
        rings, members = patch_rings(body.solid, patch)
        beyond = {border.edge.index: border.beyond for border in patch.borders}
        for ring, edges in zip(rings[1:], members[1:], strict=True):
            missing = {e.index for e in edges if beyond.get(e.index, -1) in holes}
            walls = _hanging_walls(body, [beyond.get(e.index, -1) for e in edges if e.index not in missing], normal)
            if not walls or any(w.index in used or w.index in taken for w in walls):
                continue
            if sum(e.length for e in edges if e.index in missing) > sum(e.length for e in edges) / 2:
                continue  # the rim of a bore with a keyway
            mended = mended_ring(edges, missing) if missing else None
            top = max(w.extent(normal)[1] for w in walls)
            bottom = min(w.extent(normal)[0] for w in walls)
            depth = round(top - bottom, 6)
            region = (tuple(reversed(lift(flatten(mended or ring, normal), bottom, normal))),)
            area = polygon_of(region, normal).area
            faces = tuple(sorted({f for w in walls for f in w.face_indexes}))
            corner, obround = corner_radius(walls, normal), obround_of(edges, area)
            pocket = Pocket(
                "", faces, (), area * depth, normal, through=True, depth=depth, corner_radius=corner, floor_radius=0.0,
                area=area, region=region,
            )  # fmt: skip
            found.append(closed_recess(pocket, obround))
            taken |= {w.index for w in walls}
    return found, taken


def _side_rank(axis: Vec) -> int:
    return next((i for i, d in enumerate(SIX) if dot(d, axis) > 0.999), len(SIX))


def _hanging_walls(body: PatchedSolid, neighbours: list[int], normal: Vec) -> list[Patch]:
    """The walls below the edges of a window; none where it is no window, or has a floor."""
    if not neighbours or any(i < 0 or not body.is_wall(body.patches[i], normal) for i in neighbours):
        return []
    walls = {i: body.patches[i] for i in neighbours}
    low = [wall.extent(normal)[0] for wall in walls.values()]
    if max(low) - min(low) > LENGTH:
        return []
    floors = [body.patches[b.beyond] for w in walls.values() for b in w.borders if b.edge.bend == Bend.CONCAVE]
    if any(f.surface == Surface.PLANE and parallel(f.axis, normal, 1e-3) for f in floors):
        return []
    return list(walls.values())


@dataclass(frozen=True)
class _Run:
    """Walls along `direction` that meet in inner corners or smoothly, in order; the links lie between them."""

    direction: Vec
    walls: tuple[Patch, ...]
    links: tuple[Edge, ...]
    closed: bool

    @property
    def turns_inward(self) -> bool:
        inward = any(w.surface == Surface.CYLINDER and w.face.inward for w in self.walls)
        return inward or any(link.bend == Bend.CONCAVE for link in self.links)

    def ends(self) -> list[Border]:
        """The borders of the walls that are no links between them."""
        links = {link.index for link in self.links}
        return [border for wall in self.walls for border in wall.borders if border.edge.index not in links]


def find_openings(body: PatchedSolid, used: set[int], holes: set[int], sight: Sight) -> tuple[list[Recess], set[int]]:
    """Openings whose rim lies on curved faces, and notches right through in from an edge of the part."""
    found, taken = _disc_slots(body, used)
    for run in _runs(body, used | taken):
        if not run.turns_inward or any(wall.index in taken for wall in run.walls):
            continue
        made = _opening(body, run, sight) if run.closed else _notch(body, run, sight)
        if made is not None:
            recess, patches = made
            found.append(recess)
            taken |= patches
    return found, taken


def _disc_slots(body: PatchedSolid, used: set[int]) -> tuple[list[Recess], set[int]]:
    """Slots sunk with a disc cutter: a hollow round floor between two facing flat walls."""
    found: list[Recess] = []
    taken: set[int] = set()
    for floor in body.patches:
        if floor.index in used or floor.surface != Surface.CYLINDER or not floor.face.inward or floor.span > pi + 0.1:
            continue
        walls = [
            body.patches[i] for i in body.neighbours(floor, Bend.CONCAVE)
            if i not in used | taken and body.patches[i].surface == Surface.PLANE
            and parallel(body.patches[i].axis, floor.axis, 1e-3)
        ]  # fmt: skip
        if len(walls) != 2 or dot(walls[0].axis, walls[1].axis) > 0:
            continue
        width = dot(sub(walls[1].face.origin, walls[0].face.origin), walls[0].axis)
        if width < LENGTH:
            continue
        middle = _middle_of(floor)
        out = sub(floor.face.origin, middle)
        out = sub(out, scale(floor.axis, dot(out, floor.axis)))
        along_floor = floor.extent(floor.axis)
        normal = unit(out)
        along = cross(floor.axis, normal)
        bottom = dot(floor.face.origin, normal) - floor.face.radius
        top = max(wall.extent(normal)[1] for wall in walls)
        low, high = floor.extent(along)
        ring = rectangle(normal, bottom, (floor.axis, *along_floor), (along, low, high))
        half, drop = (high - low) / 2, top - bottom
        radius = floor.face.radius
        angle = 2 * acos(max(-1.0, min(1.0, (radius - drop) / radius))) if drop < radius else pi
        section = radius**2 / 2 * (angle - sin(angle)) if half < radius else pi * radius**2 / 2
        patches = (floor, *walls)
        faces = tuple(sorted({f for p in patches for f in p.face_indexes}))
        found.append(
            Slot("", faces, (), section * width, normal, round(width, 6), round(drop, 6), round(high - low, 6),
                 through=False, open_ends=0, corner_radius=0.0, region=(ring,))
        )  # fmt: skip
        taken |= {p.index for p in patches}
    return found, taken


def _runs(body: PatchedSolid, used: set[int]) -> list[_Run]:
    links: dict[Vec, list[tuple[int, int, Edge]]] = {}
    for patch in body.patches:
        if patch.index in used:
            continue
        for border in patch.borders:
            edge, other = border.edge, border.beyond
            if other <= patch.index or other in used or edge.curve != Curve.LINE:
                continue
            if edge.bend not in (Bend.CONCAVE, Bend.SMOOTH):
                continue
            run = sub(edge.points[-1], edge.points[0])
            if norm(run) < LENGTH:
                continue
            d = canonical(unit(run))
            if body.is_wall(patch, d) and body.is_wall(body.patches[other], d):
                key = (round(d[0], 4) + 0.0, round(d[1], 4) + 0.0, round(d[2], 4) + 0.0)
                links.setdefault(key, []).append((patch.index, other, edge))
    return [run for found in links.values() for run in _runs_along(body, found)]


def _runs_along(body: PatchedSolid, links: list[tuple[int, int, Edge]]) -> list[_Run]:
    around: dict[int, dict[int, Edge]] = {}
    for a, b, edge in links:
        around.setdefault(a, {})[b] = edge
        around.setdefault(b, {})[a] = edge
    direction = canonical(unit(sub(links[0][2].points[-1], links[0][2].points[0])))
    runs: list[_Run] = []
    waiting = set(around)
    while waiting:
        group, queue = set[int](), [min(waiting)]
        while queue:
            one = queue.pop()
            if one not in group:
                group.add(one)
                queue += around[one]
        waiting -= group
        if len(group) < 3 or any(len(around[i]) > 2 for i in group):
            continue
        tips = [i for i in sorted(group) if len(around[i]) == 1]
        order, edges = [tips[0] if tips else min(group)], list[Edge]()
        while True:
            following = [i for i in sorted(around[order[-1]]) if i not in order]
            if not following:
                break
            edges.append(around[order[-1]][following[0]])
            order.append(following[0])
        if not tips:
            edges.append(around[order[-1]][order[0]])
        runs.append(_Run(direction, tuple(body.patches[i] for i in order), tuple(edges), not tips))
    return runs


def _opening(body: PatchedSolid, run: _Run, sight: Sight) -> tuple[Recess, set[int]] | None:
    floors = {b.beyond for b in run.ends() if b.beyond >= 0 and b.edge.bend != Bend.CONVEX}
    d = run.direction
    middle = sum(sum(wall.extent(d)) for wall in run.walls) / 2 / len(run.walls)
    below = [sum(body.patches[i].extent(d)) / 2 < middle for i in floors]
    if any(below) and not all(below):
        return None  # closed at both ends
    normal = neg(d) if below and not below[0] else d
    levels = [level for wall in run.walls for level in wall.extent(normal)]
    bottom, top = min(levels), max(levels)
    ring = _section(run, normal, bottom)
    polygon = polygon_of((ring,), normal)
    if polygon.is_empty:
        return None  # walls that turn back on themselves and go round nothing
    within = polygon.representative_point()
    at = lift([(within.x, within.y)], (bottom + top) / 2, normal)
    if bool(sight.inside(list(at)).any()):
        return None
    depth = round(top - bottom, 6)
    patches = {wall.index for wall in run.walls} | floors
    faces = tuple(sorted({f for i in patches for f in body.patches[i].face_indexes}))
    corner = corner_radius(run.walls, normal)
    volume = polygon.area * depth
    obround = _obround_walls(run, normal)
    pocket = Pocket("", faces, (), volume, normal, not floors, depth, corner, 0.0, 0.0, (ring,))
    return closed_recess(pocket, obround), patches


def _obround_walls(run: _Run, normal: Vec) -> tuple[float, float] | None:
    rounds = [w for w in run.walls if w.surface == Surface.CYLINDER]
    pair = parallel_walls(run.walls, normal)
    if pair is None or len(rounds) != 2 or len(run.walls) != 4 or any(abs(w.span - pi) > HALF_TURN for w in rounds):
        return None
    centres = [sub(w.face.origin, scale(normal, dot(w.face.origin, normal))) for w in rounds]
    return round(pair[0], 6), round(norm(sub(centres[0], centres[1])) + pair[0], 6)


def _section(run: _Run, normal: Vec, level: float) -> Ring:
    """The cross-section of closed walls as a ring at a level."""
    points: list[Vec] = []
    for i, wall in enumerate(run.walls):
        start, end = run.links[i - 1].points[0], run.links[i].points[0]
        points.append(start)
        if wall.surface == Surface.CYLINDER:
            points += _arc(wall, start, end, normal)[1:-1]
    flat = flatten(points, normal)
    doubled = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(flat, [*flat[1:], flat[0]], strict=True))
    return lift(flat if doubled > 0 else flat[::-1], level, normal)


def _arc(wall: Patch, start: Vec, end: Vec, normal: Vec) -> list[Vec]:
    """Points on a cylinder from one link to the next, the way round that the wall covers."""
    u, v = frame(normal)
    centre, radius = wall.face.origin, wall.face.radius
    a, b = sub(start, centre), sub(end, centre)
    ax, ay, bx, by = dot(a, u), dot(a, v), dot(b, u), dot(b, v)
    turn = acos(max(-1.0, min(1.0, (ax * bx + ay * by) / radius**2)))
    left = ax * by - ay * bx > 0
    sweep = turn if left else -turn
    if wall.span > pi + HALF_TURN:
        sweep = sweep - 2 * pi if left else sweep + 2 * pi
    elif abs(wall.span - pi) <= HALF_TURN:  # either way round ends there: the wall's own points tell
        middle = sub(max((p for x in wall.borders for p in x.edge.points), key=lambda p: _off(p, start, end)), centre)
        sweep = pi if ax * dot(middle, v) - ay * dot(middle, u) > 0 else -pi
    steps = max(2, round(abs(sweep) / (pi / 48)))
    points = []
    for k in range(steps + 1):
        c, s = cos(sweep * k / steps), sin(sweep * k / steps)
        x, y = ax * c - ay * s, ax * s + ay * c
        points.append(add(centre, add(scale(u, x), scale(v, y))))
    return points


def _off(point: Vec, start: Vec, end: Vec) -> float:
    """How far a point lies off the middle between two links, seen along them, roughly: the farthest decides."""
    chord = sub(end, start)
    away = sub(point, start)
    return norm(cross(away, chord)) / max(norm(chord), LENGTH)


def _notch(body: PatchedSolid, run: _Run, sight: Sight) -> tuple[Recess, set[int]] | None:
    """Two facing walls and what joins them, with no floor: a slot through, open at one end."""
    first, last = run.walls[0], run.walls[-1]
    if first.surface != Surface.PLANE or last.surface != Surface.PLANE or dot(first.axis, last.axis) > -1 + 1e-6:
        return None
    width = dot(sub(last.face.origin, first.face.origin), first.axis)
    if width < LENGTH or any(b.edge.bend == Bend.CONCAVE for b in run.ends()):
        return None
    d = run.direction
    levels = [level for wall in run.walls for level in wall.extent(d)]
    thick = max(levels) - min(levels)
    inner = run.walls[1:-1]
    rounded = any(w.surface == Surface.CYLINDER for w in inner)
    if not all(w.surface == Surface.PLANE or w.face.inward for w in inner):
        return None
    along = _towards_opening(run)
    reach = [level for wall in run.walls for level in wall.extent(along)]
    length = max(reach) - min(reach)
    if not _is_void(run, first, last, sight):
        return None
    if rounded and thick > NOTCH_ROUND * width:
        return _groove(body, run, along, width, thick, length)
    if not rounded and thick >= width:
        return None  # a groove with a flat floor, known by that
    if length < width * 0.5:
        return None
    normal = d
    ring = _notch_ring(run, along, max(reach), min(levels))
    region = (ring,)
    volume = polygon_of(region, normal).area * thick
    corner = corner_radius(run.walls, normal)
    faces = tuple(sorted({f for w in run.walls for f in w.face_indexes}))
    open_edge = (ring[-1], ring[0])
    slot = Slot(
        "", faces, (), volume, normal, round(width, 6), round(thick, 6), round(length, 6), through=True, open_ends=1,
        corner_radius=corner, region=region, open_edges=(open_edge,),
    )  # fmt: skip
    return slot, {w.index for w in run.walls}


def _towards_opening(run: _Run) -> Vec:
    along = unit(cross(run.direction, run.walls[0].axis))
    inner = [sum(w.extent(along)) / 2 for w in run.walls[1:-1]]
    outer = [sum(w.extent(along)) / 2 for w in (run.walls[0], run.walls[-1])]
    return along if sum(outer) / 2 > sum(inner) / len(inner) else neg(along)


def _is_void(run: _Run, first: Patch, last: Patch, sight: Sight) -> bool:
    a, b = (_middle_of(wall) for wall in (first, last))
    return not bool(sight.inside([scale(add(a, b), 0.5)]).any())


def _middle_of(wall: Patch) -> Vec:
    points = [p for border in wall.borders for p in border.edge.points]
    low = [min(p[i] for p in points) for i in range(3)]
    high = [max(p[i] for p in points) for i in range(3)]
    return ((low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2)


def _notch_ring(run: _Run, along: Vec, mouth: float, level: float) -> Ring:
    """From the mouth along one wall, around the inner end, and back along the other."""
    points: list[Vec] = []
    starts = [link.points[0] for link in run.links]
    points.append(add(starts[0], scale(along, mouth - dot(starts[0], along))))
    for i, wall in enumerate(run.walls[1:-1]):
        points.append(starts[i])
        if wall.surface == Surface.CYLINDER:
            points += _arc(wall, starts[i], starts[i + 1], run.direction)[1:-1]
    points.append(starts[-1])
    points.append(add(starts[-1], scale(along, mouth - dot(starts[-1], along))))
    flat = flatten(points, run.direction)
    doubled = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(flat, [*flat[1:], flat[0]], strict=True))
    return lift(flat if doubled > 0 else flat[::-1], level, run.direction)


def _groove(
    body: PatchedSolid, run: _Run, along: Vec, width: float, length: float, depth: float
) -> tuple[Recess, set[int]]:
    """A long groove with a round bottom or round inner corners, seen from its mouth."""
    radii = [w.face.radius for w in run.walls[1:-1] if w.surface == Surface.CYLINDER]
    d = run.direction
    bottom = min(wall.extent(along)[0] for wall in run.walls)
    low = min(wall.extent(d)[0] for wall in run.walls)
    across = run.walls[0].axis
    edges = sorted(dot(wall.face.origin, across) for wall in (run.walls[0], run.walls[-1]))
    ring = rectangle(along, bottom, (d, low, low + length), (across, edges[0], edges[1]))
    section = width * depth - (1 - pi / 4) * sum(r * r for r in radii) * (2 if len(radii) == 1 else 1)
    faces = tuple(sorted({f for w in run.walls for f in w.face_indexes}))
    slot = Slot(
        "", faces, (), section * length, along, round(width, 6), round(depth, 6), round(length, 6), through=False,
        open_ends=2, corner_radius=0.0, region=(ring,), open_edges=((ring[1], ring[2]), (ring[3], ring[0])),
    )  # fmt: skip
    return slot, {w.index for w in run.walls}
