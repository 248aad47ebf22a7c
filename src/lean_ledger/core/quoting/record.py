"""What became of quotes: won, lost and why; the share won and the margin, by customer and by material.

The figures are shown, and teach nothing by themselves: no price is changed by them.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.quoting.offer import Break, Offer, OfferLine

LOST = (
    "price", "too late", "another bidder had it before", "part was changed", "project was dropped", "no answer",
    "other",
)  # fmt: skip


@dataclass(frozen=True)
class Ordered:
    """What was ordered of a line: pieces, each at the price of the break that they reach."""

    plan: int  # of the line
    quantity: int


@dataclass(frozen=True)
class Decided:
    """`ordered` of a quote that was won, `reason` and `words` of one that was lost."""

    ordered: tuple[Ordered, ...] = ()
    reason: str = ""
    words: str = ""


@dataclass(frozen=True)
class Outcome:
    """Of an issued quote: won, lost or open."""

    offer: Offer
    state: str
    decided: Decided


@dataclass(frozen=True)
class Tally:
    """Of quotes of a customer, or lines in a material. Money in the shop's currency; margin as a share of what was
    ordered, None where nothing was.
    """

    name: str
    won: int
    lost: int
    open: int
    ordered: Decimal
    margin: float | None

    @property
    def rate(self) -> float | None:
        """Share of those that were decided; None where none was."""
        decided = self.won + self.lost
        return self.won / decided if decided else None


def check_ordered(offer: Offer, ordered: Sequence[Ordered]) -> None:
    """Raises PlanError where nothing is ordered, or what the quote does not offer."""
    if not ordered:
        raise PlanError("ordered", "a quote that is won has at least one part ordered; give its quantity")
    lines = {line.plan: line for line in offer.lines}
    for one in ordered:
        line = lines.get(one.plan)
        if line is None:
            words = ", ".join(line.title for line in offer.lines)
            raise PlanError("ordered", f"the quote does not offer plan {one.plan}; it offers {words}")
        if line.at(one.quantity) is None:
            least = min(found.quantity for found in line.breaks)
            words = f"{one.quantity} of {line.title} are fewer than the least that is offered, {least}"
            raise PlanError("ordered", words)


def sold(line: OfferLine, quantity: int, rate: Decimal) -> tuple[Fraction, Fraction]:
    """What a quantity is sold for and what it costs, in the shop's currency: both as the break that it reaches has them
    a piece.

    60 pieces at a break of 50 at 3.10 that costs 124.00: 186.00 and 148.80, a margin of 20 %.
    """
    found = line.at(quantity)
    assert found is not None, "what was ordered was looked at before it was kept"
    return quantity * Fraction(found.each) / Fraction(rate), quantity * Fraction(found.cost) / found.quantity


def margin_of(one: Break, rate: Decimal) -> float:
    """The share of a lot that is not its cost; `rate` is that of the quote's currency."""
    lot = Fraction(one.lot) / Fraction(rate)
    return float(1 - Fraction(one.cost) / lot) if lot else 0.0


def by_customer(outcomes: Iterable[Outcome]) -> tuple[Tally, ...]:
    found = [(one, [(one.offer.customer, line) for line in one.offer.lines]) for one in outcomes]
    return _tallies(found)


def by_material(outcomes: Iterable[Outcome]) -> tuple[Tally, ...]:
    """A quote counts once for each material that it has parts in: as won where one of these parts was ordered, as lost
    where only others were.
    """
    return _tallies([(one, [(line.material, line) for line in one.offer.lines]) for one in outcomes])


def by_reason(outcomes: Iterable[Outcome]) -> tuple[tuple[str, int], ...]:
    """How many were lost for what, the most first."""
    found: dict[str, int] = {}
    for one in outcomes:
        if one.state == "lost":
            found[one.decided.reason] = found.get(one.decided.reason, 0) + 1
    return tuple(sorted(found.items(), key=lambda pair: -pair[1]))


def _tallies(rows: Sequence[tuple[Outcome, list[tuple[str, OfferLine]]]]) -> tuple[Tally, ...]:
    names = dict.fromkeys(name for _, lines in rows for name, _ in lines)
    found = []
    for name in names:
        own = [(one, [line for of, line in lines if of == name]) for one, lines in rows]
        own = [(one, lines) for one, lines in own if lines]
        revenue = cost = Fraction(0)
        states = []
        for one, lines in own:
            pieces = {ordered.plan: ordered.quantity for ordered in one.decided.ordered}
            bought = [line for line in lines if line.plan in pieces]
            states.append("lost" if one.state == "won" and not bought else one.state)
            for line in bought:
                got, spent = sold(line, pieces[line.plan], one.offer.rate)
                revenue, cost = revenue + got, cost + spent
        margin = float(1 - cost / revenue) if revenue else None
        won, lost, waiting = (states.count(state) for state in ("won", "lost", "open"))
        found.append(Tally(name, won, lost, waiting, _cents(revenue), margin))
    return tuple(found)


def _cents(value: Fraction) -> Decimal:
    return Decimal(round(value * 100)).scaleb(-2)
