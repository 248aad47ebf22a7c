"""The shopping list: what the shop lacks, each once, and how many tools a batch wears out."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.papers.lists import as_csv, shopping_head, shopping_rows
from lean_ledger.core.shop.shopping import MATERIAL, shopping_list
from lean_ledger.library import shipped_library
from lean_ledger.library.types import ToolKind
from tests.conftest import demo_part, quick
from tests.core.test_bars import RING, advance

LIB = shipped_library()


def without(*kinds: ToolKind):  # type: ignore[no-untyped-def]
    return replace(LIB, tools=tuple(t for t in LIB.tools if t.kind not in kinds))


def test_tools_are_counted_for_each_quantity() -> None:
    part = demo_part("gear-housing-lid")
    ledger = evaluate(quick(part, "steel-c45", (25, 100)), part, LIB)
    buys = shopping_list(ledger, LIB)
    assert not any(buy.is_missing for buy in buys)
    assert {buy.id for buy in buys} == {MATERIAL, *(op.tool.id for op in ledger.operations)}
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


def test_blanks_and_bars_are_bought_as_the_price_counts_them() -> None:
    """An advance of 5 · 11.9 = 59.5, of 3000 less a rest of 80: 49 advances, 245 pieces a bar; 1020 begun take 5."""
    ledger = evaluate(replace(advance(5), quantities=(100, 1000)), RING, LIB)
    m = ledger.problem.material
    bar = next(buy for buy in shopping_list(ledger, LIB) if buy.id == MATERIAL)
    assert bar.words.startswith("Bar Ø")
    assert f"{m.bar_length.normalize():f} long" in bar.words
    assert m.pieces_per_bar == 245
    started = [one.started for one in ledger.prices]
    assert bar.needed == tuple(-(-count // m.pieces_per_bar) for count in started)
    part = demo_part("sensor-base-plate")
    ledger = evaluate(quick(part, quantities=(10, 50)), part, LIB)
    blank = next(buy for buy in shopping_list(ledger, LIB) if buy.id == MATERIAL)
    assert blank.needed == tuple(one.started for one in ledger.prices)
    assert blank.words.startswith("Blank ")
    assert blank.price is not None
    material = dict(ledger.prices[0].lines)["material"]
    assert abs(blank.price * blank.needed[0] - material) <= blank.needed[0] * Decimal("0.005")
