"""More parts by name: teeth and splines, slanted faces, tapers, long shafts, plates up to the travel. Lengths mm."""

from __future__ import annotations

from collections.abc import Callable
from math import atan, cos, hypot, pi, radians, sin, tan

from lean_ledger.core.geometry.solids import (
    Body,
    at_level,
    block,
    cone,
    drilled,
    obround,
    prism,
    revolved,
    rod,
    upright,
)
from lean_ledger.core.geometry.solids import rounded_block as rounded
from tests.cases.parts.named import DOWN, INCH, X, Y, Z, ring


def involute(module: float, teeth: int) -> list[tuple[float, float]]:
    """The outline of a spur gear of 20°, four points to a flank."""
    pitch, tip, root = module * teeth / 2, module * (teeth / 2 + 1), module * (teeth / 2 - 1.25)
    base = pitch * cos(radians(20))
    half = pi / 2 / teeth + tan(radians(20)) - radians(20)
    flank = []
    for k in range(4):
        r = max(base, root) + (tip - max(base, root)) * k / 3
        roll = max(0.0, (r / base) ** 2 - 1) ** 0.5
        flank.append((r, half - (roll - atan(roll))))
    points = []
    for tooth in range(teeth):
        at = 2 * pi * tooth / teeth
        for r, a in [(root, half), *flank]:
            points.append((r * cos(at - a), r * sin(at - a)))
        for r, a in [*reversed(flank), (root, half)]:
            points.append((r * cos(at + a), r * sin(at + a)))
    return [p for p, q in zip(points, [*points[1:], points[0]], strict=True) if hypot(p[0] - q[0], p[1] - q[1]) > 0.05]


def spur_gear(teeth: int = 16) -> Body:
    """Module 2.5, 12 wide, a bore and a boss."""
    body = prism(involute(2.5, teeth), 0, 12) + rod((0, 0, 11), Z, 24, 9)
    return body - rod((0, 0, -1), Z, 12, 22)


def sprocket() -> Body:
    """14 seats of Ø8.5 on Ø57, tips cut to Ø62."""
    body = rod((0, 0, 0), Z, 62, 7) - rod((0, 0, -1), Z, 16, 9)
    for p in ring(14, 28.5, -1):
        body -= rod(p, Z, 8.5, 9)
    return body


def splined_end() -> Body:
    """Six splines 6 wide of Ø28 over Ø24, 30 long, at the end of a shaft."""
    body = revolved([(0, 0), (18, 0), (18, 40), (14, 40), (14, 75), (0, 75)])
    gap = rounded((11.9, -3, 45), (30, 3, 90), 1.0)
    for k in range(6):
        body -= gap.turned(Z, 60 * k)
    return body


def wedge() -> Body:
    return prism([(0, 0), (80, 0), (80, 20), (0, 45)], 0, 40) - rod((20, 12, -1), Z, 9, 42)


def slanted_top() -> Body:
    """A block whose top falls by 15° to one side."""
    cutter = block((-50, -1, 0), (200, 51, 80)).turned(Y, 15).moved((0, 0, 42))
    return block((0, 0, 0), (80, 50, 40)) - cutter - drilled((12, 25, 0), Z, 8.5, 20)


def slanted_corner() -> Body:
    """A corner cut off at 45°, with a hole square to the cut."""
    body = block((0, 0, 0), (70, 50, 40))
    body -= block((-60, -1, 0), (60, 51, 60)).turned(Y, 45).moved((60, 0, 30))
    into = (-sin(radians(45)), 0.0, -cos(radians(45)))
    return body - rod((62, 25, 38), into, 6, 24)


def two_lugs() -> Body:
    """Rounded lugs from two sides of a base."""
    body = rounded((0, 0, 0), (100, 60, 14), 8)
    lug = obround((0, 0, 8), 44, 20, 8).turned(X, 90).turned(Y, 90)
    body = body + lug.moved((50, 26, 14)) - rod((20, 30, -1), Z, 9, 16) - rod((80, 30, -1), Z, 9, 16)
    return body - rod((49, 26, 28), X, 8, 12)


def taper_shaft() -> Body:
    """Tapers at both ends, an undercut behind a shoulder, a V in the middle."""
    return revolved([
        (0, 0), (9, 0), (12, 24), (12, 40), (11, 40), (11, 43), (20, 43), (20, 58), (16, 63), (20, 68), (20, 80),
        (14, 80), (14, 110), (10, 130), (0, 130),
    ])  # fmt: skip


def long_shaft() -> Body:
    """Ø30 over 260 with seats at both ends and grooves for rings."""
    return revolved([
        (0, 0), (10, 0), (10, 20), (9, 20), (9, 21.3), (10, 21.3), (10, 40), (15, 40), (15, 220), (12.5, 220),
        (12.5, 250), (11.8, 250), (11.8, 251.3), (12.5, 251.3), (12.5, 260), (0, 260),
    ])  # fmt: skip


def thin_tube() -> Body:
    return revolved([(28, 0), (30, 0), (30, 80), (28, 80)])


def flanged_bush() -> Body:
    """A ring groove in the bore and one outside."""
    return revolved([
        (10, 0), (22, 0), (22, 6), (15, 6), (15, 18), (14, 18), (14, 20), (15, 20), (15, 32), (10, 32), (10, 26),
        (11.2, 26), (11.2, 24), (10, 24),
    ])  # fmt: skip


def keyed_hub() -> Body:
    """A keyway in a bore, with sharp corners: to be broached."""
    body = revolved([(10, 0), (25, 0), (25, 12), (18, 12), (18, 30), (10, 30)])
    return body - block((0, -3, -1), (12.8, 3, 31))


def hexagon(flats: float, low: float, high: float, turned: float = 0.0) -> Body:
    """Its corners at 0°, 60° …, further `turned`: two flats are square to Y, or turned by 30° to X."""
    r = flats / 2 / cos(radians(30))
    ring = [(r * cos(radians(60 * k + turned)), r * sin(radians(60 * k + turned))) for k in range(6)]
    return prism(ring, low, high)


def hexagon_stand() -> Body:
    return hexagon(24, 0, 50) - drilled((0, 0, 50), DOWN, 6.8, 18) - drilled((0, 0, 0), Z, 6.8, 18)


def hexagon_fitting(turned: float = 0.0) -> Body:
    body = hexagon(24, 20, 32, turned) + rod((0, 0, 0), Z, 16, 20) + rod((0, 0, 32), Z, 18, 15)
    return body - rod((0, 0, -1), Z, 8, 60)


def nut() -> Body:
    """Its corners broken by a cone, which the flats cut off."""
    body = hexagon(24, 0, 12) - rod((0, 0, -1), Z, 14, 14)
    return body - (rod((0, 0, 9), Z, 60, 4) - cone((0, 0, 9), Z, 34, 22, 3.001))


def valve_block() -> Body:
    """Stepped bores from three sides that meet."""
    body = block((0, 0, 0), (80, 60, 60))
    body = body - rod((40, 30, 61), DOWN, 24, 21) - rod((40, 30, 41), DOWN, 16, 26)
    body = body - rod((-1, 30, 22), X, 10, 30) - rod((81, 30, 22), (-1.0, 0.0, 0.0), 10, 30)
    return body - rod((40, -1, 22), Y, 8, 24) - rod((40, -1, 22), Y, 14, 9)


def angle_bracket() -> Body:
    body = block((0, 0, 0), (70, 60, 60)) - block((-1, 10, 10), (71, 61, 61))
    for x in (15, 55):
        body = body - rod((x, 40, -1), Z, 8.5, 12) - rod((x, -1, 40), Y, 8.5, 12)
    return body


def heat_sink() -> Body:
    body = block((0, 0, 0), (90, 60, 26))
    for k in range(9):
        body -= block((6 + 9 * k, -1, 6), (11 + 9 * k, 61, 27))
    return body


def travel_plate() -> Body:
    """As long as the mill's travel lets it be."""
    body = block((0, 0, 0), (680, 360, 18))
    for k in range(6):
        for y in (25, 335):
            body -= rod((40 + 120 * k, y, -1), Z, 11, 20)
    return body - rounded((120, 80, 6), (560, 280, 19), 15)


def slotted_plate() -> Body:
    body = rounded((0, 0, 0), (220, 140, 8), 10)
    for k in range(5):
        body -= (
            block((24 + 40 * k, 30, -1), (36 + 40 * k, 110, 9)).rounded(5.9, upright)
            if k % 2
            else rod((30 + 40 * k, 70, -1), Z, 14, 10)
        )
    return body


def radial_ring() -> Body:
    """Holes around a ring, each square to the axis."""
    body = revolved([(24, 0), (34, 0), (34, 20), (24, 20)])
    for k in range(8):
        a = radians(45 * k)
        body -= rod((20 * cos(a), 20 * sin(a), 10), (cos(a), sin(a), 0.0), 5, 20)
    return body


def eccentric() -> Body:
    body = rod((0, 0, 0), Z, 40, 12) + rod((6, 0, 11), Z, 20, 13)
    return body - rod((6, 0, -1), Z, 8, 30)


def t_slot_table() -> Body:
    body = block((0, 0, 0), (120, 80, 30))
    for y in (25, 55):
        body = body - block((-1, y - 5, 16), (121, y + 5, 31)) - block((-1, y - 9, 8), (121, y + 9, 16))
    return body


def dovetail_slide() -> Body:
    tail = prism([(20, 0), (60, 0), (60 + 12 / tan(radians(60)), -12), (20 - 12 / tan(radians(60)), -12)], -1, 81)
    return block((0, 0, 0), (80, 80, 30)) - tail.turned(X, 90).moved((0, 80, 30))


def hollow_block() -> Body:
    """A hollow that no tool gets into."""
    return block((0, 0, 0), (50, 50, 40)) - rod((25, 25, 10), Z, 20, 20)


def chamfered_housing() -> Body:
    body = block((0, 0, 0), (90, 70, 45)) - rounded((10, 10, 12), (80, 60, 46), 8)
    body = body.chamfered(2, at_level(0))
    return body - rod((-1, 35, 28), X, 18, 20) - rod((45, 35, -1), Z, 20, 20)


def inch_spindle() -> Body:
    """3.25 inch long, a taper of one in eight."""
    big, small = 0.5 * INCH, 0.375 * INCH
    return revolved([
        (0, 0), (small, 0), (big, 2 * INCH), (0.75 * INCH, 2 * INCH), (0.75 * INCH, 2.5 * INCH), (big, 2.5 * INCH),
        (big, 3.25 * INCH), (0, 3.25 * INCH),
    ])  # fmt: skip


def seat_ring() -> Body:
    """Conical seats inside at both ends."""
    body = revolved([(15, 0), (30, 0), (30, 24), (15, 24)])
    return body - cone((0, 0, -0.001), Z, 40, 29.9, 5) - cone((0, 0, 24.001), DOWN, 40, 29.9, 5)


WIDER: dict[str, Callable[[], Body]] = {
    make.__name__.replace("_", "-"): make
    for make in (
        spur_gear, sprocket, splined_end, wedge, slanted_top, slanted_corner, two_lugs, taper_shaft, long_shaft,
        thin_tube, flanged_bush, keyed_hub, hexagon_stand, valve_block, angle_bracket, heat_sink, travel_plate,
        slotted_plate, radial_ring, eccentric, t_slot_table, dovetail_slide, hollow_block, chamfered_housing,
        inch_spindle, seat_ring, hexagon_fitting, nut,
    )
}  # fmt: skip
