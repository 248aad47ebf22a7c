"""Loads of parts that nobody laid out, judged by the machine's own run: python bench/loads.py [--random N]

Each part of tests/cases/parts, and N drawn by seeds, is planned as a new job would be; every setup on a mill is laid
out with several pieces, at the least gaps. The program is run on the simulated machine, and its tools are looked at
every millimetre beside what stands with the other pieces: the gaps do not judge themselves. Told are what a tool
comes into, seconds that ledger and machine have apart, and zeros that are one.
"""

from __future__ import annotations

import argparse
import sys
import time
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path
from random import Random

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.cases.parts.drawn import drawn
from tests.cases.parts.named import NAMED
from tests.conftest import built
from tests.core.loads_shop import LoadShop, met_on_the_way

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.part.model import Part

MACHINES = ("mill-762", "mill-500", "mill-762-rotary")
APART = 0.01
NEIGHBOURS = {"neighbour-too-near", "pieces-overlap", "not-as-arranged"}  # what is said is not judged


def parts(count: int, only: str) -> Iterator[tuple[str, Part]]:
    for name, make in NAMED.items():
        if only in name:
            yield name, built(make(), name)
    for seed in range(count):
        if only in f"drawn-{seed}":
            try:
                yield f"drawn-{seed}", built(drawn(seed), f"drawn-{seed}")
            except (LedgerError, ValueError) as error:
                print(f"drawn-{seed}: no solid: {error}")


def judged(name: str, part: Part) -> tuple[int, int]:
    """(loads, bad ones) of a part: of each setup alone, then of two neighbours side by side."""
    rng, loads, bad = Random(name), 0, 0
    try:
        shop = LoadShop(part)
    except LedgerError as error:
        print(f"{name:28} not planned: {error}")
        return 0, 0
    alone = [s.decision.id for s in shop.ledger.setups if not s.machine.turns_work and not s.decision.free and s.calls]
    for ids in ([id] for id in alone):
        found = _judged_load(name, shop, ids, rng)
        loads, bad = loads + (found is not None), bad + bool(found)
    for ids in ([a, b] for a, b in pairwise(alone)):
        found = _judged_load(name, shop, ids, rng)
        loads, bad = loads + (found is not None), bad + bool(found)
    return loads, bad


def _judged_load(name: str, shop: LoadShop, setups: list[str], rng: Random) -> bool | None:
    """Whether something is wrong with a load of these setups; None where there is none."""
    machine = rng.choice(MACHINES)
    values = {"columns": rng.choice((2, 3)), "rows": rng.choice((1, 2))}
    by, policy = rng.choice(("tool", "operation", "piece")), rng.choice(("piece", "group", "load"))
    along = rng.choice(("columns", "rows", "stations"))
    try:
        for setup in setups:
            shop.change(change="set-machine", setup=setup, machine=machine)
            if along == "stations" and len(setups) > 1:
                shop.change(change="set-fixture", setup=setup, fixture="vise-125-double")
        id = shop.ledger.load_of(setups[0]).load.id
        if len(setups) > 1:
            shop.change(change="set-arrangement", load=id, columns=1, rows=1)
            shop.change(change="load-together", load=id, setup=setups[1], in_turn=along)
            values = {"columns": 2 * values["rows"]} if along == "columns" else {"columns": values["columns"]}
        shop.change(change="set-arrangement", load=id, **values)
        shop.change(change="set-piece-order", load=id, by=by)
        shop.change(change="set-offsets", load=id, policy=policy)
        checked = next(c for c in shop.programs if setups[0] in c.program.setups)
    except LedgerError as error:
        print(f"{name:28} {setups} {machine}: {error}")
        return None
    told = {f.code for f in shop.ledger.findings if f.setup in setups and f.severity == "error"}
    met = met_on_the_way(shop, setups[0]) if not told & NEIGHBOURS else []
    apart = abs(checked.agreement.difference)
    own = list(checked.program.offsets)
    one_zero = len({(o.machine, o.angle) for o in own}) < len({(o.place, o.way) for o in own})
    if len(setups) > 1 and told & NEIGHBOURS:
        print(f"{name:28} {setups} {machine} {along}: said to be too near")
    if not (met or apart > APART or one_zero):
        return False
    what = f"{len(met)} places met, first {met[0]}" if met else ""
    print(f"{name:28} {setups} {machine} {along} {values} {by} {policy}: apart {apart:.4f} {what} "
          f"{'zeros are one' if one_zero else ''}")  # fmt: skip
    return True


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--random", type=int, default=0)
    parser.add_argument("--part", default="")
    options = parser.parse_args()
    start, loads, bad = time.perf_counter(), 0, 0
    for name, part in parts(options.random, options.part):
        a, b = judged(name, part)
        loads, bad = loads + a, bad + b
    print(f"{loads} loads, {bad} bad, {time.perf_counter() - start:.0f} s")


if __name__ == "__main__":
    main()
