"""Flat work from DXF: closed outlines, with what is cut out of them, become plates. Imports the CAD kernel."""

from __future__ import annotations

import itertools
import math
import re
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from ezdxf import path as dxf_path
from ezdxf.bbox import extents
from ezdxf.lldxf.const import DXFError
from ezdxf.math import Vec2, bulge_to_arc
from OCP.BRep import BRep_Builder
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeWire
from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism
from OCP.GC import GC_MakeArcOfCircle
from OCP.gp import gp_Ax2, gp_Circ, gp_Dir, gp_Pnt, gp_Vec
from OCP.TopoDS import TopoDS_Compound
from shapely import STRtree
from shapely.geometry import Polygon
from shapely.validation import explain_validity

from lean_ledger.core.basis.errors import FileRefused
from lean_ledger.core.files.dxf_drawing import FLATTEN, hidden_layers, opened_drawing
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.geometry.solids import Body, write_step
from lean_ledger.core.geometry.step_text import with_said

JOIN = 0.02  # mm between the ends of two lines that belong together
MOST_IN_A_LINE = 2  # points that enclose nothing
THICKNESS = (0.1, 300.0)
#: in a layer's name: its outlines are cut so many mm deep, from above
DEEP = re.compile(r"(?:^|[^a-z])(?:deep|depth)[\s_-]*(\d+(?:[.,]\d+)?)", re.IGNORECASE)

#: Words and marks beside the outline, which nobody takes for a part of it.
WORDS_ONLY = (
    "TEXT",
    "MTEXT",
    "DIMENSION",
    "LEADER",
    "MULTILEADER",
    "TOLERANCE",
    "ATTDEF",
    "VIEWPORT",
    "POINT",
    "INSERT",
)

XY = tuple[float, float]


@dataclass(frozen=True)
class _Stroke:
    """A straight line, or an arc with its middle point, on a layer; a full circle has equal ends and a centre."""

    start: XY
    end: XY
    layer: str
    middle: XY | None = None
    centre: XY | None = None
    radius: float = 0.0

    def reversed(self) -> _Stroke:
        return _Stroke(self.end, self.start, self.layer, self.middle, self.centre, self.radius)


@dataclass(frozen=True)
class _Loop:
    strokes: tuple[_Stroke, ...]
    polygon: Polygon


def plates_of_dxf(path: Path, name: str, thickness: float, out: Path, report: Report = silent) -> tuple[str, ...]:
    """Write the plates of a DXF file as STEP to `out`; returns the layers that were used.

    Every closed outline that lies in no other becomes a plate, those inside it are cut through, or as deep as the name
    of their layer says ("slots deep 4"), with what stands inside them on the same layer as an island. Layers that are
    off or frozen are left out. Lengths follow the unit in the file's header, mm where there is none. Raises
    FileRefused: file-not-dxf, file-no-outline (with the place of the gap), outlines-cross, outline-outside, thickness,
    layer-too-deep. What is left out all the same is told at the file's end, each with its place (`step_text.said`).
    """
    if not THICKNESS[0] <= thickness <= THICKNESS[1]:
        raise FileRefused(
            "thickness", f"a thickness of {thickness:g} mm; give one from {THICKNESS[0]:g} to {THICKNESS[1]:g}", name
        )
    report("reading the drawing", 0.0)
    drawing, factor = opened_drawing(path, name)
    hidden = hidden_layers(drawing)
    strokes, left_out = _taken(drawing.modelspace(), factor, hidden)
    by_layer: dict[float | None, dict[str, list[_Stroke]]] = {}
    for stroke in strokes:
        by_layer.setdefault(_depth(stroke.layer, thickness, name), {}).setdefault(stroke.layer, []).append(stroke)
    loops, gaps = _loops([s for layer in by_layer.pop(None, {}).values() for s in layer], name, left_out)
    if not loops:
        raise FileRefused("file-no-outline", _no_outline(strokes, gaps), name)
    loops = _apart(loops, name, left_out)
    left_out += [f"an open line that ends at {_place(a)}" for a, _ in gaps[::2]]
    report("building the plates", 0.1)
    compound, builder = TopoDS_Compound(), BRep_Builder()
    builder.MakeCompound(compound)
    for outer, inner in _nested(loops):
        builder.Add(compound, _prism(outer, inner, 0, thickness))
    plates = Body(compound)
    through = len(loops)
    for depth, layers in by_layer.items():
        for layer in layers.values():
            there = f"{name}, layer {layer[0].layer}"
            cuts, gaps = _loops(layer, there, left_out)
            if gaps:
                raise FileRefused("file-no-outline", _no_outline(layer, gaps), there)
            cuts = _apart(cuts, there, left_out)
            for cut in cuts:
                if not any(loop.polygon.intersects(cut.polygon) for loop in loops[:through]):
                    where = _place(cut.strokes[0].start)
                    raise FileRefused("outline-outside", f"the outline at {where} lies outside of every plate", there)
            for outer, inner in _nested(cuts):
                plates -= Body(_prism(outer, inner, thickness - (depth or thickness), thickness))
            loops += cuts
    write_step(plates, out, Path(name).stem)
    if left_out:
        out.write_bytes(with_said(out.read_bytes(), left_out))
    return tuple(sorted({stroke.layer for loop in loops for stroke in loop.strokes}))


def _depth(layer: str, thickness: float, name: str) -> float | None:
    """What the layer's name says of its depth, mm; None for one that is cut through."""
    said = DEEP.search(layer)
    if said is None:
        return None
    depth = float(said[1].replace(",", "."))
    if not 0 < depth <= thickness:
        raise FileRefused(
            "layer-too-deep",
            f"the layer's name asks for {depth:g} mm, the plate is {thickness:g} mm thick; rename the layer",
            f"{name}, layer {layer}",
        )
    return depth


def _no_outline(strokes: Sequence[_Stroke], gaps: Sequence[tuple[XY, XY]]) -> str:
    if not strokes:
        return "the drawing holds no lines, arcs or circles in its model space; draw the outline there"
    if not gaps:
        return "no outline is closed; join its ends"
    (ax, ay), (bx, by) = min(gaps, key=lambda gap: math.dist(*gap))
    return (
        f"no outline is closed: at X {ax:.3f} Y {ay:.3f} it ends, {math.dist((ax, ay), (bx, by)):.3f} mm from "
        f"X {bx:.3f} Y {by:.3f}; join the ends"
    )


def _strokes(entity: Any, factor: float) -> Iterable[_Stroke]:
    kind, layer = entity.dxftype(), str(entity.dxf.get("layer", "0"))

    def at(v: Any) -> XY:
        return (round(v[0] * factor, 6), round(v[1] * factor, 6))

    if kind == "LINE":
        yield _Stroke(at(entity.dxf.start), at(entity.dxf.end), layer)
    elif kind == "CIRCLE":
        centre, radius = at(entity.dxf.center), entity.dxf.radius * factor
        right = (centre[0] + radius, centre[1])
        yield _Stroke(right, right, layer, centre=centre, radius=radius)
    elif kind == "ARC":
        start, end = entity.dxf.start_angle, entity.dxf.end_angle
        sweep = (end - start) % 360 or 360
        centre, radius = entity.dxf.center, entity.dxf.radius
        points = [_on_circle(centre, radius, math.radians(a)) for a in (start, start + sweep / 2, start + sweep)]
        yield _Stroke(at(points[0]), at(points[2]), layer, at(points[1]))
    elif kind == "LWPOLYLINE" or (kind == "POLYLINE" and entity.is_2d_polyline):
        yield from _polyline(entity, kind, layer, at)
    elif kind in ("SPLINE", "ELLIPSE"):
        points = list(dxf_path.make_path(entity).flattening(FLATTEN / factor))
        for a, b in itertools.pairwise(points):
            yield _Stroke(at(a), at(b), layer)
    elif kind == "INSERT":
        for part in entity.virtual_entities():
            yield from _strokes(part, factor)


def _polyline(entity: Any, kind: str, layer: str, at: Any) -> Iterable[_Stroke]:
    if kind == "LWPOLYLINE":
        vertices = [(Vec2(x, y), bulge) for x, y, bulge in entity.get_points("xyb")]
    else:
        vertices = [(Vec2(v.dxf.location), v.dxf.get("bulge", 0.0)) for v in entity.vertices]
    following = [*vertices[1:], vertices[0]] if entity.closed or entity.is_closed else vertices[1:]
    for (a, bulge), (b, _) in zip(vertices, following, strict=False):
        if a.isclose(b, abs_tol=1e-9):
            continue
        if abs(bulge) < 1e-9:
            yield _Stroke(at(a), at(b), layer)
            continue
        centre, start, end, radius = bulge_to_arc(a, b, bulge)
        sweep = (end - start) % (2 * math.pi)
        yield _Stroke(at(a), at(b), layer, at(_on_circle(centre, radius, start + sweep / 2)))


def _on_circle(centre: Any, radius: float, angle: float) -> XY:
    return (centre[0] + radius * math.cos(angle), centre[1] + radius * math.sin(angle))


def _taken(entities: Iterable[Any], factor: float, hidden: set[str]) -> tuple[list[_Stroke], list[str]]:
    """The strokes of what is drawn, and what is left out, each with its place."""
    strokes: list[_Stroke] = []
    left_out: list[str] = []
    unseen: Counter[str] = Counter()
    for entity in entities:
        layer = str(entity.dxf.get("layer", "0"))
        if layer.lower() in hidden:
            unseen[layer] += 1
            continue
        found = list(_strokes(entity, factor))
        strokes += [stroke for stroke in found if stroke.layer.lower() not in hidden]
        if not found and entity.dxftype() not in WORDS_ONLY:
            left_out.append(f"{entity.dxftype()} on layer {layer}{_whereabouts(entity, factor)}")
    left_out += [f"{count} on layer {layer}, which is off or frozen" for layer, count in unseen.items()]
    return strokes, left_out


def _whereabouts(entity: Any, factor: float) -> str:
    try:
        box = extents([entity])
        return f" at {_place((box.center.x * factor, box.center.y * factor))}" if box.has_data else ""
    except (DXFError, ValueError, AttributeError, TypeError):
        return ""


def _place(at: XY) -> str:
    return f"X {at[0]:.3f} Y {at[1]:.3f}"


def _apart(loops: Sequence[_Loop], name: str, left_out: list[str]) -> list[_Loop]:
    """The outlines, each once. Raises FileRefused, code outlines-cross, where two cross or touch: which area is cut
    out of which cannot be told.
    """
    kept: list[_Loop] = []
    for loop in loops:
        twin = next((k for k in kept if _same(k.polygon, loop.polygon)), None)
        if twin is None:
            kept.append(loop)
        else:
            left_out.append(f"an outline drawn twice at {_place(loop.strokes[0].start)}")
    edges = [loop.polygon.exterior for loop in kept]
    for a, b in STRtree(edges).query(edges, predicate="intersects").T:
        if a < b:
            at = edges[a].intersection(edges[b]).representative_point()
            raise FileRefused(
                "outlines-cross",
                f"two outlines cross or touch at {_place((at.x, at.y))}: one begins at "
                f"{_place(kept[a].strokes[0].start)}, the other at {_place(kept[b].strokes[0].start)}; "
                "draw them apart, or as the one outline that they make",
                name,
            )
    return kept


def _same(a: Polygon, b: Polygon) -> bool:
    if abs(a.area - b.area) > JOIN * a.length or math.dist(a.centroid.coords[0], b.centroid.coords[0]) > JOIN:
        return False
    return bool(a.hausdorff_distance(b) <= JOIN)


def _loops(strokes: Sequence[_Stroke], name: str, left_out: list[str]) -> tuple[list[_Loop], list[tuple[XY, XY]]]:
    """Closed chains of strokes, and where open ones end: the end and the nearest other end.

    Raises FileRefused, code outline-crossed, for one that crosses itself.
    """
    loops = [_Loop((s,), _filled([s])) for s in strokes if s.centre is not None]
    waiting = [s for s in strokes if s.centre is None and (math.dist(s.start, s.end) > 1e-6 or s.middle is not None)]
    loose: list[XY] = []
    while waiting:
        chain = [waiting.pop()]
        grown = True
        while grown and math.dist(chain[-1].end, chain[0].start) > JOIN:
            grown = False
            for i, stroke in enumerate(waiting):
                if math.dist(chain[-1].end, stroke.start) <= JOIN:
                    chain.append(waiting.pop(i))
                elif math.dist(chain[-1].end, stroke.end) <= JOIN:
                    chain.append(waiting.pop(i).reversed())
                elif math.dist(chain[0].start, stroke.end) <= JOIN:
                    chain.insert(0, waiting.pop(i))
                elif math.dist(chain[0].start, stroke.start) <= JOIN:
                    chain.insert(0, waiting.pop(i).reversed())
                else:
                    continue
                grown = True
                break
        if math.dist(chain[-1].end, chain[0].start) <= JOIN:
            polygon = _filled(chain) if len(chain) > 1 or chain[0].middle else Polygon()
            if polygon.area <= JOIN**2 and polygon.is_valid:
                left_out.append(f"an outline without a width at {_place(chain[0].start)}")
            elif not polygon.is_valid:
                raise FileRefused(
                    "outline-crossed",
                    f"the outline that begins at {_place(chain[0].start)} crosses itself "
                    f"({explain_validity(polygon)}); draw it as outlines that do not",
                    name,
                )
            else:
                loops.append(_Loop(tuple(chain), polygon))
        else:
            loose += [chain[0].start, chain[-1].end]
    gaps = [(a, min((b for b in loose if b is not a), key=lambda b: math.dist(a, b))) for a in loose if len(loose) > 1]
    return loops, gaps


def _filled(chain: Sequence[_Stroke]) -> Polygon:
    if chain[0].centre is not None:
        x, y = chain[0].centre
        r = chain[0].radius
        return Polygon([(x + r * math.cos(k * math.pi / 48), y + r * math.sin(k * math.pi / 48)) for k in range(96)])
    points = [p for s in chain for p in ((s.start, s.middle) if s.middle else (s.start,))]
    return Polygon(points) if len(points) > MOST_IN_A_LINE else Polygon()


def _nested(loops: Sequence[_Loop]) -> list[tuple[_Loop, list[_Loop]]]:
    """Each outline at an even depth with the outlines right inside of it."""
    ordered = sorted(loops, key=lambda loop: -loop.polygon.area)
    depth: list[int] = []
    parents: list[int] = []
    for i, loop in enumerate(ordered):
        inside = loop.polygon.representative_point()
        around = [k for k in range(i) if ordered[k].polygon.contains(inside)]
        depth.append(len(around))
        parents.append(around[-1] if around else -1)
    return [
        (loop, [ordered[k] for k in range(len(ordered)) if parents[k] == i])
        for i, loop in enumerate(ordered)
        if depth[i] % 2 == 0
    ]


def _prism(outer: _Loop, inner: Sequence[_Loop], low: float, high: float) -> Any:
    face = BRepBuilderAPI_MakeFace(_wire(outer, left=True), True)
    for loop in inner:
        face.Add(_wire(loop, left=False))
    return Body(BRepPrimAPI_MakePrism(face.Face(), gp_Vec(0, 0, high - low)).Shape()).moved((0, 0, low)).shape


def _wire(loop: _Loop, *, left: bool) -> Any:
    """The loop as a wire that runs with its inside on the left, or on the right for what is cut out."""
    strokes: list[_Stroke] = list(loop.strokes)
    if strokes[0].centre is None and loop.polygon.exterior.is_ccw != left:
        strokes = [stroke.reversed() for stroke in reversed(strokes)]
    maker = BRepBuilderAPI_MakeWire()
    for i, stroke in enumerate(strokes):
        # each begins exactly where the one before ends: small gaps of the drawing are closed
        start = strokes[i - 1].end if len(strokes) > 1 else stroke.start
        maker.Add(_edge(stroke, start, left=left))
    return maker.Wire()


def _edge(stroke: _Stroke, start: XY, *, left: bool) -> Any:
    if stroke.centre is not None:
        up = gp_Dir(0, 0, 1 if left else -1)
        circle = gp_Circ(gp_Ax2(gp_Pnt(*stroke.centre, 0), up), stroke.radius)
        return BRepBuilderAPI_MakeEdge(circle).Edge()
    a, b = gp_Pnt(*start, 0), gp_Pnt(*stroke.end, 0)
    if stroke.middle is not None:
        return BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(a, gp_Pnt(*stroke.middle, 0), b).Value()).Edge()
    return BRepBuilderAPI_MakeEdge(a, b).Edge()
