"""How deep an operation goes: a positive number, or to a face that is pointed at."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict, check_between
from lean_ledger.core.geometry.model import Surface
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.operations.depths import SAME, ends_of
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import DepthChoice, Plan

MOST = 2000.0  # mm
MOST_BEYOND = 50.0  # mm
ACROSS = 0.999  # cosine between a face's normal and the tool's axis


@dataclass(frozen=True)
class SetDepth(Strict):
    """So many mm down from where the operation begins, or to a flat face and so far `beyond` it; neither: by rule."""

    operation: str
    depth: float | None = None
    face: int | None = None
    beyond: float = 0.0
    change: Literal["set-depth"] = "set-depth"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        op = next((op for op in scene.ledger.operations if op.id == self.operation), None)
        kept = tuple(d for d in plan.depths if d.operation != self.operation)
        if op is None and len(kept) == len(plan.depths):
            raise PlanError("no-such-operation", f"there is no operation {self.operation}")
        if self.depth is None and self.face is None:
            name = op.name if op is not None else self.operation
            return replace(plan, depths=kept), f"{name}: depth by the rule"
        if op is None or op.measured is None:
            name = op.name if op is not None else self.operation
            raise PlanError("no-depth-of-its-own", f"{name} has no depth to set: it follows from another operation's",
                            self.operation)  # fmt: skip
        if self.depth is not None and self.face is not None:
            raise PlanError("two-depths", "a depth is a number or goes to a face, not both", op.id)
        check_between(self.beyond, -MOST_BEYOND, MOST_BEYOND, "how far it goes beyond the face")
        if self.depth is not None:
            check_between(self.depth, 0.01, MOST, "a depth, which counts down from where the operation begins,")
            choice = DepthChoice(op.id, depth=self.depth)
        else:
            assert self.face is not None
            choice = _pointed(op, self.face, self.beyond, scene)
        return replace(plan, depths=(*kept, choice)), f"{op.name}: {choice.words}"


def _pointed(op: Operation, face: int, beyond: float, scene: Scene) -> DepthChoice:
    """The end of a feature that a face lies at. Raises PlanError for a face that has no one depth or lies too high."""
    assert op.measured is not None
    faces = scene.part.model.solid.faces
    if not 0 <= face < len(faces):
        raise PlanError("no-such-face", f"the part has {len(faces)} faces, there is no face {face}", op.id)
    owner = next((f for f in scene.part.features if face in f.faces), None)
    flat = faces[face].surface == Surface.PLANE and abs(dot(faces[face].axis, op.frame.up)) > ACROSS
    if owner is None or not flat:
        raise PlanError(
            "no-one-depth", "that face does not lie flat across the tool: it has no one depth. Point at a floor, "
            "a shoulder or an outer face", op.id,
        )  # fmt: skip
    level = op.frame.point(faces[face].origin)[2]
    deep = op.measured.top - level + beyond
    if deep < SAME:
        raise PlanError(
            "above", f"that face of {owner.id} lies {-deep:.2f} above where {op.name} begins; point at a lower one",
            op.id,
        )  # fmt: skip
    low, high = ends_of(scene.part, owner, op.frame)
    if min(abs(level - low), abs(level - high)) > SAME:
        raise PlanError(
            "inside", f"that face lies between the ends of {owner.id}; point at its floor, or say the depth "
            f"({deep:.2f})", op.id,
        )  # fmt: skip
    return DepthChoice(op.id, None, owner.id, "bottom" if abs(level - low) <= abs(level - high) else "top", beyond)
