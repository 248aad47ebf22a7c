"""Grouping by tool, tools that are called again, second ones of a kind, sections of a cycle."""

from __future__ import annotations

from dataclasses import replace
from itertools import permutations, product
from types import SimpleNamespace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.tool_findings import worn_findings
from lean_ledger.core.loads.best import best_order
from lean_ledger.core.loads.sequence import check_order, grouped_by_tool, tool_calls
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.pace.again import ways_around
from lean_ledger.core.papers.sheet import order_words
from lean_ledger.core.plan import material_of
from lean_ledger.library.types import further
from tests.conftest import built
from tests.core.loads_shop import LIB, LoadShop
from tests.core.test_load_order import PART, Row

# ---- grouping by tool


def operation(id: str, tool: int, after: tuple[str, ...] = (), rank: int = 0) -> Operation:
    made: Any = SimpleNamespace(
        id=id, tool=SimpleNamespace(id=f"T{tool}", number=tool), kind=SimpleNamespace(rank=rank),
        way=SimpleNamespace(angle=0.0), after=tuple((before, "as drawn") for before in after), name=id, setup="S1",
    )  # fmt: skip
    return made  # type: ignore[no-any-return]


def calls_of(order: tuple[str, ...], operations: list[Operation]) -> int:
    return tool_calls(order, {op.id: op for op in operations})


def test_tool_waits_until_all_its_work_can_be_done() -> None:
    """T1 a and c, c after T2's b: to call T2 first, then T1 for both, is two calls; a first would make three."""
    ops = [operation("a", 1), operation("b", 2), operation("c", 1, ("b",))]
    assert grouped_by_tool(ops) == ("b", "a", "c")


def test_calls_come_in_the_usual_order_where_nothing_asks_for_another() -> None:
    ops = [operation("drill", 5, rank=3), operation("face", 1, rank=0), operation("spot", 2, rank=2)]
    assert grouped_by_tool(ops) == ("face", "spot", "drill")


@st.composite
def some_operations(draw: st.DrawFn) -> list[Operation]:
    count = draw(st.integers(1, 7))
    return [
        operation(
            str(k), draw(st.integers(1, 3)),
            tuple(sorted(map(str, draw(st.sets(st.integers(0, k - 1), max_size=2))))) if k else (),
        ) for k in range(count)
    ]  # fmt: skip


@settings(max_examples=20)
@given(some_operations())
def test_no_order_has_fewer_calls(ops: list[Operation]) -> None:
    """Every order of up to seven operations is tried."""
    found = grouped_by_tool(ops)
    check_order(ops, found)
    least = len(ops)
    for order in permutations([op.id for op in ops]):
        at = {id: k for k, id in enumerate(order)}
        if all(at[before] < at[op.id] for op in ops for before, _ in op.after):
            least = min(least, calls_of(order, ops))
    assert calls_of(found, ops) == least


@settings(max_examples=10)
@given(st.integers(20, 90), st.integers(2, 9), st.randoms(use_true_random=False))
def test_many_operations_are_grouped_no_worse_than_by_always_taking_the_tool_that_does_most(
    count: int, tools: int, chance: Any
) -> None:
    ops = [
        operation(str(k), chance.randrange(tools), (str(chance.randrange(k)),) if k and chance.random() < 0.7 else ())
        for k in range(count)
    ]
    found = grouped_by_tool(ops)
    check_order(ops, found)
    assert found == grouped_by_tool(ops)
    assert calls_of(found, ops) <= _by_doing_most(ops)


def _by_doing_most(ops: list[Operation]) -> int:
    done: set[str] = set()
    calls = 0
    while len(done) < len(ops):
        best: set[str] = set()
        for tool in {op.tool.id for op in ops}:
            made: set[str] = set()
            for op in ops:  # each comes after what it needs
                if op.tool.id == tool and op.id not in done and {b for b, _ in op.after} <= done | made:
                    made.add(op.id)
            best = max(best, made, key=len)
        done |= best
        calls += 1
    return calls


# ---- a second one of a kind


def test_second_tool_has_a_pocket_and_a_number_of_its_own() -> None:
    first = LIB.tools[3]
    second = LIB.tool(f"{first.id}#2")
    assert second is not None
    assert second.number not in {t.number for t in LIB.tools}
    assert (second.diameter, second.description) == (first.diameter, f"{first.description}, second")
    assert further(first.id) == f"{first.id}#2"
    assert further(f"{first.id}#4") == ""
    assert LIB.tool(f"{first.id}#7") is None
    assert LIB.tool("no such#2") is None


def test_operation_gets_a_second_tool_and_is_called_for_by_its_number() -> None:
    shop = Row(1)
    shared = next(
        op for op in shop.ledger.operations
        if sum(other.tool.id == op.tool.id for other in shop.ledger.operations) > 1
    )  # fmt: skip
    before = shop.load
    shop.change(change="edit-operation", operation=shared.id, tool=further(shared.tool.id))
    op = next(op for op in shop.ledger.operations if op.id == shared.id)
    assert op.tool.number > 1000
    assert op.time.cut == pytest.approx(shared.time.cut)
    assert f"T{op.tool.number} M6" in shop.program.program.text
    assert shop.load.whole_setup_hours - before.whole_setup_hours == LIB.rates.setup_hours_per_tool
    assert shop.program.run.total == pytest.approx(shop.load.cycle, rel=0.01)


def test_tool_that_wears_out_within_a_cycle_is_told_and_a_second_one_cures_it() -> None:
    """A tool that lasts 5 minutes at 8 of its own operations a cycle does not; each half of them does."""
    shop = Row(4)
    assert shop.findings("worn-in-cycle") == []
    ops = {call.operation.id: call.operation for call in shop.load.calls}
    by_tool: dict[str, list[Operation]] = {}
    for op in ops.values():
        by_tool.setdefault(op.tool.id, []).append(op)
    tool, own = max(by_tool.items(), key=lambda pair: (len(pair[1]) > 1, sum(op.time.cut for op in pair[1])))
    minutes = 4 * sum(op.time.cut for op in own) / 60
    greatest = 4 * max(op.time.cut for op in own) / 60
    life = (minutes + max(greatest, minutes - greatest)) / 2
    library = replace(LIB, cutting=tuple(
        replace(data, life_minutes=life) if data.family == own[0].tool.family else data for data in LIB.cutting
    ))  # fmt: skip
    material = material_of(shop.plan, library)
    ledger = evaluate(shop.plan, shop.part, library)
    found = [f for f in worn_findings(ledger.loads, library, material) if own[0].tool.description in f.title]
    assert len(found) == 1
    assert "of the 4 pieces" in found[0].why
    cure = found[0].cures[0].change
    assert cure["tool"] == further(tool)
    shop.change(**cure)
    ledger = evaluate(shop.plan, shop.part, library)
    assert not [f for f in worn_findings(ledger.loads, library, material) if own[0].tool.description in f.title]


# ---- called again


def test_ways_around_a_second_call_are_tried_and_do_what_they_say() -> None:
    shop = shop_with_a_call_again()
    ops = called(shop)
    k = next(
        k for k in range(1, len(ops))
        if ops[k].tool.id != ops[k - 1].tool.id and ops[k].tool.id in {op.tool.id for op in ops[:k]}
    )  # fmt: skip
    op = ops[k]
    ways = ways_around(shop.ledger, shop.part, LIB, "L1", "1", op.id)
    assert ways
    for way in ways:
        tried = shop_with_a_call_again()
        for change in way.changes:
            tried.change(**change)
        assert tried.load.tool_calls == way.calls < shop.load.tool_calls
        assert shop.ledger.per_piece - tried.ledger.per_piece == pytest.approx(way.saving)
        assert shop.ledger.prices[0].each - tried.ledger.prices[0].each == way.each
    assert [way.each for way in ways] == sorted((way.each for way in ways), reverse=True)


def test_ways_around_of_what_is_not_there_are_refused() -> None:
    shop = Row(1)
    with pytest.raises(PlanError, match="no load L7"):
        ways_around(shop.ledger, shop.part, LIB, "L7", "1", "S1.H1.drill")
    with pytest.raises(PlanError, match="no step 'nothing'"):
        ways_around(shop.ledger, shop.part, LIB, "L1", "1", "nothing")
    first = called(shop)[0]
    assert ways_around(shop.ledger, shop.part, LIB, "L1", "1", first.id) == ()


def called(shop: LoadShop) -> list[Operation]:
    return [call.operation for call in shop.load.calls]


def shop_with_a_call_again() -> LoadShop:
    """A step of one operation moved away from the others of its tool, by hand."""
    shop = LoadShop(PART)
    best = best_order(shop.load, None, 5)
    shop.change(change="set-sequence", load="L1", sequence=best.found.sequence)
    ops = called(shop)
    for op, to in product(ops, range(len(ops))):
        try:
            shop.change(change="move-steps", load="L1", steps=[["1", op.id]], to=to)
        except PlanError:
            continue
        if shop.load.tool_calls > best.found.cost.tool:
            return shop
    raise AssertionError("no step can be moved away")


# ---- two sizes of one boring head


def test_boring_head_for_two_sizes_is_cured_by_a_second_one() -> None:
    bores = rod((30, 30, 0), (0, 0, 1), 26, 20), rod((72, 30, 0), (0, 0, 1), 30, 20)
    shop = LoadShop(built(block((0, 0, 0), (100, 60, 20)) - bores[0] - bores[1]))
    shop.change(change="say-tolerance", features=["H1", "H2"], tolerance="H7")
    assert len(shop.findings("head-set-twice")) == 1
    shop.cure("head-set-twice")
    assert shop.findings("head-set-twice") == []
    heads = {op.tool.id: op.tool.diameter for op in shop.ledger.operations if op.kind.value == "bore to size"}
    assert sorted(heads.values()) == [26, 30]


# ---- sections


def test_section_is_named_in_program_and_sheet_and_goes_with_its_step() -> None:
    shop = Row(2)
    piece, op = shop.steps[3]
    words = shop.change(change="name-section", load="L1", piece=piece, operation=op, name=" Second side ")
    assert "section “Second side” begins with" in words
    text = shop.program.program.text
    assert text.count("(SECOND SIDE)") == 1
    assert any("Section “Second side” begins with" in line for line in order_words(shop.load.shares[0]))
    shop.arrange(columns=3)
    assert shop.load.load.section_at(piece, op) == "Second side"
    shop.change(change="name-section", load="L1", piece=piece, operation=op, name="")
    assert shop.load.load.sections == ()
    with pytest.raises(PlanError, match="no section begins"):
        shop.change(change="name-section", load="L1", piece=piece, operation=op, name="")
    with pytest.raises(PlanError, match="no step"):
        shop.change(change="name-section", load="L1", piece="9", operation=op, name="X")
    with pytest.raises(PlanError, match="at most 60"):
        shop.change(change="name-section", load="L1", piece=piece, operation=op, name="x" * 61)
