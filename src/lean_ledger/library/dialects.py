"""How programs are written for a kind of control; the words are ISO 6983's, the rest is data."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal

from lean_ledger.library.machines import Machine


@dataclass(frozen=True)
class Dialect:
    """`clamp` and `unclamp` are empty where the rotary clamps by itself; `cycles` are those that the control has."""

    id: str
    name: str
    kind: Literal["mill", "lathe"]
    extension: str
    decimals: int
    safe_start: tuple[str, ...]
    change: str
    length: str
    coolant: str
    coolant_off: str
    end: str
    cycles: frozenset[int]
    clamp: str = ""
    unclamp: str = ""
    probe: int = 0  # G code; 0 where the control has none
    thread: int = 0
    wait: int = 0  # M code of the first wait mark, the next ones count on; 0 where the control has one path
    local: int = 0  # that shifts the zero for pieces on one work offset
    spindles: tuple[str, ...] = ()  # M codes after which words mean the main spindle, or the counter spindle and its Z
    index: str = ""  # M codes of a drum of spindles: goes on by a position,
    feed: str = ""  # feeds the bar
    drive: str = ""  # M code that starts a driven tool, where work spindles are told apart
    eject: str = ""  # M codes of a counter spindle: throws the finished piece out,
    synchronise: str = ""  # turns with the main one,
    close: str = ""  # closes on the piece
    loosen: str = ""  # M codes of the main spindle's collet, while the counter spindle has the bar: it opens,
    grip: str = ""  # closes again; empty where the control does not pull bars

    def fits(self, machine: Machine) -> bool:
        """A lathe's control counts X as a diameter and knows other cycles than a mill's; one of several paths has marks
        at which they wait for one another, one of a counter spindle codes that say which spindle is
        meant, one of a drum what indexes it.
        """
        has = (self.kind == "lathe", self.wait > 0, bool(self.spindles), bool(self.index))
        return has == (
            machine.turns_work, machine.works_at_once, machine.counter is not None, machine.drum is not None
        )  # fmt: skip


@cache
def shipped_dialects() -> tuple[Dialect, ...]:
    """The first of a kind is what a machine of that kind is written for unless another is asked for."""
    text = (files("lean_ledger.library") / "data" / "dialects.toml").read_text(encoding="utf-8")
    return tuple(
        Dialect(
            **{
                **row,
                "safe_start": tuple(row["safe_start"]),
                "cycles": frozenset(row["cycles"]),
                "spindles": tuple(row.get("spindles", ())),
            }
        )
        for row in tomllib.loads(text)["dialect"]
    )


def dialects_for(machine: Machine) -> tuple[Dialect, ...]:
    """Those that a machine can be written for, the usual one first."""
    return tuple(d for d in shipped_dialects() if d.fits(machine))


def dialect_of(machine: Machine, wanted: str | None = None) -> Dialect:
    """The one that is asked for where the machine's kind has it, else the usual one."""
    able = dialects_for(machine)
    return next((d for d in able if d.id == wanted), able[0])
