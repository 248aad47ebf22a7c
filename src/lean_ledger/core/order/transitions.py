"""What lies between two operations: retract, tool change, spindle start, rapid to the next start."""

from __future__ import annotations

from dataclasses import dataclass

from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.holding import Hold
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.timing.motion import rapid_seconds
from lean_ledger.library.types import Machine, Tool

HOLDER_LENGTH = 55.0  # mm from the spindle's nose to the holder's nose
HAND_CHANGE = 45.0  # s, where the machine has no changer


@dataclass(frozen=True)
class Transition:
    rapid: float
    tool_change: float
    spindle: float
    changes_tool: bool


def change_height(hold: Hold, machine: Machine, tool: Tool) -> float:
    """How far the tip of a tool at the change position stands above the stock's bottom, in mm.

    The spindle's nose is then at the top of its Z travel over the table; the stock lies on bed and parallel.
    """
    seat = hold.vise.bed_height + (hold.vise.jaw_height - hold.grip)
    return machine.travel[2][1] - HOLDER_LENGTH - tool.reach - seat


def transition(before: Operation | None, op: Operation, hold: Hold, machine: Machine) -> Transition:
    """From the end of `before` (None: from the change position, cycle start) to the start of `op`."""
    start = op.motion.start
    if before is not None and before.tool.id == op.tool.id:
        spindle = machine.spindle.start if before.cutting.n != op.cutting.n else 0.0
        return Transition(rapid_seconds(before.motion.end, start, machine), 0.0, spindle, changes_tool=False)
    floor = hold.stock.min[2]
    seconds = 0.0
    origin: Vec = (*_centre(hold), start[2])
    if before is not None:
        origin = before.motion.end
        up = max(origin[2], floor + change_height(hold, machine, before.tool))
        seconds += rapid_seconds(origin, (origin[0], origin[1], up), machine)
    home = max(start[2], floor + change_height(hold, machine, op.tool))
    seconds += rapid_seconds((origin[0], origin[1], home), (start[0], start[1], home), machine)
    seconds += rapid_seconds((start[0], start[1], home), start, machine)
    change = machine.tool_change if machine.tool_pockets > 0 else HAND_CHANGE
    return Transition(seconds, change, machine.spindle.start, changes_tool=True)


def return_seconds(last: Operation, hold: Hold, machine: Machine) -> float:
    """From the end of the last operation up to the change position, at cycle end."""
    end = last.motion.end
    home = max(end[2], hold.stock.min[2] + change_height(hold, machine, last.tool))
    return rapid_seconds(end, (end[0], end[1], home), machine)


def _centre(hold: Hold) -> tuple[float, float]:
    stock = hold.stock
    return ((stock.min[0] + stock.max[0]) / 2, (stock.min[1] + stock.max[1]) / 2)
