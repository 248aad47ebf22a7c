"""Faces, recesses, the outline and chamfers."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import ceil, inf, isfinite, radians, tan

from shapely.geometry import LinearRing, LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.findings import Cure, Figure, Severity
from lean_ledger.core.features import Chamfer, lines_along
from lean_ledger.core.geometry.flat import lines as lines_of
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.holding import JAW_CLEARANCE
from lean_ledger.core.operations.chains import choose_rule, facts_of_all
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import Settled, Wish, settle
from lean_ledger.core.operations.in_blank import BESIDE_NEXT
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.clearing import Clearing, clean_corners_operation
from lean_ledger.core.operations.milling.paths import (
    Down,
    Rim,
    chamfer_path,
    face_path,
    finish_outline_path,
    rough_outline_path,
)
from lean_ledger.core.operations.milling.regions import Line, Region, farthest_stock, offset_ring
from lean_ledger.core.operations.milling.surface_paths import Over, risen
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.workplace import SPENT_WITH_CHANGE, Named, Workplace
from lean_ledger.library.types import Tool, ToolKind

FACE_SHARE = 0.72  # of the cutter's width per row
BELOW_FLOOR = 0.5  # mm that an outline goes below the part where stock stands under it
WALL_OVERLAP = 0.3  # mm by which two setups' outlines overlap
ROUGH_CORNERS = 0.02  # share of the outline's area that roughing may leave in inner corners
FINISH_CORNERS = 0.0005
LEVEL = 0.01  # mm
SOONER = 1.5  # times as long for a mill that comes into all corners, from which a thicker one goes before it
MUCH_SLOWER = 0.6  # of the feed, below which a deep loop is weighed against levels
MOSTLY = 0.8  # of a bevel's length that lies at one level


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
    if place.blank is not None:
        along, across = x1 - x0, y1 - y0

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
    along_x = place.blank is not None  # in one bar it goes on over the next pieces
    motion = face_path(facing.rectangle, tool.diameter, rows, down, settled.cutting.vf, along_x=along_x or None)
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
    outline = _Outline(place, ring, top, bottom, features)
    made_by = choose_rule(place, features, facts_of_all(place, features, "outline"), lambda _: "")
    finishes = "finish outline" in made_by.steps
    edit = place.edit(outline.id_of(OperationKind.ROUGH_OUTLINE))
    usual = place.material.wall_allowance if finishes else 0.0
    allowance = edit.allowance if edit.allowance is not None else usual
    mills = outline.mills(allowance, finishes=finishes)
    if mills is None and place.blank is not None:
        place.lack(
            "no-outline-mill",
            "No end mill of Ø{:.1f} to {:.1f} reaches all of the outline.".format(*outline.widths(allowance)),
            f"Between two parts of a {place.blank.word} there are {place.blank.narrowest(place.box, place.stock):.1f}. "
            "Leave more, or less, stock at the ends of each.",
            features=features, wanted=f"end mill that reaches {outline.depth:.1f}",
        )  # fmt: skip
        return []
    if mills is None:
        place.lack(
            "no-outline-mill", "No end mill is long enough for the outline.",
            f"The walls are {place.stock.max[2] - bottom:.1f} high in this setup. Add a longer end mill, or cut from "
            "both sides.", features=features, wanted=f"end mill that reaches {outline.depth:.1f}",
        )  # fmt: skip
        return []
    rougher, finisher = mills
    made = [outline.rough(rougher, allowance)]
    if finishes:
        cleaned = outline.clean(rougher, finisher, allowance)
        made += [cleaned] if cleaned is not None else []
        made.append(outline.finish(finisher, allowance))
        for before, after in pairwise(made):
            place.require(after, before.id, f"{before.kind.value} before {after.kind.value}")
    place.made_by(made_by.id, len(made))
    return place.operations[-len(made) :]


@dataclass(frozen=True)
class _Outline:
    """The walls around the part between two levels, and how an end mill goes along them."""

    place: Workplace
    ring: Line
    top: float
    bottom: float
    features: tuple[str, ...]

    @property
    def depth(self) -> float:
        return round(self.top - self.bottom, 5)

    @property
    def side(self) -> float:
        """The thickest stock on a side, mm."""
        (x0, y0, x1, y1), box = self.place.around_rectangle, self.place.box
        return max(box.min[0] - x0, x1 - box.max[0], box.min[1] - y0, y1 - box.max[1])

    def widths(self, allowance: float) -> tuple[float, float]:
        """Of mills that go round the part: in one bar no thicker than passes the next part, and no thinner than takes
        what is over at an end in one way.
        """
        blank, own = self.place.blank, (self.place.box, self.place.stock)
        if blank is None:
            return 0.0, inf
        least = blank.way if isfinite(blank.way) else blank.over(*own)
        return round(least - allowance, 4), round(blank.narrowest(*own) - 2 * (allowance + BESIDE_NEXT), 4)

    def id_of(self, kind: OperationKind) -> str:
        return self.place.id_of("outline", kind)

    def mills(self, allowance: float, *, finishes: bool) -> tuple[Tool, Tool] | None:
        """To rough and to finish with; None where one is not to be had."""
        place, depth = self.place, self.depth
        around, shop = float(LinearRing(self.ring).length), (place.library, place.material)

        def roughing(tool: Tool) -> float:
            rate = choose.removal_rate(tool, *shop, place.machine, depth)
            return around * max(self.side, 1.0) * depth / rate

        def finishing(tool: Tool) -> float:
            levels = ceil(round(depth / tool.cutting_length, 6))
            return around * levels / choose.feed_rate(tool, *shop, place.machine)

        hand = place.hand
        # what nothing finishes has to come into the corners by itself
        corners = ROUGH_CORNERS if finishes else FINISH_CORNERS
        widths = self.widths(allowance)
        rule = choose.outline_mill(self.ring, depth, corners, roughing, *shop, hand, (0.0, widths[1]))
        thin = rule
        if finishes and thin is not None:
            rule = self._thick(thin, roughing, widths) or thin
        if rule is not None and rule.diameter < widths[0]:
            return None
        rougher = place.tool(self.id_of(OperationKind.ROUGH_OUTLINE), OperationKind.ROUGH_OUTLINE, rule)
        hand = hand.using(rougher) if rougher is not None else hand
        if rougher is not None and place.blank is not None and place.blank.plate:
            widths = (0.0, min(widths[1], rougher.diameter))  # it comes down in what roughing has cut free
        rule = choose.outline_mill(self.ring, depth, FINISH_CORNERS, finishing, *shop, hand, (0.0, widths[1])) or (
            rougher if rougher != rule else thin
        )
        finisher = place.tool(self.id_of(OperationKind.FINISH_OUTLINE), OperationKind.FINISH_OUTLINE, rule)
        return None if rougher is None or finisher is None else (rougher, finisher)

    def _thick(self, thin: Tool, minutes: Callable[[Tool], float], widths: tuple[float, float]) -> Tool | None:
        """A mill that does not come into all inner corners, where the stock and those corners together are taken
        clearly sooner: it roughs, and what it leaves is cleaned by one that comes in.
        """
        place, shop = self.place, (self.place.library, self.place.material)
        thick = choose.outline_mill(self.ring, self.depth, 1.0, minutes, *shop, place.hand, widths)
        if thick is None or thick.diameter <= thin.diameter:
            return None
        if thin.diameter < widths[0]:
            return thick
        x0, y0, x1, y1 = place.standing_rectangle
        part = Polygon(self.ring).area
        beside, corners = (x1 - x0) * (y1 - y0) - part, part * choose.left_in_corners(self.ring, thick.diameter / 2)
        slow, quick = (choose.removal_rate(t, *shop, place.machine, self.depth) for t in (thin, thick))
        change = (place.machine.tool_change + SPENT_WITH_CHANGE) / 60
        alone = beside * self.depth / slow
        together = (beside - corners) * self.depth / quick + corners * self.depth / slow + change
        return thick if alone > SOONER * together else None

    def clean(self, rougher: Tool, finisher: Tool, allowance: float) -> Operation | None:
        """The inner corners that roughing did not come into."""
        if choose.left_in_corners(self.ring, rougher.diameter / 2) <= ROUGH_CORNERS:
            return None
        x0, y0, x1, y1 = self.place.standing_rectangle
        around = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
        blank, whole = self.place.blank, (*around, around[0])
        sides = (whole,) if blank is None else () if blank.plate else (around[:2], around[2:])
        region = Region((around, self.ring), sides)
        work = Clearing((region,), self.top, self.bottom, self.features, "outline", run_out=1.0)
        return clean_corners_operation(self.place, "Clean corners of outline", rougher, finisher, work, allowance)

    def rough(self, tool: Tool, allowance: float) -> Operation:
        """One deep loop, or levels of the material's steps where the loop would have to go slow in thick stock."""
        place, id = self.place, self.id_of(OperationKind.ROUGH_OUTLINE)
        name = f"Rough outline, {self.depth:.1f} deep"
        named = Named(id, OperationKind.ROUGH_OUTLINE, name, self.features, "outline", outer=True)
        ae_most = place.material.rough_ae * tool.diameter
        rest = farthest_stock(self.ring, place.around_rectangle) - allowance
        if place.blank is not None and place.blank.plate:  # stock stands on all sides: it goes full width
            return place.add(named, tool, *self._roughing(tool, allowance, rest, tool.diameter), depth=self.depth)
        # stock that one loop takes is cut as thick as it stands on the sides; more is taken in steps, from its edge
        # inward
        ways = [self._roughing(tool, allowance, rest, ae_most if rest > ae_most else max(self.side - allowance, 0.1))]
        if place.fed(named, tool, *ways[0], self.depth).least_share < MUCH_SLOWER:
            ways.append(self._roughing(tool, allowance, rest, ae_most))

        def seconds(way: tuple[Settled, Motion]) -> float:
            return place.seconds(place.fed(named, tool, *way, self.depth).motion)

        settled, motion = min(ways, key=seconds)
        return place.add(named, tool, settled, motion, depth=self.depth)

    def _roughing(self, tool: Tool, allowance: float, rest: float, ae: float) -> tuple[Settled, Motion]:
        place, edit = self.place, self.place.edit(self.id_of(OperationKind.ROUGH_OUTLINE))
        data = place.library.data(tool, place.material)
        assert data is not None
        # a thin radial cut may be as deep as the flutes: the load is the same as of a thick one that is shallow
        ap = tool.cutting_length if ae <= 0.25 * tool.diameter else place.material.rough_ap * tool.diameter
        wish = Wish(self.depth, min(ap, tool.cutting_length, 1.5 * tool.diameter), ae, allowance)
        settled = settle(tool, data, place.material, place.machine, edit, wish)
        cut = settled.cutting
        most = place.material.rough_ae * tool.diameter
        in_steps = edit.ae is not None or rest > most
        motion = rough_outline_path(
            self.ring, Rim(place.around_rectangle, place.blank), tool.diameter, cut.allowance,
            (cut.ae if edit.ae is not None else min(cut.ae, most)) if in_steps else max(rest, 0.1),
            self._down(cut.passes), cut.vf,
            climb=place.climbs(edit.operation),
        )  # fmt: skip
        return settled, motion

    def finish(self, tool: Tool, allowance: float) -> Operation:
        place, id = self.place, self.id_of(OperationKind.FINISH_OUTLINE)
        data = place.library.data(tool, place.material)
        assert data is not None
        wish = Wish(self.depth, tool.cutting_length, max(allowance, 0.05), 0.0, thin_chips=False)
        settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
        cut = settled.cutting
        motion = finish_outline_path(
            self.ring, tool.diameter, cut.allowance, self._down(cut.passes), cut.vf, climb=place.climbs(id),
            in_bar=place.blank is not None and not place.blank.plate, off=self._way_cut / 2,
        )  # fmt: skip
        name = f"Finish outline, {self.depth:.1f} deep"
        named = Named(id, OperationKind.FINISH_OUTLINE, name, self.features, "outline", outer=True)
        return place.add(named, tool, settled, motion, depth=self.depth)

    @property
    def _way_cut(self) -> float:
        """How far off the part it is free all round once the outline is roughed, in a plate; elsewhere without end."""
        place, id = self.place, self.id_of(OperationKind.ROUGH_OUTLINE)
        if place.blank is None or not place.blank.plate:
            return inf
        rough = next(op for op in place.operations if op.id == id)
        return rough.tool.diameter + 2 * rough.cutting.allowance

    def _down(self, passes: int) -> Down:
        return Down(self.top, self.bottom, passes, self.place.clearance, self.place.material.ramp_angle)


def chamfer_operation(place: Workplace, chamfers: Sequence[Chamfer], ring: Line) -> Operation | None:
    """Break edges of one width at one level with a pointed mill, its flank's middle on the edge."""
    first = chamfers[0]
    ids = tuple(chamfer.id for chamfer in chamfers)
    id = place.id_of(first.id, OperationKind.CHAMFER)
    paths = [line for chamfer in chamfers for line in wall_edges(place, chamfer)]
    wall_edge = min(place.z(p) for line in paths for p in line)
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
    tip = round(wall_edge - overhang / tan(radians(tool.tip_angle / 2)), 4)
    wish = Wish(first.width, first.width, first.width, 0.0, thin_chips=False)
    settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
    # at half the bevel's height the part stands on one side of its edge, and the tool goes along the other
    stands = risen(Over(place.part.model.solid.mesh, place.frame), round(wall_edge + first.width / 2, 4))
    flat = [place.frame.flat(line) for line in paths]
    lines = tuple(beside_edge(line, stands, overhang, first.width) for line in flat if len(line) > 1)
    motion = chamfer_path(tuple(line for line in lines if len(line) > 1), tip, settled.cutting.vf, place.clearance)
    outer = any(_on_ring(line, ring) for line in flat)
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


def wall_edges(place: Workplace, chamfer: Chamfer) -> tuple[tuple[Vec, ...], ...]:
    """The lower edges of a bevel as it lies in a way: which of its two that is depends on where the tool comes from."""
    solid = place.part.model.solid
    edges = {k for f in chamfer.faces for loop in solid.faces[f].loops for k, _ in loop.edges}
    levels = {k: [place.z(p) for p in solid.edges[k].points] for k in edges}
    low = min(z for own in levels.values() for z in own)
    if min(place.z(p) for line in chamfer.path for p in line) <= low + LEVEL:
        return chamfer.path
    lower = [solid.edges[k] for k, own in levels.items() if max(own) <= low + LEVEL]
    if sum(edge.length for edge in lower) < MOSTLY * chamfer.length:
        return chamfer.path
    return lines_along(lower)


def _on_ring(line: Line, ring: Line) -> bool:
    boundary = LinearRing(ring)
    return all(boundary.distance(Point(p)) < 0.05 for p in line)


def beside_edge(line: Line, stands: BaseGeometry, distance: float, width: float) -> Line:
    """The centre's line at a distance beside an edge, on the side where less of the part stands near it."""
    if line[0] == line[-1] and len(line) >= 4:
        whole = Polygon(line)
        outside = stands.intersection(whole.buffer(2 * width).difference(whole)).area
        inside = stands.intersection(whole.difference(whole.buffer(-2 * width))).area
        return offset_ring(line[:-1], distance if inside > outside else -distance)
    edge = LineString(line)
    left, right = (stands.intersection(edge.buffer(side * 2 * width, single_sided=True)).area for side in (1, -1))
    moved = lines_of(edge.offset_curve(distance if left < right else -distance, join_style="mitre"))
    return max((tuple((x, y) for x, y in one.coords) for one in moved), key=len, default=())
