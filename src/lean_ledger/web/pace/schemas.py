"""What the API says of speeds, loads and the life of tools. Seconds, minutes, N, N·m, kW, mm."""

from __future__ import annotations

from decimal import Decimal

from pydantic import BaseModel, Field

from lean_ledger.web.setups.schemas import FigureView, ToolView
from lean_ledger.web.shared.wire import ReadyChange, ReadyEdit


class OperationPath(BaseModel):
    plan_id: int = Field(ge=1, le=2**31)
    operation: str


class FiguresView(BaseModel):
    """Where an operation's seconds come from: each number with its formula."""

    figures: list[FigureView]


class PaceQuery(BaseModel):
    """Shares of the usual speed and feed per tooth."""

    speed: float = Field(gt=0, le=10)
    feed: float = Field(gt=0, le=10)


class LoadView(BaseModel):
    force: float
    torque: float
    torque_limit: float
    power: float
    power_limit: float
    bend: float
    bend_limit: float
    nearest: str = Field(description="the limit that it comes nearest to: power, torque or bending")
    share: float = Field(description="of that limit")


class OutcomeView(BaseModel):
    n: float
    vf: float
    seconds: float
    per_piece: float
    each: Decimal
    life: float
    changes: int
    load: LoadView


class PaceView(BaseModel):
    operation: str
    speed: float
    feed: float
    speed_most: float
    speed_stop: str
    feed_most: float
    feed_stop: str
    before: OutcomeView
    after: OutcomeView
    quantity: int
    change: ReadyChange
    alike: int = Field(description="other operations of its sort")


class CheapestView(BaseModel):
    """Where an entry costs least: seconds and money a piece gains there."""

    speed: float
    feed: float
    saving: float
    each: Decimal
    change: ReadyChange


class WorthView(BaseModel):
    title: str
    setup: str
    operation: str
    seconds: float
    saving: float
    each: Decimal
    stop: str
    change: ReadyChange
    life_before: float | None
    life_after: float | None
    cheapest: CheapestView | None


class WorthsView(BaseModel):
    entries: list[WorthView]


class LastUsedEntry(BaseModel):
    """What another plan has for such an operation: in words, and as an edit to be taken."""

    operation: str
    name: str
    words: str
    source: str = Field(description="number of the job that it comes from")
    edit: ReadyEdit


class LastUsedView(BaseModel):
    entries: list[LastUsedEntry]


class ToolWorkView(BaseModel):
    """An operation as its tool feels it; `seconds` in cut."""

    operation: str
    setup: str
    name: str
    seconds: float
    speed: float
    feed: float
    life: float
    load: LoadView


class BatchView(BaseModel):
    quantity: int
    used_up: int
    changes: int


class ToolUseView(BaseModel):
    where: str = Field(description="in the machine, or to set up")
    tool: ToolView
    minutes: float
    life: float
    pieces: float | None = Field(description="that one tool makes; null where it is not worn")
    cost: float
    price: Decimal
    work: list[ToolWorkView]
    batches: list[BatchView]


class ToolUsesView(BaseModel):
    tools: list[ToolUseView]
    missing: list[str] = Field(description="tools that operations ask for and the shop does not have, in words")
