"""A ball, point by point: lifted to where it touches the part."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise
from math import ceil, dist

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.geometry.dropping import drop_at
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.milling.surface_paths import Over, triangles_of
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.operations.safe.mended import Mended
from lean_ledger.core.operations.safe.ridges import Ridge, beside_ridges, over_ridges
from lean_ledger.core.timing.motion import Stroke

STRAY = 0.03  # mm that a ball may come nearer: its rows are chords over the mesh
DENSE = 1.0  # mm between places of a ball's way that are looked at
LIFTED = 1.0  # mm by which a ball is lifted where it would cut; what would go deeper is left out
SAME = 1e-6


def ball_kept_off(
    path: Motion, radius: float, part: Over, ridges: tuple[Ridge, ...], walk: Mended
) -> tuple[Motion | None, float]:
    """Point by point against the level at which the ball touches the part there."""
    strokes = [s if s.is_rapid else Stroke(_dense(s.points), s.feed_mm_per_min) for s in path.strokes]
    given = [p for s in strokes if not s.is_rapid for p in s.points]
    if not given:
        return path, 0.0
    points = beside_ridges(np.array(given), radius, ridges)
    moved = bool((points != np.array(given)).any())
    if moved:
        given = [(round(x, 5), round(y, 5), z) for x, y, z in points.tolist()]
    # a ball that is so much smaller about the same middle: beside a wall a hair sideways is much in height
    touches = drop_at(triangles_of(part), points[:, :2], radius - STRAY)
    deep = touches - STRAY - points[:, 2]
    by = np.maximum(np.where(deep > SAME, deep + STRAY, 0.0), over_ridges(points, radius, ridges))
    if not by.any() and not moved:
        return path, 0.0
    free = by <= LIFTED
    lifted = [(p[0], p[1], round(p[2] + up, 5)) if up > 0 else p for p, up in zip(given, by.tolist(), strict=True)]
    left_out, at = 0.0, 0
    for stroke in strokes:
        if stroke.is_rapid:
            walk.rapid(stroke)
            continue
        own, way = free[at : at + len(stroke.points)], lifted[at : at + len(stroke.points)]
        at += len(stroke.points)
        for piece in _runs(way, own):
            walk.cut(stroke.feed_mm_per_min, piece)
        left_out += sum(dist(a, b) for k, (a, b) in enumerate(pairwise(stroke.points)) if not (own[k] and own[k + 1]))
    return (Motion(walk.ended()) if walk.cuts else None), left_out


def _dense(points: Sequence[Vec]) -> tuple[Vec, ...]:
    """With a place at least every DENSE mm."""
    found = [points[0]]
    for a, b in pairwise(points):
        count = max(1, ceil(dist(a, b) / DENSE))
        found += [tuple(p + (q - p) * k / count for p, q in zip(a, b, strict=True)) for k in range(1, count)]  # type: ignore[misc]
        found.append(b)
    return tuple(found)


def _runs(points: Sequence[Vec], free: NDArray[np.bool_]) -> Iterator[tuple[Vec, ...]]:
    run: list[Vec] = []
    for point, able in zip(points, free, strict=True):
        if able:
            run.append(point)
        elif run:
            yield tuple(run)
            run = []
    if run:
        yield tuple(run)
