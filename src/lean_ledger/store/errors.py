"""What can be wrong with what is kept."""

from __future__ import annotations

from lean_ledger.core.basis.errors import LedgerError


class StoreError(LedgerError):
    """The database cannot be used as it is; `place` is its file. Nothing was written."""


class PlanBroken(LedgerError):
    """A plan that is kept but cannot be read or computed; the others stand."""
