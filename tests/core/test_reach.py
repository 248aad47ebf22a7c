"""What machines reach, whatever way a part lies: properties that hold for every set of directions."""

from __future__ import annotations

from itertools import combinations
from math import acos, cos, degrees, radians, sin

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from lean_ledger.core.features.turned import Axis
from lean_ledger.core.geometry.vectors import SIX, Vec, cross, dot, neg, norm, unit
from lean_ledger.core.setups.divide import Item, Task, divide
from lean_ledger.core.setups.reach import _crossings, clampings
from lean_ledger.library import shipped_library
from lean_ledger.library.machines import Machine

MACHINES = {m.axes: m for m in shipped_library().machines}
coordinate = st.floats(-1, 1).filter(lambda v: abs(v) > 0.05)
direction = st.tuples(coordinate, coordinate, coordinate).map(unit)
apart = st.lists(direction, min_size=1, max_size=6).filter(
    lambda ds: all(dot(a, b) < cos(radians(3)) for a, b in combinations(ds, 2))
)


def rotated(v: Vec, axis: Vec, angle: float) -> Vec:
    """Rodrigues: v cos + (k × v) sin + k (k·v)(1 − cos)."""
    c, s, along = cos(angle), sin(angle), dot(axis, v)
    side = cross(axis, v)
    return tuple(c * v[i] + s * side[i] + (1 - c) * along * axis[i] for i in range(3))  # type: ignore[return-value]


def count(machine: Machine, ways: list[Vec], axis: Axis | None = None) -> int:
    items = tuple(Item(f"i{i}", 1.0, frozenset([i])) for i in range(len(ways)))
    found = divide(Task(items, clampings(machine, ways, axis)))
    assert found.proven
    return len(found.setups)


@settings(max_examples=10, deadline=None)
@given(apart, direction, st.floats(0.1, 3))
# 0.4° off square to the file's X, to either side: no line is square to two of them and within 0.5° of the third
@example([(0.0, 0.0, 1.0), unit((0.007, 1.0, 0.0)), unit((-0.007, 0.7, 0.7))], unit((1.0, 1.0, 1.0)), 0.5)
def test_number_of_setups_does_not_change_when_the_part_is_turned(ways: list[Vec], axis: Vec, angle: float) -> None:
    turned = [rotated(d, axis, angle) for d in ways]
    for name in ("3-axis mill", "4-axis mill", "5-axis mill"):
        assert count(MACHINES[name], ways) == count(MACHINES[name], turned)


@settings(max_examples=10, deadline=None)
@given(apart)
def test_more_axes_never_ask_for_more_setups(ways: list[Vec]) -> None:
    three, four, five = (count(MACHINES[f"{n}-axis mill"], ways) for n in (3, 4, 5))
    assert five <= four <= three == len(ways)
    # one rotary line is square to any two directions
    assert four <= (len(ways) + 1) // 2


@settings(max_examples=15, deadline=None)
@given(apart)
def test_every_direction_is_reached_and_no_clamping_is_outdone(ways: list[Vec]) -> None:
    for name in ("4-axis mill", "5-axis mill"):
        found = clampings(MACHINES[name], ways, None)
        assert frozenset().union(*(c.reached for c in found)) == frozenset(range(len(ways)))
        assert not any(a.reached < b.reached for a in found for b in found)


@settings(max_examples=20, deadline=None)
@given(direction, direction, st.floats(0.2, 2.8), st.floats(0.2, 2.8))
def test_crossings_have_the_angles_that_were_asked_for(a: Vec, b: Vec, angle_a: float, angle_b: float) -> None:
    if norm(cross(a, b)) < 0.1:
        return
    for line in _crossings(a, b, unit(cross(a, b)), angle_a, angle_b):
        assert norm(line) == pytest.approx(1, abs=1e-6)
        assert acos(max(-1, min(1, dot(line, a)))) == pytest.approx(angle_a, abs=1e-5)
        assert acos(max(-1, min(1, dot(line, b)))) == pytest.approx(angle_b, abs=1e-5)


def test_no_crossing_where_two_cones_do_not_meet() -> None:
    # 10 and 20 degrees around two directions that are 90 apart
    assert _crossings((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0), radians(10), radians(20)) == []


def test_tilt_reaches_what_its_angle_allows_and_not_a_degree_more() -> None:
    # rotary about z, tilt to 110: 110 from the line is reached, 112 is not, by the clamping whose line is Z
    at = [(sin(radians(a)), 0.0, cos(radians(a))) for a in (0, 45, 109, 112)]
    found = clampings(MACHINES["5-axis mill"], at, None)
    for one in found:
        assert one.line is not None
        for i in one.reached:
            assert degrees(acos(max(-1, min(1, dot(at[i], one.line))))) <= 110.6


@pytest.mark.parametrize("name", ["lathe", "lathe with driven tools"])
def test_lathe_works_from_one_end_and_with_driven_tools_across(name: str) -> None:
    axis = Axis((0.0, 0.0, 0.0), (0.0, 0.0, 1.0))
    front, behind = clampings(MACHINES[name], SIX, axis)
    assert (front.up, behind.up) == ((0.0, 0.0, 1.0), neg((0.0, 0.0, 1.0)))
    across = {2, 3, 4, 5} if "driven" in name else set()
    assert front.reached == {0} | across
    assert behind.reached == {1} | across
    assert clampings(MACHINES[name], SIX, None) == ()
