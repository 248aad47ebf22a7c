"""Another revision of a part in seconds and money: what each feature that changed adds or saves, setup by setup, at
each quantity, and what is paid once.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from fractions import Fraction

from lean_ledger.core.features.describe import title
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.lineage import Revised
from lean_ledger.core.pricing.price import QuantityPrice, cents, price, running_rate, terms_of
from lean_ledger.core.revised.subprograms import Subprogram
from lean_ledger.core.revisions.match import Became, FeaturePair
from lean_ledger.library.types import Rates


@dataclass(frozen=True)
class FeatureCost:
    """Seconds of a piece, before and after; `each` is what they change in the price of a piece. `words`: what became of
    its measures.
    """

    feature: str  # the plan's id
    title: str
    became: Became
    words: str
    before: float
    after: float
    each: Decimal


@dataclass(frozen=True)
class SetupCost:
    """Seconds of a piece with its loading, and hours of setting up; None where the setup is not there. `each`: what a
    piece's price changes by for both, at each quantity.
    """

    setup: str
    seconds: tuple[float | None, float | None]
    hours: tuple[Decimal | None, Decimal | None]
    each: tuple[Decimal, ...]


@dataclass(frozen=True)
class OneOffCost:
    what: str
    how: str
    amount: Decimal


@dataclass(frozen=True)
class Priced:
    """`rest`: seconds that belong to no feature (ways, changes of setups, loading), before and after."""

    before: str  # letters of the revisions
    after: str
    features: tuple[FeatureCost, ...]
    rest: tuple[float, float]
    setups: tuple[SetupCost, ...]
    prices: tuple[tuple[QuantityPrice, QuantityPrice], ...]
    once: tuple[OneOffCost, ...]

    @property
    def paid_once(self) -> Decimal:
        return sum((one.amount for one in self.once), Decimal(0))

    def by_line(self, k: int) -> tuple[tuple[str, Decimal], ...]:
        """Of the k-th quantity: what each line of its cost changes by, a piece."""
        was, now = self.prices[k]
        costs = dict(was.lines)
        return tuple((line, cents(Fraction(cost - costs[line]) / now.quantity)) for line, cost in now.lines)


def priced(
    before: Ledger, after: Ledger, revised: Revised, rates: Rates, programs: Sequence[Subprogram]
) -> Priced:  # fmt: skip
    """The plan as it last made the revision before, beside the plan as it stands; at the latter's quantities."""
    quantities = after.plan.quantities
    own, then = _by_feature(before), _by_feature(after)
    features = tuple(_feature_costs(revised, before, after, own, then))
    # that of no pair, as what is bought in or cut through everything, stands in the rest
    named = sum(f.before for f in features), sum(f.after for f in features)
    old_prices = price(replace(before.problem, quantities=quantities))
    return Priced(
        before.plan.revision, after.plan.revision, features,
        (before.per_piece - named[0], after.per_piece - named[1]), tuple(_setups(before, after)),
        tuple(zip(old_prices, after.prices, strict=True)), tuple(_once(before, after, rates, programs)),
    )  # fmt: skip


def _by_feature(ledger: Ledger) -> dict[str, tuple[float, float]]:
    """Of each feature the seconds of a piece, with the ways to its operations, and what they cost; what an operation
    does for several is shared evenly.
    """
    found: dict[str, tuple[float, float]] = {}
    for setup in ledger.setups:
        second = ledger.second_of(setup.decision.id)
        for call in setup.rows:
            for feature in call.operation.features:
                share = call.total / len(call.operation.features)
                seconds, cost = found.get(feature, (0.0, 0.0))
                found[feature] = seconds + share, cost + share * second
    return found


def _feature_costs(
    revised: Revised, before: Ledger, after: Ledger, own: dict[str, tuple[float, float]],
    then: dict[str, tuple[float, float]],
) -> Iterator[FeatureCost]:  # fmt: skip
    up = [float((1 + one.problem.overhead) / (1 - one.problem.margin)) for one in (before, after)]
    nothing = (0.0, 0.0)
    for pair in revised.found.features:
        new = revised.names[pair.new] if pair.new else None
        was = own.get(pair.old, nothing) if pair.old else nothing
        now = then.get(new, nothing) if new else nothing
        feature = revised.after.by_id[new] if new else revised.before.by_id[pair.old or ""]
        each = cents(Fraction(now[1] * up[1] - was[1] * up[0]))
        yield FeatureCost(
            new or pair.old or "", title(feature), pair.became, _words(pair), was[0], now[0], each
        )  # fmt: skip


def _words(pair: FeaturePair) -> str:
    told = [f"{c.label} {c.before:g} → {c.after:g}" for c in pair.changes]
    if pair.moved:
        told.append(f"moved by {pair.moved:g}")
    return ", ".join(told)


def _setups(before: Ledger, after: Ledger) -> Iterator[SetupCost]:
    old = {one.decision.id: one for one in before.setups}
    new = {one.decision.id: one for one in after.setups}
    by_quantity = [(_setup_prices(before, q), _setup_prices(after, q)) for q in after.plan.quantities]
    nothing = Fraction(0)
    for id in dict.fromkeys([*old, *new]):
        pair = (old.get(id), new.get(id))
        yield SetupCost(
            id,
            tuple(sum(one.seconds.values()) / one.pieces if one else None for one in pair),  # type: ignore[arg-type]
            tuple(one.setup_hours if one else None for one in pair),  # type: ignore[arg-type]
            tuple(cents(now.get(id, nothing) - was.get(id, nothing)) for was, now in by_quantity),
        )


def _setup_prices(ledger: Ledger, quantity: int) -> dict[str, Fraction]:
    """What setting up and running each setup is of a piece's price: of a load that several share, their shares."""
    terms = terms_of(ledger.problem)
    started = terms.started(quantity)
    up = terms.price(Fraction(1 + ledger.problem.overhead)) / quantity
    found = {}
    for row, load in zip(ledger.problem.setups, ledger.loads, strict=True):
        cycles = -(-started // row.pieces_per_cycle)
        for share in load.shares:
            run = cycles * Fraction(sum(share.seconds.values())) / 3600 * running_rate(row)
            once = Fraction(share.setup_hours) * (Fraction(row.machine_rate) + Fraction(row.labour_rate))
            found[share.decision.id] = (run + once) * up
    return found


def _once(before: Ledger, after: Ledger, rates: Rates, programs: Sequence[Subprogram]) -> Iterator[OneOffCost]:
    """Programs by the shop's hours for those that change, fixtures and pieces on the shelf as they were typed."""
    made = [one for one in programs if one.stays in ("changed", "new")]
    old = {setup.id for setup in before.plan.setups}
    setups = [setup.id for setup in after.plan.setups if setup.id not in old]
    hours = rates.programming_hours_per_operation * len(made) + rates.programming_hours_per_setup * len(setups)
    rate = after.plan.rates.programming_rate
    rate = rates.programming_rate if rate is None else rate
    if hours:
        more = f" and {len(setups)} new setup{'s' if len(setups) > 1 else ''}" if setups else ""
        how = f"{len(made)} of {len(programs)} subprograms{more}: {hours:.2f} h at {rate:.2f}"
        yield OneOffCost("programs changed", how, cents(Fraction(hours) * Fraction(rate)))
    once = after.plan.one_off
    if once.fixtures:
        yield OneOffCost("fixtures", "as they were typed", once.fixtures)
    if once.on_shelf:
        (was,) = price(replace(before.problem, quantities=before.plan.quantities[:1]))
        each = Fraction(was.cost) / was.quantity
        how = f"{once.on_shelf} of revision {before.plan.revision} on the shelf are scrap, {cents(each)} each at cost"
        yield OneOffCost("pieces made", how, cents(each * once.on_shelf))
