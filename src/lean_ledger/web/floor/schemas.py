"""What the page at the machine, the plan's floor and the shop's factors are told."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, Field

from lean_ledger.web.shared.wire import Moment, Number


def _as_utc(value: datetime) -> datetime:
    return value.astimezone(UTC).replace(tzinfo=None) if value.tzinfo is not None else value


#: A device's own time; with its zone, else taken for UTC.
DeviceTime = Annotated[datetime, AfterValidator(_as_utc)]


class FloorPath(BaseModel):
    plan_id: Number
    setup: str = Field(max_length=20)


class FloorPhotoPath(BaseModel):
    plan_id: Number
    hash: str = Field(pattern=r"^[0-9a-f]{64}$")


class FloorStepView(BaseModel):
    id: str
    title: str
    lines: list[str]
    runs: bool
    done: bool
    seconds: float = Field(description="of what ended")
    since: Moment | None = Field(description="UTC, where it runs")


class FloorNoteView(BaseModel):
    token: str
    kind: str
    at: Moment
    author: str
    step: str
    text: str
    photo: str


class FloorEventView(BaseModel):
    token: str
    at: Moment
    author: str
    words: str


class ScrapView(BaseModel):
    reason: str
    count: int


class BookView(BaseModel):
    setting_up: float | None = Field(description="seconds of all steps, once each was done")
    loads: int = Field(description="times that loading was timed")
    loading: float | None = Field(description="seconds of it in the mean")
    good: int
    scrap: list[ScrapView]
    notes: list[FloorNoteView]


class FloorView(BaseModel):
    """A load at its machine: `version` is the plan's as it stands."""

    plan_id: int
    setup: str
    setups: list[str]
    job: str
    name: str
    revision: str
    version: int
    machine: str
    pieces: int
    quantity: int
    findings: int = Field(description="errors of the plan")
    setup_hours: float
    load_seconds: float
    cycle: float
    steps: list[FloorStepView]
    book: BookView
    last: list[FloorEventView]
    reasons: list[str]


class EventBody(BaseModel):
    token: str = Field(min_length=1, max_length=64)
    kind: Literal["start", "stop", "load", "good", "scrap", "note", "photo", "take-back"]
    at: DeviceTime
    step: str = ""
    seconds: float = 0.0
    count: int = 0
    reason: str = ""
    text: str = Field("", max_length=2000)
    of: str = ""
    picture: str = Field("", description="JPEG or PNG, base64")


class EventsBody(BaseModel):
    events: list[EventBody] = Field(max_length=200)


class RefusedEvent(BaseModel):
    token: str
    why: str


class EventsTaken(BaseModel):
    new: int
    refused: list[RefusedEvent]
    floor: FloorView


class BesideView(BaseModel):
    what: str
    planned: float
    actual: float
    count: int
    over: float


class FloorLoadView(BaseModel):
    """A load of the plan: its page at the machine, what was ticked there, what it was planned at."""

    setup: str
    setups: list[str]
    machine: str
    address: str
    code: str = Field(description="the address as a QR code, an SVG path of unit squares")
    code_size: int
    setup_seconds: float
    load_seconds: float
    steps: list[FloorStepView]
    book: BookView


class PlanFloorView(BaseModel):
    loads: list[FloorLoadView]
    runs: int
    by_category: list[BesideView]
    by_program: list[BesideView]
    by_tool: list[BesideView]


class ObservationView(BaseModel):
    words: str
    ratio: float


class FactorView(BaseModel):
    """Of a machine and a category; `used` is the one that estimates are taken times now."""

    machine: str
    machine_name: str
    category: str
    factor: float
    off: float
    mean: float
    drawn: float
    scatter: float
    programs: int
    runs: int
    outliers: list[ObservationView]
    used: float | None
    used_words: str


class FactorsView(BaseModel):
    factors: list[FactorView]


class FactorPath(BaseModel):
    machine: str = Field(max_length=60)
    category: str = Field(max_length=40)
