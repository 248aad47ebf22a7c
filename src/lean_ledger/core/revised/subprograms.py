"""Which subprograms another revision changes, and which stay to the byte."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from lean_ledger.core.program.asked import SetupProgram

Stays = Literal["same", "renumbered", "changed", "new", "gone"]


@dataclass(frozen=True)
class Subprogram:
    """Of an operation. `same`: to the byte; `renumbered`: only its number is another, every move is the same."""

    program: str  # the name of the file that it is in
    operation: str
    number: int  # the new one; of one that is gone its old
    stays: Stays


def subprograms(before: Sequence[SetupProgram], after: Sequence[SetupProgram]) -> tuple[Subprogram, ...]:
    """Each of the new programs, in their order, then those that are gone."""
    old = {one.key: (one.number, one.lines) for one in _bodies(before)}
    found = []
    for one in _bodies(after):
        was, body = old.pop(one.key, None), one.lines
        if was is None:
            stays: Stays = "new"
        elif was[1][1:] != body[1:]:  # the first line is its number and name
            stays = "changed"
        else:
            stays = "same" if was[1] == body else "renumbered"
        found.append(Subprogram(*one.key[:2], one.number, stays))
    return (*found, *(Subprogram(program, op, number, "gone") for (program, op, _), (number, _) in old.items()))


@dataclass(frozen=True)
class _Body:
    """`key`: its program, operation, and which of those it is: pieces that are turned have one more."""

    key: tuple[str, str, int]
    number: int
    lines: list[str]


def _bodies(programs: Sequence[SetupProgram]) -> Iterator[_Body]:
    for program in programs:
        lines = program.text.split("\n")
        at = program.lines_of_numbers
        begins = sorted(at.values())
        many: Counter[str] = Counter()
        for number, operation in program.calls:
            key = (program.name, operation, many[operation])
            many[operation] += 1
            first = at[number]
            last = next((line for line in begins if line > first), len(lines) + 1)
            yield _Body(key, number, [line for line in lines[first - 1 : last - 1] if line])
