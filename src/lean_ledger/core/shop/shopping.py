"""What has to be there before a batch begins: tools that the shop lacks, and how many of each a batch wears out."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.cutting.wear import tool_uses
from lean_ledger.library.types import Library


@dataclass(frozen=True)
class Buy:
    """`needed` is how many tools each of the plan's quantities takes; a tool that is missing has no id and no price."""

    words: str
    id: str
    needed: tuple[int, ...]
    price: Decimal | None

    @property
    def is_missing(self) -> bool:
        return not self.id


def shopping_list(ledger: Ledger, library: Library) -> tuple[Buy, ...]:
    """What findings ask for first, each once; then the plan's own tools in the order of first use."""
    quantities = ledger.plan.quantities
    wanted = dict.fromkeys(f"{f.wanted} for {ledger.material.name}" for f in ledger.findings if f.wanted)
    missing = [Buy(words[0].upper() + words[1:], "", tuple(1 for _ in quantities), None) for words in wanted]
    uses = tool_uses(ledger.operations, library, ledger.material)
    own = [
        Buy(use.tool.description, use.tool.id, tuple(use.used_up(q) for q in quantities), use.tool.price)
        for use in uses
    ]  # fmt: skip
    return (*missing, *own)
