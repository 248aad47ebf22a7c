"""What a machine does one after the other while it runs a program, each with the line that asked for it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.timing.chain import Arc


class StepKind(StrEnum):
    CUT = "cut"
    RAPID = "rapid"
    TOOL_CHANGE = "tool_change"
    INDEX = "index"
    DWELL = "dwell"
    PROBE = "probe"
    SPINDLE = "spindle"
    PICK_OFF = "pick_off"  # a counter spindle that takes a piece over
    WAIT = "wait"  # at a mark, until the machine's other paths are there
    STOP = "stop"  # M0, M1: the machine waits for its operator, which is not its time


#: The ledger's category that each kind of a machine's steps goes to.
CATEGORY = {
    StepKind.CUT: "cutting",
    StepKind.RAPID: "rapid",
    StepKind.TOOL_CHANGE: "tool change",
    StepKind.INDEX: "index",
    StepKind.SPINDLE: "spindle",
    StepKind.DWELL: "dwell",
    StepKind.PROBE: "probing",
    StepKind.WAIT: "waiting",
    StepKind.PICK_OFF: "pick-off",
}

STOPPED = "M5"  # what a path asks of a spindle that is to stand
Angles = tuple[float, float, float]  # of A, B and C, degrees


@dataclass(slots=True)
class RunStep:
    """Machine coordinates, of a lathe X as a radius, Z out of the spindle that it is about. `seconds` of a feed move
    are known once its chain has ended.
    """

    kind: StepKind
    line: int
    tool: int | None
    start: Vec
    end: Vec
    angles: Angles = (0.0, 0.0, 0.0)  # after it
    seconds: float = 0.0
    feed: float = 0.0  # mm/min
    n: float = 0.0  # rpm; 0 where the spindle stands
    arc: Arc | None = None
    offset: str = "G54"
    length: int | None = None  # the H word that is active
    direct: bool = False  # in machine coordinates, whatever the offset: G53, G28
    clamped: bool = False  # the rotary, on a control that clamps by M codes
    sub: int = 0  # the O number of the subprogram that it stands in
    entered: int = 0  # how many calls of subprograms there were until then, that one included
    mark: int = 0  # M code that it waits at
    asks: str = ""  # the state of the spindle that it asks for, on a machine of several paths
    spindle: int = 0  # that its words are about: 1 is the counter spindle


@dataclass(frozen=True)
class Run:
    """A program that was run to its end. `bounds` are in work coordinates, X of a lathe as a diameter."""

    steps: tuple[RunStep, ...]
    lines: int
    bounds: dict[str, tuple[Vec, Vec]]
    tools: tuple[int | None, ...]  # in order of first use

    def seconds(self, kind: StepKind) -> float:
        return sum(step.seconds for step in self.steps if step.kind == kind)

    @property
    def total(self) -> float:
        return sum(step.seconds for step in self.steps)
