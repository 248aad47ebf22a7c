"""How near to its bound a timeline of drawn operations comes: python bench/timeline_time.py [--works 40] [--paths 3]
[--count 6].

Chains of one to four operations on one or two spindles, each with one or two paths that it may run on, alone or at
one of three speeds; ten seconds each. "left" is what the cycle is above the bound, not above the least, which nobody
knows.
"""

from __future__ import annotations

import argparse
from random import Random
from time import monotonic

from lean_ledger.core.order.waits import WaitProblem, Work, holds
from lean_ledger.core.order.waits_search import scheduled


def drawn(random: Random, count: int, paths: int) -> WaitProblem:
    works: list[Work] = []
    before: list[tuple[int, int]] = []
    spindles = random.choice((1, 2))
    while len(works) < count:
        spindle = random.randrange(spindles)
        for step in range(min(random.randint(1, 4), count - len(works))):
            able = tuple(sorted(random.sample(range(paths), random.choice((1, 1, 2)))))
            speed = random.choice((None, "1400", "1400", "600", "900"))
            tool, k = f"T{random.randrange(12)}", len(works)
            works.append(Work(str(k), able, frozenset({spindle}), random.randint(20, 300), tool, speed))
            before += [(k - 1, k)] * (step > 0)
    return WaitProblem(tuple("abcd"[:paths]), tuple(works), tuple(before), (), 12, 10)


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    for name, usual in (("works", 40), ("paths", 3), ("count", 6), ("seed", 1), ("seconds", 10)):
        asked.add_argument(f"--{name}", type=int, default=usual)
    given = asked.parse_args()
    random = Random(given.seed)
    print(f"{'cycle':>8} {'bound':>8} {'left':>7} {'seconds':>8}")
    for _ in range(given.count):
        problem = drawn(random, given.works, given.paths)
        began = monotonic()
        found = scheduled(problem, given.seconds)
        assert holds(problem, found.plan)
        left = found.cycle / found.bound - 1
        print(f"{found.cycle / 10:8.1f} {found.bound / 10:8.1f} {left:6.1%} {monotonic() - began:8.1f}", flush=True)


if __name__ == "__main__":
    main()
