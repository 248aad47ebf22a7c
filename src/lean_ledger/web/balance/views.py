"""What runs at the same time, as views."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.changes.beside import as_change
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.balanced import Balanced, Finder, Gain
from lean_ledger.core.loads.both_sides import why_not_both
from lean_ledger.core.loads.drum import DrumFinder, by_position, finder_of, pieces_an_hour
from lean_ledger.core.loads.lanes import taken_over_in
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.timeline import Beat, Lane
from lean_ledger.core.loads.told import longest_chain, waits_of
from lean_ledger.core.pace.ends import AtOtherEnd, BothEnds, Pulled
from lean_ledger.core.plan import Load
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.library.dialects import dialect_of
from lean_ledger.library.machines import Machine
from lean_ledger.store import Opened
from lean_ledger.web.balance import schemas as s


def balance_view(opened: Opened) -> s.BalanceView:
    ledger, machines = opened.ledger, opened.shelf.library.machines
    return s.BalanceView(
        loads=[
            _load(load, ledger.second_of(load.decision.id), machines, ledger.plan.cell.availability)
            for load in ledger.loads
            if load.calls
        ]
    )


def _load(
    load: LoadLedger, second: float, machines: Sequence[Machine], availability: float
) -> s.BalancedLoadView:  # fmt: skip
    """`second` is what one of the load's machine costs."""
    at_once = load.machine.works_at_once
    finder = finder_of(load) if at_once else None
    one_by_one = finder.one_by_one if finder is not None else load.cycle
    wait = dialect_of(load.machine, load.load.dialect).wait
    return s.BalancedLoadView(
        load=load.load.id,
        setups=list(load.load.setups),
        machine=load.machine.name,
        at_once=at_once,
        pieces=load.pieces,
        lanes=_lanes(load, finder) if finder is not None or load.where.handed_over else [],
        handover=_handover(load),
        drum=_drum(load, availability),
        marks=[
            s.MarkView(code=f"M{wait + mark.number}", at=mark.at, carriages=[carriage for carriage, _ in mark.after])
            for mark in load.timeline.marks
        ],
        groups=[s.SharedView(operations=list(g.operations), n=g.n) for g in load.load.at_one_speed],
        split=_split(load),
        both_sides=_both_sides(load),
        cycle=load.timeline.makespan if at_once else load.cycle,
        one_by_one=one_by_one,
        saved=(one_by_one - load.timeline.makespan) * second / load.pieces if at_once else 0.0,
        bound=finder.bound if finder is not None else load.cycle,
        words=load.set_by,
        able=[
            s.AbleView(id=m.id, name=m.name)
            for m in machines
            if m.works_at_once and m.turns_work == load.machine.turns_work and not at_once
        ],
    )


def _split(load: LoadLedger) -> list[s.SplitView]:
    names = {op.id: op.name for own in load.where.by_setup for op in own[0].built.operations}
    return [s.SplitView(operation=id, name=names[id], parts=parts) for id, parts in load.load.split if id in names]


def _both_sides(load: LoadLedger) -> list[s.BothSidesView]:
    on = load.load.both_sides
    return [
        s.BothSidesView(operation=op.id, name=op.name, on=op.id in on)
        for own in load.where.by_setup for op in own[0].built.operations
        if not why_not_both(op, own[0].stands, load.machine, load.load)
    ]  # fmt: skip


def both_sides_view(gain: tuple[str, float], finder: Finder, second: float) -> s.GainView:
    id, saves = gain
    return s.GainView(
        title=f"“{finder.whole(id)[0].name}” from both sides, two passes at a time", saves=saves,
        each=saves * second / finder.load.pieces,
        change={"change": "from-both-sides", "load": finder.load.load.id, "operation": id, "on": True},
    )  # fmt: skip


def split_view(gain: tuple[str, int, float, Load], finder: DrumFinder, second: float) -> s.GainView:
    id, parts, saves, _ = gain
    return s.GainView(
        title=f"“{finder.whole(id)[0].name}” in {parts} parts", saves=saves, each=saves * second / finder.load.pieces,
        change={"change": "split-operation", "load": finder.load.load.id, "operation": id, "parts": parts},
    )  # fmt: skip


def _drum(load: LoadLedger, availability: float) -> s.DrumView | None:
    drum = load.machine.drum
    if drum is None:
        return None
    return s.DrumView(
        index=drum.index, feed=drum.feed, positions=[seconds for _, seconds in by_position(load)],
        an_hour=pieces_an_hour(load, availability), availability=availability, one_feed=drum.one_feed,
    )  # fmt: skip


def _handover(load: LoadLedger) -> s.HandoverView | None:
    one = taken_over_in(load.where)
    blade = next((c for c in load.calls if one is not None and c.operation.id == one.blade), None)
    if one is None or blade is None:
        return None
    return s.HandoverView(
        eject=one.eject, synchronise=one.synchronise, approach=one.approach, close=one.close,
        cut_off=blade.operation.time.cut + blade.operation.time.rapid, away=one.away, at=one.at, between=one.between,
        pull=one.pull, by=one.by,
        grips=load.where.placed[1].built.hold.touches,
    )  # fmt: skip


def both_ends_view(found: Sequence[BothEnds], now: Ledger) -> s.BothEndsOffersView:
    return s.BothEndsOffersView(quantities=[p.quantity for p in now.prices], offers=[_both_ends(o, now) for o in found])


def _both_ends(one: BothEnds, now: Ledger) -> s.BothEndsView:
    then = one.ledger
    return s.BothEndsView(
        machine=one.machine.id, name=one.machine.name, refused=one.refused,
        seconds=then.per_piece - now.per_piece if then is not None else 0.0,
        each=[float(b.each - a.each) for a, b in zip(now.prices, then.prices, strict=True)] if then is not None else [],
        errors=list(one.errors), change={"change": "hand-over", "machine": one.machine.id},
    )  # fmt: skip


def _beats(lane: Lane) -> tuple[Beat, ...]:
    """Of one carriage by itself: nothing waits."""
    if lane.beats:
        return lane.beats
    begun = zip(lane.starts, lane.calls, strict=True)
    return tuple(Beat(at, at + call.transition.lead, at + call.transition.lead, at + call.total) for at, call in begun)


def _lanes(load: LoadLedger, finder: Finder | None) -> list[s.LaneView]:
    timeline, chain = load.timeline, set(longest_chain(load.timeline))
    waited = {one.at: one for one in waits_of(load)}
    shared = {id: g.n for g in load.load.at_one_speed for id in g.operations}
    found = []
    for p, lane in enumerate(timeline.lanes):
        numbers = tool_numbers(load.on(lane.carriage))
        calls = []
        for k, (call, beat) in enumerate(zip(lane.calls, _beats(lane), strict=True)):
            op, wait = call.operation, waited.get((p, k))
            other = timeline.lanes[wait.for_[0]].calls[wait.for_[1]].operation if wait is not None else None
            calls.append(s.LaneCallView(
                piece=call.place, operation=op.id, name=op.name, tool=numbers[op.tool.id],
                tool_name=op.tool.description, begin=beat.begin, ready=beat.ready, go=beat.go, end=beat.end,
                cutting=call.seconds["cutting"], on_chain=(p, k) in chain, n=op.cutting.n,
                steady=op.motion.spin is None, shared=shared.get(op.id),
                most=finder.most(op.id) if finder is not None else None,
                counter=load.placed_at(call.place).stands.nose is not None,
                waits_for=other.name if other is not None else "",
                why=wait.why if wait is not None else "",
            ))  # fmt: skip
        found.append(s.LaneView(
            carriage=lane.carriage, calls=calls, end=lane.end, position=load.machine.carriages[p].position,
            slide=load.machine.carriages[p].slide, waiting=lane.waiting + timeline.makespan - lane.end,
        ))  # fmt: skip
    return found


def gain_view(gain: Gain, finder: Finder, second: float) -> s.GainView:
    names = [f"“{finder.operations[id].name}”" for id in gain.operations]
    if not gain.carriage and gain.at is None:
        title = f"{', '.join(names)} at their own speeds"
    elif gain.at is None:
        title = f"{names[0]} on {gain.carriage}"
    else:
        title = f"{' beside '.join(names)} at {gain.at:.0f} rpm"
    return s.GainView(
        title=title, saves=gain.saves, each=gain.saves * second / finder.load.pieces,
        change=as_change(gain.load, finder.now.order),
    )  # fmt: skip


def at_other_end_view(one: AtOtherEnd, opened: Opened) -> s.GainView:
    where = "counter spindle" if opened.plan.load_of(one.to).at_counter(one.to) else "main spindle"
    return s.GainView(
        title=f"{one.feature} in the {where}, setup {one.to}", saves=one.saves, each=float(one.each),
        change={"change": "move-feature", "features": [one.feature], "setup": one.to},
    )  # fmt: skip


def pulled_view(one: Pulled, load: str) -> s.GainView:
    return s.GainView(
        title="The counter spindle pulls the bar on, nothing feeds it", saves=one.saves, each=float(one.each),
        change={"change": "pull-bar", "load": load},
    )  # fmt: skip


def found_view(found: Balanced, load: LoadLedger, second: float) -> s.FoundCycleView:
    return s.FoundCycleView(
        cycle=found.cycle, now=found.now, one_by_one=found.one_by_one, bound=found.bound, proven=found.proven,
        each=(found.now - found.cycle) * second / load.pieces, change=as_change(found.load, found.arranged.order),
    )  # fmt: skip
