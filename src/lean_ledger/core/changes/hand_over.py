"""Both ends of a turned part in one load: the counter spindle of a lathe takes each piece over from the main one."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, Literal

from pydantic import TypeAdapter

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.changes.cycle import SetCutOff
from lean_ledger.core.changes.hand import keeping_hand
from lean_ledger.core.changes.layout import LoadTogether, load_in
from lean_ledger.core.changes.part import SetAllowance
from lean_ledger.core.changes.price import SetBuy
from lean_ledger.core.changes.scene import Scene, Strict
from lean_ledger.core.changes.setups import SetFixture, SetGrip
from lean_ledger.core.changes.stock import SetStock
from lean_ledger.core.holding.bar_collet import USUAL_LEFT, BarHold
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import is_on, moved_to
from lean_ledger.core.loads.handover import why_not_pulled
from lean_ledger.core.plan import DIRECTIONS, Plan, SetupDecision
from lean_ledger.core.stock.block import Section
from lean_ledger.library.fixtures import BarCollet
from lean_ledger.library.machines import Machine

#: Cures that are taken on the way: how far a piece stands out, how thick the bar is.
TAKEN: dict[str, Any] = {"set-allowance": SetAllowance, "set-grip": SetGrip, "set-stock": SetStock}
MOST = 4  # of them


@dataclass(frozen=True)
class HandOver(Strict):
    """All that is turned goes to a lathe with a counter spindle; the first end is made of the bar and cut off, and the
    counter spindle, which has it by then, brings the other end.
    """

    machine: str
    change: Literal["hand-over"] = "hand-over"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        machine = scene.library.machine(self.machine)
        if machine is None or machine.counter is None:
            names = ", ".join(one.id for one in scene.library.machines if one.counter is not None)
            raise PlanError("no-counter-spindle", f"{self.machine!r} is no lathe with a counter spindle; the "
                            f"library has {names or 'none'}")  # fmt: skip
        if not is_on(plan, machine):
            plan = keeping_hand(plan, moved_to(plan, machine, scene.part, scene.library))
        first, second = two_ends(plan)
        for id in (first.id, second.id):
            plan = plan.apart(id)
        steps = _Steps(plan, scene)
        if steps.scene.ledger.stock.section not in (Section.ROUND, Section.HEX):
            steps.take(SetStock(form="round bar"))
        if plan.setup(first.id).cut_off is None:
            steps.take(SetCutOff(first.id, USUAL_LEFT))
        if not isinstance(steps.scene.ledger.setup(first.id).built.hold, BarHold):
            collet = next((f.id for f in scene.library.fixtures if isinstance(f, BarCollet)), None)
            if collet is None:
                raise PlanError("no-bar-collet", "the shop has no bar collet that a bar is fed through", first.id)
            steps.take(SetFixture(first.id, collet))
        steps.take(SetBuy("bar"))
        steps.mend(first)
        steps.take(LoadTogether(steps.plan.load_of(first.id).id, second.id, "spindles"))
        steps.mend(second)
        return steps.plan, f"{first.id} and {second.id} in one load: the counter spindle of {machine.name} takes over"


@dataclass(frozen=True)
class PullBar(Strict):
    """The counter spindle pulls the bar on before it cuts a piece off, or the bar is fed again."""

    load: str
    on: bool = True
    change: Literal["pull-bar"] = "pull-bar"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        load = load_in(plan, self.load)
        if self.on:
            where = scene.ledger.load_of(load.setups[0]).where
            why = why_not_pulled(where.machine) if where.handed_over else "No counter spindle takes its pieces over."
            if why:
                raise PlanError("not-pulled", f"load {load.id}: {why}", load.setups[0])
        words = "the counter spindle pulls the bar on" if self.on else "the bar is fed"
        return plan.with_load(replace(load, pulled=self.on)), f"load {load.id}: {words}"


def two_ends(plan: Plan) -> tuple[SetupDecision, SetupDecision]:
    """The setups that turn a part from one end and then from the other. Raises PlanError where there are none."""
    for first, second in zip(plan.setups, plan.setups[1:], strict=False):
        opposite = DIRECTIONS[second.up] == tuple(-v for v in DIRECTIONS[first.up])
        if first.part_turns and second.part_turns and opposite:
            return first, second
    raise PlanError("no-two-ends", "no two setups of this plan turn the part from one end and then from the other")


def why_no_handover(plan: Plan, machine: Machine) -> str:
    """Why there is nothing to offer; empty where there may be: the setups are not in one load there yet."""
    if machine.counter is None:
        return f"{machine.name} has no counter spindle"
    both = any(load.machine == machine.id and load.arrangement.in_turn == "spindles" for load in plan.loads)
    return f"{machine.name} makes both ends already" if both else ""


class _Steps:
    """Changes one after the other, each on what the one before came to."""

    def __init__(self, plan: Plan, scene: Scene) -> None:
        self.plan = plan
        self.scene = self._evaluated(scene)

    def take(self, change: Any) -> None:
        self.plan, _ = change.apply(self.plan, self.scene)
        self.scene = self._evaluated(self.scene)

    def mend(self, setup: SetupDecision) -> None:
        """Cures for what is wrong with how a setup is held, as long as they leave less of it."""
        for _ in range(MOST):
            wrong = self._wrong(setup)
            cures = [cure for f in wrong for cure in f.cures if cure.change.get("change") in TAKEN]
            if not cures:
                return
            was = self.plan, self.scene
            self.take(TypeAdapter(TAKEN[cures[0].change["change"]]).validate_python(cures[0].change))
            if len(self._wrong(setup)) >= len(wrong):
                self.plan, self.scene = was
                return

    def _wrong(self, setup: SetupDecision) -> list[Any]:
        return [f for f in self.scene.ledger.findings if f.severity == Severity.ERROR and f.setup == setup.id]

    def _evaluated(self, scene: Scene) -> Scene:
        ledger = evaluate(self.plan, scene.part, scene.library)
        return Scene(scene.part, scene.library, ledger, scene.compare, scene.models)
