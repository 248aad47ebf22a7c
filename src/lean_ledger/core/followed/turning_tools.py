"""What a turning tool goes through beside what its insert cuts: sections in the plane of the spindle's axis.

Coordinates of a tool are (r, z) from its tip: r away from the spindle's axis, z away from the spindle. Turned about the
axis, a section covers whatever of the turning work or of its jaws comes by.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import shapely
from shapely import affinity
from shapely.geometry import Polygon, box
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.geometry.masses import Mass, revolved_mass
from lean_ledger.core.operations.model import Ring2
from lean_ledger.core.operations.turning.insert_outline import insert_of
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.types import Tool

FAR = 1e4
TOUCH = 0.05  # mm that count as clear


def turned_sweep(pieces: Sequence[Polygon], strokes: Sequence[Stroke], axis: tuple[float, float]) -> Mass:
    """All that pieces of a tool go through on the way, turned about the axis; in the axes of the way."""
    # chords of what was turned before stand a little inside its circles: an edge that touches them is no touch
    return revolved_mass(_section(pieces, strokes, axis, -TOUCH), axis)


def turned_away(tool: Tool, strokes: Sequence[Stroke], axis: tuple[float, float]) -> tuple[Ring2, ...]:
    """What an insert takes off on its cuts, as rings of (radius, level) about the axis; its nose counts as a point."""
    whole = _section(insert_of(tool), [s for s in strokes if not s.is_rapid], axis, 0.0)
    return tuple(tuple(ring) for area in _polygons(whole) for ring in _without_holes(area))


def _section(
    pieces: Sequence[Polygon], strokes: Sequence[Stroke], axis: tuple[float, float], grown: float
) -> BaseGeometry:
    """Where pieces of a tool come by in the half-plane beside the axis."""
    x = axis[0]
    found: list[BaseGeometry] = []
    for stroke in strokes:
        for a, b in pairwise(stroke.points):
            for piece in pieces:
                ends = [affinity.translate(piece, p[0] - x, p[2]) for p in (a, b)]
                found.append(shapely.union_all(ends).convex_hull)
    whole = shapely.union_all(found)
    if grown:
        whole = whole.buffer(grown, join_style="mitre")
    half = box(0.0, -FAR, FAR, FAR)
    # what reaches past the axis meets the work on its other side as well
    beyond = affinity.scale(whole, -1.0, 1.0, origin=(0.0, 0.0))
    return shapely.union_all([whole.intersection(half), beyond.intersection(half)])


def _polygons(area: BaseGeometry) -> list[Polygon]:
    return [one for one in getattr(area, "geoms", [area]) if isinstance(one, Polygon) and one.area > 0]


def _without_holes(area: Polygon) -> list[list[tuple[float, float]]]:
    """Rings that fill an area together: cut through the middle of each hole."""
    if not area.interiors:
        return [[(float(x), float(y)) for x, y in area.exterior.coords[:-1]]]
    level = float(Polygon(area.interiors[0]).centroid.y)
    parts = (area.intersection(box(-FAR, -FAR, FAR, level)), area.intersection(box(-FAR, level, FAR, FAR)))
    return [ring for part in parts for one in _polygons(part) for ring in _without_holes(one)]
