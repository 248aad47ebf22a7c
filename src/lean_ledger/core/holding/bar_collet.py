"""A bar through the spindle in a collet: each piece is cut off what stands out, and the collet holds the next ones."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from lean_ledger.core.basis.findings import Cure, Finding
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.holding.chuck import NoseHold, usual_grip
from lean_ledger.core.holding.hold import CONTACT, HeldStock, by_rule, error
from lean_ledger.core.holding.surfaces import is_finished
from lean_ledger.core.plan import SetupDecision
from lean_ledger.core.setups.frame import Frame
from lean_ledger.library.fixtures import BarCollet

USUAL_LEFT = 0.5  # mm that a piece is cut off with, to be faced from its other end


@dataclass(frozen=True)
class BarHold(NoseHold):
    """`grip` is what of the piece's own stock the collet covers; the bar behind it fills the rest of the land."""

    chuck: BarCollet
    cut_off: bool = False

    @property
    def fixture(self) -> BarCollet:
        return self.chuck

    def grip_if_longer(self, by: float) -> float:
        return self.grip

    @property
    def is_bar(self) -> bool:
        """Whether what is held is as it came: round or hexagonal, and upright in the collet."""
        finished = is_finished(self.held, self.floor - self.chuck.land, self.jaw_top)
        return self.held.section in ("round", "hex") and self.held.upright and not finished

    @cached_property
    def size(self) -> tuple[float, float]:
        """Of the bar where it comes out of the nose."""
        x, y, _ = min(self.boxes, key=lambda b: b.min[2]).size
        return (round(x, 4), round(y, 4))

    @property
    def across(self) -> float:
        """Diameter, or size across flats."""
        return min(self.size)

    @property
    def touches(self) -> str:
        if not self.is_bar:
            return f"{self.size[0]:g} × {self.size[1]:g}, which is no bar"
        what = "hexagonal bar" if self.held.section == "hex" else "bar Ø"
        return f"a {what}{'' if what.endswith('Ø') else ' '}{self.across:g}, over {self.chuck.land:g} of it"

    @property
    def rests_on(self) -> str:
        return "the bar's stop"

    def findings(self, setup: str) -> list[Finding]:
        found = self._range(setup) if self.is_bar else [self._no_bar(setup)]
        if not self.cut_off:
            found.append(
                error(
                    setup, "stays-on-bar", f"Nothing cuts the piece of setup {setup} off its bar.",
                    f"{self.chuck.name} holds the bar that the next pieces are made of. Cut this one off, or take a "
                    "chuck for a sawn piece.",
                    (Cure(f"Cut it off, {USUAL_LEFT:g} left to face",
                          {"change": "set-cut-off", "setup": setup, "left": USUAL_LEFT}), by_rule(setup)),
                )
            )  # fmt: skip
        # what stands out, and what the collet may not cover of it
        return [*found, *(f for f in super().findings(setup) if f.code in ("stands-far-out", "grip-deep"))]

    def _no_bar(self, setup: str) -> Finding:
        return error(
            setup, "no-bar", f"{self.chuck.name} asks for a round or a hexagonal bar, the stock is {self._found}.",
            "It closes on what comes through the spindle. Buy the stock as a bar along the axis, or take a chuck.",
            (Cure("Buy round bar", {"change": "set-stock", "form": "round bar"}), by_rule(setup)),
        )  # fmt: skip

    @property
    def _found(self) -> str:
        lies = "" if self.held.upright or self.held.section == "block" else " and lies"
        cut = self.held.section in ("round", "hex") and self.held.upright
        return "cut already" if cut else f"a {self.held.section}{lies}"

    def _range(self, setup: str) -> list[Finding]:
        is_hex = self.held.section == "hex"
        sizes = self.chuck.hexagons if is_hex else self.chuck.rounds
        if any(s - self.chuck.closes - CONTACT <= self.across <= s + CONTACT for s in sizes):
            return []
        told = f"{self.across:g} across flats" if is_hex else f"Ø{self.across:g}"
        near = min(sizes, key=lambda s: abs(s - self.across))
        return [
            error(
                setup, "collet-size", f"No collet of {self.chuck.name} takes a bar of {told}.",
                f"The nearest is {near:g}, closing to {near - self.chuck.closes:g}; the largest is {max(sizes):g}. "
                "Take a bar of such a size, or a chuck.",
                (
                    *((Cure("Next bar size up", {"change": "set-stock", "sizing": "next size up"}),)
                      if self.across < max(sizes) else ()),
                    by_rule(setup),
                ),
            )
        ]  # fmt: skip


def bar_hold(
    collet: BarCollet, setup: SetupDecision, frame: Frame, turn: int, boxes: tuple[Bounds, ...], held: HeldStock,
    lowest_needed: float | None,
) -> BarHold:  # fmt: skip
    """What of the piece's own stock goes into the collet, where nothing is decided: all that no cut needs."""
    grip = usual_grip(collet, frame, boxes, held, lowest_needed) if setup.grip is None else setup.grip
    return BarHold(frame, turn, boxes, held, grip, collet, setup.cut_off is not None)
