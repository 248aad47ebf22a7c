"""Paths whose shape depends neither on the feed nor on the clearance plane: the shape is kept, another feed only scales
what it has, and another plane lies above the same cuts.
"""

from __future__ import annotations

import inspect
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache, wraps
from typing import Any, ParamSpec, TypeVar, cast

from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.timing.motion import Stroke

P = ParamSpec("P")
M = TypeVar("M", Motion, "Motion | None")

KEPT = 2048
PLANE = 1e6  # mm: the clearance plane in a shape that is kept


def at_any_feed(path: Callable[P, M]) -> Callable[P, M]:
    """Keeps what a path function gives. All its feeds must be shares of its parameter `vf`; only its rapids may lie at
    the clearance plane, which is its parameter `clearance` or that of its `down`. All three are given by place.

    The same arguments give the same object, and the same shape has the very same points in its cuts, so that what is
    worked out by identity is worked out once.
    """
    names = list(inspect.signature(path).parameters)
    feed, over = names.index("vf"), names.index("down" if "down" in names else "clearance")
    shape = lru_cache(maxsize=KEPT)(cast("Callable[..., Motion | None]", path))

    def fed(*args: Any, **options: Any) -> Motion | None:
        vf, down = args[feed], args[over]
        if vf <= 0:
            return path(*args, **options)  # which refuses it
        plain = list(args)
        plain[feed], plain[over] = 1.0, PLANE if names[over] == "clearance" else replace(down, clearance=PLANE)
        found = shape(*plain, **options)
        if found is None:
            return None
        clearance = down if names[over] == "clearance" else down.clearance
        strokes = (_laid(stroke, vf, clearance) for stroke in found.strokes)
        return replace(found, strokes=tuple(stroke for stroke in strokes if stroke is not None))

    return cast("Callable[P, M]", wraps(path)(lru_cache(maxsize=KEPT)(fed)))


def _laid(stroke: Stroke, vf: float, clearance: float) -> Stroke | None:
    """At a feed and a clearance plane; None for a rapid up to the plane from where it lies."""
    if not stroke.is_rapid:
        return Stroke(stroke.points, vf * stroke.feed_mm_per_min)
    points = tuple(_under(p, clearance) for p in stroke.points)
    return None if len(set(points)) == 1 < len(set(stroke.points)) else Stroke(points)


def _under(p: Vec, clearance: float) -> Vec:
    return (p[0], p[1], clearance) if p[2] == PLANE else p
