"""The answer of `lean-ledger setups` as its contract words it (docs/formats.md)."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.features.recognise import Recognised
from lean_ledger.core.geometry.model import PartModel
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.setups.divide import DividedSetup, Task, divide
from lean_ledger.core.setups.reach import clampings
from lean_ledger.core.setups.work import work_of
from lean_ledger.library.machines import Machine

DEFAULT_ALLOWANCE = 2.0
SIDES = ("X-", "X+", "Y-", "Y+", "Z-", "Z+")


def read_allowances(text: str) -> dict[str, float]:
    """`X-=2,Z+=0.5`: the sides that are named, the default on the others. Raises PlanError, naming the word."""
    found = dict.fromkeys(SIDES, DEFAULT_ALLOWANCE)
    for word in filter(None, (w.strip() for w in text.split(","))):
        side, equals, amount = word.partition("=")
        side = side.strip().upper()
        if side not in found or not equals:
            raise PlanError(
                "allowance", f"{word!r} names no side; write X-=2, one of {', '.join(SIDES)}", "--allowance"
            )
        try:
            value = float(amount)
        except ValueError:
            value = -1.0
        if not 0 <= value <= 1000:
            raise PlanError("allowance", f"{word!r} is no amount of mm from 0 to 1000", "--allowance")
        found[side] = value
    return found


def setups_document(part: PartModel, found: Recognised, machine: Machine, over: Mapping[str, float]) -> dict[str, Any]:
    """The least division of a part on one machine."""
    work = work_of(machine, part.solid, found.features, found.axis, over)
    division = divide(Task(work.items, clampings(machine, work.directions, found.axis)))
    return {
        "format": "lean-ledger/setups@1",
        "count": len(division.setups),
        "lower_bound": division.lower_bound,
        "proven": division.proven,
        "setups": [_setup(placed, work.directions) for placed in division.setups],
        "unreachable": list(division.unreachable),
    }


def _setup(placed: DividedSetup, directions: tuple[Vec, ...]) -> dict[str, Any]:
    cut = [_vector(directions[i]) for i in placed.directions]
    up = placed.clamping.up
    return {
        "up": cut[0] if up is None else _vector(up),
        "directions": cut,
        "features": list(placed.items),
    }


def _vector(v: Vec) -> list[float]:
    return [round(c, 6) + 0.0 for c in v]
