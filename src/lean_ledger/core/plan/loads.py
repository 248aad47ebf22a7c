"""A load: what lies between two presses of cycle start."""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.plan.setups import SetupDecision

HandKind = Literal["deburr", "inspect", "turn over", "re-clamp"]


@dataclass(frozen=True)
class HandWork:
    """Work of an operator on each piece; `during`: beside the machine while it runs, else the machine stands."""

    id: str
    kind: HandKind
    seconds: Decimal
    during: bool = False


@dataclass(frozen=True)
class Place:
    """One piece in one state: the setup that it is in, the station of the fixture, and what moves it there."""

    id: str
    setup: str
    station: int = 0
    shift: Vec = (0.0, 0.0, 0.0)  # mm, in the fixture's axes


FIRST = "1"  # the place of a load that has one


@dataclass(frozen=True)
class Load:
    """Pieces at their places on one machine, made in one cycle; money per hour, seconds a cycle."""

    id: str
    machine: str
    places: tuple[Place, ...]
    on: tuple[str, ...] = ()  # carriers under the fixtures, from the machine upwards
    dialect: str | None = None  # that its program is written in; None for the usual of the machine
    hours: Decimal | None = None  # to set up
    rate: Decimal | None = None  # of the machine
    load_seconds: Decimal | None = None  # to load and unload
    hand: tuple[HandWork, ...] = ()
    order: tuple[tuple[str, str], ...] = ()  # (place, operation); those not named fall in by the rule

    @property
    def setups(self) -> tuple[str, ...]:
        """Each once, in the order of its first place."""
        return tuple(dict.fromkeys(place.setup for place in self.places))

    def with_order(self, setup: str, operations: tuple[str, ...]) -> Load:
        """The operations of a setup in an order, at all of its places; those of others stay as they are."""
        mine = [place.id for place in self.places if place.setup == setup]
        others = tuple(step for step in self.order if step[0] not in mine)
        return replace(self, order=(*others, *((place, op) for place in mine for op in operations)))

    def ordered_at(self, place: str) -> tuple[str, ...]:
        """The operations of a place in their order among themselves, those that are named."""
        return tuple(operation for at, operation in self.order if at == place)


@dataclass(frozen=True)
class Clamped:
    """A setup and the load that makes it: what divisions and moves between machines are about."""

    setup: SetupDecision
    load: Load

    def renamed(self, setup: str) -> Clamped:
        """Under another id, in a load that is named after it."""
        places = tuple(replace(p, setup=setup if p.setup == self.setup.id else p.setup) for p in self.load.places)
        return Clamped(replace(self.setup, id=setup), replace(self.load, id=_named(setup), places=places))


def alone(setup: SetupDecision, machine: str) -> Clamped:
    """A setup in a load of its own, everything else by the rule."""
    return Clamped(setup, Load(_named(setup.id), machine, (Place(FIRST, setup.id),)))


def _named(setup: str) -> str:
    return f"L{setup.removeprefix('S')}"
