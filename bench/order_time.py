"""How long a change of a cycle's order takes to be answered, in process: python bench/order_time.py [--times 15]

A block with eight operations lies in so many columns and rows that its cycle has 64 and 400 steps; a step is moved
by one place, the plan evaluated, the cycle told again with the plain orders beside it. Wanted: 200 and 500 ms at the
median. Then the best order is looked for, of those and of the demo's two loads of several pieces.
"""

from __future__ import annotations

import argparse
import sys
import time
from pathlib import Path
from statistics import median

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.conftest import demo_part
from tests.core.loads_shop import LoadShop, Shop

from lean_ledger.core.loads.best import best_order
from lean_ledger.web.order.views import cycle_view


def steps_of(shop: LoadShop) -> list[tuple[str, str]]:
    return [(call.place, call.operation.id) for call in shop.load.calls]


def moved(shop: LoadShop, times: int) -> float:
    """Median seconds of a move of one step by one place, there and back."""
    took = []
    for k in range(times):
        step = steps_of(shop)[1 + k % 2]
        started = time.perf_counter()
        shop.change(change="move-steps", load="L1", steps=[step], to=2 - k % 2)
        cycle_view(shop.load, 0.02)
        took.append(time.perf_counter() - started)
    return median(took)


def found(name: str, shop: LoadShop) -> None:
    best = best_order(shop.load, None, 10)
    started = time.perf_counter()
    best_order(shop.load, None, 10)
    print(f"{name}: {len(shop.load.calls)} steps, proven {best.proven}, {best.now.seconds:.1f} s now, "
          f"{best.found.seconds:.1f} s best, {1000 * (time.perf_counter() - started):.0f} ms")  # fmt: skip


def feet() -> LoadShop:
    shop = LoadShop(demo_part("sensor-foot"))
    for setup in ("S1", "S2"):
        shop.change(change="set-fixture", setup=setup, fixture="vise-125-double")
    shop.change(change="load-together", load="L1", setup="S2", in_turn="stations")
    shop.arrange(columns=3)
    return shop


def saddles() -> LoadShop:
    shop = LoadShop(demo_part("cable-saddle"), "mill-762-rotary")
    shop.change(change="set-carriers", setup="S1", carriers=("bar-480",))
    shop.change(change="set-fixture", setup="S1", fixture="vise-60-low")
    shop.arrange(columns=4, sides=(0.0, 90.0, 180.0, 270.0))
    return shop


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--times", type=int, default=15)
    options = parser.parse_args()
    for columns, rows in ((4, 2), (10, 5)):
        shop = Shop()
        shop.arrange(columns=columns, rows=rows)
        print(f"{len(shop.load.calls)} steps: a move in {1000 * moved(shop, options.times):.0f} ms")
        found("  best", shop)
    found("16 saddles on four sides", saddles())
    found("feet, both setups in three double vises", feet())


if __name__ == "__main__":
    main()
