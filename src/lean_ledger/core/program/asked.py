"""What a program is written from, and what comes of it."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from lean_ledger.core.ledger.offsets import WorkOffset
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.program.numbers import Numbers
from lean_ledger.library.dialects import Dialect
from lean_ledger.library.machines import Machine


@dataclass(frozen=True)
class SetupProgram:
    """Of a load, and of one carriage of its machine; `setup` is the first that lies in it. `calls` names each
    subprogram's operation; `offsets` are those that the text uses.
    """

    setup: str
    setups: tuple[str, ...]
    machine: Machine
    dialect: Dialect
    file: str
    text: str
    calls: tuple[tuple[int, str], ...]
    offsets: tuple[WorkOffset, ...]
    numbers: Numbers
    carriage: str = ""  # where the machine has several

    @property
    def name(self) -> str:
        """Of its file before what the file is, for files that stand side by side: "S1-S2", "S1-turret-2"."""
        return "-".join((*self.setups, *self.carriage.split()))

    @property
    def lines_of_numbers(self) -> dict[int, int]:
        """The line, counted from 1, at which each program and subprogram of the text begins."""
        found = (re.match(r"O(\d+)", line) for line in self.text.split("\n"))
        return {int(begins[1]): at for at, begins in enumerate(found, start=1) if begins is not None}


@dataclass(frozen=True)
class Asked:
    """What a program is written from: what one carriage `does` of a load, or all of it where the machine has one.

    `positions` are those of each subprogram among all that the carriage calls in the whole load.
    """

    numbers: Numbers
    load: LoadLedger
    does: LoadLedger
    offsets: tuple[WorkOffset, ...]
    dialect: Dialect
    words: str
    positions: Mapping[tuple[str, int], int]
    open_findings: int  # that stop the plan's release: the text says so

    @property
    def carriage(self) -> str:
        """Empty where the machine has one."""
        return self.does.timeline.lanes[0].carriage if self.load.machine.works_at_once else ""

    @property
    def stops(self) -> bool:
        """Whether it stops the spindle at its end: of several paths the last."""
        lanes = self.load.timeline.lanes
        return self.does.timeline.lanes[0].carriage == max(lanes, key=lambda lane: lane.end).carriage
