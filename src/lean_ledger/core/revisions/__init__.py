"""What became of a part from one revision to the next, by geometry alone. Imports features and geometry of core."""

from lean_ledger.core.revisions.match import Became, Changed, FacePair, FeaturePair, Match, Side, match
from lean_ledger.core.revisions.pairs import paired_by_hand
from lean_ledger.core.revisions.renamed import new_names, renamed

__all__ = [
    "Became",
    "Changed",
    "FacePair",
    "FeaturePair",
    "Match",
    "Side",
    "match",
    "new_names",
    "paired_by_hand",
    "renamed",
]
