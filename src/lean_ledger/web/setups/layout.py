"""The pieces of a load, where they stand, on which offsets, and what each count would cost."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.control.offset_words import offset_words
from lean_ledger.core.ledger.counts import Counts, as_many, as_many_as_fit
from lean_ledger.core.ledger.offsets import WorkOffset, offsets_of
from lean_ledger.core.ledger.scopes import ScopeOf
from lean_ledger.core.loads.bars import most_on_bar
from lean_ledger.core.loads.joined import blank_size, gap_of, vises_under, why_not_in_a_bar
from lean_ledger.core.loads.kinds import Kind, stations_of
from lean_ledger.core.loads.lanes import taken_over_in
from lean_ledger.core.loads.layout import Layout
from lean_ledger.core.loads.layout_findings import troubled
from lean_ledger.core.loads.load_ledger import LoadLedger, bar_fed
from lean_ledger.core.loads.runs import filling_seconds, run_of
from lean_ledger.core.loads.spacing import Solid
from lean_ledger.core.loads.together import ways_together, why_not_turned, why_only_one
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.store.opened import Opened
from lean_ledger.web.setups import layout_schemas as ls


def layout_views(opened: Opened) -> list[ls.LayoutView]:
    offsets = offsets_of(opened.ledger, opened.part)
    return [_layout(opened, one, [o for o in offsets if o.setup in one.load.setups])
            for one in opened.ledger.loads]  # fmt: skip


def _layout(opened: Opened, one: LoadLedger, offsets: Sequence[WorkOffset]) -> ls.LayoutView:
    load, where, how = one.load, one.where, one.where.load.arrangement
    _, several = why_only_one(one.shares)
    room = where if several else as_many_as_fit(opened.ledger, one)
    travel = one.machine.travel
    return ls.LayoutView(
        load=load.id,
        name=load.words,
        machine=one.machine.name,
        finished=one.pieces,
        each=(one.cycle + one.idle) / one.pieces,
        runs=[_run(one, quantity) for quantity in opened.ledger.plan.quantities],
        filling=filling_seconds(one),
        columns=how.columns,
        rows=how.rows,
        sides=list(how.sides),
        faces=list(one.bed.faces(one.built.stands.seat)),
        stations=how.stations,
        joined=_joined(opened, one),
        most_stations=min(stations_of(share.built.hold) for share in one.shares),
        setups=[_setup(opened, share) for share in one.shares],
        turned=[_turned(one, kind) for kind in where.turned],
        not_turned=why_not_turned(one, how),
        in_turn=how.in_turn,
        turns=list(ways_together(one)),
        fit=as_many(room),
        can_join=[
            ls.JoinView(setup=other.decision.id, along=list(along))
            for other in opened.ledger.setups if (along := ways_together(one, other))
        ],
        gap=room.gap,
        gap_decided=(how.gap[0] is not None, how.gap[1] is not None),
        pitch=room.pitch,
        least=(_least(room, 0), _least(room, 1)),
        by=load.by,
        policy=load.offsets.policy,
        walk=load.offsets.walk,
        first=load.offsets.first,
        reserved=list(load.offsets.reserved),
        words=list(offset_words(one.machine.offsets)),
        travel=(travel[0], travel[1]),
        pieces=_pieces(one, offsets),
        spins=one.machine.turns_work,
        can_have_sides=one.machine.table is not None and not one.machine.turns_work,
        beside=load.beside,
        bar=_bar(opened, one, several),
        several=several,
    )  # fmt: skip


def _joined(opened: Opened, one: LoadLedger) -> ls.InBarView | None:
    how, built = one.where.load.arrangement, one.built
    if len(one.shares) > 1 or why_not_in_a_bar(opened.ledger.plan, one.decision, built, one.machine):
        return None
    if how.joined == 1 or built.blank is None:
        return ls.InBarView(pieces=1, rows=1, together=1, word="bar", length=0.0, width=0.0, kerf=0.0, gap=0.0, vises=1,
                            solids=[])  # fmt: skip
    solids, (length, width) = [_solid(s) for s in one.where.units[0].solids if not s.shared], blank_size(built, how)
    return ls.InBarView(
        pieces=how.joined, rows=how.joined_rows, together=how.in_one, word=built.blank.word, length=length, width=width,
        kerf=built.blank.kerf, gap=gap_of(built), vises=vises_under(built, how.joined), solids=solids,
    )  # fmt: skip


def _solid(solid: Solid) -> ls.LoadSolidView:
    return ls.LoadSolidView(what=solid.what, low=solid.box.min, high=solid.box.max, shared=solid.shared)


def _run(one: LoadLedger, quantity: int) -> ls.RunView:
    run = run_of(one, quantity)
    cycles = [ls.CyclesView(setups=list(setups), count=count) for setups, count in run.cycles]
    return ls.RunView(quantity=quantity, loads=run.loads, cycles=cycles, seconds=run.seconds, last=run.last)


def _bar(opened: Opened, one: LoadLedger, several: str) -> ls.BarView | None:
    material = opened.ledger.problem.material
    bar = bar_fed(one, material.bar_length, material.remnant) if several else None
    if bar is None:
        return None
    hold, step, taken, drum = one.built.hold, bar.each, taken_over_in(one.where), one.machine.drum
    most, why = most_on_bar(one.built, one.machine, step)
    out = hold.stock.max[2] - hold.jaw_top + (bar.per_advance - 1) * step
    return ls.BarView(
        per_advance=bar.per_advance, most=most, why=why, thick=min(hold.stock.size[:2]), length=bar.length,
        front=bar.front, back=bar.back, cut_off=bar.cut_off, advance=bar.advance, reach=bar.reach,
        fronts=list(bar.fronts), stands_out=out, behind=out - bar.front + bar.reach, bar=bar.bar, remnant=bar.remnant,
        pieces=bar.pieces, bars=[bar.bars(p.started) for p in opened.ledger.prices],
        feed=drum.feed if drum is not None else hold.load_seconds,
        gripped=one.where.placed[1].built.hold.grip if taken is not None else None,
        free=taken.between if taken is not None else None,
    )  # fmt: skip


def _least(room: Layout, axis: int) -> ls.LeastView:
    least, limit = room.least[axis], room.limit(axis)
    return ls.LeastView(pitch=least.value, because=least.because, operation=least.operation, most=limit.most,
                        why=limit.why)  # fmt: skip


def _pieces(one: LoadLedger, offsets: Sequence[WorkOffset]) -> list[ls.PieceView]:
    of = {o.place: o for o in reversed(offsets)}
    moved = {m.place: m.by for m in one.where.load.arrangement.moved}
    named, trouble = dict(one.load.offsets.named), troubled(one.where)
    found = []
    for placed in one.placed:
        id = placed.place.id
        found.append(ls.PieceView(
            id=id, setup=placed.decision.id, group=placed.group, column=placed.column, row=placed.row,
            side=placed.side, in_bar=placed.station + 1 if placed.bar else 0, shift=placed.shift,
            moved=moved.get(id, (0.0, 0.0)), turn=placed.turn, offset=of[id].word, named=id in named,
            local=of[id].local, zero=of[id].machine, skipped=id in one.where.load.skipped,
            trouble=trouble.get(id, ""),
        ))  # fmt: skip
    return found


def _setup(opened: Opened, share: LoadLedger) -> ls.LoadSetupView:
    return _kind(share.where.kind(share.decision.id), share.built)


def _turned(one: LoadLedger, kind: Kind) -> ls.LoadSetupView:
    return _kind(kind, one.where.kind(kind.decision.id).built)


def _kind(kind: Kind, plain: BuiltSetup) -> ls.LoadSetupView:
    """`plain` as it is where no piece is turned: the view from above is in the axes of what holds it there."""
    solids = [_solid(s) for s in kind.solids]
    home, hold = plain.home.frame, plain.hold.frame
    along = (home.right, home.back) == (hold.right, hold.back)
    x, y, _ = kind.built.stands.shift(kind.built.home.frame)
    return ls.LoadSetupView(setup=kind.decision.id, turn=kind.turn, solids=solids, drawn=(x, y) if along else None)


def scopes_view(scopes: Sequence[ScopeOf], load: str) -> ls.ScopesView:
    return ls.ScopesView(load=load, scopes=[ls.ScopeView(**vars(one)) for one in scopes])


def counts_view(opened: Opened, counts: Counts, load: str) -> ls.CountsView:
    points = [
        ls.CountView(
            columns=p.columns, rows=p.rows, pieces=p.pieces, cutting=p.cutting, between=p.between, loading=p.loading,
            seconds=p.seconds, each=list(p.each), stopped=p.stopped,
        )
        for p in counts.points
    ]  # fmt: skip
    return ls.CountsView(load=load, quantities=list(opened.ledger.plan.quantities), points=points, why=counts.why,
                         knee=counts.knee)  # fmt: skip
