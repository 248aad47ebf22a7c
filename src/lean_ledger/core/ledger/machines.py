"""A plan on another machine: everything computed again, and what that changes."""

from __future__ import annotations

from dataclasses import dataclass, replace

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.ledger.effect import Effect, effect_of, told
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.bodies import planned_part
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Clamped, Load, Plan, SetupDecision, Side, Spindling, StockChoice, alone
from lean_ledger.core.setups.propose import divided
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library


@dataclass(frozen=True)
class OnMachine:
    """All setups on one machine. `refused` says why that cannot be; else `ledger` and what changes against now."""

    machine: Machine
    current: bool
    refused: str
    ledger: Ledger | None
    effect: Effect | None
    come: tuple[str, ...]  # titles of findings that the plan does not have now
    gone: tuple[str, ...]


def on_machine(one: Clamped, machine: Machine, part: Part) -> Clamped:
    """A setup moved: a rate that was set by hand was the old machine's; on a lathe the part turns about its axis.

    Raises PlanError for a part that no lathe can turn.
    """
    setup, load = one.setup, one.load
    if load.machine == machine.id:
        return one
    spindle = spindling(machine)
    up = _end_up(setup, machine, part) if machine.turns_work else setup.up
    load = load.only(setup.id) if machine.turns_work else load
    moved, load = replace(setup, spindle=spindle, up=up), replace(load, machine=machine.id, rate=None)
    if spindle != setup.spindle:  # what held it was for the other kind
        moved = replace(moved, fixture=None, grip=None, force=None, spacers=(), turn=None, free=None, zero=None)
        load = replace(load, on=())
    return Clamped(moved, load)


def _end_up(setup: SetupDecision, machine: Machine, part: Part) -> Side:
    if part.axis is None:
        raise PlanError(
            "not-round", f"{machine.name} is a {machine.axes}, and this part is not round about an axis; choose a mill",
            setup.id,
        )  # fmt: skip
    letter = "XYZ"[max(range(3), key=lambda i: abs(part.axis.direction[i]))]  # type: ignore[union-attr]
    return setup.up if setup.up[0] == letter else f"{letter}+"  # type: ignore[return-value]


def moved_to(plan: Plan, machine: Machine, part: Part, library: Library) -> Plan:
    """All setups on one machine; a lathe turns from both ends what it can, and leaves the rest to a mill. It holds no
    block: a sawn one whose sizes follow the part becomes a bar.

    Raises PlanError as `on_machine` does.
    """
    if not machine.turns_work:
        return plan.clamped_as([on_machine(one, machine, part) for one in plan.clamped])
    if plan.stock == StockChoice():
        plan = replace(plan, stock=StockChoice("round bar"))
    # what is milled across the axis stays on its mill, as it was decided
    first, *rest = plan.clamped
    turned = (on_machine(one, machine, part) if one.setup.part_turns else one for one in rest)
    moved = plan.clamped_as([on_machine(first, machine, part), *turned])
    found = divided(planned_part(part, plan), moved, library)
    return replace(moved.clamped_as(found.clamped), moved=found.moved, parked=())


def is_on(plan: Plan, machine: Machine) -> bool:
    """Whether a plan is made there: of a lathe's plan, what is turned."""
    turned = [one for one in plan.clamped if one.setup.part_turns]
    return all(one.load.machine == machine.id for one in (turned if machine.turns_work and turned else plan.clamped))


def new_setup(id: str, up: Side, like: Load, part: Part, library: Library) -> Clamped:
    """A setup in a load of its own, on the machine of another one; on a mill where that is a lathe and cannot turn it
    with that side up.
    """
    machine = library.machine(like.machine)
    bare = SetupDecision(id, up)
    if machine is None or not machine.turns_work:
        return alone(bare, like.machine)
    axis = part.axis.direction if part.axis is not None else (0.0, 0.0, 0.0)
    if abs(dot(axis, DIRECTIONS[up])) > 0.5:
        return alone(replace(bare, spindle=spindling(machine)), machine.id)
    return alone(bare, next((m.id for m in library.machines if not m.turns_work), machine.id))


def spindling(machine: Machine) -> Spindling:
    """What turns on a machine."""
    if not machine.turns_work:
        return "tool"
    return "part and driven tools" if machine.drives_tools else "part"


def on_machines(plan: Plan, part: Part, library: Library, now: Ledger) -> tuple[OnMachine, ...]:
    """The plan on each machine of the shop, beside how it is now."""
    return tuple(_tried(plan, part, library, now, machine) for machine in library.machines)


def _tried(plan: Plan, part: Part, library: Library, now: Ledger, machine: Machine) -> OnMachine:
    current = is_on(plan, machine)
    try:
        ledger = evaluate(moved_to(plan, machine, part, library), part, library)
    except PlanError as error:
        return OnMachine(machine, current, error.message, None, None, (), ())
    was, then = told(now), told(ledger)
    come = tuple(words for key, words in then.items() if key not in was)
    gone = tuple(words for key, words in was.items() if key not in then)
    return OnMachine(machine, current, "", ledger, effect_of(now, ledger), come, gone)
