"""The sequence of operations: what must come before what, what lies between two, and what grouping saves."""

from lean_ledger.core.order.sequence import (
    check_order,
    default_order,
    grouped_by_tool,
    resolved_order,
    tool_calls,
)
from lean_ledger.core.order.transitions import Transition, transition

__all__ = [
    "Transition",
    "check_order",
    "default_order",
    "grouped_by_tool",
    "resolved_order",
    "tool_calls",
    "transition",
]
