"""What is wrong with the tools of a setup together: too many, called twice, held in two ways at once."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.holding.bar_collet import BarHold
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.plan import Plan
from lean_ledger.library.types import Library

if TYPE_CHECKING:
    from lean_ledger.core.loads.load_ledger import LoadLedger

WORTH_GROUPING = 1.0  # s a cycle


def tool_findings(s: LoadLedger) -> Iterator[Finding]:
    id, machine = s.decision.id, s.machine
    calls = Counter(e.operation.tool.id for e in s.calls if e.transition.changes_tool)
    if len(calls) > machine.tool_pockets > 0:
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
                "It holds one size in a cycle. Choose another head for one of them.", s.decision.id, operation=op.id,
            )  # fmt: skip


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
                "A driven holder does one of them. Choose another tool for one.", s.decision.id, operation=op.id,
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
