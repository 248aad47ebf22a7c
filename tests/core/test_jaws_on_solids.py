"""What a vise is said to grip is there: its jaws' contacts beside the followed solids, setup after setup."""

from __future__ import annotations

import pytest

from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import stock_after
from lean_ledger.core.geometry.masses import box_mass, mass_of_mesh
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.holding.vise import ViseHold
from tests.cases.parts.drawn import drawn
from tests.cases.parts.named import NAMED
from tests.cases.parts.wider import WIDER
from tests.conftest import built, quick_ledger

THIN = 0.1  # mm of stock behind a jaw's face that is looked at
NAMES = ("clevis", "dovetail-slide")
SEEDS = (2,)


@pytest.mark.parametrize("name", [*NAMES, *SEEDS])
def test_jaws_touch_at_least_what_the_plan_says(name: str | int) -> None:
    part = built(drawn(name) if isinstance(name, int) else (NAMED | WIDER)[name](), str(name))
    ledger = quick_ledger(part)
    course = course_of(part, ledger)
    cut = looked_at = 0
    for setup in ledger.setups:
        hold = setup.built.hold
        if isinstance(hold, ViseHold) and hold.vise.jaws == "ground":
            frame = hold.frame
            before = mass_of_mesh(stock_after(course, cut))
            low, high = hold.gripped_y
            jaws = [one.box for one in hold.obstacles if one.what == "jaw"][:2]
            for contact, jaw, (a, b) in zip(hold.contacts, jaws, ((low, low + THIN), (high - THIN, high)), strict=True):
                window = box_mass(Bounds((jaw.min[0], a, hold.floor), (jaw.max[0], b, jaw.max[2])))
                there = before.common(window.placed(frame.right, frame.back, frame.up)).volume / THIN
                # an edge that is yet to be broken is left out of what is stated
                assert contact.area <= 1.02 * there + 1, f"{setup.decision.id} {contact}"
                looked_at += 1
        cut += len(setup.rows)
    assert looked_at >= 2
