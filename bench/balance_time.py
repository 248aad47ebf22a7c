"""How far the spread over stations comes in ten seconds: python bench/balance_time.py

With --tasks, --stations and --seeds. Drawn lines: seconds of 0.5 to 9.9, each task behind up to two of those before it,
some tied to some stations. Prints the fullest station beside its bound, whether that is proven, and seconds.
"""

from __future__ import annotations

import argparse
import time
from fractions import Fraction
from random import Random

from lean_ledger.core.order.balance import BalanceProblem, Task, balanced

SECONDS = 10.0


def drawn(seed: int, tasks: int, stations: int) -> BalanceProblem:
    random = Random(seed)
    rows, before = [], []
    for k in range(tasks):
        seconds = Fraction(random.randint(5, 99), 10)
        tied = random.random() < 0.1
        rows.append(Task(f"t{k}", seconds, tuple(range(1 + stations // 2, stations + 1)) if tied and k else None))
        for other in random.sample(range(max(0, k - 12), k), min(k, random.randint(0, 2))):
            before.append((f"t{other}", f"t{k}"))
    return BalanceProblem(tuple(rows), tuple(before), (), (), stations)


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--tasks", type=int, default=100)
    asked.add_argument("--stations", type=int, default=8)
    asked.add_argument("--seeds", type=int, default=5)
    args = asked.parse_args()
    for seed in range(args.seeds):
        began = time.perf_counter()
        found = balanced(drawn(seed, args.tasks, args.stations), SECONDS)
        proven = "proven" if found.fullest == found.bound else "not proven"
        took = time.perf_counter() - began
        print(f"{seed:3}  {float(found.fullest):7.1f} s, bound {float(found.bound):7.1f} s, {proven}, {took:5.1f} s")


if __name__ == "__main__":
    main()
