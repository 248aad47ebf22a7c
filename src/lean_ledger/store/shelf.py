"""The shop's library as it stands at one moment, with the number that it is known by."""

from __future__ import annotations

from dataclasses import dataclass

from lean_ledger.library.types import Library
from lean_ledger.store.fingerprint import fingerprint


@dataclass(frozen=True)
class Shelf:
    """Handed on with every plan that is computed with it: a library never goes under another one's number."""

    library: Library
    number: int  # counts how often the library changed while the server runs
    made_by: str  # what figures are computed with: the library and this build

    def followed_by(self, library: Library) -> Shelf:
        return Shelf(library, self.number + 1, fingerprint(library))


def first_shelf(library: Library) -> Shelf:
    return Shelf(library, 0, fingerprint(library))
