"""What comes before what in a load's cycle."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from lean_ledger.core.loads.layout import Layout, Placed
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation

IN_COUNTER = "the counter spindle has to be empty to take the next piece over"
ON_BAR = "before it is cut off nothing behind it can be come to"
At = tuple[Placed, Operation]


def precedences(where: Layout, steps: Sequence[At]) -> dict[tuple[int, int], str]:
    """Pairs of indexes with the reason why the first comes before the second: on each piece its own; on a bar all of a
    piece before the next; of a piece in a counter spindle all before the next is cut off into it.
    """
    at = {(placed.place.id, op.id): k for k, (placed, op) in enumerate(steps)}
    found = {}
    for k, (placed, op) in enumerate(steps):
        for before, reason in op.after:
            for piece in where.made_with(placed.place.id, op.id):
                first = at.get((where.made_with(piece, before)[0], before))
                if first is not None:
                    found[first, k] = reason
    if where.load.arrangement.on_bar > 1:
        by_piece: dict[str, list[int]] = {}
        for k, (placed, _) in enumerate(steps):
            by_piece.setdefault(placed.place.id, []).append(k)
        pieces = list(by_piece.values())
        for own, following in pairwise(pieces):
            found.update({(a, b): ON_BAR for a in own for b in following})
    if where.handed_over:
        blades = [k for k, (_, op) in enumerate(steps) if op.kind == OperationKind.CUT_OFF]
        found.update({(k, blade): IN_COUNTER for blade in blades for k, (placed, _) in enumerate(steps)
                      if placed.stands.nose is not None})  # fmt: skip
    return found
