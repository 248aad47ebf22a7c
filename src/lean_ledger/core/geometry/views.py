"""Which way is up and to the right in a setup and in its drawings."""

from __future__ import annotations

from lean_ledger.core.geometry.vectors import SIX, Vec, add, cross, neg, unit

#: Direction to the right for each direction to the eye, before any turn about it.
RIGHT: dict[Vec, Vec] = {
    (0.0, 0.0, 1.0): (1.0, 0.0, 0.0),
    (0.0, 0.0, -1.0): (1.0, 0.0, 0.0),
    (0.0, 1.0, 0.0): (-1.0, 0.0, 0.0),
    (0.0, -1.0, 0.0): (1.0, 0.0, 0.0),
    (1.0, 0.0, 0.0): (0.0, 1.0, 0.0),
    (-1.0, 0.0, 0.0): (0.0, -1.0, 0.0),
}


def back_of(up: Vec, right: Vec) -> Vec:
    """Away from whoever stands in front: completes right and up to a right-handed frame."""
    return cross(up, right)


def axis_views() -> tuple[tuple[Vec, Vec], ...]:
    return tuple((view, RIGHT[view]) for view in SIX)


def isometric_views() -> tuple[tuple[Vec, Vec], ...]:
    """For each side up: the eye in front, to the right and above, at equal angles to the three edges."""
    views = []
    for up in SIX:
        right = RIGHT[up]
        back = back_of(up, right)
        eye = unit(add(add(right, neg(back)), up))
        views.append((eye, unit(add(right, back))))
    return tuple(views)
