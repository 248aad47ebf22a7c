"""A part through its revisions: each feature keeps the id under which the plan knows it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import PairByHand
from lean_ledger.core.revisions.match import Became, Match, Side, match
from lean_ledger.core.revisions.pairs import paired_by_hand
from lean_ledger.core.revisions.renamed import new_names, renamed


@dataclass(frozen=True)
class Revised:
    """A revision beside the one before it. `names` are the new model's own ids and those that they have in the plan."""

    before: Part
    after: Part
    found: Match
    names: dict[str, str]


def follow(parts: Sequence[tuple[str, Part]], hand: tuple[PairByHand, ...]) -> tuple[Part, Revised | None]:
    """The last of a job's revisions, (letter, part as analysed) in order, and how it came from the one before."""
    letter, first = parts[0]
    # the same object where nothing of it is another: what is kept by the part it was made from is found again
    part = first if first.revision == letter else replace(first, revision=letter)
    taken = [f.id for f in part.features]
    revised = None
    for letter, own in parts[1:]:
        mine = tuple(one for one in hand if one.revision == letter)
        old, new = Side(part.model.solid, part.features), Side(own.model.solid, own.features)
        found = paired_by_hand(match(old, new), old, new, mine)
        names = new_names(found, taken)
        since = tuple(
            replace(pair, new=names[pair.new] if pair.new else None)
            for pair in found.features
            if pair.became != Became.SAME
        )
        later = replace(own, features=renamed(own.features, names), revision=letter, since=since)
        revised = Revised(part, later, found, names)
        part = later
        taken += [id for id in names.values() if id not in taken]
    return part, revised
