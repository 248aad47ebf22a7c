"""What the stock's way through the plan says: stock left on the part, cuts into it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from math import hypot, sqrt

import numpy as np

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.features import Feature, Hole, Turned
from lean_ledger.core.features.describe import title
from lean_ledger.core.followed.collisions import Collision
from lean_ledger.core.followed.in_process import TOLERANCE, Followed, Remainder, StockStep
from lean_ledger.core.followed.sharp import Sharp, is_sharp
from lean_ledger.core.geometry.masses import Lump
from lean_ledger.core.geometry.model import Edge
from lean_ledger.core.geometry.vectors import dot, sub
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.cutting.forces import FINISHING
from lean_ledger.core.operations.holes.drilling import SPOT_OVER, DrillCut
from lean_ledger.core.operations.holes.widening import TIP_LEFT
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.rests import REST
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.model import Part
from lean_ledger.library.types import ToolKind

APART = 1.25  # times the stated removal rate, beyond which the followed one is a finding; 0.05 is the measure's own
THIN_APART = 2.0  # of finishing cuts, where a chord's height is a good part of what they take
FIN, FIN_VOLUME = 0.2, 3.0  # mm thick in the mean, and mm³, of what deburring takes off
SHORT = "hole-short"  # says more of why than what stays there; where nothing does the solids know better
CORNER = "corner-left"  # what planning has to guess, where the solids say how much stays


def with_stock(ledger: Ledger, part: Part, outcome: Followed | LedgerError) -> Ledger:
    """The ledger with what the solids show among its findings; or with why they show nothing."""
    if isinstance(outcome, LedgerError):
        unknown = Finding(
            "stock-unknown", Severity.ERROR, Chapter.SETUPS, "The stock cannot be followed through the operations.",
            f"{outcome.message[0].upper()}{outcome.message[1:]}. Nothing says whether stock stays on the part.",
        )  # fmt: skip
        return replace(ledger, findings=(*ledger.findings, unknown))
    found = stock_findings(part, ledger, outcome)
    shown = {id for f in found for id in f.features}
    accepted = {a.feature for a in ledger.plan.accepted}
    kept = [f for f in ledger.findings if not _is_known(f, shown, accepted)]
    short = {id for f in kept if f.code == SHORT for id in f.features}
    same = [f for f in found if f.code == "stock-left" and f.features and short.issuperset(f.features)]
    kept = [_may_stay(f, same) if f.code == SHORT else f for f in kept]
    found = [f for f in found if f not in same]
    order = {severity: i for i, severity in enumerate(Severity)}
    return replace(ledger, findings=tuple(sorted([*kept, *found], key=lambda f: order[f.severity])))


def _may_stay(short: Finding, left: Sequence[Finding]) -> Finding:
    """A hole that is too short, with what the solids offer for what stays in it."""
    more = (cure for f in left if set(f.features) <= set(short.features) for cure in f.cures)
    return replace(short, cures=(*short.cures, *more))


def _is_known(finding: Finding, shown: set[str], accepted: set[str]) -> bool:
    """Whether the solids say what a finding guessed: how much stays, or that nothing does."""
    own = set(finding.features)
    return (finding.code == CORNER and bool(own & (shown | accepted))) or (finding.code == SHORT and not own & shown)


def stock_findings(part: Part, ledger: Ledger, followed: Followed) -> list[Finding]:
    """One for each feature that keeps stock and for each operation that cuts into the part, the worst first."""
    owner = {face: feature for feature in part.features for face in feature.faces}
    groups: dict[tuple[bool, str, str], list[Remainder]] = {}
    for one in followed.remainders:
        feature = owner.get(one.face)
        if not _is_meant(part, ledger, one, feature):
            groups.setdefault((one.cut_into, feature.id if feature else "", one.operation), []).append(one)
    sharp = _sharp_edges(part, ledger, groups)
    rest = {key: pieces for key, pieces in groups.items() if key[1] not in sharp.features}
    found = [_cut_into(part, ledger, id, by, pieces) for (cut_into, id, by), pieces in rest.items() if cut_into]
    found += _left_on(part, ledger, {id: pieces for (cut_into, id, _), pieces in rest.items() if not cut_into})
    found += sharp.findings
    more = [told for step in followed.steps if (told := _more_than_stated(ledger, step)) is not None]
    return [*(_collision(ledger, one) for one in followed.collisions), *found, *more]


def _more_than_stated(ledger: Ledger, step: StockStep) -> Finding | None:
    """A mill that removes more at some place than its operation says, from stock that nobody counted on."""
    op = next((op for op in ledger.operations if op.id == step.operation), None)
    thin = op is not None and (op.kind in FINISHING or REST in op.id)
    if op is None or op.rate == 0 or step.rate <= (THIN_APART if thin else APART) * op.rate:
        return None
    return Finding(
        "takes-more", Severity.WARNING, Chapter.OPERATIONS,
        f"{op.name} removes up to {_cm3(step.rate)} cm³/min, where it says {_cm3(op.rate)}.",
        "More stock stands in its way than it counts on. Make first what stands there, or lower its feed.",
        op.setup, op.features, op.id,
    )  # fmt: skip


def _cm3(mm3: float) -> str:
    return f"{mm3 / 1000:.0f}" if mm3 >= 10_000 else f"{mm3 / 1000:.2g}"


def _is_meant(part: Part, ledger: Ledger, one: Remainder, feature: Feature | None) -> bool:
    """What the plan says or a finding of its own says already, and what a thread or a spot leaves."""
    plan = ledger.plan
    operation = next((op for op in ledger.operations if op.id == one.operation), None)
    if operation is not None and operation.kind == OperationKind.SPOT and one.amount <= SPOT_OVER / 2 + TOLERANCE:
        return True
    if isinstance(feature, Hole) and one.cut_into and _breaks_the_edge(ledger, feature, one):
        return True
    if feature is None:
        return not one.cut_into  # a body to hold by has findings of its own
    makers = [op for op in ledger.operations if feature.id in op.features]
    if isinstance(feature, Turned) and feature.thread is not None and one.amount <= _thread_height(feature, makers):
        return True
    if isinstance(feature, Hole) and (one.amount <= _thread_height(feature, makers) or _in_the_tip(feature, one)):
        return True
    if one.cut_into:
        return False
    if isinstance(feature, Hole) and _keeps_the_tip(ledger, feature, one, makers):
        return True
    if any(a.feature == feature.id and one.amount <= a.amount + TOLERANCE for a in plan.accepted):
        return True
    # what nothing makes has a finding of its own, or is left to others
    return not makers


def _thread_height(feature: Hole | Turned, makers: Sequence[Operation]) -> float:
    """What a thread that is made takes off, and the stock does not show, mm: 0.6134 P (ISO 68-1); 0 without one."""
    taps = [op.tool.pitch for op in makers if op.kind in (OperationKind.TAP, OperationKind.THREAD_MILL)]
    turned = [op.motion.lead for op in makers if op.kind == OperationKind.THREAD_TURN]
    drawn = feature.thread.pitch if feature.thread is not None and isinstance(feature, Hole) else 0.0
    pitch = max([*taps, *turned], default=drawn)
    return 0.6134 * pitch + TOLERANCE if pitch > 0 else 0.0


def _breaks_the_edge(ledger: Ledger, hole: Hole, one: Remainder) -> bool:
    """What a spot takes off the edge at a hole's end, in one piece with what the drill is wider than the hole."""
    spots = [op for op in ledger.operations if op.kind == OperationKind.SPOT and hole.id in op.features]
    along = dot(sub(one.at, hole.position), hole.axis)
    return any(
        one.amount <= SPOT_OVER / 2 + TOLERANCE and min(abs(along), abs(along - hole.depth)) <= spot.depth
        for spot in spots
    )


def _in_the_tip(hole: Hole, one: Remainder) -> bool:
    """Below the full diameter of a hole that ends in a point: there the drill's own tip is as good as the drawn one."""
    if not hole.segments or hole.segments[-1].shape != "cone" or hole.segments[-1].to_diameter > 0:
        return False
    return _at_floor(hole, one, 0.0)


def _keeps_the_tip(ledger: Ledger, hole: Hole, one: Remainder, makers: Sequence[Operation]) -> bool:
    """At a flat floor that keeps the drill's point, which the plan has said: as much as that is high."""
    if not any(f.code == TIP_LEFT and hole.id in f.features for f in ledger.findings):
        return False
    drills = [op.tool for op in makers if op.kind == OperationKind.DRILL]
    tip = max((DrillCut(t.diameter, t.tip_angle, 0).tip_length for t in drills), default=0.0)
    return one.amount <= tip + TOLERANCE and _at_floor(hole, one, tip)


def _at_floor(hole: Hole, one: Remainder, high: float) -> bool:
    return dot(sub(one.at, hole.position), hole.axis) > hole.depth - high - TOLERANCE


def _cut_into(part: Part, ledger: Ledger, id: str, operation: str, pieces: Sequence[Remainder]) -> Finding:
    worst = max(pieces, key=lambda p: p.amount)
    places = f"{len(pieces)} places" if len(pieces) > 1 else "one place"
    where = "X {:.1f} Y {:.1f} Z {:.1f}".format(*worst.at)
    named = f"{id}, {title(part.by_id[id])}" if id else "a body that the plan adds"
    by = next((op for op in ledger.operations if op.id == operation), None)
    return Finding(
        "cut-into-part", Severity.ERROR, Chapter.OPERATIONS,
        f"{by.name if by else 'A cut'} goes {worst.amount:.2f} into {named}.",
        f"Deepest at {where} of the part, in {places}, {sum(p.volume for p in pieces):.1f} mm³ in all. "
        "Take another tool, depth or side for it.",
        by.setup if by else "", (id,) if id else (), operation,
    )  # fmt: skip


def _left_on(part: Part, ledger: Ledger, left: Mapping[str, Sequence[Remainder]]) -> list[Finding]:
    """What stays on features: those that the same operation was to make, for the same reason, together."""
    causes: dict[tuple[str, str], list[str]] = {}
    for id, pieces in left.items():
        makers = [op for op in ledger.operations if id in op.features]
        small = _in_sharp_corners(part, ledger, id, pieces) or _as_fins(pieces)
        causes.setdefault((makers[-1].id if makers else "", small), []).append(id)
    return [_stays(part, ledger, ids, [left[id] for id in ids], small) for (_, small), ids in causes.items()]


def _stays(
    part: Part, ledger: Ledger, ids: Sequence[str], pieces: Sequence[Sequence[Remainder]], small: str
) -> Finding:  # fmt: skip
    every = [one for own in pieces for one in own]
    worst = max(every, key=lambda p: p.amount)
    count = f"{len(every)} places" if len(every) > 1 else "one place"
    where = "X {:.1f} Y {:.1f} Z {:.1f}".format(*worst.at)
    makers = [op for op in ledger.operations if ids[0] in op.features]
    last = makers[-1] if makers else None
    named = f"{ids[0]}, {title(part.by_id[ids[0]])}" if len(ids) == 1 else f"{len(ids)} features, {', '.join(ids)}"
    volume = sum(p.volume for p in every)
    return Finding(
        "stock-left", Severity.WARNING if small else Severity.ERROR, Chapter.OPERATIONS,
        f"Stock stays on {named}: up to {worst.amount:.2f} in {count}.",
        f"Most at {where} of the part, {volume:.1f} mm³ in all. {small or _last(makers)}",
        last.setup if last else "", tuple(ids), last.id if last else "", (_leave(ids, worst.amount),),
    )  # fmt: skip


def _sharp_edges(part: Part, ledger: Ledger, groups: dict[tuple[bool, str, str], list[Remainder]]) -> Sharp:
    """What a round tool leaves along inner edges of the outline, between teeth for one, all of it together."""
    features, amount, count, last = [], 0.0, 0, None
    for (cut_into, id, _), pieces in groups.items():
        makers = [op for op in ledger.operations if id in op.features and op.kind == OperationKind.FINISH_OUTLINE]
        radius = max((op.tool.diameter for op in makers), default=0.0) / 2
        if not cut_into and makers and all(is_sharp(part, one, (makers[0].frame,), _always(radius)) for one in pieces):
            features.append(id)
            amount, count = max(amount, *(p.amount for p in pieces)), count + len(pieces)
            last = makers[-1]
    if last is None:
        return Sharp()
    radius = max(op.tool.diameter for op in ledger.operations if op.kind == last.kind) / 2
    places = f"{count} inner edges" if count > 1 else "an inner edge"
    finding = Finding(
        "stock-left", Severity.WARNING, Chapter.OPERATIONS,
        f"Stock stays in {places} of the outline: up to {amount:.2f}.",
        f"The model has them sharp, and at most R{radius:g} stays there: ask the customer for a radius, or leave them "
        "to broaching or wire cutting.", last.setup, tuple(features), last.id,
        (_leave(features, amount),),
    )  # fmt: skip
    return Sharp(frozenset(features), (finding,))


def _always(radius: float) -> Callable[[Edge], float]:
    return lambda _: radius


def _in_sharp_corners(part: Part, ledger: Ledger, id: str, pieces: Sequence[Remainder]) -> str:
    """That all of it is what a round tool leaves in inner corners that are drawn sharp: in one of 90° r·(1 − √½) off
    the walls at the most, r long along both of them and √2·r across; by the thickest that finished one of its walls.
    """
    makers = _wall_makers(ledger)
    walls = [op for op in makers if id in op.features]
    drawn = getattr(part.by_id.get(id), "corner_radius", None)
    own = walls[-1].tool.diameter / 2 if walls and drawn == 0 else 0.0
    # where the piece lies against a face beside the corner it is another feature's walls that meet there
    frames = list(dict.fromkeys(op.frame for op in (*walls[-1:], *makers)))
    if not frames:
        return ""
    radii: dict[int, float] = {}
    for op in makers:
        for face in (face for feature in op.features for face in part.by_id[feature].faces):
            radii[face] = max(radii.get(face, 0.0), op.tool.diameter / 2)
    most = own

    def there(edge: Edge) -> float:
        return max(radii.get(face, 0.0) for face in edge.faces)

    for one in pieces:
        flat = [frames[0].point(v)[:2] for v in one.vertices]
        wide = max(hypot(a[0] - b[0], a[1] - b[1]) for a in _ends(flat) for b in _ends(flat))
        if own and one.amount <= (1 - sqrt(0.5)) * own + TOLERANCE and wide <= sqrt(2) * own + FIN:
            continue
        # its corners are round but where it ends at another wall; two of them hang together by less than a tolerance
        if not is_sharp(part, one, frames, there):
            return ""
        most = max(most, one.amount / (1 - sqrt(0.5)))
    count = f"{len(pieces)} corners" if len(pieces) > 1 else "a corner"
    stays = min((r for r in radii.values() if r >= most - TOLERANCE), default=most)
    return f"R{stays:g} stays in {count} that the model has sharp: ask the customer, or leave them to broaching."


def _wall_makers(ledger: Ledger) -> list[Operation]:
    return [
        op for op in ledger.operations if op.kind == OperationKind.FINISH_WALL and op.tool.kind == ToolKind.END_MILL
    ]


def _ends(flat: Sequence[tuple[float, ...]]) -> list[tuple[float, ...]]:
    return [pick(flat, key=lambda p: p[i]) for pick in (min, max) for i in (0, 1)]


def _as_fins(pieces: Sequence[Remainder]) -> str:
    """That all of it is so thin and small that it bends away before it is cut."""
    thin = all(one.volume <= FIN_VOLUME and _thickness(one) <= FIN for one in pieces)
    return f"No more than {FIN:g} thick: deburring takes it off." if thin else ""


def _thickness(one: Remainder) -> float:
    lump = Lump(np.array(one.vertices), np.array(one.triangles, dtype=np.int64))
    return lump.mean_thickness


def _leave(features: Sequence[str], amount: float) -> Cure:
    change = {"change": "accept-rest", "feature": features[0], "amount": amount}
    more = {"also": list(features[1:])} if len(features) > 1 else {}
    return Cure(f"Leave {amount:.2f} on {'it' if len(features) == 1 else 'them'}", {**change, **more})


def _collision(ledger: Ledger, one: Collision) -> Finding:
    op = next(op for op in ledger.operations if op.id == one.operation)
    hold = ledger.setup(op.setup).built.hold
    where = "X {:.1f} Y {:.1f} Z {:.1f}".format(*one.at)
    what = f"The holder of {op.tool.description}" if one.what == "holder" else op.tool.description
    into = hold.fixture.name if one.into == "fixture" else "the stock"
    cures = {"holder": "Take a longer tool, or a slimmer one", "tool": "Grip less, turn it, or cut less deep",
             "rapid": "Make first what stands in its way, or hold it lower",
             "follower": "Open the hole deeper before it, or make it from the side that opens it"}  # fmt: skip
    runs = {"rapid": "goes at rapid through", "follower": "is driven into"}.get(one.what, "runs into")
    return Finding(
        f"{one.what}-in-{one.into}", Severity.ERROR, Chapter.SETUPS if one.into == "fixture" else Chapter.OPERATIONS,
        f"{what} {runs} {into} in “{op.name}”.",
        f"{one.depth:.1f} mm deep around {where} in the setup's axes. {cures[one.what]}.",
        op.setup, op.features, op.id,
    )  # fmt: skip


def _last(makers: Sequence[Operation]) -> str:
    if not makers:
        return "No operation cuts there."
    last = makers[-1]
    return f"{last.name} with {last.tool.description} does not get there: take a thinner tool, or leave it on."
