"""Tools that stand in the machine: they are not set up, and are taken where another does not gain more."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.cutting.choose import AtHand, quickest
from lean_ledger.core.shop.magazine import checked_magazine, where, with_magazine
from lean_ledger.library import Library, shipped_library
from tests.conftest import demo_part, quick
from tests.values import machine_with

LIB = shipped_library()
MILL = next(m for m in LIB.machines if m.id == "mill-762")
LATHE = next(m for m in LIB.machines if m.id == "lathe-320")


def having(*tools: str) -> Library:
    return replace(LIB, magazines=with_magazine(LIB, MILL.id, tools))


def plate(library: Library, quantity: int = 10) -> Ledger:
    part = demo_part("gauge-base")
    return evaluate(quick(part, quantities=(quantity,)), part, library)


def test_what_a_tool_costs_that_is_not_at_hand() -> None:
    """Ten pieces, 0.05 h to set one up: 3 min / 10 = 0.3 min a piece; a change takes 0.12 min."""
    hand = AtHand(frozenset({"EA6"}), frozenset({"EA10"}), change=0.12, setting=0.3)
    tools = {t.id: t for t in LIB.tools}
    assert hand.minutes(tools["EA6"]) == 0
    assert hand.minutes(tools["EA10"]) == 0.12
    assert hand.minutes(tools["EA12"]) == pytest.approx(0.42)
    taken = {"EA10": 1.0, "EA12": 0.75}  # minutes of cutting: 0.25 gained, 0.3 spent on setting up
    assert quickest((tools["EA10"], tools["EA12"]), lambda t: taken[t.id], hand) == tools["EA10"]
    spread = replace(hand, setting=3 / 20)  # over twice as many pieces
    assert quickest((tools["EA10"], tools["EA12"]), lambda t: taken[t.id], spread) == tools["EA12"]


def test_small_batch_is_made_with_what_stands_there_and_a_large_one_with_what_is_quickest() -> None:
    part = demo_part("mast-clamp-half")
    few, many = (evaluate(quick(part, quantities=(count,)), part, LIB) for count in (10, 500))
    assert {tool.id for tool in few.loads[0].built.to_set} == {"CH6"}, "nothing that stands there breaks its edges"
    assert {tool.id for tool in many.loads[0].built.to_set} == {"CH6", "EA20", "EU8"}
    assert many.per_piece < few.per_piece
    # 0.30 h and one tool of 0.05 h to set, against three
    assert few.loads[0].setup_hours == Decimal("0.35")
    assert many.loads[0].setup_hours == Decimal("0.45")


def test_second_setup_finds_what_the_first_put_into_the_machine() -> None:
    ledger = plate(having())
    first, second = ledger.loads
    used = {e.operation.tool.id for e in first.calls}
    assert {t.id for t in first.built.to_set} == used
    assert {e.operation.tool.id for e in second.calls} <= used
    assert second.built.to_set == ()


def test_setup_finds_nothing_of_the_one_before_where_there_are_no_pockets_for_it() -> None:
    """Changed by hand: each setup takes its tools out of the drawer again."""
    bare = having()
    by_hand = replace(bare, machines=tuple(machine_with(m, tool_pockets=0) for m in bare.machines))
    ledger = plate(by_hand)
    for setup in ledger.loads:
        assert {t.id for t in setup.built.to_set} == {e.operation.tool.id for e in setup.calls}


def test_putting_a_tool_in_never_makes_a_piece_dearer() -> None:
    part = demo_part("gauge-base")
    used = {op.tool.id for op in plate(having()).operations}
    before = plate(having()).prices[0].each
    assert plate(having(*sorted(used))).prices[0].each < before
    assert where(to_set=True) == "to set up"
    assert evaluate(quick(part), part, having(*sorted(used))).loads[0].built.to_set == ()


@given(st.lists(st.sampled_from([t.id for t in LIB.tools]), max_size=12))
def test_magazine_is_kept_in_its_order_or_refused(ids: list[str]) -> None:
    if len(set(ids)) < len(ids) or any(LIB.tool(id).kind.is_insert for id in ids):  # type: ignore[union-attr]
        with pytest.raises(PlanError):
            checked_magazine(MILL, ids, LIB)
        return
    assert list(checked_magazine(MILL, ids, LIB)) == ids
    assert having(*ids).in_machine(MILL) == tuple(ids)


@pytest.mark.parametrize(
    ("machine", "tools", "code", "words"),
    [
        (MILL, ["EA6", "XX9"], "no-such-tool", "there is no tool 'XX9'"),
        (MILL, ["EA6", "EA6"], "twice", "stands here a second time"),
        (MILL, ["TR08"], "not-for-mill", "is for a lathe"),
        (LATHE, [t.id for t in LIB.tools[:13]], "magazine-full", "12 pockets, these are 13 tools"),
        (machine_with(MILL, tool_pockets=0), ["EA6"], "no-magazine", "changed by hand"),
    ],
)
def test_magazine_that_cannot_be_is_refused(machine, tools, code, words) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(PlanError, match=words) as refused:
        checked_magazine(machine, tools, LIB)
    assert refused.value.code == code
