"""Threads that are modelled: helical flanks about the axis of a bore or of a turned wall."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import atan2, pi

from lean_ledger.core.features.model import Hole, ModelledThread, Turned
from lean_ledger.core.features.patches import LENGTH, Patch, PatchedSolid, on_axis
from lean_ledger.core.features.planar import frame
from lean_ledger.core.geometry.model import Curve, Edge, Surface, Vec
from lean_ledger.core.geometry.vectors import dot, norm, parallel, scale, sub

LEAST_TURN = pi  # rad that a helix turns at the least
STRAY = 0.02  # share of the pitch by which a helix may stray from an even rise
DEEPEST = 1.5  # × pitch between the crest and the root of a thread


@dataclass(frozen=True)
class HelicalThread:
    """A thread about a line, lengths in mm; `patches` are its flanks, its root and its ends, the crest left out."""

    origin: Vec
    axis: Vec
    pitch: float
    right_handed: bool
    inward: bool
    major: float  # diameter
    minor: float
    low: float  # along the axis
    high: float
    patches: frozenset[int]

    def about(self, origin: Vec, axis: Vec) -> bool:
        return parallel(axis, self.axis) and on_axis(self.origin, self.axis, origin)

    @property
    def words(self) -> ModelledThread:
        length = round(self.high - self.low, 4)
        return ModelledThread(
            round(self.major, 4), round(self.pitch, 4), length, "right" if self.right_handed else "left"
        )


@dataclass
class _Flanks:
    """What is collected about one line."""

    wall: Patch
    pitch: float
    right_handed: bool
    members: set[int]


def find_threads(body: PatchedSolid) -> list[HelicalThread]:
    """All threads whose flanks meet a cylinder along a helix."""
    found: list[_Flanks] = []
    for patch in body.patches:
        if patch.surface != Surface.OTHER:
            continue
        for border in patch.borders:
            wall = body.patches[border.beyond] if border.beyond >= 0 else None
            if wall is None or wall.surface != Surface.CYLINDER:
                continue
            rise = _rise(border.edge, wall)
            if rise is None:
                continue
            for group in found:
                if parallel(group.wall.axis, wall.axis) and on_axis(
                    group.wall.face.origin, group.wall.axis, wall.face.origin
                ):
                    group.members.add(patch.index)
                    break
            else:
                # the rise counts along the wall's own axis: to the right where it goes up while turning left
                found.append(_Flanks(wall, abs(rise), rise > 0, {patch.index}))
            break
    return [thread for group in found if (thread := _thread(body, group)) is not None]


def _rise(edge: Edge, wall: Patch) -> float | None:
    """Way along a cylinder's axis per turn, signed; None for an edge that is no helix."""
    if edge.curve != Curve.OTHER or len(edge.points) < 6:
        return None
    axis = wall.axis
    u, v = frame(axis)
    away = [sub(p, wall.face.origin) for p in edge.points]
    angles = [atan2(dot(a, v), dot(a, u)) for a in away]
    turned = [0.0]
    for a, b in itertools.pairwise(angles):
        turned.append(turned[-1] + (b - a + pi) % (2 * pi) - pi)
    if abs(turned[-1]) < LEAST_TURN:
        return None
    start = dot(away[0], axis)
    rise = (dot(away[-1], axis) - start) / turned[-1] * 2 * pi
    strays = (abs(dot(a, axis) - start - t / (2 * pi) * rise) for a, t in zip(away, turned, strict=True))
    return rise if abs(rise) > LENGTH and max(strays) < max(STRAY * abs(rise), 0.01) else None


def _thread(body: PatchedSolid, flanks: _Flanks) -> HelicalThread | None:
    """The thread with its root and ends; the crest is the cylinder that the plain wall would have."""
    axis, origin = flanks.wall.axis, flanks.wall.face.origin
    members = set(flanks.members)
    walls = {
        b.beyond for i in members for b in body.patches[i].borders
        if b.beyond >= 0 and body.patches[b.beyond].surface == Surface.CYLINDER
        and parallel(body.patches[b.beyond].axis, axis) and on_axis(origin, axis, body.patches[b.beyond].face.origin)
    }  # fmt: skip
    inward = flanks.wall.face.inward
    radii = [body.patches[i].face.radius for i in walls]
    points = [p for i in members for b in body.patches[i].borders for p in b.edge.points]
    reach = [norm(_radial(p, origin, axis)) for p in points]
    minor, major = min([*radii, *reach]), max([*radii, *reach])
    if major - minor > DEEPEST * flanks.pitch:
        return None
    crest = minor if inward else major
    members |= {i for i in walls if abs(body.patches[i].face.radius - crest) > LENGTH}
    grown = True
    while grown:  # the small faces in which the profile begins and ends
        beyond = {b.beyond for i in members for b in body.patches[i].borders if b.beyond >= 0} - members - walls
        ends = {
            i for i in beyond
            if body.patches[i].surface in (Surface.PLANE, Surface.OTHER)
            and all(b.beyond in members | walls for b in body.patches[i].borders)
        }  # fmt: skip
        grown = bool(ends)
        members |= ends
    along = [dot(p, axis) for p in points]
    return HelicalThread(
        origin, axis, flanks.pitch, flanks.right_handed, inward, 2 * major, 2 * minor, min(along), max(along),
        frozenset(members),
    )  # fmt: skip


def _radial(p: Vec, origin: Vec, axis: Vec) -> Vec:
    away = sub(p, origin)
    return sub(away, scale(axis, dot(away, axis)))


def threaded_holes(body: PatchedSolid, holes: Sequence[Hole], threads: Sequence[HelicalThread]) -> list[Hole]:
    """The holes with the threads that are cut into them."""
    found = list(holes)
    for thread in (t for t in threads if t.inward):
        for i, hole in enumerate(found):
            level = dot(hole.position, thread.axis)
            ends = sorted((level, level + hole.depth * dot(hole.axis, thread.axis)))
            if not thread.about(hole.position, hole.axis) or ends[0] > thread.high or ends[1] < thread.low:
                continue
            faces = {f for index in thread.patches for f in body.patches[index].face_indexes}
            found[i] = replace(hole, faces=tuple(sorted({*hole.faces, *faces})), thread=thread.words)
            break
    return found


def threaded_walls(body: PatchedSolid, turned: Sequence[Turned], threads: Sequence[HelicalThread]) -> list[Turned]:
    """The turned walls with the threads that are cut into them."""
    found = list(turned)
    for thread in (t for t in threads if not t.inward):
        fitting = [
            i for i, one in enumerate(found)
            if one.where == "outside" and parallel(one.direction, thread.axis)
            and abs(one.diameter - thread.major) < 2 * LENGTH
        ]  # fmt: skip
        if fitting:
            faces = {f for index in thread.patches for f in body.patches[index].face_indexes}
            one = found[fitting[0]]
            found[fitting[0]] = replace(one, faces=tuple(sorted({*one.faces, *faces})), thread=thread.words)
    return found
