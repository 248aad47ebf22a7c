"""What the walls of a recess say: its corner radius, whether two face one another, whether it is an obround."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import pi

from lean_ledger.core.features.model import Pocket, Slot, Step
from lean_ledger.core.features.patches import LENGTH, Patch
from lean_ledger.core.features.planar import polygon_of
from lean_ledger.core.geometry.model import Bend, Curve, Edge, Surface, Vec
from lean_ledger.core.geometry.vectors import cross, dot, norm, sub

Recess = Pocket | Slot | Step


def parallel_walls(walls: Sequence[Patch], normal: Vec) -> tuple[float, Vec] | None:
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


def corner_radius(walls: Sequence[Patch], normal: Vec) -> float:
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


def closed_recess(pocket: Pocket, obround: tuple[float, float] | None) -> Recess:
    """An obround (width, overall length) without an island is a slot, any other closed outline a pocket."""
    if obround is not None and len(pocket.region) == 1:
        width, length = obround
        return Slot(
            "", pocket.faces, (), pocket.volume, pocket.direction, width, pocket.depth, length, pocket.through, 0,
            pocket.corner_radius, pocket.region,
        )  # fmt: skip
    return replace(pocket, area=round(polygon_of(pocket.region, pocket.direction).area, 4))


def obround_of(edges: Sequence[Edge], area: float, floor_radius: float = 0.0) -> tuple[float, float] | None:
    """Width and overall length where the outline is two straight sides and two half circles.

    The edges are those of the flat floor, a floor radius inside of the outline. Split arcs count as one, so the test is
    on the total turn and on the area 2 r · straight + π r².
    """
    lines = [e for e in edges if e.curve == Curve.LINE]
    arcs = [e for e in edges if e.curve == Curve.CIRCLE]
    if len(lines) + len(arcs) != len(edges) or not arcs or not lines:
        return None
    inner = arcs[0].radius
    if any(abs(e.radius - inner) > LENGTH for e in arcs):
        return None
    straight = sum(e.length for e in lines) / 2
    if abs(sum(e.length for e in arcs) - 2 * pi * inner) > 0.01 * inner:
        return None
    radius = inner + floor_radius
    if abs(2 * radius * straight + pi * radius * radius - area) > 0.005 * area:
        return None
    return round(2 * radius, 6), round(straight + 2 * radius, 6)
