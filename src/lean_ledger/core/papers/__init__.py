"""What goes to the floor: the setup sheet as data, as PDF, and the lists as CSV and XLSX."""

from lean_ledger.core.papers.sheet import SetupSheet, SheetSetup, setup_sheet

__all__ = ["SetupSheet", "SheetSetup", "setup_sheet"]
