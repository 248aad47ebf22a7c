"""One tool doing one thing to one feature or to a group of alike ones."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.plan import SETTABLE, Direction, Strategy, ValueName
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.setups.ways import Way
from lean_ledger.core.timing.motion import NO_TIME, Stroke, StrokeTime
from lean_ledger.library.types import Tool, ToolKind


@dataclass(frozen=True)
class Cutting:
    """Cutting data as they are used: speeds rpm and mm/min, lengths mm."""

    n: float
    vf: float
    vc: float
    fz: float
    ap: float
    ae: float
    passes: int
    allowance: float
    speed: float = 1.0  # times the vc of the library's data that it runs at
    feed: float = 1.0  # times the feed per tooth that the rule gives there


Ring2 = tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class HoleCycle:
    """Holes along the tool that a canned cycle makes: G81 plunges, G83 pecks, G84 taps, G85 feeds out again.

    `r` and `bottom` are levels; `peck` is what G83 goes down by, counted from `r`. After each hole the tool goes back
    to `r`, or up to where it came from.
    """

    code: int
    points: tuple[tuple[float, float], ...]
    r: float
    bottom: float
    feed: float
    peck: float = 0.0
    to_clearance: bool = False

    def depths(self) -> list[float]:
        """Where each plunge ends; the last peck is what remains.

        18 from R in pecks of 8 are 8, 8 and 2.
        """
        if self.code != 83:
            return [self.bottom]
        found, depth = [], self.r
        while depth - self.bottom > 1e-6:
            depth -= self.peck
            found.append(depth if depth - self.bottom > 1e-6 else self.bottom)
        return found


@dataclass(frozen=True)
class Spin:
    """How a turned cut keeps its surface speed: m/min, mm a turn, rpm at the most."""

    vc: float
    per_turn: float
    cap: float


@dataclass(frozen=True)
class Motion:
    """A path in setup coordinates, and how often the spindle reverses on it."""

    strokes: tuple[Stroke, ...]
    reversals: int = 0
    cycle: HoleCycle | None = None  # that the strokes are the moves of
    spin: Spin | None = None  # of a turned cut
    turned: tuple[Ring2, ...] = ()  # on a lathe: what the cuts take, as (r, z) about the axis, in place of a sweep
    axis: tuple[float, float] = (0.0, 0.0)  # of the spindle, where something is turned
    lead: float = 0.0  # mm a turn of a thread that its cuts follow
    probes: bool = False  # its feed moves end where the probe touches

    @property
    def turns(self) -> bool:
        """Whether the work turns and the tool lies beside it: a flat section, and no body that turns itself."""
        return bool(self.turned) or self.lead > 0

    @cached_property
    def lowest(self) -> float:
        """The lowest level that the tool's tip cuts at; 0 where nothing is cut."""
        return min((p[2] for s in self.strokes if not s.is_rapid for p in s.points), default=0.0)

    @property
    def start(self) -> Vec:
        return self.strokes[0].points[0]

    @property
    def end(self) -> Vec:
        return self.strokes[-1].points[-1]


@dataclass(frozen=True)
class Depth:
    """How deep an operation goes, mm down from the level `top` of its tool's way; by hand where `rule` is not it."""

    top: float
    value: float
    rule: float
    words: str = ""  # what was decided; empty where the rule stands


HOME = Way((0.0, 0.0, 1.0), Frame((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)))


@dataclass(frozen=True)
class Operation:
    """An operation with its own motion; what it costs to get to it depends on the order (see order.sequence)."""

    id: str
    setup: str
    kind: OperationKind
    name: str
    features: tuple[str, ...]
    tool: Tool
    cutting: Cutting
    motion: Motion
    time: StrokeTime = NO_TIME
    reversal_seconds: float = 0.0
    depth: float = 0.0
    figures: tuple[Figure, ...] = ()
    outer: bool = False  # works on the outside of the part
    chain: str = ""  # operations of one feature group share it
    power: float = 0.0  # kW at the tool, at the most
    rate: float = 0.0  # mm³/min that a mill removes at the most, from what it engages along its path
    power_limit: float = 0.0
    after: tuple[tuple[str, str], ...] = field(default=())  # (operation id, reason)
    way: Way = HOME  # that the tool comes from; the motion is in its axes
    rule: str = ""  # of the shop's, by which its features are made
    strategy: Strategy | None = None  # of roughing
    strategies: tuple[tuple[Strategy, float], ...] = ()  # that were tried, and the seconds of each
    direction: Direction | None = None  # along walls
    measured: Depth | None = None  # of those whose depth can be set by hand
    over: int = 1  # pieces of a row that one run of it makes

    @property
    def frame(self) -> Frame:
        return self.way.frame

    @property
    def cut_each(self) -> float:
        """Seconds in cut that come to a piece."""
        return self.time.cut / self.over

    @property
    def settable(self) -> tuple[ValueName, ...]:
        """The values of it that can be set by hand, in the order of the table."""
        able = set(self.kind.settable)
        if self.motion.probes:
            able &= {"tool"}
        if self.by_pitch:  # its feed and its depths follow from the thread
            able -= {"vf", "feed", "ap", "ae", "allowance"}
        if not self.strategy:
            able.discard("strategy")
        if not self.direction:
            able.discard("direction")
        return tuple(name for name in SETTABLE if name in able)

    @property
    def by_pitch(self) -> bool:
        """Whether its feed follows from a thread's pitch."""
        return self.tool.kind in (ToolKind.TAP, ToolKind.THREADING)
