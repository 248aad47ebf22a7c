"""What lies between two walls of a turned outside that stand out farther: V-grooves, necks with tapers or fillets.

No tool that comes along the axis gets in. A groove insert plunges side by side and draws along the walls; a pointed
insert that looks square at the axis goes down layer by layer, where the walls leave no room for a blade. Where the tip
may be is exact: the part's half-section, grown by the tool turned about its tip (a Minkowski sum, segment by segment).
Coordinates are (z, r) as in `setups.profile`.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import ceil

import shapely
from shapely import affinity
from shapely.geometry import LineString, Polygon, box
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.features import Feature, Turned
from lean_ledger.core.geometry.flat import polygons
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.turning.insert_outline import insert_of, shank_of
from lean_ledger.core.operations.turning.lathe_paths import CutLine, Spun, css, lathe_motion
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.profile import (
    FAR,
    SAME,
    Profile,
    is_neck,
    levels_of,
    outer_chain,
    reached_chain,
    section_of,
)
from lean_ledger.library.types import Tool, ToolKind

LEAST = 0.05  # mm² of section that is worth a pass
THIN = 0.03  # mm that chords of arcs stand in for
LEFT_BY_ROUGHING = 0.2  # mm
LAYER = 1.0  # mm on the radius that a pointed insert takes at a time
PLUNGE_SHARE = 0.85  # of a groove insert's width between two plunges
LEAD = 1.5  # mm in front of a cut
HEAD = 6.0  # mm beside its tip that a pointed insert's holder takes
SAME_LEFT = 0.2  # mm² by which two tools count as leaving the same


@dataclass(frozen=True)
class Recess:
    """Between two walls from `low` to `high` along the axis, `top` the radius that the stock has there."""

    low: float
    high: float
    top: float
    area: BaseGeometry


@dataclass(frozen=True)
class Reached:
    """What a tool clears of a recess: `tips` is where its tip may be, `cleared` what its edge takes there."""

    tool: Tool
    tips: BaseGeometry
    cleared: BaseGeometry
    left: float  # mm² of section that stay


def recesses(chain: Profile) -> tuple[Recess, ...]:
    """Of a part's chain, what stands nearer to the axis than something on either side of it, as the end that it is seen
    from leaves it.
    """
    part, standing = section_of(chain), section_of(reached_chain(chain))
    flipped = reached_chain(tuple((-z, r) for z, r in reversed(chain)))
    back = section_of(tuple((-z, r) for z, r in reversed(flipped)))
    between = standing.intersection(back).difference(part)
    found = []
    for piece in polygons(between.buffer(-THIN, join_style="mitre").buffer(THIN, join_style="mitre")):
        low, _, high, _ = piece.bounds
        area = standing.intersection(box(low, 0, high, FAR)).difference(part)
        if piece.area > LEAST and area.area > LEAST:
            found.append(Recess(low, high, float(area.bounds[3]), area))
    return tuple(found)


def features_in(part: Part, features: Sequence[Feature], up: Vec) -> list[tuple[Recess, tuple[str, ...]]]:
    """The recesses that are no plain grooves, each with those of some features that lie in it."""
    found = []
    for recess in recesses(outer_chain(part, up)):
        inside, rest = [], recess.area
        for feature in features:
            low, high = levels_of(part, feature, up)
            if recess.low - SAME <= low and high <= recess.high + SAME and high - low > SAME:
                inside.append(feature.id)
                if isinstance(feature, Turned) and (feature.where == "groove" or is_neck(part, feature)):
                    rest = rest.difference(box(low - SAME, 0, high + SAME, FAR))
        if inside and rest.area > LEAST:
            found.append((recess, tuple(inside)))
    return found


def reached(tool: Tool, recess: Recess, chain: Profile, reach: Profile, limit: float) -> Reached:
    """Where a tool's tip may be over a recess, and what it clears; below `limit` stands what holds the work."""
    beside = section_of(reach).difference(box(recess.low, 0, recess.high, FAR))
    standing = shapely.union_all([section_of(chain), beside, box(-FAR, 0, limit, FAR)])
    pieces = [_across(piece) for piece in (*insert_of(tool), *shank_of(tool))]
    away = [affinity.scale(piece, -1.0, -1.0, origin=(0, 0)) for piece in pieces]
    forbidden = shapely.union_all([standing, *(_swept(ring, piece) for ring in _rings(standing) for piece in away)])
    over = box(recess.low, 0, recess.high, recess.top)
    tips = over.difference(forbidden).simplify(1e-5)
    edges = [_across(piece) for piece in insert_of(tool)]
    swept = shapely.union_all([tips, *(_swept(ring, edge) for ring in _rings(tips) for edge in edges)])
    cleared = swept.intersection(recess.area)
    return Reached(tool, tips, cleared, recess.area.area - cleared.area)


def held_too_high(place: Workplace, recess: Recess, chain: Profile, reach: Profile, limit: float) -> bool:
    """Whether what holds the work keeps every insert from what it would clear of a recess without that."""
    tools = choose.usable(place.library, place.material, [ToolKind.GROOVING, ToolKind.PROFILING])
    least = [min((reached(t, recess, chain, reach, low).left for t in tools), default=0.0) for low in (limit, -FAR)]
    return recess.low < limit - THIN or least[0] > least[1] + SAME_LEFT


def recess_operation(
    place: Workplace, recess: Recess, features: tuple[str, ...], chain: Profile, reach: Profile, limit: float
) -> Operation | None:
    """By the tool that leaves the least, of equals the widest blade; None where no insert of the library gets in."""
    id = place.id_of(features[0], OperationKind.TURN_RECESS)
    tools = choose.usable(place.library, place.material, [ToolKind.GROOVING, ToolKind.PROFILING])
    able = [one for tool in tools if (one := reached(tool, recess, chain, reach, limit)).cleared.area > LEAST]
    least = min((one.left for one in able), default=recess.area.area)
    best = [one.tool for one in able if one.left <= least + SAME_LEFT]
    tool = place.tool(id, OperationKind.TURN_RECESS, choose.best(best, lambda t: t.diameter, place.hand))
    if tool is None:
        return None
    way = next((one for one in able if one.tool == tool), None) or reached(tool, recess, chain, reach, limit)
    depth = recess.top - (float(way.tips.bounds[1]) if not way.tips.is_empty else recess.top)
    if depth < THIN:
        return None
    blade = tool.kind == ToolKind.GROOVING
    take = (tool.diameter, tool.diameter) if blade else (depth, LAYER)
    spun = css(place, tool, id, *take, 2 * recess.top)
    roughed = _plunges(way, recess) if blade else _layers(way, recess, spun)
    # a little beyond the wall's radius: chords of what was turned there before stand over it here and there
    over = box(way.cleared.bounds[0], recess.top - THIN, way.cleared.bounds[2], recess.top + LEAD)
    taken = polygons(way.cleared.union(over))
    rings = tuple(tuple((r, z) for z, r in list(p.exterior.coords)[:-1]) for p in taken)
    words = f"Turn {features[0]} between its walls, {recess.high - recess.low:.1f} wide, {depth:.1f} deep"
    return place.add(
        Named(id, OperationKind.TURN_RECESS, words, features, features[0], outer=True),
        tool, spun.settled,
        lathe_motion(place, spun, [*roughed, *_along_the_bottom(way, recess)], rings, recess.high + LEAD, recess.top),
        depth=round(depth, 4),
        figures=(*spun.figures, Figure("cuts", "plunges" if blade else "layers", len(roughed), "")),
    )  # fmt: skip


def _plunges(way: Reached, recess: Recess) -> list[CutLine]:
    """Side by side from the free end, each down to what roughing leaves."""
    low, _, high, _ = way.tips.bounds
    step = PLUNGE_SHARE * way.tool.diameter
    count = 1 + ceil(round((high - low) / step, 6))
    found: list[CutLine] = []
    for k in range(count):
        z = high - (high - low) * k / max(1, count - 1)
        down = way.tips.intersection(LineString([(z, 0), (z, FAR)]))
        if down.is_empty:
            continue
        bottom = float(down.bounds[1]) + LEFT_BY_ROUGHING
        if bottom < recess.top - THIN:
            found.append([(recess.top + LEAD, z), (bottom, z)])
    return found


def _layers(way: Reached, recess: Recess, spun: Spun) -> list[CutLine]:
    """From wall to wall, one below the other, off the walls by what roughing leaves."""
    tips = way.tips.buffer(-LEFT_BY_ROUGHING, join_style="mitre")
    if tips.is_empty:
        return []
    passes = spun.settled.cutting.passes
    low = float(tips.bounds[1])
    found: list[CutLine] = []
    for k in range(1, passes + 1):
        r = recess.top - (recess.top - low) * k / passes
        line = tips.intersection(LineString([(-FAR, r + 1e-4), (FAR, r + 1e-4)]))
        for piece in getattr(line, "geoms", [line]):
            if not piece.is_empty and piece.length > THIN:
                start, end = piece.bounds[2], piece.bounds[0]
                found.append([(recess.top + LEAD, start), (r, start), (r, end)])
    return found


def _along_the_bottom(way: Reached, recess: Recess) -> list[CutLine]:
    """Once from the free end's wall to the other, as near as the tip comes."""
    found: list[CutLine] = []
    for piece in sorted(polygons(way.tips), key=lambda p: -p.bounds[2]):
        ring = list(piece.exterior.coords)[:-1]
        top = max(r for _, r in ring)
        ends = [i for i, (_, r) in enumerate(ring) if r > top - 1e-6]
        first = max(ends, key=lambda i: ring[i][0])
        last = min(ends, key=lambda i: ring[i][0])
        turned = ring[first:] + ring[:first]
        count = (last - first) % len(ring)
        ways = (turned[: count + 1], [turned[0], *reversed(turned[count:])])
        line = min(ways, key=lambda way: sum(r for _, r in way) / len(way))
        if piece.bounds[3] - piece.bounds[1] > THIN:
            found.append([(recess.top + LEAD, line[0][0]), *((r, z) for z, r in line)])
    return found


def _across(piece: Polygon) -> Polygon:
    """A tool's outline in (r, z) as one in (z, r)."""
    return Polygon([(z, r) for r, z in piece.exterior.coords])


def _rings(area: BaseGeometry) -> list[Sequence[tuple[float, float]]]:
    return [ring.coords for p in polygons(area) for ring in (p.exterior, *p.interiors)]


def _swept(line: Sequence[tuple[float, float]], piece: Polygon) -> BaseGeometry:
    """A convex piece moved along a line."""
    moved = [
        shapely.union_all([affinity.translate(piece, *a), affinity.translate(piece, *b)]).convex_hull
        for a, b in pairwise(line)
    ]
    return shapely.union_all(moved)
