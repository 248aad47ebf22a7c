"""Round holes: spot, drill, counterbore, countersink, tap; large ones are milled."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import radians, tan

from lean_ledger.core.errors import PlanError
from lean_ledger.core.features import Hole, HoleSegment
from lean_ledger.core.findings import Chapter, Cure, Figure, Severity
from lean_ledger.core.geometry.vectors import add, dot, scale
from lean_ledger.core.operations import choose
from lean_ledger.core.operations.clearing import (
    Clearing,
    clear_operation,
    finish_walls_operation,
    rough_operation,
)
from lean_ledger.core.operations.cutting import settle_plunge, settle_tap
from lean_ledger.core.operations.helical import Bore
from lean_ledger.core.operations.model import Operation, OperationKind
from lean_ledger.core.operations.paths import (
    APPROACH,
    drill_path,
    ream_path,
    shortest_tour,
    tap_path,
)
from lean_ledger.core.operations.regions import Flat, circle
from lean_ledger.core.operations.thread_milling import thread_mill_operation
from lean_ledger.core.operations.workplace import BREAK_THROUGH, Workplace
from lean_ledger.core.tolerance import asks_for, read_tolerance
from lean_ledger.library.types import Thread, Tool, ToolKind

PECK_FROM = 3.0  # × diameter of depth
PECK_STEP = 1.5  # × diameter
SPOT_OVER = 0.4  # mm that a spot is wider than the hole: breaks its edge
REAM_ALLOWANCE = (0.5, 0.1)  # mm of diameter that a drill leaves to a reamer, at the most and at the least
REAM_BEYOND, REAM_SHORT = 2.0, 1.0  # mm beyond a through hole, and off the bottom of a blind one
TAP_LEAD = 3  # pitches of a tap's lead


@dataclass(frozen=True)
class DrillCut:
    """A twist drill's way through a hole, lengths in mm."""

    diameter: float
    tip_angle: float  # included, degrees
    depth: float  # full diameter, from the entry face
    break_through: float = 0.0  # beyond the exit face; 0 for a blind hole
    to_tip: bool = False  # the depth is the tip's: a flat floor is finished after

    @property
    def tip_length(self) -> float:
        """D/2 / tan(tip angle/2): 0.3004 D at 118°."""
        return self.diameter / 2 / tan(radians(self.tip_angle / 2))

    @property
    def travel(self) -> float:
        """Way of the tip below the entry face: the full diameter reaches the depth, a through hole is left whole."""
        return self.depth if self.to_tip else self.depth + self.tip_length + self.break_through


def thread_depth(thread: Thread, hole_depth: float, through: bool) -> float:  # noqa: FBT001 - a fact of the hole
    """How deep a tap goes: right through and its lead beyond, or short of the drilled depth by the lead + 1 mm.

    >>> thread_depth(Thread("M6", "", 6, 1.0, 5.0), 16, through=False)  # 16 − 3·1 − 1
    12.0
    """
    if through:
        return hole_depth + TAP_LEAD * thread.pitch
    return hole_depth - TAP_LEAD * thread.pitch - 1.0


@dataclass(frozen=True)
class HoleGroup:
    """Holes alike in everything but their place, as they stand in a setup."""

    holes: tuple[Hole, ...]
    points: tuple[Flat, ...]
    entry: float  # level of the entry
    segments: tuple[HoleSegment, ...]  # from the setup's top down

    @property
    def first(self) -> Hole:
        return self.holes[0]

    @property
    def ids(self) -> tuple[str, ...]:
        return tuple(hole.id for hole in self.holes)

    @property
    def label(self) -> str:
        """How the sheet names it: '6 × Ø5, 14 deep'."""
        count = f"{len(self.holes)} × " if len(self.holes) > 1 else ""
        depth = "through" if self.first.through else f"{self.first.depth:g} deep"
        return f"{count}Ø{self.first.diameter:g}, {depth}"


def group_holes(place: Workplace, holes: Sequence[Hole]) -> list[HoleGroup]:
    groups: dict[tuple[object, ...], list[Hole]] = {}
    for hole in holes:
        said = replace(place.plan.said_of(hole.id), feature="", note="")
        key = (hole.diameter, hole.depth, hole.through, _segments(place, hole), round(_entry(place, hole), 3), said)
        groups.setdefault(key, []).append(hole)
    found = []
    for members in groups.values():
        points = place.frame.flat(hole.position for hole in members)
        found.append(
            HoleGroup(
                tuple(members),
                shortest_tour(points),
                round(_entry(place, members[0]), 5),
                _segments(place, members[0]),
            )
        )
    return found


def _entry(place: Workplace, hole: Hole) -> float:
    end = add(hole.position, scale(hole.axis, hole.depth))
    return max(place.z(hole.position), place.z(end))


def _segments(place: Workplace, hole: Hole) -> tuple[HoleSegment, ...]:
    if dot(hole.axis, place.frame.up) < 0:
        return hole.segments
    return tuple(
        HoleSegment(s.shape, s.to_diameter, s.from_diameter, s.depth, s.angle) for s in reversed(hole.segments)
    )


def hole_operations(place: Workplace, group: HoleGroup) -> None:
    hole = group.first
    name = place.plan.thread_in(hole)
    thread = place.library.thread(name) if name else None
    reamer = _reamer(place, group) if thread is None else None
    diameter = _drilled_diameter(place, group, reamer)
    cut = _drill_cut(group, diameter)
    chosen = choose.drill_for(diameter, cut.travel, place.library, place.material)
    drill = place.tool(place.id_of(hole.id, OperationKind.DRILL), OperationKind.DRILL, chosen)
    chain: list[Operation] = []
    if drill is not None:
        chain.append(spot_operation(place, group, diameter))
        chain.append(drill_operation(place, group, drill))
    else:
        milled = _mill_bore(place, group, diameter, cut.depth)
        if not milled:
            _no_drill(place, group, diameter, cut.travel)
            return
        chain += milled
    chain += _widenings(place, group, drilled=drill)
    if thread is not None:
        tapped = tap_operation(place, group, thread)
        if tapped is not None:
            chain.append(tapped)
    elif reamer is not None:
        chain.append(_ream(place, group, reamer))
    for before, after in itertools.pairwise(chain):
        place.require(after, before.id, f"{before.kind.value} before {after.kind.value}")


def _drilled_diameter(place: Workplace, group: HoleGroup, reamer: Tool | None) -> float:
    """What is drilled: the tap drill's size, a reamer's allowance below the hole, else the hole itself."""
    name = place.plan.thread_in(group.first)
    thread = place.library.thread(name) if name else None
    if thread is not None:
        return thread.tap_drill
    if reamer is None:
        return group.first.diameter
    low, high = (reamer.diameter - part for part in REAM_ALLOWANCE)
    drills = choose.usable(place.library, place.material, [ToolKind.DRILL])
    fitting = choose.best([d for d in drills if low <= d.diameter <= high], lambda d: d.diameter)
    return fitting.diameter if fitting else reamer.diameter - REAM_ALLOWANCE[1]


def _reamer(place: Workplace, group: HoleGroup, *, told: bool = False) -> Tool | None:
    """The reamer for holes whose tolerance asks for one; that there is none is a finding, told once."""
    hole = group.first
    said = place.plan.said_of(hole.id)
    asked = asks_for(hole, said.tolerance)
    if not asked:
        return None
    fitting = [
        t for t in choose.usable(place.library, place.material, [ToolKind.REAMER])
        if abs(t.diameter - hole.diameter) < 1e-3 and t.reach >= hole.depth
    ]  # fmt: skip
    rule = choose.best(fitting, lambda t: t.reach) if asked == "reaming" else None
    tool = place.tool(place.id_of(hole.id, OperationKind.REAM), OperationKind.REAM, rule)
    if tool is None and not told:
        width = read_tolerance(said.tolerance, hole.diameter).width
        place.find(
            "tolerance-not-made", Severity.WARNING,
            f"{group.label} ({', '.join(group.ids)}) asks for {asked}: {said.tolerance} is {width * 1000:.0f} µm wide.",
            f"The library has no reamer of {hole.diameter:g} that is long enough." if asked == "reaming"
            else "A bore milled in circles holds about 50 µm; no operation here bores it with a boring head.",
            chapter=Chapter.PART, features=group.ids,
            cures=(Cure("Leave to another shop", {"change": "leave-out", "features": list(group.ids),
                                                  "reason": "made elsewhere"}),
                   Cure("Take the tolerance off", {"change": "say-tolerance", "features": list(group.ids),
                                                   "tolerance": None})),
            wanted=f"reamer Ø{hole.diameter:g} {said.tolerance} that reaches {hole.depth:g}"
            if asked == "reaming" else "",
        )  # fmt: skip
    return tool


def _ream(place: Workplace, group: HoleGroup, tool: Tool) -> Operation:
    id = place.id_of(group.first.id, OperationKind.REAM)
    hole = group.first
    depth = round(hole.depth + REAM_BEYOND if hole.through else hole.depth - REAM_SHORT, 5)
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_plunge(tool, data, place.material, place.machine, place.edit(id), depth)
    motion = ream_path(group.points, group.entry, depth, settled.cutting.vf, _hop(place, group), place.clearance)
    formula = f"{hole.depth:g} + {REAM_BEYOND:g}" if hole.through else f"{hole.depth:g} − {REAM_SHORT:g}"
    tolerance = place.plan.said_of(hole.id).tolerance
    return place.add(
        id, OperationKind.REAM, f"Ream {group.label} {tolerance}", group.ids, tool, settled, motion,
        chain=hole.id, depth=depth, figures=(Figure("depth", formula, depth, "mm"),),
    )  # fmt: skip


def _drill_cut(group: HoleGroup, diameter: float, tip_angle: float = 140) -> DrillCut:
    hole = group.first
    if hole.through:
        return DrillCut(diameter, tip_angle, hole.depth, BREAK_THROUGH)
    return DrillCut(diameter, tip_angle, hole.depth, to_tip=_flat_floor(hole))


def _flat_floor(hole: Hole) -> bool:
    return not hole.through and hole.segments[-1].shape == "cylinder"


def _hop(place: Workplace, group: HoleGroup) -> float:
    """Height of the hops between holes: just above the entry where that is the top, else the clearance plane."""
    return group.entry + APPROACH if group.entry >= place.top - 1e-6 else place.clearance


def spot_operation(place: Workplace, group: HoleGroup, diameter: float) -> Operation:
    widest = diameter + SPOT_OVER
    in_use = [op.tool for op in place.operations if op.kind == OperationKind.SPOT and op.tool.diameter >= widest]
    rule = (
        choose.best(in_use, lambda t: -t.diameter)
        or choose.at_least(ToolKind.SPOT_DRILL, widest, place.library, place.material)
        or choose.best(choose.usable(place.library, place.material, [ToolKind.SPOT_DRILL]), lambda t: t.diameter)
    )
    id = place.id_of(group.first.id, OperationKind.SPOT)
    tool = place.tool(id, OperationKind.SPOT, rule)
    if tool is None:
        raise PlanError("no-spot-drill", f"the library has no spot drill for {place.material.name}", place.setup)
    depth = round(min(widest, tool.diameter) / 2 / tan(radians(tool.tip_angle / 2)), 4)
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_plunge(tool, data, place.material, place.machine, place.edit(id), depth)
    motion = drill_path(group.points, group.entry, depth, 0.0, settled.cutting.vf, _hop(place, group), place.clearance)
    return place.add(
        id, OperationKind.SPOT, f"Spot {group.label}", group.ids, tool, settled, motion, chain=group.first.id,
        depth=depth,
        figures=(Figure("depth", f"spot Ø{min(widest, tool.diameter):.1f} / 2 / tan({tool.tip_angle / 2:g}°)",
                        depth, "mm"),),
    )  # fmt: skip


def drill_operation(place: Workplace, group: HoleGroup, tool: Tool) -> Operation:
    id = place.id_of(group.first.id, OperationKind.DRILL)
    cut = _drill_cut(group, tool.diameter, tool.tip_angle)
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_plunge(tool, data, place.material, place.machine, place.edit(id), cut.travel)
    peck = PECK_STEP * tool.diameter if cut.depth > PECK_FROM * tool.diameter else 0.0
    motion = drill_path(
        group.points, group.entry, round(cut.travel, 5), peck, settled.cutting.vf, _hop(place, group), place.clearance
    )
    parts = [f"{cut.depth:g} deep"]
    if not cut.to_tip:
        parts.append(f"tip {tool.diameter:g}/2/tan {tool.tip_angle / 2:g}° = {cut.tip_length:.3f}")
    if cut.break_through:
        parts.append(f"break-through {cut.break_through:g}")
    figures = [Figure("travel", " + ".join(parts), cut.travel, "mm")]
    if peck:
        assert motion.cycle is not None
        count = len(motion.cycle.depths())
        figures.append(Figure("pecks", f"deeper than 3 D: {count} of at most {PECK_STEP:g} D", count, ""))
    _check_size(place, group, tool, id)
    return place.add(
        id, OperationKind.DRILL, f"Drill {group.label}" if tool.diameter == group.first.diameter
        else f"Drill Ø{tool.diameter:g} for {group.label}",
        group.ids, tool, settled, motion, chain=group.first.id, depth=cut.travel, figures=tuple(figures),
    )  # fmt: skip


def _check_size(place: Workplace, group: HoleGroup, tool: Tool, operation: str) -> None:
    wanted = _drilled_diameter(place, group, _reamer(place, group, told=True))
    if abs(tool.diameter - wanted) > choose.SAME_DIAMETER:
        place.find(
            "drill-size", Severity.ERROR,
            f"{tool.description} drills {group.label} to another size than {wanted:g}.",
            "The hole would not be the one the drawing asks for.",
            features=group.ids, operation=operation,
            cures=(Cure("Let the rule choose", {"change": "edit-operation", "operation": operation,
                                                "clear": ["tool"]}),),
        )  # fmt: skip


def _no_drill(place: Workplace, group: HoleGroup, diameter: float, travel: float) -> None:
    place.find(
        "no-drill", Severity.ERROR,
        f"No tool makes {group.label} ({', '.join(group.ids)}).",
        f"The library has no drill of {diameter:g} that reaches {travel:.1f}, and no end mill that fits inside. "
        "Add one to the library, or leave the holes to another shop.",
        features=group.ids,
        cures=(Cure("Leave to another shop", {"change": "leave-out", "features": list(group.ids),
                                              "reason": "made elsewhere"}),),
        wanted=f"drill Ø{diameter:g} that reaches {travel:.1f}",
    )  # fmt: skip


def _mill_bore(place: Workplace, group: HoleGroup, diameter: float, depth: float) -> list[Operation]:
    """Clear and finish a round hole that no drill makes; through ones to below the far face."""
    bottom = group.entry - depth - (BREAK_THROUGH if group.first.through else 0.0)
    rough_id = place.id_of(group.first.id, OperationKind.MILL_BORE)
    rule = choose.boring_mill(diameter, group.entry - bottom, place.library, place.material, place.machine)
    rough_tool = place.tool(rough_id, OperationKind.MILL_BORE, rule)
    if rough_tool is None:
        return []
    regions = tuple(circle(point, diameter) for point in group.points)
    edit = place.edit(rough_id)
    allowance = edit.allowance if edit.allowance is not None else place.material.wall_allowance
    work = Clearing(regions, group.entry, round(bottom, 5), group.ids, group.first.id)
    hole = Bore(group.points, diameter, group.entry, round(bottom, 5), _hop(place, group))
    rough = rough_operation(
        place, rough_id, OperationKind.MILL_BORE, f"Mill bore {group.label}", rough_tool, work, allowance, hole=hole
    )
    finish_id = place.id_of(group.first.id, OperationKind.FINISH_WALL)
    tool = place.tool(finish_id, OperationKind.FINISH_WALL, rough_tool)
    if tool is None:
        return [rough]
    return [
        rough,
        finish_walls_operation(
            place, finish_id, f"Finish bore {group.label}", tool, work, allowance, before=rough_tool
        ),
    ]


def _widenings(place: Workplace, group: HoleGroup, drilled: Tool | None) -> list[Operation]:
    """Counterbores, countersinks and flat floors, from the entry inward."""
    found: list[Operation] = []
    level = group.entry
    main = group.first.diameter
    for number, segment in enumerate(group.segments):
        bottom = level - segment.depth
        if segment.shape == "cylinder" and segment.from_diameter > main + 0.01:
            found += _counterbore(place, group, segment.from_diameter, level, bottom, number)
        elif segment.shape == "cone" and segment.from_diameter > segment.to_diameter > 0 and number == 0:
            found += _countersink(place, group, segment, level)
        level = bottom
    if drilled is not None and _flat_floor(group.first):
        tip = DrillCut(drilled.diameter, drilled.tip_angle, 0).tip_length
        floor = group.entry - group.first.depth
        found += _counterbore(place, group, main, floor + tip, floor, len(group.segments), "Flat floor of")
    return found


def _counterbore(
    place: Workplace, group: HoleGroup, diameter: float, top: float, bottom: float, number: int, verb: str = ""
) -> list[Operation]:
    id = place.id_of(group.first.id, OperationKind.COUNTERBORE, f"-{number}" if number else "")
    deep = group.entry - bottom
    rule = choose.boring_mill(diameter, deep, place.library, place.material, place.machine)
    tool = place.tool(id, OperationKind.COUNTERBORE, rule)
    if tool is None:
        place.find(
            "no-counterbore-tool", Severity.ERROR,
            f"No end mill makes the counterbore Ø{diameter:g} of {', '.join(group.ids)}.",
            f"It needs one thinner than {0.8 * diameter:.1f} that reaches {deep:.1f}.", features=group.ids,
            wanted=f"end mill of at most Ø{0.8 * diameter:.1f} that reaches {deep:.1f}",
        )  # fmt: skip
        return []
    regions = tuple(circle(point, diameter) for point in group.points)
    name = f"{verb or f'Counterbore Ø{diameter:g}, {top - bottom:g} deep, on'} {group.label}"
    work = Clearing(regions, top, bottom, group.ids, group.first.id, predrilled=True)
    return [clear_operation(place, id, OperationKind.COUNTERBORE, name, tool, work, 0.0)]


def _countersink(place: Workplace, group: HoleGroup, segment: HoleSegment, entry: float) -> list[Operation]:
    id = place.id_of(group.first.id, OperationKind.COUNTERSINK)
    fitting = [
        t
        for t in choose.usable(place.library, place.material, OperationKind.COUNTERSINK.tool_kinds)
        if abs(t.tip_angle - segment.angle) < 0.5 and t.diameter >= segment.from_diameter - 0.01
    ]
    tool = place.tool(id, OperationKind.COUNTERSINK, choose.best(fitting, lambda t: -t.diameter))
    if tool is None:
        place.find(
            "no-countersink", Severity.ERROR,
            f"No countersink of {segment.angle:g}° is as wide as Ø{segment.from_diameter:g} "
            f"({', '.join(group.ids)}).",
            "Add one to the library, or leave the countersinks to deburring.", features=group.ids,
            wanted=f"countersink of {segment.angle:g}°, Ø{segment.from_diameter:g} or more",
        )  # fmt: skip
        return []
    travel = round(segment.from_diameter / 2 / tan(radians(tool.tip_angle / 2)), 5)
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_plunge(tool, data, place.material, place.machine, place.edit(id), travel)
    motion = drill_path(group.points, entry, travel, 0.0, settled.cutting.vf, _hop(place, group), place.clearance)
    formula = f"Ø{segment.from_diameter:g} / 2 / tan({tool.tip_angle / 2:g}°)"
    return [
        place.add(
            id, OperationKind.COUNTERSINK, f"Countersink Ø{segment.from_diameter:g} on {group.label}", group.ids,
            tool, settled, motion, chain=group.first.id, depth=travel,
            figures=(Figure("travel", formula, travel, "mm"),),
        )
    ]  # fmt: skip


def tap_operation(place: Workplace, group: HoleGroup, thread: Thread) -> Operation | None:
    id = place.id_of(group.first.id, OperationKind.TAP)
    depth = thread_depth(thread, group.first.depth, group.first.through)
    if depth < thread.pitch:
        place.find(
            "thread-shallow", Severity.ERROR,
            f"{group.label} is too shallow for {thread.name}.",
            f"The tap's lead of {TAP_LEAD} pitches and 1 mm of room leave {max(0.0, depth):.1f} of thread.",
            chapter=Chapter.PART, features=group.ids,
        )  # fmt: skip
        return None
    tool = place.tool(id, OperationKind.TAP, choose.tap_for(thread.pitch, thread.major, place.library, place.material))
    if tool is None:
        milled = thread_mill_operation(place, group, thread, _hop(place, group))
        if milled is not None:
            return milled
        place.find(
            "no-tap", Severity.ERROR,
            f"There is no tap or thread mill {thread.name} for {group.label} ({', '.join(group.ids)}).",
            "Order one and add it to the library, or name another thread.", features=group.ids,
            cures=(Cure("Take the thread off", {"change": "set-thread", "diameter": group.first.diameter,
                                                "thread": None}),),
            wanted=f"tap {thread.name}, or a thread mill of pitch {thread.pitch:g}",
        )  # fmt: skip
        return None
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_tap(tool, data, place.machine, place.edit(id), depth)
    motion = tap_path(
        group.points, group.entry, round(depth, 5), tool.pitch, settled.cutting.vf, _hop(place, group), place.clearance
    )
    formula = (
        f"{group.first.depth:g} + {TAP_LEAD} · {thread.pitch:g}"
        if group.first.through
        else f"{group.first.depth:g} − {TAP_LEAD} · {thread.pitch:g} − 1"
    )
    return place.add(
        id, OperationKind.TAP, f"Tap {thread.name} in {group.label}", group.ids, tool, settled, motion,
        chain=group.first.id, depth=depth, figures=(Figure("thread depth", formula, depth, "mm"),),
    )  # fmt: skip
