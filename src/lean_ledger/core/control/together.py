"""The paths of a machine run together: each its own program, waiting for the others at marks, on the same spindles.

A path that comes to a mark waits until every path whose program has that mark, as often as this one has met it, is
there. Whoever asks a spindle for another state than it is in waits until it has run up; who asks for the same goes
on as soon as it turns so. What cuts while another changes the speed under it is a trouble, and so are marks that are
never met.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.control.steps import STOPPED, Run, RunStep, StepKind
from lean_ledger.core.control.watch import Trouble

DRIVEN = " by T"  # in what is asked of a spindle whose work stands for a driven tool
CUTS = frozenset({StepKind.CUT})


@dataclass(frozen=True)
class Together:
    """Each path's run with the seconds that it has beside the others; `starts` of each of its steps."""

    runs: tuple[Run, ...]
    starts: tuple[tuple[float, ...], ...]
    troubles: tuple[tuple[Trouble, ...], ...]  # of each path

    @property
    def total(self) -> float:
        """Seconds until the last one ends."""
        return max(run.total for run in self.runs)


def run_together(runs: Sequence[Run], spindle_starts: Sequence[float], at: Sequence[int] = ()) -> Together:
    """Runs of each path's program by itself, their WAIT steps without seconds, put beside one another; seconds in which
    each of the machine's work spindles runs up. `at`: of each path the first spindle that its words are about, where
    that is not the first of all.
    """
    if at:
        runs = [replace(run, steps=tuple(replace(step, spindle=step.spindle + k) for step in run.steps))
                for run, k in zip(runs, at, strict=True)]  # fmt: skip
    machine = _Machine(runs, spindle_starts)
    machine.run()
    troubles = [[*alone, *shared] for alone, shared in zip(machine.stuck(), machine.disturbed(), strict=True)]
    made = tuple(replace(run, steps=tuple(steps)) for run, steps in zip(runs, machine.steps, strict=True))
    return Together(made, tuple(map(tuple, machine.starts)), tuple(map(tuple, troubles)))


def _state(asks: str) -> str:
    """Of a spindle that is asked for so: for a driven tool it stands at an angle, whatever tool that is."""
    return f"stands at {asks.rpartition(' at ')[2]}" if DRIVEN in asks else asks


def _words(state: str) -> str:
    return f"{state.removeprefix('stands at ')}°, standing" if state.startswith("stands") else state[3:]


@dataclass(frozen=True)
class _Asked:
    at: float  # s
    what: str
    path: int
    spindle: int


class _Machine:
    def __init__(self, runs: Sequence[Run], spindle_starts: Sequence[float]) -> None:
        self._runs, self._start = runs, spindle_starts
        self._marks = [Counter(step.mark for step in run.steps if step.kind == StepKind.WAIT) for run in runs]
        self._at = [0.0] * len(runs)
        self._done = [0] * len(runs)
        self._met = [Counter[int]() for _ in runs]
        self._spindle, self._turns_at = [""] * len(spindle_starts), [0.0] * len(spindle_starts)
        self._drive, self._driven_at = [""] * len(runs), [0.0] * len(runs)  # of each path's own driven tools
        self._asked: list[_Asked] = []
        self.steps: list[list[RunStep]] = [[] for _ in runs]
        self.starts: list[list[float]] = [[] for _ in runs]

    def run(self) -> None:
        """Step by step, the path that is least far first, until all have ended or none can go on."""
        while True:
            able = [p for p in range(len(self._runs)) if self._step(p) is not None and not self._waits(p)]
            met = self._all_there()
            if met and all(max(self._at[p] for p in met) <= self._at[p] for p in able):
                self._pass(met)
            elif able:
                self._go(min(able, key=lambda p: (self._at[p], p)))
            elif met:
                self._pass(met)
            else:
                return

    def _step(self, p: int) -> RunStep | None:
        return self._runs[p].steps[self._done[p]] if self._done[p] < len(self._runs[p].steps) else None

    def _waits(self, p: int) -> bool:
        step = self._step(p)
        return step is not None and step.kind == StepKind.WAIT

    def _paths_of(self, mark: int, time: int) -> list[int]:
        """Those whose program has a mark so often. One alone is waited for in vain."""
        return [p for p, marks in enumerate(self._marks) if marks[mark] > time]

    def _all_there(self) -> list[int]:
        """Paths that stand at one mark, all that it takes; empty where there is none."""
        for p in range(len(self._runs)):
            step = self._step(p)
            if step is None or not self._waits(p):
                continue
            paths = self._paths_of(step.mark, self._met[p][step.mark])
            standing = [q for q in paths if self._waits(q) and self._step(q).mark == step.mark]  # type: ignore[union-attr]
            if len(paths) > 1 and standing == paths:
                return paths
        return []

    def _pass(self, paths: Sequence[int]) -> None:
        when = max(self._at[p] for p in paths)
        for p in paths:
            step = self._step(p)
            assert step is not None
            self._met[p][step.mark] += 1
            self._take(p, step, when - self._at[p])

    def _go(self, p: int) -> None:
        step = self._step(p)
        assert step is not None
        seconds, which = step.seconds, step.spindle
        if step.asks:
            what, driven = _state(step.asks), DRIVEN in step.asks
            changes = what != self._spindle[which] or (driven and step.asks != self._drive[p])
            if step.kind == StepKind.SPINDLE:
                up = self._driven_at[p] if driven else self._turns_at[which]
                wait = max(0.0, up - self._at[p])
                seconds = wait if not changes else 0.0 if step.asks == STOPPED else self._start[which]
            if changes and driven:
                self._drive[p], self._driven_at[p] = step.asks, self._at[p] + seconds
            if what != self._spindle[which]:
                self._spindle[which], self._turns_at[which] = what, self._at[p] + seconds
                self._asked.append(_Asked(self._at[p], what, p, which))
        self._take(p, step, seconds)

    def _take(self, p: int, step: RunStep, seconds: float) -> None:
        self.steps[p].append(replace(step, seconds=seconds))
        self.starts[p].append(self._at[p])
        self._at[p] += seconds
        self._done[p] += 1

    # ---- what is wrong

    def stuck(self) -> list[list[Trouble]]:
        """Of each path the mark at which it waits for ever."""
        found: list[list[Trouble]] = []
        standing = {p: step for p in range(len(self._runs)) if (step := self._step(p)) is not None}
        for p in range(len(self._runs)):
            step = standing.get(p)
            if step is None:
                found.append([])
                continue
            others = [q for q in self._paths_of(step.mark, self._met[p][step.mark]) if q != p]
            if not others:
                why = "No other path has this mark; write it there as well, or take it out here."
            elif all(q not in standing for q in others):
                why = "The other path ends without it."
            else:
                where = ", ".join(f"path {q + 1} at M{standing[q].mark} in line {standing[q].line}"
                                  for q in others if q in standing)  # fmt: skip
                why = f"It waits crosswise: {where}. Marks have to come in one order in all programs."
            found.append([Trouble("waits-for-ever", step.line, step.sub, f"M{step.mark} is never met.", why)])
        return found

    def disturbed(self) -> list[list[Trouble]]:
        """Of each path the first cut under which another one changed its spindle."""
        found: list[list[Trouble]] = []
        for p, steps in enumerate(self.steps):
            state, own = dict[int, str](), list[Trouble]()
            for step, start in zip(steps, self.starts[p], strict=True):
                if step.asks:
                    state[step.spindle] = _state(step.asks)
                if step.kind not in CUTS or own:
                    continue
                end, asks = start + step.seconds, state.get(step.spindle, "")
                there = [one for one in self._asked if one.spindle == step.spindle]
                other = next(
                    (one for one in there if one.path != p and start < one.at < end and one.what != asks), None
                )
                now = next((one for one in reversed(there) if one.at <= start + 1e-9), None)
                if other is None and now is not None and now.what != asks:
                    other = now
                if other is not None:
                    has = "stopped the spindle" if other.what == STOPPED else f"has the spindle at {_words(other.what)}"
                    title = f"T{step.tool} cuts while path {other.path + 1} {has}."
                    own.append(Trouble("spindle-shared", step.line, step.sub, title,
                                       "Wait for one another, or cut at one speed."))  # fmt: skip
            found.append(own)
        return found
