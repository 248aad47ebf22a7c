"""The division of a part, and its plan on other machines, as the API shows them."""

from __future__ import annotations

from time import monotonic

from lean_ledger.core.changes.stock import told
from lean_ledger.core.features.describe import title
from lean_ledger.core.first.bought import BoughtAs, bought_otherwise
from lean_ledger.core.first.machine import Begun, afresh, beginnings
from lean_ledger.core.first.mended import errors_of
from lean_ledger.core.ledger.machines import OnMachine, on_machines
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.bodies import planned_part
from lean_ledger.core.plan import Plan
from lean_ledger.core.setups.machines import machines_for
from lean_ledger.core.setups.propose import divided
from lean_ledger.library.types import Library
from lean_ledger.store import Opened
from lean_ledger.web.setups import division_schemas as s

PATIENCE = 60.0  # s that other stock is tried for: of a large part each form takes as long as its plan


def division_view(opened: Opened, library: Library) -> s.DivisionView:
    part = planned_part(opened.part, opened.plan)
    found = divided(part, opened.plan, library)
    return s.DivisionView(
        least=len(found.clamped),
        proven=found.lower_bound == len(found.clamped),
        sides=[
            f"{setup.free} free" if setup.free else f"{setup.up} up" for setup in (one.setup for one in found.clamped)
        ],
        clashes=list(found.clashes),
        together=[list(ids) for ids in opened.plan.together],
        before=[list(pair) for pair in opened.plan.before],
        lost=[
            s.LostView(
                feature=id,
                title=title(part.by_id[id]),
                machines=[m.name for m in machines_for(part, part.by_id[id], library)],
            )
            for id in found.unreachable
        ],
    )


def machines_view(opened: Opened, library: Library) -> s.MachinesView:
    tried = on_machines(opened.plan, opened.part, library, opened.ledger)
    return s.MachinesView(machines=[_on_machine(one) for one in tried])


def beginnings_view(opened: Opened, library: Library) -> s.BeginningsView:
    found = beginnings(afresh(opened.plan, opened.part, library), opened.part, library)
    return s.BeginningsView(
        begun=[_begun(one, opened.plan) for one in found.plans],
        refused=[s.RefusedView(name=machine.name, why=why) for machine, why in found.refused],
        untried=[machine.name for machine in found.untried],
    )


def bought_view(opened: Opened, library: Library) -> s.BoughtView:
    ledger = opened.ledger
    found = bought_otherwise(opened.plan, ledger, opened.part, library, monotonic() + PATIENCE)
    return s.BoughtView(
        now=ledger.sized.named,
        kg=ledger.material.kg(ledger.stock.volume),
        each=ledger.prices[0].each,
        others=[_bought(one, ledger) for one in found],
    )


def _bought(one: BoughtAs, now: Ledger) -> s.BoughtAsView:
    how = one.change
    return s.BoughtAsView(
        named=one.named,
        stays=told(one.stays),
        form=how.form or now.plan.stock.form,
        along=None if how.along == "by the rule" else how.along,
        sizing=how.sizing or now.plan.stock.sizing,
        stay=how.stay,
        kg=now.material.kg(one.volume),
        kg_more=now.material.kg(one.more),
        only_more=one.only_more,
        each=one.each,
        each_change=one.each_change,
        left=[f.title for f in errors_of(one.ledger)] if one.ledger else [],
    )


def _begun(one: Begun, now: Plan) -> s.BegunView:
    return s.BegunView(
        machines=[m.id for m in one.machines],
        name=one.name,
        current=one.plan == now,
        setups=len(one.plan.setups),
        cycle=one.ledger.cycle,
        setup_hours=one.ledger.setup_hours,
        each=one.each,
        bought=one.bought,
        cures=list(one.cures),
        left=[f.title for f in errors_of(one.ledger)],
    )


def _on_machine(one: OnMachine) -> s.OnMachineView:
    ledger, effect = one.ledger, one.effect
    return s.OnMachineView(
        id=one.machine.id,
        name=one.machine.name,
        axes=one.machine.axes,
        rate=one.machine.rate,
        current=one.current,
        refused=one.refused,
        cycle=ledger.cycle if ledger else None,
        setup_hours=ledger.setup_hours if ledger else None,
        each=ledger.prices[0].each if ledger else None,
        cycle_change=effect.cycle if effect else None,
        each_change=effect.each if effect else None,
        come=list(one.come),
        gone=list(one.gone),
    )
