"""Channels wider than they are long: slots right through for who reads them, milled from the side that they open to."""

from __future__ import annotations

from random import Random

import pytest

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.features import Slot
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.solids import Body, block, rod
from lean_ledger.core.papers.plan_document import first_plan
from lean_ledger.core.plan import DIRECTIONS
from lean_ledger.core.setups.sides import from_open_side, reaches
from lean_ledger.library import shipped_library
from tests.conftest import built, quick_ledger

LIB = shipped_library()


def channel(width: float = 86, high: float = 45, long: float = 66) -> Body:
    """A floor of 10 between two walls of 10, with a hole in the floor and one in line through the walls."""
    body = block((0, 0, 0), (width + 20, long, high + 10)) - block((10, -1, 10), (10 + width, long + 1, high + 11))
    body = body - rod((10 + width / 2, long / 2, -1), (0, 0, 1), 9, 12)
    return body - rod((-1, long / 2, 10 + high / 2), (1, 0, 0), 8, width + 22)


def slot_of(body: Body) -> Slot:
    (found,) = [f for f in built(body).features if isinstance(f, Slot)]
    return found


def test_slot_right_through_is_a_floor_between_two_walls_from_its_open_side() -> None:
    """86 between its walls, 45 in from the edge and 66 through: from above 86 wide, 45 deep, 66 long, at both ends
    open.
    """
    slot = slot_of(channel())
    assert (slot.direction, slot.through, slot.depth) == ((0, 1, 0), True, 66)
    seen = from_open_side(slot, (0.0, 0.0, 1.0))
    assert seen is not None
    assert (seen.id, seen.faces, seen.direction) == (slot.id, slot.faces, (0, 0, 1))
    assert (seen.width, seen.depth, seen.length) == pytest.approx((86, 45, 66))
    assert (seen.through, seen.open_ends) == (False, 2)
    corners = {tuple(round(c, 6) for c in p) for p in seen.region[0]}
    assert corners == {(10, 0, 10), (96, 0, 10), (96, 66, 10), (10, 66, 10)}
    assert sorted({p[1] for p in edge} for edge in seen.open_edges) == [{0}, {66}]
    assert all(from_open_side(slot, DIRECTIONS[side]) is None for side in ("Z-", "X+", "X-", "Y+", "Y-"))
    part = built(channel())
    own = part.by_id[slot.id]
    assert reaches(part, own, (0.0, 0.0, 1.0), (0.0, 0.0, 1.0))
    assert not reaches(part, own, (0.0, 0.0, -1.0), (0.0, 0.0, 1.0))


def test_with_round_inner_corners_or_deep_for_its_width_it_stays_what_it_is() -> None:
    body = block((0, 0, 0), (106, 66, 55)) - block((15, -1, 10), (91, 67, 56)) - block((10, -1, 15), (96, 67, 56))
    rounded = slot_of(body - rod((15, -1, 15), (0, 1, 0), 10, 70) - rod((91, -1, 15), (0, 1, 0), 10, 70))
    assert (rounded.corner_radius, rounded.through) == (5, True)
    assert from_open_side(rounded, (0.0, 0.0, 1.0)) is None
    # in from the edge of a plate of 12, 20 wide: 40 are twice that, 100 no mill goes in
    for deep, made in ((40, True), (100, False)):
        notch = slot_of(block((0, 0, 0), (80, 12, 140)) - block((30, -1, 140 - deep), (50, 13, 141)))
        assert (notch.through, notch.depth) == (True, 12)
        assert (from_open_side(notch, (0.0, 0.0, 1.0)) is not None) is made


def test_channel_needs_no_setup_of_its_own() -> None:
    ledger = quick_ledger(built(channel()))
    made = {s.decision.up: [c.operation.name for c in s.rows] for s in ledger.setups}
    assert any(name.startswith("Rough slot") for name in made["Z+"])
    assert set(made) <= {"Z+", "Z-", "X+", "X-"}
    assert [f.title for f in ledger.findings if f.severity == Severity.ERROR] == []


@pytest.mark.parametrize("seed", [0])
def test_channels_drawn_at_random_are_made_whole(seed: int) -> None:
    random = Random(seed)
    long = round(random.uniform(25, 60), 1)
    part = built(channel(round(random.uniform(1.05, 1.8) * long, 1), round(random.uniform(12, 40), 1), long))
    found = first_plan(part, "al-6082", (10,), LIB, ["mill-762"])
    assert [(f.code, f.title) for f in found.ledger.findings if f.severity == Severity.ERROR] == []
    assert isinstance(found.outcome, Followed)
    assert found.outcome.collisions == ()
