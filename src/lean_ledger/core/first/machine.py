"""The machine of a new plan: of all that the shop has, and of the chains of a lathe with each mill, the one that leaves
the least to solve, nothing at best, at the least price of the first quantity.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from math import inf
from time import monotonic

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.first.bought import BoughtAs, bought_for_less, bought_otherwise
from lean_ledger.core.first.mended import errors_of, mended
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to, on_machine
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.bodies import planned_part
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, StockChoice
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.core.setups.propose import divided
from lean_ledger.core.stock.sizes import asked_on, listed_sides, without
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library

MOST_FEATURES = 100  # of a part that is tried on every machine: somebody waits for its plan
BY_RULE = (StockChoice(), StockChoice("round bar"))  # what plans begin with
BESIDE = 3  # of the others that are named beside the one taken


@dataclass(frozen=True)
class Begun:
    """A plan with its ledger, on a machine or a chain of two; the cures that were taken, by their names; what it is
    bought as where that is not what its kind of machine is begun with.
    """

    machines: tuple[Machine, ...]
    plan: Plan
    ledger: Ledger
    cures: tuple[str, ...] = ()
    bought: str = ""

    @property
    def left(self) -> int:
        """Errors, each a thing that somebody has to solve."""
        return len(errors_of(self.ledger))

    @property
    def each(self) -> Decimal:
        """Price of a piece at the first quantity."""
        return self.ledger.prices[0].each

    @property
    def name(self) -> str:
        return " and ".join(m.name.partition(",")[0] for m in self.machines)

    @property
    def words(self) -> str:
        """What it is, for a line of the journal."""
        found = f"on {self.name}: {self.each:.2f} each" + (f", but {_leaves(self.left)}" if self.left else "")
        found += f"; from {self.bought}" if self.bought else ""
        return f"{found}; mended: {', '.join(self.cures)}" if self.cures else found


@dataclass(frozen=True)
class Beginnings:
    """At least one, the best first; `refused` are the machines that cannot hold the part at all, with the reason;
    `untried` those left out since it would take too long; `otherwise` what the best could be bought as.
    """

    plans: tuple[Begun, ...]
    refused: tuple[tuple[Machine, str], ...]
    untried: tuple[Machine, ...]
    otherwise: tuple[BoughtAs, ...] = ()

    @property
    def best(self) -> Begun:
        return self.plans[0]

    @property
    def words(self) -> str:
        return self.words_of(self.best)

    def words_of(self, taken: Begun) -> str:
        """What was taken and what was compared, for the first line of the journal."""
        found, beside = [taken.words], [one for one in self.plans if one is not taken][:BESIDE]
        if beside:
            found.append("next best " + " · ".join(_told(one) for one in beside))
        if taken is self.best and self.otherwise:
            found.append(_stock_told(self.best, self.otherwise))
        if self.untried:
            found.append(
                "not tried, it would take too long: " + ", ".join(m.name.partition(",")[0] for m in self.untried)
            )
        return "; ".join(found)


def begun(
    part: Part, material: str, quantities: tuple[int, ...], library: Library, report: Report = silent,
    patience: float = inf,
) -> Beginnings:  # fmt: skip
    """The plans that a new job may get. After `patience` seconds, and for a part of more than MOST_FEATURES, no machine
    but the usual one is tried.

    Raises PlanError for a material that is not in the library or a quantity below 1.
    """
    until = monotonic() + patience
    plan = quick_plan(part, material, quantities, library)
    found = beginnings(plan, part, library, report, patience, dearer_as_they_are=True)
    if len(part.features) > MOST_FEATURES or monotonic() > until:
        return found
    report("comparing what it is bought as", 1.0)
    return replace(found, otherwise=bought_otherwise(found.best.plan, found.best.ledger, part, library, until))


def beginnings(
    plan: Plan, part: Part, library: Library, report: Report = silent, patience: float = inf, *,
    dearer_as_they_are: bool = False,
) -> Beginnings:  # fmt: skip
    """What a plan that nobody has worked on yet comes to on each machine; as `begun`. `dearer_as_they_are` mends none
    that costs more than one that is whole already: it would not be taken.
    """
    until = monotonic() + patience
    # one of several carriages makes the same at a higher rate, until someone has more of them work at once
    usual, *others = (machine for machine in library.machines if not machine.works_at_once and machine.counter is None)
    # there is time for some only: what is round is most often turned
    others.sort(key=lambda machine: part.axis is None or not machine.turns_work)
    ledger = evaluate(plan, part, library, report=report)
    found = [_mended((usual,), plan, ledger, part, library, until)]
    if len(part.features) > MOST_FEATURES:
        return Beginnings(tuple(found), (), tuple(others))
    refused: list[tuple[Machine, str]] = []
    untried: list[Machine] = []
    for k, machine in enumerate(others):
        if monotonic() > until:
            untried.append(machine)
            continue
        report(f"trying {machine.name}", k / len(others))
        try:
            best = min(found, key=_rank) if dearer_as_they_are else None
            found.append(_tried(plan, machine, part, library, until, best))
        except PlanError as error:
            refused.append((machine, error.message))
    found.sort(key=_rank)  # stable: of equals the usual one
    return Beginnings(tuple(found), tuple(refused), tuple(untried))


def begun_on(plan: Plan, machines: tuple[str, ...], part: Part, library: Library) -> Begun:
    """What a plan that nobody has worked on yet comes to on a machine, or on a lathe and the mill of what it leaves.

    Raises PlanError for a machine that there is not or that cannot hold the part.
    """
    first, *rest = [_machine(id, library) for id in machines]
    if not rest and first != library.machines[0]:
        return _tried(plan, first, part, library, inf)
    found = []
    for start in _starts(plan, first, part, library):
        moved = moved_to(start, first, part, library)
        for mill in rest:
            moved = _milled_on(moved, mill, part)
        found.append(_mended((first, *rest), moved, evaluate(moved, part, library), part, library, inf))
    return min(found, key=_rank)


def afresh(plan: Plan, part: Part, library: Library) -> Plan:
    """A plan as it is before anybody works on it: what is known of the part, its money and a stock that is delivered
    stay; how it is divided, held and made is by the rules again.
    """
    fresh = quick_plan(planned_part(part, plan), plan.material, plan.quantities, library)
    stock = plan.stock if plan.stock.model else fresh.stock
    return replace(
        fresh, stock=stock, threads=plan.threads, said=plan.said, rates=plan.rates, revision=plan.revision,
        left_out=plan.left_out, bodies=plan.bodies, pairs=plan.pairs, confirmed=plan.confirmed,
        engravings=plan.engravings, issued_by=plan.issued_by,
    )  # fmt: skip


def _machine(id: str, library: Library) -> Machine:
    machine = library.machine(id)
    if machine is None:
        raise PlanError("no-such-machine", f"there is no machine {id!r} in the library")
    return machine


def _tried(
    plan: Plan, machine: Machine, part: Part, library: Library, until: float, best: Begun | None = None
) -> Begun:  # fmt: skip
    """The plan on another machine; of a lathe that leaves something to a mill, with the mill that does that best. What
    costs more than the `best` so far, and that is whole, is not mended: it is no cheaper for it.
    """

    def begun_as(machines: tuple[Machine, ...], plan: Plan, ledger: Ledger) -> Begun:
        return _mended(machines, plan, ledger, part, library, until, best)

    found = []
    for start in _starts(plan, machine, part, library):
        moved = moved_to(start, machine, part, library)
        ledger = evaluate(moved, part, library)
        mills = {load.machine.id: load.machine for load in ledger.loads if not load.machine.turns_work}
        left_to = mills if machine.turns_work else {}
        found.append(begun_as((machine, *left_to.values()), moved, ledger))
        if left_to:
            for mill in library.machines:
                if not mill.turns_work and mill.id not in left_to and monotonic() <= until:
                    chain = _milled_on(moved, mill, part)
                    found.append(begun_as((machine, mill), chain, evaluate(chain, part, library)))
        elif machine.indexes_work and any(f.code == "no-operation" for f in ledger.findings) and monotonic() <= until:
            again = _divided(moved, part, library)  # what no side of the part shows it may turn up
            found.append(begun_as((machine,), again, evaluate(again, part, library)))
    return min(found, key=_rank)


def _starts(plan: Plan, machine: Machine, part: Part, library: Library) -> list[Plan]:
    """A plan as it is, and for a lathe from the hexagonal bar whose flats are the part's, where the list has that."""
    if not machine.turns_work or plan.stock not in BY_RULE:
        return [plan]
    hexagonal = replace(plan, stock=StockChoice("hexagonal bar", sizing="next size up"))
    planned = planned_part(part, plan)
    sides = listed_sides(hexagonal, planned, library.stock)
    if not sides or asked_on(sides, plan, planned) is not None:
        return [plan]
    return [plan, replace(hexagonal, allowances=without(plan.allowances, sides))]


def _divided(plan: Plan, part: Part, library: Library) -> Plan:
    found = divided(planned_part(part, plan), plan, library)
    return replace(plan.clamped_as(found.clamped), moved=found.moved, parked=())


def _milled_on(plan: Plan, mill: Machine, part: Part) -> Plan:
    return plan.clamped_as([one if one.setup.part_turns else on_machine(one, mill, part) for one in plan.clamped])


def _mended(
    machines: tuple[Machine, ...], plan: Plan, ledger: Ledger, part: Part, library: Library, until: float,
    best: Begun | None = None,
) -> Begun:  # fmt: skip
    """Bought as what costs least, then mended; not where it costs no less than the `best` so far, which is whole."""
    bought = f"{ledger.sized.named}, its flats as bought" if plan.stock.form == "hexagonal bar" else ""
    outdone = best is not None and not best.left
    if plan.stock in BY_RULE and not (outdone and _with_no_stock(ledger) >= best.each):  # type: ignore[union-attr]
        other = bought_for_less(plan, ledger, part, library, until)
        if other is not None and other.ledger is not None:
            plan, ledger, bought = other.plan, other.ledger, other.words
    one = Begun(machines, plan, ledger, (), bought)
    if outdone and one.each >= best.each:  # type: ignore[union-attr]
        return one
    plan, ledger, taken = mended(plan, ledger, part, library, until)
    return replace(one, plan=plan, ledger=ledger, cures=tuple(taken))


def _with_no_stock(ledger: Ledger) -> Decimal:
    """What a piece would cost at the first quantity if its stock were for nothing: no other stock saves more."""
    first = ledger.prices[0]
    return first.each * (1 - dict(first.lines)["material"] / first.cost) if first.cost else first.each


def _rank(one: Begun) -> tuple[int, Decimal]:
    return one.left, one.each


def _stock_told(taken: Begun, others: Sequence[BoughtAs]) -> str:
    """What the stock was compared with: what was evaluated, and how many are only more."""
    told = [f"{one.words}: {one.each:.2f}" + (f" ({_leaves(one.left)})" if one.left else "")
            for one in others if one.ledger is not None][:BESIDE]  # fmt: skip
    found = f"bought as {taken.ledger.sized.named}"
    if told:
        found += ", else " + " · ".join(told)
    more = sum(one.only_more for one in others)
    found += f"; {more} other form{'s hold' if more > 1 else ' holds'} more" if more else ""
    untried = sum(one.ledger is None and not one.only_more for one in others)
    return f"{found}; {untried} not tried, it would take too long" if untried else found


def _told(one: Begun) -> str:
    return f"{one.name}: {one.each:.2f}" + (f" ({_leaves(one.left)})" if one.left else "")


def _leaves(count: int) -> str:
    return "leaves one thing to solve" if count == 1 else f"leaves {count} things to solve"
