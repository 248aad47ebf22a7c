"""From an evaluated plan to what the stock's way through it is computed from."""

from __future__ import annotations

from dataclasses import replace
from math import hypot

from lean_ledger.core.followed.cuts import Around, Blank, Course, Cut, Sawn
from lean_ledger.core.followed.nearest import RoundFace
from lean_ledger.core.geometry.model import Solid, Surface, Vec
from lean_ledger.core.holding.obstacles import Rod
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.joined import beside_in_bar
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.operations.cutting.forces import FINISHING
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.bodies import placed_bodies, plugs
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.ways import Way
from lean_ledger.core.timing.motion import Stroke, rapid

ABOVE = 5.0  # mm over the stock up to which a cut takes all away


def course_of(part: Part, ledger: Ledger) -> Course:
    """The plan's cuts in the order in which they are made; `part` as the customer sent it."""
    cuts = []
    sawn: Sawn | None = None
    for setup in ledger.setups:
        built = setup.built
        around = around_of(setup)
        last: Operation | None = None
        for e in setup.rows:
            frame = e.operation.frame
            op = setup.as_one_meets(e.operation)
            high = high_over(setup, op.way)
            lathe = built.stands.lathe_clear(frame) if setup.machine.turns_work else None
            approach = _approach(last, op, high, lathe)
            step = 0.0 if op.kind in FINISHING else op.cutting.ae
            floor = op.kind == OperationKind.FINISH_FLOOR or _is_thin_layer(op)
            into_part = op.kind.cuts_into_part
            cuts.append(Cut(op.id, op.motion, op.tool, frame, high, around, approach, into_part, step, floor))
            last = op
        if built.blank is not None and cuts:
            sawn = Sawn(len(cuts), ledger.stock.bounds)
    mesh = part.near_net.solid.mesh if part.near_net is not None else None
    blank = Blank.of(ledger.stock, mesh)
    if sawn is not None:
        blank = replace(blank, box=beside_in_bar(ledger.setups[0].built))
    added = [body.mesh for body in (*placed_bodies(part, ledger.plan), *plugs(part, ledger.plan))]
    return Course(blank, (part.model.solid.mesh, *added), tuple(cuts), _rounds(part.model.solid), sawn)


def _is_thin_layer(op: Operation) -> bool:
    """A counterbore that is shallow for its mill, as where it makes flat what a drill's tip left."""
    return op.kind == OperationKind.COUNTERBORE and op.depth < op.tool.diameter / 3


def high_over(setup: LoadLedger, way: Way) -> float:
    """The level up to which a cut takes all away and a holder is looked at: over what holds the stock, where the tool
    may come beside it.
    """
    stands = setup.built.stands
    top = way.frame.box(setup.built.before.bounds).max[2]
    if setup.machine.turns_work and stands.is_across(way.frame):
        out = max((hypot(p.x, p.y) + p.radius for p in around_of(setup).pieces if isinstance(p, Rod)), default=0.0)
        return max(way.frame.point(stands.foot)[2] + out, top) + ABOVE
    return (max(stands.safe_height(way.frame), top) if setup.decision.free else top) + ABOVE


def around_of(setup: LoadLedger) -> Around:
    """What holds a setup's stock, and what that stands on."""
    built = setup.built
    return Around((*built.hold.obstacles, *built.stands.carriers(built.hold)), built.hold.frame)


def _approach(last: Operation | None, op: Operation, high: float, turret: Vec | None) -> tuple[Stroke, ...]:
    """How a tool comes to an operation's start: straight from the one before, or from where a lathe's turret turned,
    else down from above all.
    """
    x, y, z = op.motion.start
    if last is not None and last.tool.id == op.tool.id and last.way == op.way:
        return (rapid(last.motion.end, (x, y, z)),)
    if turret is not None:
        return (rapid(turret, (x, y, z)),)
    return (rapid((x, y, max(high, z)), (x, y, z)),)


def _rounds(solid: Solid) -> tuple[RoundFace, ...]:
    return tuple(
        RoundFace(f.index, f.origin, f.axis, 0.0 if f.surface == Surface.CONE else f.radius, f.half_angle, f.inward)
        for f in solid.faces if f.surface in (Surface.CYLINDER, Surface.CONE)
    )  # fmt: skip
