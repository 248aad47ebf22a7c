"""What a thick tool leaves in corners and narrow places, and the way of a thinner one that takes it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import hypot

import shapely
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry
from shapely.prepared import prep

from lean_ledger.core.geometry.flat import lines, polygons
from lean_ledger.core.operations.feeds import at_any_feed
from lean_ledger.core.operations.milling.paths import APPROACH, RAMP_FEED, Down, Space, Walk, ramp
from lean_ledger.core.operations.milling.regions import (
    QUADRANT,
    Flat,
    Line,
    Region,
    centre_area,
    clearing_loops,
    joined,
    turned_round,
)
from lean_ledger.core.operations.model import Motion

LEAST_REST = 0.05  # mm of thickness that is worth taking away before the walls are finished
TOUCH = 0.02  # mm


@dataclass(frozen=True)
class Rest:
    """Pieces left standing, and how thick the thickest is."""

    pieces: BaseGeometry
    thickness: float


@lru_cache(maxsize=2048)
def rest_after(region: Region, thick: float, thin: float, allowance: float, run_out: float) -> Rest:
    """What a tool of radius `thick` leaves of what one of radius `thin` comes to, both keeping off the walls.

    In a square corner that is (thick − thin)·(√2 − 1) thick: 1.66 from R8 to R4. Lengths mm.
    """
    swept = centre_area(region, thick, allowance, run_out).buffer(thick, quad_segs=QUADRANT)
    wanted = centre_area(region, thin, allowance, run_out).buffer(thin, quad_segs=QUADRANT)
    left = wanted.difference(swept.buffer(TOUCH)).intersection(region.polygon)
    pieces = [piece for piece in polygons(left) if not piece.buffer(-LEAST_REST / 2).is_empty]
    far = [thin * 2 if swept.is_empty else _farthest(swept, piece) for piece in pieces]
    worth = [(p, t) for p, t in zip(pieces, far, strict=True) if t > LEAST_REST]
    return Rest(shapely.union_all([p for p, _ in worth]), max((t for _, t in worth), default=0.0))


def _farthest(swept: BaseGeometry, piece: Polygon) -> float:
    """Of a piece's corners, from what was swept."""
    return float(shapely.distance(swept, shapely.points(shapely.get_coordinates(piece.exterior))).max())


@at_any_feed
def corner_path(space: Space, thick: float, step: float, down: Down, vf: float, *, climb: bool = True) -> Motion | None:
    """The stretches of a thin tool's clearing loops on which it touches what one of the diameter `thick` left; lengths
    mm. None where it touches nothing. A stretch begins and ends where the thick tool went already, so that the thin
    one comes down free; a loop with stock all along is entered by a ramp.
    """
    walk = Walk(down.clearance)
    for region in space.regions:
        rest = rest_after(region, thick / 2, space.radius, space.allowance, space.run_out)
        stretches = _stretches(region, rest, space, step)
        allowed = prep(space.centre_area(region).buffer(TOUCH))
        for piece in _by_place(stretches, rest, space.diameter):
            z_before = down.top
            for z in down.levels:
                at: Flat | None = None
                for stretch in piece:
                    line = turned_round(stretch, climb=climb)
                    if at is None or not allowed.covers(LineString([at, line[0]])):
                        walk.over(*line[0])
                        if line[0] == line[-1]:
                            walk.down(z_before + APPROACH)
                            walk.cut(vf * RAMP_FEED, ramp(line, z_before, z, down.ramp_angle))
                        else:
                            walk.down(z + APPROACH)
                            walk.cut(vf, [(*line[0], z)])
                    elif at != line[0]:
                        walk.cut(vf, [(*line[0], z)])
                    walk.cut(vf, [(x, y, z) for x, y in line[1:]])
                    at = line[-1]
                z_before = z
    return walk.leave() if walk.strokes else None


def _stretches(region: Region, rest: Rest, space: Space, step: float) -> list[Line]:
    if rest.pieces.is_empty:
        return []
    touching = rest.pieces.buffer(space.radius, quad_segs=QUADRANT)
    found: list[Line] = []
    for loop in clearing_loops(region, space.radius, space.allowance, space.run_out, step):
        inside = LineString(loop).intersection(touching)
        for line in lines(joined(inside)):
            points = tuple((round(x, 5), round(y, 5)) for x, y in line.coords)
            if line.length > TOUCH:
                found.append(points)
    return found


def _by_place(stretches: list[Line], rest: Rest, thin: float) -> list[list[Line]]:
    """The stretches at each piece together, those farthest from the wall first; the next piece is the nearest."""
    places = polygons(rest.pieces.buffer(thin / 2))
    groups: list[list[Line]] = [[] for _ in places]
    for line in stretches:
        own = LineString(line)
        groups[min(range(len(places)), key=lambda i: places[i].distance(own))].append(line)
    waiting = [group for group in groups if group]
    ordered: list[list[Line]] = []
    at: Flat = (0.0, 0.0)
    while waiting:
        chosen = min(waiting, key=lambda g: hypot(g[0][0][0] - at[0], g[0][0][1] - at[1]))
        waiting.remove(chosen)
        ordered.append(chosen)
        at = chosen[-1][-1]
    return ordered
