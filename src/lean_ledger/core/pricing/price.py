"""The price of a quantity, line by line. Money and hours are exact until they are shown.

The rules stand in docs/formats.md under `price`.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal
from fractions import Fraction
from math import ceil, floor
from typing import Any, Literal

from lean_ledger.core.basis.errors import PlanError

LINES = (
    "material",
    "setup",
    "run",
    "tooling",
    "fixtures",
    "programming",
    "outside",
    "inspection",
    "overhead",
)


@dataclass(frozen=True)
class Material:
    """Lengths mm, area mm², density g/cm³."""

    kind: Literal["bar", "blank"]
    price_per_kg: Decimal
    density: Decimal
    section_area: Decimal
    length: Decimal
    kerf: Decimal
    bar_length: Decimal
    remnant: Decimal
    cut_charge: Decimal

    @property
    def pieces_per_bar(self) -> int:
        usable = Fraction(self.bar_length) - Fraction(self.remnant) + Fraction(self.kerf)
        return floor(usable / (Fraction(self.length) + Fraction(self.kerf)))


@dataclass(frozen=True)
class PriceSetup:
    """Rates per hour; attendance is the share of an operator that the run takes."""

    name: str
    machine_rate: Decimal
    labour_rate: Decimal
    attendance: Decimal
    setup_hours: Decimal
    cycle_seconds: Decimal
    pieces_per_cycle: int
    load_seconds: Decimal
    load_during_cycle: bool


@dataclass(frozen=True)
class Outside:
    name: str
    per_piece: Decimal
    lot: Decimal


@dataclass(frozen=True)
class PriceProblem:
    quantities: tuple[int, ...]
    material: Material
    setups: tuple[PriceSetup, ...]
    tooling_per_piece: Decimal
    fixtures: Decimal
    fixture_life: Decimal | None
    programming_hours: Decimal
    programming_rate: Decimal
    outside: tuple[Outside, ...]
    inspection_seconds: Decimal
    inspection_rate: Decimal
    scrap: Decimal
    overhead: Decimal
    margin: Decimal


@dataclass(frozen=True)
class QuantityPrice:
    """Each amount rounded to cents, halves up, on its own."""

    quantity: int
    started: int
    lines: tuple[tuple[str, Decimal], ...]
    cost: Decimal
    price: Decimal
    each: Decimal
    machine_hours: Decimal  # to 0.0001


def price(problem: PriceProblem) -> tuple[QuantityPrice, ...]:
    return tuple(_price(problem, quantity) for quantity in problem.quantities)


def _price(p: PriceProblem, quantity: int) -> QuantityPrice:
    started = ceil(quantity / (1 - Fraction(p.scrap)))
    setup_hours = sum((Fraction(s.setup_hours) for s in p.setups), Fraction(0))
    run_hours = [_run_hours(s, started) for s in p.setups]
    costs: dict[str, Fraction] = {
        "material": _material(p.material, started),
        "setup": _total(
            Fraction(s.setup_hours) * (Fraction(s.machine_rate) + Fraction(s.labour_rate)) for s in p.setups
        ),
        "run": _total(
            hours * (Fraction(s.machine_rate) + Fraction(s.attendance) * Fraction(s.labour_rate))
            for s, hours in zip(p.setups, run_hours, strict=True)
        ),
        "tooling": Fraction(p.tooling_per_piece) * started,
        "fixtures": Fraction(p.fixtures)
        if p.fixture_life is None
        else Fraction(p.fixtures) * started / Fraction(p.fixture_life),
        "programming": Fraction(p.programming_hours) * Fraction(p.programming_rate),
        "outside": _total(Fraction(o.per_piece) * started + Fraction(o.lot) for o in p.outside),
        "inspection": Fraction(p.inspection_seconds) / 3600 * Fraction(p.inspection_rate) * started,
    }
    costs["overhead"] = Fraction(p.overhead) * sum(costs.values())
    cost = sum(costs.values())
    total = Fraction(cost) / (1 - Fraction(p.margin))
    return QuantityPrice(
        quantity=quantity,
        started=started,
        lines=tuple((line, cents(costs[line])) for line in LINES),
        cost=cents(Fraction(cost)),
        price=cents(total),
        each=cents(total / quantity),
        machine_hours=rounded(setup_hours + sum(run_hours), 4),
    )


def _total(amounts: Any) -> Fraction:
    return sum(amounts, Fraction(0))


def _material(m: Material, started: int) -> Fraction:
    def kg(length: Decimal) -> Fraction:
        return Fraction(m.section_area) * Fraction(length) * Fraction(m.density) / 10**6

    if m.kind == "blank":
        return started * kg(m.length) * Fraction(m.price_per_kg)
    if m.pieces_per_bar < 1:
        raise PlanError("bar-too-short", f"a bar of {m.bar_length} mm holds no piece of {m.length} mm; buy blanks")
    bars = ceil(Fraction(started, m.pieces_per_bar))
    return bars * kg(m.bar_length) * Fraction(m.price_per_kg) + started * Fraction(m.cut_charge)


def _run_hours(s: PriceSetup, started: int) -> Fraction:
    cycle, load = Fraction(s.cycle_seconds), Fraction(s.load_seconds)
    each = max(cycle, load) if s.load_during_cycle else cycle + load
    return ceil(Fraction(started, s.pieces_per_cycle)) * each / 3600


def rounded(value: Fraction, places: int) -> Decimal:
    """Halves up, away from binary noise.

    >>> rounded(Fraction(1005, 1000), 2)
    Decimal('1.01')
    """
    scaled = floor(value * 10**places + Fraction(1, 2))
    return Decimal(scaled).scaleb(-places)


def cents(value: Fraction) -> Decimal:
    return rounded(value, 2)


def price_document(prices: tuple[QuantityPrice, ...]) -> dict[str, Any]:
    """The answer of `lean-ledger price`, with plain JSON numbers."""
    return {
        "format": "lean-ledger/price@1",
        "quantities": [
            {
                "quantity": q.quantity,
                "started": q.started,
                "lines": [{"line": line, "cost": float(cost)} for line, cost in q.lines],
                "cost": float(q.cost),
                "price": float(q.price),
                "each": float(q.each),
                "machine_hours": float(q.machine_hours),
            }
            for q in prices
        ],
    }


CURVE_STEPS = (1, 2, 3, 5, 7, 10, 15, 20, 30, 50, 70, 100, 150, 200, 300, 500, 700, 1000, 1500, 2000, 3000, 5000)


def price_curve(problem: PriceProblem) -> tuple[tuple[int, Decimal], ...]:
    """Price each over quantities around those asked for: from 1 to at least four times the largest."""
    most = 4 * max(problem.quantities)
    steps = [q for q in CURVE_STEPS if q <= most] + list(problem.quantities)
    wanted = tuple(sorted(set(steps)))
    return tuple((q.quantity, q.each) for q in price(replace(problem, quantities=wanted)))
