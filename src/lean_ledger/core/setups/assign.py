"""Which setup makes which feature, and from which sides a feature can be made here at all."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lean_ledger.core.features import (
    Chamfer,
    Contour,
    Feature,
    Fillet,
    Pocket,
    Slot,
    Step,
    Turned,
    flat_side,
)
from lean_ledger.core.geometry.vectors import Vec, dot, parallel
from lean_ledger.core.part import Part
from lean_ledger.core.plan import DIRECTIONS, Allowances, Plan


def needs_machining(feature: Feature, allowances: Allowances) -> bool:
    """A flat side without stock on it is as bought; all else has to be cut."""
    flat = flat_side(feature)
    if flat is None:
        return True
    side = next((name for name, d in DIRECTIONS.items() if dot(d, flat.normal) > 1 - 1e-6), None)
    return side is None or allowances.on(side) > 0


def is_outline(part: Part, feature: Feature, axis: Vec) -> bool:
    """Whether a feature is part of the walls around `axis` that one pass around the part makes."""
    flat = flat_side(feature)
    if flat is not None:
        return abs(dot(flat.normal, axis)) < 1e-3
    if isinstance(feature, Contour):
        return parallel(feature.direction, axis, 1e-3)
    if isinstance(feature, Turned):
        return feature.where == "outside" and parallel(feature.direction, axis, 1e-3) and _is_widest(part, feature)
    faces = [part.model.solid.faces[f] for f in feature.faces]
    upright = all(
        (face.surface == "plane" and abs(dot(face.axis, axis)) < 1e-3)
        or (face.surface == "cylinder" and parallel(face.axis, axis, 1e-3))
        for face in faces
    )
    if isinstance(feature, Chamfer | Fillet):
        return upright and not any(face.inward for face in faces)
    # a notch right through along the axis: its floor and its walls are stretches of the outline
    return isinstance(feature, Step | Slot) and bool(feature.open_edges) and upright


def _is_widest(part: Part, turned: Turned) -> bool:
    return all(
        f.diameter <= turned.diameter + 1e-3
        for f in part.features
        if isinstance(f, Turned) and f.where in ("outside", "taper")
    )


def reaches(part: Part, feature: Feature, up: Vec, outline_axis: Vec) -> bool:
    """Whether a setup with `up` towards the spindle can make the feature."""
    if is_outline(part, feature, outline_axis):
        return parallel(up, outline_axis, 1e-3)
    flat = flat_side(feature)
    if flat is not None:
        return dot(flat.normal, up) > 1 - 1e-6
    if isinstance(feature, Step | Slot | Pocket):
        along = dot(feature.direction, up)
        square = along > 1 - 1e-6 or (along < -1 + 1e-6 and getattr(feature, "through", False))
        return square and any(dot(direction, up) > 1 - 1e-6 for direction in feature.access)
    return any(dot(direction, up) > 1 - 1e-6 for direction in feature.access)


def assign_features(part: Part, plan: Plan) -> Mapping[str, tuple[str, ...]]:
    """Feature ids for each setup: the first setup that reaches a feature, or the one it was moved to.

    The outline belongs to every setup along the first setup's axis: each cuts what it can reach of its height.
    """
    axis = plan.outline_axis
    out = {left.feature for left in plan.left_out}
    moved = {m.feature: m.setup for m in plan.moved}
    given: dict[str, list[str]] = {setup.id: [] for setup in plan.setups}
    for feature in part.features:
        if feature.id in out or not needs_machining(feature, plan.allowances):
            continue
        able = [s for s in plan.setups if reaches(part, feature, DIRECTIONS[s.up], axis)]
        if is_outline(part, feature, axis):
            for setup in able:
                given[setup.id].append(feature.id)
        elif able:
            chosen = next((s for s in able if s.id == moved.get(feature.id)), able[0])
            given[chosen.id].append(feature.id)
    return {setup: tuple(ids) for setup, ids in given.items()}


def movable_to(part: Part, plan: Plan, feature: Feature, placed: Sequence[str]) -> tuple[str, ...]:
    """Setups beside those in `placed` that could make a feature; outline and faced sides stay where they are."""
    axis = plan.outline_axis
    if flat_side(feature) is not None or is_outline(part, feature, axis):
        return ()
    return tuple(s.id for s in plan.setups if s.id not in placed and reaches(part, feature, DIRECTIONS[s.up], axis))
