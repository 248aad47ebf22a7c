"""Keeps jobs, plans, their versions and files in SQLite; and the desk at which plans are changed.

Imports core; nothing in core imports it. Holds no rules of the job.
"""

from lean_ledger.store.database import Database
from lean_ledger.store.desk import Desk, JobNew, Opened, StaleEdition

__all__ = ["Database", "Desk", "JobNew", "Opened", "StaleEdition"]
