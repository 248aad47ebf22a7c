"""What a load comes to: its pieces, its cycle, what stands beside it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cached_property

from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.control.foreign import ForeignTime
from lean_ledger.core.holding.placement import Bed
from lean_ledger.core.loads.advance import as_one_meets
from lean_ledger.core.loads.arranged import Bar
from lean_ledger.core.loads.bars import bar_of
from lean_ledger.core.loads.layout import Layout, Placed
from lean_ledger.core.loads.timeline import CATEGORIES, Call, Timeline, rows_of, summed
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Load, SetupDecision
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Measured


@dataclass(frozen=True)
class LoadLedger:
    """A load, or of one with several setups the share of one (`only`): then pieces, calls and seconds are its own, the
    way back and what is done once for all of them are shared evenly.
    """

    load: Load
    machine: Machine
    bed: Bed
    where: Layout
    timeline: Timeline
    whole_load_seconds: float
    tool_calls: int
    best: tuple[str, ...]  # the order with the fewest tool calls
    grouped_calls: int
    grouping_saves: float  # seconds a cycle
    whole_setup_hours: Decimal
    in_machine: tuple[str, ...] = ()  # tools that stand in it, whatever job comes
    foreign: ForeignTime | None = None  # in place of all that the operations take
    only: str = ""
    measured: tuple[Measured, ...] = ()  # what its machine turned out to take, by category

    @cached_property
    def shares(self) -> tuple[LoadLedger, ...]:
        """One for each setup that lies in it."""
        setups = self.load.setups
        return (self,) if len(setups) == 1 else tuple(replace(self, only=id) for id in setups)

    @property
    def whole(self) -> LoadLedger:
        """The load that it is a share of."""
        return replace(self, only="") if self.only else self

    @cached_property
    def placed(self) -> tuple[Placed, ...]:
        return tuple(p for p in self.where.placed if self.only in ("", p.decision.id))

    def placed_at(self, place: str) -> Placed:
        return next(one for one in self.placed if one.place.id == place)

    @property
    def pieces(self) -> int:
        """That a cycle finishes: as many as each of its setups has."""
        return len(self.where.placed) // len(self.load.setups)

    @property
    def words(self) -> str:
        return self.only or self.load.words

    @property
    def decision(self) -> SetupDecision:
        """What the piece at the first place is in."""
        return self.placed[0].decision

    @property
    def built(self) -> BuiltSetup:
        """What is made of the piece at the first place."""
        return self.placed[0].built

    def as_one_meets(self, op: Operation) -> Operation:
        """What a piece of it alone meets of an operation that runs once over several: on a bar no more than its own."""
        if op.over == 1 or self.where.load.arrangement.on_bar == 1:
            return op
        return replace(op, motion=as_one_meets(op.motion, self.placed[0].operation(op.id).motion))

    @cached_property
    def calls(self) -> tuple[Call, ...]:
        """All of a cycle, at each piece."""
        if not self.only:
            return self.timeline.calls
        own = {one.place.id for one in self.placed}
        return tuple(call for call in self.timeline.calls if call.place in own)

    @cached_property
    def rows(self) -> tuple[Call, ...]:
        """Each operation once, with what comes to each piece of it."""
        rows = rows_of(self.calls, self.pieces)
        return tuple(replace(row, position=k) for k, row in enumerate(rows)) if self.only else rows

    @property
    def grouped(self) -> tuple[str, ...]:
        """The order with the fewest tool calls."""
        own = {op.id for one in self.placed for op in one.built.operations}
        return tuple(id for id in self.best if id in own)

    @property
    def return_rapid(self) -> float:
        """Seconds up to the change position at cycle end."""
        return self._back.get("rapid", 0.0)

    @property
    def return_index(self) -> float:
        """Seconds until rotary and tilt stand as they do at cycle start."""
        return self._back.get("index", 0.0)

    @property
    def _part(self) -> float:
        return 1 / len(self.load.setups) if self.only else 1

    @property
    def _back(self) -> Mapping[str, float]:
        found: dict[str, float] = {}
        for lane in self.timeline.lanes:
            for category, seconds in lane.back.items():
                found[category] = found.get(category, 0.0) + seconds * self._part
        return found

    @cached_property
    def own_seconds(self) -> dict[str, float]:
        """By the operations' own motion, load and unload left out."""
        found = summed([call.own_seconds for call in self.calls], self._back)
        found["waiting"] += sum(lane.waiting for lane in self.timeline.lanes)
        return found

    @cached_property
    def _machine_seconds(self) -> dict[str, float]:
        return self.by_data | {"as measured": sum(seconds for _, _, seconds in self.corrected)}

    @cached_property
    def corrected(self) -> tuple[tuple[Measured, float, float], ...]:
        """Each factor with the seconds of a cycle that it is of, and those that it adds; fewer where it is below 1."""
        found = ((one, self.by_data.get(one.category, 0.0)) for one in self.measured)
        return tuple((one, seconds, (float(one.factor) - 1) * seconds) for one, seconds in found if seconds)

    @property
    def corrected_figures(self) -> tuple[Figure, ...]:
        """What was measured on the floor in it: of a piece's cycle and loading, and of setting up."""
        by_data = f"s by the data of {self.machine.name}"
        rows = [
            Figure(f"{one.category}, as measured",
                   f"{seconds / self.pieces:.1f} {by_data} · ({one.factor:.3f} − 1) {one.seen}",
                   more / self.pieces, "s")
            for one, seconds, more in self.corrected
        ]  # fmt: skip
        loading, setting_up = self.factor("loading"), self.factor("setting up")
        if loading is not None and self.loading_by_rule is not None:
            formula = f"{self.loading_by_rule / self.pieces:.1f} s by the rule {loading.words}"
            rows.append(Figure("loading, as measured", formula, self.load_seconds / self.pieces, "s"))
        if setting_up is not None and self.setting_up_by_rule is not None:
            formula = f"{self.setting_up_by_rule:.3f} h by the rule {setting_up.words}"
            rows.append(Figure("setting up, as measured", formula, float(self.setup_hours), "h"))
        return tuple(rows)

    @property
    def loading_by_rule(self) -> float | None:
        """Seconds without what was measured; None where they were typed."""
        measured = self.factor("loading")
        return (
            None
            if self.load.load_seconds is not None
            else self.load_seconds / float(measured.factor if measured else 1)
        )

    @property
    def setting_up_by_rule(self) -> Decimal | None:
        """Hours without what was measured; None where they were typed."""
        measured = self.factor("setting up")
        return None if self.load.hours is not None else self.setup_hours / (measured.factor if measured else 1)

    def factor(self, category: str) -> Measured | None:
        return next((one for one in self.measured if one.category == category), None)

    @cached_property
    def by_data(self) -> dict[str, float]:
        """Seconds of a cycle by category, as the machine's data have them."""
        if self.foreign is not None:
            return {category: self.foreign.seconds.get(category, 0.0) * self._part for category in CATEGORIES}
        if not self.only:
            return dict(self.timeline.seconds)
        lanes = sum(1 for lane in self.timeline.lanes if lane.calls)
        if lanes <= 1:
            return summed([call.seconds for call in self.calls], self._back)
        # side by side a second of a carriage is so much less of the cycle; what no call takes is shared evenly
        whole, every, own = (
            found if k == 0 else {name: seconds / lanes for name, seconds in found.items()}
            for k, found in enumerate((
                self.timeline.seconds, summed([c.seconds for c in self.timeline.calls], {}),
                summed([c.seconds for c in self.calls], {}),
            ))
        )  # fmt: skip
        return {name: own[name] + (whole[name] - every[name]) * self._part for name in CATEGORIES}

    @property
    def load_seconds(self) -> float:
        """Of a cycle: those that were said, else a piece's own for each."""
        return self.whole_load_seconds * self._of_loading

    @property
    def _of_loading(self) -> float:
        if not self.only:
            return 1
        if self.where.handed_over:
            return float(self.only == self.load.setups[0])
        own, every = (sum(p.built.hold.load_seconds for p in placed) for placed in (self.placed, self.where.placed))
        return own / every if every else self._part

    @property
    def setup_hours(self) -> Decimal:
        return self.whole_setup_hours if not self.only else self.whole_setup_hours / len(self.load.setups)

    @cached_property
    def seconds(self) -> dict[str, float]:
        """A cycle's, by category; what is done by hand while the machine runs costs only what it is made to wait."""
        loading = self.whole_load_seconds
        by_hand = self.pieces * sum(float(work.seconds) for work in self.load.hand if not work.during)
        return self._machine_seconds | {
            "handling": (max(0.0, loading - self._whole) if self.load.beside else loading) * self._of_loading,
            "hand work": by_hand * self._part,
            "waiting": self._machine_seconds["waiting"] + self._waits_for_hand,
        }

    @property
    def _whole(self) -> float:
        """Seconds of the whole load's cycle."""
        return self.whole.cycle

    @property
    def _waits_for_hand(self) -> float:
        """Seconds a cycle by which hand work beside it is longer."""
        during = self.pieces * sum(float(work.seconds) for work in self.load.hand if work.during)
        return max(0.0, during - self._whole) * self._part

    @property
    def cycle(self) -> float:
        """Seconds: the timeline's makespan, or what a program from elsewhere takes; of a share what comes to it. With
        what was measured on the floor.
        """
        if self.foreign is None and not self.only and not self.measured:
            return self.timeline.makespan
        return sum(self._machine_seconds.values())

    @property
    def idle(self) -> float:
        """Seconds a cycle that the machine stands: load and unload, hand work at it, waiting."""
        seconds = self.seconds
        return seconds["handling"] + seconds["hand work"] + self._waits_for_hand

    @property
    def set_by(self) -> str:
        """Which carriage sets the cycle, and how long others wait: "turret 1 sets the cycle; turret 2 waits 14.2 s"."""
        lanes = self.timeline.lanes
        if len(lanes) == 1:
            return ""
        last = lanes[self.timeline.slowest]
        if self.machine.drum is not None:
            return f"{last.carriage} sets the pace"
        waits = [f"{lane.carriage} waits {lane.waiting + self.timeline.makespan - lane.end:.1f} s"
                 for lane in lanes if lane is not last]  # fmt: skip
        own = f" and waits {last.waiting:.1f} s" if last.waiting > 0.05 else ""
        return f"{last.carriage} sets the cycle{own}; {', '.join(waits)}"

    @property
    def by_carriage(self) -> tuple[LoadLedger, ...]:
        """What each carriage that does something does of it."""
        return tuple(self.on(lane.carriage) for lane in self.timeline.lanes if lane.calls) or (self,)

    def on(self, carriage: str) -> LoadLedger:
        """What one of the machine's carriages does of it, as if it had no other."""
        if not self.machine.works_at_once:
            return self
        lane = next(one for one in self.timeline.lanes if one.carriage == carriage)
        first = carriage == self.machine.carriages[0].id
        return replace(
            self, machine=self.machine.on(carriage), timeline=Timeline((lane,), self.timeline.marks),
            in_machine=self.in_machine if first else (),
        )  # fmt: skip


def bar_fed(load: LoadLedger, bar: Decimal, remnant: Decimal) -> Bar | None:
    """What a load takes of a bar of such a length that is fed through its spindle; None where none is."""
    first = load.placed[0]
    return bar_of(first.decision, first.built, load.where.load.arrangement.on_bar, bar, remnant)
