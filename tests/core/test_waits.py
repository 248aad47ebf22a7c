"""Paths beside one another: what is sure at a mark, what a run takes, and that no run is shorter."""

from __future__ import annotations

import json
from itertools import combinations, pairwise, permutations, product
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.order.timeline_problem import one_by_one, parse_timeline_problem, timeline_document
from lean_ledger.core.order.waits import Mark, Plan, WaitProblem, Work, holds, run, without_needless
from lean_ledger.core.order.waits_search import scheduled

CASES = Path(__file__).parents[1] / "cases" / "timeline"
MAIN = frozenset({0})


def above_and_below(change: int = 0) -> WaitProblem:
    """Face 1 and turn 10 above, drill 5 and bore 6 below, all at one speed; bore needs face."""
    works = (
        Work("face", (0,), MAIN, 1, "T1", "a"), Work("turn", (0,), MAIN, 10, "T1", "a"),
        Work("drill", (1,), MAIN, 5, "T2", "a"), Work("bore", (1,), MAIN, 6, "T2", "a"),
    )  # fmt: skip
    return WaitProblem(("upper", "lower"), works, ((0, 1), (2, 3), (0, 3)), (), change, 1)


@pytest.mark.parametrize(("mark", "cycle"), [((1, 0), 12), ((1, 1), 15), ((2, 1), 17)])
def test_mark_also_holds_the_path_that_is_early(mark: tuple[int, int], cycle: int) -> None:
    """After face and before drill 12, after face and drill 15, after turn and drill 17; without one nothing is sure."""
    asked = above_and_below()
    plan = Plan(((0, 1), (2, 3)), (Mark(((0, mark[0]), (1, mark[1]))),))
    assert run(asked, plan).cycle == cycle
    assert holds(asked, plan)
    assert not holds(asked, Plan(plan.orders, ()))
    assert scheduled(asked, 10).cycle == 12


def test_path_changes_its_tool_before_it_waits() -> None:
    """Turn needs another tool, 2 s: the upper path is at the mark at 3, and so bore begins at 3 at the soonest."""
    asked = above_and_below(2)
    works = (asked.works[0], Work("turn", (0,), MAIN, 10, "T9", "a"), *asked.works[2:])
    asked = WaitProblem(asked.paths, works, asked.before, (), 2, 1)
    ran = run(asked, Plan(((0, 1), (2, 3)), (Mark(((0, 1), (1, 0))),)))
    assert (ran.met, ran.starts) == ((3,), (0, 3, 3, 8))
    assert one_by_one(asked, ((0, 1), (2, 3))) == 1 + 10 + 5 + 6 + 2


def test_marks_that_nothing_needs_are_left_out() -> None:
    asked = above_and_below()
    marks = tuple(Mark(((0, i), (1, j))) for i, j in ((1, 0), (1, 1), (2, 2)))
    assert without_needless(asked, Plan(((0, 1), (2, 3)), marks)).marks in ((marks[0],), (marks[1],))


def drawn(rng: Any, count: int, paths: int) -> WaitProblem:
    works = []
    for k in range(count):
        on = tuple(sorted(rng.sample(range(paths), rng.choice((1, 1, min(2, paths))))))
        both = rng.random() < 0.1
        spindles = frozenset((0, 1)) if both else frozenset({rng.randint(0, 1)})
        speed = None if both else rng.choice(("a", "a", "b", None))
        works.append(Work(f"o{k}", on, spindles, rng.randint(1, 20), f"T{rng.randint(1, 3)}", speed))
    before = tuple((a, b) for b in range(count) for a in range(b) if rng.random() < 0.25)
    return WaitProblem(tuple(f"p{p}" for p in range(paths)), tuple(works), before, (), rng.choice((0, 1, 2)), 1)


def every_run(asked: WaitProblem) -> int:
    """The least of all orders on two paths with up to three marks."""
    best = None
    count = len(asked.works)
    for where in product(*[work.paths for work in asked.works]):
        own = [[k for k in range(count) if where[k] == p] for p in (0, 1)]
        for orders in product(*[list(permutations(one)) for one in own]):
            spots = list(product(range(len(orders[0]) + 1), range(len(orders[1]) + 1)))
            for many in range(4):
                for chosen in combinations(spots, many):
                    if all(a[1] <= b[1] for a, b in pairwise(chosen)):
                        plan = Plan(tuple(orders), tuple(Mark(((0, i), (1, j))) for i, j in chosen))
                        if holds(asked, plan):
                            cycle = run(asked, plan).cycle
                            best = cycle if best is None else min(best, cycle)
    assert best is not None
    return best


@settings(max_examples=10, deadline=None)
@given(st.randoms(use_true_random=False), st.integers(1, 4))
def test_shortest_is_that_of_every_run_tried(rng: Any, count: int) -> None:
    asked = drawn(rng, count, 2)
    found = scheduled(asked, 20)
    assert found.cycle == found.bound == every_run(asked)
    assert holds(asked, found.plan)


@settings(max_examples=10, deadline=None)
@given(st.randoms(use_true_random=False), st.integers(2, 7), st.integers(1, 3))
def test_run_keeps_all_and_lies_between_its_bounds(rng: Any, count: int, paths: int) -> None:
    asked = drawn(rng, count, paths)
    found = scheduled(asked, 3)
    ran = run(asked, found.plan)
    assert holds(asked, found.plan)
    assert sorted(k for order in found.plan.orders for k in order) == list(range(count))
    assert found.bound <= ran.cycle == found.cycle
    assert found.cycle >= max(work.seconds for work in asked.works)
    for a, b in asked.before:
        assert ran.ends[a] <= ran.starts[b]
    for mark in found.plan.marks:
        less = tuple(one for one in found.plan.marks if one is not mark)
        assert not holds(asked, Plan(found.plan.orders, less))


def test_no_time_gives_a_run_all_the_same() -> None:
    class Drawn:
        def __init__(self) -> None:
            self._at = 7

        def random(self) -> float:
            self._at = (self._at * 1103515245 + 12345) % 2**31
            return self._at / 2**31

        def randint(self, low: int, high: int) -> int:
            return low + int(self.random() * (high - low + 1))

        def choice(self, values: Any) -> Any:
            return values[self.randint(0, len(values) - 1)]

        def sample(self, values: Any, count: int) -> list[int]:
            return list(values)[:count]

    asked = drawn(Drawn(), 14, 3)
    found = scheduled(asked, 1e-6)
    assert holds(asked, found.plan)
    assert found.bound <= found.cycle


@pytest.mark.parametrize("name", sorted(p.name.removesuffix(".problem.json") for p in CASES.glob("*.problem.json")))
def test_case_comes_to_its_optimum(name: str) -> None:
    asked = parse_timeline_problem((CASES / f"{name}.problem.json").read_text(encoding="utf-8"))
    known = json.loads((CASES / f"{name}.expect.json").read_text(encoding="utf-8"))
    found = scheduled(asked.problem, 60)
    assert found.cycle / asked.problem.unit == pytest.approx(known["optimum"])
    assert found.bound == found.cycle
    assert holds(asked.problem, found.plan)
    answer = timeline_document(asked)
    assert [wait["mark"] for wait in answer["waits"]] == list(range(1, len(answer["waits"]) + 1))
    assert {row["id"] for row in answer["operations"]} == {work.id for work in asked.problem.works}
    assert max(row["end"] for row in answer["operations"]) == answer["cycle"]


@pytest.mark.parametrize(
    "name", sorted(p.name.removesuffix(".problem.json") for p in (CASES / "bad").glob("*.problem.json"))
)
def test_bad_case_names_what_is_wrong(name: str) -> None:
    known = json.loads((CASES / "bad" / f"{name}.expect.json").read_text(encoding="utf-8"))
    with pytest.raises(ProblemError) as refused:
        parse_timeline_problem((CASES / "bad" / f"{name}.problem.json").read_text(encoding="utf-8"))
    said = f"{refused.value.place} {refused.value.message}"
    assert all(any(word in said for word in words) for words in known["names"])
