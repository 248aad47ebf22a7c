"""What a job costs: the lines of a price from exact decimals, and the price problem of a plan."""

from lean_ledger.core.pricing.price import (
    MaterialCost,
    Outside,
    PriceProblem,
    PriceSetup,
    QuantityPrice,
    price,
    price_document,
)
from lean_ledger.core.pricing.problem_file import parse_price_problem

__all__ = [
    "MaterialCost",
    "Outside",
    "PriceProblem",
    "PriceSetup",
    "QuantityPrice",
    "parse_price_problem",
    "price",
    "price_document",
]
