"""What is wider than a hole's own drill: counterbores, countersinks, flat floors."""

from __future__ import annotations

from math import radians, tan

from lean_ledger.core.basis.findings import Figure, Severity
from lean_ledger.core.features import HoleSegment
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import settle_plunge
from lean_ledger.core.operations.holes.drilling import DrillCut, HoleGroup, flat_floor, hop_over
from lean_ledger.core.operations.holes.hole_paths import drill_path
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.clearing import Clearing, clear_operation
from lean_ledger.core.operations.milling.regions import circle
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.library.types import Tool

TIP_LEFT = "tip-left"  # of the finding that a flat floor keeps the drill's point


def widenings(place: Workplace, group: HoleGroup, drilled: Tool | None) -> list[Operation]:
    """Counterbores, countersinks and flat floors, from the entry inward."""
    found: list[Operation] = []
    level = group.entry
    main = group.first.diameter
    for number, segment in enumerate(group.segments):
        bottom = level - segment.depth
        if segment.shape == "cylinder" and segment.from_diameter > main + 0.01:
            found += _counterbore(place, group, segment.from_diameter, level, bottom, number)
        elif segment.shape == "cone" and segment.from_diameter > segment.to_diameter > 0 and number == 0:
            found += _countersink(place, group, segment, level)
        level = bottom
    if drilled is not None and flat_floor(group.first):
        tip = DrillCut(drilled.diameter, drilled.tip_angle, 0).tip_length
        floor = group.entry - group.first.depth
        mill = _mill_for(place, group, main, floor, len(group.segments))
        if mill is None:
            thin = f"No end mill thinner than {0.8 * main:.1f} reaches {group.first.depth:.1f}."
            say_tip_left(place, group, drilled, tip, thin)
        else:
            found.append(_cleared(place, group, mill, main, floor + tip, floor, len(group.segments), "Flat floor of"))
    return found


def say_tip_left(place: Workplace, group: HoleGroup, drilled: Tool, tip: float, why: str) -> None:
    """That a flat floor keeps what the drill's point, mm high, leaves."""
    place.find(
        TIP_LEFT, Severity.WARNING,
        f"The floor of {', '.join(group.ids)} is drawn flat; {drilled.description} keeps its point, {tip:.1f}.",
        f"{why} Ask the customer whether it may stay.", features=group.ids,
    )  # fmt: skip


def _id(place: Workplace, group: HoleGroup, number: int) -> str:
    return place.id_of(group.first.id, OperationKind.COUNTERBORE, f"-{number}" if number else "")


def _mill_for(place: Workplace, group: HoleGroup, diameter: float, bottom: float, number: int) -> Tool | None:
    deep, args = group.entry - bottom, (place.library, place.material, place.machine, place.hand)
    rule = choose.boring_mill(diameter, deep, *args)
    return place.tool(_id(place, group, number), OperationKind.COUNTERBORE, rule)


def _counterbore(
    place: Workplace, group: HoleGroup, diameter: float, top: float, bottom: float, number: int
) -> list[Operation]:  # fmt: skip
    tool = _mill_for(place, group, diameter, bottom, number)
    if tool is None:
        deep = group.entry - bottom
        place.lack(
            "no-counterbore-tool",
            f"No end mill makes the counterbore Ø{diameter:g} of {', '.join(group.ids)}.",
            f"It needs one thinner than {0.8 * diameter:.1f} that reaches {deep:.1f}.",
            features=group.ids,
            wanted=f"end mill of at most Ø{0.8 * diameter:.1f} that reaches {deep:.1f}",
        )
        return []
    words = f"Counterbore Ø{diameter:g}, {top - bottom:g} deep, on"
    return [_cleared(place, group, tool, diameter, top, bottom, number, words)]


def _cleared(
    place: Workplace, group: HoleGroup, tool: Tool, diameter: float, top: float, bottom: float, number: int, words: str
) -> Operation:  # fmt: skip
    regions = tuple(circle(point, diameter) for point in group.points)
    work = Clearing(regions, top, bottom, group.ids, group.first.id, predrilled=True)
    id, name = _id(place, group, number), f"{words} {group.label}"
    return clear_operation(place, id, OperationKind.COUNTERBORE, name, tool, work, 0.0)


def _countersink(place: Workplace, group: HoleGroup, segment: HoleSegment, entry: float) -> list[Operation]:
    id = place.id_of(group.first.id, OperationKind.COUNTERSINK)
    fitting = [
        t
        for t in choose.usable(place.library, place.material, OperationKind.COUNTERSINK.tool_kinds)
        if abs(t.tip_angle - segment.angle) < 0.5 and t.diameter >= segment.from_diameter - 0.01
    ]
    tool = place.tool(id, OperationKind.COUNTERSINK, choose.best(fitting, lambda t: -t.diameter, place.hand))
    if tool is None:
        place.lack(
            "no-countersink",
            f"No countersink of {segment.angle:g}° is as wide as Ø{segment.from_diameter:g} ({', '.join(group.ids)}).",
            "Add one to the library, or leave the countersinks to deburring.",
            features=group.ids,
            wanted=f"countersink of {segment.angle:g}°, Ø{segment.from_diameter:g} or more",
        )
        return []
    travel = round(segment.from_diameter / 2 / tan(radians(tool.tip_angle / 2)), 5)
    data = place.library.data(tool, place.material)
    assert data is not None
    settled = settle_plunge(tool, data, place.material, place.machine, place.edit(id), travel)
    motion = drill_path(group.points, entry, travel, 0.0, settled.cutting.vf, hop_over(place, group), place.clearance)
    formula = f"Ø{segment.from_diameter:g} / 2 / tan({tool.tip_angle / 2:g}°)"
    return [
        place.add(
            Named(
                id,
                OperationKind.COUNTERSINK,
                f"Countersink Ø{segment.from_diameter:g} on {group.label}",
                group.ids,
                group.first.id,
            ),
            tool,
            settled,
            motion,
            depth=travel,
            figures=(Figure("travel", formula, travel, "mm"),),
        )
    ]
