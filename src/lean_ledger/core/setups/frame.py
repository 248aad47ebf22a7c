"""A setup's own axes: x along the jaws to the right, y away from whoever stands in front, z up."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec, add, dot, neg, scale
from lean_ledger.core.geometry.views import RIGHT, back_of
from lean_ledger.core.plan import DIRECTIONS

Point = tuple[float, float]

_QUARTERS = {0: (1, 0), 90: (0, 1), 180: (-1, 0), 270: (0, -1)}


@dataclass(frozen=True)
class Frame:
    """Part coordinates turned into a setup; the origin stays the part's, the zero is a shift on top."""

    right: Vec
    back: Vec
    up: Vec

    def point(self, p: Vec) -> Vec:
        (x, y, z), (a, b, c), (d, e, f), (g, h, i) = p, self.right, self.back, self.up
        return (x * a + y * b + z * c, x * d + y * e + z * f, x * g + y * h + z * i)  # much used: no call for each

    def in_part(self, p: Vec) -> Vec:
        """A point in these axes as the part counts it."""
        x, y, z = scale(self.right, p[0]), scale(self.back, p[1]), scale(self.up, p[2])
        total = add(add(x, y), z)
        return (round(total[0], 9) + 0.0, round(total[1], 9) + 0.0, round(total[2], 9) + 0.0)

    def flat(self, ring: Iterable[Vec]) -> tuple[Point, ...]:
        return tuple((round(dot(p, self.right), 5), round(dot(p, self.back), 5)) for p in ring)

    def box(self, bounds: Bounds) -> Bounds:
        corners = [self.point((x, y, z)) for x in (bounds.min[0], bounds.max[0])
                   for y in (bounds.min[1], bounds.max[1]) for z in (bounds.min[2], bounds.max[2])]  # fmt: skip
        low = tuple(min(c[i] for c in corners) for i in range(3))
        high = tuple(max(c[i] for c in corners) for i in range(3))
        return Bounds(low, high)  # type: ignore[arg-type]


def frame_of(up: str, turn: int) -> Frame:
    """The frame with a side of the part up, turned about it by quarter turns, counter-clockwise seen from above."""
    z = DIRECTIONS[up]
    x = RIGHT[z]
    y = back_of(z, x)
    c, s = _QUARTERS[turn]
    right = add(scale(x, c), scale(y, s))
    back = add(scale(x, -s), scale(y, c))
    return Frame(_clean(right), _clean(back), z)


def default_turn(up: str, bounds: Bounds) -> int:
    """The longer side along the jaws, so that the vise closes over the shorter one."""
    size = frame_of(up, 0).box(bounds).size
    return 0 if size[0] >= size[1] - 1e-6 else 90


def _clean(v: Vec) -> Vec:
    return add(v, neg((0.0, 0.0, 0.0)))
