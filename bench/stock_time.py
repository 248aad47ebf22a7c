"""How long the stock takes to be followed: python bench/stock_time.py

A plate with pockets and holes whose plan has about 60 operations. Prints the seconds cold, and after a change of one
operation in the middle, and how long the comparison with the part takes on top.
"""

from __future__ import annotations

import time
from dataclasses import replace

from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import followed, stock_after
from lean_ledger.core.geometry.drawing import standard_drawings
from lean_ledger.core.geometry.model import PartModel
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import Body, block, rod, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.part.model import Part, analyse
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.library import shipped_library


def plate() -> Part:
    body: Body = block((0, 0, 0), (260, 180, 24))
    for i in range(4):
        for j in range(3):
            x, y = 12 + 62 * i, 14 + 54 * j
            body = body - rounded_block((x, y, 24 - 5 - i - j), (x + 34 + i, y + 26 + 2 * j, 30), 5 + 0.5 * j)
            body = body - rod((x + 46, y + 10, -1), (0, 0, 1), 5 + 0.5 * ((i + j) % 6), 40)
    solid = plain_solid(body.shape, "plate")
    return analyse(PartModel("plate.step", "mm", 1, 0, solid, standard_drawings(body.shape)))


def main() -> None:
    library, part = shipped_library(), plate()
    ledger = evaluate(quick_plan(part, "al-6082", (10,), library), part, library)
    course = course_of(part, ledger)
    middle = len(course.cuts) // 2
    cut = course.cuts[middle]
    cuts = list(course.cuts)
    cuts[middle] = replace(cut, tool=replace(cut.tool, diameter=cut.tool.diameter - 0.1))
    print(f"{len(course.cuts)} operations, {len(part.model.solid.faces)} faces")
    for words, what in (
        ("cold", course),
        (f"after a change of operation {middle + 1}", replace(course, cuts=tuple(cuts))),
    ):
        start = time.perf_counter()
        stock_after(what, len(what.cuts))
        there = time.perf_counter() - start
        found = followed(what)
        compared = time.perf_counter() - start - there
        print(
            f"{words}: there in {there:.2f} s, compared with the part in {compared:.2f} s, {len(found.remainders)} left"
        )


if __name__ == "__main__":
    main()
