"""Which of several prices is the least at which quantity, and where one overtakes another.

A price is no line: cycles that are not full, whole bars and scrap make it climb in steps. Between two bounds that are
lines it is known without looking at each quantity; where the bounds do not tell, each is looked at, exactly.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from math import lcm

from lean_ledger.core.pricing.price import PriceProblem, terms_of

LOOKED_AT = 60_000  # quantities in all that are looked at one by one; beyond it all that may be the least are named
FEW = 48  # quantities of a span that are looked at one by one rather than halved again


@dataclass(frozen=True)
class Stretch:
    """From `first` to `last` pieces the least is one of `least` (indices): one, or now the one and now the other."""

    first: int
    last: int
    least: tuple[int, ...]


@dataclass(frozen=True)
class _Line:
    """A price in whole numbers, all of a comparison in the same unit; its bounds are lines in the quantity."""

    good: int  # of `of` that are started
    of: int
    fixed: int
    each: int
    steps: tuple[tuple[int, int], ...]
    slope: Fraction  # a piece ordered
    lowest: Fraction
    highest: Fraction  # both at 0 pieces

    def at(self, quantity: int) -> int:
        started = -(-quantity * self.of // self.good)
        found = self.fixed + self.each * started
        for pieces, amount in self.steps:
            found += -(-started // pieces) * amount
        return found

    def least(self, quantity: int) -> Fraction:
        return self.lowest + self.slope * quantity

    def most(self, quantity: int) -> Fraction:
        return self.highest + self.slope * quantity


def least_by_quantity(problems: Sequence[PriceProblem], most: int) -> tuple[Stretch, ...]:
    """From 1 to `most` pieces; of equal prices the first counts. Where one that was overtaken is the least once more a
    little later, the stretch between names both.

    Raises PlanError bar-too-short.
    """
    runs = list(_runs(_lines(problems), most))
    seen: dict[int, tuple[int, int]] = {}  # of each that is ever the least: from where to where
    for run in runs:
        for k in run.least:
            seen[k] = (min(seen.get(k, (run.first, 0))[0], run.first), run.last)
    cuts = sorted({1, most + 1, *(a for a, _ in seen.values()), *(b + 1 for _, b in seen.values())})
    found: list[Stretch] = []
    for first, after in pairwise(cuts):
        least = tuple(sorted(k for k, (a, b) in seen.items() if a <= first <= b))
        if found and found[-1].least == least:
            found[-1] = Stretch(found[-1].first, after - 1, least)
        else:
            found.append(Stretch(first, after - 1, least))
    return tuple(found)


def _lines(problems: Sequence[PriceProblem]) -> list[_Line]:
    terms = [terms_of(problem) for problem in problems]
    wholes = [one.whole for one in terms]
    amounts = [a for w in wholes for a in (w.fixed, w.each, *(amount for _, amount in w.steps))]
    unit = lcm(*(a.denominator for a in amounts))
    found = []
    for one, whole in zip(terms, wholes, strict=True):
        by_started = whole.each + sum((amount / pieces for pieces, amount in whole.steps), Fraction(0))
        # ⌈s/p⌉ lies between s/p and (s + p - 1)/p, what is started between q/y and q/y + 1
        waste = sum((amount * (pieces - 1) / pieces for pieces, amount in whole.steps), Fraction(0))
        found.append(
            _Line(
                one.yielded.numerator, one.yielded.denominator, int(whole.fixed * unit), int(whole.each * unit),
                tuple((pieces, int(amount * unit)) for pieces, amount in whole.steps),
                by_started / one.yielded * unit, whole.fixed * unit, (whole.fixed + by_started + waste) * unit,
            )
        )  # fmt: skip
    return found


def _runs(lines: Sequence[_Line], most: int) -> Iterator[Stretch]:
    """What is the least, run by run, in rising quantity."""
    spans = [(1, most, tuple(range(len(lines))))]
    left = LOOKED_AT
    while spans:
        first, last, able = spans.pop()
        able = _possible(lines, able, first, last)
        if len(able) == 1:
            yield Stretch(first, last, able)
        elif last - first >= FEW:
            middle = (first + last) // 2
            spans += [(middle + 1, last, able), (first, middle, able)]
        elif left <= 0:
            yield Stretch(first, last, able)
        else:
            left -= last - first + 1
            for quantity in range(first, last + 1):
                yield Stretch(quantity, quantity, (min(able, key=lambda k: (lines[k].at(quantity), k)),))


def _possible(lines: Sequence[_Line], able: tuple[int, ...], first: int, last: int) -> tuple[int, ...]:
    """Without those that another is below at both ends, whatever the steps do: then it is between them as well."""
    return tuple(
        k for k in able
        if not any(
            lines[j].most(first) < lines[k].least(first) and lines[j].most(last) < lines[k].least(last)
            for j in able if j != k
        )
    )  # fmt: skip
