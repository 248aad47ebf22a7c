"""Where a setup's zero is, and how the setter finds it."""

from __future__ import annotations

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.plan import Zero

_SHARE = {
    "centre": (0.5, 0.5),
    "left front": (0.0, 0.0),
    "right front": (1.0, 0.0),
    "left back": (0.0, 1.0),
    "right back": (1.0, 1.0),
}


def zero_point(zero: Zero, stock: Bounds, part: Bounds) -> Vec:
    """The zero in setup coordinates; `stock` and `part` are boxes in the same coordinates."""
    box = stock if zero.of == "stock" else part
    share = _SHARE[zero.place]
    x, y = (box.min[i] + share[i] * box.size[i] for i in (0, 1))
    return (round(x, 4), round(y, 4), round(box.max[2] if zero.level == "top" else box.min[2], 4))


def touch_off(zero: Zero, stock: Bounds, part: Bounds, offset: str) -> tuple[str, ...]:
    """Instructions for the setter, X and Y first, then Z; lengths in mm.

    The finished part's top does not exist yet while stock stands on it: then Z is taken from the parallels.
    """
    what = "the stock" if zero.of == "stock" else "the finished part"
    if zero.place == "centre":
        box = stock if zero.of == "stock" else part
        plane = (
            f"{offset} X Y: edge finder on both sides of {what} along X ({box.size[0]:.2f}) and Y ({box.size[1]:.2f}), "
            "zero in the middle"
        )
    else:
        x, y = zero.place.split()
        plane = f"{offset} X Y: edge finder on the {x} and the {y} side of {what}"
    if zero.level == "bottom":
        z = f"{offset} Z: touch the parallels"
    elif zero.of == "stock":
        z = f"{offset} Z: touch the top of the stock"
    else:
        over = part.max[2] - stock.min[2]
        z = f"{offset} Z: touch the parallels, then add {over:.3f}"
    return (plane, z)
