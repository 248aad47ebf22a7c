"""From features to operations: tools, cutting data, paths and their times."""

from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Cutting, Operation

__all__ = ["Cutting", "Operation", "OperationKind"]
