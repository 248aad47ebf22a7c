"""Small vectors as tuples, for code that handles a few at a time (arrays go through numpy)."""

from __future__ import annotations

from math import acos, degrees, sqrt

Vec = tuple[float, float, float]

X: Vec = (1.0, 0.0, 0.0)
Y: Vec = (0.0, 1.0, 0.0)
Z: Vec = (0.0, 0.0, 1.0)

#: The six directions of the part's own axes, in the order in which ties are broken.
SIX: tuple[Vec, ...] = (Z, (0.0, 0.0, -1.0), Y, (0.0, -1.0, 0.0), X, (-1.0, 0.0, 0.0))


def dot(a: Vec, b: Vec) -> float:
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross(a: Vec, b: Vec) -> Vec:
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])


def add(a: Vec, b: Vec) -> Vec:
    return (a[0] + b[0], a[1] + b[1], a[2] + b[2])


def sub(a: Vec, b: Vec) -> Vec:
    return (a[0] - b[0], a[1] - b[1], a[2] - b[2])


def scale(a: Vec, k: float) -> Vec:
    return (a[0] * k, a[1] * k, a[2] * k)


def neg(a: Vec) -> Vec:
    return (0.0 - a[0], 0.0 - a[1], 0.0 - a[2])


def norm(a: Vec) -> float:
    return sqrt(dot(a, a))


def unit(a: Vec) -> Vec:
    length = norm(a)
    return (a[0] / length, a[1] / length, a[2] / length)


def parallel(a: Vec, b: Vec, tolerance: float = 1e-4) -> bool:
    """Whether two unit vectors point the same or the opposite way, to `tolerance` radians."""
    return norm(cross(a, b)) < tolerance


def same_way(a: Vec, b: Vec, tolerance: float = 1e-4) -> bool:
    return parallel(a, b, tolerance) and dot(a, b) > 0


def angle_between(a: Vec, b: Vec) -> float:
    """Angle of two unit vectors, degrees, 0 to 180."""
    return degrees(acos(max(-1.0, min(1.0, dot(a, b)))))


def axis_name(direction: Vec) -> str:
    """'Z+', 'X-' and so on for a direction along a part axis, else its components."""
    for name, base in (("X", X), ("Y", Y), ("Z", Z)):
        if parallel(direction, base):
            return name + ("+" if dot(direction, base) > 0 else "-")
    return "({:.3f}, {:.3f}, {:.3f})".format(*direction)


DIRECTION_NAMES: dict[Vec, str] = {d: axis_name(d) for d in SIX}
