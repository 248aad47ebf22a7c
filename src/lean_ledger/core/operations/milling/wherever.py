"""Paths of alike regions: what is worked out for one is taken for the others, wherever they lie."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache, wraps
from typing import TYPE_CHECKING, Concatenate, ParamSpec, TypeVar, cast

from lean_ledger.core.operations.milling.regions import Flat, counted_from
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.timing.motion import Stroke

if TYPE_CHECKING:
    from lean_ledger.core.operations.milling.paths import Space

P = ParamSpec("P")
M = TypeVar("M", Motion, "Motion | None")

KEPT = 512
PLACES = 5  # decimals of a path's points


def wherever(path: Callable[Concatenate[Space, P], M]) -> Callable[Concatenate[Space, P], M]:
    """Keeps what a path function gives of one region, counted from the region's own first corner."""
    kept = cast("Callable[..., M]", lru_cache(maxsize=KEPT)(path))

    @wraps(path)
    def moved(space: Space, *args: P.args, **options: P.kwargs) -> M:
        if len(space.regions) != 1:
            return path(space, *args, **options)
        x, y = space.regions[0].rings[0][0]
        found = kept(replace(space, regions=(counted_from(space.regions[0], (x, y)),)), *args, **options)
        return found if found is None else _to(found, (x, y))

    return cast("Callable[Concatenate[Space, P], M]", moved)


def _to(motion: Motion, at: Flat) -> Motion:
    def there(stroke: Stroke) -> Stroke:
        points = tuple((round(x + at[0], PLACES), round(y + at[1], PLACES), z) for x, y, z in stroke.points)
        return Stroke(points, stroke.feed_mm_per_min)

    return replace(motion, strokes=tuple(map(there, motion.strokes)))
