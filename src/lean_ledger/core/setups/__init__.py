"""From which sides a part is cut, which features fall to which setup, and where the zero is."""

from lean_ledger.core.setups.assign import assign_features
from lean_ledger.core.setups.frame import Frame, frame_of
from lean_ledger.core.setups.propose import propose_setups

__all__ = ["Frame", "assign_features", "frame_of", "propose_setups"]
