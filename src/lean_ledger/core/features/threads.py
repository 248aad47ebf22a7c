"""Threads that are modelled: helical flanks about the axis of a bore or of a turned wall."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import atan2, pi

from lean_ledger.core.features.model import Hole, ModelledThread, Turned
from lean_ledger.core.features.patches import LENGTH, Border, Patch, PatchedSolid, on_axis
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
    crest: frozenset[int]  # patches of the wall that it is cut into

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
    walls: set[int]  # that they meet along a helix


def find_threads(body: PatchedSolid) -> list[HelicalThread]:
    """All threads whose flanks meet a cylinder along a helix; flanks on the same stretch of it are one thread."""
    found: list[_Flanks] = []
    for patch in body.patches:
        if patch.surface != Surface.OTHER:
            continue
        met = [(b.beyond, rise) for b in patch.borders if (rise := _rise_along(body, b)) is not None]
        if not met:
            continue
        walls = {index for index, _ in met}
        joined = [group for group in found if group.walls & walls]
        # the rise counts along the wall's own axis: to the right where it goes up while turning left
        wall, rise = met[0]
        one = _Flanks(body.patches[wall], abs(rise), rise > 0, {patch.index}, walls)
        for group in joined:
            one = replace(group, members=group.members | one.members, walls=group.walls | one.walls)
            found.remove(group)
        found.append(one)
    threads = [thread for group in found for part in _apart(body, group) if (thread := _thread(body, part)) is not None]
    return sorted(threads, key=lambda thread: thread.low)


def _rise_along(body: PatchedSolid, border: Border) -> float | None:
    wall = body.patches[border.beyond] if border.beyond >= 0 else None
    return _rise(border.edge, wall) if wall is not None and wall.surface == Surface.CYLINDER else None


def _apart(body: PatchedSolid, flanks: _Flanks) -> list[_Flanks]:
    """Flanks that lie on one wall but not on the same stretch of it: a stud with a thread at either end."""
    axis = flanks.wall.axis
    spans = []
    for i in flanks.members:
        along = [dot(p, axis) for b in body.patches[i].borders for p in b.edge.points]
        spans.append((min(along), max(along), i))
    found: list[tuple[float, set[int]]] = []  # how far each reaches, and its flanks
    for low, high, i in sorted(spans):
        if found and low <= found[-1][0] + LENGTH:
            found[-1] = (max(found[-1][0], high), found[-1][1] | {i})
        else:
            found.append((high, {i}))
    return [_alone(body, flanks, members) for _, members in found]


def _alone(body: PatchedSolid, flanks: _Flanks, members: set[int]) -> _Flanks:
    """Some of the flanks, with the pitch and the hand that are their own."""
    rises = [
        rise for i in sorted(members) for b in body.patches[i].borders if (rise := _rise_along(body, b)) is not None
    ]
    return replace(flanks, pitch=abs(rises[0]), right_handed=rises[0] > 0, members=members)


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
        frozenset(members), frozenset(walls - members),
    )  # fmt: skip


def _radial(p: Vec, origin: Vec, axis: Vec) -> Vec:
    away = sub(p, origin)
    return sub(away, scale(axis, dot(away, axis)))


def threaded_holes(body: PatchedSolid, holes: Sequence[Hole], threads: Sequence[HelicalThread]) -> list[Hole]:
    """The holes with the threads that are cut into them: those whose wall is a thread's crest."""
    found = list(holes)
    for thread in (t for t in threads if t.inward):
        for i, hole in enumerate(found):
            if _crest_in(body, thread, hole.faces):
                found[i] = replace(hole, faces=_with_faces(body, thread, hole.faces), thread=thread.words)
                break
    return found


def threaded_walls(body: PatchedSolid, turned: Sequence[Turned], threads: Sequence[HelicalThread]) -> list[Turned]:
    """The turned walls with the threads that are cut into them; of several on one wall it says the longest."""
    found = list(turned)
    for thread in (t for t in threads if not t.inward):
        for i, wall in enumerate(found):
            if wall.where == "outside" and _crest_in(body, thread, wall.faces):
                longest = max(filter(None, (wall.thread, thread.words)), key=lambda words: words.length)
                found[i] = replace(wall, faces=_with_faces(body, thread, wall.faces), thread=longest)
                break
    return found


def _crest_in(body: PatchedSolid, thread: HelicalThread, faces: Sequence[int]) -> bool:
    return any(set(body.patches[i].face_indexes) & set(faces) for i in thread.crest)


def _with_faces(body: PatchedSolid, thread: HelicalThread, faces: Sequence[int]) -> tuple[int, ...]:
    return tuple(sorted({*faces, *(f for i in thread.patches for f in body.patches[i].face_indexes)}))
