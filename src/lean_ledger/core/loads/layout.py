"""Where the pieces of a load stand: how far apart, on which sides, in which walk, and how many would fit.

All in the machine's axes, mm; on a rotary as it is at the angle of a piece's side.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import product
from math import floor, hypot

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import add
from lean_ledger.core.holding.bar_collet import BarHold
from lean_ledger.core.holding.placement import Bed
from lean_ledger.core.holding.standing import SWING_CLEARANCE, Standing
from lean_ledger.core.loads.arranged import walked
from lean_ledger.core.loads.bars import farther_out, step_of, why_not_on_bar
from lean_ledger.core.loads.handover import why_not_pulled, why_not_taken_over
from lean_ledger.core.loads.joined import vises_under, why_too_wide
from lean_ledger.core.loads.kinds import (
    NOWHERE,
    Kind,
    Point2,
    Unit,
    beside_turned,
    extent_of,
    kinds_of,
    pitch_of,
    station_offsets,
    stations_of,
    stock_of,
    turned_kinds,
    units_of,
)
from lean_ledger.core.loads.spacing import CLEARANCE, Pitch, Solid
from lean_ledger.core.loads.straight import why_not_across
from lean_ledger.core.loads.turned import turned_standing
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Arrangement, Load, Place, Plan, Policy, SetupDecision, Turned
from lean_ledger.library.machines import Machine

MOST = 200  # pieces of a load
NONE = Pitch(0.0, None, "")


@dataclass(frozen=True)
class Placed:
    """A piece at its place. A setup is built once, whatever number of places it is made at."""

    place: Place
    decision: SetupDecision
    built: BuiltSetup
    stands: Standing
    column: int = 0
    row: int = 0
    side: float | None = None  # degrees of the rotary
    station: int = 0
    shift: Point2 = (0.0, 0.0)  # from where one piece alone stands
    turn: Turned = 0  # degrees, of the piece with what holds it
    bar: int = 0  # that it stays in with others, counted from 1; 0 where it stands alone
    out: float = 0.0  # mm farther out of a lathe's spindle than one piece alone, on a bar

    @property
    def group(self) -> str:
        """What it lies with: a side, a bar, a spindle, else a row."""
        if self.stands.nose is not None:
            return "counter spindle"
        if isinstance(self.built.hold, BarHold):
            return "bar"
        if self.bar:
            return f"{self.built.blank.word if self.built.blank is not None else 'bar'} {self.bar}"
        return f"side {self.side:g}°" if self.side is not None else f"row {self.row + 1}"

    @property
    def lies(self) -> str:
        """What it lies with and how it is turned."""
        return f"{self.group}, turned {self.turn}°" if self.turn else self.group

    def shares(self, policy: Policy) -> object:
        """What pieces have in common that are touched off by one zero: on a rotary it is never more than a side."""
        if policy == "piece":
            return self.place.id
        return self.group if policy == "group" else self.side, self.place.setup

    def operation(self, id: str) -> Operation:
        """As it is where no piece is turned."""
        return next(op for op in self.built.operations if op.id == id)

    def box(self, of: Bounds) -> Bounds:
        """A box of the piece that stands alone, where this one has it."""
        by = (*self.shift, self.out)
        return Bounds(add(of.min, by), add(of.max, by))


@dataclass(frozen=True)
class InOne:
    """An operation that runs once over each row of pieces, at the first of them."""

    operation: str
    rows: tuple[tuple[str, ...], ...]


@dataclass(frozen=True)
class Limit:
    """Why no more than `most` stand along an axis."""

    most: int
    why: str


@dataclass(frozen=True)
class Layout:
    """`load` as far as its machine and fixture can; `kinds` are its setups; `pitch` along X and Y, by hand or the
    least; `least` what it must be.
    """

    load: Load
    machine: Machine
    placed: tuple[Placed, ...]
    kinds: tuple[Kind, ...]
    pitch: Point2 = NOWHERE
    least: tuple[Pitch, Pitch] = (NONE, NONE)
    stations: tuple[Point2, ...] = (NOWHERE,)  # from where each piece of a fixture would stand alone
    faces: tuple[float, ...] = ()  # degrees at which a tombstone's sides come up
    over: float = 0.0  # machine Z above all that stands
    free_above: float = 0.0  # machine Z above which it turns
    axis_level: float | None = None  # machine Z of the axis of what turns them
    left_out: str = ""  # why not all is arranged as it was said
    turned: tuple[Kind, ...] = ()  # its setups as they stand at pieces that are turned
    in_one: tuple[InOne, ...] = ()

    def made_with(self, piece: str, operation: str) -> tuple[str, ...]:
        """The pieces that an operation makes in the run that makes it at a piece; its call stands at the first."""
        return self._in_one.get((piece, operation), (piece,))

    @cached_property
    def _in_one(self) -> dict[tuple[str, str], tuple[str, ...]]:
        return {(piece, one.operation): row for one in self.in_one for row in one.rows for piece in row}

    @property
    def pulled(self) -> bool:
        """Whether the counter spindle pulls the bar on."""
        return self.load.pulled and self.handed_over and not why_not_pulled(self.machine)

    @property
    def handed_over(self) -> bool:
        """Whether its pieces go from one spindle of a lathe to the other."""
        return self.load.arrangement.in_turn == "spindles" and len(self.placed) > 1

    @property
    def alone(self) -> bool:
        """Whether one piece stands where it would without an arrangement."""
        return self.load.arrangement == Arrangement()

    def kind(self, setup: str) -> Kind:
        return next(kind for kind in self.kinds if kind.decision.id == setup)

    def kind_at(self, placed: Placed) -> Kind:
        """What a piece stands as, turned as it is."""
        return next(one for one in (*self.kinds, *self.turned)
                    if (one.decision.id, one.turn) == (placed.decision.id, placed.turn))  # fmt: skip

    @property
    def by_setup(self) -> tuple[tuple[Placed, ...], ...]:
        """The pieces of each setup, in their walk."""
        return tuple(tuple(p for p in self.placed if p.decision.id == kind.decision.id) for kind in self.kinds)

    @cached_property
    def units(self) -> tuple[Unit, ...]:
        return units_of(self.kinds, self.load.arrangement, self.stations)

    @property
    def solids(self) -> tuple[Solid, ...]:
        """What stands with a piece of each setup that is alone, or with a bar."""
        in_bar = self.load.arrangement.joined > 1
        return tuple(solid for one in (self.units if in_bar else self.kinds) for solid in one.solids)

    def stands_with(self, placed: Placed) -> tuple[Solid, ...]:
        """What is drawn with a piece, where it alone stands: with the first of a bar that and its vises as well."""
        own = self.kind_at(placed).solids
        return own if not placed.bar or placed.station else (*self.units[0].solids, *own)

    @property
    def extent(self) -> Point2:
        """Of a fixture's stock, along X and Y; of the widest where setups take turns."""
        every = (*self.units, *(Unit(((one, NOWHERE),)) for one in self.turned))
        x, y = (max(extent_of(unit.stock, axis) for unit in every) for axis in (0, 1))
        return x, y

    @property
    def gap(self) -> Point2:
        """What is free between the stock of neighbours."""
        return self.pitch[0] - self.extent[0], self.pitch[1] - self.extent[1]

    @property
    def fixtures(self) -> int:
        """How many of what holds a piece the load needs: one for all of them on a plate, one for a vise's stations."""
        if self.load.arrangement.on_bar > 1:
            return 1
        if self.handed_over:
            return len(self.placed)
        if any(s.what == "plate" for s in self.solids):
            return max(1, len(self.load.arrangement.sides))
        how = self.load.arrangement
        vises = vises_under(self.kinds[0].built, how.joined) if how.joined > 1 else 1
        return how.count // how.inside * vises

    @property
    def to_set(self) -> int:
        """Fixtures to set up and zeros to touch off, whichever are more."""
        if self.load.arrangement.on_bar > 1:
            return 1  # the others stand where the first one and the blade say
        if self.load.arrangement.joined > 1:
            return max(self.fixtures, self.placed[-1].bar)  # in one bar the saw says where the next piece is
        zeros = {one.shares(self.load.offsets.policy) for one in self.placed}
        return max(self.fixtures, len(zeros))

    @property
    def spread(self) -> Point2:
        """From the first piece to the last."""
        how = self.load.arrangement
        x, y = self.stations[-1]
        return (how.columns - 1) * self.pitch[0] + abs(x), (how.rows - 1) * self.pitch[1] + abs(y)

    @property
    def shared(self) -> tuple[Solid, ...]:
        """What carries all of them: it stands once."""
        return tuple(dict.fromkeys(s for s in self.solids if s.shared))

    def reach(self, axis: int) -> Point2 | None:
        """The least and the greatest position of an axis at any piece that stands alone; None where nothing is made."""
        every = (*self.kinds, *self.turned)
        found = [reach for kind in every if (reach := kind.reach(axis, self.machine)) is not None]
        return (min(low for low, _ in found), max(high for _, high in found)) if found else None

    def limit(self, axis: int) -> Limit:
        """How many columns (0) or rows (1) go in at this pitch: by the travel, and by what carries them all."""
        found = [Limit(MOST, f"{MOST} pieces are planned at the most")]
        reach, stations = self.reach(axis), abs(self.stations[-1][axis])
        if reach is not None:
            low, high = self.machine.travel[axis]
            below, above = reach[0] - low, high - reach[1]
            # on what carries them all they stand about its middle
            room = (2 * min(below, above) if self.shared else below + above) - stations
            most = fitting(room, self.pitch[axis])
            lacks = (most + 1) * self.pitch[axis] - self.pitch[axis] - room
            found.append(Limit(most, f"{'XY'[axis]} of {self.machine.name} is {lacks:.0f} too short for one more"))
        for solid in self._carrying:
            own = [s for s in self.solids if not s.shared and s.box.min[2] >= solid.box.max[2] - 1e-6]
            room = solid.box.size[axis] - extent_of(own or stock_of(self.solids), axis) - stations
            most = max(1, fitting(room, self.pitch[axis]))  # one may hang over the edge
            lacks = most * self.pitch[axis] - room
            found.append(Limit(most, f"{self._name(solid)} is {lacks:.0f} too short for one more"))
        return min(found, key=lambda limit: limit.most)

    def _name(self, carrying: Solid) -> str:
        first = self.kinds[0].built
        if carrying.what == "plate":
            return first.hold.fixture.name
        return first.stands.seat.carriers[-1].carrier.name

    @property
    def _carrying(self) -> list[Solid]:
        """What carries all pieces, and ends along an axis: the plate, else what stands on top of the machine."""
        plates = [s for s in self.shared if s.what == "plate"]
        return plates or list(self.shared)[-1:]


def fitting(room: float, pitch: float) -> int:
    """How many stand in a row that leaves so much room beside the first: 1 + ⌊room / pitch⌋, none in less than none.

    250 beside the first at a pitch of 80 are 1 + 3; 240, a hair less than three, are four as well.
    """
    if room < -1e-6:
        return 0
    return 1 + floor(room / pitch + 1e-9) if pitch > 0 else 1


def one_only(decision: SetupDecision, machine: Machine) -> str:
    """Why no more than one piece of a setup lies in a load of a machine; empty where several can."""
    if machine.turns_work:
        return f"{machine.name} turns one piece at a time."
    if decision.free is not None:
        return f"Setup {decision.id} is turned from side to side: it has the rotary to itself."
    return ""


def _possible(load: Load, setups: Sequence[tuple[SetupDecision, BuiltSetup]], machine: Machine) -> tuple[Load, str]:
    """The load as far as it can be: what was arranged for another machine or fixture is left out, and said."""
    how, several = load.arrangement, len(setups)
    if how.in_turn == "spindles":
        why = why_not_taken_over(setups, machine)
        return (replace(load, arrangement=Arrangement(columns=several), skipped=()), why) if why else (load, "")
    if how.joined > 1:
        why = "In one bar all pieces are in one setup." if several > 1 else setups[0][1].not_joined
        why = why or why_too_wide(setups[0][1], how)
        if why or setups[0][1].blank is None:
            return replace(load, arrangement=replace(how.apart, columns=how.columns * max(1, several)),
                           skipped=()), why  # fmt: skip
    if how.on_bar > 1:
        why = why_not_on_bar(*setups[0], machine)
        return (replace(load, arrangement=Arrangement(), skipped=()), why) if why else (load, "")
    why = next(filter(None, (one_only(decision, machine) for decision, _ in setups)), "")
    if why and (how.count > 1 or how.sides or how.turns):
        return replace(load, arrangement=Arrangement(columns=several), skipped=()), why
    why = ""
    if how.sides and machine.table is None:
        why = f"{machine.name} has no rotary that brings sides up."
        how = replace(how, sides=())
    for _, one in setups:
        if how.stations > stations_of(one.hold):
            why = f"{one.hold.fixture.name} has one station."
            how = replace(how, stations=1)
    plates = any(o.what == "plate" for _, one in setups for o in one.hold.obstacles)
    names = list(dict.fromkeys(one.hold.fixture.name for _, one in setups))
    if len(names) > 1 and how.in_turn == "stations":
        why = f"{names[0]} and {names[1]} are two fixtures: one of them does not hold both setups."
        how = replace(how, stations=1)
    if len(names) > 1 and plates:
        why = f"{' and '.join(names)} do not stand in one load: a plate carries all of its pieces."
    if not how.takes(several):
        why = why or f"{how.of_turns} {how.in_turn} do not hold {several} setups in turn."
        each = how.columns if how.in_turn != "columns" else max(1, how.columns // several)
        how = replace(how, in_turn="columns", columns=several * each)
    return replace(load, arrangement=how, skipped=() if why else load.skipped), why


def layout(plan: Plan, load: Load, built: Mapping[str, BuiltSetup], bed: Bed) -> Layout:
    """The pieces of a load in the order of its walk, named from "1"; `built` by the id of the setup."""
    setups = [(plan.setup(id), built[id]) for id in load.setups]
    load, left_out = _possible(load, setups, bed.machine)
    how, one = load.arrangement, setups[0][1]
    kinds = kinds_of(setups, how)
    found = Layout(load, bed.machine, (), kinds, left_out=left_out, turned=turned_kinds(kinds, how, bed.machine))
    if how == Arrangement():
        return replace(found, placed=(Placed(load.places[0], *setups[0], one.stands),))
    if how.on_bar > 1:
        return replace(found, placed=_on_bar(load, *setups[0]))
    if how.in_turn == "spindles":
        each = enumerate(setups, start=1)
        return replace(found, placed=tuple(Placed(Place(str(k), a.id), a, b, b.stands, k - 1) for k, (a, b) in each))
    stations = station_offsets(kinds, how)
    found = replace(found, stations=stations, faces=bed.faces(one.stands.seat) if how.sides else ())
    on = _going_on(load, setups)
    x, y = (pitch_of(axis, found.units, how, on[axis]) for axis in (0, 1))
    if found.turned:
        x, y = (beside_turned(axis, found.turned, found.units, how, best) for axis, best in enumerate((x, y)))
    least = (x, y)
    pitch = [least[i].value if how.gap[i] is None else found.extent[i] + (how.gap[i] or 0.0) for i in (0, 1)]
    found = replace(found, least=least, pitch=(pitch[0], pitch[1]))
    found = replace(found, over=max(s.box.max[2] for s in found.solids) + CLEARANCE, free_above=_free_above(found, bed),
                    axis_level=bed.axis[2] if bed.axis is not None else None)  # fmt: skip
    base, by_hand = _base(found), {m.place: m.by for m in how.moved}
    placed = []
    for number, (side, column, row, station) in enumerate(_walk(how, load), start=1):
        turn = {"columns": column, "rows": row, "stations": station,
                "sides": how.sides.index(side) if side is not None else 0}[how.in_turn]  # fmt: skip
        kind, off = kinds[turn % len(kinds)], stations[station]
        (dx, dy), quarters = by_hand.get(str(number), NOWHERE), how.turn_of(str(number))
        shift = (round(base[0] + column * pitch[0] + off[0] + dx, 4), round(base[1] + row * pitch[1] + off[1] + dy, 4))
        alone = turned_standing(kind.built.stands, quarters)
        stands = replace(
            alone, seat=replace(alone.seat, at=add(alone.seat.at, (*shift, 0.0))), aside=shift, angle=side or 0.0,
            over=found.over, free_above=found.free_above if how.sides else None,
        )  # fmt: skip
        bar = (number - 1) // how.in_one + 1 if how.joined > 1 else 0
        placed.append(Placed(Place(str(number), kind.decision.id), kind.decision, kind.built, stands, column, row, side,
                             station, shift, quarters, bar))  # fmt: skip
    return replace(found, placed=tuple(placed))


def _going_on(
    load: Load, setups: Sequence[tuple[SetupDecision, BuiltSetup]]
) -> tuple[Collection[str], Collection[str]]:
    """What runs once over whole rows, along X or else along Y."""
    found: tuple[list[str], list[str]] = ([], [])
    if load.arrangement.moved or load.arrangement.joined > 1:  # each piece, or bar, is passed by itself
        return found
    counts = (load.arrangement.columns, load.arrangement.rows)
    for _, built in setups:
        for op in (op for op in built.operations if op.id in load.in_rows):
            able = [axis for axis in (0, 1) if counts[axis] > 1 and not why_not_across(Same(built), op.id, axis)]
            if able:
                found[able[0]].append(op.id)
    return found


def _on_bar(load: Load, decision: SetupDecision, one: BuiltSetup) -> tuple[Placed, ...]:
    """One behind the other, the first farthest out of the spindle."""
    count, step = load.arrangement.on_bar, step_of(decision, one)
    found = []
    for k in range(count):
        out = round((count - 1 - k) * step, 4)
        stands = farther_out(one.stands, out)
        found.append(Placed(Place(str(k + 1), decision.id), decision, one, stands, k, out=out))
    return tuple(found)


def _walk(how: Arrangement, load: Load) -> list[tuple[float | None, int, int, int]]:
    """(side, column, row, station), in the order in which pieces are numbered: one side after the other."""
    there = walked(how.columns, how.rows, load.offsets.walk)
    sides: Sequence[float | None] = how.sides or (None,)
    found: list[tuple[float | None, int, int, int]] = []
    for k, side in enumerate(sides):
        back = load.offsets.walk == "snake" and k % 2 == 1
        for column, row in reversed(there) if back else there:
            found += [(side, column, row, station) for station in range(how.inside)]
    return found


def _base(found: Layout) -> Point2:
    """Where the first piece stands from where one alone does: all of them about that middle; on a table that nothing
    else bounds, as far aside as the travels need.
    """
    base = []
    for axis in (0, 1):
        spread = found.spread[axis]
        start = -spread / 2
        reach = found.reach(axis)
        low, high = found.machine.travel[axis]
        if reach is not None and not found.shared and high - low >= reach[1] - reach[0] + spread:
            start = min(max(start, low - reach[0]), high - reach[1] - spread)
        # the first station is the farthest where a turned vise counts them backwards
        base.append(start - min(0.0, found.stations[-1][axis]))
    return base[0], base[1]


def _free_above(found: Layout, bed: Bed) -> float:
    """Machine Z that what comes round with the rotary stays below: the farthest corner of all, and a clearance."""
    axis, rotary = bed.axis, bed.machine.table
    if not found.load.arrangement.sides or axis is None or rotary is None:
        return found.over
    across = 1 if rotary.about == "x" else 0
    half = found.spread[across] / 2 + max((abs(m.by[across]) for m in found.load.arrangement.moved), default=0.0)
    farthest = max(
        hypot(abs(wide - axis[across]) + (0.0 if s.shared else half), z - axis[2])
        for s in (*found.solids, *(s for kind in found.turned for s in kind.solids))
        for wide, z in product((s.box.min[across], s.box.max[across]), (s.box.min[2], s.box.max[2]))
    )
    return axis[2] + farthest + SWING_CLEARANCE
