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
    source: str


class SaidView(BaseModel):
    """What the planner says of a feature that the model does not."""

    thread: str
    tolerance: str
    finish: float | None
    note: str
    asks_for: str


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
    said: SaidView
    threads: list[str]
    became: str  # since the revision before: same, moved, resized, new
    in_the_way: str
    is_flat_side: bool
    movable_to: list[str]
    needs_machining: bool


class PatternView(BaseModel):
    shape: str
    words: str
    center: Vec
    diameter: float
    rows: int
    columns: int
    pitch: float
    row_pitch: float


class FeatureGroupView(BaseModel):
    title: str
    ids: list[str]
    pattern: PatternView | None


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


class RuleChoice(BaseModel):
    id: str
    name: str
    by_hand: bool


class StrategyView(BaseModel):
    """A way of roughing that was tried, and the seconds of its own path."""

    strategy: str
    seconds: float


class DepthView(BaseModel):
    """Down from where the operation begins, mm; `words` say what was decided, empty where the rule stands."""

    value: float
    rule: float
    words: str
    beyond: float = Field(description="a face that was pointed at")


class EntryView(BaseModel):
    id: str
    name: str
    called: int = Field(description="what the machine calls its tool by; on a lathe the station in the turret")
    kind: str
    features: list[str]
    tool: ToolView
    n: float
    vf: float
    vc: float
    fz: float
    speed: float = Field(description="times the vc of the library's data")
    feed: float = Field(description="times the feed per tooth that the rule gives")
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
    strategy: str | None = Field(description="of roughing: in steps, at constant engagement or in a helix")
    strategies: list[StrategyView]
    ways: list[str] = Field(description="that there are for such an operation, drawn or not")
    measured: DepthView | None = Field(description="of those whose depth can be set by hand")
    direction: str | None = Field(description="along a wall: climb or conventional")
    rule: str = Field(description="of the shop's, by which its features are made; empty where none is needed")
    rules: list[RuleChoice] = Field(description="that could make them")
    alike: list[str] = Field(description="other features of the same sort and size")
    by_pitch: bool = Field(description="its feed follows from a thread's pitch")


class BoxView(BaseModel):
    what: str
    x: float
    y: float
    width: float
    height: float
    round: bool
    ring: list[tuple[float, float]]  # of a polygon, empty for others


class ToolLineView(BaseModel):
    number: int
    description: str
    stick_out: float
    minutes: float
    where: str = Field(description="in the machine, or to set up")


class ZeroChoice(BaseModel):
    """A place for the zero, seen from above in the setup's axes."""

    of: str
    place: str
    bore: str
    words: str
    x: float
    y: float


class CoordinatesView(BaseModel):
    """A feature's middle, top and bottom from the zero."""

    feature: str
    title: str
    x: float
    y: float
    top: float
    bottom: float


class ZeroView(BaseModel):
    """`least` are the lowest X and Y of the stock from there; `why` says what speaks for the `proposed` one."""

    of: str
    place: str
    level: str
    bore: str
    words: str
    point: Vec
    touch_off: list[str]
    by_rule: bool
    proposed: str
    why: str
    choices: list[ZeroChoice]
    least: tuple[float, float]
    coordinates: list[CoordinatesView]


class WordView(BaseModel):
    label: str
    words: str


class WayView(BaseModel):
    """A direction that the tool comes from; what the rotary and the tilt stand at, degrees."""

    side: str
    angle: float
    tilt: float


class StackView(BaseModel):
    """Carriers that can stand under the fixture, from the machine upwards."""

    ids: list[str]
    words: str


class TurnView(BaseModel):
    """A quarter turn and the sides of the part that it names: against the fixed jaw, on what it rests on."""

    turn: int
    words: str


class LiesView(BaseModel):
    """Sides of the part, with its faces there, by their numbers: what it rests on, what is at the fixed jaw."""

    base: str
    back: str
    base_faces: list[int]
    back_faces: list[int]
    base_named: str
    back_named: str


class HoldView(BaseModel):
    """What holds a setup, in its own axes: x to the right and y back in the view from above, z away from its mount."""

    fixture: str
    name: str
    kind: str
    decided: str | None
    carriers: list[str]
    stacks: list[StackView]  # that find a mount on the machine
    free: str | None  # the end that stands free on a rotary axis
    spins: bool  # on a lathe: the part turns
    ways: list[WayView]
    grip: float  # 0 where nothing is gripped along z
    grip_decided: float | None
    grips: list[float]
    turns: list[TurnView]
    lies: LiesView
    top: float | None  # level up to which it grips
    touches: str
    words: list[WordView]
    zero: Vec  # in the pictures' axes
    axes: list[str]  # the machine's names of the pictures' x, y and z


class ProbeView(BaseModel):
    """The zero, a bore or a slot: whether a probe feels it, and the seconds that takes."""

    what: str
    title: str
    on: bool
    seconds: float | None


class HandWorkView(BaseModel):
    """What an operator does on each piece; `during` the cycle, or while the machine stands."""

    id: str
    kind: str
    seconds: float
    during: bool


class AttachedView(BaseModel):
    """A program from elsewhere that a setup, or one operation of it, is timed by."""

    operation: str
    file: str
    lines: int
    seconds: float


class SetupView(BaseModel):
    id: str
    attached: list[AttachedView]
    up: str
    locked: bool
    right: Vec
    back: Vec
    above: Vec
    turn: int
    turn_decided: int | None
    machine: str
    machine_name: str
    hold: HoldView
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
    standing: float
    hand: list[HandWorkView]
    probes: list[ProbeView] = Field(description="what a probe can feel in this setup; none on a lathe")
    cut_off: float | None = Field(description="mm left to face where the piece is cut off its bar")
    can_cut_off: bool
    load_decided: bool
    calls: int
    grouped_calls: int
    grouping_saves: float
    order_decided: bool
    entries: list[EntryView]
    tools: list[ToolLineView]
    in_machine: list[str] = Field(description="ids of the tools that stand in it, whatever job comes")
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
    at: datetime


class AllowanceView(BaseModel):
    side: str
    value: float


class OverView(BaseModel):
    feature: str
    title: str
    over: float | None  # none where a hole is not cored


class StockChoiceView(BaseModel):
    """What is bought; `along` is the axis of a bar's length or a plate's thickness."""

    form: str
    along: str
    along_decided: bool
    sizing: str
    named: str
    kg: float
    shift: Vec  # of near-net stock's model
    over: list[OverView]  # of near-net stock, the most on each feature that has any


class AxisView(BaseModel):
    point: Vec
    direction: Vec


class PlanView(BaseModel):
    plan_id: int
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
    journal: list[JournalLine]
    can_undo: bool
    can_redo: bool
    stock_followed: bool  # whether the findings hold what the stock's way through the operations shows


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


class ChangedView(BaseModel):
    label: str
    before: float
    after: float
    unit: str


class FeaturePairView(BaseModel):
    """`old` and `new` are ids in the plan, `own` is the new feature's id in its own model."""

    old: str | None
    new: str | None
    own: str | None
    title: str
    became: str
    moved: float
    changes: list[ChangedView]
    by_hand: bool
    decided: list[str]


class CompareView(BaseModel):
    """Two revisions: pairs of features, and what became of each face of either model."""

    before: str
    after: str
    pairs: list[FeaturePairView]
    before_faces: list[str]
    after_faces: list[str]
    before_features: dict[str, list[int]]
    after_features: dict[str, list[int]]


class PickView(BaseModel):
    face: int = Field(ge=0)
    point: Vec


class PicksBody(BaseModel):
    """One or two places on the part that were pointed at."""

    picks: list[PickView] = Field(min_length=1, max_length=2)
    revision: str = ""


class PickReadingView(BaseModel):
    label: str
    value: float
    unit: str
    line: tuple[Vec, Vec] | None


class PickReadings(BaseModel):
    readings: list[PickReadingView]


class SolidView(BaseModel):
    name: str
    size: Vec
    volume: float


class ReadingView(BaseModel):
    """A file being read in the background."""

    id: str
    file_name: str
    state: Literal["waiting", "reading", "choose", "done", "failed", "cancelled"]
    stage: str
    share: float
    error: str
    solids: list[SolidView]
    plan_id: int | None
    revision: str


class SolidChoice(BaseModel):
    solid: int = Field(ge=0)


class ReadingPath(BaseModel):
    reading: str


class DrawingView(BaseModel):
    visible: list[list[Point]]
    hidden: list[list[Point]]


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
        "shopping.csv",
        "shopping.xlsx",
    ]


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
