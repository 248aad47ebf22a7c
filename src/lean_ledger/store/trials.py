"""Programs tried in the stock: the plan's own, or one from elsewhere that stands for a whole setup."""

from __future__ import annotations

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.host import Cancelled, never
from lean_ledger.core.geometry.progress import Report, silent
from lean_ledger.core.program.asked import SetupProgram
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.program.trial import Trial, TrialResult, plan_until, result_of, trial_of, trial_of_paths
from lean_ledger.core.program.write import programs_of
from lean_ledger.store.desk import Desk
from lean_ledger.store.opened import Opened

ATTACHED = "attached"


def try_program(
    desk: Desk, plan_id: int, setup: str, which: str, report: Report = silent, cancelled: Cancelled = never
) -> tuple[Trial, TrialResult]:
    """Follow the stock through a program; `which` is ATTACHED, or the plan's own is meant.

    Raises ProgramError and PlanError, as `trial_of` does, and PlanError where there is no such program.
    """
    opened = desk.open(plan_id, with_stock=False)
    part, ledger = opened.part, opened.ledger
    if which == ATTACHED:
        text = _attached(opened, setup)
        trial = trial_of(part, ledger, opened.shelf.library, setup, text)
    else:
        own = _own(opened, setup)
        text = "\n".join(one.text for one in own)
        machine = ledger.load_of(setup).machine
        if machine.works_at_once or machine.counter is not None:
            ran = [one for one in checked_programs(ledger, part, opened.job.number) if setup in one.program.setups]
            trial = trial_of_paths(part, ledger, setup, ran)
        else:
            trial = trial_of(part, ledger, opened.shelf.library, setup, text, own[0])
    course, _ = plan_until(part, ledger, setup)
    key = (plan_id, opened.edition, opened.shelf.number, setup)
    found = desk.stocks.tried(("trial", *key, text), trial.course, report, cancelled)
    return trial, result_of(trial, found, desk.stocks.tried(("until", *key), course, report, cancelled))


def _attached(opened: Opened, setup: str) -> str:
    attached = opened.plan.attached_to(setup)
    program = next((p for p in opened.part.programs if attached is not None and p.key == attached.key), None)
    if program is None:
        raise PlanError("no-program", f"no program from elsewhere stands for all of {setup}", setup)
    return program.text


def _own(opened: Opened, setup: str) -> list[SetupProgram]:
    """Of each carriage of its load."""
    opened.plan.setup(setup)
    own = [p for p in programs_of(opened.ledger, opened.part, opened.job.number) if setup in p.setups]
    if not own:
        raise PlanError("no-program", f"setup {setup} has no operation to write a program for", setup)
    return own
