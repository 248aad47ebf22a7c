"""Rounded edges as they are, not as they are drawn: a ball that rolls over chords would cut into the round between."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.dropping import Floats
from lean_ledger.core.geometry.model import Solid, Surface
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.setups.frame import Frame

SMALLEST = 4.0  # mm of radius, below which chords stray less than a ball may
LEAST = 0.01  # mm that are worth a lift
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
        if abs(axis[2]) > 1 - 1e-6 or size < 1e-6 or not len(out):
            continue  # upright, or all the way round
        middle /= size
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
    middles = tips + np.array([0.0, 0.0, radius])
    for one in ridges:
        off = middles - np.array(one.origin)
        along = off @ np.array(one.axis)
        out = off - along[:, None] * np.array(one.axis)
        away = np.maximum(np.linalg.norm(out, axis=1), 1e-9)
        out /= away[:, None]
        over = (along >= one.low) & (along <= one.high) & (out @ np.array(one.middle) >= one.least)
        gap = one.radius + radius - away
        near = over & (gap > LEAST) & (out[:, 2] > FLATTEST)
        lift[near] = np.maximum(lift[near], gap[near] / out[near, 2])
    return lift


def _vec(v: Floats) -> Vec:
    return (float(v[0]), float(v[1]), float(v[2]))
