"""How a bar lies on its part: along which axis, about what, and how a hexagon's flats stand. Lengths mm."""

from __future__ import annotations

from math import cos, pi, sin

from lean_ledger.core.features import Feature, flat_side
from lean_ledger.core.geometry.model import Face
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan

AT_SIZE = 0.01  # within which a part is as large as a listed size
COAXIAL = 1 - 1e-6  # cosine between a part's axis and its bar's


def along_of(plan: Plan, part: Part) -> int:
    return "XYZ".index(plan.stock.along) if plan.stock.along else usual_axis(plan.stock.form, part)


def usual_axis(form: str, part: Part) -> int:
    """A bar along the part's own axis or its longest side; a plate as thick as its shortest."""
    size = part.model.solid.bounds.size
    if part.axis is not None and form != "plate":
        direction = part.axis.direction
        return max(range(3), key=lambda i: abs(direction[i]))
    return min(range(3), key=lambda i: size[i]) if form == "plate" else max(range(3), key=lambda i: size[i])


def bar_centre(part: Part, along: int) -> Vec:
    """What a bar's centre goes through: the part's axis where it is turned about it, else the middle of its box."""
    axis, bounds = part.axis, part.model.solid.bounds
    if axis is not None and abs(axis.direction[along]) > COAXIAL:
        return axis.point
    x, y, z = ((low + high) / 2 for low, high in zip(bounds.min, bounds.max, strict=True))
    return x, y, z


def square_of(part: Part, along: int) -> int:
    """The axis that two of a hexagonal bar's flats are square to: as the part's own are, else the second of the two."""
    j, k = (i for i in range(3) if i != along)
    return j if has_flats(part, along, j) else k


def has_flats(part: Part, along: int, square: int) -> bool:
    """Whether the part has the six flats of a hexagonal bar that lies so."""
    reach = [0.0] * 6
    for face in part.model.solid.faces:
        n, away = _flat_of(part, face, along, square)
        if n is not None:
            reach[n] = max(reach[n], away)
    return min(reach) > 0 and max(reach) - min(reach) < AT_SIZE


def _flat_of(part: Part, face: Face, along: int, square: int) -> tuple[int | None, float]:
    """Which of the six flats of a bar that lies so a face looks out of, and how far from the bar's middle."""
    other = 3 - along - square
    if face.surface == "plane" and abs(face.axis[along]) < 1e-6:
        centre = bar_centre(part, along)
        for n in range(6):
            a, b = sin(n * pi / 3), cos(n * pi / 3)
            if face.axis[other] * a + face.axis[square] * b > COAXIAL:
                return n, (face.origin[other] - centre[other]) * a + (face.origin[square] - centre[square]) * b
    return None, 0.0


def is_flat_of_bar(part: Part, feature: Feature, plan: Plan) -> bool:
    """Whether a flat side is one of a hexagonal bar's, bought at size: no stock is on it."""
    if plan.stock.form != "hexagonal bar" or flat_side(feature) is None:
        return False
    along = along_of(plan, part)
    square = square_of(part, along)
    if any(plan.allowances.on(f"{'XYZ'[square]}{sign}") > AT_SIZE for sign in "-+"):
        return False
    half = part.model.solid.bounds.size[square] / 2
    found = [_flat_of(part, part.model.solid.faces[index], along, square) for index in feature.faces]
    return all(n is not None and abs(away - half) < AT_SIZE for n, away in found)
