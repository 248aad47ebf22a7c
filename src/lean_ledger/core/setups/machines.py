"""Which machines of the shop could reach what this plan's setups do not."""

from __future__ import annotations

from lean_ledger.core.features import Feature, tool_ways
from lean_ledger.core.geometry.vectors import SIX, same_way
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.reach import clampings, made_on
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library


def machines_for(part: Part, feature: Feature, library: Library) -> tuple[Machine, ...]:
    """The machines on which one clamping or another reaches a feature.

    Three axes count for the six sides only: laid askew a part has no vise here.
    """
    return tuple(m for m in library.machines if _could(part, feature, m))


def _could(part: Part, feature: Feature, machine: Machine) -> bool:
    if not made_on(machine, part.model.solid, feature, part.axis):
        return False
    ways = list(tool_ways(feature))
    if not machine.turns_work and machine.rotary is None:
        ways = [d for d in ways if any(same_way(d, side, 1e-3) for side in SIX)]
    return bool(ways) and any(c.reached for c in clampings(machine, ways, part.axis))
