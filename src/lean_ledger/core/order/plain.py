"""Plain orders: piece by piece, step by step, tool by tool; and sorts by keys of one's own that break no precedence."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from heapq import heapify, heappop, heappush
from typing import Any, Literal

from lean_ledger.core.order.problem import OrderProblem, Step

Policy = Literal["piece", "step", "tool"]
Key = Literal["tool", "angle", "operation", "piece", "setup"]


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
    needs: dict[int, set[int]] = {}
    for a, b in problem.unit_edges:
        needs.setdefault(b, set()).add(a)
    units = problem.units
    left, done, found = list(dict.fromkeys(problem.unit_of[k] for k in wanted)), set[int](), list[int]()
    now: str | None = problem.start.tool
    while left:
        free = [u for u in left if needs.get(u, set()) <= done]
        u = next((u for u in free if key(problem.steps[units[u][0]]) == now), free[0])
        now = key(problem.steps[units[u][-1]])
        left.remove(u)
        done.add(u)
        found.append(u)
    return problem.expanded(found)


def _depths(problem: OrderProblem) -> list[int]:
    depth = [0] * len(problem.steps)
    for k in _topological(problem):
        for a, b in problem.edges:
            if a == k:
                depth[b] = max(depth[b], depth[k] + 1)
    return depth


def _topological(problem: OrderProblem) -> tuple[int, ...]:
    """Of the steps by themselves, whatever stays whole."""
    return by_key(replace(problem, runs=()), list(range(len(problem.steps))))


def _first_met(values: Sequence[str]) -> Mapping[str, int]:
    return {value: k for k, value in enumerate(dict.fromkeys(values))}
