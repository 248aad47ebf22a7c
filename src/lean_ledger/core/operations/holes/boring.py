"""Holes on the spindle's axis: drilled, and bored where no drill has their size."""

from __future__ import annotations

import itertools
from dataclasses import dataclass

from lean_ledger.core.features import Hole
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.holes.drilling import (
    DrillCut,
    HoleGroup,
    drill_operation,
    flat_floor,
    group_holes,
    spot_operation,
    tap_operation,
)
from lean_ledger.core.operations.holes.widening import say_tip_left
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation, Ring2
from lean_ledger.core.operations.safe.short_holes import BREAK_THROUGH
from lean_ledger.core.operations.turning.lathe_paths import css, lathe_motion
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.library.types import Tool, ToolKind

LEAD = 1.5
ROOM = 0.8  # mm of diameter that a bar takes off at the least


@dataclass(frozen=True)
class Stretch:
    """Of a bore, from a level down to another; `wide` and `narrow` are its radii there, the same on a cylinder."""

    wide: float
    narrow: float
    top: float
    bottom: float

    @property
    def size(self) -> str:
        return f"Ø{2 * self.wide:g}" + (f" to Ø{2 * self.narrow:g}" if self.narrow < self.wide else "")

    def floor(self, r: float) -> float:
        """Down to where a pass at a radius goes.

        >>> Stretch(20, 15, 0, -5).floor(16)
        -4.0
        """
        if r <= self.narrow + 1e-9:
            return self.bottom
        return self.bottom + (r - self.narrow) / (self.wide - self.narrow) * (self.top - self.bottom)


def bore_operations(place: Workplace, hole: Hole) -> None:
    """Spot, drill, then bore what is wider than the drill; a thread last."""
    group = group_holes(place, [hole])[0]
    travel = hole.depth + 0.35 * hole.diameter + BREAK_THROUGH
    exact = choose.drill_for(hole.diameter, travel, place.library, place.material)
    drill = exact or _smaller(place, hole.diameter - ROOM, travel)
    if drill is None:
        place.lack(
            "no-drill",
            f"No drill opens {group.label} ({hole.id}).",
            f"A drill of at most {hole.diameter - ROOM:.1f} that reaches {travel:.0f} has to go in before a boring "
            "bar. Add one to the library.",
            features=(hole.id,),
            wanted=f"drill of at most Ø{hole.diameter - ROOM:.1f} that reaches {travel:.0f}",
        )
        return
    chain = [spot_operation(place, group, min(drill.diameter, hole.diameter)), drill_operation(place, group, drill)]
    if flat_floor(hole):
        tip = DrillCut(drill.diameter, drill.tip_angle, 0).tip_length
        say_tip_left(place, group, drill, tip, "On a lathe's axis nothing takes it off.")
    bored = _bore(place, group, drill)
    if bored is not None:
        chain.append(bored)
    thread = place.library.thread(place.plan.thread_in(hole) or "")
    if thread is not None:
        tapped = tap_operation(place, group, thread)
        if tapped is not None:
            chain.append(tapped)
    for before, after in itertools.pairwise(chain):
        place.require(after, before.id, f"{before.kind.value} before {after.kind.value}")


def _smaller(place: Workplace, most: float, travel: float) -> Tool | None:
    drills = [t for t in choose.usable(place.library, place.material, [ToolKind.DRILL])
              if t.diameter <= most and t.cutting_length >= travel]  # fmt: skip
    return choose.best(drills, lambda t: t.diameter)


def _bore(place: Workplace, group: HoleGroup, drill: Tool) -> Operation | None:
    """Every stretch that is wider than the drill, in passes from the middle outwards."""
    hole, entry = group.first, group.entry
    stretches: list[Stretch] = []
    z = entry
    for segment in group.segments:
        low = z - segment.depth
        wide, narrow = segment.from_diameter, segment.to_diameter
        if wide > drill.diameter + 2 * choose.SAME_DIAMETER and (segment.shape == "cylinder" or wide > narrow):
            through = hole.through and segment.shape == "cylinder" and abs(wide - hole.diameter) < 1e-3
            stretches.append(Stretch(wide / 2, narrow / 2, z, low - (BREAK_THROUGH if through else 0.0)))
        z = low
    if not stretches:
        return None
    deepest = entry - min(one.bottom for one in stretches)
    id = place.id_of(hole.id, OperationKind.BORE)
    bars = [t for t in choose.usable(place.library, place.material, [ToolKind.BORING_BAR])
            if t.diameter <= drill.diameter and t.reach >= deepest]  # fmt: skip
    tool = place.tool(id, OperationKind.BORE, choose.best(bars, lambda t: t.diameter))
    if tool is None:
        place.lack(
            "no-boring-bar",
            f"No boring bar goes into Ø{drill.diameter:g} over {deepest:.0f}.",
            f"{group.label} has to be bored to {', '.join(one.size for one in stretches)}.",
            features=(hole.id,),
            wanted=f"boring bar from Ø{drill.diameter:g} or less that reaches {deepest:.0f}",
        )
        return None
    widest = max(one.wide for one in stretches)
    spun = css(place, tool, id, widest - drill.diameter / 2, tool.cutting_length / 2, 2 * widest)
    step = spun.settled.cutting.ap
    cuts: list[list[tuple[float, float]]] = []
    rings: list[Ring2] = []
    for one in sorted(stretches, key=lambda s: -s.bottom):
        r = drill.diameter / 2
        while r < one.wide - 1e-6:
            r = min(r + step, one.wide)
            if one.floor(r) < one.top - 1e-6:
                cuts.append([(r, entry + LEAD), (r, one.floor(r))])
        if one.narrow < one.wide:  # the steps that the passes leave on a taper
            cuts.append([(one.wide, entry + LEAD), (one.wide, one.top), (one.narrow, one.bottom)])
        lip = one.top + LEAD
        rings.append(((0.0, one.bottom), (one.narrow, one.bottom), (one.wide, one.top), (one.wide, lip), (0.0, lip)))
    sizes = ", ".join(one.size for one in stretches)
    return place.add(
        Named(id, OperationKind.BORE, f"Bore {sizes} of {group.label}", (hole.id,), hole.id),
        tool,
        spun.settled,
        lathe_motion(place, spun, cuts, tuple(rings), entry + LEAD, -0.5),
        depth=deepest,
        figures=spun.figures,
    )
