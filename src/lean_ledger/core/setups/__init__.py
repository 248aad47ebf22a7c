"""From which sides a part is cut, which features fall to which setup, and where the zero is."""

from lean_ledger.core.setups.frame import Frame, frame_of
from lean_ledger.core.setups.propose import assign_features, propose_setups

__all__ = ["Frame", "assign_features", "frame_of", "propose_setups"]
