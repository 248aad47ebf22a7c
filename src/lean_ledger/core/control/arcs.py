"""The arc that a G2 or G3 block means."""

from __future__ import annotations

from math import atan2, hypot, sqrt, tau

from lean_ledger.core.control.blocks import ProgramError
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.timing.chain import Arc, Plane

UNLIKE = 0.05  # mm that the radii at the two ends may differ by
SAME = 1e-6  # mm
CENTRES = "IJK"


def arc_of(start: Vec, end: Vec, words: dict[str, float], plane: Plane, *, clockwise: bool, line: int) -> Arc:
    """`words` are I J K or R in mm, the centre counted from the start. Raises ProgramError for an arc that is none."""
    i, j, k = plane
    if "R" in words:
        centre = _by_radius(start, end, words["R"], plane, clockwise=clockwise, line=line)
    elif CENTRES[i] in words or CENTRES[j] in words:
        centre = [0.0, 0.0, 0.0]
        centre[i] = start[i] + words.get(CENTRES[i], 0.0)
        centre[j] = start[j] + words.get(CENTRES[j], 0.0)
        centre[k] = start[k]
    else:
        letters = f"{CENTRES[i]} {CENTRES[j]}"
        raise ProgramError("no-centre", f"the arc has no centre; give {letters} or R", line)
    a = (start[i] - centre[i], start[j] - centre[j])
    b = (end[i] - centre[i], end[j] - centre[j])
    if abs(hypot(*a) - hypot(*b)) > UNLIKE:
        raise ProgramError(
            "unlike-radii", f"the arc's radius is {hypot(*a):.3f} at its start and {hypot(*b):.3f} at its end", line
        )
    turned = atan2(b[1], b[0]) - atan2(a[1], a[0])
    if hypot(b[0] - a[0], b[1] - a[1]) < SAME:
        turned = 0.0
    turned %= tau
    if clockwise:
        turned -= tau
    elif turned == 0.0:
        turned = tau
    return Arc(start, end, (centre[0], centre[1], centre[2]), turned, plane)


def _by_radius(start: Vec, end: Vec, radius: float, plane: Plane, *, clockwise: bool, line: int) -> list[float]:
    """A positive R means the shorter arc, a negative one the longer."""
    i, j, k = plane
    dx, dy = end[i] - start[i], end[j] - start[j]
    half = hypot(dx, dy) / 2
    if half < SAME:
        raise ProgramError("equal-ends", "an arc by R needs two different ends; give its centre for a whole turn", line)
    short = half - abs(radius)
    if short > UNLIKE:
        raise ProgramError("small-radius", f"R {abs(radius):g} is less than half the chord, {half:.3f}", line)
    height = sqrt(max(0.0, radius * radius - half * half))
    side = 1.0 if clockwise == (radius < 0) else -1.0  # the centre is on the left of a shorter arc to the left
    centre = [0.0, 0.0, 0.0]
    centre[i] = start[i] + dx / 2 - side * dy / 2 / half * height
    centre[j] = start[j] + dy / 2 + side * dx / 2 / half * height
    centre[k] = start[k]
    return centre
