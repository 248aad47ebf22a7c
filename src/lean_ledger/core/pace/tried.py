"""What another speed and feed of one operation does: to its seconds, the price, the tool's life and load."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.cutting.forces import ToolLoad, load_of
from lean_ledger.core.operations.cutting.wear import life_minutes, tool_uses
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.pace.limits import Limits, limits_of
from lean_ledger.core.part.model import Part
from lean_ledger.library.types import Library

Change = dict[str, Any]


@dataclass(frozen=True)
class Outcome:
    """`seconds` of the operation's own motion, `per_piece` of the whole plan, `each` at the plan's first quantity.

    `life` is minutes in cut; `changes` of the tool in a batch of that quantity.
    """

    n: float
    vf: float
    seconds: float
    per_piece: float
    each: Decimal
    life: float
    changes: int
    load: ToolLoad


@dataclass(frozen=True)
class Paced:
    operation: str
    speed: float
    feed: float
    limits: Limits
    before: Outcome
    after: Outcome


def paced(ledger: Ledger, part: Part, library: Library, id: str, speed: float, feed: float) -> Paced:
    """The plan with one operation at shares of its usual speed and feed; changes nothing.

    Raises PlanError for an operation that the plan does not have, and for a share that its tool does not stand.
    """
    op = find(ledger, id)
    there = made(ledger, part, library, pace_change(op, speed, feed))
    machine = ledger.setup(op.setup).machine
    data = library.data(op.tool, ledger.material)
    if data is None:
        raise PlanError("no-pace", f"{op.name} does not cut: it has no speed and feed to work on", id)
    limits = limits_of(op, machine, ledger.material, data)
    return Paced(id, speed, feed, limits, _outcome(ledger, library, op), _outcome(there, library, find(there, id)))


def pace_change(op: Operation, speed: float, feed: float) -> Change:
    """As plain data: values that were set by hand give way to the shares. The n of a turned cut is the most that its
    spindle may turn, which stays.
    """
    taps = op.by_pitch
    clear = ["vf"] if op.motion.spin is not None else ["n"] if taps else ["n", "vf"]
    change: Change = {"change": "edit-operation", "operation": op.id, "speed": speed, "clear": clear}
    return change if taps else {**change, "feed": feed}


def made(ledger: Ledger, part: Part, library: Library, change: Change) -> Ledger:
    """The ledger of the plan with a change. Raises PlanError where the change is refused."""
    plan, _ = read_change(change).apply(ledger.plan, Scene(part, library, ledger))
    return evaluate(plan, part, library)


def sound(change: Change, ledger: Ledger, part: Part, library: Library) -> Ledger | None:
    """The ledger with a change; None where it is refused or finds something that was not there before."""
    try:
        there = made(ledger, part, library, change)
    except PlanError:
        return None
    known = {(f.code, f.setup, f.operation) for f in ledger.findings}
    return there if all((f.code, f.setup, f.operation) in known for f in there.findings) else None


def gains(before: Ledger, after: Ledger) -> tuple[float, Decimal]:
    """Seconds and money a piece, at the plan's first quantity."""
    return before.per_piece - after.per_piece, before.prices[0].each - after.prices[0].each


def find(ledger: Ledger, id: str) -> Operation:
    op = next((op for op in ledger.operations if op.id == id), None)
    if op is None:
        raise PlanError("no-such-operation", f"there is no operation {id}")
    return op


def _outcome(ledger: Ledger, library: Library, op: Operation) -> Outcome:
    uses = tool_uses(ledger.operations, library, ledger.material)
    use = next(use for use in uses if use.tool.id == op.tool.id)
    return Outcome(
        n=op.cutting.n,
        vf=op.cutting.vf,
        seconds=op.time.cut + op.time.rapid + op.reversal_seconds,
        per_piece=ledger.per_piece,
        each=ledger.prices[0].each,
        life=life_minutes(op, library, ledger.material) or 0.0,
        changes=use.changes(ledger.plan.quantities[0]),
        load=load_of(op, ledger.setup(op.setup).machine, ledger.material),
    )
