"""The programs of a plan: main programs that call one subprogram for each operation at a setup's work offset.

The motion is the ledger's own: what is written here is what was timed there, so that the simulated machine finds the
same seconds. Another piece on the same machine is another work offset and another call.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.control.setting import MARKS
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.offsets import NOWHERE, WorkOffset, offsets_of
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.runs import Selection, reduced
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.asked import Asked, SetupProgram
from lean_ledger.core.program.numbers import Numbers, program_numbers, subprograms
from lean_ledger.core.program.writer import Writer
from lean_ledger.library.dialects import Dialect, dialect_of


def programs_of(ledger: Ledger, part: Part, words: str, dialects: Sequence[Dialect] = ()) -> tuple[SetupProgram, ...]:
    """One program for each load that has operations, in their order, and each carriage that does some of them;
    `words` name job and revision.

    Raises PlanError where a control has too few work offsets, or there are more subprograms than numbers.
    """
    book = _Book.of(ledger, part, words, dialects)
    return tuple(one for k, load in enumerate(ledger.loads) if load.calls for one in book.written(k, load))


def programs_of_part(
    ledger: Ledger, part: Part, words: str, load_id: str, selection: Selection
) -> tuple[SetupProgram, ...]:
    """What a load's programs call of some setups, pieces or sides only, with the subprograms that the whole one has.

    Raises PlanError as `programs_of` does, and where nothing is left to run.
    """
    k = next((k for k, load in enumerate(ledger.loads) if load.load.id == load_id), None)
    if k is None:
        raise PlanError("no-load", f"there is no load {load_id}")
    found = reduced(ledger.loads[k], selection)
    if not found.calls:
        raise PlanError("nothing-left", f"load {load_id} has nothing to run with {selection.words}")
    return _Book.of(ledger, part, f"{words} {selection.words}", ()).written(k, found)


@dataclass(frozen=True)
class _Book:
    """All that the programs of a plan are written from."""

    ledger: Ledger
    words: str
    dialects: Sequence[Dialect]
    offsets: tuple[WorkOffset, ...]
    numbers: Mapping[tuple[int, str], Numbers]  # by load and carriage
    open_findings: int

    @staticmethod
    def of(ledger: Ledger, part: Part, words: str, dialects: Sequence[Dialect]) -> _Book:
        errors = sum(f.severity == Severity.ERROR for f in ledger.findings)
        lanes = {(k, lane.carriage): load.on(lane.carriage)
                 for k, load in enumerate(ledger.loads) for lane in load.timeline.lanes}  # fmt: skip
        numbers = program_numbers([len(subprograms(one)) for one in lanes.values()])
        by_lane = dict(zip(lanes, numbers, strict=True))
        return _Book(ledger, words, dialects, offsets_of(ledger, part), by_lane, errors)

    def written(self, k: int, load: LoadLedger) -> tuple[SetupProgram, ...]:
        """Of each carriage of a load, which may be reduced to some of its calls."""
        lanes = [lane.carriage for lane in load.timeline.lanes if lane.calls]
        return tuple(self._of_lane(k, load, carriage) for carriage in lanes)

    def _of_lane(self, k: int, together: LoadLedger, carriage: str) -> SetupProgram:
        full, numbers = self.ledger.loads[k], self.numbers[k, carriage]
        load = together.on(carriage)
        dialect = next(
            (d for d in self.dialects if d.fits(together.machine)), dialect_of(together.machine, load.load.dialect)
        )
        own = tuple(o for o in self.offsets if o.setup in load.load.setups)
        if not all(o.word for o in own):
            raise PlanError(
                "too-few-offsets",
                f"{load.machine.name} has fewer work offsets than the plan asks for; use fewer zeros",
                load.decision.id,
            )
        if any(o.local != NOWHERE for o in own) and not dialect.local:
            raise PlanError(
                "no-local-zero", f"{dialect.name} has no word for pieces that share a work offset; give each its own",
                load.decision.id,
            )  # fmt: skip
        _check_motions(load, dialect)
        if len(load.timeline.marks) > MARKS:
            raise PlanError(
                "too-many-marks", f"{dialect.name} has {MARKS} wait marks, this cycle asks for "
                f"{len(load.timeline.marks)}; put fewer pieces into an advance", load.decision.id,
            )  # fmt: skip
        positions = subprograms(full.on(carriage))
        numbers = numbers if together is full else numbers.of_a_part
        asked = Asked(numbers, together, load, own, dialect, self.words, positions, self.open_findings)
        return Writer(asked).program()


def _check_motions(setup: LoadLedger, dialect: Dialect) -> None:
    for entry in setup.calls:
        motion = entry.operation.motion
        if (motion.probes and not dialect.probe) or (motion.lead and not dialect.thread):
            what = "probes" if motion.probes else "turns a thread"
            raise PlanError(
                "no-such-motion",
                f"{dialect.name} has no word for {entry.operation.name}, which {what}; take another control",
                setup.decision.id,
            )
