"""Orders within a setup. An order is a tuple of operation ids that breaks no precedence."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from lean_ledger.core.errors import PlanError
from lean_ledger.core.operations.model import Operation

SEARCH_STATES = 20_000  # beyond this many the grouping is good, not proven least


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


def tool_calls(order: Sequence[str], operations: Mapping[str, Operation]) -> int:
    """How often a tool is called, the first one included."""
    tools = [operations[id].tool.id for id in order]
    return sum(1 for i, tool in enumerate(tools) if i == 0 or tools[i - 1] != tool)


def grouped_by_tool(operations: Sequence[Operation]) -> tuple[str, ...]:
    """An order with the fewest tool calls that the precedences allow.

    Once a tool is in, all that it can do is done before it is changed: that never costs a call. What remains is which
    tool comes next, searched breadth first over the sets of finished operations; the first complete order is least.
    """
    by_id = {op.id: op for op in operations}
    usual = default_order(operations)
    needs = {op.id: {b for b, _ in op.after if b in by_id} for op in operations}

    def run(done: frozenset[str], tool: str) -> tuple[str, ...]:
        made: list[str] = []
        finished = set(done)
        grown = True
        while grown:
            grown = False
            for id in usual:
                if id not in finished and by_id[id].tool.id == tool and needs[id] <= finished:
                    finished.add(id)
                    made.append(id)
                    grown = True
        return tuple(made)

    tools = list(dict.fromkeys(by_id[id].tool.id for id in usual))
    front: list[tuple[frozenset[str], tuple[str, ...]]] = [(frozenset(), ())]
    seen = {frozenset[str]()}
    while front:
        following: list[tuple[frozenset[str], tuple[str, ...]]] = []
        for done, order in front:
            if len(done) == len(usual):
                return order
            for tool in tools:
                made = run(done, tool)
                state = done | frozenset(made)
                if made and state not in seen:
                    seen.add(state)
                    following.append((state, order + made))
        if len(seen) > SEARCH_STATES:  # keep the most promising; still a valid order, no longer proven
            following = sorted(following, key=lambda item: -len(item[0]))[:200]
        front = following
    return usual


def _topological(operations: Sequence[Operation], key: Callable[[Operation], tuple[object, ...]]) -> tuple[str, ...]:
    """Always the ready operation with the least key next."""
    by_id = {op.id: op for op in operations}
    waiting = {op.id: {b for b, _ in op.after if b in by_id} for op in operations}
    done: list[str] = []
    while waiting:
        ready = [id for id, needs in waiting.items() if not needs]
        if not ready:
            raise PlanError("precedence-cycle", f"these operations wait for one another: {', '.join(waiting)}")
        chosen = min(ready, key=lambda id: key(by_id[id]))  # type: ignore[arg-type, return-value]
        del waiting[chosen]
        for needs in waiting.values():
            needs.discard(chosen)
        done.append(chosen)
    return tuple(done)
