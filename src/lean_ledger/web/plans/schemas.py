"""What goes over the wire. Lengths mm, times s, areas mm², volumes mm³; money as decimal strings."""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import BaseModel, Field

from lean_ledger.core.changes.price import RateName
from lean_ledger.core.plan import Sizing, StockForm
from lean_ledger.web.part.schemas import FeatureGroupView, FeatureView, HoleSizeView
from lean_ledger.web.setups.schemas import FigureView, SetupView
from lean_ledger.web.shared.wire import Moment, Money, Number, ReadyChange, SecondsView, Vec


class Problem(BaseModel):
    """application/problem+json (RFC 9457); `request` is what the log calls it by."""

    type: str
    title: str
    status: int
    detail: str
    place: str = ""
    request: str = ""


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
    ordered: int | None = Field(None, description="pieces")


class JobRow(BaseModel):
    """A line of the list; figures are those of the plan's last version, computed once and kept."""

    job: JobRef
    plan_id: int
    material: str
    quantities: list[int]
    cycle: float | None
    each: Money | None
    errors: int
    warnings: int
    picture: str = Field(description="address of a small drawing; empty where there is none yet")
    state: Literal["fresh", "older", "waiting", "broken"] = Field(
        description="older: from before the shop's tools or rules changed, computed again soon; waiting: none yet"
    )
    trouble: str = Field(description="why a broken plan has no figures")
    followed: bool = Field(description="whether the findings hold what its stock shows; the price is sure only then")
    plan_name: str
    others: list[OtherPlan] = Field(description="the job's other plans that are in sight")


class OtherPlan(BaseModel):
    """An alternative of a job, with the figures kept of it."""

    plan_id: int
    name: str
    cycle: float | None
    each: Money | None
    errors: int


class JobList(BaseModel):
    jobs: list[JobRow]
    total: int = Field(description="that were asked for")
    all: int = Field(description="of the shop")
    page: int
    pages: int
    customers: list[str]


class JobsQuery(BaseModel):
    """Which jobs in which order. Words of a search stand in number, name, customer or material."""

    search: str = Field("", max_length=200)
    status: str = Field("", max_length=40)
    customer: str = Field("", max_length=120)
    due_from: date | None = None
    due_to: date | None = None
    sort: Literal["added", "number", "customer", "due", "status", "material", "cycle", "each", "findings"] = "added"
    down: bool = True
    page: int = Field(1, ge=1, le=1_000_000)
    size: int = Field(50, ge=1, le=200)


class Created(BaseModel):
    plan_id: int


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
    change: ReadyChange


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
    name: RateName
    label: str
    value: Money | None
    decided: bool
    unit: Literal["money", "share", "hours", "seconds", "pieces", "length"]


class CurvePoint(BaseModel):
    quantity: int
    each: Money


class RestView(BaseModel):
    what: str
    source: str
    amount: Money = Field(description="of a piece's price")
    share: float = Field(description="by which it may be off, one standard deviation")
    moves: float = Field(description="what that moves a piece's price by")
    part: float = Field(description="share of the whole spread")


class SureView(BaseModel):
    """In two of three times a price each lies from low to high."""

    quantity: int
    low: Money
    high: Money
    rests: list[RestView] = Field(description="what the price rests on, what moves it most first")
    words: str


class PriceView(BaseModel):
    sure: list[SureView]
    missing: list[str] = Field(description="what of the part no price holds")
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
    at: Moment
    words: str
    effect: EffectView
    current: bool
    ahead: bool  # undone: not on the way to the current version


class JournalView(BaseModel):
    """Some lines of a plan's journal, the newest last; those before them with `before`."""

    edition: int
    current: int
    lines: list[JournalLine]
    earlier: bool


class JournalQuery(BaseModel):
    before: int | None = Field(None, ge=1, le=2**31, description="a line's number; the last lines where none is given")
    count: int = Field(50, ge=1, le=200)


class BodyView(BaseModel):
    """A body of the plan, or what fills a hole for now (`kind` plug); triangles as in MeshView."""

    id: str
    kind: str
    on: str
    words: str
    length: float
    width: float
    height: float
    u: float
    v: float
    removal: str
    vertices: list[float]
    triangles: list[int]


class RevisionView(BaseModel):
    letter: str
    author: str
    at: Moment


class AllowanceView(BaseModel):
    side: str
    value: float


class OverView(BaseModel):
    feature: str
    title: str
    over: float | None  # none where a hole is not cored


class StockChoiceView(BaseModel):
    """What is bought; `along` is the axis of a bar's length or a plate's thickness."""

    form: StockForm
    along: Literal["X", "Y", "Z"]
    along_decided: bool
    sizing: Sizing
    named: str
    kg: float
    shift: Vec  # of near-net stock's model
    over: list[OverView]  # of near-net stock, the most on each feature that has any


class AxisView(BaseModel):
    point: Vec
    direction: Vec


class PlanView(BaseModel):
    plan_id: int
    plan_name: str
    chosen: bool = Field(description="whether the job is made by this plan")
    plans: int = Field(description="of the job, that are in sight")
    edition: int
    version: int
    job: JobRef
    material: str
    material_name: str
    quantities: list[int]
    allowances: list[AllowanceView]
    revisions: list[RevisionView]
    bodies: list[BodyView]
    form: str
    axis: AxisView | None
    stock: Vec
    part_size: Vec
    part_volume: float
    chips_share: float
    stock_choice: StockChoiceView
    parked: list[str]  # features that stand in no setup yet
    strip: Strip
    findings: list[FindingView]
    features: list[FeatureView]
    groups: list[FeatureGroupView]
    holes: list[HoleSizeView]
    setups: list[SetupView]
    price: PriceView
    now: JournalLine  # the journal's line that the plan is at
    lines: int  # of the journal
    can_undo: bool
    can_redo: bool
    beside: int = Field(description="carriages that work at the same time in a load, at the most; 0 where none do")
    stock_followed: bool  # whether the findings hold what the stock's way through the operations shows


class Stale(BaseModel):
    """A write on an edition that is no longer current: what stands now, and what happened since."""

    type: str
    title: str
    status: int
    detail: str
    place: str = ""
    request: str = ""
    plan: PlanView
    since: list[JournalLine]


class SolidView(BaseModel):
    name: str
    size: Vec
    volume: float


class ReadingView(BaseModel):
    """A file being read in the background."""

    id: str
    file_name: str
    state: Literal["waiting", "reading", "choose", "ask", "done", "failed", "cancelled"]
    stage: str
    share: float
    error: str
    question: str = Field(description="about an odd size, where the state is ask")
    solids: list[SolidView]
    plan_id: int | None
    revision: str


class SolidChoice(BaseModel):
    solid: int = Field(ge=0, le=100_000)


class ReadingPath(BaseModel):
    reading: str


class PicturePath(BaseModel):
    file: str = Field(pattern="^[0-9a-f]{64}$")
    solid: int = Field(ge=0, le=100_000)


class JobPath(BaseModel):
    job_id: Number


class PlanPath(BaseModel):
    plan_id: Number


class RevisionPath(BaseModel):
    plan_id: Number
    revision: str


class MeshQuery(BaseModel):
    revision: str = Field("", description="A revision's letter; the plan's own where none is given")


class SetupPath(BaseModel):
    plan_id: Number
    setup: str


class LoadPath(BaseModel):
    plan_id: Number
    load: str


class DrawingQuery(BaseModel):
    view: Literal["top", "end", "iso"] = "top"


class PaperPath(BaseModel):
    plan_id: Number
    paper: Literal[
        "setup-sheet.pdf",
        "operations.csv",
        "operations.xlsx",
        "tools.csv",
        "tools.xlsx",
        "zeros.csv",
        "zeros.xlsx",
        "shopping.csv",
        "shopping.xlsx",
    ]


class GoTo(BaseModel):
    seq: Number


class JobEdit(BaseModel):
    """Only what is given is changed; `due` and `ordered` may be given as null."""

    number: str | None = Field(None, min_length=1, max_length=40)
    name: str | None = Field(None, min_length=1, max_length=120)
    customer: str | None = Field(None, max_length=120)
    status: str | None = None
    due: date | None = None
    ordered: int | None = Field(
        None, ge=1, le=9_999_999, description="pieces; null where it is the plan's first quantity"
    )


class WriteHeader(BaseModel):
    """Writes name the edition that they were made on."""

    if_match: str = Field(alias="If-Match", description="The plan's edition, as its ETag")
