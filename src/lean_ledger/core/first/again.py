"""A plan begun again on another machine."""

from __future__ import annotations

from dataclasses import dataclass

from lean_ledger.core.changes import Scene
from lean_ledger.core.changes.hand import keeping_hand
from lean_ledger.core.first.machine import afresh, begun_on
from lean_ledger.core.plan import Plan


@dataclass(frozen=True)
class BeginAgain:
    """Divided, held and made by the rules, on a machine or on a lathe and the mill of what it leaves."""

    machines: tuple[str, ...]
    change: str = "begin-again"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        found = begun_on(afresh(plan, scene.part, scene.library), self.machines, scene.part, scene.library)
        return keeping_hand(plan, found.plan), f"begun again {found.words}"
