"""Makes the demo's STEP files again: python -m lean_ledger.demo.make_parts [FOLDER]."""

from __future__ import annotations

import sys
from math import cos, radians, sin
from pathlib import Path

from lean_ledger.core.geometry.solids import (
    Body,
    at_level,
    block,
    countersunk,
    drilled,
    obround,
    revolved,
    rod,
    rounded_block,
    upright,
    write_step,
)

DOWN = (0.0, 0.0, -1.0)
UP = (0.0, 0.0, 1.0)


def mast_clamp_half() -> Body:
    """Clamps a 42 mm mast: bore, four counterbored screws, two tapped holes for the guy ring."""
    part = rounded_block((-60, -32, 0), (60, 32, 24), 8)
    part = part.chamfered(1, at_level(24))
    part -= rod((0, 0, 0), UP, 42, 24)
    for x in (-46, 46):
        for y in (-20, 20):
            part -= rod((x, y, 0), UP, 6.6, 24)
            part -= rod((x, y, 17.5), UP, 11, 6.5)
        part -= rod((x, 0, 0), UP, 5, 24)
    return part


def mast_clamp_half_b() -> Body:
    """Revision B: for a 45 mm mast, the screws farther out, M8 in place of M6, a groove for the cable."""
    part = rounded_block((-62, -32, 0), (62, 32, 24), 8)
    part = part.chamfered(1, at_level(24))
    part -= rod((0, 0, 0), UP, 45, 24)
    for x in (-48, 48):
        for y in (-20, 20):
            part -= rod((x, y, 0), UP, 6.6, 24)
            part -= rod((x, y, 17.5), UP, 11, 6.5)
        part -= rod((x, 0, 0), UP, 6.8, 24)
    return part - obround((0, 27.5, 24), 40, 5, 4)


def sensor_base_plate() -> Body:
    """Carries a humidity sensor: cable bore, electronics pocket, bolt circle, countersunk feet."""
    part = block((-70, -45, 0), (70, 45, 16)).chamfered(0.8, at_level(16))
    part -= rod((38, 0, 0), UP, 30, 16)
    part -= rounded_block((-58, -26, 8), (2, 26, 16), 6)
    for i in range(6):
        angle = radians(60 * i)
        part -= drilled((38 + 23 * cos(angle), 23 * sin(angle), 16), DOWN, 4.2, 11)
    for x in (-62, 62):
        for y in (-37, 37):
            part -= countersunk((x, y, 16), DOWN, 5.5, 11, 16)
    for y in (-36, 36):
        part -= obround((-20, y, 16), 30, 6, 16)
    return part


def louvre_bracket() -> Body:
    """Holds the louvres of a radiation screen: two slots, odd dowels, a rounded edge, a hole in its front."""
    part = block((0, 0, 0), (90, 50, 22))
    part = part.rounded(3, lambda a, b: abs(a[1] - 50) < 1e-6 and abs(b[1] - 50) < 1e-6 and a[2] == b[2] == 22)
    for x in (25, 65):
        part -= obround((x, 28, 22), 24, 8, 22)
    for x in (8, 82):
        part -= drilled((x, 10, 22), DOWN, 3.7, 12)
        part -= rod((x, 40, 0), UP, 6.6, 22)
    part -= drilled((45, 0, 11), (0, 1, 0), 6.8, 18)
    return part


def gear_housing_lid() -> Body:
    """Lid of a wind vane's gear: bearing bore, grease pocket with a boss, eight screws, tapped jacking holes."""
    part = rounded_block((-55, -55, 0), (55, 55, 14), 14).chamfered(1, at_level(14))
    part -= rod((0, 0, 0), UP, 35, 14)
    pocket = rounded_block((-38, -38, 9), (38, 38, 14), 8) - rod((0, 0, 9), UP, 47, 5)
    part -= pocket
    for i in range(8):
        angle = radians(22.5 + 45 * i)
        part -= rod((64 * cos(angle) * 0.72, 64 * sin(angle) * 0.72, 0), UP, 5.5, 14)
    for x, y in ((-47, 0), (47, 0)):
        part -= rod((x, y, 0), UP, 5, 14)
    return part


def anemometer_arm_block() -> Body:
    """Joins the arm of a cup anemometer to its hub."""
    part = block((0, 0, 0), (44, 26, 12))
    part = part.chamfered(4, lambda a, b: upright(a, b) and a[0] > 40)
    part -= obround((13, 13, 12), 16, 6, 12)
    for y in (6, 20):
        part -= rod((32, y, 0), UP, 3.3, 12)
    part -= rod((32, 13, 0), UP, 8, 12)
    return part


def sonde_carrier() -> Body:
    """Carries four sondes around a mast: something to cut on each of its four long sides."""
    part = block((0, 0, 0), (82, 36, 36))
    part -= rounded_block((10, 8, 30), (52, 28, 36), 5)
    part -= rod((67, 18, 0), UP, 12, 36)
    for x in (20, 46):
        part -= drilled((x, 0, 15), (0.0, 1.0, 0.0), 6.6, 9)
        part -= drilled((x, 36, 15), (0.0, -1.0, 0.0), 5, 12)
    for x in (26, 42):
        part -= drilled((x, 18, 0), UP, 6.8, 14)
    return part


def shield_cap() -> Body:
    """Closes a radiation shield: round, so that plain jaws find nothing flat once its rim is cut."""
    part = rod((0, 0, 0), UP, 84, 16)
    part -= rod((0, 0, 6), UP, 60, 10)
    part -= rod((0, 0, 0), UP, 16, 6)
    for i in range(6):
        angle = radians(60 * i)
        part -= rod((36 * cos(angle), 36 * sin(angle), 0), UP, 4.2, 16)
    return part


def gauge_base() -> Body:
    """Base of a rain gauge, cast: a trough whose rim and underside are cut, four studs' threads, a drain."""
    part = _trough(0, 34)
    for x in (-48, 48):
        for y in (-31, 31):
            part -= drilled((x, y, 34), DOWN, 5, 16)
    for x in (-30, 30):
        part -= rod((x, 0, 0), UP, 6.6, 8)
    return part - rod((0, 0, 0), UP, 18, 8)


def gauge_base_casting() -> Body:
    """As the foundry sends it: 2.5 more on the rim, 3 more below, the drain cored."""
    return _trough(-3, 36.5) - rod((0, 0, -3), UP, 12, 11)


def _trough(low: float, high: float) -> Body:
    """The gauge base's skin between two levels; its inside stays as it is cast."""
    part = rounded_block((-56, -39, low), (56, 39, high), 8)
    inside = rounded_block((-46, -29, 8), (46, 29, high), 6)
    for x in (-46, 46):
        for y in (-29, 29):
            inside -= rounded_block((min(x, x * 0.8), min(y, y * 0.7), 8), (max(x, x * 0.8), max(y, y * 0.7), high), 2)
    return part - inside


def vane_hub() -> Body:
    """Hub of a wind vane: turned from both ends, a thread across it for the arm."""
    part = revolved([(0, 0), (11, 0), (12, 1), (12, 22), (20, 22), (20, 34), (14, 34), (14, 44), (12.5, 44), (12.5, 47),
                     (14, 47), (14, 58), (13, 59), (0, 59)])  # fmt: skip
    part -= rod((0, 0, 0), UP, 8, 59)
    part -= rod((0, 0, 47), UP, 16, 12)
    return part - rod((0, 0, 28), (0.0, 1.0, 0.0), 5, 30)


def cable_saddle() -> Body:
    """Holds a sensor's cable to a mast: small, and wanted by the hundred; three threads that it is fixed by."""
    part = rounded_block((-22, -13, 0), (22, 13, 12), 4)
    part -= obround((0, 0, 12), 30, 8, 5)
    for x, y in ((-17, 8), (17, 8), (0, -9.5)):
        part -= rod((x, y, 0), UP, 3.3, 12)
    return part


def sensor_foot() -> Body:
    """Foot of a sensor's leg: a pocket for its pad above, a seat for the nut below, two holes to bolt it down."""
    part = rounded_block((-35, -22, 0), (35, 22, 16), 6).chamfered(0.8, at_level(16))
    part -= rounded_block((-16, -12, 10), (16, 12, 16), 5)
    part -= rod((0, 0, 0), UP, 6.6, 16) + rod((0, 0, 0), UP, 20, 4)
    for x in (-26, 26):
        part -= rod((x, 0, 0), UP, 5.5, 16)
    return part


def bearing_spacer() -> Body:
    """Keeps the two bearings of a wind vane apart: a short sleeve."""
    return rod((0, 0, 0), UP, 28, 8) - rod((0, 0, 0), UP, 16, 8)


def mast_socket() -> Body:
    """Takes a mast's foot: a flange, two shoulders with a groove for the sealing ring, a bore through all."""
    section = [
        (0, 0),
        (22, 0),
        (22, 10),
        (16, 10),
        (16, 30),
        (14, 30),
        (14, 33),
        (16, 33),
        (16, 44),
        (12, 44),
        (12, 60),
    ]
    return revolved([*section, (0, 60)]) - rod((0, 0, 0), UP, 14, 60)


def guide_bush() -> Body:
    """Guides an anemometer's shaft: a flange, a body with a groove for a clip, a bore with a wider mouth."""
    outside = [(9, 0), (9, 4), (7, 4), (7, 10), (6, 10), (6, 12), (7, 12), (7, 17.5), (6.5, 18)]
    return revolved([(4, 0), *outside, (5.5, 18), (5.5, 14), (4, 14)])


PARTS = {
    "mast-socket": mast_socket,
    "guide-bush": guide_bush,
    "mast-clamp-half": mast_clamp_half,
    "mast-clamp-half-b": mast_clamp_half_b,
    "sensor-base-plate": sensor_base_plate,
    "louvre-bracket": louvre_bracket,
    "gear-housing-lid": gear_housing_lid,
    "anemometer-arm-block": anemometer_arm_block,
    "sonde-carrier": sonde_carrier,
    "shield-cap": shield_cap,
    "vane-hub": vane_hub,
    "gauge-base": gauge_base,
    "gauge-base-casting": gauge_base_casting,
    "cable-saddle": cable_saddle,
    "sensor-foot": sensor_foot,
    "bearing-spacer": bearing_spacer,
}


def main(folder: Path) -> None:
    for name, make in PARTS.items():
        write_step(make(), folder / f"{name}.step", name)


if __name__ == "__main__":
    main(Path(sys.argv[1]) if len(sys.argv) > 1 else Path(__file__).parent / "parts")
