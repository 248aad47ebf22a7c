"""How long programs take to be timed: python bench/program_time.py

A wavy path of 200 000 short lines, and one of a tenth of it: prints seconds, lines a second and how the time grows.
"""

from __future__ import annotations

import time
from math import log, pi, sin

from lean_ledger.core.control.run import run_program
from lean_ledger.library import shipped_library


def wave(lines: int) -> str:
    """Steps of about 0.25 mm in X, while Y and Z swing."""
    rows = ["G21 G90 G17 G94 G54", "G0 X0 Y0 Z0", "F3000"]
    for i in range(1, lines - 3):
        s = i / lines
        rows.append(f"G1 X{0.25 * i:.4f} Y{20 * sin(2 * pi * 300 * s):.4f} Z{5 * sin(2 * pi * 37 * s):.4f}")
    return "\n".join([*rows, "M30"]) + "\n"


def main() -> None:
    mill = shipped_library().machines[0]
    taken = {}
    for lines in (20_000, 200_000):
        text = wave(lines)
        start = time.perf_counter()
        run = run_program(text, mill)
        taken[lines] = time.perf_counter() - start
        print(
            f"{run.lines} lines: {taken[lines]:.2f} s, {lines / taken[lines]:.0f} a second; {run.total:.0f} s of cycle"
        )
    print(f"the time grows with lines^{log(taken[200_000] / taken[20_000], 10):.2f}")


if __name__ == "__main__":
    main()
