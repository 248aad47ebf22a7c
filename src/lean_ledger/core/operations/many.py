"""Many alike recesses are one operation each that goes from place to place: one line to look at, to set and to program.

Each is made as if it were alone, so that what keeps its tool off the part, and its feed, are its own; the first one's
values set by hand are those of all.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from graphlib import CycleError, TopologicalSorter
from itertools import pairwise
from math import dist
from typing import Any

from lean_ledger.core.basis.findings import Cure, Figure, Finding
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.timed import on_path
from lean_ledger.core.timing.motion import Stroke, rapid
from lean_ledger.library.machines import Machine

MANY = 4  # as many lines can still be looked at one by one


@dataclass(frozen=True)
class Alike:
    """Features that are made alike: the first leads, its values are those of all."""

    noun: str
    features: tuple[str, ...]

    @property
    def words(self) -> str:
        """Instead of the noun and an id: "12 pockets P1 to P12", "5 slots like G2" where others lie between."""
        numbers = sorted(int(digits[0]) for id in self.features if (digits := re.findall(r"\d+$", id)))
        letters = self.features[0].rstrip("0123456789")
        in_row = numbers == list(range(numbers[0], numbers[0] + len(self.features))) if numbers else False
        which = f"{letters}{numbers[0]} to {letters}{numbers[-1]}" if in_row else f"like {self.features[0]}"
        return f"{len(self.features)} {self.noun}s {which}"

    def named(self, text: str) -> str:
        """A text about any one of them, as it is said of all."""
        one = rf"\b({self.noun} |of )(?:{'|'.join(self.features)})\b"
        return re.sub(one, lambda m: f"{m[1] if m[1] == 'of ' else ''}{self.words}", text, flags=re.IGNORECASE)


@dataclass
class Led:
    """Which feature's values a feature takes, within one way of a setup."""

    groups: list[Alike] = field(default_factory=list)
    _first: dict[str, str] = field(default_factory=dict)

    def add(self, alike: Alike) -> None:
        self.groups.append(alike)
        self._first.update(dict.fromkeys(alike.features[1:], alike.features[0]))

    def first_of(self, feature: str) -> str:
        """The feature that leads it, or itself."""
        return self._first.get(feature, feature)

    def operation(self, id: str) -> str:
        """The operation whose values one takes: setup, feature and kind stand between dots."""
        setup, group, *rest = id.split(".")
        return ".".join((setup, self._first[group], *rest)) if group in self._first else id


def put_together(
    operations: Sequence[Operation], findings: Sequence[Finding], led: Led, machine: Machine, over: float
) -> tuple[list[Operation], list[Finding]]:
    """The operations of alike features as one, where tool and values came out the same and nothing else has to come
    between; what is found of several is said once. `over`: level that is clear of all that stands, in the way's axes.
    """
    if not led.groups:
        return list(operations), list(findings)
    of = {id: alike for alike in led.groups for id in alike.features}
    by_leader: dict[str, list[Operation]] = {}
    for op in operations:
        if op.chain in of:
            by_leader.setdefault(led.operation(op.id), []).append(op)
    into: dict[str, str] = {}
    for own in by_leader.values():
        own.sort(key=lambda op: of[op.chain].features.index(op.chain))
        same = [op for op in own if _values(op) == _values(own[0])]
        trial = into | {op.id: own[0].id for op in same}
        if len(same) > 1 and _can_come_in_order(operations, trial):
            into = trial
    found = []
    for op in operations:
        if into.get(op.id, op.id) != op.id:
            continue
        members = [one for one in operations if into.get(one.id) == op.id]
        found.append(_as_one(members, of[op.chain], machine, over) if len(members) > 1 else op)
    return [_waiting(op, into) for op in found], _said_once([_about(one, into) for one in findings], of)


def _values(op: Operation) -> tuple[object, ...]:
    return (op.kind, op.tool.id, op.cutting, op.depth, op.rule, op.strategy, op.direction, op.outer,
            op.motion.cycle is None)  # fmt: skip


def _can_come_in_order(operations: Iterable[Operation], into: Mapping[str, str]) -> bool:
    graph: dict[str, set[str]] = {}
    for op in operations:
        own = into.get(op.id, op.id)
        graph.setdefault(own, set()).update(into.get(id, id) for id, _ in op.after)
    try:
        TopologicalSorter(graph).prepare()
    except CycleError:
        return False
    return True


def _as_one(members: Sequence[Operation], alike: Alike, machine: Machine, over: float) -> Operation:
    first = members[0]
    own = Alike(alike.noun, tuple(op.chain for op in members))
    one = replace(
        first, name=own.named(first.name), features=tuple(dict.fromkeys(f for op in members for f in op.features)),
        power=max(op.power for op in members), rate=max(op.rate for op in members),
        after=tuple(dict.fromkeys(one for op in members for one in op.after)),
    )  # fmt: skip
    made = on_path(one, _from_place_to_place([op.motion for op in members], over), machine)
    between = _seconds(made) - sum(_seconds(op) for op in members)  # whichever way is cut
    tried = {name: between + sum(dict(op.strategies).get(name, 0.0) for op in members) for name, _ in first.strategies}
    rows = tuple(
        replace(f, value=tried[name]) if (name := f.label.removesuffix(" instead")) in tried else f
        for f in made.figures
    )
    places = Figure("places", "alike features, one after the other", len(members), "")
    return replace(made, figures=(places, *rows), strategies=tuple(tried.items()))


def _seconds(op: Operation) -> float:
    return op.time.cut + op.time.rapid


def _from_place_to_place(motions: Sequence[Motion], over: float) -> Motion:
    """One after the other, always to the nearest that is left, at a level that is clear of all."""
    left = list(motions)
    strokes: list[Stroke] = list(left.pop(0).strokes)
    while left:
        at = strokes[-1].points[-1]
        nearest = min(range(len(left)), key=lambda k: (round(dist(at[:2], left[k].start[:2]), 6), k))
        then = left.pop(nearest)
        strokes += [*_way(at, then.start, over), *then.strokes]
    return replace(motions[0], strokes=tuple(strokes), reversals=sum(m.reversals for m in motions))


def _way(a: Vec, b: Vec, over: float) -> list[Stroke]:
    level = max(a[2], b[2], over)
    points = list(dict.fromkeys((a, (a[0], a[1], level), (b[0], b[1], level), b)))
    return [rapid(p, q) for p, q in pairwise(points)]


def _waiting(op: Operation, into: Mapping[str, str]) -> Operation:
    after = dict.fromkeys((into.get(id, id), why) for id, why in op.after)
    return replace(op, after=tuple(one for one in after if one[0] != op.id))


def _about(finding: Finding, into: Mapping[str, str]) -> Finding:
    if finding.operation not in into:
        return finding
    own = into[finding.operation]
    cures = tuple(Cure(cure.label, _changed(cure.change, finding.operation, own)) for cure in finding.cures)
    return replace(finding, operation=own, cures=cures)


def _changed(change: Mapping[str, Any], was: str, now: str) -> dict[str, Any]:
    return {key: now if value == was else value for key, value in change.items()}


def _said_once(findings: Sequence[Finding], of: Mapping[str, Alike]) -> list[Finding]:
    """What is said of several alike features, word for word but for their names, is said of all of them."""
    groups: dict[object, list[Finding]] = {}
    for one in findings:
        alike = of.get(one.features[0] if one.features else one.operation.split(".")[1] if one.operation else "")
        key = (one.code, alike.named(one.title), alike.named(one.why), one.operation) if alike else id(one)
        groups.setdefault(key, []).append(one)
    found = []
    for own in groups.values():
        if len(own) == 1:
            found.append(own[0])
            continue
        features = tuple(dict.fromkeys(f for one in own for f in one.features))
        alike = of[features[0] if features else own[0].operation.split(".")[1]]
        among = replace(alike, features=tuple(f for f in alike.features if not features or f in features))
        found.append(replace(own[0], title=among.named(own[0].title), why=among.named(own[0].why), features=features))
    return found
