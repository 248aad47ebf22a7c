"""How sure a price is: what it rests on, where each figure comes from, and how far the whole may be off."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from math import sqrt
from typing import Literal

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.pricing.price import Terms, cents, running_rate, terms_of
from lean_ledger.library.types import Library, Measured, next_spread

Source = Literal["computed", "program", "default", "typed", "measured"]

SOURCES: dict[Source, str] = {
    "computed": "computed", "program": "a program from elsewhere", "default": "the shop's default", "typed": "typed",
    "measured": "measured on the floor",
}  # fmt: skip
#: Findings that say that something is not made though operations are there for what they name.
NOT_MADE = ("would-cut", "not-engraved", "outline-short", "closed-hollow", "hole-short", "thread-not-made")


@dataclass(frozen=True)
class Rest:
    """A figure that the price rests on: what of a piece's price it is, and how far it may be off, as a share and in
    money of a piece.
    """

    what: str
    source: str
    amount: Decimal
    share: float
    moves: float

    @property
    def words(self) -> str:
        return f"{self.what} ± {100 * self.share:.0f} %"


@dataclass(frozen=True)
class Sure:
    """A price each with the range that it lies in two of three times; `rests`: what moves it most first. `missing`:
    what of the part it does not hold.
    """

    quantity: int
    each: Decimal
    off: float  # of a piece's price, one standard deviation
    rests: tuple[Rest, ...]
    missing: tuple[str, ...]

    @property
    def low(self) -> Decimal:
        return cents(Fraction(self.each) - Fraction(self.off))

    @property
    def high(self) -> Decimal:
        return cents(Fraction(self.each) + Fraction(self.off))

    def part_of(self, rest: Rest) -> float:
        """The share of the spread that is this figure's: of the sum of squares."""
        return (rest.moves / self.off) ** 2 if self.off else 0.0

    @property
    def words(self) -> str:
        if not self.rests:
            return "nothing of it costs anything"
        first = self.rests[0]
        others = ", ".join(one.words for one in self.rests[:3])
        most = f"{first.what} is {100 * self.part_of(first):.0f} % of the spread"
        return f"{others}; {most}: being surer of it is worth most"


def sure(ledger: Ledger, library: Library, k: int = 0, seen: Sequence[Measured] = ()) -> Sure:
    """Of the plan's k-th quantity. `seen`: what was measured up to now, whether estimates are taken times it or not.

    What is wrong of one figure says nothing about another: their squares add up. Of one kind all loads are off the same
    way, by the same judgement: what they are off by adds up plainly.
    """
    price = ledger.prices[k]
    terms = terms_of(ledger.problem)
    up = terms.price(Fraction(1 + ledger.problem.overhead)) / price.quantity
    found: dict[str, list[_Cost]] = {}
    for one in _costs(ledger, terms, price.started, _Known(library, seen)):
        if one.cost:
            found.setdefault(one.what, []).append(one)
    rests = []
    for what, costs in found.items():
        amount = sum((one.cost for one in costs), Fraction(0)) * up
        moves = sum(float(one.cost * up) * one.share for one in costs)
        rests.append(Rest(what, _sources(costs), cents(amount), moves / float(amount), moves))
    rests.sort(key=lambda one: -one.moves)
    off = sqrt(sum(one.moves**2 for one in rests))
    return Sure(price.quantity, price.each, off, tuple(rests), missing_in(ledger))


def missing_in(ledger: Ledger) -> tuple[str, ...]:
    """Titles of errors about what no operation makes: the price does not hold it."""
    made = {feature for op in ledger.operations for feature in op.features}
    return tuple(
        f.title
        for f in ledger.findings
        if f.severity == Severity.ERROR and (f.code in NOT_MADE or any(id not in made for id in f.features))
    )


@dataclass(frozen=True)
class _Cost:
    """A figure of the lot, where it comes from, what it costs before overhead and margin, how far it may be off."""

    what: str
    source: Source
    cost: Fraction
    share: float
    seen: bool = False  # how far it may be off was measured, though it is not taken times that


def _sources(costs: Sequence[_Cost]) -> str:
    sources = " and ".join(dict.fromkeys(SOURCES[one.source] for one in costs))
    if not any(one.seen for one in costs):
        return sources
    partly = "" if all(one.seen for one in costs) else "partly "
    return f"{sources}, ± {partly}from the floor"


@dataclass(frozen=True)
class _Known:
    """How far figures may be off: by what was measured, else by the shop's judgement."""

    library: Library
    seen: Sequence[Measured]

    def judged(self, what: str, source: Source, cost: Fraction) -> _Cost:
        return _Cost(what, source, cost, float(self.library.spreads[what][source]))

    def timed(self, load: LoadLedger, category: str, what: str, source: Source, cost: Fraction) -> _Cost | None:
        """Of a category of a machine's time; None where nothing was measured of it."""
        used = load.factor(category)
        here = (load.machine.id, category)
        seen = next((one for one in self.seen if (one.machine, one.category) == here), used)
        if seen is None:
            return None
        at = used.factor if used is not None else Decimal(1)
        share = next_spread(seen, self.library.judged(category), at)
        return _Cost(what, source if used is None else "measured", cost, share, seen=used is None)


def _costs(ledger: Ledger, terms: Terms, started: int, known: _Known) -> Iterator[_Cost]:
    rates = ledger.plan.rates
    for setup, load in zip(ledger.problem.setups, ledger.loads, strict=True):
        cycles = -(-started // setup.pieces_per_cycle)
        second = cycles * running_rate(setup) / 3600
        yield from _cycle(load, second, known)
        for what, cost in (
            ("loading", Fraction(setup.load_seconds) * second),
            ("setting up", Fraction(setup.setup_hours) * (Fraction(setup.machine_rate) + Fraction(setup.labour_rate))),
        ):
            typed = load.load.load_seconds if what == "loading" else load.load.hours
            if typed is not None:
                yield known.judged(what, "typed", cost)
            else:
                yield known.timed(load, what, what, "default", cost) or known.judged(what, "default", cost)
    typed_rates: dict[str, tuple[object, Source]] = {
        "material": (rates.price_per_kg, "default"), "tooling": (rates.tooling_per_piece, "computed"),
        "fixtures": (rates.fixtures, "default"), "programming": (rates.programming_hours, "default"),
        "outside": (rates.outside_per_piece or rates.outside_lot, "default"),
        "inspection": (rates.inspection_seconds, "default"),
    }  # fmt: skip
    for line, (value, otherwise) in typed_rates.items():
        yield known.judged(line, otherwise if value is None else "typed", terms.lines[line].at(started))


def _cycle(load: LoadLedger, second: Fraction, known: _Known) -> Iterator[_Cost]:
    """What was measured of it is off as far as a machine's next program was seen to be; the rest by judgement."""
    source: Source = "program" if load.foreign is not None else "computed"
    rest = Fraction(str(round(load.cycle, 3)))
    for category, by_data in load.by_data.items():
        used = load.factor(category)
        seconds = Fraction(str(round(by_data * float(used.factor if used else 1), 3)))
        what = "cycle" if used is None else "cycle, as measured"
        found = known.timed(load, category, what, source, seconds * second)
        if found is not None:
            rest -= seconds
            yield found
    yield known.judged("cycle", source, max(rest, Fraction(0)) * second)
