"""What is wrong with the tools of a setup together: too many, called twice, held in two ways at once."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from typing import TYPE_CHECKING

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.holding.bar_collet import BarHold
from lean_ledger.core.operations.cutting.wear import tool_uses
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Plan
from lean_ledger.library.types import Library, Material, further

if TYPE_CHECKING:
    from lean_ledger.core.loads.load_ledger import LoadLedger

WORTH_GROUPING = 1.0  # s a cycle


def tool_findings(s: LoadLedger) -> Iterator[Finding]:
    id, machine = s.decision.id, s.machine
    calls = Counter(e.operation.tool.id for e in s.calls if e.transition.changes_tool)
    if len(calls) > machine.tool_pockets > 0 and machine.drum is None:  # of a drum's slide that is told with its place
        yield Finding(
            "too-many-tools", Severity.ERROR, Chapter.OPERATIONS,
            f"Setup {id} asks {len(calls)} tools, {machine.name} has {machine.tool_pockets}.",
            "Use one tool for more, or split the setup.", id,
        )  # fmt: skip
    yield from _set_twice(s)
    if machine.turns_work:
        yield from _two_holders(s)
    if s.grouping_saves >= WORTH_GROUPING:
        yield Finding(
            "tool-called-again", Severity.WARNING, Chapter.ORDER,
            f"Setup {id} calls tools {s.tool_calls} times where {s.grouped_calls} do.",
            f"Grouped by tool the cycle is {s.grouping_saves:.1f} s shorter.", id,
            cures=(Cure(f"Group by tool, −{s.grouping_saves:.1f} s", {"change": "group-by-tool", "setup": id}),),
        )  # fmt: skip


def worn_findings(loads: Sequence[LoadLedger], library: Library, material: Material) -> list[Finding]:
    """Tools that do not last through one cycle: nobody changes them there."""
    found = []
    for load in loads:
        times: Counter[str] = Counter()  # that pieces have each operation made
        for call in load.calls:
            times[call.operation.id] += call.operation.over
        ops = {call.operation.id: call.operation for call in load.calls}
        of_tool: dict[str, dict[str, float]] = {}  # shares of a life a cycle, by tool and operation
        for id, op in ops.items():
            (use,) = tool_uses((op,), library, material)
            of_tool.setdefault(op.tool.id, {})[id] = times[id] * use.share
        for tool, shares in of_tool.items():
            share = sum(shares.values())
            if share <= 1:
                continue
            name = ops[next(iter(shares))].tool.description
            lasts = (
                f"it lasts {load.pieces / share:.1f} of the {load.pieces} pieces"
                if load.pieces > 1
                else (f"it lasts {100 / share:.0f} % of it")
            )
            found.append(Finding(
                "worn-in-cycle", Severity.WARNING, Chapter.ORDER, f"{name} wears out within a cycle of {load.words}.",
                f"As it is used {lasts}. Give some of its work to a second one in a pocket of its own, or run it "
                "slower.", load.decision.id, cures=_with_a_second(tool, shares, ops),
            ))  # fmt: skip
    return found


def _with_a_second(tool: str, shares: Mapping[str, float], ops: Mapping[str, Operation]) -> tuple[Cure, ...]:
    """One of its operations to another of the kind, where then both last; the most even split."""
    whole = sum(shares.values())
    able = [id for id, share in shares.items() if share <= 1 and whole - share <= 1]
    id = min(able, key=lambda id: abs(shares[id] - whole / 2), default="")
    return _a_second(ops[id]) if id and len(shares) > 1 else ()


_ASIDE = {"tool": "tool", "cutting": "cutting data of", "chains": "the rules for how features are made,",
          "magazine": "the tools that stand in"}  # fmt: skip


def shop_findings(library: Library) -> Iterator[Finding]:
    """What the shop brought in and no plan can be computed with."""
    for row in library.set_aside:
        named = f"{_ASIDE.get(row.what, row.what)} {row.key}"
        yield Finding(
            "set-aside", Severity.WARNING, Chapter.OPERATIONS,
            f"{named[0].upper()}{named[1:]} cannot be used and is set aside.",
            f"{row.why}. Bring it in again, or take it out at the tools; until then what ships stands in its place.",
        )  # fmt: skip


def _set_twice(s: LoadLedger) -> Iterator[Finding]:
    """A boring head holds one size until a setter turns its screw."""
    sizes: dict[str, float] = {}
    for e in s.rows:
        op = e.operation
        if op.kind != OperationKind.BORE_TO_SIZE:
            continue
        first, now = sizes.setdefault(op.tool.id, op.tool.diameter), op.tool.diameter
        if abs(first - now) > 1e-3:
            yield Finding(
                "head-set-twice", Severity.ERROR, Chapter.OPERATIONS,
                f"{op.tool.description} is to bore Ø{first:g} and Ø{now:g} in {s.decision.id}.",
                "It holds one size in a cycle. Take another head for one of them.", s.decision.id, operation=op.id,
                cures=_a_second(op),
            )  # fmt: skip


def _a_second(op: Operation) -> tuple[Cure, ...]:
    another = further(op.tool.id)
    change = {"change": "edit-operation", "operation": op.id, "tool": another}
    return (Cure(f"A second one for “{op.name}”", change),) if another else ()


def _two_holders(s: LoadLedger) -> Iterator[Finding]:
    """A turret's driven tool stands along the spindle or across it, never both."""
    ways: dict[str, set[bool]] = {}
    for e in s.rows:
        op = e.operation
        across = s.built.stands.is_across(op.frame)
        if across not in ways.setdefault(op.tool.id, {across}):
            ways[op.tool.id].add(across)
            yield Finding(
                "two-holders", Severity.ERROR, Chapter.OPERATIONS,
                f"{op.tool.description} is to work along the spindle and across it in {s.decision.id}.",
                "A driven holder does one of them. Take another tool for one.", s.decision.id, operation=op.id,
                cures=_a_second(op),
            )  # fmt: skip


def bought_findings(plan: Plan, loads: Sequence[LoadLedger]) -> list[Finding]:
    """Sawn blanks for a collet that is fed with bars: the price would be that of something else."""
    if plan.buy == "bar" or plan.stock.form == "near-net":
        return []
    fed = [load for load in loads if isinstance(load.built.hold, BarHold) and load.decision.cut_off is not None]
    return [
        Finding(
            "blanks-on-bar", Severity.WARNING, Chapter.PRICE,
            f"The price buys sawn blanks, {load.built.hold.fixture.name} is fed with bars.",
            f"Setup {load.decision.id} cuts its pieces off a bar. Buy whole bars.", load.decision.id,
            cures=(Cure("Buy whole bars", {"change": "set-buy", "buy": "bar"}),),
        ) for load in fed
    ]  # fmt: skip


def out_findings(loads: Sequence[LoadLedger]) -> list[Finding]:
    """Operations that are taken out for now, each with what puts it back."""
    found = []
    for load in loads:
        ops = {op.id: op for share in load.shares for op in share.built.operations}
        for id in load.load.out:
            if id in ops:
                found.append(Finding(
                    "taken-out", Severity.WARNING, Chapter.ORDER, f"“{ops[id].name}” is taken out for now.",
                    "It does not run, and what it makes stays. Put it back before the plan is released.", ops[id].setup,
                    features=ops[id].features,
                    cures=(Cure("Put it back", {"change": "take-out", "load": load.load.id, "operation": id,
                                                "out": False}),),
                ))  # fmt: skip
    return found
