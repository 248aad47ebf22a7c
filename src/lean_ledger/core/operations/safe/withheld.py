"""What goes with an operation that cannot be made."""

from __future__ import annotations

from collections.abc import Sequence, Set
from dataclasses import replace

from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation

#: Without which nothing else of a chain makes sense: they open what the others work in.
OPENING = (
    OperationKind.DRILL, OperationKind.MILL_BORE, OperationKind.ROUGH_POCKET, OperationKind.ROUGH_OUTLINE,
    OperationKind.ROUGH_SURFACE,
)  # fmt: skip


def without(operations: Sequence[Operation], withheld: Set[str]) -> list[Operation]:
    """What remains; nobody waits for one that is gone. With what opens a feature goes all of its chain."""
    if not withheld:
        return list(operations)
    shut = {op.chain for op in operations if op.id in withheld and op.kind in OPENING}
    gone = {op.id for op in operations if op.id in withheld or op.chain in shut}
    return [
        replace(op, after=tuple((before, why) for before, why in op.after if before not in gone))
        for op in operations if op.id not in gone
    ]  # fmt: skip
