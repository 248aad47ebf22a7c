"""Pieces from a bar: several on each advance, one behind the other, each cut off before the next is come to."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.geometry.vectors import add
from lean_ledger.core.holding.bar_collet import BarHold
from lean_ledger.core.holding.chuck import FREE_LENGTH
from lean_ledger.core.holding.standing import Standing
from lean_ledger.core.loads.arranged import Bar
from lean_ledger.core.loads.travel import travel_range
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import SetupDecision
from lean_ledger.library.machines import Machine

MOST = 40  # pieces of an advance


def blade_of(built: BuiltSetup) -> Operation | None:
    return next((op for op in built.operations if op.kind == OperationKind.CUT_OFF), None)


def bar_of(decision: SetupDecision, built: BuiltSetup, count: int, bar: Decimal, remnant: Decimal) -> Bar | None:
    """What a setup takes of a bar of such a length; None where nothing is cut off one. Lengths mm."""
    blade = blade_of(built)
    if not isinstance(built.hold, BarHold) or decision.cut_off is None or blade is None:
        return None
    frame = built.home.frame
    part, stock = frame.box(built.hold.held.part.model.solid.bounds), frame.box(built.before.bounds)
    return Bar(
        length=round(part.size[2], 4), cut_off=blade.tool.diameter, front=round(stock.max[2] - part.max[2], 4),
        back=decision.cut_off, per_advance=count, bar=float(bar), remnant=float(remnant),
    )  # fmt: skip


def step_of(decision: SetupDecision, built: BuiltSetup, *, front: bool = False) -> float:
    """From one piece of an advance to the next, mm, with what the first is faced by where `front`; 0 where none is cut
    off.
    """
    bar = bar_of(decision, built, 1, Decimal(0), Decimal(0))
    return (bar.advance if front else bar.each) if bar is not None else 0.0


def why_not_on_bar(decision: SetupDecision, built: BuiltSetup, machine: Machine) -> str:
    """Why an advance of the bar gives no more than one piece; empty where it can."""
    if machine.drum is not None:
        return f"{machine.name} finishes one piece with every index."
    if not machine.turns_work or not isinstance(built.hold, BarHold):
        return f"Setup {decision.id} is not held by a bar collet: nothing is fed through it."
    if blade_of(built) is None:
        return f"Nothing cuts the piece of setup {decision.id} off its bar."
    return ""


def farther_out(stands: Standing, by: float) -> Standing:
    """The same piece so far along the spindle from where the last of an advance stands."""
    if not by:
        return stands
    return replace(stands, seat=replace(stands.seat, at=add(stands.seat.at, (0.0, 0.0, by))), out=by)


def made_by_the_blade(built: BuiltSetup) -> tuple[str, ...]:
    """Operations that only the first piece of an advance has: the cut before faces the others."""
    return tuple(op.id for op in built.operations if op.kind == OperationKind.FACE_TURN)


def most_by_travel(built: BuiltSetup, machine: Machine, step: float) -> int:
    """How many go on before a tool, or the stock itself, would ask more Z of the first than the lathe has."""
    reach = travel_range(2, built.stands, machine, built.operations)
    farthest = max(built.hold.seat + built.hold.stock.size[2], reach[1] if reach is not None else 0.0)
    return 1 + max(0, int((machine.travel[2][1] - farthest + 0.01) // step))


def most_on_bar(built: BuiltSetup, machine: Machine, step: float) -> tuple[int, str]:
    """How many go on an advance before the first runs past the lathe's Z, or stands out too far, and which it is."""
    hold = built.hold
    assert isinstance(hold, BarHold)
    by_travel = most_by_travel(built, machine, step)
    steady = FREE_LENGTH * hold.across - (hold.stock.max[2] - hold.jaw_top)
    by_whip = 1 + max(0, int((steady + 1e-6) // step))
    if machine.drum is not None:
        return 1, "a drum finishes one with every index"
    if by_whip <= min(by_travel, MOST):
        return (
            by_whip,
            f"with one more the bar stands over {FREE_LENGTH:g} times its thickness out of {hold.chuck.name}",
        )
    if by_travel <= MOST:
        return by_travel, f"Z of {machine.name} ends before one more"
    return MOST, f"{MOST} pieces of an advance are planned at the most"


def whip_finding(load: str, decision: SetupDecision, built: BuiltSetup, count: int, step: float) -> list[Finding]:
    """A bar that stands out so far that it bends and whips."""
    hold = built.hold
    if not isinstance(hold, BarHold) or count < 2:
        return []
    free = hold.stock.max[2] - hold.jaw_top + (count - 1) * step
    if free <= FREE_LENGTH * hold.across + 1e-6:
        return []
    most = 1 + max(0, int((FREE_LENGTH * hold.across - free + (count - 1) * step + 1e-6) // step))
    return [Finding(
        "bar-whips", Severity.WARNING, Chapter.LAYOUT,
        f"{free:.0f} of the bar stand out of {hold.chuck.name}, it is {hold.across:.0f} thick.",
        f"Over {FREE_LENGTH:g} times its thickness it bends and whips. Take fewer pieces of an advance.", decision.id,
        cures=(Cure(f"{most} an advance", {"change": "set-arrangement", "load": load, "on_bar": most}),),
    )]  # fmt: skip
