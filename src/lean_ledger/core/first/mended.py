"""What a planner mends at once in a new plan: the cures about holds that leave less to solve are taken."""

from __future__ import annotations

from collections.abc import Sequence
from time import monotonic

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Cure, Finding, Severity
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.library.types import Library

#: Cures that leave part and machines as they are: how it is held, which setup makes what, more stock to hold by; the
#: least first.
TAKEN = ("set-turn", "set-hold", "set-spacer", "move-feature", "set-up", "set-allowance", "split-setup")
MOST = 8  # cures that are tried for a plan
FEW = 6  # errors beyond which a plan is left: no hold mends it


def errors_of(ledger: Ledger) -> list[Finding]:
    return [f for f in ledger.findings if f.severity == Severity.ERROR]


def _kept_off(ledger: Ledger) -> list[Finding]:
    """Ways that what holds the part stands in: stock stays there, as the solids will say."""
    return [f for f in ledger.findings if f.code == "way-limited" and f.cures]


def _to_solve(ledger: Ledger) -> tuple[int, int]:
    return len(errors_of(ledger)), len(_kept_off(ledger))


def mended(plan: Plan, ledger: Ledger, part: Part, library: Library, until: float) -> tuple[Plan, Ledger, list[str]]:
    """A plan with the cures that leave fewer errors, and their names; after `until` (monotonic seconds) no further one
    is tried.
    """
    taken: list[str] = []
    tries = 0
    while _to_solve(ledger) > (0, 0) and len(errors_of(ledger)) <= FEW:
        for cure in _cures([*errors_of(ledger), *_kept_off(ledger)]):
            tries += 1
            if tries > MOST or monotonic() > until:
                return plan, ledger, taken
            try:
                changed, _ = read_change(cure.change).apply(plan, Scene(part, library, ledger))
                found = evaluate(changed, part, library)
            except PlanError:
                continue
            if _to_solve(found) < _to_solve(ledger):
                plan, ledger = changed, found
                taken.append(cure.label)
                break
        else:
            break
    return plan, ledger, taken


def _cures(findings: Sequence[Finding]) -> list[Cure]:
    """Each once, by what they leave as it is."""
    found = {str(cure.change): cure for f in findings for cure in f.cures if cure.change.get("change") in TAKEN}
    return sorted(found.values(), key=lambda cure: TAKEN.index(cure.change["change"]))
