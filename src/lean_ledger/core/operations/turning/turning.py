"""What a lathe does from one end: face, rough and finish the outside, plunge grooves, drill and bore the middle.

Paths lie in the plane of the spindle's axis: x is the radius from it, z along it, in setup axes. Speeds follow the
diameter: n = 1000·vc/(π·d), at most the spindle's; a move runs at the n of the mean of its two diameters.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil, hypot

from shapely.geometry import LineString, Polygon, box
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.findings import Chapter, Cure, Figure, Severity
from lean_ledger.core.features import Chamfer, Feature, Fillet, FreeSurface, Hole, OuterFace, Turned, flat_side
from lean_ledger.core.geometry.vectors import Vec, dot
from lean_ledger.core.holding.hold import JAW_CLEARANCE
from lean_ledger.core.operations.chains import choose_rule, facts_of_all
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.holes.boring import bore_operations
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.turning.between_jaws import between_ends, between_jaws, from_the_other_end
from lean_ledger.core.operations.turning.between_walls import (
    Recess,
    features_in,
    held_too_high,
    recess_operation,
)
from lean_ledger.core.operations.turning.lathe_paths import css, lathe_motion
from lean_ledger.core.operations.turning.parting import bore_groove_operation, cut_off
from lean_ledger.core.operations.turning.thread_turning import thread_turn_operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, PLAIN
from lean_ledger.core.setups.profile import (
    FAR,
    Profile,
    chain_of,
    is_inner,
    is_neck,
    levels_of,
    outer_chain,
    reached_chain,
    section_of,
)
from lean_ledger.core.stock import StockState
from lean_ledger.core.stock.block import Section
from lean_ledger.library.types import Tool, ToolKind

LEVEL = 0.01
LEAST = 0.05  # mm² of section that is worth a pass
ALLOWANCE = 0.4  # mm that roughing leaves on the radius
LEAD = 1.5  # mm in front of a cut
PAST_CENTRE = 0.4  # mm that facing goes beyond the middle
OVERLAP = 0.3  # mm by which two ends' turning overlaps
PLUNGE_SHARE = 0.85  # of a groove insert's width between two plunges


@dataclass
class Turning:
    """The half-sections as the lathe works: `stock` shrinks, `chain` is what this end can reach."""

    place: Workplace
    stock: BaseGeometry  # in (z, r)
    chain: Profile  # the part's own
    reach: Profile
    limit: float  # no cut on the outside below this level

    @property
    def target(self) -> Polygon:
        return section_of(self.reach)

    @property
    def radius(self) -> float:
        return float(self.stock.bounds[3])


def turn(place: Workplace, features: Sequence[Feature], state: StockState, axis: Vec) -> StockState:
    """All that is turned in one setup; returns the stock that it leaves."""
    up, part = place.frame.up, place.part
    chain = outer_chain(part, up)
    # below the part's own end there is only what the chuck holds
    limit = max(place.lowest, place.box.min[2])
    work = Turning(place, _stock_section(place, state, axis), chain, reached_chain(chain), limit)
    after = state
    if any(flat_side(f) is not None for f in features) and _face(work, features):
        side = "+" if dot(up, axis) > 0 else "-"
        after = after.faced(f"{'XYZ'[max(range(3), key=lambda i: abs(axis[i]))]}{side}")
    outside = [f for f in features if _is_outside(part, f)]
    rings = [f for f in features if isinstance(f, Turned) and (f.where == "groove" or is_neck(part, f))]
    inner = [f for f in rings if is_inner(part, f)]
    grooves = [f for f in rings if f not in inner]
    rest = _below(work.stock, work.limit).difference(work.target)
    stands_out = _below(work.target, work.limit).area > LEAST  # else only stock does, before an end between the jaws
    if outside and rest.area > LEAST and stands_out:
        ids = tuple(f.id for f in outside)
        widest = max((f.diameter for f in outside if isinstance(f, Turned)), default=2 * work.radius)
        rule = choose_rule(place, ids, facts_of_all(place, ids, "turned", widest), lambda _: "")
        before = len(place.operations)
        finishes = "finish turn" in rule.steps
        rough = _rough(work, ids, ALLOWANCE if finishes else 0.0)
        finish = _finish(work, ids, rest) if finishes else None
        if rough is not None and finish is not None:
            place.require(finish, rough.id, "rough before finish")
        place.made_by(rule.id, len(place.operations) - before)
        work.stock = work.stock.difference(_below(box(-FAR, 0, FAR, FAR), work.limit).difference(work.target))
    deep, covered = _recesses(work, [*outside, *grooves])
    cut = [
        levels_of(part, groove, up) for groove in grooves
        if not any(groove.id in ids for ids, _ in deep) and _groove(work, groove) is not None
    ]  # fmt: skip
    turned = [op.id for op in place.operations if op.kind in (OperationKind.ROUGH_TURN, OperationKind.FINISH_TURN)]
    cut += [(recess.low, recess.high) for _, recess in deep]
    between_jaws(place, chain, limit, [*outside, *grooves], covered)
    for op in [one for one in place.operations if one.kind in (OperationKind.GROOVE, OperationKind.TURN_RECESS)]:
        for before_it in turned:
            place.require(op, before_it, "the outside is turned before its grooves")
    for named in (f for f in outside if isinstance(f, Turned) and f.where == "outside"):
        thread = place.library.thread(place.plan.said_of(named.id).thread)
        if thread is None and named.thread is not None:
            _unnamed(place, named)
        made = thread_turn_operation(place, named, thread, work.chain) if thread is not None else None
        for op in list(place.operations) if made is not None else ():
            if op.kind in (OperationKind.FINISH_TURN, OperationKind.GROOVE, OperationKind.TURN_RECESS):
                place.require(made, op.id, "the outside is turned before its thread")  # type: ignore[arg-type]
    faced = [op.id for op in place.operations if op.kind == OperationKind.FACE_TURN]
    for hole in (f for f in features if isinstance(f, Hole)):
        there = len(place.operations)
        bore_operations(place, hole)
        for first in place.operations[there : there + 1]:
            for end in faced:
                place.require(first, end, "the end is faced before it is drilled")
    for ring in inner:
        bore_groove_operation(place, ring)
    after = _left(work, after, axis, cut)
    return cut_off(place, after, axis, work.radius)


def _unnamed(place: Workplace, turned: Turned) -> None:
    drawn = turned.thread
    assert drawn is not None
    if place.plan.said_of(turned.id).thread != PLAIN:
        place.find(
            "thread-not-named", Severity.ERROR, f"Nothing turns the thread of {turned.id}.",
            f"The model has a helix of Ø{drawn.diameter:g} with a pitch of {drawn.pitch:g} there, and no thread of the "
            "library is named for it. Name one, or say that it is plain.",
            chapter=Chapter.PART, features=(turned.id,),
            cures=(Cure("Leave it plain", {"change": "say-thread", "features": [turned.id], "thread": PLAIN}),),
        )  # fmt: skip


def _stock_section(place: Workplace, state: StockState, axis: Vec) -> BaseGeometry:
    sign = 1 if dot(place.frame.up, axis) > 0 else -1
    if state.turned:
        return Polygon([(z * sign, r) for z, r in state.turned]).buffer(0)
    size = place.stock.size
    # corners of a square block go round farther than its sides, a hexagon's are as wide as its box
    of_bar = state.section in (Section.ROUND, Section.HEX)
    radius = max(size[0], size[1]) / 2 if of_bar else hypot(size[0], size[1]) / 2
    return box(place.stock.min[2], 0.0, place.stock.max[2], radius)


def _below(section: BaseGeometry, limit: float) -> BaseGeometry:
    """What a cut may take: all above the limit."""
    return section.intersection(box(limit, 0, FAR, FAR))


def _is_outside(part, feature: Feature) -> bool:  # type: ignore[no-untyped-def]
    if isinstance(feature, Turned):
        if feature.where == "end":
            return bool(feature.region)
        return feature.where in ("outside", "taper") and not is_neck(part, feature)
    if isinstance(feature, Chamfer | Fillet | FreeSurface):
        return not any(part.model.solid.faces[f].inward for f in feature.faces)
    return isinstance(feature, OuterFace)


def _tool(place: Workplace, id: str, kind: OperationKind, wanted: ToolKind, radius: float) -> Tool | None:
    """The insert whose nose is nearest to a radius: blunt to rough, fine to finish."""
    tools = choose.usable(place.library, place.material, [wanted])
    return place.tool(id, kind, choose.best(tools, lambda t: -abs(t.corner_radius - radius), place.hand))


def _no_insert(place: Workplace, features: tuple[str, ...], what: str, cures: tuple[Cure, ...] = ()) -> None:
    place.lack(
        "no-insert",
        f"No insert of the library {what} in {place.material.name}.",
        "Add one, or make it elsewhere.",
        features=features,
        wanted=f"insert that {what}",
        cures=cures,
    )


def _face(work: Turning, features: Sequence[Feature]) -> bool:
    place = work.place
    top, high = place.box.max[2], float(work.stock.bounds[2])
    over = round(high - top, 5)
    if over <= LEVEL:
        return False
    ends = tuple(f.id for f in map(flat_side, features) if f is not None and abs(place.z(f.region[0][0]) - top) < LEVEL)
    if top < work.limit - JAW_CLEARANCE - LEVEL:
        between_jaws(place, work.chain, work.limit, (), ends)
        return False
    id = place.id_of("end", OperationKind.FACE_TURN)
    tool = _tool(place, id, OperationKind.FACE_TURN, ToolKind.TURNING, 0.8)
    if tool is None:
        _no_insert(place, ends, "faces")
        return False
    spun = css(place, tool, id, over, min(place.material.face_ap, tool.cutting_length), 2 * work.radius)
    passes = spun.settled.cutting.passes
    cuts = []
    for k in range(1, passes + 1):
        z = high - over * k / passes
        cuts.append([(work.radius + LEAD, z), (-PAST_CENTRE, z)])
    ring = ((0.0, top), (work.radius + LEAD, top), (work.radius + LEAD, high + LEAD), (0.0, high + LEAD))
    place.add(
        Named(id, OperationKind.FACE_TURN, f"Face end, {over:g} off", ends, "end", outer=True),
        tool,
        spun.settled,
        lathe_motion(place, spun, cuts, (ring,), high + LEAD, work.radius),
        depth=over,
        figures=spun.figures,
    )
    work.stock = work.stock.intersection(box(-FAR, 0, top, FAR))
    return True


def _rough(work: Turning, features: tuple[str, ...], usual: float) -> Operation | None:
    """Along the axis, layer by layer, leaving `usual` where nothing else is set."""
    place = work.place
    id = place.id_of("outside", OperationKind.ROUGH_TURN)
    tool = _tool(place, id, OperationKind.ROUGH_TURN, ToolKind.TURNING, 0.8)
    if tool is None:
        _no_insert(place, features, "turns")
        return None
    edit = place.edit(id)
    left = edit.allowance if edit.allowance is not None else usual
    grown = work.target.buffer(left, join_style="mitre") if left > 0 else work.target
    rest = _below(work.stock, work.limit).difference(grown)
    if rest.area <= LEAST:
        return None
    low, high = float(rest.bounds[1]), work.radius
    spun = css(place, tool, id, high - low, tool.cutting_length / 2, 2 * high, allowance=left)
    passes = spun.settled.cutting.passes
    cuts, rings = [], []
    for k in range(1, passes + 1):
        r = high - (high - low) * k / passes
        line = LineString([(-FAR, r + 1e-3), (FAR, r + 1e-3)]).intersection(rest)
        for piece in sorted(getattr(line, "geoms", [line]), key=lambda one: -one.bounds[2]):
            if piece.is_empty or piece.length < 0.05:
                continue
            start, end = piece.bounds[2] + LEAD, piece.bounds[0]
            cuts.append([(r, start), (r, end)])
            rings.append(((r, end), (high + LEAD, end), (high + LEAD, start), (r, start)))
    if not cuts:
        return None
    top = max(z for cut in cuts for _, z in cut)
    return place.add(
        Named(
            id,
            OperationKind.ROUGH_TURN,
            f"Rough outside, Ø{2 * high:.1f} to Ø{2 * low:.1f}",
            features,
            "outside",
            outer=True,
        ),
        tool,
        spun.settled,
        lathe_motion(place, spun, cuts, tuple(rings), top, high),
        depth=round(high - low, 4),
        figures=spun.figures,
    )


def _finish(work: Turning, features: tuple[str, ...], rest: BaseGeometry) -> Operation | None:
    """Once along the part, from the free end to where this end's stock ends."""
    place = work.place
    id = place.id_of("outside", OperationKind.FINISH_TURN)
    tool = _tool(place, id, OperationKind.FINISH_TURN, ToolKind.TURNING, 0.4)
    if tool is None:
        _no_insert(place, features, "finishes")
        return None
    stop = max(work.limit, float(rest.bounds[0]) - OVERLAP)
    kept = work.target.intersection(box(stop, 0, FAR, FAR))
    chain = [(z, r) for z, r in chain_of(kept) if z > stop + 1e-6 or r > 1e-6]
    line = [(r, z) for z, r in chain if r > 1e-6]
    if len(line) < 2:
        return None
    spun = css(place, tool, id, ALLOWANCE, ALLOWANCE, 2 * max(r for r, _ in line), share=0.5)
    top = line[0][1] + LEAD
    out = work.radius + LEAD
    ring = (*line, (out, line[-1][1]), (out, top), (line[0][0], top))
    return place.add(
        Named(
            id,
            OperationKind.FINISH_TURN,
            f"Finish outside, {line[0][1] - line[-1][1]:.1f} long",
            features,
            "outside",
            outer=True,
        ),
        tool,
        spun.settled,
        lathe_motion(place, spun, [[(line[0][0], top), *line]], (ring,), top, work.radius),
        depth=ALLOWANCE,
        figures=spun.figures,
    )


def _groove(work: Turning, groove: Turned) -> Operation | None:
    place = work.place
    low, high = levels_of(place.part, groove, place.frame.up)
    width, bottom = high - low, groove.diameter / 2
    around = max((r for z, r in work.reach if low - 1 <= z <= high + 1), default=bottom)
    if around - bottom < LEVEL:  # nothing stands there to plunge into
        return None
    id = place.id_of(groove.id, OperationKind.GROOVE)
    fitting = [
        t for t in choose.usable(place.library, place.material, [ToolKind.GROOVING])
        if t.diameter <= width + LEVEL and t.cutting_length >= around - bottom
    ]  # fmt: skip
    tool = place.tool(id, OperationKind.GROOVE, choose.best(fitting, lambda t: t.diameter, place.hand))
    if tool is None:
        what = f"plunges a groove {width:g} wide and {around - bottom:.1f} deep"
        _no_insert(place, (groove.id,), what, from_the_other_end(place, (groove.id,)))
        return None
    if low < work.limit:
        return None
    count = 1 + ceil(round(max(0.0, width - tool.diameter) / (PLUNGE_SHARE * tool.diameter), 6))
    step = (width - tool.diameter) / (count - 1) if count > 1 else 0.0
    spun = css(place, tool, id, around - bottom, around - bottom, 2 * around)
    # the insert's lower corner leads: its place is named by it
    cuts = [[(around + LEAD, low + k * step), (bottom, low + k * step)] for k in range(count)]
    ring = ((bottom, low), (around + LEAD, low), (around + LEAD, high), (bottom, high))
    return place.add(
        Named(id, OperationKind.GROOVE, f"Groove {groove.id}, {width:g} wide", (groove.id,), groove.id, outer=True),
        tool,
        spun.settled,
        lathe_motion(place, spun, cuts, (ring,), high + LEAD, around),
        depth=around - bottom,
        figures=(*spun.figures, Figure("plunges", f"{width:g} wide, insert {tool.diameter:g}", count, "")),
    )


def _recesses(work: Turning, outside: Sequence[Feature]) -> tuple[list[tuple[tuple[str, ...], Recess]], list[str]]:
    """What is turned between walls, with the ids of its features; and the features that the jaws keep a tool from."""
    place = work.place
    made: list[tuple[tuple[str, ...], Recess]] = []
    covered: list[str] = []
    for recess, ids in features_in(place.part, outside, place.frame.up):
        if held_too_high(place, recess, work.chain, work.reach, work.limit):
            covered += ids
        if recess.low < work.limit - LEVEL:
            continue
        if recess_operation(place, recess, ids, work.chain, work.reach, work.limit) is not None:
            made.append((ids, recess))
    return made, covered


def _left(work: Turning, state: StockState, axis: Vec, grooves: Sequence[tuple[float, float]]) -> StockState:
    """The stock afterwards; its walls count as at size from the free end down to where this end no longer reaches."""
    sign = 1 if dot(work.place.frame.up, axis) > 0 else -1
    left = max(getattr(work.stock, "geoms", [work.stock]), key=lambda p: p.area)
    ring = tuple((round(z * sign, 5), round(r, 5)) for z, r in list(left.exterior.coords)[:-1])
    sides = [side for side, _ in state.round_over] if state.turned else list(DIRECTIONS)
    state = replace(state, turned=ring)
    missed = section_of(work.reach).difference(section_of(work.chain))
    for low, high in grooves:
        missed = missed.difference(box(low - LEVEL, 0, high + LEVEL, FAR))
    over = work.stock.difference(section_of(work.reach))
    lower = max([work.limit, *(g.bounds[2] for g in (missed, over) if not g.is_empty and g.area > LEAST)])
    top = work.place.box.max[2]
    if lower >= top - LEVEL:
        return state
    low, high = sorted((max(lower, work.place.box.min[2]) * sign, top * sign))
    if state.walls is not None and dot(state.walls.axis, axis) > 0.5:
        between_ends(work.place, work.chain, axis, min(high, state.walls.high), max(low, state.walls.low))
    outlined = state.outlined(axis, low, high)
    assert outlined.walls is not None
    kept = Polygon(ring).buffer(0).intersection(box(outlined.walls.low + LEVEL, 0, outlined.walls.high - LEVEL, FAR))
    radius = 0.0 if kept.is_empty else float(kept.bounds[3])
    over_sides = _round_over(work.place.part, radius, axis, sides)
    # the bar's own flats stand no farther out than they came
    return replace(outlined, round_over=tuple((side, min(by, state.over[side])) for side, by in over_sides))


def _round_over(part: Part, radius: float, axis: Vec, sides: Sequence[str]) -> tuple[tuple[str, float], ...]:
    """By how much turned walls stand over some of the part's sides: where a flat is still to be cut."""
    assert part.axis is not None
    solid, found = part.model.solid.bounds, []
    for side in sides:
        direction = DIRECTIONS[side]
        if abs(dot(direction, axis)) < LEVEL:
            far = max(dot(direction, solid.min), dot(direction, solid.max)) - dot(direction, part.axis.point)
            found.append((side, round(max(radius - far, 0.0), 5)))
    return tuple(found)
