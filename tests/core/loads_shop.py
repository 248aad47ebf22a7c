"""A plan with loads that is changed and evaluated, and what judges its program beside what stands with other pieces."""

from __future__ import annotations

from typing import Any

import numpy as np

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.loads.layout import Placed
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.spacing import Solid
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.program.checked import Checked, checked_programs
from lean_ledger.library import shipped_library
from tests.conftest import built, quick

LIB = shipped_library()


class LoadShop:
    """A plan that is changed and evaluated."""

    def __init__(self, part: Part, machine: str | None = None) -> None:
        self.part = part
        self.plan: Plan = quick(part)
        self.ledger: Ledger = evaluate(self.plan, part, LIB)
        if machine is not None:
            self.change(change="set-machine", setup="S1", machine=machine)

    def change(self, **values: Any) -> str:
        scene = Scene(self.part, LIB, self.ledger)
        self.plan, words = read_change(values).apply(self.plan, scene)
        self.ledger = evaluate(self.plan, self.part, LIB)
        return words

    def arrange(self, **values: Any) -> str:
        return self.change(change="set-arrangement", load="L1", **values)

    @property
    def load(self) -> LoadLedger:
        return self.ledger.loads[0]

    def findings(self, code: str) -> list[Finding]:
        return [f for f in self.ledger.findings if f.code == code]

    def cure(self, code: str) -> None:
        found = self.findings(code)[0]
        self.change(**found.cures[0].change)

    @property
    def programs(self) -> tuple[Checked, ...]:
        return checked_programs(self.ledger, self.part, "T-1")

    @property
    def program(self) -> Checked:
        return self.programs[0]

    @property
    def words(self) -> list[str]:
        return [o.word for o in offsets_of(self.ledger, self.part) if o.setup == "S1"]


#: 60 × 40 × 20 with a bore and a blind hole: little to make, so that many of them are planned in a moment.
PART = built(block((0, 0, 0), (60, 40, 20)) - rod((30, 20, 0), (0, 0, 1), 6, 20) - rod((10, 10, 12), (0, 0, 1), 3, 8))


class Shop(LoadShop):
    def __init__(self, part: Part = PART, machine: str | None = None) -> None:
        super().__init__(part, machine)


def standing_with(placed: Placed, load: LoadLedger) -> list[Solid]:
    solids = load.where.kind_at(placed).solids
    return [s for s in solids if not s.shared and s.what != "parallel"]


def met_on_the_way(shop: LoadShop, setup: str = "S1") -> list[str]:
    """Places, a millimetre apart, where tool or holder of the program as it runs is inside another piece's solids."""
    load = shop.ledger.load_of(setup)
    checked = next(c for c in shop.programs if setup in c.program.setups)
    tools = {call.operation.tool.number: call.operation.tool for call in load.calls}
    made = [load.where.made_with(call.place, call.operation.id) for call in load.calls]
    found, main = [], checked.program.numbers.main
    for step in checked.run.steps:
        if step.kind not in ("cut", "rapid") or step.tool is None or step.length is None:
            continue
        tool, length = tools[step.tool], checked.setting.lengths[step.length]
        own = made[step.entered - 1] if step.sub not in (0, main) else ()
        others = [p for p in load.placed if p.stands.angle == step.angles[0] and p.place.id not in own[:1]]
        boxes = [p.box(s.box) for p in others for s in standing_with(p, load)
                 if s.what != "stock" or p.place.id not in own]  # fmt: skip
        low, high = (np.array([getattr(b, end) for b in boxes]).reshape(-1, 3) for end in ("min", "max"))
        start, end = np.array(step.start), np.array(step.end)
        count = int(np.linalg.norm(end - start)) + 2
        for p in start + np.linspace(0, 1, count)[:, None] * (end - start):
            for radius, above in ((tool.diameter / 2, 0.0), (tool.holder.diameter / 2, tool.reach)):
                away = np.maximum(0, np.maximum(low - p, p - high))[:, :2]
                hit = (np.hypot(away[:, 0], away[:, 1]) < radius - 1e-6) & (p[2] - length + above < high[:, 2] - 1e-6)
                if hit.any():
                    found.append(f"line {step.line} T{step.tool} at {p.round(1)}")
    return found
