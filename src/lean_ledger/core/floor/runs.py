"""Runs that came back from machines, beside what they were planned at."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from statistics import fmean

from lean_ledger.core.floor.measured import Observation

NOT_ITS_OWN = frozenset({"waiting"})  # of a machine's time: what it waits for others says nothing about it


@dataclass(frozen=True)
class Section:
    """What a tool took in a run, of one category: seconds by the machine's data, and measured."""

    tool: str
    category: str
    planned: float
    actual: float


@dataclass(frozen=True)
class RunRecord:
    """One cycle of a program; `load` in the plan's words, `name` tells it from the others of its program."""

    job: str
    plan: int
    version: int
    load: str
    machine: str  # its id
    program: str
    name: str
    at: datetime
    sections: tuple[Section, ...]

    @property
    def planned(self) -> float:
        return sum(one.planned for one in self.sections)

    @property
    def actual(self) -> float:
        return sum(one.actual for one in self.sections)


@dataclass(frozen=True)
class Beside:
    """An estimate beside what it turned out to be: seconds, the mean of so many."""

    what: str
    planned: float
    actual: float
    count: int

    @property
    def over(self) -> float:
        """Share of the estimate that it took more."""
        return self.actual / self.planned - 1 if self.planned else 0.0


def observations(runs: Iterable[RunRecord]) -> list[Observation]:
    """Of each run one a category."""
    found = []
    for run in runs:
        for category in dict.fromkeys(one.category for one in run.sections):
            if category not in NOT_ITS_OWN:
                own = [one for one in run.sections if one.category == category]
                planned, actual = sum(one.planned for one in own), sum(one.actual for one in own)
                program = f"{run.job} {run.program}"
                found.append(Observation(run.machine, category, program, f"{program}, {run.name}", planned, actual))
    return found


def by_category(runs: Sequence[RunRecord]) -> tuple[Beside, ...]:
    return _beside(runs, lambda one: one.category)


def by_tool(runs: Sequence[RunRecord]) -> tuple[Beside, ...]:
    """Of all that runs while a tool is in the spindle."""
    return _beside(runs, lambda one: one.tool)


def by_load(runs: Sequence[RunRecord]) -> tuple[Beside, ...]:
    """Of each program a cycle."""
    programs = dict.fromkeys((run.load, run.program) for run in runs)
    found = []
    for load, program in programs:
        own = [run for run in runs if (run.load, run.program) == (load, program)]
        found.append(
            Beside(f"{load}, {program}", fmean(r.planned for r in own), fmean(r.actual for r in own), len(own))
        )
    return tuple(found)


def _beside(runs: Sequence[RunRecord], of: Callable[[Section], str]) -> tuple[Beside, ...]:
    """A cycle of each program, summed over the programs: each has the mean of its own runs. The longest first."""
    names = dict.fromkeys(of(one) for run in runs for one in run.sections)
    programs: dict[str, list[RunRecord]] = {}
    for run in runs:
        programs.setdefault(run.program, []).append(run)
    found = []
    for name in names:
        planned = actual = 0.0
        for own in programs.values():
            planned += fmean(sum(one.planned for one in run.sections if of(one) == name) for run in own)
            actual += fmean(sum(one.actual for one in run.sections if of(one) == name) for run in own)
        count = sum(any(of(one) == name for one in run.sections) for run in runs)
        found.append(Beside(name, planned, actual, count))
    return tuple(sorted(found, key=lambda one: -one.planned))
