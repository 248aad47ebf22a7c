"""Whether the grip holds against the cut: friction, and how far the stock stands out of the jaws."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.holding.vise import Hold
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import SetupDecision
from lean_ledger.library.types import ToolKind

FRICTION = 0.15  # of ground steel jaws on metal, dry; handbook values run from 0.12 to 0.2
SAFETY = 2.5  # that friction has over the greatest cutting force
FREE = 3.0  # times the least gripped width that stock may stand out of the jaws without support
MILLS = (ToolKind.FACE_MILL, ToolKind.END_MILL, ToolKind.CHAMFER_MILL)


def cutting_force(operation: Operation) -> float:
    """Tangential force at the tool's edge, N: F = 60 000 P / vc, P in kW and vc in m/min; 0 for plunging tools.

    1.5 kW at 180 m/min is 500 N.
    """
    if operation.tool.kind not in MILLS or operation.cutting.vc <= 0:
        return 0.0
    return 60_000 * operation.power / operation.cutting.vc


def friction(hold: Hold) -> float:
    """What two jaws hold along their faces, N: 2 µ F."""
    return 2 * FRICTION * hold.vise.force_kn * 1000


def force_findings(setup: SetupDecision, hold: Hold, operations: Sequence[Operation]) -> list[Finding]:
    found = []
    worst = max(operations, key=cutting_force, default=None)
    force = cutting_force(worst) if worst is not None else 0.0
    if worst is not None and friction(hold) < SAFETY * force:
        found.append(
            Finding(
                "grip-slips", Severity.ERROR, Chapter.SETUPS,
                f"“{worst.name}” may pull the stock out of {hold.vise.name}.",
                f"It cuts with {force:.0f} N; two jaws of {hold.vise.force_kn:g} kN hold {friction(hold):.0f} N by "
                f"friction, {friction(hold) / force:.1f} times that, where {SAFETY:g} are asked for. Take smaller "
                "steps or feed, or a stronger vise.",
                setup.id, worst.features, worst.id,
                cures=(Cure("Vise by the rule", {"change": "set-vise", "setup": setup.id, "vise": None}),)
                if setup.vise is not None else (),
            )
        )  # fmt: skip
    low, high = hold.gripped_y
    least = min(high - low, hold.stock.size[0])
    free = hold.stock.max[2] - hold.jaw_top
    if free > FREE * least:
        found.append(
            Finding(
                "stands-far-out", Severity.WARNING, Chapter.SETUPS,
                f"The stock stands {free:.0f} out of the jaws and is {least:.0f} wide there.",
                f"Over {FREE:g} times its width it bends and chatters. Grip more, lay it down, or support it.",
                setup.id,
            )
        )  # fmt: skip
    return found
