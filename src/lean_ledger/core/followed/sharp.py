"""Inner edges that a model has sharp, and a round tool leaves round."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import hypot

import numpy as np

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.followed.in_process import TOLERANCE, Remainder
from lean_ledger.core.geometry.model import Bend, Edge
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


def is_sharp(part: Part, piece: Remainder, frame: Frame, radius_at: Callable[[Edge], float]) -> bool:
    """Whether all of a piece that is worth a word lies along sharp inner edges, and is no more than the tools leave
    there whose greatest radius is that `radius_at` the edge.
    """
    corners: list[tuple[float, float, float]] = []  # x, y, how far off it stock may stay
    for edge in part.model.solid.edges:
        along = sub(edge.points[-1], edge.points[0])
        if edge.bend != Bend.CONCAVE or len(edge.faces) != 2 or not parallel(along, frame.up, 1e-3):
            continue
        one, other = (part.model.solid.faces[f].axis for f in edge.faces)
        radius = radius_at(edge)
        opening = float(np.pi - np.arccos(np.clip(dot(one, other), -1.0, 1.0)))
        if piece.amount <= left_in_corner(radius, opening) + TOLERANCE:
            x, y, _ = frame.point(edge.points[0])
            corners.append((x, y, 2 * radius))
    thick = (t for t, amount in zip(piece.triangles, piece.amounts, strict=True) if amount > TOLERANCE)
    flat = [frame.point(piece.vertices[v])[:2] for v in {v for t in thick for v in t}]
    return bool(corners) and all(any(hypot(p[0] - x, p[1] - y) <= far for x, y, far in corners) for p in flat)
