"""Dividing work into setups: the least number, proven, then most machining first, fewest indexes, best grip.

An exact cover with an order, solved as an integer program with CP-SAT (ortools). Positions 1 … K in the order of
cutting each take one clamping; every item stands in one position whose clamping reaches it along a direction used
there. Time is counted in the solver's own deterministic measure, so that the same input gives the same answer.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from math import ceil
from typing import Any

from lean_ledger.core.setups.reach import Clamping

MOST_SETUPS = 12
EFFORT = 20.0  # of the solver's deterministic seconds for one stage
WEIGHT_STEPS = 1_000_000  # to which the whole machining is scaled, for whole numbers


@dataclass(frozen=True)
class Item:
    """What has to be machined. `ways` are indexes of the directions it can be cut from, `weight` its material, mm³."""

    id: str
    weight: float
    ways: frozenset[int]


@dataclass(frozen=True)
class Task:
    """`before`: the first is cut no later than the second. `together`: in the same setup.

    `first` are the directions that the first setup may use, where any item can be cut from them; all where it is empty.
    `held` keeps a setup where it is: position → (directions it uses, or None for any; items that stay in it).
    """

    items: tuple[Item, ...]
    clampings: tuple[Clamping, ...]
    before: tuple[tuple[str, str], ...] = ()
    together: tuple[tuple[str, ...], ...] = ()
    first: frozenset[int] = frozenset()
    held: Mapping[int, tuple[int | None, tuple[str, ...]]] = field(default_factory=dict)
    grip_cost: Mapping[int, float] = field(default_factory=dict)  # of a direction being up; less is better


@dataclass(frozen=True)
class DividedSetup:
    """One setup: its clamping, the directions it is cut from with most machining first, and the items' ids."""

    clamping: Clamping
    directions: tuple[int, ...]
    items: tuple[str, ...]


@dataclass(frozen=True)
class Division:
    setups: tuple[DividedSetup, ...]
    unreachable: tuple[str, ...]
    lower_bound: int
    clashes: tuple[str, ...] = ()  # wishes that no division fulfils together with the others

    @property
    def proven(self) -> bool:
        return self.lower_bound == len(self.setups)


def divide(task: Task) -> Division:
    """The division; items that no clamping reaches are `unreachable`, and are no part of it.

    Wishes that cannot all be fulfilled are left out one by one, and named in `clashes`.
    """
    reachable = frozenset[int]().union(*(c.reached for c in task.clampings))
    possible = tuple(item for item in task.items if item.ways & reachable)
    lost = tuple(item.id for item in task.items if not item.ways & reachable)
    if not possible:
        return Division((), lost, 0)
    model, clashes = _solvable(task, possible)
    count, bound = model.count, model.bound
    model.fix_count(count)
    model.prefer_most_first()
    model.prefer_fewest_directions()
    model.prefer_grip()
    return Division(model.result(), lost, bound, clashes)


def _solvable(task: Task, items: Sequence[Item]) -> tuple[_Model, tuple[str, ...]]:
    """A model with an answer; wishes that stand against those before them are left out, in the order given."""
    model = _first_answer(task, items)
    if model is not None:
        return model, ()
    kept = replace(task, before=(), together=(), held={})
    clashes: list[str] = []
    best = _first_answer(kept, items)
    for words, with_wish in _wishes(task):
        tried = with_wish(kept)
        answer = _first_answer(tried, items)
        if answer is None:
            clashes.append(words)
        else:
            kept, best = tried, answer
    assert best is not None, "without wishes every item that is reached finds a setup"
    return best, tuple(clashes)


def _wishes(task: Task) -> list[tuple[str, Callable[[Task], Task]]]:
    """What was asked for beside the cover, each in words and as a task with it, the setups that stay first."""

    def holding(k: int) -> Callable[[Task], Task]:
        return lambda t: replace(t, held={**t.held, k: task.held[k]})

    def joining(ids: tuple[str, ...]) -> Callable[[Task], Task]:
        return lambda t: replace(t, together=(*t.together, ids))

    def ordering(pair: tuple[str, str]) -> Callable[[Task], Task]:
        return lambda t: replace(t, before=(*t.before, pair))

    return [
        *((f"setup {k + 1} stays as it is", holding(k)) for k in sorted(task.held)),
        *((f"{' and '.join(ids)} in one setup", joining(ids)) for ids in task.together),
        *((f"{a} before {b}", ordering((a, b))) for a, b in task.before),
    ]


def _first_answer(task: Task, items: Sequence[Item]) -> _Model | None:
    """The model solved for the least number of setups, with positions added while there is no answer yet."""
    positions = max(len(_greedy(items, task.clampings)), *(position + 1 for position in task.held), 1)
    positions += 1 if task.before or task.held else 0  # an order may ask for coming back to a side
    while True:
        model = _Model(task, items, positions)
        if model.least():
            return model
        if positions >= min(MOST_SETUPS, len(items) + len(task.held)):
            return None
        positions = min(positions + 2, MOST_SETUPS, max(len(items), positions + 1))


def _greedy(items: Sequence[Item], candidates: Sequence[Clamping]) -> list[Clamping]:
    waiting, chosen = list(items), []
    while waiting:
        best = max(candidates, key=lambda c: sum(1 for item in waiting if item.ways & c.reached))
        left = [item for item in waiting if not item.ways & best.reached]
        if len(left) == len(waiting):
            break
        chosen.append(best)
        waiting = left
    return chosen


def _solver() -> Any:
    """The solver, which takes longer to load than most divisions to solve: only where something is divided."""
    from ortools.sat.python import cp_model

    return cp_model


class _Model:
    """Stages are solved one after another, each with the outcomes of those before as constraints."""

    def __init__(self, task: Task, items: Sequence[Item], positions: int) -> None:
        self.positions = positions
        self.count = 0
        self.bound = 0
        self._task = task
        self._items = items
        self._groups = _grouped(task, items)
        self._scale = WEIGHT_STEPS / max(sum(item.weight for item in items), 1e-9)
        self._cp = _solver()
        self._model: Any = self._cp.CpModel()
        self._hints: dict[Any, int] = {}
        self._build()

    def _build(self) -> None:
        m, task = self._model, self._task
        used = sorted(set().union(*(group.ways for group in self._groups)))
        self._y = {
            (c, k): m.new_bool_var(f"y{c},{k}") for c in range(len(task.clampings)) for k in range(self.positions)
        }
        self._z = {(d, k): m.new_bool_var(f"z{d},{k}") for d in used for k in range(self.positions)}
        self._x = {(g, k): m.new_bool_var(f"x{g},{k}") for g in range(len(self._groups)) for k in range(self.positions)}
        self._open = [m.new_bool_var(f"open{k}") for k in range(self.positions)]
        for k in range(self.positions):
            m.add(sum(self._y[c, k] for c in range(len(task.clampings))) == self._open[k])
            if k:
                m.add_implication(self._open[k], self._open[k - 1])
            if k not in task.held:  # a setup that stays may be one that nothing falls to yet
                m.add(sum(self._x[g, k] for g in range(len(self._groups))) >= self._open[k])
            for d in used:
                able = [self._y[c, k] for c, clamping in enumerate(task.clampings) if d in clamping.reached]
                m.add(self._z[d, k] <= sum(able))
        for g, group in enumerate(self._groups):
            m.add_exactly_one(self._x[g, k] for k in range(self.positions))
            for k in range(self.positions):
                for ways in group.each_ways:
                    m.add(self._x[g, k] <= sum(self._z[d, k] for d in ways if (d, k) in self._z))
        if task.first and any(item.ways & task.first for item in self._items):
            m.add(
                sum(self._y[c, 0] for c, one in enumerate(task.clampings) if one.reached & task.first) == self._open[0]
            )
        self._order()
        self._hold()

    def _order(self) -> None:
        at = {id: g for g, group in enumerate(self._groups) for id in group.ids}
        for first, then in self._task.before:
            if first in at and then in at and at[first] != at[then]:
                for k in range(self.positions):
                    # wherever the second stands, the first stands there or before
                    earlier = sum(self._x[at[first], j] for j in range(k + 1))
                    self._model.add(earlier >= self._x[at[then], k])

    def _hold(self) -> None:
        at = {id: g for g, group in enumerate(self._groups) for id in group.ids}
        for k, (direction, ids) in self._task.held.items():
            self._model.add(self._open[k] == 1)
            if direction is not None and (direction, k) in self._z:
                self._model.add(self._z[direction, k] == 1)
            for id in ids:
                if id in at:
                    self._model.add(self._x[at[id], k] == 1)

    def _solve(self, objective: Any, *, maximise: bool) -> float | None:
        m = self._model
        m.clear_hints()
        for variable, value in self._hints.items():
            m.add_hint(variable, value)
        if maximise:
            m.maximize(objective)
        else:
            m.minimize(objective)
        solver = self._cp.CpSolver()
        solver.parameters.max_deterministic_time = EFFORT
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = 1
        status = solver.solve(m)
        if status not in (self._cp.OPTIMAL, self._cp.FEASIBLE):
            return None
        everything = [*self._y.values(), *self._z.values(), *self._x.values(), *self._open]
        self._hints = {variable: solver.value(variable) for variable in everything}
        self._last_bound = solver.best_objective_bound
        return float(solver.objective_value)

    def least(self) -> bool:
        """Solve for the least number of setups; whether there is an answer."""
        found = self._solve(sum(self._open), maximise=False)
        if found is None:
            return False
        self.count = round(found)
        self.bound = min(self.count, max(1, ceil(self._last_bound - 1e-6)))
        return True

    def fix_count(self, count: int) -> None:
        for k, variable in enumerate(self._open):
            self._model.add(variable == (1 if k < count else 0))
        self.positions = count

    def prefer_most_first(self) -> None:
        for k in range(self.positions - 1):
            amount = sum(self._weight(g) * self._x[g, k] for g in range(len(self._groups)))
            best = self._solve(amount, maximise=True)
            if best is not None:
                self._model.add(amount >= round(best))

    def prefer_fewest_directions(self) -> None:
        count = sum(self._z[d, k] for d, k in self._z if k < self.positions)
        best = self._solve(count, maximise=False)
        if best is not None:
            self._model.add(count <= round(best))

    def prefer_grip(self) -> None:
        """Last, between equals, the directions in the order in which they were given."""
        costs = self._task.grip_cost
        steps = 1000 / max(*costs.values(), 1e-9) if costs else 0.0
        ties = self.positions * len(self._z)
        self._solve(
            sum(
                (round(costs.get(d, 0.0) * steps) * ties * ties + d * (self.positions - k)) * variable
                for (d, k), variable in self._z.items()
                if k < self.positions
            ),
            maximise=False,
        )

    def _weight(self, g: int) -> int:
        return max(1, round(self._groups[g].weight * self._scale))

    def result(self) -> tuple[DividedSetup, ...]:
        placed = []
        for k in range(self.positions):
            clamping = next(c for i, c in enumerate(self._task.clampings) if self._hints[self._y[i, k]])
            groups = [group for g, group in enumerate(self._groups) if self._hints[self._x[g, k]]]
            ids = {id for group in groups for id in group.ids}
            used = [d for (d, at), variable in self._z.items() if at == k and self._hints[variable]]
            items = [item for item in self._items if item.id in ids]
            placed.append(DividedSetup(clamping, _ranked(used, items), tuple(item.id for item in items)))
        return tuple(placed)


def _ranked(directions: Sequence[int], items: Sequence[Item]) -> tuple[int, ...]:
    """The directions that are needed, the one with most machining first."""
    weight: dict[int, float] = defaultdict(float)
    needed: list[int] = []
    waiting = list(items)
    while waiting:
        best = max(
            (d for d in directions if d not in needed),
            key=lambda d: (sum(i.weight for i in waiting if d in i.ways), sum(1 for i in waiting if d in i.ways), -d),
        )
        needed.append(best)
        weight[best] = sum(item.weight for item in waiting if best in item.ways)
        waiting = [item for item in waiting if best not in item.ways]
    return tuple(sorted(needed, key=lambda d: (-weight[d], d)))


@dataclass(frozen=True)
class _Group:
    """Items that always stand together: the same ways and no order of their own, or asked to be together."""

    ids: tuple[str, ...]
    weight: float
    each_ways: tuple[frozenset[int], ...]

    @property
    def ways(self) -> frozenset[int]:
        return frozenset().union(*self.each_ways)


def _grouped(task: Task, items: Sequence[Item]) -> list[_Group]:
    bound = {id for pair in task.before for id in pair} | {id for _, ids in task.held.values() for id in ids}
    joined: dict[str, str] = {}
    for n, ids in enumerate(task.together):
        met = {joined[id] for id in ids if id in joined}
        joined = {id: f"together {n}" if label in met else label for id, label in joined.items()}
        joined.update(dict.fromkeys(ids, f"together {n}"))
    rooms: dict[object, list[Item]] = defaultdict(list)
    for item in items:
        alone = item.id in bound and item.id not in joined
        rooms[item.id if alone else joined.get(item.id, item.ways)].append(item)
    return [
        _Group(
            tuple(i.id for i in room), sum(i.weight for i in room), tuple(dict.fromkeys(i.ways for i in room))
        )
        for room in rooms.values()
    ]  # fmt: skip
