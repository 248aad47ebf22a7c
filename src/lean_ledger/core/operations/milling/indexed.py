"""Operations of a setup in which a rotary axis turns the part: its sides one by one, and its free end."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from math import ceil

from lean_ledger.core.basis.findings import Cure, Finding
from lean_ledger.core.features import Feature, OuterFace, Turned, flat_side
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec, axis_name, dot, neg
from lean_ledger.core.holding.hold import Hold, error, grip_of, more_below
from lean_ledger.core.operations.milling.engraving import engrave_operations
from lean_ledger.core.operations.milling.from_above import cut_inner
from lean_ledger.core.operations.milling.recesses import Recessed, recess_operations
from lean_ledger.core.operations.milling.regions import Line, Region
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.safe.short_holes import BREAK_THROUGH
from lean_ledger.core.operations.safe.standing import safe_operations
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.plan import DIRECTIONS, SetupDecision
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.setups.ways import Way
from lean_ledger.core.stock import StockState

LEVEL = 0.01
OVERLAP = 0.3  # mm by which the cuts from two sides overlap

At = Callable[[Way, tuple[Bounds, ...], float], Workplace]


def index_around(
    at: At, setup: SetupDecision, hold: Hold, ways: Sequence[Way], features: Sequence[tuple[Feature, Vec | None]],
    state: StockState, axis: Vec, limit: float,
) -> tuple[list[Operation], list[Finding], StockState]:  # fmt: skip
    """Side by side: the stock on each down to the part, then what is cut from there. `limit` is the level, along the
    rotary's axis, that no cut on the outside goes below; stock beyond it stays to hold by.
    """
    free = hold.frame.up
    operations: list[Operation] = []
    findings = _held_end(setup, hold, limit, state)
    local, cleared, trimmed = state, set[str](), False
    end_on = any(dot(w.direction, free) > 0.999 for w in ways)  # the free end comes under the spindle itself
    for one in ways:
        side = axis_name(one.direction) if one.direction in DIRECTIONS.values() else ""
        own = [f for f, d in features if d == one.direction]
        place = at(one, tuple(_clipped(one.frame.box(b), one.frame, free, limit) for b in local.boxes()), -1e9)
        place.top = place.stock.max[2]
        flats = [f for f in map(flat_side, own) if f is not None]
        tops = [f for f in flats if dot(f.normal, one.direction) > 0.999
                and abs(place.z(f.region[0][0]) - place.box.max[2]) < LEVEL]  # fmt: skip
        if side and tops and local.over[side] > 0 and local.over_side(side) > 0:
            _side(place, tops, free, limit)
            place.top = place.box.max[2]
            local, cleared = local.faced(side), cleared | {side}
        elif side and local.over[side] <= 0:
            place.top = place.box.max[2]
        faced = [op.id for op in place.operations]
        from_end = dot(one.direction, free) > 0.999
        cut_inner(place, [f for f in own if f not in tops and (from_end or not _is_end(f, free))])
        if from_end:
            trimmed = trimmed or axis_name(free) in cleared
        ends = [f for f in map(flat_side, (f for f, _ in features if _is_end(f, free))) if f is not None]
        opposite = any(dot(one.direction, w.direction) < -0.999 for w in ways)
        first_pair = one is ways[0] or dot(one.direction, ways[0].direction) < -0.999
        if ends and not end_on and local.over[axis_name(free)] > 0 and first_pair:
            trimmed = _end(place, ends, free, from_both=opposite) or trimmed
        engrave_operations(place, own)
        for op in list(place.operations):
            for face in faced if op.id not in faced else ():
                place.require(op, face, "the side is cut down first")
        operations += safe_operations(place)
        findings += place.findings
    after = state
    needed = {s for s, d in DIRECTIONS.items() if abs(dot(d, free)) < 0.5 and state.over[s] > 0}
    if needed and needed <= cleared and abs(dot(axis, free)) > 0.5:
        box = hold.held.box
        sign = 1 if dot(free, axis) > 0 else -1
        low, high = sorted((max(limit, box.min[2]) * sign, box.max[2] * sign))
        after = after.outlined(axis, low, high)
    elif cleared:
        for side in cleared:
            after = after.faced(side)
    return operations, findings, after.faced(axis_name(free)) if trimmed else after


def _held_end(setup: SetupDecision, hold: Hold, limit: float, state: StockState) -> list[Finding]:
    short = limit - hold.held.box.min[2]
    if short <= LEVEL:
        return []
    held = axis_name(neg(hold.frame.up))
    faced = state.over[held] <= 0 and bool(hold.held.made)  # what was left there is gone before
    more = ceil(state.over[held] + more_below(hold, short + 0.5, by_hand=setup.grip is not None))
    return [
        error(
            setup.id, "cut-below-jaws", f"{hold.fixture.name} covers {short:.1f} of the part's own length.",
            f"What is cut there lies between the jaws. Leave {more} of stock on {held} to hold by, or grip less.",
            (*(() if faced else
               (Cure(f"Leave {more} on {held}", {"change": "set-allowance", "side": held, "value": float(more)}),)),
             *((grip_of(setup.id, None),) if setup.grip is not None else ())),
        )
    ]  # fmt: skip


def _clipped(box: Bounds, frame: Frame, free: Vec, limit: float) -> Bounds:
    """Without what lies beyond the limit, where it is held."""
    low, high = list(box.min), list(box.max)
    i, along = _free_axis(frame, free)
    if along > 0:
        low[i] = max(low[i], limit)
    else:
        high[i] = min(high[i], -limit)
    return Bounds(tuple(low), tuple(high))  # type: ignore[arg-type]


def _free_axis(frame: Frame, free: Vec) -> tuple[int, float]:
    """The axis of a way that the free end looks along, 2 from the free end itself, and which way it looks."""
    shares = [dot(axis, free) for axis in (frame.right, frame.back, frame.up)]
    i = next((k for k in (0, 1) if abs(shares[k]) >= 0.5), 2)
    return i, abs(shares[i]) if i == 2 else shares[i]


def _is_end(feature: Feature, free: Vec) -> bool:
    flat = flat_side(feature)
    return flat is not None and dot(flat.normal, free) > 0.999


def _side(place: Workplace, tops: Sequence[OuterFace | Turned], free: Vec, limit: float) -> None:
    """The stock over one side, open towards the free end and across."""
    x0, y0, x1, y1 = place.stock_rectangle
    corners = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
    i, along = _free_axis(place.frame, free)
    # all edges but the one at the end that is held
    if i == 1:
        order = (1, 2, 3, 0) if along > 0 else (3, 0, 1, 2)
    else:
        order = (0, 1, 2, 3) if dot(place.frame.right, free) > 0 else (1, 0, 3, 2)
    opened: Line = tuple(corners[k] for k in order)
    level = place.box.max[2]
    off = place.stock.max[2] - level
    first, *rest = tops
    recess = Recessed(
        first, Region((corners,), (opened,)), round(place.stock.max[2], 5), round(level, 5), has_floor=True,
        corner_radius=0.0, also=tuple(f.id for f in rest), walls_count=False,
    )  # fmt: skip
    recess_operations(place, recess, f"side {axis_name(place.way.direction)}, {off:g} off")


def _end(place: Workplace, ends: Sequence[OuterFace | Turned], free: Vec, *, from_both: bool) -> bool:
    """The free end, trimmed by the flank: over half the height where the other half is cut from the opposite side."""
    x0, y0, x1, y1 = place.stock_rectangle
    i, along = _free_axis(place.frame, free)
    # the edge from the last corner to the first stands at the part
    if i == 1:
        a, b = (place.box.max[1], y1) if along > 0 else (place.box.min[1], y0)
        low, high = (x1, x0) if along > 0 else (x0, x1)
        corners: Line = ((low, a), (low, b), (high, b), (high, a))
    else:
        towards_free = dot(place.frame.right, free) > 0
        a, b = (place.box.max[0], x1) if towards_free else (place.box.min[0], x0)
        low, high = (y0, y1) if towards_free else (y1, y0)
        corners = ((a, low), (b, low), (b, high), (a, high))
    if abs(b - a) < LEVEL:
        return False
    middle = (place.box.min[2] + place.box.max[2]) / 2
    bottom = middle - OVERLAP if from_both else place.stock.min[2] - BREAK_THROUGH
    first, *rest = ends
    recess = Recessed(
        first, Region((corners,), (corners,)), round(place.top, 5), round(bottom, 5), has_floor=False,
        corner_radius=0.0, also=tuple(f.id for f in rest),
    )  # fmt: skip
    half = " from " + axis_name(place.way.direction) if from_both else ""
    place.suffix = f"-{axis_name(place.way.direction)}" if from_both else ""
    made = recess_operations(place, recess, f"end {axis_name(free)}, {abs(b - a):g} off{half}")
    place.suffix = ""
    return bool(made)
