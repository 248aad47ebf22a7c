"""How far speed and feed of an operation can be raised, and by what they are stopped."""

from __future__ import annotations

from dataclasses import dataclass
from math import floor

from lean_ledger.core.operations.cutting.forces import load_of
from lean_ledger.core.operations.model import Operation
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import CuttingData, Material, ToolKind


@dataclass(frozen=True)
class Limits:
    """Shares of the usual speed and feed per tooth that can be asked for, to whole percents; and why no more."""

    speed: float
    speed_stop: str
    feed: float
    feed_stop: str

    def gain(self, op: Operation) -> float:
        """Times that the feed in mm/min could grow from where it is."""
        return max(1.0, self.speed / op.cutting.speed) * max(1.0, self.feed / op.cutting.feed)


def limits_of(op: Operation, machine: Machine, material: Material, data: CuttingData) -> Limits:
    """Speed first, then the feed that is left at that speed.

    Speed stops at the tool's vc or the spindle's rpm, feed at the tool's chip, the spindle's power or a mill's bending.
    """
    speeds = {f"the tool's {data.vc_most:g} m/min": data.speed_most}
    if op.motion.spin is None:  # a turned cut reaches the spindle's cap near its middle only
        speeds[f"the spindle's {machine.spindle.max_rpm:g} rpm"] = (
            op.cutting.speed * machine.spindle.max_rpm / op.cutting.n
        )
    speed_stop, speed = min(speeds.items(), key=lambda one: one[1])
    speed = _whole(speed)
    if op.by_pitch:
        what = "a tap" if op.tool.kind == ToolKind.TAP else "a threading insert"
        return Limits(speed, speed_stop, 1.0, f"{what} feeds its pitch")
    feeds = {"the tool's edges": data.fz_most}
    load = load_of(op, machine, material)
    if load.power > 0:
        # power grows with speed and feed alike
        per_share = load.power / (op.cutting.speed * op.cutting.feed)
        n = op.cutting.n * speed / op.cutting.speed
        feeds[f"the spindle's power at {n:.0f} rpm"] = machine.spindle.power_at(n) / (per_share * speed)
    if load.bend > 0:
        feeds[f"the mill bends {load.bend_limit:g} mm"] = load.bend_limit / (load.bend / op.cutting.feed)
    feed_stop, feed = min(feeds.items(), key=lambda one: one[1])
    return Limits(speed, speed_stop, _whole(feed), feed_stop)


def _whole(share: float) -> float:
    return floor(100 * share + 1e-6) / 100
