"""A part screwed to a plate: through its own holes from above, or into its own threads from below."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache
from itertools import combinations
from math import hypot
from typing import Literal

import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.basis.same import Same
from lean_ledger.core.features import Hole
from lean_ledger.core.geometry.model import Bounds, Solid, Surface
from lean_ledger.core.geometry.vectors import dot, parallel
from lean_ledger.core.holding.hold import CONTACT, FRICTION, JAW_CLEARANCE, HeldStock, Hold, by_rule, error, warning
from lean_ledger.core.holding.obstacles import Block, Obstacle, Rod
from lean_ledger.core.plan import SetupDecision
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.stock.block import Section
from lean_ledger.library.fixtures import Plate

SCREW_ROOM = 0.2  # mm that a hole is wider than the screw that goes through it
LEAST_BASE = 0.1  # of the part's shadow that has to lie flat on the plate
MOST_SCREWS = 4
DOWEL_FIT = 0.05  # mm between a hole and the dowel in it
APART = 0.35  # of the part's longer side that the screws are apart at the least


@dataclass(frozen=True)
class Screw:
    hole: str
    x: float
    y: float
    head: float  # level that its head sits on; below the part where it comes from below
    way: Literal["from above", "from below"]


@dataclass(frozen=True)
class PlateHold(Hold):
    plate: Plate

    @property
    def fixture(self) -> Plate:
        return self.plate

    @property
    def seat(self) -> float:
        return self.plate.size[2] + self.plate.lift

    @property
    def lowest_outside_cut(self) -> float:
        return self.floor - self.plate.lift + JAW_CLEARANCE

    @cached_property
    def screws(self) -> tuple[Screw, ...]:
        """In holes that are there already: up to four, as far apart as they come."""
        found = [s for s in map(self._screw, self._holes(self.held.made)) if s is not None]
        return _apart(found)

    @property
    def dowels(self) -> tuple[str, ...]:
        """Holes that are there, of the dowels' size and open below, two at the most: they say where the part lies."""
        screwed = {s.hole for s in self.screws}
        fitting = [
            h for h in self._holes(self.held.made)
            if abs(h.diameter - self.plate.dowel) < DOWEL_FIT and h.id not in screwed and h.id not in self.held.tapped
            and (h.through or dot(h.direction, self.frame.up) < 0)
        ]  # fmt: skip
        return tuple(h.id for h in fitting[:2])

    @property
    def _located(self) -> str:
        names = " and ".join(self.dowels)
        return f"dowels Ø{self.plate.dowel:g} in {names}" if names else "pins at two of its sides"

    def _holes(self, among: frozenset[str]) -> list[Hole]:
        part = self.held.part
        return [f for f in part.features if isinstance(f, Hole) and f.id in among
                and parallel(f.axis, self.frame.up, 1e-3)]  # fmt: skip

    def _screw(self, hole: Hole) -> Screw | None:
        x, y, entry = self.frame.point(hole.position)
        upright = dot(hole.direction, self.frame.up) > 0
        below = entry - hole.depth if upright else entry
        major = self.held.tapped.get(hole.id)
        if major is not None:
            opens_below = hole.through or not upright
            fits = abs(major - self.plate.screw) < CONTACT
            return Screw(hole.id, x, y, self.floor, "from below") if fits and opens_below else None
        wide_enough = hole.diameter >= self.plate.screw + SCREW_ROOM
        if not hole.through or not wide_enough or hole.diameter > self.plate.head_diameter - 1:
            return None
        if below > self.floor + 0.5 * self.stock.size[2]:
            return None
        level = entry if upright else entry + hole.depth
        for segment in hole.segments if upright else ():
            if min(segment.from_diameter, segment.to_diameter) < self.plate.head_diameter:
                break
            level -= segment.depth
        return Screw(hole.id, x, y, level, "from above")

    @property
    def friction(self) -> float:
        """2 µ F of each screw: four of 9 kN at µ 0.15 hold 10.8 kN."""
        return 2 * FRICTION * self.plate.screw_kn * 1000 * len(self.screws)

    @property
    def obstacles(self) -> tuple[Obstacle, ...]:
        plate, (x, y) = self.plate, self.centre
        top = self.floor - plate.lift
        half = (plate.size[0] / 2, plate.size[1] / 2)
        base = Block("plate", Bounds((x - half[0], y - half[1], top - plate.size[2]), (x + half[0], y + half[1], top)))
        heads = [Rod("screw", s.x, s.y, plate.head_diameter / 2, s.head, s.head + plate.head_height)
                 for s in self.screws if s.way == "from above"]  # fmt: skip
        return (*heads, base)

    @property
    def aside(self) -> tuple[Obstacle, ...]:
        """The rests under the screws."""
        return tuple(
            Rod("parallel", s.x, s.y, self.plate.head_diameter / 2, self.floor - self.plate.lift, self.floor)
            for s in self.screws
        )

    @property
    def rests_on(self) -> str:
        return "the rests"

    @property
    def words(self) -> tuple[tuple[str, str], ...]:
        ways = sorted({s.way for s in self.screws})
        count = len(self.screws)
        return (
            ("plate", self.plate.name),
            ("screws", f"{count} × M{self.plate.screw:g} {' and '.join(ways)}" if count else "none finds a hole"),
            ("in", ", ".join(s.hole for s in self.screws) or "none"),
            ("rests", f"{self.plate.lift:g} high"),
            ("lies by", self._located),
            ("turned", f"{self.turn}°"),
        )

    @property
    def touches(self) -> str:
        holes = ", ".join(s.hole for s in self.screws)
        return f"{len(self.screws)} screws M{self.plate.screw:g} in {holes}" if holes else "no hole for a screw"

    @property
    def load_seconds(self) -> float:
        return self.plate.load_seconds + self.plate.screw_seconds * len(self.screws)

    @property
    def base(self) -> float:
        """mm² of the part's flat underside."""
        part = self.held.part
        solids = [part.model.solid, *([part.near_net.solid] if part.near_net is not None else [])]
        return _base(tuple(map(Same, solids)), self.frame, self.floor)

    def findings(self, setup: str) -> list[Finding]:
        plate, size = self.plate, self.stock.size
        found: list[Finding] = []
        if size[0] > plate.size[0] or size[1] > plate.size[1]:
            found.append(
                error(
                    setup, "plate-small",
                    f"The stock is {size[0]:.0f} × {size[1]:.0f}, {plate.name} {plate.size[0]:g} × {plate.size[1]:g}.",
                    "It has to lie on the plate. Take a larger one, or turn it.", (by_rule(setup),),
                )
            )  # fmt: skip
        # a rough block lies flat wherever it was sawn
        near_net = self.held.section == Section.NEAR_NET
        if (near_net or abs(self.held.box.min[2] - self.floor) < CONTACT) and self.base < LEAST_BASE * size[0] * size[
            1
        ]:
            found.append(
                error(
                    setup,
                    "base-not-flat",
                    f"Only {self.base:.0f} mm² of the part lie flat on {plate.name}.",
                    "It would rock. Cut a flat on that side in a setup before, or hold it otherwise.",
                    (by_rule(setup),),
                )
            )
        return [*found, *self._screw_findings(setup)]

    def _screw_findings(self, setup: str) -> list[Finding]:
        plate = self.plate
        if len(self.screws) < plate.least_screws:
            later = [h.id for h in self._holes(self.held.here) if self._screw(h) is not None]
            why = (
                f"{', '.join(later)} would do, but this setup makes them itself: make them in an earlier one."
                if later
                else f"It asks for through holes from {plate.screw + SCREW_ROOM:g} to {plate.head_diameter - 1:g} wide "
                f"along its Z, or M{plate.screw:g} threads from below, that are there before."
            )
            return [
                error(
                    setup, "too-few-screws",
                    f"{plate.name} needs {plate.least_screws} screws, {len(self.screws)} find a hole.", why,
                    (by_rule(setup),),
                )
            ]  # fmt: skip
        size = max(self.stock.size[:2])
        gap = max(hypot(a.x - b.x, a.y - b.y) for a, b in combinations(self.screws, 2))
        if gap < APART * size:
            return [
                warning(
                    setup, "screws-near", f"The screws are {gap:.0f} apart on a part of {size:.0f}.",
                    "It can lift at its ends. Use holes farther out, or clamp it besides.",
                    tuple(s.hole for s in self.screws),
                )
            ]  # fmt: skip
        return []


@lru_cache(maxsize=32)
def _base(solids: tuple[Same[Solid], ...], frame: Frame, floor: float) -> float:
    """mm² of the flat faces that look down at a level."""
    flats = [flat for solid in solids for level, flat in _undersides(solid, frame) if abs(level - floor) < CONTACT]
    return float(shapely.union_all(flats).area) if flats else 0.0


@lru_cache(maxsize=32)
def _undersides(solid: Same[Solid], frame: Frame) -> tuple[tuple[float, BaseGeometry], ...]:
    """The flat faces that look down, with their levels."""
    found = []
    for face in solid.value.faces:
        if face.surface == Surface.PLANE and dot(face.axis, frame.up) < -0.9999:
            loops = sorted(face.loops, key=lambda one: not one.outer)
            rings = [[frame.point(p) for p in solid.value.loop_points(loop)] for loop in loops]
            if rings:
                flat = Polygon([p[:2] for p in rings[0]], [[p[:2] for p in r] for r in rings[1:]]).buffer(0)
                found.append((rings[0][0][2], flat))
    return tuple(found)


def _apart(screws: list[Screw]) -> tuple[Screw, ...]:
    """Those at the corners, each once."""
    if len(screws) <= MOST_SCREWS:
        return tuple(screws)
    corners = [max(screws, key=lambda s: (a * s.x + b * s.y, s.hole)) for a in (-1, 1) for b in (-1, 1)]
    return tuple(dict.fromkeys(corners))


def plate_hold(
    plate: Plate, setup: SetupDecision, frame: Frame, turn: int, boxes: tuple[Bounds, ...], held: HeldStock,
    lowest_needed: float | None,
) -> PlateHold:  # fmt: skip
    return PlateHold(frame, turn, boxes, held, 0.0, plate)
