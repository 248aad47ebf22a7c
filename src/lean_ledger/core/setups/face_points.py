"""The points of a part's faces as they lie in a setup: looked up again and again, and the same after most edits."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.model import Bounds, Solid
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.setups.frame import Frame


def points_of(solid: Solid, face: int, frame: Frame) -> tuple[Vec, ...]:
    """Along the edges of a face, in the setup's axes."""
    return _points(Same(solid), face, frame)


@lru_cache(maxsize=20_000)
def _points(solid: Same[Solid], face: int, frame: Frame) -> tuple[Vec, ...]:
    whole = solid.value
    edges = (i for loop in whole.faces[face].loops for i, _ in loop.edges)
    return tuple(frame.point(p) for i in edges for p in whole.edges[i].points)


def extent_of(solid: Solid, faces: Sequence[int], frame: Frame) -> Bounds:
    """The box around the edges of some faces, in the setup's axes."""
    return _extent(Same(solid), tuple(faces), frame)


@lru_cache(maxsize=20_000)
def _extent(solid: Same[Solid], faces: tuple[int, ...], frame: Frame) -> Bounds:
    columns = list(zip(*(p for face in faces for p in _points(solid, face, frame)), strict=True))
    low, high = (tuple(pick(column) for column in columns) for pick in (min, max))
    return Bounds(low, high)
