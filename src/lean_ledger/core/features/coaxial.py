"""Round patches about a common axis, put together into the pieces of a bore."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from itertools import product

from lean_ledger.core.features.patches import FULL_TURN, LENGTH, Patch, PatchedSolid, on_axis
from lean_ledger.core.geometry.model import Bend, Edge, Surface, Vec
from lean_ledger.core.geometry.vectors import SIX, add, dot, neg, norm, parallel, scale, sub

CELL = 1.0  # mm


@dataclass(frozen=True)
class Stretch:
    """A cylinder or cone; several patches where something cuts it. `low` and `high` are coordinates along the axis."""

    patches: tuple[Patch, ...]
    low: float
    high: float
    low_diameter: float
    high_diameter: float

    @property
    def patch(self) -> Patch:
        return self.patches[0]

    @property
    def indexes(self) -> frozenset[int]:
        return frozenset(patch.index for patch in self.patches)

    @property
    def span(self) -> float:
        return sum(patch.span for patch in self.patches)

    @property
    def full_turn(self) -> bool:
        return self.span >= FULL_TURN

    @property
    def is_cylinder(self) -> bool:
        return self.patch.surface == Surface.CYLINDER

    @property
    def width(self) -> float:
        return (self.low_diameter + self.high_diameter) / 2

    @property
    def length(self) -> float:
        return self.high - self.low


@dataclass(frozen=True)
class Coaxial:
    """All pieces about the line through `origin` along `axis`, by their place along it."""

    origin: Vec
    axis: Vec
    pieces: tuple[Stretch, ...]

    def at(self, level: float) -> Vec:
        """The point of the axis at a coordinate along it."""
        return add(self.origin, scale(self.axis, level - dot(self.origin, self.axis)))


def coaxial_groups(body: PatchedSolid, wanted: Callable[[Patch], bool]) -> list[Coaxial]:
    """The wanted cylinders and cones, in groups about one axis each."""
    groups: list[tuple[Vec, Vec, list[Patch]]] = []
    near: dict[tuple[int, ...], list[int]] = {}  # groups by the cell that their axis passes through
    for patch in body.patches:
        if patch.surface not in (Surface.CYLINDER, Surface.CONE) or not wanted(patch):
            continue
        axis = canonical(patch.axis)
        cells = _cells(axis, patch.face.origin)
        for number in (n for cell in cells for n in near.get(cell, ())):
            origin, other, patches = groups[number]
            if parallel(other, axis) and on_axis(origin, other, patch.face.origin):
                patches.append(patch)
                break
        else:
            near.setdefault(cells[0], []).append(len(groups))
            groups.append((patch.face.origin, axis, [patch]))
    return [Coaxial(origin, axis, _pieces(patches, origin, axis)) for origin, axis, patches in groups]


def _cells(axis: Vec, origin: Vec) -> list[tuple[int, ...]]:
    """The cell of a grid where an axis is nearest to the part's origin, and its neighbours; lines meet in few cells."""
    foot = sub(origin, scale(axis, dot(origin, axis)))
    own = tuple(round(c / CELL) for c in foot)
    around = [tuple(o + d for o, d in zip(own, step, strict=True)) for step in product((-1, 0, 1), repeat=3)]
    return [own, *(cell for cell in around if cell != own)]


def canonical(axis: Vec) -> Vec:
    """Of an axis and its opposite the one that the six directions list first, so that a file's choice has no effect."""
    for direction in SIX:
        if dot(axis, direction) > 0.5:
            return axis
        if dot(axis, direction) < -0.5:
            return neg(axis)
    return axis


def _pieces(patches: Iterable[Patch], origin: Vec, axis: Vec) -> tuple[Stretch, ...]:
    found: list[Stretch] = []
    for one in sorted((_piece(patch, origin, axis) for patch in patches), key=lambda p: (p.low, p.high)):
        for i, other in enumerate(found):
            if _same_wall(one, other):
                ends = min(one, other, key=lambda p: p.low), max(one, other, key=lambda p: p.high)
                found[i] = Stretch(
                    other.patches + one.patches, ends[0].low, ends[1].high, ends[0].low_diameter, ends[1].high_diameter
                )
                break
        else:
            found.append(one)
    return tuple(sorted(found, key=lambda p: (p.low, p.high)))


def _same_wall(a: Stretch, b: Stretch) -> bool:
    """Whether two patches lie on one cylinder or cone, side by side."""
    if a.patch.surface != b.patch.surface or min(a.high, b.high) - max(a.low, b.low) < LENGTH:
        return False
    if a.is_cylinder:
        return abs(a.low_diameter - b.low_diameter) < LENGTH
    same_angle = abs(a.patch.face.half_angle - b.patch.face.half_angle) < 1e-4
    return same_angle and norm(sub(a.patch.face.origin, b.patch.face.origin)) < LENGTH


def _piece(patch: Patch, origin: Vec, axis: Vec) -> Stretch:
    low, high = patch.extent(axis)
    if patch.surface == Surface.CYLINDER:
        return Stretch((patch,), low, high, 2 * patch.face.radius, 2 * patch.face.radius)
    ends = cone_ends(patch, origin, axis)
    if len(ends) == 1:  # a tip: the apex is no edge
        (at, diameter), apex = ends[0], dot(patch.face.origin, axis)
        return Stretch((patch,), *((at, apex, diameter, 0.0) if apex > at else (apex, at, 0.0, diameter)))
    (low, low_diameter), (high, high_diameter) = ends[0], ends[-1]
    return Stretch((patch,), low, high, low_diameter, high_diameter)


def cone_ends(patch: Patch, origin: Vec, axis: Vec) -> list[tuple[float, float]]:
    """(position along the axis, diameter) of the first and the last of a cone's border points; one of a full tip."""
    ends: dict[float, float] = {}
    along: list[float] = []
    for border in patch.borders:
        for point in border.edge.points:
            away = sub(point, origin)
            radial = sub(away, scale(axis, dot(away, axis)))
            along.append(dot(point, axis))
            ends[round(along[-1], 3)] = 2 * dot(radial, radial) ** 0.5
    places = sorted(ends)
    # told apart before they are rounded: one circle may fall on two roundings
    if places and max(along) - min(along) < LENGTH:
        places = places[:1]
    return [(place, ends[place]) for place in (places if len(places) < 3 else (places[0], places[-1]))]


def between(body: PatchedSolid, a: Stretch, b: Stretch, axis: Vec) -> frozenset[int] | None:
    """The patches that lead from one piece to the next: none, a flat ring, or one with its corner radius.

    None where the two do not meet.
    """
    if any(border.beyond in b.indexes for patch in a.patches for border in patch.borders):
        return frozenset()
    target = b.indexes
    ways = [(border.beyond, frozenset[int]()) for patch in a.patches for border in patch.borders if border.beyond >= 0]
    for _ in range(3):
        further = []
        for index, way in ways:
            if index in way or not is_turned_about(body.patches[index], axis, a.patch.face.origin):
                continue
            beyond = {border.beyond for border in body.patches[index].borders}
            if beyond & target:
                return way | {index}
            further += [(other, way | {index}) for other in beyond if other >= 0 and other not in a.indexes]
        ways = further[:64]
    return None


def is_turned_about(patch: Patch, axis: Vec, origin: Vec) -> bool:
    """A flat ring square to the axis, or a torus or ball about it: what joins the steps of a bore."""
    if patch.surface == Surface.PLANE:
        low, high = patch.extent(axis)
        return parallel(patch.axis, axis) and high - low < LENGTH
    if patch.surface == Surface.TORUS:
        return parallel(patch.axis, axis) and on_axis(origin, axis, patch.face.origin)
    return patch.surface == Surface.SPHERE and on_axis(origin, axis, patch.face.origin)


def floor_of(
    body: PatchedSolid, piece: Stretch, members: set[int], axis: Vec, *, at_low: bool
) -> tuple[bool, set[int]]:
    """Whether a piece opens at one of its ends, and the patches of the floor that closes it.

    A flat floor that something else cuts into belongs to that as well and is left out.
    """
    if (piece.low_diameter if at_low else piece.high_diameter) == 0:
        return False, set()
    middle = (piece.low + piece.high) / 2
    floors: set[int] = set()
    is_open = True
    for patch in piece.patches:
        for border in patch.borders:
            at = sum(dot(p, axis) for p in border.edge.points) / len(border.edge.points)
            if (
                border.beyond in members
                or border.beyond < 0
                or (at < middle) != at_low
                or _runs_along(border.edge, axis)
            ):
                continue
            floor = body.patches[border.beyond]
            ball = floor.surface in (Surface.SPHERE, Surface.TORUS) and floor.face.inward
            if ball and border.edge.bend != Bend.CONVEX and is_turned_about(floor, axis, piece.patch.face.origin):
                is_open = False
                floors.add(floor.index)
                floors |= {
                    b.beyond for b in floor.borders
                    if b.beyond >= 0 and b.beyond not in piece.indexes
                    and is_turned_about(body.patches[b.beyond], axis, piece.patch.face.origin)
                }  # fmt: skip
            elif border.edge.bend == Bend.CONCAVE and floor.surface == Surface.PLANE and parallel(floor.axis, axis):
                is_open = False
                if all(b.beyond in members for b in floor.borders):
                    floors.add(floor.index)
    return is_open, floors


def _runs_along(edge: Edge, axis: Vec) -> bool:
    run = sub(edge.points[-1], edge.points[0])
    length = norm(run)
    return length > LENGTH and abs(dot(run, axis)) > 0.99 * length
