"""Stock with plain sides, followed through the setups: what each side still carries over the part."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from math import pi, sqrt

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec, dot
from lean_ledger.core.plan import DIRECTIONS, Allowances


class Section(StrEnum):
    BLOCK = "block"
    ROUND = "round"
    NEAR_NET = "near-net"  # a model of its own, which the part carries
    HEX = "hex"  # with flats square to one of the two other axes: that which its box is smaller along


@dataclass(frozen=True)
class WallsCut:
    """The outline is finished between two levels along X, Y or Z of the part (`axis` points the positive way)."""

    axis: Vec
    low: float
    high: float


@dataclass(frozen=True)
class StockState:
    """The stock in part coordinates: allowances left per side, and the stretch over which the outline is cut.

    A bar's section is `section`, with its length `along` X, Y or Z; `bounds` is the box around it.
    """

    part: Bounds
    over: Mapping[str, float]
    walls: WallsCut | None = None
    section: Section = Section.BLOCK
    along: Vec = (0.0, 0.0, 1.0)
    model_volume: float = 0.0  # mm³ of near-net stock
    turned: tuple[tuple[float, float], ...] = ()  # half-section after a lathe, as (along the part's axis, radius)
    round_over: tuple[tuple[str, float], ...] = ()  # mm by which turned walls stand over a side, until its flat is cut

    def __hash__(self) -> int:
        over = tuple(sorted(self.over.items()))
        own = (self.section, self.along, self.model_volume, self.turned, self.round_over)
        return hash((self.part, over, self.walls, own))

    @property
    def bounds(self) -> Bounds:
        return self._grown(self.over)

    @property
    def volume(self) -> float:
        """As bought, mm³: a round's is π/4 D² L, a hexagon's √3/2 F² L with F across its flats."""
        if self.section == Section.NEAR_NET:
            return self.model_volume
        x, y, z = self.bounds.size
        share = {Section.BLOCK: 1.0, Section.ROUND: pi / 4, Section.HEX: 0.75}[self.section]
        # a hexagon fills three quarters of its box: F high and 2 F / √3 wide
        return x * y * z * share

    @property
    def section_and_length(self) -> tuple[float, float]:
        """mm² across and mm along: of a block across its longest side."""
        length = self.bounds.size[self.length_axis]
        return self.volume / length, length

    @property
    def length_axis(self) -> int:
        """Index of the part's axis that a bar lies along; of a block's longest side."""
        size = self.bounds.size
        of_bar = self.section in (Section.ROUND, Section.HEX)
        return max(range(3), key=lambda k: abs(self.along[k]) if of_bar else size[k])

    @property
    def is_whole(self) -> bool:
        """Whether the outline is cut over the part's whole height."""
        if self.walls is None:
            return False
        i = max(range(3), key=lambda k: abs(self.walls.axis[k]))  # type: ignore[union-attr]
        return self.walls.low <= self.part.min[i] + 1e-6 and self.walls.high >= self.part.max[i] - 1e-6

    def over_side(self, side: str) -> float:
        """Stock that still stands on a side: none where the outline is cut over the whole height."""
        if self.walls is not None and self.is_whole and abs(dot(DIRECTIONS[side], self.walls.axis)) < 0.5:
            return dict(self.round_over).get(side, 0.0)
        return self.over[side]

    def boxes(self) -> tuple[Bounds, ...]:
        """What lies there, as boxes: one block, or a finished stretch and the rough rests beyond it."""
        if self.walls is None:
            return (self.bounds,)
        i = max(range(3), key=lambda k: abs(self.walls.axis[k]))  # type: ignore[union-attr]
        whole = self.bounds
        standing = dict(self.round_over)
        beside = {side: (over if abs(DIRECTIONS[side][i]) > 0.5 else standing.get(side, 0.0))
                  for side, over in self.over.items()}  # fmt: skip
        finished = self._grown(beside)
        low, high = self.walls.low, self.walls.high
        found = []
        for box, a, b in (
            (whole, whole.min[i], min(low, whole.max[i])),
            (finished, max(low, whole.min[i]), min(high, whole.max[i])),
            (whole, max(high, whole.min[i]), whole.max[i]),
        ):
            if b - a > 1e-6:
                found.append(_sliced(box, i, a, b))
        return tuple(found)

    def faced(self, side: str) -> StockState:
        """After that side was cut down to the part."""
        return replace(self, over={**self.over, side: 0.0}).flattened(side)

    def flattened(self, *sides: str) -> StockState:
        """After the flats on some sides of a turned part are cut."""
        return replace(self, round_over=tuple((side, by) for side, by in self.round_over if side not in sides))

    def outlined(self, axis: Vec, low: float, high: float) -> StockState:
        """After the outline was finished between two levels; adjoining stretches become one."""
        if self.walls is not None and dot(self.walls.axis, axis) > 0.5:
            low, high = min(low, self.walls.low), max(high, self.walls.high)
        return replace(self, walls=WallsCut(axis, low, high))

    def _grown(self, over: Mapping[str, float]) -> Bounds:
        low, high = self.part.min, self.part.max
        return Bounds(
            (low[0] - over["X-"], low[1] - over["Y-"], low[2] - over["Z-"]),
            (high[0] + over["X+"], high[1] + over["Y+"], high[2] + over["Z+"]),
        )


def _sliced(box: Bounds, i: int, low: float, high: float) -> Bounds:
    a, b = list(box.min), list(box.max)
    a[i], b[i] = low, high
    return Bounds(tuple(a), tuple(b))  # type: ignore[arg-type]


def first_stock(
    part: Bounds, allowances: Allowances, section: Section = Section.BLOCK, along: Vec = (0.0, 0.0, 1.0)
) -> StockState:
    return StockState(part, {side: allowances.on(side) for side in DIRECTIONS}, section=section, along=along)


def hexagon_width(across_flats: float) -> float:
    """Across its corners: 2 F / √3, 30 across flats are 34.641 across corners."""
    return 2 * across_flats / sqrt(3)
