"""How a piece stays in one bar or plate with others while it is cut: where the next parts stand beside it.

All in the axes that the tool comes along: X along the jaws, Y across them. Lengths mm.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf
from typing import Literal

from lean_ledger.core.geometry.model import Bounds

Rectangle = tuple[float, float, float, float]  # (x least, y least, x greatest, y greatest)

BESIDE_NEXT = 0.2  # mm that a mill keeps off the allowance of the next part in one bar


@dataclass(frozen=True)
class InBlank:
    """`kerf`: what the saw takes between two pieces. In a bar the next ones stand along X; in a plate of several `rows`
    along Y as well. `way`: what is cut free around the part, where that is less than there is between two.
    """

    kerf: float
    rows: int = 1
    way: float = inf

    @property
    def plate(self) -> bool:
        return self.rows > 1

    @property
    def word(self) -> Literal["bar", "plate"]:
        return "plate" if self.plate else "bar"

    @property
    def axes(self) -> tuple[int, ...]:
        """Along which the next pieces stand."""
        return (0, 1) if self.plate else (0,)

    def gap(self, axis: int, part: Bounds, stock: Bounds) -> float:
        """From a part to the next: what both are over at that end, and the kerf. 60 in stock of 74 and 3 are 17."""
        return stock.size[axis] - part.size[axis] + self.kerf

    def narrowest(self, part: Bounds, stock: Bounds) -> float:
        """The least of the gaps: what goes round a part has to pass all of them."""
        return min(self.gap(axis, part, stock) for axis in self.axes)

    def over(self, part: Bounds, stock: Bounds) -> float:
        """The most stock at an end that another piece stands beyond."""
        return max(max(part.min[i] - stock.min[i], stock.max[i] - part.max[i]) for i in self.axes)

    def standing(self, part: Bounds, stock: Bounds) -> Rectangle:
        """Where stock stands beside a part: up to the next ones."""
        return self._beside(part, stock, [self.gap(axis, part, stock) for axis in self.axes])

    def around(self, part: Bounds, stock: Bounds) -> Rectangle:
        """What a mill takes around a part in steps: it goes along those of its ends that others stand beyond once."""
        return self._beside(part, stock, [0.0 for _ in self.axes])

    def limit(self, part: Bounds, stock: Bounds, allowance: float) -> Rectangle:
        """Within which a tool stays that comes out of the part: off the allowance of the next ones, and in what is cut
        free; where none stands, without end.
        """
        most = self.way + BESIDE_NEXT
        off = [min(self.gap(axis, part, stock) - allowance - 2 * BESIDE_NEXT, most) for axis in self.axes]
        free = Bounds((-inf, -inf, stock.min[2]), (inf, inf, stock.max[2]))
        x0, y0, x1, y1 = self._beside(part, free, off)
        return round(x0, 5), round(y0, 5), round(x1, 5), round(y1, 5)

    def _beside(self, part: Bounds, else_: Bounds, off: list[float]) -> Rectangle:
        low, high = [*else_.min[:2]], [*else_.max[:2]]
        for axis, by in zip(self.axes, off, strict=True):
            low[axis], high[axis] = part.min[axis] - by, part.max[axis] + by
        return low[0], low[1], high[0], high[1]
