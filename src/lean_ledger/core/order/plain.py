"""Plain orders: piece by piece, step by step, tool by tool; and sorts by keys of one's own that break no precedence."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
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
    """Always the least of what is free next; like ones stay as they stand."""
    waits = [0] * len(problem.steps)
    after: dict[int, list[int]] = {}
    for a, b in problem.edges:
        waits[b] += 1
        after.setdefault(a, []).append(b)
    free = [(keys[k], k) for k, left in enumerate(waits) if not left]
    heapify(free)
    found = []
    while free:
        _, k = heappop(free)
        found.append(k)
        for b in after.get(k, ()):
            waits[b] -= 1
            if not waits[b]:
                heappush(free, (keys[b], b))
    return tuple(found)


def _while_in(problem: OrderProblem, wanted: Sequence[int], key: Callable[[Step], str]) -> tuple[int, ...]:
    """All that what is in can do before it is changed; what comes next by the order that is wanted."""
    needs: dict[int, set[int]] = {}
    for a, b in problem.edges:
        needs.setdefault(b, set()).add(a)
    left, done, found = list(wanted), set[int](), list[int]()
    now: str | None = problem.start.tool
    while left:
        free = [k for k in left if needs.get(k, set()) <= done]
        k = next((k for k in free if key(problem.steps[k]) == now), free[0])
        now = key(problem.steps[k])
        left.remove(k)
        done.add(k)
        found.append(k)
    return tuple(found)


def _depths(problem: OrderProblem) -> list[int]:
    depth = [0] * len(problem.steps)
    for k in by_key(problem, list(range(len(problem.steps)))):
        for a, b in problem.edges:
            if a == k:
                depth[b] = max(depth[b], depth[k] + 1)
    return depth


def _first_met(values: Sequence[str]) -> Mapping[str, int]:
    return {value: k for k, value in enumerate(dict.fromkeys(values))}
