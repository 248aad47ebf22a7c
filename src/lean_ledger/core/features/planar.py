"""Boundaries of planar faces as rings, and the flat geometry on them (shapely does the polygons)."""

from __future__ import annotations

from collections.abc import Sequence

from shapely.geometry import Polygon

from lean_ledger.core.features.model import Ring
from lean_ledger.core.features.patches import LENGTH, Patch
from lean_ledger.core.geometry.model import Edge, Solid, Vec
from lean_ledger.core.geometry.vectors import Z, cross, dot, norm, sub, unit

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


def chain_edges(edges: Sequence[Edge]) -> list[tuple[Ring, list[Edge]]]:
    """Join edges end to end into polylines; a closed one does not repeat its first point."""
    waiting = list(edges)
    chains: list[tuple[Ring, list[Edge]]] = []
    while waiting:
        first = waiting.pop(0)
        points, members = list(first.points), [first]
        grown = True
        while grown and not _near(points[0], points[-1]):
            grown = False
            for i, edge in enumerate(waiting):
                run = list(edge.points)
                if _near(points[-1], run[0]):
                    points += run[1:]
                elif _near(points[-1], run[-1]):
                    points += run[-2::-1]
                elif _near(points[0], run[-1]):
                    points = run[:-1] + points
                elif _near(points[0], run[0]):
                    points = run[:0:-1] + points
                else:
                    continue
                members.append(waiting.pop(i))
                grown = True
                break
        if len(points) > 2 and _near(points[0], points[-1]):
            points.pop()
        chains.append((tuple(points), members))
    return chains


def _near(a: Vec, b: Vec) -> bool:
    return norm(sub(a, b)) < 2 * LENGTH
