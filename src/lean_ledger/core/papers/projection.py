"""Line drawings of the part turned into a setup's views."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lean_ledger.core.geometry.model import Drawing
from lean_ledger.core.geometry.vectors import Vec, cross, dot
from lean_ledger.core.geometry.views import isometric_views
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.frame import Frame

ViewName = Literal["top", "end", "iso"]
Line = tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class View:
    """Lines in mm. Of `top`: x right, y back. Of `end`: y right, z up, seen from the right. `iso` has its own axes."""

    name: ViewName
    visible: tuple[Line, ...]
    hidden: tuple[Line, ...]


def view_of(part: Part, frame: Frame, name: ViewName) -> View:
    if name == "top":
        return _seen(part, name, frame.up, frame.right, frame.back)
    if name == "end":
        return _seen(part, name, frame.right, frame.back, frame.up)
    eye, right = _iso_axes(frame.up)
    return _seen(part, name, eye, right, cross(eye, right))


def _iso_axes(up: Vec) -> tuple[Vec, Vec]:
    """Of the drawings made above each side, the one above this setup's top."""
    views = isometric_views()
    return max(views, key=lambda pair: (round(dot(pair[0], up), 6), dot(cross(pair[0], pair[1]), up)))


def _seen(part: Part, name: ViewName, eye: Vec, right: Vec, up: Vec) -> View:
    drawing = _drawing(part, eye, up if name == "iso" else None)
    if drawing is None:
        return View(name, (), ())
    dx, dy = drawing.right, cross(drawing.view, drawing.right)
    a, b, c, d = dot(dx, right), dot(dy, right), dot(dx, up), dot(dy, up)

    def turn(lines: tuple[Line, ...]) -> tuple[Line, ...]:
        return tuple(tuple((round(a * x + b * y, 3), round(c * x + d * y, 3)) for x, y in line) for line in lines)

    return View(name, turn(drawing.visible), turn(drawing.hidden))


def _drawing(part: Part, eye: Vec, up: Vec | None) -> Drawing | None:
    found = [d for d in part.model.drawings if dot(d.view, eye) > 1 - 1e-6]
    if up is not None:
        found = [d for d in found if dot(cross(d.view, d.right), up) > 1 - 1e-6] or found
    return found[0] if found else None
