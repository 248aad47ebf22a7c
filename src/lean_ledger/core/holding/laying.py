"""How stock lies in what holds it, said by the part's own faces: what it rests on, what is at the fixed jaw."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.model import Face, Surface
from lean_ledger.core.geometry.vectors import axis_name, dot, neg
from lean_ledger.core.holding.resolve import holding_side
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, SetupDecision
from lean_ledger.core.setups.frame import frame_of

Quarter = Literal[0, 90, 180, 270]
QUARTERS: tuple[Quarter, ...] = (0, 90, 180, 270)
SQUARE = 1e-6
OUTERMOST = 0.01  # mm within which a face lies at the part's end


@dataclass(frozen=True)
class Lying:
    """Sides of the part: the one that it rests on and the one at the back, with the flat faces that lie there."""

    base: str
    back: str
    base_faces: tuple[int, ...]
    back_faces: tuple[int, ...]


def lying(part: Part, setup: SetupDecision, turn: int) -> Lying:
    side = holding_side(setup)
    base = axis_name(neg(DIRECTIONS[side]))
    back = axis_name(frame_of(side, turn).back)
    return Lying(base, back, flat_faces(part, base), flat_faces(part, back))


def flat_faces(part: Part, side: str) -> tuple[int, ...]:
    """The flat faces at the part's very end on one side."""
    end = _end(part, side)
    return tuple(
        f.index for f in part.model.solid.faces
        if side_of(f) == side and abs(dot(f.origin, DIRECTIONS[side]) - end) < OUTERMOST
    )  # fmt: skip


def side_of(face: Face) -> str:
    """The side that a flat face looks to; empty for any other."""
    if face.surface != Surface.PLANE:
        return ""
    return next((name for name, d in DIRECTIONS.items() if dot(d, face.axis) > 1 - SQUARE), "")


def named(part: Part, face: int) -> str:
    """A face as the planner knows it: by its feature, else by its side."""
    owner = next((f.id for f in part.features if face in f.faces), "")
    return owner or side_of(part.model.solid.faces[face]) or "that face"


def side_to_lie_by(part: Part, face: int) -> str:
    """The side of a face that the part can be laid by. Raises PlanError, with what would do, for any other."""
    faces = part.model.solid.faces
    if not 0 <= face < len(faces):
        raise PlanError("no-such-face", f"the part has {len(faces)} faces, there is no face {face}")
    side = side_of(faces[face])
    if not side:
        raise PlanError(
            "not-flat", f"{named(part, face)} is not flat along X, Y or Z there: the part would not lie on it. "
            "Choose a flat face",
        )  # fmt: skip
    inside = _end(part, side) - dot(faces[face].origin, DIRECTIONS[side])
    if inside > OUTERMOST:
        others = ", ".join(dict.fromkeys(named(part, f) for f in flat_faces(part, side))) or "no flat face"
        raise PlanError(
            "inside", f"{named(part, face)} lies {inside:.1f} inside: {others} is outermost on {side}. Choose that",
        )  # fmt: skip
    return side


def turn_with(setup: SetupDecision, side: str) -> Quarter | None:
    """The quarter turn that brings a side of the part to the back; None where it is up or down."""
    up = holding_side(setup)
    return next((t for t in QUARTERS if axis_name(frame_of(up, t).back) == side), None)


def _end(part: Part, side: str) -> float:
    d = DIRECTIONS[side]
    bounds = part.model.solid.bounds
    return max(dot(bounds.min, d), dot(bounds.max, d))
