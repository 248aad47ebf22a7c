"""The programs of a plan, each run on the simulated machine of its setup; those of a machine's carriages together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

from lean_ledger.core.control.setting import Setting
from lean_ledger.core.control.steps import Run
from lean_ledger.core.control.together import run_together
from lean_ledger.core.control.watch import Trouble, watched
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.runs import Selection, reduced
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.agree import Agreement, agreement, run_of, setting_of
from lean_ledger.core.program.asked import SetupProgram
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.program.write import programs_of, programs_of_part


@dataclass(frozen=True)
class Checked:
    """A program, what the control is told beside it, and what the machine made of it; of a machine with several
    carriages `setup` is what this one does of the load.
    """

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
    programs = programs_of(ledger, part, words)
    by_load = groupby(programs, key=lambda program: program.setup)
    return tuple(one for setup, own in by_load for one in _checked(list(own), loads[setup]))


def checked_part(ledger: Ledger, part: Part, words: str, load_id: str, selection: Selection) -> tuple[Checked, ...]:
    """The programs of a part of a load. Raises PlanError as `programs_of_part` does."""
    programs = programs_of_part(ledger, part, words, load_id, selection)
    return _checked(programs, reduced(ledger.load_of(programs[0].setup), selection))


def _checked(programs: Sequence[SetupProgram], load: LoadLedger) -> tuple[Checked, ...]:
    lanes = [load.on(program.carriage) if program.carriage else load for program in programs]
    runs = [run_of(program, lane) for program, lane in zip(programs, lanes, strict=True)]
    shared: Sequence[tuple[Trouble, ...]] = [() for _ in runs]
    if load.machine.works_at_once:
        drum = load.machine.drum
        starts = [one.spindle.start for one in load.machine.work_spindles] * (drum.positions if drum else 1)
        beside = run_together(runs, starts, [lane.machine.carriages[0].position - 1 for lane in lanes] if drum else ())
        runs, shared = list(beside.runs), beside.troubles
    found = []
    for program, lane, run, more in zip(programs, lanes, runs, shared, strict=True):
        setting = setting_of(program, lane)
        own = watched(run, lane.machine, setting, frozenset(tool_numbers(lane).values()))
        troubles = tuple(sorted((*own, *more), key=lambda t: t.line))
        found.append(Checked(program, lane, setting, run, agreement(run, lane), troubles))
    return tuple(found)
