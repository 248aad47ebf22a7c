"""What the page of capacity is told: hours of machines by week, lots, what a rush takes."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import BaseModel, Field

from lean_ledger.web.shared.wire import Money, Number

Exact = Annotated[str, Field(pattern=r"^\d{1,9}(\.\d{1,9})?$", description="A decimal number, not below 0")]


class ShiftBody(BaseModel):
    machine: Annotated[str, Field(max_length=60)]
    hours: Exact
    days: int
    available: Exact


class ClosedBody(BaseModel):
    first: date
    last: date
    why: Annotated[str, Field(max_length=120)] = ""


class HoursBody(BaseModel):
    """`shifts` of machines that have one of their own; `shift` of the others, its machine empty."""

    material_days: int
    outside_days: int
    overtime: Exact
    surcharge: Exact
    closed: list[ClosedBody] = Field(max_length=100)
    shift: ShiftBody
    shifts: list[ShiftBody] = Field(max_length=200)


class JobHours(BaseModel):
    job: str
    hours: float


class WeekView(BaseModel):
    monday: date
    hours: float
    booked: float
    jobs: list[JobHours]


class MachineLoadView(BaseModel):
    machine: str
    name: str
    shift: ShiftBody
    own: bool = Field(description="whether the shift is its own")
    weeks: list[WeekView]


class LotView(BaseModel):
    plan: int
    job_id: int
    job: str
    name: str
    customer: str
    quantity: int
    due: date | None
    begins: date | None
    ready: date | None
    late: int
    hours: float
    made: float = Field(description="hours that are done, by what was counted and ticked at the machines")
    trouble: str


class CapacityView(BaseModel):
    today: date
    machines: list[MachineLoadView]
    lots: list[LotView]
    hours: HoursBody


class LeadQuery(BaseModel):
    quantity: int = Field(1, ge=1, le=9_999_999)
    wanted: date | None = None


class PushedView(BaseModel):
    job: str
    due: date | None
    ready: date
    late: int


class RushView(BaseModel):
    wanted: date
    possible: bool
    ready: date
    a_day: float = Field(description="hours a working day on top")
    hours: float
    price: Money = Field(description="what it adds to the price of the lot")
    pushed: list[PushedView] = Field(description="what comes late where it goes before all others instead")
    first_ready: date = Field(description="where it goes before all others")


class MachineHoursView(BaseModel):
    machine: str
    name: str
    hours: float


class LeadView(BaseModel):
    quantity: int
    begins: date
    ready: date
    weeks: int
    machines: list[MachineHoursView]
    rush: RushView | None


class LeadPath(BaseModel):
    plan_id: Number
