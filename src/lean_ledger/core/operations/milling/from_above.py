"""What is cut in one way of a setup: faced first, then recesses, holes and edges, the outline last."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial
from typing import TypeVar

from shapely.errors import GEOSException
from shapely.geometry import Point, Polygon
from shapely.prepared import prep

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Chapter, Severity
from lean_ledger.core.features import (
    Chamfer,
    Feature,
    Fillet,
    FreeSurface,
    Hole,
    OuterFace,
    Pocket,
    Slot,
    Step,
    Turned,
    flat_side,
)
from lean_ledger.core.geometry.vectors import Vec, add, dot, parallel, scale
from lean_ledger.core.geometry.views import RIGHT, back_of
from lean_ledger.core.holding import JAW_CLEARANCE
from lean_ledger.core.holding.hold import grip_of
from lean_ledger.core.operations.depths import depth_of
from lean_ledger.core.operations.holes.drilling import group_holes
from lean_ledger.core.operations.holes.holes import hole_operations
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.many import Alike
from lean_ledger.core.operations.milling.alike import Made, made_alike
from lean_ledger.core.operations.milling.milling import (
    BELOW_FLOOR,
    WALL_OVERLAP,
    Facing,
    chamfer_operation,
    face_operation,
    outline_operations,
    wall_edges,
)
from lean_ledger.core.operations.milling.recesses import (
    Recessed,
    alike_recesses,
    lower_face_in_setup,
    recess_in_setup,
    recess_operations,
)
from lean_ledger.core.operations.milling.regions import Line, Region
from lean_ledger.core.operations.milling.rests import rest_operations
from lean_ledger.core.operations.milling.surfaces import surface_operations
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import SetupDecision
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.stock import StockState

T = TypeVar("T")

LEVEL = 0.01
SAME = 1e-6

#: Words for a recess in names of operations.
NOUNS = {"pocket": "pocket", "slot": "slot", "step": "step", "face": "face", "turned": "shoulder"}


def cut_from_above(
    place: Workplace, setup: SetupDecision, axis: Vec, inner: Sequence[Feature], outline: Sequence[Feature],
    wanted: tuple[float, float] | None, state: StockState,
) -> StockState:  # fmt: skip
    """All that is cut with the holding's own side up: faced first, the outline last."""
    place.top, state_after = _face(place, setup, state, inner)
    faced = [op.id for op in place.operations]
    recesses = _recesses(place, inner)
    rest_operations(place, recesses)
    _holes(place, inner, recesses)
    inner_ids = [op.id for op in place.operations if op.id not in faced]
    ring = outline_ring(place.part, place.frame)
    if place.blank is not None and wanted is not None:
        place.later = _into_the_gap(place, inner_ids)
        inner_ids = [id for id in inner_ids if id not in place.later]
    around = len(place.operations)
    if wanted is not None:
        state_after = _outline(place, axis, wanted, ring, outline, inner_ids, state_after)
    made = place.operations[around:]
    _surfaces(place, inner, outline)
    _chamfers(place, inner, ring)
    if place.blank is not None and made:
        others = [op for op in place.operations if op.id not in faced and op not in made]
        for op in (op for op in others if _comes_out(place, op)):
            place.require(op, made[-1].id, "the way between the pieces of the bar is cut first")
    for op in list(place.operations):
        if op.id not in faced:
            for face in faced:
                place.require(op, face, "the top is faced first")
    return state_after


def _comes_out(place: Workplace, operation: Operation) -> bool:
    """Whether its tool comes out of the piece's own stock towards a next one, below its top."""
    stock, radius = place.stock, operation.tool.diameter / 2
    axes = place.blank.axes if place.blank is not None else ()
    points = (p for stroke in operation.motion.strokes for p in stroke.points)
    return any(
        p[2] < stock.max[2] - SAME and not stock.min[i] + radius - SAME <= p[i] <= stock.max[i] - radius + SAME
        for p in points for i in axes
    )  # fmt: skip


def _into_the_gap(place: Workplace, inner: Sequence[str]) -> set[str]:
    """Operations of chains that come out of the piece towards the next one in its bar, and what waits for them."""
    own = [op for op in place.operations if op.id in inner]
    chains = {op.chain for op in own if _comes_out(place, op)}
    while True:
        found = {op.id for op in own if op.chain in chains}
        more = {op.chain for op in own if any(before in found for before, _ in op.after)} - chains
        if not more:
            return found
        chains |= more


def cut_inner(place: Workplace, features: Sequence[Feature]) -> None:
    """All but facing and the outline."""
    recesses = _recesses(place, features)
    rest_operations(place, recesses)
    _holes(place, features, recesses)
    _surfaces(place, features, ())
    _chamfers(place, features, outline_ring(place.part, place.frame))


def _face(
    place: Workplace, setup: SetupDecision, state: StockState, features: Sequence[Feature]
) -> tuple[float, StockState]:
    """Face the top where stock stands on it; returns the level after it."""
    if place.part.near_net is not None:
        return _pads(place, setup, state, features)
    over = state.over_side(setup.up)
    part_top = place.box.max[2]
    tops = [
        f for f in map(flat_side, features)
        if f is not None and dot(f.normal, place.frame.up) > 0.999
        and abs(place.z(f.region[0][0]) - part_top) < LEVEL
    ]  # fmt: skip
    if over <= 0:
        return part_top, state
    if not features:
        return part_top + over, state
    if not tops and setup.up in dict(state.round_over):  # no end to face: its flats and slots are cut from the round
        return part_top + over, state.flattened(setup.up)
    over = round(over, 5)
    facing = Facing(
        setup.up, f"Face side {setup.up}, {over:g} off", place.stock_rectangle, place.stock.max[2], over,
        tuple(f.id for f in tops),
    )  # fmt: skip
    done = face_operation(place, facing)
    if done is None:
        place.lack(
            "no-face-mill",
            f"No tool faces side {setup.up} in {place.material.name}.",
            f"{over:g} mm of stock stand on it.",
            features=tuple(f.id for f in tops),
            wanted="face mill or end mill",
        )
        return part_top + over, state
    if done.id in place.withheld:
        return part_top + over, state
    return part_top, state.faced(setup.up)


def _pads(
    place: Workplace, setup: SetupDecision, state: StockState, features: Sequence[Feature]
) -> tuple[float, StockState]:
    """Near-net stock: each flat that looks up has its own stock, which is cut down to it, the highest first."""
    stock = place.part.near_net
    assert stock is not None
    part_top, after = place.box.max[2], state
    flats = [f for f in map(flat_side, features) if f is not None and dot(f.normal, place.frame.up) > 0.999]
    for face in sorted(flats, key=lambda f: -place.z(f.region[0][0])):
        level = place.z(face.region[0][0])
        over = stock.over_faces(face.faces)
        outer, *inner = (place.frame.flat(ring) for ring in face.region)
        label = f"{face.id}, {over:g} off"
        made = None
        if abs(level - part_top) < LEVEL:  # nothing stands beside it: what opens inside it is lower
            facing = Facing(face.id, f"Face {label}", Polygon(outer).bounds, round(level + over, 5), over, (face.id,))
            made = face_operation(place, facing)
        if made is None:
            walls = tuple(ring for ring in inner if _stands_above(place, ring, level))
            region = Region((outer, *walls), ((*outer, outer[0]),))
            recess = replace(lower_face_in_setup(place, face), region=region, top=round(level + over, 5))
            _tried(place, (face.id,), label, partial(recess_operations, place, recess, label))
        if abs(level - part_top) < LEVEL and place.operations:
            after = after.faced(setup.up)
    return part_top, after


def _stands_above(place: Workplace, ring: Line, level: float) -> bool:
    """Whether the part rises above a level within a ring."""
    inside = prep(Polygon(ring).buffer(LEVEL))
    points = (place.frame.point(v) for v in place.part.model.solid.mesh.vertices)
    return any(p[2] > level + LEVEL and inside.contains(Point(p[:2])) for p in points)


def _recesses(place: Workplace, features: Sequence[Feature]) -> list[Recessed]:
    """Pockets, slots, steps and low flats, the wider ones first, so that nested ones know where they begin."""
    closed: list[Recessed] = []
    candidates = [f for f in features if isinstance(f, Pocket | Slot | Step)]
    for feature in sorted(candidates, key=lambda f: -round(_area(f), 6)):  # alike ones as they are numbered
        closed.append(recess_in_setup(place, feature, closed))
    order = list(closed)
    leading = set()
    for group in alike_recesses(place, closed):
        leading.add(group[0].feature.id)
        place.led.add(Alike(NOUNS[group[0].feature.kind], tuple(one.feature.id for one in group)))
        first = min(order.index(one) for one in group)
        order.remove(group[0])
        order.insert(first, group[0])  # the others take its tools
    made: dict[str, Made | None] = {}
    for recess in order:
        like = made.get(place.led.first_of(recess.feature.id))
        if like is None or not like.again(place, recess, _label(place, recess)):
            _make(place, recess, closed)
        if recess.feature.id in leading:
            made[recess.feature.id] = made_alike(place, recess, _label(place, recess))
    flats = () if place.part.near_net is not None else map(flat_side, features)  # those are cut as pads
    for face in flats:
        if face is not None and dot(face.normal, place.frame.up) > 0.999:
            level = place.z(face.region[0][0])
            if level < place.box.max[2] - LEVEL:
                recess = lower_face_in_setup(place, face, _bosses_on(place, features, face, level))
                _make(place, recess, closed)
    return closed


def _bosses_on(
    place: Workplace, features: Sequence[Feature], face: OuterFace | Turned, level: float
) -> tuple[str, ...]:
    """Round walls that rise from a turned shoulder: clearing the shoulder makes them."""
    if not isinstance(face, Turned):
        return ()
    solid = place.part.model.solid

    def foot(turned: Turned) -> float:
        return min(place.z(p) for p in solid.edge_points(turned.faces))

    return tuple(
        f.id for f in features
        if isinstance(f, Turned) and f.where == "outside" and f.diameter < face.diameter
        and parallel(f.direction, place.frame.up) and abs(foot(f) - level) < LEVEL
    )  # fmt: skip


def _area(feature: Pocket | Slot | Step) -> float:
    return feature.area if not isinstance(feature, Slot) else feature.width * feature.length


def _label(place: Workplace, recess: Recessed) -> str:
    depth = f"{recess.top - (recess.bottom if recess.has_floor else place.box.min[2]):g}"
    through = "" if recess.has_floor else ", through"
    return f"{NOUNS[recess.feature.kind]} {recess.feature.id}, {depth} deep{through}"


def _make(place: Workplace, recess: Recessed, closed: Sequence[Recessed]) -> None:
    label = _label(place, recess)
    chain = _tried(place, recess.features, label, lambda: recess_operations(place, recess, label)) or []
    if not chain or recess.top >= place.top - LEVEL:
        return
    inside = recess.region.polygon.representative_point()
    for other in closed:
        if abs(other.bottom - recess.top) < LEVEL and other.region.polygon.contains(inside):
            _after_feature(place, chain[0], other.feature.id, "it begins at that one's floor")


def _holes(place: Workplace, features: Sequence[Feature], recesses: Sequence[Recessed]) -> None:
    # the widest first: the spot drill that they need then serves the others too
    groups = group_holes(place, [f for f in features if isinstance(f, Hole)])
    for group in sorted(groups, key=lambda g: -g.first.diameter):
        before = len(place.operations)
        _tried(place, group.ids, group.label, partial(hole_operations, place, group))
        made = place.operations[before:]
        if not made or group.entry >= place.top - LEVEL:
            continue
        for recess in recesses:
            begins_there = recess.bottom <= group.entry + LEVEL or not recess.has_floor
            area = recess.region.polygon.buffer(0.01)
            if begins_there and any(area.contains(Point(p)) for p in group.points):
                _after_feature(place, made[0], recess.feature.id, "the holes start at its floor")


def _surfaces(place: Workplace, features: Sequence[Feature], outline: Sequence[Feature]) -> None:
    skip = {f.id for f in outline}
    own = [f for f in features if isinstance(f, FreeSurface | Fillet) and f.id not in skip]
    ids = tuple(f.id for f in own)
    _tried(place, ids, f"surface {', '.join(ids)}", partial(surface_operations, place, own))


def _tried(place: Workplace, features: tuple[str, ...], label: str, make: Callable[[], T]) -> T | None:
    """Make a chain; what cannot be made is a finding about its own features, and the rest of the plan stands."""
    try:
        return make()
    except PlanError as error:
        code, why = error.code, f"{error.message[0].upper()}{error.message[1:]}."
    except GEOSException:  # one area in a thousand: the rest of the plan is worth having
        code, why = "no-sound-area", "What is left to clear there crosses itself; take another tool, depth or way."
    place.find(
        code, Severity.ERROR, f"{label[0].upper()}{label[1:]} cannot be made as it is decided.", why, features=features
    )  # fmt: skip
    return None


def _after_feature(place: Workplace, operation: Operation, feature: str, reason: str) -> None:
    chain = [op for op in place.operations if op.chain == feature]
    if chain:
        place.require(operation, chain[-1].id, reason)


def outline_ring(part: Part, frame: Frame) -> Line:
    """The part's silhouette in setup coordinates."""
    silhouette = part.silhouette(frame.up)
    right = RIGHT[silhouette.direction]
    back = back_of(silhouette.direction, right)
    return frame.flat(add(scale(right, x), scale(back, y)) for x, y in silhouette.ring)


def outline_range(part: Part, frame: Frame, axis: Vec, state: StockState) -> tuple[float, float] | None:
    """(top, bottom) of what the outline still needs, in setup coordinates; None where it is done."""
    box = frame.box(part.model.solid.bounds)
    top, bottom = box.max[2], box.min[2]
    if state.walls is None:
        return top, bottom
    sign = dot(frame.up, axis)
    low, high = sorted((state.walls.low * sign, state.walls.high * sign))
    if high >= top - LEVEL and low <= bottom + LEVEL:
        return None
    if high >= top - LEVEL:
        return low + WALL_OVERLAP, bottom
    return top, max(bottom, high - WALL_OVERLAP)


def lowest_outside(
    part: Part, frame: Frame, features: Sequence[Feature], outline: tuple[float, float] | None
) -> float | None:
    """The lowest level at which this setup would cut beside the part towards the jaws."""
    box = frame.box(part.model.solid.bounds)
    levels = [outline[1]] if outline is not None else []
    for feature in features:
        if isinstance(feature, Step | Slot) and feature.open_edges:
            edges = [frame.point(p) for edge in feature.open_edges for p in edge]
            if any(min(abs(p[1] - box.min[1]), abs(p[1] - box.max[1])) < LEVEL for p in edges):
                levels.append(min(p[2] for p in edges))
        elif isinstance(feature, Chamfer):
            points = [frame.point(p) for line in feature.path for p in line]
            if any(min(abs(p[1] - box.min[1]), abs(p[1] - box.max[1])) < LEVEL for p in points):
                levels.append(min(p[2] for p in points) - 2 * feature.width)
    return min(levels) if levels else None


def _outline(
    place: Workplace,
    axis: Vec,
    wanted: tuple[float, float],
    ring: Line,
    outline: Sequence[Feature],
    inner: Sequence[str],
    state: StockState,
) -> StockState:
    top, bottom = wanted
    stands_on_stock = bottom <= place.box.min[2] + LEVEL and place.stock.min[2] < place.box.min[2] - LEVEL
    lowest = bottom - (min(BELOW_FLOOR, place.box.min[2] - place.stock.min[2]) if stands_on_stock else 0.0)
    reached = round(max(lowest, place.lowest), 5)
    if top - reached >= 0.1:
        rough = place.id_of("outline", OperationKind.ROUGH_OUTLINE)
        ids = tuple(f.id for f in outline)
        deep = depth_of(place, rough, OperationKind.ROUGH_OUTLINE, top, round(top - reached, 5), ids, shorter=True)
        reached = round(max(top - deep, place.lowest), 5)
    if reached >= top - 0.1:
        place.find(
            "outline-in-jaws", Severity.ERROR, "The whole outline lies between the jaws.",
            f"The jaws' tops stand {place.lowest - JAW_CLEARANCE - place.box.min[2]:.1f} above the part's floor, "
            f"the part is {place.box.size[2]:.1f} high. Grip less, or leave more stock below.",
            chapter=Chapter.SETUPS, features=tuple(f.id for f in outline),
        )  # fmt: skip
        return state
    if place.setup != place.plan.setups[0].id and bottom < reached - LEVEL:
        place.find(
            "cut-below-jaws", Severity.ERROR,
            f"The outline has to go {reached - bottom:.1f} deeper than the jaws let it.",
            f"Its lowest cut stays {JAW_CLEARANCE:g} above the jaws' tops; here the grip is {place.hold.grip:.1f}.",
            chapter=Chapter.SETUPS, features=tuple(f.id for f in outline),
            cures=(grip_of(place.setup, None),) if place.plan.setup(place.setup).grip is not None else (),
        )  # fmt: skip
    # where nothing was faced, the stock over the part is cut with it
    made = outline_operations(place, ring, max(top, place.top), reached, tuple(f.id for f in outline))
    if not made or any(op.id in place.withheld for op in made):
        return state
    for before in _chain_ends(place, inner):
        place.require(made[0], before, "the outline goes last")
    sign = 1 if dot(place.frame.up, axis) > 0 else -1
    low, high = sorted((max(reached, place.box.min[2]) * sign, top * sign))
    return state.outlined(axis, low, high)


def _chain_ends(place: Workplace, ids: Sequence[str]) -> list[str]:
    last: dict[str, str] = {}
    for op in place.operations:
        if op.id in ids:
            last[op.chain] = op.id
    return list(last.values())


def _chamfers(place: Workplace, features: Sequence[Feature], ring: Line) -> None:
    groups: dict[tuple[float, ...], list[Chamfer]] = {}
    for feature in features:
        if isinstance(feature, Chamfer):
            level = min(place.z(p) for line in wall_edges(place, feature) for p in line)
            groups.setdefault((feature.width, feature.angle, level), []).append(feature)
    ready = [
        op for op in place.operations
        if op.kind in (OperationKind.ROUGH_OUTLINE, OperationKind.FINISH_OUTLINE, OperationKind.FINISH_WALL)
    ]  # fmt: skip
    for group in groups.values():
        ids = tuple(chamfer.id for chamfer in group)
        made = _tried(place, ids, f"chamfer {', '.join(ids)}", partial(chamfer_operation, place, group, ring))
        for op in ready if made is not None else ():
            if op.kind == OperationKind.FINISH_WALL or made.outer:  # type: ignore[union-attr]
                place.require(made, op.id, "the wall must be there before its edge is broken")  # type: ignore[arg-type]
