"""The worked times of docs/formulas.md: straight paths whose seconds can be followed by hand, on Mill 1.

X and Y have 3000 mm/s², Z has 2500. From rest to rest a straight cut takes L/v + v/a.
"""

from __future__ import annotations

from math import pi, radians, tan

import pytest

from lean_ledger.core.operations.model import Motion
from lean_ledger.core.operations.paths import chamfer_path, drill_path, face_path, ream_path, tap_path
from lean_ledger.core.timing.chain import trapezoid_seconds
from lean_ledger.core.timing.motion import feed, time_strokes
from lean_ledger.library import shipped_library
from tests.conftest import CASES

MILL = shipped_library().machines[0]
FORMULAS = CASES.parents[1] / "docs/formulas.md"


def cutting(motion: Motion) -> float:
    return time_strokes(motion.strokes, MILL).cut


def worked() -> dict[str, float]:
    """Seconds of cutting by the name of the row in the table."""
    drilled = 20 + 6 / 2 / tan(radians(59)) + 1
    n = 1000 * 200 / (pi * 40)
    return {
        "face": cutting(face_path((0, 0, 100, 40), 50, 1, 2, 0, 1, 1200, 5)),
        "spot": cutting(drill_path(((0, 0),), 0, 3, 0, 200, 2, 5)),
        "drill": cutting(drill_path(((0, 0),), 0, drilled, 0, 300, 2, 5)),
        "peck drill": cutting(drill_path(((0, 0),), 0, 33, 9, 240, 2, 5)),
        "ream": cutting(ream_path(((0, 0),), 0, 10, 300, 2, 5)),
        "tap": cutting(tap_path(((0, 0),), 0, 12, 1, 637, 2, 5)),
        "chamfer": cutting(chamfer_path((((0, 0), (50, 0)),), -1, 600, 5)),
        "turn along": time_strokes([feed(n * 0.25, [(20, 0, 0), (20, 0, -50)])], MILL).cut,
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
        # M6, 12 deep from 2 above, in and out at 10.617 mm/s
        ("tap", 2 * (14 / (637 / 60) + (637 / 60) / 2500)),
        # 2 down and 50 along at 10 mm/s; the corner would allow 10.99
        ("chamfer", 52 / 10 + 10 / 2 / 2500 + 10 / 2 / 3000),
        # Ø40 at 200 m/min: 1591.5 rpm, 0.25 a turn: 6.631 mm/s over 50
        ("turn along", 50 / 6.6315 + 6.6315 / 2500),
    ],
)
def test_worked_time(kind: str, seconds: float) -> None:
    assert worked()[kind] == pytest.approx(seconds, rel=1e-4)


def test_table_of_the_formulas_says_the_same() -> None:
    rows = {}
    for line in FORMULAS.read_text(encoding="utf-8").splitlines():
        cells = [c.strip() for c in line.strip("|").split("|")]
        if len(cells) == 3 and cells[2].endswith(" s") and cells[0] in worked():
            rows[cells[0]] = float(cells[2].removesuffix(" s"))
    assert rows == pytest.approx(worked(), abs=6e-4)


def test_rest_to_rest_is_length_over_speed_and_speed_over_acceleration() -> None:
    assert trapezoid_seconds(154, 0, 20, 0, 3000) == pytest.approx(154 / 20 + 20 / 3000)
