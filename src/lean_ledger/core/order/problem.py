"""What is to be put in order, and what an order costs: changes of tool, of angle and of piece.

From one operation to the next costs `tool_change` where the tool differs, `index` + `per_degree` × the shortest turn
where the angle differs, `piece` where the piece differs. The operations' own seconds are the same in every order.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import Literal

from lean_ledger.core.basis.errors import PlanError

Count = Literal["tool", "index", "piece"]
COUNTS: tuple[Count, ...] = ("tool", "index", "piece")
GRAIN = 1_000_000  # of a second: costs are whole numbers of it
TURN = 360.0


@dataclass(frozen=True)
class Step:
    """An operation on a piece; angle in degrees, own seconds."""

    id: str
    piece: str
    tool: str
    angle: float
    seconds: float = 0.0


@dataclass(frozen=True)
class Times:
    """Seconds of each change; `index` and so much for each degree of it."""

    tool_change: float
    index: float
    per_degree: float
    piece: float


@dataclass(frozen=True)
class Start:
    """What is in before the first: no tool counts as one to be changed, no piece as none."""

    tool: str | None = None
    angle: float = 0.0
    piece: str | None = None


@dataclass(frozen=True)
class Cost:
    tool: int
    index: int
    piece: int
    seconds: float

    def count(self, name: Count) -> int:
        return {"tool": self.tool, "index": self.index, "piece": self.piece}[name]


@dataclass(frozen=True)
class OrderProblem:
    """`before`: pairs of ids, the first comes before the second. `goal`: None for seconds, or the counts by rank.
    `runs`: indexes of steps that are done one right after the other.
    """

    steps: tuple[Step, ...]
    before: tuple[tuple[str, str], ...]
    times: Times
    start: Start = Start()
    goal: tuple[Count, ...] | None = None
    runs: tuple[tuple[int, ...], ...] = ()

    @cached_property
    def units(self) -> tuple[tuple[int, ...], ...]:
        """What is moved as a whole: runs, and each other step by itself; by their first steps."""
        inside = {k for run in self.runs for k in run}
        alone = [(k,) for k in range(len(self.steps)) if k not in inside]
        return tuple(sorted((*self.runs, *alone)))

    @cached_property
    def unit_of(self) -> Mapping[int, int]:
        return {k: u for u, unit in enumerate(self.units) for k in unit}

    @cached_property
    def unit_edges(self) -> tuple[tuple[int, int], ...]:
        """Precedences between units."""
        pairs = ((self.unit_of[a], self.unit_of[b]) for a, b in self.edges)
        return tuple(dict.fromkeys(pair for pair in pairs if pair[0] != pair[1]))

    def expanded(self, units: Sequence[int]) -> tuple[int, ...]:
        return tuple(k for u in units for k in self.units[u])

    @cached_property
    def at(self) -> Mapping[str, int]:
        return {step.id: k for k, step in enumerate(self.steps)}

    @cached_property
    def edges(self) -> tuple[tuple[int, int], ...]:
        return tuple(dict.fromkeys((self.at[a], self.at[b]) for a, b in self.before))

    def cost(self, order: Sequence[int]) -> Cost:
        """Of an order of all steps, by their indexes.

        T1 T1 T2 on pieces P P Q from no tool: 2 tool changes of 4.2 s and one hop of 1.3 s are 9.7 s.
        """
        tool, angle, piece = self.start.tool, self.start.angle, self.start.piece
        tools = indexes = pieces = 0
        seconds = 0.0
        for k in order:
            step = self.steps[k]
            if step.tool != tool:
                tools, seconds = tools + 1, seconds + self.times.tool_change
            turn = turned(angle, step.angle)
            if turn:
                indexes, seconds = indexes + 1, seconds + self.times.index + self.times.per_degree * turn
            if piece is not None and step.piece != piece:
                pieces, seconds = pieces + 1, seconds + self.times.piece
            tool, angle, piece = step.tool, step.angle, step.piece
        return Cost(tools, indexes, pieces, round(seconds, 6))

    def keeps(self, order: Sequence[int]) -> bool:
        """Whether an order breaks no precedence and no run."""
        place = {k: i for i, k in enumerate(order)}
        whole = all(place[b] == place[a] + 1 for run in self.runs for a, b in pairwise(run))
        return whole and all(place[a] < place[b] for a, b in self.edges)


def turned(a: float, b: float) -> float:
    """The shortest turn from one angle to the other, degrees.

    >>> turned(0, 270), turned(350, 10), turned(90, 450)
    (90.0, 20.0, 0.0)
    """
    apart = round(abs(a - b) % TURN, 9) % TURN
    return min(apart, TURN - apart)


def circle_in(count: int, edges: Sequence[tuple[int, int]]) -> list[int]:
    """Steps that wait for one another, each for the one before and the first for the last; none without a circle."""
    after: dict[int, list[int]] = {}
    waits = [0] * count
    for a, b in edges:
        after.setdefault(a, []).append(b)
        waits[b] += 1
    free = [k for k in range(count) if not waits[k]]
    for k in free:
        for b in after.get(k, ()):
            waits[b] -= 1
            if not waits[b]:
                free.append(b)
    left = {k for k in range(count) if waits[k]}
    if not left:
        return []
    needs = {b: a for a, b in edges if a in left and b in left}
    seen: list[int] = []
    at = min(k for k in left if k in needs)
    while at not in seen:
        seen.append(at)
        at = needs[at]
    return seen[seen.index(at) :][::-1]


def check_order_problem(problem: OrderProblem) -> None:
    """Raises PlanError precedence-cycle for operations, or runs of them, that wait for one another, naming them."""
    circle = circle_in(len(problem.steps), problem.edges)
    if circle:
        names = " → ".join(problem.steps[k].id for k in (*circle, circle[0]))
        raise PlanError("precedence-cycle", f"these operations wait for one another: {names}")
    circle = circle_in(len(problem.units), problem.unit_edges) if problem.runs else []
    if circle:
        names = " → ".join(problem.steps[problem.units[u][0]].id for u in (*circle, circle[0]))
        raise PlanError("precedence-cycle", f"runs that are to stay whole wait for one another: {names}")
