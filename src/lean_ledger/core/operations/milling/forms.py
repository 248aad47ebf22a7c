"""T-slots and dovetails: a slot through the mouth first, then a tool of the undercut's form, in from an open end."""

from __future__ import annotations

from functools import lru_cache
from math import ceil

from lean_ledger.core.basis.findings import Cure, Figure
from lean_ledger.core.features import Slot
from lean_ledger.core.features.model import Undercut
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import Wish, settle
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.paths import RUN_OFF, Walk
from lean_ledger.core.operations.milling.regions import Flat
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.library.types import Tool, ToolKind

SAME_FLANK = 0.5  # degrees that a dovetail mill's flank may differ by
NECK_ROOM = 0.2  # mm that the neck stays off the mouth's walls


def form_mill_for(slot: Slot, form: Undercut, place: Workplace) -> Tool | None:
    """The widest mill of the undercut's form that fits: under the mouth with its neck, in its height with its head."""
    dovetail = form.flank < 90 - SAME_FLANK
    kind = ToolKind.DOVETAIL_MILL if dovetail else ToolKind.T_SLOT_MILL

    def fits(tool: Tool) -> bool:
        if tool.diameter > form.width + 1e-6 or tool.reach < slot.depth:
            return False
        aside = (form.width - tool.diameter) / 2
        if tool.neck / 2 + aside > slot.width / 2 - NECK_ROOM:
            return False
        if dovetail:
            return abs(tool.tip_angle - form.flank) <= SAME_FLANK and tool.cutting_length >= form.height - 1e-6
        return tool.cutting_length <= form.height + 1e-6

    return choose.best([t for t in choose.usable(place.library, place.material, [kind]) if fits(t)],
                       lambda t: t.diameter)  # fmt: skip


def form_operation(place: Workplace, slot: Slot, form: Undercut) -> Operation | None:
    """Both sides of the undercut, a layer at a time where the head is lower than it."""
    kind = OperationKind.DOVETAIL if form.flank < 90 - SAME_FLANK else OperationKind.T_SLOT
    id = place.id_of(slot.id, kind)
    tool = place.tool(id, kind, form_mill_for(slot, form, place))
    name = "dovetail" if kind == OperationKind.DOVETAIL else "T-slot"
    if tool is None:
        flank = f" of {form.flank:g}°" if kind == OperationKind.DOVETAIL else ""
        place.lack(
            "no-form-mill",
            f"No {name} mill{flank} makes {slot.id}.",
            f"It has to be at most Ø{form.width:g}, go through a mouth of {slot.width:g} with its neck and reach "
            f"{slot.depth:g}; its head is {'at least' if kind == OperationKind.DOVETAIL else 'at most'} "
            f"{form.height:g} high.",
            features=(slot.id,),
            cures=(
                Cure(
                    "Leave to another shop", {"change": "leave-out", "features": [slot.id], "reason": "made elsewhere"}
                ),
            ),
            wanted=f"{name} mill{flank}, at most Ø{form.width:g}, head {form.height:g}",
        )
        return None
    data = place.library.data(tool, place.material)
    assert data is not None
    floor = place.z(slot.region[0][0])
    layers = 1 if kind == OperationKind.DOVETAIL else ceil(round(form.height / tool.cutting_length, 6))
    head = min(tool.cutting_length, form.height)
    aside = round((form.width - tool.diameter) / 2, 5)
    # one side at a time: what the mouth's slot left beside it
    wish = Wish(head, head, (form.width - slot.width) / 2, 0.0, thin_chips=False)
    settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
    start, end, runs_out = _run(place, slot, form, tool)
    step = (form.height - head) / (layers - 1) if layers > 1 else 0.0
    levels = tuple(round(floor + k * step, 5) for k in range(layers))
    motion = form_path(start, end, aside, levels, settled.cutting.vf, place.clearance, runs_out=runs_out)
    figures = (
        Figure("aside", f"({form.width:g} − {tool.diameter:g}) / 2 to either side", aside, "mm"),
        Figure("layers", f"{form.height:g} high, head of {tool.cutting_length:g}", layers, ""),
    )
    return place.add(
        Named(id, kind, f"Mill {name} {slot.id}, {form.width:g} wide", (slot.id,), slot.id, outer=True),
        tool,
        settled,
        motion,
        depth=slot.depth,
        figures=figures,
    )


def _run(place: Workplace, slot: Slot, form: Undercut, tool: Tool) -> tuple[Flat, Flat, bool]:
    """Where the tool's centre starts beside the stock, where it ends, and whether it runs out there."""
    open_ends = [_middle(place, edge) for edge in form.mouth_open]
    first = open_ends[0]
    far = _middle(place, (form.mouth[0], form.mouth[3]))
    other = _middle(place, (form.mouth[1], form.mouth[2]))
    last = max((far, other), key=lambda p: (p[0] - first[0]) ** 2 + (p[1] - first[1]) ** 2)
    length = ((last[0] - first[0]) ** 2 + (last[1] - first[1]) ** 2) ** 0.5
    out = ((first[0] - last[0]) / length, (first[1] - last[1]) / length)
    beyond = tool.diameter / 2 + RUN_OFF + _standing(place, first, out)
    start = (round(first[0] + out[0] * beyond, 5), round(first[1] + out[1] * beyond, 5))
    if len(open_ends) > 1:
        after = tool.diameter / 2 + RUN_OFF + _standing(place, last, (-out[0], -out[1]))
        return start, (round(last[0] - out[0] * after, 5), round(last[1] - out[1] * after, 5)), True
    stop = tool.diameter / 2
    return start, (round(last[0] + out[0] * stop, 5), round(last[1] + out[1] * stop, 5)), False


def _middle(place: Workplace, edge: tuple[Vec, ...]) -> Flat:
    (x0, y0), (x1, y1) = place.frame.flat((edge[0], edge[-1]))
    return ((x0 + x1) / 2, (y0 + y1) / 2)


def _standing(place: Workplace, at: Flat, out: Flat) -> float:
    """How far stock stands beyond a point of the part's side."""
    x0, y0, x1, y1 = place.stock_rectangle
    return max(0.0, (x1 - at[0]) * out[0] if out[0] > 0.5 else (x0 - at[0]) * out[0] if out[0] < -0.5 else 0.0,
               (y1 - at[1]) * out[1] if out[1] > 0.5 else (y0 - at[1]) * out[1] if out[1] < -0.5 else 0.0)  # fmt: skip


@lru_cache(maxsize=256)
def form_path(
    start: Flat, end: Flat, aside: float, levels: tuple[float, ...], vf: float, clearance: float, *, runs_out: bool
) -> Motion:
    """In from beside the stock along one side, back along the other: a head under a shoulder is lifted nowhere else."""
    length = ((end[0] - start[0]) ** 2 + (end[1] - start[1]) ** 2) ** 0.5
    along = ((end[0] - start[0]) / length, (end[1] - start[1]) / length)
    # to the right of the way in, where the stock then is: the tool climbs on both sides
    across = (along[1] * aside, -along[0] * aside)
    walk = Walk(clearance)

    def beside(p: Flat, side: int) -> Flat:
        return (round(p[0] + side * across[0], 5), round(p[1] + side * across[1], 5))

    for z in levels:
        walk.over(*beside(start, 1))
        walk.down(z)
        walk.cut(vf, [(*beside(end, 1), z)])
        if aside > 0:
            walk.cut(vf, [(*beside(end, -1), z), (*beside(start, -1), z)])
        elif not runs_out:
            walk.cut(vf, [(*start, z)])
    return walk.leave()
