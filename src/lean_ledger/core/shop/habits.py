"""What was set by hand the last time: for the same kind of operation with the same tool in the same material."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields

from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.plan import OperationEdit

#: What carries on from one job to the next; a tool is the rules' to choose, and depths are the part's.
CARRIED = ("speed", "feed", "n", "vf", "ap", "ae", "allowance", "strategy", "direction")


@dataclass(frozen=True)
class LastUsed:
    """Values for an operation that has none of its own, and the job that they come from."""

    operation: str
    values: Mapping[str, float | str]
    source: str


@dataclass(frozen=True)
class Habit:
    """What was set by hand for a kind of operation with a tool."""

    kind: str
    tool: str
    values: Mapping[str, float | str]


def habits_of(ledger: Ledger) -> tuple[Habit, ...]:
    """What a plan sets by hand, the first of each kind of operation and tool."""
    found: dict[tuple[str, str], Habit] = {}
    for op in ledger.operations:
        values = carried(ledger.plan.edit_of(op.id))
        if values:
            found.setdefault((op.kind.value, op.tool.id), Habit(op.kind.value, op.tool.id, values))
    return tuple(found.values())


def last_used(ledger: Ledger, others: Sequence[tuple[str, Sequence[Habit]]]) -> tuple[LastUsed, ...]:
    """For each operation on which nothing is set.

    `others` are the habits of other plans in the same material, what was changed last first.
    """
    known: dict[tuple[str, str], tuple[str, Mapping[str, float | str]]] = {}
    for label, habits in others:
        for habit in habits:
            known.setdefault((habit.kind, habit.tool), (label, habit.values))
    found = []
    for op in ledger.operations:
        there = known.get((op.kind.value, op.tool.id))
        if there is None or not ledger.plan.edit_of(op.id).is_empty:
            continue
        label, values = there
        able = {
            name: value
            for name, value in values.items()
            if not (name == "strategy" and not op.strategy) and not (name == "direction" and not op.direction)
        }
        if able:
            found.append(LastUsed(op.id, able, label))
    return tuple(found)


def carried(edit: OperationEdit) -> Mapping[str, float | str]:
    return {f.name: value for f in fields(edit) if f.name in CARRIED and (value := getattr(edit, f.name)) is not None}


def words_of(values: Mapping[str, float | str]) -> str:
    """As the page says them: "speed 110 %, ae 3.2, in steps"."""

    def one(name: str, value: float | str) -> str:
        if isinstance(value, str):
            return value
        return f"{name} {100 * value:.0f} %" if name in ("speed", "feed") else f"{name} {value:g}"

    return ", ".join(one(name, value) for name, value in values.items())
