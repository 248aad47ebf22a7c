"""What was set by hand the last time: for the same kind of operation with the same tool in the same material."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.plan import SETTABLE, OperationEdit, ValueName, value_words

Values = Mapping[ValueName, float | str]


@dataclass(frozen=True)
class LastUsed:
    """Values for an operation that has none of its own, and the job that they come from."""

    operation: str
    values: Values
    source: str


@dataclass(frozen=True)
class Habit:
    """What was set by hand for a kind of operation with a tool."""

    kind: str
    tool: str
    values: Values


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
    known: dict[tuple[str, str], tuple[str, Values]] = {}
    for label, habits in others:
        for habit in habits:
            known.setdefault((habit.kind, habit.tool), (label, habit.values))
    found = []
    for op in ledger.operations:
        there = known.get((op.kind.value, op.tool.id))
        if there is None or not ledger.plan.edit_of(op.id).is_empty:
            continue
        label, values = there
        able = {name: value for name, value in values.items() if name in op.settable}
        if able:
            found.append(LastUsed(op.id, able, label))
    return tuple(found)


def carried(edit: OperationEdit) -> Values:
    return {name: value for name, value in edit.given.items() if SETTABLE[name].carried}


def words_of(values: Values) -> str:
    """As the page says them: "speed 110 %, ae 3.2, in steps"."""
    return ", ".join(value_words(name, value) for name, value in values.items())
