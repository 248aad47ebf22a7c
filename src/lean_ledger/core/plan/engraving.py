"""What a planner has engraved on a part: lines that its model does not have."""

from __future__ import annotations

from dataclasses import dataclass

Drawn = tuple[tuple[tuple[float, float], ...], ...]  # open lines, each at least two points, mm


@dataclass(frozen=True)
class Engraving:
    """Letters or drawn lines on a flat side, made where that side is cut.

    `at` is where their middle lies, mm from the middle of the face along X and Y of the setup, `turn` is in degrees.
    """

    id: str
    face: str  # feature
    depth: float  # mm
    text: str = ""
    height: float = 0.0  # mm of capital letters
    lines: Drawn = ()  # as drawn, where there is no text
    name: str = ""  # of the file that they were drawn in
    at: tuple[float, float] = (0.0, 0.0)
    turn: float = 0.0

    @property
    def words(self) -> str:
        return f"“{self.text}”" if self.text else self.name
