"""Money and shares that a plan sets otherwise than the shop."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal


@dataclass(frozen=True)
class OneOff:
    """What a revision costs once, beside what can be computed: fixtures made for it, finished pieces of the one before
    that nobody wants any more.
    """

    fixtures: Decimal = Decimal(0)
    on_shelf: int = 0


@dataclass(frozen=True)
class RateEdits:
    """Money and shares that this plan sets otherwise than the shop's rates; see library Rates."""

    labour_rate: Decimal | None = None
    attendance: Decimal | None = None
    programming_hours: Decimal | None = None
    programming_rate: Decimal | None = None
    inspection_seconds: Decimal | None = None
    inspection_rate: Decimal | None = None
    fixtures: Decimal | None = None
    tooling_per_piece: Decimal | None = None
    price_per_kg: Decimal | None = None
    scrap: Decimal | None = None
    overhead: Decimal | None = None
    margin: Decimal | None = None
    outside_per_piece: Decimal | None = None
    outside_lot: Decimal | None = None
    fixture_life: Decimal | None = None  # pieces over which fixtures are spread; None: this batch pays them whole
    kerf: Decimal | None = None
    bar_length: Decimal | None = None
    remnant: Decimal | None = None
    cut_charge: Decimal | None = None
