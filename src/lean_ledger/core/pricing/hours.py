"""How long a plan keeps its machines, whatever the quantity."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction


@dataclass(frozen=True)
class LoadHours:
    """Of a load: hours to set it up, seconds of a cycle with its loading, pieces of it; `load` is its first setup."""

    machine: str
    setup: Decimal
    cycle_seconds: Decimal
    pieces: int
    load: str = ""

    def at(self, started: int) -> Fraction:
        """Hours for so many pieces begun.

        0.5 h and 100 pieces, two a cycle of 90 s: 0.5 + 50 · 90 / 3600 = 1.75 h.
        """
        return Fraction(self.setup) + self._run(started)

    def left(self, started: int, made: int, *, set_up: bool) -> Fraction:
        """Hours that are still to be worked, after so many pieces came off the machine.

        Of the same with 30 made and set up: 35 cycles, 0.875 h.
        """
        return (Fraction(0) if set_up else Fraction(self.setup)) + self._run(max(0, started - made))

    def _run(self, started: int) -> Fraction:
        return -(-started // self.pieces) * Fraction(self.cycle_seconds) / 3600
