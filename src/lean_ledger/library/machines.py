"""What works: machines, by what they have. Lengths mm, times s, speeds mm/min and rpm, money as Decimal."""

from __future__ import annotations

import itertools
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import lru_cache
from typing import Literal

from lean_ledger.library.fixtures import Mount

Range = tuple[float, float]
Side = Literal["behind", "front"]
Slide = Literal["", "cross", "end"]


@dataclass(frozen=True)
class Spindle:
    max_rpm: float
    start: float  # s
    power: float  # kW
    torque: tuple[tuple[float, float], ...]  # (rpm, N·m), linear between

    def torque_at(self, rpm: float) -> float:
        """Torque that the curve gives at a speed, N·m."""
        points = self.torque
        if rpm <= points[0][0]:
            return points[0][1]
        for (n0, m0), (n1, m1) in itertools.pairwise(points):
            if rpm <= n1:
                return m0 + (m1 - m0) * (rpm - n0) / (n1 - n0)
        return points[-1][1]

    def power_at(self, rpm: float) -> float:
        """kW at a speed: what the torque gives, P = M·n/9549, at most the motor's."""
        return min(self.power, self.torque_at(rpm) * rpm / 9549)


@dataclass(frozen=True)
class Rotary:
    """An axis that turns the part, or tilts the table that does: rate deg/s, acceleration deg/s², clamps s."""

    about: Literal["x", "y", "z"]
    rate: float
    acceleration: float
    clamp: float
    unclamp: float
    range: tuple[float, float] | None  # degrees; None turns without end


@dataclass(frozen=True)
class Carriage:
    """What carries tools and moves on its own: a mill's head, a turret, a slide.

    Travels mm, rapids mm/min, accelerations mm/s², each as (x, y, z).
    """

    id: str
    travel: tuple[Range, Range, Range]
    rapid: tuple[float, float, float]
    acceleration: tuple[float, float, float]
    tool_change: float  # s, chip to chip
    pockets: int  # 0: changed by hand
    side: Side = "behind"  # of the spindle's axis, on a lathe
    position: int = 0  # of a drum, from 1, that it works at; 0 where there is none
    slide: Slide = ""  # across the spindle or at its end, of a drum


@dataclass(frozen=True)
class Facing:
    """How a work spindle that faces the first one moves along Z and takes pieces over.

    `travel`: machine Z of its mount, from the nearest it comes to where it stands while it works, mm; rapid mm/min,
    acceleration mm/s²; s to turn with the first spindle, to close on a piece, to throw a finished one out; s in which
    the first spindle's collet opens, or closes, while this one has the bar: 0 where it does not pull.
    """

    travel: Range
    rapid: float
    acceleration: float
    synchronise: float
    close: float
    eject: float
    collet: float = 0.0


@dataclass(frozen=True)
class WorkSpindle:
    """What turns work: on its mount, and to an angle where it has a rotary."""

    id: str
    mount: str
    spindle: Spindle
    rotary: Rotary | None
    facing: Facing | None = None  # of one that faces the first


@dataclass(frozen=True)
class Drum:
    """Spindles that go on together from position to position, each with a bar: a piece is finished with every index.

    At each position a slide works across the spindle and one at its end, `tools` on each, side by side. s to index, and
    to feed a bar in the last position once a piece is cut off. `one_feed`: one drive moves both slides of a position,
    so that all that is made there has one feed a turn.
    """

    positions: int
    index: float
    feed: float
    tools: int
    one_feed: bool = False


@dataclass(frozen=True)
class Machine:
    """What it can do follows from what it has: a lathe has spindles that turn work, a mill one that turns tools."""

    id: str
    name: str
    rate: Decimal  # per hour
    carriages: tuple[Carriage, ...]
    work_spindles: tuple[WorkSpindle, ...]
    tool_spindle: Spindle | None  # that drives tools
    table: Rotary | None  # that turns what stands on it
    tilt: Rotary | None  # of that table
    corner_tolerance: float
    offsets: Literal["basic", "extended-48", "extended-99"]
    mounts: tuple[Mount, ...]
    drum: Drum | None = None  # of a bar automatic with several spindles

    def mount(self, name: str) -> Mount | None:
        return next((m for m in self.mounts if m.name == name), None)

    @property
    def turns_work(self) -> bool:
        """Whether the work turns against tools that stand, as on a lathe."""
        return bool(self.work_spindles)

    @property
    def drives_tools(self) -> bool:
        return self.tool_spindle is not None

    @property
    def indexes_work(self) -> bool:
        """Whether sides of the work are brought to the tool in turn."""
        return self.table is not None

    @property
    def works_at_once(self) -> bool:
        """Whether several carriages work beside one another, each by a program of its own."""
        return len(self.carriages) > 1

    @property
    def counter(self) -> WorkSpindle | None:
        """The work spindle that faces the first one and takes pieces over from it."""
        return next((one for one in self.work_spindles[1:] if one.facing is not None), None)

    @property
    def nose(self) -> float | None:
        """Of a machine as its counter spindle has it: that spindle's mount on the whole machine's Z. Else None."""
        facing = self.work_spindles[0].facing if self.work_spindles else None
        return facing.travel[1] if facing is not None else None

    def faced(self) -> Machine:
        """As its counter spindle has it: Z counts out of that one, from its mount, and it is the only one."""
        return _faced(self) if self.counter is not None else self

    def on(self, carriage: str) -> Machine:
        """As one of its carriages has it: no other is there."""
        return self if not self.works_at_once else _narrowed(self, carriage)

    @property
    def spindle_lies(self) -> bool:
        """Whether a mill's spindle is level: its table turns about Y, which is then what points up (ISO 841)."""
        return self.table is not None and self.table.about == "y"

    @property
    def spindle(self) -> Spindle:
        """The one that cuts: of the work where that turns, else of the tools."""
        if self.work_spindles:
            return self.work_spindles[0].spindle
        assert self.tool_spindle is not None, "a machine turns its work or its tools"
        return self.tool_spindle

    @property
    def rotary(self) -> Rotary | None:
        """The axis that brings the work to an angle."""
        return self.work_spindles[0].rotary if self.work_spindles else self.table

    @property
    def travel(self) -> tuple[Range, Range, Range]:
        return self.carriages[0].travel

    @property
    def rapid(self) -> tuple[float, float, float]:
        return self.carriages[0].rapid

    @property
    def acceleration(self) -> tuple[float, float, float]:
        return self.carriages[0].acceleration

    @property
    def tool_change(self) -> float:
        return self.carriages[0].tool_change

    @property
    def tool_pockets(self) -> int:
        return self.carriages[0].pockets

    @property
    def tool_places(self) -> str:
        """What its tools stand in, in words."""
        return "places" if self.drum is not None else "stations" if self.turns_work else "pockets"

    @property
    def axes(self) -> str:
        """What it is, in a planner's words."""
        if self.drum is not None:
            return f"bar automatic, {self.drum.positions} spindles"
        if self.turns_work:
            has = [f"{len(self.carriages)} turrets"] if self.works_at_once else []
            has += ["a counter spindle"] if self.counter is not None else []
            has += ["driven tools"] if self.drives_tools else []
            return f"lathe with {', '.join([*has[:-2], ' and '.join(has[-2:])])}" if has else "lathe"
        mill = "5-axis mill" if self.table and self.tilt else "4-axis mill" if self.table else "3-axis mill"
        return f"{mill}, spindle level" if self.spindle_lies else mill


@lru_cache(maxsize=64)
def _narrowed(machine: Machine, carriage: str) -> Machine:
    return replace(machine, carriages=tuple(one for one in machine.carriages if one.id == carriage))


@lru_cache(maxsize=64)
def _faced(machine: Machine) -> Machine:
    main, counter = machine.work_spindles[0], machine.counter
    assert counter is not None
    assert counter.facing is not None
    nose = counter.facing.travel[1]
    carriages = tuple(
        replace(one, travel=(*one.travel[:2], (nose - one.travel[2][1], nose - one.travel[2][0])))
        for one in machine.carriages
    )
    mounts = (Mount(main.mount, (0.0, 0.0, 0.0), (0.0, 0.0, 0.0)),)
    return replace(machine, carriages=carriages, work_spindles=(replace(counter, mount=main.mount),), mounts=mounts)
