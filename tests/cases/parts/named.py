"""Parts by name, each with something that a first plan may stumble over. Lengths mm."""

from __future__ import annotations

from collections.abc import Callable
from math import cos, pi, radians, sin

from lean_ledger.core.geometry.solids import (
    Body,
    at_level,
    block,
    cone,
    countersunk,
    drilled,
    obround,
    prism,
    revolved,
    rod,
    rounded_block,
    upright,
)

X, Y, Z, DOWN = (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)
INCH = 25.4


def ring(count: int, radius: float, z: float, start: float = 0.0) -> list[tuple[float, float, float]]:
    turns = [radians(start) + 2 * pi * k / count for k in range(count)]
    return [(radius * cos(t), radius * sin(t), z) for t in turns]


def fork() -> Body:
    """Two ears with one bore through both, the far one behind the near one."""
    body = block((0, 0, 0), (60, 40, 50)) - block((-1, 12, 18), (61, 28, 51))
    return body - rod((30, -1, 36), Y, 12, 42)


def stepped_housing() -> Body:
    """140 × 110 × 90 with a cavity in three steps and a bore through its floor."""
    body = rounded_block((0, 0, 0), (140, 110, 90), 8)
    body -= rounded_block((12, 12, 50), (128, 98, 91), 10)
    body -= rounded_block((28, 24, 25), (112, 86, 51), 9)
    return body - rod((70, 55, -1), Z, 40, 30) - rod((70, -1, 70), Y, 16, 20)


def clevis() -> Body:
    """40 × 40 × 100 with a slot at one end and a cross hole that enters it."""
    body = block((0, 0, 0), (40, 40, 100)) - block((-1, 13, 60), (41, 27, 101))
    body -= rod((20, -1, 82), Y, 14, 42)
    return (body - drilled((20, 20, 0), Z, 8, 30)).chamfered(1.5, at_level(0))


def flat_seat() -> Body:
    """A wide seat with a flat floor and a deeper hole below it."""
    body = block((0, 0, 0), (60, 60, 40)) - rod((30, 30, 22), Z, 30, 20) - rod((30, 30, 8), Z, 14, 15)
    return body - drilled((12, 12, 40), DOWN, 5, 18)


def step_beside_corner() -> Body:
    """A pocket with R5 corners open to a step beside it."""
    body = block((0, 0, 0), (80, 60, 30)) - block((50, -1, 18), (81, 61, 31))
    return body - rounded_block((10, 12, 10), (58, 48, 31), 5)


def bore_into_cavity() -> Body:
    """Bores from two sides that break into a pocket."""
    body = block((0, 0, 0), (90, 60, 40)) - rounded_block((20, 15, 12), (70, 45, 41), 6)
    return body - rod((-1, 30, 26), X, 10, 25) - rod((45, -1, 25), Y, 12, 20)


def face_in_pocket() -> Body:
    """A boss in a pocket, lower than the rim, with a face and a tapped-size hole of its own."""
    pocket = rounded_block((10, 10, 12), (90, 70, 41), 8) - rod((50, 40, 11), Z, 26, 18)
    return block((0, 0, 0), (100, 80, 40)) - pocket - drilled((50, 40, 29), DOWN, 6.8, 20)


def step_across_slot() -> Body:
    body = block((0, 0, 0), (100, 50, 30)) - block((40, -1, 15), (60, 51, 31))
    return body - block((-1, 30, 20), (101, 51, 31))


def rounded_edge_with_chamfer() -> Body:
    body = block((0, 0, 0), (70, 50, 25)).rounded(6, lambda a, b: a[2] > 24 and b[2] > 24 and a[1] > 49 and b[1] > 49)
    return body.chamfered(1, at_level(0)) - rod((35, 25, -1), Z, 12, 30)


def turned_rim() -> Body:
    """A turned flange whose outline is flat on two sides."""
    body = revolved([(8, 0), (40, 0), (40, 10), (24, 10), (24, 28), (8, 28)])
    return body - block((-50, 30, -1), (50, 50, 11)) - block((-50, -50, -1), (50, -30, 11))


def hexagon_nut() -> Body:
    corners = [(15 * cos(radians(60 * k)), 15 * sin(radians(60 * k))) for k in range(6)]
    body = prism(corners, 0, 12) - rod((0, 0, -1), Z, 14, 14)
    return body - (rod((0, 0, 10), Z, 40, 3) - cone((0, 0, 9), Z, 32, 24, 4))


def flange() -> Body:
    body = revolved([(20, 0), (60, 0), (60, 14), (36, 14), (36, 40), (20, 40)])
    for p in ring(6, 48, -1):
        body -= rod(p, Z, 9, 16)
    return body


def pulley() -> Body:
    return revolved([(8, 0), (20, 0), (20, 4), (40, 4), (40, 8), (32, 12), (40, 16), (40, 20), (20, 20), (20, 26),
                     (8, 26)])  # fmt: skip


def nozzle() -> Body:
    return revolved([(3, 0), (16, 0), (16, 20), (10, 30), (6, 60), (3, 60)])


def manifold() -> Body:
    """Crossing bores of several sizes in one block."""
    body = block((0, 0, 0), (120, 60, 50))
    body -= rod((-1, 30, 25), X, 12, 122)
    for x, d in ((25, 8), (60, 14), (95, 8)):
        body -= rod((x, 30, 51), DOWN, d, 26)
    return body - rod((60, -1, 25), Y, 10, 31) - drilled((10, 10, 50), DOWN, 6.8, 20)


def link_plate() -> Body:
    body = obround((0, 0, 12), 120, 40, 12)
    return body - rod((-40, 0, -1), Z, 16, 14) - rod((40, 0, -1), Z, 20, 14) - obround((0, 0, 13), 36, 12, 14)


def neck_flange() -> Body:
    body = revolved([(15, 0), (45, 0), (45, 12), (25, 12), (20, 30), (20, 50), (15, 50)])
    for p in ring(4, 35, -1, 45):
        body -= rod(p, Z, 7, 14)
    return body


def thin_box() -> Body:
    """Walls of 2 around a deep pocket."""
    return block((0, 0, 0), (80, 50, 30)) - rounded_block((2, 2, 3), (78, 48, 31), 4)


def lug_plate() -> Body:
    body = rounded_block((0, 0, 0), (90, 60, 12), 6) + rounded_block((35, 20, 11), (55, 40, 34), 3)
    return body - rod((30, 30, 24), X, 8, 30) - rod((12, 12, -1), Z, 6.6, 14) - rod((78, 48, -1), Z, 6.6, 14)


def slanted_holes() -> Body:
    body = block((0, 0, 0), (70, 50, 40))
    into = (sin(radians(30)), 0.0, -cos(radians(30)))
    return body - rod((20 - 5 * into[0], 25, 40 - 5 * into[2]), into, 8, 40) - block((50, -1, 25), (71, 51, 41))


def tall_pin_block() -> Body:
    body = block((0, 0, 0), (24, 24, 90)) - block((-1, -1, 60), (7, 25, 91)) - block((17, -1, 60), (25, 25, 91))
    return body - rod((12, -1, 75), Y, 6, 26)


def small_inch_clip() -> Body:
    """0.75 × 0.5 × 0.25 inch."""
    body = block((0, 0, 0), (0.75 * INCH, 0.5 * INCH, 0.25 * INCH))
    body -= block((0.25 * INCH, -1, 0.125 * INCH), (0.5 * INCH, 14, 7))
    return body - rod((0.125 * INCH, 0.25 * INCH, -1), Z, 0.125 * INCH, 8)


def large_plate() -> Body:
    body = block((0, 0, 0), (380, 260, 20)) - rounded_block((60, 50, 8), (320, 210, 21), 12)
    for x in (20, 360):
        for y in (20, 240):
            body -= countersunk((x, y, 20), DOWN, 9, 18, 22)
    return body


def knuckle() -> Body:
    body = rounded_block((0, 0, 0), (70, 30, 40), 5) - block((-1, 10, 22), (30, 20, 41))
    return body - rod((15, -1, 31), Y, 10, 32) - rod((52, 15, -1), Z, 14, 42)


def bearing_cap() -> Body:
    body = block((0, 0, 0), (90, 30, 40)) - rod((45, -1, 0), Y, 40, 32)
    for x in (12, 78):
        body = body - rod((x, 15, -1), Z, 9, 42) - rod((x, 15, 30), Z, 16, 12)
    return body


def shaft_with_flats() -> Body:
    body = revolved([(0, 0), (12, 0), (12, 30), (18, 30), (18, 45), (10, 45), (10, 80), (0, 80)])
    return body - block((-20, 7, 55), (20, 30, 81)) - rod((0, -30, 15), Y, 5, 60)


def pocket_in_pocket() -> Body:
    body = rounded_block((0, 0, 0), (100, 70, 32), 10)
    body -= rounded_block((8, 8, 22), (92, 62, 33), 8)
    body -= rounded_block((20, 16, 12), (60, 54, 23), 6)
    body -= rounded_block((28, 24, 5), (50, 46, 13), 5)
    return body - obround((76, 35, 23), 20, 10, 12)


def broken_rim() -> Body:
    """A round housing whose bore is cut through from the side."""
    body = revolved([(18, 0), (40, 0), (40, 30), (26, 30), (26, 8), (18, 8)])
    return body - block((20, -8, 12), (50, 8, 31))


NAMED: dict[str, Callable[[], Body]] = {
    make.__name__.replace("_", "-"): make
    for make in (
        fork, stepped_housing, clevis, flat_seat, step_beside_corner, bore_into_cavity, face_in_pocket,
        step_across_slot, rounded_edge_with_chamfer, turned_rim, hexagon_nut, flange, pulley, nozzle, manifold,
        link_plate, neck_flange, thin_box, lug_plate, slanted_holes, tall_pin_block, small_inch_clip, large_plate,
        knuckle, bearing_cap, shaft_with_flats, pocket_in_pocket, broken_rim,
    )
}  # fmt: skip
INCHES = frozenset({"small-inch-clip"})
__all__ = ["INCHES", "NAMED", "ring", "upright"]
