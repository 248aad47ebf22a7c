"""One run over all pieces of an advance of the bar: turning along it, and drilling on the spindle's axis, goes on
behind a piece through the next ones, before any of them is cut off.

Levels are along the spindle, in the axes of the piece that is farthest out: 0 and up is that piece, those behind it lie
below. Lengths mm.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise
from math import hypot

from lean_ledger.core.loads.bars import made_by_the_blade, step_of
from lean_ledger.core.loads.layout import InOne, Layout
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.holes.drilling import PECK_FROM, PECK_STEP
from lean_ledger.core.operations.holes.hole_paths import holes_path
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.types import ToolKind

SAME = 1e-6
PLUNGES = (81, 83)  # canned cycles that go on through: a tap and a reamer turn round at a depth of their own


def why_not_through(where: Layout, op: Operation) -> str:
    """Why an operation runs on each piece of an advance; empty where it goes through all of them."""
    built = where.placed[0].built
    if op.kind == OperationKind.CUT_OFF:
        return "the blade cuts one piece off after the other"
    if op.id in made_by_the_blade(built):
        return "the first piece alone has it, the blade faces those behind"
    if op.kind == OperationKind.SPOT:
        return "it only begins a hole: where the drill goes through all pieces, the first alone has it"
    words = _why_not_drilled(where, built, op) if op.motion.cycle is not None else _why_not_turned(where, built, op)
    if words:
        return words
    by_id = {one.id: one for one in built.operations}
    for before, _ in op.after:
        one = by_id.get(before)
        if one is None or before in (*where.load.out, *made_by_the_blade(built)) or begins_hole(one, op):
            continue
        if before not in where.load.in_rows or why_not_through(where, one):
            return f"“{one.name}” comes before it on each piece"
    return ""


def begins_hole(one: Operation, drilled: Operation) -> bool:
    """Whether it is needed only where a drill begins: one that goes through all pieces begins in the first."""
    return one.kind == OperationKind.SPOT and drilled.motion.cycle is not None


def begun_once(built: BuiltSetup, through: Sequence[InOne]) -> tuple[str, ...]:
    """Operations that the first piece alone has, since the drill after them goes through all."""
    by_id = {op.id: op for op in built.operations}
    drills = [by_id[one.operation] for one in through if one.operation in by_id]
    return tuple(
        before for op in drills for before, _ in op.after if before in by_id and begins_hole(by_id[before], op)
    )


def _ends(built: BuiltSetup) -> tuple[float, float]:
    """Levels of a piece's back and front, as it is sold."""
    part = built.home.frame.box(built.hold.held.part.model.solid.bounds)
    return part.min[2], part.max[2]


def _why_not_turned(where: Layout, built: BuiltSetup, op: Operation) -> str:
    if not op.motion.turned or op.motion.lead > 0 or op.way != built.home:
        return "only what is turned along the bar or drilled on its axis goes on from piece to piece"
    back, front = _ends(built)
    across = False
    for stroke in op.motion.strokes:
        for a, b in pairwise(stroke.points):
            if any(back + SAME < p[2] < front - SAME for p in (a, b)):
                return "its path turns within the piece"
            if (a[2] > back + SAME) == (b[2] > back + SAME):
                continue
            if abs(a[0] - b[0]) > SAME or abs(a[1] - b[1]) > SAME:
                return "its path is not parallel to the bar"
            across = across or not stroke.is_rapid
    if not across:
        return "its path does not go along all of the piece"
    deep = front - min(p[2] for s in op.motion.strokes for p in s.points) + farther(where)
    if op.tool.kind == ToolKind.BORING_BAR and deep > op.tool.reach:
        return f"{op.tool.description} reaches {op.tool.reach:g} deep, all pieces are {deep:.0f}"
    return ""


def _why_not_drilled(where: Layout, built: BuiltSetup, op: Operation) -> str:
    cycle, axis = op.motion.cycle, built.hold.centre
    assert cycle is not None
    if (
        op.way != built.home
        or len(cycle.points) != 1
        or hypot(cycle.points[0][0] - axis[0], cycle.points[0][1] - axis[1]) > 0.01
    ):
        return "only what is drilled on the spindle's axis goes on from piece to piece"
    if cycle.code not in PLUNGES or cycle.bottom > _ends(built)[0] + SAME:
        return "it ends within the piece"
    deep = _ends(built)[1] - cycle.bottom + farther(where)
    if deep > op.tool.cutting_length:
        return f"{op.tool.description} cuts {op.tool.cutting_length:g} deep, all pieces are {deep:.0f}"
    return ""


def farther(where: Layout) -> float:
    """From the first piece of an advance to the last."""
    first = where.placed[0]
    return (len(where.placed) - 1) * step_of(first.decision, first.built)


def through_all(where: Layout, op: Operation) -> Motion:
    """The path of an operation through all pieces of an advance.

    A pass from 9.5 to 0 over a piece of 8 is, over five of them 11.7 apart, one from 9.5 to −46.8.
    """
    built, by = where.placed[0].built, farther(where)
    cycle = op.motion.cycle
    if cycle is not None:
        deep = cycle.r - cycle.bottom + by
        peck = cycle.peck or (PECK_STEP * op.tool.diameter if deep > PECK_FROM * op.tool.diameter else 0.0)
        longer = replace(cycle, code=83 if 0 < peck < deep else 81, bottom=cycle.bottom - by, peck=peck)
        clearance = op.motion.start[2]
        return holes_path(longer, clearance if cycle.to_clearance else 0.0, clearance)
    back = _ends(built)[0] + SAME
    strokes = tuple(
        Stroke(tuple(p if p[2] > back else (p[0], p[1], p[2] - by) for p in s.points), s.feed_mm_per_min)
        for s in op.motion.strokes
    )
    return replace(op.motion, strokes=strokes)


def as_one_meets(motion: Motion, own: Motion) -> Motion:
    """What a piece alone meets of a path that goes on behind it: no lower than its own goes."""
    lowest = min(p[2] for s in own.strokes for p in s.points)
    strokes = tuple(
        Stroke(tuple((x, y, max(z, lowest)) for x, y, z in s.points), s.feed_mm_per_min) for s in motion.strokes
    )
    return replace(motion, strokes=strokes, cycle=own.cycle, turned=own.turned)
