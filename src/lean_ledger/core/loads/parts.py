"""One operation in parts, each at a carriage of its own: so many of its passes, or a stretch of its depth.

A roughing of four passes in two parts has two passes each. A drill from 2 down to −38 in two parts goes to −18 first;
the second comes down to 1 above that through what is drilled and goes on to −38. Lengths mm.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

import shapely
from shapely.geometry import Polygon, box
from shapely.geometry.polygon import orient

from lean_ledger.core.operations.holes.hole_paths import holes_path
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Motion, Operation, Ring2
from lean_ledger.core.operations.timed import on_path
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.machines import Machine

PART = "~"  # of an id, before which part it is: the first has the operation's own
MOST = 4
ABOVE = 1.0  # that a drill stops above what the part before left
LEAST_DEEP = 1.0  # times its diameter that a drill's part goes
FAR = 1e5
IN_TURN = "its parts come one after the other"


def most_parts(op: Operation) -> int:
    """Into how many an operation can be taken apart; 1 where it is one."""
    cycle = op.motion.cycle
    if cycle is not None:
        if cycle.code not in (81, 83) or len(cycle.points) != 1 or op.kind == OperationKind.SPOT:
            return 1
        return max(1, min(MOST, int((cycle.r - cycle.bottom) / (LEAST_DEEP * op.tool.diameter))))
    if op.kind not in (OperationKind.ROUGH_TURN, OperationKind.BORE) or op.motion.lead or not op.motion.turned:
        return 1
    return max(1, min(MOST, len(passes_of(op.motion.strokes))))


def whole_id(part: str) -> str:
    """Of the operation that a part is of."""
    return part.partition(PART)[0]


def part_id(operation: str, part: int) -> str:
    """Of a part, counted from 1."""
    return operation if part == 1 else f"{operation}{PART}{part}"


def in_parts(ops: Sequence[Operation], split: Sequence[tuple[str, int]], machine: Machine) -> tuple[Operation, ...]:
    """Operations with those that are taken apart as their parts; what waits for one waits for its last part."""
    wanted = dict(split)
    found, last = list[Operation](), dict[str, str]()
    for op in ops:
        count = min(wanted.get(op.id, 1), most_parts(op))
        found += _parts(op, count, machine) if count > 1 else [op]
        if count > 1:
            last[op.id] = part_id(op.id, count)
    if not last:
        return tuple(ops)
    return tuple(
        op if op.id.partition(PART)[0] in last and PART in op.id
        else replace(op, after=(*op.after, *((last[id], why) for id, why in op.after if id in last)))
        for op in found
    )  # fmt: skip


def _parts(op: Operation, count: int, machine: Machine) -> list[Operation]:
    motions = _depths(op.motion, count) if op.motion.cycle is not None else _runs(op, count)
    found = []
    for k, motion in enumerate(motions, start=1):
        after = ((part_id(op.id, k - 1), IN_TURN),) if k > 1 else ()
        one = replace(op, id=part_id(op.id, k), name=f"{op.name}, part {k} of {count}", after=(*op.after, *after))
        found.append(on_path(one, motion, machine))
    return found


def _depths(motion: Motion, count: int) -> list[Motion]:
    cycle = motion.cycle
    assert cycle is not None
    clearance, step = motion.start[2], (cycle.r - cycle.bottom) / count
    hop = clearance if cycle.to_clearance else 0.0
    found = []
    for k in range(count):
        top = cycle.r if k == 0 else cycle.r - k * step + ABOVE
        bottom = cycle.bottom if k == count - 1 else cycle.r - (k + 1) * step
        code = 83 if 0 < cycle.peck < top - bottom else 81
        made = holes_path(replace(cycle, code=code, r=top, bottom=bottom), hop, clearance)
        found.append(replace(motion, strokes=made.strokes, cycle=made.cycle))
    return found


def passes_of(strokes: Sequence[Stroke]) -> list[list[Stroke]]:
    """Strokes by the cut that they belong to: the way in, the cut, the way off up to where the next one begins."""
    found: list[list[Stroke]] = []
    waiting: list[Stroke] = []
    for stroke in strokes:
        if not stroke.is_rapid:
            found.append([*waiting, stroke])
            waiting = []
        elif not found:
            waiting.append(stroke)
        else:
            found[-1].append(stroke)
    return found


def _runs(op: Operation, count: int) -> list[Motion]:
    """So many passes each that they cut about as far, what each takes told by how deep it goes."""
    lengths = [sum(s.length for s in one if not s.is_rapid) for one in passes_of(op.motion.strokes)]
    return cut_after(op, _ends(lengths, count))


def cut_after(op: Operation, ends: Iterable[int]) -> list[Motion]:
    """Its path cut after so many passes each."""
    passes = passes_of(op.motion.strokes)
    found, begin = list[Motion](), 0
    for end in ends:
        strokes = [stroke for one in passes[begin:end] for stroke in one]
        if end < len(passes):  # it stays before the next one's depth
            *before, off = strokes
            strokes = [*before, Stroke(off.points[:-1])] if off.is_rapid and len(off.points) > 2 else strokes
        deep = _deepest(op, passes[end - 1]) if end < len(passes) else None
        found.append(replace(op.motion, strokes=tuple(strokes), turned=_taken(op, deep)))
        begin = end
    return found


def _ends(lengths: Sequence[float], count: int) -> list[int]:
    """After how many passes each part ends, one at the least in each: 4, 2, 1, 1 in two parts end after 1 and 4."""
    total, found = sum(lengths), list[int]()
    for k in range(1, count):
        least = (found[-1] if found else 0) + 1
        able = range(least, len(lengths) - (count - k) + 1)
        found.append(min(able, key=lambda end: (abs(sum(lengths[:end]) - k * total / count), end)))
    return [*found, len(lengths)]


def _deepest(op: Operation, one: Sequence[Stroke]) -> float:
    """Radius that a pass goes along at: the nearest to the axis outside, the farthest in a bore."""
    x = op.motion.axis[0]
    radii = [abs(p[0] - x) for s in one if not s.is_rapid for p in s.points]
    return max(radii) if op.kind == OperationKind.BORE else min(radii)


def _taken(op: Operation, to: float | None) -> tuple[Ring2, ...]:
    """Of what the whole operation takes, all down to the part's own depth: what the parts before took with it, so that
    nothing stays between two that meet at a radius.
    """
    outside = op.kind != OperationKind.BORE
    low, high = (to, None) if outside else (None, to)
    band = box(low if low is not None else 0.0, -FAR, high if high is not None else FAR, FAR)
    area = shapely.union_all([Polygon(ring).buffer(0) for ring in op.motion.turned]).intersection(band)
    found = []
    for one in getattr(area, "geoms", [area]):
        if isinstance(one, Polygon) and one.area > 1e-6:
            found.append(tuple((round(r, 5), round(z, 5)) for r, z in orient(one).exterior.coords[:-1]))
    return tuple(found)
