"""Lean Ledger: plans, times and prices machined parts."""

__version__ = "0.1.0"
