"""A cell: the machines of a plan's loads beside one another, with people who tend them."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Cell:
    """`tends` names, for each operator, the loads and benches that are his; without it all tend all. Seconds and
    pieces.

    `room` is how many pieces lie between two stations at the most; None: as many as a service of either side moves.
    """

    operators: int = 1
    walk: float = 4.0  # from one station to another
    room: int | None = None
    shift_hours: float = 8.0
    availability: float = 0.85  # share of a shift in which the cell runs
    wanted: int | None = None  # pieces a shift
    tends: tuple[tuple[str, ...], ...] = ()
