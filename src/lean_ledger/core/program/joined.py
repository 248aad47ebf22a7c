"""All setups of a machine in one file: a main program that calls one setup's program after the other.

Between them it stops, so that the piece is turned over or clamped anew. Where the machine turns the part by itself its
sides are one setup and one program already.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.steps import Run
from lean_ledger.core.control.watch import Trouble, watched
from lean_ledger.core.program.checked import Checked
from lean_ledger.core.program.numbers import o_word
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.program.text import spoken
from lean_ledger.library.machines import Machine


@dataclass(frozen=True)
class Joined:
    """`parts` are the setups' own programs, run one after the other; `refused` says why they are not in one file."""

    machine: Machine
    file: str
    text: str
    parts: tuple[Checked, ...]
    run: Run | None
    troubles: tuple[Trouble, ...] = ()
    refused: str = ""

    @property
    def setups(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(id for one in self.parts for id in one.program.setups))


def joined_programs(programs: Sequence[Checked]) -> tuple[Joined, ...]:
    """One for each machine that makes more than one setup of the plan, in the order of the setups."""
    by_machine: dict[str, list[Checked]] = {}
    for one in programs:
        by_machine.setdefault(one.program.machine.id, []).append(one)
    several = [parts for parts in by_machine.values() if len({one.program.setup for one in parts}) > 1]
    return tuple(_joined(tuple(parts), number) for number, parts in enumerate(several, start=1))


def _joined(parts: tuple[Checked, ...], number: int) -> Joined:
    first = parts[0].program
    file = f"{o_word(number)}.{first.dialect.extension}"
    refused = _apart(parts)
    if refused:
        return Joined(first.machine, file, "", parts, None, (), refused)
    text = _text(parts, number)
    setting = replace(
        parts[0].setting,
        offsets={word: at for one in parts for word, at in one.setting.offsets.items()},
        lengths={n: length for one in parts for n, length in one.setting.lengths.items()},
        in_front={n: out for one in parts for n, out in one.setting.in_front.items()},
    )
    run = run_program(text, first.machine, setting)
    tools = frozenset(n for one in parts for n in tool_numbers(one.setup).values())
    return Joined(first.machine, file, text, parts, run, watched(run, first.machine, setting, tools))


def _apart(parts: Sequence[Checked]) -> str:
    """Why setups cannot be in one file; empty where they can."""
    if any(one.program.carriage for one in parts):
        return "each carriage of the machine runs programs of its own, one for each setup"
    dialects = dict.fromkeys(one.program.dialect.name for one in parts)
    if len(dialects) > 1:
        return f"they are written for different controls: {', '.join(dialects)}"
    called: dict[int, str] = {}
    for one in parts:
        for id, number in tool_numbers(one.setup).items():
            if called.setdefault(number, id) != id:
                return f"T{number} is another tool in setup {one.program.setup} than before it"
    return ""


def _text(parts: Sequence[Checked], number: int) -> str:
    dialect = parts[0].program.dialect
    names = ", ".join(id for one in parts for id in one.program.setups)
    main = [f"{o_word(number)} ({spoken(f'setups {names} on {parts[0].program.machine.name}')})"]
    bodies: list[str] = []
    for i, one in enumerate(parts):
        if i:
            held = [f"setup {s.words}: {s.decision.up} up, in {s.built.hold.fixture.name}" for s in one.setup.shares]
            main.append(f"M0 ({spoken('; '.join(held))})")
        lines = [line for line in one.program.text.split("\n") if line not in ("%", "")]
        main.append(f"M98 P{one.program.numbers.main}")
        end = lines.index(dialect.end)
        bodies += [*lines[:end], "M99", *lines[end + 1 :]]
    return "\n".join(["%", *main, dialect.end, *bodies, "%"]) + "\n"
