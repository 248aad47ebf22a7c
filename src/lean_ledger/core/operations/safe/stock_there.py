"""The stock of a way before anything of it is cut: areas with a top."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from shapely.geometry import Point, box
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.operations.milling.surface_paths import Over, risen
from lean_ledger.core.operations.workplace import Workplace

GRAZE = 0.01  # mm of a tool's radius that may meet stock: offsets are chords
LEAST_AREA, LEAST_VOLUME = 0.01, 0.2  # mm² and mm³ from which something counts as standing: a thin column, if high
SAME = 1e-6


@dataclass(frozen=True)
class Standing:
    """Areas of stock with their tops, in a way's axes, before anything of it is cut."""

    areas: tuple[tuple[BaseGeometry, float], ...]
    model: Over | None = None  # of near-net stock, in place of areas
    top: float = 0.0

    def over(self, level: float) -> Iterator[tuple[BaseGeometry, float]]:
        """What rises above a level, with its top."""
        if self.model is not None:
            yield risen(self.model, round(level, 2)), self.top
            return
        for area, top in self.areas:
            if top > level + SAME:
                yield area, top


def standing_at(place: Workplace) -> Standing:
    """The stock of a way; a round bar that stands on end as its circle."""
    near = place.part.near_net
    if near is not None:
        return Standing((), Over(near.solid.mesh, place.frame), place.stock.max[2])
    held = place.hold.held
    is_round = held.section == "round" and held.upright and place.frame.up == place.hold.frame.up
    found = []
    for one in place.boxes:
        x0, y0, x1, y1 = one.min[0], one.min[1], one.max[0], one.max[1]
        whole = box(x0, y0, x1, y1)
        if is_round and held.finished is None:
            whole = Point((x0 + x1) / 2, (y0 + y1) / 2).buffer(max(x1 - x0, y1 - y0) / 2)
        found.append((whole, one.max[2]))
    return Standing(tuple(found), top=place.stock.max[2])


def stands(area: BaseGeometry, height: float) -> bool:
    """Whether an area of stock of some height counts."""
    return bool(area.area > min(LEAST_AREA, LEAST_VOLUME / max(height, SAME)))
