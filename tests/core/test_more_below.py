"""More stock to hold by counts the grip that grows with it."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.geometry.solids import rod
from lean_ledger.core.holding.chuck import RoundHold
from lean_ledger.core.holding.hold import Hold, more_below
from lean_ledger.core.ledger.evaluate import evaluate
from tests.conftest import built, quick_ledger
from tests.core.test_turning import LIB, on_lathe

SHAFT = built(rod((0, 0, 0), (0.0, 0.0, 1.0), 60, 36))


@pytest.fixture(scope="module")
def chucked() -> Hold:
    """Ø60 and 36 long with 2 at each end: 40 of bar, of which a chuck takes half."""
    return evaluate(on_lathe(SHAFT), SHAFT, LIB).setups[0].built.hold


def test_half_of_what_is_more_goes_into_the_jaws(chucked: Hold) -> None:
    assert isinstance(chucked, RoundHold)
    assert chucked.stock.size[2] == pytest.approx(40)
    assert chucked.grip == pytest.approx(20)
    # 4 more free: 8 more of the bar, 24 of 48 in the jaws
    assert more_below(chucked, 4.0, by_hand=False) == pytest.approx(8)
    assert chucked.grip_if_longer(8) == pytest.approx(24)
    assert more_below(chucked, 4.0, by_hand=True) == 4.0, "a grip by hand stays as it is"


@settings(max_examples=15, deadline=None)
@given(missing=st.floats(0.1, 60))
def test_what_is_left_is_enough_and_hardly_more(chucked: Hold, missing: float) -> None:
    vise = quick_ledger(SHAFT).setups[0].built.hold
    for hold in (chucked, vise):
        more = more_below(hold, missing, by_hand=False)
        assert more - (hold.grip_if_longer(more) - hold.grip) >= missing - 1e-6
        less = more - 0.5
        assert less < missing or less - (hold.grip_if_longer(less) - hold.grip) < missing
