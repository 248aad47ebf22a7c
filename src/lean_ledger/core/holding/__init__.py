"""How a part is clamped: which vise, how deep, on which parallels; and whether that holds."""

from lean_ledger.core.holding.vise import JAW_CLEARANCE, Hold, check_hold, resolve_hold

__all__ = ["JAW_CLEARANCE", "Hold", "check_hold", "resolve_hold"]
