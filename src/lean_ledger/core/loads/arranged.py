"""Where the pieces of a load stand: a grid, rows at stations, sides of a rotary. Lengths mm, angles degrees.

Each piece is a block in a setup's axes; its zero and the tools' sweep go with it. A mount stands in the
machine and may be turned about Z; on a rotary about x all is told as it stands at the side's angle.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from itertools import product
from math import cos, floor, hypot, radians, sin

from lean_ledger.core.geometry.model import Bounds, Vec
from lean_ledger.core.plan import Walk
from lean_ledger.library.machines import Machine

NEGLIGIBLE = 0.0005  # mm past a limit that is not past it
MOST_PIECES = 20_000  # of a load that are computed with


@dataclass(frozen=True)
class Piece:
    """A block as it stands in its setup, all counted from its least corner; `radius` of the largest cutter that passes
    between neighbours.
    """

    size: Vec
    zero: Vec
    sweep: Bounds
    radius: float

    def turned(self, degrees: int) -> Piece:
        """Counter-clockwise, seen from above, and counted from the least corner of the turned block.

        60 × 40 with its zero at 10, 5 is 40 × 60 with 35, 10 after a quarter.
        """
        turn = _QUARTERS[degrees % 360]
        x, y, z = self.size
        ends = [turn(x, y, *p[:2]) for p in (self.sweep.min, self.sweep.max)]
        low, high = ([pick(e[i] for e in ends) for i in range(2)] for pick in (min, max))
        size = (y, x, z) if degrees % 180 else (x, y, z)
        return Piece(
            size, (*turn(x, y, *self.zero[:2]), self.zero[2]),
            Bounds((low[0], low[1], self.sweep.min[2]), (high[0], high[1], self.sweep.max[2])), self.radius,
        )  # fmt: skip

    def least_gap(self, clearance: float) -> float:
        """Between two of them: the cutter passes with the clearance on either side."""
        return 2 * self.radius + 2 * clearance


_QUARTERS: dict[int, Callable[[float, float, float, float], tuple[float, float]]] = {
    0: lambda w, h, x, y: (x, y),
    90: lambda w, h, x, y: (h - y, x),
    180: lambda w, h, x, y: (w - x, h - y),
    270: lambda w, h, x, y: (y, w - x),
}


@dataclass(frozen=True)
class MountAxes:
    """A mount's place in the machine, and its turn about Z."""

    at: Vec
    turn: float = 0.0

    @cached_property
    def _cos_sin(self) -> tuple[float, float]:
        quarter = self.turn / 90
        if abs(quarter - round(quarter)) < 1e-9:  # exact, so that what lies on the axes stays on them
            return ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[round(quarter) % 4]
        return cos(radians(self.turn)), sin(radians(self.turn))

    @property
    def is_square(self) -> bool:
        """Whether its axes lie along the machine's."""
        return 0.0 in self._cos_sin

    def point(self, p: Vec) -> Vec:
        """In the machine's coordinates."""
        c, s = self._cos_sin
        return (self.at[0] + c * p[0] - s * p[1], self.at[1] + s * p[0] + c * p[1], self.at[2] + p[2])

    def box(self, box: Bounds) -> Bounds:
        """The box along the machine's axes around a box along the mount's."""
        (x, u), (y, v), (z, w) = zip(box.min, box.max, strict=True)
        corners = [self.point(p) for p in product((x, u), (y, v), (z, w))]
        low, high = (tuple(pick(c[i] for c in corners) for i in range(3)) for pick in (min, max))
        return Bounds(low, high)  # type: ignore[arg-type]


@dataclass(frozen=True)
class Spot:
    """Where a piece stands: the least corner of its (turned) block in its mount's axes, and the angle of its side."""

    group: str
    mount: MountAxes
    piece: Piece
    corner: Vec
    angle: float | None = None

    @property
    def at(self) -> Vec:
        """The block's least corner in the machine; of the mount's axes where these lie across."""
        if not self.mount.is_square:
            return self.mount.point(self.corner)
        return self.mount.box(_shifted(Bounds((0.0, 0.0, 0.0), self.piece.size), self.corner)).min

    @property
    def zero(self) -> Vec:
        return self.mount.point(_sum(self.corner, self.piece.zero))

    @property
    def sweep(self) -> Bounds:
        """Of the tools' tips, in the machine's coordinates."""
        return self.mount.box(_shifted(self.piece.sweep, self.corner))


@dataclass(frozen=True)
class Row:
    """Pieces in rows and columns on one mount. `at`: the first one's least corner in the mount's axes."""

    mount: MountAxes
    piece: Piece  # as it is turned
    at: Vec
    columns: int
    rows: int
    gap: tuple[float, float]

    @property
    def pitch(self) -> tuple[float, float]:
        return self.piece.size[0] + self.gap[0], self.piece.size[1] + self.gap[1]

    @property
    def extent(self) -> Vec:
        """Of all blocks, in the mount's axes: 3 of 60 with gaps of 14 are 208."""
        x, y, z = self.piece.size
        return (x + (self.columns - 1) * self.pitch[0], y + (self.rows - 1) * self.pitch[1], z)

    def spot(self, column: int, row: int, group: str, angle: float | None = None) -> Spot:
        corner = (self.at[0] + column * self.pitch[0], self.at[1] + row * self.pitch[1], self.at[2])
        return Spot(group, self.mount, self.piece, corner, angle)


def walked(columns: int, rows: int, walk: Walk) -> list[tuple[int, int]]:
    """(column, row) in the order of a walk: row after row, column after column, or rows there and back."""
    if walk == "columns":
        return [(c, r) for c in range(columns) for r in range(rows)]
    return [
        (columns - 1 - c if walk == "snake" and r % 2 else c, r) for r in range(rows) for c in range(columns)
    ]  # fmt: skip


def past_travel(spot: Spot, machine: Machine) -> list[tuple[str, float]]:
    """(axis, mm) by which the tools' sweep over a piece goes past the travel, the worse end of each axis."""
    box = spot.sweep
    found = []
    for i, axis in enumerate("xyz"):
        low, high = machine.travel[i]
        by = max(low - box.min[i], box.max[i] - high)
        if by >= NEGLIGIBLE:
            found.append((axis, by))
    return found


def most_in_travel(row: Row, machine: Machine, *, one_row: bool = False) -> int:
    """The greatest columns × rows with the same first place and gaps whose sweeps all stay in the travel; as many as
    fit in `one_row`. A rectangle of places fits where the four at its corners do.
    """

    def fits(columns: int, rows: int) -> bool:
        corners = {(c, r) for c in (0, columns - 1) for r in (0, rows - 1)}
        return all(not past_travel(row.spot(c, r, ""), machine) for c, r in corners)

    def most(fit: Callable[[int], bool]) -> int:
        low, high = 0, 1
        while high <= MOST_PIECES and fit(high):
            low, high = high, 2 * high
        while high - low > 1:
            middle = (low + high) // 2
            low, high = (middle, high) if fit(middle) else (low, middle)
        return low

    columns = most(lambda n: fits(n, 1))
    if one_row or columns == 0:
        return columns
    rows = most(lambda n: fits(1, n))
    if fits(columns, rows):
        return columns * rows
    # a mount across the axes: more columns leave room for fewer rows
    return max(c * most(lambda n, c=c: fits(c, n)) for c in range(1, columns + 1))  # type: ignore[misc]


def swing(piece: Piece, seat: float) -> float:
    """The farthest corner of a block on a seat above a rotary's axis, centred across it: 60 wide and 30 high on 70
    passes √(30² + 100²) = 104.40 from the axis.
    """
    return max(hypot(piece.size[1] / 2, z) for z in (seat, seat + piece.size[2]))


@dataclass(frozen=True)
class Bar:
    """Pieces from a bar, several on each advance; the cut-off of one faces the next. Lengths mm."""

    length: float
    cut_off: float
    front: float  # that the first of an advance is faced by
    back: float  # left on each behind, for the other side
    per_advance: int
    bar: float
    remnant: float  # that the bar feed cannot use
    grip: float | None = None  # of the front end in a second spindle

    @property
    def each(self) -> float:
        """A piece with what lies behind it: 6.2 + 0.2 + 2 = 8.4."""
        return self.length + self.back + self.cut_off

    @property
    def advance(self) -> float:
        """5 · 8.4 + 0.3 = 42.3."""
        return self.per_advance * self.each + self.front

    @property
    def share(self) -> Decimal:
        """A piece's of the bar: 42.3 / 5 = 8.46."""
        return Decimal(str(round(self.advance, 6))) / self.per_advance

    @property
    def pieces(self) -> int:
        """Of a bar: ⌊(1000 − 120) / 42.3⌋ · 5 = 100. What is a millionth short of an advance is one."""
        return floor(round((self.bar - self.remnant) / self.advance, 9)) * self.per_advance

    def bars(self, pieces: int) -> int:
        """That so many pieces take, the last one begun counted whole: 120 of 100 a bar take 2."""
        return -(-pieces // self.pieces) if self.pieces else 0

    @property
    def reach(self) -> float:
        """Z of the end of the last cut-off, from the first piece's finished front."""
        return -self.per_advance * self.each

    @property
    def fronts(self) -> tuple[float, ...]:
        return tuple(-k * self.each for k in range(self.per_advance))

    @property
    def free(self) -> float | None:
        """How much of a piece stands out of a second spindle."""
        return None if self.grip is None else self.length + self.back - self.grip


def _sum(a: Vec, b: Vec) -> Vec:
    return (a[0] + b[0], a[1] + b[1], a[2] + b[2])


def _shifted(box: Bounds, by: Vec) -> Bounds:
    return Bounds(_sum(box.min, by), _sum(box.max, by))
