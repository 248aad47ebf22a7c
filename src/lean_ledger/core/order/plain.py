"""Plain orders: piece by piece, step by step, tool by tool; and sorts by keys of one's own that break no precedence."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from heapq import heapify, heappop, heappush
from typing import Any, Literal

from lean_ledger.core.order.problem import OrderProblem, Step

Policy = Literal["piece", "step", "tool"]
Key = Literal["tool", "angle", "offset", "operation", "piece", "setup"]


@dataclass(frozen=True)
class SortKey:
    """`values`: in which order they come; those that are not named come after them, as they are."""

    by: Key
    values: tuple[str, ...] = ()


def plain_orders(problem: OrderProblem) -> dict[Policy, tuple[int, ...]]:
    """All of one piece after the other, each step at all pieces, each tool at all pieces; by what comes first now."""
    depth = _depths(problem)
    pieces = _first_met([step.piece for step in problem.steps])
    tools = _first_met([step.tool for step in problem.steps])
    every = range(len(problem.steps))
    keys: dict[Policy, Callable[[int], tuple[int, ...]]] = {
        "piece": lambda k: (pieces[problem.steps[k].piece], k),
        "step": lambda k: (depth[k], tools[problem.steps[k].tool], pieces[problem.steps[k].piece], k),
        "tool": lambda k: (tools[problem.steps[k].tool], pieces[problem.steps[k].piece], k),
    }
    found = {name: by_key(problem, [key(k) for k in every]) for name, key in keys.items()}
    found["tool"] = _while_in(problem, found["tool"], lambda step: step.tool)
    return found


def by_key(problem: OrderProblem, keys: Sequence[Any]) -> tuple[int, ...]:
    """Always the least of what is free next; like ones stay as they stand. A run goes by its first step."""
    units = problem.units
    waits = [0] * len(units)
    after: dict[int, list[int]] = {}
    for a, b in problem.unit_edges:
        waits[b] += 1
        after.setdefault(a, []).append(b)
    free = [(keys[units[u][0]], u) for u, left in enumerate(waits) if not left]
    heapify(free)
    found = []
    while free:
        _, u = heappop(free)
        found.append(u)
        for b in after.get(u, ()):
            waits[b] -= 1
            if not waits[b]:
                heappush(free, (keys[units[b][0]], b))
    return problem.expanded(found)


def _while_in(problem: OrderProblem, wanted: Sequence[int], key: Callable[[Step], str]) -> tuple[int, ...]:
    """All that what is in can do before it is changed; what comes next by the order that is wanted."""
    units = problem.units
    rank = {u: i for i, u in enumerate(dict.fromkeys(problem.unit_of[k] for k in wanted))}
    waits, after = [0] * len(units), dict[int, list[int]]()
    for a, b in problem.unit_edges:
        waits[b] += 1
        after.setdefault(a, []).append(b)
    free: dict[str, list[tuple[int, int]]] = {}  # by what each is come to with

    def ready(u: int) -> None:
        heappush(free.setdefault(key(problem.steps[units[u][0]]), []), (rank[u], u))

    for u, left in enumerate(waits):
        if not left:
            ready(u)
    now, found = problem.start.tool, list[int]()
    while any(free.values()):
        if not free.get(now or ""):
            now = min((heap[0], name) for name, heap in free.items() if heap)[1]
        _, u = heappop(free[now or ""])
        found.append(u)
        now = key(problem.steps[units[u][-1]])
        for b in after.get(u, ()):
            waits[b] -= 1
            if not waits[b]:
                ready(b)
    return problem.expanded(found)


def _depths(problem: OrderProblem) -> list[int]:
    depth = [0] * len(problem.steps)
    after: dict[int, list[int]] = {}
    for a, b in problem.edges:
        after.setdefault(a, []).append(b)
    for k in _topological(problem):
        for b in after.get(k, ()):
            depth[b] = max(depth[b], depth[k] + 1)
    return depth


def _topological(problem: OrderProblem) -> tuple[int, ...]:
    """Of the steps by themselves, whatever stays whole."""
    return by_key(replace(problem, runs=()), list(range(len(problem.steps))))


def _first_met(values: Sequence[str]) -> Mapping[str, int]:
    return {value: k for k, value in enumerate(dict.fromkeys(values))}
