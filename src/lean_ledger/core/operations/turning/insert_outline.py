"""Outlines of turning tools in the plane of the spindle's axis: what carries the edge, and what holds it.

Coordinates are (r, z) from the tip: r away from the spindle's axis, z away from the spindle.
"""

from __future__ import annotations

from math import cos, radians, sin, tan

from shapely.geometry import Polygon, box

from lean_ledger.core.geometry.flat import polygons
from lean_ledger.library.types import Tool, ToolKind

HEAD = 10.0  # mm that an insert and its seat stand out of the shank
BAR = 0.85  # of the least bore: how thick a boring bar with its tip is
SLEEVE = 10.0  # mm that a bar's sleeve stands out around it
SLEEVE_LENGTH = 40.0
FAR = 1e4


def insert_of(tool: Tool) -> tuple[Polygon, ...]:
    """What carries the edge: an insert's wedge, a groove's blade, a bar's head."""
    shank = tool.holder.diameter
    if tool.kind == ToolKind.THREADING:
        return ()  # it goes into the thread, which the stock does not show
    if tool.kind == ToolKind.GROOVING:
        return (box(0.0, 0.0, tool.cutting_length, tool.diameter),)
    if tool.kind == ToolKind.BORE_GROOVING:
        return (box(-tool.cutting_length, 0.0, 0.0, tool.width),)
    if tool.kind == ToolKind.BORING_BAR:
        return (box(-BAR * tool.diameter, 0.0, 0.0, min(tool.diameter, tool.reach)),)
    if tool.kind == ToolKind.PROFILING:
        half = tool.cutting_length * tan(radians(tool.tip_angle / 2))
        return (Polygon([(0, 0), (tool.cutting_length, half), (tool.cutting_length, -half)]),)
    angle = radians(tool.tip_angle or 80.0)
    # the edge stands square to the axis, the flank behind it leans by the insert's angle
    wedge = Polygon([(0, 0), (FAR, 0), (FAR * cos(angle), FAR * sin(angle))])
    return tuple(polygons(wedge.intersection(box(0.0, 0.0, HEAD, shank))))


def shank_of(tool: Tool) -> tuple[Polygon, ...]:
    """What holds it, as convex pieces."""
    shank = tool.holder.diameter
    if tool.kind == ToolKind.GROOVING:
        return (box(tool.cutting_length, 0.0, tool.reach, shank),)
    if tool.kind == ToolKind.PROFILING:
        return (box(tool.cutting_length, -shank / 2, tool.reach, shank / 2),)
    if tool.kind == ToolKind.BORE_GROOVING:
        # the insert stands out of the bar by its cutting depth
        thick, out = BAR * tool.diameter, tool.cutting_length
        sleeve = box(-thick - SLEEVE, tool.reach, SLEEVE, tool.reach + SLEEVE_LENGTH)
        return (box(-thick, 0.0, -out, tool.reach), sleeve)
    if tool.kind == ToolKind.BORING_BAR:
        thick = BAR * tool.diameter
        sleeve = box(-thick - SLEEVE, tool.reach, SLEEVE, tool.reach + SLEEVE_LENGTH)
        # the tip stands out of the bar by what is left between the bar and its least bore
        return (box(-thick, 0.0, thick - tool.diameter, tool.reach), sleeve)
    return (box(HEAD, 0.0, tool.reach, shank),)
