"""One way round all pieces of a bar or plate in place of one round each: straight along all of their fronts and backs,
then along all of their ends, between two neighbours at most twice.

It comes down beside the stock, so that no ramp is needed in a plate. Where the outline is no rectangle, or goes inward
in steps, it stays with each piece. Lengths mm.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from shapely.geometry import Polygon

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.loads.joined import part_and_stock, step_along
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.from_above import outline_ring
from lean_ledger.core.operations.milling.paths import APPROACH, RUN_OFF, Walk
from lean_ledger.core.operations.milling.regions import farthest_stock
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.plan import Arrangement

CORNER = 0.5  # mm that a part's corner may lie inside its rectangle: what the finishing pass takes with it
CUT_OFF = 2.0  # mm² of its rectangle that a part's outline may leave: four corners that are so round
SAME = 1e-3
ONE_WAY = 0.01  # mm by which two ways may differ that are one


def goes_round(op: Operation, how: Arrangement) -> bool:
    """Whether an operation is one that could go round all pieces of a bar."""
    return op.kind == OperationKind.ROUGH_OUTLINE and how.joined > 1


def why_not_round_all(built: BuiltSetup, op: Operation) -> str:
    """Empty where it could go round all pieces at once."""
    part, _ = part_and_stock(built)
    sides = (part.min[0], part.min[1], part.max[0], part.max[1])
    ring = outline_ring(built.hold.held.part, built.home.frame)
    if farthest_stock(ring, sides) > CORNER or part.size[0] * part.size[1] - Polygon(ring).area > CUT_OFF:
        return "the outline is no rectangle"
    off = _off(op)
    for a, b in _flat(op.motion):
        along_x = abs(a[1] - b[1]) < SAME and abs(a[0] - b[0]) > 1
        if along_x and max(sides[1] - a[1], a[1] - sides[3]) > off + SAME:
            return "it goes inward in steps"
    return ""


def round_all(built: BuiltSetup, op: Operation, how: Arrangement) -> Motion:
    """From the front to the back, then from the left to the right, each wall on the tool's right: it climbs.

    Of two parts of 60 × 40 that stand 77 apart, by a mill Ø16 that leaves 0.2, it goes along X at y = −8.2 and 48.2 and
    along Y at x = −8.2, 68.2, 68.8 and 145.2.
    """
    grid, walk = _Grid.of(built, op, how), Walk(_clearance(op))
    above = max(p[2] for s in op.motion.strokes if not s.is_rapid for p in s.points)
    for z in sorted({a[2] for a, _ in _flat(op.motion)}, reverse=True):
        grid.along_x(walk, z)
        grid.along_y(walk, z, above)
    return walk.leave()


@dataclass(frozen=True)
class _Grid:
    """Where the tool goes: `xs` along Y and `ys` along X, the first of them and each second one on a part's near side;
    feeds of both, mm/min.
    """

    xs: tuple[float, ...]
    ys: tuple[float, ...]
    ends: tuple[float, float]  # X beside the stock
    feeds: tuple[float, float]
    diameter: float

    @classmethod
    def of(cls, built: BuiltSetup, op: Operation, how: Arrangement) -> _Grid:
        part, stock = part_and_stock(built)
        off, run = _off(op), op.tool.diameter / 2 + RUN_OFF
        counts = (how.joined, how.joined_rows)
        xs, ys = (
            tuple(round(at + k * step_along(built, axis), 5) for k in range(counts[axis])
                  for at in (part.min[axis] - off, part.max[axis] + off))
            for axis in (0, 1)
        )  # fmt: skip
        far = stock.max[0] + (how.joined - 1) * step_along(built)
        feeds = (_feed_beside(op, part, 0), _feed_beside(op, part, 1))
        return cls(xs, ys, (stock.min[0] - run, far + run), feeds, op.tool.diameter)

    def along_x(self, walk: Walk, z: float) -> None:
        """Fronts from the right to the left, backs from the left to the right: one begins where the other ends."""
        left, right = self.ends
        for k, y in enumerate(self.ys):
            if k and abs(y - self.ys[k - 1]) < ONE_WAY:
                continue
            to, fro = (left, right) if k % 2 == 0 else (right, left)
            if k == 0 or walk.at is None or abs(walk.at[0] - fro) > SAME:
                walk.over(fro, y)
                walk.down(z)
            else:
                walk.across(fro, y)
            walk.cut(self.feeds[1], [(to, y, z)])

    def along_y(self, walk: Walk, z: float, above: float) -> None:
        """From the first front to the last back, in what was cut along those, and back at the other end."""
        front, back = self.ys[0], self.ys[-1]
        for k, x in enumerate(self.xs):
            if k and abs(x - self.xs[k - 1]) < ONE_WAY:
                continue
            fro, to = (front, back) if k % 2 == 0 else (back, front)
            beside = k and x - self.xs[k - 1] < self.diameter and walk.at is not None and walk.at[1] == fro
            if beside:
                walk.cut(self.feeds[0], [(x, fro, z)])
            else:
                walk.over(x, fro)
                walk.down(above + APPROACH)
                walk.cut(self.feeds[0], [(x, fro, z)])
            walk.cut(self.feeds[0], [(x, to, z)])


def _feed_beside(op: Operation, part: Bounds, axis: int) -> float:
    """The least feed at which the piece's own way goes along the part's sides that look along an axis."""
    off, own = _off(op), op.cutting.vf
    sides = (part.min[axis] - off, part.max[axis] + off)
    found = [
        s.feed_mm_per_min for s in op.motion.strokes if not s.is_rapid for a, b in pairwise(s.points)
        if a[2] == b[2] and any(abs(a[axis] - side) + abs(b[axis] - side) < SAME for side in sides)
    ]  # fmt: skip
    return min(found, default=own)


def _flat(motion: Motion) -> Iterator[tuple[Vec, Vec]]:
    """Cutting moves that stay at their level."""
    for stroke in motion.strokes:
        if not stroke.is_rapid:
            yield from ((a, b) for a, b in pairwise(stroke.points) if a[2] == b[2] and a != b)


def _off(op: Operation) -> float:
    """How far off the part the tool's centre goes."""
    return op.tool.diameter / 2 + op.cutting.allowance


def _clearance(op: Operation) -> float:
    return max(p[2] for s in op.motion.strokes for p in s.points)
