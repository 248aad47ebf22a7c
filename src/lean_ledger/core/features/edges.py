"""Broken and rounded edges: chamfers and fillets."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, degrees, pi, radians, sin, tan

import numpy as np

from lean_ledger.core.features.model import Chamfer, Fillet
from lean_ledger.core.features.patches import LENGTH, Patch, PatchedSolid
from lean_ledger.core.features.planar import lines_along
from lean_ledger.core.geometry.model import Bend, Curve, Edge, Surface, Vec
from lean_ledger.core.geometry.vectors import angle_between, norm, parallel, scale, sub

#: A flat that breaks an edge is narrow; wider ones are faces of the part.
WIDEST_CHAMFER = 10.0
NARROW = 0.5  # of its length
WIDER = 1.5  # times its own slant that the faces beside it measure at the least


@dataclass(frozen=True)
class _Break:
    """One patch that breaks an edge, with its two long borders."""

    patch: Patch
    slant: float
    angle: float
    width: float
    length: float
    outer: tuple[Edge, ...]


def find_chamfers(body: PatchedSolid, used: set[int]) -> tuple[list[Chamfer], set[int]]:
    breaks = {
        patch.index: one
        for patch in body.patches
        if patch.index not in used and (one := _as_break(body, patch)) is not None
    }
    found: list[Chamfer] = []
    waiting = set(breaks)
    for index in sorted(breaks):
        if index not in waiting:
            continue
        loop = _connected(index, breaks, waiting)
        pieces = [breaks[i] for i in loop]
        faces = tuple(sorted(f for piece in pieces for f in piece.patch.face_indexes))
        length = sum(piece.length for piece in pieces)
        first = pieces[0]
        section = first.width * (first.slant * sin(radians(first.angle))) / 2
        path = lines_along([edge for piece in pieces for edge in piece.outer])
        found.append(
            Chamfer("", faces, (), section * length, round(first.width, 4), round(first.angle, 3), length, path)
        )
    return found, set(breaks)


def _connected(start: int, breaks: dict[int, _Break], waiting: set[int]) -> list[int]:
    loop, queue = [], [start]
    waiting.discard(start)
    while queue:
        index = queue.pop()
        loop.append(index)
        for border in breaks[index].patch.borders:
            other = border.beyond
            same = other in waiting and abs(breaks[other].width - breaks[index].width) < 5 * LENGTH
            if same and abs(breaks[other].angle - breaks[index].angle) < 0.1:
                waiting.discard(other)
                queue.append(other)
    return loop


def _as_break(body: PatchedSolid, patch: Patch) -> _Break | None:
    if patch.surface == Surface.PLANE:
        return _flat_break(body, patch)
    if patch.surface == Surface.CONE:
        return _cone_break(body, patch)
    return None


def _flat_break(body: PatchedSolid, patch: Patch) -> _Break | None:
    lines = [
        border
        for border in patch.borders
        if border.edge.curve == Curve.LINE and border.edge.bend == Bend.CONVEX and border.beyond >= 0
    ]
    lines.sort(key=lambda border: -border.edge.length)
    starts = np.array([border.edge.points[0] for border in lines]).reshape(-1, 3)
    ways = np.array([_direction(border.edge) for border in lines]).reshape(-1, 3)
    for i, a in enumerate(lines):
        length = a.edge.length  # the longer of both
        across = starts[i + 1 :] - starts[i]
        slants = np.linalg.norm(across - (across @ ways[i])[:, None] * ways[i], axis=1)
        beside = np.linalg.norm(np.cross(ways[i + 1 :], ways[i]), axis=1) < 1e-3
        narrow = (slants >= LENGTH) & (slants <= min(WIDEST_CHAMFER * 1.5, NARROW * length))
        for k in np.nonzero(beside & narrow)[0]:
            b, slant = lines[i + 1 + int(k)], float(slants[k])
            if a.beyond == b.beyond:
                continue
            one, two = body.patches[a.beyond], body.patches[b.beyond]
            if one.surface != Surface.PLANE or two.surface != Surface.PLANE:
                continue
            if abs(angle_between(one.axis, two.axis) - 90) > 45:
                continue
            if min(one.area, two.area) / length < WIDER * slant:
                continue
            tilt = angle_between(patch.axis, one.axis), angle_between(patch.axis, two.axis)
            if not all(5 < t < 85 for t in tilt):
                continue
            base, outer = (one, b) if tilt[0] <= tilt[1] + 1e-6 and one.area >= two.area else (two, a)
            angle = angle_between(patch.axis, base.axis)
            return _Break(patch, slant, angle, slant * cos(radians(angle)), outer.edge.length, (outer.edge,))
    return None


def _direction(edge: Edge) -> Vec:
    run = sub(edge.points[-1], edge.points[0])
    return scale(run, 1 / norm(run))


def _cone_break(body: PatchedSolid, patch: Patch) -> _Break | None:
    """A cone between a flat face and a wall around it."""
    arcs = [
        border
        for border in patch.borders
        if border.edge.curve == Curve.CIRCLE and border.beyond >= 0 and border.edge.bend != Bend.CONCAVE
    ]
    radii = sorted({round(border.edge.radius, 4) for border in arcs})
    if len(radii) != 2:
        return None
    leg = radii[1] - radii[0]
    drop = leg / tan(patch.face.half_angle)
    if max(leg, drop) > WIDEST_CHAMFER:
        return None
    flat = [
        b for b in arcs if body.patches[b.beyond].surface == Surface.PLANE
        and parallel(body.patches[b.beyond].axis, patch.axis, 1e-3)
    ]  # fmt: skip
    if not flat:
        return None
    at_flat = round(flat[0].edge.radius, 4)
    outer = tuple(b.edge for b in arcs if round(b.edge.radius, 4) != at_flat)
    slant = (leg**2 + drop**2) ** 0.5
    angle = 90 - degrees(patch.face.half_angle)
    return _Break(patch, slant, angle, leg, sum(e.length for e in outer), outer)


def find_fillets(body: PatchedSolid, used: set[int], upright: Vec) -> tuple[list[Fillet], set[int]]:
    """Round patches that run smoothly into two neighbours, but for the outline's own uprights."""
    found: list[Fillet] = []
    taken: set[int] = set()
    for patch in body.patches:
        if patch.index in used or patch.surface not in (Surface.CYLINDER, Surface.TORUS, Surface.SPHERE):
            continue
        if patch.surface == Surface.CYLINDER and (patch.full_turn or parallel(patch.axis, upright, 1e-3)):
            continue
        smooth = body.neighbours(patch, Bend.SMOOTH)
        if not smooth:
            continue
        radius = patch.face.radius
        turn = patch.span if patch.surface == Surface.CYLINDER else pi / 2
        length = patch.area / (radius * turn) if radius * turn else 0.0
        taken.add(patch.index)
        found.append(
            Fillet("", tuple(patch.face_indexes), (), 0.0, round(radius, 4), round(length, 4), not patch.face.inward)
        )
    return found, taken
