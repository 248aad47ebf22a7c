"""The order of a load's whole cycle: what it comes to, as decided, sorted, moved, and the best on its machine."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.loads import best
from lean_ledger.core.loads.best import best_order
from lean_ledger.core.loads.ordering import called_again, compared, cycle_of, times_of
from lean_ledger.core.papers.sheet import order_words
from lean_ledger.core.plan import By, Precedence
from tests.conftest import built
from tests.core.loads_shop import LIB, LoadShop
from tests.core.test_bars import RING, advance

#: 60 × 40 × 20 with a pocket, two threads' holes and a bore: five tools, one of which comes back.
PART = built(
    block((0, 0, 0), (60, 40, 20)) - block((10, 10, 12), (30, 30, 20)).rounded(5, lambda a, b: a[:2] == b[:2])
    - rod((45, 12, 0), (0, 0, 1), 5, 20) - rod((45, 28, 0), (0, 0, 1), 8, 20)
)  # fmt: skip


class Row(LoadShop):
    def __init__(self, columns: int = 3, machine: str | None = None, **values: Any) -> None:
        super().__init__(PART, machine)
        self.arrange(columns=columns, **values)

    @property
    def steps(self) -> list[tuple[str, str]]:
        return [(call.place, call.operation.id) for call in self.load.calls]


def keeps_precedences(shop: LoadShop) -> bool:
    seen: set[tuple[str, str]] = set()
    for call in shop.load.calls:
        there = {op.id for share in shop.load.shares for op in share.built.operations}
        if any((call.place, before) not in seen for before, _ in call.operation.after if before in there):
            return False
        seen.add((call.place, call.operation.id))
    return True


# ---- what an order comes to


def test_plain_orders_are_told_beside_the_present_one_as_they_run() -> None:
    shop = Row()
    rows = {one.name: one for one in compared(shop.load)}
    assert set(rows) == {"now", "piece", "step", "tool"}
    assert rows["now"].seconds == pytest.approx(shop.load.cycle)
    for name, by in (("piece", "piece"), ("tool", "tool")):
        shop.change(change="set-sequence", load="L1", sequence=rows[name].sequence)
        assert shop.load.cycle == pytest.approx(rows[name].seconds)
        assert shop.program.run.total == pytest.approx(shop.load.cycle, rel=1e-4)
        assert by in rows
    assert rows["piece"].cost.tool > rows["tool"].cost.tool


def test_changes_cost_what_the_machine_takes() -> None:
    """A hand change of 45 s is in every change of tool; a quick one is not."""
    shop = Row()
    quick = times_of(cycle_of(shop.load))
    machine = shop.load.machine
    assert quick.tool_change == pytest.approx(machine.tool_change + machine.spindle.start, abs=4)
    slow = with_hand_changes(shop)
    assert times_of(cycle_of(slow)).tool_change == pytest.approx(quick.tool_change + 45 - machine.tool_change, abs=0.5)


def with_hand_changes(shop: LoadShop) -> Any:
    machine = shop.load.machine
    head = machine.carriages[0]
    by_hand = replace(machine, carriages=(replace(head, tool_change=45.0),))
    library = replace(LIB, machines=tuple(by_hand if m.id == machine.id else m for m in LIB.machines))
    return evaluate(shop.plan, shop.part, library).loads[0]


def test_hand_changer_turns_the_best_order_around() -> None:
    """On a rotary whose table is slow each side is ended first; with tools changed by hand each tool goes round."""
    shop = LoadShop(PART, "mill-762-rotary")
    shop.change(change="set-carriers", setup="S1", carriers=("bar-480",))
    shop.change(change="set-fixture", setup="S1", fixture="vise-60-low")
    shop.arrange(sides=(0.0, 180.0), columns=2)
    machine = shop.load.machine
    assert machine.table is not None
    slow_table = replace(machine, table=replace(machine.table, clamp=20.0, unclamp=20.0))
    library = replace(LIB, machines=tuple(slow_table if m.id == machine.id else m for m in LIB.machines))
    table = best_order(evaluate(shop.plan, shop.part, library).loads[0], None, 20)
    hand = best_order(with_hand_changes(shop), None, 20)
    assert table.proven
    assert hand.proven
    assert table.found.cost.index < hand.found.cost.index
    assert hand.found.cost.tool < table.found.cost.tool


def test_best_order_is_taken_and_runs_as_it_says() -> None:
    shop = Row(4, rows=2)
    best = best_order(shop.load, None, 20)
    assert best.proven
    assert best.bound == pytest.approx(best.found.cost.seconds, abs=1e-3)
    assert best.found.cost.seconds <= best.now.cost.seconds + 1e-6
    shop.change(change="set-sequence", load="L1", sequence=best.found.sequence, found="the best")
    assert shop.load.cycle == pytest.approx(best.found.seconds)
    assert abs(shop.program.agreement.difference) < 1e-3
    assert keeps_precedences(shop)
    counted = best_order(shop.load, ("piece", "tool", "index"), 20)
    assert (counted.found.cost.piece, counted.proven) == (7, True)


# ---- one's own


@settings(max_examples=8)
@given(st.permutations(["tool", "angle", "operation", "piece"]), st.integers(1, 4))
def test_sorts_break_nothing_and_are_stable(keys: list[str], count: int) -> None:
    shop = Row(2)
    rows = [{"by": key} for key in keys[:count]]
    shop.change(change="sort-steps", load="L1", keys=rows)
    once = shop.steps
    assert keeps_precedences(shop)
    shop.change(change="sort-steps", load="L1", keys=rows)
    assert shop.steps == once
    assert shop.program.run.total == pytest.approx(shop.load.cycle, rel=1e-4)


def test_angles_are_sorted_in_an_order_of_their_own() -> None:
    shop = LoadShop(PART, "mill-762-rotary")
    shop.change(change="set-carriers", setup="S1", carriers=("bar-480",))
    shop.change(change="set-fixture", setup="S1", fixture="vise-60-low")
    shop.arrange(sides=(0.0, 90.0, 180.0, 270.0))
    shop.change(
        change="sort-steps", load="L1", keys=[{"by": "angle", "values": ["0°", "180°", "90°", "270°"]}, {"by": "tool"}]
    )
    sides = [shop.load.placed_at(call.place).side for call in shop.load.calls]
    assert list(dict.fromkeys(sides)) == [0, 180, 90, 270]
    assert sides == sorted(sides, key=[0, 180, 90, 270].index)


def test_step_that_is_moved_too_far_is_refused_with_what_would_do() -> None:
    shop = Row(2)
    last = max(range(len(shop.steps)), key=lambda k: bool(shop.load.calls[k].operation.after) * k)
    step = shop.steps[last]
    with pytest.raises(PlanError, match="cannot come before") as refused:
        shop.change(change="move-steps", load="L1", steps=[step], to=0)
    near = int(refused.value.message.rsplit(" ", 1)[1])
    shop.change(change="move-steps", load="L1", steps=[step], to=near - 1)
    assert shop.steps[near - 1] == step
    assert keeps_precedences(shop)


def test_several_steps_are_moved_together() -> None:
    shop = Row(3)
    third = [step for step in shop.steps if step[0] == "3"]
    shop.change(change="move-steps", load="L1", steps=third, to=0)
    assert shop.steps[: len(third)] == third
    assert abs(shop.program.agreement.difference) < 1e-3


def test_order_of_one_s_own_lives_on_when_pieces_come_and_go() -> None:
    shop = Row(3)
    shop.change(change="move-steps", load="L1", steps=[s for s in shop.steps if s[0] == "2"], to=0)
    shop.arrange(columns=4)
    assert shop.load.load.by == "hand"
    assert {place for place, _ in shop.steps} == {"1", "2", "3", "4"}
    assert shop.steps[0][0] == "2"
    assert keeps_precedences(shop)
    shop.arrange(columns=2)
    assert {place for place, _ in shop.steps} == {"1", "2"}
    assert keeps_precedences(shop)


@pytest.mark.parametrize("by", ["tool", "operation", "piece"])
def test_policy_takes_the_order_back(by: By) -> None:
    shop = Row(2)
    usual = LoadShop(PART)
    usual.arrange(columns=2)
    usual.change(change="set-piece-order", load="L1", by=by)
    shop.change(change="sort-steps", load="L1", keys=[{"by": "piece"}])
    shop.change(change="set-piece-order", load="L1", by=by)
    assert shop.plan.loads[0].sequence == ()
    assert shop.load.cycle == usual.load.cycle


@pytest.mark.parametrize(
    ("values", "words"),
    [
        ({"change": "set-sequence", "load": "L1", "sequence": [("1", "no such")]}, "does not name each"),
        ({"change": "move-steps", "load": "L1", "steps": [("9", "x")], "to": 1}, "no step"),
        ({"change": "sort-steps", "load": "L1", "keys": []}, "keys are sorted by"),
        ({"change": "sort-steps", "load": "L1", "keys": [{"by": "tool"}, {"by": "tool"}]}, "each once"),
    ],
)
def test_what_is_no_order_is_refused(values: dict[str, Any], words: str) -> None:
    with pytest.raises(PlanError, match=words):
        Row(2).change(**values)


def test_order_that_breaks_a_precedence_is_refused_with_its_reason() -> None:
    shop = Row(1)
    with pytest.raises(PlanError, match="cannot come before"):
        shop.change(change="set-sequence", load="L1", sequence=tuple(reversed(shop.steps)))


def test_bar_has_no_order_to_choose() -> None:
    shop = LoadShop(RING)
    shop.plan = advance(3)
    shop.ledger = evaluate(shop.plan, RING, LIB)
    with pytest.raises(PlanError, match="on a bar"):
        shop.change(change="sort-steps", load="L1", keys=[{"by": "tool"}])


def test_tool_that_comes_back_says_what_it_waited_for() -> None:
    shop = Row(1)
    again = called_again(cycle_of(shop.load))
    tools = [call.operation.tool.id for call in shop.load.calls]
    calls = [k for k in range(len(tools)) if k == 0 or tools[k] != tools[k - 1]]
    back = {k for i, k in enumerate(calls) if tools[k] in {tools[j] for j in calls[:i]}}
    assert set(again) == back
    shop.change(change="sort-steps", load="L1", keys=[{"by": "operation"}])
    for k, words in called_again(cycle_of(shop.load)).items():
        assert "waits for" in words or "nothing asks for it" in words, (k, words)


# ---- what comes before what, by hand


def two_free(shop: LoadShop) -> tuple[str, str]:
    """Two operations that do not wait for one another, in the order in which they run."""
    rows = [row.operation for row in shop.load.rows]
    return next(
        (a.id, b.id) for i, a in enumerate(rows) for b in rows[i + 1 :]
        if a.tool.id != b.tool.id and all(id != a.id for id, _ in b.after) and not any(id == b.id for id, _ in a.after)
    )  # fmt: skip


def test_precedence_by_hand_holds_at_each_piece_and_can_be_taken_away() -> None:
    shop = Row(2)
    a, b = two_free(shop)
    shop.change(change="come-before", load="L1", first=b, then=a, note="it shakes")
    for place in ("1", "2"):
        own = [op for at, op in shop.steps if at == place]
        assert own.index(b) < own.index(a)
    row = next(row.operation for row in shop.load.rows if row.operation.id == a)
    assert (b, "it shakes") in row.after
    with pytest.raises(PlanError, match="wait for one another"):
        shop.change(change="come-before", load="L1", first=a, then=b)
    shop.change(change="not-before", load="L1", first=b, then=a)
    assert shop.plan.loads[0].before == ()
    with pytest.raises(PlanError, match="overruled with a note"):
        shop.change(change="not-before", load="L1", first=b, then=a)


def test_what_the_rules_know_is_overruled_with_a_note_that_stays_on_the_sheet() -> None:
    shop = Row(1)
    row = next(row.operation for row in shop.load.rows if row.operation.after)
    before = row.after[0][0]
    with pytest.raises(PlanError, match="a note"):
        shop.change(change="overrule", load="L1", first=before, then=row.id, note=" ")
    shop.change(change="overrule", load="L1", first=before, then=row.id, note="the cast hole leads it")
    now = next(r.operation for r in shop.load.rows if r.operation.id == row.id)
    assert all(id != before for id, _ in now.after)
    assert any("the cast hole leads it" in words for words in order_words(shop.load.shares[0]))
    shop.change(change="overrule", load="L1", first=before, then=row.id)
    assert shop.plan.loads[0].overruled == ()
    with pytest.raises(PlanError, match="does not wait"):
        shop.change(change="overrule", load="L1", first=row.id, then=before, note="x")


def test_operation_taken_out_does_not_run_is_said_and_comes_back() -> None:
    shop = Row(2)
    op = shop.load.rows[-1].operation
    whole = shop.load.cycle
    shop.change(change="take-out", load="L1", operation=op.id)
    assert op.id not in {id for _, id in shop.steps}
    assert shop.load.cycle < whole
    assert abs(shop.program.agreement.difference) < 1e-3
    assert any(op.name in words for words in order_words(shop.load.shares[0]))
    (found,) = shop.findings("taken-out")
    shop.change(**found.cures[0].change)
    assert shop.load.cycle == pytest.approx(whole)
    assert shop.findings("taken-out") == []


# ---- runs that stay whole


@settings(max_examples=8)
@given(st.integers(0, 8), st.integers(2, 4), st.sampled_from(["tool", "operation", "piece"]))
def test_locked_run_stays_whole_in_sorts_moves_and_the_best(at: int, count: int, key: str) -> None:
    shop = Row(2)
    run = tuple(shop.steps[at : at + count])
    shop.change(change="lock-steps", load="L1", steps=run)

    def whole() -> bool:
        first = shop.steps.index(run[0])
        return tuple(shop.steps[first : first + len(run)]) == run

    assert whole()
    shop.change(change="sort-steps", load="L1", keys=[{"by": key}])
    assert whole()
    best = best_order(shop.load, None, 5)
    assert best.found.cost.seconds <= best.now.cost.seconds + 1e-6
    shop.change(change="set-sequence", load="L1", sequence=best.found.sequence)
    assert whole()
    assert keeps_precedences(shop)
    shop.arrange(columns=3)
    assert whole()
    last = shop.steps[-1]
    if last not in run:
        inside = shop.steps.index(run[0]) + 1
        with pytest.raises(PlanError):
            shop.change(change="move-steps", load="L1", steps=[last], to=inside)
    shop.change(change="lock-steps", load="L1", steps=run[:1], locked=False)
    assert shop.plan.loads[0].locked == ()


def test_steps_that_stand_apart_are_no_run() -> None:
    shop = Row(2)
    with pytest.raises(PlanError, match="one right behind the other"):
        shop.change(change="lock-steps", load="L1", steps=(shop.steps[0], shop.steps[2]))


def test_precedence_by_hand_that_a_rule_came_to_contradict_is_left_out_and_said() -> None:
    """As after a rule that is new: what was put the other way round by hand is taken away, and the plan stands."""
    shop = Row(1)
    op = next(op for op in shop.load.shares[0].built.operations if op.after)
    known = {o.id for o in shop.load.shares[0].built.operations}
    first = next(before for before, _ in op.after if before in known)
    with pytest.raises(PlanError, match="wait for one another"):
        shop.change(change="come-before", load="L1", first=op.id, then=first)
    contrary = replace(shop.plan.loads[0], before=(Precedence(op.id, first, "once it was so"),))
    shop.plan = shop.plan.with_load(contrary)
    shop.ledger = evaluate(shop.plan, shop.part, LIB)
    assert len(shop.findings("before-lost")) == 1
    assert keeps_precedences(shop)
    shop.cure("before-lost")
    assert shop.findings("before-lost") == []
    assert shop.plan.loads[0].before == ()


def test_sorted_by_offset_pieces_that_share_one_come_together() -> None:
    """Two rows of two, an offset a row: all of the first row, piece by piece within a tool, before the second."""
    shop = Row(2, rows=2)
    shop.change(change="set-offsets", load="L1", policy="group")
    shop.change(change="sort-steps", load="L1", keys=[{"by": "offset"}])
    row_of = {placed.place.id: placed.row for placed in shop.load.where.placed}
    rows = [row_of[piece] for piece, _ in shop.steps]
    assert rows == sorted(rows)
    assert set(rows) == {0, 1}
    assert keeps_precedences(shop)


def test_search_tells_how_far_it_is(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(best, "EVERY", 0.0)
    said: list[tuple[str, float]] = []
    shop = LoadShop(PART, "mill-762-rotary")
    shop.change(change="set-carriers", setup="S1", carriers=("bar-480",))
    shop.change(change="set-fixture", setup="S1", fixture="vise-60-low")
    shop.arrange(sides=(0.0, 180.0), columns=2)
    found = best_order(shop.load, None, 5, lambda words, share: said.append((words, share)))
    assert said
    for words, share in said:
        cost, bound = (float(n) for n in re.findall(r"[0-9]+[.][0-9]", words))
        assert bound <= cost + 0.06
        assert bound <= found.found.cost.seconds + 0.06
        assert 0 <= share < 1


def test_degrees_are_those_that_the_table_turns() -> None:
    """Two sides, 0° and 180°, each tool at both in turn, there and back: so many halves as it is indexed."""
    shop = LoadShop(PART, "mill-762-rotary")
    shop.change(change="set-carriers", setup="S1", carriers=("bar-480",))
    shop.change(change="set-fixture", setup="S1", fixture="vise-60-low")
    shop.arrange(sides=(0.0, 180.0), columns=1)
    for one in compared(shop.load):
        assert one.degrees == 180 * one.cost.index
