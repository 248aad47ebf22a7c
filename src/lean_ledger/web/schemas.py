"""What goes over the wire. Lengths mm, times s, areas mm², volumes mm³; money as decimal strings."""

from __future__ import annotations

from datetime import date, datetime
from decimal import Decimal
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field, PlainSerializer

Money = Annotated[Decimal, PlainSerializer(lambda v: f"{v:f}", return_type=str)]
Point = tuple[float, float]
Number = Annotated[int, Field(ge=1, le=2**31)]  # of a job, a plan, a line of the journal
Vec = tuple[float, float, float]


class Problem(BaseModel):
    """application/problem+json (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    place: str = ""


class JobRef(BaseModel):
    id: int
    number: str
    name: str
    customer: str
    revision: str
    status: str
    due: date | None
    file: str
    length_unit: str
    aligned: bool


class ThumbView(BaseModel):
    lines: list[list[Point]]


class JobRow(BaseModel):
    job: JobRef
    plan_id: int
    material: str
    quantities: list[int]
    cycle: float
    each: Money
    errors: int
    warnings: int
    thumb: ThumbView


class JobList(BaseModel):
    jobs: list[JobRow]


class Created(BaseModel):
    plan_id: int


class SecondsView(BaseModel):
    category: str
    seconds: float


class EffectView(BaseModel):
    words: str
    cycle: float
    per_piece: float
    setup_hours: Money
    each: Money
    findings_gone: int
    findings_new: int


class Strip(BaseModel):
    cycle: float
    per_piece: float
    setup_hours: Money
    each: Money
    quantity: int
    errors: int
    warnings: int
    seconds: list[SecondsView]
    last: EffectView | None


class CureView(BaseModel):
    label: str
    change: dict[str, Any]


class FindingView(BaseModel):
    code: str
    severity: str
    chapter: str
    title: str
    why: str
    setup: str
    features: list[str]
    operation: str
    cures: list[CureView]


class MeasureView(BaseModel):
    label: str
    value: float
    unit: str


class FeatureView(BaseModel):
    id: str
    kind: str
    title: str
    faces: list[int]
    access: list[Vec]
    volume: float
    measures: list[MeasureView]
    setups: list[str]
    operations: list[str]
    left_out: str | None
    movable_to: list[str]
    needs_machining: bool


class FeatureGroupView(BaseModel):
    title: str
    ids: list[str]


class HoleSizeView(BaseModel):
    """All holes of one diameter, and the threads that fit them."""

    diameter: float
    features: list[str]
    thread: str | None
    options: list[str]


class FigureView(BaseModel):
    label: str
    formula: str
    value: float
    unit: str


class ToolView(BaseModel):
    id: str
    number: int
    kind: str
    description: str
    diameter: float
    flutes: int
    cutting_length: float
    reach: float


class AfterView(BaseModel):
    operation: str
    name: str
    reason: str


class EntryView(BaseModel):
    id: str
    name: str
    kind: str
    features: list[str]
    tool: ToolView
    n: float
    vf: float
    vc: float
    fz: float
    ap: float
    ae: float
    passes: int
    allowance: float
    depth: float
    power: float
    power_limit: float
    edited: list[str]
    tool_kinds: list[str]
    seconds: list[SecondsView]
    total: float
    changes_tool: bool
    figures: list[FigureView]
    after: list[AfterView]


class BoxView(BaseModel):
    what: str
    x: float
    y: float
    width: float
    height: float


class ToolLineView(BaseModel):
    number: int
    description: str
    stick_out: float
    minutes: float


class ZeroView(BaseModel):
    of: str
    place: str
    level: str
    point: Vec
    touch_off: list[str]


class SetupView(BaseModel):
    id: str
    up: str
    turn: int
    turn_decided: int | None
    machine: str
    machine_name: str
    vise: str
    vise_name: str
    vise_decided: str | None
    grip: float
    grip_decided: float | None
    grips: list[float]
    parallel: float | None
    opening: float
    opening_most: float
    jaw_top: float
    zero: ZeroView
    stock: Vec
    features: list[str]
    seconds: list[SecondsView]
    cycle: float
    load: float
    setup_hours: Money
    hours_decided: bool
    machine_rate: Money
    rate_decided: bool
    load_decided: bool
    calls: int
    grouped_calls: int
    grouping_saves: float
    order_decided: bool
    entries: list[EntryView]
    tools: list[ToolLineView]
    end_boxes: list[BoxView]
    top_boxes: list[BoxView]


class PriceLine(BaseModel):
    line: str
    cost: Money


class QuantityView(BaseModel):
    quantity: int
    started: int
    lines: list[PriceLine]
    cost: Money
    price: Money
    each: Money
    machine_hours: Money


class RateView(BaseModel):
    name: str
    label: str
    value: Money | None
    decided: bool
    unit: Literal["money", "share", "hours", "seconds", "pieces", "length"]


class CurvePoint(BaseModel):
    quantity: int
    each: Money


class PriceView(BaseModel):
    quantities: list[QuantityView]
    rates: list[RateView]
    curve: list[CurvePoint]
    buy: str
    material_kg: float
    tool_wear: FigureView


class JournalLine(BaseModel):
    seq: int
    parent: int | None
    author: str
    at: datetime
    words: str
    effect: EffectView
    current: bool
    ahead: bool  # undone: not on the way to the current version


class AllowanceView(BaseModel):
    side: str
    value: float


class PlanView(BaseModel):
    plan_id: int
    edition: int
    version: int
    job: JobRef
    material: str
    material_name: str
    quantities: list[int]
    allowances: list[AllowanceView]
    stock: Vec
    part_size: Vec
    part_volume: float
    chips_share: float
    strip: Strip
    findings: list[FindingView]
    features: list[FeatureView]
    groups: list[FeatureGroupView]
    holes: list[HoleSizeView]
    setups: list[SetupView]
    price: PriceView
    journal: list[JournalLine]
    can_undo: bool
    can_redo: bool


class Stale(BaseModel):
    """A write on an edition that is no longer current: what stands now, and what happened since."""

    type: str
    title: str
    status: int
    detail: str
    plan: PlanView
    since: list[JournalLine]


class MeshView(BaseModel):
    """Flat lists, three numbers a vertex; `faces[i]` is the face of triangle i; edges as polylines."""

    vertices: list[float]
    triangles: list[int]
    faces: list[int]
    edges: list[list[float]]
    min: Vec
    max: Vec


class DrawingView(BaseModel):
    visible: list[list[Point]]
    hidden: list[list[Point]]


class MachineChoice(BaseModel):
    id: str
    name: str
    rate: Money
    max_rpm: float
    power: float
    tool_change: float


class ViseChoice(BaseModel):
    id: str
    name: str
    opening: float
    jaw_width: float


class MaterialChoice(BaseModel):
    id: str
    name: str
    density: Money
    price_per_kg: Money


class ThreadChoice(BaseModel):
    name: str
    series: str
    major: float
    pitch: float
    tap_drill: float


class LibraryView(BaseModel):
    machines: list[MachineChoice]
    vises: list[ViseChoice]
    materials: list[MaterialChoice]
    threads: list[ThreadChoice]
    tools: list[ToolView]
    statuses: list[str]


class JobPath(BaseModel):
    job_id: Number


class PlanPath(BaseModel):
    plan_id: Number


class SetupPath(BaseModel):
    plan_id: Number
    setup: str


class DrawingQuery(BaseModel):
    view: Literal["top", "end", "iso"] = "top"


class PaperPath(BaseModel):
    plan_id: Number
    paper: Literal["setup-sheet.pdf", "operations.csv", "operations.xlsx", "tools.csv", "tools.xlsx"]


class GoTo(BaseModel):
    seq: Number


class JobEdit(BaseModel):
    """Only what is given is changed; `due` may be given as null."""

    number: str | None = Field(None, min_length=1, max_length=40)
    name: str | None = Field(None, min_length=1, max_length=120)
    customer: str | None = Field(None, max_length=120)
    status: str | None = None
    due: date | None = None


class WriteHeader(BaseModel):
    """Writes name the edition that they were made on."""

    if_match: str = Field(alias="If-Match", description="The plan's edition, as its ETag")
