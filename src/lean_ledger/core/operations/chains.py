"""Which of the shop's rules makes a feature: the first that holds and whose tools are there, or the one set by hand."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from lean_ledger.core.basis.findings import Cure, Severity
from lean_ledger.core.features import Feature, Hole
from lean_ledger.core.features.tolerance import nominal_size, read_tolerance
from lean_ledger.core.operations.workplace import Workplace
from lean_ledger.library.chains import ChainRule, Facts, Sort, holds

#: The first step of a chain for which the shop has no tool; empty where it has all.
Lacks = Callable[[ChainRule], str]


def facts_of(place: Workplace, feature: Feature, *, depth: float, corner: float | None = None) -> Facts:
    said = place.plan.said_of(feature.id)
    width = read_tolerance(said.tolerance, nominal_size(feature)).width if said.tolerance else None
    if isinstance(feature, Hole):
        threaded = place.library.thread(place.plan.thread_in(feature) or "") is not None
        return Facts("hole", place.material.id, feature.diameter, feature.depth, threaded, feature.through,
                     None, width, said.finish)  # fmt: skip
    return Facts("recess", place.material.id, depth=depth, corner=corner, tolerance=width, finish=said.finish)


def facts_of_all(place: Workplace, features: Sequence[str], of: Sort, diameter: float = 0.0) -> Facts:
    """Of features that one chain makes together: the narrowest tolerance and the finest finish that is said of any."""
    widths, finishes = [], []
    for id in features:
        said = place.plan.said_of(id)
        if said.tolerance:
            widths.append(read_tolerance(said.tolerance, nominal_size(place.part.by_id[id])).width)
        if said.finish is not None:
            finishes.append(said.finish)
    return Facts(
        of, place.material.id, diameter, tolerance=min(widths, default=None), finish=min(finishes, default=None)
    )  # fmt: skip


def choose_rule(place: Workplace, features: tuple[str, ...], facts: Facts, lacks: Lacks) -> ChainRule:
    """A rule set by hand comes first; one whose tools are not there is a finding, and the shop's rules choose.

    Where no rule's tools are all there, the one that gets farthest is taken: what its steps lack they say themselves.
    """
    wanted = place.plan.chain_of(features[0])
    able = [rule for rule in place.library.chains if holds(rule, facts)]
    if wanted is not None:
        rule = place.library.chain(wanted)
        undo = Cure("Let the rules choose", {"change": "make-as", "features": list(features), "rule": None})
        if rule is None or rule.of != facts.of:
            place.find("no-such-rule", Severity.WARNING, f"{', '.join(features)}: there is no rule {wanted}.",
                       "The shop's rules changed since; they choose.", features=features, cures=(undo,))  # fmt: skip
        elif step := lacks(rule):
            place.lack(
                "rule-lacks-tool",
                f"{', '.join(features)} cannot be made by “{rule.name}”.",
                f"There is no tool for its step {step}. The shop's rules choose.",
                severity=Severity.WARNING,
                features=features,
                cures=(undo,),
                wanted=f"tool to {step} {', '.join(features)}",
            )
        else:
            return rule
    whole = next((rule for rule in able if not lacks(rule)), None)
    return whole or max(able, key=lambda rule: rule.steps.index(lacks(rule)))
