"""Which face of the part a piece of stock lies on that stays, or that is cut out of it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.followed.nearest import Surface
from lean_ledger.core.geometry.masses import Lump
from lean_ledger.core.geometry.model import Vec

MOST = 400  # triangles, the largest, that are looked at
WITHIN = 1e-3  # mm below a piece's surface, from where its thickness is looked at
TINY = 1e-12


def mostly_on(faces: NDArray[np.int64], areas: NDArray[np.float64]) -> int:
    """The face that most of an area lies on; −1 where it is of no face of the part.

    >>> mostly_on(np.array([4, 7, 4]), np.array([2.0, 3.0, 1.5]))
    4
    """
    return int(np.bincount(faces + 1, weights=areas).argmax()) - 1


def beside(
    piece: Lump, deep: NDArray[np.int64], surface: Surface, tolerance: float, *, cut_into: bool
) -> int | None:  # fmt: skip
    """The face that those triangles lie on which meet the ones that are off the part, as the wall of a hole does that
    is left; None where none does. Films, thinner than the tolerance, hang on a piece and lie on other faces.
    """
    meets = np.asarray(np.isin(piece.triangles, np.unique(piece.triangles[deep])).any(axis=1))
    meets[deep] = False
    near = np.flatnonzero(meets)
    near = near[np.argsort(-piece.areas[near], kind="stable")][:MOST]
    if not len(near):
        return None
    corners, mass = piece.vertices[piece.triangles[near]], piece.mass
    middles = corners.mean(axis=1)
    away, faces = surface.distances(middles, cut_into=cut_into)
    inward = -np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    inward /= np.maximum(np.linalg.norm(inward, axis=1, keepdims=True), TINY)
    on = [
        k for k in np.flatnonzero(away < tolerance).tolist()
        if mass.depth_along(_vec(middles[k] + WITHIN * inward[k]), _vec(inward[k])) >= tolerance
    ]  # fmt: skip
    return mostly_on(faces[on], piece.areas[near][on]) if on else None


def _vec(v: Sequence[float]) -> Vec:
    return (float(v[0]), float(v[1]), float(v[2]))
