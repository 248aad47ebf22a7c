"""Inner edges that a model has sharp, and a round tool leaves round."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import hypot

import numpy as np

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.followed.in_process import TOLERANCE, Remainder
from lean_ledger.core.geometry.model import Bend, Edge, Vec
from lean_ledger.core.geometry.vectors import dot, parallel, sub
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.frame import Frame


@dataclass(frozen=True)
class Sharp:
    features: frozenset[str] = frozenset()
    findings: tuple[Finding, ...] = ()


def left_in_corner(radius: float, opening: float) -> float:
    """How far off the walls of a corner a round tool leaves stock at the most, mm: r · (1 − sin(opening / 2)), with the
    angle in radians between them on the side of the tool.

    >>> round(left_in_corner(5, 3.14159265 / 2), 3)
    1.464
    """
    return float(radius * (1 - np.sin(opening / 2)))


@dataclass(frozen=True)
class _Corner:
    """A sharp inner edge along a way's Z: how far off its walls stock may stay, and how far along them, mm."""

    frame: Frame
    x: float
    y: float
    off: float
    along: float

    def holds(self, points: Sequence[Vec], amount: float) -> bool:
        if amount > self.off + TOLERANCE:
            return False
        seen = (self.frame.point(p) for p in points)
        return all(hypot(p[0] - self.x, p[1] - self.y) <= self.along for p in seen)


def is_sharp(part: Part, piece: Remainder, frames: Sequence[Frame], radius_at: Callable[[Edge], float]) -> bool:
    """Whether all of a piece that is worth a word lies along sharp inner edges, upright in one of the ways that tools
    come, and is no more than the tools leave there whose greatest radius is that `radius_at` the edge.
    """
    corners = []
    for edge in part.model.solid.edges:
        if edge.bend != Bend.CONCAVE or len(edge.faces) != 2:
            continue
        along = sub(edge.points[-1], edge.points[0])
        frame = next((one for one in frames if parallel(along, one.up, 1e-3)), None)
        radius = radius_at(edge)
        if frame is None or radius <= 0:
            continue
        one, other = (part.model.solid.faces[f].axis for f in edge.faces)
        opening = float(np.pi - np.arccos(np.clip(dot(one, other), -1.0, 1.0)))
        x, y, _ = frame.point(edge.points[0])
        corners.append(_Corner(frame, x, y, left_in_corner(radius, opening), 2 * radius))
    worth = [(t, a) for t, a in zip(piece.triangles, piece.amounts, strict=True) if a > TOLERANCE]
    return (
        bool(worth)
        and any(piece.amount <= one.off + TOLERANCE for one in corners)
        and all(any(one.holds([piece.vertices[v] for v in t], a) for one in corners) for t, a in worth)
    )  # fmt: skip
