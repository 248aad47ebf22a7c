"""Stock on a plate between low clamps that bite into two of its sides."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.holding.hold import FRICTION, HeldStock, Hold, by_rule, error, turned
from lean_ledger.core.holding.obstacles import Block, Obstacle
from lean_ledger.core.holding.surfaces import Contact, JawSide, flat_contact, is_finished
from lean_ledger.core.plan import SetupDecision
from lean_ledger.core.setups.frame import Frame
from lean_ledger.library.fixtures import ToeClamps

SPREAD = 0.3  # of the stock's length that the clamps stand off its middle
LEAST_FLAT = 0.5  # of a clamp's length that has to touch


@dataclass(frozen=True)
class ToeHold(Hold):
    clamps: ToeClamps

    @property
    def fixture(self) -> ToeClamps:
        return self.clamps

    @property
    def gripped_by(self) -> str:
        return "clamps"

    @property
    def seat(self) -> float:
        return self.clamps.size[2] + self.clamps.lift

    @property
    def friction(self) -> float:
        """2 µ F of each pair: two pairs of 14 kN at µ 0.15 hold 8.4 kN."""
        return 2 * FRICTION * self.clamps.pair_kn * 1000 * self.clamps.pairs

    @property
    def gripped_y(self) -> tuple[float, float]:
        low = [b for b in self.boxes if b.min[2] < self.jaw_top - 1e-6]
        return min(b.min[1] for b in low), max(b.max[1] for b in low)

    @property
    def _stations(self) -> tuple[tuple[float, float], ...]:
        """Along x, from and to."""
        pairs, length = self.clamps.pairs, self.clamps.clamp[0]
        middle, span = self.centre[0], self.stock.size[0]
        shares = [0.0] if pairs == 1 else [-SPREAD + 2 * SPREAD * k / (pairs - 1) for k in range(pairs)]
        return tuple((middle + s * span - length / 2, middle + s * span + length / 2) for s in shares)

    @cached_property
    def contacts(self) -> tuple[Contact, ...]:
        sides: tuple[JawSide, ...] = ("front", "back")
        low, high = self.gripped_y
        touched = Bounds((self.stock.min[0], low, self.floor), (self.stock.max[0], high, self.jaw_top))
        return tuple(
            flat_contact(
                self.held, self.frame, touched, side, Bounds((a, 0.0, self.floor), (b, 0.0, self.jaw_top))
            )
            for a, b in self._stations
            for side in sides
        )  # fmt: skip

    @property
    def obstacles(self) -> tuple[Obstacle, ...]:
        clamps, (x, y), (low, high) = self.clamps, self.centre, self.gripped_y
        top = self.floor - clamps.lift
        half = (clamps.size[0] / 2, clamps.size[1] / 2)
        base = Block("plate", Bounds((x - half[0], y - half[1], top - clamps.size[2]), (x + half[0], y + half[1], top)))
        deep = clamps.clamp[1]
        toes = [
            Block("clamp", Bounds((a, y0, top), (b, y1, self.jaw_top)))
            for a, b in self._stations
            for y0, y1 in ((low - deep, low), (high, high + deep))
        ]
        return (*toes, base)

    @property
    def rests_on(self) -> str:
        return "the rests"

    @property
    def words(self) -> tuple[tuple[str, str], ...]:
        return (
            ("plate", self.clamps.name),
            ("clamps", f"{self.clamps.pairs} pairs, biting {self.grip:g}"),
            ("rests", f"{self.clamps.lift:g} high"),
            ("turned", f"{self.turn}°"),
        )

    @property
    def touches(self) -> str:
        state = "finished" if is_finished(self.held, self.floor, self.jaw_top) else "rough"
        low, high = self.gripped_y
        return f"two {state} sides {high - low:.1f} apart, {self.grip:g} high"

    def findings(self, setup: str) -> list[Finding]:
        clamps, (low, high) = self.clamps, self.gripped_y
        found: list[Finding] = []
        room = clamps.size[1] - 2 * clamps.clamp[1]
        if self.stock.size[0] > clamps.size[0] or high - low > room:
            found.append(
                error(
                    setup, "plate-small",
                    f"The stock is {self.stock.size[0]:.0f} × {high - low:.0f}, between the clamps of {clamps.name} "
                    f"there is room for {clamps.size[0]:g} × {room:g}.",
                    "Take a larger plate, or turn it.", (turned(setup, self.turn), by_rule(setup)),
                )
            )  # fmt: skip
        least = min(c.length for c in self.contacts)
        if least < LEAST_FLAT * clamps.clamp[0]:
            found.append(
                error(
                    setup, "grip-not-flat", f"A toe clamp finds {least:.0f} of flat where it is {clamps.clamp[0]:g} "
                    "long.", "It would slip off. Turn the stock, or hold it otherwise.",
                    (turned(setup, self.turn), by_rule(setup)),
                )
            )  # fmt: skip
        return found


def toe_hold(
    clamps: ToeClamps, setup: SetupDecision, frame: Frame, turn: int, boxes: tuple[Bounds, ...], held: HeldStock,
    lowest_needed: float | None,
) -> ToeHold:  # fmt: skip
    return ToeHold(frame, turn, boxes, held, clamps.bite, clamps)
