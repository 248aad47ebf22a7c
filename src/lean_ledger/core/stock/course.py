"""From an evaluated plan to what the stock's way through it is computed from."""

from __future__ import annotations

from lean_ledger.core.bodies import placed_bodies, plugs
from lean_ledger.core.holding.obstacles import obstacles
from lean_ledger.core.ledger import Ledger
from lean_ledger.core.part import Part
from lean_ledger.core.stock.in_process import Course, Cut

ABOVE = 5.0  # mm over the stock up to which a cut takes all away


def course_of(part: Part, ledger: Ledger) -> Course:
    """The plan's cuts in the order in which they are made; `part` as the customer sent it."""
    cuts = []
    for setup in ledger.setups:
        hold = setup.built.hold
        frame, high, around = hold.frame, hold.stock.max[2] + ABOVE, obstacles(hold)
        cuts += [
            Cut(e.operation.id, e.operation.motion, e.operation.tool, frame.right, frame.back, frame.up, high, around)
            for e in setup.entries
        ]
    added = [body.mesh for body in (*placed_bodies(part, ledger.plan), *plugs(part, ledger.plan))]
    return Course(ledger.stock.bounds, (part.model.solid.mesh, *added), tuple(cuts))
