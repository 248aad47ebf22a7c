"""All features of a solid, with stable ids and their access."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.features.access import Reach, part_directions
from lean_ledger.core.features.edges import find_chamfers, find_fillets
from lean_ledger.core.features.holes import find_holes
from lean_ledger.core.features.model import Feature, Hole
from lean_ledger.core.features.outside import find_outside, main_direction
from lean_ledger.core.features.patches import patch_up
from lean_ledger.core.features.recesses import find_recesses
from lean_ledger.core.features.sight import Sight
from lean_ledger.core.features.threads import find_threads, threaded_holes, threaded_walls
from lean_ledger.core.features.turned import Axis, find_axis, find_turned, inner_groove
from lean_ledger.core.geometry.model import Solid
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.geometry.vectors import dot, neg, parallel

SAID_EVERY = 50  # features between two words on how far it is

#: Letters that ids begin with, in the order in which features are listed.
LETTERS = {
    "face": "F",
    "turned": "T",
    "contour": "W",
    "pocket": "P",
    "slot": "G",
    "step": "L",
    "hole": "H",
    "chamfer": "C",
    "fillet": "R",
    "surface": "U",
}


@dataclass(frozen=True)
class Recognised:
    """All features of a solid, and the axis of a rotational one."""

    features: tuple[Feature, ...]
    axis: Axis | None

    @property
    def form(self) -> str:
        return "prismatic" if self.axis is None else "rotational"


def recognise(solid: Solid, report: Report = silent) -> Recognised:
    """Every face in a feature; features in the order of LETTERS, then by size and place."""

    def at(share: float) -> None:
        report("recognising the features", 0.94 + 0.05 * share)

    at(0.0)
    body = patch_up(solid)
    sight = Sight(solid.mesh)
    threads = find_threads(body)
    helical = {index for thread in threads for index in thread.patches}
    at(0.1)
    bores = find_holes(body, sight, helical)
    at(0.2)
    used = bores.used | helical
    axis = find_axis(body, used)
    turned, taken = find_turned(body, axis, used) if axis is not None else ([], set[int]())
    turned = threaded_walls(body, turned, threads)
    used |= taken
    recesses, taken = find_recesses(body, used, bores.used, sight, axis.direction if axis else None)
    used |= taken
    at(0.3)
    upright = axis.direction if axis is not None else main_direction(body, bores.holes, recesses)
    chamfers, broken = find_chamfers(body, used)
    used |= broken
    fillets, taken = find_fillets(body, used, upright)
    used |= taken
    holes = [replace(hole, on_axis=_lies_on(axis, hole)) for hole in threaded_holes(body, bores.holes, threads)]
    claimed = {f for feature in (*holes, *turned) for f in feature.faces}
    used -= {i for i in helical if not set(body.patches[i].face_indexes) <= claimed}  # a helix with no wall of its own
    outside, _ = find_outside(body, used, upright)
    rings = [inner_groove(body, groove, axis) for groove in bores.grooves]
    found: list[Feature] = [*holes, *rings, *turned, *recesses, *chamfers, *fillets, *outside]
    reach = Reach(solid, sight, part_directions(body, holes, broken))
    entered = []
    for i, feature in enumerate(found):
        if i % SAID_EVERY == 0:
            at(0.4 + 0.6 * i / len(found))
        entered.append(_entered(reach.tried(feature)))
    return Recognised(_named(solid, entered), axis)


def _lies_on(axis: Axis | None, hole: Hole) -> bool | None:
    if axis is None:
        return None
    return parallel(axis.direction, hole.axis) and axis.radius(hole.position) < 0.01


def _entered(feature: Feature) -> Feature:
    """A hole is entered from a side that a tool reaches; both ends of a plain through hole are as good."""
    if not isinstance(feature, Hole) or not feature.through or len(feature.access) != 1:
        return feature
    if dot(feature.access[0], feature.direction) > 0:
        return feature
    far = tuple(p + feature.depth * a for p, a in zip(feature.position, feature.axis, strict=True))
    segments = tuple(
        replace(s, from_diameter=s.to_diameter, to_diameter=s.from_diameter) for s in reversed(feature.segments)
    )
    return replace(feature, position=far, axis=neg(feature.axis), segments=segments)  # type: ignore[arg-type]


def _named(solid: Solid, features: Sequence[Feature]) -> tuple[Feature, ...]:
    kinds = list(LETTERS)

    def place(feature: Feature) -> tuple[object, ...]:
        box = _box(solid, feature)
        if isinstance(feature, Hole):
            return (kinds.index("hole"), feature.diameter, feature.depth, *feature.axis, *box)
        return (kinds.index(feature.kind), -sum(solid.faces[f].area for f in feature.faces) // 1, *box)

    ordered = sorted(features, key=place)
    count: dict[str, int] = {}
    named: list[Feature] = []
    for feature in ordered:
        count[feature.kind] = count.get(feature.kind, 0) + 1
        named.append(replace(feature, id=f"{LETTERS[feature.kind]}{count[feature.kind]}"))
    return tuple(named)


def _box(solid: Solid, feature: Feature) -> tuple[float, ...]:
    points = solid.edge_points(feature.faces)
    if not points:
        points = [solid.faces[f].origin for f in feature.faces]
    return tuple(round(min(p[i] for p in points), 3) for i in (2, 1, 0))
