"""Plane shapes taken apart: what a union or a cut leaves may be one piece, several, or none."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike
from shapely.geometry import LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry


def polygons(shape: BaseGeometry) -> list[Polygon]:
    if isinstance(shape, Polygon):
        return [] if shape.is_empty else [shape]
    return [part for one in getattr(shape, "geoms", ()) for part in polygons(one)]


def lines(shape: BaseGeometry) -> list[LineString]:
    if isinstance(shape, LineString):
        return [] if shape.is_empty else [shape]
    return [part for one in getattr(shape, "geoms", ()) for part in lines(one)]


def largest(shape: BaseGeometry) -> Polygon:
    """The piece of the greatest area; an empty polygon where there is none."""
    return max(polygons(shape), key=lambda one: one.area, default=Polygon())


def way_seen(points: ArrayLike) -> LineString | Point:
    """A way in space as seen from above; of a plunge a point: a line without length is near to nothing prepared."""
    flat = np.asarray(points)[:, :2]
    return Point(flat[0]) if (flat == flat[0]).all() else LineString(flat)
