"""How long a plan keeps its machines, whatever the quantity."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction


@dataclass(frozen=True)
class LoadHours:
    """Of a load: hours to set it up, seconds of a cycle with its loading, pieces of it."""

    machine: str
    setup: Decimal
    cycle_seconds: Decimal
    pieces: int

    def at(self, started: int) -> Fraction:
        """Hours for so many pieces begun.

        0.5 h and 100 pieces, two a cycle of 90 s: 0.5 + 50 · 90 / 3600 = 1.75 h.
        """
        return Fraction(self.setup) + -(-started // self.pieces) * Fraction(self.cycle_seconds) / 3600
