"""What is done by hand at a setup, for each piece."""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes.scene import Scene, Strict
from lean_ledger.core.plan import HandKind, HandWork, Load, Plan

MOST = Decimal(36_000)  # s
#: Seconds a piece that the rule puts down, until someone has stood beside it with a watch.
USUAL: dict[HandKind, Decimal] = {
    "deburr": Decimal(20), "inspect": Decimal(30), "turn over": Decimal(15), "re-clamp": Decimal(25),
}  # fmt: skip


@dataclass(frozen=True)
class AddHandWork(Strict):
    """`during`: beside the machine while it runs; else the machine stands."""

    setup: str
    kind: HandKind
    during: bool = False
    change: Literal["add-hand-work"] = "add-hand-work"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        added = with_work(plan.load_of(self.setup), self.setup, HandWork("", self.kind, USUAL[self.kind], self.during))
        return plan.with_load(added), f"setup {self.setup}: {self.kind} by hand"


@dataclass(frozen=True)
class EditHandWork(Strict):
    setup: str
    work: str
    seconds: Decimal | None = None
    during: bool | None = None
    change: Literal["edit-hand-work"] = "edit-hand-work"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        before = plan.load_of(self.setup)
        work = _work(plan, self.setup, self.work)
        if self.seconds is not None:
            if not 0 < self.seconds <= MOST:
                raise PlanError("out-of-range", f"{work.kind} takes {self.seconds:g} s; it must be above 0 and at most "
                                f"{MOST:g}", self.setup)  # fmt: skip
            work = replace(work, seconds=self.seconds)
        if self.during is not None:
            work = replace(work, during=self.during)
        hand = tuple(work if one.id == work.id else one for one in before.hand)
        where = "while the machine runs" if work.during else "the machine stands"
        words = f"setup {self.setup}: {work.kind} {work.seconds:g} s, {where}"
        return plan.with_load(replace(before, hand=hand)), words


@dataclass(frozen=True)
class RemoveHandWork(Strict):
    setup: str
    work: str
    change: Literal["remove-hand-work"] = "remove-hand-work"

    def apply(self, plan: Plan, scene: Scene) -> tuple[Plan, str]:
        before = plan.load_of(self.setup)
        gone = _work(plan, self.setup, self.work)
        hand = tuple(one for one in before.hand if one.id != gone.id)
        return plan.with_load(replace(before, hand=hand)), f"setup {self.setup}: no {gone.kind} by hand"


def with_work(load: Load, setup: str, work: HandWork) -> Load:
    """A load with one more work, under a free id of its own, named after a setup."""
    taken = {one.id for one in load.hand}
    id = next(f"{setup}.hand-{n}" for n in range(1, 999) if f"{setup}.hand-{n}" not in taken)
    return replace(load, hand=(*load.hand, replace(work, id=id)))


def keeping_hand(before: Plan, after: Plan, heir: str = "") -> Plan:
    """Other setups, the same work by hand: each at the setup of its name, else at `heir` or the last one."""
    there = {setup.id for setup in after.setups}
    for load in before.loads:
        named = load.setups[0]
        heir_of = named if named in there else heir or after.setups[-1].id
        home = after.load_of(heir_of)
        known = {work.id for work in home.hand} if heir_of == named else set()
        for work in load.hand:
            if work.id not in known:
                home = with_work(home, heir_of, work)
        after = after.with_load(home)
    return after


def _work(plan: Plan, setup: str, id: str) -> HandWork:
    found = next((one for one in plan.load_of(setup).hand if one.id == id), None)
    if found is None:
        raise PlanError("no-such-work", f"setup {setup} has no work {id} by hand", setup)
    return found
