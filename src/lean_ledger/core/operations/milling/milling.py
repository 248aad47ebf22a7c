"""Faces, recesses, the outline and chamfers."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from shapely.geometry import LinearRing, Point

from lean_ledger.core.basis.findings import Cure, Figure, Severity
from lean_ledger.core.features import Chamfer
from lean_ledger.core.holding import JAW_CLEARANCE
from lean_ledger.core.operations.chains import choose_rule, facts_of_all
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import Wish, settle
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.paths import (
    Down,
    chamfer_path,
    face_path,
    finish_outline_path,
    rough_outline_path,
)
from lean_ledger.core.operations.milling.regions import Line, farthest_stock, offset_ring
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.library.types import Tool, ToolKind

FACE_SHARE = 0.72  # of the cutter's width per row
BELOW_FLOOR = 0.5  # mm that an outline goes below the part where stock stands under it
WALL_OVERLAP = 0.3  # mm by which two setups' outlines overlap
ROUGH_CORNERS = 0.02  # share of the outline's area that roughing may leave in inner corners
FINISH_CORNERS = 0.0005


@dataclass(frozen=True)
class Facing:
    """A flat that a face mill goes over in rows: `rectangle` is (x least, y least, x greatest, y greatest)."""

    group: str
    name: str
    rectangle: tuple[float, float, float, float]
    top: float
    depth: float
    features: tuple[str, ...]


def face_operation(place: Workplace, facing: Facing) -> Operation | None:
    """Take the stock off a flat with nothing standing beside it, down to the part."""
    id, depth = place.id_of(facing.group, OperationKind.FACE), facing.depth
    x0, y0, x1, y1 = facing.rectangle
    along, across = max(x1 - x0, y1 - y0), min(x1 - x0, y1 - y0)

    def minutes(tool: Tool) -> float:
        rows = ceil(across / (FACE_SHARE * tool.diameter))
        steps = ceil(depth / min(place.material.face_ap, tool.cutting_length))
        way = rows * steps * (along + tool.diameter)
        return way / choose.feed_rate(tool, place.library, place.material, place.machine)

    tools = choose.usable(place.library, place.material, [ToolKind.FACE_MILL]) or choose.usable(
        place.library, place.material, [ToolKind.END_MILL]
    )
    tool = place.tool(id, OperationKind.FACE, choose.quickest(tools, minutes, place.hand))
    if tool is None:
        return None
    data = place.library.data(tool, place.material)
    assert data is not None
    rows = ceil(round(across / (FACE_SHARE * tool.diameter), 6))
    wish = Wish(depth, min(place.material.face_ap, tool.cutting_length), across / rows, thin_chips=False)
    settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
    if place.edit(id).ae is not None:
        rows = max(1, ceil(round(across / settled.cutting.ae, 6)))
    top = facing.top
    down = Down(top, round(top - depth, 5), settled.cutting.passes, place.clearance)
    motion = face_path(facing.rectangle, tool.diameter, rows, down, settled.cutting.vf)
    formula = f"ceil({across:.1f} / ({FACE_SHARE} · {tool.diameter:g})) rows over {along:.1f}"
    return place.add(
        Named(id, OperationKind.FACE, facing.name, facing.features, facing.group, outer=True),
        tool,
        settled,
        motion,
        depth=depth,
        figures=(Figure("rows", formula, rows, ""),),
    )


def outline_operations(
    place: Workplace, ring: Line, top: float, bottom: float, features: tuple[str, ...]
) -> list[Operation]:
    """Around the part from the stock's edge inward, then once at size."""
    group = "outline"
    depth = round(top - bottom, 5)
    over_stock = place.stock.max[2] - bottom
    rough_id, finish_id = (
        place.id_of(group, OperationKind.ROUGH_OUTLINE),
        place.id_of(group, OperationKind.FINISH_OUTLINE),
    )
    stock, box = place.stock, place.box
    side = max(
        box.min[0] - stock.min[0], stock.max[0] - box.max[0], box.min[1] - stock.min[1], stock.max[1] - box.max[1]
    )
    around, shop = float(LinearRing(ring).length), (place.library, place.material)

    def roughing(tool: Tool) -> float:
        return around * max(side, 1.0) * depth / choose.removal_rate(tool, *shop, place.machine, depth)

    def finishing(tool: Tool) -> float:
        levels = ceil(round(depth / tool.cutting_length, 6))
        return around * levels / choose.feed_rate(tool, *shop, place.machine)

    made_by = choose_rule(place, features, facts_of_all(place, features, "outline"), lambda _: "")
    finishes = "finish outline" in made_by.steps
    hand = place.hand
    # what nothing finishes has to come into the corners by itself
    rule = choose.outline_mill(ring, depth, ROUGH_CORNERS if finishes else FINISH_CORNERS, roughing, *shop, hand)
    rougher = place.tool(rough_id, OperationKind.ROUGH_OUTLINE, rule)
    hand = hand.using(rougher) if rougher is not None else hand
    rule = choose.outline_mill(ring, depth, FINISH_CORNERS, finishing, *shop, hand) or rougher
    finisher = place.tool(finish_id, OperationKind.FINISH_OUTLINE, rule)
    if rougher is None or finisher is None:
        place.lack(
            "no-outline-mill",
            "No end mill is long enough for the outline.",
            f"The walls are {over_stock:.1f} high in this setup. Add a longer end mill, or cut from both sides.",
            features=features,
            wanted=f"end mill that reaches {depth:.1f}",
        )
        return []
    rough_data, finish_data = (place.library.data(t, place.material) for t in (rougher, finisher))
    assert rough_data is not None
    assert finish_data is not None
    edit = place.edit(rough_id)
    usual = place.material.wall_allowance if finishes else 0.0
    allowance = edit.allowance if edit.allowance is not None else usual
    ae_most = place.material.rough_ae * rougher.diameter
    rest = farthest_stock(ring, place.stock_rectangle) - allowance
    # stock that one loop takes is cut as thick as it stands on the sides; more is taken in steps, from its edge inward
    ae = ae_most if rest > ae_most else max(side - allowance, 0.1)
    # a thin radial cut may be as deep as the flutes: the load is the same as of a thick one that is shallow
    ap = rougher.cutting_length if ae <= 0.25 * rougher.diameter else place.material.rough_ap * rougher.diameter
    wish = Wish(depth, min(ap, rougher.cutting_length, 1.5 * rougher.diameter), ae, allowance)
    settled = settle(rougher, rough_data, place.material, place.machine, edit, wish)
    cut = settled.cutting
    step = cut.ae if edit.ae is not None or rest > ae_most else max(rest, 0.1)
    motion = rough_outline_path(
        ring, place.stock_rectangle, rougher.diameter, cut.allowance, step,
        Down(top, bottom, cut.passes, place.clearance), cut.vf, climb=place.climbs(rough_id),
    )  # fmt: skip
    rough = place.add(
        Named(rough_id, OperationKind.ROUGH_OUTLINE, f"Rough outline, {depth:.1f} deep", features, group, outer=True),
        rougher,
        settled,
        motion,
        depth=depth,
    )
    if not finishes:
        place.made_by(made_by.id, 1)
        return [place.operations[-1]]
    wish = Wish(depth, finisher.cutting_length, max(allowance, 0.05), 0.0, thin_chips=False)
    settled = settle(finisher, finish_data, place.material, place.machine, place.edit(finish_id), wish)
    cut = settled.cutting
    motion = finish_outline_path(
        ring, finisher.diameter, cut.allowance, Down(top, bottom, cut.passes, place.clearance), cut.vf,
        climb=place.climbs(finish_id),
    )  # fmt: skip
    finish = place.add(
        Named(
            finish_id, OperationKind.FINISH_OUTLINE, f"Finish outline, {depth:.1f} deep", features, group, outer=True
        ),
        finisher,
        settled,
        motion,
        depth=depth,
    )
    place.require(finish, rough.id, "rough before finish")
    place.made_by(made_by.id, 2)
    return place.operations[-2:]


def chamfer_operation(place: Workplace, chamfers: Sequence[Chamfer], ring: Line) -> Operation | None:
    """Break edges of one width at one level with a pointed mill, its flank's middle on the edge."""
    first = chamfers[0]
    ids = tuple(chamfer.id for chamfer in chamfers)
    id = place.id_of(first.id, OperationKind.CHAMFER)
    wall_edge = min(place.z(p) for chamfer in chamfers for line in chamfer.path for p in line)
    fitting = [
        t
        for t in choose.usable(place.library, place.material, [ToolKind.CHAMFER_MILL])
        if abs(90 - t.tip_angle / 2 - first.angle) < 1.0 and t.diameter / 2 >= 1.5 * first.width
    ]
    tool = place.tool(id, OperationKind.CHAMFER, choose.best(fitting, lambda t: -t.diameter, place.hand))
    if tool is None:
        place.lack(
            "no-chamfer-mill",
            f"No chamfer mill breaks {', '.join(ids)} ({first.width:g} × {first.angle:g}°).",
            "Add one to the library, or leave the edge to deburring.",
            features=ids,
            cures=(Cure("Leave to deburring", {"change": "leave-out", "features": list(ids), "reason": "deburring"}),),
            wanted=f"chamfer mill of {2 * (90 - first.angle):g}°, Ø{3 * first.width:.1f} or more",
        )
        return None
    data = place.library.data(tool, place.material)
    assert data is not None
    overhang = tool.diameter / 4  # the flank's middle
    tip = round(wall_edge - overhang, 4)
    wish = Wish(first.width, first.width, first.width, 0.0, thin_chips=False)
    settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
    lines = tuple(_beside_edge(place.frame.flat(line), ring, overhang) for chamfer in chamfers for line in chamfer.path)
    motion = chamfer_path(tuple(line for line in lines if len(line) > 1), tip, settled.cutting.vf, place.clearance)
    outer = any(_on_ring(place.frame.flat(line), ring) for c in chamfers for line in c.path)
    if outer and tip < place.lowest - JAW_CLEARANCE:
        place.find(
            "chamfer-in-jaws", Severity.ERROR,
            f"The mill for {', '.join(ids)} runs {place.lowest - JAW_CLEARANCE - tip:.1f} below the jaws' tops.",
            "Grip less, or break this edge from the other side.", features=ids, operation=id,
        )  # fmt: skip
    return place.add(
        Named(id, OperationKind.CHAMFER, f"Chamfer {first.width:g} × {first.angle:g}°", ids, first.id, outer=outer),
        tool,
        settled,
        motion,
        depth=round(place.top - tip, 4),
    )


def _on_ring(line: Line, ring: Line) -> bool:
    boundary = LinearRing(ring)
    return all(boundary.distance(Point(p)) < 0.05 for p in line)


def _beside_edge(line: Line, ring: Line, distance: float) -> Line:
    """The centre's line: outside an outer edge, inside the edge of an opening."""
    if line[0] != line[-1] or len(line) < 4:
        return line
    moved = offset_ring(line[:-1], distance if _on_ring(line, ring) else -distance)
    return moved or line
