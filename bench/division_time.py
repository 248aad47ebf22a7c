"""How long the least division takes to be proven: python bench/division_time.py

Parts of 10 to 40 features, each reached from one to three of six directions, with orders between some of them, from a
fixed seed. Prints for each size the median and the longest of 20 parts, and how many were proven least.
"""

from __future__ import annotations

import random
import statistics
import time

from lean_ledger.core.geometry.vectors import SIX
from lean_ledger.core.setups.divide import Item, Task, divide
from lean_ledger.core.setups.reach import Clamping

PARTS = 20


def part(count: int, chance: random.Random) -> Task:
    ways = [frozenset(chance.sample(range(6), chance.choice([1, 1, 2, 3]))) for _ in range(count)]
    items = tuple(Item(f"H{i}", chance.uniform(1, 1000), w) for i, w in enumerate(ways))
    pairs = [tuple(sorted(chance.sample(range(count), 2))) for _ in range(count // 5)]
    sides = tuple(Clamping(d, None, frozenset([i])) for i, d in enumerate(SIX))
    return Task(items, sides, before=tuple((f"H{a}", f"H{b}") for a, b in pairs))


def main() -> None:
    chance = random.Random(7)
    divide(part(5, chance))
    for count in (10, 20, 30, 40):
        spent, proven = [], 0
        for _ in range(PARTS):
            task = part(count, chance)
            start = time.perf_counter()
            found = divide(task)
            spent.append(time.perf_counter() - start)
            proven += found.proven
        print(
            f"{count:3d} features: median {statistics.median(spent):.2f} s, longest {max(spent):.2f} s, "
            f"{proven} of {PARTS} proven least"
        )


if __name__ == "__main__":
    main()
