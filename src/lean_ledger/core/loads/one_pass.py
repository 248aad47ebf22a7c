"""One pass over all pieces of a row in place of one over each: passes that go straight across a piece from outside to
outside go on straight across the next one.

A path can be drawn out so where all its points lie before or behind the stock along the row, and what goes across is
parallel to it: what lies behind is shifted by the way from the first piece to the last. Lengths mm.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.loads.advance import through_all, why_not_through
from lean_ledger.core.loads.joined import goes_on
from lean_ledger.core.loads.layout import InOne, Layout, Placed
from lean_ledger.core.loads.round_all import goes_round, round_all, why_not_round_all
from lean_ledger.core.loads.spacing import CLEARANCE, Boxes, Solid, swept_by
from lean_ledger.core.loads.straight import across, why_not_across
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.timed import on_path
from lean_ledger.core.plan import Load
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.machines import Machine

SAME = 1e-6


@dataclass(frozen=True)
class OnePass:
    """An operation over whole rows or an advance; `words` say why it cannot be, then it stays as it is."""

    operation: Operation
    rows: InOne
    words: str = ""


def one_pass(where: Layout, op: Operation, machine: Machine) -> OnePass:
    """An operation of a load over all pieces of each row along X, else along Y; on a bar through all of an advance."""
    if machine.turns_work:
        return _through_advance(where, op, machine)
    pieces = next(own for own in where.by_setup if own[0].decision.id == op.setup)
    if goes_round(op, where.load.arrangement):
        return _round(where, pieces, op, machine)
    axes = (0,) if where.load.arrangement.joined > 1 else (0, 1)
    tried = [_along(where, pieces, op, axis, machine) for axis in axes]
    return next((one for one in tried if not one.words), max(tried, key=lambda one: len(one.rows.rows) > 0))


def _through_advance(where: Layout, op: Operation, machine: Machine) -> OnePass:
    """On a bar the pieces of an advance are one row, from the farthest out on."""
    if where.load.arrangement.on_bar == 1:
        return OnePass(op, InOne(op.id, ()), "on a lathe pieces do not stand in rows")
    row = InOne(op.id, (tuple(one.place.id for one in where.placed),))
    words = why_not_through(where, op)
    if words:
        return OnePass(op, row, words)
    drawn = on_path(op, through_all(where, op), machine)
    return OnePass(replace(drawn, over=len(where.placed)), row)


def _along(where: Layout, pieces: Sequence[Placed], op: Operation, axis: int, machine: Machine) -> OnePass:
    rows = _rows(pieces, axis, where.load.arrangement.joined)
    none = OnePass(op, InOne(op.id, ()))
    if not rows:
        return replace(none, words="its pieces do not stand in rows")
    found = OnePass(op, InOne(op.id, tuple(tuple(p.place.id for p in row) for row in rows)))
    if where.load.arrangement.moved:
        return replace(found, words="pieces were moved or turned by hand")
    first, last = rows[0][0], rows[0][-1]
    words = why_not_across(Same(first.built), op.id, axis)
    if words:
        return replace(found, words=words)
    middle = sum(across(first.built, op, axis)) / 2
    long = drawn_out(op.motion, axis, middle, last.shift[axis] - first.shift[axis])
    drawn = replace(on_path(op, long, machine), over=len(rows[0]))
    if op.id in goes_on(first.built):  # what it meets beyond its bar is said of the bars
        return replace(found, operation=drawn)
    for row in rows:
        met = _met(where, drawn, row)
        if met:
            return replace(found, words=f"it would meet the {met} that stands between")
    return replace(found, operation=drawn)


def _round(where: Layout, pieces: Sequence[Placed], op: Operation, machine: Machine) -> OnePass:
    """Round all pieces of each bar or plate."""
    bars: dict[int, list[Placed]] = {}
    for one in pieces:
        bars.setdefault(one.bar, []).append(one)
    found = OnePass(op, InOne(op.id, tuple(tuple(p.place.id for p in bar) for bar in bars.values())))
    first, how = pieces[0], where.load.arrangement
    words = why_not_round_all(first.built, op)
    if words:
        return replace(found, words=words)
    drawn = replace(on_path(op, round_all(first.built, op, how), machine), over=how.in_one)
    for bar in bars.values():
        met = _met(where, drawn, bar)
        if met:
            return replace(found, words=f"it would meet the {met} that stands beside")
    return replace(found, operation=drawn)


def _rows(pieces: Sequence[Placed], axis: int, joined: int) -> list[list[Placed]]:
    """Pieces of a setup in a line along an axis, or `joined` ones of a row in one bar, from the least on; empty where
    any stands alone or lines differ.
    """
    lines: dict[object, list[Placed]] = {}
    for one in pieces:
        across = (one.station, one.row if axis == 0 else one.column)
        of_bar = (one.bar, one.station // joined)
        lines.setdefault((one.side, of_bar if one.bar else across), []).append(one)
    found = [sorted(line, key=lambda one: one.shift[axis]) for line in lines.values()]
    return found if len({len(line) for line in found}) == 1 and len(found[0]) > 1 else []


def drawn_out(motion: Motion, axis: int, middle: float, by: float) -> Motion:
    """A path with all that lies beyond the middle shifted along an axis.

    A pass from −10 to 70 over a piece of 60 is, over three of them 80 apart, one from −10 to 230.
    """

    def moved(p: Vec) -> Vec:
        if p[axis] < middle:
            return p
        return (p[0] + by, p[1], p[2]) if axis == 0 else (p[0], p[1] + by, p[2])

    return replace(
        motion,
        strokes=tuple(Stroke(tuple(moved(p) for p in s.points), s.feed_mm_per_min) for s in motion.strokes),
    )


def _met(where: Layout, drawn: Operation, row: Sequence[Placed]) -> str:
    """What of all that stands in the load a row's pass would come into; empty where it goes clear. The row's own stock
    is what it cuts, and its own fixtures are passed as each is by its own piece's path.
    """
    first, own = row[0], {one.place.id for one in row}
    by = np.array((*first.shift, 0.0))
    sweeps = [swept.boxes + by for swept in swept_by(drawn, first.built)]
    for other in where.placed:
        if other.side != first.side:
            continue
        mine = other.place.id in own
        for solid in where.stands_with(other):
            if solid.shared or (mine and solid.what == "stock"):
                continue
            if any(_inside(boxes, other, solid, 0.0 if mine else CLEARANCE) for boxes in sweeps):
                return solid.what
    return ""


def _inside(boxes: Boxes, other: Placed, solid: Solid, clearance: float) -> bool:
    there, wider = other.box(solid.box), np.array((clearance, clearance, 0.0))
    low, high = np.array(there.min) - wider + SAME, np.array(there.max) + wider - SAME
    return bool(((boxes[:, 0] < high) & (boxes[:, 1] > low)).all(axis=1).any())


def once_words(load: Load, op: Operation) -> str:
    """How an operation runs that runs once over several pieces."""
    return load.round_words if goes_round(op, load.arrangement) else load.in_one_words


def not_in_one(one: OnePass, load: Load) -> Finding:
    """What was to run once over all pieces, and cannot any more."""
    op = one.operation
    each = {"change": "set-scope", "load": load.id, "operation": op.id, "scope": "each"}
    return Finding(
        "not-in-one-pass", Severity.WARNING, Chapter.LAYOUT, f"“{op.name}” cannot run {once_words(load, op)}.",
        f"So it runs on each: {one.words}.", op.setup, operation=op.id, cures=(Cure("Run it on each", each),),
    )  # fmt: skip
