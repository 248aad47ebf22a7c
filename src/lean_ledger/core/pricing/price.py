"""The price of a quantity, line by line. Money and hours are exact until they are shown.

The rules stand in docs/formats.md under `price`.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from functools import lru_cache
from math import ceil, floor
from typing import Any, Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.same import Same

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
class MaterialCost:
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
    together: int = 1  # pieces that come off a bar at once: what is left is too short for all of them
    sawn_apart: int = 1  # pieces of a blank that the shop saws apart itself, once their first setup is done

    @property
    def pieces_per_bar(self) -> int:
        usable = Fraction(self.bar_length) - Fraction(self.remnant) + Fraction(self.kerf)
        return floor(usable / (self.together * Fraction(self.length) + Fraction(self.kerf))) * self.together

    def worth(self, length: Decimal) -> Fraction:
        """Money for a length of it."""
        kg = Fraction(self.section_area) * Fraction(length) * Fraction(self.density) / 10**6
        return kg * Fraction(self.price_per_kg)


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
    material: MaterialCost
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


@dataclass(frozen=True)
class Growth:
    """How a line grows with the pieces started, s: `fixed` + `each` · s + Σ amount · ⌈s / pieces⌉. Exact."""

    fixed: Fraction = Fraction(0)
    each: Fraction = Fraction(0)
    steps: tuple[tuple[int, Fraction], ...] = ()  # (pieces, amount)

    def at(self, started: int) -> Fraction:
        found = self.fixed + self.each * started
        for pieces, amount in self.steps:
            found += -(-started // pieces) * amount
        return found


class Terms:
    """What a price is made of whatever the quantity: exact, computed once for all of them.

    Raises PlanError bar-too-short.
    """

    def __init__(self, p: PriceProblem) -> None:
        self.yielded = 1 - Fraction(p.scrap)  # the share of what is started that is good
        self._kept = 1 - Fraction(p.margin)
        self._overhead = Fraction(p.overhead)
        self.setup_hours = _total(Fraction(s.setup_hours) for s in p.setups)
        self.hours = Growth(self.setup_hours, steps=tuple((s.pieces_per_cycle, cycle_hours(s)) for s in p.setups))
        spread = p.fixture_life is not None
        self.lines = {
            "material": _material(p.material),
            "setup": Growth(
                _total(Fraction(s.setup_hours) * (Fraction(s.machine_rate) + Fraction(s.labour_rate)) for s in p.setups)
            ),
            "run": Growth(steps=tuple((s.pieces_per_cycle, cycle_hours(s) * running_rate(s)) for s in p.setups)),
            "tooling": Growth(each=Fraction(p.tooling_per_piece)),
            "fixtures": Growth(each=Fraction(p.fixtures) / Fraction(p.fixture_life or 1)) if spread
            else Growth(Fraction(p.fixtures)),
            "programming": Growth(Fraction(p.programming_hours) * Fraction(p.programming_rate)),
            "outside": Growth(
                _total(Fraction(o.lot) for o in p.outside), _total(Fraction(o.per_piece) for o in p.outside)
            ),
            "inspection": Growth(each=Fraction(p.inspection_seconds) / 3600 * Fraction(p.inspection_rate)),
        }  # fmt: skip

    def started(self, quantity: int) -> int:
        """Pieces that have to be begun for so many good ones."""
        return ceil(quantity / self.yielded)

    def costs(self, started: int, instead: Mapping[str, Growth] | None = None) -> dict[str, Fraction]:
        """Of each line; of some `instead` of their own."""
        costs = {line: growth.at(started) for line, growth in {**self.lines, **(instead or {})}.items()}
        costs["overhead"] = self._overhead * sum(costs.values())
        return costs

    def price(self, cost: Fraction) -> Fraction:
        return cost / self._kept

    @property
    def whole(self) -> Growth:
        """The price of all that is started, as one line."""
        factor = (1 + self._overhead) / self._kept
        parts = self.lines.values()
        steps = tuple((pieces, amount * factor) for one in parts for pieces, amount in one.steps)
        return Growth(factor * _total(one.fixed for one in parts), factor * _total(one.each for one in parts), steps)


def terms_of(problem: PriceProblem) -> Terms:
    """Raises as `Terms` does."""
    return _terms(Same(problem))


@lru_cache(maxsize=16)
def _terms(problem: Same[PriceProblem]) -> Terms:
    return Terms(problem.value)


def price(problem: PriceProblem) -> tuple[QuantityPrice, ...]:
    terms = terms_of(problem)
    return tuple(_price(terms, quantity) for quantity in problem.quantities)


def cycle_hours(s: PriceSetup) -> Fraction:
    """Of one cycle with its loading."""
    cycle, load = Fraction(s.cycle_seconds), Fraction(s.load_seconds)
    return (max(cycle, load) if s.load_during_cycle else cycle + load) / 3600


def running_rate(s: PriceSetup) -> Fraction:
    """Of an hour in which the machine runs, with the share of an operator that this takes."""
    return Fraction(s.machine_rate) + Fraction(s.attendance) * Fraction(s.labour_rate)


def _price(terms: Terms, quantity: int) -> QuantityPrice:
    started = terms.started(quantity)
    costs = terms.costs(started)
    cost = _total(costs.values())
    total = terms.price(cost)
    return QuantityPrice(
        quantity=quantity,
        started=started,
        lines=tuple((line, cents(costs[line])) for line in LINES),
        cost=cents(cost),
        price=cents(total),
        each=cents(total / quantity),
        machine_hours=rounded(terms.hours.at(started), 4),
    )


def _total(amounts: Any) -> Fraction:
    return sum(amounts, Fraction(0))


def _material(m: MaterialCost) -> Growth:
    if m.kind == "blank":
        cuts = Fraction(m.sawn_apart - 1, m.sawn_apart)  # of 6 in one blank 5 for 6 pieces
        return Growth(each=m.worth(m.length) + cuts * Fraction(m.cut_charge))
    bars_of(m, 1)
    return Growth(each=Fraction(m.cut_charge), steps=((m.pieces_per_bar, m.worth(m.bar_length)),))


def bars_of(m: MaterialCost, started: int) -> int:
    """Whole bars for so many pieces. Raises PlanError for a bar that is too short for one.

    100 pieces at 45 a bar: 3 bars.
    """
    if m.pieces_per_bar < 1:
        what = f"{m.together} pieces of {m.length} mm of an advance" if m.together > 1 else f"piece of {m.length} mm"
        raise PlanError("bar-too-short", f"a bar of {m.bar_length} mm holds no {what}; buy longer bars, or blanks")
    return -(-started // m.pieces_per_bar)


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
    terms = terms_of(problem)
    whole = terms.whole  # exact, as the sum of its lines is
    return tuple((q, cents(whole.at(terms.started(q)) / q)) for q in sorted(set(steps)))
