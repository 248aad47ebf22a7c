"""What a change did: the difference of two ledgers, as the strip and the journal say it."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from lean_ledger.core.ledger.model import Ledger


@dataclass(frozen=True)
class Effect:
    """After less before. Seconds per piece; hours of setting up; money each at the plan's first quantity."""

    cycle: float
    per_piece: float
    setup_hours: Decimal
    each: Decimal
    findings_gone: int
    findings_new: int


def effect_of(before: Ledger, after: Ledger) -> Effect:
    was, now = told(before).keys(), told(after).keys()
    return Effect(
        cycle=round(after.cycle - before.cycle, 3),
        per_piece=round(after.per_piece - before.per_piece, 3),
        setup_hours=after.setup_hours - before.setup_hours,
        each=after.prices[0].each - before.prices[0].each,
        findings_gone=len(was - now),
        findings_new=len(now - was),
    )


Key = tuple[str, str, tuple[str, ...], str]


def told(ledger: Ledger) -> dict[Key, str]:
    """The findings in words; one is the same as long as it is about the same thing, whatever numbers it names."""
    return {
        (f.code, f.setup, f.features, f.operation): f"{f.setup}: {f.title}" if f.setup else f.title
        for f in ledger.findings
    }
