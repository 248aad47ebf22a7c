"""Keeps jobs, plans, their versions and files in SQLite; and the desk at which plans are changed.

Imports core; nothing in core imports it. Holds no rules of the job.
"""

from lean_ledger.store.database import Database
from lean_ledger.store.desk import Desk
from lean_ledger.store.errors import PlanBroken, StoreError
from lean_ledger.store.files import Upload
from lean_ledger.store.job_list import JobQuery
from lean_ledger.store.opened import JobNew, Opened, RevisionNew, StaleEdition

__all__ = [
    "Database",
    "Desk",
    "JobNew",
    "JobQuery",
    "Opened",
    "PlanBroken",
    "RevisionNew",
    "StaleEdition",
    "StoreError",
    "Upload",
]
