"""What is bought, and what of it stands over the part."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.geometry.vectors import Vec


@dataclass(frozen=True)
class Allowances:
    """Stock over the part on each side, mm."""

    x_minus: float = 2.0
    x_plus: float = 2.0
    y_minus: float = 2.0
    y_plus: float = 2.0
    z_minus: float = 2.0
    z_plus: float = 2.0

    def on(self, side: str) -> float:
        value: float = getattr(self, _FIELD[side])
        return value

    def with_side(self, side: str, value: float) -> Allowances:
        return replace(self, **{_FIELD[side]: value})


_FIELD = {"X-": "x_minus", "X+": "x_plus", "Y-": "y_minus", "Y+": "y_plus", "Z-": "z_minus", "Z+": "z_plus"}


StockForm = Literal["block", "plate", "rectangular bar", "round bar", "hexagonal bar", "near-net"]
Sizing = Literal["over the part", "next size up", "fixed"]


@dataclass(frozen=True)
class StockChoice:
    """What is bought. Its sizes follow the part, by the plan's allowances, unless they are fixed."""

    form: StockForm = "block"
    along: Literal["X", "Y", "Z"] | None = None  # a bar's length, a plate's thickness; None by the rule
    sizing: Sizing = "over the part"
    fixed: tuple[float, float, float] = (0.0, 0.0, 0.0)  # along X, Y, Z; a round's and a hexagon's size in both
    model: str = ""  # near-net: key of the file that holds it
    shift: Vec = (0.0, 0.0, 0.0)  # near-net: by which its model is moved onto the part
