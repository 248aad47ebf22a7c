"""The shopping list: what the shop lacks, each once, and how many tools a batch wears out."""

from __future__ import annotations

from dataclasses import replace

from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.papers.lists import as_csv, shopping_head, shopping_rows
from lean_ledger.core.shop.shopping import shopping_list
from lean_ledger.library import shipped_library
from lean_ledger.library.types import ToolKind
from tests.conftest import demo_part, quick

LIB = shipped_library()


def without(*kinds: ToolKind):  # type: ignore[no-untyped-def]
    return replace(LIB, tools=tuple(t for t in LIB.tools if t.kind not in kinds))


def test_tools_are_counted_for_each_quantity() -> None:
    part = demo_part("gear-housing-lid")
    ledger = evaluate(quick(part, "steel-c45", (25, 100)), part, LIB)
    buys = shopping_list(ledger, LIB)
    assert not any(buy.is_missing for buy in buys)
    assert {buy.id for buy in buys} == {op.tool.id for op in ledger.operations}
    mill = next(buy for buy in buys if buy.id == "EU16")
    share = sum(op.time.cut for op in ledger.operations if op.tool.id == "EU16") / 60 / 90
    # life at the usual values is 90 minutes in cut: so many lives a piece
    assert mill.needed == (-(-25 * share // 1), -(-100 * share // 1))


def test_what_is_missing_is_named_once_with_its_size() -> None:
    part = demo_part("sensor-base-plate")
    library = without(ToolKind.DRILL, ToolKind.CHAMFER_MILL)
    ledger = evaluate(quick(part, quantities=(10, 50)), part, library)
    missing = [buy for buy in shopping_list(ledger, library) if buy.is_missing]
    words = [buy.words for buy in missing]
    assert len(set(words)) == len(words)
    assert any(w.startswith("Chamfer mill of 90°, Ø2.4 or more for Aluminium") for w in words)
    assert all(buy.needed == (1, 1) and buy.price is None for buy in missing)
    rows = shopping_rows(shopping_list(ledger, library))
    assert rows[0][1] == "to be found"
    text = as_csv(shopping_head((10, 50)), rows).decode("utf-8-sig")
    assert text.splitlines()[0] == "what,id,for 10,for 50,price each"


def test_every_missing_tool_of_a_mill_is_asked_for() -> None:
    part = demo_part("sensor-base-plate")
    for kind, words in (
        (ToolKind.DRILL, "rill Ø"), (ToolKind.COUNTERSINK, "ountersink of 90°"), (ToolKind.END_MILL, "nd mill"),
    ):  # fmt: skip
        library = without(kind, *((ToolKind.CHAMFER_MILL,) if kind == ToolKind.COUNTERSINK else ()),
                          *((ToolKind.END_MILL,) if kind == ToolKind.DRILL else ()))  # fmt: skip
        ledger = evaluate(quick(part), part, library)
        assert any(words in buy.words for buy in shopping_list(ledger, library) if buy.is_missing), kind
