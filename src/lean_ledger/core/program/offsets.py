"""Which work offset each setup of a plan has, and where the control's zero then stands on the machine."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import get_args

from lean_ledger.core.control.offset_words import Family, offset_words
from lean_ledger.core.geometry.vectors import Vec, add
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.ways import Way
from lean_ledger.core.setups.zero import zero_point

SAME = 1e-4  # mm within which two zeros are one


@dataclass(frozen=True)
class WorkOffset:
    """`zero` is the program's zero in the way's axes, `machine` the same point in the machine's coordinates.

    X of a lathe counts as a radius here.
    """

    word: str
    setup: str
    way: Way
    zero: Vec
    machine: Vec


def offsets_of(ledger: Ledger, part: Part) -> tuple[WorkOffset, ...]:
    """One for each way of each setup; ways that share a zero share the word. Setups in their order.

    `word` is empty where the control has no more of them.
    """
    words = {family: offset_words(family) for family in get_args(Family)}
    taken: list[WorkOffset] = []
    for index, setup in enumerate(ledger.loads):
        own: list[WorkOffset] = []
        home = setup.built.home.frame
        point = home.in_part(zero_point(ledger.zero_of(part, index), ledger.zero_place(part, index)))
        for way in _ways(setup):
            zero = way.frame.point(point)
            stands = setup.built.stands
            lathe = setup.machine.turns_work
            machine = stands.on_lathe(way.frame, zero) if lathe else add(zero, stands.shift(way.frame))
            like = next((o for o in own if _near(o.machine, machine)), None)
            word = like.word if like is not None else _next(words, setup.machine.offsets)
            own.append(WorkOffset(word, setup.decision.id, way, zero, machine))
        taken += own
    return tuple(taken)


def _ways(setup: LoadLedger) -> list[Way]:
    """The ways in the order in which they are come to; the home one where nothing is made."""
    return list(dict.fromkeys(e.operation.way for e in setup.calls)) or [setup.built.home]


def _next(words: dict[str, Iterator[str]], family: Family) -> str:
    word = next(words[family], "")
    for other, left in words.items():  # the same word on another control would be read as the same zero
        if other != family:
            next(left, None)
    return word


def words_of_setups(ledger: Ledger, part: Part) -> dict[str, str]:
    """What the sheet calls each setup's zero."""
    found: dict[str, dict[str, None]] = {}
    for offset in offsets_of(ledger, part):
        found.setdefault(offset.setup, {})[offset.word or "no offset left"] = None
    return {setup: ", ".join(words) for setup, words in found.items()}


def _near(a: Vec, b: Vec) -> bool:
    return all(abs(p - q) < SAME for p, q in zip(a, b, strict=True))
