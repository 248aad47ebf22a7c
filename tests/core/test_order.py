"""Orders of operations: what they cost, what no order costs less than, and that the best is the best."""

from __future__ import annotations

import json
from dataclasses import replace
from itertools import permutations
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.order.bounds import Bounds
from lean_ledger.core.order.calls import CallBounds, Calls
from lean_ledger.core.order.model import modelled
from lean_ledger.core.order.plain import by_key, plain_orders
from lean_ledger.core.order.problem import (
    GRAIN,
    Cost,
    OrderProblem,
    Start,
    Step,
    Times,
    check_order_problem,
    circle_in,
    turned,
)
from lean_ledger.core.order.search import searched
from lean_ledger.core.order.sequence_problem import bound_in, parse_sequence_problem, sequence_document

CASES = Path(__file__).parents[1] / "cases" / "solvers"
TIMES = Times(4.2, 1.0, 0.01, 1.3)
NOTHING_IN = Start()


def problem(
    *rows: str,
    before: str = "",
    times: Times = TIMES,
    start: Start = NOTHING_IN,
    goal: Any = None,
) -> OrderProblem:
    """Rows as "id piece tool angle", pairs as "a>b c>d"."""
    steps = [row.split() for row in rows]
    pairs = tuple((a, b) for a, _, b in (pair.partition(">") for pair in before.split()))
    return OrderProblem(tuple(Step(i, p, t, float(a)) for i, p, t, a in steps), pairs, times, start, goal)


def best(asked: OrderProblem, seconds: float = 60) -> Cost:
    found = searched(modelled(asked), seconds)
    assert asked.keeps(found.order)
    return asked.cost(found.order)


# ---- cost


def test_costs_are_added_up_change_by_change() -> None:
    """T1 in, T1 again on Q, turned by 90° and T2: 4.2, 1.3, 1.0 + 0.9 + 4.2 s; the first piece costs nothing."""
    asked = problem("a P T1 0", "b Q T1 0", "c Q T2 270")
    assert asked.cost([0, 1, 2]) == Cost(2, 1, 1, pytest.approx(11.6))
    started = problem("a P T1 0", "b Q T1 0", start=Start("T1", 90.0, "Q"))
    # turned back by 90°, and a hop to P: the tool is in
    assert started.cost([0, 1]) == Cost(0, 1, 2, pytest.approx(1.9 + 2.6))


@given(st.floats(-720, 720), st.floats(-720, 720))
def test_turn_is_the_shortest_and_the_same_both_ways(a: float, b: float) -> None:
    assert 0 <= turned(a, b) <= 180
    assert turned(a, b) == pytest.approx(turned(b, a), abs=1e-6)
    assert turned(a, a + 360) == 0


def test_circle_is_named_step_by_step() -> None:
    asked = problem("a P T1 0", "b P T1 0", "c P T1 0", "d P T1 0", before="a>b b>c c>a a>d")
    assert sorted(circle_in(4, asked.edges)) == [0, 1, 2]
    with pytest.raises(PlanError, match=r"wait for one another: [abc] → [abc] → [abc] → [abc]"):
        check_order_problem(asked)
    check_order_problem(problem("a P T1 0", "b P T1 0", before="a>b"))


# ---- the best


def drawn(rng: Any, count: int) -> OrderProblem:
    steps = tuple(
        Step(f"o{k}", f"P{rng.randint(0, 2)}", f"T{rng.randint(0, 2)}", 90.0 * rng.randint(0, 2)) for k in range(count)
    )
    before = tuple((f"o{a}", f"o{b}") for b in range(count) for a in range(b) if rng.random() < 0.25)
    times = Times(
        *(rng.choice((0.0, 0.5, 1.3, 4.2, 45.0)) for _ in range(2)), rng.choice((0.0, 0.01)), rng.choice((0.0, 1.3))
    )
    start = Start(rng.choice((None, "T0")), rng.choice((0.0, 90.0)), rng.choice((None, "P0", "elsewhere")))
    goal = rng.choice((None, ("tool", "index", "piece"), ("piece", "index", "tool")))
    asked = OrderProblem(steps, before, times, start, goal)
    if count < 3 or rng.random() < 0.5:
        return asked
    first = rng.randint(0, count - 2)
    held = replace(asked, runs=(tuple(range(first, min(count, first + rng.randint(2, 3)))),))
    return held if not circle_in(len(held.units), held.unit_edges) else asked


@settings(max_examples=20, deadline=None)
@given(st.randoms(use_true_random=False), st.integers(1, 6))
def test_best_of_a_few_is_that_of_all_their_orders(rng: Any, count: int) -> None:
    asked = drawn(rng, count)
    model = modelled(asked)
    orders = [order for order in permutations(range(count)) if asked.keeps(order)]
    least = min(model.worth(order) for order in orders)
    if asked.goal is None:
        assert least == pytest.approx(GRAIN * min(asked.cost(order).seconds for order in orders), abs=count)
    found = searched(model, 10)
    assert asked.keeps(found.order)
    assert (found.cost, found.bound) == (least, least)
    # every bound, at the start and on the way of the best
    masks, state = [0] * len(model.pieces), model.start
    assert Bounds(model).least(masks, state) <= least
    assert CallBounds(model).least(0, state) <= least


@settings(max_examples=15, deadline=None)
@given(st.randoms(use_true_random=False), st.integers(2, 7))
def test_calls_are_counted_exactly(rng: Any, count: int) -> None:
    asked = replace(drawn(rng, count), runs=())
    model = modelled(asked)

    def calls(order: tuple[int, ...]) -> int:
        tools = [model.tool[k] for k in order]
        return sum(1 for i, tool in enumerate(tools) if i == 0 or tool != tools[i - 1])

    least = min(calls(order) for order in permutations(range(count)) if asked.keeps(order))
    assert Calls(model, range(count), model.tool).least(0) == least


@settings(max_examples=10, deadline=None)
@given(st.randoms(use_true_random=False), st.integers(8, 30))
def test_no_plain_order_and_no_sort_beats_the_best(rng: Any, count: int) -> None:
    asked = drawn(rng, count)
    model = modelled(asked)
    found = searched(model, 5)
    assert found.bound <= found.cost
    for order in plain_orders(asked).values():
        assert asked.keeps(order)
        assert model.worth(order) >= found.cost
    assert model.worth(by_key(asked, [step.tool for step in asked.steps])) >= found.cost


def test_like_pieces_stand_for_one_another_and_others_do_not() -> None:
    rows = [f"{p}{k} {p} T{k} 0" for p in "PQR" for k in (1, 2)]
    like = modelled(problem(*rows, before="P1>P2 Q1>Q2 R1>R2"))
    assert len({piece.kind for piece in like.pieces}) == 1
    felt = modelled(problem(*rows, before="P1>P2 Q1>Q2 R1>R2 P2>Q2 P2>R2"))
    assert [piece.kind for piece in felt.pieces] == [0, 1, 1]
    other = modelled(problem(*rows[:-1], "R2 R T2 90", before="P1>P2 Q1>Q2 R1>R2"))
    assert [piece.kind for piece in other.pieces] == [0, 0, 1]


def test_run_stays_whole_and_what_it_ends_with_is_in() -> None:
    """T1 T2 on P are one: to come to T2 on Q after it is a hop alone; apart, T1 and T2 on both are two calls."""
    rows = ("a P T1 0", "b P T2 0", "c Q T1 0", "d Q T2 0")
    free = problem(*rows, before="a>b c>d")
    held = replace(free, runs=((0, 1),))
    assert best(free) == Cost(2, 0, 2, pytest.approx(2 * 4.2 + 2 * 1.3))
    order = searched(modelled(held), 10)
    assert abs(order.order.index(1) - order.order.index(0)) == 1
    # c first: T1, hop to P with T1 in, T2, hop to Q: the same two calls
    assert held.cost(order.order) == best(free)
    crossed = replace(problem(*rows, before="a>c c>b"), runs=((0, 1),))
    with pytest.raises(PlanError, match="stay whole"):
        check_order_problem(crossed)


def test_quick_changer_and_hand_change_ask_for_other_orders() -> None:
    """Two tools on four pieces at two angles: with a slow table each side is ended first, by hand each tool."""
    rows = [f"{p}{k} {p} T{k} {90 * (i // 2)}" for i, p in enumerate("PQRS") for k in (1, 2)]
    before = " ".join(f"{p}1>{p}2" for p in "PQRS")
    table = best(problem(*rows, before=before, times=Times(1.0, 20.0, 0.1, 0.5)))
    hand = best(problem(*rows, before=before, times=Times(45.0, 1.0, 0.01, 0.5)))
    assert (table.index, hand.tool) == (1, 2)
    assert table.tool > hand.tool
    assert hand.index > 1 or hand.index == table.index


def test_least_of_changes_that_together_are_asked_for() -> None:
    """3 s a tool, 1.4 + 1.8 an index, 1.1 a hop; 20 (tool, angle) and 49 (tool, piece): 19, 1, 30 are 93.2 s."""
    model = modelled(problem("a P T1 0", "b Q T2 180", times=Times(3.0, 1.4, 0.01, 1.1)))
    assert model.least_of(12, 1, 9, 20, 49, 9, 49) == pytest.approx(93.2 * GRAIN)


def test_bound_is_told_in_the_goal_s_terms() -> None:
    asked = problem("a P T1 0", "b Q T2 90", goal=("tool", "piece", "index"))
    model = modelled(asked)
    cost = asked.cost([0, 1])
    assert bound_in(model, model.worth([0, 1]), cost) == ([2, 1, 1], True)
    assert bound_in(model, model.worth([0, 1]) - 1, cost) == ([2, 1, 0], False)
    seconds = modelled(problem("a P T1 0", "b Q T2 90"))
    assert bound_in(seconds, seconds.worth([0, 1]), cost) == (pytest.approx(11.6), True)


def test_searching_stops_when_told() -> None:
    rows = [f"{p}{k} P{p} T{(p * k) % 7} {90 * (k % 3)}" for p in range(9) for k in range(9)]
    asked = problem(*rows)
    found = searched(modelled(asked), 60, go_on=lambda _: False)
    assert asked.keeps(found.order)
    assert found.bound <= found.cost


# ---- cases with proven answers


@pytest.mark.parametrize(
    "name", sorted(p.name.removesuffix(".problem.json") for p in CASES.glob("s[01]*.problem.json"))
)
def test_case_comes_to_its_proven_optimum(name: str) -> None:
    asked = parse_sequence_problem((CASES / f"{name}.problem.json").read_text(encoding="utf-8"))
    known = json.loads((CASES / f"{name}.expect.json").read_text(encoding="utf-8"))
    cost = best(asked.order)
    if known["goal"] == "seconds":
        assert cost.seconds <= known["optimum"] * (1 + known["gap"]) + 0.001
    else:
        assert [cost.count(count) for count in known["goal"]] == known["optimum"]


@pytest.mark.parametrize("name", sorted(p.name.removesuffix(".problem.json") for p in CASES.glob("s2*.problem.json")))
def test_bad_case_names_its_place(name: str) -> None:
    known = json.loads((CASES / f"{name}.expect.json").read_text(encoding="utf-8"))
    with pytest.raises(ProblemError) as refused:
        parse_sequence_problem((CASES / f"{name}.problem.json").read_text(encoding="utf-8"))
    said = f"{refused.value.place} {refused.value.message}"
    assert any(word in said for word in known["place_any"])


GOOD = {
    "format": "lean-ledger/sequence-problem@1",
    "operations": [{"id": "a", "piece": "P", "tool": "T1", "angle": 0, "seconds": 1},
                   {"id": "b", "piece": "P", "tool": "T2", "angle": 0, "seconds": 1}],
    "before": [["b", "a"]], "times": {"tool_change": 4, "index": 1, "index_per_degree": 0, "piece": 1},
    "start": {"tool": None, "angle": 0, "piece": None}, "goal": "seconds", "time_limit": 5,
}  # fmt: skip


def test_answer_says_what_was_given_and_what_was_found() -> None:
    answer = sequence_document(parse_sequence_problem(json.dumps(GOOD)))
    assert answer["order"] == ["b", "a"]
    assert answer["given"] is None  # the file's own order breaks what must come before
    assert answer["found"] == {"tool": 2, "index": 0, "piece": 0, "seconds": 8}
    assert (answer["lower_bound"], answer["proven"]) == (8, True)
    counted = sequence_document(parse_sequence_problem(json.dumps(GOOD | {"goal": ["piece", "tool", "index"]})))
    assert counted["lower_bound"] == [0, 2, 0]


@pytest.mark.parametrize(
    ("change", "place"),
    [
        ({"goal": ["tool", "piece"]}, "goal"), ({"goal": "minutes"}, "goal"), ({"time_limit": 0}, "time_limit"),
        ({"operations": []}, "operations"), ({"before": [["a"]]}, "before[0]"), ({"before": [["a", "a"]]}, "before[0]"),
        ({"times": {"tool_change": -1, "index": 1, "index_per_degree": 0, "piece": 1}}, "times.tool_change"),
        ({"more": 1}, "more"),
    ],
)  # fmt: skip
def test_bad_problem_names_its_place(change: dict[str, Any], place: str) -> None:
    with pytest.raises(ProblemError) as refused:
        parse_sequence_problem(json.dumps(GOOD | change))
    assert refused.value.place == place
