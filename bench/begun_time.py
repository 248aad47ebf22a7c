"""How long a new job's plan takes to be begun on all machines, in process: bench/begun_time.py [--material KEY]...

Each named part of tests/cases/parts, with no bound on the time. Wanted: 10 s for each of up to 100 features. Prints the
slowest, and where a machine asked by itself makes all of the part for less than the plan that was taken.
"""

from __future__ import annotations

import argparse
import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from bench.first_go import parts, read

from lean_ledger.core.first.machine import begun
from lean_ledger.core.first.mended import errors_of
from lean_ledger.core.ledger.machines import on_machines
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.library import shipped_library

WANTED = 10.0  # s
SHOWN = 10


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--material", action="append", default=[])
    parser.add_argument("--only", default="")
    options = parser.parse_args()
    library = shipped_library()
    took: list[tuple[float, str]] = []
    dearer = []
    for name, body in parts(0, 0, options.only):
        part = read(name, body)
        for material in options.material or ["al-6082", "steel-c45"]:
            start = time.perf_counter()
            best = begun(part, material, (10,), library).best
            took.append((time.perf_counter() - start, f"{name} in {material}, {len(part.features)} features"))
            alone = on_machines(quick_plan(part, material, (10,), library), part, library, best.ledger)
            whole = [(o.machine.name, o.ledger.prices[0].each) for o in alone if o.ledger and not errors_of(o.ledger)]
            dearer += [f"{name} in {material}: {machine} {each} against {best.name} {best.each}"
                       for machine, each in whole if best.left or each < best.each]  # fmt: skip
    took.sort(reverse=True)
    for seconds, words in took[:SHOWN]:
        print(f"{seconds:6.1f} s  {words}")
    print(f"{sum(s > WANTED for s, _ in took)} of {len(took)} took over {WANTED:g} s")
    print("\n".join(dearer) or "none is made for less on a single machine")


if __name__ == "__main__":
    main()
