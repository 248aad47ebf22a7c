"""A plan's machines as a cell, as a view."""

from __future__ import annotations

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.cells.of_plan import PlanCell, bottleneck_words, cell_of
from lean_ledger.core.pricing.price import QuantityPrice
from lean_ledger.store import Opened
from lean_ledger.web.balance import schemas as s


def cell_view(opened: Opened) -> s.CellView:
    plan, ledger = opened.plan, opened.ledger
    decided = s.CellDecidedView(
        operators=plan.cell.operators, walk=plan.cell.walk, room=plan.cell.room, shift_hours=plan.cell.shift_hours,
        availability=plan.cell.availability, wanted=plan.cell.wanted, tends=[list(own) for own in plan.cell.tends],
    )  # fmt: skip
    try:
        cell = cell_of(plan.cell, ledger.loads, ledger.problem.setups)
    except PlanError as error:
        return s.CellView(why=error.message, decided=decided, run=None)
    run = s.CellRunView(
        stations=_stations(cell),
        rows=_rows(cell),
        period=cell.steady.period / 1000,
        pieces=cell.steady.pieces,
        pace=cell.seconds_each,
        bound=cell.tended.bound / 1000,
        per_shift=cell.per_shift,
        takt=cell.takt,
        room=cell.tended.room,
        words=bottleneck_words(cell),
        quantities=[_quantity(opened, cell, priced) for priced in ledger.prices],
    )
    return s.CellView(why="", decided=decided, run=run)


def _stations(cell: PlanCell) -> list[s.StationView]:
    most = (None, *cell.steady.most)
    return [
        s.StationView(
            id=one.id, name=one.name, cycle=one.cycle / 1000, served=one.served / 1000, pieces=one.pieces,
            each=one.each / 1000, before=before,
        ) for one, before in zip(cell.tended.stations, most, strict=True)
    ]  # fmt: skip


def _rows(cell: PlanCell) -> list[s.CellRowView]:
    names = {one.id: one.name for one in cell.tended.stations}
    return [
        s.CellRowView(
            id=who, name=names.get(who, who), person=who not in names,
            spans=[
                s.SpanView(doing=span.doing, start=span.start / 1000, end=span.end / 1000, at=names.get(span.at, ""))
                for span in cell.steady.spans if span.who == who
            ],
            shares={str(doing): share for doing, share in shares.items()},
        ) for who, shares in cell.steady.shares.items()
    ]  # fmt: skip


def _quantity(opened: Opened, cell: PlanCell, priced: QuantityPrice) -> s.CellQuantityView:
    quantity = priced.quantity
    setting_up, hours = cell.setting_up_each(quantity), cell.hours(quantity)
    return s.CellQuantityView(
        quantity=quantity, hours=hours, shifts=hours / (cell.decided.shift_hours * cell.decided.availability),
        cell=float(cell.run_each + setting_up), apart=float(cell.apart_each + setting_up),
        price=cell.price_each(opened.ledger.problem, quantity), price_apart=priced.each,
    )  # fmt: skip
