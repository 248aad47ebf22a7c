"""The address of a load's page at the machine, as a code that a phone reads (ISO/IEC 18004)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import segno

QUIET = 4  # modules around it that stay light, as the standard asks


@dataclass(frozen=True)
class Code:
    """`rows` of dark modules as (from, to) of each row; `size` in modules, the quiet ones around it included."""

    rows: tuple[tuple[tuple[int, int], ...], ...]
    size: int

    @property
    def path(self) -> str:
        """As an SVG path of unit squares."""
        return "".join(
            f"M{a} {y}h{b - a}v1H{a}z" for y, runs in enumerate(self.rows, start=QUIET) for a, b in runs
        )  # fmt: skip


@lru_cache(maxsize=64)
def code_of(address: str) -> Code:
    """With error correction M: 15 % of it may be oily."""
    matrix = segno.make_qr(address, error="m").matrix
    rows = []
    for row in matrix:
        runs: list[tuple[int, int]] = []
        for x, dark in enumerate(row, start=QUIET):
            if dark and runs and runs[-1][1] == x:
                runs[-1] = (runs[-1][0], x + 1)
            elif dark:
                runs.append((x, x + 1))
        rows.append(tuple(runs))
    return Code(tuple(rows), len(matrix) + 2 * QUIET)
