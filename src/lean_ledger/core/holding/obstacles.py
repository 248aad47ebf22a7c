"""Simple solids of which fixtures are made, in the axes of the fixture: z away from its mount."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot
from typing import Literal

from lean_ledger.core.geometry.model import Bounds

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
