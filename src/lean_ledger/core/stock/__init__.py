"""The material before the first setup and as each later one finds it."""

from lean_ledger.core.stock.block import StockState, first_stock

__all__ = ["StockState", "first_stock"]
