"""The programs of a plan, each run on the simulated machine of its setup."""

from __future__ import annotations

from dataclasses import dataclass

from lean_ledger.core.control.setting import Setting
from lean_ledger.core.control.steps import Run
from lean_ledger.core.control.watch import Trouble, watched
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.agree import Agreement, agreement, run_of, setting_of
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.program.write import SetupProgram, programs_of


@dataclass(frozen=True)
class Checked:
    """A setup's program, what the control is told beside it, and what the machine made of it."""

    program: SetupProgram
    setup: LoadLedger
    setting: Setting
    run: Run
    agreement: Agreement
    troubles: tuple[Trouble, ...]

    @property
    def non_cutting(self) -> float:
        """Share of the cycle in which no tool cuts."""
        total = self.run.total
        return 1 - self.agreement.machine["cutting"] / total if total else 0.0


def checked_programs(ledger: Ledger, part: Part, words: str) -> tuple[Checked, ...]:
    """Raises PlanError as `programs_of` does."""
    found = []
    for program in programs_of(ledger, part, words):
        setup = ledger.load_of(program.setup)
        setting = setting_of(program, setup)
        run = run_of(program, setup)
        troubles = watched(run, setup.machine, setting, frozenset(tool_numbers(setup).values()))
        found.append(Checked(program, setup, setting, run, agreement(run, setup), troubles))
    return tuple(found)
