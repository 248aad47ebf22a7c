"""What has to be machined on a part, as items for the division."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lean_ledger.core.features import Feature, OuterFace, tool_ways
from lean_ledger.core.features.turned import Axis
from lean_ledger.core.geometry.alignment import upright_turn
from lean_ledger.core.geometry.model import Solid
from lean_ledger.core.geometry.vectors import SIX, Vec, add, axis_name, dot, same_way, scale, unit
from lean_ledger.core.setups.divide import Item
from lean_ledger.core.setups.reach import made_on
from lean_ledger.library.machines import Machine

SAME = 1e-3  # rad


@dataclass(frozen=True)
class Work:
    """The items, and the directions that their ways count in."""

    items: tuple[Item, ...]
    directions: tuple[Vec, ...]


def sides_of(solid: Solid) -> dict[str, Vec]:
    """The directions of the sides X- … Z+: those of the file, or of the part's largest faces where it lies askew."""
    turn = upright_turn(solid)
    if turn is None:
        return {axis_name(d): d for d in SIX}
    found = {}
    for d in SIX:
        way = (0.0, 0.0, 0.0)
        for row, share in zip(turn, d, strict=True):
            way = add(way, scale(row, share))
        found[axis_name(d)] = unit(way)
    return found


def work_of(
    machine: Machine, solid: Solid, features: Sequence[Feature], axis: Axis | None, over: Mapping[str, float]
) -> Work:
    """Every feature that removes stock; `over` is the stock on each side, mm.

    A feature that this kind of machine does not make has no ways. Weight is the feature's volume, and for a face its
    area times the stock on it.
    """
    sides = sides_of(solid)
    directions: list[Vec] = []
    items = []
    for feature in features:
        weight = feature.volume
        if isinstance(feature, OuterFace):
            side = next((name for name, d in sides.items() if same_way(d, feature.normal, SAME)), None)
            if side is not None and over[side] <= 0:
                continue
            weight += feature.area * (over[side] if side is not None else 0.0)
        ways = {_index(directions, d) for d in tool_ways(feature)}
        items.append(
            Item(feature.id, weight, frozenset(ways) if made_on(machine, solid, feature, axis) else frozenset())
        )
    return Work(tuple(items), tuple(directions))


def _index(directions: list[Vec], wanted: Vec) -> int:
    for i, d in enumerate(directions):
        if dot(d, wanted) > 1 - SAME**2 / 2:
            return i
    directions.append(wanted)
    return len(directions) - 1
