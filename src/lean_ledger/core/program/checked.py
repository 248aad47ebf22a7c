"""The programs of a plan, each run on the simulated machine of its setup."""

from __future__ import annotations

from dataclasses import dataclass

from lean_ledger.core.control.setting import Setting
from lean_ledger.core.control.steps import Run
from lean_ledger.core.control.watch import Trouble, watched
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.runs import Selection, reduced
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.agree import Agreement, agreement, run_of, setting_of
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.program.write import SetupProgram, program_of_part, programs_of


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
    loads = {load.load.setups[0]: load for load in ledger.loads}
    return tuple(_checked(program, loads[program.setup]) for program in programs_of(ledger, part, words))


def checked_part(ledger: Ledger, part: Part, words: str, load_id: str, selection: Selection) -> Checked:
    """The program of a part of a load. Raises PlanError as `program_of_part` does."""
    program = program_of_part(ledger, part, words, load_id, selection)
    return _checked(program, reduced(ledger.load_of(program.setup), selection))


def _checked(program: SetupProgram, load: LoadLedger) -> Checked:
    setting = setting_of(program, load)
    run = run_of(program, load)
    troubles = watched(run, load.machine, setting, frozenset(tool_numbers(load).values()))
    return Checked(program, load, setting, run, agreement(run, load), troubles)
