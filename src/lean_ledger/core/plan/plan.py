"""The plan as a value: the decisions, and nothing that can be computed from them.

None stands for "by the rule": the evaluation fills it in, again on every change.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.features import Hole
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.plan.cell import Cell
from lean_ledger.core.plan.engraving import Engraving
from lean_ledger.core.plan.loads import Clamped, Load, loads_of
from lean_ledger.core.plan.operations import AttachedProgram, ChainChoice, DepthChoice, OperationEdit
from lean_ledger.core.plan.part import (
    PLAIN,
    AcceptedRest,
    Confirmed,
    LeftOut,
    PairByHand,
    PlanningBody,
    Said,
    ThreadChoice,
)
from lean_ledger.core.plan.rates import OneOff, RateEdits
from lean_ledger.core.plan.setups import MovedFeature, SetupDecision
from lean_ledger.core.plan.sides import DIRECTIONS
from lean_ledger.core.plan.stock import Allowances, StockChoice


@dataclass(frozen=True)
class Plan:
    """One way of making a part; the whole of it."""

    material: str
    quantities: tuple[int, ...]
    allowances: Allowances
    setups: tuple[SetupDecision, ...]
    loads: tuple[Load, ...]
    threads: tuple[ThreadChoice, ...] = ()
    edits: tuple[OperationEdit, ...] = ()
    left_out: tuple[LeftOut, ...] = ()
    moved: tuple[MovedFeature, ...] = ()
    rates: RateEdits = field(default_factory=RateEdits)
    buy: Literal["blank", "bar"] = "blank"
    revision: str = "A"  # of the part that this plan makes
    said: tuple[Said, ...] = ()
    bodies: tuple[PlanningBody, ...] = ()
    pairs: tuple[PairByHand, ...] = ()
    confirmed: tuple[Confirmed, ...] = ()
    accepted: tuple[AcceptedRest, ...] = ()
    together: tuple[tuple[str, ...], ...] = ()  # features to be made in one setup
    before: tuple[tuple[str, str], ...] = ()  # the first in no later setup than the second
    stock: StockChoice = field(default_factory=StockChoice)
    parked: tuple[str, ...] = ()  # features that no setup makes yet: the part is being divided by hand
    attached: tuple[AttachedProgram, ...] = ()
    chains: tuple[ChainChoice, ...] = ()
    depths: tuple[DepthChoice, ...] = ()
    issued_by: Literal["setup", "machine"] = "setup"  # whether each setup or each machine has a program file
    engravings: tuple[Engraving, ...] = ()
    cell: Cell = field(default_factory=Cell)
    one_off: OneOff = field(default_factory=OneOff)

    @property
    def as_made(self) -> Plan:
        """Only what decides how the part is made, where each setup is given: without money, loads and bookkeeping."""
        return replace(
            self, loads=(), moved=(), rates=RateEdits(), buy="blank", pairs=(), confirmed=(), accepted=(), together=(),
            before=(), parked=(), attached=(), issued_by="setup", cell=Cell(), one_off=OneOff(),
        )  # fmt: skip

    @property
    def outline_axis(self) -> Vec:
        """The axis around which the outline is cut: the first setup's, in the direction in which the part counts."""
        first = self.setups[0]
        return DIRECTIONS[f"{(first.free or first.up)[0]}+"]

    def setup(self, id: str) -> SetupDecision:
        for setup in self.setups:
            if setup.id == id:
                return setup
        raise PlanError("no-such-setup", f"there is no setup {id}; the plan has {', '.join(s.id for s in self.setups)}")

    def with_setup(self, changed: SetupDecision) -> Plan:
        return replace(self, setups=tuple(changed if s.id == changed.id else s for s in self.setups))

    def load_of(self, setup: str) -> Load:
        """The load that makes a setup. Raises PlanError for a setup that there is not."""
        self.setup(setup)
        found = next((load for load in self.loads if setup in load.setups), None)
        if found is None:
            raise PlanError("no-load", f"setup {setup} lies in no load", setup)
        return found

    def with_load(self, changed: Load) -> Plan:
        return replace(self, loads=tuple(changed if load.id == changed.id else load for load in self.loads))

    def clamped_of(self, setup: str) -> Clamped:
        return Clamped(self.setup(setup), self.load_of(setup))

    def in_the_usual_order(self, setup: str) -> Plan:
        """A setup's operations in the order of the rule again."""
        return self.with_load(self.load_of(setup).with_order(setup, ()))

    @property
    def clamped(self) -> tuple[Clamped, ...]:
        """Each setup with its load."""
        return tuple(Clamped(setup, self.load_of(setup.id)) for setup in self.setups)

    def clamped_as(self, clamped: Sequence[Clamped]) -> Plan:
        """With these setups in place of its own, each in the load that comes with it."""
        return replace(self, setups=tuple(one.setup for one in clamped), loads=loads_of(clamped))

    def attached_to(self, setup: str, operation: str = "") -> AttachedProgram | None:
        return next((a for a in self.attached if (a.setup, a.operation) == (setup, operation)), None)

    def apart(self, setup: str) -> Plan:
        """With a setup in a load of its own, and those that it shared one with too."""
        shared = self.load_of(setup)
        every = [replace(one, load=one.load.only(one.setup.id)) if one.load == shared else one for one in self.clamped]
        return self.clamped_as(every)

    def thread_of(self, diameter: float) -> str | None:
        """The thread named for all holes of a size."""
        return next((t.thread for t in self.threads if abs(t.diameter - diameter) < 1e-3), None)

    def thread_in(self, hole: Hole) -> str | None:
        """The thread that one hole carries: its own, else that of its size."""
        own = self.said_of(hole.id).thread
        if own:
            return None if own == PLAIN else own
        return self.thread_of(hole.diameter)

    def said_of(self, feature: str) -> Said:
        return next((s for s in self.said if s.feature == feature), Said(feature))

    def chain_of(self, feature: str) -> str | None:
        """The rule that was chosen by hand for how a feature is made."""
        return next((c.rule for c in self.chains if c.feature == feature), None)

    def depth_of(self, operation: str) -> DepthChoice | None:
        return next((d for d in self.depths if d.operation == operation), None)

    def edit_of(self, operation: str) -> OperationEdit:
        return next((e for e in self.edits if e.operation == operation), OperationEdit(operation))
