"""The best order of a load's cycle, and how far its search is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from time import monotonic

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.ordering import Ordered, cycle_of, ordered_as, times_of
from lean_ledger.core.order.model import modelled
from lean_ledger.core.order.plain import plain_orders
from lean_ledger.core.order.problem import GRAIN, Count, Times
from lean_ledger.core.order.search import Search, searched
from lean_ledger.core.order.sequence_problem import bound_in

EVERY = 0.25  # s until it is told again how far a search is


@dataclass(frozen=True)
class Best:
    """`bound`: no order has less by `times`, in the goal's terms; seconds of a cycle are as the machine runs it."""

    found: Ordered
    now: Ordered
    times: Times
    goal: tuple[Count, ...] | None
    bound: float | list[int]
    proven: bool


def best_order(load: LoadLedger, goal: tuple[Count, ...] | None, seconds: float, report: Report = silent) -> Best:
    """The order that costs least, searched for so long; `report` is told what is found and its bound.

    Raises PlanError for a load with nothing to put in order.
    """
    if load.machine.works_at_once:
        raise PlanError("several-carriages", f"{load.machine.name} has several carriages: what runs when is found in "
                        "Balance", load.decision.id)  # fmt: skip
    cycle = cycle_of(load)
    if len(cycle.steps) < 2:
        raise PlanError("nothing-to-order", f"load {load.load.id} has no two steps to put in order", load.decision.id)
    problem = cycle.problem(times_of(cycle), goal)
    now = tuple(range(len(cycle.steps)))
    model = modelled(problem)
    result = searched(model, seconds, now, _Telling(goal, seconds, report))
    order: Sequence[int] = result.order
    if goal is None:  # costs are means: where an order that is known runs quicker than what they lead to, it is taken
        order = min((result.order, now, *plain_orders(problem).values()), key=cycle.seconds)
    bound, proven = bound_in(model, result.bound, problem.cost(order))
    return Best(
        ordered_as("best", cycle, problem, order),
        ordered_as("now", cycle, problem, now),
        problem.times,
        goal,
        bound,
        proven,
    )


class _Telling:
    """Tells now and then how far a search is."""

    def __init__(self, goal: tuple[Count, ...] | None, seconds: float, report: Report) -> None:
        self._goal, self._seconds, self._report = goal, seconds, report
        self._began = self._told = monotonic()

    def __call__(self, search: Search) -> bool:
        now = monotonic()
        if now - self._told > EVERY and search.best is not None:
            self._told = now
            best, bound = search.best.cost, min(search.bound, search.best.cost)
            if self._goal is None:
                words = f"{best / GRAIN:.1f} s of changes found, none has less than {bound / GRAIN:.1f}"
            else:
                first = search.weight_of(self._goal[0])
                words = f"{self._goal[0]} {best // first} found, none has less than {bound // first}"
            self._report(words, min(0.99, (now - self._began) / self._seconds))
        return True
