"""Walls on both sides of an open slot that a vise's jaws press together, and what helps: a spacer, less force."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import floor

from lean_ledger.core.basis.findings import Cure, Finding
from lean_ledger.core.features import Slot
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.holding.hold import error, turned
from lean_ledger.core.holding.vise import ViseHold
from lean_ledger.library.types import Material

MOST_BENT = 0.05  # mm that a wall may give under a jaw
MOST_OF_JAW = 0.6  # of what a jaw touches, along which a slot parts the piece
SOLID = 0.3  # of the grip that has to be on what is not parted
STEP, LEAST = 0.5, 1.0  # kN: forces that are proposed, and below which none is


@dataclass(frozen=True)
class Bent:
    """A wall that stands free on one side as a jaw presses on it: mm that it gives, and N/mm² at its root."""

    by: float
    stress: float


def bent(force: float, arm: float, width: float, thick: float, modulus: float) -> Bent:
    """A cantilever of rectangular section, its force at the end: F a³ / (3 E I) with I = b t³ / 12, and 6 F a / (b t²).

    >>> bent(20_000, 20, 60, 12, 70_000)  # 20 kN, 20 above the root of an ear 60 × 12 of aluminium
    Bent(by=0.088, stress=278)
    """
    inertia = width * thick**3 / 12
    return Bent(round(force * arm**3 / (3 * modulus * inertia), 3), round(6 * force * arm / (width * thick**2)))


def most_force(arm: float, width: float, thick: float, material: Material) -> float:
    """N at which such a wall gives MOST_BENT or comes to its yield strength, whichever is less; both grow with it.

    The ear above gives 0.088 at 20 kN, so 0.05 at 11.34 kN.
    """
    inertia = width * thick**3 / 12
    return min(
        MOST_BENT * 3 * material.modulus * inertia / arm**3, material.yield_strength * width * thick**2 / (6 * arm)
    )  # fmt: skip


def ear_findings(setup: str, hold: ViseHold, material: Material) -> Iterator[Finding]:
    """Of each slot that parts what lies between the jaws, and has no spacer in it."""
    there = hold.held.made | hold.held.here
    for slot in hold.held.part.features:
        if not isinstance(slot, Slot) or slot.id not in there or slot.through or not slot.open_edges:
            continue
        if any(id == slot.id for id, _ in hold.spacers):
            continue
        along = dot(slot.direction, hold.frame.up)
        ring = [hold.frame.point(p) for p in slot.region[0]]
        front, back = hold.gripped_y
        near, far = min(p[1] for p in ring), max(p[1] for p in ring)
        thick = min(near - front, back - far)
        length = max(p[0] for p in ring) - min(p[0] for p in ring)
        touched = min(c.length for c in hold.contacts)
        if abs(along) < 0.999 or thick <= 0 or length < MOST_OF_JAW * touched:
            continue  # it does not part the piece from jaw to jaw
        if touched <= 0:
            continue  # what a jaw does not touch at all has a finding of its own
        root = ring[0][2]
        low = max(hold.floor, root) if along > 0 else hold.floor
        high = hold.jaw_top if along > 0 else min(hold.jaw_top, root)
        if high - low < hold.grip - SOLID * hold.grip:
            continue  # enough of the grip is on what is not parted
        arm = (low + high) / 2 - root if along > 0 else root - (low + high) / 2
        found = bent(hold.force_kn * 1000, arm, touched, thick, material.modulus)
        if found.by > MOST_BENT or found.stress > material.yield_strength:
            beyond = (
                f", beyond the {material.yield_strength:.0f} that {material.name} stands"
                if found.stress > material.yield_strength
                else ""
            )
            least = STEP * floor(most_force(arm, touched, thick, material) / 1000 / STEP)
            yield error(
                setup, "ears-bend", f"The jaws press the walls beside {slot.id} together by {2 * found.by:.2f}.",
                f"They are {thick:.1f} thick, pressed {arm:.1f} from their root: {found.stress:.0f} N/mm²{beyond}. "
                f"Put a spacer of {far - near:.2f} between them, press less, hold another side, or cut {slot.id} last.",
                (spacer(setup, slot.id, far - near), *less(setup, least), turned(setup, hold.turn)),
            )  # fmt: skip


def spacer(setup: str, slot: str, width: float) -> Cure:
    change = {"change": "set-spacer", "setup": setup, "feature": slot, "there": True}
    return Cure(f"Spacer of {width:.2f} in {slot}", change)


def less(setup: str, force: float) -> tuple[Cure, ...]:
    if force < LEAST:
        return ()
    return (Cure(f"Press with {force:g} kN", {"change": "set-force", "setup": setup, "force": force}),)
