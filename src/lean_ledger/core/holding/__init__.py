"""How a part is clamped: what holds it, where that sits, and whether it holds."""

from lean_ledger.core.holding.hold import JAW_CLEARANCE, Hold
from lean_ledger.core.holding.resolve import Found, resolve_hold

__all__ = ["JAW_CLEARANCE", "Found", "Hold", "resolve_hold"]
