"""The outline of a tool as it turns."""

from __future__ import annotations

from math import cos, pi, radians, sin, tan

from lean_ledger.library.types import Tool, ToolKind

SLICES = 6  # of a corner radius or a cone that is swept sideways

#: Heads under a neck: above them they take nothing, so that a shoulder stays.
UNDERCUTTING = (ToolKind.T_SLOT_MILL, ToolKind.DOVETAIL_MILL)

#: (radius, height above the tip) of a tool, from the axis outwards
Profile = list[tuple[float, float]]


def is_pointed(tool: Tool) -> bool:
    """Whether it ends in a cone."""
    pointed = (ToolKind.DRILL, ToolKind.SPOT_DRILL, ToolKind.COUNTERSINK, ToolKind.CHAMFER_MILL)
    return tool.kind in pointed and tool.tip_angle > 0


def profile_of(tool: Tool) -> Profile:
    """The cutting outline, tip at height 0; empty for what cuts a thread, which the part does not show."""
    radius = tool.diameter / 2
    if tool.kind in (ToolKind.TAP, ToolKind.THREAD_MILL, ToolKind.THREADING, ToolKind.PROBE):
        return []
    if tool.kind == ToolKind.DOVETAIL_MILL:
        height = tool.cutting_length
        return [(0.0, 0.0), (radius, 0.0), (radius - height / tan(radians(tool.tip_angle)), height)]
    if tool.kind == ToolKind.T_SLOT_MILL:
        return [(0.0, 0.0), (radius, 0.0), (radius, tool.cutting_length)]
    if is_pointed(tool):
        return [(0.0, 0.0), (radius, radius / tan(radians(tool.tip_angle / 2)))]
    corner = min(tool.corner_radius, radius)
    if corner <= 0:
        return [(0.0, 0.0), (radius, 0.0)]
    steps = [pi / 2 * k / SLICES for k in range(SLICES + 1)]
    return [(0.0, 0.0), *((radius - corner + corner * sin(a), corner - corner * cos(a)) for a in steps)]


def slices_of(tool: Tool) -> Profile:
    """(radius, height above the tip) from which on the turning tool is at least so thick, up into its holder.

    A pointed tool is cut into slices, each as thick as at its lower end. What cuts a thread counts as thick as the hole
    that it goes into.

    >>> from lean_ledger.library import shipped_library
    >>> drill = next(t for t in shipped_library().tools if t.kind == "drill" and t.diameter == 6)
    >>> [round(r, 2) for r, _ in slices_of(drill)][:4]  # quarters of its cone
    [0.75, 1.5, 2.25, 3.0]
    """
    radius = tool.diameter / 2
    if tool.kind in (ToolKind.TAP, ToolKind.THREAD_MILL):
        cutter = [(max(radius - tool.pitch, 0.1), 0.0)]
    else:
        profile = profile_of(tool) or [(0.0, 0.0), (radius, 0.0)]
        (tip, low), (wide, high) = profile[0], profile[-1]
        if high <= 0:
            cutter = [(wide, 0.0)]
        else:
            # a corner radius or a cone, from its own points or in quarters
            points = profile[1:] if len(profile) > 2 else [
                (tip + (wide - tip) * k / CONE, low + (high - low) * k / CONE) for k in range(1, CONE + 1)
            ]  # fmt: skip
            cutter = list(points)
    return [*cutter, (max(tool.holder.diameter / 2, radius), tool.reach)]


CONE = 4  # slices of a cone


def covering(tool: Tool) -> Profile:
    """The same slices, each from where the tool is thinner on: nothing of it lies outside them.

    >>> from lean_ledger.library import shipped_library
    >>> drill = next(t for t in shipped_library().tools if t.kind == "drill" and t.diameter == 6)
    >>> [round(h, 2) for _, h in covering(drill)][:4]
    [0.0, 0.27, 0.55, 0.82]
    """
    slices = slices_of(tool)
    from_heights = [0.0, *(height for _, height in slices[:-2])]
    return [*((radius, low) for (radius, _), low in zip(slices[:-1], from_heights, strict=True)), slices[-1]]
