"""How a part that lies askew in its file is turned along X, Y and Z."""

from __future__ import annotations

from lean_ledger.core.geometry.model import Solid, Surface
from lean_ledger.core.geometry.vectors import Vec, X, Y, Z, cross, dot, neg, norm, scale, sub, unit

STRAIGHT = 1e-4  # rad within which a direction counts as an axis
SAME = 1e-3
ENOUGH = 0.25  # share of the flat area that lies square to the axes in a part that is not askew


def upright_turn(solid: Solid) -> tuple[Vec, Vec, Vec] | None:
    """Rows of the rotation that brings the largest faces square to the axes; None where enough of them are.

    The direction that most flat area looks along becomes one axis, the largest one square to it another. Each goes to
    the axis that it is nearest to, so that a part is turned no further than it has to be.
    """
    areas = _areas(solid)
    straight = sum(area for d, area in areas if max(abs(c) for c in d) > 1 - STRAIGHT**2)
    if not areas or straight >= ENOUGH * sum(area for _, area in areas):
        return None
    first = max(areas, key=lambda pair: pair[1])[0]
    across = [(d, a) for d, a in areas if abs(dot(d, first)) < SAME]
    if across:
        second = max(across, key=lambda pair: pair[1])[0]
    else:
        nearest = min((X, Y, Z), key=lambda axis: abs(dot(axis, first)))
        second = sub(nearest, scale(first, dot(nearest, first)))
    second = unit(sub(second, scale(first, dot(second, first))))
    return _nearest_frame(first, second)


def _areas(solid: Solid) -> list[tuple[Vec, float]]:
    found: list[tuple[Vec, float]] = []
    for face in solid.faces:
        if face.surface != Surface.PLANE:
            continue
        for i, (direction, area) in enumerate(found):
            if norm(cross(direction, face.axis)) < SAME:
                found[i] = (direction, area + face.area)
                break
        else:
            found.append((face.axis, face.area))
    return found


def _nearest_frame(first: Vec, second: Vec) -> tuple[Vec, Vec, Vec]:
    third = cross(first, second)
    waiting = [first, second, third]
    rows: list[Vec] = []
    for axis in (X, Y):
        best = max(waiting, key=lambda d: abs(dot(d, axis)))
        waiting.remove(best)
        rows.append(best if dot(best, axis) >= 0 else neg(best))
    return rows[0], rows[1], cross(rows[0], rows[1])
