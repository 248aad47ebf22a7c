"""What a blade plunges on a lathe beside outside grooves: rings in a bore, and the piece off its bar."""

from __future__ import annotations

from dataclasses import replace
from math import ceil

from shapely.geometry import Polygon, box

from lean_ledger.core.basis.findings import Chapter, Cure, Figure, Severity
from lean_ledger.core.features import Hole, Turned
from lean_ledger.core.geometry.vectors import Vec, axis_name, dot, neg
from lean_ledger.core.holding import JAW_CLEARANCE
from lean_ledger.core.holding.hold import more_below
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.turning.lathe_paths import css, inside_plunges, lathe_motion
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.core.setups.profile import levels_of
from lean_ledger.core.stock import StockState
from lean_ledger.library.types import ToolKind

LEAD = 1.5  # mm in front of a cut
PAST_CENTRE = 0.4
BLADE = 4.0  # mm below the piece that the jaws leave to a blade
PLUNGE_SHARE = 0.85  # of an insert's width between two plunges
BORE_ROOM = 0.5  # mm that the insert stays off the bore on its way in


def bore_groove_operation(place: Workplace, groove: Turned) -> Operation | None:
    """A ring in a bore, plunged from inside once the bore is there."""
    low, high = levels_of(place.part, groove, place.frame.up)
    width, depth = round(high - low, 5), groove.depth or 0.0
    bottom = groove.diameter / 2
    bore = 2 * (bottom - depth)
    into = place.top - low
    id = place.id_of(groove.id, OperationKind.BORE_GROOVE)
    fitting = [
        t for t in choose.usable(place.library, place.material, [ToolKind.BORE_GROOVING])
        if t.diameter <= bore + 1e-6 and t.width <= width + 1e-3 and t.cutting_length >= depth and t.reach >= into
    ]  # fmt: skip
    tool = place.tool(id, OperationKind.BORE_GROOVE, choose.best(fitting, lambda t: t.width))
    if tool is None:
        place.lack(
            "no-bore-groove",
            f"No bar makes the inside groove {groove.id}, {width:g} wide.",
            f"It has to go into Ø{bore:g}, reach {into:.1f} and plunge {depth:g} deep.",
            features=(groove.id,),
            cures=(
                Cure(
                    "Leave to another shop",
                    {"change": "leave-out", "features": [groove.id], "reason": "made elsewhere"},
                ),
            ),
            wanted=f"bar for inside grooves of at most {width:g}, from Ø{bore:g} or less, {depth:g} deep",
        )
        return None
    count = 1 + ceil(round(max(0.0, width - tool.width) / (PLUNGE_SHARE * tool.width), 6))
    step = (width - tool.width) / (count - 1) if count > 1 else 0.0
    spun = css(place, tool, id, depth, depth, 2 * bottom)
    plunges = [(bottom, round(low + k * step, 5)) for k in range(count)]
    ring = ((bore / 2 - BORE_ROOM, low), (bottom, low), (bottom, high), (bore / 2 - BORE_ROOM, high))
    made = place.add(
        Named(id, OperationKind.BORE_GROOVE, f"Groove inside {groove.id}, {width:g} wide", (groove.id,), groove.id),
        tool,
        spun.settled,
        inside_plunges(place, spun, plunges, bore / 2 - BORE_ROOM, place.top + LEAD, (ring,)),
        depth=depth,
        figures=(*spun.figures, Figure("plunges", f"{width:g} wide, insert {tool.width:g}", count, "")),
    )
    bored = {f.id for f in place.part.features if isinstance(f, Hole) and f.on_axis}
    for op in list(place.operations):
        if op.kind in (OperationKind.BORE, OperationKind.DRILL) and bored & set(op.features):
            place.require(made, op.id, "the bore is there first")
    return made


def cut_off(place: Workplace, state: StockState, axis: Vec, radius: float) -> StockState:
    """Part the piece off what the chuck holds, where the setup says so; returns the stock that goes on."""
    left = place.plan.setup(place.setup).cut_off
    if left is None:
        return state
    id = place.id_of("end", OperationKind.CUT_OFF)
    level = round(place.box.min[2] - left, 5)
    fitting = [
        t for t in choose.usable(place.library, place.material, [ToolKind.GROOVING])
        if t.cutting_length >= radius
    ]  # fmt: skip
    tool = place.tool(id, OperationKind.CUT_OFF, choose.best(fitting, lambda t: -t.diameter))
    undo = Cure("Do not cut it off", {"change": "set-cut-off", "setup": place.setup, "left": None})
    if tool is None:
        place.lack(
            "no-blade",
            f"No blade cuts Ø{2 * radius:.1f} off.",
            f"It has to plunge {radius:.1f} deep.",
            cures=(undo,),
            wanted=f"parting blade, {radius:.0f} deep",
        )
        return state
    lowest = place.lowest
    if level - tool.diameter < lowest - 1e-6:
        more = round(lowest - level + tool.diameter, 1)
        side = axis_name(neg(place.frame.up))
        by_hand = place.plan.setup(place.setup).grip is not None
        value = round(place.plan.allowances.on(side) + more_below(place.hold, more, by_hand=by_hand), 1)
        place.find(
            "cut-off-in-jaws", Severity.ERROR, f"The blade would cut {more:.1f} into the {place.hold.gripped_by}.",
            f"It takes {tool.diameter:g} below the piece, and stays {JAW_CLEARANCE:g} off the "
            f"{place.hold.gripped_by}. Leave more stock to hold by.", chapter=Chapter.SETUPS,
            cures=(Cure(f"Leave {value:g} at {side}", {"change": "set-allowance", "side": side, "value": value}), undo),
        )  # fmt: skip
        return state
    tip = level - tool.diameter
    spun = css(place, tool, id, radius, radius, 2 * radius)
    ring = ((0.0, place.stock.min[2] - LEAD), (radius + LEAD, place.stock.min[2] - LEAD), (radius + LEAD, level),
            (0.0, level))  # fmt: skip
    ends = _ends_by_blade(place) if left <= 0 else ()
    to_face = f"{left:g} left to face" if left > 0 else "its end as the blade leaves it"
    made = place.add(
        Named(id, OperationKind.CUT_OFF, f"Cut off Ø{2 * radius:.1f}, {to_face}", ends, "cut off", outer=True),
        tool,
        spun.settled,
        lathe_motion(place, spun, [[(radius + LEAD, tip), (-PAST_CENTRE, tip)]], (ring,), place.top + LEAD, radius),
        depth=radius,
        figures=spun.figures,
    )
    for op in list(place.operations):
        if op.id != made.id:
            place.require(made, op.id, "the piece is finished before it falls")
    side = axis_name(neg(place.frame.up))
    sign = 1 if dot(place.frame.up, axis) > 0 else -1
    kept = tuple((z, r) for z, r in _cut_below(state.turned, level * sign, sign))
    return replace(state, over={**state.over, side: left}, turned=kept)


def _ends_by_blade(place: Workplace) -> tuple[str, ...]:
    """The end that the blade makes where nothing is left on it to be faced."""
    up, lowest = place.frame.up, place.box.min[2]
    return tuple(
        f.id for f in place.part.features
        if isinstance(f, Turned) and f.where == "end" and dot(f.direction, up) < -0.999
        and abs(levels_of(place.part, f, up)[0] - lowest) < 1e-3
    )  # fmt: skip


def _cut_below(ring: tuple[tuple[float, float], ...], level: float, sign: int) -> list[tuple[float, float]]:
    """A half-section without what lies beyond a level, on the side away from the free end."""
    if not ring:
        return []
    far = 1e5
    keep = box(level, -1.0, far, far) if sign > 0 else box(-far, -1.0, level, far)
    left = Polygon(ring).buffer(0).intersection(keep)
    largest = max(getattr(left, "geoms", [left]), key=lambda g: g.area)
    return [(round(z, 5), round(r, 5)) for z, r in list(largest.exterior.coords)[:-1]]
