"""The division of a part as the API shows it."""

from __future__ import annotations

from lean_ledger.core.bodies import planned_part
from lean_ledger.core.features.describe import title
from lean_ledger.core.setups.machines import machines_for
from lean_ledger.core.setups.propose import divided
from lean_ledger.library.types import Library
from lean_ledger.store import Opened
from lean_ledger.web import schemas as s


def division_view(opened: Opened, library: Library) -> s.DivisionView:
    part = planned_part(opened.part, opened.plan)
    found = divided(part, opened.plan)
    return s.DivisionView(
        least=len(found.setups),
        proven=found.lower_bound == len(found.setups),
        sides=[setup.up for setup in found.setups],
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
