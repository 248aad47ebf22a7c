"""What lies between two operations: retract, tool change, spindle start, rapid to the next start."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

from lean_ledger.core.geometry.vectors import Vec, add, sub
from lean_ledger.core.holding.standing import Standing
from lean_ledger.core.loads.speeds import turns_work
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.timing.motion import change_seconds, rapid_seconds, turn_seconds
from lean_ledger.library.machines import Machine


@dataclass(frozen=True)
class Transition:
    rapid: float
    tool_change: float
    spindle: float
    changes_tool: bool
    index: float = 0.0  # turning rotary and tilt, clamps included
    turned: float = 0.0  # degrees, of both together
    away: float = 0.0  # of the rapid, what leads to where the tool is changed
    handover: float = 0.0  # the counter spindle takes the piece, before it is cut off

    @property
    def total(self) -> float:
        return self.rapid + self.tool_change + self.index + self.spindle + self.handover

    @property
    def lead(self) -> float:
        """Seconds until the next tool is in: what a carriage does before it may have to wait."""
        return self.away + self.tool_change


@dataclass(frozen=True)
class Stop:
    """An operation where it is made."""

    op: Operation
    stands: Standing

    @property
    def angle(self) -> float:
        """Degrees that the rotary stands at."""
        return (self.op.way.angle + self.stands.angle) % 360 if self.stands.angle else self.op.way.angle

    def turns_to(self, other: Stop) -> bool:
        """Whether the work has to be turned from here to there. Another setup's pieces lie in other axes, unturned."""
        if self.op.setup != other.op.setup:
            return (self.angle, self.op.way.tilt) != (other.angle, other.op.way.tilt)
        return self.op.way != other.op.way or self.angle != other.angle


def transition(before: Stop | None, now: Stop, machine: Machine, *, turned: bool = False) -> Transition:
    """From the end of `before` (None: from the change position, cycle start) to the start of `now`. `turned`: another
    carriage may have turned the work meanwhile.
    """
    op, stands, start = now.op, now.stands, now.op.motion.start
    if machine.turns_work:
        return _in_the_lathe(before, now, machine, turned=turned)
    if before is not None and before.turns_to(now):
        return _indexed(before, now, machine)
    if before is not None and before.op.tool.id == op.tool.id:
        ways = crossing(before, now)
        seconds = sum(rapid_seconds(a, b, machine) for a, b in pairwise(ways))
        return Transition(seconds, 0.0, _start(before.op, op, machine), changes_tool=False)
    seconds = 0.0
    middle = op.frame.point(stands.foot)
    # a cycle begins over the mount, wherever its first piece stands
    origin: Vec = (middle[0] - stands.aside[0], middle[1] - stands.aside[1], start[2])
    if before is not None:
        origin = _end(before, now)
        up = max(origin[2], stands.tool_height(op.frame, machine, before.op.tool))
        seconds += rapid_seconds(origin, (origin[0], origin[1], up), machine)
    home = max(start[2], stands.tool_height(op.frame, machine, op.tool))
    seconds += rapid_seconds((origin[0], origin[1], home), (start[0], start[1], home), machine)
    seconds += rapid_seconds((start[0], start[1], home), start, machine)
    return Transition(seconds, change_seconds(machine), _start(None, op, machine), changes_tool=True)


def crossing(before: Stop, now: Stop) -> tuple[Vec, ...]:
    """Corners of the rapid from the end of a call to the start of the next by the same tool from the same way, in the
    axes of the next: straight at one piece; to another one over all that stands in the load.
    """
    end, start = _end(before, now), now.op.motion.start
    if before.stands == now.stands:
        return end, start
    over = max(end[2], start[2], now.stands.over - now.stands.shift(now.op.frame)[2])
    return end, (end[0], end[1], over), (start[0], start[1], over), start


def _end(before: Stop, now: Stop) -> Vec:
    """Where a call ends, in the axes of the next one; both have the same way."""
    end = before.op.motion.end
    if before.stands == now.stands:
        return end
    return sub(add(end, before.stands.shift(before.op.frame)), now.stands.shift(now.op.frame))


def _start(before: Operation | None, op: Operation, machine: Machine) -> float:
    """Of the spindle, after a tool change or at another speed; a probe feels while it stands."""
    if op.motion.probes or (before is not None and before.cutting.n == op.cutting.n):
        return 0.0
    return machine.spindle.start


def _indexed(left: Stop, now: Stop, machine: Machine) -> Transition:
    """Up until the part turns free, the turn, then across and down; a tool that is changed is changed up there."""
    before, op = left.op, now.op
    changes = before.tool.id != op.tool.id
    end, start = before.motion.end, op.motion.start
    up, down = left.stands.safe_height(before.frame), now.stands.safe_height(op.frame)
    if changes:
        up = max(up, left.stands.tool_height(before.frame, machine, before.tool))
        down = max(down, now.stands.tool_height(op.frame, machine, op.tool))
    up, down = max(up, end[2]), max(down, start[2])
    seconds = rapid_seconds(end, (end[0], end[1], up), machine)
    # X and Y as the machine has them: the turn moves the part, not the spindle
    was, is_ = left.stands.shift(before.frame), now.stands.shift(op.frame)
    origin = (end[0] + was[0] - is_[0], end[1] + was[1] - is_[1], down)
    seconds += rapid_seconds(origin, (start[0], start[1], down), machine)
    seconds += rapid_seconds((start[0], start[1], down), start, machine)
    index, turned = index_seconds(left, now, machine)
    if changes:
        return Transition(seconds, change_seconds(machine), _start(None, op, machine), True, index, turned)  # noqa: FBT003
    return Transition(seconds, 0.0, _start(before, op, machine), False, index, turned)  # noqa: FBT003


def _brought(left: Stop | None, now: Stop, *, turned: bool) -> bool:
    """Whether a lathe's spindle has to be brought to where a driven tool finds the work, whatever angle that is: it
    turned before.
    """
    if turns_work(now.op, now.stands):
        return False
    return left is None or turned or left.stands.nose != now.stands.nose or turns_work(left.op, left.stands)


def _in_the_lathe(left: Stop | None, now: Stop, machine: Machine, *, turned: bool) -> Transition:
    """The turret goes off to where it turns clear of the work, and back; driven tools turn the spindle to their place.

    X and Z move together.
    """
    op, before = now.op, left.op if left is not None else None
    start = op.motion.start
    clear = now.stands.lathe_clear(op.frame)
    index, degrees = index_seconds(left or now, now, machine, again=_brought(left, now, turned=turned))
    counter = machine.counter
    runs_up = (counter.spindle if counter is not None and now.stands.nose is not None else machine.spindle).start
    crosses = left is not None and left.stands.nose != now.stands.nose
    if before is not None and before.tool.id == op.tool.id and not index and not crosses:
        spindle = runs_up if before.cutting.n != op.cutting.n and not op.motion.turned else 0.0
        end = _along_spindle(left, now, before.motion.end) if left is not None else start
        return Transition(rapid_seconds(end, start, machine), 0.0, spindle, changes_tool=False)
    away = 0.0
    if left is not None:
        gone = left.stands.lathe_clear(left.op.frame)
        away = rapid_seconds(left.op.motion.end, gone, machine)
        if crosses:
            seconds = _across(left, now, start, machine) + away
        else:
            clear = _along_spindle(left, now, gone) if left.stands != now.stands else clear
            seconds = rapid_seconds(clear, start, machine) + away
    else:  # a cycle begins where one piece alone would be come to, which is where the last of an advance stands
        seconds = rapid_seconds(_shifted(now, clear, -now.stands.out), start, machine)
    changes = before is None or before.tool.id != op.tool.id
    change = change_seconds(machine) if changes else 0.0
    return Transition(seconds, change, runs_up if changes else 0.0, changes, index, degrees, away)


def _across(left: Stop, now: Stop, to: Vec, machine: Machine, beside: float = 0.0) -> float:
    """Seconds from where a turret has gone off the piece in one spindle to a point at the piece in the other."""
    x, y, z = left.stands.on_lathe(left.op.frame, left.stands.lathe_clear(left.op.frame, beside))
    u, v, w = now.stands.on_lathe(now.op.frame, to)
    return rapid_seconds((x, y, left.stands.machine_z(z)), (u, v, now.stands.machine_z(w)), machine)


def _along_spindle(left: Stop, now: Stop, point: Vec) -> Vec:
    """A point of one piece's axes in those of the next on the bar."""
    if left.stands == now.stands:
        return point
    return _shifted(now, point, left.stands.out - now.stands.out)


def _shifted(now: Stop, point: Vec, by: float) -> Vec:
    """So far along a lathe's spindle, which a driven tool that comes across it has along X."""
    x, y, z = point
    return (x + by, y, z) if now.stands.is_across(now.op.frame) else (x, y, z + by)


def index_seconds(before: Stop, now: Stop, machine: Machine, *, again: bool = False) -> tuple[float, float]:
    """(seconds, degrees): each axis that turns is unclamped, turned and clamped; `again`: the rotary in any case.

    90° at 60 deg/s and 400 deg/s² take 90/60 + 60/400 = 1.65 s, with 0.4 + 0.6 s of clamps 2.65 s.
    """
    seconds = degrees = 0.0
    tilts = before.op.way.tilt, now.op.way.tilt
    for axis, a, b in ((machine.rotary, before.angle, now.angle), (machine.tilt, *tilts)):
        turn = abs(b - a)
        if axis is not None and (turn > 1e-6 or (again and axis is machine.rotary)):
            seconds += axis.unclamp + turn_seconds(axis, turn) + axis.clamp
            degrees += turn
    return seconds, degrees


def return_seconds(left: Stop, again: Stop, machine: Machine, beside: float = 0.0) -> float:
    """From the end of the last operation up to the change position, at cycle end; to that of the spindle where the
    cycle begins. `beside`: how far what a turret keeps clear of reaches out about a lathe's axis.
    """
    last, stands, end = left.op, left.stands, left.op.motion.end
    if machine.turns_work:
        off = rapid_seconds(end, stands.lathe_clear(last.frame, beside), machine)
        if stands.nose != again.stands.nose:
            off += _across(left, again, again.stands.lathe_clear(again.op.frame), machine, beside)
        return off
    home = max(end[2], stands.tool_height(last.frame, machine, last.tool))
    return rapid_seconds(end, (end[0], end[1], home), machine)
