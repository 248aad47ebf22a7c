"""A load's cycle as something to be put in order: over all its pieces, tools, angles and operations.

What a change costs is taken from the machine's own ways in plain orders of the same load; what an order comes to is
then counted by its calls, as the program will run it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.loads.before import At, precedences
from lean_ledger.core.loads.between import Stop
from lean_ledger.core.loads.lanes import timeline_of
from lean_ledger.core.loads.layout import Layout, Placed
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.timeline import Timeline, lane_of
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.order.plain import Key, SortKey, by_key, plain_orders
from lean_ledger.core.order.problem import (
    Cost,
    Count,
    OrderProblem,
    Start,
    Step,
    Times,
    circle_in,
    turned,
)
from lean_ledger.core.plan import Load
from lean_ledger.core.timing.motion import change_seconds

LOCKED = "what is locked stays whole"
Steps = tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Cycle:
    """All steps of a load's cycle as they stand; `why`: of each pair (indexes) that has to keep its order."""

    load: LoadLedger
    steps: tuple[At, ...]
    why: Mapping[tuple[int, int], str]

    def problem(self, times: Times = Times(1, 1, 0, 1), goal: tuple[Count, ...] | None = None) -> OrderProblem:  # noqa: B008
        rows = tuple(
            Step(_id(placed, op), placed.place.id, op.tool.id, _angle(placed, op), op.time.cut + op.time.rapid)
            for placed, op in self.steps
        )
        before = tuple((rows[a].id, rows[b].id) for a, b in self.why)
        start = Start(None, rows[0].angle if rows else 0.0)
        return kept_whole(OrderProblem(rows, before, times, start, goal), runs_in(self.load.load, self.steps))

    def sequence(self, order: Sequence[int]) -> Steps:
        return tuple((self.steps[k][0].place.id, self.steps[k][1].id) for k in order)

    def seconds(self, order: Sequence[int]) -> float:
        """Of the cycle in this order, as the machine runs it."""
        return self.timeline(order).makespan

    def timeline(self, order: Sequence[int]) -> Timeline:
        return timeline_of([self.steps[k] for k in order], self.load.where, self.load.machine, {})


def cycle_of(load: LoadLedger) -> Cycle:
    """In the order in which the load runs now."""
    placed = {one.place.id: one for one in load.where.placed}
    steps = tuple((placed[call.place], call.plain) for call in load.timeline.calls)
    return Cycle(load, steps, precedences(load.where, steps))


def runs_in(load: Load, steps: Sequence[At]) -> tuple[tuple[int, ...], ...]:
    """Indexes of the steps of each locked run, as far as they are there."""
    at = {(placed.place.id, op.id): k for k, (placed, op) in enumerate(steps)}
    found = (tuple(at[step] for step in run if step in at) for run in load.locked)
    return tuple(run for run in found if len(run) > 1)


def kept_whole(problem: OrderProblem, runs: tuple[tuple[int, ...], ...]) -> OrderProblem:
    """With these runs; without them where what came since lets none of them stay whole."""
    held = replace(problem, runs=runs)
    return held if runs and not circle_in(len(held.units), held.unit_edges) else problem


def _id(placed: Placed, op: Operation) -> str:
    return f"{placed.place.id} {op.id}"


def _angle(placed: Placed, op: Operation) -> float:
    """Of the rotary; a tilt is told apart by a share of a degree that no rotary is indexed to."""
    return round(Stop(op, placed.stands).angle + op.way.tilt * 1e-4, 6)


def mended(where: Layout, usual: Sequence[At], wanted: Sequence[tuple[str, str]]) -> list[At]:
    """An order of the whole cycle as it was decided; what has come since falls in after its neighbour in the usual
    one.
    """
    rank = {step: k for k, step in enumerate(wanted)}
    place, previous, more = [], -1.0, 0
    for placed, op in usual:
        known = rank.get((placed.place.id, op.id))
        if known is None:
            more += 1
            previous += 1e-6
        else:
            previous = float(known)
        place.append((previous, more))
    cycle = tuple(usual)
    problem = OrderProblem(
        tuple(Step(str(k), "", "", 0.0) for k in range(len(cycle))),
        tuple((str(a), str(b)) for a, b in precedences(where, cycle)), Times(0, 0, 0, 0),
    )  # fmt: skip
    problem = kept_whole(problem, runs_in(where.load, cycle))
    return [cycle[k] for k in by_key(problem, place)]


# ---- what an order comes to


@dataclass(frozen=True)
class Run:
    """Steps of one tool one behind the other: from when on, the seconds of the way to it, those of all after that."""

    tool: str
    start: float
    change: float
    seconds: float


@dataclass(frozen=True)
class Ordered:
    """`degrees` that are indexed, `seconds` of the cycle, as it runs; `sequence` of (piece, operation)."""

    name: str
    cost: Cost
    degrees: float
    seconds: float
    runs: tuple[Run, ...]
    sequence: Steps


def compared(load: LoadLedger) -> tuple[Ordered, ...]:
    """The present order and three plain ones."""
    cycle = cycle_of(load)
    problem = cycle.problem(times_of(cycle))
    now = tuple(range(len(cycle.steps)))
    orders: list[tuple[str, tuple[int, ...]]] = [("now", now), *plain_orders(problem).items()]
    return tuple(ordered_as(name, cycle, problem, order) for name, order in orders)


def ordered_as(name: str, cycle: Cycle, problem: OrderProblem, order: Sequence[int]) -> Ordered:
    timeline = cycle.timeline(order)
    angles = [problem.start.angle, *(problem.steps[k].angle for k in order)]
    degrees = sum(turned(round(a, 1), round(b, 1)) for a, b in pairwise(angles))  # a tilt is a share of 0.1 at the most
    return Ordered(name, problem.cost(order), degrees, timeline.makespan, _runs(timeline), cycle.sequence(order))


def _runs(timeline: Timeline) -> tuple[Run, ...]:
    """Of several carriages those of each, one after the other."""
    found: list[Run] = []
    for lane in timeline.lanes:
        own: list[Run] = []
        for start, call in zip(lane.starts, lane.calls, strict=True):
            way = call.transition
            change = way.rapid + way.tool_change + way.index + way.spindle
            if way.changes_tool or not own:
                own.append(Run(call.operation.tool.id, start, change, call.total - change))
            else:
                own[-1] = replace(own[-1], seconds=own[-1].seconds + call.total)
        found += own
    return tuple(found)


def times_of(cycle: Cycle) -> Times:
    """What a change of tool, an index, a degree and a hop cost on the load's machine: fitted, without negative ones, to
    all ways of three plain orders. Where an order has no such change the machine's own figures stand.
    """
    machine, problem = cycle.load.machine, cycle.problem()
    rows, costs = [], []
    for order in plain_orders(problem).values():
        lane = lane_of([cycle.steps[k] for k in order], machine, {})
        for a, b, call in zip(order, order[1:], lane.calls[1:], strict=False):
            was, now = problem.steps[a], problem.steps[b]
            turn = turned(was.angle, now.angle)
            rows.append((was.tool != now.tool, turn > 0, turn, was.piece != now.piece, 1.0))
            way = call.transition
            costs.append(way.rapid + way.tool_change + way.index + way.spindle)
    rotary = machine.rotary
    plain = Times(
        change_seconds(machine) + machine.spindle.start, rotary.clamp + rotary.unclamp if rotary is not None else 0.0,
        1 / rotary.rate if rotary is not None else 0.0, 0.5,
    )  # fmt: skip
    if not rows:
        return plain
    found = _fitted(np.array(rows, dtype=float), np.array(costs), plain)
    return Times(*(round(max(0.0, value), 4) for value in found))


def _fitted(rows: np.ndarray, costs: np.ndarray, plain: Times) -> tuple[float, float, float, float]:
    usual = (plain.tool_change, plain.index, plain.per_degree, plain.piece)
    there = [k for k in range(4) if rows[:, k].any()]
    if 2 in there and len({*rows[rows[:, 2] > 0, 2]}) < 2:  # one turn only: it cannot be told from the index itself
        there.remove(2)
    weights, *_ = np.linalg.lstsq(rows[:, [*there, 4]], costs, rcond=None)
    of = dict(zip(there, map(float, weights[:-1]), strict=True))
    values = [of.get(k, usual[k]) for k in range(4)]
    if 1 in of and 2 not in of:
        values[2] = 0.0
    return values[0], values[1], values[2], values[3]


# ---- one's own


def sorted_by(load: LoadLedger, keys: Sequence[SortKey]) -> Steps:
    """By several keys, the first one first, never past a precedence; what is alike stays as it stands."""
    cycle = cycle_of(load)
    problem = cycle.problem()
    ranks = [_ranks(cycle, key) for key in keys]
    order = by_key(problem, [tuple(rank[k] for rank in ranks) for k in range(len(cycle.steps))])
    return cycle.sequence(order)


def _ranks(cycle: Cycle, key: SortKey) -> list[tuple[int, float]]:
    """Of each step: the place of its value among those that are named, else behind them by its own."""
    named = {value: k for k, value in enumerate(key.values)}
    values = [_value(cycle, step, key.by) for step in cycle.steps]
    met = {value: k for k, value in enumerate(dict.fromkeys(values))}

    def own(value: str) -> float:
        try:
            return float(value.removesuffix("°"))
        except ValueError:
            return float(met[value])

    return [(named.get(value, len(named)), own(value)) for value in values]


def _value(cycle: Cycle, step: At, by: Key) -> str:
    placed, op = step
    if by == "tool":
        return str(op.tool.number)
    if by == "angle":
        return f"{Stop(op, placed.stands).angle:g}°"
    if by == "piece":
        return placed.place.id
    if by == "offset":  # as pieces share one: by the first of them
        policy = cycle.load.load.offsets.policy
        return next(p.place.id for p in cycle.load.where.placed if p.shares(policy) == placed.shares(policy))
    if by == "setup":
        return placed.decision.id
    share = next(one for one in cycle.load.shares if one.decision.id == placed.decision.id)
    return str(next(k for k, row in enumerate(share.rows) if row.operation.id == op.id))


def moved(load: LoadLedger, steps: Sequence[tuple[str, str]], to: int) -> Steps:
    """Some steps taken out and put in again, one behind the other, so that the first of them is at a position, from 0.

    Raises PlanError precedence with the reason and the nearest position that would do.
    """
    cycle = cycle_of(load)
    at = {step: k for k, step in enumerate(cycle.sequence(range(len(cycle.steps))))}
    unknown = next((step for step in steps if step not in at), None)
    if unknown is not None or not steps:
        raise PlanError("no-such-step", f"load {load.load.id} has no step {unknown}" if unknown else "no step is named")
    runs = [set(run) for run in runs_in(load.load, cycle.steps)]
    chosen = sorted({k for step in steps for k in next((run for run in runs if at[step] in run), {at[step]})})
    rest = [k for k in range(len(cycle.steps)) if k not in chosen]
    to = min(max(0, to), len(rest))
    broken = _broken(cycle, [*rest[:to], *chosen, *rest[to:]])
    if broken is None:
        return cycle.sequence([*rest[:to], *chosen, *rest[to:]])
    able = [p for p in range(len(rest) + 1) if _broken(cycle, [*rest[:p], *chosen, *rest[p:]]) is None]
    near = min(able, key=lambda p: abs(p - to))
    a, b, reason = broken
    names = [_words(cycle, k) for k in (a, b)]
    raise PlanError(
        "precedence", f"{names[1]} cannot come before {names[0]}: {reason}. The nearest place that would do is "
        f"{near + 1}", cycle.steps[b][1].setup,
    )  # fmt: skip


def _broken(cycle: Cycle, order: Sequence[int]) -> tuple[int, int, str] | None:
    """(a, b, why a is not behind b): the first precedence that an order breaks, else the first run that it parts."""
    place = {k: i for i, k in enumerate(order)}
    found = next(((a, b, why) for (a, b), why in cycle.why.items() if place[a] > place[b]), None)
    if found is not None:
        return found
    for run in runs_in(cycle.load.load, cycle.steps):
        for a, b in pairwise(run):
            if place[b] != place[a] + 1:
                return order[place[a] + 1] if place[a] + 1 < len(order) else b, b, LOCKED
    return None


def _words(cycle: Cycle, k: int) -> str:
    placed, op = cycle.steps[k]
    return f"“{op.name}” on piece {placed.place.id}" if len(cycle.load.where.placed) > 1 else f"“{op.name}”"


def checked_sequence(load: LoadLedger, sequence: Sequence[tuple[str, str]]) -> Steps:
    """The same, if it has each step once and breaks no precedence; raises PlanError else."""
    cycle = cycle_of(load)
    at = {step: k for k, step in enumerate(cycle.sequence(range(len(cycle.steps))))}
    if len(sequence) != len(at) or set(sequence) != set(at):
        raise PlanError(
            "order-unknown", f"the order does not name each of the {len(at)} steps of load {load.load.id} once"
        )
    broken = _broken(cycle, [at[step] for step in sequence])
    if broken is not None:
        a, b, reason = broken
        raise PlanError("precedence", f"{_words(cycle, b)} cannot come before {_words(cycle, a)}: {reason}")
    return tuple(sequence)


def called_again(cycle: Cycle) -> dict[int, str]:
    """By the index of a step whose tool was in before and comes back: which precedence kept it from being done then.
    Not told where several carriages hold tools at once.
    """
    if cycle.load.machine.works_at_once:
        return {}
    left: dict[str, int] = {}  # of each tool, the step after which it was last taken out
    found: dict[int, str] = {}
    before = ""
    needs: dict[int, list[int]] = {}
    for (a, b), _ in cycle.why.items():
        needs.setdefault(b, []).append(a)
    for k, (_, op) in enumerate(cycle.steps):
        if op.tool.id != before:
            if before:
                left[before] = k
            gone = left.get(op.tool.id)
            if gone is not None:
                found[k] = _kept_out(cycle, needs, k, gone)
        before = op.tool.id
    return found


def _kept_out(cycle: Cycle, needs: Mapping[int, list[int]], k: int, gone: int) -> str:
    """Of the run that begins at k: what of it had to wait for something that came after the tool was out."""
    tool = cycle.steps[k][1].tool.id
    run = k
    while run < len(cycle.steps) and cycle.steps[run][1].tool.id == tool:
        late = next((a for a in needs.get(run, ()) if gone <= a < k), None)
        if late is not None:
            return f"{_words(cycle, run)} waits for {_words(cycle, late)}: {cycle.why[late, run]}"
        run += 1
    return "nothing asks for it: its work could have been done when it was in"
