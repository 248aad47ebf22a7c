"""What a plan is made of."""

from __future__ import annotations

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.plan.plan import Plan
from lean_ledger.library.types import Library, Material


def material_of(plan: Plan, library: Library) -> Material:
    """Raises PlanError no-such-material."""
    material = library.material(plan.material)
    if material is None:
        names = ", ".join(m.id for m in library.materials)
        raise PlanError("no-such-material", f"there is no material {plan.material!r}; the library has {names}")
    return material
