"""A plan's loads as a cell: which stations there are, what it comes to, and what a piece then costs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from fractions import Fraction
from functools import cached_property
from itertools import pairwise

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.cells.model import Station, Steady, Tended
from lean_ledger.core.cells.run import steady
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.plan import Cell
from lean_ledger.core.pricing.price import (
    Growth,
    PriceProblem,
    PriceSetup,
    cents,
    cycle_hours,
    running_rate,
    terms_of,
)

MOST_OPERATORS = 6
HOUR = 3_600_000  # ms


@dataclass(frozen=True)
class PlanCell:
    """`decided` for loads that stand beside one another; `setups` are their lines of the price."""

    decided: Cell
    tended: Tended
    steady: Steady
    setups: tuple[PriceSetup, ...]

    @property
    def seconds_each(self) -> float:
        return self.steady.pace / 1000

    @property
    def per_shift(self) -> float:
        """Pieces: hours · 3600 · availability / pace. 8 h at 0.85 and 80 s: 306."""
        return self.decided.shift_hours * 3600 * self.decided.availability / self.seconds_each

    @property
    def takt(self) -> float | None:
        """Seconds a piece may take where so many a shift are wanted."""
        wanted = self.decided.wanted
        return self.decided.shift_hours * 3600 * self.decided.availability / wanted if wanted else None

    @cached_property
    def run_each(self) -> Fraction:
        """Money a piece of all machines and all people, for the pace of the cell.

        Machines at 85 and 98, one person at 42, 80 s: 225 · 80 / 3600 = 5.00.
        """
        people = self.decided.operators * self.setups[0].labour_rate
        rates = Fraction(sum((s.machine_rate for s in self.setups), Decimal(0)) + people)
        return rates * Fraction(self.steady.period, self.steady.pieces) / HOUR

    @cached_property
    def apart_each(self) -> Fraction:
        """The same where each load is run by itself, as the plan's price has it for whole cycles."""
        every = (cycle_hours(s) * running_rate(s) / s.pieces_per_cycle for s in self.setups)
        return sum(every, Fraction(0))

    def price_each(self, problem: PriceProblem, quantity: int) -> Decimal:
        """Of the plan's price, with what the cell costs to run in place of what its loads do by themselves.

        10 pieces for 400.00 in all, 25.00 of it each for running, overhead 10 %, margin 20 %. As a cell 5.00:
        400 − 10 · (25 − 5) · 1.1 / 0.8 = 125.00, 12.50 each.
        """
        terms = terms_of(problem)
        started = terms.started(quantity)
        cost = sum(terms.costs(started, {"run": Growth(each=self.run_each)}).values(), Fraction(0))
        return cents(terms.price(cost) / quantity)

    def hours(self, quantity: int) -> float:
        """To run so many: until the first piece comes through, then one after each pace."""
        first = sum(one.cycle + one.served for one in self.tended.stations) / HOUR
        return first + max(0, quantity - 1) * self.steady.pace / HOUR

    def setting_up_each(self, quantity: int) -> Fraction:
        every = (Fraction(s.setup_hours) * Fraction(s.machine_rate + s.labour_rate) for s in self.setups)
        return sum(every, Fraction(0)) / quantity


def cell_of(decided: Cell, loads: Sequence[LoadLedger], setups: Sequence[PriceSetup]) -> PlanCell:
    """Raises PlanError for loads that cannot stand beside one another, and where nobody tends a station."""
    made = [load for load in loads if load.calls]
    if not made:
        raise PlanError("nothing-made", "no load has an operation yet")
    machines = [load.machine.name for load in made]
    twice = next((name for k, name in enumerate(machines) if name in machines[:k]), None)
    if twice is not None:
        raise PlanError(
            "one-machine-twice", f"{twice} makes more than one load; in a cell each has a machine of its own"
        )
    stations = tuple(one for load in made for one in _stations(load))
    tends = _tends(decided, stations)
    apart = [a.pieces + b.pieces for a, b in pairwise(stations)]
    room = decided.room if decided.room is not None else max(apart, default=1)
    tended = Tended(stations, tends, round(decided.walk * 1000), room)
    names = {load.words for load in made}
    return PlanCell(decided, tended, steady(tended), tuple(s for s in setups if s.name in names))


def _stations(load: LoadLedger) -> list[Station]:
    by_hand = [sum(float(w.seconds) for w in load.load.hand if w.during is during) for during in (False, True)]
    served = load.whole_load_seconds + load.pieces * by_hand[0]
    words = f"{load.words} {load.machine.name}"
    found = [Station(load.load.id, words, _ms(load.cycle), _ms(served), load.pieces, load.load.beside)]
    if by_hand[1]:
        kinds = ", ".join(dict.fromkeys(w.kind for w in load.load.hand if w.during))
        found.append(Station(bench_of(load.load.id), f"bench after {load.words}: {kinds}", 0, _ms(by_hand[1]), 1))
    return found


def bench_of(load: str) -> str:
    return f"{load}-bench"


def _ms(seconds: float) -> int:
    return max(1, round(seconds * 1000))


def _tends(decided: Cell, stations: Sequence[Station]) -> tuple[frozenset[int], ...]:
    every = frozenset(range(len(stations)))
    own = decided.tends if len(decided.tends) == decided.operators else ((),) * decided.operators
    at = {one.id: k for k, one in enumerate(stations)}
    return tuple(frozenset(at[id] for id in ids if id in at) or every for ids in own)


def wanted_findings(decided: Cell, loads: Sequence[LoadLedger], setups: Sequence[PriceSetup]) -> list[Finding]:
    """Where more a shift are wanted than the cell makes; with one more operator, if that is enough."""
    if decided.wanted is None:
        return []
    try:
        cell = cell_of(decided, loads, setups)
    except PlanError as error:
        return [_short(decided, f"There is no cell: {error.message}.", ())]
    if int(cell.per_shift) >= decided.wanted:
        return []
    cures = []
    for more in range(decided.operators + 1, MOST_OPERATORS + 1):
        other = replace(decided, operators=more, tends=())
        if int(cell_of(other, loads, setups).per_shift) >= decided.wanted:
            cures.append(Cure(f"{more} operators", as_change(other)))
            break
    cures.append(Cure(f"{int(cell.per_shift)} a shift", as_change(replace(decided, wanted=int(cell.per_shift)))))
    why = f"It makes one in {cell.seconds_each:.1f} s, {cell.takt:.1f} s are asked for. {bottleneck_words(cell)}."
    return [_short(decided, why, tuple(cures))]


def _short(decided: Cell, why: str, cures: tuple[Cure, ...]) -> Finding:
    title = f"The cell does not make {decided.wanted} a shift."
    return Finding("cell-too-slow", Severity.WARNING, Chapter.BALANCE, title, why, cures=cures)


def bottleneck_words(cell: PlanCell) -> str:
    """Who is busy most, and for what share of the time."""
    who = cell.steady.bottleneck
    name = next((one.name for one in cell.tended.stations if one.id == who), who)
    busy = 1 - sum(share for doing, share in cell.steady.shares[who].items() if doing in ("waiting", "idle"))
    return f"{name[0].upper()}{name[1:]} sets the pace, busy {100 * busy:.0f} % of the time"


def as_change(cell: Cell) -> dict[str, object]:
    return {
        "change": "set-cell", "operators": cell.operators, "walk": cell.walk, "room": cell.room,
        "shift_hours": cell.shift_hours, "availability": cell.availability, "wanted": cell.wanted,
        "tends": [list(own) for own in cell.tends],
    }  # fmt: skip
