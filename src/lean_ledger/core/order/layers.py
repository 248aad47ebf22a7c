"""Precedences as a drawing that can be read: in layers, from what comes first, with few crossings.

Precedences that follow from others are left out. A step stands one layer behind the last of those that it waits for;
within the layers they are put, up and down several times, at the mean place of their neighbours (the barycentre).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

Edge = tuple[int, int]
SWEEPS = 8


@dataclass(frozen=True)
class Layers:
    """Of each step its layer and its place in it, both from 0; `edges` that do not follow from others."""

    layer: tuple[int, ...]
    place: tuple[int, ...]
    edges: tuple[Edge, ...]


def layered(count: int, edges: Sequence[Edge]) -> Layers:
    """`edges` have no circle."""
    kept = reduced(count, edges)
    layer = _depths(count, kept)
    rows: list[list[int]] = [[] for _ in range(max(layer, default=-1) + 1)]
    for k in range(count):
        rows[layer[k]].append(k)
    before: dict[int, list[int]] = {}
    after: dict[int, list[int]] = {}
    for a, b in kept:
        before.setdefault(b, []).append(a)
        after.setdefault(a, []).append(b)
    best, least = [list(row) for row in rows], crossings(rows, kept, layer)
    for sweep in range(SWEEPS):
        down = sweep % 2 == 0
        for row in rows[1:] if down else reversed(rows[:-1]):
            _at_the_mean(row, before if down else after, _places(rows))
        if (now := crossings(rows, kept, layer)) < least:
            best, least = [list(row) for row in rows], now
    place = _places(best)
    return Layers(tuple(layer), tuple(place[k] for k in range(count)), kept)


def reduced(count: int, edges: Sequence[Edge]) -> tuple[Edge, ...]:
    """Without those that follow from others: a before b before c says a before c."""
    after: dict[int, set[int]] = {k: set() for k in range(count)}
    for a, b in edges:
        after[a].add(b)
    reach = _reach(count, edges)
    return tuple((a, b) for a, b in dict.fromkeys(edges) if not any(reach[c] >> b & 1 for c in after[a] if c != b))


def _reach(count: int, edges: Sequence[Edge]) -> list[int]:
    """Bits of all that comes after each step."""
    found = [0] * count
    for _ in range(count):
        before = list(found)
        for a, b in edges:
            found[a] |= 1 << b | found[b]
        if found == before:
            break
    return found


def _depths(count: int, edges: Sequence[Edge]) -> list[int]:
    depth = [0] * count
    for _ in range(count):
        before = list(depth)
        for a, b in edges:
            depth[b] = max(depth[b], depth[a] + 1)
        if depth == before:
            break
    return depth


def _places(rows: Sequence[Sequence[int]]) -> dict[int, int]:
    return {k: i for row in rows for i, k in enumerate(row)}


def _at_the_mean(row: list[int], near: Mapping[int, Sequence[int]], place: Mapping[int, int]) -> None:
    """Steps without neighbours stay where they are."""
    mean = {k: sum(place[n] for n in near[k]) / len(near[k]) if near.get(k) else float(place[k]) for k in row}
    row.sort(key=lambda k: (mean[k], place[k]))


def crossings(rows: Sequence[Sequence[int]], edges: Sequence[Edge], layer: Sequence[int]) -> int:
    """Pairs of edges between the same two layers that cross.

    a to d and b to c, with a before b and c before d, cross once.
    """
    place = _places(rows)
    spans: dict[Edge, list[Edge]] = {}
    for a, b in edges:
        spans.setdefault((layer[a], layer[b]), []).append((place[a], place[b]))
    return sum(
        (a[0] - b[0]) * (a[1] - b[1]) < 0 for own in spans.values() for i, a in enumerate(own) for b in own[i + 1 :]
    )
