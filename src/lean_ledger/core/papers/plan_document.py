"""The plan that a new job gets, as the document lean-ledger/plan@1: its stock followed as solids, without a browser."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial
from math import inf
from typing import Any

from lean_ledger.core.basis.errors import LedgerError, PlanError
from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.first.machine import begun, begun_on
from lean_ledger.core.first.mended import errors_of
from lean_ledger.core.followed.chosen import chosen
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import with_stock
from lean_ledger.core.followed.in_process import Followed, Remainder, followed
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library

FORMAT = "lean-ledger/plan@1"


@dataclass(frozen=True)
class FirstPlan:
    """A plan evaluated, with what its stock came to; `outcome` says why, where it could not be followed."""

    ledger: Ledger
    outcome: Followed | LedgerError


def first_plan(
    part: Part, material: str, quantities: tuple[int, ...], library: Library, machines: Sequence[str] = ()
) -> FirstPlan:
    """As a new job gets it, or on the first of some machines that makes the part whole, else on the one that leaves the
    fewest errors. Raises PlanError for a machine, by its id or name, a material or a quantity that there is not.
    """
    wanted = [_machine(library, name) for name in machines]
    if not wanted:
        found = chosen(begun(part, material, quantities, library).plans, part, partial(_followed, part), inf)
        return FirstPlan(found.ledger, found.outcome)
    plan = quick_plan(part, material, quantities, library)
    tried, refused = [], None
    for machine in wanted:
        try:
            tried.append(followed_plan(part, begun_on(plan, (machine.id,), part, library).ledger))
        except PlanError as error:
            refused = error
            continue
        if not errors_of(tried[-1].ledger):
            return tried[-1]
    if not tried:
        assert refused is not None
        raise refused
    return min(tried, key=lambda one: len(errors_of(one.ledger)))


def followed_plan(part: Part, ledger: Ledger) -> FirstPlan:
    """A ledger with what the solids show among its findings."""
    outcome = _followed(part, ledger)
    return FirstPlan(with_stock(ledger, part, outcome), outcome)


def _followed(part: Part, ledger: Ledger) -> Followed | LedgerError:
    try:
        return followed(course_of(part, ledger))
    except LedgerError as error:
        return error


def plan_document(part: Part, found: FirstPlan) -> dict[str, Any]:
    """Lengths mm, volumes mm³, seconds, money as numbers."""
    ledger, outcome = found.ledger, found.outcome
    rests = outcome.remainders if isinstance(outcome, Followed) else ()
    known = isinstance(outcome, Followed)
    return {
        "format": FORMAT,
        "material": ledger.plan.material,
        "machines": list(dict.fromkeys(load.machine.name for load in ledger.setups)),
        "stock": {"size": list(ledger.stock.bounds.size), "volume": ledger.stock.volume},
        "part": {"volume": part.model.solid.volume},
        "setups": [_setup(load) for load in ledger.setups],
        "operations": [row for load in ledger.setups for row in _operations(load)],
        "left": _sum([r for r in rests if not r.cut_into]) if known else None,
        "into": _sum([r for r in rests if r.cut_into]) if known else None,
        "cycle": ledger.cycle,
        "with_handling": ledger.per_piece,
        "findings": [_finding(f) for f in ledger.findings],
        "prices": [{"quantity": p.quantity, "each": float(p.each)} for p in ledger.prices],
    }


def _machine(library: Library, name: str) -> Machine:
    found = next((m for m in library.machines if name in (m.id, m.name)), None)
    if found is None:
        known = "; ".join(f"{m.id} ({m.name})" for m in library.machines)
        raise PlanError("no-such-machine", f"there is no machine {name!r}; the library has {known}", "--machine")
    return found


def _setup(load: LoadLedger) -> dict[str, Any]:
    return {
        "id": load.decision.id,
        "machine": load.machine.name,
        "fixture": load.built.hold.fixture.name,
        "up": list(load.built.home.direction),
        "operations": len(load.rows),
        "cycle": load.cycle,
        "load": load.load_seconds,
        "setup_hours": float(load.setup_hours),
    }


def _operations(load: LoadLedger) -> list[dict[str, Any]]:
    rows = []
    for call in load.rows:
        seconds = call.seconds
        rows.append({
            "setup": load.decision.id, "title": call.operation.name, "features": list(call.operation.features),
            "tool": call.operation.tool.description, "cut": seconds["cutting"], "rapid": seconds["rapid"],
            "tool_change": seconds["tool change"], "total": call.total,
        })  # fmt: skip
    return rows


def _sum(rests: Sequence[Remainder]) -> dict[str, float]:
    return {"volume": sum(r.volume for r in rests), "most": max((r.amount for r in rests), default=0.0)}


def _finding(f: Finding) -> dict[str, Any]:
    return {"severity": f.severity.value, "code": f.code, "setup": f.setup, "features": list(f.features),
            "title": f.title, "why": f.why}  # fmt: skip
