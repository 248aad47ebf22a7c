"""Rounded edges as they are, not as they are drawn: a ball that rolls over chords would cut into the round between."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.dropping import Floats
from lean_ledger.core.geometry.model import Solid, Surface
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.setups.frame import Frame

SMALLEST = 1.0  # mm of radius, below which chords stray hardly at all
HAIR = 0.2  # mm by which a ball is moved aside at the most
LEAST = 0.01  # mm that are worth a lift
NEARER = 0.03  # mm that a ball may come nearer to a steep wall
FLATTEST = 0.2  # of the way square to the edge that is upward: on a steeper flank a lift would be many times the cut


@dataclass(frozen=True)
class Ridge:
    """A cylinder that the part fills, between two turns about its axis; in a way's axes, mm."""

    origin: Vec
    axis: Vec
    radius: float
    middle: Vec  # square to the axis, to the middle of the face
    least: float  # cosine of half the angle that it spans
    low: float  # along the axis from the origin
    high: float


@lru_cache(maxsize=64)
def ridges_along(solid: Same[Solid], frame: Frame) -> tuple[Ridge, ...]:
    axes = np.array([frame.right, frame.back, frame.up])
    mesh = solid.value.mesh
    owners, corners = np.array(mesh.faces), np.array(mesh.triangles)
    places = np.array(mesh.vertices) @ axes.T
    found = []
    for face in solid.value.faces:
        if face.surface != Surface.CYLINDER or face.inward or face.radius < SMALLEST:
            continue
        origin, axis = axes @ np.array(face.origin), axes @ np.array(face.axis)
        off = places[np.unique(corners[owners == face.index])] - origin
        along = off @ axis
        out = off - along[:, None] * axis
        out /= np.maximum(np.linalg.norm(out, axis=1), 1e-9)[:, None]
        middle = out.sum(axis=0)
        size = float(np.linalg.norm(middle))
        upright = abs(axis[2]) > 1 - 1e-6
        if not len(out) or (size < 1e-6 and not upright):
            continue  # all the way round
        middle = middle / size if size > 1e-6 else np.zeros(3)
        found.append(Ridge(
            _vec(origin), _vec(axis), face.radius, _vec(middle), float((out @ middle).min()), float(along.min()),
            float(along.max()),
        ))  # fmt: skip
    return tuple(found)


def over_ridges(tips: Floats, radius: float, ridges: Sequence[Ridge]) -> Floats:
    """How far a ball has to be lifted at each place of its tip, (n, 3), to keep off the rounds, mm.

    Its middle keeps R + r off the axis, where it touches the face and not what lies beside it.
    """
    lift = np.zeros(len(tips))
    for gap, out in _nearer(tips, radius, ridges):
        near = (gap > LEAST) & (out[:, 2] > FLATTEST)
        lift[near] = np.maximum(lift[near], gap[near] / out[near, 2])
    return lift


def beside_ridges(tips: Floats, radius: float, ridges: Sequence[Ridge]) -> Floats:
    """Places of a ball's tip, (n, 3), a hair farther off steep rounds and upright ones, where a lift would not help."""
    moved = tips.copy()
    for gap, out in _nearer(tips, radius, ridges):
        near = (gap > NEARER) & (gap < HAIR) & (out[:, 2] <= FLATTEST) & (out[:, 2] > -FLATTEST)
        flat = np.linalg.norm(out[near, :2], axis=1)
        moved[near, :2] += out[near, :2] * (gap[near] / flat**2)[:, None]
    return moved


def _nearer(tips: Floats, radius: float, ridges: Sequence[Ridge]) -> Iterator[tuple[Floats, Floats]]:
    """Of each round how far the ball's middle is nearer than R + r, and the way square off its axis; 0 where the ball
    touches something else.
    """
    middles = tips + np.array([0.0, 0.0, radius])
    for one in ridges:
        off = middles - np.array(one.origin)
        along = off @ np.array(one.axis)
        out = off - along[:, None] * np.array(one.axis)
        away = np.maximum(np.linalg.norm(out, axis=1), 1e-9)
        out /= away[:, None]
        over = (along >= one.low) & (along <= one.high) & (out @ np.array(one.middle) >= one.least)
        yield np.where(over, one.radius + radius - away, 0.0), out


def _vec(v: Floats) -> Vec:
    return (float(v[0]), float(v[1]), float(v[2]))
