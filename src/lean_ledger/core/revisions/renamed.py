"""Features keep their names from one revision to the next."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from lean_ledger.core.features import Feature
from lean_ledger.core.revisions.match import Match


def new_names(found: Match, taken: Sequence[str]) -> dict[str, str]:
    """For each feature of the new model the id that it has in the plan.

    What is matched keeps the old id. What is new gets the next number of its letter that was never used: `taken` are
    all ids of this and earlier revisions, so that no id ever means two things.
    """
    names = {pair.new: pair.old for pair in found.features if pair.old and pair.new}
    highest: dict[str, int] = {}
    for id in taken:
        letter, number = _split(id)
        highest[letter] = max(highest.get(letter, 0), number)
    fresh = sorted((pair.new for pair in found.features if pair.new and not pair.old), key=_split)
    for id in fresh:
        letter, _ = _split(id)
        highest[letter] = highest.get(letter, 0) + 1
        names[id] = f"{letter}{highest[letter]}"
    return names


def renamed(features: Sequence[Feature], names: dict[str, str]) -> tuple[Feature, ...]:
    """The features under their ids in the plan, in their order."""
    return tuple(sorted((replace(f, id=names[f.id]) for f in features), key=lambda f: _place(features, names, f.id)))


def _place(features: Sequence[Feature], names: dict[str, str], id: str) -> tuple[int, int]:
    letters = list(dict.fromkeys(_split(names[f.id])[0] for f in features))
    letter, number = _split(id)
    return letters.index(letter), number


def _split(id: str) -> tuple[str, int]:
    found = re.fullmatch(r"([A-Z]+)(\d+)", id)
    if found is None:
        raise ValueError(f"{id!r} is no feature id")
    return found[1], int(found[2])


def next_letter(letter: str) -> str:
    """The revision after a revision: A, B, … Z, AA, AB.

    >>> next_letter("A"), next_letter("Z"), next_letter("AZ")
    ('B', 'AA', 'BA')
    """
    if not letter:
        return "A"
    if letter[-1] < "Z":
        return letter[:-1] + chr(ord(letter[-1]) + 1)
    return next_letter(letter[:-1]) + "A"
