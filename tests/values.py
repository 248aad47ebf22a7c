"""Plans and machines with some values changed, wherever in them these stand."""

from __future__ import annotations

from dataclasses import fields, replace
from typing import Any

from lean_ledger.core.holding.placement import Bed
from lean_ledger.core.plan import Clamped, Load, Plan, SetupDecision, alone
from lean_ledger.library import Library
from lean_ledger.library.machines import Machine

_OF_LOAD = {f.name for f in fields(Load)} - {"id"}
_OF_CARRIAGE = {"travel": "travel", "rapid": "rapid", "acceleration": "acceleration", "tool_change": "tool_change",
                "tool_pockets": "pockets"}  # fmt: skip


def changed(plan: Plan, setup: str, **values: Any) -> Plan:
    """A plan in which a setup, or the load that makes it, has other values."""
    own = {name: value for name, value in values.items() if name not in _OF_LOAD}
    load = {name: value for name, value in values.items() if name in _OF_LOAD}
    plan = plan.with_setup(replace(plan.setup(setup), **own))
    return plan.with_load(replace(plan.load_of(setup), **load))


def in_setups(plan: Plan, *setups: Clamped | tuple[SetupDecision, str]) -> Plan:
    """A plan with these setups alone, each on a machine by its id."""
    return plan.clamped_as([alone(*one) if isinstance(one, tuple) else one for one in setups])


def machine_with(machine: Machine, **values: Any) -> Machine:
    """A machine with other values of its own, of its one carriage, or of what turns."""
    carriage = {_OF_CARRIAGE[name]: values.pop(name) for name in list(values) if name in _OF_CARRIAGE}
    machine = replace(machine, carriages=(replace(machine.carriages[0], **carriage),))
    for name in ("spindle", "rotary"):
        if name not in values:
            continue
        value = values.pop(name)
        if machine.turns_work:
            turning = replace(machine.work_spindles[0], **{name: value})
            machine = replace(machine, work_spindles=(turning,))
        if name == "spindle" and machine.tool_spindle is not None:
            machine = replace(machine, tool_spindle=value)
        if name == "rotary" and not machine.turns_work:
            machine = replace(machine, table=value)
    return replace(machine, **values)


def library_with(library: Library, machine: Machine) -> Library:
    """A library with a machine in place of the one of the same id."""
    return replace(library, machines=tuple(machine if m.id == machine.id else m for m in library.machines))


def bed(machine: Machine, library: Library | None = None, on: tuple[str, ...] = ()) -> Bed:
    """A machine with carriers of a library on it."""
    found = [library.carrier(id) for id in on] if library is not None else []
    return Bed(machine, tuple(carrier for carrier in found if carrier is not None))
