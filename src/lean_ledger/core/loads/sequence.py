"""Orders within a setup. An order is a tuple of operation ids that breaks no precedence."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache
from heapq import heapify, heappop, heappush
from itertools import groupby

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.order.model import modelled
from lean_ledger.core.order.plain import by_key
from lean_ledger.core.order.problem import OrderProblem, Step, Times, circle_in
from lean_ledger.core.order.search import searched
from lean_ledger.core.plan import By, Load, Precedence

STATES = 1500  # that a grouping by tool looks at; beyond them it is good, not proven least
GROUPED = 256  # groupings that are kept


BY_HAND = "by hand"


def decided(operations: Sequence[Operation], load: Load) -> tuple[Operation, ...]:
    """As the load has them: without those that are taken out for now, with its precedences by hand and without those
    that it overrules.
    """
    if not (load.out or load.before or load.overruled):
        return tuple(operations)
    gone = {(one.first, one.then) for one in load.overruled}
    found = []
    for op in operations:
        if op.id in load.out:
            continue
        after = [(id, why) for id, why in op.after if (id, op.id) not in gone]
        after += [(one.first, one.note or BY_HAND) for one in load.before if one.then == op.id]
        found.append(op if tuple(after) == op.after else replace(op, after=tuple(after)))
    return tuple(found)


def lost_by_hand(operations: Sequence[Operation], load: Load) -> tuple[Precedence, ...]:
    """Of the precedences by hand those, the newest first, that would have operations wait for one another, since a rule
    asks for the contrary by now.
    """
    lost: list[Precedence] = []
    for one in reversed(load.before):
        own = decided(operations, without(load, lost))
        at = {op.id: k for k, op in enumerate(own)}
        edges = [(at[before], at[op.id]) for op in own for before, _ in op.after if before in at]
        circle = {own[k].id for k in circle_in(len(own), edges)}
        if not circle:
            break
        if {one.first, one.then} <= circle:
            lost.append(one)
    return tuple(lost)


def without(load: Load, lost: Sequence[Precedence]) -> Load:
    return replace(load, before=tuple(one for one in load.before if one not in lost)) if lost else load


def default_order(operations: Sequence[Operation]) -> tuple[str, ...]:
    """By kind, then by tool, then by the rotary's angle, within what must come before."""
    return _topological(operations, key=lambda op: (op.kind.rank, op.tool.number, op.way.angle, op.id))


def resolved_order(operations: Sequence[Operation], wanted: Sequence[str]) -> tuple[str, ...]:
    """The order set by hand, mended for operations that came, went, or gained a precedence since.

    An operation that is not named falls in where the default order has it: right after its neighbour there.
    """
    usual = default_order(operations)
    known = [id for id in wanted if id in set(usual)]
    if not known:
        return usual
    place = {id: float(i) for i, id in enumerate(known)}
    previous = -1.0
    for id in usual:
        if id not in place:
            previous += 1e-3
            place[id] = previous
        else:
            previous = place[id]
    return _topological(operations, key=lambda op: (place[op.id],))


def check_order(operations: Sequence[Operation], order: Sequence[str]) -> None:
    """Raises PlanError naming the first precedence that the order breaks, with its reason."""
    at = {id: i for i, id in enumerate(order)}
    by_id = {op.id: op for op in operations}
    unknown = [id for id in order if id not in by_id]
    if unknown or len(at) != len(order):
        raise PlanError("order-unknown", f"the order names {unknown[0] if unknown else 'an operation twice'}")
    for op in operations:
        for before, reason in op.after:
            if before in at and op.id in at and at[before] > at[op.id]:
                raise PlanError(
                    "precedence",
                    f"“{op.name}” cannot come before “{by_id[before].name}”: {reason}",
                    op.setup,
                )


Group = tuple[Sequence[int], Sequence[Operation]]  # pieces of one setup, and its operations in their order


def interleaved(groups: Sequence[Group], by: By, first_only: Sequence[str] = ()) -> list[tuple[int, Operation]]:
    """(piece, operation): each piece's own in their order, at all pieces what one tool does, or one operation, before
    the next, there and back, so that what was left last is come to first; or all at one piece after the other.

    `first_only` are operations that the first piece of a group has and the others have not. Of several groups those
    steps are done together that one tool does, as many as their orders allow.
    """
    skips = {(piece, id) for pieces, _ in groups for piece in pieces[1:] for id in first_only}
    return [(piece, op) for piece, op in _interleaved(groups, by) if (piece, op.id) not in skips]


def _interleaved(groups: Sequence[Group], by: By) -> list[tuple[int, Operation]]:
    if by == "piece":
        own = {piece: order for pieces, order in groups for piece in pieces}
        return [(piece, op) for piece in sorted(own) for op in own[piece]]
    steps: list[list[Group]] = []  # each step has its share of every group that takes part in it
    for pieces, order in groups:
        runs: list[list[Operation]] = []
        for op in order:
            if by == "tool" and runs and runs[-1][-1].tool.id == op.tool.id:
                runs[-1].append(op)
            else:
                runs.append([op])
        steps = merged_steps(steps, [[(pieces, run)] for run in runs])
    found = []
    for k, step in enumerate(steps):
        of = {piece: run for pieces, run in step for piece in pieces}
        found += [(piece, op) for piece in sorted(of, reverse=k % 2 == 1) for op in of[piece]]
    return found


def merged_steps(a: Sequence[list[Group]], b: Sequence[list[Group]]) -> list[list[Group]]:
    """Two rows of steps in one, each in its own order, with as many as possible of one tool done together: their
    shortest common row, by dynamic programming.

    T1 T2 T3 with T2 T3 T1 is T1 T2 T3 T1: four steps, not six.
    """
    if not a or not b:
        return [*a, *b]

    def tool(step: list[Group]) -> str:
        return step[0][1][0].tool.id

    n, m = len(a), len(b)
    least = [[0] * (m + 1) for _ in range(n + 1)]  # steps of what is left from i and j on
    for i in range(n, -1, -1):
        for j in range(m, -1, -1):
            if i == n or j == m:
                least[i][j] = (n - i) + (m - j)
            elif tool(a[i]) == tool(b[j]):
                least[i][j] = 1 + least[i + 1][j + 1]
            else:
                least[i][j] = 1 + min(least[i + 1][j], least[i][j + 1])
    found, i, j = [], 0, 0
    while i < n or j < m:
        if i < n and j < m and tool(a[i]) == tool(b[j]):
            found.append([*a[i], *b[j]])
            i, j = i + 1, j + 1
        elif j == m or (i < n and least[i + 1][j] <= least[i][j + 1]):
            found.append(a[i])
            i += 1
        else:
            found.append(b[j])
            j += 1
    return found


def tool_calls(order: Sequence[str], operations: Mapping[str, Operation]) -> int:
    """How often a tool is called, the first one included."""
    tools = [operations[id].tool.id for id in order]
    return sum(1 for i, tool in enumerate(tools) if i == 0 or tools[i - 1] != tool)


def grouped_by_tool(operations: Sequence[Operation]) -> tuple[str, ...]:
    """An order with few tool calls: the fewest that the precedences allow, where the search proves it in its bounds.

    The calls, and what is done in each, are in the usual order as far as the precedences allow.
    """
    usual = default_order(operations)
    by_id = {op.id: op for op in operations}
    tools = tuple(by_id[id].tool.id for id in usual)
    before = tuple((first, id) for id in usual for first, _ in by_id[id].after if first in by_id)
    return tuple(usual[k] for k in _fewest_calls(usual, tools, before))


@lru_cache(maxsize=GROUPED)
def _fewest_calls(
    usual: tuple[str, ...], tools: tuple[str, ...], before: tuple[tuple[str, str], ...]
) -> tuple[int, ...]:  # fmt: skip
    """Indexes of steps: a problem in which a change of tool is all that costs."""
    steps = tuple(Step(id, "", tool, 0.0) for id, tool in zip(usual, tools, strict=True))
    if not steps:
        return ()
    problem = OrderProblem(steps, before, Times(tool_change=1, index=0, per_degree=0, piece=0))
    found = searched(modelled(problem), STATES, by_states=True).order
    calls = tuple(tuple(sorted(own)) for _, own in groupby(found, key=lambda k: tools[k]))
    return by_key(replace(problem, runs=calls), range(len(steps)))


def _topological(operations: Sequence[Operation], key: Callable[[Operation], tuple[object, ...]]) -> tuple[str, ...]:
    """Always the ready operation with the least key next."""
    known = {op.id for op in operations}
    waits = {op.id: {b for b, _ in op.after if b in known} for op in operations}
    needed_by: dict[str, list[str]] = {}
    for id, needs in waits.items():
        for before in needs:
            needed_by.setdefault(before, []).append(id)
    keys = {op.id: (key(op), i) for i, op in enumerate(operations)}
    ready = [(keys[id], id) for id, needs in waits.items() if not needs]
    heapify(ready)
    done: list[str] = []
    while ready:
        _, chosen = heappop(ready)
        done.append(chosen)
        for id in needed_by.get(chosen, ()):
            waits[id].discard(chosen)
            if not waits[id]:
                heappush(ready, (keys[id], id))
    if len(done) < len(waits):
        stuck = [id for id in waits if id not in set(done)]
        raise PlanError("precedence-cycle", f"these operations wait for one another: {', '.join(stuck)}")
    return tuple(done)
