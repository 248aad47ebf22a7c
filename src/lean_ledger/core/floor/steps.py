"""What a setter does to set a load up, step by step, from the same words as the sheet."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.papers.sheet import SheetSetup

STEPS = ("tools", "fixture", "stock", "zero", "first")


@dataclass(frozen=True)
class Step:
    id: str
    title: str
    lines: tuple[str, ...]


def steps_of(load: LoadLedger, sheets: Sequence[SheetSetup], material: str) -> tuple[Step, ...]:
    """`sheets` of its setups, in their order."""
    tools = list(dict.fromkeys(line for sheet in sheets for line in sheet.tools))
    to_set = [t for t in tools if t.to_set]
    standing = len(tools) - len(to_set)
    set_lines = [f"T{t.number}  {t.description}, stands out {t.stick_out:g} mm" for t in to_set]
    if standing:
        set_lines.append(f"{standing} stand{'s' if standing == 1 else ''} in the machine already")
    several = len(sheets) > 1
    fixture, zero, stock = [], [], []
    for sheet in sheets:
        before = f"{sheet.id}: " if several else ""
        fixture += [f"{before}{what}: {how}" for what, how in sheet.fixture]
        zero += [f"{before}{sheet.offset}: {sheet.zero}", *(f"{before}{line}" for line in sheet.touch_off)]
        size = " × ".join(f"{v:.2f}" for v in sheet.stock)
        stock.append(f"{before}{size} mm, {material}")
    pieces = f"{load.pieces} pieces a cycle" if load.pieces > 1 else "one piece a cycle"
    by_hand = [line for sheet in sheets for line in sheet.by_hand]
    return (
        Step("tools", "Tools in", tuple(set_lines) or ("no tool is needed",)),
        Step("fixture", "Fixture and jaws on", tuple(fixture)),
        Step("stock", "Stock checked", tuple(stock)),
        Step("zero", "Zero set", tuple(dict.fromkeys(zero))),
        Step("first", "First piece", (f"{pieces}: run it, measure it, correct", *dict.fromkeys(by_hand))),
    )
