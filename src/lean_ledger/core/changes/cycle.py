"""What a setup's cycle does beside cutting: feeling the work with a probe, cutting the piece off its bar."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict, check_between
from lean_ledger.core.features import Hole, Slot
from lean_ledger.core.plan import ZERO, Plan
from lean_ledger.core.setups.ways import turns_sides_up

MOST_LEFT = 20.0  # mm


@dataclass(frozen=True)
class SetProbe(Strict):
    """`what` is "zero", before the first cut, or a bore or slot that the setup makes, after its last."""

    setup: str
    what: str
    on: bool
    change: Literal["set-probe"] = "set-probe"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        before = plan.setup(self.setup)
        rest = tuple(one for one in before.probes if one != self.what)
        words = "the zero" if self.what == ZERO else self.what
        if not self.on:
            return plan.with_setup(replace(before, probes=rest)), f"setup {self.setup}: {words} is not probed"
        if before.part_turns:
            raise PlanError("no-probe-here", "a lathe of this shop has no probe; probe on a mill", self.setup)
        if turns_sides_up(scene.part, before, plan.outline_axis):
            raise PlanError("no-probe-here", "where sides are turned up the zero is on the rotary's axis", self.setup)
        if self.what != ZERO:
            feature = scene.part.by_id.get(self.what)
            if not isinstance(feature, Hole | Slot):
                raise PlanError("not-probed", f"{self.what} is no bore or slot of this part", self.setup)
            if self.what not in scene.ledger.assigned.get(self.setup, ()):
                raise PlanError("not-made-here", f"{self.what} is not made in {self.setup}", self.setup)
        probes = (ZERO, *rest) if self.what == ZERO else (*rest, self.what)
        return plan.with_setup(replace(before, probes=probes)), f"setup {self.setup}: {words} is probed"


@dataclass(frozen=True)
class SetCutOff(Strict):
    """On a lathe the piece is parted off what the chuck holds, `left` mm from its end; None takes that back."""

    setup: str
    left: float | None
    change: Literal["set-cut-off"] = "set-cut-off"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        before = plan.setup(self.setup)
        if self.left is None:
            return plan.with_setup(replace(before, cut_off=None)), f"setup {self.setup}: not cut off"
        if not before.part_turns:
            raise PlanError("no-lathe", "only a lathe cuts a piece off its bar", self.setup)
        check_between(self.left, 0.0, MOST_LEFT, "what is left to face")
        words = f"setup {self.setup}: cut off, {self.left:g} left to face"
        return plan.with_setup(replace(before, cut_off=self.left)), words
