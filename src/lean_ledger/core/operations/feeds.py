"""Paths whose shape does not depend on the feed: the shape is kept, and another feed only scales what it has."""

from __future__ import annotations

import inspect
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache, wraps
from typing import Any, ParamSpec, TypeVar, cast

from lean_ledger.core.operations.model import Motion
from lean_ledger.core.timing.motion import Stroke

P = ParamSpec("P")
M = TypeVar("M", Motion, "Motion | None")

KEPT = 2048


def at_any_feed(path: Callable[P, M]) -> Callable[P, M]:
    """Keeps what a path function gives; all its feeds must be shares of its parameter `vf`, given by place.

    The same arguments give the same object, so that what is timed by identity is timed once.
    """
    place = list(inspect.signature(path).parameters).index("vf")
    shape = lru_cache(maxsize=KEPT)(cast("Callable[..., Motion | None]", path))

    def fed(*args: Any, **options: Any) -> Motion | None:
        vf = args[place]
        if vf <= 0:
            return path(*args, **options)  # which refuses it
        found = shape(*args[:place], 1.0, *args[place + 1 :], **options)
        if found is None:
            return None
        return replace(found, strokes=tuple(_scaled(stroke, vf) for stroke in found.strokes))

    return cast("Callable[P, M]", wraps(path)(lru_cache(maxsize=KEPT)(fed)))


def _scaled(stroke: Stroke, vf: float) -> Stroke:
    return stroke if stroke.is_rapid else Stroke(stroke.points, vf * stroke.feed_mm_per_min)
