"""What a load holds at its places: each of its setups where one piece of it stands alone, and what is repeated."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import cached_property

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import add
from lean_ledger.core.holding.hold import Hold
from lean_ledger.core.holding.vise import ViseHold
from lean_ledger.core.loads.joined import solids_in, step_along
from lean_ledger.core.loads.spacing import Pitch, Solid, least_pitch, machine_box, solids_of
from lean_ledger.core.loads.travel import travel_range
from lean_ledger.core.loads.turned import turned_setup
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.plan import Arrangement, SetupDecision, Turned
from lean_ledger.library.machines import Machine

Point2 = tuple[float, float]
NOWHERE: Point2 = (0.0, 0.0)
ONE = Arrangement()
TOUCH = 1e-6


@dataclass(frozen=True)
class Kind:
    """Pieces in one setup; `solids` stand with each, as if it were alone on the machine."""

    decision: SetupDecision
    built: BuiltSetup
    solids: tuple[Solid, ...]
    turn: Turned = 0  # degrees, of the piece with what holds it

    def reach(self, axis: int, machine: Machine) -> tuple[float, float] | None:
        return travel_range(axis, self.built.stands, machine, self.built.operations)


@dataclass(frozen=True)
class Unit:
    """What is repeated in columns and rows: one fixture with the pieces of its stations, each so far off the first."""

    parts: tuple[tuple[Kind, Point2], ...]
    how: Arrangement = ONE

    @cached_property
    def solids(self) -> tuple[Solid, ...]:
        """What holds them stands once where all are of one kind; of pieces in one bar that and its vises."""
        first = self.parts[0][0]
        if first.built.blank is not None:
            return (*solids_in(first.built, self.how), *(s for s in first.solids if s.shared))
        found = list(first.solids)
        for kind, off in self.parts[1:]:
            by = (*off, 0.0)
            more = stock_of(kind.solids) if kind is first else [s for s in kind.solids if not s.shared]
            found += [Solid(s.what, Bounds(add(s.box.min, by), add(s.box.max, by))) for s in more]
        return tuple(found)

    @property
    def stock(self) -> tuple[Solid, ...]:
        return tuple(stock_of(self.solids))


def stock_of(solids: Sequence[Solid]) -> list[Solid]:
    return [s for s in solids if s.what == "stock"]


def extent_of(solids: Sequence[Solid], axis: int) -> float:
    return max(s.box.max[axis] for s in solids) - min(s.box.min[axis] for s in solids)


def stations_of(hold: Hold) -> int:
    return hold.fixture.stations if isinstance(hold, ViseHold) else 1


def kinds_of(setups: Sequence[tuple[SetupDecision, BuiltSetup]], how: Arrangement) -> tuple[Kind, ...]:
    """Each setup once; side by side in one vise each has only what stands at its own station."""
    if len(setups) > 1 and how.in_turn == "stations":
        return tuple(Kind(decision, one, _at_a_station(one)) for decision, one in setups)
    return tuple(
        Kind(decision, one, solids_of(one) if one.blank is None else _in_a_bar(one)) for decision, one in setups
    )


def _in_a_bar(one: BuiltSetup) -> tuple[Solid, ...]:
    """A piece's own of its bar, and what carries all: the vises stand with the bar as a whole."""
    return tuple(s for s in solids_of(one) if s.shared or s.what == "stock")


def turned_kinds(kinds: Sequence[Kind], how: Arrangement, machine: Machine) -> tuple[Kind, ...]:
    """Each setup as it stands at pieces that are turned, each turn once; what carries all of them is not turned."""
    every = [(kind, turn, turned_setup(kind.built, turn, machine)) for turn in how.turns for kind in kinds]
    return tuple(
        Kind(kind.decision, one, tuple(s for s in solids_of(one) if not s.shared), turn) for kind, turn, one in every
    )


def units_of(kinds: Sequence[Kind], how: Arrangement, offs: Sequence[Point2]) -> tuple[Unit, ...]:
    if len(kinds) > 1 and how.in_turn == "stations":
        return (Unit(tuple((kinds[k % len(kinds)], off) for k, off in enumerate(offs))),)
    return tuple(Unit(tuple((kind, off) for off in offs), how) for kind in kinds)


def station_offsets(kinds: Sequence[Kind], how: Arrangement) -> tuple[Point2, ...]:
    """By how much each station's piece stands off where it would alone, along the vise's own y, which a turned mount
    has along another axis of the machine: it lies on the other side of the jaw behind the one before. In one bar one
    lies beside the other, in a plate row by row.
    """
    if how.joined > 1:
        x, y = (step_along(kinds[0].built, axis) for axis in (0, 1))
        return tuple((round(k * x, 4), round(j * y, 4)) for j in range(how.joined_rows) for k in range(how.joined))
    offs = [NOWHERE]
    mixed = how.in_turn == "stations"
    for k in range(1, how.stations):
        before, now = (kinds[(k - 1) % len(kinds)], kinds[k % len(kinds)]) if mixed else (kinds[0], kinds[0])
        behind, front = _y_on_machine(before.built, back=True), _y_on_machine(now.built, back=False)
        was = offs[-1]
        offs.append((round(was[0] + behind[0] - front[0], 4), round(was[1] + behind[1] - front[1], 4)))
    return tuple(offs)


def _y_on_machine(one: BuiltSetup, *, back: bool) -> Point2:
    """Where the far side of the jaw behind a piece is, or that of the one in front which it touches."""
    hold, frame = one.hold, one.home.frame
    assert isinstance(hold, ViseHold), "only vises have stations"
    low, high = hold.gripped_y
    y = high + hold.vise.jaw_thickness if back else low
    shift = one.stands.shift(frame)
    x0, y0, _ = frame.point(hold.frame.in_part((hold.centre[0], y, 0.0)))
    return x0 + shift[0], y0 + shift[1]


def _at_a_station(one: BuiltSetup) -> tuple[Solid, ...]:
    """Without the jaw and the bed of the station behind, which holds another piece."""
    hold = one.hold
    if not isinstance(hold, ViseHold):
        return solids_of(one)
    end = hold.gripped_y[1] + hold.vise.jaw_thickness
    own = []
    for o in hold.obstacles:
        low, high = o.box.min, o.box.max
        if low[1] < end - TOUCH:
            kept = Bounds(low, (high[0], min(high[1], end), high[2]))
            own.append(Solid(o.what, machine_box(one, kept)))
    shared = [s for s in solids_of(one) if s.shared]
    stock = [Solid("stock", machine_box(one, b)) for b in hold.boxes]
    return (*stock, *own, *shared)


def beside_turned(axis: int, turned: Sequence[Kind], units: Sequence[Unit], how: Arrangement, best: Pitch) -> Pitch:
    """The least pitch where any piece may stand beside a turned one."""
    alone = (how.rows if axis == 0 else how.columns) == 1
    every = [*(Unit(((kind, NOWHERE),)) for kind in turned), *units]
    for unit in every[: len(turned)]:
        for other in every:
            for one, beside in ((unit, other), (other, unit)):
                tools = [(kind.built, off) for kind, off in one.parts]
                for asks in least_pitch(axis, tools, one.solids, beside.solids, alone=alone):
                    best = asks if asks.value > best.value + TOUCH else best
    return best


def pitch_of(axis: int, units: Sequence[Unit], how: Arrangement, going_on: Collection[str] = ()) -> Pitch:
    """The least pitch along the machine's X (0) or Y (1): of each unit beside what stands next to it, and of those
    farther on where several take turns. Operations that are `going_on` run once along this axis.
    """
    alone = (how.rows if axis == 0 else how.columns) == 1
    count = len(units)
    in_turn = {"columns": 0, "rows": 1}.get(how.in_turn) == axis
    best = Pitch(0.0, None, "")
    for i, unit in enumerate(units):
        for j, other in enumerate(units):
            if count > 1 and how.in_turn == "sides" and i != j:
                continue
            steps = ((j - i) % count or count) if count > 1 and in_turn else 1
            back = ((i - j) % count or count) if count > 1 and in_turn else 1
            tools = [(kind.built, off) for kind, off in unit.parts]
            ahead, behind = least_pitch(axis, tools, unit.solids, other.solids, alone=alone, going_on=going_on)
            for asks, places in ((ahead, steps), (behind, back)):
                if asks.value / places > best.value + TOUCH:
                    best = Pitch(asks.value / places, asks.operation, asks.because)
    return best
