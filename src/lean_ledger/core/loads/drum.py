"""A bar automatic with a drum of spindles: which position and slide makes what, so that the slowest position, which
sets the pace of all, is as quick as can be.

x(o, p) puts operation o at position p. What comes before another is not at a later position; a slide has room for so
many tools; the piece is cut off in the last. The least C is sought with the seconds of each position up to C: one slide
after the other for a start that holds, both at once for a bound that nothing goes below.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations
from math import inf

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.loads.balanced import LEAST_GAIN, Arranged, Finder, timeline_with
from lean_ledger.core.loads.lanes import slide_for
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.parts import most_parts
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Load
from lean_ledger.library.machines import Carriage, Drum

SECONDS = 5.0  # that the spread is searched; a dozen operations take far less
MS = 1000


@dataclass(frozen=True)
class SpreadProblem:
    """Seconds of each operation by its id, with its slide and tool; `before` in pairs; `last` are in the last position.

    Ids are sorted by whoever makes it, so that the same problem has the same answer.
    """

    seconds: Mapping[str, float]
    slide: Mapping[str, str]
    tool: Mapping[str, str]
    before: tuple[tuple[str, str], ...]
    last: tuple[str, ...]
    positions: int
    tools: int


def spread(problem: SpreadProblem, *, at_once: bool) -> tuple[dict[str, int], float, bool]:
    """Position of each operation, from 1, the seconds of the fullest position, and whether none is less.

    Raises PlanError no-spread where the tools have no room.
    """
    from ortools.sat.python import cp_model

    model, every = cp_model.CpModel(), range(1, problem.positions + 1)
    size = {id: round(MS * s) for id, s in problem.seconds.items()}
    on = {(id, p): model.new_bool_var(f"{id} {p}") for id in size for p in every}
    most = model.new_int_var(0, sum(size.values()), "most")
    for id in size:
        model.add_exactly_one(on[id, p] for p in every)
    for id in problem.last:
        model.add(on[id, problem.positions] == 1)
    for a, b in problem.before:
        for p in every:
            model.add(sum(on[b, k] for k in range(1, p + 1)) <= sum(on[a, k] for k in range(1, p + 1)))
    for slide in ("cross", "end"):
        own = [id for id in size if problem.slide[id] == slide]
        for p in every:
            there = {tool: model.new_bool_var(f"{tool} {slide} {p}") for tool in {problem.tool[id] for id in own}}
            for id in own:
                model.add_implication(on[id, p], there[problem.tool[id]])
            model.add(sum(there.values()) <= problem.tools)
            if at_once:
                model.add(sum(size[id] * on[id, p] for id in own) <= most)
    if not at_once:
        for p in every:
            model.add(sum(size[id] * on[id, p] for id in size) <= most)
    # of the quickest the one that is made earliest: the same each time
    model.minimize(most * (1 + len(size) * problem.positions) + sum(p * on[id, p] for id, p in on))
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = SECONDS
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    status = solver.solve(model)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        raise PlanError("no-spread", f"{len(set(problem.tool.values()))} tools do not go onto the slides of "
                        f"{problem.positions} positions in an order that the work allows")  # fmt: skip
    where = {id: next(p for p in every if solver.value(on[id, p])) for id in size}
    return where, solver.value(most) / MS, status == cp_model.OPTIMAL


class DrumFinder(Finder):
    """Of a load on a drum: arrangements that its slides allow."""

    @property
    def _drum(self) -> Drum:
        drum = self.load.machine.drum
        assert drum is not None
        return drum

    @property
    def tools(self) -> int:
        """That stand on a slide."""
        return self._drum.tools

    @property
    def positions(self) -> int:
        return self._drum.positions

    @cached_property
    def _slides(self) -> dict[str, Carriage]:
        return {one.id: one for one in self.load.machine.carriages}

    def _at(self, one: Arranged, id: str) -> Carriage:
        return self._slides[self._on(one, id)]

    def _spindle(self, id: str) -> int:
        """Each position has its own."""
        return self._at(self.now, id).position - 1

    def allows(self, op: Operation, carriage: str) -> None:
        """Raises PlanError wrong-slide for a tool that works from the other side."""
        slide = self._slides[carriage].slide
        if slide != slide_for(op):
            where = "across the spindle" if slide == "cross" else "at the end"
            raise PlanError("wrong-slide", f"“{op.name}” is not made from {carriage}: what stands there works {where}",
                            op.setup)  # fmt: skip

    def troubles(self, one: Arranged) -> Iterator[tuple[str, str, str]]:
        """(code, operation, other): what comes at an earlier position than what it waits for, tools beyond the room."""
        for id, before in self._before.items():
            for first in sorted(before):
                if first in self.operations and self._at(one, first).position > self._at(one, id).position:
                    yield "too-early", id, first
        for slide in self._slides.values():
            tools = dict[str, str]()
            for id in one.order:
                if self._at(one, id) is slide:
                    tools.setdefault(self.operations[id].tool.id, id)
            for id in list(tools.values())[self._drum.tools :]:
                yield "slide-full", id, slide.id
        for id, op in self.operations.items():
            if self._at(one, id).slide != slide_for(op):
                yield "wrong-slide", id, self._at(one, id).id
            if op.kind == OperationKind.CUT_OFF and self._at(one, id).position != self._drum.positions:
                yield "cut-off-early", id, ""

    def seconds(self, one: Arranged) -> float:
        found = self._known.get(one)
        if found is None and next(self.troubles(one), None) is not None:
            found = self._known[one] = inf
        return found if found is not None else super().seconds(one)

    @property
    def one_by_one(self) -> float:
        """Seconds in which one spindle would make all, each operation by itself."""
        return timeline_with(self.load, self.as_load(self.plain)).makespan

    @property
    def plain(self) -> Arranged:
        return replace(self.now, on=(), groups=())

    # ---- search

    def problem(self, seconds: Mapping[str, float]) -> SpreadProblem:
        ids = sorted(seconds)
        ops = {id: self.operations[id] for id in ids}
        before = tuple((a, b) for b in ids for a in sorted(self._before[b]) if a in ops)
        last = tuple(id for id in ids if ops[id].kind == OperationKind.CUT_OFF)
        return SpreadProblem(
            {id: seconds[id] for id in ids}, {id: slide_for(op) for id, op in ops.items()},
            {id: op.tool.id for id, op in ops.items()}, before, last, self._drum.positions, self._drum.tools,
        )  # fmt: skip

    @cached_property
    def spread_out(self) -> Arranged:
        """Over the positions, one slide of each after the other. Raises PlanError no-spread."""
        took = {call.operation.id: call.total for call in timeline_with(self.load, self.as_load(self.plain)).calls}
        where, _, _ = spread(self.problem(took), at_once=False)
        on = {id: f"{slide_for(self.operations[id])} {p}" for id, p in where.items()}
        order = tuple(sorted(self.now.order, key=lambda id: where[id]))
        return Arranged(tuple((id, on[id]) for id in sorted(on) if on[id] != self._usual(id)), (), order)

    def with_split(self, operation: str, parts: int) -> DrumFinder:
        """Of the same load with an operation in so many parts."""
        split = (*(one for one in self.load.load.split if one[0] != operation), *(((operation, parts),) * (parts > 1)))
        found = self.as_decided(replace(self.load.load, split=split))
        assert isinstance(found, DrumFinder), "of a drum"
        return found

    def split_gains(self, most: int = 3) -> list[tuple[str, int, float, Load]]:
        """(operation, parts, seconds saved, the load that then has them spread out), the best first: each operation in
        one part more.
        """
        now, found = self.load.timeline.makespan, list[tuple[str, int, float, Load]]()
        parts = dict(self.load.load.split)
        whole = {op.id: op for own in self.load.where.by_setup for op in own[0].built.operations}
        for id, op in whole.items():
            count = parts.get(id, 1) + 1
            if id not in self.operations or count > most_parts(op):
                continue
            other = self.with_split(id, count)
            try:
                spread_out = other.spread_out
            except PlanError:
                continue
            saves = now - other.seconds(spread_out)
            if saves > LEAST_GAIN:
                found.append((id, count, saves, other.as_load(spread_out)))
        return sorted(found, key=lambda one: -one[2])[:most]

    def _starts(self) -> list[Arranged]:
        try:
            return [*super()._starts(), self.spread_out]
        except PlanError:
            return super()._starts()

    def _neighbours(self, one: Arranged) -> Iterator[Arranged]:
        """To another position, two changed for one another, two slides of a position at one speed, and groups apart."""
        for id in one.order:
            own = self._at(one, id)
            for slide in self._slides.values():
                if slide.slide == own.slide and slide.position != own.position:
                    yield self._ordered(self._moved(one, id, slide.id))
        for a, b in combinations(one.order, 2):
            if self._at(one, a) is not self._at(one, b) and self._at(one, a).slide == self._at(one, b).slide:
                swapped = self._moved(self._moved(one, a, self._on(one, b)), b, self._on(one, a))
                yield self._ordered(swapped)
        yield from self._at_one_speed(one)
        for group in one.groups:
            yield replace(one, groups=tuple(g for g in one.groups if g != group))

    def _at_one_speed(self, one: Arranged) -> Iterator[Arranged]:
        for a, b in combinations(one.order, 2):
            here, there = self._at(one, a), self._at(one, b)
            if here.position == there.position and here is not there and {a, b} <= self._most.keys():
                group = frozenset((a, b)).union(*(g for g in one.groups if {a, b} & g))
                if group not in one.groups:
                    yield replace(one, groups=(*(g for g in one.groups if not {a, b} & g), group))

    def _ordered(self, one: Arranged) -> Arranged:
        """In the order of positions; what shares a speed at none any more has its own."""
        order = tuple(sorted(one.order, key=lambda id: self._at(one, id).position))
        groups = []
        for group in one.groups:
            by_position: dict[int, set[str]] = {}
            for id in group:
                by_position.setdefault(self._at(one, id).position, set()).add(id)
            groups += [frozenset(own) for own in by_position.values() if len(own) > 1]
        return replace(one, order=order, groups=tuple(groups))

    @cached_property
    def bound(self) -> float:
        """No arrangement has a shorter cycle: the least of the fullest position with both slides at once, of the
        operations' own motion, and the index, with the bar's feed behind the cut.
        """
        own = {call.operation.id: self._least(call.operation) for call in self.load.timeline.calls}
        for id in own:
            if self.operations[id].kind == OperationKind.CUT_OFF:
                own[id] += self._drum.feed
        try:
            _, least, proven = spread(self.problem(own), at_once=True)
        except PlanError:
            return self._drum.index
        return self._drum.index + (least if proven else max(own.values()))


def finder_of(load: LoadLedger) -> Finder:
    """What finds how the work of a load is shared out. Raises PlanError one-carriage."""
    return DrumFinder(load) if load.machine.drum is not None else Finder(load)


def pieces_an_hour(load: LoadLedger, availability: float) -> float:
    """3600 / (seconds a piece) of the hours that a machine runs: 8.5 s at 85 %: 360."""
    return 3600 * availability * load.pieces / (load.cycle + load.idle) if load.cycle else 0.0


def by_position(load: LoadLedger) -> Sequence[tuple[int, float]]:
    """Seconds of each position of a drum until it could go on, the index with it."""
    found: dict[int, float] = {}
    for lane, slide in zip(load.timeline.lanes, load.machine.carriages, strict=True):
        busy = lane.end - lane.last_wait if lane.calls else 0.0
        found[slide.position] = max(found.get(slide.position, 0.0), busy)
    return sorted(found.items())
