"""One roughing by two carriages on either side of the spindle's axis: each of its passes by one of them, two at a time.

The two of a pair start at one mark, at one speed: all pairs at that of the first, or each at its own, whichever is done
sooner with the spindle's changes of speed. The second, which goes deeper, begins so much farther out that it
follows behind the first; the next pair begins when both are over. Of four passes of 6 s each it takes the time of two,
and that of the lead. Lengths mm.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import replace
from itertools import pairwise

from lean_ledger.core.holding.standing import Standing
from lean_ledger.core.loads.before import At
from lean_ledger.core.loads.parts import PART, cut_after, part_id, passes_of
from lean_ledger.core.loads.speeds import at_speed, can_share, most_speed
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.timed import on_path
from lean_ledger.core.plan import Load
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.machines import Machine

BEHIND = 2.0  # that the deeper of two passes begins farther out
BEGIN = 0.01  # within which passes begin beside one another
TURN_BEFORE = "both sides are off the work before the next two passes"


def opposite(machine: Machine, carriage: str) -> str:
    """The carriage that works on the other side of the axis from one; "" where the machine has none."""
    side = machine.on(carriage).carriages[0].side
    return next((one.id for one in machine.carriages if one.side != side), "")


def why_not_both(op: Operation, stands: Standing, machine: Machine, load: Load) -> str:
    """Why two carriages do not make an operation of a load together; empty where they can."""
    if op.id in load.in_rows:
        return f"it runs {load.in_one_words}; let it run on each piece first"
    if machine.drum is not None or len({one.side for one in machine.carriages}) < 2:
        return f"{machine.name} has no carriages on either side of one spindle"
    if op.kind not in (OperationKind.ROUGH_TURN, OperationKind.BORE) or not can_share(op, stands):
        return "only what is roughed by turning is made from both sides"
    if op.kind == OperationKind.BORE:
        return "two bars do not go into one bore"
    passes = passes_of(op.motion.strokes)
    if len(passes) < 2:
        return "it has one pass"
    if len({round(_cut(one).points[0][2] / BEGIN) for one in passes}) > 1:
        return "its passes do not all begin at the end of the work: the tool behind would come down into it"
    if 2 * op.power > op.power_limit:
        return f"both at once would take {2 * op.power:.1f} kW of {op.power_limit:.1f}"
    return ""


def from_both(ops: Sequence[Operation], stands: Standing, machine: Machine, load: Load) -> tuple[Operation, ...]:
    """Operations with those that are wanted as their passes, at the speeds that each two of them share; what waits for
    one waits for its last two. What cannot be made so stays.
    """
    able = {op.id: len(passes_of(op.motion.strokes)) for op in ops
            if op.id in load.both_sides and not why_not_both(op, stands, machine, load)}  # fmt: skip
    if not able:
        return tuple(ops)
    found = [one for op in ops for one in (_passes(op, machine) if op.id in able else [op])]
    more = {id: [part_id(id, k) for k in range(count - 1, count + 1) if k > 1] for id, count in able.items()}
    return tuple(
        op if PART in op.id else replace(
            op, after=(*op.after, *((last, why) for id, why in op.after for last in more.get(id, ())))
        )
        for op in found
    )  # fmt: skip


def pairs_in(ops: Collection[str], wanted: Collection[str]) -> list[tuple[str, str]]:
    """Of the ids of operations those that start together."""
    found = []
    for id in wanted:
        count = 1
        while part_id(id, count + 1) in ops:
            count += 1
        found += [(part_id(id, k), part_id(id, k + 1)) for k in range(1, count, 2)] if id in ops else []
    return found


def of_the_other(id: str) -> bool:
    """Whether a pass is the other carriage's."""
    _, apart, part = id.partition(PART)
    return bool(apart) and int(part) % 2 == 0


def side_by_side(steps: Sequence[At], wanted: Collection[str]) -> list[At]:
    """Steps with the second of each pair right behind the first: no other two carriages' orders cross there."""
    second = {b: a for a, b in pairs_in({op.id for _, op in steps}, wanted)}
    if not second:
        return list(steps)
    behind = {(placed.place.id, op.id): (placed, op) for placed, op in steps if op.id in second}
    mate = {(place, second[id]): step for (place, id), step in behind.items()}
    found = []
    for placed, op in steps:
        if op.id in second:
            continue
        found.append((placed, op))
        with_it = mate.get((placed.place.id, op.id))
        found += [with_it] if with_it is not None else []
    return found


def _passes(op: Operation, machine: Machine) -> list[Operation]:
    count = len(passes_of(op.motion.strokes))
    found = list[Operation]()
    for k, motion in enumerate(cut_after(op, range(1, count + 1)), start=1):
        first = k - 1 + k % 2  # of its pair
        before = tuple((part_id(op.id, n), TURN_BEFORE) for n in (first - 2, first - 1) if n > 0)
        name = f"Pass {k} of {count}: {op.name}"
        way = _farther_out(motion) if k % 2 == 0 else motion
        found.append(on_path(replace(op, id=part_id(op.id, k), name=name, after=(*op.after, *before)), way, machine))
    return min((_turning(found, size, machine) for size in (2, count)), key=lambda ops: _seconds(ops, machine))


def _turning(ops: Sequence[Operation], size: int, machine: Machine) -> list[Operation]:
    """So many of them each at one speed, as fast as the farthest out of them goes."""
    found = list[Operation]()
    for k in range(0, len(ops), size):
        own = ops[k : k + size]
        n = float(int(min(map(most_speed, own))))
        found += [at_speed(one, n, machine) for one in own]
    return found


def _seconds(ops: Sequence[Operation], machine: Machine) -> float:
    """Of all pairs one after the other, and of the spindle's changes of speed between them."""
    speeds = [op.cutting.n for op in ops[::2]]
    changes = sum(a != b for a, b in pairwise(speeds))
    pairs = (max(op.time.cut + op.time.rapid for op in ops[k : k + 2]) for k in range(0, len(ops), 2))
    return sum(pairs) + changes * machine.spindle.start


def _cut(one: Sequence[Stroke]) -> Stroke:
    return next(stroke for stroke in one if not stroke.is_rapid)


def _farther_out(motion: Motion) -> Motion:
    """With its cut begun farther out along the axis."""
    cut = _cut(motion.strokes)
    (x, y, z), second = cut.points[0], cut.points[1]
    out = (x, y, z + (BEHIND if second[2] < z else -BEHIND))
    strokes = []
    for stroke in motion.strokes:
        points = stroke.points
        if stroke is cut:
            points = (out, *points[1:])
        elif points[-1] == cut.points[0]:
            points = (*points[:-1], out)
        strokes.append(replace(stroke, points=points))
    return replace(motion, strokes=tuple(strokes))
