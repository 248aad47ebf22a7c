"""Precedences drawn in layers: each behind what it waits for, nothing twice, few crossings."""

from __future__ import annotations

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.order.layers import crossings, layered, reduced


def test_what_follows_from_others_is_left_out() -> None:
    """1 before 2 before 3 says 1 before 3."""
    assert reduced(3, [(0, 1), (1, 2), (0, 2)]) == ((0, 1), (1, 2))
    assert reduced(4, [(0, 3), (0, 1), (1, 2), (2, 3)]) == ((0, 1), (1, 2), (2, 3))


def test_two_that_cross_are_put_straight() -> None:
    """0 and 1 before 3 and 2: crossed as they stand, straight with 3 above 2."""
    assert crossings([[0, 1], [2, 3]], [(0, 3), (1, 2)], [0, 0, 1, 1]) == 1
    found = layered(4, [(0, 3), (1, 2)])
    rows: list[list[int]] = [[], []]
    for k in sorted(range(4), key=lambda k: found.place[k]):
        rows[found.layer[k]].append(k)
    assert crossings(rows, found.edges, found.layer) == 0


@given(st.randoms(use_true_random=False), st.integers(0, 14))
def test_layers_keep_the_order_and_places_are_free(rng: Any, count: int) -> None:
    edges = [(a, b) for b in range(count) for a in range(b) if rng.random() < 0.2]
    found = layered(count, edges)
    assert all(found.layer[a] < found.layer[b] for a, b in found.edges)
    assert len({(found.layer[k], found.place[k]) for k in range(count)}) == count
    # the same follows from what is left
    reach = {(a, b) for a, b in found.edges}
    for _ in range(count):
        reach |= {(a, d) for a, b in reach for c, d in found.edges if b == c}
    assert set(edges) <= reach
    rows: list[list[int]] = [[] for _ in range(max(found.layer, default=-1) + 1)]
    plain = [[k for k in range(count) if found.layer[k] == i] for i in range(len(rows))]
    for k in sorted(range(count), key=lambda k: found.place[k]):
        rows[found.layer[k]].append(k)
    assert crossings(rows, found.edges, found.layer) <= crossings(plain, found.edges, found.layer)
