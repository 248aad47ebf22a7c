"""The shop's library: machines, fixtures, tools, cutting data, materials, threads, rates; types and shipped defaults.

Plain data with look-ups; imports nothing of the application. The shipped values stand in `data/`, one file a noun.
"""

from lean_ledger.library.fixtures import Vise
from lean_ledger.library.load import shipped_library
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import CuttingData, Library, Material, Rates, Thread, Tool, ToolKind

__all__ = [
    "CuttingData",
    "Library",
    "Machine",
    "Material",
    "Rates",
    "Thread",
    "Tool",
    "ToolKind",
    "Vise",
    "shipped_library",
]
