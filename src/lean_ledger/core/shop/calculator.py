"""Cutting data of any tool in any material on any machine, without a part: the same formulas as a plan's."""

from __future__ import annotations

from dataclasses import dataclass

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.operations.cutting.conditions import (
    Settled,
    Wish,
    plunged_area,
    settle,
    settle_plunge,
    settle_tap,
)
from lean_ledger.core.operations.cutting.forces import ToolLoad, load_at
from lean_ledger.core.operations.turning.lathe_paths import Means, turned_at
from lean_ledger.core.plan import OperationEdit
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import CuttingData, Library, Material, Tool, ToolKind

TURNS = (ToolKind.TURNING, ToolKind.BORING_BAR, ToolKind.GROOVING, ToolKind.BORE_GROOVING, ToolKind.PROFILING)
PLUNGES = (ToolKind.DRILL, ToolKind.SPOT_DRILL, ToolKind.COUNTERSINK, ToolKind.REAMER, ToolKind.BORING_HEAD)


def asks(kind: ToolKind) -> tuple[str, ...]:
    """What has a meaning for a kind of tool, by the names of `Asked`."""
    if kind in TURNS:
        return ("ap", "diameter", "speed", "feed")
    if kind in PLUNGES:
        return ("speed", "feed")
    return ("speed",) if kind == ToolKind.TAP else ("ap", "ae", "speed", "feed")


@dataclass(frozen=True)
class Asked:
    """`ap` and `ae` mm, 0 for the usual ones; `speed` and `feed` shares of the usual; `diameter` of turned work."""

    ap: float = 0.0
    ae: float = 0.0
    speed: float = 1.0
    feed: float = 1.0
    diameter: float = 40.0


@dataclass(frozen=True)
class Calculated:
    """`removal` cm³/min, `life` minutes in cut; `notes` say what will not do."""

    data: CuttingData
    settled: Settled
    load: ToolLoad
    removal: float
    life: float
    notes: tuple[str, ...]


def calculate(tool: Tool, material: Material, machine: Machine, library: Library, asked: Asked) -> Calculated:
    """Raises PlanError where the tool has no data for the material, or for a value that has no meaning."""
    if tool.kind in (ToolKind.THREADING, ToolKind.PROBE):
        why = "it cuts nothing" if tool.kind == ToolKind.PROBE else "its speed and feed follow from the thread it turns"
        raise PlanError("not-calculated", f"{tool.description}: {why}")
    data = library.data(tool, material)
    if data is None:
        able = [m.name for m in library.materials if library.data(tool, m) is not None]
        raise PlanError(
            "no-cutting-data", f"there is no cutting data for {tool.description} in {material.name}; there is for "
            f"{', '.join(able) or 'no material'}",
        )  # fmt: skip
    for name, value in (("speed", asked.speed), ("feed", asked.feed), ("diameter", asked.diameter)):
        if value <= 0:
            raise PlanError("not-positive", f"{name} is {value:g}; it must be above 0")
    edit = OperationEdit("", speed=asked.speed, feed=asked.feed if tool.kind != ToolKind.TAP else None)
    settled, removal = _settled(tool, data, material, machine, edit, asked)
    cut = settled.cutting
    notes = []
    if tool.kind not in PLUNGES and cut.ap > tool.cutting_length + 1e-9:
        notes.append(f"{cut.ap:g} is deeper than the {tool.cutting_length:g} that it cuts")
    if asked.ae > tool.diameter > 0:
        notes.append(f"ae {asked.ae:g} is more than the tool is wide")
    if asked.speed > data.speed_most or asked.feed > data.fz_most:
        notes.append(f"it stands {data.vc_most:g} m/min and {100 * data.fz_most:.0f} % of its usual chip, not more")
    load = load_at(tool, settled, machine, material)
    if load.bend > load.bend_limit > 0:
        notes.append(f"it bends {load.bend:.3f}, more than {load.bend_limit:g}: take less, or hold it shorter")
    return Calculated(data, settled, load, removal, data.life_at(cut.speed, cut.feed), tuple(notes))


def _settled(
    tool: Tool, data: CuttingData, material: Material, machine: Machine, edit: OperationEdit, asked: Asked
) -> tuple[Settled, float]:
    """Cutting data, and cm³/min."""
    if tool.kind == ToolKind.TAP:
        return settle_tap(tool, data, machine, edit, tool.cutting_length), 0.0
    if tool.kind in PLUNGES:
        settled = settle_plunge(tool, data, material, machine, edit, tool.cutting_length)
        return settled, plunged_area(tool) * settled.cutting.vf / 1000
    if tool.kind in TURNS:
        ap = asked.ap or (tool.diameter if tool.kind == ToolKind.GROOVING else tool.cutting_length / 2)
        spun = turned_at(Means(tool, data, material, machine, edit), ap, ap, asked.diameter)
        return spun.settled, ap * spun.per_turn * spun.settled.cutting.vc
    ap = asked.ap or min(material.rough_ap * tool.diameter, tool.cutting_length)
    ae = asked.ae or material.rough_ae * tool.diameter
    settled = settle(tool, data, material, machine, edit, Wish(ap, ap, min(ae, tool.diameter)))
    return settled, ap * min(ae, tool.diameter) * settled.cutting.vf / 1000
