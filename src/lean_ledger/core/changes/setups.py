"""How the part is held, from which side, on which machine, and which features fall to which setup."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.changes.scene import Scene, Strict, check_between, known_features
from lean_ledger.core.errors import PlanError
from lean_ledger.core.machines import check_machine, moved_to, on_machine
from lean_ledger.core.plan import MovedFeature, Plan, SetupDecision, Side, Zero, ZeroPlace
from lean_ledger.core.setups import assign_features

MOST_GRIP = 200.0
MOST_SETUPS = 12


@dataclass(frozen=True)
class MoveFeature(Strict):
    features: tuple[str, ...]
    setup: str
    change: Literal["move-feature"] = "move-feature"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        plan.setup(self.setup)
        kept = tuple(m for m in plan.moved if m.feature not in self.features)
        moved = replace(plan, moved=kept + tuple(MovedFeature(f, self.setup) for f in self.features))
        stayed = [f for f in self.features if f not in assign_features(scene.part, moved)[self.setup]]
        if stayed:
            raise PlanError(
                "unreachable", f"{', '.join(stayed)} cannot be reached with {plan.setup(self.setup).up} up", self.setup
            )
        return moved, f"{', '.join(self.features)} to setup {self.setup}"


@dataclass(frozen=True)
class SetUp(Strict):
    setup: str
    up: Side
    change: Literal["set-up"] = "set-up"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        decided = replace(plan.setup(self.setup), up=self.up, turn=None, order=())
        return plan.with_setup(decided), f"setup {self.setup}: {self.up} up"


@dataclass(frozen=True)
class SetTurn(Strict):
    setup: str
    turn: Literal[0, 90, 180, 270] | None
    change: Literal["set-turn"] = "set-turn"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        decided = replace(plan.setup(self.setup), turn=self.turn)
        words = "turned by the rule" if self.turn is None else f"turned to {self.turn}°"
        return plan.with_setup(decided), f"setup {self.setup}: {words}"


@dataclass(frozen=True)
class SetVise(Strict):
    setup: str
    vise: str | None
    change: Literal["set-vise"] = "set-vise"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        vise = scene.library.vise(self.vise) if self.vise is not None else None
        if self.vise is not None and vise is None:
            raise PlanError("no-such-vise", f"there is no vise {self.vise!r} in the library", self.setup)
        decided = replace(plan.setup(self.setup), vise=self.vise)
        return plan.with_setup(decided), f"setup {self.setup}: {vise.name if vise else 'vise by the rule'}"


@dataclass(frozen=True)
class SetGrip(Strict):
    setup: str
    grip: float | None
    change: Literal["set-grip"] = "set-grip"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if self.grip is not None:
            check_between(self.grip, 0.1, MOST_GRIP, "the grip")
        decided = replace(plan.setup(self.setup), grip=self.grip)
        words = "grip by the rule" if self.grip is None else f"grip {self.grip:g}"
        return plan.with_setup(decided), f"setup {self.setup}: {words}"


@dataclass(frozen=True)
class SetZero(Strict):
    setup: str
    of: Literal["stock", "part", "bore"]
    place: ZeroPlace = "centre"
    level: Literal["top", "bottom"] = "top"
    bore: str = ""
    change: Literal["set-zero"] = "set-zero"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if self.of == "bore":
            known_features((self.bore,), scene)
        zero = Zero(self.of, self.place, self.level, self.bore if self.of == "bore" else "")
        return plan.with_setup(replace(plan.setup(self.setup), zero=zero)), f"setup {self.setup}: zero {zero.words}"


@dataclass(frozen=True)
class ZeroByRule(Strict):
    setup: str
    change: Literal["zero-by-rule"] = "zero-by-rule"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        return plan.with_setup(replace(plan.setup(self.setup), zero=None)), f"setup {self.setup}: zero by the rule"


@dataclass(frozen=True)
class SetMachine(Strict):
    setup: str
    machine: str
    change: Literal["set-machine"] = "set-machine"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        machine = scene.library.machine(self.machine)
        if machine is None:
            raise PlanError("no-such-machine", f"there is no machine {self.machine!r} in the library", self.setup)
        check_machine(machine, self.setup)
        decided = on_machine(plan.setup(self.setup), machine)
        return plan.with_setup(decided), f"setup {self.setup}: {machine.name}"


@dataclass(frozen=True)
class MoveToMachine(Strict):
    """All setups on one machine."""

    machine: str
    change: Literal["move-to-machine"] = "move-to-machine"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        machine = scene.library.machine(self.machine)
        if machine is None:
            raise PlanError("no-such-machine", f"there is no machine {self.machine!r} in the library")
        return moved_to(plan, machine), f"all setups on {machine.name}"


@dataclass(frozen=True)
class AddSetup(Strict):
    up: Side
    change: Literal["add-setup"] = "add-setup"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        if len(plan.setups) >= MOST_SETUPS:
            raise PlanError("too-many-setups", f"a plan takes at most {MOST_SETUPS} setups")
        taken = {s.id for s in plan.setups}
        id = next(f"S{i}" for i in range(1, 99) if f"S{i}" not in taken)
        added = SetupDecision(id, self.up, plan.setups[-1].machine)
        return replace(plan, setups=(*plan.setups, added)), f"setup {id} added, {self.up} up"


@dataclass(frozen=True)
class RemoveSetup(Strict):
    setup: str
    change: Literal["remove-setup"] = "remove-setup"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        plan.setup(self.setup)
        if len(plan.setups) == 1:
            raise PlanError("last-setup", "a plan needs at least one setup", self.setup)
        kept = tuple(s for s in plan.setups if s.id != self.setup)
        moved = tuple(m for m in plan.moved if m.setup != self.setup)
        return replace(plan, setups=kept, moved=moved), f"setup {self.setup} removed"
