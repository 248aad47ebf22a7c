"""A plan on another machine: everything computed again, and what that changes."""

from __future__ import annotations

from dataclasses import dataclass, replace

from lean_ledger.core.effect import Effect, effect_of, told
from lean_ledger.core.errors import PlanError
from lean_ledger.core.ledger import Ledger, evaluate
from lean_ledger.core.part import Part
from lean_ledger.core.plan import Plan, SetupDecision
from lean_ledger.library.types import Library, Machine


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


def check_machine(machine: Machine, setup: str) -> None:
    """Raises PlanError for a machine on which nothing sits that this plan holds by."""
    if machine.kind != "mill":
        raise PlanError(
            "machine-kind",
            f"{machine.name} is a {machine.axes}, and this is held in a vise; choose a mill",
            setup,
        )


def on_machine(setup: SetupDecision, machine: Machine) -> SetupDecision:
    """A setup moved: a rate that was set by hand was the old machine's."""
    return setup if setup.machine == machine.id else replace(setup, machine=machine.id, machine_rate=None)


def moved_to(plan: Plan, machine: Machine) -> Plan:
    """All setups on one machine. Raises PlanError as `check_machine` does."""
    for setup in plan.setups:
        check_machine(machine, setup.id)
    return replace(plan, setups=tuple(on_machine(setup, machine) for setup in plan.setups))


def on_machines(plan: Plan, part: Part, library: Library, now: Ledger) -> tuple[OnMachine, ...]:
    """The plan on each machine of the shop, beside how it is now."""
    return tuple(_tried(plan, part, library, now, machine) for machine in library.machines)


def _tried(plan: Plan, part: Part, library: Library, now: Ledger, machine: Machine) -> OnMachine:
    current = all(setup.machine == machine.id for setup in plan.setups)
    try:
        ledger = evaluate(moved_to(plan, machine), part, library)
    except PlanError as error:
        return OnMachine(machine, current, error.message, None, None, (), ())
    was, then = told(now), told(ledger)
    come = tuple(words for key, words in then.items() if key not in was)
    gone = tuple(words for key, words in was.items() if key not in then)
    return OnMachine(machine, current, "", ledger, effect_of(now, ledger), come, gone)
