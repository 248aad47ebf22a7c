"""A problem as its search sees it: whole-number costs, bits for what is done, pieces that can stand for one another."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import pairwise

from lean_ledger.core.order.problem import COUNTS, GRAIN, OrderProblem, turned

State = tuple[int, int, int]  # tool, angle and piece that are in; -1 for none


@dataclass
class Piece:
    """`own` are its steps; `kind` is the same for pieces that can stand for one another."""

    own: list[int]
    kind: int = 0


@dataclass
class Model:
    """Tools, angles and pieces as numbers from 0; costs as whole numbers; `needs[k]` are bits of all steps before k.

    A step is a unit of the problem: it is come to in one state and left in another, which differ for runs that stay
    whole. Those belong to no piece's own steps: each is a piece of its own in `pieces`, behind the others.
    """

    problem: OrderProblem
    tool: list[int] = field(default_factory=list)
    angle: list[int] = field(default_factory=list)
    piece: list[int] = field(default_factory=list)
    needs: list[int] = field(default_factory=list)
    after: list[list[int]] = field(default_factory=list)
    pieces: list[Piece] = field(default_factory=list)
    tools: int = 0
    angles: int = 0
    turn: list[list[int]] = field(default_factory=list)  # cost from angle to angle
    by_tool: int = 0  # cost of a change
    by_piece: int = 0
    by_turn: int = 0  # the least of a turn
    weights: tuple[int, int, int] = (0, 0, 0)  # of the counts, where they are the goal
    start: State = (-1, 0, -1)
    leaves: list[State] = field(default_factory=list)  # what is in after each step
    inner: list[int] = field(default_factory=list)  # what a run costs within
    whole: list[bool] = field(default_factory=list)  # whether a step is a run
    belongs: list[int] = field(default_factory=list)  # index in `pieces`
    depth: list[int] = field(default_factory=list)  # steps of the longest way within its piece that leads to each
    known: dict[tuple[int, ...], int] = field(default_factory=dict)

    def least_of(self, t: int, a: int, p: int, ta: int, tp: int, ap: int, tap: int) -> int:
        """min cT·T + cA·A + cP·P over T ≥ t, A ≥ a, P ≥ p, T+A ≥ ta, T+P ≥ tp, A+P ≥ ap, T+A+P ≥ tap.

        With 3 a tool, 3.2 an index, 1.1 a hop and T ≥ 12, A ≥ 1, P ≥ 9, T+A ≥ 20, T+P ≥ 49: 19, 1 and 30 are 93.2.
        """
        asked = (t, a, p, ta, tp, ap, tap)
        best = self.known.get(asked)
        if best is not None:
            return best
        for tools in range(t, max(t, ta - a, tp - p, tap) + 1):
            turns, hops = max(a, ta - tools, 0), max(p, tp - tools, 0)
            rest = max(0, max(ap, tap - tools) - turns - hops)
            cost = self.by_tool * tools + self.by_turn * turns + self.by_piece * hops
            cost += rest * min(self.by_turn, self.by_piece)
            best = cost if best is None else min(best, cost)
        self.known[asked] = best or 0
        return best or 0

    def worth(self, order: Sequence[int]) -> int:
        """What an order of all the problem's steps costs."""
        return self.worth_of(
            [self.problem.unit_of[k] for k in order if self.problem.units[self.problem.unit_of[k]][0] == k]
        )

    def worth_of(self, units: Sequence[int]) -> int:
        state, cost = self.start, 0
        for k in units:
            cost += self.step_cost(state, self.enters(k)) + self.inner[k]
            state = self.leaves[k]
        return cost

    def enters(self, k: int) -> State:
        return self.tool[k], self.angle[k], self.piece[k]

    def step_cost(self, left: State, now: State) -> int:
        cost = (self.by_tool if left[0] != now[0] else 0) + self.turn[left[1]][now[1]]
        return cost + (self.by_piece if left[2] >= 0 and left[2] != now[2] else 0)


ELSEWHERE = 1_000_000  # a piece that the problem does not have


def modelled(problem: OrderProblem) -> Model:
    model = Model(problem)
    tools: dict[str, int] = {}
    angles: dict[float, int] = {}
    pieces: dict[str, int] = {}

    def state(k: int) -> State:
        step = problem.steps[k]
        return (tools.setdefault(step.tool, len(tools)), angles.setdefault(_plain(step.angle), len(angles)),
                pieces.setdefault(step.piece, len(pieces)))  # fmt: skip

    states = [state(k) for k in range(len(problem.steps))]
    model.pieces = [Piece([]) for _ in pieces]
    for u, unit in enumerate(problem.units):
        tool, angle, at = states[unit[0]]
        model.tool.append(tool)
        model.angle.append(angle)
        model.piece.append(at)
        model.leaves.append(states[unit[-1]])
        model.whole.append(len(unit) > 1)
        if len(unit) > 1:
            at = len(model.pieces)
            model.pieces.append(Piece([]))
        model.pieces[at].own.append(u)
        model.belongs.append(at)
    count = len(problem.units)
    model.needs, model.after = [0] * count, [[] for _ in range(count)]
    for a, b in problem.unit_edges:
        model.needs[b] |= 1 << a
        model.after[a].append(b)
    begin = problem.start
    first_angle = angles.setdefault(_plain(begin.angle), len(angles))
    model.start = (
        tools.setdefault(begin.tool, len(tools)) if begin.tool is not None else -1, first_angle,
        pieces.get(begin.piece, ELSEWHERE) if begin.piece is not None else -1,
    )  # fmt: skip
    model.tools, model.angles = len(tools), len(angles)
    _costs(model, list(angles))
    model.inner = [
        sum(model.step_cost(states[a], states[b]) for a, b in pairwise(unit)) for unit in problem.units
    ]  # fmt: skip
    model.depth = _depths(model)
    _kinds(model)
    return model


def _plain(angle: float) -> float:
    return round(angle % 360.0, 9) % 360.0


def _costs(model: Model, angles: list[float]) -> None:
    problem, times = model.problem, model.problem.times
    between = [[turned(a, b) for b in angles] for a in angles]
    if problem.goal is None:
        model.by_tool, model.by_piece = round(times.tool_change * GRAIN), round(times.piece * GRAIN)
        model.turn = [[round((times.index + times.per_degree * d) * GRAIN) if d else 0 for d in row] for row in between]
    else:
        base = len(problem.steps) + 2
        weight = {name: base ** (len(COUNTS) - 1 - rank) for rank, name in enumerate(problem.goal)}
        model.weights = (weight["tool"], weight["index"], weight["piece"])
        model.by_tool, model.by_piece = weight["tool"], weight["piece"]
        model.turn = [[weight["index"] if d else 0 for d in row] for row in between]
    model.by_turn = min((c for i, row in enumerate(model.turn) for j, c in enumerate(row) if i != j), default=0)


def _kinds(model: Model) -> None:
    """Pieces are of one kind where to change one for the other, step for step, changes nothing of the precedences."""
    edges = set(model.problem.unit_edges)
    firsts: list[list[int]] = []  # of each kind, its first piece's steps in an order that all of the kind share
    # what a run comes to or leaves is not like others
    held = {p for k, whole in enumerate(model.whole) if whole for p in (model.piece[k], model.leaves[k][2])}
    for at, piece in enumerate(model.pieces):
        own = sorted(piece.own, key=lambda k: (model.depth[k], model.tool[k], model.angle[k], k))
        piece.own = own
        for kind, first in enumerate(firsts):
            plain = at not in held and own and not model.whole[own[0]]
            if plain and first and model.belongs[first[0]] not in held and _alike(model, edges, first, own):
                piece.kind = kind
                break
        else:
            piece.kind = len(firsts)
            firsts.append(own)


def _depths(model: Model) -> list[int]:
    depths = [0] * len(model.needs)
    for k in ordered(model):
        inside = [a for a in bits(model.needs[k]) if model.piece[a] == model.piece[k]]
        depths[k] = max((depths[a] + 1 for a in inside), default=0)
    return depths


def _alike(model: Model, edges: set[tuple[int, int]], a: list[int], b: list[int]) -> bool:
    if len(a) != len(b) or a == b:
        return False
    if any((model.tool[x], model.angle[x]) != (model.tool[y], model.angle[y]) for x, y in zip(a, b, strict=True)):
        return False
    if {model.start[2]} & {model.piece[a[0]], model.piece[b[0]]}:
        return False
    swap = dict(zip(a, b, strict=True)) | dict(zip(b, a, strict=True))
    touched = [(x, y) for x, y in edges if x in swap or y in swap]
    return all((swap.get(x, x), swap.get(y, y)) in edges for x, y in touched)


def ordered(model: Model) -> list[int]:
    """All steps, each after what it needs."""
    waits = [need.bit_count() for need in model.needs]
    free = [k for k, left in enumerate(waits) if not left]
    for k in free:
        for b in model.after[k]:
            waits[b] -= 1
            if not waits[b]:
                free.append(b)
    return free


def bits(value: int) -> list[int]:
    found = []
    while value:
        low = value & -value
        found.append(low.bit_length() - 1)
        value ^= low
    return found
