"""How a clamping stands on its machine: where each of its points comes to lie."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec, add, dot, sub
from lean_ledger.core.holding.hold import Hold
from lean_ledger.core.holding.obstacles import Block
from lean_ledger.core.holding.placement import Bed, Seat
from lean_ledger.core.plan import SetupDecision
from lean_ledger.core.setups.frame import Frame
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Tool

TURRET_OFF = 40.0  # mm that a lathe's turret stands off the work to turn
SWING_CLEARANCE = 5.0  # mm that a turning part stays clear of table and tool
STRAIGHT: tuple[Vec, Vec, Vec] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


@dataclass(frozen=True)
class Standing:
    """`foot` is the point of the hold that sits on the mount, in the part's coordinates."""

    seat: Seat
    foot: Vec
    level: Frame  # the machine's axes in the part's while rotary and tilt stand at 0
    swing: float  # mm from the mount's axis to what goes round farthest
    end: Vec = (0.0, 0.0, 0.0)  # on the mount's axis, at the stock's free end, in the part's coordinates
    room: float = inf  # mm that a lathe's turret can go off the spindle's axis
    aside: tuple[float, float] = (0.0, 0.0)  # along X and Y, from where one piece alone would stand
    angle: float = 0.0  # degrees of the rotary that bring up the side of a tombstone that it stands on
    out: float = 0.0  # mm along a lathe's spindle from where one piece alone would stand, on a bar
    over: float = -inf  # machine Z above all pieces of the load and what holds them
    free_above: float | None = None  # machine Z above which a tombstone turns, with all that it carries
    nose: float | None = None  # machine Z of the counter spindle that it is in, whose own Z counts the other way

    def shift(self, frame: Frame) -> Vec:
        """To be added to a point in a way's axes to have it on the machine."""
        return sub(self.seat.at, frame.point(self.foot))

    def tool_height(self, frame: Frame, machine: Machine, tool: Tool) -> float:
        """Level of the tip of a tool at the change position, in a way's axes: the spindle at the top of its Z."""
        return machine.travel[2][1] - tool.gauge - self.shift(frame)[2]

    def carriers(self, hold: Hold) -> tuple[Block, ...]:
        """What is stacked under the fixture, in the hold's axes."""
        x, y = hold.centre
        mount = (x, y, hold.floor - hold.seat)
        boxes = [stacked.box_from(self.seat) for stacked in self.seat.carriers]
        return tuple(Block("carrier", Bounds(add(b.min, mount), add(b.max, mount))) for b in boxes)

    def lathe_clear(self, frame: Frame, beside: float = 0.0) -> Vec:
        """Where a lathe's turret turns clear of the work, in a way's axes; and of what reaches out so far about the
        spindle's axis.
        """
        end, foot = frame.point(self.end), frame.point(self.foot)
        along = sub(end, foot)
        longest = max(range(3), key=lambda i: abs(along[i]))
        off = list(end)
        off[longest] += TURRET_OFF if along[longest] > 0 else -TURRET_OFF
        across = 0 if longest != 0 else 2
        off[across] += min(max(self.swing, beside) + TURRET_OFF, self.room)
        return (off[0], off[1], off[2])

    def is_across(self, frame: Frame) -> bool:
        """Whether a driven tool comes square to a lathe's spindle."""
        return abs(dot(frame.up, self.level.up)) < 0.5

    def on_lathe(self, frame: Frame, point: Vec) -> Vec:
        """A point of a way's axes on the lathe: X, as a radius, from the spindle's axis, Z from its nose."""
        x, y, z = sub(point, frame.point(self.foot))
        return add(self.seat.at, (z, y, x) if self.is_across(frame) else (x, y, z))

    def machine_z(self, z: float) -> float:
        """A Z out of its own spindle, on the machine: 100 before a counter spindle at 860 is 760."""
        return z if self.nose is None else self.nose - z

    def safe_height(self, frame: Frame) -> float:
        """Level, in a way's axes, above which the part turns free of the tool."""
        if self.free_above is not None:
            return self.free_above - self.shift(frame)[2]
        return frame.point(self.foot)[2] + self.swing + SWING_CLEARANCE


def standing(setup: SetupDecision, hold: Hold, bed: Bed) -> Standing:
    """On the mount that the fixture names; over the middle of the travels where there is none, which is a finding."""
    seat, machine = bed.seat_of(hold.fixture), bed.machine
    if seat is None:
        middle = tuple((low + high) / 2 for low, high in machine.travel[:2])
        seat = Seat("", (middle[0], middle[1], 0.0), STRAIGHT)
    frame, (x, y) = hold.frame, hold.centre
    foot = frame.in_part((x, y, hold.floor - hold.seat))
    axes = [frame.in_part(seat.seen(axis)) for axis in STRAIGHT]
    turning = [*hold.obstacles] if setup.free is not None else []
    corners = [(a, b) for box in hold.boxes for a in (box.min[0], box.max[0]) for b in (box.min[1], box.max[1])]
    reach = [((a - x) ** 2 + (b - y) ** 2) ** 0.5 for a, b in corners]
    if hold.held.section == "round" and hold.held.upright:
        reach = [max(hold.stock.size[:2]) / 2]
    swing = max([*reach, *(piece.farthest(x, y) for piece in turning)])
    end = frame.in_part((x, y, hold.stock.max[2]))
    room = machine.travel[0][1] / 2 if machine.turns_work else inf
    return Standing(seat, foot, Frame(*axes), swing, end, room, nose=machine.nose)
