"""The order of a load's whole cycle: as it was found, sorted, moved by hand, or by a policy again."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.layout import load_in
from lean_ledger.core.changes.scene import Scene, Strict
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.ordering import Steps, checked_sequence, moved, sorted_by
from lean_ledger.core.order.plain import Key, SortKey
from lean_ledger.core.plan import Load, Plan

MOST_KEYS = 4


def _ledger(load: Load, scene: Scene) -> LoadLedger:
    """Raises PlanError for a load whose order is not anybody's to choose."""
    found = scene.ledger.load_of(load.setups[0])
    if found.where.load.arrangement.on_bar > 1:
        raise PlanError("on-bar", "on a bar each piece is cut off before the next is come to: order the operations of "
                        "its setup", found.decision.id)  # fmt: skip
    return found


def _with(plan: Plan, load: Load, sequence: Steps) -> Plan:
    return plan.with_load(replace(load, by="hand", sequence=sequence))


@dataclass(frozen=True)
class SetSequence(Strict):
    """(piece, operation) of the whole cycle, each once; `found`: it came from a search, in whose words."""

    load: str
    sequence: tuple[tuple[str, str], ...]
    found: str = ""
    change: Literal["set-sequence"] = "set-sequence"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        sequence = checked_sequence(_ledger(load, scene), self.sequence)
        return _with(plan, load, sequence), f"load {load.id}: {self.found or 'order of the whole cycle set'}"


@dataclass(frozen=True)
class MoveSteps(Strict):
    """Some steps one behind the other, the first of them at a position, counted from 0 without them."""

    load: str
    steps: tuple[tuple[str, str], ...]
    to: int
    change: Literal["move-steps"] = "move-steps"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        sequence = moved(_ledger(load, scene), self.steps, self.to)
        what = f"{len(self.steps)} steps" if len(self.steps) > 1 else "a step"
        return _with(plan, load, sequence), f"load {load.id}: {what} moved to {self.to + 1}"


@dataclass(frozen=True)
class SortKeyBody(Strict):
    by: Key
    values: tuple[str, ...] = ()


@dataclass(frozen=True)
class SortSteps(Strict):
    """By several keys, the first one first; what is named in `values` comes in that order."""

    load: str
    keys: tuple[SortKeyBody, ...]
    change: Literal["sort-steps"] = "sort-steps"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        if not 1 <= len(self.keys) <= MOST_KEYS or len({key.by for key in self.keys}) < len(self.keys):
            raise PlanError("sort-keys", f"1 to {MOST_KEYS} keys are sorted by, each once")
        sequence = sorted_by(_ledger(load, scene), [SortKey(key.by, key.values) for key in self.keys])
        return _with(plan, load, sequence), f"load {load.id}: sorted by {', '.join(key.by for key in self.keys)}"
