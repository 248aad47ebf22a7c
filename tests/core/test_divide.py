"""Division into setups: least number, order, what machines reach; tried against every cover by hand."""

from __future__ import annotations

from itertools import combinations
from math import cos, radians, sin

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.geometry.vectors import SIX, Vec, dot
from lean_ledger.core.setups.divide import Item, Task, divide
from lean_ledger.core.setups.reach import Clamping, clampings, tilt_angles
from lean_ledger.library import shipped_library
from lean_ledger.library.machines import Machine, Rotary
from tests.values import machine_with

UP, DOWN, BACK, FRONT, RIGHT, LEFT = range(6)
ONE_SIDE = tuple(Clamping(d, None, frozenset([i])) for i, d in enumerate(SIX))


def item(id: str, *ways: int, weight: float = 1.0) -> Item:
    return Item(id, weight, frozenset(ways))


def mill(**axes: Rotary) -> Machine:
    base = shipped_library().machines[0]
    return machine_with(base, **axes)


def rotary(about: str, limits: tuple[float, float] | None = None) -> Rotary:
    return Rotary(about, 60, 400, 0.6, 0.4, limits)  # type: ignore[arg-type]


def test_fewest_sides_are_found_where_taking_the_most_first_is_not_least() -> None:
    # up makes four of six, but leaves one to each of two other sides: those two alone make all
    items = [item("a", UP, BACK), item("b", UP, BACK), item("c", BACK)]
    items += [item("d", UP, RIGHT), item("e", UP, RIGHT), item("f", RIGHT)]
    found = divide(Task(tuple(items), ONE_SIDE))
    assert sorted(s.directions[0] for s in found.setups) == [BACK, RIGHT]
    assert (found.lower_bound, found.proven) == (2, True)


def test_most_machining_goes_first_and_all_that_can_goes_into_it() -> None:
    items = (item("pocket", UP, weight=500), item("bore", UP, DOWN, weight=900), item("recess", DOWN, weight=100))
    found = divide(Task(items, ONE_SIDE))
    assert [(s.directions, s.items) for s in found.setups] == [((UP,), ("pocket", "bore")), ((DOWN,), ("recess",))]


def test_order_brings_a_side_back_when_it_must() -> None:
    items = (item("a", UP), item("b", DOWN), item("c", DOWN), item("d", UP))
    found = divide(Task(items, ONE_SIDE, before=(("a", "b"), ("c", "d"))))
    # a and d from above, b and c from below: a ≤ b and c ≤ d cannot both hold with one visit to each side
    assert len(found.setups) == 3
    assert found.proven
    at = {id: k for k, s in enumerate(found.setups) for id in s.items}
    assert at["a"] <= at["b"]
    assert at["c"] <= at["d"]


def test_what_belongs_together_is_made_from_one_side() -> None:
    items = (item("bore", UP, DOWN), item("seat", DOWN, weight=3), item("pocket", UP, weight=90))
    free = divide(Task(items, ONE_SIDE))
    assert "bore" in free.setups[0].items
    tied = divide(Task(items, ONE_SIDE, together=(("bore", "seat"),)))
    assert [s.items for s in tied.setups] == [("pocket",), ("bore", "seat")]


def test_wishes_that_clash_are_left_out_and_named() -> None:
    items = (item("a", UP), item("b", DOWN))
    found = divide(Task(items, ONE_SIDE, before=(("b", "a"),), together=(("a", "b"),)))
    assert found.clashes == ("a and b in one setup",)
    assert [s.items for s in found.setups] == [("b",), ("a",)]


def test_held_setup_keeps_its_place_and_its_items() -> None:
    items = (item("a", UP, DOWN, weight=9), item("b", DOWN), item("c", UP, weight=50))
    found = divide(Task(items, ONE_SIDE, held={0: (DOWN, ("a",))}))
    assert [(s.directions, s.items) for s in found.setups] == [((DOWN,), ("a", "b")), ((UP,), ("c",))]


def test_setup_that_stays_may_be_empty_and_the_others_are_still_found() -> None:
    items = (item("a", UP), item("b", DOWN))
    found = divide(Task(items, ONE_SIDE, held={2: (RIGHT, ())}))
    assert [s.items for s in found.setups] == [("a",), ("b",), ()]
    assert found.clashes == ()


def test_first_sides_that_nothing_is_cut_from_are_no_bar() -> None:
    found = divide(Task((item("a", FRONT),), ONE_SIDE, first=frozenset({UP, DOWN})))
    assert [s.directions for s in found.setups] == [(FRONT,)]


def test_nothing_reaches_is_said() -> None:
    found = divide(Task((item("a", UP), item("lost")), ONE_SIDE))
    assert (found.unreachable, [s.items for s in found.setups]) == (("lost",), [("a",)])
    assert divide(Task((item("lost"),), ONE_SIDE)).setups == ()


@settings(max_examples=20, deadline=None)
@given(st.lists(st.sets(st.integers(0, 5), min_size=1, max_size=3), min_size=1, max_size=14))
def test_count_is_least_by_trying_every_cover(ways: list[set[int]]) -> None:
    items = tuple(Item(f"i{n}", 1.0 + n, frozenset(w)) for n, w in enumerate(ways))
    least = next(n for n in range(1, 7) for sides in combinations(range(6), n) if all(w & set(sides) for w in ways))
    found = divide(Task(items, ONE_SIDE))
    assert (len(found.setups), found.lower_bound) == (least, least)
    assert sorted(id for s in found.setups for id in s.items) == sorted(i.id for i in items)
    by_id = {i.id: i for i in items}
    assert all(by_id[id].ways & set(s.directions) for s in found.setups for id in s.items)


# ---- what machines reach


def slanted(degrees: float) -> Vec:
    return (sin(radians(degrees)), 0.0, cos(radians(degrees)))


def test_rotary_reaches_all_that_is_square_to_one_line() -> None:
    ways = [*SIX, slanted(30)]
    found = clampings(mill(rotary=rotary("x")), ways, None)
    about_y = frozenset({UP, DOWN, RIGHT, LEFT, 6})
    assert about_y in [c.reached for c in found]
    assert all(max(abs(dot(ways[i], c.line or (9, 9, 9))) for i in c.reached) < 0.01 for c in found)


@pytest.mark.parametrize(
    ("about", "tilt", "angles"),
    [
        ("z", (-30, 110), (0, 110)),
        ("z", (20, 90), (20, 90)),
        ("x", (-30, 110), (0, 120)),  # 90 − 110 = −20 … 90 + 30 = 120
        ("x", (0, 45), (45, 90)),
    ],
)
def test_tilt_gives_angles_to_the_rotary(about: str, tilt: tuple[float, float], angles: tuple[float, float]) -> None:
    low, high = tilt_angles(rotary(about), rotary("y", tilt))
    assert (low, high) == (pytest.approx(radians(angles[0])), pytest.approx(radians(angles[1])))


def test_five_axes_reach_five_sides_but_not_the_one_they_hold_by() -> None:
    machine = mill(rotary=rotary("z"), tilt=rotary("y", (-30, 110)))
    found = clampings(machine, SIX, None)
    assert max(len(c.reached) for c in found) == 5
    for one in found:
        assert one.line is not None
        assert all(dot(SIX[i], one.line) > -0.9999 for i in one.reached)


def test_tilt_of_forty_degrees_reaches_a_cone() -> None:
    machine = mill(rotary=rotary("z"), tilt=rotary("y", (0, 40)))
    # three directions 70 apart at the most lie within a cone of 40 degrees; a fourth, 90 off, does not
    ways = [slanted(0), slanted(35), slanted(70), slanted(125)]
    assert frozenset({0, 1, 2}) in [c.reached for c in clampings(machine, ways, None)]
    assert not [c for c in clampings(machine, ways, None) if {0, 3} <= c.reached]
