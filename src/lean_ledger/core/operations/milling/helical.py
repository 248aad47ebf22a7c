"""Round holes that no drill makes, bored from the solid by an end mill that goes down in a helix."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from math import ceil, cos, pi, radians, sin, tan

from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.cutting.conditions import Settled, Wish, settle
from lean_ledger.core.operations.milling.paths import APPROACH, Walk
from lean_ledger.core.operations.milling.regions import Flat
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.library.types import Tool

CHORDS = 48  # of a whole turn
OVER_CORE = 0.02  # mm by which the tool has to come over the middle, so that no core stays


def bores_whole(tool: Tool, diameter: float, allowance: float) -> bool:
    """Whether one helix clears a hole: the tool's edge goes over the hole's middle, and there is a circle to go round.

    Ø12 in a hole of Ø20 with 0.2 left: the centre goes round at R3.8, its edge 2.2 beyond the middle.
    """
    orbit = diameter / 2 - allowance - tool.diameter / 2
    return 0.1 * tool.diameter <= orbit <= tool.diameter / 2 - OVER_CORE


@dataclass(frozen=True)
class RoundHole:
    """Alike holes as they are milled: `hop` is the height of the way between them."""

    points: tuple[Flat, ...]
    diameter: float
    entry: float
    bottom: float
    hop: float


def in_a_helix(
    place: Workplace, id: str, hole: RoundHole, tool: Tool, allowance: float
) -> tuple[Settled, Motion] | None:  # fmt: skip
    """Bore to `allowance` off the wall; None where one helix does not clear the hole.

    The pitch follows the material's ramp angle, at most its step; the centre is slower than the edge, which cuts.
    """
    material, data = place.material, place.library.data(tool, place.material)
    if data is None or not bores_whole(tool, hole.diameter, allowance):
        return None
    orbit = hole.diameter / 2 - allowance - tool.diameter / 2
    steep = 2 * pi * orbit * tan(radians(material.ramp_angle))
    pitch = min(steep, material.rough_ap * tool.diameter)
    wish = Wish(round(hole.entry - hole.bottom, 5), pitch, tool.diameter, allowance, thin_chips=False)
    settled = settle(tool, data, material, place.machine, place.edit(id), wish)
    cut = settled.cutting
    edge = orbit + tool.diameter / 2
    centre = cut.vf * orbit / edge
    motion = helical_path(
        hole.points, hole.entry, hole.bottom, round(orbit, 6), cut.passes, centre, hole.hop, place.clearance
    )
    figures = (
        Figure("pitch", f"2π · {orbit:.2f} · tan({material.ramp_angle:g}°), at most {material.rough_ap:g} · "
               f"{tool.diameter:g}; {cut.passes} turns", cut.ap, "mm"),
        Figure("feed of the centre", f"vf · {orbit:.2f} / {edge:.2f}: the edge goes at vf", centre, "mm/min"),
    )  # fmt: skip
    return replace(settled, figures=(*settled.figures, *figures)), motion


@lru_cache(maxsize=512)
def helical_path(
    points: tuple[Flat, ...], entry: float, bottom: float, orbit: float, turns: int, vf: float, hop: float,
    clearance: float,
) -> Motion:  # fmt: skip
    """Down at each point in `turns` turns, once round at the bottom, out by the middle. `vf` is the centre's feed."""
    walk = Walk(clearance)
    for i, (x, y) in enumerate(points):
        if i == 0:
            walk.over(x + orbit, y)
        else:
            walk.down(hop)
            walk.across(x + orbit, y)
        walk.down(entry + APPROACH)
        walk.cut(vf, [(x + orbit, y, entry)])
        walk.cut(vf, circling((x, y), orbit, turns, entry, bottom))
        walk.cut(vf, circling((x, y), orbit, 1, bottom, bottom))
        walk.cut(vf, [(x, y, bottom)])
        walk.down(entry + APPROACH)
    return walk.leave()


def circling(centre: Flat, radius: float, turns: float, top: float, bottom: float) -> list[Vec]:
    """Counter-clockwise from the right, evenly from `top` to `bottom`; the first point is where the tool is already."""
    count = ceil(CHORDS * turns - 1e-9)
    return [
        (
            round(centre[0] + radius * cos(2 * pi * turns * k / count), 6),
            round(centre[1] + radius * sin(2 * pi * turns * k / count), 6),
            round(top + (bottom - top) * k / count, 6),
        )
        for k in range(1, count + 1)
    ]
