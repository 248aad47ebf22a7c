"""What the part is made of and what the model does not say: material, stock, threads, features left out."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict, check_between, known_features
from lean_ledger.core.features import Hole
from lean_ledger.core.plan import LeftOut, LeftTo, Plan, Side, ThreadChoice

MOST_ALLOWANCE = 200.0

_BY = {"deburring": "deburring", "made elsewhere": "another shop"}


@dataclass(frozen=True)
class SetMaterial(Strict):
    material: str
    change: Literal["set-material"] = "set-material"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        found = scene.library.material(self.material)
        if found is None:
            names = ", ".join(m.id for m in scene.library.materials)
            raise PlanError("no-such-material", f"there is no material {self.material!r}; the library has {names}")
        return replace(plan, material=self.material), f"material {found.name}"


@dataclass(frozen=True)
class SetQuantities(Strict):
    quantities: tuple[int, ...]
    change: Literal["set-quantities"] = "set-quantities"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        wanted = tuple(dict.fromkeys(self.quantities))
        if not wanted or min(wanted) < 1:
            raise PlanError("quantities", "at least one quantity is needed, each a whole number above 0")
        return replace(plan, quantities=wanted), f"quantities {', '.join(map(str, wanted))}"


@dataclass(frozen=True)
class SetAllowance(Strict):
    side: Side
    value: float
    change: Literal["set-allowance"] = "set-allowance"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        check_between(self.value, 0, MOST_ALLOWANCE, f"the allowance on {self.side}")
        allowances = plan.allowances.with_side(self.side, self.value)
        return replace(plan, allowances=allowances), f"allowance {self.side} {self.value:g}"


def _holes_of(diameter: float, scene: Scene) -> list[Hole]:
    return [f for f in scene.part.features if isinstance(f, Hole) and abs(f.diameter - diameter) < 1e-3]


@dataclass(frozen=True)
class SetThread(Strict):
    diameter: float
    thread: str | None
    instead_of: float | None = None  # a size that no hole has any more, whose thread this is
    change: Literal["set-thread"] = "set-thread"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        holes = _holes_of(self.diameter, scene)
        if not holes:
            raise PlanError("no-such-hole", f"the part has no hole of Ø{self.diameter:g}")
        others = tuple(t for t in plan.threads if abs(t.diameter - self.diameter) >= 1e-3)
        what = f"{len(holes)} × Ø{self.diameter:g}"
        if self.instead_of is not None:
            if _holes_of(self.instead_of, scene):
                raise PlanError("size-there", f"the part has holes of Ø{self.instead_of:g}: their thread is not moved")
            others = tuple(t for t in others if abs(t.diameter - self.instead_of) >= 1e-3)
            what += f", which were Ø{self.instead_of:g}"
        if self.thread is None:
            return replace(plan, threads=others), f"no thread in {what}"
        thread = scene.library.thread(self.thread)
        if thread is None:
            raise PlanError("no-such-thread", f"there is no thread {self.thread!r} in the library")
        if not thread.fits(self.diameter):
            raise PlanError(
                "thread-misfit",
                f"a hole of Ø{self.diameter:g} cannot carry {thread.name}: its tap drill is {thread.tap_drill:g}, "
                f"its major diameter {thread.major:g}",
            )
        chosen = ThreadChoice(holes[0].diameter, thread.name)
        return replace(plan, threads=(*others, chosen)), f"thread {thread.name} in {what}"


@dataclass(frozen=True)
class ForgetThread(Strict):
    """Takes back a thread named for a size that no hole has any more."""

    diameter: float
    change: Literal["forget-thread"] = "forget-thread"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        name = plan.thread_of(self.diameter)
        if name is None:
            raise PlanError("no-such-thread", f"no thread was named for Ø{self.diameter:g}")
        kept = tuple(t for t in plan.threads if abs(t.diameter - self.diameter) >= 1e-3)
        return replace(plan, threads=kept), f"{name} for Ø{self.diameter:g} forgotten"


@dataclass(frozen=True)
class LeaveOut(Strict):
    features: tuple[str, ...]
    reason: LeftTo
    change: Literal["leave-out"] = "leave-out"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        known_features(self.features, scene)
        kept = tuple(left for left in plan.left_out if left.feature not in self.features)
        added = tuple(LeftOut(feature, self.reason) for feature in self.features)
        words = "filled for now" if self.reason == "filled for now" else f"left to {_BY[self.reason]}"
        return replace(plan, left_out=kept + added), f"{', '.join(self.features)} {words}"


@dataclass(frozen=True)
class TakeIn(Strict):
    features: tuple[str, ...]
    change: Literal["take-in"] = "take-in"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        kept = tuple(left for left in plan.left_out if left.feature not in self.features)
        return replace(plan, left_out=kept), f"{', '.join(self.features)} made here after all"
