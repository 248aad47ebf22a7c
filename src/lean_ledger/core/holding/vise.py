"""Stock between two jaws: a vise of one station or two, with ground jaws or with soft ones cut to the part."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import shapely
from shapely.geometry import Polygon, box

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.features import Slot
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import add, axis_name, dot, neg, scale
from lean_ledger.core.geometry.views import RIGHT, back_of
from lean_ledger.core.holding.hold import (
    FRICTION,
    JAW_CLEARANCE,
    HeldStock,
    Hold,
    Through,
    by_rule,
    error,
    grip_of,
    turned,
    warning,
)
from lean_ledger.core.holding.obstacles import Block, Obstacle, Prism
from lean_ledger.core.holding.surfaces import Contact, flat_contact, is_finished
from lean_ledger.core.plan import SetupDecision
from lean_ledger.core.setups.frame import Frame
from lean_ledger.library.fixtures import Vise
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library

USUAL_GRIP = 8.0
TALL_GRIP = 0.12  # of the height, where that is more
OPENING_ROOM = 1.0  # mm to put the stock in
LEAST_JAW_SHARE = 0.4  # of the stock's length that lies between the jaws
LEAST_FLAT = 0.25  # of the jaw's window that has to lie against a flat
BED_DEPTH = 14.0  # mm of the bed that is drawn and that a tool may meet
PARALLEL_WIDTHS = (6.0, 3.0)  # mm, the usual ones and thin ones
PARALLEL_OFF = 2.0  # mm that a parallel lies off its jaw where nothing comes through
PARALLEL_ROOM = 1.0  # mm that it keeps off a tool
LEAST_SEAT = 0.3  # of the jaws' opening that the two lie apart at the least, over all
FREE_BY = 1.0  # mm that jaws are cut free beside what comes through


@dataclass(frozen=True)
class ViseHold(Hold):
    vise: Vise
    parallel: float | None  # None where the shop has none of that height
    parallels_at: tuple[float, float] | None = (PARALLEL_OFF, PARALLEL_OFF)  # mm off the front and the back jaw
    parallel_width: float = PARALLEL_WIDTHS[0]
    pressed: float | None = None  # kN that the jaws press with by hand; None with all that the vise has
    free: tuple[Through, ...] = ()  # what of soft jaws' pocket is cut free for what is drilled through
    spaced: tuple[str, ...] = ()  # slots with a spacer in them, so that the jaws do not press their walls together
    along: float = 0.0  # mm of jaws that may stand beside the piece, of several vises under one bar

    @property
    def force_kn(self) -> float:
        return self.vise.force_kn if self.pressed is None else min(self.pressed, self.vise.force_kn)

    @cached_property
    def spacers(self) -> tuple[tuple[str, Block], ...]:
        """By slot, as long as the jaws, between its walls over the grip; only where both walls lie between the jaws."""
        found = []
        (front, back), (left, right) = self.gripped_y, self._jaw_x
        for id in self.spaced:
            slot = self.held.part.by_id[id]
            assert isinstance(slot, Slot), "only slots are taken"
            ring = [self.frame.point(p) for p in slot.region[0]]
            x0, x1 = max(min(p[0] for p in ring), left), min(max(p[0] for p in ring), right)
            y0, y1 = min(p[1] for p in ring), max(p[1] for p in ring)
            opens_up = dot(slot.direction, self.frame.up) > 0
            low = max(self.floor, ring[0][2]) if opens_up else self.floor
            high = self.jaw_top if opens_up else min(self.jaw_top, ring[0][2])
            if front < y0 and y1 < back and x0 < x1 and low < high:
                found.append((id, Block("spacer", Bounds((x0, y0, low), (x1, y1, high)))))
        return tuple(found)

    @property
    def fixture(self) -> Vise:
        return self.vise

    @property
    def at_the_back(self) -> str:
        return "at the fixed jaw"

    @property
    def seat(self) -> float:
        return self.vise.bed_height + (self.vise.jaw_height - self.grip)

    def grip_if_longer(self, by: float) -> float:
        return _usual_grip(self.vise, self.longer(by), None)

    @property
    def friction(self) -> float:
        """2 µ F: two jaws of 20 kN at µ 0.15 hold 6 kN along their faces."""
        return 2 * FRICTION * self.force_kn * 1000

    @property
    def grips_over(self) -> tuple[float, ...]:
        return self.vise.grips()

    @property
    def gripped_y(self) -> tuple[float, float]:
        """Where the jaws touch."""
        held = [b for b in self.boxes if b.min[2] < self.jaw_top - 1e-6]
        return min(b.min[1] for b in held), max(b.max[1] for b in held)

    @property
    def opening(self) -> float:
        """The jaws' distance."""
        low, high = self.gripped_y
        return round(high - low, 4)

    @cached_property
    def contacts(self) -> tuple[Contact, Contact]:
        """Of the front and the back jaw, each at its own width."""
        left, right = self._jaw_x
        window = Bounds((left, 0.0, self.floor), (right, 0.0, self.jaw_top))
        low, high = self.gripped_y
        touched = Bounds((self.stock.min[0], low, self.floor), (self.stock.max[0], high, self.jaw_top))
        return (
            flat_contact(self.held, self.frame, touched, "front", window),
            flat_contact(self.held, self.frame, touched, "back", window),
        )

    @property
    def _jaw_x(self) -> tuple[float, float]:
        half = max(self.vise.jaw_width, self.along) / 2
        return self.centre[0] - half, self.centre[0] + half

    @property
    def obstacles(self) -> tuple[Obstacle, ...]:
        """Jaws, bed and parallels."""
        vise, (low, high), (left, right) = self.vise, self.gripped_y, self._jaw_x
        bed = self._bed
        thick = vise.jaw_thickness
        spans = [(low - thick, low), (high, high + thick)]
        if vise.stations == 2:
            # the free station behind the middle jaw stands open as far as this one
            far = high + thick + (high - low)
            spans.append((far, far + thick))
        ends = (min(a for a, _ in spans), max(b for _, b in spans))
        base = Block("bed", Bounds((left, ends[0], bed - BED_DEPTH), (right, ends[1], bed)))
        if vise.jaws == "soft":
            return (*self._soft_jaws(bed), base, *(s for _, s in self.spacers))
        jaws = [Block("jaw", Bounds((left, a, bed), (right, b, self.jaw_top))) for a, b in spans]
        return (*jaws, base, *self.under, *(s for _, s in self.spacers))

    def _soft_jaws(self, bed: float) -> list[Obstacle]:
        """Full below the pocket's floor; above it with the part's own outline cut out."""
        low, high = self.gripped_y
        left, right = self._jaw_x
        middle, thick = (low + high) / 2, self.vise.jaw_thickness
        outline = Polygon(_outline(self.held, self.frame))
        found: list[Obstacle] = []
        for a, b in ((low - thick, middle - 0.05 * (high - low)), (middle + 0.05 * (high - low), high + thick)):
            if self.floor - bed > 1e-6:
                found += self._below_pocket(bed, left, right, a, b)
            rest = box(left, a, right, b).difference(outline)
            pieces = [p for p in getattr(rest, "geoms", [rest]) if p.area > 1]
            found += [Prism("jaw", (tuple(p.exterior.coords[:-1]),), self.floor, self.jaw_top) for p in pieces]
        return found

    def _below_pocket(self, bed: float, left: float, right: float, a: float, b: float) -> list[Obstacle]:
        free = [box(*one) for one in self.free if one[1] < b and one[3] > a]
        if not free:
            return [Block("jaw", Bounds((left, a, bed), (right, b, self.floor)))]
        rest = box(left, a, right, b).difference(shapely.union_all(free))
        return [
            Prism("jaw", tuple(tuple(ring.coords[:-1]) for ring in (p.exterior, *p.interiors)), bed, self.floor)
            for p in getattr(rest, "geoms", [rest]) if p.area > 1
        ]  # fmt: skip

    @property
    def drilled_free(self) -> tuple[Obstacle, ...]:
        if self.vise.jaws != "soft":
            return ()
        return tuple(one for one in self._soft_jaws(self._bed) if one.box.max[2] <= self.floor + 1e-6)

    @property
    def under(self) -> tuple[Obstacle, ...]:
        low, high = self.gripped_y
        left, right = self._jaw_x
        bed = self._bed
        if self.floor <= bed or self.vise.jaws == "soft" or self.parallels_at is None:
            return ()
        (front, back), wide = self.parallels_at, self.parallel_width
        spans = ((low + front, low + front + wide), (high - back - wide, high - back))
        return tuple(Block("parallel", Bounds((left, a, bed), (right, b, self.floor))) for a, b in spans)

    @property
    def _bed(self) -> float:
        return self.floor - (self.vise.jaw_height - self.grip)

    def clear_of(self, through: Sequence[Through]) -> ViseHold:
        """With each parallel as near to its jaw as no tool comes down on it, or the jaws' pocket cut free there."""
        if self.vise.jaws == "soft":
            wider = ((x0 - FREE_BY, y0 - FREE_BY, x1 + FREE_BY, y1 + FREE_BY) for x0, y0, x1, y1 in through)
            return replace(self, free=tuple(wider)) if through else self
        low, high = self.gripped_y
        left, right = self._jaw_x
        taken = [(y0, y1) for x0, y0, x1, y1 in through if x1 > left and x0 < right]
        if not taken or not self.under:
            return self
        for wide in PARALLEL_WIDTHS:
            front = _free_strip([(a - low, b - low) for a, b in taken], wide)
            back = _free_strip([(high - b, high - a) for a, b in taken], wide)
            if high - low - front - back >= max(LEAST_SEAT * (high - low), 2 * wide):
                return replace(self, parallels_at=(front, back), parallel_width=wide)
        return replace(self, parallels_at=None)

    @property
    def rests_on(self) -> str:
        return "the jaws' pocket" if self.vise.jaws == "soft" else "the parallels"

    @property
    def words(self) -> tuple[tuple[str, str], ...]:
        parallel = "no such parallel in the shop" if self.parallel is None else f"{self.parallel:g}{self._laid}"
        holes = f", free under {len(self.free)} hole{'s' if len(self.free) > 1 else ''}" if self.free else ""
        under = (
            ("pocket in the jaws", f"{self.grip:.1f} deep{holes}")
            if self.vise.jaws == "soft"
            else ("parallels", parallel)
        )
        return (
            ("vise", self.vise.name),
            ("opening", f"{self.opening:.2f}"),
            under,
            ("grip", f"{self.grip:.1f}"),
            *((("force", f"{self.force_kn:g} kN of {self.vise.force_kn:g}"),) if self.pressed is not None else ()),
            *(("spacer", f"{s.box.size[1]:.2f} in {id}") for id, s in self.spacers),
            ("fixed jaw", f"side {axis_name(self.frame.back)}"),
            ("lies on", f"side {axis_name(neg(self.frame.up))}"),
        )

    @property
    def _laid(self) -> str:
        """Where the parallels lie, if not beside the jaws as usual."""
        if self.parallels_at in (None, (PARALLEL_OFF, PARALLEL_OFF)):
            return "" if self.parallel_width == PARALLEL_WIDTHS[0] else f", {self.parallel_width:g} wide"
        front, back = self.parallels_at
        return f", {self.parallel_width:g} wide, {front:.1f} off the front jaw, {back:.1f} off the back one"

    @property
    def touches(self) -> str:
        state = "finished" if is_finished(self.held, self.floor, self.jaw_top) else "rough"
        if self.vise.jaws == "soft":
            return f"the {state} outline, {self.grip:g} high"
        length = min(c.length for c in self.contacts)
        return f"two {state} sides {self.opening:.1f} apart, {length:.0f} × {self.grip:g}"

    def findings(self, setup: str) -> list[Finding]:
        """Opening, grip depth, parallels, and what lies between the jaws."""
        return [*self._opening(setup), *self._depth(setup), *self._between(setup), *self._seat(setup)]

    def _seat(self, setup: str) -> list[Finding]:
        if self.parallels_at is not None:
            return []
        return [
            error(
                setup, "no-seat", f"There is no room for two parallels under the stock in {self.vise.name}.",
                "Tools come through it where they would lie. Make what goes through from the other side or in another "
                "setup, or hold the part in soft jaws.", (turned(setup, self.turn), by_rule(setup)),
            )
        ]  # fmt: skip

    def _opening(self, setup: str) -> list[Finding]:
        vise = self.vise
        if self.opening <= vise.opening:
            return []
        return [
            error(
                setup, "vise-opening", f"The stock is {self.opening:.1f} wide, {vise.name} opens {vise.opening:g}.",
                "The jaws do not go round it. Take a larger vise or turn the part by 90°.",
                (by_rule(setup), turned(setup, self.turn)),
            )
        ]  # fmt: skip

    def _depth(self, setup: str) -> list[Finding]:
        found: list[Finding] = []
        vise, grip, height = self.vise, self.grip, self.stock.size[2]
        least = vise.least_grip
        if grip < least - 1e-6:
            found.append(
                error(
                    setup, "grip-shallow", f"The jaws grip {grip:.1f}, {vise.name} needs {least:g}.",
                    "The part would lift out under the cutting force.", (grip_of(setup, least),),
                )
            )  # fmt: skip
        if grip > vise.jaw_height:
            found.append(
                error(
                    setup, "grip-deep",
                    f"A grip of {grip:.1f} is more than the jaws' height of {vise.jaw_height:g}.",
                    "The part would stand on the vise's bed with no parallel under it.", (grip_of(setup, None),),
                )
            )  # fmt: skip
        elif height > 0 and grip < 0.1 * height:
            found.append(
                warning(
                    setup,
                    "grip-low-share",
                    f"Only {grip:.1f} of {height:.1f} height is gripped.",
                    "A tall part on a low grip chatters and can tip; grip at least a tenth of its height.",
                )
            )
        if self.parallel is None and grip <= vise.jaw_height and vise.jaws == "ground":
            nearest = min(vise.grips(), key=lambda g: abs(g - grip))
            found.append(
                replace(
                    warning(
                        setup, "no-parallel",
                        f"There is no parallel of {vise.jaw_height - grip:.1f} for a grip of {grip:.1f}.",
                        f"With the shop's parallels the nearest grip is {nearest:.1f}.",
                    ),
                    cures=(grip_of(setup, round(nearest, 1)),),
                )
            )  # fmt: skip
        return found

    def _between(self, setup: str) -> list[Finding]:
        gripped = [b for b in self.boxes if b.min[2] < self.jaw_top - 1e-6]
        if len({(round(b.min[1], 3), round(b.max[1], 3)) for b in gripped}) > 1:
            return [
                error(
                    setup, "grip-over-edge", "The jaws reach over the edge between finished wall and rough stock.",
                    "They would close on the wider of the two only. Grip less, or cut the outline deeper in the setup "
                    "before.", (grip_of(setup, None),),
                )
            ]  # fmt: skip
        if self.vise.jaws == "soft":
            if is_finished(self.held, self.floor, self.jaw_top) or self.held.section == "block":
                return []
            return [
                error(
                    setup,
                    "jaws-not-to-fit",
                    "Soft jaws are cut to the finished outline, which is not there yet.",
                    f"The {self.held.section} stock finds no seat in them. Take a chuck, or cut the outline before.",
                    (by_rule(setup),),
                )
            ]
        window = min(self.vise.jaw_width, self.stock.size[0]) * self.grip
        worst = min(self.contacts, key=lambda c: c.area)
        if window > 0 and worst.area < LEAST_FLAT * window:
            side = "front" if worst is self.contacts[0] else "back"
            return [
                error(
                    setup, "grip-not-flat",
                    f"The {side} jaw of {self.vise.name} touches {worst.area:.0f} of its {window:.0f} mm².",
                    f"Two flat, parallel sides are needed, a quarter of the jaw at least; {self._stands_there()}. "
                    "Turn the part, take soft jaws cut to its outline, or a chuck.",
                    (turned(setup, self.turn), by_rule(setup)),
                )
            ]  # fmt: skip
        if worst.length < LEAST_JAW_SHARE * self.stock.size[0]:
            return [
                warning(
                    setup,
                    "grip-short",
                    f"The jaws touch {worst.length:.0f} of the stock's {self.stock.size[0]:.0f} length.",
                    "It can turn between them. Take wider jaws, or turn it by 90°.",
                )
            ]
        return []

    def _stands_there(self) -> str:
        if is_finished(self.held, self.floor, self.jaw_top):
            return "the finished part is curved or cut away there"
        return f"the stock is {self.held.section}"


def _free_strip(taken: Sequence[tuple[float, float]], wide: float) -> float:
    """How far off a jaw the first strip lies that keeps off all that is taken.

    >>> _free_strip([(0, 5)], 6), _free_strip([(12, 20)], 6), _free_strip([(6, 9)], 6), _free_strip([(6, 9)], 3)
    (6.0, 2.0, 10.0, 2.0)
    """
    at = PARALLEL_OFF
    for low, high in sorted(taken):
        if low - PARALLEL_ROOM < at + wide and high + PARALLEL_ROOM > at:
            at = high + PARALLEL_ROOM
    return at


def _outline(held: HeldStock, frame: Frame) -> list[tuple[float, float]]:
    silhouette = held.part.silhouette(frame.up)
    right = RIGHT[silhouette.direction]
    back = back_of(silhouette.direction, right)
    return list(frame.flat(add(scale(right, x), scale(back, y)) for x, y in silhouette.ring))


def along_a_bar(hold: Hold, kerf: float) -> Hold:
    """With jaws beside all of a piece and up to the next ones: where in its bar it lies, and how many vises stand
    under that, is open. What is no vise holds it as before.
    """
    if not isinstance(hold, ViseHold):
        return hold
    return replace(hold, along=3 * hold.stock.size[0] + 2 * kerf)


def vise_hold(
    vise: Vise, setup: SetupDecision, frame: Frame, turn: int, boxes: tuple[Bounds, ...], held: HeldStock,
    lowest_needed: float | None,
) -> ViseHold:  # fmt: skip
    """The grip, where none is decided, is the deepest usual one that stays clear of the cuts."""
    grip = setup.grip
    if grip is None:
        grip = _usual_grip(vise, boxes, lowest_needed)
    parallel = next((p for p in vise.parallels if abs(p - (vise.jaw_height - grip)) < 0.05), None)
    spaced = tuple(id for id in setup.spacers if isinstance(held.part.by_id.get(id), Slot))
    return ViseHold(frame, turn, boxes, held, grip, vise, parallel, pressed=setup.force, spaced=spaced)


def usual_vise(library: Library, machine: Machine, mounts: tuple[str, ...], lowest: Bounds) -> Vise:
    """The smallest that goes round the stock, of those that find a place. Raises PlanError where the shop has none."""
    placed = [v for v in library.vises if v.mount in mounts] or list(library.vises)
    if not placed:
        raise PlanError("no-vise", f"the library has no vise for {machine.name}; say what holds the stock")
    fitting = [
        v
        for v in placed
        if v.opening >= lowest.size[1] + OPENING_ROOM and v.jaw_width >= LEAST_JAW_SHARE * lowest.size[0]
    ]
    by_size = sorted(fitting or placed, key=lambda v: (v.opening, v.jaw_width))
    return by_size[0] if fitting else by_size[-1]


def _usual_grip(vise: Vise, boxes: tuple[Bounds, ...], lowest_needed: float | None) -> float:
    """The deepest grip up to the usual one that stays clear of the cuts and within a third of the height."""
    bottom, top = min(b.min[2] for b in boxes), max(b.max[2] for b in boxes)
    usual = max(USUAL_GRIP, TALL_GRIP * (top - bottom))
    most = min(usual, max(vise.least_grip, (top - bottom) * 0.34))
    if lowest_needed is not None:
        most = min(most, lowest_needed - JAW_CLEARANCE - bottom)
    first = min(boxes, key=lambda b: b.min[2])
    if len(boxes) > 1:
        most = min(most, first.max[2] - bottom)
    possible = [g for g in vise.grips() if vise.least_grip - 1e-6 <= g <= most + 1e-6]
    return possible[-1] if possible else vise.least_grip
