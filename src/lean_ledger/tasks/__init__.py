"""Long work beside the requests: reading files, following stock, computing what takes seconds. Uses store and core; the
web shows it.

Work holds a process, tells where it is, and can be cancelled at any time. Its state lives in memory: what was not
finished when the server ended was never confirmed to anybody, and is asked for again.
"""

from lean_ledger.tasks.following import Following
from lean_ledger.tasks.readings import Reading, Readings, State
from lean_ledger.tasks.refreshing import Refreshing
from lean_ledger.tasks.works import Work, Works, WorkState

__all__ = ["Following", "Reading", "Readings", "Refreshing", "State", "Work", "WorkState", "Works"]
