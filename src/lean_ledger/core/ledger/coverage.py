"""What nothing makes: features without an operation, features that wait, an outline that is cut short."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.features import Feature, Turned, flat_side, tool_ways
from lean_ledger.core.features.describe import title
from lean_ledger.core.geometry.vectors import DIRECTION_NAMES, dot
from lean_ledger.core.ledger.part_findings import in_the_way
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Engraving, Plan
from lean_ledger.core.setups.machines import machines_for
from lean_ledger.core.setups.sides import is_outline, needs_machining
from lean_ledger.core.setups.ways import way_of
from lean_ledger.core.stock import StockState
from lean_ledger.library.types import Library


def coverage_findings(
    part: Part,
    plan: Plan,
    library: Library,
    operations: Sequence[Operation],
    assigned: Mapping[str, tuple[str, ...]],
    state: StockState,
    said: set[str],
) -> list[Finding]:
    """A feature without an operation is named, unless a finding already says why; so is an outline cut short."""
    found: list[Finding] = []
    made = {feature for op in operations for feature in op.features}
    out = {left.feature for left in plan.left_out} | said
    placed = {feature for ids in assigned.values() for feature in ids}
    axis = plan.outline_axis
    waiting: list[Feature] = []
    for feature in part.features:
        if feature.id in made or feature.id in out or not needs_machining(part, feature, plan.allowances):
            continue
        if feature.id in plan.parked:
            waiting.append(feature)
            continue
        found.append(_uncovered(part, library, feature, feature.id in placed))
    if waiting:
        found.append(_waiting(part, plan, waiting))
    outline = [f for f in part.features if is_outline(part, f, axis) and f.id in made]
    if outline and state.walls is not None:
        i = max(range(3), key=lambda k: abs(axis[k]))
        low, high = part.model.solid.bounds.min[i], part.model.solid.bounds.max[i]
        left = max(state.walls.low - low, 0.0) + max(high - state.walls.high, 0.0)
        if left > 0.01:
            found.append(_outline_short(plan, outline, left))
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
        cures=(*(Cure(f"Add a setup with {side} up", {"change": "add-setup", "up": side}) for side in list(sides)[:2]),
               Cure("Have the rest divided", {"change": "divide-again"})),
    )  # fmt: skip


def _uncovered(part: Part, library: Library, feature: Feature, placed: bool) -> Finding:  # noqa: FBT001 - a fact
    cures = [
        Cure(
            "Leave to deburring",
            {"change": "leave-out", "features": [feature.id], "reason": "deburring"},
        ),
        Cure(
            "Made elsewhere",
            {"change": "leave-out", "features": [feature.id], "reason": "made elsewhere"},
        ),
    ]
    if feature.kind not in ("chamfer", "fillet"):
        cures = cures[1:]
    if isinstance(feature, Turned) and feature.where != "end":
        why = f"It is turned, and no machine of this plan turns it. {_could(part, feature, library)}".strip()
    elif placed:
        why = "A setup reaches it, but no tool or kind of operation here makes it."
    elif (flat := flat_side(feature)) is not None:
        side = next((n for n in DIRECTIONS if dot(DIRECTIONS[n], flat.normal) > 0.999), None)
        why = "No setup has its side up."
        if side is not None:
            cures.insert(0, Cure(f"Add a setup with {side} up", {"change": "add-setup", "up": side}))
    elif tool_ways(feature):
        ways = [DIRECTION_NAMES[d] for d in tool_ways(feature) if d in DIRECTION_NAMES]
        why = f"A tool reaches it from {', '.join(ways) or 'a slanted direction'} only, and no setup has that side up."
        if not ways:
            why = f"{why} {_could(part, feature, library)}".strip()
        cures = [Cure(f"Add a setup with {way} up", {"change": "add-setup", "up": way}) for way in ways[:2]] + cures
    else:
        why = f"No straight tool reaches all of it from any side. {in_the_way(part, feature)}".strip()
    return Finding(
        "no-operation",
        Severity.ERROR,
        Chapter.OPERATIONS if placed else Chapter.SETUPS,
        f"Nothing makes {feature.id}, {title(feature)}.",
        why,
        features=(feature.id,),
        cures=tuple(cures),
    )


def _could(part: Part, feature: Feature, library: Library) -> str:
    """Which machines of the shop could make it, as a sentence; empty where none does."""
    names = [machine.name for machine in machines_for(part, feature, library)]
    return f"It could be made on: {'; '.join(names)}." if names else ""


def _outline_short(plan: Plan, outline: Sequence[Feature], left: float) -> Finding:
    first = plan.setups[0]
    side = {"+": "-", "-": "+"}[first.up[1]]
    below = f"{first.up[0]}{side}"
    over = plan.allowances.on(below)
    more = round(over + left + 0.5, 1)
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
            Cure(f"Add a setup with {below} up", {"change": "add-setup", "up": below}),
            Cure(f"Leave {more:g} below", {"change": "set-allowance", "side": below, "value": more}),
        ),
    )
