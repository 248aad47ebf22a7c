"""Long work beside the requests: reading files. Uses store and core; the web shows it.

Reading holds a kernel process, tells where it is, and can be cancelled at any time. Its state lives in memory: what was
not finished when the server ended was never confirmed to anybody, and is uploaded again.
"""

from lean_ledger.tasks.readings import Reading, Readings, State

__all__ = ["Reading", "Readings", "State"]
