"""Marks put in one by one, for problems that are too large to look at all ways: whenever the next work would begin
before all that it asks for is sure, the mark that delays the cycle least so far.
"""

from __future__ import annotations

from collections.abc import Iterator

from lean_ledger.core.order.waits import Mark, Plan, Ran, WaitProblem, run

Orders = tuple[tuple[int, ...], ...]
BACK = 4  # works of each path that a mark may be put before the newest


def with_marks(problem: WaitProblem, orders: Orders) -> Plan:
    """The orders with marks, some of which may be needless."""
    upto, marks = [0] * len(orders), list[Mark]()
    for k, p in _as_they_begin(problem, orders):
        upto[p] += 1
        group = problem.mate.get(k, 1 << k)
        begun = sum(1 << one for q, order in enumerate(orders) for one in order[: upto[q]])
        if group & ~begun:
            continue  # its mates come next
        marks = _with_mates(problem, orders, upto, marks, group) if group != 1 << k else marks
        for one in (one for one in range(len(problem.works)) if group >> one & 1):
            marks = _made_sure(problem, orders, upto, marks, (one, begun & ~group))
    return Plan(orders, tuple(marks))


def _as_they_begin(problem: WaitProblem, orders: Orders) -> list[tuple[int, int]]:
    """(work, path) in the order of their starts, if nothing had to be made sure."""
    done, at = [0] * len(orders), [problem.to(order[0] if order else None, None) for order in orders]
    ends: dict[int, int] = {}
    found = list[tuple[int, int]]()
    total = sum(map(len, orders))
    while len(found) < total:
        best: tuple[int, int] | None = None
        for p, order in enumerate(orders):
            if done[p] == len(order):
                continue
            k = order[done[p]]
            group = [one for one in range(len(problem.works)) if problem.mate.get(k, 1 << k) >> one & 1]
            heads = {order_[done[q]] for q, order_ in enumerate(orders) if done[q] < len(order_)}
            asked = problem.needs[k] | problem.apart[k]
            if any(problem.needs[one] >> a & 1 and a not in ends for one in group for a in range(len(problem.works))):
                continue
            if any(one not in heads and one not in ends for one in group):
                continue
            start = max([at[p], *(ends[a] for a in ends if asked >> a & 1)])
            if best is None or (start, p) < best:
                best = (start, p)
        assert best is not None, "the orders wait for one another"
        start, p = best
        k = orders[p][done[p]]
        done[p] += 1
        ends[k] = start + problem.works[k].seconds
        at[p] = ends[k] + problem.to(orders[p][done[p]] if done[p] < len(orders[p]) else None, k)
        found.append((k, p))
    return found


def _so_far(problem: WaitProblem, orders: Orders, upto: list[int], marks: list[Mark]) -> Ran:
    return run(problem, Plan(tuple(order[:n] for order, n in zip(orders, upto, strict=True)), tuple(marks)))


def _made_sure(
    problem: WaitProblem, orders: Orders, upto: list[int], marks: list[Mark], of: tuple[int, int]
) -> list[Mark]:
    """With marks until all that a work asks for, of those that have begun, is sure when it begins."""
    k, begun = of
    path = {one: p for p, order in enumerate(orders) for one in order}
    while True:
        sure = _so_far(problem, orders, upto, marks).sure[k]
        asked = (problem.needs[k] | problem.apart[k]) & begun & ~sure
        missing = [one for one in range(len(problem.works)) if asked >> one & 1]
        if not missing:
            return marks
        a = max(missing, key=lambda one: orders[path[one]].index(one))
        marks = _cheapest(problem, orders, upto, marks, ((path[k], orders[path[k]].index(k)), (path[a], a)))


def _cheapest(
    problem: WaitProblem, orders: Orders, upto: list[int], marks: list[Mark],
    between: tuple[tuple[int, int], tuple[int, int]],
) -> list[Mark]:  # fmt: skip
    """A mark after a work on one path and before another on the other, where all together ends first."""
    (p, before), (q, a) = between
    after = orders[q].index(a) + 1
    best: tuple[tuple[int, int], list[Mark]] | None = None
    for j in range(max(0, before - BACK), before + 1):
        for i in range(after, min(upto[q], after + BACK) + 1):
            for tried in _put(marks, Mark(((p, j), (q, i)) if p < q else ((q, i), (p, j)))):
                ran = _so_far(problem, orders, upto, tried)
                if not ran.sure[orders[p][before]] >> a & 1:
                    continue
                last = [ran.ends[order[n - 1]] for order, n in zip(orders, upto, strict=True) if n]
                cost = (max(last), sum(last))
                if best is None or cost < best[0]:
                    best = (cost, tried)
    assert best is not None, "a mark right after the one and right before the other makes it sure"
    return best[1]


def _put(marks: list[Mark], new: Mark) -> Iterator[list[Mark]]:
    """With one more, in an order in which they can be met: each path comes to its own one after the other. Where others
    stand between the same works of a path the new one comes as early, or as late, as its other path lets it.
    """
    own = dict(new.after)
    first: set[int] = set()  # marks that are met before it
    for n, mark in enumerate(marks):
        if any(p in own and done < own[p] for p, done in mark.after):
            first.add(n)
    later = {n for n, m in enumerate(marks) if any(p in own and done > own[p] for p, done in m.after)}
    before, after = _closed(marks, first, forward=False), _closed(marks, later, forward=True)
    if before & after:
        return
    free = set(range(len(marks))) - before - after
    for early in ({*after, *free}, after):
        yield [
            *(m for n, m in enumerate(marks) if n not in early),
            new,
            *(m for n, m in enumerate(marks) if n in early),
        ]
        if not free:
            return


def _closed(marks: list[Mark], some: set[int], *, forward: bool) -> set[int]:
    """With all that have to be met before them, or after them: those that share a path with them, and so on."""
    found, rows = set(some), [*enumerate(marks)] if forward else [*enumerate(marks)][::-1]
    met = set[int]()
    for n, mark in rows:
        paths = {p for p, _ in mark.after}
        if n in found or paths & met:
            found.add(n)
            met |= paths
    return found


def _with_mates(problem: WaitProblem, orders: Orders, upto: list[int], marks: list[Mark], group: int) -> list[Mark]:
    """With the mark that those who start together meet right before."""
    at = [(p, order.index(k)) for p, order in enumerate(orders) for k in order if group >> k & 1]
    return [*marks, Mark(tuple(at))]
