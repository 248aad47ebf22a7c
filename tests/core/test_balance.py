"""Tasks spread over stations: the fullest one is as empty as can be, and what cannot be says why."""

from __future__ import annotations

import json
from dataclasses import replace
from fractions import Fraction
from itertools import product
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.order.balance import Balanced, BalanceProblem, Task, balanced
from lean_ledger.core.order.balance_problem import balance_document, parse_balance_problem

ENOUGH = 6  # s: what is to be within a gap is there long before it is proven
CASES = Path(__file__).parents[1] / "cases" / "solvers"


def problem(seconds: dict[str, float], stations: int, **rules: Any) -> BalanceProblem:
    where = rules.pop("where", {})
    tasks = tuple(Task(id, Fraction(str(s)), where.get(id)) for id, s in seconds.items())
    return BalanceProblem(tasks, rules.get("before", ()), rules.get("together", ()), rules.get("apart", ()), stations)


def keeps(asked: BalanceProblem, where: dict[str, int]) -> bool:
    return (
        all(where[a] <= where[b] for a, b in asked.before) and all(where[a] == where[b] for a, b in asked.together)
        and all(where[a] != where[b] for a, b in asked.apart)
        and all(task.stations is None or where[task.id] in task.stations for task in asked.tasks)
    )  # fmt: skip


def test_four_tasks_on_two_stations() -> None:
    """3, 3, 2, 2 in a row: 3 + 3 beside 2 + 2 is 6; nothing is below half of 10, and 5 would part a task."""
    found = balanced(problem({"a": 3, "b": 3, "c": 2, "d": 2}, 2, before=(("a", "b"), ("b", "c"), ("c", "d"))), 10)
    assert found == Balanced({"a": 1, "b": 1, "c": 2, "d": 2}, Fraction(6), Fraction(6))


@settings(max_examples=15, deadline=None)
@given(st.randoms(use_true_random=False), st.integers(1, 6), st.integers(1, 3))
def test_spread_is_that_of_every_assignment_tried(rng: Any, count: int, stations: int) -> None:
    names = [f"t{k}" for k in range(count)]

    def pairs(share: float) -> tuple[tuple[str, str], ...]:
        return tuple((a, b) for k, b in enumerate(names) for a in names[:k] if rng.random() < share)

    where = {name: tuple(sorted(rng.sample(range(1, stations + 1), rng.randint(1, stations))))
             for name in names if rng.random() < 0.3}  # fmt: skip
    asked = problem({name: rng.randint(1, 60) / 4 for name in names}, stations, where=where, before=pairs(0.2),
                    together=pairs(0.08), apart=pairs(0.08))  # fmt: skip
    able = [dict(zip(names, spread, strict=True)) for spread in product(range(1, stations + 1), repeat=count)]
    able = [spread for spread in able if keeps(asked, spread)]
    if not able:
        with pytest.raises(PlanError) as refused:
            balanced(asked, 10)
        assert any(word in refused.value.message for word in (*names, "apart", "together", "before"))
        return
    least = min(max(Balanced(spread, Fraction(0), Fraction(0)).loads(asked)) for spread in able)
    found = balanced(asked, 10)
    assert keeps(asked, dict(found.stations))
    assert max(found.loads(asked)) == found.fullest == found.bound == least


@pytest.mark.parametrize("name", sorted(p.name.removesuffix(".problem.json") for p in CASES.glob("b0*.problem.json")))
def test_case_comes_to_its_proven_optimum(name: str) -> None:
    known = json.loads((CASES / f"{name}.expect.json").read_text(encoding="utf-8"))
    asked = parse_balance_problem((CASES / f"{name}.problem.json").read_text(encoding="utf-8"))
    answer = balance_document(replace(asked, time_limit=min(asked.time_limit, ENOUGH)))
    assert answer["lower_bound"] <= known["optimum"] + 1e-6
    assert known["optimum"] - 1e-6 <= answer["cycle"] <= known["optimum"] * (1 + known["gap"]) + 1e-6
    assert answer["proven"] == (answer["lower_bound"] == answer["cycle"])


@pytest.mark.parametrize("name", sorted(p.name.removesuffix(".problem.json") for p in CASES.glob("b2*.problem.json")))
def test_bad_case_names_its_place(name: str) -> None:
    known = json.loads((CASES / f"{name}.expect.json").read_text(encoding="utf-8"))
    with pytest.raises(ProblemError) as refused:
        balance_document(parse_balance_problem((CASES / f"{name}.problem.json").read_text(encoding="utf-8")))
    assert any(word in f"{refused.value.place} {refused.value.message}" for word in known["place_any"])


GOOD = {
    "format": "lean-ledger/balance-problem@1",
    "tasks": [{"id": "a", "seconds": 3.1, "stations": None}, {"id": "b", "seconds": 2.0}],
    "stations": 2, "transfer": 0.4, "time_limit": 5,
}  # fmt: skip


def test_answer_has_loads_cycle_and_idle() -> None:
    """3.1 and 2.0 s, 0.4 to go on: a cycle of 3.5; 1 − 5.1 / 7.0 of it is idle."""
    answer = balance_document(parse_balance_problem(json.dumps(GOOD)))
    assert (answer["cycle"], answer["lower_bound"], answer["proven"]) == (3.5, 3.5, True)
    assert sorted(answer["loads"]) == [2.0, 3.1]
    assert answer["idle"] == pytest.approx(1 - 5.1 / 7.0, abs=1e-6)


@pytest.mark.parametrize(
    ("change", "place"),
    [
        ({"stations": 0}, "stations"), ({"tasks": []}, "tasks"), ({"before": [["a"]]}, "before[0]"),
        ({"before": [["a", "b"], ["b", "a"]]}, "before"), ({"apart": [["a", "a"]]}, "apart[0]"),
        ({"tasks": [{"id": "a", "seconds": 1, "stations": [3]}]}, "tasks[0].stations"),
        ({"tasks": [{"id": "a", "seconds": 1}, {"id": "a", "seconds": 1}]}, "tasks[1].id"),
        ({"time_limit": -1}, "time_limit"), ({"speed": 1}, "speed"),
    ],
)  # fmt: skip
def test_bad_problem_names_its_place(change: dict[str, Any], place: str) -> None:
    with pytest.raises(ProblemError) as refused:
        parse_balance_problem(json.dumps(GOOD | change))
    assert refused.value.place == place
