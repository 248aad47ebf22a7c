"""What a load comes to: its pieces, its cycle, what stands beside it."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property

from lean_ledger.core.control.foreign import ForeignTime
from lean_ledger.core.loads.layout import Layout, Placed
from lean_ledger.core.loads.timeline import CATEGORIES, Call, Timeline, rows_of
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.plan import Load, SetupDecision
from lean_ledger.library.machines import Machine


@dataclass(frozen=True)
class LoadLedger:
    load: Load
    machine: Machine
    where: Layout
    timeline: Timeline
    load_seconds: float
    tool_calls: int
    grouped: tuple[str, ...]  # the order with the fewest tool calls
    grouped_calls: int
    grouping_saves: float  # seconds a cycle
    setup_hours: Decimal
    in_machine: tuple[str, ...] = ()  # tools that stand in it, whatever job comes
    foreign: ForeignTime | None = None  # in place of all that the operations take

    @property
    def placed(self) -> tuple[Placed, ...]:
        return self.where.placed

    def placed_at(self, place: str) -> Placed:
        return next(one for one in self.placed if one.place.id == place)

    @property
    def pieces(self) -> int:
        """Of a cycle."""
        return len(self.placed)

    @property
    def decision(self) -> SetupDecision:
        """What the piece at the first place is in."""
        return self.placed[0].decision

    @property
    def built(self) -> BuiltSetup:
        """What is made of the piece at the first place."""
        return self.placed[0].built

    @property
    def calls(self) -> tuple[Call, ...]:
        """All of a cycle, at each piece."""
        return self.timeline.calls

    @cached_property
    def rows(self) -> tuple[Call, ...]:
        """Each operation once, with what comes to each piece of it."""
        return rows_of(self.calls, self.pieces)

    @property
    def return_rapid(self) -> float:
        """Seconds up to the change position at cycle end."""
        return sum(lane.back.get("rapid", 0.0) for lane in self.timeline.lanes)

    @property
    def return_index(self) -> float:
        """Seconds until rotary and tilt stand as they do at cycle start."""
        return sum(lane.back.get("index", 0.0) for lane in self.timeline.lanes)

    @property
    def own_seconds(self) -> dict[str, float]:
        """By the operations' own motion, load and unload left out."""
        (lane,) = self.timeline.lanes
        return lane.own_seconds

    @cached_property
    def _machine_seconds(self) -> dict[str, float]:
        if self.foreign is not None:
            return {category: self.foreign.seconds.get(category, 0.0) for category in CATEGORIES}
        (lane,) = self.timeline.lanes
        return lane.seconds

    @property
    def seconds(self) -> dict[str, float]:
        """A cycle's, by category; what is done by hand while the machine runs costs only what it is made to wait."""
        beside = self.pieces * sum(float(work.seconds) for work in self.load.hand if work.during)
        return self._machine_seconds | {
            "handling": max(0.0, self.load_seconds - self.cycle) if self.load.beside else self.load_seconds,
            "hand work": self.pieces * sum(float(work.seconds) for work in self.load.hand if not work.during),
            "waiting": max(0.0, beside - self.cycle),
        }

    @property
    def cycle(self) -> float:
        """Seconds: the timeline's makespan, or what a program from elsewhere takes."""
        return self.timeline.makespan if self.foreign is None else sum(self._machine_seconds.values())

    @property
    def idle(self) -> float:
        """Seconds a cycle that the machine stands: load and unload, hand work at it, waiting."""
        seconds = self.seconds
        return seconds["handling"] + seconds["hand work"] + seconds["waiting"]
