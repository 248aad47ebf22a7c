"""Boundaries of planar faces as rings, and the flat geometry on them (shapely does the polygons)."""

from __future__ import annotations

import itertools
from collections.abc import Sequence

from shapely.geometry import Polygon

from lean_ledger.core.features.model import Ring
from lean_ledger.core.features.patches import LENGTH, Patch
from lean_ledger.core.geometry.model import Edge, Solid, Vec
from lean_ledger.core.geometry.vectors import Z, add, cross, dot, norm, scale, sub, unit

Flat = tuple[float, float]


def frame(normal: Vec) -> tuple[Vec, Vec]:
    """Two unit vectors that span the plane square to `normal`, right-handed with it."""
    helper = (1.0, 0.0, 0.0) if abs(normal[0]) < 0.9 else (0.0, 1.0, 0.0)
    u = unit(cross(helper, normal)) if abs(dot(normal, Z)) < 1 - 1e-9 else (1.0, 0.0, 0.0)
    return u, cross(normal, u)


def flatten(ring: Sequence[Vec], normal: Vec) -> list[Flat]:
    u, v = frame(normal)
    return [(dot(p, u), dot(p, v)) for p in ring]


def polygon_of(region: Sequence[Ring], normal: Vec) -> Polygon:
    """The region as a flat polygon: first ring outside, the others cut out of it."""
    outer, *inner = (flatten(ring, normal) for ring in region)
    polygon = Polygon(outer, inner)
    return polygon if polygon.is_valid else polygon.buffer(0)


def lift(flat: Sequence[Flat], level: float, normal: Vec) -> Ring:
    """Back from the plane at height `level` along `normal` into space."""
    u, v = frame(normal)
    return tuple(
        (
            x * u[0] + y * v[0] + level * normal[0],
            x * u[1] + y * v[1] + level * normal[1],
            x * u[2] + y * v[2] + level * normal[2],
        )
        for x, y in flat
    )


def patch_rings(solid: Solid, patch: Patch) -> tuple[list[Ring], list[list[Edge]]]:
    """The boundary of a planar patch: rings (outer first) and the edges of each.

    The edges inside the patch, where split faces meet, are left out and the rest is chained again.
    """
    edges = [border.edge for border in patch.borders]
    if len(patch.faces) == 1:
        rings, members = [], []
        for loop in sorted(patch.face.loops, key=lambda one: not one.outer):
            rings.append(tuple(solid.loop_points(loop)))
            members.append([solid.edges[i] for i, _ in loop.edges])
        return rings, members
    chains = chain_edges(edges)
    u, v = frame(patch.axis)

    def size(ring: Ring) -> float:
        return float(Polygon([(dot(p, u), dot(p, v)) for p in ring]).area)

    chains.sort(key=lambda chain: -size(chain[0]))
    return [ring for ring, _ in chains], [members for _, members in chains]


def lines_along(edges: Sequence[Edge]) -> tuple[Ring, ...]:
    """Edges joined end to end as polylines; a closed one ends with its first point."""
    return tuple((*ring, ring[0]) if _returns(ring, own) else ring for ring, own in chain_edges(edges))


def _returns(ring: tuple[Vec, ...], edges: list[Edge]) -> bool:
    walked = sum(norm(sub(b, a)) for a, b in itertools.pairwise(ring))
    total = sum(norm(sub(b, a)) for edge in edges for a, b in zip(edge.points, edge.points[1:], strict=False))
    return total > walked + LENGTH


def chain_edges(edges: Sequence[Edge]) -> list[tuple[Ring, list[Edge]]]:
    """Join edges end to end into polylines, each with its edges in order; a closed one ends before its first point."""
    waiting = list(edges)
    chains: list[tuple[Ring, list[Edge]]] = []
    while waiting:
        first = waiting.pop(0)
        points, members = list(first.points), [first]
        grown = True
        while grown and not _near(points[0], points[-1]):
            grown = False
            for i, edge in enumerate(waiting):
                run, at_start = list(edge.points), False
                if _near(points[-1], run[0]):
                    points += run[1:]
                elif _near(points[-1], run[-1]):
                    points += run[-2::-1]
                elif _near(points[0], run[-1]):
                    points, at_start = run[:-1] + points, True
                elif _near(points[0], run[0]):
                    points, at_start = run[:0:-1] + points, True
                else:
                    continue
                members.insert(0 if at_start else len(members), waiting.pop(i))
                grown = True
                break
        if len(points) > 2 and _near(points[0], points[-1]):
            points.pop()
        chains.append((tuple(points), members))
    return chains


def _near(a: Vec, b: Vec) -> bool:
    return norm(sub(a, b)) < 2 * LENGTH


def mended_ring(members: Sequence[Edge], missing: set[int]) -> Ring | None:
    """A closed ring of edges, in order, with the edges numbered in `missing` replaced by what their neighbours suggest.

    A hole that breaks into a pocket's wall or corner takes a piece of the outline away: the straight walls beside the
    gap are carried on to where they meet, other gaps are bridged. None where too little is left to tell.
    """
    runs = _oriented(members)
    kept = [i for i, edge in enumerate(members) if edge.index not in missing]
    if len(kept) < 2:
        return None
    start = kept[0]
    points: list[Vec] = []
    gap = False
    for k in [*range(start, len(members)), *range(start), start]:
        if members[k].index in missing:
            gap = True
            continue
        if gap and points:
            corner = _meeting_point(points[-2:], runs[k][:2])
            points += [corner] if corner is not None else []
        gap = False
        points += runs[k] if not points or not _near(points[-1], runs[k][0]) else runs[k][1:]
    closing = len(runs[start]) - 1  # the first edge was walked twice, to close the ring
    points = points[:-closing]
    return tuple(points[:-1] if _near(points[0], points[-1]) else points)


def _oriented(members: Sequence[Edge]) -> list[list[Vec]]:
    """The points of each edge in the sense in which the ring is walked."""
    runs: list[list[Vec]] = []
    for i, edge in enumerate(members):
        run, after = list(edge.points), members[(i + 1) % len(members)].points
        forward = min(norm(sub(run[-1], after[0])), norm(sub(run[-1], after[-1])))
        back = min(norm(sub(run[0], after[0])), norm(sub(run[0], after[-1])))
        if runs:
            forward, back = norm(sub(run[0], runs[-1][-1])), norm(sub(run[-1], runs[-1][-1]))
        runs.append(run if forward <= back else run[::-1])
    return runs


def _meeting_point(before: Sequence[Vec], after: Sequence[Vec]) -> Vec | None:
    """Where the line through `before`, carried on, meets that through `after`, carried back; None where it does not."""
    d, e = unit(sub(before[1], before[0])), unit(sub(after[1], after[0]))
    across = cross(d, e)
    square = dot(across, across)
    if square < 1e-6:
        return None
    way = sub(after[0], before[1])
    along, back = dot(cross(way, e), across) / square, dot(cross(way, d), across) / square
    if along <= LENGTH or back >= -LENGTH:
        return None
    return (before[1][0] + along * d[0], before[1][1] + along * d[1], before[1][2] + along * d[2])


def rectangle(normal: Vec, level: float, a: tuple[Vec, float, float], b: tuple[Vec, float, float]) -> Ring:
    """The corners of a rectangle at a level, between two coordinates along each of two directions."""
    points = [
        add(add(scale(normal, level), scale(a[0], x)), scale(b[0], y))
        for x, y in ((a[1], b[1]), (a[2], b[1]), (a[2], b[2]), (a[1], b[2]))
    ]
    flat = flatten(points, normal)
    doubled = sum(p[0] * q[1] - q[0] * p[1] for p, q in zip(flat, [*flat[1:], flat[0]], strict=True))
    return lift(flat if doubled > 0 else flat[::-1], level, normal)
