"""Where the pieces of a load stand: each place with the setup that is made there."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Load, Place, Plan, SetupDecision


@dataclass(frozen=True)
class Placed:
    """A piece at its place. A setup is built once, whatever number of places it is made at."""

    place: Place
    decision: SetupDecision
    built: BuiltSetup

    def operation(self, id: str) -> Operation:
        return next(op for op in self.built.operations if op.id == id)


def layout(plan: Plan, load: Load, built: Mapping[str, BuiltSetup]) -> tuple[Placed, ...]:
    """The places of a load in their order; `built` by the id of the setup."""
    return tuple(Placed(place, plan.setup(place.setup), built[place.setup]) for place in load.places)
