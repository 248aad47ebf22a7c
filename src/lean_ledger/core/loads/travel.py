"""Whether a machine's travels reach every position of every tool, and whether what it turns goes clear."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.holding.hold import error
from lean_ledger.core.holding.standing import Standing
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import SetupDecision
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Tool, ToolKind

TOUCH = 0.01  # mm past a travel that are not worth a word
ON_TURRET = (
    ToolKind.TURNING,
    ToolKind.GROOVING,
    ToolKind.THREADING,
    ToolKind.PROFILING,
)  # whose tips stand beside a lathe's turret, not in front of it


def travel_findings(
    setup: SetupDecision, stands: Standing, machine: Machine, operations: Sequence[Operation]
) -> list[Finding]:
    """Every position of every tool against the travels, the worst of each axis; and what turns against what stands."""
    worst: dict[int, tuple[float, Operation, float]] = {}
    for op in operations:
        points = _positions(op, stands, machine)
        for i, (low, high) in enumerate(machine.travel):
            along = [p[i] for p in points]
            for value, past in ((min(along), low - min(along)), (max(along), max(along) - high)):
                if past > TOUCH and past > worst.get(i, (0.0, op, 0.0))[0]:
                    worst[i] = (past, op, value)
    found = _turning_findings(setup, machine, operations)
    asked = _stock_asks(stands, machine) if machine.turns_work else {}
    for i, value in asked.items():
        found.append(
            error(
                setup.id, "past-travel",
                f"The stock asks {'XYZ'[i]} {value:.0f} of {machine.name}, it has {machine.travel[i][1]:g}.",
                "Take a larger lathe, or shorter stock." if i == 2 else "Take a larger lathe, or thinner stock.",
            )
        )  # fmt: skip
    for i, (past, op, value) in worst.items():
        if i in asked:
            continue
        axis, (low, high) = "XYZ"[i], machine.travel[i]
        past_it = error(
            setup.id, "past-travel", f"{axis} of {machine.name} runs {past:.0f} past its travel in “{op.name}”.",
            f"There {_moved(machine, op, i)} comes to {axis} {value:.0f}, the travel goes from {low:g} to {high:g}. "
            + ("Take a larger lathe, a shorter tool or shorter stock." if machine.turns_work
               else "Turn the part, take another fixture, a shorter tool or a larger machine."),
        )  # fmt: skip
        found.append(replace(past_it, operation=op.id, features=op.features))
    under = not stands.seat.is_upright and not machine.spindle_lies
    if setup.free is not None and under and stands.swing > stands.seat.at[2]:
        found.append(
            error(
                setup.id,
                "swing",
                f"The part swings {stands.swing:.0f}, the axis is {stands.seat.at[2]:g} high.",
                "What turns would hit the table. Take a smaller fixture or stock, or another machine.",
            )
        )
    return found


def travel_range(
    axis: int, stands: Standing, machine: Machine, operations: Sequence[Operation]
) -> tuple[float, float] | None:
    """The least and the greatest position of a mill's axis over all paths; None where nothing is made."""
    values = [p[axis] for op in operations for p in _positions(op, stands, machine)]
    return (min(values), max(values)) if values else None


def reach_along(tool: Tool, *, across: bool) -> float:
    """How far a tool stands in front of a lathe's turret along Z, mm: 0 for one that stands beside it."""
    return 0.0 if across or tool.kind in ON_TURRET else tool.gauge


def _positions(op: Operation, stands: Standing, machine: Machine) -> list[Vec]:
    """What each axis shows on its way through an operation; X of a lathe is a diameter."""
    points = [p for stroke in op.motion.strokes for p in stroke.points]
    if machine.turns_work:
        off = reach_along(op.tool, across=stands.is_across(op.frame))
        there = (stands.on_lathe(op.frame, p) for p in (*points, stands.lathe_clear(op.frame)))
        return [(2 * x, y, z + off) for x, y, z in there]
    nose, shift = op.tool.gauge, stands.shift(op.frame)
    return [(p[0] + shift[0], p[1] + shift[1], p[2] + shift[2] + nose) for p in points]


def _moved(machine: Machine, op: Operation, axis: int) -> str:
    if machine.turns_work:
        return "the turret" if axis == 2 and op.tool.kind not in ON_TURRET else "the tool's tip"
    return "the spindle's nose" if axis == 2 else "the tool's centre"


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


def _stock_asks(stands: Standing, machine: Machine) -> dict[int, float]:
    """By axis, what the stock alone takes of a lathe that has less: its diameter of X, its free end of Z."""
    length = sum((a - b) ** 2 for a, b in zip(stands.end, stands.foot, strict=True)) ** 0.5
    return {i: value for i, value in ((0, 2 * stands.swing), (2, length)) if value > machine.travel[i][1]}
