"""Recesses: pockets, slots, steps and low flats; roughed, their corners cleaned, then floor and walls finished."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace

from shapely.geometry import LineString, Polygon

from lean_ledger.core.basis.findings import Cure, Severity
from lean_ledger.core.features import OuterFace, Pocket, Slot, Step, Turned
from lean_ledger.core.geometry.flat import lines
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.operations.chains import choose_rule, facts_of
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import Wish, settle
from lean_ledger.core.operations.depths import depth_of
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.many import MANY
from lean_ledger.core.operations.milling.clearing import (
    Clearing,
    clean_corners_operation,
    finish_walls_operation,
    rough_operation,
)
from lean_ledger.core.operations.milling.forms import form_operation
from lean_ledger.core.operations.milling.paths import Down, Space, clear_path
from lean_ledger.core.operations.milling.regions import Flat, Line, Region, joined, wall_lines
from lean_ledger.core.operations.milling.surface_paths import Over, risen
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.safe.short_holes import BREAK_THROUGH
from lean_ledger.core.operations.workplace import SPENT_WITH_CHANGE, Named, Workplace
from lean_ledger.library.types import Tool

RISES = 0.05  # mm above a flat from which the part stands beside it
NEAR = 0.3  # mm from a flat's edge within which it counts as beside it
CLEARLY = 2.0  # times as long over a floor, by area and feed, as a thicker tool that leaves the corners to another
LEAST_MISSED = 0.5  # mm² that a thicker tool leaves, which is worth a word

ALIKE = 3  # decimals of mm to which recesses are of one shape

Recess = Pocket | Slot | Step


@dataclass(frozen=True)
class Recessed:
    """A recess as it stands in a setup."""

    feature: Recess | OuterFace | Turned
    region: Region
    top: float
    bottom: float
    has_floor: bool
    corner_radius: float
    also: tuple[str, ...] = ()  # features that the same cuts make: the bosses that stand on a lower face
    walls_count: bool = True  # whether its walls are of the part and get a finishing pass

    @property
    def features(self) -> tuple[str, ...]:
        return (self.feature.id, *self.also)


def recess_operations(place: Workplace, recess: Recessed, label: str) -> list[Operation]:
    """Rough, then the corners, the floor and the walls; what lies under a shoulder last."""
    rough = place.id_of(recess.feature.id, OperationKind.ROUGH_POCKET)
    by_rule = round(recess.top - recess.bottom, 5)
    deep = depth_of(
        place, rough, OperationKind.ROUGH_POCKET, recess.top, by_rule, recess.features, deeper=not recess.has_floor
    )  # fmt: skip
    recess = replace(recess, bottom=round(recess.top - deep, 5))
    facts = facts_of(
        place, recess.feature, depth=round(recess.top - recess.bottom, 5), corner=recess.corner_radius
    )  # fmt: skip
    rule = choose_rule(place, recess.features, facts, lambda _: "")
    chain = _upright_operations(place, recess, label, rule.steps)
    place.made_by(rule.id, len(chain))
    form = recess.feature.form if isinstance(recess.feature, Slot) else None
    if form is not None and chain:
        assert isinstance(recess.feature, Slot)
        made = form_operation(place, recess.feature, form)
        if made is not None:
            place.require(made, chain[-1].id, "the mouth is open first")
            chain.append(made)
    return chain


def _upright_operations(place: Workplace, recess: Recessed, label: str, steps: Sequence[str]) -> list[Operation]:
    feature, depth = recess.feature, round(recess.top - recess.bottom, 5)
    args = (place.library, place.material, place.machine)
    hand = place.hand
    finisher = choose.finishing_mill(recess.region, recess.corner_radius, depth, *args, hand)
    finish_id = place.id_of(feature.id, OperationKind.FINISH_WALL)
    finisher = place.tool(finish_id, OperationKind.FINISH_WALL, finisher)
    if finisher is None:
        _no_mill(place, recess, label)
        return []
    # what nothing cleans after it has to come into the corners by itself
    corners_after = "clean corners" in steps or "finish wall" in steps
    volume = recess.region.polygon.area * depth
    rule = choose.roughing_mill(recess.region, depth, finisher, volume, *args, hand) if corners_after else finisher
    rough_id = place.id_of(feature.id, OperationKind.ROUGH_POCKET)
    rougher = place.tool(rough_id, OperationKind.ROUGH_POCKET, rule)
    assert rougher is not None
    edit = place.edit(rough_id)
    usual = place.material.wall_allowance if "finish wall" in steps or not recess.walls_count else 0.0
    allowance = edit.allowance if edit.allowance is not None else usual
    floor_left = min(allowance, depth / 2) if recess.has_floor and "finish floor" in steps else 0.0
    run_out = _run_out(place)
    walls = Clearing((recess.region,), recess.top, recess.bottom, recess.features, feature.id, run_out)
    above_floor = replace(walls, bottom=round(recess.bottom + floor_left, 5))
    rough = rough_operation(
        place, rough_id, OperationKind.ROUGH_POCKET, f"Rough {label}", rougher, above_floor, allowance
    )
    chain = [rough]
    floors = _floor_mill(place, recess, finisher, rougher, corners="clean corners" in steps)
    # what a thicker one does not come to of the floor is made with the corners
    thick = floor_left > 0 and "clean corners" in steps and floors.diameter > finisher.diameter
    if floor_left > 0 and thick:
        chain.append(_finish_floor(place, recess, floors, rougher, floor_left, allowance, label))
    if "clean corners" in steps:
        work, name = walls if thick else above_floor, f"Clean corners of {label}"
        cleaned = clean_corners_operation(place, name, rougher, finisher, work, allowance, floor=thick)
        chain += [cleaned] if cleaned is not None else []
    if floor_left > 0 and not thick:
        chain.append(_finish_floor(place, recess, floors, rougher, floor_left, allowance, label))
    has_walls = recess.walls_count and not wall_lines(recess.region).is_empty  # the top of a boss is open all round
    if allowance > 0 and has_walls and "finish wall" in steps:
        chain.append(
            finish_walls_operation(
                place, finish_id, f"Finish wall of {label}", finisher, walls, allowance, before=rougher
            )
        )
    for before, after in itertools.pairwise(chain):
        place.require(after, before.id, f"{before.kind.value} before {after.kind.value}")
    wanted = choose.finishing_mill(recess.region, recess.corner_radius, depth, *args, hand)
    _look_at_corners(place, recess, label, finisher, wanted, finish_id)
    return chain


def _no_mill(place: Workplace, recess: Recessed, label: str) -> None:
    id, depth, corner = recess.feature.id, round(recess.top - recess.bottom, 5), recess.corner_radius
    elsewhere = {"change": "leave-out", "features": [id], "reason": "made elsewhere"}
    place.lack(
        "no-mill", f"No end mill makes {label}.",
        f"It has to go into an opening with inner corners of R{corner:g} and reach {depth:.1f} in "
        f"{place.material.name}.",
        features=recess.features, cures=(Cure("Leave to another shop", elsewhere),),
        wanted=f"end mill{f' of at most Ø{2 * corner:g}' if corner else ''} that reaches {depth:.1f}",
    )  # fmt: skip


def _look_at_corners(
    place: Workplace, recess: Recessed, label: str, finisher: Tool, wanted: Tool | None, finish_id: str
) -> None:
    """What a finisher leaves: gaps that it does not come into where the rule's would, and its own radius."""
    feature = recess.feature
    if wanted is not None and finisher.diameter > wanted.diameter:
        missed = choose.missed(recess.region, finisher.diameter) - choose.missed(recess.region, wanted.diameter)
        if missed > LEAST_MISSED:
            place.find(
                "too-thick", Severity.ERROR, f"{finisher.description} does not come into all of {label}.",
                f"It leaves {missed:.1f} mm² in gaps and corners that {wanted.description} comes into.",
                features=recess.features, operation=finish_id,
                cures=(Cure("Let the rule choose", {"change": "edit-operation", "operation": finish_id,
                                                    "clear": ["tool"]}),),
            )  # fmt: skip
    left_radius = finisher.diameter / 2
    if isinstance(feature, Pocket) and feature.corner_radius < left_radius - 1e-6:
        sharp = "sharp" if feature.corner_radius == 0 else f"R{feature.corner_radius:g}"
        place.find(
            "corner-left", Severity.WARNING,
            f"The corners of {label} are drawn {sharp}; a {finisher.diameter:g} mill leaves R{left_radius:g}.",
            "A round tool leaves its own radius. Ask the customer, or take a thinner tool.",
            features=recess.features, operation=finish_id,
        )  # fmt: skip


def _run_out(place: Workplace) -> float:
    """How far beyond an open edge the tool's edge has to go: over the stock that still stands there; at the ends of a
    piece in a bar that is gone by then.
    """
    (x0, y0, x1, y1), box = place.around_rectangle, place.box
    return 1.0 + max(box.min[0] - x0, x1 - box.max[0], box.min[1] - y0, y1 - box.max[1], 0.0)


def _floor_mill(place: Workplace, recess: Recessed, finisher: Tool, rougher: Tool, *, corners: bool) -> Tool:
    """The finisher, or the rougher where that is done clearly sooner, a change to it counted.

    It keeps off the walls, which come after: in a slot hardly wider than the finisher the rougher does it.
    """
    rule = finisher if choose.goes_in(recess.region, finisher, place.material.wall_allowance) else rougher
    if corners and rougher.diameter > finisher.diameter:
        once = [recess.region.polygon.area / (choose.FLOOR_STEP * tool.diameter)
                / choose.feed_rate(tool, place.library, place.material, place.machine) * 60
                for tool in (finisher, rougher)]  # fmt: skip
        if once[0] > CLEARLY * once[1] + place.machine.tool_change + SPENT_WITH_CHANGE:
            rule = rougher
    return (
        place.tool(place.id_of(recess.feature.id, OperationKind.FINISH_FLOOR), OperationKind.FINISH_FLOOR, rule) or rule
    )


def _finish_floor(
    place: Workplace, recess: Recessed, tool: Tool, before: Tool, floor_left: float, allowance: float, label: str
) -> Operation:
    id = place.id_of(recess.feature.id, OperationKind.FINISH_FLOOR)
    data = place.library.data(tool, place.material)
    assert data is not None
    wish = Wish(floor_left, floor_left, choose.FLOOR_STEP * tool.diameter, 0.0, thin_chips=False)
    settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
    cut = settled.cutting
    off_walls = max(place.material.wall_allowance, allowance)  # what roughing left there, its own pass takes
    down = Down(
        round(recess.bottom + floor_left, 5), recess.bottom, cut.passes, place.clearance, place.material.ramp_angle
    )
    space = Space((recess.region,), tool.diameter, off_walls, _run_out(place))
    motion = clear_path(space, cut.ae, down, cut.vf, predrilled=False, before=before.diameter)
    return place.add(
        Named(
            id,
            OperationKind.FINISH_FLOOR,
            f"Finish floor of {label}",
            recess.features,
            recess.feature.id,
            outer=bool(recess.region.open_edges),
        ),
        tool,
        settled,
        motion,
        depth=round(recess.top - recess.bottom, 5),
    )


def recess_in_setup(place: Workplace, feature: Recess, closed: Sequence[Recessed]) -> Recessed:
    """Levels and region of a recess; one that lies within another begins at that one's floor."""
    form = feature.form if isinstance(feature, Slot) else None
    # under a shoulder only the mouth is open to a straight tool
    rings = feature.region if form is None else (form.mouth,)
    edges = getattr(feature, "open_edges", ()) if form is None else form.mouth_open
    region = Region(
        tuple(place.frame.flat(ring) for ring in rings), tuple(place.frame.flat(edge) for edge in edges),
        place.between_parts,
    )  # fmt: skip
    levels = [place.z(p) for p in feature.region[0]]
    through = getattr(feature, "through", False)
    upright = dot(feature.direction, place.frame.up) > 0
    bottom = min(levels) if upright or not through else min(levels) - feature.depth
    top = place.top
    inside = region.polygon.representative_point()
    for other in closed:
        if other.bottom > bottom + 1e-6 and other.region.polygon.contains(inside):
            top = min(top, other.bottom)
    if through:
        bottom -= BREAK_THROUGH
    return Recessed(feature, region, top, round(bottom, 5), not through, feature.corner_radius)


def lower_face_in_setup(place: Workplace, face: OuterFace | Turned, bosses: tuple[str, ...] = ()) -> Recessed:
    """A flat below the top: open all round but where the part rises beside it."""
    outer, *inner = (place.frame.flat(ring) for ring in face.region)
    level = place.z(face.region[0][0])
    around = LineString((*outer, outer[0]))
    stands = risen(Over(place.part.model.solid.mesh, place.frame), round(level + RISES, 6))
    # over a hole that begins in it there is nothing to keep off
    rings = (outer, *(ring for ring in inner if Polygon(ring).buffer(-RISES).intersects(stands)))
    beside = stands.buffer(NEAR)
    open_edges: tuple[Line, ...] = ((*outer, outer[0]),)
    if beside.intersects(around):
        # where it starts is no end
        rest = lines(joined(around.difference(beside)))
        open_edges = tuple(tuple((x, y) for x, y in line.coords) for line in rest if line.length > NEAR)
    region = Region(rings, open_edges, place.between_parts)
    return Recessed(face, region, place.top, level, has_floor=True, corner_radius=0.0, also=bosses)


def alike_recesses(place: Workplace, recesses: Sequence[Recessed]) -> list[list[Recessed]]:
    """Many of one shape between the same levels, of which the same is said. The first that something was decided for
    leads, else the first of all; others that something was decided for stand by themselves.
    """
    decided = [*(one.operation for one in place.plan.edits), *(one.operation for one in place.plan.depths)]
    own = {id.split(".")[1] for id in decided if id.startswith(f"{place.setup}.")}
    groups: dict[object, list[Recessed]] = {}
    for one in recesses:
        if isinstance(one.feature, Pocket | Slot | Step) and getattr(one.feature, "form", None) is None:
            groups.setdefault((_shape(one), _said(place, one.feature.id)), []).append(one)
    found = []
    for group in groups.values():
        leads = next((one for one in group if one.feature.id in own), group[0])
        together = [leads, *(one for one in group if one is not leads and one.feature.id not in own)]
        if len(together) >= MANY:
            found.append(together)
    return found


def _said(place: Workplace, feature: str) -> tuple[object, ...]:
    """By which its rule is chosen."""
    said = place.plan.said_of(feature)
    return place.plan.chain_of(feature), said.tolerance, said.finish


def corner_of(recess: Recessed) -> Flat:
    """The least x and y of its outline."""
    x, y = (round(min(p[i] for p in recess.region.rings[0]), 6) for i in (0, 1))
    return x, y


def _shape(recess: Recessed) -> tuple[object, ...]:
    """What is the same of alike recesses, wherever they lie."""
    x, y = corner_of(recess)

    def counted(line: Line) -> tuple[Flat, ...]:
        return tuple((round(px - x, ALIKE) + 0.0, round(py - y, ALIKE) + 0.0) for px, py in line)

    rings = tuple(_from_corner(counted(ring)) for ring in recess.region.rings)
    edges = tuple(sorted(counted(edge) for edge in recess.region.open_edges))
    levels = (round(recess.top, ALIKE), round(recess.bottom, ALIKE), round(recess.corner_radius, ALIKE))
    return (recess.feature.kind, rings[0], tuple(sorted(rings[1:])), edges, levels, recess.has_floor)


def _from_corner(ring: tuple[Flat, ...]) -> tuple[Flat, ...]:
    """A closed line from its least corner: where a model begins it is chance."""
    k = ring.index(min(ring))
    return ring[k:] + ring[:k]
