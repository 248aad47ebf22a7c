"""Round holes: spot, drill, counterbore, countersink, tap; large ones are milled."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import radians, tan

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Chapter, Cure, Figure, Severity
from lean_ledger.core.features import Hole, HoleSegment
from lean_ledger.core.geometry.vectors import Vec, add, dot, neg, scale
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import Settled, settle_plunge, settle_tap
from lean_ledger.core.operations.depths import depth_of, formula_of
from lean_ledger.core.operations.holes.hole_paths import drill_path, shortest_tour, tap_path
from lean_ledger.core.operations.holes.thread_milling import thread_mill_operation
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.paths import APPROACH
from lean_ledger.core.operations.milling.regions import Flat
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.safe.short_holes import BREAK_THROUGH
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.library.types import Thread, Tool, ToolKind

PECK_FROM = 3.0  # × diameter of depth
PECK_STEP = 1.5  # × diameter
SPOT_OVER = 0.4  # mm that a spot is wider than the hole: breaks its edge
OPENED_ROOM = 0.5  # mm that a hole goes on beyond the tool that follows
TAP_LEAD = 3  # pitches of a tap's lead


ENTRY = 0.05  # mm within which an edge lies at a hole's entry


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


def opened_beyond(stock_below: float, later: float) -> float:
    """How far what opens a through hole goes on beyond it, mm, at its full diameter.

    A tap, a reamer or a boring head that goes on by `later` needs a hole as far as stock stands below the exit; through
    air it needs none, and the drill only breaks through.

    >>> opened_beyond(stock_below=5, later=4.5), opened_beyond(2, 4.5), opened_beyond(0, 4.5)
    (5.0, 2, 1.0)
    """
    return max(BREAK_THROUGH, min(later + OPENED_ROOM, stock_below))


@dataclass(frozen=True)
class HoleGroup:
    """Holes alike in everything but their place, as they stand in a setup."""

    holes: tuple[Hole, ...]
    points: tuple[Flat, ...]
    entry: float  # level of the entry
    segments: tuple[HoleSegment, ...]  # from the setup's top down
    behind: tuple[str, ...] = ()  # of holes in line with these, across a gap, that the same tool goes on through
    beyond: float = BREAK_THROUGH  # mm that what opens a through hole goes on at its full diameter

    @property
    def first(self) -> Hole:
        return self.holes[0]

    @property
    def ids(self) -> tuple[str, ...]:
        return (*(hole.id for hole in self.holes), *self.behind)

    @property
    def label(self) -> str:
        """How the sheet names it: '6 × Ø5, 14 deep'."""
        count = f"{len(self.holes)} × " if len(self.holes) > 1 else ""
        depth = "through" if self.first.through else f"{self.first.depth:g} deep"
        depth = f"in line over {self.first.depth:g}, {depth}" if self.behind else depth
        return f"{count}Ø{self.first.diameter:g}, {depth}"


def group_holes(place: Workplace, holes: Sequence[Hole]) -> list[HoleGroup]:
    groups: dict[tuple[object, ...], list[Hole]] = {}
    lines = {from_above(place, hole): behind for hole, behind in in_line(place, holes).items()}
    for hole in lines:
        said = replace(place.plan.said_of(hole.id), feature="", note="")
        key = (
            hole.diameter,
            hole.depth,
            hole.through,
            _segments(place, hole),
            round(_entry(place, hole), 3),
            said,
            place.plan.chain_of(hole.id),
        )
        groups.setdefault(key, []).append(hole)
    found = []
    for members in groups.values():
        points = place.frame.flat(hole.position for hole in members)
        behind = tuple(id for hole in members for id in lines[hole])
        found.append(
            HoleGroup(
                tuple(members),
                shortest_tour(points),
                round(_entry(place, members[0]), 5),
                _segments(place, members[0]),
                behind,
            )
        )
    return found


def in_line(place: Workplace, holes: Sequence[Hole]) -> dict[Hole, tuple[str, ...]]:
    """Plain holes of one size behind one another, across gaps, as one hole over all of them, with the ids of those
    behind the first: the far eye of a fork is only reached through the near one, by the same tool in one go.
    """
    lines: dict[str, tuple[Hole, tuple[str, ...]]] = {hole.id: (hole, ()) for hole in holes}
    open_below: dict[tuple[object, ...], str] = {}  # the id of the first hole of a line
    for hole in sorted(holes, key=lambda h: -_entry(place, h)):
        plain = all(s.shape == "cylinder" and abs(s.to_diameter - hole.diameter) < 1e-3 for s in hole.segments)
        if not plain or hole.thread is not None or place.plan.thread_in(hole):
            continue
        x, y, _ = place.frame.point(hole.position)
        said = replace(place.plan.said_of(hole.id), feature="", note="")
        key = (round(x, 2), round(y, 2), round(hole.diameter, 3), said, place.plan.chain_of(hole.id))
        first = open_below.pop(key, hole.id)
        if first != hole.id:
            line, behind = lines[first]
            lines[first] = (_over_both(place, line, hole), (*behind, hole.id))
            del lines[hole.id]
        if hole.through:
            open_below[key] = first
    return dict(lines.values())


def _over_both(place: Workplace, near: Hole, far: Hole) -> Hole:
    """From the entry of the near one to the end of the far one, along the tool's way."""
    top = max((near.position, _far_end(near)), key=place.z)
    low = min((far.position, _far_end(far)), key=place.z)
    depth = round(place.z(top) - place.z(low), 5)
    segment = HoleSegment("cylinder", near.diameter, near.diameter, depth)
    return replace(
        near, position=top, axis=neg(place.frame.up), depth=depth, through=far.through, segments=(segment,)
    )  # fmt: skip


def from_above(place: Workplace, hole: Hole) -> Hole:
    """A plain hole as it is drilled: from the top of the material, where that is not cut down to its entry before."""
    entry = _entry(place, hole)
    plain = all(s.shape == "cylinder" and abs(s.to_diameter - hole.diameter) < 1e-3 for s in hole.segments)
    if not plain or place.plan.thread_in(hole) or hole.thread is not None or _is_open(place, hole, entry):
        return hole
    over = round(place.top - entry, 5)
    top = max((hole.position, _far_end(hole)), key=place.z)
    depth = round(hole.depth + over, 5)
    segment = HoleSegment("cylinder", hole.diameter, hole.diameter, depth)
    return replace(
        hole, position=add(top, scale(place.frame.up, over)), axis=neg(place.frame.up), depth=depth, segments=(segment,)
    )


def _is_open(place: Workplace, hole: Hole, entry: float) -> bool:
    """Whether the faces that a hole begins in are made before it, so that nothing stands over it any more."""
    if entry >= place.top - ENTRY:
        return True
    solid, own = place.part.model.solid, set(hole.faces)
    owner = {face: feature for feature in place.part.features for face in feature.faces}
    begins_in = {
        owner[face].id
        for edge in solid.edges
        if own & set(edge.faces) and max(place.z(p) for p in edge.points) > entry - ENTRY
        for face in edge.faces
        if face not in own and face in owner and owner[face].kind not in ("chamfer", "fillet")
    }
    made = place.hold.held.made | place.done | {f for op in place.operations for f in op.features}
    return bool(begins_in) and begins_in <= made


def _far_end(hole: Hole) -> Vec:
    return add(hole.position, scale(hole.axis, hole.depth))


def _entry(place: Workplace, hole: Hole) -> float:
    return max(place.z(hole.position), place.z(_far_end(hole)))


def _segments(place: Workplace, hole: Hole) -> tuple[HoleSegment, ...]:
    if dot(hole.axis, place.frame.up) < 0:
        return hole.segments
    return tuple(
        HoleSegment(s.shape, s.to_diameter, s.from_diameter, s.depth, s.angle) for s in reversed(hole.segments)
    )


def drill_cut(group: HoleGroup, diameter: float, tip_angle: float = 140) -> DrillCut:
    hole = group.first
    if hole.through:
        return DrillCut(diameter, tip_angle, hole.depth, group.beyond)
    return DrillCut(diameter, tip_angle, hole.depth, to_tip=flat_floor(hole))


def flat_floor(hole: Hole) -> bool:
    return not hole.through and hole.segments[-1].shape == "cylinder"


def hop_over(place: Workplace, group: HoleGroup) -> float:
    """Height of the hops between holes: just above the entry where that is the top, else the clearance plane."""
    return group.entry + APPROACH if group.entry >= place.top - 1e-6 else place.clearance


def spot_operation(place: Workplace, group: HoleGroup, diameter: float) -> Operation:
    widest = diameter + SPOT_OVER
    drills = choose.usable(place.library, place.material, [ToolKind.SPOT_DRILL])
    hand = place.hand
    wide = [t for t in drills if t.diameter >= widest and hand.minutes(t) < hand.change + hand.setting]
    rule = (
        choose.best(wide, lambda t: -hand.minutes(t))
        or choose.at_least(ToolKind.SPOT_DRILL, widest, place.library, place.material)
        or choose.best(drills, lambda t: t.diameter)
    )
    id = place.id_of(group.first.id, OperationKind.SPOT)
    tool = place.tool(id, OperationKind.SPOT, rule)
    if tool is None:
        raise PlanError("no-spot-drill", f"the library has no spot drill for {place.material.name}", place.setup)
    named = Named(id, OperationKind.SPOT, f"Spot {group.label}", group.ids, group.first.id)
    thinner = sorted((t for t in drills if t.diameter < tool.diameter), key=lambda t: -t.diameter)
    tries = [_spotted(place, group, id, t, widest) for t in (tool, *(thinner if tool is rule else ()))]
    spot = next((one for one in tries if place.comes_down(named, one.tool, one.motion)), tries[0])
    return place.add(named, spot.tool, spot.settled, spot.motion, depth=spot.depth, figures=(spot.figure,))


@dataclass(frozen=True)
class _Spot:
    tool: Tool
    settled: Settled
    motion: Motion
    depth: float
    figure: Figure


def _spotted(place: Workplace, group: HoleGroup, id: str, tool: Tool, widest: float) -> _Spot:
    depth = round(min(widest, tool.diameter) / 2 / tan(radians(tool.tip_angle / 2)), 4)
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_plunge(tool, data, place.material, place.machine, place.edit(id), depth)
    motion = drill_path(
        group.points, group.entry, depth, 0.0, settled.cutting.vf, hop_over(place, group), place.clearance
    )
    formula = f"spot Ø{min(widest, tool.diameter):.1f} / 2 / tan({tool.tip_angle / 2:g}°)"
    return _Spot(tool, settled, motion, depth, Figure("depth", formula, depth, "mm"))


def pilot_operation(place: Workplace, group: HoleGroup, drill: Tool) -> Operation | None:
    """A short hole of its own size in which a slender drill begins; None, and said, where nothing makes one."""
    id = place.id_of(group.first.id, OperationKind.DRILL, "-pilot")
    rule = choose.pilot_for(drill, place.library, place.material, place.hand)
    tool = place.tool(id, OperationKind.DRILL, rule)
    if tool is None:
        place.find(
            "no-pilot", Severity.WARNING, f"No short drill makes a pilot for {drill.description}.",
            f"It is {drill.cutting_length / drill.diameter:.0f} × D long and wanders where it begins in no hole.",
            features=group.ids,
        )  # fmt: skip
        return None
    depth = round(choose.PILOT_DEEP * drill.diameter, 4)
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_plunge(tool, data, place.material, place.machine, place.edit(id), depth)
    hop = hop_over(place, group)
    motion = drill_path(group.points, group.entry, depth, 0.0, settled.cutting.vf, hop, place.clearance)
    figure = Figure("depth", f"{choose.PILOT_DEEP:g} × Ø{drill.diameter:g}, to the tip", depth, "mm")
    named = Named(id, OperationKind.DRILL, f"Pilot for {group.label}", group.ids, group.first.id)
    return place.add(named, tool, settled, motion, depth=depth, figures=(figure,))


def drill_operation(place: Workplace, group: HoleGroup, tool: Tool, wanted: float | None = None) -> Operation:
    """`wanted` is the diameter that it has to leave, where nothing opens the hole after it."""
    id = place.id_of(group.first.id, OperationKind.DRILL)
    cut = drill_cut(group, tool.diameter, tool.tip_angle)
    deep = depth_of(
        place, id, OperationKind.DRILL, group.entry, group.first.depth, group.ids, deeper=group.first.through
    )
    if place.measured[id].words:  # by hand: just so deep
        cut = replace(cut, depth=deep, break_through=0.0)
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_plunge(tool, data, place.material, place.machine, place.edit(id), cut.travel)
    peck = PECK_STEP * tool.diameter if cut.depth > PECK_FROM * tool.diameter else 0.0
    motion = drill_path(
        group.points,
        group.entry,
        round(cut.travel, 5),
        peck,
        settled.cutting.vf,
        hop_over(place, group),
        place.clearance,
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
    if wanted is not None:
        _check_size(place, group, tool, id, wanted)
    return place.add(
        Named(
            id,
            OperationKind.DRILL,
            f"Drill {group.label}"
            if tool.diameter == group.first.diameter
            else f"Drill Ø{tool.diameter:g} for {group.label}",
            group.ids,
            group.first.id,
        ),
        tool,
        settled,
        motion,
        depth=cut.travel,
        figures=tuple(figures),
    )


def _check_size(place: Workplace, group: HoleGroup, tool: Tool, operation: str, wanted: float) -> None:
    if abs(tool.diameter - wanted) > choose.SAME_DIAMETER:
        place.find(
            "drill-size", Severity.ERROR,
            f"{tool.description} drills {group.label} to another size than {wanted:g}.",
            "The hole would not be the one the drawing asks for.",
            features=group.ids, operation=operation,
            cures=(Cure("Let the rule choose", {"change": "edit-operation", "operation": operation,
                                                "clear": ["tool"]}),),
        )  # fmt: skip


def tap_operation(place: Workplace, group: HoleGroup, thread: Thread) -> Operation | None:
    id = place.id_of(group.first.id, OperationKind.TAP)
    depth = thread_depth(thread, group.first.depth, group.first.through)
    depth = depth_of(
        place, id, OperationKind.TAP, group.entry, depth, group.ids, deeper=group.first.through, shorter=True
    )
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
        milled = thread_mill_operation(place, group, thread, hop_over(place, group))
        if milled is not None:
            return milled
        place.lack(
            "no-tap",
            f"There is no tap or thread mill {thread.name} for {group.label} ({', '.join(group.ids)}).",
            "Order one and add it to the library, or name another thread.",
            features=group.ids,
            cures=(
                Cure("Take the thread off", {"change": "set-thread", "diameter": group.first.diameter, "thread": None}),
            ),
            wanted=f"tap {thread.name}, or a thread mill of pitch {thread.pitch:g}",
        )
        return None
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_tap(tool, data, place.machine, place.edit(id), depth)
    motion = tap_path(
        group.points,
        group.entry,
        round(depth, 5),
        tool.pitch,
        settled.cutting.vf,
        hop_over(place, group),
        place.clearance,
    )
    formula = (
        f"{group.first.depth:g} + {TAP_LEAD} · {thread.pitch:g}"
        if group.first.through
        else f"{group.first.depth:g} − {TAP_LEAD} · {thread.pitch:g} − 1"
    )
    return place.add(
        Named(id, OperationKind.TAP, f"Tap {thread.name} in {group.label}", group.ids, group.first.id),
        tool,
        settled,
        motion,
        depth=depth,
        figures=(Figure("thread depth", formula_of(place, id, formula), depth, "mm"),),
    )
