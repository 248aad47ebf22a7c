"""All operations of one setup, from its features and the stock it finds; and the stock that it leaves."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import partial
from typing import TypeVar

from shapely.geometry import Point

from lean_ledger.core.errors import PlanError
from lean_ledger.core.features import Chamfer, Feature, Hole, OuterFace, Pocket, Slot, Step, Turned, flat_side
from lean_ledger.core.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.geometry.vectors import Vec, add, dot, parallel, scale
from lean_ledger.core.geometry.views import RIGHT, back_of
from lean_ledger.core.holding import JAW_CLEARANCE, Hold, check_hold, resolve_hold
from lean_ledger.core.operations.drilling import group_holes, hole_operations
from lean_ledger.core.operations.milling import (
    WALL_OVERLAP,
    Recessed,
    chamfer_operation,
    face_operation,
    lower_face_in_setup,
    outline_operations,
    recess_in_setup,
    recess_operations,
)
from lean_ledger.core.operations.model import Operation, OperationKind
from lean_ledger.core.operations.regions import Line
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.part import Part
from lean_ledger.core.plan import Plan, SetupDecision
from lean_ledger.core.setups.assign import is_outline
from lean_ledger.core.setups.frame import Frame, default_turn, frame_of
from lean_ledger.core.stock import StockState
from lean_ledger.library.types import Library, Machine, Material

T = TypeVar("T")

BELOW_FLOOR = 0.5  # mm that an outline goes below the part where stock stands under it
LEVEL = 0.01

#: Words for a recess in names of operations.
NOUNS = {"pocket": "pocket", "slot": "slot", "step": "step", "face": "face", "turned": "shoulder"}


@dataclass(frozen=True)
class BuiltSetup:
    hold: Hold
    operations: tuple[Operation, ...]
    findings: tuple[Finding, ...]
    before: StockState
    after: StockState


def build_setup(
    part: Part,
    plan: Plan,
    setup: SetupDecision,
    features: Sequence[Feature],
    state: StockState,
    library: Library,
    material: Material,
    machine: Machine,
) -> BuiltSetup:
    """Operations without an order yet; their precedences stand in each operation's `after`."""
    axis = plan.outline_axis
    turn = setup.turn if setup.turn is not None else default_turn(setup.up, state.bounds)
    frame = frame_of(setup.up, turn)
    outline = [f for f in features if is_outline(part, f, axis)]
    inner = [f for f in features if f not in outline]
    wanted = _outline_range(part, frame, axis, state) if outline else None
    lowest = _lowest_outside(part, frame, inner, wanted if state.walls is not None else None)
    hold = resolve_hold(setup, state, library, lowest)
    place = Workplace(part, plan, setup.id, hold, library, material, machine)
    place.findings.extend(check_hold(setup, hold, machine))
    place.top, state_after = _face(place, setup, state, inner)
    faced = [op.id for op in place.operations]
    recesses = _recesses(place, inner)
    _holes(place, inner, recesses)
    inner_ids = [op.id for op in place.operations if op.id not in faced]
    ring = _ring(part, frame)
    if wanted is not None:
        state_after = _outline(place, axis, wanted, ring, outline, inner_ids, state_after)
    _chamfers(place, inner, ring)
    for op in list(place.operations):
        if op.id not in faced:
            for face in faced:
                place.require(op, face, "the top is faced first")
    return BuiltSetup(hold, tuple(place.operations), tuple(place.findings), state, state_after)


def _face(
    place: Workplace, setup: SetupDecision, state: StockState, features: Sequence[Feature]
) -> tuple[float, StockState]:
    """Face the top where stock stands on it; returns the level after it."""
    over = state.standing(setup.up)
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
    done = face_operation(place, setup.up, round(over, 5), tuple(f.id for f in tops))
    if done is None:
        place.find(
            "no-face-mill", Severity.ERROR, f"No tool faces side {setup.up} in {place.material.name}.",
            f"{over:g} mm of stock stand on it.", features=tuple(f.id for f in tops),
        )  # fmt: skip
        return part_top + over, state
    return part_top, state.faced(setup.up)


def _recesses(place: Workplace, features: Sequence[Feature]) -> list[Recessed]:
    """Pockets, slots, steps and low flats, the wider ones first, so that nested ones know where they begin."""
    closed: list[Recessed] = []
    candidates = [f for f in features if isinstance(f, Pocket | Slot | Step)]
    for feature in sorted(candidates, key=lambda f: -_area(f)):
        recess = recess_in_setup(place, feature, closed)
        _make(place, recess, closed)
        closed.append(recess)
    for face in map(flat_side, features):
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
        loops = (loop for f in turned.faces for loop in solid.faces[f].loops)
        return min(place.z(p) for loop in loops for i, _ in loop.edges for p in solid.edges[i].points)

    return tuple(
        f.id for f in features
        if isinstance(f, Turned) and f.where == "outside" and f.diameter < face.diameter
        and parallel(f.direction, place.frame.up) and abs(foot(f) - level) < LEVEL
    )  # fmt: skip


def _area(feature: Pocket | Slot | Step) -> float:
    return feature.area if not isinstance(feature, Slot) else feature.width * feature.length


def _make(place: Workplace, recess: Recessed, closed: Sequence[Recessed]) -> None:
    feature = recess.feature
    depth = f"{recess.top - (recess.bottom if recess.has_floor else place.box.min[2]):g}"
    through = "" if recess.has_floor else ", through"
    label = f"{NOUNS[feature.kind]} {feature.id}, {depth} deep{through}"
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


def _tried(place: Workplace, features: tuple[str, ...], label: str, make: Callable[[], T]) -> T | None:
    """Make a chain; what cannot be made is a finding about its own features, and the rest of the plan stands."""
    try:
        return make()
    except PlanError as error:
        place.find(
            error.code, Severity.ERROR, f"{label[0].upper()}{label[1:]} cannot be made as it is decided.",
            f"{error.message[0].upper()}{error.message[1:]}.", features=features,
        )  # fmt: skip
        return None


def _after_feature(place: Workplace, operation: Operation, feature: str, reason: str) -> None:
    chain = [op for op in place.operations if op.chain == feature]
    if chain:
        place.require(operation, chain[-1].id, reason)


def _ring(part: Part, frame: Frame) -> Line:
    """The part's silhouette in setup coordinates."""
    silhouette = part.silhouette(frame.up)
    right = RIGHT[silhouette.direction]
    back = back_of(silhouette.direction, right)
    return frame.flat(add(scale(right, x), scale(back, y)) for x, y in silhouette.ring)


def _outline_range(part: Part, frame: Frame, axis: Vec, state: StockState) -> tuple[float, float] | None:
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


def _lowest_outside(
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
    stands_on_stock = bottom <= place.box.min[2] + LEVEL and place.hold.stock.min[2] < place.box.min[2] - LEVEL
    lowest = bottom - (min(BELOW_FLOOR, place.box.min[2] - place.hold.stock.min[2]) if stands_on_stock else 0.0)
    reached = round(max(lowest, place.hold.lowest_outside_cut), 5)
    if reached >= top - 0.1:
        place.find(
            "outline-in-jaws", Severity.ERROR, "The whole outline lies between the jaws.",
            f"The jaws' tops stand {place.hold.jaw_top - place.box.min[2]:.1f} above the part's floor, "
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
            cures=(Cure("Grip by the rule", {"change": "set-grip", "setup": place.setup, "grip": None}),),
        )  # fmt: skip
    made = outline_operations(place, ring, top, reached, tuple(f.id for f in outline))
    if not made:
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
            level = min(place.z(p) for line in feature.path for p in line)
            groups.setdefault((feature.width, feature.angle, level), []).append(feature)
    ready = [
        op for op in place.operations
        if op.kind in (OperationKind.FINISH_OUTLINE, OperationKind.FINISH_WALL)
    ]  # fmt: skip
    for group in groups.values():
        made = chamfer_operation(place, group, ring)
        for op in ready if made is not None else ():
            if op.kind == OperationKind.FINISH_WALL or made.outer:  # type: ignore[union-attr]
                place.require(made, op.id, "the wall must be there before its edge is broken")  # type: ignore[arg-type]
