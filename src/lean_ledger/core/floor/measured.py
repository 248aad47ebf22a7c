"""From times that were measured to a factor for a machine and a category, with its spread.

What is unlike the others is found by the median and the median of absolute deviations (Hampel, The Influence Curve and
Its Role in Robust Estimation, 1974). The rest is a mean of programs, each weighed by how sure it is, drawn towards 1 as
far as few observations bear it: a normal mean with a normal prior (Gelman et al., Bayesian Data Analysis, 3rd ed., 2.5
and 5.4). The formulas stand in docs/formulas.md.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from math import sqrt
from statistics import fmean, median

from lean_ledger.library.types import Judgement, Measured

FAR = 3.0  # robust standard deviations from the median that are too far
MAD = 1.4826  # of a normal distribution: standard deviation / median absolute deviation
LEAST_RUNS = 3  # of a program, or programs, to tell what is unlike the others
LEAST_SCALE = 0.5  # of the judged scatter: runs that agree by chance make no others strange
LEAST_SECONDS = 0.5  # of an estimate: below that a share says nothing


@dataclass(frozen=True)
class Observation:
    """Seconds that something was planned at by the machine's data or the shop's rule, and that it took.

    `program` is what is alike from run to run: a program, or a setup of a job; `run` tells this one from the others.
    """

    machine: str
    category: str
    program: str
    run: str
    planned: float
    actual: float

    @property
    def ratio(self) -> float:
        return self.actual / self.planned


@dataclass(frozen=True)
class Factor:
    """What a machine takes of its estimates in a category. `mean` is before drawing towards 1, `factor` and `off`
    after; `scatter`: of runs of one program; `outliers`: observations left out.
    """

    machine: str
    category: str
    factor: float
    off: float
    mean: float
    drawn: float  # weight of the mean: 0 leaves 1, 1 takes it as it is
    scatter: float
    programs: int
    runs: int
    outliers: tuple[Observation, ...]

    @property
    def in_use(self) -> Measured:
        """As it is applied: to a thousandth."""
        factor = Decimal(str(round(self.factor, 3)))
        return Measured(self.machine, self.category, factor, round(self.off, 4), self.programs, self.runs)


def factors(observations: Iterable[Observation], judgements: dict[str, Judgement]) -> tuple[Factor, ...]:
    """One for each machine and category that was measured, in the order that they first come in."""
    found: dict[tuple[str, str], list[Observation]] = {}
    for one in observations:
        if one.planned >= LEAST_SECONDS:
            found.setdefault((one.machine, one.category), []).append(one)
    return tuple(factor_of(own, judgements.get(category, judgements["run"])) for (_, category), own in found.items())


def factor_of(observations: Sequence[Observation], judged: Judgement) -> Factor:
    """Of observations of one machine and category, at least one.

    Four runs of one program at 1.05, 1.07, 1.06 and 1.06 of the estimate, judged at 0.08, 0.03, 0.03 and 4 runs: mean
    1.060, scatter² = (4 · 0.03² + 0.0002) / (4 + 3), drawn by 0.8607: 1 + 0.8607 · 0.060 = 1.0516.
    """
    groups, strange = _kept(observations, judged)
    runs = sum(len(own) for own in groups)
    means = [fmean(one.ratio for one in own) for own in groups]
    squares = sum((one.ratio - mean) ** 2 for own, mean in zip(groups, means, strict=True) for one in own)
    scatter = sqrt((judged.worth * judged.run**2 + squares) / (judged.worth + runs - len(groups)))
    variances = [judged.program**2 + scatter**2 / len(own) for own in groups]
    weight = sum(1 / v for v in variances)
    mean = sum(m / v for m, v in zip(means, variances, strict=True)) / weight
    prior = judged.machine**2
    drawn = prior / (prior + 1 / weight)
    first = observations[0]
    return Factor(
        first.machine, first.category, 1 + drawn * (mean - 1), sqrt(drawn / weight), mean, drawn, scatter,
        len(groups), runs, strange,
    )  # fmt: skip


def _kept(
    observations: Sequence[Observation], judged: Judgement
) -> tuple[list[list[Observation]], tuple[Observation, ...]]:
    """By program without what is unlike the others; and that: runs first, then whole programs."""
    programs: dict[str, list[Observation]] = {}
    for one in observations:
        programs.setdefault(one.program, []).append(one)
    strange: list[Observation] = []
    groups = list(programs.values())
    centres = [median(one.ratio for one in own) for own in groups]
    many = [
        abs(one.ratio - at)
        for own, at in zip(groups, centres, strict=True) if len(own) >= LEAST_RUNS for one in own
    ]  # fmt: skip
    if many:
        far = FAR * max(MAD * median(many), LEAST_SCALE * judged.run)
        for k, (own, at) in enumerate(zip(groups, centres, strict=True)):
            if len(own) >= LEAST_RUNS:
                near = [one for one in own if abs(one.ratio - at) <= far]
                if near:  # one whose runs all lie apart from their middle is two kinds of runs, and none is strange
                    strange += [one for one in own if abs(one.ratio - at) > far]
                    groups[k] = near
    if len(groups) >= LEAST_RUNS:
        means = [fmean(one.ratio for one in own) for own in groups]
        at = median(means)
        far = FAR * max(MAD * median(abs(m - at) for m in means), sqrt(judged.program**2 + judged.run**2))
        strange += [one for own, m in zip(groups, means, strict=True) if abs(m - at) > far for one in own]
        groups = [own for own, m in zip(groups, means, strict=True) if abs(m - at) <= far]
    return groups, tuple(strange)
