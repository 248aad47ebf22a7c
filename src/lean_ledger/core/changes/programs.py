"""Programs from elsewhere that times are taken from."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.changes.scene import Scene, Strict
from lean_ledger.core.errors import PlanError
from lean_ledger.core.plan import AttachedProgram, Plan


@dataclass(frozen=True)
class AttachProgram(Strict):
    """Times a setup, or one operation of it, by a program that was brought in; one that was there before goes."""

    setup: str
    file: str
    key: str
    operation: str = ""
    change: Literal["attach-program"] = "attach-program"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        setup = plan.setup(self.setup)
        what = f"setup {setup.id}"
        if self.operation:
            op = next((o for o in scene.ledger.operations if o.id == self.operation and o.setup == self.setup), None)
            if op is None:
                raise PlanError("no-such-operation", f"setup {setup.id} has no operation {self.operation}", setup.id)
            what = op.name
        if self.key not in scene.models:
            raise PlanError("no-such-program", "there is no such program; bring its file in first", setup.id)
        others = tuple(a for a in plan.attached if (a.setup, a.operation) != (self.setup, self.operation))
        attached = AttachedProgram(self.setup, self.operation, self.file, self.key)
        return replace(plan, attached=(*others, attached)), f"{what}: timed by {self.file}"


@dataclass(frozen=True)
class DetachProgram(Strict):
    """Back to the plan's own motion."""

    setup: str
    operation: str = ""
    change: Literal["detach-program"] = "detach-program"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        there = plan.attached_to(self.setup, self.operation)
        if there is None:
            raise PlanError("not-attached", f"no program is attached to {self.operation or self.setup}", self.setup)
        left = tuple(a for a in plan.attached if a != there)
        return replace(plan, attached=left), f"{self.operation or self.setup}: timed by its own motion again"
