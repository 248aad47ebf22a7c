"""What first plans come to: python bench/first_go.py [--random N [--from SEED]] [--only WORD] [--material KEY]...

Each part of tests/cases/parts, and N drawn at random, is planned as a new job would be, in aluminium and in steel, its
stock followed as solids. A plan is clean, or has honest gaps (something is said not to be made), or is unsafe: the
solids show a cut into the part, a tool, holder or rapid in what holds it or in standing stock, or a mill that removes
more than 1.25 times what its operation says.
"""

from __future__ import annotations

import argparse
import sys
import time
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.cases.parts.drawn import drawn
from tests.cases.parts.named import NAMED
from tests.cases.parts.wider import WIDER

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.basis.findings import Finding, Severity
from lean_ledger.core.followed.chosen import HARMLESS
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import Body
from lean_ledger.core.papers.plan_document import first_plan
from lean_ledger.core.part.model import Part, PartModel, analyse
from lean_ledger.library import shipped_library

CORPUS = 26  # of the parts drawn at random, that belong to the corpus
UNSAFE = "unsafe"


def parts(first: int, count: int, only: str) -> Iterator[tuple[str, Body]]:
    for name, make in (NAMED | WIDER).items():
        if only in name:
            yield name, make()
    for seed in range(first, first + count):
        if only in f"drawn-{seed}":
            try:
                yield f"drawn-{seed}", drawn(seed)
            except Exception as error:  # the kernel makes no such solid: that is no fault of a plan
                print(f"{f'drawn-{seed}':28} no solid: {error}")


def read(name: str, body: Body) -> Part:
    return analyse(PartModel(f"{name}.step", "mm", 1, 0, plain_solid(body.shape, name), ()))


def judged(part: Part, material: str) -> tuple[str, list[Finding]]:
    """Clean, gaps, unsafe or not followed; and the findings that make it so."""
    found = first_plan(part, material, (10,), shipped_library())
    errors = [f for f in found.ledger.findings if f.severity == Severity.ERROR]
    if not isinstance(found.outcome, Followed):
        return "not followed", errors
    harm = [f for f in stock_findings(part, found.ledger, found.outcome) if f.code != HARMLESS]
    return (UNSAFE, harm) if harm else ("gaps", errors) if errors else ("clean", [])


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--random", type=int, default=CORPUS, metavar="N")
    parser.add_argument("--from", type=int, default=0, metavar="SEED", dest="first")
    parser.add_argument("--only", default="")
    parser.add_argument("--material", action="append", default=[])
    options = parser.parse_args()
    counts: Counter[str] = Counter()
    why: Counter[str] = Counter()
    slowest = (0.0, "")
    for name, body in parts(options.first, options.random, options.only):
        start = time.perf_counter()
        try:
            part = read(name, body)
        except Exception as error:  # whatever it is: a part that stops the reading is a fault to be seen
            counts["broken"] += 1
            print(f"{name:28} cannot be read: {error!r}")
            continue
        reading = time.perf_counter() - start
        for material in options.material or ["al-6082", "steel-c45"]:
            start = time.perf_counter()
            try:
                verdict, findings = judged(part, material)
            except LedgerError as error:
                verdict, findings = f"refused: {error}", []
            except Exception as error:  # the same of a plan
                verdict, findings = f"broken: {error!r}", []
            seconds = time.perf_counter() - start
            slowest = max(slowest, (seconds, f"{name} {material}"))
            counts[verdict.split(":")[0]] += 1
            why.update({f.code for f in findings})
            print(
                f"{name:28} {material:10} {verdict:12} read {reading:5.1f} s, planned and followed {seconds:6.1f} s",
                flush=True,
            )
            for finding in findings[:6]:
                print(f"    {finding.code}: {finding.title}")
    print(", ".join(f"{count} {verdict}" for verdict, count in counts.most_common()))
    print("by kind: " + ", ".join(f"{code} {count}" for code, count in why.most_common()))
    print(f"slowest {slowest[0]:.1f} s: {slowest[1]}")
    print(f"unsafe {counts[UNSAFE]}; wanted 0: {'kept' if not counts[UNSAFE] else 'MISSED'}")


if __name__ == "__main__":
    main()
