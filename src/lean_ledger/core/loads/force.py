"""Whether friction holds the stock against the cutting, and whether the stock stands too far out of what holds it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.holding.hold import Hold, by_rule, error, warning
from lean_ledger.core.holding.plate import PlateHold
from lean_ledger.core.holding.vise import ViseHold
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import SetupDecision
from lean_ledger.library.types import ToolKind

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


def force_findings(setup: SetupDecision, hold: Hold, operations: Sequence[Operation]) -> list[Finding]:
    found = []
    worst = max(operations, key=cutting_force, default=None)
    force = cutting_force(worst) if worst is not None else 0.0
    unscrewed = isinstance(hold, PlateHold) and not hold.screws  # has a finding of its own
    if worst is not None and hold.friction < SAFETY * force and not unscrewed:
        slips = error(
            setup.id, "grip-slips", f"“{worst.name}” may pull the stock out of {hold.fixture.name}.",
            f"It cuts with {force:.0f} N; friction holds {hold.friction:.0f} N, {hold.friction / force:.1f} times "
            f"that, where {SAFETY:g} are asked for. Take smaller steps or feed, or what holds more firmly.",
            (by_rule(setup.id),) if setup.fixture is not None else (),
        )  # fmt: skip
        found.append(replace(slips, features=worst.features, operation=worst.id))
    if isinstance(hold, ViseHold):
        low, high = hold.gripped_y
        least = min(high - low, hold.stock.size[0])
        free = hold.stock.max[2] - hold.jaw_top
        if free > FREE * least:
            found.append(
                warning(
                    setup.id, "stands-far-out",
                    f"The stock stands {free:.0f} out of the jaws and is {least:.0f} wide there.",
                    f"Over {FREE:g} times its width it bends and chatters. Grip more, lay it down, or support it.",
                )
            )  # fmt: skip
    return found
