"""What nothing makes: features without an operation, features that wait, an outline that is cut short."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache

import numpy as np

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.basis.same import Same
from lean_ledger.core.features import Feature, Turned, flat_side, tool_ways
from lean_ledger.core.features.describe import title
from lean_ledger.core.geometry.model import Solid
from lean_ledger.core.geometry.vectors import DIRECTION_NAMES, dot
from lean_ledger.core.holding.hold import Hold, more_below
from lean_ledger.core.ledger.part_findings import in_the_way
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Engraving, Plan
from lean_ledger.core.setups.machines import machines_for
from lean_ledger.core.setups.sides import is_keyway, is_outline, needs_machining
from lean_ledger.core.setups.ways import way_of
from lean_ledger.core.stock import StockState
from lean_ledger.library.types import Library

AT_END = 1e-3  # mm


def coverage_findings(
    part: Part,
    plan: Plan,
    library: Library,
    operations: Sequence[Operation],
    assigned: Mapping[str, tuple[str, ...]],
    state: StockState,
    said: set[str],
    first: Hold,
) -> list[Finding]:
    """Features without an operation are named, those of one cause together, unless a finding already says why; so is an
    outline cut short.
    """
    found: list[Finding] = []
    made = {feature for op in operations for feature in op.features}
    out = {left.feature for left in plan.left_out} | said
    placed = {feature for ids in assigned.values() for feature in ids}
    axis = plan.outline_axis
    waiting: list[Feature] = []
    hollow = _closed_in(Same(part.model.solid))
    within: list[Feature] = []
    by_cause: dict[tuple[bool, str, tuple[str, ...]], list[Feature]] = {}
    for feature in part.features:
        if feature.id in made or feature.id in out or not needs_machining(part, feature, plan):
            continue
        if feature.id in plan.parked:
            waiting.append(feature)
            continue
        if hollow.issuperset(feature.faces):
            within.append(feature)
            continue
        turns = next((s.id for s in plan.setups if s.part_turns and feature.id in assigned[s.id]), "")
        why, ways = _cause(part, library, feature, placed=feature.id in placed, turns=turns)
        by_cause.setdefault((feature.id in placed, why, ways), []).append(feature)
    found += [_uncovered(features, why, ways, placed=there) for (there, why, ways), features in by_cause.items()]
    if within:
        found.append(_hollow(within))
    if waiting:
        found.append(_waiting(part, plan, waiting))
    outline = [f for f in part.features if is_outline(part, f, axis) and f.id in made]
    if outline and state.walls is not None:
        i = max(range(3), key=lambda k: abs(axis[k]))
        low, high = part.model.solid.bounds.min[i], part.model.solid.bounds.max[i]
        left = max(state.walls.low - low, 0.0) + max(high - state.walls.high, 0.0)
        if left > 0.01:
            found.append(_outline_short(plan, outline, left, first))
    engraved = {op.chain for op in operations if op.kind == OperationKind.ENGRAVE}
    found += [_not_engraved(plan, e, assigned) for e in plan.engravings if e.id not in engraved]
    return found


def _not_engraved(plan: Plan, engraving: Engraving, assigned: Mapping[str, tuple[str, ...]]) -> Finding:
    setup = next((s for s in plan.setups if engraving.face in assigned.get(s.id, ())), None)
    if setup is None:
        why = f"It is engraved where {engraving.face} is cut, and no setup cuts that. Choose a face that one cuts."
    elif setup.part_turns:
        why = f"{setup.id} makes {engraving.face} on a lathe, where nothing engraves. Choose a face that a mill makes."
    else:
        why = f"{setup.id} makes {engraving.face} from its side, and not from where the mill would look at it."
    return Finding(
        "not-engraved", Severity.ERROR, Chapter.OPERATIONS, f"Nothing engraves {engraving.words} on {engraving.face}.",
        why, setup=setup.id if setup else "", features=(engraving.face,) if setup else (),
        cures=(Cure("Do not engrave it", {"change": "remove-engraving", "engraving": engraving.id}),),
    )  # fmt: skip


def _waiting(part: Part, plan: Plan, features: Sequence[Feature]) -> Finding:
    """What is to be placed by hand; for what no setup reaches yet, the sides that would have to be up."""
    sides: dict[str, list[str]] = {}
    for feature in features:
        if all(way_of(part, feature, s, plan.outline_axis) is None for s in plan.setups):
            for way in [DIRECTION_NAMES[d] for d in tool_ways(feature) if d in DIRECTION_NAMES][:2]:
                sides.setdefault(way, []).append(feature.id)
    told = "; ".join(f"{', '.join(ids)} would be reached with {side} up" for side, ids in list(sides.items())[:3])
    count = len(features)
    return Finding(
        "not-placed", Severity.ERROR, Chapter.SETUPS,
        f"{count} features stand in no setup yet." if count > 1 else f"{features[0].id} stands in no setup yet.",
        f"{told}." if told else "Each can be made in a setup that is there: put it into one.",
        features=tuple(f.id for f in features),
        cures=(Cure("Have the rest divided", {"change": "divide-again"}),),
    )  # fmt: skip


def _cause(
    part: Part, library: Library, feature: Feature, *, placed: bool, turns: str
) -> tuple[str, tuple[str, ...]]:  # fmt: skip
    """Why nothing makes a feature, and the sides that a setup would need up. `turns`: the lathe setup that it is in."""
    if turns and isinstance(feature, Turned) and feature.where != "end":
        return f"Setup {turns} turns the part, but no insert of the shop gets to all of it there.", ()
    if isinstance(feature, Turned) and feature.where != "end":
        return f"It is turned, and no lathe of this plan turns it. {_could(part, feature, library)}".strip(), ()
    if placed:
        return "A setup reaches it, but no tool or kind of operation here makes it.", ()
    flat = flat_side(feature)
    if flat is not None:
        side = next((n for n in DIRECTIONS if dot(DIRECTIONS[n], flat.normal) > 0.999), None)
        return "No setup has its side up.", (side,) if side is not None else ()
    if is_keyway(part, feature):
        return (
            "It runs along the bore that it opens into, as a keyway: broached or slotted, which nothing here does.",
            (),
        )
    if tool_ways(feature):
        ways = tuple(DIRECTION_NAMES[d] for d in tool_ways(feature) if d in DIRECTION_NAMES)
        why = f"A tool reaches it from {', '.join(ways) or 'a slanted direction'} only, and no setup has that side up."
        return why if ways else f"{why} {_could(part, feature, library)}".strip(), ways[:2]
    return f"No straight tool reaches all of it from any side. {in_the_way(part, feature)}".strip(), ()


def _uncovered(features: Sequence[Feature], why: str, ways: tuple[str, ...], *, placed: bool) -> Finding:
    ids = [f.id for f in features]
    cures = [Cure(f"Add a setup with {way} up", {"change": "add-setup", "up": way}) for way in ways]
    if all(f.kind in ("chamfer", "fillet") for f in features):
        cures.append(Cure("Leave to deburring", {"change": "leave-out", "features": ids, "reason": "deburring"}))
    cures.append(Cure("Made elsewhere", {"change": "leave-out", "features": ids, "reason": "made elsewhere"}))
    named = f"{ids[0]}, {title(features[0])}" if len(ids) == 1 else f"{len(ids)} features: {', '.join(ids)}"
    return Finding(
        "no-operation", Severity.ERROR, Chapter.OPERATIONS if placed else Chapter.SETUPS, f"Nothing makes {named}.",
        why if len(ids) == 1 else f"Of each: {why[0].lower()}{why[1:]}", features=tuple(ids), cures=tuple(cures),
    )  # fmt: skip


def _hollow(features: Sequence[Feature]) -> Finding:
    ids = [f.id for f in features]
    return Finding(
        "closed-hollow", Severity.ERROR, Chapter.PART, "The part has a hollow that is closed all around.",
        f"{', '.join(ids)} {'lie' if len(ids) > 1 else 'lies'} inside, where no tool gets. Ask whether the model means "
        "it; it is cast or made of two pieces.", features=tuple(ids),
        cures=(Cure("Made elsewhere", {"change": "leave-out", "features": ids, "reason": "made elsewhere"}),),
    )  # fmt: skip


@lru_cache(maxsize=64)
def _closed_in(solid: Same[Solid]) -> frozenset[int]:
    """Faces of the shells within the outer one: no edge joins them to it."""
    edges: dict[int, list[int]] = {}
    for face in solid.value.faces:
        for loop in face.loops:
            for i, _ in loop.edges:
                edges.setdefault(i, []).append(face.index)
    beside: dict[int, set[int]] = {face.index: set() for face in solid.value.faces}
    for sharing in edges.values():
        for one in sharing:
            beside[one].update(sharing)
    box, mesh = solid.value.bounds, solid.value.mesh
    corners = np.array(mesh.vertices, dtype=float)[np.array(mesh.triangles, dtype=np.int64)]
    at_end = [np.abs(corners - np.array(end)) < AT_END for end in (box.min, box.max)]
    outer = {int(i) for i in np.array(mesh.faces)[(at_end[0] | at_end[1]).any(axis=(1, 2))]}
    reached, rest = set(outer), list(outer)
    while rest:
        new = beside[rest.pop()] - reached
        reached |= new
        rest += new
    return frozenset(beside.keys() - reached)


def _could(part: Part, feature: Feature, library: Library) -> str:
    """Which machines of the shop could make it, as a sentence; empty where none does."""
    turned = isinstance(feature, Turned) and feature.where != "end"
    names = [m.name for m in machines_for(part, feature, library) if m.turns_work or not turned]
    return f"It could be made on: {'; '.join(names)}." if names else ""


def _outline_short(plan: Plan, outline: Sequence[Feature], left: float, hold: Hold) -> Finding:
    first = plan.setups[0]
    side = {"+": "-", "-": "+"}[first.up[1]]
    below = f"{first.up[0]}{side}"
    over = plan.allowances.on(below)
    stands = first.free is None and not first.part_turns  # round an axis another setup would be in the jaws' way too
    more = round(over + more_below(hold, left + 0.5, by_hand=first.grip is not None), 1)
    return Finding(
        "outline-short",
        Severity.ERROR,
        Chapter.SETUPS,
        f"{left:.1f} of the outline's height is cut in no setup.",
        "The jaws are in the way in the first setup and no other setup cuts it. Turn the part over in a second setup, "
        "or leave more stock to hold by.",
        setup=first.id,
        features=tuple(f.id for f in outline),
        cures=(
            *((Cure(f"Add a setup with {below} up", {"change": "add-setup", "up": below}),) if stands else ()),
            Cure(f"Leave {more:g} below", {"change": "set-allowance", "side": below, "value": more}),
        ),
    )
