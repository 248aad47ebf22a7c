"""Views of single operations, and of what a setup's cycle does beside them."""

from __future__ import annotations

from collections.abc import Mapping

from lean_ledger.core.features.describe import title
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.timeline import Call
from lean_ledger.core.operations.alike import Sort, sort_of
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.probing import could_probe
from lean_ledger.core.plan import ZERO
from lean_ledger.core.setups.ways import turns_sides_up
from lean_ledger.library.types import Library, further
from lean_ledger.store.opened import Opened
from lean_ledger.web.setups import schemas as su
from lean_ledger.web.shared.figures import seconds_view, tool_view

Sorts = Mapping[Sort, set[str]]


def features_by_sort(opened: Opened) -> Sorts:
    """The features of all operations of a sort together."""
    found: dict[Sort, set[str]] = {}
    for op in opened.ledger.operations:
        if op.rule:
            found.setdefault(sort_of(op, opened.part), set()).update(op.features)
    return found


def _rules(opened: Opened, op: Operation, library: Library) -> list[su.RuleChoice]:
    rule = library.chain(op.rule)
    if rule is None:
        return []
    chosen = opened.plan.chain_of(op.features[0])
    return [su.RuleChoice(id=r.id, name=r.name, by_hand=r.id == chosen) for r in library.chains if r.of == rule.of]


def entry_view(
    opened: Opened, e: Call, names: dict[str, str], called: int, sorts: Sorts, library: Library
) -> su.EntryView:  # fmt: skip
    op, cut = e.operation, e.operation.cutting
    edit = opened.plan.edit_of(op.id)
    return su.EntryView(
        id=op.id,
        name=op.name,
        carriage=e.carriage if opened.ledger.setup(op.setup).machine.works_at_once else "",
        called=called,
        kind=op.kind.value,
        features=list(op.features),
        tool=tool_view(op.tool),
        n=cut.n,
        vf=cut.vf,
        vc=cut.vc,
        constant_vc=op.motion.spin.vc if op.motion.spin is not None else None,
        fz=cut.fz,
        speed=cut.speed,
        feed=cut.feed,
        ap=cut.ap,
        ae=cut.ae,
        passes=cut.passes,
        allowance=cut.allowance,
        depth=op.depth,
        power=op.power,
        power_limit=op.power_limit,
        edited=list(edit.given),
        another="" if op.motion.probes else further(op.tool.id),
        tool_kinds=[kind.value for kind in op.kind.tool_kinds],
        seconds=seconds_view(e.seconds),
        total=e.total,
        changes_tool=e.transition.changes_tool,
        after=[su.AfterView(operation=b, name=names.get(b, b), reason=reason) for b, reason in op.after],
        strategy=op.strategy,
        strategies=[su.StrategyView(strategy=one, seconds=seconds) for one, seconds in op.strategies],
        ways=list(op.kind.ways),
        settable=list(op.settable),
        measured=_depth(opened, op),
        direction=op.direction,
        by_pitch=op.by_pitch,
        rule=op.rule,
        rules=_rules(opened, op, library),
        alike=sorted(sorts.get(sort_of(op, opened.part), set()) - set(op.features)) if op.rule else [],
    )


def left_out_view(opened: Opened, op: Operation) -> su.LeftOutView:
    return su.LeftOutView(
        id=op.id, name=op.name, features=list(op.features), tool=tool_view(op.tool),
        edited=list(opened.plan.edit_of(op.id).given), another="", tool_kinds=[k.value for k in op.kind.tool_kinds],
    )  # fmt: skip


def _depth(opened: Opened, op: Operation) -> su.DepthView | None:
    if op.measured is None:
        return None
    decided = opened.plan.depth_of(op.id)
    return su.DepthView(value=op.measured.value, rule=op.measured.rule, words=op.measured.words,
                       beyond=decided.beyond if decided is not None else 0.0)  # fmt: skip


def probe_views(opened: Opened, one: LoadLedger, library: Library) -> list[su.ProbeView]:
    decided = one.decision
    if decided.part_turns or turns_sides_up(opened.part, decided, opened.plan.outline_axis):
        return []
    took = {e.operation.features[0] if e.operation.features else ZERO: e.seconds["probing"]
            for e in one.rows if e.operation.motion.probes}  # fmt: skip
    features = [opened.part.by_id[id] for id in opened.ledger.assigned[decided.id]]
    able = [(f.id, f"{f.id}, {title(f)}") for f in could_probe(features, one.built.home.frame, library)]
    gone = [(id, id) for id in decided.probes if id != ZERO and id not in {what for what, _ in able}]
    return [
        su.ProbeView(what=what, title=words, on=what in decided.probes, seconds=took.get(what))
        for what, words in [(ZERO, "the zero"), *able, *gone]
    ]
