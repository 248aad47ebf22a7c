"""Where each piece of a load is on the machine while its rotary stands at 0, and what stands there once for all."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import product
from math import cos, radians, sin
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.holding.bar_collet import BarHold
from lean_ledger.core.holding.obstacles import Block, Obstacle
from lean_ledger.core.holding.standing import Standing
from lean_ledger.core.loads.joined import vises_in
from lean_ledger.core.loads.layout import Placed
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.spacing import SHARED
from lean_ledger.core.plan import Arrangement
from lean_ledger.library.machines import Machine

Matrix = NDArray[np.float64]
Row = tuple[float, float, float, float]
ONE = Arrangement()


@dataclass(frozen=True)
class Pose:
    """A piece's own coordinates to those of the machine, mm: rows of a 3 × 4 matrix. `brought` takes the machine's to
    where all stands once the rotary has brought the piece up. `holds`: what holds it stands with it, and not with the
    first piece of its bar.
    """

    place: str
    setup: str
    rows: tuple[Row, Row, Row]
    brought: tuple[Row, Row, Row]
    holds: bool = True

    def point(self, p: Vec) -> Vec:
        x, y, z = (a * p[0] + b * p[1] + c * p[2] + d for a, b, c, d in self.rows)
        return x, y, z


def poses(load: LoadLedger) -> tuple[Pose, ...]:
    """Of each piece. A side of a tombstone at 90° is turned by 90° about the table's axis from the one that is up."""
    return tuple(
        replace(_named(load, p.stands, p.place.id, p.decision.id), holds=_is_held(p)) for p in load.where.placed
    )


def _is_held(placed: Placed) -> bool:
    """Whether what holds is drawn with a piece: with the first of a bar, and the last of an advance."""
    return not placed.out if isinstance(placed.built.hold, BarHold) else not placed.bar or not placed.station


def pose_alone(load: LoadLedger, setup: str) -> Pose:
    """As one piece alone would be: what carries several stands there once."""
    placed = next(p for p in load.where.placed if p.decision.id == setup)
    return _named(load, replace(placed.built.stands, angle=0.0), "", setup)


def apart(placed: Placed, how: Arrangement = ONE) -> tuple[tuple[Obstacle, ...], tuple[Obstacle, ...]]:
    """What holds a piece by itself, or a bar of so many, and what carries it with others."""
    every = (*placed.built.hold.obstacles, *placed.built.stands.carriers(placed.built.hold))
    shared = tuple(o for o in every if isinstance(o, Block) and o.what in SHARED)
    return tuple(o for o in every if o not in shared) if how.joined == 1 else vises_in(placed.built, how), shared


def axis_of(load: LoadLedger) -> tuple[Vec, Vec] | None:
    """A point of the axis that the table turns about and its direction; None where it carries no sides."""
    at, table = load.bed.axis, load.machine.table
    if not load.where.load.arrangement.sides or at is None or table is None:
        return None
    x, y, z = (1.0 if axis == table.about else 0.0 for axis in "xyz")
    return at, (x, y, z)


def front_of(machine: Machine) -> tuple[Vec, Vec]:
    """What points to the right and up for who stands before a machine, in its axes: a lathe's spindle lies, X is up."""
    if machine.turns_work:
        return (0.0, 0.0, 1.0), (1.0, 0.0, 0.0)
    return (1.0, 0.0, 0.0), (0.0, 1.0, 0.0) if machine.spindle_lies else (0.0, 0.0, 1.0)


def seen(load: LoadLedger) -> Bounds:
    """All pieces' stock, on the machine, whichever is brought up."""
    every = poses(load)
    turns = {pose.brought for pose in every}
    corners = []
    for pose, placed in zip(every, load.where.placed, strict=True):
        hold = placed.built.hold
        for box in hold.boxes:
            sides = ((box.min[i], box.max[i]) for i in range(3))
            for corner in product(*sides):
                at = pose.point(hold.frame.in_part(corner))  # type: ignore[arg-type]
                corners += [replace(pose, rows=turn).point(at) for turn in turns]
    low, high = np.min(corners, axis=0), np.max(corners, axis=0)
    return Bounds((float(low[0]), float(low[1]), float(low[2])), (float(high[0]), float(high[1]), float(high[2])))


def _named(load: LoadLedger, stands: Standing, place: str, setup: str) -> Pose:
    level = stands.level
    up = np.eye(4)
    up[:3, :3] = [level.right, level.back, level.up]
    up[:3, 3] = stands.shift(level)
    turn = _turn(load, stands.angle)
    return Pose(place, setup, _rows(turn @ up), _rows(np.linalg.inv(turn)))


def _turn(load: LoadLedger, angle: float) -> Matrix:
    axis, table = load.bed.axis, load.machine.table
    if not angle or axis is None or table is None:
        return np.eye(4)
    turn, there = np.eye(4), np.eye(4)
    a, b = {"x": (1, 2), "y": (2, 0), "z": (0, 1)}[table.about]
    c, s = cos(radians(angle)), sin(radians(angle))
    turn[a, a], turn[a, b], turn[b, a], turn[b, b] = c, -s, s, c
    there[:3, 3] = axis
    turned: Matrix = there @ turn @ np.linalg.inv(there)
    return turned


def _rows(matrix: NDArray[Any]) -> tuple[Row, Row, Row]:
    rows = [tuple(round(float(v), 9) + 0.0 for v in row) for row in matrix[:3]]
    return rows[0], rows[1], rows[2]  # type: ignore[return-value]
