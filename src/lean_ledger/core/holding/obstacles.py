"""What stands around the stock as boxes, in setup coordinates: what a tool must not run into."""

from __future__ import annotations

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.holding.picture import BASE_HEIGHT
from lean_ledger.core.holding.vise import Hold


def obstacles(hold: Hold) -> tuple[Bounds, ...]:
    """The vise's two jaws and its bed. Parallels are left out: they are moved aside for a hole beside them."""
    low, high = hold.gripped_y
    vise, stock = hold.vise, hold.stock
    bed = stock.min[2] - (vise.jaw_height - hold.grip)
    middle = (stock.min[0] + stock.max[0]) / 2
    left, right = middle - vise.jaw_width / 2, middle + vise.jaw_width / 2
    return (
        Bounds((left, low - vise.jaw_thickness, bed), (right, low, hold.jaw_top)),
        Bounds((left, high, bed), (right, high + vise.jaw_thickness, hold.jaw_top)),
        Bounds((left, low - vise.jaw_thickness, bed - BASE_HEIGHT), (right, high + vise.jaw_thickness, bed)),
    )
