"""A load's cycle over the carriages of its machine: each does its own calls in their order and waits where it has to.

What waits for what: an operation for those that come before it, whatever carriage makes them; two that want the spindle
to themselves or at another speed, and two whose tools would meet, for one another. Marks are placed where that asks for
it and nowhere else (`order/marks.py`); then the cycle is timed, each spindle run up by whoever asks for it first.
Where a counter spindle takes pieces over, that has both spindles, after all else.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from math import inf

from lean_ledger.core.control.foreign import ForeignTime
from lean_ledger.core.holding.standing import Standing
from lean_ledger.core.loads.bars import farther_out, step_of
from lean_ledger.core.loads.before import At, precedences
from lean_ledger.core.loads.between import Stop, return_seconds
from lean_ledger.core.loads.both_sides import of_the_other, opposite, pairs_in, side_by_side
from lean_ledger.core.loads.handover import Handover, handover_of
from lean_ledger.core.loads.layout import Layout, Placed
from lean_ledger.core.loads.meeting import disturbs, met, taken_by
from lean_ledger.core.loads.parts import whole_id
from lean_ledger.core.loads.speeds import (
    asked_of_spindle,
    at_feed,
    at_speed,
    can_share,
    feed_a_turn,
    shared_speed,
    stands_at,
    turns_work,
)
from lean_ledger.core.loads.timeline import Beat, Call, Lane, Meeting, Timeline, lane_of
from lean_ledger.core.loads.travel import ON_TURRET
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.timed import on_path
from lean_ledger.core.order.marks import marked
from lean_ledger.core.order.waits import Mark, Plan, WaitProblem, Work
from lean_ledger.core.plan import Load
from lean_ledger.core.timing.motion import rapid_seconds
from lean_ledger.library.machines import Machine

UNIT = 1_000_000  # of a second


def timeline_of(steps: Sequence[At], where: Layout, machine: Machine, foreign: Mapping[str, ForeignTime]) -> Timeline:
    """Of the cycle with its steps in this order; on a machine of one carriage that carriage's calls."""
    taken_over = taken_over_in(where)
    if not machine.works_at_once:
        return Timeline((_lane(steps, machine, foreign, taken_over),))
    steps = at_one_feed(side_by_side(steps, where.load.both_sides), where.load, machine)
    count = len(machine.carriages)
    lanes = [_Planned.of(steps, where.load, k, foreign, machine, taken_over) for k in range(count)]
    if machine.drum is not None:
        return _indexed(_clocked(lanes, _each_position(lanes, steps, where)))
    problem, orders = waiting_problem(lanes, steps, where)
    return _clocked(lanes, marked(problem, orders))


def at_one_feed(steps: Sequence[At], load: Load, machine: Machine) -> list[At]:
    """With all that one drive of a position moves at the least feed a turn of it: 0.12 beside 0.3 are 0.12 both. What
    follows a thread keeps its lead.
    """
    if machine.drum is None or not machine.drum.one_feed:
        return list(steps)
    position = {one.id: one.position for one in machine.carriages}
    at = [position[carriage_for(load, machine, op)] for _, op in steps]
    least = dict[int, float]()
    for p, (_, op) in zip(at, steps, strict=True):
        if not op.motion.lead:
            least[p] = min(least.get(p, inf), feed_a_turn(op))
    return [(placed, op if op.motion.lead else at_feed(op, least[p], machine))
            for p, (placed, op) in zip(at, steps, strict=True)]  # fmt: skip


def _each_position(lanes: Sequence[_Planned], steps: Sequence[At], where: Layout) -> Plan:
    """The marks of a drum's positions, each by itself: slides at others work on other pieces."""
    by_position: dict[int, list[int]] = {}
    for p, lane in enumerate(lanes):
        by_position.setdefault(lane.machine.carriages[0].position, []).append(p)
    marks = list[Mark]()
    for paths in by_position.values():
        here = sorted(k for p in paths for k in lanes[p].own)
        at = {k: n for n, k in enumerate(here)}
        own = [replace(lanes[p], own=tuple(at[k] for k in lanes[p].own)) for p in paths]
        problem, orders = waiting_problem(own, [steps[k] for k in here], where)
        for mark in marked(problem, orders).marks:
            marks.append(Mark(tuple((paths[p], done) for p, done in mark.after)))
    return Plan(tuple(lane.own for lane in lanes), tuple(marks))


def _indexed(timeline: Timeline) -> Timeline:
    """A drum goes on once every slide is off the work: all wait for the last."""
    end = timeline.makespan
    waits = (replace(one, last_wait=one.last_wait + end - one.end) if one.calls else one for one in timeline.lanes)
    return replace(timeline, lanes=tuple(waits))


def taken_over_in(where: Layout) -> Handover | None:
    """How the counter spindle takes the pieces of a load; None where none does."""
    counter = where.machine.counter
    if not where.handed_over or counter is None or counter.facing is None:
        return None
    first, second = where.placed
    by = step_of(first.decision, first.built, front=True) if where.pulled else 0.0
    return handover_of(first.built, second.built, counter.facing, by)


def _pulled_out(steps: Sequence[At], one: Handover | None) -> list[At]:
    """With the cut that parts the piece where that stands by then: so far out as the bar was pulled."""
    if one is None or not one.by:
        return list(steps)
    return [(replace(placed, stands=farther_out(placed.stands, one.by)) if op.id == one.blade else placed, op)
            for placed, op in steps]  # fmt: skip


def _gone_off(lane: Lane, timed: Sequence[At], alone: Machine, one: Handover | None) -> tuple[Lane, float]:
    """A lane that ends off the work; and off the counter spindle's way, where it does not cut the piece off itself."""
    if not timed:
        return lane, 0.0
    last, first = (Stop(op, placed.stands) for placed, op in (timed[-1], timed[0]))
    beside = one.outside if one is not None and last.op.id != one.blade else 0.0
    back = {**lane.back, "rapid": return_seconds(last, first, alone, beside)}
    if alone.drum is not None:
        cuts_off = any(op.kind == OperationKind.CUT_OFF for _, op in timed)
        back |= {"index": alone.drum.index, "pick-off": alone.drum.feed if cuts_off else 0.0}
    return replace(lane, back=back), return_seconds(last, last, alone, beside)


def _lane(
    steps: Sequence[At], machine: Machine, foreign: Mapping[str, ForeignTime], one: Handover | None, *,
    turned_meanwhile: bool = False,
) -> Lane:  # fmt: skip
    """A carriage's calls, with what the counter spindle takes before the piece is cut off, and until it is back. The
    blade comes beside a bar that is pulled before, where nothing else is in its way, and follows it.
    """
    lane = lane_of(_pulled_out(steps, one), machine, foreign, turned_meanwhile=turned_meanwhile)
    if one is None or all(call.operation.id != one.blade for call in lane.calls):
        return lane
    come, follow = lane, 0.0
    if one.by:
        come = lane_of(steps, machine, foreign, turned_meanwhile=turned_meanwhile)
        follow = rapid_seconds((0.0, 0.0, 0.0), (0.0, 0.0, one.by), machine)
    ways = (replace(c.transition, rapid=c.transition.rapid + follow, handover=one.before) for c in come.calls)
    calls = tuple(replace(c, transition=way) if c.operation.id == one.blade else c
                  for c, way in zip(lane.calls, ways, strict=True))  # fmt: skip
    return replace(lane, calls=calls, back={**lane.back, "pick-off": one.away})


@dataclass(frozen=True)
class _Planned:
    """What a carriage does, not yet timed: indexes of its steps, its calls with their ways, the way back."""

    machine: Machine
    own: tuple[int, ...]
    lane: Lane
    asks: tuple[str, ...]  # of its spindle, by call; of its own driven tools where the work stands
    standing: tuple[str, ...]  # how, then; else empty
    spindles: tuple[int, ...]  # 0 the main one, by call
    off: float  # s in which it goes off the work after its last call, before it waits

    @staticmethod
    def of(
        steps: Sequence[At], load: Load, which: int, foreign: Mapping[str, ForeignTime], machine: Machine,
        taken_over: Handover | None,
    ) -> _Planned:  # fmt: skip
        carriage = machine.carriages[which].id
        alone = machine.on(carriage)
        own = tuple(k for k, (_, op) in enumerate(steps) if carriage_for(load, machine, op) == carriage)
        timed = [(steps[k][0], as_carried(steps[k][1], steps[k][0].stands, machine, alone)) for k in own]
        others = {spindle_of(steps[k][0].stands) for k in range(len(steps))
                  if k not in own and turns_work(steps[k][1], steps[k][0].stands)}  # fmt: skip
        turned = any(spindle_of(placed.stands) in others for placed, _ in timed)
        lane = _lane(timed, alone, foreign, taken_over, turned_meanwhile=turned)
        asks = tuple(asked_of_spindle(op, placed.stands, carriage) for placed, op in timed)
        standing = tuple(stands_at(op, placed.stands) for placed, op in timed)
        at = machine.carriages[which].position
        spindles = tuple(at - 1 if at else spindle_of(placed.stands) for placed, _ in timed)
        starts, state = [], dict[int, str]()
        for ask, spindle in zip(asks, spindles, strict=True):
            starts.append(start_of(machine, spindle) if state.get(spindle) != ask else 0.0)
            state[spindle] = ask
        calls = [
            replace(call, transition=replace(call.transition, spindle=start))
            for call, start in zip(lane.calls, starts, strict=True)
        ]
        out = _pulled_out(timed, taken_over)
        lane, off = _gone_off(replace(lane, calls=tuple(calls)), out, alone, taken_over)
        return _Planned(alone, own, lane, asks, standing, spindles, off)


def slide_for(op: Operation) -> str:
    """Of a drum's: what has its insert beside its shank works across the spindle, all else from its end."""
    return "cross" if op.tool.kind in ON_TURRET else "end"


def spindle_of(stands: Standing) -> int:
    """0 for the main one, 1 for the counter spindle."""
    return 0 if stands.nose is None else 1


def start_of(machine: Machine, spindle: int) -> float:
    """Seconds in which a work spindle runs up."""
    every = machine.work_spindles
    return every[spindle if machine.drum is None else 0].spindle.start


def carriage_for(load: Load, machine: Machine, op: Operation) -> str:
    """That makes an operation: the usual one where none is said, or none that the machine has."""
    whole = whole_id(op.id) if whole_id(op.id) in load.both_sides else op.id
    said = dict(load.carriage_of).get(whole)
    found = said if said in {one.id for one in machine.carriages} else usual_carriage(load, machine, op)
    return (opposite(machine, found) or found) if whole != op.id and of_the_other(op.id) else found


def usual_carriage(load: Load, machine: Machine, op: Operation) -> str:
    """The first; the last for what is made in the counter spindle. Of a drum the slide for it at the first position,
    at the last one where it cuts the piece off.
    """
    if machine.drum is not None:
        able = [one for one in machine.carriages if one.slide == slide_for(op)]
        return able[-1 if op.kind == OperationKind.CUT_OFF else 0].id
    return machine.carriages[-1 if load.at_counter(op.setup) else 0].id


def at_shared_speeds(
    ops: Sequence[Operation], firsts: Sequence[Placed], load: Load, machine: Machine
) -> tuple[Operation, ...]:
    """Each that is to run beside others at the speed that was said, where the work turns for it."""
    if not load.at_one_speed or not machine.works_at_once:
        return tuple(ops)
    speed = {id: one.n for one in load.at_one_speed for id in one.operations}
    stands = {one.decision.id: one.stands for one in firsts}
    return tuple(
        at_speed(op, speed[op.id], machine) if op.id in speed and can_share(op, stands[op.setup]) else op for op in ops
    )


def as_carried(op: Operation, stands: Standing, machine: Machine, alone: Machine) -> Operation:
    """With its seconds on a carriage: those of the first, where the operations were made, stand. For a driven tool of
    one on the other side the work turns half round: what the first has at 30° is before that one at 210.
    """
    first, own = machine.carriages[0], alone.carriages[0]
    if own.side != first.side and not turns_work(op, stands):
        op = replace(op, way=replace(op.way, angle=(op.way.angle + 180) % 360))
    if (own.rapid, own.acceleration) == (first.rapid, first.acceleration):
        return op
    return on_path(op, op.motion, alone)


def waiting_problem(
    lanes: Sequence[_Planned], steps: Sequence[At], where: Layout
) -> tuple[WaitProblem, list[tuple[int, ...]]]:
    """Works by the index of their step, and each carriage's order of them."""
    calls = {k: call for lane in lanes for k, call in zip(lane.own, lane.lane.calls, strict=True)}
    path = {k: p for p, lane in enumerate(lanes) for k in lane.own}
    taken_over = taken_over_in(where)
    both = taken_over.blade if taken_over is not None else ""
    at = {k: spindle for lane in lanes for k, spindle in zip(lane.own, lane.spindles, strict=True)}
    works = tuple(
        Work(str(k), (path[k],), frozenset({0, 1} if op.id == both else {at[k]}),
             _units(calls[k].total - calls[k].transition.lead), op.tool.id,
             shared_speed(calls[k].operation, placed.stands) if op.id != both else None)
        for k, (placed, op) in enumerate(steps)
    )  # fmt: skip
    leads = tuple(_units(calls[k].transition.lead) for k in range(len(steps)))
    problem = WaitProblem(
        tuple(lane.lane.carriage for lane in lanes), works, tuple(precedences(where, steps)),
        _together(steps, path, where.load), 0, UNIT,
        meeting_pairs(steps, path, lanes), leads,
    )  # fmt: skip
    return problem, [lane.own for lane in lanes]


def _together(steps: Sequence[At], path: Mapping[int, int], load: Load) -> tuple[tuple[int, int], ...]:
    """Passes that start at one mark, one on either side of the work."""
    at = {(placed.place.id, op.id): k for k, (placed, op) in enumerate(steps)}
    pairs = pairs_in({op.id for _, op in steps}, load.both_sides)
    both = ((at.get((place, a)), at.get((place, b))) for place in dict.fromkeys(p for p, _ in at) for a, b in pairs)
    return tuple((a, b) for a, b in both if a is not None and b is not None and path[a] != path[b])


def meeting_pairs(
    steps: Sequence[At], path: Mapping[int, int], lanes: Sequence[_Planned]
) -> tuple[tuple[int, int], ...]:
    """Steps of different carriages that must not run at the same time, whatever speed they want."""
    taken = [
        taken_by(op, placed.stands, lanes[path[k]].machine.carriages[0].side) for k, (placed, op) in enumerate(steps)
    ]
    return tuple(
        (a, b) for a, b in combinations(range(len(steps)), 2)
        if path[a] != path[b] and (disturbs(steps[a], steps[b]) or met(taken[a], taken[b]))
    )  # fmt: skip


def _units(seconds: float) -> int:
    return round(seconds * UNIT)


def _clocked(lanes: Sequence[_Planned], plan: Plan) -> Timeline:
    """When each call begins, by the marks and by the spindle that all share."""
    clock = _Clock(lanes, plan)
    clock.run()
    made = tuple(
        replace(
            lane.lane,
            calls=tuple(clock.calls[p]),
            beats=tuple(clock.beats[p]),
            last_wait=clock.last_wait(p),
            position=lane.machine.carriages[0].position,
        )
        for p, lane in enumerate(lanes)
    )
    marks = tuple(
        Meeting(number, clock.met[k], tuple((lanes[p].lane.carriage, done) for p, done in plan.marks[k].after))
        for number, k in enumerate(sorted(range(len(plan.marks)), key=lambda k: (clock.met[k], k)))
    )
    return Timeline(made, marks)


class _Clock:
    """Carriages go on one by one, the one that is least far first; at a mark they wait until all have come."""

    def __init__(self, lanes: Sequence[_Planned], plan: Plan) -> None:
        self._lanes, self._plan = lanes, plan
        self._at = [lane.lane.calls[0].transition.lead if lane.lane.calls else 0.0 for lane in lanes]
        self._ready = list(self._at)
        self._done = [0] * len(lanes)
        self._passed = [0] * len(plan.marks)  # 1 once met
        count = 1 + max((spindle for lane in lanes for spindle in lane.spindles), default=0)
        self._spindle, self._turns_at = [""] * count, [0.0] * count
        self._drive, self._driven_at = [""] * len(lanes), [0.0] * len(lanes)
        self.met = [0.0] * len(plan.marks)
        self.calls: list[list[Call]] = [[] for _ in lanes]
        self.beats: list[list[Beat]] = [[] for _ in lanes]

    def run(self) -> None:
        while True:
            waiting = {p: self._mark_of(p) for p in range(len(self._lanes))}
            able = [p for p, mark in waiting.items() if mark is None and self._done[p] < len(self._lanes[p].own)]
            met = self._met(waiting)
            # who can go on before all have met goes first: the spindle is asked for in the order of time
            if met is not None and all(self._at[p] >= self._when(met) for p in able):
                self._meet(met)
            elif able:
                self._call(min(able, key=lambda p: (self._at[p], p)))
            elif met is not None:
                self._meet(met)
            else:
                return

    def _spun(self, p: int, which: int, asks: tuple[str, str], go: float) -> float:
        """Seconds until a spindle turns as it is asked to, or stands and the carriage's driven tool turns."""
        own, standing = asks
        start = start_of(self._lanes[p].machine, which)
        if not standing:
            if own == self._spindle[which]:
                return max(0.0, self._turns_at[which] - go)
            self._spindle[which], self._turns_at[which] = own, go + start
            return start
        if (standing, own) == (self._spindle[which], self._drive[p]):
            return max(0.0, self._driven_at[p] - go)
        self._spindle[which], self._turns_at[which] = standing, go + start
        self._drive[p], self._driven_at[p] = own, go + start
        return start

    def last_wait(self, p: int) -> float:
        return self._at[p] - self._ready[p]

    def _mark_of(self, p: int) -> int | None:
        """The first mark that a carriage has to meet before its next call."""
        return next((k for k, mark in enumerate(self._plan.marks)
                     if not self._passed[k] and (p, self._done[p]) in mark.after), None)  # fmt: skip

    def _met(self, waiting: Mapping[int, int | None]) -> int | None:
        return next((k for k, mark in enumerate(self._plan.marks)
                     if not self._passed[k] and all(waiting[p] == k for p, _ in mark.after)), None)  # fmt: skip

    def _when(self, mark: int) -> float:
        return max(self._at[p] for p, _ in self._plan.marks[mark].after)

    def _meet(self, mark: int) -> None:
        when = self._when(mark)
        for p, _ in self._plan.marks[mark].after:
            self._at[p] = when
        self._passed[mark], self.met[mark] = 1, when

    def _call(self, p: int) -> None:
        lane, k = self._lanes[p], self._done[p]
        call, asks, go = lane.lane.calls[k], lane.asks[k], self._at[p]
        which = lane.spindles[k]
        spindle = self._spun(p, which, (asks, lane.standing[k]), go)
        call = replace(call, transition=replace(call.transition, spindle=spindle))
        lead = call.transition.lead
        end = go + call.total - lead
        self.calls[p].append(call)
        self.beats[p].append(Beat(self._ready[p] - lead, self._ready[p], go, end))
        self._done[p] += 1
        # what waits after its last call does so off the work
        last = k + 1 == len(lane.own)
        following = lane.off if last else lane.lane.calls[k + 1].transition.lead
        self._at[p] = self._ready[p] = end + following
