"""The worked times of docs/formulas.md: straight paths whose seconds can be followed by hand, on Mill 1.

X and Y have 3000 mm/s², Z has 2500. From rest to rest a straight cut takes L/v + v/a.
"""

from __future__ import annotations

from math import hypot, pi, radians, sqrt, tan
from types import SimpleNamespace
from typing import Any

import pytest

from lean_ledger.core.geometry.model import Mesh
from lean_ledger.core.operations.cutting.conditions import Settled
from lean_ledger.core.operations.holes.hole_paths import drill_path, ream_path, tap_path
from lean_ledger.core.operations.holes.thread_milling import Rounds, thread_mill_path
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.corners import corner_path
from lean_ledger.core.operations.milling.engraving import engraved_path
from lean_ledger.core.operations.milling.forms import form_path
from lean_ledger.core.operations.milling.helical import helical_path
from lean_ledger.core.operations.milling.paths import (
    Down,
    Rim,
    Space,
    chamfer_path,
    clear_path,
    face_path,
    finish_outline_path,
    rough_outline_path,
    wall_path,
)
from lean_ledger.core.operations.milling.regions import Region
from lean_ledger.core.operations.milling.surface_paths import Over, Room, opening_path, rows_path
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.operations.probing import Touch, probe_path
from lean_ledger.core.operations.turning.lathe_paths import CutLine, Spun, inside_plunges, lathe_motion
from lean_ledger.core.operations.turning.thread_turning import thread_path
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.timing.chain import trapezoid_seconds
from lean_ledger.core.timing.motion import feed, time_strokes
from lean_ledger.library import shipped_library
from tests.conftest import CASES

MILL = shipped_library().machines[0]
FORMULAS = CASES.parents[1] / "docs/formulas.md"


#: 40 × 14, and a part of 40 × 20 in stock 2 larger all round
POCKET = Region((((0.0, 0.0), (40.0, 0.0), (40.0, 14.0), (0.0, 14.0)),), ())
RING = ((0.0, 0.0), (40.0, 0.0), (40.0, 20.0), (0.0, 20.0))
STOCK = (-2.0, -2.0, 42.0, 22.0)


#: The spindle's axis in the origin
CENTRED: Any = SimpleNamespace(
    frame=Frame((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)),
    part=SimpleNamespace(axis=SimpleNamespace(point=(0.0, 0.0, 0.0))),
)
UNSETTLED: Any = Settled(None, (), 0.0, 0.0)  # type: ignore[arg-type]


FACE = frozenset({0})


def flat(width: float, depth: float) -> Over:
    """A rectangle at −1 that is all of the part."""
    corners = ((0.0, 0.0, -1.0), (width, 0.0, -1.0), (width, depth, -1.0), (0.0, depth, -1.0))
    return Over(Mesh(corners, ((0, 1, 2), (0, 2, 3)), (0, 0)), CENTRED.frame)


def turned(vc: float, per_turn: float, cap: float, cut: CutLine) -> Motion:
    """One cut of a lathe."""
    return lathe_motion(CENTRED, Spun(UNSETTLED, vc, per_turn, cap), [cut], (), 10.0, 50.0)


def cutting(motion: Motion) -> float:
    return time_strokes(motion.strokes, MILL).cut


def worked() -> dict[str, float]:
    """Seconds of cutting by the name of the row in the table."""
    drilled = 20 + 6 / 2 / tan(radians(59)) + 1
    n = 1000 * 200 / (pi * 40)
    # Ø20 gets in nowhere: all of it is left to Ø10
    narrow = corner_path(Space((POCKET,), 10), 20, 4, Down(0, -1, 1, 5, 3), 600)
    assert narrow is not None
    opened = opening_path(flat(2, 2), FACE, 5, 0, 4, Down(0, -1, 1, 5, 3), 600, (0, 0, 2, 2))
    assert opened is not None
    inside = inside_plunges(CENTRED, Spun(UNSETTLED, 160, 0.1, 4000), [(23, -10)], 20, 1.5, ())
    return {
        "face": cutting(face_path((0, 0, 100, 40), 50, 1, Down(2, 0, 1, 5), 1200)),
        "spot": cutting(drill_path(((0, 0),), 0, 3, 0, 200, 2, 5)),
        "drill": cutting(drill_path(((0, 0),), 0, drilled, 0, 300, 2, 5)),
        "peck drill": cutting(drill_path(((0, 0),), 0, 33, 9, 240, 2, 5)),
        "ream": cutting(ream_path(((0, 0),), 0, 10, 300, 2, 5)),
        "bore to size": cutting(ream_path(((0, 0),), 0, 21, 160, 2, 5)),
        "tap": cutting(tap_path(((0, 0),), 0, 12, 1, 637, 2, 5)),
        "engrave": cutting(engraved_path((((0, 0), (20, 0)),), Down(0, -0.2, 1, 5), 300)),
        "chamfer": cutting(chamfer_path((((0, 0), (50, 0)),), -1, 600, 5)),
        "turn along": time_strokes([feed(n * 0.25, [(20, 0, 0), (20, 0, -50)])], MILL).cut,
        "rough pocket": cutting(clear_path(Space((POCKET,), 10), 4, Down(0, -1, 1, 5, 3), 600, predrilled=False)),
        "finish wall": cutting(wall_path(Space((POCKET,), 10), Down(0, -1, 1, 5), 600)),
        "rough outline": cutting(rough_outline_path(RING, Rim(STOCK), 10, 0.2, 5, Down(0, -5, 1, 5), 600)),
        "finish outline": cutting(finish_outline_path(RING, 10, 0, Down(0, -5, 1, 5), 600)),
        "mill thread": cutting(thread_mill_path(((0, 0),), 0, 19, Rounds(2.5, 2.5, 1, 30), 248.28, 2, 5)),
        "face in the lathe": cutting(turned(200, 0.25, 4000, [(21.5, 0), (-0.4, 0)])),
        "groove": cutting(turned(160, 0.1, 4000, [(16.5, 0), (10, 0)])),
        "bore": cutting(turned(150, 0.15, 4000, [(10, 1.5), (10, -30)])),
        "clean corners": cutting(narrow),
        "mill bore": cutting(helical_path(((0, 0),), 0, -10, 5, 4, 600, 2, 5)),
        "mill T-slot": cutting(form_path((110, 0), (10, 0), 0.5, (-8,), 500, 5, runs_out=True)),
        "open surface": cutting(opened),
        "finish surface": cutting(rows_path(flat(20, 4), FACE, 3, 2, Room(0, 1, -100, 5), 600)),
        "groove inside": cutting(inside),
        "turn thread": cutting(thread_path((0, 0), 10, 0, -40, (0.5,), 1500, 12, 1.5)),
        "probe": cutting(probe_path([Touch(0, 0, -5, (1, 0, 0))], 5)),
    }


@pytest.mark.parametrize(
    ("kind", "seconds"),
    [
        # 100 and 27 of run-off to each side at 20 mm/s
        ("face", 154 / 20 + 20 / 3000),
        # 3 deep from 2 above at 3.333 mm/s
        ("spot", 5 / (200 / 60) + (200 / 60) / 2500),
        # Ø6 through 20: 2 above, the tip's 1.803 and 1 beyond, at 5 mm/s
        ("drill", (2 + 20 + 1.8026 + 1) / 5 + 5 / 2500),
        # 33 in pecks of 9 from 2 above: 9, 9.5, 9.5, 8.5 at 4 mm/s
        ("peck drill", 36.5 / 4 + 4 * 4 / 2500),
        # 10 deep from 2 above, in and out at 5 mm/s
        ("ream", 2 * (12 / 5 + 5 / 2500)),
        # Ø26 at 220 m/min, 2693 rpm held as 2000 · 0.08 = 160 mm/min: through 20 and 1 beyond, in and out
        ("bore to size", 2 * (23 / (160 / 60) + (160 / 60) / 2500)),
        # M6, 12 deep from 2 above, in and out at 10.617 mm/s
        ("tap", 2 * (14 / (637 / 60) + (637 / 60) / 2500)),
        # 2 down and 50 along at 10 mm/s; the corner would allow 10.99
        ("engrave", 2.2 / 2.5 + 20 / 5 + 2.5 / 2 / 2500 + 2.5**2 / 2 / 3000 / 5 + 5 / 2 / 3000),
        ("chamfer", 52 / 10 + 10 / 2 / 2500 + 10 / 2 / 3000),
        # Ø40 at 200 m/min: 1591.5 rpm, 0.25 a turn: 6.631 mm/s over 50
        ("turn along", 50 / 6.6315 + 6.6315 / 2500),
        # 2 down and a lap of 2·(30 + 4) that falls by 1, at 5; the lap at 10, taken from 5 up to it
        ("rough pocket", (2 + hypot(68, 1)) / 5 + 5 / 2 / 2500 + 68 / 10 + 5**2 / (2 * 10 * 3000) + 10 / 2 / 3000),
        # 2 down, in over 2.806, a lap of 68 and 2 over, out over 1.984; where the lead meets the wall at 45° it slows
        # to sqrt(3000 · 0.02 · sin 22.5°/(1 − sin 22.5°)) = 6.099
        ("finish wall", (2 + 2.8063 + 70 + 1.9844) / 10 + 5 / 2500 + 5 / 3000
         + (10 - 6.099) ** 2 / 20 * (1 / (3000 * sqrt(2)) + 1 / 3000)),
        # 3.8 in from beside the stock, 120 and the corners' 2π · 5.2, 3.8 out
        ("rough outline", (2 * 3.8 + 120 + 2 * pi * 5.2) / 10 + 10 / 3000),
        # 3 in, 120 and 2π · 5, 2 over, 3 out
        ("finish outline", (2 * 3 + 120 + 2 * pi * 5 + 2) / 10 + 10 / 3000),
        # M20, orbit 2.5: two half circles of 1.25 and a whole one, 1.25, 2.5 and 1.25 up, at 4.138
        ("mill thread", (2 * hypot(pi * 1.25, 1.25) + hypot(5 * pi, 2.5)) / 4.138 + 4.138 / 3000 / 1.05),
        # Ø43 to Ø15.92 at 2161 rpm of the mean Ø29.46, then to 0.4 past the middle at the cap of 4000
        ("face in the lathe", 13.5423 / 9.0043 + 8.3577 / 16.6667 + 9.0043 / 6000
         + (16.6667 - 9.0043) ** 2 / (2 * 16.6667 * 3000) + 16.6667 / 6000),
        # Ø33 to Ø20 at 1922 rpm of the mean Ø26.5: 3.203 mm/s over 6.5
        ("groove", 6.5 / 3.2031 + 3.2031 / 3000),
        # Ø20 at 2387 rpm: 5.968 mm/s over 31.5
        ("bore", 31.5 / 5.9683 + 5.9683 / 2500),
        # the whole of the pocket, as it is roughed
        ("clean corners", (2 + hypot(68, 1)) / 5 + 5 / 2 / 2500 + 68 / 10 + 5**2 / (2 * 10 * 3000) + 10 / 2 / 3000),
        # 2 down, 4 turns of 2π · 5 that fall by 10, once round and 5 to the middle at 10 mm/s
        ("mill bore", (2 + hypot(4 * 2 * pi * 5, 10) + 2 * pi * 5 + 5) / 10 + 10 / 2 / 2500 + 10 / 2 / 3000),
        # 100 in along one side, 1 over, 100 back at 8.333 mm/s
        ("mill T-slot", 201 / (500 / 60) + (500 / 60) / 3000),
        # a flat of 2 × 2, 1 deep, Ø10: 2 down and two falling laps of 14.254 at 5 mm/s, the lap again at 10; then
        # 39.423 round it, from beside the stock (both with chords for their arcs)
        ("open surface", (2 + hypot(2 * 14.254, 1)) / 5 + 5 / 2 / 2500 + 14.254 / 10 + 5**2 / (2 * 10 * 3000)
         + 10 / 2 / 3000 + 39.423 / 10 + 10 / 3000),
        # a flat of 20 × 4 in three rows: 3 down, 3 · 20 and 2 · 2 at 10 mm/s
        ("finish surface", (3 + 60 + 4) / 10 + 10 / 2 / 2500 + 10 / 2 / 3000),
        # R20 to R23 at 1184 rpm of the mean Ø43: 1.974 mm/s over 3
        ("groove inside", 3 / 1.97401 + 1.97401 / 3000),
        # 40 at 1000 rpm and a pitch of 1.5: 25 mm/s
        ("turn thread", 40 / 25 + 25 / 2500),
        # 10 down and 8.5 off at 50, 10 to it at 10, 3 back at 50, 1.5 at 1 mm/s, each from rest to rest
        ("probe", 10 / 50 + 50 / 2500 + 10 / 10 + 10 / 3000 + 3 / 50 + 50 / 3000 + 1.5 + 1 / 3000 + 8.5 / 50
         + 50 / 3000),
    ],
)  # fmt: skip
def test_worked_time(kind: str, seconds: float) -> None:
    assert worked()[kind] == pytest.approx(seconds, rel=1e-4)


def test_every_kind_of_operation_has_a_worked_time() -> None:
    same = {  # what is made with the very same path
        "finish floor": "rough pocket", "counterbore": "rough pocket", "countersink": "spot",
        "rough turn": "turn along", "finish turn": "turn along", "turn between walls": "turn along",
        "mill dovetail": "mill T-slot", "cut off": "face in the lathe",
    }  # fmt: skip
    for kind in OperationKind:
        assert same.get(kind.value, kind.value) in worked()


def test_table_of_the_formulas_says_the_same() -> None:
    rows = {}
    for line in FORMULAS.read_text(encoding="utf-8").splitlines():
        cells = [c.strip() for c in line.strip("|").split("|")]
        if len(cells) == 3 and cells[2].endswith(" s") and cells[0] in worked():
            rows[cells[0]] = float(cells[2].removesuffix(" s"))
    assert rows == pytest.approx(worked(), abs=6e-4)


def test_rest_to_rest_is_length_over_speed_and_speed_over_acceleration() -> None:
    assert trapezoid_seconds(154, 0, 20, 0, 3000) == pytest.approx(154 / 20 + 20 / 3000)
