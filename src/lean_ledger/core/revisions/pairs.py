"""Pairs that the planner knows better."""

from __future__ import annotations

from dataclasses import replace

from lean_ledger.core.plan import PairByHand
from lean_ledger.core.revisions.match import Match, Side, pair_of
from lean_ledger.core.revisions.signs import feature_signs


def paired_by_hand(found: Match, old: Side, new: Side, hand: tuple[PairByHand, ...]) -> Match:
    """The match with the planner's pairs in place of those that they contradict."""
    before = {f.id: (f, s) for f, s in zip(old.features, feature_signs(old.solid, old.features), strict=True)}
    after = {
        f.id: (f, s.laid(found.turn, found.shift))
        for f, s in zip(new.features, feature_signs(new.solid, new.features), strict=True)
    }
    pairs = list(found.features)
    for one in hand:
        if (one.old is not None and one.old not in before) or (one.new is not None and one.new not in after):
            continue  # of a feature that a later correction of the file took away
        touched = [p for p in pairs if (p.old and p.old == one.old) or (p.new and p.new == one.new)]
        pairs = [p for p in pairs if p not in touched]
        wanted = [(one.old, one.new)]
        wanted += [(p.old, None) for p in touched if p.old and p.old != one.old]
        wanted += [(None, p.new) for p in touched if p.new and p.new != one.new]
        for a, b in wanted:
            first, second = before.get(a or "", (None, None)), after.get(b or "", (None, None))
            pair = pair_of(first[0], second[0], first[1], second[1])
            pairs.append(replace(pair, by_hand=(a, b) == (one.old, one.new)))
    order = {f.id: i for i, f in enumerate(old.features)}, {f.id: i for i, f in enumerate(new.features)}
    pairs.sort(key=lambda p: (p.old is None, order[0].get(p.old or "", 0), order[1].get(p.new or "", 0)))
    return replace(found, features=tuple(pairs))
