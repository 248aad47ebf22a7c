"""Thin walls are finished after what would shake them: a wall that is high for its thickness springs under a cut, by
the cube of their ratio (a cantilever's deflection is F h³ / 3 E I with I = b t³ / 12).
"""

from __future__ import annotations

from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.safe.cleared import area_of, waits_for
from lean_ledger.core.operations.workplace import Workplace

SLENDER = 5.0  # height by thickness from which a wall counts as thin
LEAST = 0.05  # mm: what is thinner is no wall, the features open into one another
SHAKES = (OperationKind.ROUGH_POCKET, OperationKind.MILL_BORE, OperationKind.ROUGH_SURFACE)


def thin_walls_last(place: Workplace) -> None:
    """Let the finishing of a wall wait for roughing behind it, where the wall between is thin."""
    roughs = [op for op in place.operations if op.kind in SHAKES]
    cleared = {op.id: _Cleared(op) for op in place.operations if op.kind in (*SHAKES, OperationKind.FINISH_WALL)}
    for op in [op for op in place.operations if op.kind == OperationKind.FINISH_WALL]:
        for rough in roughs:
            if set(rough.features) & set(op.features) or not cleared[op.id].near(cleared[rough.id]):
                continue
            found = wall_between(op, rough)
            thin = found is not None and found[1] >= SLENDER * found[0]
            if found is not None and thin and not waits_for(rough, op.id, place.operations):
                words = f"the wall between, {found[0]:.1f} thick and {found[1]:.1f} high, would shake"
                place.require(op, rough.id, words)


class _Cleared:
    """Levels between which an operation clears, and the box around all that it goes over."""

    def __init__(self, op: Operation) -> None:
        self.bottom, self.top, self.allowance = _lowest(op), _top(op), max(op.cutting.allowance, 0.0)
        points = [p for s in op.motion.strokes if not s.is_rapid for p in s.points]
        (x0, x1), (y0, y1) = ((min(p[i] for p in points), max(p[i] for p in points)) for i in (0, 1))
        radius = op.tool.diameter / 2
        self.box = (x0 - radius, y0 - radius, x1 + radius, y1 + radius)

    def near(self, rough: _Cleared) -> bool:
        """Whether a wall between this and what is roughed behind it can be thin."""
        height = min(self.top, rough.top) - max(self.bottom, rough.bottom)
        most = height / SLENDER + rough.allowance
        a, b = self.box, rough.box
        return height > LEAST and all(max(a[i], b[i]) - min(a[i + 2], b[i + 2]) <= most for i in (0, 1))


def wall_between(finish: Operation, rough: Operation) -> tuple[float, float] | None:
    """Thickness and height of the wall between what is finished and what is roughed; None where there is none.

    Two pockets 12 and 20 deep from one face, 2.5 apart as roughed with 0.5 on: 2.0 thick once both are finished, 12
    high.
    """
    bottom, top = max(_lowest(finish), _lowest(rough)), min(_top(finish), _top(rough))
    height = top - bottom
    if height <= LEAST:
        return None
    apart = area_of(finish, bottom).distance(area_of(rough, bottom)) - max(rough.cutting.allowance, 0.0)
    return (apart, height) if apart > LEAST else None


def _lowest(op: Operation) -> float:
    return min(p[2] for s in op.motion.strokes if not s.is_rapid for p in s.points)


def _top(op: Operation) -> float:
    return _lowest(op) + op.depth
