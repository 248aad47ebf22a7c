"""How near to one another pieces can stand: by what every tool sweeps beside each, not by boxes around them.

All boxes are in the machine's axes, lengths in mm. A segment of a path sweeps the box around it, widened by the tool:
by its cutter from the tip upwards, by its holder from its reach upwards. Beside a neighbour of a height the widest part
that comes below that height counts, with a clearance on either side.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.model import Bounds, Vec
from lean_ledger.core.geometry.vectors import add
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.safe.tool_outline import slices_of
from lean_ledger.library.types import Tool

CLEARANCE = 2.0  # mm between a tool and what stands beside the piece that it cuts
ROOM = 5.0  # mm between the fixtures of neighbours, to bolt them down and to clean
KEPT = 64  # setups whose sweeps are kept
TOUCH = 0.01  # mm that are not worth a word
STEP = 5.0  # mm of a path that is looked at as one box: a slanted one sweeps less than the box around all of it

Boxes = NDArray[np.float64]  # (n, 2, 3): least and greatest corners


@dataclass(frozen=True)
class Swept:
    """What a slice of an operation's tool goes through: its boxes reach up without end."""

    operation: str
    name: str
    boxes: Boxes


@dataclass(frozen=True)
class Solid:
    """A block that stands in the load with each piece, or once for all of them."""

    what: str
    box: Bounds
    shared: bool = False

    def moved(self, x: float, y: float) -> Solid:
        by = (x, y, 0.0)
        return replace(self, box=Bounds(add(self.box.min, by), add(self.box.max, by)))


@dataclass(frozen=True)
class Pitch:
    """From piece to neighbour, mm, with what asks for it: an operation's tool, or what holds the pieces."""

    value: float
    operation: str | None
    because: str


def machine_box(built: BuiltSetup, box: Bounds) -> Bounds:
    """A box in the axes of what holds the piece, in the machine's."""
    frame, shift = built.home.frame, built.stands.shift(built.home.frame)
    corners = [built.hold.frame.in_part((x, y, z)) for x in (box.min[0], box.max[0])
               for y in (box.min[1], box.max[1]) for z in (box.min[2], box.max[2])]  # fmt: skip
    seen = np.array([frame.point(c) for c in corners]) + np.array(shift)
    low, high = seen.min(axis=0), seen.max(axis=0)
    return Bounds(tuple(map(float, low)), tuple(map(float, high)))  # type: ignore[arg-type]


#: What a plate or a bar carries several pieces on: it stands once.
SHARED = ("plate", "carrier")


def solids_of(built: BuiltSetup) -> tuple[Solid, ...]:
    """What stands in the load with one piece: its stock, what holds it, what that stands on."""
    hold = built.hold
    held = [("stock", b) for b in hold.boxes]
    held += [(o.what, o.box) for o in (*hold.obstacles, *built.stands.carriers(hold))]
    return tuple(Solid(what, machine_box(built, box), what in SHARED) for what, box in held)


def swept_in(built: BuiltSetup) -> tuple[Swept, ...]:
    """What each slice of each operation's tool goes through, in the machine's axes, for a piece that stands alone."""
    return _swept_in(Same(built))


@lru_cache(maxsize=KEPT)
def _swept_in(built: Same[BuiltSetup]) -> tuple[Swept, ...]:
    return tuple(swept for op in built.value.operations for swept in swept_by(op, built.value))


def swept_by(op: Operation, built: BuiltSetup) -> list[Swept]:
    """What each slice of an operation's tool goes through, in the machine's axes, at a piece that stands alone."""
    return [Swept(op.id, op.name, boxes) for boxes in _boxes(Same(op.motion), op.tool, built.stands.shift(op.frame))]


def boxes_of(op: Operation) -> tuple[Boxes, ...]:
    """What each slice of an operation's tool goes through, in the axes of its way."""
    return _boxes(Same(op.motion), op.tool, (0.0, 0.0, 0.0))


@lru_cache(maxsize=512)
def _boxes(motion: Same[Motion], tool: Tool, shift: Vec) -> tuple[Boxes, ...]:
    """Kept by the very same path: an edit leaves most of them as they are."""
    ends = [_stepped(np.array(stroke.points) + np.array(shift)) for stroke in motion.value.strokes]
    if not ends:
        return ()
    runs = np.vstack(ends)
    low, high = runs.min(axis=1), runs.max(axis=1)
    found = []
    for radius, above in slices_of(tool):
        wide = np.array((radius, radius, 0.0))
        boxes = np.stack([low - wide + np.array((0.0, 0.0, above)), high + wide], axis=1)
        boxes[:, 1, 2] = np.inf
        found.append(boxes)
    return tuple(found)


def _stepped(points: NDArray[np.float64]) -> NDArray[np.float64]:
    """A polyline as segments no longer than STEP: (n, 2, 3)."""
    if len(points) < 2:
        return np.repeat(points[:, None, :], 2, axis=1)
    a, b = points[:-1], points[1:]
    flat = np.hypot(*(b - a)[:, :2].T)
    counts = np.maximum(1, np.ceil(flat / STEP).astype(int))
    of = np.repeat(np.arange(len(a)), counts)
    k = np.arange(len(of)) - np.repeat(np.cumsum(counts) - counts, counts)
    start, move = a[of], (b - a)[of] / counts[of, None]
    return np.stack([start + k[:, None] * move, start + (k[:, None] + 1) * move], axis=1)


def least_pitch(
    axis: int, tools: Sequence[tuple[BuiltSetup, tuple[float, float]]], own: Sequence[Solid], other: Sequence[Solid],
    *, alone: bool, going_on: Collection[str] = (),
) -> tuple[Pitch, Pitch]:  # fmt: skip
    """The least pitches along the machine's X (0) or Y (1) to what stands ahead and to what stands behind, at which
    those stay clear of the tools.

    `tools`: the setups whose tools run, each with how much along X and Y its piece is off the first; `own` stands with
    them, `other` at the neighbour. `alone`: no other row stands beside this one, so that a tool counts only beside what
    it passes. Operations that are `going_on` cut the neighbour as well. A mill of radius 8 that runs round a block of
    60, 2 off it, reaches 60 + 18; beside the next with 2 to spare: a pitch of 80.
    """
    own, other = [s for s in own if not s.shared], [s for s in other if not s.shared]
    best = [_apart(axis, own, other), _apart(axis, other, own)]
    for built, off in tools:
        for swept in (one for one in swept_in(built) if one.operation not in going_on):
            needed = _passes(axis, Same(swept.boxes), off, tuple(other), alone)
            for k, value in enumerate(needed):
                if value > best[k].value + 1e-6:
                    best[k] = Pitch(value, swept.operation, swept.name)
    return best[0], best[1]


@dataclass(frozen=True)
class Clash:
    """A tool that comes nearer than the clearance to what stands with another piece, or two that stand in one place.

    `lacks`: mm along X or Y, whichever is less, by which they would have to be farther apart.
    """

    what: str
    operation: str | None
    name: str
    lacks: float


def clashes(
    built: BuiltSetup,
    own: Sequence[Solid],
    others: Sequence[Solid],
    by: tuple[float, float],
    *,
    same_fixture: bool = False,
    going_on: Collection[str] = (),
) -> Clash | None:
    """The worst of what a piece's tools and bodies meet at a neighbour, whose solids are shifted by X and Y.

    Pieces in one fixture share its jaws: there stock counts, and of what holds the other what is not there already.
    Operations that are `going_on` cut the neighbour as well.
    """
    found: list[Clash] = []
    if _far(Same(built), tuple(own), tuple(others), by):
        return None
    shift = np.array((*by, 0.0))
    there = [(s, np.array(s.box.min) + shift, np.array(s.box.max) + shift) for s in others if not s.shared]
    mine = [s for s in own if not s.shared and (s.what == "stock" or not same_fixture)]
    for solid, low, high in there:
        if same_fixture and solid.what != "stock":
            if any(_overlap(s.box, low, high) for s in own):
                continue
        else:
            for body in mine:
                lacks = min(min(body.box.max[i] - low[i], high[i] - body.box.min[i]) for i in (0, 1))
                if lacks > TOUCH and body.box.min[2] < high[2] and low[2] < body.box.max[2]:
                    found.append(Clash(solid.what, None, body.what, float(lacks)))
        for swept in (one for one in swept_in(built) if one.operation not in going_on):
            if (lacks := _comes_into(Same(swept.boxes), tuple(low), tuple(high))) > TOUCH:
                found.append(Clash(solid.what, swept.operation, swept.name, lacks))
    return max(found, key=lambda one: (one.operation is None, one.lacks), default=None)


def _far(built: Same[BuiltSetup], own: tuple[Solid, ...], others: tuple[Solid, ...], by: tuple[float, float]) -> bool:
    """Whether all that a piece's tools and bodies come to lies beside all that stands at a neighbour."""
    reach, there = _reach(built, own), _around(others)
    return any(
        there[0][i] + by[i] > reach[1][i] + CLEARANCE or there[1][i] + by[i] < reach[0][i] - CLEARANCE for i in (0, 1)
    )


Square = tuple[tuple[float, float], tuple[float, float]]  # least and greatest X and Y


@lru_cache(maxsize=KEPT)
def _reach(built: Same[BuiltSetup], own: tuple[Solid, ...]) -> Square:
    """Of what a piece's tools sweep, and of its bodies."""
    (x0, y0), (x1, y1) = _around(own)
    for swept in _swept_in(built):
        low, high = swept.boxes[:, 0, :2].min(axis=0), swept.boxes[:, 1, :2].max(axis=0)
        x0, y0, x1, y1 = min(x0, low[0]), min(y0, low[1]), max(x1, high[0]), max(y1, high[1])
    return (float(x0), float(y0)), (float(x1), float(y1))


@lru_cache(maxsize=KEPT)
def _around(solids: tuple[Solid, ...]) -> Square:
    boxes = [s.box for s in solids if not s.shared]
    low = np.array([b.min[:2] for b in boxes]).reshape(-1, 2).min(axis=0, initial=np.inf)
    high = np.array([b.max[:2] for b in boxes]).reshape(-1, 2).max(axis=0, initial=-np.inf)
    return (float(low[0]), float(low[1])), (float(high[0]), float(high[1]))


@lru_cache(maxsize=4096)
def _comes_into(boxes: Same[Boxes], low: Vec, high: Vec) -> float:
    """How far what a tool sweeps comes nearer to a block than the clearance, mm."""
    swept = boxes.value
    into = np.minimum(swept[:, 1, :2] - low[:2], high[:2] - swept[:, 0, :2]).min(axis=1) + CLEARANCE
    into[swept[:, 0, 2] >= high[2]] = -np.inf
    return float(into.max())


def _overlap(box: Bounds, low: NDArray[np.float64], high: NDArray[np.float64]) -> bool:
    """Whether two boxes touch at least."""
    return all(box.min[i] <= high[i] + TOUCH and low[i] <= box.max[i] + TOUCH for i in range(3))


def _apart(axis: int, own: Sequence[Solid], other: Sequence[Solid]) -> Pitch:
    """Of the bodies themselves, the other ones ahead: stock beside stock, fixture beside fixture."""
    best = Pitch(0.0, None, "")
    for a in own:
        for b in other:
            overlap = all(a.box.min[i] < b.box.max[i] and b.box.min[i] < a.box.max[i] for i in range(3) if i != axis)
            held = "stock" not in (a.what, b.what)
            needed = a.box.max[axis] - b.box.min[axis] + (ROOM if held else CLEARANCE)
            if overlap and needed > best.value + 1e-6:
                words = f"{a.what} beside {b.what}" if a.what != b.what else f"room between {a.what}s"
                best = Pitch(needed, None, words)
    return best


@lru_cache(maxsize=4096)
def _passes(
    axis: int, swept: Same[Boxes], off: tuple[float, float], other: tuple[Solid, ...], alone: bool  # noqa: FBT001 - a key
) -> tuple[float, float]:  # fmt: skip
    """The pitches at which what a tool sweeps clears the next piece, and the one before."""
    boxes = swept.value + np.array((*off, 0.0))
    across, most = 1 - axis, [0.0, 0.0]
    for solid in other:
        low, high = np.array(solid.box.min), np.array(solid.box.max)
        beside = boxes[:, 0, 2] < high[2]
        if alone:
            beside &= (boxes[:, 0, across] - CLEARANCE < high[across]) & (boxes[:, 1, across] + CLEARANCE > low[across])
        if not beside.any():
            continue
        ahead = float(boxes[beside, 1, axis].max()) - float(low[axis])
        behind = float(high[axis]) - float(boxes[beside, 0, axis].min())
        most = [max(most[0], ahead + CLEARANCE), max(most[1], behind + CLEARANCE)]
    return most[0], most[1]
