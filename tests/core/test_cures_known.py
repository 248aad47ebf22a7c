"""Each change that some cure of core makes is taken in a test, by the table of cures."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from lean_ledger.core.geometry.solids import rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.part.model import Part
from tests.conftest import built, quick, quick_ledger
from tests.core.test_by_hand import LIB, made
from tests.cures import OFFERED

CORE = Path(__file__).parents[2] / "src/lean_ledger/core"


def test_every_change_that_cures_is_in_the_table() -> None:
    taken = {kind.split()[1] for kinds in OFFERED.values() for kind in kinds}
    named = {
        change
        for path in CORE.rglob("*.py") if "Cure(" in path.read_text("utf-8")
        for change in re.findall(r'"change": "([a-z-]+)"', path.read_text("utf-8"))
    }  # fmt: skip
    # what the solids leave is left on by `accept-rest`: its test follows the stock; grips are tried below
    assert named - taken == {"accept-rest", "set-grip"}
    assert len(named) > 30


@pytest.mark.parametrize("grip", [0.5, 19.0])
def test_grip_by_hand_that_is_wrong_is_cured_by_another(sensor_plate: Part, grip: float) -> None:
    plan = made(quick(sensor_plate), sensor_plate, {"change": "set-grip", "setup": "S1", "grip": grip})
    ledger = evaluate(plan, sensor_plate, LIB)
    offered = [(f, c) for f in ledger.findings for c in f.cures if c.change["change"] == "set-grip"]
    assert offered
    for finding, cure in offered:
        after = evaluate(made(plan, sensor_plate, cure.change), sensor_plate, LIB)
        assert finding.code not in {f.code for f in after.findings if f.setup == "S1"}


def test_cure_that_would_change_nothing_is_not_offered() -> None:
    """A shaft in a vise: the rule chose it, and no turn makes it flat."""
    shaft = built(rod((0, 0, 0), (0.0, 0.0, 1.0), 30, 80))
    ledger = quick_ledger(shaft)
    plan = made(ledger.plan, shaft, {"change": "set-fixture", "setup": "S2", "fixture": "vise-100"})
    by_hand = [f for f in evaluate(plan, shaft, LIB).findings if f.setup == "S2" and f.code.startswith("grip")]
    assert by_hand
    ruled = [f for f in ledger.findings if f.setup == "S2"]
    assert all(c.change["change"] not in ("set-fixture", "set-grip") for f in ruled for c in f.cures)
