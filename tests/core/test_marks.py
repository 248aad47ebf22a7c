"""Where paths wait for one another: marks that hold whatever anything takes, and the shortest cycle that they allow."""

from __future__ import annotations

from dataclasses import replace
from random import Random
from time import monotonic

from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.order.marks import marked
from lean_ledger.core.order.marks_put import with_marks
from lean_ledger.core.order.waits import WaitProblem, Work, holds, run, without_needless
from lean_ledger.core.order.waits_listed import annealed
from lean_ledger.core.order.waits_relaxed import alone_bound, relaxed
from lean_ledger.core.order.waits_search import scheduled


def work(id: str, path: int, seconds: int, speed: str | None = "x") -> Work:
    return Work(id, (path,), frozenset({0}), seconds, id, speed)


def problem(*works: Work, before: tuple[tuple[int, int], ...] = (), **more: object) -> WaitProblem:
    return WaitProblem(("above", "below"), works, before, (), 0, 1, **more)  # type: ignore[arg-type]


def test_wait_is_met_where_nobody_has_to_wait_longer_than_needed() -> None:
    # above: a 4, b 6; below: c 9, d 2, and d waits for a. A mark right after a would hold b back until c ends at 9
    asked = problem(work("a", 0, 4), work("b", 0, 6), work("c", 1, 9), work("d", 1, 2), before=((0, 3),))
    plan = marked(asked, [(0, 1), (2, 3)])
    ran = run(asked, plan)
    assert [mark.after for mark in plan.marks] == [((0, 2), (1, 1))]
    assert ran.cycle == 12  # b ends at 10, then d; with the mark before b it would be 9 + 6 = 15


def test_what_wants_other_speeds_takes_turns_in_the_shorter_order() -> None:
    # a needs the spindle alone for 5, c for 3, and b runs after a for 10 at a speed that d shares
    asked = problem(work("a", 0, 5, None), work("b", 0, 10), work("c", 1, 3, None), work("d", 1, 4))
    plan = marked(asked, [(0, 1), (2, 3)])
    assert run(asked, plan).cycle == 18  # 5 + 3 one after the other, then b beside d: 8 + 10
    assert holds(asked, plan)


def test_tool_change_goes_on_before_a_path_waits() -> None:
    # c's tool is in after 2 of its lead, long before a ends at 6
    asked = problem(work("a", 0, 6), work("c", 1, 3), before=((0, 1),), leads=(0, 2))
    ran = run(asked, marked(asked, [(0,), (1,)]))
    assert ran.starts == (0, 6)
    assert ran.cycle == 9


def test_works_whose_tools_meet_never_run_at_the_same_time() -> None:
    asked = problem(work("a", 0, 6), work("c", 1, 3), meet=((0, 1),))
    ran = run(asked, marked(asked, [(0,), (1,)]))
    assert ran.cycle == 9
    assert run(replace(asked, meet=()), marked(replace(asked, meet=()), [(0,), (1,)])).cycle == 6


@st.composite
def drawn(draw: st.DrawFn) -> WaitProblem:
    count = draw(st.integers(2, 9))
    paths = draw(st.integers(2, 3))
    works = tuple(
        work(str(k), draw(st.integers(0, paths - 1)), draw(st.integers(1, 20)), draw(st.sampled_from([None, "x", "y"])))
        for k in range(count)
    )
    pairs = [(a, b) for a in range(count) for b in range(a + 1, count)]
    chosen = draw(st.lists(st.sampled_from(pairs), max_size=6, unique=True))
    meet = draw(st.lists(st.sampled_from(pairs), max_size=3, unique=True))
    names = ("above", "below", "behind")[:paths]
    leads = tuple(draw(st.integers(0, 3)) for _ in works)
    return WaitProblem(names, works, tuple(chosen), (), 0, 1, tuple(meet), leads)


def orders(asked: WaitProblem) -> list[tuple[int, ...]]:
    return [tuple(k for k, one in enumerate(asked.works) if one.paths == (p,)) for p in range(len(asked.paths))]


@settings(deadline=None, max_examples=20)
@given(drawn(), st.lists(st.integers(0, 60), min_size=9, max_size=9))
def test_durations_changed_at_random_break_no_order_and_let_nothing_meet(asked: WaitProblem, other: list[int]) -> None:
    plan = marked(asked, orders(asked))
    takes = tuple(replace(one, seconds=seconds) for one, seconds in zip(asked.works, other, strict=False))
    ran = run(replace(asked, works=takes), plan)
    for a, b in asked.before:
        assert ran.ends[a] <= ran.starts[b]
    for a, others in enumerate(asked.apart):
        for b in range(len(asked.works)):
            if others >> b & 1:
                assert ran.ends[a] <= ran.starts[b] or ran.ends[b] <= ran.starts[a]


@settings(deadline=None, max_examples=20)
@given(drawn())
def test_marks_put_one_by_one_hold_and_are_no_better_than_the_best(asked: WaitProblem) -> None:
    put = without_needless(asked, with_marks(asked, tuple(orders(asked))))
    assert holds(asked, put)
    assert run(asked, put).cycle >= run(asked, marked(asked, orders(asked))).cycle


def test_spindle_s_own_bound_by_hand() -> None:
    # alone 5; at x 8 and 7 on either path, 3 on the first only: 18 / 2 = 9 is more than 8 and 3
    either = [replace(work(id, 0, seconds), paths=(0, 1)) for id, seconds in (("a", 8), ("b", 7))]
    asked = problem(*either, work("c", 0, 3), work("d", 1, 5, None))
    assert alone_bound(asked) == 14


@settings(deadline=None, max_examples=8)
@given(drawn())
def test_bound_without_marks_is_below_every_run(asked: WaitProblem) -> None:
    alone, found = replace(asked, leads=(), change=2), []
    bound = relaxed(alone, monotonic() + 2, found.append)
    best = run(alone, marked(alone, min(found, key=lambda one: run(alone, marked(alone, one)).cycle))).cycle
    assert alone_bound(alone) <= bound <= best
    listed_ = [run(alone, marked(alone, one)).cycle for one in annealed(alone, monotonic() + 0.02)]
    assert bound <= min(listed_)


def test_forty_works_on_three_paths_are_planned_with_marks_that_hold() -> None:
    random = Random(3)
    works = tuple(
        Work(str(k), tuple(sorted(random.sample(range(3), random.choice((1, 2))))), frozenset({k % 2}),
             random.randint(20, 300), f"T{k % 9}", random.choice((None, "x", "y")))
        for k in range(40)
    )  # fmt: skip
    before = tuple((k, k + 2) for k in range(0, 36, 3))
    asked = WaitProblem(("a", "b", "c"), works, before, (), 12, 10)
    found = scheduled(asked, 4.0)
    assert holds(asked, found.plan)
    assert found.bound <= found.cycle < sum(one.seconds for one in works)


@settings(deadline=None, max_examples=8)
@given(drawn())
def test_no_run_with_these_orders_is_shorter(asked: WaitProblem) -> None:
    alone = replace(asked, leads=())
    found = scheduled(alone, 1.0)  # which chooses the orders as well: its own are as good as any
    assert run(alone, marked(alone, found.plan.orders)).cycle <= found.cycle
