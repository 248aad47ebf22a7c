"""A piece with what holds it, turned about Z where it stands: the same cuts, told in the machine's axes.

What a way's axes count is turned, so that a path's points are others and its places on the part are the same. Degrees
are counter-clockwise, seen from above, by quarters.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.vectors import Vec, add, scale
from lean_ledger.core.holding.standing import Standing
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.timed import on_path
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.setups.ways import Way
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.machines import Machine

TURNS = (0, 90, 180, 270)
KEPT = 1024  # turned operations

_COS_SIN = {0: (1, 0), 90: (0, 1), 180: (-1, 0), 270: (0, -1)}


def turned_way(way: Way, degrees: int) -> Way:
    """With axes in which a point is where its piece has it once that is turned: (60, 10) is (−10, 60) after 90."""
    return replace(way, frame=_frame(way.frame, degrees)) if degrees else way


def turned_standing(stands: Standing, degrees: int) -> Standing:
    """About the point that sits on the mount."""
    return replace(stands, level=_frame(stands.level, degrees)) if degrees else stands


def turned_motion(motion: Motion, degrees: int) -> Motion:
    """A path with each of its points turned about the axes' origin; of the mill, nothing that turns the work."""
    if not degrees:
        return motion
    c, s = _COS_SIN[degrees % 360]

    def point(x: float, y: float) -> tuple[float, float]:
        return c * x - s * y + 0.0, s * x + c * y + 0.0

    strokes = tuple(
        Stroke(tuple((*point(p[0], p[1]), p[2]) for p in stroke.points), stroke.feed_mm_per_min)
        for stroke in motion.strokes
    )
    cycle = motion.cycle
    if cycle is not None:
        cycle = replace(cycle, points=tuple(point(x, y) for x, y in cycle.points))
    return replace(motion, strokes=strokes, cycle=cycle)


def turned(op: Operation, degrees: int, machine: Machine) -> Operation:
    """An operation at a piece that is turned; a quarter takes other seconds where X is not as quick as Y."""
    return _turned(Same(op), degrees, machine) if degrees else op


@lru_cache(maxsize=KEPT)
def _turned(op: Same[Operation], degrees: int, machine: Machine) -> Operation:
    motion = _turned_path(Same(op.value.motion), degrees)
    there = replace(op.value, way=turned_way(op.value.way, degrees))
    return replace(there, motion=motion) if degrees % 180 == 0 else on_path(there, motion, machine)


@lru_cache(maxsize=KEPT)
def _turned_path(motion: Same[Motion], degrees: int) -> Motion:
    return turned_motion(motion.value, degrees)


def turned_setup(built: BuiltSetup, degrees: int, machine: Machine) -> BuiltSetup:
    """As it stands in a load at a piece that is turned; what holds it is told in its own axes, as before."""
    return _turned_setup(Same(built), degrees, machine) if degrees else built


@lru_cache(maxsize=64)
def _turned_setup(built: Same[BuiltSetup], degrees: int, machine: Machine) -> BuiltSetup:
    one = built.value
    return replace(
        one, stands=turned_standing(one.stands, degrees), home=turned_way(one.home, degrees),
        operations=tuple(turned(op, degrees, machine) for op in one.operations),
    )  # fmt: skip


def _frame(frame: Frame, degrees: int) -> Frame:
    c, s = _COS_SIN[degrees % 360]
    right = add(scale(frame.right, c), scale(frame.back, -s))
    back = add(scale(frame.right, s), scale(frame.back, c))
    return Frame(_plain(right), _plain(back), frame.up)


def _plain(v: Vec) -> Vec:
    return (v[0] + 0.0, v[1] + 0.0, v[2] + 0.0)
