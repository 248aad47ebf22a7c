"""Clearing flat regions and finishing their walls with an end mill: pockets, steps, bores and counterbores alike."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import ceil

from lean_ledger.core.basis.findings import Cure, Figure, Severity
from lean_ledger.core.operations.cutting.conditions import Settled, Wish, settle
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.corners import corner_path, rest_after
from lean_ledger.core.operations.milling.engaged import engaged_path
from lean_ledger.core.operations.milling.helical import RoundHole, in_a_helix
from lean_ledger.core.operations.milling.paths import Down, Space, clear_path, wall_path
from lean_ledger.core.operations.milling.regions import Region
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.core.plan import Strategy
from lean_ledger.library.types import Tool

IN_STEPS: Strategy = "in steps"
ENGAGED: Strategy = "constant engagement"
IN_HELIX: Strategy = "in a helix"
WORDS: dict[Strategy, str] = {ENGAGED: "at constant engagement"}
WHY_NOT: dict[Strategy, str] = {
    ENGAGED: "It has to go in by a helix and cut its way out sideways: there is no room. Take a thinner tool.",
    IN_HELIX: "One helix leaves a core in the middle, or has no circle to go round. It takes a tool of more than half "
              "the hole's diameter, and thinner than the hole by a tenth.",
}  # fmt: skip


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

    def space(self, tool: Tool, allowance: float) -> Space:
        return Space(self.regions, tool.diameter, allowance, self.run_out)

    def down(self, place: Workplace, passes: int) -> Down:
        return Down(self.top, self.bottom, passes, place.clearance, place.material.ramp_angle)

    @property
    def is_open(self) -> bool:
        return any(region.open_edges for region in self.regions)


def clear_operation(
    place: Workplace, id: str, kind: OperationKind, name: str, tool: Tool, work: Clearing, allowance: float
) -> Operation:
    """Layer by layer with the material's steps, leaving `allowance` on the walls."""
    settled, motion = _in_steps(place, id, tool, work, allowance)
    return place.add(
        Named(id, kind, name, work.features, work.chain, outer=work.is_open), tool, settled, motion, depth=work.depth
    )


def rough_operation(
    place: Workplace, id: str, kind: OperationKind, name: str, tool: Tool, work: Clearing, allowance: float, *,
    hole: RoundHole | None = None,
) -> Operation:  # fmt: skip
    """In steps, at constant engagement or, a round hole, in a helix: whichever is done first, or as set by hand.

    Constant engagement is looked at where it takes fewer layers than the steps do; elsewhere it gains nothing. It
    climbs: who wants it conventional gets steps.
    """
    wanted = place.edit(id).strategy
    found: dict[Strategy, tuple[Settled, Motion]] = {IN_STEPS: _in_steps(place, id, tool, work, allowance)}
    helix = in_a_helix(place, id, hole, tool, allowance) if hole is not None else None
    if helix is not None:
        found[IN_HELIX] = helix
    gains = found[IN_STEPS][0].cutting.passes > _layers(place, tool, work)
    if place.climbs(id) and (wanted == ENGAGED or gains):
        engaged = _engaged(place, id, tool, work, allowance)
        if engaged is not None:
            found[ENGAGED] = engaged
    named = Named(id, kind, name, work.features, work.chain, outer=work.is_open)
    seconds = {
        strategy: place.seconds(place.fed(named, tool, own, motion, work.depth).motion)
        for strategy, (own, motion) in found.items()
    }
    if wanted is not None and wanted not in found:
        place.find(
            "not-that-way", Severity.WARNING,
            f"{name} cannot be cut {WORDS.get(wanted, wanted)} with {tool.description}.",
            WHY_NOT[wanted] if place.climbs(id) or wanted != ENGAGED else "It climbs, and conventional was chosen.",
            features=work.features, operation=id,
            cures=(Cure("Let the rule choose", {"change": "edit-operation", "operation": id, "clear": ["strategy"]}),),
        )  # fmt: skip
    chosen = wanted if wanted in found else min(seconds, key=lambda one: seconds[one])
    settled, motion = found[chosen]
    figures = tuple(
        Figure(one if one == chosen else f"{one} instead", "the same material, by its own path", took, "s")
        for one, took in seconds.items()
        if len(seconds) > 1
    )
    made = place.add(named, tool, settled, motion, depth=work.depth, figures=figures)
    return place.exchange(replace(made, strategy=chosen, strategies=tuple(seconds.items())))


def _layers(place: Workplace, tool: Tool, work: Clearing) -> int:
    return ceil(round(work.depth / min(place.material.engaged_ap * tool.diameter, tool.cutting_length), 6))


def _in_steps(
    place: Workplace, id: str, tool: Tool, work: Clearing, allowance: float
) -> tuple[Settled, Motion]:  # fmt: skip
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
        work.space(tool, cut.allowance), min(cut.ae, tool.diameter / 2), work.down(place, cut.passes), cut.vf,
        predrilled=work.predrilled, climb=place.climbs(id),
    )  # fmt: skip
    return settled, motion


def _engaged(
    place: Workplace, id: str, tool: Tool, work: Clearing, allowance: float
) -> tuple[Settled, Motion] | None:  # fmt: skip
    material, data = place.material, place.library.data(tool, place.material)
    assert data is not None
    wish = Wish(
        work.depth, min(material.engaged_ap * tool.diameter, tool.cutting_length),
        material.engaged_ae * tool.diameter, allowance,
    )  # fmt: skip
    settled = settle(tool, data, material, place.machine, place.edit(id), wish)
    cut = settled.cutting
    motion = engaged_path(
        work.space(tool, cut.allowance), min(cut.ae, 0.45 * tool.diameter), work.down(place, cut.passes), cut.vf,
        predrilled=work.predrilled,
    )  # fmt: skip
    return None if motion is None else (settled, motion)


def clean_corners_operation(
    place: Workplace, name: str, rougher: Tool, finisher: Tool, work: Clearing, allowance: float, *, floor: bool = False
) -> Operation | None:
    """What a thick tool left in corners and gaps, taken in steps by the one that finishes.

    None where nothing is left that the finishing pass does not stand: its load is at most that of roughing, ap·ae of
    the material's steps; nor, where their `floor` is made with them, more than it goes over along the walls.
    """
    id = place.id_of(work.chain, OperationKind.CLEAN_CORNERS)
    rule = finisher if finisher.diameter < rougher.diameter else None
    tool = place.tool(id, OperationKind.CLEAN_CORNERS, rule)
    if tool is None:
        return None
    material = place.material
    rests = [rest_after(r, rougher.diameter / 2, tool.diameter / 2, allowance, work.run_out) for r in work.regions]
    thick = max((rest.thickness for rest in rests), default=0.0)
    load = (thick + allowance) * min(work.depth, tool.cutting_length)
    stands = material.rough_ap * material.rough_ae * tool.diameter**2
    by_hand = not place.edit(id).is_empty
    spared = load <= stands and not (floor and thick + allowance > tool.diameter)
    if thick <= 0 or (spared and not by_hand):
        return None
    data = place.library.data(tool, material)
    assert data is not None
    step = material.rough_ae * tool.diameter
    wish = Wish(work.depth, min(material.rough_ap * tool.diameter, tool.cutting_length), step, allowance)
    settled = settle(tool, data, material, place.machine, place.edit(id), wish)
    cut = settled.cutting
    motion = corner_path(
        work.space(tool, cut.allowance), rougher.diameter, min(cut.ae, tool.diameter / 2),
        work.down(place, cut.passes), cut.vf, climb=place.climbs(id),
    )  # fmt: skip
    if motion is None:
        return None
    figures = (
        Figure("left in corners", f"at the thickest, by Ø{rougher.diameter:g} to Ø{tool.diameter:g}", thick, "mm"),
        Figure("load of a finishing pass", f"({thick:.2f} + {allowance:g}) · {min(work.depth, tool.cutting_length):g}, "
               f"roughing takes {stands:.1f}", load, "mm2"),
    )  # fmt: skip
    named = Named(id, OperationKind.CLEAN_CORNERS, name, work.features, work.chain, outer=work.is_open)
    if not by_hand and not place.comes_down(named, tool, motion):
        return None  # what stands in its way are no corners of this recess
    return place.add(named, tool, settled, motion, depth=work.depth, figures=figures)


def finish_walls_operation(
    place: Workplace, id: str, name: str, tool: Tool, work: Clearing, allowance: float, *, before: Tool
) -> Operation:
    """Along the walls over the whole depth, taking the `allowance` that roughing left."""
    data = place.library.data(tool, place.material)
    assert data is not None
    wish = Wish(work.depth, tool.cutting_length, max(allowance, 0.05), 0.0, thin_chips=False)
    settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
    cut = settled.cutting
    motion = wall_path(
        work.space(tool, cut.allowance), work.down(place, cut.passes), cut.vf, climb=place.climbs(id),
        before=before.diameter,
    )  # fmt: skip
    return place.add(
        Named(id, OperationKind.FINISH_WALL, name, work.features, work.chain, outer=work.is_open),
        tool,
        settled,
        motion,
        depth=work.depth,
    )
