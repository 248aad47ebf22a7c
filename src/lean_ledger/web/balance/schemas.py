"""What runs at the same time, as the API shows it. Seconds; speeds rpm."""

from __future__ import annotations

from decimal import Decimal

from pydantic import BaseModel, Field

from lean_ledger.web.shared.wire import ReadyChange


class BalancePath(BaseModel):
    plan_id: int = Field(ge=1, le=2**31)
    load: str = Field(max_length=20)


class BalanceQuery(BaseModel):
    seconds: float = Field(default=10, ge=0.1, le=60)


class LaneCallView(BaseModel):
    """A call on its lane: its way begins, its tool is in, it goes on after waiting, it ends."""

    piece: str
    operation: str
    name: str
    tool: int
    tool_name: str
    begin: float
    ready: float
    go: float
    end: float
    cutting: float
    on_chain: bool = Field(description="in the chain of calls that is as long as the cycle")
    n: float = Field(description="where it cuts farthest out, if it keeps a surface speed")
    steady: bool = Field(description="whether it turns at one speed from end to end")
    shared: float | None = Field(description="the speed that it shares with others")
    most: float | None = Field(description="at the most where it can share a speed")
    counter: bool = Field(description="whether its piece is in the counter spindle")
    waits_for: str = Field(description="the operation that it waited for; empty where it did not wait")
    why: str


class LaneView(BaseModel):
    carriage: str
    position: int = Field(description="of a drum of spindles; 0 where there is none")
    slide: str = Field(description="of a drum: what works across the spindle, or from its end")
    calls: list[LaneCallView]
    end: float
    waiting: float = Field(description="at marks, and from its end to that of the cycle")


class MarkView(BaseModel):
    code: str
    at: float
    carriages: list[str]


class BothSidesView(BaseModel):
    """An operation that two carriages could make together, one on either side of the axis, or do."""

    operation: str
    name: str
    on: bool


class SplitView(BaseModel):
    operation: str
    name: str
    parts: int


class SharedView(BaseModel):
    operations: list[str]
    n: float


class HandoverView(BaseModel):
    """A piece that goes from the main spindle into the counter spindle: seconds of each step; mm."""

    eject: float
    synchronise: float
    approach: float
    close: float
    cut_off: float
    away: float
    pull: float = Field(description="the main collet opens, the bar comes, it closes; 0 where the bar is fed")
    by: float = Field(description="how far the bar is pulled on, mm")
    at: float = Field(description="machine Z of the counter spindle's mount while it takes the piece")
    between: float = Field(description="from the blade to what grips the piece")
    grips: str = Field(description="what of the piece it closes on, in words")


class DrumView(BaseModel):
    """A drum of spindles: every index finishes a piece, so the slowest position sets the pace."""

    index: float
    feed: float = Field(description="of the bar, in the last position")
    positions: list[float] = Field(description="seconds of each until it could index; the index is in them")
    an_hour: float = Field(description="pieces, of the share of the hours that the shop's machines run")
    availability: float
    one_feed: bool = Field(description="one drive moves both slides of a position: one feed a turn there")


class AbleView(BaseModel):
    id: str
    name: str


class BalancedLoadView(BaseModel):
    """Of a load whose machine has several carriages: each a lane, with what is decided on it. With one carriage there
    is nothing to decide; it has a lane where pieces go from spindle to spindle.
    """

    load: str
    setups: list[str]
    machine: str
    at_once: bool
    pieces: int
    lanes: list[LaneView]
    marks: list[MarkView]
    groups: list[SharedView]
    split: list[SplitView] = Field(description="operations that are made in parts")
    both_sides: list[BothSidesView] = Field(description="operations whose passes go two at a time, or could")
    cycle: float
    one_by_one: float
    saved: float = Field(description="money a piece, against one after the other")
    bound: float
    words: str
    able: list[AbleView] = Field(description="machines of its kind on which operations run at the same time")
    drum: DrumView | None
    handover: HandoverView | None = Field(description="where a counter spindle takes the pieces over")


class BalanceView(BaseModel):
    loads: list[BalancedLoadView]


class GainView(BaseModel):
    """A single step and what it saves: seconds a cycle, money a piece."""

    title: str
    saves: float
    each: float
    change: ReadyChange


class GainsView(BaseModel):
    gains: list[GainView]


class FoundCycleView(BaseModel):
    cycle: float
    now: float
    one_by_one: float
    bound: float
    proven: bool
    each: float = Field(description="money that it saves a piece against what is decided now")
    change: ReadyChange


class BothEndsView(BaseModel):
    """Both ends of the part in one load of a lathe whose counter spindle takes pieces over. Seconds a piece and money
    each at the plan's quantities, after less before.
    """

    machine: str
    name: str
    refused: str
    seconds: float
    each: list[float]
    errors: list[str] = Field(description="what would be left to solve")
    change: ReadyChange


class BothEndsOffersView(BaseModel):
    quantities: list[int]
    offers: list[BothEndsView]


class SpanView(BaseModel):
    doing: str
    start: float
    end: float
    at: str = Field(description="the station where a person is")


class CellRowView(BaseModel):
    """A machine, a bench or a person of a cell over one period, with the shares of it by what is done."""

    id: str
    name: str
    person: bool
    spans: list[SpanView]
    shares: dict[str, float]


class StationView(BaseModel):
    id: str
    name: str
    cycle: float
    served: float
    pieces: int
    each: float = Field(description="seconds a piece that it takes alone")
    before: int | None = Field(description="pieces that lie before it at the most; none before the first")


class CellQuantityView(BaseModel):
    quantity: int
    hours: float
    shifts: float
    cell: float = Field(description="money each of machines and people with setting up, as a cell")
    apart: float = Field(description="the same with each load run by itself")
    price: Decimal = Field(description="each, with the cell's run in place of that of its loads")
    price_apart: Decimal = Field(description="each, as the plan has it")


class CellDecidedView(BaseModel):
    operators: int
    walk: float
    room: int | None
    shift_hours: float
    availability: float
    wanted: int | None
    tends: list[list[str]]


class CellRunView(BaseModel):
    """Over one period, in seconds."""

    stations: list[StationView]
    rows: list[CellRowView]
    period: float
    pieces: int
    pace: float
    bound: float
    per_shift: float
    takt: float | None
    room: int
    words: str
    quantities: list[CellQuantityView]


class CellView(BaseModel):
    """`why` says why the loads are no cell."""

    why: str
    decided: CellDecidedView
    run: CellRunView | None
