"""Timelines by a list: whenever a path is free it takes the first work of the list that may begin on it then.

Two that must not overlap do not, so works of one speed gather by themselves. The list is changed work by work, kept
where the end is earlier and now and then where it is not, less and less so: simulated annealing, always by the same
random numbers.
"""

from __future__ import annotations

from heapq import heappop, heappush
from math import exp
from random import Random
from time import monotonic

from lean_ledger.core.order.waits import WaitProblem

Orders = tuple[tuple[int, ...], ...]
HOT, COLD = 0.03, 0.0005  # shares of the end that a list may be worse by, at first and at last
BEST = 24  # of the lists that are kept


def listed(problem: WaitProblem, order: list[int]) -> tuple[int, Orders]:
    """(end, works of each path) of a list of all works."""
    works, paths = problem.works, range(len(problem.paths))
    free, last = [0] * len(paths), [-1] * len(paths)
    rows: list[list[int]] = [[] for _ in paths]
    over = running = 0
    ends: list[tuple[int, int]] = []
    left, now, end = list(order), 0, 0
    while left:
        begun = False
        for k in left:
            group = problem.mate.get(k)
            if problem.needs[k] & ~over or problem.apart[k] & running:
                continue
            own = [k] if group is None else [one for one in left if group >> one & 1]
            at = _paths_for(problem, own, free, last, now)
            if at is None or any(problem.needs[one] & ~over or problem.apart[one] & running for one in own):
                continue
            for one, p in zip(own, at, strict=True):
                free[p] = now + works[one].seconds
                last[p] = one
                rows[p].append(one)
                running |= 1 << one
                heappush(ends, (free[p], one))
                end = max(end, free[p])
                left.remove(one)
            begun = True
            break
        if begun:
            continue
        changed = [free[p] + problem.change for p in paths]  # when a path has its next tool in
        now = min([*(end for end, _ in ends[:1]), *(at for at in changed if at > now)])
        while ends and ends[0][0] <= now:
            _, k = heappop(ends)
            running &= ~(1 << k)
            over |= 1 << k
    return end, tuple(map(tuple, rows))


def _paths_for(problem: WaitProblem, own: list[int], free: list[int], last: list[int], now: int) -> list[int] | None:
    """A path of its own for each, that is free by now, its change made; the one that has the tool in first."""
    found: list[int] = []
    for k in own:
        able = [
            p for p in problem.works[k].paths if p not in found and free[p] + problem.to(k, _or_none(last[p])) <= now
        ]
        if not able:
            return None
        found.append(min(able, key=lambda p: (problem.to(k, _or_none(last[p])), p)))
    return found


def _or_none(k: int) -> int | None:
    return None if k < 0 else k


def annealed(problem: WaitProblem, until: float) -> list[Orders]:
    """Orders of the best lists that are found until a time (monotonic), the best first."""
    random, began = Random(1), monotonic()
    now = sorted(range(len(problem.works)), key=lambda k: -problem.tail[k])
    end, orders = listed(problem, now)
    kept = {orders: end}
    while (clock := monotonic()) < until:
        heat = HOT * (COLD / HOT) ** ((clock - began) / max(until - began, 1e-9))
        i, j = random.sample(range(len(now)), 2)
        other = list(now)
        if random.random() < 0.5:
            other[i], other[j] = other[j], other[i]
        else:
            other.insert(j, other.pop(i))
        then, orders = listed(problem, other)
        if then <= end or random.random() < exp((end - then) / (heat * end)):
            now, end = other, then
            kept[orders] = then
            if len(kept) > 10 * BEST:
                kept = dict(sorted(kept.items(), key=lambda one: one[1])[:BEST])
    return sorted(kept, key=lambda one: kept[one])[:BEST]
