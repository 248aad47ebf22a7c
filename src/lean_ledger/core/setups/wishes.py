"""What was asked of the division and is not so in the setups as they are."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.features import tool_ways
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan


def wish_findings(part: Part, plan: Plan, assigned: Mapping[str, tuple[str, ...]]) -> list[Finding]:
    """One for each wish that the division does not fulfil."""
    place = {id: k for k, setup in enumerate(plan.setups) for id in reversed(assigned[setup.id])}
    found = []
    for ids in plan.together:
        at = sorted({place[id] for id in ids if id in place})
        if len(at) > 1:
            setups = " and ".join(plan.setups[k].id for k in at)
            found.append(
                _finding(
                    "not-together",
                    f"{', '.join(ids)} are to be made in one setup and stand in {setups}.",
                    ids,
                    together=_one_way(part, ids),
                )
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


def _one_way(part: Part, features: Sequence[str]) -> bool:
    """Whether some side brings all of them under the tools."""
    ways = [set(tool_ways(part.by_id[id])) for id in features if id in part.by_id]
    return not ways or bool(set.intersection(*ways))


def _finding(code: str, text: str, features: tuple[str, ...], *, together: bool = True) -> Finding:
    return Finding(
        code, Severity.ERROR, Chapter.SETUPS, text,
        "That was asked of the division. Divide again, move them by hand, or ask for it no longer.",
        features=features,
        cures=(
            *((Cure("Divide again", {"change": "divide-again"}),) if together else ()),
            Cure("No longer asked for", {"change": "drop-wish", "features": list(features)}),
        ),
    )  # fmt: skip
