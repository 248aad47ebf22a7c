"""Names for stretches of a load's cycle."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.plain_text import check_name
from lean_ledger.core.changes.layout import load_in
from lean_ledger.core.changes.scene import Scene, Strict
from lean_ledger.core.loads.ordering import cycle_of
from lean_ledger.core.plan import Plan, Section

LONGEST = 60


@dataclass(frozen=True)
class NameSection(Strict):
    """What begins with a step of the cycle has a name, up to the next section; without a name it has none."""

    load: str
    piece: str
    operation: str
    name: str
    change: Literal["name-section"] = "name-section"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        cycle = cycle_of(scene.ledger.load_of(load.setups[0]))
        step = (self.piece, self.operation)
        named = dict(zip(cycle.sequence(range(len(cycle.steps))), cycle.steps, strict=True)).get(step)
        old = load.section_at(*step)
        if named is None and not old:
            raise PlanError("no-such-step", f"load {load.id} has no step {self.operation!r} on piece {self.piece!r}")
        name = self.name.strip()
        check_name(name, "a section's name", LONGEST)
        rest = tuple(one for one in load.sections if (one.piece, one.operation) != step)
        if not name:
            if not old:
                raise PlanError("no-section", "no section begins with this step")
            return plan.with_load(replace(load, sections=rest)), f"load {load.id}: section “{old}” has no name any more"
        changed = replace(load, sections=(*rest, Section(self.piece, self.operation, name)))
        begins = f"begins with “{named[1].name}”" if named is not None else "is named"
        return plan.with_load(changed), f"load {load.id}: section “{name}” {begins}"
