"""What a shop says of itself on quotes, and the hours of its machines. Money as Decimal, shares of 1."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from functools import cache
from importlib.resources import files


@dataclass(frozen=True)
class ShopTerms:
    """`rates`: (currency, how much of it one of the shop's is worth); `step`: what a price each is rounded to."""

    name: str
    address: tuple[str, ...]
    contact: str
    currency: str
    rates: tuple[tuple[str, Decimal], ...]
    step: Decimal
    minimum_lot: Decimal
    valid_days: int
    payment: str
    delivery: str
    not_included: tuple[str, ...]

    def rate(self, currency: str) -> Decimal | None:
        """None for a currency that the shop does not quote in."""
        return Decimal(1) if currency == self.currency else dict(self.rates).get(currency)


@dataclass(frozen=True)
class Shift:
    """Hours a day on so many days a week, from Monday on, of which a share can be booked."""

    hours: Decimal
    days: int
    available: Decimal


@dataclass(frozen=True)
class Closed:
    first: date
    last: date
    why: str


@dataclass(frozen=True)
class ShopHours:
    """`shifts` by machine, `shift` of one that has none of its own; overtime in hours a working day."""

    material_days: int
    outside_days: int
    overtime: Decimal
    surcharge: Decimal
    closed: tuple[Closed, ...]
    shift: Shift
    shifts: dict[str, Shift] = field(hash=False)

    def of(self, machine: str) -> Shift:
        return self.shifts.get(machine, self.shift)


@cache
def shipped_business() -> tuple[ShopTerms, ShopHours]:
    data = files("lean_ledger.library") / "data" / "business.toml"
    said = tomllib.loads(data.read_text(encoding="utf-8"))
    terms, hours = said["terms"], said["hours"]
    return (
        ShopTerms(
            terms["name"], tuple(terms["address"]), terms["contact"], terms["currency"],
            tuple((code, Decimal(rate)) for code, rate in terms["rates"]), Decimal(terms["step"]),
            Decimal(terms["minimum_lot"]), terms["valid_days"], terms["payment"], terms["delivery"],
            tuple(terms["not_included"]),
        ),
        ShopHours(
            hours["material_days"], hours["outside_days"], Decimal(hours["overtime"]), Decimal(hours["surcharge"]),
            tuple(Closed(date.fromisoformat(a), date.fromisoformat(b), why) for a, b, why in hours["closed"]),
            _shift(said["shift"]), {id: _shift(row) for id, row in said["shifts"].items()},
        ),
    )  # fmt: skip


def _shift(row: dict[str, object]) -> Shift:
    return Shift(Decimal(str(row["hours"])), int(str(row["days"])), Decimal(str(row["available"])))
