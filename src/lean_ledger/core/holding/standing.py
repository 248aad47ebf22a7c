"""How a clamping stands on its machine: where each of its points comes to lie, and whether the travels reach them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.findings import Finding
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec, add, sub
from lean_ledger.core.holding.hold import Hold, error
from lean_ledger.core.holding.pieces import Block
from lean_ledger.core.holding.placement import Seat, seat_of
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import SetupDecision
from lean_ledger.core.setups.frame import Frame
from lean_ledger.library.types import Library, Machine, Tool

HOLDER_LENGTH = 55.0  # mm from the spindle's nose to the holder's nose
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

    def shift(self, frame: Frame) -> Vec:
        """To be added to a point in a way's axes to have it on the machine."""
        return sub(self.seat.at, frame.point(self.foot))

    def tool_height(self, frame: Frame, machine: Machine, tool: Tool) -> float:
        """Level of the tip of a tool at the change position, in a way's axes: the spindle at the top of its Z."""
        return machine.travel[2][1] - HOLDER_LENGTH - tool.reach - self.shift(frame)[2]

    def carriers(self, hold: Hold) -> tuple[Block, ...]:
        """What is stacked under the fixture, in the hold's axes."""
        x, y = hold.centre
        mount = (x, y, hold.floor - hold.seat)
        boxes = [stacked.box_from(self.seat) for stacked in self.seat.carriers]
        return tuple(Block("carrier", Bounds(add(b.min, mount), add(b.max, mount))) for b in boxes)

    def lathe_clear(self, frame: Frame) -> Vec:
        """Where a lathe's turret turns clear of the work, in a way's axes."""
        end, foot = frame.point(self.end), frame.point(self.foot)
        along = sub(end, foot)
        longest = max(range(3), key=lambda i: abs(along[i]))
        off = list(end)
        off[longest] += TURRET_OFF if along[longest] > 0 else -TURRET_OFF
        across = 0 if longest != 0 else 2
        off[across] += self.swing + TURRET_OFF
        return (off[0], off[1], off[2])

    def safe_height(self, frame: Frame) -> float:
        """Level, in a way's axes, above which the part turns free of the tool."""
        return frame.point(self.foot)[2] + self.swing + SWING_CLEARANCE


def standing(setup: SetupDecision, hold: Hold, machine: Machine, library: Library) -> Standing:
    """On the mount that the fixture names; over the middle of the travels where there is none, which is a finding."""
    seat = seat_of(setup, hold.fixture, machine, library)
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
    return Standing(seat, foot, Frame(*axes), swing, end)


def travel_findings(
    setup: SetupDecision, stands: Standing, machine: Machine, operations: Sequence[Operation]
) -> list[Finding]:
    """Every position of every tool against the travels, the worst of each axis; and the swing over the table."""
    if machine.kind == "lathe":
        return _lathe_findings(setup, stands, machine)
    worst: dict[int, tuple[float, Operation, float]] = {}
    for op in operations:
        shift = stands.shift(op.frame)
        points = [p for stroke in op.motion.strokes for p in stroke.points]
        for i, (low, high) in enumerate(machine.travel):
            nose = op.tool.reach + HOLDER_LENGTH if i == 2 else 0.0
            along = [p[i] + shift[i] + nose for p in points]
            for value, past in ((min(along), low - min(along)), (max(along), max(along) - high)):
                if past > 0.01 and past > worst.get(i, (0.0, op, 0.0))[0]:
                    worst[i] = (past, op, value)
    found = _turning_findings(setup, machine, operations)
    for i, (past, op, value) in worst.items():
        axis, (low, high) = "XYZ"[i], machine.travel[i]
        what = "the spindle's nose" if i == 2 else "the tool's centre"
        past_it = error(
            setup.id, "past-travel", f"{axis} of {machine.name} runs {past:.0f} past its travel in “{op.name}”.",
            f"There {what} comes to {axis} {value:.0f}, the travel goes from {low:g} to {high:g}. Turn the part, take "
            "another fixture, a shorter tool or a larger machine.",
        )  # fmt: skip
        found.append(replace(past_it, operation=op.id, features=op.features))
    if setup.free is not None and not stands.seat.is_upright and stands.swing > stands.seat.at[2]:
        found.append(
            error(
                setup.id,
                "swing",
                f"The part swings {stands.swing:.0f}, the axis is {stands.seat.at[2]:g} high.",
                "What turns would hit the table. Take a smaller fixture or stock, or another machine.",
            )
        )
    return found


def _turning_findings(setup: SetupDecision, machine: Machine, operations: Sequence[Operation]) -> list[Finding]:
    """What rotary and tilt would have to stand at, against their ranges; each position once."""
    found = []
    for way in dict.fromkeys(op.way for op in operations):
        for name, axis, value in (("rotary", machine.rotary, way.angle), ("tilt", machine.tilt, way.tilt)):
            if axis is None or axis.range is None or axis.range[0] - 1e-6 <= value <= axis.range[1] + 1e-6:
                continue
            op = next(op for op in operations if op.way == way)
            past = error(
                setup.id, "past-turn", f"The {name} of {machine.name} does not come to {value:g}° for “{op.name}”.",
                f"It turns from {axis.range[0]:g}° to {axis.range[1]:g}°. Make it in another setup, or clamp the other "
                "end.",
            )  # fmt: skip
            found.append(replace(past, operation=op.id, features=op.features))
    return found


def _lathe_findings(setup: SetupDecision, stands: Standing, machine: Machine) -> list[Finding]:
    """The stock's diameter against X, which counts as a diameter, and how far it stands off the spindle against Z."""
    found = []
    length = sum((a - b) ** 2 for a, b in zip(stands.end, stands.foot, strict=True)) ** 0.5
    for axis, value, most in (("X", 2 * stands.swing, machine.travel[0][1]), ("Z", length, machine.travel[2][1])):
        if value > most:
            found.append(
                error(
                    setup.id,
                    "past-travel",
                    f"The stock asks {axis} {value:.0f} of {machine.name}, it has {most:g}.",
                    "Take a larger lathe, or shorter stock.",
                )
            )
    return found
