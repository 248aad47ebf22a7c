"""Views of setups: how they are held, what is in their cycle, what they cost."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.holding.picture import Box2, end_view, top_view
from lean_ledger.core.ledger.offsets import WorkOffset, offsets_of
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.papers.sheet import by_hand_words, tool_lines
from lean_ledger.core.program.stations import numbers_by_operation
from lean_ledger.library.types import Library
from lean_ledger.store.opened import Opened
from lean_ledger.web.setups import schemas as su
from lean_ledger.web.setups.engravings import engravable_sides, engraving_views
from lean_ledger.web.setups.entries import Sorts, entry_view, features_by_sort, left_out_view, probe_views
from lean_ledger.web.setups.holds import hold_view
from lean_ledger.web.setups.zero import zero_view
from lean_ledger.web.shared.figures import figure, seconds_view


def _attached(opened: Opened, one: LoadLedger) -> list[su.AttachedView]:
    timed = {"": one.foreign, **{e.operation.id: e.foreign for e in one.rows}}
    return [
        su.AttachedView(
            operation=a.operation,
            file=a.file,
            lines=time.lines if (time := timed.get(a.operation)) else 0,
            seconds=time.total if time else 0.0,
        )
        for a in opened.plan.attached
        if a.setup == one.decision.id
    ]


def views_of_setups(opened: Opened, library: Library) -> list[su.SetupView]:
    every, sorts = offsets_of(opened.ledger, opened.part), features_by_sort(opened)
    return [
        _setup(opened, one, i, [o for o in every if o.setup == one.decision.id], sorts, library)
        for i, one in enumerate(opened.ledger.setups)
    ]


def _setup(
    opened: Opened, one: LoadLedger, index: int, offsets: Sequence[WorkOffset], sorts: Sorts, library: Library
) -> su.SetupView:  # fmt: skip
    hold, decided = one.built.hold, one.decision
    names = {e.operation.id: e.operation.name for e in one.rows}
    numbers = numbers_by_operation(one)
    rate = one.load.rate if one.load.rate is not None else one.machine.rate
    features = opened.ledger.assigned[decided.id]
    return su.SetupView(
        id=decided.id,
        attached=_attached(opened, one),
        up=decided.up,
        locked=decided.locked,
        right=one.built.home.frame.right,
        back=one.built.home.frame.back,
        above=one.built.home.frame.up,
        turn=hold.turn,
        turn_decided=decided.turn,
        machine=one.machine.id,
        machine_name=one.machine.name,
        hold=hold_view(opened, one, index, library),
        zero=zero_view(opened, index, offsets),
        stock=hold.stock.size,
        features=list(features),
        pieces=one.pieces,
        leads=decided.id == one.load.setups[0],
        in_cycle=len(one.timeline.calls),
        programs=len(one.by_carriage) if one.timeline.calls else 0,
        load_id=one.load.id,
        load_hours=one.whole_setup_hours,
        whole_load=one.whole_load_seconds,
        lies_with=[id for id in one.load.setups if id != decided.id],
        seconds=seconds_view({category: seconds / one.pieces for category, seconds in one.seconds.items()}),
        cycle=one.cycle / one.pieces,
        load_cycle=one.cycle,
        load=one.load_seconds,
        standing=one.idle / one.pieces,
        probes=probe_views(opened, one, library),
        cut_off=decided.cut_off,
        can_cut_off=decided.part_turns,
        hand=[su.HandWorkView(id=w.id, kind=w.kind, seconds=float(w.seconds), during=w.during) for w in one.load.hand],
        told=list(by_hand_words(one)),
        engravings=engraving_views(opened, one, features),
        engravable=engravable_sides(opened, one, features),
        setup_hours=one.setup_hours,
        hours_decided=one.load.hours is not None,
        measured=[figure(f) for f in one.corrected_figures],
        machine_rate=rate,
        rate_decided=one.load.rate is not None,
        load_decided=one.load.load_seconds is not None,
        calls=one.tool_calls,
        grouped_calls=one.grouped_calls,
        grouping_saves=one.grouping_saves,
        order_decided=bool(one.load.order) or one.load.by == "hand",
        entries=[entry_view(opened, e, names, numbers[e.operation.id], sorts, library) for e in one.rows],
        left_out=[left_out_view(opened, op) for op in one.built.left_out],
        tools=[
            su.ToolLineView(
                number=line.number,
                description=line.description,
                stick_out=line.stick_out,
                minutes=line.minutes,
                where=line.where,
            )
            for line in tool_lines(one)
        ],
        in_machine=list(one.in_machine),
        end_boxes=[_box(b) for b in end_view(hold)],
        top_boxes=[_box(b) for b in top_view(hold)],
    )


def _box(b: Box2) -> su.BoxView:
    return su.BoxView(what=b.what, x=b.x, y=b.y, width=b.width, height=b.height, round=b.round, ring=list(b.ring))
