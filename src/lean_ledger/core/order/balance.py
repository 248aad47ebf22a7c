"""Tasks spread over stations so that the fullest one is as empty as can be: an integer program, solved with CP-SAT.

x(t, s) puts task t on station s. Each task is on one station that it may be on; for a before b, wherever b is up to
station s, a is up to there as well: Σ_{k ≤ s} x(b, k) ≤ Σ_{k ≤ s} x(a, k); tasks that belong together count as one; of
two that stay apart one at most is on a station. The least C with Σ seconds(t) · x(t, s) ≤ C is sought.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from math import lcm
from time import monotonic
from typing import TYPE_CHECKING

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.order.problem import circle_in

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

WORKERS = 2
FOR_WHY = 2.0  # s that each rule is looked at, where no assignment is possible
Pair = tuple[str, str]


@dataclass(frozen=True)
class Task:
    """`stations`, numbered from 1, that it may be on; None for any."""

    id: str
    seconds: Fraction
    stations: tuple[int, ...] | None = None


@dataclass(frozen=True)
class BalanceProblem:
    tasks: tuple[Task, ...]
    before: tuple[Pair, ...]
    together: tuple[Pair, ...]
    apart: tuple[Pair, ...]
    stations: int


@dataclass(frozen=True)
class Balanced:
    """Station by task; seconds of the fullest one, and what no assignment goes below."""

    stations: Mapping[str, int]
    fullest: Fraction
    bound: Fraction

    def loads(self, problem: BalanceProblem) -> list[Fraction]:
        found = [Fraction(0)] * problem.stations
        for task in problem.tasks:
            found[self.stations[task.id] - 1] += task.seconds
        return found


def balanced(problem: BalanceProblem, seconds: float) -> Balanced:
    """The best spread found in so many seconds. Raises PlanError impossible, naming a rule that stands in the way, or
    precedence-cycle.
    """
    check_before(problem)
    found = _solved(problem, seconds)
    if found is None:
        raise PlanError("impossible", _why(problem, monotonic() + seconds))
    return found


def check_before(problem: BalanceProblem) -> None:
    at = {task.id: k for k, task in enumerate(problem.tasks)}
    circle = circle_in(len(problem.tasks), [(at[a], at[b]) for a, b in problem.before])
    # tasks that wait for one another would all be on one station; no order in it could be kept
    if circle:
        names = " → ".join(problem.tasks[k].id for k in (*circle, circle[0]))
        raise PlanError("precedence-cycle", f"these tasks wait for one another: {names}")


def _solved(problem: BalanceProblem, seconds: float) -> Balanced | None:
    """None where no assignment is possible."""
    from ortools.sat.python import cp_model

    unit = lcm(*(task.seconds.denominator for task in problem.tasks))
    size = {task.id: int(task.seconds * unit) for task in problem.tasks}
    model, group = cp_model.CpModel(), _groups(problem)
    on = _assigned(model, problem, group)
    if on is None:
        return None
    every = range(1, problem.stations + 1)
    total = sum(size.values())
    cycle = model.new_int_var(max(-(-total // problem.stations), *size.values()), max(total, 1), "cycle")
    weight: dict[str, int] = {}
    for task in problem.tasks:
        weight[group[task.id]] = weight.get(group[task.id], 0) + size[task.id]
    for s in every:
        model.add(sum(weight[g] * on[g, s] for g in weight if (g, s) in on) <= cycle)
    model.minimize(cycle)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = WORKERS
    solver.parameters.random_seed = 1
    status = solver.solve(model)
    if status == cp_model.INFEASIBLE:
        return None
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        raise PlanError("no-time", f"no assignment was found in {seconds:g} s; give it more time")
    where = {task.id: next(s for s in every if (group[task.id], s) in on and solver.value(on[group[task.id], s]))
             for task in problem.tasks}  # fmt: skip
    spread = Balanced(where, Fraction(0), Fraction(0))
    fullest = max(spread.loads(problem))
    bound = min(Fraction(-(-round(solver.best_objective_bound * 1000) // 1000), unit), fullest)
    return replace(spread, fullest=fullest, bound=fullest if status == cp_model.OPTIMAL else bound)


def _groups(problem: BalanceProblem) -> dict[str, str]:
    """Each task by the first of those that it belongs together with."""
    first = {task.id: task.id for task in problem.tasks}

    def root(id: str) -> str:
        while first[id] != id:
            id = first[id]
        return id

    for a, b in problem.together:
        first[root(b)] = root(a)
    return {id: root(id) for id in first}


def _assigned(
    model: cp_model.CpModel, problem: BalanceProblem, group: Mapping[str, str]
) -> dict[tuple[str, int], cp_model.IntVar] | None:
    """The variables with all rules but the loads; None where a task has nowhere to be."""
    allowed: dict[str, set[int]] = {}
    for task in problem.tasks:
        able = set(task.stations) if task.stations is not None else set(range(1, problem.stations + 1))
        allowed[group[task.id]] = allowed.get(group[task.id], able) & able
    if not all(allowed.values()):
        return None
    on = {(g, s): model.new_bool_var(f"{g} {s}") for g, able in allowed.items() for s in sorted(able)}
    for g, able in allowed.items():
        model.add_exactly_one(on[g, s] for s in able)
    for a, b in dict.fromkeys((group[a], group[b]) for a, b in problem.before):
        if a != b:
            for s in range(1, problem.stations):
                later, first = ([on[g, k] for k in range(1, s + 1) if (g, k) in on] for g in (b, a))
                model.add(sum(later) <= sum(first))
    for a, b in problem.apart:
        one, other = group[a], group[b]
        if one == other:
            return None
        for s in allowed[one] & allowed[other]:
            model.add_at_most_one(on[one, s], on[other, s])
    return on


def _why(problem: BalanceProblem, until: float) -> str:
    """A rule without which there would be an assignment; else, or where time is up, what cannot all be kept."""

    def possible(asked: BalanceProblem) -> bool:
        return monotonic() < until and _possible(asked)

    for task in problem.tasks:
        if task.stations == ():
            return f"task {task.id} has an empty list of stations: it can be nowhere"
    kinds: Sequence[str] = ("apart", "together", "before")
    for kind in kinds:
        rules: tuple[Pair, ...] = getattr(problem, kind)
        for k, (a, b) in enumerate(rules):
            rest = (*rules[:k], *rules[k + 1 :])
            if possible(replace(problem, **{kind: rest})):  # type: ignore[arg-type]
                return f"{kind}[{k}]: {a} and {b} cannot be kept so; without this rule there is an assignment"
    for k, task in enumerate(problem.tasks):
        freed = replace(task, stations=None)
        if task.stations is not None and _possible(
            replace(problem, tasks=(*problem.tasks[:k], freed, *problem.tasks[k + 1 :]))
        ):
            return f"task {task.id} cannot be on {', '.join(map(str, task.stations))} alone with the rules that it has"
    for kind in kinds:
        if getattr(problem, kind) and possible(replace(problem, **{kind: ()})):  # type: ignore[arg-type]
            names = ", ".join(dict.fromkeys(name for pair in getattr(problem, kind) for name in pair))
            return f"{kind}: these rules cannot all be kept, of {names}"
    held = ", ".join(task.id for task in problem.tasks if task.stations is not None)
    return f"tasks: the rules and the stations of {held or 'all tasks'} cannot all be kept"


def _possible(problem: BalanceProblem) -> bool:
    try:
        return _solved(problem, FOR_WHY) is not None
    except PlanError:
        return False
