"""What is asked of tool, spindle and machine against what they give: findings of a single operation."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lean_ledger.core.basis.findings import Cure, Severity
from lean_ledger.core.operations.model import Operation
from lean_ledger.library.types import ToolKind

if TYPE_CHECKING:
    from lean_ledger.core.operations.workplace import Workplace

#: Tools that stand over the work by their stick-out.
GOING_DOWN = (
    ToolKind.END_MILL, ToolKind.FACE_MILL, ToolKind.BALL_MILL, ToolKind.DRILL, ToolKind.REAMER, ToolKind.TAP,
    ToolKind.THREAD_MILL, ToolKind.BORING_HEAD,
)  # fmt: skip


def say_beyond_limits(place: Workplace, op: Operation) -> None:
    """What an operation asks of its tool, the spindle or the machine that they do not give."""
    edit = place.edit(op.id)
    undo_tool = Cure("Let the rule choose", {"change": "edit-operation", "operation": op.id, "clear": ["tool"]})
    # a drill's flutes have to carry the chips out; of others the holder must stay above
    drills = op.tool.kind == ToolKind.DRILL
    far = op.tool.cutting_length if drills else op.tool.reach
    if op.tool.kind in GOING_DOWN and far < op.depth - 1e-6:
        place.find(
            "tool-short", Severity.ERROR,
            f"{op.tool.description} is too short for {op.name.lower()}.",
            f"It {'cuts' if drills else 'reaches'} {far:g}, the cut is {op.depth:.1f} deep.",
            operation=op.id, features=op.features, cures=(undo_tool,) if edit.tool else (),
        )  # fmt: skip
    if op.tool.kind == ToolKind.END_MILL and op.cutting.ap > op.tool.cutting_length + 1e-6:
        place.find(
            "step-too-deep", Severity.ERROR,
            f"{op.name}: a step of {op.cutting.ap:.1f} is more than the tool's cutting length.",
            f"{op.tool.description} cuts over {op.tool.cutting_length:g}. Take more passes.",
            operation=op.id, features=op.features,
            cures=(Cure("Passes by the rule", {"change": "edit-operation", "operation": op.id,
                                               "clear": ["ap", "passes"]}),),
        )  # fmt: skip
    if op.power > op.power_limit * 1.005:
        place.find(
            "power", Severity.ERROR,
            f"{op.name} asks {op.power:.1f} kW, the spindle has {op.power_limit:.1f} at {op.cutting.n:.0f} rpm.",
            "The spindle would stall. Lower the feed or take smaller steps.",
            operation=op.id, features=op.features,
            cures=(Cure("Feed by the rule", {"change": "edit-operation", "operation": op.id, "clear": ["vf"]}),),
        )  # fmt: skip
    data = place.library.data(op.tool, place.material)
    for name, share, most in (
        ("speed", op.cutting.speed, data.speed_most if data else 0.0),
        ("feed", op.cutting.feed, data.fz_most if data else 0.0),
    ):
        if data is not None and share > most * 1.005 and not op.by_pitch:
            by_hand = "n" if name == "speed" else "vf"
            place.find(
                f"{name}-beyond-tool", Severity.WARNING,
                f"{op.name} runs {op.tool.description} at {100 * share:.0f} % of its usual {name}.",
                f"It stands {100 * most:.0f} % in {place.material.name}: it would wear out or break at once.",
                operation=op.id,
                cures=(Cure(f"{name.capitalize()} by the rule",
                            {"change": "edit-operation", "operation": op.id, "clear": [by_hand]}),),
            )  # fmt: skip
    if edit.n is not None and edit.n > place.machine.spindle.max_rpm:
        place.find(
            "speed", Severity.WARNING,
            f"{op.name}: {edit.n:.0f} rpm is more than {place.machine.name} turns.",
            f"It runs at {place.machine.spindle.max_rpm:g} instead.",
            operation=op.id,
            cures=(Cure("Speed by the rule", {"change": "edit-operation", "operation": op.id, "clear": ["n"]}),),
        )  # fmt: skip
