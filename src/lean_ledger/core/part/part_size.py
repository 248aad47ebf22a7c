"""Whether a part is of a size that the shop could mean: else its planner is asked before anything is priced."""

from __future__ import annotations

from lean_ledger.core.geometry.model import Vec
from lean_ledger.library.types import Library

SHORTEST = 0.5  # mm: a longest side below this no ruler shows
THINNEST = 0.02  # mm
TIMES = 3.0  # by which a revision's longest side may differ from that of the one before it


def size_question(size: Vec, unit: str, library: Library) -> str:
    """What is odd about a part's size, mm, in a question; empty where nothing is. `unit` is the file's own."""
    longest, shortest = max(size), min(size)
    shown = " × ".join(f"{v:.4g}" for v in size)
    says = f"The file says that it is in {unit}."
    # what goes on to a counter spindle does not lie in both
    holding = [machine for machine in library.machines if machine.counter is None] or library.machines
    farthest = max(holding, key=lambda m: max(high - low for low, high in m.travel))
    travel = max(high - low for low, high in farthest.travel)
    if longest > travel:
        return (
            f"The part is {shown} mm; no machine of the shop holds that: the longest travel is {travel:g} mm, "
            f"of {farthest.name}. {says} Is that its size?"
        )
    if longest < SHORTEST or shortest < THINNEST:
        return f"The part is {shown} mm; that is less than a ruler shows. {says} Is that its size?"
    return ""


def revision_question(size: Vec, before: Vec) -> str:
    """As `size_question`, for a revision beside the one before it: a wrong unit makes it 25.4 times as large."""
    now, was = max(size), max(before)
    if was / TIMES <= now <= was * TIMES:
        return ""
    return (
        f"The part is {' × '.join(f'{v:.4g}' for v in size)} mm, {now / was:.4g} times what the revision before it is "
        f"({' × '.join(f'{v:.4g}' for v in before)} mm). Is that its size?"
    )
