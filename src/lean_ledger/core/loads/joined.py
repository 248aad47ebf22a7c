"""Pieces that stay in one bar between a vise's jaws, side by side along them, and are sawn apart after their setup; in
one plate also behind one another.

Each has the stock that it would have alone; the saw's kerf is between them. Their parts are so far apart as both are
over at their ends, and the kerf: what goes round a part goes between it and the next. Lengths mm.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from math import ceil, inf

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import add, axis_name, dot, neg
from lean_ledger.core.holding.obstacles import Block
from lean_ledger.core.holding.vise import ViseHold
from lean_ledger.core.loads.spacing import ROOM, Boxes, Solid, boxes_of, machine_box
from lean_ledger.core.loads.straight import why_not_across
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.in_blank import BESIDE_NEXT, InBlank
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Arrangement, Plan, SetupDecision
from lean_ledger.core.stock.block import Section
from lean_ledger.library.machines import Machine
from lean_ledger.library.types import Library

MOST = 60  # pieces of one bar
OVERHANG = 0.6  # of a piece's length that may stand out of the jaws, at the bar's ends and between two vises
TOUCH = 1e-6
GRAZED = 0.3  # mm of the next piece's allowance that a pass in the way between two may take along
STRAIGHT = 0.999


def why_not_in_a_bar(plan: Plan, setup: SetupDecision, alone: BuiltSetup, machine: Machine) -> str:
    """Why pieces of a setup do not stay in one bar, by how they are held; empty where they can."""
    hold, state = alone.hold, alone.before
    if machine.turns_work:
        return f"{machine.name} turns its work: there several pieces come from each advance of a bar."
    if setup.id != plan.setups[0].id:
        return f"Setup {setup.id} begins with pieces that are apart already: they stay in one bar in the first setup."
    if not isinstance(hold, ViseHold) or hold.vise.jaws == "soft":
        return f"{hold.fixture.name} does not clamp a bar along its sides: a vise with ground jaws does."
    if dot(hold.frame.right, alone.home.frame.right) < STRAIGHT:
        return f"The jaws of {hold.fixture.name} do not lie along X on {machine.name}."
    if state.section != Section.BLOCK or state.model_volume:
        return "Only from a block, a plate or a flat bar several pieces are sawn side by side."
    if setup.free is not None or any(op.way != alone.home for op in alone.operations):
        return f"Setup {setup.id} is cut from several sides: in a bar the tool comes from above only."
    if setup.probes:
        return f"Setup {setup.id} probes: of a piece in a bar two sides stand in it."
    if hold.held.bodies:
        return "The plan adds bodies to hold the part by: they would stand in the next piece."
    return ""


def why_not_cut_in_a_bar(alone: BuiltSetup, joined: BuiltSetup) -> str:
    """Why what is cut on a piece in a bar would harm the next one, or is not cut at all; empty where nothing does."""
    known = {(f.code, f.features) for f in alone.findings}
    new = [f for f in joined.findings if f.severity == Severity.ERROR and (f.code, f.features) not in known]
    if new:
        return f"{new[0].title} {new[0].why}"
    lost = {op.id for op in alone.operations} - {op.id for op in joined.operations}
    if lost:
        name = next(op.name for op in alone.operations if op.id in lost)
        return f"“{name}” cannot be made in one bar."
    said = (_leaves(joined, op) or _harms(joined, op) or _comes_down(joined, op) for op in joined.operations)
    return next(filter(None, said), "")


def way_cut(built: BuiltSetup) -> float | None:
    """How far off a part the way around it is free once that is roughed: Ø10 that leaves 0.2 cuts 10.2; None where
    nothing goes round it.
    """
    around = [op for op in built.operations if op.kind == OperationKind.ROUGH_OUTLINE]
    return min((op.tool.diameter + op.cutting.allowance for op in around), default=None)


def why_too_wide(built: BuiltSetup, how: Arrangement) -> str:
    """Why the jaws do not go round a plate of so many rows; empty where they do, and where there is but one."""
    hold = built.hold
    if how.joined_rows == 1 or not isinstance(hold, ViseHold):
        return ""
    wide = _vise_round(built, how).opening
    if wide <= hold.vise.opening:
        return ""
    return (
        f"A plate of {how.joined_rows} rows is {wide:.1f} wide, {hold.vise.name} opens {hold.vise.opening:g}: take "
        "fewer rows, or a larger vise first."
    )


def kerf_of(plan: Plan, library: Library) -> float:
    """mm that the saw takes between two pieces: the plan's own, else the shop's."""
    own = plan.rates.kerf
    return float(own if own is not None else library.rates.kerf)


def goes_on(built: BuiltSetup) -> tuple[str, ...]:
    """Operations that have to run once through all pieces of a bar: they go straight across each of them, and the way
    between two is not cut when they come.
    """
    if built.blank is None:
        return ()
    return tuple(op.id for op in built.operations if _beyond(built, op, 0) and not _between(built, op))


def _leaves(built: BuiltSetup, op: Operation) -> str:
    """What goes round the part takes all that the piece is over at its ends in one way."""
    if op.kind != OperationKind.ROUGH_OUTLINE:
        return ""
    left = _blank(built).over(*part_and_stock(built)) - op.tool.diameter - op.cutting.allowance
    return f"“{op.name}” would leave {left:.1f} standing at the ends of the piece." if left > TOUCH else ""


def _harms(built: BuiltSetup, op: Operation) -> str:
    for axis in _blank(built).axes:
        if not _beyond(built, op, axis):
            continue
        if _between(built, op):
            into = _into_next(built, op, axis)
            what = "the next part beside it" if op.chain == "outline" else "what stands between the pieces"
            if into > TOUCH:
                return f"“{op.name}” would come {into:.1f} into {what}."
        elif axis == 1 or why_not_across(Same(built), op.id, 0):
            ends = built.hold.frame.back if axis else built.hold.frame.right
            return (
                f"“{op.name}” comes out of the piece at {axis_name(ends)} or {axis_name(neg(ends))}, into the stock of "
                "the next one: make it in another setup, or turn the piece in the vise."
            )
    return ""


def _comes_down(built: BuiltSetup, op: Operation) -> str:
    """In a plate what goes round the part after the first comes down in what that one cut free."""
    if op.kind != OperationKind.FINISH_OUTLINE or not _blank(built).plate:
        return ""
    rough = next(o for o in built.operations if o.kind == OperationKind.ROUGH_OUTLINE)
    if op.tool.diameter <= rough.tool.diameter + TOUCH:
        return ""
    return (
        f"“{op.name}” comes down with Ø{op.tool.diameter:g} where “{rough.name}” has cut Ø{rough.tool.diameter:g} "
        "free: take a thinner one."
    )


def _blank(built: BuiltSetup) -> InBlank:
    assert built.blank is not None, "only of pieces in one bar or plate"
    return built.blank


def _beyond(built: BuiltSetup, op: Operation, axis: int) -> float:
    """mm by which an operation's tool comes out of the piece's own stock along X (0) or Y (1), below its top.

    What is taken off over the parts of a plate is over the next one's as well, and it is not in the way.
    """
    stock, top = op.frame.box(built.before.bounds), _top_for(built, op)
    if axis == 1 and op.kind == OperationKind.FACE:
        top = min(top, part_and_stock(built)[0].max[2])
    return _out_of(op, axis, (stock.min[axis], stock.max[axis]), top)


def _into_next(built: BuiltSetup, op: Operation, axis: int) -> float:
    """mm by which it comes into the parts beside it, or nearer than it may; what comes after the outline into stock
    that this has left.
    """
    part, stock = part_and_stock(built)
    around = [o for o in built.operations if o.kind == OperationKind.ROUGH_OUTLINE]
    free = _blank(built).gap(axis, part, stock) - BESIDE_NEXT / 2
    if op.chain != "outline":
        free = min(free, (way_cut(built) or inf) + GRAZED)
    into = _out_of(op, axis, (part.min[axis] - free, part.max[axis] + free), _top_for(built, op))
    deep = min((p[2] for o in around for s in o.motion.strokes for p in s.points), default=stock.max[2])
    # below where the outline went, the bar is whole
    low = min((float(b[:, 0, 2].min()) for b in boxes_of(op) if len(b)), default=deep)
    return max(into, deep - low if low < deep - TOUCH else 0.0)


def _top_for(built: BuiltSetup, op: Operation) -> float:
    """Of what stands beside a piece when an operation comes: the whole bar is faced before what waits for that."""
    part, stock = part_and_stock(built)
    faced = {one.id for one in built.operations if one.kind == OperationKind.FACE}
    return part.max[2] if any(before in faced for before, _ in op.after) else stock.max[2]


def gap_of(built: BuiltSetup) -> float:
    """Between the parts of a bar, or the least of a plate, mm."""
    return _blank(built).narrowest(*part_and_stock(built))


def part_and_stock(built: BuiltSetup) -> tuple[Bounds, Bounds]:
    """Of a piece, in the axes of its home way."""
    frame = built.home.frame
    return frame.box(built.hold.held.part.model.solid.bounds), frame.box(built.before.bounds)


def _out_of(op: Operation, axis: int, ends: tuple[float, float], top: float) -> float:
    """The farthest that a tool comes beyond two ends along an axis below a level."""
    low, high = ends

    def most(boxes: Boxes) -> float:
        beside = boxes[boxes[:, 0, 2] < top - TOUCH]
        if not len(beside):
            return 0.0
        return float(max(0.0, low - beside[:, 0, axis].min(), beside[:, 1, axis].max() - high))

    found = max(map(most, boxes_of(op)), default=0.0)
    return found if found > TOUCH else 0.0


def _between(built: BuiltSetup, op: Operation) -> bool:
    """Whether it cuts the way around the part, or that is free when it comes."""
    if op.chain == "outline":
        return True
    by_id = {one.id: one for one in built.operations}
    waiting, seen = [op.id], set[str]()
    while waiting:
        one = by_id.get(waiting.pop())
        if one is None or one.id in seen:
            continue
        seen.add(one.id)
        if one.kind == OperationKind.ROUGH_OUTLINE:
            return True
        waiting += [before for before, _ in one.after]
    return False


@lru_cache(maxsize=64)
def left_alone(alone: Same[BuiltSetup], why: str) -> BuiltSetup:
    """The piece by itself, with why it is: the same value each time, since what is made of it is kept by it."""
    return replace(alone.value, not_joined=why)


def step_along(built: BuiltSetup, axis: int = 0) -> float:
    """From one piece of a bar to the next, along X, of a plate also along Y: stock of 60 and a kerf of 3 are 63."""
    return round(bar_length(built, 2, axis) - bar_length(built, 1, axis), 4)


def blank_size(built: BuiltSetup, how: Arrangement) -> tuple[float, float]:
    """Of all pieces that stay in one, along X and Y: 3 × 2 of 60 × 40 with a kerf of 3 are 186 × 83."""
    return bar_length(built, how.joined), bar_length(built, how.joined_rows, 1)


def vises_under(built: BuiltSetup, count: int) -> int:
    """How many vises hold a bar of so many pieces: none stands out of them by more than a share of its length.

    v jaws of J with up to 0.6 c between them and beyond the ends hold v J + (v + 1) 0.6 c: of pieces of 60 twelve are
    753 with a kerf of 3, which four jaws of 160 hold (640 + 180), three do not (480 + 144).
    """
    hold = built.hold
    assert isinstance(hold, ViseHold), "only vises hold a bar"
    each, jaw = built.home.frame.box(built.before.bounds).size[0], hold.vise.jaw_width
    out = OVERHANG * each
    return max(1, ceil((bar_length(built, count) - out) / (jaw + out) - TOUCH))


def bar_length(built: BuiltSetup, count: int, axis: int = 0) -> float:
    """Of so many pieces and the kerfs between them, along X or Y: 12 of 60 and 11 of 3 are 753."""
    each = built.home.frame.box(built.before.bounds).size[axis]
    return count * each + (count - 1) * (built.blank.kerf if built.blank is not None else 0.0)


def _vise_round(built: BuiltSetup, how: Arrangement) -> ViseHold:
    """The vise at the first piece, its jaws as far apart as the plate is wide."""
    hold, more = built.hold, (0.0, bar_length(built, how.joined_rows, 1) - bar_length(built, 1, 1), 0.0)
    assert isinstance(hold, ViseHold), "only vises hold a bar"
    return replace(hold, along=0.0, boxes=tuple(Bounds(b.min, add(b.max, more)) for b in hold.boxes))


def vises_in(built: BuiltSetup, how: Arrangement) -> tuple[Block, ...]:
    """What holds a bar of so many pieces, in the axes of what holds its first one: each vise where it stands."""
    hold, count = _vise_round(built, how), how.joined
    length, vises = bar_length(built, count), vises_under(built, count)
    apart = max(length / vises, hold.vise.jaw_width + ROOM)
    middle = (length - bar_length(built, 1)) / 2
    found = []
    for k in range(vises):
        by = (middle + (k - (vises - 1) / 2) * apart, 0.0, 0.0)
        for o in hold.obstacles:
            found.append(Block(o.what, Bounds(add(o.box.min, by), add(o.box.max, by))))
    return tuple(found)


def solids_in(built: BuiltSetup, how: Arrangement) -> tuple[Solid, ...]:
    """What stands with a bar where its first piece is, in the machine's axes: the bar as one, and its vises, without
    what carries them.
    """
    (x, y), one = blank_size(built, how), blank_size(built, Arrangement())
    more = (x - one[0], y - one[1], 0.0)
    bar = [Solid("stock", machine_box(built, Bounds(b.min, add(b.max, more)))) for b in built.hold.boxes]
    return (*bar, *(Solid(o.what, machine_box(built, o.box)) for o in vises_in(built, how)))


def beside_in_bar(built: BuiltSetup) -> Bounds:
    """The stock of the first piece of a bar, up to the parts beside and behind it, in the part's axes."""
    frame, blank = built.home.frame, _blank(built)
    part, stock = part_and_stock(built)
    _, _, x, y = blank.standing(part, stock)
    low, high = stock.min, (x, y, stock.max[2])
    one, other = frame.in_part(low), frame.in_part(high)
    return Bounds(
        (min(one[0], other[0]), min(one[1], other[1]), min(one[2], other[2])),
        (max(one[0], other[0]), max(one[1], other[1]), max(one[2], other[2])),
    )


def more_at_the_ends(alone: BuiltSetup, kerf: float) -> float:
    """mm of stock that each end of a piece has to have at the least, so that the mill which goes round it alone passes
    between two parts, to half a millimetre: Ø10 with 0.2 for the wall and a kerf of 3 asks for (10 + 2 · 0.4 − 3) / 2
    = 3.9, which are 4.
    """
    around = [op for op in alone.operations if op.kind == OperationKind.ROUGH_OUTLINE]
    asked = (op.tool.diameter + 2 * (op.cutting.allowance + BESIDE_NEXT) - kerf for op in around)
    return ceil(max(asked, default=0.0) - TOUCH) / 2
