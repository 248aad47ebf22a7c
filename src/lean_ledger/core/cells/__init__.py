"""Cells: a plan's machines side by side, tended by people. Reads loads and prices; the ledger and pages read it."""
