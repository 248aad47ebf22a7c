"""What programs are written in, and programs from elsewhere that times are taken from."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict
from lean_ledger.core.plan import AttachedProgram, Plan
from lean_ledger.library.dialects import dialects_for


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


@dataclass(frozen=True)
class SetIssue(Strict):
    """Whether programs go out as a file for each setup, or one for all setups of a machine."""

    by: Literal["setup", "machine"]
    change: Literal["set-issue"] = "set-issue"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        return replace(plan, issued_by=self.by), f"a program file for each {self.by}"


@dataclass(frozen=True)
class SetDialect(Strict):
    """What a setup's program is written in; None for the usual of its machine's kind."""

    setup: str
    dialect: str | None
    change: Literal["set-dialect"] = "set-dialect"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        before = plan.load_of(self.setup)
        machine = scene.library.machine(before.machine)
        able = {d.id: d.name for d in dialects_for(machine)} if machine is not None else {}
        if self.dialect is not None and self.dialect not in able:
            raise PlanError(
                "no-such-dialect", f"{self.dialect!r} is none that {machine.name if machine else before.machine} "
                f"reads; it reads {', '.join(able)}", self.setup,
            )  # fmt: skip
        words = able[self.dialect] if self.dialect is not None else "the usual dialect"
        return plan.with_load(replace(before, dialect=self.dialect)), f"setup {self.setup}: program in {words}"
