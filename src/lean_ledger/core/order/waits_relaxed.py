"""Timelines without marks, as a constraint program (CP-SAT, ortools): what paths could do if nothing had to be sure.

x(k, p) puts work k on path p; on a path one work follows the other by a circuit, with the change of tool between them;
what comes before ends before, what starts together does, what must not overlap does not. The least end of that is a
lower bound of every run with marks, since marks only add waiting; its orders with the marks that they need are runs.
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import combinations
from time import monotonic
from typing import TYPE_CHECKING

from lean_ledger.core.order.waits import WaitProblem, Work

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

WORKERS = 8  # strategies side by side, on whatever processors there are
Orders = tuple[tuple[int, ...], ...]


def alone_bound(problem: WaitProblem) -> int:
    """Of each spindle: what is alone on it, and of those at each speed the longest, the fullest path of those that have
    no choice, and all of them spread evenly over their paths; one after the other.

    Alone 5; at 1400 rpm 8 and 7 that may run on two paths, 3 on the first only: 5 + max(8, 3, 18/2) = 14.
    """
    most = 0
    for spindle in {s for work in problem.works for s in work.spindles}:
        own = [work for work in problem.works if spindle in work.spindles]
        speeds: dict[str, list[Work]] = {}
        for work in own:
            if work.speed is not None:
                speeds.setdefault(work.speed, []).append(work)
        alone = sum(work.seconds for work in own if work.speed is None)
        most = max(most, alone + sum(_at_one_speed(works) for works in speeds.values()))
    return most


def _at_one_speed(works: list[Work]) -> int:
    paths = {p for work in works for p in work.paths}
    fixed = [sum(work.seconds for work in works if work.paths == (p,)) for p in paths]
    return max(*(work.seconds for work in works), *fixed, -(-sum(work.seconds for work in works) // len(paths)))


def relaxed(problem: WaitProblem, until: float, found: Callable[[Orders], None]) -> int:
    """A bound of all runs, in units; `found` is told the orders of each better schedule, until a time (monotonic)."""
    from ortools.sat.python import cp_model

    model = _Model(problem)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = max(0.01, until - monotonic())
    solver.parameters.num_workers = WORKERS
    solver.parameters.random_seed = 1

    class Telling(cp_model.CpSolverSolutionCallback):
        def on_solution_callback(self) -> None:
            found(model.orders(self.value))

    status = solver.solve(model.model, Telling())
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return alone_bound(problem)
    return max(alone_bound(problem), round(solver.best_objective_bound))


class _Model:
    def __init__(self, problem: WaitProblem) -> None:
        from ortools.sat.python import cp_model

        self.model, self._p = cp_model.CpModel(), problem
        most = sum(work.seconds + problem.change for work in problem.works)
        count = range(len(problem.works))
        self._starts = [self.model.new_int_var(0, most, f"start {k}") for k in count]
        self._ends = [start + work.seconds for start, work in zip(self._starts, problem.works, strict=True)]
        self._on = {(k, p): self.model.new_bool_var(f"{k} on {p}") for k in count for p in problem.works[k].paths}
        end = self.model.new_int_var(alone_bound(problem), most, "end")
        for k, work in enumerate(problem.works):
            self.model.add_exactly_one(self._on[k, p] for p in work.paths)
            self.model.add(self._ends[k] <= end)
        for a, b in problem.before:
            self.model.add(self._starts[b] >= self._ends[a])
        for a, b in problem.together:
            self.model.add(self._starts[a] == self._starts[b])
        for p in range(len(problem.paths)):
            self._path(p)
        self._apart(most)
        self.model.minimize(end)

    def _interval(self, k: int, on: cp_model.IntVar | None = None) -> cp_model.IntervalVar:
        start, seconds, end = self._starts[k], self._p.works[k].seconds, self._ends[k]
        if on is None:
            return self.model.new_interval_var(start, seconds, end, f"{k}")
        return self.model.new_optional_interval_var(start, seconds, end, on, f"{k}?")

    def _path(self, p: int) -> None:
        """One work after the other: node 0 is where the path begins and ends."""
        own = [k for k, q in self._on if q == p]
        model, works = self.model, self._p.works
        model.add_no_overlap(self._interval(k, self._on[k, p]) for k in own)
        idle = model.new_bool_var(f"{p} idle")
        arcs: list[tuple[int, int, cp_model.LiteralT]] = [(0, 0, idle)]
        node = {k: i for i, k in enumerate(own, start=1)}
        for k in own:
            model.add_implication(idle, self._on[k, p].negated())
            arcs += [(node[k], node[k], self._on[k, p].negated()), (0, node[k], model.new_bool_var("")),
                     (node[k], 0, model.new_bool_var(""))]  # fmt: skip
            for other in own:
                if other != k:
                    follows = model.new_bool_var("")
                    arcs.append((node[k], node[other], follows))
                    change = self._p.change if works[k].tool != works[other].tool else 0
                    model.add(self._starts[other] >= self._ends[k] + change).only_enforce_if(follows)
        model.add_circuit(arcs)

    def _apart(self, most: int) -> None:
        """Pairs that must not overlap; of what is alone on a spindle all of it as one row."""
        rows = [self._interval(k) for k in range(len(self._p.works))]
        told: set[tuple[int, int]] = set()
        for spindle in {s for work in self._p.works for s in work.spindles}:
            alone = [k for k, w in enumerate(self._p.works) if spindle in w.spindles and w.speed is None]
            self.model.add_no_overlap(rows[k] for k in alone)
            told |= set(combinations(alone, 2))
        for a, b in combinations(range(len(rows)), 2):
            if self._p.apart[a] >> b & 1 and (a, b) not in told:
                self.model.add_no_overlap([rows[a], rows[b]])

    def orders(self, value: Callable[[cp_model.IntVar], int]) -> Orders:
        paths = range(len(self._p.paths))
        rows = [[(value(self._starts[k]), k) for (k, q), on in self._on.items() if q == p and value(on)] for p in paths]
        return tuple(tuple(k for _, k in sorted(row)) for row in rows)
