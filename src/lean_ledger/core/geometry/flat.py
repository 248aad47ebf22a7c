"""Plane shapes taken apart: what a union or a cut leaves may be one piece, several, or none."""

from __future__ import annotations

from shapely.geometry import LineString, Polygon
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
