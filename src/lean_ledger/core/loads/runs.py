"""What a quantity takes of a load: whole cycles, and with several setups in it those that fill and empty it."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, replace
from functools import lru_cache

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.same import Same
from lean_ledger.core.loads.lanes import timeline_of
from lean_ledger.core.loads.load_ledger import LoadLedger


@dataclass(frozen=True)
class Selection:
    """What of a load is to be run; what is empty leaves nothing out."""

    setups: tuple[str, ...] = ()
    pieces: tuple[str, ...] = ()
    sides: tuple[float, ...] = ()
    positions: tuple[int, ...] = ()  # of a drum

    @property
    def words(self) -> str:
        said = [f"setup {', '.join(self.setups)}"] if self.setups else []
        said += [f"piece {', '.join(self.pieces)}"] if self.pieces else []
        said += [f"side {', '.join(f'{side:g}°' for side in self.sides)}"] if self.sides else []
        said += [f"position {', '.join(map(str, self.positions))}"] if self.positions else []
        return "only " + ", ".join(said) if said else "the whole load"


def reduced(load: LoadLedger, selection: Selection) -> LoadLedger:
    """A load with some of its calls only, the ways between them made anew; the plan and the places stay.

    Raises PlanError behind-others for a piece on a bar that others stand in front of.
    """
    there = [one.place.id for one in load.where.placed]
    first = tuple(there[: len(selection.pieces)])
    if load.where.load.arrangement.on_bar > 1 and selection.pieces and set(selection.pieces) != set(first):
        raise PlanError("behind-others", "on a bar a piece is come to once those in front of it are cut off: run the "
                        "first ones")  # fmt: skip
    return _reduced(Same(load), selection)


@lru_cache(maxsize=64)
def _reduced(load: Same[LoadLedger], selection: Selection) -> LoadLedger:
    whole = load.value
    placed = {one.place.id: one for one in whole.where.placed}

    def runs(place: str) -> bool:
        one = placed[place]
        return (
            _takes(selection.setups, one.decision.id) and _takes(selection.pieces, place)
            and _takes(selection.sides, one.side)
        )  # fmt: skip

    made_with = whole.where.made_with
    at = {one.id: one.position for one in whole.machine.carriages}
    calls = [c for c in whole.timeline.calls if any(runs(piece) for piece in made_with(c.place, c.operation.id))
             and _takes(selection.positions, at.get(c.carriage, 0))]  # fmt: skip
    steps = [(placed[call.place], call.operation) for call in calls]
    foreign = {call.operation.id: call.foreign for call in calls if call.foreign is not None}
    return replace(whole, timeline=timeline_of(steps, whole.where, whole.machine, foreign), foreign=None)


def _takes(chosen: Collection[object], value: object) -> bool:
    return not chosen or value in chosen


@dataclass(frozen=True)
class Run:
    """A quantity in one load: `cycles` with their setups and how often each is run, in their order."""

    quantity: int
    cycles: tuple[tuple[tuple[str, ...], int], ...]
    seconds: float  # on the machine, loading left out
    last: int  # pieces of the last load of the first setup

    @property
    def loads(self) -> int:
        return sum(count for _, count in self.cycles)


def run_of(load: LoadLedger, quantity: int) -> Run:
    """Every setup of a load takes each piece in its turn: with two of them the first cycle has nothing yet for the
    second, the last nothing more for the first.

    10 pieces, 3 a cycle, two setups: four loads of the first, so 1 that fills, 3 whole ones, 1 that empties.
    """
    setups, each = load.load.setups, load.pieces
    batches = -(-quantity // each)
    cycles: list[tuple[tuple[str, ...], int]] = []
    for number in range(1, batches + len(setups)):
        runs = tuple(setup for k, setup in enumerate(setups) if 1 <= number - k <= batches)
        if cycles and cycles[-1][0] == runs:
            cycles[-1] = (runs, cycles[-1][1] + 1)
        else:
            cycles.append((runs, 1))
    seconds = sum(count * seconds_of_cycle(load, runs) for runs, count in cycles)
    return Run(quantity, tuple(cycles), seconds, quantity - each * (batches - 1))


def seconds_of_cycle(load: LoadLedger, setups: tuple[str, ...]) -> float:
    """Seconds of a cycle that makes some of a load's setups."""
    return load.cycle if setups == load.load.setups else reduced(load, Selection(setups)).cycle


def filling_seconds(load: LoadLedger) -> float:
    """What filling and emptying a load cost a batch beyond its whole cycles: Σ of the cycles with the first setups and
    of those with the last ones, less one whole cycle for each pair of them.

    Setups of 60 and 40 s that share one change of 4 s: whole 96, filling and emptying 100: 4 s a batch. A drum of six
    spindles gives its first piece with the sixth cycle: five more.
    """
    setups = load.load.setups
    if load.machine.drum is not None:
        return (load.machine.drum.positions - 1) * load.cycle
    parts = [setups[:k] for k in range(1, len(setups))] + [setups[k:] for k in range(1, len(setups))]
    return sum(seconds_of_cycle(load, part) for part in parts) - (len(setups) - 1) * load.cycle if parts else 0.0
