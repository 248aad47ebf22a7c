"""Where fixtures sit: by mounts of the same name, carriers stacked between, so that a change of machine moves them.

A mount's rotation is given about x, then y, then z of what it is on, in degrees.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import product
from math import atan2, cos, degrees, radians, sin

from lean_ledger.core.basis.findings import Cure, Finding
from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec, add, cross, dot, sub
from lean_ledger.core.holding.hold import by_rule, error
from lean_ledger.core.plan import Load, SetupDecision
from lean_ledger.library.fixtures import Carrier, Fixture
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library

Turn = tuple[Vec, Vec, Vec]  # columns: where x, y and z of what is mounted point on the machine

STRAIGHT = 0.999
SAME_HEIGHT = 0.01  # mm between faces of a tombstone that are one as far as pieces go


@dataclass(frozen=True)
class Stacked:
    """A carrier as it stands on the machine."""

    carrier: Carrier
    at: Vec
    turn: Turn

    def box_from(self, seat: Seat) -> Bounds:
        """Its block in the axes of what sits on a seat, from that one's mount: they are turned by quarters."""
        x, y, z = self.carrier.size
        corners = []
        for p in product((-x / 2, x / 2), (-y / 2, y / 2), (0.0, z)):
            on_machine = add(self.at, _turned(self.turn, p))
            corners.append(seat.seen(sub(on_machine, seat.at)))
        return Bounds(
            tuple(min(c[i] for c in corners) for i in range(3)),  # type: ignore[arg-type]
            tuple(max(c[i] for c in corners) for i in range(3)),  # type: ignore[arg-type]
        )


@dataclass(frozen=True)
class Seat:
    """A mount as it stands on the machine, whatever is stacked under it."""

    name: str
    at: Vec
    turn: Turn
    carriers: tuple[Stacked, ...] = ()

    @property
    def is_upright(self) -> bool:
        return self.turn[2][2] > STRAIGHT

    def place(self, p: Vec) -> Vec:
        """A point in the mounted thing's own axes, on the machine."""
        return add(self.at, _turned(self.turn, p))

    def seen(self, direction: Vec) -> Vec:
        """A direction on the machine, in the mounted thing's own axes."""
        return tuple(round(dot(direction, axis), 9) + 0.0 for axis in self.turn)  # type: ignore[return-value]


def seats(machine: Machine, carriers: Sequence[Carrier]) -> tuple[Seat, ...]:
    """The places that are free once the carriers are stacked; none where a carrier finds no mount."""
    free = tuple(Seat(m.name, m.at, turn_of(m.rotation)) for m in machine.mounts)
    for carrier in carriers:
        under = next((s for s in free if s.name == carrier.mount), None)
        if under is None:
            return ()
        free = tuple(
            Seat(
                m.name,
                under.place(m.at),
                _after(under, turn_of(m.rotation)),
                (*under.carriers, Stacked(carrier, under.at, under.turn)),
            )
            for m in carrier.offers
        )
    return free


def stacks(machine: Machine, library: Library) -> tuple[tuple[Carrier, ...], ...]:
    """What can stand between a machine and a fixture: each carrier that finds a mount, and two of them."""
    return _stacks(Same(machine), Same(library.carriers))


@lru_cache(maxsize=64)
def _stacks(machine: Same[Machine], carriers: Same[tuple[Carrier, ...]]) -> tuple[tuple[Carrier, ...], ...]:
    ones = [(c,) for c in carriers.value if seats(machine.value, (c,))]
    twos = [(a, b) for (a,) in ones for b in carriers.value if b is not a and seats(machine.value, (a, b))]
    return (*ones, *twos)


@dataclass(frozen=True)
class Bed:
    """A machine with what is stacked on it: what the fixtures of a load are put on."""

    machine: Machine
    carriers: tuple[Carrier, ...] = ()

    @property
    def seats(self) -> tuple[Seat, ...]:
        return seats(self.machine, self.carriers)

    @property
    def axis(self) -> Vec | None:
        """A point of the axis that the machine's table turns about; None where it does not turn."""
        rotary = self.machine.table
        if rotary is None:
            return None
        along = "xyz".index(rotary.about)
        return next((m.at for m in self.machine.mounts if abs(turn_of(m.rotation)[2][along]) > STRAIGHT), None)

    def faces(self, seat: Seat) -> tuple[float, ...]:
        """Degrees of the rotary at which a face of the same tombstone comes to where this one is, its own first."""
        axis, rotary = self.axis, self.machine.table
        if axis is None or rotary is None:
            return ()
        along = "xyz".index(rotary.about)
        about: Vec = tuple(1.0 if i == along else 0.0 for i in range(3))  # type: ignore[assignment]
        height = dot(sub(seat.at, axis), seat.turn[2])
        found = []
        for face in self.seats:
            up = face.turn[2]
            if abs(up[along]) < 1 - STRAIGHT and abs(dot(sub(face.at, axis), up) - height) < SAME_HEIGHT:
                start = seat.turn[2]
                turn = degrees(atan2(dot(cross(start, up), about), dot(start, up)))
                found.append(round(turn % 360, 3) % 360)
        return tuple(sorted(set(found)))

    def seats_for(self, setup: SetupDecision) -> tuple[Seat, ...]:
        """Those that a setup can use: upright where the tool comes from above only, else those that an axis turns."""
        free = self.seats
        if setup.free is None:
            return tuple(s for s in free if s.is_upright) or free
        return tuple(s for s in free if not s.is_upright) or free

    def seat_of(self, fixture: Fixture) -> Seat | None:
        """The seat that a fixture's own mount names; None where there is none."""
        return next((s for s in self.seats if s.name == fixture.mount), None)


def bed_for(bed: Bed, load: Load, setup: str) -> Bed:
    """What one of a load's setups is put on: for what is in a counter spindle the machine as that one has it."""
    return Bed(bed.machine.faced(), bed.carriers) if load.at_counter(setup) and bed.machine.counter else bed


def bed_of(load: Load, machine: Machine, library: Library, setup: SetupDecision) -> Bed:
    """With those carriers that the decision names and the library has, else those that the machine has to have."""
    decided = tuple(c for c in map(library.carrier, load.on) if c is not None)
    return Bed(machine, decided or _needed_carriers(machine, library, setup))


def _needed_carriers(machine: Machine, library: Library, setup: SetupDecision) -> tuple[Carrier, ...]:
    """None where a fixture of the shop sits on the machine itself; else what first brings one to where a setup is cut.

    A pallet that turns in front of a level spindle takes no vise: it takes a tombstone.
    """
    mounts = {f.mount for f in library.fixtures}
    if any(m.name in mounts for m in machine.mounts):
        return ()
    for stack in stacks(machine, library):
        if any(s.name in mounts and s.is_upright == (setup.free is None) for s in seats(machine, stack)):
            return stack
    return ()


def mount_findings(setup: SetupDecision, fixture: Fixture, bed: Bed) -> list[Finding]:
    """A fixture whose mount is missing, with what is offered; one that lies on its side where the tool is above."""
    seat, machine, on = bed.seat_of(fixture), bed.machine, bed.carriers
    if seat is None:
        free = bed.seats
        if on and not free:
            missing = next(c for i, c in enumerate(on) if not seats(machine, on[: i + 1]))
            offered = ", ".join(m.name for m in seats(machine, on[: on.index(missing)]))
            return [
                error(
                    setup.id,
                    "no-mount",
                    f"{missing.name} finds no place on {machine.name}.",
                    f"It sits on a mount named “{missing.mount}”; here is offered: {offered}.",
                    (_bare(setup),),
                )
            ]
        offered = ", ".join(m.name for m in free)
        stack = f"{machine.name} with {', '.join(c.name for c in on)}" if on else machine.name
        return [
            error(
                setup.id, "no-mount", f"{fixture.name} finds no place on {machine.name}.",
                f"It sits on a mount named “{fixture.mount}”; {stack} offers: {offered}. Take another machine, or a "
                "fixture for one of these.", (by_rule(setup.id),) if setup.fixture is not None else (),
            )
        ]  # fmt: skip
    if setup.free is None and not seat.is_upright:
        return [
            error(
                setup.id,
                "lies-sideways",
                f"{fixture.name} lies on its side on “{seat.name}” of {machine.name}.",
                f"Side {setup.up} does not come under the spindle that way. Index the setup about the rotary axis, or "
                "take a fixture for the table.",
                (by_rule(setup.id),) if setup.fixture is not None else (),
            )
        ]
    if setup.free is not None and seat.is_upright and machine.rotary is not None and machine.tilt is None:
        turned_by = ", ".join(f"“{s.name}”" for s in seats(machine, on) if not s.is_upright)
        return [
            error(
                setup.id,
                "not-on-axis",
                f"{fixture.name} stands on “{seat.name}”, which {machine.name} does not turn.",
                f"The setup is indexed: it has to sit on {turned_by or 'a rotary face'}.",
                (by_rule(setup.id),) if setup.fixture is not None else (),
            )
        ]
    return []


def _bare(setup: SetupDecision) -> Cure:
    return Cure("Straight onto the machine", {"change": "set-carriers", "setup": setup.id, "carriers": []})


def _turned(turn: Turn, p: Vec) -> Vec:
    x, y, z = turn
    return tuple(p[0] * x[i] + p[1] * y[i] + p[2] * z[i] for i in range(3))  # type: ignore[return-value]


def turn_of(rotation: Vec) -> Turn:
    """Columns of the rotation about x, then y, then z, degrees.

    >>> turn_of((0, -90, 0))[2]  # z of what is mounted points along −x
    (-1.0, 0.0, 0.0)
    """
    (cx, sx), (cy, sy), (cz, sz) = ((cos(radians(a)), sin(radians(a))) for a in rotation)
    columns = (
        (cz * cy, sz * cy, -sy),
        (cz * sy * sx - sz * cx, sz * sy * sx + cz * cx, cy * sx),
        (cz * sy * cx + sz * sx, sz * sy * cx - cz * sx, cy * cx),
    )
    return tuple(tuple(round(c, 9) + 0.0 for c in column) for column in columns)  # type: ignore[return-value]


def _after(under: Seat, turn: Turn) -> Turn:
    return tuple(
        tuple(round(sum(axis[k] * under.turn[k][i] for k in range(3)), 9) + 0.0 for i in range(3)) for axis in turn
    )  # type: ignore[return-value]
