"""Where tools come out below the stock."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.holding import Hold
from lean_ledger.core.holding.hold import Through
from lean_ledger.core.operations.model import Operation

BELOW = 0.02  # mm


def through(operations: Sequence[Operation], hold: Hold) -> list[Through]:
    """Boxes of what goes below the stock's underside, tools at their full width; from the hold's own side only. Where
    it lies in a pocket that is cut free, of holes only.
    """
    found: list[Through] = []
    for op in operations:
        if op.frame != hold.frame or op.motion.turns or op.motion.probes:
            continue
        if op.motion.lowest >= hold.floor - BELOW:
            continue
        wide = op.tool.diameter / 2
        cuts = [s.points for s in op.motion.strokes if not s.is_rapid]
        below = [way for way in cuts if min(p[2] for p in way) < hold.floor - BELOW]
        points = {(round(x, 3), round(y, 3)) for way in below for x, y, _ in way}
        if op.motion.cycle is not None:
            found += [(x - wide, y - wide, x + wide, y + wide) for x, y in points]
        elif points and not hold.drilled_free:
            xs, ys = zip(*points, strict=True)
            found.append((min(xs) - wide, min(ys) - wide, max(xs) + wide, max(ys) + wide))
    return found
