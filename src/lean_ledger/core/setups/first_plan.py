"""The quick price: a complete plan from a part, a material and quantities, by default decisions."""

from __future__ import annotations

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.features import Hole, ModelledThread, Turned
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Allowances, Plan, Said, ThreadChoice
from lean_ledger.core.setups import propose_setups
from lean_ledger.library.types import Library, Thread

LOW_PART = 10.0  # mm of height below which two setups find no room for their jaws on the part's own walls
SAME_PITCH, SAME_MAJOR = 0.02, 0.3  # mm between a modelled thread and one of the library; crests may be flattened
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
    up = setups[0].setup.up
    axis = max(range(3), key=lambda i: abs(DIRECTIONS[up][i]))
    if part.model.solid.bounds.size[axis] < LOW_PART:
        allowances = allowances.with_side(OPPOSITE[up], HOLD_BY)
    return Plan(
        material, tuple(dict.fromkeys(quantities)), allowances, tuple(one.setup for one in setups),
        tuple(one.load for one in setups), threads=modelled_threads(part, library),
        said=modelled_outside(part, library),
    )  # fmt: skip


def modelled_outside(part: Part, library: Library) -> tuple[Said, ...]:
    """The library's threads of turned walls whose helix is in the model."""
    found = []
    for wall in part.features:
        thread = library_thread(wall.thread, library) if isinstance(wall, Turned) and wall.thread is not None else None
        if thread is not None:
            found.append(Said(wall.id, thread=thread.name))
    return tuple(found)


def library_thread(drawn: ModelledThread, library: Library) -> Thread | None:
    """By pitch and major diameter."""
    return next(
        (t for t in library.threads
         if abs(t.pitch - drawn.pitch) < SAME_PITCH and abs(t.major - drawn.diameter) < SAME_MAJOR), None
    )  # fmt: skip


def modelled_threads(part: Part, library: Library) -> tuple[ThreadChoice, ...]:
    """The library's threads for the holes whose helix is in the model: by pitch and major diameter."""
    found: dict[float, str] = {}
    for hole in part.features:
        if not isinstance(hole, Hole) or hole.thread is None:
            continue
        thread = library_thread(hole.thread, library)
        if thread is not None and thread.fits(hole.diameter):
            found.setdefault(hole.diameter, thread.name)
    return tuple(ThreadChoice(diameter, name) for diameter, name in found.items())
