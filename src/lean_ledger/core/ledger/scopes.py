"""Where each operation of a load of several pieces can run, and what it would save to run it once over each row."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.joined import goes_on
from lean_ledger.core.loads.one_pass import one_pass
from lean_ledger.core.loads.round_all import goes_round
from lean_ledger.core.part.model import Part
from lean_ledger.library.types import Library

Scope = Literal["each", "first", "row"]


@dataclass(frozen=True)
class ScopeOf:
    """An operation of a load. `in_row`: seconds a cycle with it once over each row less those with it on each piece;
    None where it cannot run so, `why` says why. `has_to`: in one bar what would come into the next piece goes on over
    it. `goes_round`: once means round all pieces of a bar.
    """

    operation: str
    setup: str
    name: str
    scope: Scope
    probes: bool
    in_row: float | None
    why: str
    has_to: bool = False
    goes_round: bool = False


def scopes_of(ledger: Ledger, part: Part, library: Library, load_id: str) -> tuple[ScopeOf, ...]:
    """Of all operations of a load, in the order in which they come. Raises PlanError for a load that there is not."""
    there = next((one for one in ledger.loads if one.load.id == load_id), None)
    if there is None:
        raise PlanError("no-load", f"there is no load {load_id}")
    load = there.load
    in_bar = {id for share in there.shares for id in goes_on(share.built)}
    built = {op.id: op for share in there.shares for op in share.built.operations}
    found = []
    for id in dict.fromkeys(call.operation.id for call in there.calls):
        op = built[id]
        if id in in_bar:
            found.append(ScopeOf(id, op.setup, op.name, "row", op.motion.probes, None, "", has_to=True))
            continue
        why, gain = one_pass(there.where, op, there.machine).words, None
        if not why:
            rest = tuple(one for one in load.in_rows if one != id)
            each, once = (
                evaluate(ledger.plan.with_load(replace(load, in_rows=rows)), part, library)
                for rows in (rest, (*rest, id))
            )
            gain = once.load_of(op.setup).cycle - each.load_of(op.setup).cycle
        scope: Scope = "first" if id in load.first_only else "row" if id in load.in_rows and not why else "each"
        found.append(ScopeOf(id, op.setup, op.name, scope, op.motion.probes, gain, why,
                             goes_round=goes_round(op, load.arrangement)))  # fmt: skip
    return tuple(found)
