"""What rises above a level, seen along a way: of the finished part, and of what holds it."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import MultiPolygon, Point, Polygon, box
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.flat import polygons
from lean_ledger.core.geometry.model import Solid, Surface
from lean_ledger.core.geometry.vectors import parallel
from lean_ledger.core.holding.obstacles import Block, Obstacle, Rod
from lean_ledger.core.operations.milling.surface_paths import Over, risen, triangles_of
from lean_ledger.core.setups.frame import Frame

CHORDS = 0.008  # × radius that chords of a hole's rim stand into it
HAIR = 0.002  # mm that they may stand in farther: corners are rounded
SEEN = 0.01  # mm that chords of a bore have to stand into it to be looked at

#: Of a round hole: x, y and radius
Bore = tuple[float, float, float]


def part_above(over: Over, bores: tuple[Bore, ...], level: float) -> BaseGeometry:
    return _part_at(over, bores, _plain_level(over, level))


@lru_cache(maxsize=1024)
def _part_at(over: Over, bores: tuple[Bore, ...], level: float) -> BaseGeometry:
    found = risen(over, level)
    shapely.prepare(found)
    # the wall of a bore is drawn in chords, which stand into it: where it is open, all of its circle is
    wide = [bore for bore in bores if CHORDS * bore[2] > SEEN]
    discs = [Point(x, y).buffer(radius, quad_segs=48) for x, y, radius in wide if _is_open(found, x, y, radius)]
    if discs and not found.is_empty:
        found = _opened(found, discs)
        shapely.prepare(found)
    return found


def _opened(found: BaseGeometry, discs: list[Polygon]) -> BaseGeometry:
    """An area less discs. One that only widens a hole of it becomes that hole: of a plate with hundreds there is little
    left to cut.
    """
    tree, areas = shapely.STRtree(discs), polygons(found)
    met = [[tree.query(line, predicate="intersects") for line in (area.exterior, *area.interiors)] for area in areas]
    borders = np.bincount(np.concatenate([there for own in met for there in own]), minlength=len(discs))
    left, pieces = dict(enumerate(discs)), []
    for area, (_, *own) in zip(areas, met, strict=True):
        holes = []
        for hole, there in zip(area.interiors, own, strict=True):
            (wider, *more) = shapely.get_parts(shapely.union_all([Polygon(hole), *(discs[k] for k in there)]))
            alone = not more and not len(wider.interiors) and (borders[there] == 1).all()
            holes.append(wider.exterior if alone else hole)
            for k in there if alone else ():
                del left[k]
        pieces.append(Polygon(area.exterior, holes))
    if not all(piece.is_valid for piece in pieces):  # holes that were apart have come together
        return found.difference(shapely.union_all(discs))
    rest = [disc for disc in left.values() if shapely.intersects(found, disc)]
    whole = pieces[0] if len(pieces) == 1 else MultiPolygon(pieces)
    return whole.difference(shapely.union_all(rest)) if rest else whole


def _is_open(found: BaseGeometry, x: float, y: float, radius: float) -> bool:
    """Whether only chords stand in it: where a bore ends in a slot, the slot's wall may be within its circle."""
    return not shapely.dwithin(found, Point(x, y), (1 - CHORDS) * radius - HAIR)


def _plain_level(over: Over, level: float) -> float:
    """The middle of the levels that cast the same shadow: where all that stands between two of them is upright."""
    levels, plain = _levels(over)
    i = int(np.searchsorted(levels, level))
    if 0 < i < len(levels) and plain[i - 1]:
        return round(float(levels[i - 1] + levels[i]) / 2, 3)
    return level if 0 < i < len(levels) else float(levels[0]) - 1 if i == 0 else float(levels[-1]) + 1


@lru_cache(maxsize=64)
def _levels(over: Over) -> tuple[NDArray[np.float64], NDArray[np.bool_]]:
    """The levels of a mesh's corners, and of each stretch between two whether only upright faces go through it."""
    corners = triangles_of(over)
    levels = np.unique(corners[:, :, 2].round(4))
    normal = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    slanted = np.abs(normal[:, 2]) > 1e-6 * np.maximum(np.linalg.norm(normal, axis=1), 1e-12)
    low = np.searchsorted(levels, corners[slanted, :, 2].min(axis=1).round(4))
    high = np.searchsorted(levels, corners[slanted, :, 2].max(axis=1).round(4))
    spans = np.zeros(len(levels) + 1, dtype=np.int64)
    np.add.at(spans, low, 1)
    np.add.at(spans, high, -1)
    return levels, np.cumsum(spans)[:-2] == 0


@lru_cache(maxsize=64)
def bores_along(solid: Same[Solid], frame: Frame) -> tuple[Bore, ...]:
    """Walls of round holes along a way, each once."""
    found: dict[Bore, None] = {}
    for face in solid.value.faces:
        if face.surface == Surface.CYLINDER and face.inward and parallel(face.axis, frame.up):
            x, y, _ = frame.point(face.origin)
            found[(round(x, 4), round(y, 4), round(face.radius, 4))] = None
    return tuple(found)


@lru_cache(maxsize=2048)
def fixture_above(fixture: tuple[Obstacle, ...], level: float) -> BaseGeometry:
    found = shapely.union_all([_outline(one) for one in fixture if one.box.max[2] > level])
    shapely.prepare(found)
    return found


def _outline(one: Obstacle) -> BaseGeometry:
    if isinstance(one, Block):
        return box(one.box.min[0], one.box.min[1], one.box.max[0], one.box.max[1])
    if isinstance(one, Rod):
        return Point(one.x, one.y).buffer(one.radius)
    return Polygon(one.rings[0], one.rings[1:])
