"""Lines engraved on a flat side by a fine mill: along each once, as deep as its depth asks, up and over to the next."""

from __future__ import annotations

from collections.abc import Sequence
from math import cos, radians, sin

from shapely.geometry import MultiLineString, Polygon

from lean_ledger.core.basis.findings import Cure, Figure, Severity
from lean_ledger.core.features import Feature, OuterFace, Turned, flat_side
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import Wish, settle
from lean_ledger.core.operations.feeds import at_any_feed
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.lettering import strokes_of
from lean_ledger.core.operations.milling.paths import APPROACH, RAMP_FEED, Down, Walk
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.core.plan import Drawn, Engraving
from lean_ledger.core.setups.frame import Frame
from lean_ledger.library.types import Tool

FINE = 3.0  # mm that the mill is thick at most
STEP = 0.3  # × diameter that a fine mill goes down by at once, in full width
JOIN = 1e-6


def engrave_operations(place: Workplace, features: Sequence[Feature]) -> None:
    """What is engraved on the sides that are made from here and look to the tool."""
    for engraving in place.plan.engravings:
        face = next((engravable(f) for f in features if f.id == engraving.face), None)
        if face is not None and dot(face.normal, place.frame.up) > 0.999:
            _engrave(place, engraving, area_of(face, place.frame), place.z(face.region[0][0]))


def engravable(feature: Feature) -> OuterFace | Turned | None:
    """A flat side that has an extent; None for any other feature."""
    face = flat_side(feature)
    return face if face is not None and face.region else None


def area_of(face: OuterFace | Turned, frame: Frame) -> Polygon:
    rings = [frame.flat(ring) for ring in face.region]
    return Polygon(rings[0], rings[1:])


def _engrave(place: Workplace, engraving: Engraving, face: Polygon, top: float) -> Operation | None:
    id = place.id_of(engraving.id, OperationKind.ENGRAVE)
    take_off = Cure("Do not engrave it", {"change": "remove-engraving", "engraving": engraving.id})
    mills = choose.usable(place.library, place.material, OperationKind.ENGRAVE.tool_kinds)
    rule = choose.best([t for t in mills if t.diameter <= FINE], lambda t: -t.diameter)
    tool = place.tool(id, OperationKind.ENGRAVE, rule)
    if tool is None:
        place.lack(
            "no-fine-mill",
            f"No mill is fine enough to engrave {engraving.words}.",
            f"It is to be at most Ø{FINE:g} and to have data for {place.material.name}.",
            cures=(take_off,),
            wanted=f"end mill, at most Ø{FINE:g}",
        )
        return None
    lines = laid(lines_of(engraving), engraving, (face.centroid.x, face.centroid.y))
    _check_on_face(place, engraving, face, lines, tool, id, take_off)
    data = place.library.data(tool, place.material)
    assert data is not None
    wish = Wish(engraving.depth, STEP * tool.diameter, tool.diameter, thin_chips=False)
    settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
    cutting = settled.cutting
    motion = engraved_path(lines, Down(top, top - engraving.depth, cutting.passes, place.clearance), cutting.vf)
    length = sum(MultiLineString([line]).length for line in lines)
    made = place.add(
        Named(
            id,
            OperationKind.ENGRAVE,
            f"Engrave {engraving.words} on {engraving.face}, {engraving.depth:g} deep",
            (engraving.face,),
            engraving.id,
        ),
        tool,
        settled,
        motion,
        depth=engraving.depth,
        figures=(Figure("lines", f"{len(lines)}, {length:.1f} long together", len(lines), ""),),
    )
    for op in list(place.operations):
        if op.id != made.id and engraving.face in op.features and op.kind != OperationKind.ENGRAVE:
            place.require(made, op.id, "the face is there before it is engraved")
    return made


def lines_of(engraving: Engraving) -> Drawn:
    """As drawn: their middle, or the middle of the box around them, at the origin."""
    if engraving.text:
        return strokes_of(engraving.text, engraving.height)
    points = [p for line in engraving.lines for p in line]
    x, y = ((min(p[i] for p in points) + max(p[i] for p in points)) / 2 for i in (0, 1))
    return tuple(tuple((px - x, py - y) for px, py in line) for line in engraving.lines)


def laid(lines: Drawn, engraving: Engraving, middle: tuple[float, float]) -> Drawn:
    """Turned, then moved to where they lie from the middle of the face."""
    c, s = cos(radians(engraving.turn)), sin(radians(engraving.turn))
    dx, dy = middle[0] + engraving.at[0], middle[1] + engraving.at[1]
    return tuple(tuple((round(c * x - s * y + dx, 5), round(s * x + c * y + dy, 5)) for x, y in line) for line in lines)


def _check_on_face(
    place: Workplace, engraving: Engraving, face: Polygon, lines: Drawn, tool: Tool, id: str, take_off: Cure
) -> None:
    strip = MultiLineString([line for line in lines if len(line) > 1]).buffer(tool.diameter / 2)
    off = strip.difference(face)
    if off.area < JOIN:
        return
    x0, y0, x1, y1 = face.bounds
    width, height = strip.bounds[2] - strip.bounds[0], strip.bounds[3] - strip.bounds[1]
    place.find(
        "engraved-off-face", Severity.ERROR, f"{engraving.words} leaves {engraving.face}.",
        f"With a mill of Ø{tool.diameter:g} it is {width:.1f} × {height:.1f}, the face {x1 - x0:.1f} × {y1 - y0:.1f} "
        "around what is cut out of it. Move it, turn it or make it smaller.",
        operation=id, features=(engraving.face,), cures=(take_off,),
    )  # fmt: skip


@at_any_feed
def engraved_path(lines: Drawn, down: Down, vf: float) -> Motion:
    """Each line from the level above, down at half the feed, along it and back again for the next step."""
    walk = Walk(down.clearance)
    for line in lines:
        walk.over(*line[0])
        walk.down(round(down.top + APPROACH, 5))
        for k, z in enumerate(down.levels):
            way = line if k % 2 == 0 else line[::-1]
            walk.cut(RAMP_FEED * vf, [(*way[0], round(z, 5))])
            walk.cut(vf, [(*p, round(z, 5)) for p in way[1:]])
    return walk.leave()
