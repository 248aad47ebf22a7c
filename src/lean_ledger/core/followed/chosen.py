"""Which of the plans that a new job may get is taken: the first that the solids find nothing against."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from time import monotonic

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.first.machine import Begun
from lean_ledger.core.first.mended import errors_of
from lean_ledger.core.followed.findings import stock_findings, with_stock
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part

Outcome = Followed | LedgerError
MOST = 4  # plans that are followed
HARMLESS = "stock-left"  # the one thing the solids show that harms nothing


@dataclass(frozen=True)
class Chosen:
    """A plan of a machine, its ledger with what its stock came to; `passed_over` are those before it, which the solids
    found something against.
    """

    begun: Begun
    ledger: Ledger
    outcome: Outcome
    passed_over: tuple[Begun, ...] = ()

    @property
    def words(self) -> str:
        """Why it is not the cheapest; empty where it is."""
        if not self.passed_over:
            return ""
        names = ", ".join(f"{one.name} ({one.each:.2f})" for one in self.passed_over)
        return f"passed over, since their stock did not come out: {names}"


def chosen(plans: Sequence[Begun], part: Part, follow: Callable[[Ledger], Outcome], until: float) -> Chosen:
    """Of the plans, at most MOST, in their order: the first that leaves nothing more once its stock is followed, else
    the one that harms nothing and leaves the least, else the first. One that leaves more to solve than the first is
    looked at only where those before it do harm. After `until` (monotonic seconds) no further one is followed.
    """
    found: list[Chosen] = []
    for one in plans[:MOST]:
        if found and monotonic() > until:
            break
        if one.left > plans[0].left and not all(is_harmed(part, c.ledger, c.outcome) for c in found):
            break
        outcome = follow(one.ledger)
        found.append(Chosen(one, with_stock(one.ledger, part, outcome), outcome))
        if not is_harmed(part, one.ledger, outcome) and len(errors_of(found[-1].ledger)) <= one.left:
            break
    best = min(found, key=lambda c: (is_harmed(part, c.ledger, c.outcome), len(errors_of(c.ledger))))
    before = tuple(c.begun for c in found[: found.index(best)])
    return Chosen(best.begun, best.ledger, best.outcome, before)


def is_harmed(part: Part, ledger: Ledger, outcome: Outcome) -> bool:
    """Whether the solids show a cut into anything, or show nothing."""
    if isinstance(outcome, LedgerError):
        return True
    return any(f.code != HARMLESS for f in stock_findings(part, ledger, outcome))
