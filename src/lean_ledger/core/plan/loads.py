"""A load: what lies between two presses of cycle start."""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from lean_ledger.core.plan.setups import SetupDecision

HandKind = Literal["deburr", "inspect", "turn over", "re-clamp"]
Walk = Literal["rows", "columns", "snake"]
Policy = Literal["piece", "group", "load"]
By = Literal["tool", "operation", "piece"]


@dataclass(frozen=True)
class HandWork:
    """Work of an operator on each piece; `during`: beside the machine while it runs, else the machine stands."""

    id: str
    kind: HandKind
    seconds: Decimal
    during: bool = False


@dataclass(frozen=True)
class Place:
    """One piece in one state: the setup that it is in."""

    id: str
    setup: str


FIRST = "1"  # the place of a load that has one


@dataclass(frozen=True)
class Moved:
    """A piece, with what holds it, shifted by hand along the machine's X and Y, mm."""

    place: str
    by: tuple[float, float]


@dataclass(frozen=True)
class Arrangement:
    """How often what a load holds stands in it, each time in a fixture of its own or at a station of one.

    Columns follow the machine's X, rows its Y; on a rotary they stand so on each side, at the angle that brings it
    under the spindle. Gaps are what is free between neighbours, mm; None: the least that all tools go clear with.
    """

    columns: int = 1
    rows: int = 1
    sides: tuple[float, ...] = ()  # degrees
    stations: int = 1  # of each fixture that are loaded
    gap: tuple[float | None, float | None] = (None, None)
    moved: tuple[Moved, ...] = ()

    @property
    def count(self) -> int:
        return self.columns * self.rows * max(1, len(self.sides)) * self.stations


@dataclass(frozen=True)
class OffsetChoice:
    """Which pieces share a work offset, in which walk they are numbered, and from which word on.

    `named`: (piece, word) by hand; what is reserved is taken by hand only.
    """

    policy: Policy = "piece"
    walk: Walk = "rows"
    first: str | None = None
    reserved: tuple[str, ...] = ()
    named: tuple[tuple[str, str], ...] = ()


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
    arrangement: Arrangement = Arrangement()
    offsets: OffsetChoice = OffsetChoice()
    by: By = "tool"  # what is done at all pieces before the next: a tool's work, an operation, or all on each
    first_only: tuple[str, ...] = ()  # operations that the first piece has and the others do not: probing
    beside: bool = False  # the next load is laid in beside the running cycle: a second pallet, a table that turns
    skipped: tuple[str, ...] = ()  # pieces whose calls are written as blocks to be skipped, while proving out

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
