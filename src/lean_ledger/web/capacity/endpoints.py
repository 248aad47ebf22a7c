"""Capacity: hours of machines by week, what is booked of them, when a lot is done and what a rush takes."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from flask import Response
from flask_openapi3 import Tag

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.capacity.booked import Done, booked, weeks, weeks_to
from lean_ledger.core.capacity.lots import Of, lot_of
from lean_ledger.core.capacity.rush import Rush, rush
from lean_ledger.core.shop.summary import summary_of
from lean_ledger.library.business import Closed, Shift, ShopHours
from lean_ledger.library.types import Library
from lean_ledger.store.business import Ordered, all_machines
from lean_ledger.store.rows import now
from lean_ledger.web.capacity import schemas as s
from lean_ledger.web.plans.schemas import Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import author, desk

blueprint = Described("capacity", __name__, url_prefix="/api", abp_tags=[Tag(name="capacity")])

REFUSES: dict[Any, Any] = {404: Problem, 422: Problem}
WEEKS = 12


@blueprint.get("/capacity", responses={200: s.CapacityView, **REFUSES})
def capacity() -> Response:
    """Hours of each machine by week, and what ordered jobs take of them."""
    return _told()


@blueprint.put("/capacity", responses={200: s.CapacityView, **REFUSES})
def change_hours(body: s.HoursBody) -> Response:
    """The shop's hours: shifts, overtime, days that it is closed."""
    ids = [one.machine for one in body.shifts]
    if len(set(ids)) < len(ids):
        raise PlanError("business", "a machine has two shifts; give it one")
    hours = ShopHours(
        body.material_days, body.outside_days, Decimal(body.overtime), Decimal(body.surcharge),
        tuple(Closed(one.first, one.last, one.why.strip()) for one in body.closed), _shift(body.shift),
        {one.machine: _shift(one) for one in body.shifts},
    )  # fmt: skip
    desk().business.take_hours(hours, author())
    return _told()


@blueprint.get("/plans/<int:plan_id>/lead-time", responses={200: s.LeadView, **REFUSES})
def lead_time(path: s.LeadPath, query: s.LeadQuery) -> Response:
    """When a lot of a plan is ready behind all that is ordered, and what it takes to be ready by a day."""
    opened, business, today = desk().open(path.plan_id, with_stock=False), desk().business, now().date()
    library, job = opened.shelf.library, opened.job
    lot = lot_of(Of(job.id, job.number), summary_of(opened.ledger, opened.part), query.quantity)
    others, hours = business.lots(but=job.id), business.hours()
    done = booked(others, hours, today).tried(lot)
    found = rush(lot, query.wanted, others, hours, today, opened.ledger.problem) if query.wanted else None
    view = s.LeadView(
        quantity=query.quantity, begins=done.begins, ready=done.ready, weeks=weeks_to(done.ready, today),
        machines=[
            s.MachineHoursView(machine=id, name=_name(id, library), hours=float(hours))
            for id, hours in lot.by_machine.items()
        ],
        rush=_rush(found) if found is not None else None,
    )  # fmt: skip
    return Response(view.model_dump_json(), mimetype="application/json")


def _rush(found: Rush) -> s.RushView:
    return s.RushView(
        wanted=found.wanted, possible=found.possible, ready=found.ready, a_day=float(found.a_day),
        hours=float(found.hours), price=found.price, first_ready=found.first_ready,
        pushed=[s.PushedView(job=one.lot.job, due=one.lot.due, ready=one.ready, late=one.late) for one in found.late],
    )  # fmt: skip


def _told() -> Response:
    asked = desk()
    today, hours, library = now().date(), asked.business.hours(), asked.library
    orders = asked.business.ordered()
    book = booked([one.lot for one in orders if one.lot is not None], hours, today)
    done = {one.lot.id: one for one in book.done}
    machines = [machine.id for machine in library.machines]
    machines.sort(key=lambda id: id not in all_machines(orders))  # those that something is booked on first
    view = s.CapacityView(
        today=today,
        machines=[
            s.MachineLoadView(
                machine=id, name=_name(id, library), shift=_shift_body(id, hours.of(id)), own=id in hours.shifts,
                weeks=[
                    s.WeekView(
                        monday=week.monday, hours=float(week.hours), booked=float(week.booked),
                        jobs=[s.JobHours(job=job, hours=float(own)) for job, own in week.jobs],
                    )
                    for week in weeks(book, id, WEEKS)
                ],
            )
            for id in machines
        ],
        lots=[_lot(one, done.get(one.job.id), book.refused.get(one.job.id, "")) for one in orders],
        hours=_hours(hours),
    )  # fmt: skip
    return Response(view.model_dump_json(), mimetype="application/json")


def _lot(one: Ordered, done: Done | None, refused: str) -> s.LotView:
    return s.LotView(
        plan=one.plan_id, job_id=one.job.id, job=one.job.number, name=one.job.name, customer=one.job.customer,
        quantity=one.quantity, due=one.job.due, begins=done.begins if done else None,
        ready=done.ready if done else None, late=done.late if done else 0, made=float(one.made),
        hours=float(sum(hours for _, hours in done.lot.loads)) if done else 0.0,
        trouble="" if done else refused or "its plan is being computed",
    )  # fmt: skip


def _hours(hours: ShopHours) -> s.HoursBody:
    return s.HoursBody(
        material_days=hours.material_days, outside_days=hours.outside_days, overtime=f"{hours.overtime:f}",
        surcharge=f"{hours.surcharge:f}",
        closed=[s.ClosedBody(first=one.first, last=one.last, why=one.why) for one in hours.closed],
        shift=_shift_body("", hours.shift), shifts=[_shift_body(id, one) for id, one in hours.shifts.items()],
    )  # fmt: skip


def _shift_body(machine: str, shift: Shift) -> s.ShiftBody:
    return s.ShiftBody(machine=machine, hours=f"{shift.hours:f}", days=shift.days, available=f"{shift.available:f}")


def _shift(body: s.ShiftBody) -> Shift:
    return Shift(Decimal(body.hours), body.days, Decimal(body.available))


def _name(machine: str, library: Library) -> str:
    found = library.machine(machine)
    return found.name if found is not None else machine
