"""What it would take not to call a tool a second time: each way tried out on the whole plan."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.ordering import Cycle, cycle_of
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.pace.tried import Change, gains, sound
from lean_ledger.core.part.model import Part
from lean_ledger.library.types import Library, Tool, ToolKind

FEW = 3  # operations of a call, up to which other tools and setups are tried for them
MOST_TRIED = 16


@dataclass(frozen=True)
class Way:
    """`calls` of tools in the load's cycle with it; `saving` of seconds and `each` of money a piece."""

    title: str
    calls: int
    saving: float
    each: Decimal
    changes: tuple[Change, ...]


def ways_around(ledger: Ledger, part: Part, library: Library, load: str, piece: str, operation: str) -> tuple[Way, ...]:
    """Of a call of a tool that was in before, by any step of it: what leads to fewer calls, the greatest gain first.

    Raises PlanError for a load or a step that there is not.
    """
    one = next((one for one in ledger.loads if one.load.id == load), None)
    if one is None:
        raise PlanError("no-load", f"there is no load {load}")
    cycle = cycle_of(one)
    at = next((k for k, (p, op) in enumerate(cycle.steps) if (p.place.id, op.id) == (piece, operation)), None)
    if at is None:
        raise PlanError("no-such-step", f"load {load} has no step {operation!r} on piece {piece!r}")
    found: dict[str, Way] = {}
    for title, change in list(_ideas(ledger, library, one, cycle, at))[:MOST_TRIED]:
        way = _tried(ledger, part, library, one, title, change)
        if way is not None:
            found.setdefault(way.title, way)
    return tuple(sorted(found.values(), key=lambda way: (-way.each, -way.saving)))


def _tried(ledger: Ledger, part: Part, library: Library, load: LoadLedger, title: str, change: Change) -> Way | None:
    """As it is, else grouped by tool afterwards; None where neither comes to fewer calls."""
    there = sound(change, ledger, part, library)
    regroup: Change = {"change": "group-by-tool", "setup": load.decision.id}
    for changes, after in (((change,), there), ((change, regroup), there and sound(regroup, there, part, library))):
        if after is None:
            return None
        same = next((other for other in after.loads if other.load.id == load.load.id), None)
        if same is None:
            return None
        if same.tool_calls < load.tool_calls:
            return Way(title, same.tool_calls, *gains(ledger, after), changes)
        if load.load.by == "hand":
            return None  # what was put in order by hand is not grouped anew
    return None


def _ideas(
    ledger: Ledger, library: Library, load: LoadLedger, cycle: Cycle, at: int
) -> Iterator[tuple[str, Change]]:  # fmt: skip
    tools = [op.tool for _, op in cycle.steps]
    tool = tools[at]
    begin = at
    while begin > 0 and tools[begin - 1].id == tool.id:
        begin -= 1
    end = at
    while end + 1 < len(tools) and tools[end + 1].id == tool.id:
        end += 1
    earlier = next((k for k in range(begin - 1, -1, -1) if tools[k].id == tool.id), None)
    if earlier is None:
        return
    own = _distinct([op for _, op in cycle.steps[begin : end + 1]])
    if len(own) <= FEW:
        beside = [tools[k] for k in (begin - 1, end + 1) if 0 <= k < len(tools)]
        for other in {t.id: t for t in (*beside, *tools)}.values():
            if other.id != tool.id and _does(other, own, ledger, library):
                yield f"{_names(own)} with {other.description}, which is in anyway", _with_tool(own, other)
        yield from _elsewhere(ledger, own)
    late = _waited_for(cycle, earlier, begin, end)
    if late and len(late) <= FEW and _does(tool, late, ledger, library):
        yield f"{_names(late)} with {tool.description}: it need not go out", _with_tool(late, tool)
    by_hand = {(one.first, one.then) for one in load.load.before}
    for first in late:
        for then in own:
            if (first.id, then.id) in by_hand:
                yield (
                    f"“{then.name}” need not wait for “{first.name}”",
                    {"change": "not-before", "load": load.load.id, "first": first.id, "then": then.id},
                )
    if not late:
        steps = [[p.place.id, op.id] for p, op in cycle.steps[begin : end + 1]]
        yield (
            f"{_names(own)} when {tool.description} is in",
            {"change": "move-steps", "load": load.load.id, "steps": steps, "to": earlier + 1},
        )


def _elsewhere(ledger: Ledger, own: list[Operation]) -> Iterator[tuple[str, Change]]:
    """What is made in another setup needs no tool in this one."""
    features = sorted({feature for op in own for feature in op.features})
    for setup in ledger.plan.setups:
        if features and setup.id != own[0].setup:
            yield (
                f"{', '.join(features)} in setup {setup.id}",
                {"change": "move-feature", "features": features, "setup": setup.id},
            )


def _waited_for(cycle: Cycle, earlier: int, begin: int, end: int) -> list[Operation]:
    """What of the call had to wait for, that was done after the tool went out."""
    late = {a for (a, b) in cycle.why if begin <= b <= end and earlier < a < begin}
    return _distinct([cycle.steps[a][1] for a in sorted(late)])


def _distinct(operations: list[Operation]) -> list[Operation]:
    return list({op.id: op for op in operations}.values())


def _does(tool: Tool, operations: list[Operation], ledger: Ledger, library: Library) -> bool:
    able = tool.kind != ToolKind.PROBE and library.data(tool, ledger.material) is not None
    return able and all(tool.kind in op.kind.tool_kinds and op.tool.id != tool.id for op in operations)


def _with_tool(operations: list[Operation], tool: Tool) -> Change:
    return {"change": "take-values", "edits": [{"operation": op.id, "tool": tool.id} for op in operations]}


def _names(operations: list[Operation]) -> str:
    return ", ".join(f"“{op.name}”" for op in operations)
