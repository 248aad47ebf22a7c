"""Which decisions of a plan hang on which feature."""

from __future__ import annotations

import re
from collections.abc import Container, Iterable, Mapping
from dataclasses import fields, replace

from lean_ledger.core.plan import OperationEdit, Plan, Said


def decided_features(plan: Plan) -> Mapping[str, tuple[str, ...]]:
    """For each feature that something was decided for by hand, what, in words."""
    found: dict[str, list[str]] = {}
    for said in plan.said:
        found.setdefault(said.feature, []).extend(_said_words(said))
    for left in plan.left_out:
        found.setdefault(left.feature, []).append(f"left to {left.reason}")
    for moved in plan.moved:
        found.setdefault(moved.feature, []).append(f"moved to {moved.setup}")
    for edit in plan.edits:
        found.setdefault(feature_of(edit.operation), []).append(f"{edit.operation}: {_edited(edit)} set by hand")
    for deep in plan.depths:
        found.setdefault(feature_of(deep.operation), []).append(f"{deep.operation}: its depth set by hand")
    for rest in plan.accepted:
        found.setdefault(rest.feature, []).append(f"{rest.amount:g} of stock may stay on it")
    for engraving in plan.engravings:
        found.setdefault(engraving.face, []).append(f"{engraving.words} engraved")
    for ids in plan.together:
        for id in ids:
            found.setdefault(id, []).append(f"in one setup with {', '.join(other for other in ids if other != id)}")
    for first, then in plan.before:
        found.setdefault(first, []).append(f"before {then}")
        found.setdefault(then, []).append(f"after {first}")
    return {feature: tuple(words) for feature, words in found.items() if feature}


def without_decisions(plan: Plan, features: Iterable[str]) -> Plan:
    gone = set(features)
    return replace(
        plan,
        said=tuple(s for s in plan.said if s.feature not in gone),
        left_out=tuple(left for left in plan.left_out if left.feature not in gone),
        moved=tuple(m for m in plan.moved if m.feature not in gone),
        parked=tuple(id for id in plan.parked if id not in gone),
        accepted=tuple(rest for rest in plan.accepted if rest.feature not in gone),
        together=tuple(ids for ids in plan.together if not gone & set(ids)),
        before=tuple(pair for pair in plan.before if not gone & set(pair)),
        depths=tuple(d for d in plan.depths if not gone & {feature_of(d.operation), d.feature}),
        edits=tuple(e for e in plan.edits if feature_of(e.operation) not in gone),
        engravings=tuple(e for e in plan.engravings if e.face not in gone),
    )


def passed_on(plan: Plan, operations: Iterable[tuple[str, tuple[str, ...]]], there: Container[str]) -> Plan:
    """Values of an operation of several features, named by one that is not there any more, are those of the next that
    is. `operations`: their ids and features.
    """
    heirs: dict[str, str] = {}
    for id, features in operations:
        gone = feature_of(id)
        heir = next((one for one in features if one in there), None)
        if gone and gone not in there and heir is not None:
            heirs[id] = ".".join(heir if word == gone else word for word in id.split("."))
    return replace(
        plan,
        edits=tuple(replace(e, operation=heirs.get(e.operation, e.operation)) for e in plan.edits),
        depths=tuple(replace(d, operation=heirs.get(d.operation, d.operation)) for d in plan.depths),
    )


def feature_of(operation: str) -> str:
    """The feature that an operation's id names; empty for work on the whole part.

    >>> feature_of("S1.H3.drill"), feature_of("S1.outline.rough")
    ('H3', '')
    """
    for word in operation.split("."):
        if re.fullmatch(r"[A-RT-Z]\d+", word):
            return word
    return ""


def _said_words(said: Said) -> list[str]:
    words = []
    if said.thread:
        words.append(f"thread {said.thread}")
    if said.tolerance:
        words.append(f"tolerance {said.tolerance}")
    if said.finish is not None:
        words.append(f"Ra {said.finish:g}")
    if said.note:
        words.append(f"note “{said.note}”")
    return words


def _edited(edit: OperationEdit) -> str:
    return ", ".join(f.name for f in fields(edit) if f.name != "operation" and getattr(edit, f.name) is not None)
