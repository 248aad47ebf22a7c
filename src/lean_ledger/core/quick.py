"""The quick price: a complete plan from a part, a material and quantities, by default decisions."""

from __future__ import annotations

from lean_ledger.core.errors import PlanError
from lean_ledger.core.part import Part
from lean_ledger.core.plan import DIRECTIONS, Allowances, Plan
from lean_ledger.core.setups import propose_setups
from lean_ledger.library.types import Library

LOW_PART = 10.0  # mm of height below which two setups find no room for their jaws on the part's own walls
HOLD_BY = 5.0  # mm of stock left below such a part, to hold it by

OPPOSITE = {"X-": "X+", "X+": "X-", "Y-": "Y+", "Y+": "Y-", "Z-": "Z+", "Z+": "Z-"}


def quick_plan(part: Part, material: str, quantities: tuple[int, ...], library: Library) -> Plan:
    """Raises PlanError for a material that is not in the library or a quantity below 1."""
    if library.material(material) is None:
        names = ", ".join(m.id for m in library.materials)
        raise PlanError("no-such-material", f"there is no material {material!r}; the library has {names}")
    if not quantities or any(q < 1 for q in quantities):
        raise PlanError("quantities", "at least one quantity is needed, each a whole number above 0")
    allowances = Allowances()
    machine = library.machines[0].id
    setups = propose_setups(part, allowances, machine)
    up = setups[0].up
    axis = max(range(3), key=lambda i: abs(DIRECTIONS[up][i]))
    if part.model.solid.bounds.size[axis] < LOW_PART:
        allowances = allowances.with_side(OPPOSITE[up], HOLD_BY)
    return Plan(material, tuple(dict.fromkeys(quantities)), allowances, setups)
