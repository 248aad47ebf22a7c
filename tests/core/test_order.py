"""The sequence: precedences, what a move may do, and the fewest tool calls."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.loads.between import Stop, transition
from lean_ledger.core.loads.sequence import check_order, default_order, grouped_by_tool, resolved_order, tool_calls
from lean_ledger.core.operations import OperationKind
from lean_ledger.core.operations.model import HOME
from lean_ledger.core.setups.ways import Way
from lean_ledger.core.timing.motion import rapid_seconds
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick, quick_ledger
from tests.values import machine_with

LIB = shipped_library()


@dataclass(frozen=True)
class FakeTool:
    id: str
    number: int


@dataclass(frozen=True)
class FakeOperation:
    """Just what ordering looks at."""

    id: str
    tool: FakeTool
    after: tuple[tuple[str, str], ...] = ()
    kind: OperationKind = OperationKind.DRILL
    setup: str = "S1"
    name: str = ""
    way: Way = HOME


def op(id: str, tool: int, *after: str) -> FakeOperation:
    return FakeOperation(id, FakeTool(f"T{tool}", tool), tuple((b, f"{b} first") for b in after), name=id)


def calls(order, operations) -> int:  # type: ignore[no-untyped-def]
    return tool_calls(order, {o.id: o for o in operations})


def test_tool_calls_count_the_first_and_each_change() -> None:
    ops = [op("a", 1), op("b", 1), op("c", 2), op("d", 1)]
    assert calls(("a", "b", "c", "d"), ops) == 3
    assert calls(("a", "b", "d", "c"), ops) == 2


def test_grouping_never_goes_past_a_precedence() -> None:
    # b with tool 2 must stand between the two of tool 1: it is called again
    ops = [op("a", 1), op("b", 2, "a"), op("c", 1, "b")]
    assert grouped_by_tool(ops) == ("a", "b", "c")
    assert calls(grouped_by_tool(ops), ops) == 3


def test_grouping_chooses_the_tool_that_spares_a_call() -> None:
    # starting with tool 1 it would be called twice; starting with tool 2 once each
    ops = [op("a", 1), op("b", 2), op("c", 1, "b")]
    assert calls(grouped_by_tool(ops), ops) == 2


@st.composite
def problems(draw):  # type: ignore[no-untyped-def]
    count = draw(st.integers(1, 6))
    made = []
    for i in range(count):
        before = draw(st.lists(st.integers(0, i - 1), max_size=2, unique=True)) if i else []
        made.append(op(f"o{i}", draw(st.integers(1, 3)), *(f"o{b}" for b in before)))
    return made


def valid(order, ops) -> bool:  # type: ignore[no-untyped-def]
    at = {id: i for i, id in enumerate(order)}
    return all(at[b] < at[o.id] for o in ops for b, _ in o.after)


@settings(max_examples=60, deadline=None)
@given(problems())
def test_grouping_is_least_of_all_orders(ops) -> None:  # type: ignore[no-untyped-def]
    least = min(calls(order, ops) for order in permutations([o.id for o in ops]) if valid(order, ops))
    found = grouped_by_tool(ops)
    assert sorted(found) == sorted(o.id for o in ops)
    assert valid(found, ops)
    assert calls(found, ops) == least


@settings(max_examples=60, deadline=None)
@given(problems(), st.randoms(use_true_random=False))
def test_any_wish_is_mended_into_a_valid_order(ops, random) -> None:  # type: ignore[no-untyped-def]
    wish = [o.id for o in ops] + ["gone"]
    random.shuffle(wish)
    order = resolved_order(ops, wish[: len(wish) // 2 + 1])
    assert sorted(order) == sorted(o.id for o in ops)
    assert valid(order, ops)


def test_valid_wish_is_kept_as_it_is() -> None:
    ops = [op("a", 1), op("b", 2), op("c", 1)]
    assert resolved_order(ops, ("c", "b", "a")) == ("c", "b", "a")


def test_new_operation_falls_in_beside_its_usual_neighbour() -> None:
    ops = [op("a", 1), op("b", 2), op("c", 3)]
    assert default_order(ops) == ("a", "b", "c")
    assert resolved_order(ops, ("c", "a")) == ("c", "a", "b")


def test_broken_precedence_is_refused_with_both_names_and_the_reason() -> None:
    ops = [op("spot", 1), op("drill", 2, "spot")]
    with pytest.raises(PlanError, match="“drill” cannot come before “spot”: spot first"):
        check_order(ops, ("drill", "spot"))
    check_order(ops, ("spot", "drill"))


def test_order_must_name_known_operations_once() -> None:
    ops = [op("a", 1)]
    with pytest.raises(PlanError, match="names nobody"):
        check_order(ops, ("nobody",))
    with pytest.raises(PlanError, match="twice"):
        check_order(ops, ("a", "a"))


def test_circle_of_precedences_is_refused() -> None:
    with pytest.raises(PlanError, match="wait for one another"):
        default_order([op("a", 1, "b"), op("b", 1, "a")])


@pytest.mark.parametrize("name", ["sensor-base-plate", "mast-clamp-half", "gear-housing-lid", "louvre-bracket"])
def test_demo_orders_face_first_and_the_outline_last(name: str) -> None:
    for setup in quick_ledger(demo_part(name)).loads:
        kinds = [e.operation.kind for e in setup.calls]
        if OperationKind.FACE in kinds:
            assert kinds[0] == OperationKind.FACE
        if OperationKind.ROUGH_OUTLINE in kinds:
            rest = kinds[kinds.index(OperationKind.ROUGH_OUTLINE) :]
            after = {OperationKind.CHAMFER, OperationKind.FINISH_SURFACE}  # edges of the walls that it makes
            assert set(rest) <= {OperationKind.ROUGH_OUTLINE, OperationKind.FINISH_OUTLINE, *after}
        for first, second in (
            (OperationKind.SPOT, OperationKind.DRILL),
            (OperationKind.ROUGH_OUTLINE, OperationKind.FINISH_OUTLINE),
        ):
            for e in setup.calls:
                if e.operation.kind == second:
                    before = [x.operation for x in setup.calls[: e.position]]
                    assert any(o.kind == first and o.chain == e.operation.chain for o in before)


def test_grouping_saves_what_the_ledger_says() -> None:
    part = demo_part("sensor-base-plate")
    plan = quick(part)
    before = evaluate(plan, part, LIB)
    setup = before.loads[0]
    assert setup.grouped_calls < setup.tool_calls
    grouped = plan.with_load(plan.load_of("S1").with_order("S1", setup.grouped))
    after = evaluate(grouped, part, LIB)
    assert before.cycle - after.cycle == pytest.approx(setup.grouping_saves, abs=1.5), "but for the last return"
    assert after.loads[0].tool_calls == setup.grouped_calls


def test_same_tool_needs_no_change_but_a_rapid() -> None:
    setup = quick_ledger(demo_part("sensor-base-plate")).loads[0]
    pairs = [(a, b) for a, b in zip(setup.calls, setup.calls[1:], strict=False)]
    same = next(b for a, b in pairs if a.operation.tool.id == b.operation.tool.id)
    other = next(b for a, b in pairs if a.operation.tool.id != b.operation.tool.id)
    assert (same.transition.tool_change, same.transition.changes_tool) == (0, False)
    assert other.transition.tool_change == 4.2
    assert other.transition.spindle == 1.5
    assert other.transition.rapid > same.transition.rapid


def test_tool_changed_by_hand_takes_most_of_a_minute() -> None:
    setup = quick_ledger(demo_part("sensor-base-plate")).loads[0]
    by_hand = machine_with(setup.machine, tool_pockets=0)
    first = setup.calls[0].operation
    assert transition(None, Stop(first, setup.built.stands), by_hand).tool_change == 45


def test_tip_at_the_change_position_stands_above_the_work() -> None:
    setup = quick_ledger(demo_part("sensor-base-plate")).loads[0]
    # travel 508, holder 55, tool 30, vise bed 58, parallel 26
    tool = next(t for t in LIB.tools if t.id == "SP6")
    hold, stands = setup.built.hold, setup.built.stands
    above_floor = stands.tool_height(hold.frame, setup.machine, tool) - hold.floor
    assert above_floor == pytest.approx(508 - 55 - 30 - 58 - 26)


def test_same_tool_goes_straight_from_one_piece_to_the_next() -> None:
    """Two pieces 100 apart along X: what ends over the first starts over the second, 100 farther to the left as the
    second sees it; a rapid of 100 mm less what the operation's own start and end lie apart.
    """
    ledger = evaluate(quick(demo_part("sensor-base-plate")), demo_part("sensor-base-plate"), shipped_library())
    setup = ledger.loads[0]
    op, stands = setup.calls[0].operation, setup.built.stands
    x, y, z = stands.seat.at
    beside = replace(stands, seat=replace(stands.seat, at=(x + 100.0, y, z)))
    end, start = op.motion.end, op.motion.start
    there = transition(Stop(op, stands), Stop(op, beside), setup.machine)
    assert (there.tool_change, there.spindle, there.changes_tool) == (0.0, 0.0, False)
    assert there.rapid == rapid_seconds((end[0] - 100.0, end[1], end[2]), start, setup.machine)
    assert transition(Stop(op, stands), Stop(op, stands), setup.machine).rapid == rapid_seconds(
        end, start, setup.machine
    )
