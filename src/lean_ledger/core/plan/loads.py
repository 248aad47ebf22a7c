"""A load: what lies between two presses of cycle start."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from lean_ledger.core.plan.setups import SetupDecision

HandKind = Literal["deburr", "inspect", "turn over", "re-clamp"]
Walk = Literal["rows", "columns", "snake"]
Policy = Literal["piece", "group", "load"]
By = Literal["tool", "operation", "piece", "hand"]
Turned = Literal[0, 90, 180, 270]
Along = Literal["stations", "columns", "rows", "sides", "spindles"]


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
    """A piece, with what holds it, shifted by hand along the machine's X and Y, mm, and turned where it stands:
    degrees counter-clockwise, seen from above, by quarters.
    """

    place: str
    by: tuple[float, float] = (0.0, 0.0)
    turn: Turned = 0


@dataclass(frozen=True)
class Arrangement:
    """How often what a load holds stands in it, each time in a fixture of its own or at a station of one.

    Columns follow the machine's X, rows its Y; on a rotary they stand so on each side, at the angle that brings it
    under the spindle. Gaps are what is free between neighbours, mm; None: the least that all tools go clear with.
    Of a load with several setups the stations, columns, rows or sides hold them in turn; or the spindles of a lathe,
    which are columns here: the first the main one, the second the counter spindle, which takes each piece over.
    `on_bar`: pieces of an advance of the bar that is fed through a lathe's spindle, one behind the other.
    `joined`: pieces that one bar between a vise's jaws holds side by side along them, sawn apart afterwards;
    `joined_rows`: how often it does, one row behind the other: a plate.
    """

    columns: int = 1
    rows: int = 1
    sides: tuple[float, ...] = ()  # degrees
    stations: int = 1  # of each fixture that are loaded
    gap: tuple[float | None, float | None] = (None, None)
    moved: tuple[Moved, ...] = ()
    in_turn: Along = "columns"
    on_bar: int = 1
    joined: int = 1
    joined_rows: int = 1

    @property
    def inside(self) -> int:
        """Pieces that one fixture holds: at its stations, or in one bar or plate."""
        return self.stations * self.in_one

    @property
    def in_one(self) -> int:
        """Pieces of one bar or plate: 3 in each of 2 rows are 6."""
        return self.joined * self.joined_rows

    @property
    def apart(self) -> Arrangement:
        """The same without bars and plates."""
        return replace(self, joined=1, joined_rows=1)

    @property
    def count(self) -> int:
        return self.columns * self.rows * max(1, len(self.sides)) * self.inside * self.on_bar

    @property
    def turns(self) -> tuple[Turned, ...]:
        """By which pieces are turned, each once."""
        return tuple(sorted({one.turn for one in self.moved if one.turn}))

    def turn_of(self, place: str) -> Turned:
        """Degrees that a piece is turned by."""
        return next((one.turn for one in self.moved if one.place == place), 0)

    @property
    def of_turns(self) -> int:
        """How many there are of what holds the setups in turn."""
        return {"stations": self.stations, "columns": self.columns, "spindles": self.columns, "rows": self.rows,
                "sides": max(1, len(self.sides))}[self.in_turn]  # fmt: skip

    def takes(self, setups: int) -> bool:
        """Whether each of a load's setups gets as many pieces as the others."""
        return self.of_turns % setups == 0

    def with_turns(self, count: int) -> Arrangement:
        """With so many of what holds the setups in turn; of sides the first ones."""
        if self.in_turn in ("columns", "spindles"):
            return replace(self, columns=count)
        if self.in_turn == "rows":
            return replace(self, rows=count)
        if self.in_turn == "stations":
            return replace(self, stations=count)
        return replace(self, sides=self.sides[:count])

    def shared_by(self, setups: int) -> Arrangement:
        """What one of so many setups keeps of it, alone in a load: as many pieces as it had."""
        kept = self.with_turns(max(1, self.of_turns // setups))
        return replace(kept, moved=(), in_turn="columns")


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
class Precedence:
    """Of two operations of a setup, at each piece: the first comes before the second. `note` says why, or why not."""

    first: str
    then: str
    note: str = ""


Run = tuple[tuple[str, str], ...]  # (piece, operation), one right after the other


@dataclass(frozen=True)
class Section:
    """A name for what begins with a step of the cycle, up to the next section."""

    piece: str
    operation: str
    name: str


@dataclass(frozen=True)
class AtOneSpeed:
    """Operations that turn at the same speed, rpm, so that they can run at the same time on one spindle."""

    operations: tuple[str, ...]
    n: float


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
    sequence: tuple[tuple[str, str], ...] = ()  # (piece, operation) of the whole cycle, where `by` is "hand"
    before: tuple[Precedence, ...] = ()  # by hand, beside those that the rules know
    overruled: tuple[Precedence, ...] = ()  # of those that the rules know
    locked: tuple[Run, ...] = ()  # runs of steps that stay whole
    sections: tuple[Section, ...] = ()
    out: tuple[str, ...] = ()  # operations that are taken out for now
    first_only: tuple[str, ...] = ()  # operations that the first piece has and the others do not: probing
    in_rows: tuple[str, ...] = ()  # operations that run once over all pieces of a row
    beside: bool = False  # the next load is laid in beside the running cycle: a second pallet, a table that turns
    carriage_of: tuple[tuple[str, str], ...] = ()  # (operation, carriage); the others run on the machine's first
    at_one_speed: tuple[AtOneSpeed, ...] = ()
    split: tuple[tuple[str, int], ...] = ()  # (operation, parts) that several carriages make one after the other
    both_sides: tuple[str, ...] = ()  # operations whose passes two carriages make, one on either side, two at a time
    pulled: bool = False  # the counter spindle pulls the bar on before it cuts a piece off, nothing feeds it
    skipped: tuple[str, ...] = ()  # pieces whose calls are written as blocks to be skipped, while proving out

    @property
    def setups(self) -> tuple[str, ...]:
        """Each once, in the order of its first place."""
        return tuple(dict.fromkeys(place.setup for place in self.places))

    @property
    def words(self) -> str:
        return " + ".join(self.setups)

    @property
    def round_words(self) -> str:
        """How an outline runs that goes round several pieces at once."""
        return f"once round all pieces of a {'plate' if self.arrangement.joined_rows > 1 else 'bar'}"

    @property
    def in_one_words(self) -> str:
        """How what runs once over several pieces runs."""
        if self.arrangement.joined > 1:
            return f"once over all pieces of a {'row of a plate' if self.arrangement.joined_rows > 1 else 'bar'}"
        return (
            "once through all pieces of the advance" if self.arrangement.on_bar > 1 else "once over each row of pieces"
        )

    def from_both(self, operation: str, *, on: bool) -> Load:
        """With an operation made from both sides, or from one again; it is not made in parts one after the other."""
        both = tuple(id for id in self.both_sides if id != operation)
        split = tuple(one for one in self.split if one[0] != operation)
        speeds = tuple(one for one in self.at_one_speed if operation not in one.operations)
        return replace(
            self, both_sides=(*both, operation) if on else both, split=split if on else self.split,
            at_one_speed=speeds if on else self.at_one_speed,
        )  # fmt: skip

    def with_order(self, setup: str, operations: tuple[str, ...]) -> Load:
        """The operations of a setup in an order, at all of its places; those of others stay as they are."""
        mine = [place.id for place in self.places if place.setup == setup]
        others = tuple(step for step in self.order if step[0] not in mine)
        ordered = replace(self, order=(*others, *((place, op) for place in mine for op in operations)))
        return ordered.by_policy()

    def ordered_at(self, place: str) -> tuple[str, ...]:
        """The operations of a place in their order among themselves, those that are named."""
        return tuple(operation for at, operation in self.order if at == place)

    def at_counter(self, setup: str) -> bool:
        """Whether a setup's piece is in the counter spindle of its lathe, which took it over from the main one."""
        return self.arrangement.in_turn == "spindles" and setup in self.setups[1:]

    def base(self, setup: str) -> str:
        """The place that a setup's order and the like are kept under."""
        return next(place.id for place in self.places if place.setup == setup)

    def only(self, setup: str) -> Load:
        """What is left for a setup that lies alone, with as many pieces a cycle as before."""
        if self.setups == (setup,):
            return self
        own = self.ordered_at(self.base(setup))
        return replace(
            self, id=_named(setup), places=(Place(FIRST, setup),), order=tuple((FIRST, op) for op in own),
            arrangement=self.arrangement.shared_by(len(self.setups)), offsets=replace(self.offsets, named=()),
            skipped=(), hand=self.hand if setup == self.setups[0] else (), hours=None, load_seconds=None, locked=(),
            sections=(),
        ).by_policy()  # fmt: skip

    def beside_setup(self, other: Load, arrangement: Arrangement) -> Load:
        """With another load's setups in the same cycle; what was said of this one holds for both."""
        places = [
            *self.places,
            *(replace(p, id=str(len(self.places) + k)) for k, p in enumerate(other.places, start=1)),
        ]
        renamed = {p.id: str(len(self.places) + k) for k, p in enumerate(other.places, start=1)}
        return replace(
            self, places=tuple(places), order=(*self.order, *((renamed[at], op) for at, op in other.order)),
            arrangement=arrangement, hand=(*self.hand, *other.hand), first_only=(*self.first_only, *other.first_only),
            in_rows=(*self.in_rows, *other.in_rows),
            before=(*self.before, *other.before), overruled=(*self.overruled, *other.overruled),
            carriage_of=(*self.carriage_of, *other.carriage_of),
            at_one_speed=(*self.at_one_speed, *other.at_one_speed), split=(*self.split, *other.split),
            both_sides=(*self.both_sides, *other.both_sides),
            out=(*self.out, *other.out), locked=(), sections=(),
            offsets=replace(self.offsets, named=()), skipped=(), hours=None, load_seconds=None,
        ).by_policy()  # fmt: skip

    def section_at(self, piece: str, operation: str) -> str:
        """The name of the section that begins with a step; empty where none does."""
        return next((s.name for s in self.sections if (s.piece, s.operation) == (piece, operation)), "")

    def by_policy(self) -> Load:
        """Without an order of the whole cycle: each setup's own, and what is done at all pieces before the next."""
        return replace(self, by="tool", sequence=()) if self.by == "hand" else self


@dataclass(frozen=True)
class Clamped:
    """A setup and the load that makes it: what divisions and moves between machines are about."""

    setup: SetupDecision
    load: Load

    def renamed(self, setup: str) -> Clamped:
        """Under another id, in a load that is named after it."""
        own = self.load.only(self.setup.id)
        named = replace(own, id=_named(setup), places=(Place(FIRST, setup),), locked=(), sections=())
        return Clamped(replace(self.setup, id=setup), named.by_policy())


def loads_of(clamped: Sequence[Clamped]) -> tuple[Load, ...]:
    """The loads of these setups: one for all that come with the same; what is another, or has lost one, is taken
    apart.
    """
    found: dict[str, Load] = {}
    for one in clamped:
        load, id = one.load, one.setup.id
        there = [other.setup.id for other in clamped if other.load == load]
        whole = set(load.setups) == set(there)
        own = load if whole else load.only(id)
        found.setdefault(own.id, own)
    return tuple(found.values())


def alone(setup: SetupDecision, machine: str) -> Clamped:
    """A setup in a load of its own, everything else by the rule."""
    return Clamped(setup, Load(_named(setup.id), machine, (Place(FIRST, setup.id),)))


def _named(setup: str) -> str:
    return f"L{setup.removeprefix('S')}"
