"""What was asked of the division and is not so in the setups as they are."""

from __future__ import annotations

from collections.abc import Mapping

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.plan import Plan


def wish_findings(plan: Plan, assigned: Mapping[str, tuple[str, ...]]) -> list[Finding]:
    """One for each wish that the division does not fulfil."""
    place = {id: k for k, setup in enumerate(plan.setups) for id in reversed(assigned[setup.id])}
    found = []
    for ids in plan.together:
        at = sorted({place[id] for id in ids if id in place})
        if len(at) > 1:
            setups = " and ".join(plan.setups[k].id for k in at)
            found.append(
                _finding("not-together", f"{', '.join(ids)} are to be made in one setup and stand in {setups}.", ids)
            )
    for first, then in plan.before:
        if first in place and then in place and place[first] > place[then]:
            late, early = plan.setups[place[first]].id, plan.setups[place[then]].id
            found.append(
                _finding(
                    "comes-late", f"{first} is to be there before {then}, but is made in {late} after {early}.",
                    (first, then),
                )
            )  # fmt: skip
    return found


def _finding(code: str, text: str, features: tuple[str, ...]) -> Finding:
    return Finding(
        code, Severity.ERROR, Chapter.SETUPS, text,
        "That was asked of the division. Divide again, move them by hand, or ask for it no longer.",
        features=features,
        cures=(
            Cure("Divide again", {"change": "divide-again"}),
            Cure("No longer asked for", {"change": "drop-wish", "features": list(features)}),
        ),
    )  # fmt: skip
