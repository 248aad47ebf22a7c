"""What a part is bought as: a plan beside itself from every other form that the shop's dealers keep, however it lies,
and which of them a new plan takes.

More stock is more to buy and more to cut: what holds no less than the plan's own and spares no side is not evaluated.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from decimal import Decimal
from math import inf
from time import monotonic
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene
from lean_ledger.core.changes.stock import SetStock, told
from lean_ledger.core.first.mended import errors_of
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.bodies import planned_part
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, StockForm
from lean_ledger.core.stock.sizes import listed_sides, sized_stock
from lean_ledger.library.types import Library

Along = Literal["X", "Y", "Z", "by the rule"]
AXES: tuple[Along, ...] = ("X", "Y", "Z")
FLAT: tuple[StockForm, ...] = ("plate", "rectangular bar")
NO_MORE = 1e-3  # mm³


@dataclass(frozen=True)
class BoughtAs:
    """A plan from other stock: `named` is what to order, `stays` the sides that stay as they are bought, `volume` mm³
    and how much `more` than the plan's own. Without a `ledger` it is `only_more`, or there was no time for it.
    """

    named: str
    stays: tuple[str, ...]
    change: SetStock
    volume: float
    more: float
    plan: Plan
    ledger: Ledger | None = None
    each_change: Decimal | None = None  # of a piece's price at the first quantity

    @property
    def each(self) -> Decimal | None:
        return self.ledger.prices[0].each if self.ledger is not None else None

    @property
    def left(self) -> int:
        return len(errors_of(self.ledger)) if self.ledger is not None else 0

    @property
    def only_more(self) -> bool:
        """Whether it holds no less than the plan's own and spares no side."""
        return not self.stays and self.more >= -NO_MORE

    @property
    def words(self) -> str:
        return f"{self.named}, {told(self.stays)} as bought" if self.stays else self.named


def bought_otherwise(
    plan: Plan, ledger: Ledger, part: Part, library: Library, until: float = inf
) -> tuple[BoughtAs, ...]:
    """All that a plan would do with, beside its ledger: what was evaluated first, the least first; after `until`
    (monotonic seconds) no further one is. None for a plan whose stock is delivered.
    """
    found = [_evaluated(one, ledger, part, library, until) for one in _offered(plan, ledger, part, library)]
    by_name: dict[str, BoughtAs] = {}  # what is ordered alike lies as it costs least
    for one in sorted((one for one in found if one is not None), key=_rank):
        by_name.setdefault(one.words, one)
    return tuple(by_name.values())


def bought_for_less(plan: Plan, ledger: Ledger, part: Part, library: Library, until: float) -> BoughtAs | None:
    """What a new plan is bought as in place of its own: what holds the least, where that leaves no more to solve at a
    lower price. Whether a side may stay as it was rolled is the planner's to say.
    """
    able = (one for one in _offered(plan, ledger, part, library) if not one.stays)
    least = min(able, key=lambda one: one.volume, default=None)
    found = _evaluated(least, ledger, part, library, until) if least is not None else None
    if found is None or found.ledger is None:
        return None
    own = len(errors_of(ledger)), ledger.prices[0].each
    return found if (found.left, found.each) < own else None


def _evaluated(one: BoughtAs, ledger: Ledger, part: Part, library: Library, until: float) -> BoughtAs | None:
    if one.only_more or monotonic() > until:
        return one
    try:
        found = evaluate(one.plan, part, library)
    except PlanError:
        return None
    return replace(one, ledger=found, each_change=found.prices[0].each - ledger.prices[0].each)


def _rank(one: BoughtAs) -> tuple[bool, int, Decimal, float]:
    return one.ledger is None, one.left, one.each or Decimal(0), one.volume


def _offered(plan: Plan, ledger: Ledger, part: Part, library: Library) -> Iterator[BoughtAs]:
    if plan.stock.form == "near-net":
        return
    planned = planned_part(part, plan)
    seen = {(ledger.stock.section, ledger.stock.bounds)}
    for change in _changes(ledger, planned):
        try:
            other, _ = change.apply(plan, Scene(part, library, ledger))
        except PlanError:
            continue
        sized = sized_stock(other, planned, library.stock)
        state = sized.state(planned)
        if sized.missing or (state.section, state.bounds) in seen:
            continue
        seen.add((state.section, state.bounds))
        stays = listed_sides(other, planned, library.stock) if change.stay else ()
        yield BoughtAs(sized.named, stays, change, state.volume, state.volume - ledger.stock.volume, other)


def _changes(ledger: Ledger, part: Part) -> Iterator[SetStock]:
    turned = any(setup.part_turns for setup in ledger.plan.setups)
    forms: list[tuple[StockForm, Along]] = [("round bar", "by the rule")] if turned or part.axis is not None else []
    if turned:
        forms.append(("hexagonal bar", "by the rule"))
    else:
        yield SetStock("block", sizing="over the part")
        forms += [(form, axis) for form in FLAT for axis in AXES]
    for form, along in forms:
        for stay in (True, False):
            yield SetStock(form, along, "next size up", stay)
