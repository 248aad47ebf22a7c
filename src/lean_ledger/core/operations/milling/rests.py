"""What the operations of recesses leave between them: taken by a mill that comes to most of it.

A recess is cleared within its own outline. Where others open into it, a mill may come through these to what its own
path is too narrow for.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, inf, pi

import numpy as np
import shapely
from shapely.geometry import Point, box
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.flat import polygons
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import Wish, settle
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.paths import Down
from lean_ledger.core.operations.milling.recesses import Recessed
from lean_ledger.core.operations.milling.surface_paths import Over, levels_off_part
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.safe.cleared import area_of
from lean_ledger.core.operations.safe.shadows import bores_along, part_above
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.library.types import Tool, ToolKind

OVER_FLOOR = 0.02  # mm above a floor, from where what rises counts
THIN = 0.06  # mm: half of a strip that is no more than a finishing cut
REST = "-rest"  # in the id of an operation that takes what others leave
LEAST = 0.25  # mm² that are worth an operation
NEARLY = 0.97  # of what the best mill comes to, with which another is as good
MILLS = (ToolKind.END_MILL, ToolKind.FACE_MILL)
#: What a rest is cleared after, since its mill comes through there.
BEFORE = (
    OperationKind.ROUGH_POCKET, OperationKind.FINISH_FLOOR, OperationKind.FINISH_WALL, OperationKind.CLEAN_CORNERS
)  # fmt: skip


@dataclass(frozen=True)
class _Rest:
    recess: Recessed
    area: BaseGeometry  # that nothing has cleared down to the floor, and where the part does not stand
    keep_off: BaseGeometry  # of the part, what rises above the floor, with what stays on it
    left: float  # mm that stay on walls
    thinnest: float  # mm of diameter that a mill for it has at least


def rest_operations(place: Workplace, recesses: Sequence[Recessed]) -> None:
    """One for each floor over which something is left that a mill reaches."""
    mills = [op for op in place.operations if op.tool.kind in MILLS and op.id not in place.withheld]
    around = {op.id: _around(op) for op in mills}
    for recess in recesses:
        own = [op for op in mills if op.chain == recess.feature.id]
        by_hand = any(place.edit(op.id).tool is not None for op in own)  # what that leaves has findings of its own
        if by_hand or not recess.has_floor or not _goes_down(own, recess.bottom):
            continue
        there = box(*recess.region.polygon.bounds)
        others = [op for op in mills if op not in own and around[op.id].intersects(there)]
        rest = _rest(place, recess, own, others)
        if rest is not None:
            _clear(place, rest)


def _around(op: Operation) -> BaseGeometry:
    points = np.array([p for s in op.motion.strokes if not s.is_rapid for p in s.points]).reshape(-1, 3)[:, :2]
    if not len(points):
        return Point()
    return box(*points.min(axis=0), *points.max(axis=0)).buffer(op.tool.diameter / 2)


def _goes_down(own: Sequence[Operation], floor: float) -> bool:
    """Whether a recess's own operations go down to its floor: by hand they may stop above it."""
    levels = [p[2] for op in own for s in op.motion.strokes if not s.is_rapid for p in s.points]
    return min(levels, default=inf) <= floor + OVER_FLOOR


def _rest(
    place: Workplace, recess: Recessed, own: Sequence[Operation], others: Sequence[Operation]
) -> _Rest | None:  # fmt: skip
    level, solid = recess.bottom, place.part.model.solid
    # what its own operations leave on the walls at last, by hand or by the rule, stays on them
    left = min((op.cutting.allowance for op in own if op.kind != OperationKind.FINISH_FLOOR), default=0.0)
    if _is_thin(_without(recess.region.polygon, own, level), left):
        return None  # wherever the part stands
    over = Over(solid.mesh, place.frame)
    keep_off = part_above(over, bores_along(Same(solid), place.frame), round(level + OVER_FLOOR, 6))
    keep_off = keep_off.buffer(left) if left > 0 else keep_off
    area = recess.region.polygon.intersection(box(*place.stock_rectangle)).difference(keep_off)
    for op in (*own, *others):
        area = area.difference(area_of(op, level))
        if _is_thin(area, left):
            return None
    # no mill makes a corner sharp: a thinner one than its own only leaves less to ask about
    sharp = getattr(recess.feature, "corner_radius", 0.0) == 0
    thinnest = min((op.tool.diameter for op in own if op.kind != OperationKind.FINISH_FLOOR), default=0.0)
    return _Rest(recess, area, keep_off, left, thinnest if sharp else 0.0)


def _without(area: BaseGeometry, operations: Sequence[Operation], level: float) -> BaseGeometry:
    return area.difference(shapely.union_all([area_of(op, level) for op in operations]))


def _is_thin(area: BaseGeometry, left: float = 0.0) -> bool:
    """What stays by hand ends in round corners elsewhere than it does there: that is no rest."""
    return bool(area.buffer(-max(THIN, left / 2)).area < LEAST)


def _clear(place: Workplace, rest: _Rest) -> None:
    level, feature = rest.recess.bottom, rest.recess.feature
    id = place.id_of(feature.id, OperationKind.CLEAN_CORNERS, REST)
    tool = place.tool(id, OperationKind.CLEAN_CORNERS, _mill(place, rest))
    if tool is None:
        return
    data, material = place.library.data(tool, place.material), place.material
    assert data is not None
    depth = round(place.top - level, 5)
    wish = Wish(depth, min(material.rough_ap * tool.diameter, tool.cutting_length),
                material.rough_ae * tool.diameter, rest.left)  # fmt: skip
    settled = settle(tool, data, material, place.machine, place.edit(id), wish)
    cut = settled.cutting
    down = Down(place.top, level, cut.passes, place.clearance, material.ramp_angle)
    reached = _reached(rest, tool)
    area = shapely.union_all([p for p in polygons(reached) if not _is_thin(p)])
    over = Over(place.part.model.solid.mesh, place.frame)
    motion = levels_off_part(
        over, area, tool.diameter / 2 + cut.allowance, min(cut.ae, tool.diameter / 2), down, cut.vf,
        place.stock_rectangle,
    )  # fmt: skip
    if motion is None:
        return
    named = Named(id, OperationKind.CLEAN_CORNERS, f"Clear the rest of {feature.id}", rest.recess.features, feature.id)
    if not place.comes_down(named, tool, motion):
        return
    before = [op for op in place.operations if op.kind in BEFORE]
    made = place.add(named, tool, settled, motion, depth=depth)
    # it is there for what it comes to: what it does not is left by others already
    place.findings = [f for f in place.findings if f.operation != id or f.code != "way-limited"]
    for op in before:
        place.require(made, op.id, "it comes through what is cleared around it")


def _mill(place: Workplace, rest: _Rest) -> Tool | None:
    """Of those that come to nearly as much as the best does the one that is done first, with what it costs to have it
    there.
    """
    deep = place.top - rest.recess.bottom
    mills = [
        t for t in choose.usable(place.library, place.material, [ToolKind.END_MILL])
        if t.reach >= deep and t.diameter >= rest.thinnest
    ]  # fmt: skip
    by_size = {t.diameter: _reached(rest, t) for t in mills}
    most = max((area.area for area in by_size.values()), default=0.0)
    able = [t for t in mills if by_size[t.diameter].area >= NEARLY * most and not _is_thin(by_size[t.diameter])]
    material = place.material

    def minutes(tool: Tool) -> float:
        passes = ceil(round(deep / min(material.rough_ap * tool.diameter, tool.cutting_length), 6))
        way = rest.area.length + rest.area.area / (material.rough_ae * tool.diameter) + pi * tool.diameter
        return float(way * passes / choose.feed_rate(tool, place.library, material, place.machine))

    return choose.quickest(able, minutes, place.hand)


def _reached(rest: _Rest, tool: Tool) -> BaseGeometry:
    """Of the rest what a mill covers without touching what stands around."""
    radius = tool.diameter / 2
    near = box(*rest.area.bounds).buffer(2 * tool.diameter)
    centres = near.difference(rest.keep_off.buffer(radius + THIN / 5))
    return rest.area.intersection(centres.buffer(radius))
