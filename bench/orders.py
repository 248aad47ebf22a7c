"""Orders of drawn loads: what is proven, how fast, how far apart found and bound: python bench/orders.py [--seconds 10]

Problems are drawn as loads are: rows of like pieces, tombstones, families of pieces that differ, a first piece
that is whole before others; machines with quick and slow tables and changers, and by hand.
"""

from __future__ import annotations

import argparse
import time
from random import Random

from lean_ledger.core.order.model import modelled
from lean_ledger.core.order.plain import plain_orders
from lean_ledger.core.order.problem import GRAIN, OrderProblem, Start, Step, Times
from lean_ledger.core.order.search import searched

TIMES = (
    Times(4.2, 1.0, 0.01, 1.3), Times(1.1, 4.0, 0.03, 0.6), Times(45.0, 0.6, 0.005, 1.0), Times(3.0, 1.4, 0.01, 1.1),
    Times(2.5, 0.0, 0.02, 2.5),
)  # fmt: skip
GOALS = (None, None, ("tool", "index", "piece"), ("index", "tool", "piece"), ("tool", "piece", "index"))


def drawn(seed: int, size: int) -> OrderProblem:
    """About so many operations of a load."""
    rng = Random(seed)
    like = rng.random() < 0.6
    each = rng.choice((4, 6, 8, 12))
    sides = rng.choice(((0.0,), (0.0, 180.0), (0.0, 90.0, 180.0, 270.0)))
    tools = rng.randint(4, 9)
    steps: list[Step] = []
    before: list[tuple[str, str]] = []
    plan = _piece(rng, each, tools)
    count = max(2, size // each)
    for p in range(count):
        own = plan if like else _piece(rng, each, tools)
        side = sides[p % len(sides)]
        for k, (tool, needs) in enumerate(own):
            steps.append(Step(f"P{p}.{k}", f"P{p}", f"T{tool}", side, round(rng.uniform(3, 40), 1)))
            before += [(f"P{p}.{n}", f"P{p}.{k}") for n in needs]
    if rng.random() < 0.3:  # the first piece is whole before another is ended
        before += [(f"P0.{each - 1}", f"P{p}.{each - 1}") for p in range(1, count)]
    start = Start(rng.choice((None, "T1")), 0.0, None)
    return OrderProblem(tuple(steps), tuple(before), rng.choice(TIMES), start, rng.choice(GOALS))  # type: ignore[arg-type]


def _piece(rng: Random, each: int, tools: int) -> list[tuple[int, list[int]]]:
    """A tool for each step, and which of those before it has to come first."""
    found: list[tuple[int, list[int]]] = []
    for k in range(each):
        needs = [n for n in range(k) if rng.random() < (0.8 if n == k - 1 else 0.1)]
        found.append((rng.randint(1, tools), needs))
    return found


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seconds", type=float, default=10)
    parser.add_argument("--count", type=int, default=12)
    parser.add_argument("--sizes", default="20,40,60,150,500")
    options = parser.parse_args()
    for size in map(int, options.sizes.split(",")):
        proven, worst, slowest, beaten = 0, 0.0, 0.0, 0
        for seed in range(options.count):
            problem = drawn(1000 * size + seed, size)
            started = time.perf_counter()
            model = modelled(problem)
            found = searched(model, options.seconds)
            took = time.perf_counter() - started
            assert problem.keeps(found.order)
            proven += found.cost == found.bound
            worst = max(worst, found.cost / max(1, found.bound) - 1)
            slowest = max(slowest, took)
            beaten += any(model.worth(order) < found.cost for order in plain_orders(problem).values())
            if found.cost != found.bound:
                print(f"  {size} #{seed}: {len(problem.steps)} steps, goal {problem.goal or 'seconds'}, found "
                      f"{found.cost / GRAIN if not problem.goal else problem.cost(found.order)}, bound "
                      f"{found.bound / GRAIN if not problem.goal else found.bound}")  # fmt: skip
        print(f"{size}: {proven} of {options.count} proven, at most {100 * worst:.1f} % over the bound, slowest "
              f"{slowest:.1f} s, {beaten} beaten by a plain order")  # fmt: skip


if __name__ == "__main__":
    main()
