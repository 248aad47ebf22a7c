"""Ways to holes along the tool: the moves that canned cycles stand for, and the order in which holes are visited."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from math import hypot

from lean_ledger.core.operations.milling.paths import APPROACH, Walk
from lean_ledger.core.operations.milling.regions import Flat
from lean_ledger.core.operations.model import HoleCycle, Motion

PECK_STOP = 0.5  # mm above the last depth at which a peck's rapid ends
_CACHE = 2048


@lru_cache(maxsize=_CACHE)
def drill_path(
    points: tuple[Flat, ...], entry: float, travel: float, peck: float, vf: float, hop: float, clearance: float
) -> Motion:
    """Plunge at each point; with `peck` > 0 in pecks, counted from the approach plane, that return to it.

    `travel` is the way of the tip below the entry; hops between holes go at height `hop`.
    """
    code = 83 if 0 < peck < travel + APPROACH else 81
    return holes_path(HoleCycle(code, points, entry + APPROACH, entry - travel, vf, peck), hop, clearance)


@lru_cache(maxsize=_CACHE)
def tap_path(
    points: tuple[Flat, ...], entry: float, depth: float, pitch: float, vf: float, hop: float, clearance: float
) -> Motion:
    """In and out at pitch × n, with a reversal at each bottom."""
    return holes_path(HoleCycle(84, points, entry + max(APPROACH, 2 * pitch), entry - depth, vf), hop, clearance)


@lru_cache(maxsize=_CACHE)
def ream_path(points: tuple[Flat, ...], entry: float, depth: float, vf: float, hop: float, clearance: float) -> Motion:
    """In and out in feed: a reamer drawn out at rapid would score the wall."""
    return holes_path(HoleCycle(85, points, entry + APPROACH, entry - depth, vf), hop, clearance)


def holes_path(cycle: HoleCycle, hop: float, clearance: float) -> Motion:
    """The moves that a canned cycle stands for (program/cycles.py), hole after hole.

    After each hole the tool goes back to its approach plane, or right up to the clearance where it hops there.
    """
    cycle = replace(cycle, to_clearance=hop > cycle.r + 1e-6)
    walk = Walk(clearance)
    back = clearance if cycle.to_clearance else cycle.r
    for i, (x, y) in enumerate(cycle.points):
        if i == 0:
            walk.over(x, y)
        else:
            walk.across(x, y)
        walk.down(cycle.r)
        depth = cycle.r
        for depth in cycle.depths():
            walk.cut(cycle.feed, [(x, y, depth)])
            if depth > cycle.bottom:
                walk.down(cycle.r)
                walk.down(depth + PECK_STOP)
        if cycle.code in (84, 85):
            walk.halt()
            walk.cut(cycle.feed, [(x, y, cycle.r)])
        walk.down(back)
    motion = walk.leave()
    return replace(motion, reversals=len(cycle.points) if cycle.code == 84 else 0, cycle=cycle)


@lru_cache(maxsize=_CACHE)
def shortest_tour(points: tuple[Flat, ...]) -> tuple[Flat, ...]:
    """An order of holes with short hops: nearest neighbour from the lower left, bettered by reversing stretches."""
    if len(points) < 3:
        return tuple(sorted(points))
    waiting = sorted(points)
    tour = [waiting.pop(0)]
    while waiting:
        at = tour[-1]
        nearest = min(waiting, key=lambda p: (hypot(p[0] - at[0], p[1] - at[1]), p))
        waiting.remove(nearest)
        tour.append(nearest)
    return tuple(_untangled(tour) if len(tour) <= 60 else tour)


def _untangled(tour: list[Flat]) -> list[Flat]:
    def gap(a: Flat, b: Flat) -> float:
        return hypot(a[0] - b[0], a[1] - b[1])

    better = True
    while better:
        better = False
        for i in range(len(tour) - 2):
            for j in range(i + 2, len(tour)):
                after = tour[j + 1] if j + 1 < len(tour) else None
                now = gap(tour[i], tour[i + 1]) + (gap(tour[j], after) if after else 0.0)
                then = gap(tour[i], tour[j]) + (gap(tour[i + 1], after) if after else 0.0)
                if then < now - 1e-9:
                    tour[i + 1 : j + 1] = reversed(tour[i + 1 : j + 1])
                    better = True
    return tour
