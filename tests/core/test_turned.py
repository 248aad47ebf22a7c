"""Rotational parts: the axis, what is turned around it, and what is milled into it."""

from __future__ import annotations

from math import cos, pi, sin

import pytest

from lean_ledger.core.features import Chamfer, Hole, OuterFace, Slot, Step, Turned, recognise
from lean_ledger.core.features.recognise import Recognised
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import Body, block, drilled, prism, revolved, rod
from tests.conftest import built as whole
from tests.conftest import quick_ledger

UP, DOWN = (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)

#: Two diameters, a groove between, a taper, a chamfered end: (radius, z).
SHAFT = [
    (0, 0), (20, 0), (20, 10), (12, 10), (12, 12), (10, 12), (10, 15), (12, 15), (12, 40), (8, 50), (8, 60), (7, 61),
    (0, 61),
]  # fmt: skip


def found(body: Body) -> Recognised:
    return recognise(plain_solid(body.shape, "built"))


def turned(recognised: Recognised, where: str) -> list[Turned]:
    return [f for f in recognised.features if isinstance(f, Turned) and f.where == where]


def test_shaft_has_its_axis_and_each_turned_stretch() -> None:
    part = found(revolved(SHAFT) - drilled((0, 0, 61), DOWN, 5, 20))
    assert part.form == "rotational"
    assert part.axis is not None
    assert part.axis.direction == UP
    outside = sorted((f.diameter, f.length) for f in turned(part, "outside"))
    assert outside == [(16, 10), (24, pytest.approx(30)), (40, 10)]
    (groove,) = turned(part, "groove")
    assert (groove.diameter, groove.width, groove.depth) == (20, 3, 2)
    # π (12² − 10²) · 3 = 414.69
    assert groove.volume == pytest.approx(pi * (144 - 100) * 3)
    (taper,) = turned(part, "taper")
    assert (taper.diameter, taper.length) == (24, 10)
    assert len(turned(part, "end")) == 3
    (hole,) = [f for f in part.features if isinstance(f, Hole)]
    assert hole.on_axis is True
    (chamfer,) = [f for f in part.features if isinstance(f, Chamfer)]
    assert chamfer.width == 1


def test_turning_reaches_an_end_from_its_side_and_the_outside_from_both() -> None:
    part = found(revolved(SHAFT))
    assert all(set(f.access) == {UP, DOWN} for f in turned(part, "outside"))
    assert sorted(f.access[0][2] for f in turned(part, "end")) == [-1, 1, 1]


def test_groove_in_an_end_face_has_its_width_across() -> None:
    part = found(revolved([(0, 0), (25, 0), (25, 20), (18, 20), (18, 16), (14, 16), (14, 20), (0, 20)]))
    (groove,) = turned(part, "groove")
    assert (groove.diameter, groove.width, groove.depth, groove.access) == (36, 4, 4, (UP,))
    assert groove.volume == pytest.approx(pi * (18**2 - 14**2) * 4)


def test_groove_in_a_bore_leaves_the_bore_whole() -> None:
    part = found(revolved([(10, 0), (20, 0), (20, 40), (10, 40), (10, 30), (12, 30), (12, 27), (10, 27)]))
    (groove,) = turned(part, "groove")
    assert (groove.diameter, groove.width, groove.depth) == (24, 3, 2)
    (bore,) = [f for f in part.features if isinstance(f, Hole)]
    assert [(s.from_diameter, s.depth) for s in bore.segments] == [(20, 40)]


def test_groove_in_the_bore_of_a_block_is_an_undercut() -> None:
    body = block((0, 0, 0), (80, 60, 30)) - rod((40, 30, 0), UP, 20, 30) - rod((40, 30, 10), UP, 24, 2)
    part = found(body)
    assert part.form == "prismatic"
    (ring,) = [f for f in part.features if isinstance(f, Slot)]
    assert (ring.width, ring.depth, ring.undercut, ring.access) == (2, 2, True, ())
    assert ring.length == pytest.approx(24 * pi)


def test_key_slot_in_a_shaft_is_measured_from_the_crown() -> None:
    part = found(rod((0, 0, 0), UP, 30, 80) - block((-4, 10, 60), (4, 16, 81)))
    (slot,) = [f for f in part.features if isinstance(f, Slot)]
    assert (slot.width, slot.depth, slot.length, slot.open_ends) == (8, 5, 20, 1)
    assert (0.0, 1.0, 0.0) in slot.access


def test_round_ended_key_slot_is_closed() -> None:
    cut = block((-4, 11, 20), (4, 16, 50)) + rod((0, 11, 20), (0, 1, 0), 8, 6) + rod((0, 11, 50), (0, 1, 0), 8, 6)
    (slot,) = [f for f in found(rod((0, 0, 0), UP, 30, 80) - cut).features if isinstance(f, Slot)]
    assert (slot.width, slot.length, slot.depth, slot.open_ends) == (8, 38, 4, 0)
    assert slot.access == ((0.0, 1.0, 0.0),)


def test_disc_cutter_slot_has_a_round_floor() -> None:
    (slot,) = [f for f in found(rod((0, 0, 0), UP, 30, 80) - rod((-3, 16, 40), (1, 0, 0), 19, 6)).features
               if isinstance(f, Slot)]  # fmt: skip
    # its floor lies at 16 − 9.5 = 6.5, its rim at sqrt(15² − 3²) = 14.697
    assert (slot.width, slot.depth) == (6, pytest.approx(14.697 - 6.5, abs=1e-3))
    assert slot.access == ((0.0, 1.0, 0.0),)


def test_keyway_in_a_bore_is_a_slot_and_the_bore_stays_a_hole() -> None:
    body = rod((0, 0, 0), UP, 60, 30) - rod((0, 0, 0), UP, 30, 30) - block((-4, 0, 0), (4, 18.3, 30))
    part = found(body)
    (slot,) = [f for f in part.features if isinstance(f, Slot)]
    assert (slot.width, slot.length, slot.open_ends) == (8, 30, 2)
    assert set(slot.access) == {UP, DOWN}
    (bore,) = [f for f in part.features if isinstance(f, Hole)]
    assert (bore.diameter, bore.on_axis) == (30, True)


def test_bore_between_two_keyways_is_one_hole() -> None:
    body = rod((0, 0, 0), UP, 60, 30) - rod((0, 0, 0), UP, 30, 30) - block((-4, -18, 0), (4, 18, 30))
    kinds = sorted(f.kind for f in found(body).features if f.kind in ("hole", "slot"))
    assert kinds == ["hole", "slot", "slot"]


def test_flats_on_a_shaft_are_steps_towards_their_shoulder() -> None:
    flats = block((10, -20, 40), (20, 20, 61)), block((-20, -20, 40), (-10, 20, 61))
    part = found(rod((0, 0, 0), UP, 30, 60) - flats[0] - flats[1])
    steps = [f for f in part.features if isinstance(f, Step)]
    assert [f.depth for f in steps] == [5, 5]
    assert sorted(f.direction[0] for f in steps) == [-1, 1]


def test_hexagonal_bar_with_a_turned_end_is_rotational() -> None:
    bar = prism([(12 * cos(k * pi / 3), 12 * sin(k * pi / 3)) for k in range(6)], 0, 20)
    part = found(bar + rod((0, 0, 20), UP, 16, 30))
    assert part.form == "rotational"
    assert [f.diameter for f in turned(part, "outside")] == [16]
    assert sum(isinstance(f, OuterFace) for f in part.features) == 6 + 1


@pytest.mark.parametrize(
    "body",
    [
        block((0, 0, 0), (60, 40, 20)),
        block((0, 0, 0), (60, 60, 10)) - rod((30, 30, 0), UP, 50, 10),
        block((0, 0, 0), (80, 60, 10)) + rod((40, 30, 10), UP, 30, 12),
    ],
    ids=["block", "plate with a large bore", "block with a round boss"],
)
def test_these_are_prismatic(body: Body) -> None:
    assert found(body).form == "prismatic"


def test_cross_hole_counts_from_the_highest_point_of_its_rim() -> None:
    tube = rod((0, 0, 0), UP, 60, 80) - rod((0, 0, 0), UP, 30, 80) - rod((0, 0, 40), (1, 0, 0), 8, 40)
    (hole,) = [f for f in found(tube).features if isinstance(f, Hole) and f.diameter == 8]
    assert hole.position == pytest.approx((30, 0, 40))
    assert hole.axis == pytest.approx((-1, 0, 0))
    assert hole.on_axis is False
    # the cylinder ends where it is lowest in the bore: sqrt(15² − 4²) = 14.4568 from the axis
    assert hole.depth == pytest.approx(30 - 14.4568, abs=0.01)


def test_round_part_with_a_boss_is_made_on_a_mill() -> None:
    """Ends are faced, the outline goes round, and the shoulder's cut makes the boss that stands on it."""
    body = rod((0, 0, 0), UP, 60, 12) + rod((0, 0, 12), UP, 30, 6)
    ledger = quick_ledger(whole(body))
    assert [f.title for f in ledger.findings if f.severity == "error"] == []
    made = {id for op in ledger.operations for id in op.features}
    assert {f.id for f in whole(body).features} == made


def test_taper_needs_a_lathe_and_the_finding_says_so() -> None:
    ledger = quick_ledger(whole(revolved([(0, 0), (20, 0), (20, 10), (14, 24), (0, 24)])))
    assert any("it is turned" in f.why.lower() for f in ledger.findings)
