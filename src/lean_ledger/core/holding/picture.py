"""What holds, with stock in it, as rectangles and circles to scale; for the screen and for paper."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, pi, sin
from typing import Literal

from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.holding.hold import Hold
from lean_ledger.core.holding.obstacles import Prism, Ring, Rod, What
from lean_ledger.core.stock.block import Section


@dataclass(frozen=True)
class Box2:
    """A rectangle in a view's plane, or the circle in it; or a polygon, whose box it then is."""

    what: What | Literal["stock"]
    x: float
    y: float
    width: float
    height: float
    round: bool = False
    ring: Ring = ()


def end_view(hold: Hold) -> tuple[Box2, ...]:
    """Looking along x: y to the right, z up."""
    shown = [Box2(p.what, *_span(p.box, 1, 2)) for p in hold.obstacles]
    stock = [Box2("stock", *_span(b, 1, 2)) for b in hold.boxes]
    return (*_drawn_order(shown), *stock)


def top_view(hold: Hold) -> tuple[Box2, ...]:
    """Looking down: x to the right, y up. What lies under the stock and is wider is left out but for plates."""
    shown = [
        Box2(p.what, *_span(p.box, 0, 1), isinstance(p, Rod), p.rings[0] if isinstance(p, Prism) else ())
        for p in hold.obstacles
        if p.what not in ("bed", "carrier", "parallel")
    ]
    rough = hold.held.section if hold.held.finished is None and hold.held.upright else ""
    ring = _hexagon(hold.stock) if rough == Section.HEX else ()
    stock = Box2("stock", *_span(hold.stock, 0, 1), round=rough == Section.ROUND, ring=ring)
    heads = [b for b in shown if b.what == "screw"]
    return (*_drawn_order([b for b in shown if b.what != "screw"]), stock, *heads)


def _hexagon(box: Bounds) -> Ring:
    """The hexagon of a bar in the box around it, which is as high as its flats are apart, or as wide."""
    w, h, _ = box.size
    x, y = box.min[0] + w / 2, box.min[1] + h / 2
    corners = [(cos(k * pi / 3), sin(k * pi / 3)) for k in range(6)]
    return tuple((x + a * w / 2, y + b * w / 2) if h < w else (x + b * h / 2, y + a * h / 2) for a, b in corners)


def _drawn_order(boxes: list[Box2]) -> list[Box2]:
    """The largest first: they lie behind."""
    return sorted(boxes, key=lambda b: -b.width * b.height)


def _span(box: Bounds, i: int, j: int) -> tuple[float, float, float, float]:
    return box.min[i], box.min[j], box.size[i], box.size[j]
