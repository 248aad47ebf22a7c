"""The ledger of a plan: what its decisions come to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Figure, Finding
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.timeline import CATEGORIES, Call
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, Zero
from lean_ledger.core.pricing.price import PriceProblem, QuantityPrice
from lean_ledger.core.setups.zero import RotaryAxis, Surroundings, bores_there, proposed_zero
from lean_ledger.core.stock import StockState
from lean_ledger.core.stock.sizes import Sized
from lean_ledger.library.types import Material


@dataclass(frozen=True)
class Ledger:
    """`plan` has the allowances that its stock comes out with, which may be more than was decided."""

    plan: Plan
    sized: Sized
    material: Material
    stock: StockState
    loads: tuple[LoadLedger, ...]
    assigned: Mapping[str, tuple[str, ...]]
    findings: tuple[Finding, ...]
    problem: PriceProblem
    prices: tuple[QuantityPrice, ...]
    tool_wear: Figure
    stages: Mapping[str, float]  # seconds that each stage of the evaluation took

    @property
    def seconds(self) -> dict[str, float]:
        """Per piece, by category."""
        return {category: sum(s.seconds[category] / s.pieces for s in self.loads) for category in CATEGORIES}

    @property
    def cycle(self) -> float:
        """A piece's share of the cycles, s, all setups together."""
        return sum(s.cycle / s.pieces for s in self.loads)

    @property
    def per_piece(self) -> float:
        return sum(self.seconds.values())

    @property
    def setup_hours(self) -> Decimal:
        return sum((s.setup_hours for s in self.loads), Decimal(0))

    @property
    def operations(self) -> tuple[Operation, ...]:
        return tuple(e.operation for s in self.setups for e in s.rows)

    @property
    def left_out(self) -> tuple[Operation, ...]:
        """What no setup makes because it would cut the part or what holds it: another tool may do."""
        return tuple(op for s in self.setups for op in s.built.left_out)

    def zero_place(self, part: Part, index: int) -> Surroundings:
        """What the zero of a setup can be on: bores count that setups before it made."""
        built = self.setups[index].built
        frame = built.home.frame
        before = [id for s in self.setups[:index] for id in self.assigned[s.decision.id]]
        boxes = [frame.box(box) for box in built.before.boxes()]
        stock = Bounds(*(tuple(pick(getattr(b, end)[i] for b in boxes) for i in range(3))
                         for pick, end in ((min, "min"), (max, "max"))))  # fmt: skip
        box = frame.box(part.model.solid.bounds)
        axis = None
        for i, direction in enumerate((frame.right, frame.back)):
            along = dot(direction, built.hold.frame.up)
            if abs(along) > 0.5:
                foot = list(frame.point(built.stands.foot))
                foot[i] = box.max[i] if along > 0 else box.min[i]
                axis = RotaryAxis("XY"[i], (round(foot[0], 4), round(foot[1], 4), round(foot[2], 4)))  # type: ignore[arg-type]
        spun = self.setups[index].decision.part_turns
        return Surroundings(stock, box, bores_there(part, frame, before), axis, spun)

    def zero_of(self, part: Part, index: int) -> Zero:
        """The zero of a setup: decided by hand, else by the rule."""
        decided = self.setups[index].decision.zero
        if decided is not None:
            return decided
        return proposed_zero(index, self.zero_place(part, index))[0]

    def call_of(self, operation: str) -> Call:
        """What an operation costs a piece."""
        return next(call for setup in self.setups for call in setup.rows if call.operation.id == operation)

    @cached_property
    def setups(self) -> tuple[LoadLedger, ...]:
        """What each setup comes to, in their order: its load, or its share of one that it does not have alone."""
        of = {share.decision.id: share for load in self.loads for share in load.shares}
        return tuple(of[setup.id] for setup in self.plan.setups)

    def setup(self, id: str) -> LoadLedger:
        return next(one for one in self.setups if one.decision.id == id)

    def second_of(self, setup: str) -> float:
        """What a second of a load's machine costs, with the share of an operator that its run takes."""
        load = self.load_of(setup)
        (row,) = (row for row in self.problem.setups if row.name == load.words)
        return float(row.machine_rate + row.labour_rate * row.attendance) / 3600

    @property
    def beside(self) -> int:
        """Carriages that work at the same time in a load, at the most; 0 where none do."""
        most = max(len(load.by_carriage) for load in self.loads)
        return most if most > 1 else 0

    def load_named(self, id: str) -> LoadLedger:
        """Raises PlanError no-load."""
        found = next((one for one in self.loads if one.load.id == id), None)
        if found is None:
            there = ", ".join(one.load.id for one in self.loads)
            raise PlanError("no-load", f"there is no load {id}; the plan has {there}")
        return found

    def load_of(self, setup: str) -> LoadLedger:
        """The whole load that a setup is made in."""
        return next(one for one in self.loads if setup in one.load.setups)
