"""How long tools last: by the speed and feed that they run at, over a piece and over a batch."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from math import ceil

from lean_ledger.core.operations.model import Operation
from lean_ledger.library.types import Library, Material, Tool

WORN = 1e-9


@dataclass(frozen=True)
class ToolUse:
    """What a piece takes of a tool: `minutes` in cut and the `share` of its life; `life` is minutes in cut, in this
    use. `operations` are their ids.
    """

    tool: Tool
    operations: tuple[str, ...]
    minutes: float
    share: float

    @property
    def life(self) -> float:
        return self.minutes / self.share if self.share > WORN else 0.0

    @property
    def pieces(self) -> float:
        """That one tool makes."""
        return 1 / self.share if self.share > WORN else float("inf")

    @property
    def cost(self) -> float:
        """A piece."""
        return self.share * float(self.tool.price)

    def used_up(self, quantity: int) -> int:
        """Tools that a batch takes, the first one counted.

        With 0.013 of a life a piece, 100 pieces take 2: one change.
        """
        return max(1, ceil(round(quantity * self.share, 9)))

    def changes(self, quantity: int) -> int:
        return self.used_up(quantity) - 1


def life_minutes(op: Operation, library: Library, material: Material) -> float | None:
    """Minutes in cut that the tool of an operation lasts as it is used; None without data."""
    data = library.data(op.tool, material)
    return data.life_at(op.cutting.speed, op.cutting.feed) if data is not None else None


def tool_uses(operations: Iterable[Operation], library: Library, material: Material) -> tuple[ToolUse, ...]:
    """In the order of first use."""
    found: dict[str, ToolUse] = {}
    for op in operations:
        minutes = 0.0 if op.motion.probes else op.cut_each / 60
        life = life_minutes(op, library, material)
        before = found.get(op.tool.id, ToolUse(op.tool, (), 0.0, 0.0))
        found[op.tool.id] = ToolUse(
            op.tool,
            (*before.operations, op.id),
            before.minutes + minutes,
            before.share + (minutes / life if life else 0.0),
        )
    return tuple(found.values())
