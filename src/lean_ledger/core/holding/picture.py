"""The vise with stock in it, as rectangles to scale; for the screen and for paper."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lean_ledger.core.holding.vise import Hold

BASE_HEIGHT = 14.0  # mm of the vise's bed that is drawn
BED_OVER = 12.0  # mm that the bed is drawn beyond the jaws
PARALLEL_WIDTH = 6.0


@dataclass(frozen=True)
class Box2:
    """A rectangle in a view's plane."""

    what: Literal["jaw", "bed", "parallel", "stock"]
    x: float
    y: float
    width: float
    height: float


def end_view(hold: Hold) -> tuple[Box2, ...]:
    """Looking along the jaws: y to the right, z up."""
    low, high = hold.gripped_y
    floor = hold.stock.min[2]
    vise = hold.vise
    bed = floor - (vise.jaw_height - hold.grip)
    jaws = [
        Box2("jaw", low - vise.jaw_thickness, bed, vise.jaw_thickness, vise.jaw_height),
        Box2("jaw", high, bed, vise.jaw_thickness, vise.jaw_height),
    ]
    base_width = high - low + 2 * (vise.jaw_thickness + BED_OVER)
    base = Box2("bed", (low + high - base_width) / 2, bed - BASE_HEIGHT, base_width, BASE_HEIGHT)
    parallels = []
    if floor > bed:
        inset = 2.0
        parallels = [
            Box2("parallel", low + inset, bed, PARALLEL_WIDTH, floor - bed),
            Box2("parallel", high - inset - PARALLEL_WIDTH, bed, PARALLEL_WIDTH, floor - bed),
        ]
    stock = [Box2("stock", b.min[1], b.min[2], b.size[1], b.size[2]) for b in hold.boxes]
    return (base, *parallels, *jaws, *stock)


def top_view(hold: Hold) -> tuple[Box2, ...]:
    """Looking down: x to the right, y up."""
    low, high = hold.gripped_y
    vise, stock = hold.vise, hold.stock
    middle = (stock.min[0] + stock.max[0]) / 2
    left = middle - vise.jaw_width / 2
    return (
        Box2("jaw", left, low - vise.jaw_thickness, vise.jaw_width, vise.jaw_thickness),
        Box2("jaw", left, high, vise.jaw_width, vise.jaw_thickness),
        Box2("stock", stock.min[0], stock.min[1], stock.size[0], stock.size[1]),
    )
