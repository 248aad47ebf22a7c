"""Which setup makes which feature."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lean_ledger.core.features import Feature, flat_side
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.setups.sides import is_outline, needs_machining
from lean_ledger.core.setups.ways import way_of


def assign_features(part: Part, plan: Plan) -> Mapping[str, tuple[str, ...]]:
    """Feature ids for each setup: the first setup that reaches a feature, or the one it was moved to.

    The outline belongs to every setup along the first setup's axis: each cuts what it can reach of its height.
    """
    axis = plan.outline_axis
    out = {left.feature for left in plan.left_out} | set(plan.parked)
    moved = {m.feature: m.setup for m in plan.moved}
    given: dict[str, list[str]] = {setup.id: [] for setup in plan.setups}
    for feature in part.features:
        if feature.id in out or not needs_machining(part, feature, plan):
            continue
        able = [s for s in plan.setups if way_of(part, feature, s, axis) is not None]
        if is_outline(part, feature, axis):
            # what a lathe turns, no mill goes round again
            for setup in [s for s in able if s.part_turns] or able:
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
    return tuple(s.id for s in plan.setups if s.id not in placed and way_of(part, feature, s, axis) is not None)
