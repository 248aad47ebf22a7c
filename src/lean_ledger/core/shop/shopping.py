"""What has to be there before a batch begins: material, tools that the shop lacks, how many a batch wears out."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.cutting.wear import tool_uses
from lean_ledger.core.pricing.of_plan import whole_blank
from lean_ledger.core.pricing.price import bars_of, cents
from lean_ledger.core.stock.block import Section
from lean_ledger.library.types import Library

MATERIAL = "material"


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
    """What findings ask for first, each once; then material, and the plan's own tools in the order of first use."""
    quantities = ledger.plan.quantities
    wanted = dict.fromkeys(f"{f.wanted} for {ledger.material.name}" for f in ledger.findings if f.wanted)
    missing = [Buy(words[0].upper() + words[1:], "", tuple(1 for _ in quantities), None) for words in wanted]
    uses = tool_uses(ledger.operations, library, ledger.material)
    own = [
        Buy(use.tool.description, use.tool.id, tuple(use.used_up(q) for q in quantities), use.tool.price)
        for use in uses
    ]  # fmt: skip
    return (*missing, material_to_buy(ledger), *own)


def material_to_buy(ledger: Ledger) -> Buy:
    """Whole bars, or a blank for each piece that is begun, or for those that stay in one, as the price counts them."""
    m, stock = ledger.problem.material, ledger.stock
    bars = m.kind == "bar"
    needed = tuple(bars_of(m, one.started) if bars else -(-one.started // m.sawn_apart) for one in ledger.prices)
    size = sorted(whole_blank(stock, ledger.loads[0]))
    along = max(range(3), key=lambda k: abs(stock.along[k]))
    across = [stock.bounds.size[k] for k in range(3) if k != along]
    section = {
        Section.ROUND: f"Ø{across[0]:g}",
        Section.HEX: f"hexagon {min(across):g}",
        Section.BLOCK: f"{size[1]:g} × {size[0]:g}",
    }.get(stock.section, "")
    what = "Casting" if stock.section == Section.NEAR_NET else f"Bar {section}" if bars else f"Blank {section}"
    length = m.bar_length if bars else m.length if m.sawn_apart == 1 else Decimal(str(round(size[2], 2)))
    words = f"{what}, {length.normalize():f} long" if section else what
    price = cents(m.worth(length if bars else m.length * m.sawn_apart))
    return Buy(f"{words}, {ledger.material.name}", MATERIAL, needed, price)
