"""What stands where a tool comes down at rapid: it looks at the stock as it lies after all that must come before.

The stock of a way is a set of areas with a top; what an operation has gone over at a level is cleared down to that
level. An operation may only count on what it waits for: in whatever order the rest is put, its rapids go through air.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from math import ceil, hypot, inf

import shapely
from shapely.geometry import MultiLineString, Point
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.holes.hole_paths import holes_path
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.many import put_together
from lean_ledger.core.operations.milling.paths import APPROACH, RAMP_FEED
from lean_ledger.core.operations.milling.slowed import lines_of
from lean_ledger.core.operations.model import HoleCycle, Motion, Operation
from lean_ledger.core.operations.safe.cleared import Path, area_of, cleared_near, path_of, plunges, way_of, went
from lean_ledger.core.operations.safe.holders import holder_meets, off_stock
from lean_ledger.core.operations.safe.stock_there import (
    GRAZE,
    LEAST_AREA,
    SAME,
    Standing,
    left_before,
    standing_at,
    stands,
)
from lean_ledger.core.operations.safe.thin_walls import thin_walls_last
from lean_ledger.core.operations.safe.tool_outline import slices_of
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.timing.motion import Stroke, feed, rapid
from lean_ledger.library.types import Tool

NARROW = 0.1  # mm: half of a strip that others leave and that is no more than a finishing cut


@dataclass
class _Looking:
    """At one way of a setup: what stands, what each operation may count on."""

    place: Workplace
    standing: Standing
    by_id: Mapping[str, Operation]

    def counts_on(self, op: Operation) -> list[Operation]:
        """All that must come before it."""
        seen: dict[str, None] = {}
        waiting = [id for id, _ in op.after]
        while waiting:
            id = waiting.pop()
            if id in self.by_id and id not in seen:
                seen[id] = None
                waiting += [before for before, _ in self.by_id[id].after]
        return [self.by_id[id] for id in seen]


def safe_operations(place: Workplace) -> list[Operation]:
    """What remains of a way's operations without those that are withheld, their rapids held to air: first what clears
    the way, else the rest of it at feed. Those of many alike features are one in the end.
    """
    place.drop_withheld()  # nobody counts on what is not made
    thin_walls_last(place)
    _holders_off(place)
    looking = _looking_at(place)
    for op in list(place.operations):
        if op.motion.turns:
            continue
        blocked = _blocked(looking, op)
        if not blocked:
            continue
        mended = _let_clear(looking, op, blocked)
        rest = _blocked(looking, mended)
        if rest:
            mended = place.moved(mended, _from_above(looking, mended, rest))
        looking.by_id = {**looking.by_id, mended.id: place.exchange(mended)}
    for op in list(place.operations):
        if op.rate > 0 and not op.motion.turns and _meets_more(looking, op):
            place.fed_again(op, looking.counts_on(op))
    place.operations, place.findings = put_together(
        place.operations, place.findings, place.led, place.machine, place.over
    )
    return place.operations


def _looking_at(place: Workplace) -> _Looking:
    return _Looking(place, standing_at(place), {op.id: op for op in place.operations})


def _holders_off(place: Workplace) -> None:
    """No holder runs into stock that is yet to be cut: that is cut first, else the way keeps off it, and says so."""
    if place.machine.turns_work:
        return
    held = place.hold.held
    looking = _looking_at(place)
    if held.finished is not None or held.made or place.done:
        looking.standing = left_before(place)
    for op in list(place.operations):
        by_hand = op.measured is not None and op.measured.words
        if op.motion.turns or op.motion.probes or by_hand:
            continue
        met = holder_meets(op, looking.standing, place.top, looking.counts_on(op))
        if not met:
            continue
        mended = _let_clear(looking, op, [(one.stroke, one.top, one.at, one.rest) for one in met])
        before = looking.counts_on(mended)
        path, left_out = off_stock(mended, looking.standing, place.top, before, place.clearance)
        if path is not mended.motion:
            _say_holder(place, op, left_out, made=path is not None)
            if path is not None:
                mended = place.moved(mended, path)
                place.cut_along[op.id] = lines_of(path)
        looking.by_id = {**looking.by_id, op.id: place.exchange(mended)}
    place.drop_withheld()


def _say_holder(place: Workplace, op: Operation, left_out: float, *, made: bool) -> None:
    why = f"It stands {op.tool.reach:g} out, and nothing before has cut down what stands beside it."
    if made:
        said = f"{left_out:.0f} mm of its way are left out." if left_out else "Some of its holes are left out."
        place.find("way-limited", Severity.WARNING, f"“{op.name}” keeps its holder off stock that stands beside it.",
                   f"{why} {said}", features=op.features, operation=op.id)  # fmt: skip
        return
    place.withheld.add(op.id)
    place.find(
        "would-cut", Severity.ERROR,
        f"“{op.name}” is left out: the holder of {op.tool.description} would run into stock.",
        f"{why} Take a longer tool, or make first what stands there.", features=op.features, operation=op.id,
    )  # fmt: skip


def _meets_more(looking: _Looking, op: Operation) -> bool:
    """Whether stock that it does not count on stands over what it cuts: what was to be gone by then was not made."""
    lowest = min(p[2] for s in op.motion.strokes if not s.is_rapid for p in s.points)
    level = round(lowest + op.depth, 3)
    if level >= looking.place.top - SAME:
        return False
    way = MultiLineString([[p[:2] for p in s.points] for s in op.motion.strokes if not s.is_rapid])
    around = way.convex_hull.buffer(op.tool.diameter / 2)
    over = shapely.union_all([area for area, _ in looking.standing.over(level)]).intersection(around)
    before = looking.counts_on(op)
    if over.is_empty or any(area_of(one, level).covers(over) for one in before):
        return False
    over = over.intersection(way_of(op).area(inf))
    for one in before:
        over = over.difference(cleared_near(over, one, level))
    return bool(over.buffer(-NARROW).area > LEAST_AREA)


#: Index of a stroke that comes down at rapid where something stands, how high, and where
Blocked = list[tuple[int, float, Vec, BaseGeometry]]


#: A path and the tool that goes along it
Pass = tuple[Same[Path], Tool]


def _blocked(looking: _Looking, op: Operation) -> Blocked:
    before = tuple((path_of(Same(one.motion)), one.tool) for one in looking.counts_on(op))
    return list(_blocked_on(looking.standing, (path_of(Same(op.motion)), op.tool), before))


@lru_cache(maxsize=4096)
def _blocked_on(
    standing: Standing, own: Pass, before: tuple[Pass, ...]
) -> tuple[tuple[int, float, Vec, BaseGeometry], ...]:
    """Kept by the very same paths: an edit leaves most of them as they are."""
    path, tool = own[0].value, own[1]
    gone = went(*own)
    found: Blocked = []
    cuts = 0
    for i, stroke in enumerate(path.strokes):
        if not stroke.is_rapid:
            cuts += 0 if plunges(stroke) else 1
            continue
        end = stroke.points[-1]
        if end[2] >= standing.top or end[2] > stroke.points[0][2] - SAME:
            continue
        if path.r is not None and end[2] < path.r - SAME:
            continue  # a peck goes back to where it was
        rest, top = _left(standing, tool, end, before)
        if rest.is_empty:
            continue
        if cuts:
            rest = rest.difference(gone.area(end[2], cuts, near=rest))
        if stands(rest, top - end[2]):
            found.append((i, top, end, rest))
    return tuple(found)


def _left(standing: Standing, tool: Tool, at: Vec, before: Sequence[Pass]) -> tuple[BaseGeometry, float]:
    """Of what stands in the way of a tool whose tip is at a point, what nothing before has cleared; and its top."""
    parts = [_left_beside(standing, at, radius, height, before) for radius, height in slices_of(tool)[:-1]]
    parts = [(rest, top) for rest, top in parts if not rest.is_empty]
    if not parts:
        return Point(), at[2]
    return shapely.union_all([rest for rest, _ in parts]), max(top for _, top in parts)


def _left_beside(
    standing: Standing, at: Vec, radius: float, height: float, before: Sequence[Pass]
) -> tuple[BaseGeometry, float]:
    level = at[2] + height
    disc = Point(at[0], at[1]).buffer(max(radius - GRAZE, 0.05), quad_segs=24)
    parts = [(area.intersection(disc), top) for area, top in standing.over(level)
             if shapely.intersects(area, disc)]  # fmt: skip
    parts = [(part, top) for part, top in parts if stands(part, top - level)]
    if not parts:
        return Point(), level
    rest, top = shapely.union_all([part for part, _ in parts]), max(top for _, top in parts)
    for path, other in before:
        rest = went(path, other).left_of(rest, level, lambda area: stands(area, top - level))
        if not stands(rest, top - level):
            return Point(), level
    return rest, top


def _let_clear(looking: _Looking, op: Operation, blocked: Blocked) -> Operation:
    """Let come before it what clears the way, as far as that can."""
    rest = [(at, left) for _, _, at, left in blocked]
    for other in looking.by_id.values():
        if other.id == op.id or op.id in {o.id for o in looking.counts_on(other)} or other.motion.turns:
            continue
        after = [(at, left.difference(cleared_near(left, other, at[2]))) for at, left in rest]
        if any(now.area < 0.5 * was.area for (_, now), (_, was) in zip(after, rest, strict=True)):
            op = replace(op, after=(*op.after, (other.id, "it clears the way down")))
            rest = [(at, left) for at, left in after if left.area > LEAST_AREA]
            if not rest:
                break
    return op


def _from_above(looking: _Looking, op: Operation, blocked: Blocked) -> Motion:
    """At rapid only to above what stands, from there at feed; a bore in a helix that begins there."""
    top = max(top for _, top, _, _ in blocked)
    if op.motion.cycle is not None:
        return _cycle_from(op.motion.cycle, top, looking.place.clearance)
    tops = {i: top for i, top, _, _ in blocked}
    strokes: list[Stroke] = []
    for i, stroke in enumerate(op.motion.strokes):
        if i not in tops:
            strokes.append(stroke)
            continue
        level = _level(op.motion.strokes[i:])
        if op.kind == OperationKind.MILL_BORE and any(not s.is_rapid and not plunges(s) for s in level):
            strokes += [*_higher(level, tops[i]), stroke]
            continue
        start, end = stroke.points[0], stroke.points[-1]
        over = (end[0], end[1], min(tops[i] + APPROACH, start[2]))
        vf = next((s.feed_mm_per_min for s in op.motion.strokes[i + 1 :] if not s.is_rapid), op.cutting.vf)
        if over != start:
            strokes.append(rapid(start, over))
        strokes.append(feed(vf * RAMP_FEED, [over, end]))
    return replace(op.motion, strokes=tuple(strokes))


def _level(strokes: Sequence[Stroke]) -> tuple[Stroke, ...]:
    """From a rapid down to the one that goes back to where it began; empty where there is none."""
    start = strokes[0].points[0]
    for k, stroke in enumerate(strokes[1:], start=1):
        if stroke.is_rapid and abs(stroke.points[-1][2] - start[2]) < SAME:
            back = stroke.points[-1]
            home = () if hypot(back[0] - start[0], back[1] - start[1]) < SAME else (rapid(back, start),)
            return (*strokes[: k + 1], *home)
    return ()


def _higher(level: Sequence[Stroke], top: float) -> list[Stroke]:
    """The same level again and again above itself, the highest first, so that nothing is left between it and a top."""
    cuts = [p[2] for s in level if not s.is_rapid and not plunges(s) for p in s.points]
    step = max(cuts) - min(cuts)
    if step < SAME:
        return []
    clear = level[0].points[0][2]
    found: list[Stroke] = []
    for k in range(ceil((top - max(cuts)) / step), 0, -1):
        for stroke in level:
            points = [(x, y, z if z >= clear - SAME else min(z + k * step, clear)) for x, y, z in stroke.points]
            found.append(replace(stroke, points=tuple(points)))
    return [stroke for stroke in found if stroke.points[0] != stroke.points[-1] or len(stroke.points) > 2]


def _cycle_from(cycle: HoleCycle, top: float, clearance: float) -> Motion:
    raised = replace(cycle, r=round(top + APPROACH, 5))
    hop = clearance if cycle.to_clearance or raised.r >= clearance - SAME else raised.r
    return holes_path(raised, hop, clearance)
