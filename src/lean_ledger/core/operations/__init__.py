"""From features to operations: tools, cutting data, paths and their times."""

from lean_ledger.core.operations.model import Cutting, Operation, OperationKind

__all__ = ["Cutting", "Operation", "OperationKind"]
