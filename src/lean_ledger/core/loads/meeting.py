"""Whether tools of two carriages would meet while both work: what each takes up, in the plane through the spindle's
axis.

A carriage works on its own side of the axis. Each operation sweeps its tool, its holder and what of the turret stands
behind along all of its path, at any time of it; two of them that come closer than a clearance cannot run at the same
time. Lengths mm; X from the axis, positive behind it, Z along it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lean_ledger.core.holding.standing import Standing
from lean_ledger.core.loads.before import At
from lean_ledger.core.loads.travel import ON_TURRET
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.library.machines import Side
from lean_ledger.library.types import Tool, ToolKind

APART = 2.0  # mm between what two carriages carry
TURRET = (-40.0, 300.0)  # along X from a tool's own axis, what stands behind a tool that points along Z
DEEP = 220.0  # along Z, of that
TIP = 1.0  # mm that an insert stands towards the chuck beside its shank
FAR = 1000.0
SHAKING = frozenset({
    OperationKind.ROUGH_TURN, OperationKind.GROOVE, OperationKind.TURN_RECESS, OperationKind.BORE_GROOVE,
    OperationKind.CUT_OFF,
})  # fmt: skip
CALM = frozenset({
    OperationKind.FINISH_TURN, OperationKind.THREAD_TURN, OperationKind.REAM, OperationKind.BORE_TO_SIZE
})  # fmt: skip


@dataclass(frozen=True)
class Taken:
    """A rectangle: from, to along X and Z."""

    x: tuple[float, float]
    z: tuple[float, float]
    what: str

    def meets(self, other: Taken, apart: float = APART) -> bool:
        return all(a[0] < b[1] + apart and b[0] < a[1] + apart for a, b in ((self.x, other.x), (self.z, other.z)))


def taken_by(op: Operation, stands: Standing, side: Side) -> tuple[Taken, ...]:
    """All that an operation's tool comes to, its way there and back included; Z of the whole machine."""
    points = [stands.on_lathe(op.frame, p) for stroke in op.motion.strokes for p in stroke.points]
    xs, zs = [p[0] for p in points], [p[2] for p in points]
    low, high = min(xs), max(xs)
    body = _body(op.tool)
    if stands.is_across(op.frame):  # a driven tool that points at the axis
        body = tuple(Taken(one.z, one.x, one.what) for one in body)
    found = tuple(_swept(one, (low, high), (min(zs), max(zs))) for one in body)
    if stands.nose is not None:
        found = tuple(Taken(one.x, (stands.nose - one.z[1], stands.nose - one.z[0]), one.what) for one in found)
    return found if side == "behind" else tuple(Taken((-one.x[1], -one.x[0]), one.z, one.what) for one in found)


def _swept(one: Taken, x: tuple[float, float], z: tuple[float, float]) -> Taken:
    return Taken((one.x[0] + x[0], one.x[1] + x[1]), (one.z[0] + z[0], one.z[1] + z[1]), one.what)


def _body(tool: Tool) -> tuple[Taken, ...]:
    """From its tip: an insert's shank goes off along X, all else stands along Z in its holder before the turret."""
    if tool.kind in ON_TURRET:
        return (Taken((0.0, FAR), (-TIP, tool.holder.diameter), "shank"),)
    half = tool.diameter / 2
    inside = tool.kind in (ToolKind.BORING_BAR, ToolKind.BORE_GROOVING)  # its tip is at its outer side
    nose = max(tool.holder.diameter, tool.diameter) / 2
    shift = -half if inside else 0.0
    return (
        Taken((shift - half, shift + half), (0.0, tool.reach), "tool"),
        Taken((shift - nose, shift + nose), (tool.reach, tool.gauge), "holder"),
        Taken((shift + TURRET[0], shift + TURRET[1]), (tool.gauge, tool.gauge + DEEP), "turret"),
    )


def disturbs(a: At, b: At) -> bool:
    """Whether one of them shakes the work under the finish of the other, in the same spindle."""
    if a[0].stands.nose != b[0].stands.nose:
        return False
    return any(one.kind in SHAKING and other.kind in CALM for one, other in ((a[1], b[1]), (b[1], a[1])))


def met(a: Sequence[Taken], b: Sequence[Taken]) -> tuple[str, str] | None:
    """What of the one meets what of the other; None where they keep apart."""
    return next(((one.what, other.what) for one in a for other in b if one.meets(other)), None)
