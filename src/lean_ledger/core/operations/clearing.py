"""Clearing flat regions and finishing their walls with an end mill: pockets, steps, bores and counterbores alike."""

from __future__ import annotations

from dataclasses import dataclass

from lean_ledger.core.operations.cutting import Wish, settle
from lean_ledger.core.operations.model import Operation, OperationKind
from lean_ledger.core.operations.paths import clear_path, wall_path
from lean_ledger.core.operations.regions import Region
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.library.types import Tool


@dataclass(frozen=True)
class Clearing:
    """Alike regions between two levels, and what they belong to."""

    regions: tuple[Region, ...]
    top: float
    bottom: float
    features: tuple[str, ...]
    chain: str
    run_out: float = 0.0  # beyond open edges
    predrilled: bool = False

    @property
    def depth(self) -> float:
        return round(self.top - self.bottom, 5)

    @property
    def is_open(self) -> bool:
        return any(region.open_edges for region in self.regions)


def clear_operation(
    place: Workplace, id: str, kind: OperationKind, name: str, tool: Tool, work: Clearing, allowance: float
) -> Operation:
    """Layer by layer with the material's steps, leaving `allowance` on the walls."""
    data = place.library.data(tool, place.material)
    assert data is not None
    wish = Wish(
        work.depth,
        min(place.material.rough_ap * tool.diameter, tool.cutting_length),
        place.material.rough_ae * tool.diameter,
        allowance,
    )
    settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
    cut = settled.cutting
    motion = clear_path(
        work.regions, tool.diameter, cut.allowance, work.run_out, min(cut.ae, tool.diameter / 2), work.top,
        work.bottom, cut.passes, cut.vf, place.material.ramp_angle, predrilled=work.predrilled,
        clearance=place.clearance,
    )  # fmt: skip
    return place.add(
        id, kind, name, work.features, tool, settled, motion, chain=work.chain, depth=work.depth, outer=work.is_open
    )


def finish_walls_operation(
    place: Workplace, id: str, name: str, tool: Tool, work: Clearing, allowance: float
) -> Operation:
    """Along the walls over the whole depth, taking the `allowance` that roughing left."""
    data = place.library.data(tool, place.material)
    assert data is not None
    wish = Wish(work.depth, tool.cutting_length, max(allowance, 0.05), 0.0, thin_chips=False)
    settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
    cut = settled.cutting
    motion = wall_path(
        work.regions, tool.diameter, cut.allowance, work.run_out, work.top, work.bottom, cut.passes, cut.vf,
        place.clearance,
    )  # fmt: skip
    return place.add(
        id, OperationKind.FINISH_WALL, name, work.features, tool, settled, motion, chain=work.chain,
        depth=work.depth, outer=work.is_open,
    )  # fmt: skip
