"""The stock of a way before anything of it is cut: areas with a top."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import MultiPoint, Point, Polygon, box
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.same import Same
from lean_ledger.core.features import Feature, Hole, Pocket, Slot, Step
from lean_ledger.core.geometry.flat import polygons
from lean_ledger.core.geometry.model import Solid
from lean_ledger.core.operations.milling.surface_paths import Over, risen
from lean_ledger.core.operations.safe.shadows import part_above
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.setups.frame import Frame

GRAZE = 0.01  # mm of a tool's radius that may meet stock: offsets are chords
LEAST_AREA, LEAST_VOLUME = 0.01, 0.2  # mm² and mm³ from which something counts as standing: a thin column, if high
SAME = 1e-6
BESIDE = 0.05  # mm beside the part, which counts as the part
OPEN = 0.1  # mm below the part's top from which a feature opens there


@dataclass(frozen=True)
class Standing:
    """Areas of stock with their tops, in a way's axes, before anything of it is cut."""

    areas: tuple[tuple[BaseGeometry, float], ...]
    model: Over | None = None  # of near-net stock, in place of areas
    top: float = 0.0
    less: Over | None = None  # the part, which is looked at by itself

    def over(self, level: float) -> Iterator[tuple[BaseGeometry, float]]:
        """What rises above a level, with its top."""
        if self.model is not None:
            yield risen(self.model, round(level, 2)), self.top
            return
        above = [(area, top) for area, top in self.areas if top > level + SAME]
        part = part_above(self.less, (), level).buffer(BESIDE) if self.less is not None and above else None
        for area, top in above:
            yield (area if part is None else area.difference(part)), top


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
        if place.blank is not None:  # the next pieces' stock as well
            x0, y0, x1, y1 = place.standing_rectangle
        whole = box(x0, y0, x1, y1)
        if is_round and held.finished is None:
            whole = Point((x0 + x1) / 2, (y0 + y1) / 2).buffer(max(x1 - x0, y1 - y0) / 2)
        found.append((whole, one.max[2]))
    return Standing(tuple(found), top=place.stock.max[2])


def left_before(place: Workplace) -> Standing:
    """What earlier setups leave of the stock, beside the part: where the outline is cut no more than the part's own
    shadow, and nothing in what they made that is open to this way.
    """
    there = standing_at(place)
    if there.model is not None:
        return there
    solid, frame = place.part.model.solid, place.frame
    own, over = place.box, Over(solid.mesh, frame)
    outline = shapely.union_all([Polygon(one.exterior) for one in polygons(risen(over, round(own.min[2] - 1, 2)))])
    made = place.hold.held.made | place.done
    gone = shapely.union_all([_seen(place, f) for f in place.part.features if f.id in made and _opens(place, f)])
    found = []
    for (area, top), stock in zip(there.areas, place.boxes, strict=True):
        cut = all(abs(a[i] - b[i]) < OPEN for a, b in ((stock.min, own.min), (stock.max, own.max)) for i in (0, 1))
        found.append(((area.intersection(outline) if cut else area).difference(gone), top))
    return Standing(tuple(found), top=there.top, less=over)


@lru_cache(maxsize=4096)
def _points(solid: Same[Solid], frame: Frame, faces: tuple[int, ...]) -> NDArray[np.float64]:
    points = [frame.point(p) for p in solid.value.edge_points(faces)]
    return np.array(points, dtype=np.float64).reshape(-1, 3)


def _opens(place: Workplace, feature: Feature) -> bool:
    """Whether it is a hollow that nothing of the part covers."""
    if not isinstance(feature, Hole | Pocket | Slot | Step):
        return False
    points = _points(Same(place.part.model.solid), place.frame, feature.faces)
    return bool(points[:, 2].max(initial=0.0) > place.box.max[2] - OPEN)


def _seen(place: Workplace, feature: Feature) -> BaseGeometry:
    return MultiPoint(_points(Same(place.part.model.solid), place.frame, feature.faces)[:, :2]).convex_hull


def stands(area: BaseGeometry, height: float) -> bool:
    """Whether an area of stock of some height counts."""
    return bool(area.area > min(LEAST_AREA, LEAST_VOLUME / max(height, SAME)))
