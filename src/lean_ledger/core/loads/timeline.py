"""When what runs in a load's cycle: the calls of each carriage, one after the other."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace
from functools import cached_property

from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.control.foreign import ForeignTime
from lean_ledger.core.loads.between import Stop, Transition, index_seconds, return_seconds, transition
from lean_ledger.core.loads.layout import Placed
from lean_ledger.core.loads.turned import turned
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.timing.motion import StrokeTime
from lean_ledger.library.machines import Machine

CATEGORIES = (
    "cutting", "rapid", "tool change", "index", "spindle", "dwell", "probing", "handling", "hand work", "waiting",
    "pick-off", "as measured",
)  # fmt: skip


@dataclass(frozen=True)
class Call:
    """An operation at a place, in its turn on a carriage, with all the seconds that it costs there.

    A program from elsewhere stands for the operation's own motion; the way to it stays.
    """

    place: str
    operation: Operation
    transition: Transition
    position: int
    carriage: str
    foreign: ForeignTime | None = None
    pieces: int = 1  # that share the ways to it: those are then what comes to each of them
    share: float = 1.0  # of the operation itself: less where not every piece has it
    turn: int = 0  # degrees that its piece is turned by
    as_made: Operation | None = None  # as it is at pieces that are not turned, where this one is

    @property
    def plain(self) -> Operation:
        """The operation as it is where no piece is turned."""
        return self.as_made or self.operation

    @cached_property
    def own_seconds(self) -> Mapping[str, float]:
        """By the operation's own motion, whatever it is timed by."""
        op = self.operation
        feed = "probing" if op.motion.probes else "cutting"
        own = {feed: op.time.cut, "rapid": op.time.rapid, "spindle": op.reversal_seconds}
        return self._with_way({category: seconds * self.share for category, seconds in own.items()})

    @cached_property
    def seconds(self) -> Mapping[str, float]:
        if self.foreign is None:
            return self.own_seconds
        return self._with_way({name: seconds * self.share for name, seconds in self.foreign.seconds.items()})

    def _with_way(self, own: Mapping[str, float]) -> dict[str, float]:
        way = self.transition
        to_it = {"rapid": way.rapid, "tool change": way.tool_change, "index": way.index, "spindle": way.spindle,
                 "pick-off": way.handover}  # fmt: skip
        return {category: own.get(category, 0.0) + to_it.get(category, 0.0) for category in CATEGORIES}

    @property
    def total(self) -> float:
        return sum(self.seconds.values())

    @property
    def figures(self) -> tuple[Figure, ...]:
        """The operation's own, and what it takes to get to it in this place of the order."""
        way = self.transition
        route = "up to the change position, across and down" if way.changes_tool else "from the operation before"
        each = f", each of {self.pieces} pieces' share" if self.pieces > 1 else ""
        rows = [Figure("rapid, way to it", route + each, way.rapid, "s")]
        if way.changes_tool:
            formula = f"T{self.operation.tool.number} in, chip to chip{each}"
            rows.append(Figure("tool change", formula, way.tool_change, "s"))
        if way.index:
            formula = f"unclamp, turn by {way.turned:g}°, clamp{each}"
            rows.append(Figure("index", formula, way.index, "s"))
        if way.spindle:
            formula = f"to {self.operation.cutting.n:.0f} rpm{each}"
            rows.append(Figure("spindle start", formula, way.spindle, "s"))
        if way.handover:
            formula = "thrown out, turning as fast, over the piece, closed"
            rows.append(Figure("counter spindle", formula, way.handover, "s"))
        if self.foreign is not None:
            formula = f"{self.foreign.lines} lines on the simulated machine"
            rows.insert(0, Figure(f"program {self.foreign.file}", formula, self.foreign.total, "s"))
        return (*self.operation.figures, *rows, Figure("total", "cutting, rapids, changes, starts", self.total, "s"))


@dataclass(frozen=True)
class Beat:
    """Of a call beside others, seconds after cycle start: its way begins, its tool is in, it goes on after the waits
    that it has there, it ends.
    """

    begin: float
    ready: float
    go: float
    end: float

    @property
    def waits(self) -> float:
        return self.go - self.ready


@dataclass(frozen=True)
class Meeting:
    """A wait mark: when it is met, and how many of its calls each carriage that meets there has done by then."""

    number: int
    at: float
    after: tuple[tuple[str, int], ...]


@dataclass(frozen=True)
class Lane:
    """What one carriage does, in its order; `back` are the seconds by category until it stands as at cycle start.
    `beats` of each call where carriages work beside one another, else one call begins when the other ends.
    """

    carriage: str
    calls: tuple[Call, ...]
    back: Mapping[str, float]
    beats: tuple[Beat, ...] = ()
    last_wait: float = 0.0  # at a mark that it meets after all of its calls
    position: int = 0  # of a drum, that it works at

    @cached_property
    def seconds(self) -> dict[str, float]:
        """By category."""
        found = summed([call.seconds for call in self.calls], self.back)
        found["waiting"] += self.waiting
        return found

    @property
    def waiting(self) -> float:
        """Seconds at its marks."""
        return sum(beat.waits for beat in self.beats) + self.last_wait

    @property
    def starts(self) -> tuple[float, ...]:
        """Seconds after cycle start at which each call begins, with its way."""
        if self.beats:
            return tuple(beat.begin for beat in self.beats)
        return tuple(itertools.accumulate((call.total for call in self.calls[:-1]), initial=0.0)) if self.calls else ()

    @property
    def end(self) -> float:
        return sum(self.seconds.values())


def summed(rows: Sequence[Mapping[str, float]], back: Mapping[str, float]) -> dict[str, float]:
    """By category, of calls and the way back."""
    found = {category: sum(row[category] for row in rows) for category in CATEGORIES}
    for category, seconds in back.items():
        found[category] += seconds
    return found


@dataclass(frozen=True)
class Timeline:
    """The lanes of a load's carriages beside one another. With one carriage nothing waits."""

    lanes: tuple[Lane, ...]
    marks: tuple[Meeting, ...] = ()

    @cached_property
    def calls(self) -> tuple[Call, ...]:
        """Of all lanes, as they begin to cut; of a drum as a piece comes to them, position by position."""
        if len(self.lanes) == 1:
            return self.lanes[0].calls
        begun = [(lane.position, beat.go, p, call) for p, lane in enumerate(self.lanes)
                 for beat, call in zip(lane.beats, lane.calls, strict=True)]  # fmt: skip
        begun.sort(key=lambda one: one[:3])
        return tuple(replace(call, position=k) for k, (*_, call) in enumerate(begun))

    @cached_property
    def seconds(self) -> dict[str, float]:
        """By category, that sum up to the cycle: of the lanes that do something the mean, until the last one ends."""
        if len(self.lanes) == 1:
            return self.lanes[0].seconds
        own = [lane for lane in self.lanes if lane.calls]
        found = {name: sum(lane.seconds[name] for lane in own) / max(1, len(own)) for name in CATEGORIES}
        found["waiting"] += self.makespan - sum(found.values())
        return found

    @property
    def makespan(self) -> float:
        """Seconds of the cycle: until the last carriage stands as at its start."""
        return max(lane.end for lane in self.lanes)

    @property
    def slowest(self) -> int:
        """Which lane the others wait for in the end."""
        return max(range(len(self.lanes)), key=lambda p: (round(self.lanes[p].end, 6), -self.lanes[p].last_wait))


def calls_in_order(
    steps: Sequence[tuple[Placed, Operation]], machine: Machine, *, turned_meanwhile: bool = False
) -> tuple[Call, ...]:
    """What one carriage does in this order, with the way to each call from the one before. `turned_meanwhile`: others
    turn its work as well.
    """
    calls: list[Call] = []
    before: Stop | None = None
    for position, (placed, op) in enumerate(steps):
        there = turned(op, placed.turn, machine)
        stop = Stop(there, placed.stands)
        way = transition(before, stop, machine, turned=turned_meanwhile)
        call = Call(placed.place.id, there, way, position, machine.carriages[0].id)
        calls.append(replace(call, turn=placed.turn, as_made=op) if placed.turn else call)
        before = stop
    return tuple(calls)


def lane_of(
    steps: Sequence[tuple[Placed, Operation]], machine: Machine, foreign: Mapping[str, ForeignTime], *,
    turned_meanwhile: bool = False,
) -> Lane:  # fmt: skip
    """One carriage's calls, and the way back to where a cycle starts; `foreign` times operations by other programs."""
    calls = tuple(
        replace(c, foreign=foreign.get(c.operation.id))
        for c in calls_in_order(steps, machine, turned_meanwhile=turned_meanwhile)
    )
    if not calls:
        return Lane(machine.carriages[0].id, (), {"rapid": 0.0, "index": 0.0})
    again, left = (Stop(turned(op, at.turn, machine), at.stands) for at, op in (steps[0], steps[-1]))
    back = {"rapid": return_seconds(left, again, machine), "index": index_seconds(left, again, machine)[0]}
    return Lane(machine.carriages[0].id, calls, back)


def rows_of(calls: Sequence[Call], pieces: int) -> tuple[Call, ...]:
    """Each operation once, with what comes to each of the pieces that it is made at; in the order of their first calls.

    16 calls with one change of 4.2 s come to 0.2625 s of it each.
    """
    if pieces == 1:
        return tuple(_not_turned(call, [call]) for call in calls)
    of: dict[str, list[Call]] = {}
    for call in calls:
        of.setdefault(call.operation.id, []).append(call)
    return tuple(_row(own, position, pieces) for position, own in enumerate(of.values()))


def _row(calls: Sequence[Call], position: int, pieces: int) -> Call:
    ways = [call.transition for call in calls]
    mean = Transition(
        sum(w.rapid for w in ways) / pieces, sum(w.tool_change for w in ways) / pieces,
        sum(w.spindle for w in ways) / pieces, any(w.changes_tool for w in ways),
        sum(w.index for w in ways) / pieces, sum(w.turned for w in ways),
        handover=sum(w.handover for w in ways) / pieces,
    )  # fmt: skip
    first = _not_turned(calls[0], calls)
    return replace(first, transition=mean, position=position, pieces=pieces, share=len(calls) / pieces)


def _not_turned(call: Call, calls: Sequence[Call]) -> Call:
    """A call as it is at pieces that are not turned, with the mean of the seconds that its operation takes at all."""
    if not any(one.turn for one in calls):
        return call
    times = [one.operation.time for one in calls]
    mean = StrokeTime(*(sum(getattr(t, f.name) for t in times) / len(times) for f in fields(StrokeTime)))
    return replace(call, operation=replace(call.plain, time=mean), turn=0, as_made=None)
