"""Depths: by geometry, or set by hand as a positive number or by pointing at a face."""

from __future__ import annotations

from lean_ledger.core.basis.findings import Cure, Severity
from lean_ledger.core.features import Feature
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Depth
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.frame import Frame

SAME = 0.005  # mm


def ends_of(part: Part, feature: Feature, frame: Frame) -> tuple[float, float]:
    """The lowest and the highest level of a feature's faces as a tool comes to it."""
    levels = [frame.point(p)[2] for p in part.model.solid.edge_points(feature.faces)]
    return min(levels), max(levels)


def depth_of(
    place: Workplace, operation: str, kind: OperationKind, top: float, rule: float, features: tuple[str, ...], *,
    deeper: bool = False, shorter: bool = False,
) -> float:  # fmt: skip
    """How deep an operation goes below `top`: as decided for it, else by the rule.

    A decision that would have no depth is a finding, and the rule stands; so is one that is not the feature's own
    depth, but where `deeper` or `shorter` says that it may be.
    """
    decided = place.plan.depth_of(place.led.operation(operation))
    value, words = rule, ""
    named = f"{kind.value[0].upper()}{kind.value[1:]} of {', '.join(features)}"
    if decided is not None:
        asked, words = decided.depth, "by hand" if decided.depth is not None else decided.words
        if asked is None:
            feature = place.part.by_id.get(decided.feature)
            if feature is None:
                words = f"to {decided.feature}, which the part does not have"
                asked = 0.0
            else:
                low, high = ends_of(place.part, feature, place.frame)
                asked = top - (low if decided.end == "bottom" else high) + decided.beyond
        value = round(asked, 5)
        by_rule = Cure("Depth by the rule", {"change": "set-depth", "operation": operation})
        if value < SAME:
            place.find(
                "no-depth", Severity.ERROR, f"{named} would have no depth: {words}.",
                f"That lies {-value:.2f} above where it begins. It goes {rule:g} deep, by the rule.",
                features=features, operation=operation, cures=(by_rule,),
            )  # fmt: skip
            value, words = rule, ""
        elif value < rule - SAME and not shorter:
            place.find(
                "cut-short", Severity.WARNING, f"{named} stops {rule - value:.2f} short.",
                f"It goes {value:.2f} deep, {words}; the model asks for {rule:.2f}.",
                features=features, operation=operation, cures=(by_rule,),
            )  # fmt: skip
        elif value > rule + SAME and not deeper:
            place.find(
                "cut-too-deep", Severity.ERROR, f"{named} goes {value - rule:.2f} too deep.",
                f"It goes {value:.2f} deep, {words}; the model asks for {rule:.2f}.",
                features=features, operation=operation, cures=(by_rule,),
            )  # fmt: skip
    place.measured[operation] = Depth(round(top, 5), value, round(rule, 5), words)
    return value


def formula_of(place: Workplace, operation: str, rule: str) -> str:
    """Where a depth comes from, in a figure's words: as decided, else the rule's formula."""
    measured = place.measured.get(operation)
    return measured.words if measured is not None and measured.words else rule
