"""Simple solids of which fixtures are made, in the axes of the fixture: z away from its mount."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, hypot, pi, sin
from typing import Literal

from shapely.geometry import MultiPoint, Polygon

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.setups.frame import Frame

What = Literal["jaw", "bed", "parallel", "spacer", "chuck", "plate", "clamp", "screw", "carrier"]
Ring = tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Block:
    what: What
    box: Bounds

    def farthest(self, x: float, y: float) -> float:
        """From an axis along z, mm."""
        return max(hypot(a - x, b - y) for a in (self.box.min[0], self.box.max[0])
                   for b in (self.box.min[1], self.box.max[1]))  # fmt: skip


@dataclass(frozen=True)
class Rod:
    """A cylinder along z."""

    what: What
    x: float
    y: float
    radius: float
    low: float
    high: float

    @property
    def box(self) -> Bounds:
        return Bounds(
            (self.x - self.radius, self.y - self.radius, self.low),
            (self.x + self.radius, self.y + self.radius, self.high),
        )

    def farthest(self, x: float, y: float) -> float:
        return hypot(self.x - x, self.y - y) + self.radius


@dataclass(frozen=True)
class Prism:
    """What stands on a flat area, its outer ring first, between two levels."""

    what: What
    rings: tuple[Ring, ...]
    low: float
    high: float

    @property
    def box(self) -> Bounds:
        xs, ys = zip(*self.rings[0], strict=True)
        return Bounds((min(xs), min(ys), self.low), (max(xs), max(ys), self.high))

    def farthest(self, x: float, y: float) -> float:
        return max(hypot(a - x, b - y) for a, b in self.rings[0])


Obstacle = Block | Rod | Prism

ROUND = 24  # corners of a circle that is looked at from another side


def seen_along(one: Obstacle, own: Frame, frame: Frame) -> Prism:
    """What is in the axes `own`, in those of `frame`: what lies within the hull of its corners, from the lowest of them
    to the highest. A block on a quarter turn is itself; what is round or slanted is a little more.
    """
    corners = [frame.point(own.in_part(corner)) for corner in _corners(one)]
    hull = MultiPoint([corner[:2] for corner in corners]).convex_hull
    heights = [corner[2] for corner in corners]
    ring = tuple((float(x), float(y)) for x, y in hull.exterior.coords[:-1]) if isinstance(hull, Polygon) else ()
    return Prism(one.what, (ring,), min(heights), max(heights))


def _corners(one: Obstacle) -> list[tuple[float, float, float]]:
    if isinstance(one, Block):
        low, high = one.box.min, one.box.max
        return [(x, y, z) for x in (low[0], high[0]) for y in (low[1], high[1]) for z in (low[2], high[2])]
    if isinstance(one, Prism):
        return [(x, y, z) for x, y in one.rings[0] for z in (one.low, one.high)]
    wide = one.radius / cos(pi / ROUND)  # its chords are not to lie within the circle
    turns = [2 * pi * k / ROUND for k in range(ROUND)]
    return [(one.x + wide * cos(t), one.y + wide * sin(t), z) for t in turns for z in (one.low, one.high)]
