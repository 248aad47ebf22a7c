"""Operations that do the same to features of the same sort: what is found right for one is offered for all."""

from __future__ import annotations

from collections.abc import Iterable

from lean_ledger.core.features import Hole, Pocket, Slot
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.model import Part

Sort = tuple[object, ...]


def sort_of(op: Operation, part: Part) -> Sort:
    """The kind of operation, and of its features the kind and the size that a tool is chosen by: a hole's diameter, a
    pocket's or a slot's inner radius and depth.
    """
    features = [part.by_id[id] for id in op.features if id in part.by_id]
    sizes: set[tuple[object, ...]] = set()
    for feature in features:
        if isinstance(feature, Hole):
            sizes.add((feature.kind, round(feature.diameter, 3), round(feature.depth, 2)))
        elif isinstance(feature, Pocket | Slot):
            sizes.add((feature.kind, round(feature.corner_radius, 3), round(feature.depth, 2)))
        else:
            sizes.add((feature.kind,))
    return (op.kind, tuple(sorted(sizes, key=str)))


def alike(op: Operation, operations: Iterable[Operation], part: Part) -> tuple[Operation, ...]:
    """The others of its sort, in any setup."""
    own = sort_of(op, part)
    return tuple(other for other in operations if other.id != op.id and sort_of(other, part) == own)
