"""Orders of a load's cycle as the API shows them. Seconds; positions from 1."""

from __future__ import annotations

from decimal import Decimal

from pydantic import BaseModel, Field

from lean_ledger.core.order.problem import Count
from lean_ledger.core.plan import By
from lean_ledger.web.shared.wire import ReadyChange


class OrderPath(BaseModel):
    plan_id: int = Field(ge=1, le=2**31)
    load: str


class BestQuery(BaseModel):
    goal: str = Field(default="seconds", description='"seconds", or the counts by rank: "tool,index,piece"')
    seconds: float = Field(default=10.0, gt=0, le=120, description="of search")


class AfterView(BaseModel):
    """What has to come before, and why."""

    operation: str
    name: str
    reason: str
    by_hand: bool


class ByHandView(BaseModel):
    """A precedence that was made, or overruled, by hand."""

    first: str
    then: str
    words: str
    note: str


class NodeView(BaseModel):
    """An operation in the drawing of what comes before what."""

    operation: str
    name: str
    tool: int
    layer: int
    place: int


class EdgeView(BaseModel):
    """Indexes of nodes: the first comes before the second."""

    first: int
    then: int
    reason: str
    by_hand: bool


class GraphView(BaseModel):
    """Of one setup's operations, in layers; what follows from other precedences is left out."""

    setup: str
    nodes: list[NodeView]
    edges: list[EdgeView]


class OutView(BaseModel):
    """An operation that does not run for now."""

    operation: str
    name: str


class StepView(BaseModel):
    piece: str
    operation: str
    name: str
    setup: str
    tool: int
    tool_name: str
    angle: float
    own: float = Field(description="its own motion")
    way: float = Field(description="the way to it: change, index, rapids, spindle")
    changes_tool: bool
    again: str = Field(description="why its tool is called again; empty where it is not")
    after: list[AfterView]
    run: int = Field(description="number of the locked run that it is in, from 1; 0 for none")
    section: str = Field(description="name of the section that begins with it; empty where none does")
    another: str = Field(description="id of one more tool of the kind; empty where there is none to have")


class CountsOfOrder(BaseModel):
    tool: int
    index: int
    degrees: float = Field(description="that are indexed")
    piece: int
    changes: float = Field(description="seconds of all changes, by what each costs on this machine")
    cycle: float = Field(description="as the machine runs it")
    each: float = Field(description="what the cycle's seconds cost a piece, machine and the share of an operator")


class ToolRunView(BaseModel):
    """Steps of one tool one behind the other."""

    tool: int
    name: str
    start: float
    change: float = Field(description="seconds of the way to it")
    seconds: float


class OrderedView(BaseModel):
    name: str
    counts: CountsOfOrder
    runs: list[ToolRunView] = Field(description="empty where there are too many to be drawn")


class TimesView(BaseModel):
    """What each change costs on the load's machine."""

    tool_change: float
    index: float
    per_degree: float
    piece: float


class CycleView(BaseModel):
    load: str
    setups: list[str]
    pieces: int
    by: By
    fixed: str = Field(description="why nobody chooses the order of the pieces; empty where they can")
    steps: list[StepView]
    orders: list[OrderedView] = Field(description="the present one first")
    times: TimesView
    before: list[ByHandView]
    overruled: list[ByHandView]
    out: list[OutView]
    graphs: list[GraphView]
    angles: list[float]


class BestView(BaseModel):
    found: OrderedView
    now: OrderedView
    goal: list[Count] = Field(description="counts by rank; empty where seconds are")
    bound: list[float] = Field(description="no order costs less: seconds of changes, or the counts by rank")
    proven: bool
    sequence: list[tuple[str, str]]
    words: str


class StepPath(OrderPath):
    piece: str
    operation: str


class WayAroundView(BaseModel):
    """A way not to call a tool again. Take its changes one after the other."""

    title: str
    calls: int = Field(description="of tools in the load's cycle with it")
    saving: float = Field(description="seconds a piece")
    each: Decimal = Field(description="money a piece")
    changes: list[ReadyChange]


class WaysAroundView(BaseModel):
    ways: list[WayAroundView]
