"""Which tool: by fit first, by speed among those that fit; one that is at hand where another does not gain on it."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from functools import lru_cache
from math import ceil, inf, pi

from lean_ledger.core.operations.cutting.conditions import spindle_speed
from lean_ledger.core.operations.milling.regions import Line, Region, _polygon, fits, share_reached, wherever_it_lies
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library, Material, Thread, Tool, ToolKind

PILOTED = 20.0  # × diameter of cutting length, beyond which a drill begins in a pilot hole
THIN = 3.0  # mm of an end mill below which a bore is better drilled
SLIM = 9.0  # × D that an end mill stands out, beyond which it is one for deep narrow corners
PILOT_DEEP = 3.0  # × diameter that the pilot hole is deep
SAME_DIAMETER = 0.051  # a drill counts as of the hole's size within this
ROUGH_SHARE = 0.88  # of a region that roughing must reach
FINISH_SHARE = 0.99
THREAD_ROOM = 0.95  # of a drilled hole that a thread mill may fill: chips and the way in need the rest
WHOLE_SHARE = 0.9985  # that a tool sweeps of a region that it gets into everywhere: chords of arcs lack the rest
FLOOR_STEP = 0.6  # × diameter between loops of a finishing pass on a floor


@dataclass(frozen=True)
class AtHand:
    """The tools that need no setting up, and what each other one costs a piece, in minutes."""

    in_use: frozenset[str] = frozenset()  # in this setup, for another operation
    in_machine: frozenset[str] = frozenset()
    change: float = 0.0  # one more in the cycle
    setting: float = 0.0  # one to be set up: its minutes over the pieces of a batch

    def minutes(self, tool: Tool) -> float:
        """What it costs a piece that this tool is in the setup."""
        if tool.id in self.in_use:
            return 0.0
        return self.change + (0.0 if tool.id in self.in_machine else self.setting)

    def using(self, *tools: Tool) -> AtHand:
        return replace(self, in_use=self.in_use | {t.id for t in tools})


NOTHING_AT_HAND = AtHand()


def usable(library: Library, material: Material, kinds: Iterable[ToolKind]) -> list[Tool]:
    """Tools of these kinds that have data for the material."""
    wanted = set(kinds)
    return [tool for tool in library.tools if tool.kind in wanted and library.data(tool, material) is not None]


def removal_rate(tool: Tool, library: Library, material: Material, machine: Machine, depth: float) -> float:
    """mm³/min that an end mill takes at the usual steps, within the spindle's speed and power."""
    data = library.data(tool, material)
    assert data is not None
    n = min(spindle_speed(data.vc, tool.diameter), machine.spindle.max_rpm)
    ap = min(material.rough_ap * tool.diameter, tool.cutting_length, depth)
    rate = ap * material.rough_ae * tool.diameter * n * tool.flutes * data.fz_at(tool.diameter)
    most = machine.spindle.power_at(n) * 60e6 * 0.8 / material.kc
    return min(rate, most)


def best(tools: Iterable[Tool], score: Callable[[Tool], float], hand: AtHand = NOTHING_AT_HAND) -> Tool | None:
    """The tool with the highest score; of equals one at hand, then the one with the lower number."""
    ranked = sorted(tools, key=lambda tool: (-round(score(tool), 6), hand.minutes(tool), tool.number))
    return ranked[0] if ranked else None


def quickest(tools: Iterable[Tool], minutes: Callable[[Tool], float], hand: AtHand = NOTHING_AT_HAND) -> Tool | None:
    """The tool that is done first, with what it costs to have it there."""
    return best(tools, lambda t: -(minutes(t) + hand.minutes(t)))


def _handier(tools: Iterable[Tool], rule: Tool | None, minutes: Callable[[Tool], float], hand: AtHand) -> Tool | None:
    """The rule's tool, or one at hand with which the work and the setting up are done sooner."""
    if rule is None:
        return None
    there = [t for t in tools if hand.minutes(t) < hand.minutes(rule) - 1e-9]
    return quickest([rule, *there], minutes, hand)


def feed_rate(tool: Tool, library: Library, material: Material, machine: Machine) -> float:
    """mm/min at the usual speed and feed, within the spindle's speed."""
    data = library.data(tool, material)
    assert data is not None
    n = min(spindle_speed(data.vc, tool.diameter), machine.spindle.max_rpm)
    return n * tool.flutes * data.fz_at(tool.diameter)


def finishing_mill(
    region: Region, corner_radius: float, depth: float, library: Library, material: Material, machine: Machine,
    hand: AtHand = NOTHING_AT_HAND,
) -> Tool | None:  # fmt: skip
    """The thickest end mill that gets into corners and gaps; in sharp corners the thickest that leaves little.

    One at hand that comes into as much takes its place where that spares more than it costs.
    """
    # between the parts of a bar it runs out no farther, and what is left on a wall takes of its room
    off = material.wall_allowance if region.limit is not None else 0.0
    mills = [t for t in usable(library, material, [ToolKind.END_MILL]) if t.reach >= depth and goes_in(region, t, off)]

    def minutes(tool: Tool) -> float:
        levels = ceil(round(depth / tool.cutting_length, 6))
        way = region.polygon.area / (FLOOR_STEP * tool.diameter) + region.polygon.length * levels
        return float(way) / feed_rate(tool, library, material, machine)

    if corner_radius > 0:
        mills = [t for t in mills if t.diameter <= 2 * corner_radius + 1e-6]
        # a gap beside an island may be narrower than the corners are round
        enough = [t for t in mills if _share(region, t.diameter) >= WHOLE_SHARE]
    else:
        enough = [t for t in mills if _share(region, t.diameter) >= FINISH_SHARE]
    rule = best(enough, lambda t: t.diameter, hand)
    return _handier(enough, rule, minutes, hand) or best(mills, lambda t: _share(region, t.diameter), hand)


def roughing_mill(
    region: Region, depth: float, finisher: Tool, volume: float, library: Library, material: Material,
    machine: Machine, hand: AtHand = NOTHING_AT_HAND,
) -> Tool:  # fmt: skip
    """The end mill that is done first, its tool change and its setting up counted; the finisher where none gains on it.

    It keeps off the walls by the allowance: in a slot hardly wider than the finisher it is a thinner one.
    """
    able = [
        t
        for t in usable(library, material, [ToolKind.END_MILL])
        if t.reach >= depth and goes_in(region, t, material.wall_allowance)
    ]
    candidates = [t for t in able if _share(region, t.diameter) >= ROUGH_SHARE]
    if able and not goes_in(region, finisher, material.wall_allowance):
        finisher = best(candidates, lambda t: t.diameter) or best(able, lambda t: t.diameter) or finisher

    def minutes(tool: Tool) -> float:
        return volume / removal_rate(tool, library, material, machine, depth)

    tools = {t.id: t for t in (*candidates, finisher)}.values()
    return quickest(tools, minutes, hand.using(finisher)) or finisher


def outline_mill(
    ring: Line, depth: float, most_left: float, minutes: Callable[[Tool], float], library: Library,
    material: Material, hand: AtHand = NOTHING_AT_HAND, between: tuple[float, float] = (0.0, inf),
) -> Tool | None:  # fmt: skip
    """The quickest end mill that follows the outline's inner corners to within a share of the outline's area, of those
    whose diameters lie between two.
    """
    candidates = [
        t
        for t in usable(library, material, [ToolKind.END_MILL])
        if t.reach >= depth
        and between[0] <= t.diameter <= between[1]
        and left_in_corners(ring, t.diameter / 2) <= most_left
    ]
    return quickest(candidates, minutes, hand)


@lru_cache(maxsize=2048)
def left_in_corners(ring: Line, radius: float) -> float:
    """Share of a shape's area that a round tool leaves in its inner corners from outside."""
    shape = _polygon((ring,))
    closed = shape.buffer(radius).buffer(-radius)
    return float(max(0.0, closed.area - shape.area) / shape.area)


def drill_for(
    diameter: float, travel: float, library: Library, material: Material, hand: AtHand = NOTHING_AT_HAND
) -> Tool | None:
    """A drill of the hole's size that is long enough; one that asks for a pilot only where no other is."""
    drills = [
        t
        for t in usable(library, material, [ToolKind.DRILL])
        if abs(t.diameter - diameter) <= SAME_DIAMETER and t.cutting_length >= travel
    ]
    return best([t for t in drills if not needs_pilot(t)] or drills, lambda t: -abs(t.diameter - diameter), hand)


def needs_pilot(drill: Tool) -> bool:
    """Whether it is so slender that it wanders, and whips, where it does not begin in a hole."""
    return drill.kind == ToolKind.DRILL and drill.cutting_length > PILOTED * drill.diameter


def pilot_for(drill: Tool, library: Library, material: Material, hand: AtHand = NOTHING_AT_HAND) -> Tool | None:
    """A short drill of the same size, or up to that much wider, in which a slender one begins."""
    wide, deep = drill.diameter + SAME_DIAMETER, PILOT_DEEP * drill.diameter
    short = [
        t for t in usable(library, material, [ToolKind.DRILL])
        if drill.diameter <= t.diameter <= wide and not needs_pilot(t) and t.cutting_length >= deep
    ]  # fmt: skip
    return best(short, lambda t: -t.cutting_length, hand)


def at_least(kind: ToolKind, diameter: float, library: Library, material: Material) -> Tool | None:
    """The smallest tool of a kind that is as wide as needed."""
    wide = [t for t in usable(library, material, [kind]) if t.diameter >= diameter - 1e-6]
    return best(wide, lambda t: -t.diameter)


def tap_for(pitch: float, major: float, library: Library, material: Material) -> Tool | None:
    taps = [
        t
        for t in usable(library, material, [ToolKind.TAP])
        if abs(t.pitch - pitch) < 1e-3 and abs(t.diameter - major) < 0.02
    ]
    return best(taps, lambda t: t.reach)


def thread_mill_for(thread: Thread, depth: float, library: Library, material: Material) -> Tool | None:
    """The thickest thread mill of the pitch that circles in the drilled hole and reaches its depth."""
    mills = [
        t for t in usable(library, material, [ToolKind.THREAD_MILL])
        if abs(t.pitch - thread.pitch) < 1e-3 and t.diameter <= THREAD_ROOM * thread.tap_drill and t.reach >= depth
    ]  # fmt: skip
    return best(mills, lambda t: t.diameter)


def boring_mill(
    diameter: float, depth: float, library: Library, material: Material, machine: Machine,
    hand: AtHand = NOTHING_AT_HAND,
) -> Tool | None:  # fmt: skip
    """An end mill to mill a round hole or counterbore: the quickest of those with room to circle, and stiff enough to
    cut all around: a slim or thin one would take many times what a drill takes.
    """
    mills = [
        t for t in usable(library, material, [ToolKind.END_MILL])
        if THIN <= t.diameter <= 0.8 * diameter and depth <= t.reach <= SLIM * t.diameter
    ]  # fmt: skip
    volume = pi / 4 * diameter**2 * depth
    return quickest(mills, lambda t: volume / removal_rate(t, library, material, machine, depth), hand)


def missed(region: Region, diameter: float) -> float:
    """mm² of a region that a tool does not come over."""
    return float(region.polygon.area * (1 - _share(region, diameter)))


def _share(region: Region, diameter: float) -> float:
    return _share_of(wherever_it_lies(region), diameter)


@lru_cache(maxsize=1 << 16)
def _share_of(region: Region, diameter: float) -> float:
    return share_reached(region, diameter / 2)


def goes_in(region: Region, tool: Tool, allowance: float = 0.0) -> bool:
    return _fits(wherever_it_lies(region), tool.diameter + 2 * allowance)


@lru_cache(maxsize=1 << 16)
def _fits(region: Region, diameter: float) -> bool:
    return fits(region, diameter / 2)
