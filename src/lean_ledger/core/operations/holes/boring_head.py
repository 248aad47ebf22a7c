"""Bores to size on a mill: a head with one edge that is set to the diameter, in and out in feed."""

from __future__ import annotations

from dataclasses import replace

from lean_ledger.core.basis.findings import Cure, Figure, Severity
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import settle_plunge
from lean_ledger.core.operations.depths import depth_of, formula_of
from lean_ledger.core.operations.holes.drilling import HoleGroup, hop_over
from lean_ledger.core.operations.holes.hole_paths import ream_path
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.library.types import Tool, ToolKind

LEFT = (1.0, 0.3)  # mm of diameter that is left to the head, at the most and at the least
BEYOND, SHORT = 1.0, 0.02  # mm beyond a through bore, and off the floor of a blind one


def fits(head: Tool, diameter: float, depth: float) -> bool:
    return head.diameter - 1e-6 <= diameter <= head.widest + 1e-6 and head.cutting_length >= depth


def head_for(place: Workplace, group: HoleGroup) -> Tool | None:
    """The head whose range and reach take the bore in, set to it; one that is at another size already is not free."""
    hole = group.first
    wanted = place.edit(place.id_of(hole.id, OperationKind.BORE_TO_SIZE)).tool
    by_hand = place.library.tool(wanted) if wanted else None
    if by_hand is not None and by_hand.kind == ToolKind.BORING_HEAD:
        return replace(by_hand, diameter=hole.diameter)
    heads = choose.usable(place.library, place.material, [ToolKind.BORING_HEAD])
    able = [t for t in heads if fits(t, hole.diameter, depth_by_rule(group))]
    set_otherwise = {
        op.tool.id for op in place.operations
        if op.kind == OperationKind.BORE_TO_SIZE and abs(op.tool.diameter - hole.diameter) > 1e-3
    }  # fmt: skip
    free = [t for t in able if t.id not in set_otherwise]
    found = choose.best(free or able, lambda t: -t.widest, place.hand)
    return replace(found, diameter=hole.diameter) if found is not None else None


def depth_by_rule(group: HoleGroup) -> float:
    hole = group.first
    return round(hole.depth + BEYOND if hole.through else hole.depth - SHORT, 5)


def bore_to_size(place: Workplace, group: HoleGroup, head: Tool) -> Operation:
    id, hole = place.id_of(group.first.id, OperationKind.BORE_TO_SIZE), group.first
    depth = depth_of(
        place,
        id,
        OperationKind.BORE_TO_SIZE,
        group.entry,
        depth_by_rule(group),
        group.ids,
        deeper=hole.through,
        shorter=True,
    )
    found = place.library.tool(head.id)
    if found is not None and not fits(found, hole.diameter, depth):
        place.find(
            "head-size", Severity.ERROR, f"{head.description} does not bore {group.label}.",
            f"It is set from Ø{found.diameter:g} to Ø{found.widest:g} and goes {found.cutting_length:g} deep.",
            features=group.ids, operation=id,
            cures=(Cure("Let the rule choose", {"change": "edit-operation", "operation": id, "clear": ["tool"]}),),
        )  # fmt: skip
    data = place.library.data(head, place.material)
    assert data is not None
    settled = settle_plunge(head, data, place.material, place.machine, place.edit(id), depth)
    motion = ream_path(group.points, group.entry, depth, settled.cutting.vf, hop_over(place, group), place.clearance)
    formula = f"{hole.depth:g} + {BEYOND:g}" if hole.through else f"{hole.depth:g} − {SHORT:g}"
    tolerance = place.plan.said_of(hole.id).tolerance
    return place.add(
        Named(id, OperationKind.BORE_TO_SIZE, f"Bore {group.label} {tolerance}".rstrip(), group.ids, hole.id),
        head,
        settled,
        motion,
        depth=depth,
        figures=(Figure("depth", formula_of(place, id, formula), depth, "mm"),),
    )
