"""What comes before what by hand, what is overruled, what stays whole, and what is taken out for now."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.layout import load_in
from lean_ledger.core.changes.scene import Scene, Strict
from lean_ledger.core.loads.ordering import cycle_of, kept_whole, runs_in
from lean_ledger.core.loads.sequence import decided
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.order.problem import circle_in
from lean_ledger.core.plan import Load, Plan, Precedence

MOST_NOTE = 200


def _operations(load: Load, scene: Scene) -> dict[str, Operation]:
    ledger = scene.ledger.load_of(load.setups[0])
    return {op.id: op for share in ledger.shares for op in share.built.operations}


def _two(load: Load, scene: Scene, first: str, then: str) -> tuple[Operation, Operation]:
    """Raises PlanError for what is no two operations of one setup."""
    known = _operations(load, scene)
    for id in (first, then):
        if id not in known:
            raise PlanError("no-such-operation", f"load {load.id} has no operation {id!r}")
    if first == then or known[first].setup != known[then].setup:
        raise PlanError("two-operations", "two operations of one setup come one before the other", known[then].setup)
    return known[first], known[then]


def _check_circle(load: Load, operations: Sequence[Operation]) -> None:
    """Raises PlanError precedence-cycle, naming it."""
    own = decided(operations, load)
    at = {op.id: k for k, op in enumerate(own)}
    circle = circle_in(len(own), [(at[before], at[op.id]) for op in own for before, _ in op.after if before in at])
    if circle:
        names = " → ".join(f"“{own[k].name}”" for k in (*circle, circle[0]))
        raise PlanError("precedence-cycle", f"these would wait for one another: {names}", own[circle[0]].setup)


@dataclass(frozen=True)
class ComeBefore(Strict):
    """Of two operations of a setup the first comes before the second at each piece; `note` says why."""

    load: str
    first: str
    then: str
    note: str = ""
    change: Literal["come-before"] = "come-before"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        first, then = _two(load, scene, self.first, self.then)
        rest = tuple(one for one in load.before if (one.first, one.then) != (self.first, self.then))
        changed = replace(load, before=(*rest, Precedence(self.first, self.then, self.note[:MOST_NOTE])))
        _check_circle(changed, list(_operations(load, scene).values()))
        return plan.with_load(changed), f"“{first.name}” before “{then.name}”"


@dataclass(frozen=True)
class NotBefore(Strict):
    """A precedence that was made by hand is taken away."""

    load: str
    first: str
    then: str
    change: Literal["not-before"] = "not-before"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        rest = tuple(one for one in load.before if (one.first, one.then) != (self.first, self.then))
        if len(rest) == len(load.before):
            raise PlanError("not-by-hand", "what the rules know is overruled with a note, not taken away")
        return plan.with_load(replace(load, before=rest)), f"load {load.id}: a precedence by hand taken away"


@dataclass(frozen=True)
class Overrule(Strict):
    """A precedence that the rules know does not hold here; the note stays on the sheet. Without one it holds again."""

    load: str
    first: str
    then: str
    note: str = ""
    change: Literal["overrule"] = "overrule"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        first, then = _two(load, scene, self.first, self.then)
        rest = tuple(one for one in load.overruled if (one.first, one.then) != (self.first, self.then))
        note = self.note.strip()[:MOST_NOTE]
        if not note:
            if len(rest) == len(load.overruled):
                raise PlanError("needs-a-note", "a precedence is overruled with a note that says why", then.setup)
            changed = replace(load, overruled=rest)
            _check_circle(changed, list(_operations(load, scene).values()))
            return plan.with_load(changed), f"“{first.name}” before “{then.name}” again"
        if all(before != self.first for before, _ in then.after):
            raise PlanError("no-precedence", f"“{then.name}” does not wait for “{first.name}”", then.setup)
        changed = replace(load, overruled=(*rest, Precedence(self.first, self.then, note)))
        return plan.with_load(changed), f"“{then.name}” need not wait for “{first.name}”: {note}"


@dataclass(frozen=True)
class TakeOut(Strict):
    """An operation that does not run for now; it stays, marked, and the sheet says so."""

    load: str
    operation: str
    out: bool = True
    change: Literal["take-out"] = "take-out"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        op = _operations(load, scene).get(self.operation)
        if op is None:
            raise PlanError("no-such-operation", f"load {load.id} has no operation {self.operation!r}")
        rest = tuple(id for id in load.out if id != op.id)
        changed = replace(load, out=(*rest, op.id) if self.out else rest)
        return plan.with_load(changed), f"“{op.name}” {'taken out for now' if self.out else 'put back'}"


@dataclass(frozen=True)
class LockSteps(Strict):
    """Steps of the cycle that stand one behind the other stay so, whatever is sorted, moved or found around them."""

    load: str
    steps: tuple[tuple[str, str], ...]
    locked: bool = True
    change: Literal["lock-steps"] = "lock-steps"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        cycle = cycle_of(scene.ledger.load_of(load.setups[0]))
        sequence = cycle.sequence(range(len(cycle.steps)))
        chosen = set(self.steps)
        rest = tuple(run for run in load.locked if not chosen & set(run))
        if not self.locked:
            return plan.with_load(replace(load, locked=rest)), f"load {load.id}: a run unlocked"
        at = [k for k, step in enumerate(sequence) if step in chosen]
        if len(at) < 2 or len(at) < len(chosen) or at[-1] - at[0] != len(at) - 1:
            raise PlanError("no-run", "a run is two steps or more that stand one right behind the other")
        run = tuple(sequence[k] for k in at)
        changed = replace(load, locked=(*rest, run), by="hand", sequence=sequence)
        problem = cycle.problem()
        if kept_whole(problem, runs_in(changed, cycle.steps)).runs == ():
            raise PlanError("no-run", "runs that are locked would wait for one another")
        return plan.with_load(changed), f"load {load.id}: {len(run)} steps stay one behind the other"
