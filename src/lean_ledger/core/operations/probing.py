"""Feeling the work in the machine: the zero before the first cut, a bore or a slot after it is finished."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lean_ledger.core.basis.findings import Chapter, Cure, Figure, Severity
from lean_ledger.core.features import Feature, Hole, Slot
from lean_ledger.core.geometry.vectors import Vec, parallel
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import Settled
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.paths import Walk
from lean_ledger.core.operations.model import Cutting, Motion, Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.core.plan import ZERO, Zero
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.setups.zero import Surroundings, bores_there, proposed_zero
from lean_ledger.library.types import Library, Tool, ToolKind

POSITION = 3000.0  # mm/min of a guarded move: it stops where it touches
SEARCH = 600.0  # mm/min of the first touch
MEASURE = 60.0  # mm/min of the second
OFF = 8.0  # mm that a touch starts off the face
BEYOND = 2.0  # mm that the first touch goes on beyond where the face should be, the second half a millimetre
BEYOND_SLOW = 0.5
BACK = 1.0  # mm that the ball comes back between them
DEEP = 5.0  # mm below the top at which sides are felt
ROOM = 2.0  # mm that a bore or a slot is wider than the ball at the least


@dataclass(frozen=True)
class Touch:
    """A face to be felt: the ball's centre when it touches, and the direction that it comes along."""

    x: float
    y: float
    z: float
    along: Vec
    off: float = OFF  # where it starts: in a bore no farther off than the middle


def probe_operations(place: Workplace, features: Sequence[Feature], position: int, made: Sequence[str]) -> None:
    """All that the setup's cycle feels; `position` is the setup's in the plan, `made` what earlier ones made."""
    wanted = place.plan.setup(place.setup).probes
    if not wanted:
        return
    probes = [t for t in place.library.tools if t.kind == ToolKind.PROBE]
    for what in wanted:
        id = place.id_of(what, OperationKind.PROBE)
        chosen = place.edit(id).tool
        tool = place.library.tool(chosen) if chosen else choose.best(probes, lambda t: -t.diameter)
        undo = Cure("Do not probe it", {"change": "set-probe", "setup": place.setup, "what": what, "on": False})
        if tool is None or tool.kind != ToolKind.PROBE:
            place.lack(
                "no-probe", f"No probe for {place.setup}.", "The library has none.", cures=(undo,), wanted="touch probe"
            )
            continue
        if what == ZERO:
            before = [op.id for op in place.operations]
            op = _zero(place, id, tool, position, made)
            for later in [o for o in place.operations if o.id in before]:
                place.require(later, op.id, "the zero is felt before the first cut")
            continue
        feature = next((f for f in features if f.id == what), None)
        touches = _of_feature(place, feature, tool) if feature is not None else None
        if touches is None:
            place.find(
                "not-probed", Severity.WARNING, f"{what} cannot be probed in {place.setup}.",
                f"A bore or a slot that this setup makes can, {tool.diameter + ROOM:g} wide or more."
                if feature is not None else "This setup does not make it.",
                features=(what,) if what in place.part.by_id else (), cures=(undo,), chapter=Chapter.SETUPS,
            )  # fmt: skip
            continue
        op = _add(place, id, f"Probe {what}", (what,), tool, touches)
        for other in list(place.operations):
            if other.id != op.id and what in other.features:
                place.require(op, other.id, "it is finished before it is measured")


def could_probe(features: Sequence[Feature], frame: Frame, library: Library) -> tuple[Feature, ...]:
    """The bores and slots of a setup that are wide enough for a probe of the library and open to it."""
    balls = [t.diameter for t in library.tools if t.kind == ToolKind.PROBE]
    least = min(balls, default=1e9) + ROOM
    return tuple(
        f for f in features
        if (isinstance(f, Hole) and f.diameter >= least and parallel(f.axis, frame.up, 1e-3))
        or (isinstance(f, Slot) and f.width >= least and not f.undercut and parallel(f.direction, frame.up, 1e-3))
    )  # fmt: skip


def _zero(place: Workplace, id: str, tool: Tool, position: int, made: Sequence[str]) -> Operation:
    there = Surroundings(place.stock, place.box, bores_there(place.part, place.frame, made))
    zero = place.plan.setup(place.setup).zero or proposed_zero(position, there)[0]
    r = tool.diameter / 2
    top = there.stock.max[2]
    depth = max(1.0, min(DEEP, top - place.lowest)) if place.lowest > -1e8 else DEEP
    z = round(top - depth, 4)
    # the sides as they stand at that level: of the part where it is finished there, else of the stock
    box = next((b for b in place.boxes if b.min[2] - 1e-6 <= z <= b.max[2] + 1e-6), there.stock)
    x, y = ((box.min[i] + box.max[i]) / 2 for i in (0, 1))
    bore = there.bore(zero.bore) if zero.of == "bore" else None
    touches: list[Touch] = []
    if bore is not None:
        touches += _round(bore.x, bore.y, bore.diameter, z, r)
    else:
        left = Touch(box.min[0] - r, y, z, (1.0, 0.0, 0.0))
        right = Touch(box.max[0] + r, y, z, (-1.0, 0.0, 0.0))
        front = Touch(x, box.min[1] - r, z, (0.0, 1.0, 0.0))
        back = Touch(x, box.max[1] + r, z, (0.0, -1.0, 0.0))
        words = zero.place.split() if zero.of in ("stock", "part") else ["centre"]
        along_x = [left] if "left" in words else [right] if "right" in words else [left, right]
        along_y = [front] if "front" in words else [back] if "back" in words else [front, back]
        touches += [*along_x, *along_y]
    if _felt_on_top(zero, place):
        touches.append(Touch(x, y, round(top, 4), (0.0, 0.0, -1.0)))
    return _add(place, id, f"Probe the zero, {zero.words}", (), tool, touches)


def _felt_on_top(zero: Zero, place: Workplace) -> bool:
    """Z is felt on the work where its top is the zero, or already finished."""
    return zero.level == "top" and (zero.of == "stock" or place.stock.max[2] - place.box.max[2] < 1e-6)


def _of_feature(place: Workplace, feature: Feature, tool: Tool) -> list[Touch] | None:
    r = tool.diameter / 2
    if isinstance(feature, Hole) and parallel(feature.axis, place.frame.up, 1e-3):
        if feature.diameter < tool.diameter + ROOM or not any(feature.id in op.features for op in place.operations):
            return None
        x, y, _ = place.frame.point(feature.position)
        entry = max(place.z(feature.position), place.z(_end(feature)))
        return _round(x, y, feature.diameter, round(entry - min(DEEP, feature.depth / 2), 4), r)
    if isinstance(feature, Slot) and feature.width >= tool.diameter + ROOM and feature.region:
        if feature.undercut or not any(feature.id in op.features for op in place.operations):
            return None
        return _across(place, feature, r)
    return None


def _end(hole: Hole) -> Vec:
    return tuple(p + a * hole.depth for p, a in zip(hole.position, hole.axis, strict=True))  # type: ignore[return-value]


def _across(place: Workplace, slot: Slot, r: float) -> list[Touch] | None:
    """Both walls of a slot that lies along X or Y, in its middle."""
    ring = place.frame.flat(slot.region[0])
    low = [min(p[i] for p in ring) for i in (0, 1)]
    high = [max(p[i] for p in ring) for i in (0, 1)]
    z = round(place.z(slot.region[0][0]) + slot.depth - min(DEEP, slot.depth / 2), 4)
    x, y = ((a + b) / 2 for a, b in zip(low, high, strict=True))
    for i in (0, 1):
        if abs(high[i] - low[i] - slot.width) < 0.01:
            along: Vec = (1.0, 0.0, 0.0) if i == 0 else (0.0, 1.0, 0.0)
            half = slot.width / 2 - r
            return [
                Touch(
                    x + s * half * along[0],
                    y + s * half * along[1],
                    z,
                    (s * along[0], s * along[1], 0.0),
                    min(OFF, half),
                )
                for s in (-1, 1)
            ]
    return None


def _round(x: float, y: float, diameter: float, z: float, r: float) -> list[Touch]:
    half = diameter / 2 - r
    return [
        Touch(x + dx * half, y + dy * half, z, (float(dx), float(dy), 0.0), min(OFF, half))
        for dx, dy in ((-1, 0), (1, 0), (0, -1), (0, 1))
    ]


def _add(
    place: Workplace, id: str, name: str, features: tuple[str, ...], tool: Tool, touches: Sequence[Touch]
) -> Operation:
    motion = probe_path(touches, place.clearance)
    figures = (Figure("touches", f"each first at {SEARCH:g}, then at {MEASURE:g} mm/min", len(touches), ""),)
    cutting = Cutting(0.0, SEARCH, 0.0, 0.0, 0.0, 0.0, 1, 0.0)
    return place.add(
        Named(id, OperationKind.PROBE, name, features, features[0] if features else "probe"),
        tool,
        Settled(cutting, figures, 0.0, 0.0),
        motion,
        depth=0.0,
    )


def probe_path(touches: Sequence[Touch], clearance: float) -> Motion:
    """To each face from the clearance plane: down guarded, a quick touch, a little back, a slow one, off again.

    Every move stops: where it touches or where it was to end. A touch from above needs no way down beside the face.
    """
    walk = Walk(clearance)

    def move(speed: float, to: Vec) -> None:
        assert walk.at is not None
        if to == walk.at:
            return
        walk.cut(speed, [tuple(round(v, 5) for v in to)])  # type: ignore[list-item]
        walk.halt()

    for touch in touches:
        contact = (touch.x, touch.y, touch.z)

        def at(off: float, contact: Vec = contact, along: Vec = touch.along) -> Vec:
            return tuple(round(c - off * a, 5) for c, a in zip(contact, along, strict=True))  # type: ignore[return-value]

        start = at(min(touch.off, clearance - touch.z) if touch.along[2] else touch.off)
        walk.over(start[0], start[1])
        move(POSITION, start)
        move(SEARCH, at(-BEYOND))
        move(POSITION, at(BACK))
        move(MEASURE, at(-BEYOND_SLOW))
        move(POSITION, start)
    motion = walk.leave()
    return Motion(motion.strokes, probes=True)
