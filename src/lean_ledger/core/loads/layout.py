"""Where the pieces of a load stand: how far apart, on which sides, in which walk, and how many would fit.

All in the machine's axes, mm; on a rotary as it is at the angle of a piece's side.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import product
from math import floor, hypot

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import add
from lean_ledger.core.holding.hold import Hold
from lean_ledger.core.holding.placement import Bed
from lean_ledger.core.holding.standing import SWING_CLEARANCE, Standing
from lean_ledger.core.holding.vise import ViseHold
from lean_ledger.core.loads.arranged import walked
from lean_ledger.core.loads.spacing import CLEARANCE, Pitch, Solid, least_pitch, solids_of
from lean_ledger.core.loads.travel import travel_range
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Arrangement, Load, Place, Plan, Policy, SetupDecision
from lean_ledger.library.machines import Machine

MOST = 200  # pieces of a load
NONE = Pitch(0.0, None, "")
Point2 = tuple[float, float]


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

    @property
    def group(self) -> str:
        """What it shares an offset with, where groups do: a side, else a row."""
        return f"side {self.side:g}°" if self.side is not None else f"row {self.row + 1}"

    def shares(self, policy: Policy) -> object:
        """What pieces have in common that are touched off by one zero: on a rotary it is never more than a side."""
        if policy == "piece":
            return self.place.id
        return self.group if policy == "group" else self.side

    def operation(self, id: str) -> Operation:
        return next(op for op in self.built.operations if op.id == id)

    def box(self, of: Bounds) -> Bounds:
        """A box of the piece that stands alone, where this one has it."""
        by = (*self.shift, 0.0)
        return Bounds(add(of.min, by), add(of.max, by))


@dataclass(frozen=True)
class Limit:
    """Why no more than `most` stand along an axis."""

    most: int
    why: str


@dataclass(frozen=True)
class Layout:
    """`load` as far as its machine and fixture can; `pitch` along X and Y, by hand or the least; `least` what it must
    be; `solids` stand with one piece alone.
    """

    load: Load
    machine: Machine
    placed: tuple[Placed, ...]
    solids: tuple[Solid, ...]
    pitch: Point2 = (0.0, 0.0)
    least: tuple[Pitch, Pitch] = (NONE, NONE)
    station_step: Point2 = (0.0, 0.0)  # from one station of a fixture to the next
    faces: tuple[float, ...] = ()  # degrees at which a tombstone's sides come up
    over: float = 0.0  # machine Z above all that stands
    free_above: float = 0.0  # machine Z above which it turns
    axis_level: float | None = None  # machine Z of the axis of what turns them
    left_out: str = ""  # why not all is arranged as it was said

    @property
    def alone(self) -> bool:
        """Whether one piece stands where it would without an arrangement."""
        return self.load.arrangement == Arrangement()

    @property
    def extent(self) -> Point2:
        """Of a fixture's stock, along X and Y."""
        x, y = self._stations
        return _extent(_stock(self.solids), 0) + abs(x), _extent(_stock(self.solids), 1) + abs(y)

    @property
    def gap(self) -> Point2:
        """What is free between the stock of neighbours."""
        return self.pitch[0] - self.extent[0], self.pitch[1] - self.extent[1]

    @property
    def fixtures(self) -> int:
        """How many of what holds a piece the load needs: one for all of them on a plate, one for a vise's stations."""
        if any(s.what == "plate" for s in self.solids):
            return max(1, len(self.load.arrangement.sides))
        return self.load.arrangement.count // self.load.arrangement.stations

    @property
    def to_set(self) -> int:
        """Fixtures to set up and zeros to touch off, whichever are more."""
        zeros = {one.shares(self.load.offsets.policy) for one in self.placed}
        return max(self.fixtures, len(zeros))

    @property
    def spread(self) -> Point2:
        """From the first piece to the last."""
        how = self.load.arrangement
        x, y = self._stations
        return (how.columns - 1) * self.pitch[0] + abs(x), (how.rows - 1) * self.pitch[1] + abs(y)

    @property
    def _stations(self) -> Point2:
        """From the first station of a fixture to its last."""
        more = self.load.arrangement.stations - 1
        return more * self.station_step[0], more * self.station_step[1]

    @property
    def own(self) -> tuple[Solid, ...]:
        return tuple(s for s in self.solids if not s.shared)

    @property
    def shared(self) -> tuple[Solid, ...]:
        return tuple(s for s in self.solids if s.shared)

    def limit(self, axis: int) -> Limit:
        """How many columns (0) or rows (1) go in at this pitch: by the travel, and by what carries them all."""
        first = self.placed[0]
        found = [Limit(MOST, f"{MOST} pieces are planned at the most")]
        reach = travel_range(axis, first.built.stands, self.machine, first.built.operations)
        stations = abs(self._stations[axis])
        if reach is not None:
            low, high = self.machine.travel[axis]
            below, above = reach[0] - low, high - reach[1]
            # on what carries them all they stand about its middle
            room = (2 * min(below, above) if self.shared else below + above) - stations
            most = fitting(room, self.pitch[axis])
            lacks = (most + 1) * self.pitch[axis] - self.pitch[axis] - room
            found.append(Limit(most, f"{'XY'[axis]} of {self.machine.name} is {lacks:.0f} too short for one more"))
        for solid in self._carrying:
            own = [s for s in self.own if s.box.min[2] >= solid.box.max[2] - 1e-6] or _stock(self.solids)
            room = solid.box.size[axis] - _extent(own, axis) - stations
            most = max(1, fitting(room, self.pitch[axis]))  # one may hang over the edge
            lacks = most * self.pitch[axis] - room
            found.append(Limit(most, f"{self._name(solid)} is {lacks:.0f} too short for one more"))
        return min(found, key=lambda limit: limit.most)

    def _name(self, carrying: Solid) -> str:
        first = self.placed[0].built
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


def stations_of(hold: Hold) -> int:
    return hold.fixture.stations if isinstance(hold, ViseHold) else 1


def _possible(load: Load, decision: SetupDecision, one: BuiltSetup, machine: Machine) -> tuple[Load, str]:
    """The load as far as it can be: what was arranged for another machine or fixture is left out, and said."""
    how = load.arrangement
    why = one_only(decision, machine) if how.count > 1 or how.sides else ""
    if why:
        return replace(load, arrangement=Arrangement(), skipped=()), why
    if how.sides and machine.table is None:
        why = f"{machine.name} has no rotary that brings sides up."
        how = replace(how, sides=())
    if how.stations > stations_of(one.hold):
        why = f"{one.hold.fixture.name} has one station."
        how = replace(how, stations=1)
    return replace(load, arrangement=how, skipped=() if why else load.skipped), why


def layout(plan: Plan, load: Load, built: Mapping[str, BuiltSetup], bed: Bed) -> Layout:
    """The pieces of a load in the order of its walk, named from "1"; `built` by the id of the setup."""
    place = load.places[0]
    one, decision = built[place.setup], plan.setup(place.setup)
    load, left_out = _possible(load, decision, one, bed.machine)
    how = load.arrangement
    found = Layout(load, bed.machine, (), solids_of(one), left_out=left_out)
    if how == Arrangement():
        return replace(found, placed=(Placed(place, decision, one, one.stands),))
    step = _station_step(one) if how.stations > 1 else (0.0, 0.0)
    found = replace(found, station_step=step, faces=bed.faces(one.stands.seat) if how.sides else ())
    stacked = _with_stations(found)
    off = [(k * step[0], k * step[1]) for k in range(how.stations)]
    least = (
        least_pitch(0, one, stacked, off, alone=how.rows == 1),
        least_pitch(1, one, stacked, off, alone=how.columns == 1),
    )
    pitch = [least[i].value if how.gap[i] is None else found.extent[i] + (how.gap[i] or 0.0) for i in (0, 1)]
    found = replace(found, least=least, pitch=(pitch[0], pitch[1]))
    found = replace(found, over=max(s.box.max[2] for s in found.solids) + CLEARANCE, free_above=_free_above(found, bed),
                    axis_level=bed.axis[2] if bed.axis is not None else None)  # fmt: skip
    base, by_hand = _base(found, one), {m.place: m.by for m in how.moved}
    placed = []
    for number, (side, column, row, station) in enumerate(_walk(how, load), start=1):
        dx, dy = by_hand.get(str(number), (0.0, 0.0))
        x = base[0] + column * pitch[0] + station * step[0] + dx
        y = base[1] + row * pitch[1] + station * step[1] + dy
        shift = (round(x, 4), round(y, 4))
        stands = replace(
            one.stands, seat=replace(one.stands.seat, at=add(one.stands.seat.at, (*shift, 0.0))), aside=shift,
            angle=side or 0.0,
            over=found.over, free_above=found.free_above if how.sides else None,
        )  # fmt: skip
        placed.append(Placed(Place(str(number), place.setup), decision, one, stands, column, row, side, station, shift))
    return replace(found, placed=tuple(placed))


def _walk(how: Arrangement, load: Load) -> list[tuple[float | None, int, int, int]]:
    """(side, column, row, station), in the order in which pieces are numbered: one side after the other."""
    there = walked(how.columns, how.rows, load.offsets.walk)
    sides: Sequence[float | None] = how.sides or (None,)
    found: list[tuple[float | None, int, int, int]] = []
    for k, side in enumerate(sides):
        back = load.offsets.walk == "snake" and k % 2 == 1
        for column, row in reversed(there) if back else there:
            found += [(side, column, row, station) for station in range(how.stations)]
    return found


def _station_step(one: BuiltSetup) -> Point2:
    """From one station of a vise to the other, over the jaw that stands between them: along the vise's own y, which a
    turned mount has along another axis of the machine.
    """
    hold, frame = one.hold, one.home.frame
    assert isinstance(hold, ViseHold), "only vises have stations"
    x, y, _ = frame.point(hold.frame.in_part((0.0, hold.opening + hold.vise.jaw_thickness, 0.0)))
    return round(x, 4), round(y, 4)


def _with_stations(found: Layout) -> tuple[Solid, ...]:
    """One fixture with the stock of all its stations; what holds it stands once."""
    more = []
    for k in range(1, found.load.arrangement.stations):
        by = (k * found.station_step[0], k * found.station_step[1], 0.0)
        more += [Solid(s.what, Bounds(add(s.box.min, by), add(s.box.max, by))) for s in _stock(found.solids)]
    return (*found.solids, *more)


def _stock(solids: Sequence[Solid]) -> list[Solid]:
    return [s for s in solids if s.what == "stock"]


def _extent(solids: Sequence[Solid], axis: int) -> float:
    return max(s.box.max[axis] for s in solids) - min(s.box.min[axis] for s in solids)


def _base(found: Layout, one: BuiltSetup) -> Point2:
    """Where the first piece stands from where one alone does: all of them about that middle; on a table that nothing
    else bounds, as far aside as the travels need.
    """
    base = []
    for axis in (0, 1):
        spread = found.spread[axis]
        start = -spread / 2
        reach = travel_range(axis, one.stands, found.machine, one.operations)
        low, high = found.machine.travel[axis]
        if reach is not None and not found.shared and high - low >= reach[1] - reach[0] + spread:
            start = min(max(start, low - reach[0]), high - reach[1] - spread)
        # the first station is the farthest where a turned vise counts them backwards
        base.append(start - min(0.0, found._stations[axis]))
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
        for s in found.solids
        for wide, z in product((s.box.min[across], s.box.max[across]), (s.box.min[2], s.box.max[2]))
    )
    return axis[2] + farthest + SWING_CLEARANCE
