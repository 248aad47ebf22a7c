"""Stock in a chuck or a collet, standing along z in it."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import cos, floor, hypot, pi, sin

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.holding.hold import (
    CONTACT,
    FRICTION,
    JAW_CLEARANCE,
    HeldStock,
    Hold,
    by_rule,
    error,
    grip_of,
    warning,
)
from lean_ledger.core.holding.obstacles import Block, Obstacle, Prism, Rod
from lean_ledger.core.holding.surfaces import Round, hexagon_of, is_finished, rounds, turned_about
from lean_ledger.core.plan import SetupDecision
from lean_ledger.core.setups.frame import Frame
from lean_ledger.library.fixtures import Around, Chuck, Collet, Nose

USUAL_SHARE = 0.9  # of the size that is gripped along z, where there is as much
FREE_LENGTH = 3.0  # × the size beyond which the free end asks for support

#: Why a surface is not to be gripped.
REFUSED = {
    "taper": "taper-gripped",
    "radius": "radius-gripped",
    "thread": "thread-gripped",
    "flat": "not-round",
    "surface": "not-round",
}


@dataclass(frozen=True)
class RoundHold(Hold):
    """Jaws or a collet around z."""

    chuck: Around

    @property
    def centre(self) -> tuple[float, float]:
        """A round bar's axis, though a flat may make the box of what is left of it narrower on one side."""
        about = turned_about(self.held.part, self.frame) if self.held.section == "round" and self.held.upright else None
        return about or super().centre

    def grip_if_longer(self, by: float) -> float:
        if self.grip <= self.chuck.least_grip + CONTACT:
            return self.grip  # no more than it must: what is cut asks for the rest
        return usual_grip(self.chuck, self.frame, self.longer(by), self.held, None)

    @property
    def friction(self) -> float:
        """µ F: the jaws' forces are given together."""
        return FRICTION * self.chuck.force_kn * 1000

    @cached_property
    def _around(self) -> tuple[Round, ...]:
        """All that lies between the jaws, where the walls there are at size."""
        if not is_finished(self.held, self.floor, self.jaw_top):
            return ()
        return rounds(self.held, self.frame, self.floor, self.jaw_top)

    @cached_property
    def gripped(self) -> tuple[Round, ...]:
        """What the jaws touch: the widest of what lies between them."""
        return widest_of(self._around)

    @cached_property
    def hexagon(self) -> tuple[float, float] | None:
        """Size across the flats that the jaws close on, and the angle of one of them, degrees; for three jaws only."""
        return None

    @cached_property
    def gripped_length(self) -> float:
        """Of the cylinder or the hexagon that the jaws close on, along z."""
        what = "flat" if self.hexagon is not None else "cylinder"
        return length_in(self.gripped, self.floor, self.jaw_top, what)

    @cached_property
    def size(self) -> tuple[float, float]:
        """Width and depth of what is gripped; both the diameter where it is round."""
        if self.hexagon is not None:
            return (round(self.hexagon[0], 4),) * 2
        if self.gripped and self.gripped_length > 0:
            return (round(self.gripped[0].diameter, 4),) * 2
        low = [b for b in self.boxes if b.min[2] < self.jaw_top - 1e-6]
        box = min(low, key=lambda b: b.min[2])
        return (round(box.size[0], 4), round(box.size[1], 4))

    @property
    def is_round(self) -> bool:
        """Whether all jaws touch: a cylinder, or a hexagon between three."""
        if is_finished(self.held, self.floor, self.jaw_top):
            return self.gripped_length >= self.chuck.least_grip - CONTACT
        return (self.held.section == "round" and self.held.upright) or self.hexagon is not None

    @property
    def touches(self) -> str:
        state = "finished" if is_finished(self.held, self.floor, self.jaw_top) else "rough"
        if self.is_round and self.hexagon is not None:
            return f"a {state} hexagon {self.size[0]:g} across flats, {self.grip:g} long"
        if self.is_round:
            return f"a {state} cylinder Ø{self.size[0]:g}, {self.grip:g} long"
        return f"{state} sides {self.size[0]:g} × {self.size[1]:g}, {self.grip:g} long"

    @property
    def rests_on(self) -> str:
        return "the stock's lower end"

    @property
    def words(self) -> tuple[tuple[str, str], ...]:
        return (
            (self.chuck.kind, self.chuck.name),
            ("grips", self.touches),
            ("stands out", f"{self.stock.max[2] - self.jaw_top:.1f}"),
        )

    def findings(self, setup: str) -> list[Finding]:
        found = [*self._surface(setup), *self._range(setup)]
        if self.grip < self.chuck.least_grip - 1e-6:
            found.append(
                error(
                    setup, "grip-shallow",
                    f"{self.chuck.name} grips {self.grip:.1f}, it needs {self.chuck.least_grip:g}.",
                    "The part would be pulled out. Leave more stock to hold by, or grip deeper.",
                    (grip_of(setup, self.chuck.least_grip),),
                )
            )  # fmt: skip
        deepest = self.chuck.deepest
        if self.grip > deepest + 1e-6:
            found.append(
                error(
                    setup, "grip-deep", f"A grip of {self.grip:.1f} is more than {self.chuck.name} takes: {deepest:g}.",
                    "Grip less.", (grip_of(setup, None),),
                )
            )  # fmt: skip
        free, least = self.stock.max[2] - self.jaw_top, min(self.size)
        if free > FREE_LENGTH * least:
            found.append(
                warning(
                    setup, "stands-far-out",
                    f"The stock stands {free:.0f} out of {self.chuck.name} and is {least:.0f} thick.",
                    f"Over {FREE_LENGTH:g} times its thickness it bends and chatters. Support its free end, or grip "
                    "it nearer to the cut.",
                )
            )  # fmt: skip
        return found

    def _surface(self, setup: str) -> list[Finding]:
        if self.chuck.takes_flats or self.is_round:
            return []
        for one in self.gripped:
            if one.what in REFUSED:
                what = {"flat": "flat side", "surface": "curved surface"}.get(one.what, one.what)
                return [
                    error(
                        setup, REFUSED[one.what], f"{self.chuck.name} would grip a {what}.",
                        f"{one.feature or 'The part'} is no cylinder over the gripped {self.grip:.1f}: the jaws touch "
                        "it at one end only. Grip another stretch, or hold it otherwise.", (by_rule(setup),),
                    )
                ]  # fmt: skip
        if self.gripped:
            return [
                error(
                    setup, "grip-shallow",
                    f"{self.chuck.name} would close on Ø{self.size[0]:g} over {self.gripped_length:.1f} only.",
                    f"It needs {self.chuck.least_grip:g}; what lies beside it is thinner. Grip less, below the step.",
                    (grip_of(setup, self.chuck.least_grip),),
                )
            ]  # fmt: skip
        return [
            error(
                setup, "not-round", f"{self.chuck.name} asks for a cylinder, the stock is {self.held.section}"
                f"{'' if self.held.upright or self.held.section == 'block' else ' and lies'}.",
                "Its jaws would touch an edge. Take jaws for flat sides, or a round bar.", (by_rule(setup),),
            )
        ]  # fmt: skip

    @abstractmethod
    def _range(self, setup: str) -> list[Finding]: ...


@dataclass(frozen=True)
class ChuckHold(RoundHold):
    chuck: Chuck

    @property
    def fixture(self) -> Chuck:
        return self.chuck

    @cached_property
    def hexagon(self) -> tuple[float, float] | None:
        if self.chuck.jaw_count != 3:
            return None
        lowest = min(self.boxes, key=lambda b: b.min[2])
        return hexagon_of(self.held, self.frame, lowest, self.floor, self.jaw_top)

    @property
    def seat(self) -> float:
        return self.chuck.body_height + self.chuck.jaw_length - self.grip

    @property
    def obstacles(self) -> tuple[Obstacle, ...]:
        chuck, (x, y) = self.chuck, self.centre
        face = self.jaw_top - chuck.jaw_length
        body = Rod("chuck", x, y, chuck.body_diameter / 2, face - chuck.body_height, face)
        reach, half = chuck.body_diameter / 2, chuck.jaw_thickness / 2
        if chuck.jaw_count == 4:
            a, b = (s / 2 for s in self.size)
            jaws: list[Obstacle] = [
                Block("jaw", Bounds((x + a, y - half, face), (x + max(reach, a + half), y + half, self.jaw_top))),
                Block("jaw", Bounds((x - max(reach, a + half), y - half, face), (x - a, y + half, self.jaw_top))),
                Block("jaw", Bounds((x - half, y + b, face), (x + half, y + max(reach, b + half), self.jaw_top))),
                Block("jaw", Bounds((x - half, y - max(reach, b + half), face), (x + half, y - b, self.jaw_top))),
            ]
        else:
            inner = self.size[0] / 2
            first = self.hexagon[1] if self.hexagon is not None else 90.0
            jaws = [_jaw(x, y, inner, max(reach, inner + half), half, first + 120 * k, face, self.jaw_top)
                    for k in range(3)]  # fmt: skip
        return (*jaws, body)

    def _range(self, setup: str) -> list[Finding]:
        sizes = self.size if self.chuck.takes_flats else self.size[:1]
        if all(self.chuck.least <= s <= self.chuck.most for s in sizes):
            return []
        told = " × ".join(f"{s:g}" for s in sizes)
        return [
            error(
                setup, "chuck-range",
                f"{self.chuck.name} holds {self.chuck.least:g} to {self.chuck.most:g}, the stock is {told}.",
                "Take another chuck, or other stock.", (by_rule(setup),),
            )
        ]  # fmt: skip


@dataclass(frozen=True)
class NoseHold(RoundHold):
    """In a collet of some kind."""

    chuck: Nose

    @property
    def seat(self) -> float:
        return self.chuck.nose_height - self.grip

    @property
    def gripped_by(self) -> str:
        return "nose"

    @property
    def obstacles(self) -> tuple[Obstacle, ...]:
        nose, (x, y), top = self.chuck, self.centre, self.jaw_top
        return (Rod("chuck", x, y, nose.nose_diameter / 2, top - nose.nose_height, top - CONTACT),)


@dataclass(frozen=True)
class ColletHold(NoseHold):
    chuck: Collet

    @property
    def fixture(self) -> Collet:
        return self.chuck

    def _range(self, setup: str) -> list[Finding]:
        size = self.size[0]
        if any(s - self.chuck.closes - CONTACT <= size <= s + CONTACT for s in self.chuck.sizes):
            return []
        near = min(self.chuck.sizes, key=lambda s: abs(s - size))
        return [
            error(
                setup, "collet-size", f"No collet of {self.chuck.name} takes Ø{size:g}.",
                f"The nearest is {near:g}, which closes to {near - self.chuck.closes:g}. Take a bar of that size, or "
                "a chuck.", (by_rule(setup),),
            )
        ]  # fmt: skip


def round_hold(
    chuck: Chuck | Collet, setup: SetupDecision, frame: Frame, turn: int, boxes: tuple[Bounds, ...], held: HeldStock,
    lowest_needed: float | None,
) -> RoundHold:  # fmt: skip
    grip = usual_grip(chuck, frame, boxes, held, lowest_needed) if setup.grip is None else setup.grip
    kind = ChuckHold if isinstance(chuck, Chuck) else ColletHold
    return kind(frame, turn, boxes, held, grip, chuck)  # type: ignore[arg-type]


def usual_grip(
    chuck: Around, frame: Frame, boxes: tuple[Bounds, ...], held: HeldStock, lowest_needed: float | None
) -> float:
    """Nearly as long as the stock is thick, clear of the cuts, within the jaws."""
    first = min(boxes, key=lambda b: b.min[2])
    most = min(USUAL_SHARE * min(first.size[:2]), chuck.deepest, 0.5 * max(b.max[2] - first.min[2] for b in boxes))
    if lowest_needed is not None:
        most = min(most, lowest_needed - JAW_CLEARANCE - first.min[2])
    if len(boxes) > 1:
        most = min(most, first.max[2] - first.min[2])
    shoulder = _shoulder(held, frame, first.min[2], first.min[2] + most, chuck.least_grip)
    most = min(most, shoulder - first.min[2])
    return max(floor(10 * most + 1e-6) / 10, chuck.least_grip)


def _shoulder(held: HeldStock, frame: Frame, low: float, high: float, least: float) -> float:
    """Up to where the jaws can close on one cylinder: a wider one beyond it is what they rest against."""
    if not is_finished(held, low, high):
        return high
    around = rounds(held, frame, low, high)
    for one in (r for r in around if r.what == "cylinder" and min(r.high, high) - low >= least):
        wider = [r.low for r in around if r.diameter > one.diameter + 2 * CONTACT and r.low >= low + least - CONTACT]
        high = min([high, *wider])
        break
    # tapers, flats and rounds that the jaws would touch may begin farther up
    ends = {high, *(end for r in around for end in (r.low, r.high) if low + least <= end < high)}
    for end in sorted(ends, reverse=True):
        closed_on = widest_of(rounds(held, frame, low, end))
        if closed_on and all(r.what == "cylinder" for r in closed_on) and length_in(closed_on, low, end) >= least:
            return end
    return high


def widest_of(around: Sequence[Round]) -> tuple[Round, ...]:
    """What jaws touch of what lies between them. Grooves and broken edges stay clear."""
    widest = max((r.diameter for r in around), default=0.0)
    return tuple(r for r in around if r.diameter > widest - 2 * CONTACT)


def length_in(gripped: Sequence[Round], low: float, high: float, what: str = "cylinder") -> float:
    """Of cylinders, or of other walls, between two levels; walls that stand beside one another count once."""
    spans = {(max(r.low, low), min(r.high, high)) for r in gripped if r.what == what}
    return sum(max(0.0, b - a) for a, b in spans)


def _jaw(
    x: float, y: float, inner: float, outer: float, half: float, angle: float, low: float, high: float
) -> Obstacle:
    a = angle * pi / 180
    c, s = cos(a), sin(a)
    corners = ((inner, -half), (outer, -half), (outer, half), (inner, half))
    # a jaw's face is flat: its middle touches the stock, its edges stand off
    ring = tuple((x + u * c - v * s, y + u * s + v * c) for u, v in corners)
    assert min(hypot(p[0] - x, p[1] - y) for p in ring) > 0
    return Prism("jaw", (ring,), low, high)
