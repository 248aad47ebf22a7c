"""How long a plan takes to be evaluated: python bench/evaluate_time.py

Plates with more and more pockets and holes of their own sizes. Prints for each the seconds cold (no path kept), after a
change of one feed, and how the time grows with the operations.
"""

from __future__ import annotations

import time
from dataclasses import replace
from math import log

from lean_ledger.core.geometry.drawing import standard_drawings
from lean_ledger.core.geometry.model import PartModel
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import Body, block, drilled, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.operations import workplace
from lean_ledger.core.operations.holes import hole_paths
from lean_ledger.core.operations.milling import corners, engaged, paths, regions
from lean_ledger.core.part.model import Part, analyse
from lean_ledger.core.plan import OperationEdit
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.library import shipped_library

ROUNDS = 3


def plate(columns: int, rows: int) -> Part:
    """A pocket and a blind hole in each field, none made together with another, and none more work than another."""
    body: Body = block((0, 0, 0), (8 + 24 * columns, 8 + 16 * rows, 24))
    for i in range(columns):
        for j in range(rows):
            x, y, n = 8 + 24 * i, 8 + 16 * j, i * rows + j
            body = body - rounded_block((x, y, 21 - 0.1 * (n % 15)), (x + 11, y + 9, 30), 3)
            body = body - drilled((x + 17, y + 4, 24), (0, 0, -1), (3.3, 4.2, 5.0, 6.6)[n % 4], 8 + 0.01 * n, 140)
    solid = plain_solid(body.shape, "plate")
    return analyse(PartModel("plate.step", "mm", 1, 0, solid, standard_drawings(body.shape)))


def forget() -> None:
    """Drop all paths, as a server does that has just started."""
    for module in (corners, engaged, hole_paths, paths, regions, workplace):
        for name in dir(module):
            kept = getattr(module, name)
            if hasattr(kept, "cache_clear"):
                kept.cache_clear()


def main() -> None:
    library = shipped_library()
    taken: list[tuple[int, float, float]] = []
    for columns, rows in ((4, 3), (7, 5), (10, 10)):
        part = plate(columns, rows)
        plan = quick_plan(part, "al-6082", (10,), library)
        cold, warm, count = [], [], 0
        for k in range(ROUNDS):
            forget()
            start = time.perf_counter()
            ledger = evaluate(plan, part, library)
            cold.append(time.perf_counter() - start)
            count = len(ledger.operations)
            edit = OperationEdit(ledger.operations[count // 2].id, vf=500.0 + k)
            start = time.perf_counter()
            evaluate(replace(plan, edits=(edit,)), part, library)
            warm.append(time.perf_counter() - start)
        taken.append((count, min(cold), min(warm)))
        print(
            f"{count} operations: {min(cold):.2f} s cold, {1000 * min(warm):.0f} ms after a change of feed", flush=True
        )
    (few, first, quick), (many, last, slow) = taken[0], taken[-1]
    times = log(many / few)
    print(
        f"grows with operations^{log(last / first) / times:.2f} cold, ^{log(slow / quick) / times:.2f} after a change"
    )


if __name__ == "__main__":
    main()
