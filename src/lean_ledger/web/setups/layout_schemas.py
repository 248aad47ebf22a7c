"""Where the pieces of a load stand, as the API shows them. Lengths mm, in the machine's axes."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from lean_ledger.core.plan import Along, By, Policy, Turned, Walk
from lean_ledger.web.shared.wire import Money, Vec

Pair = tuple[float, float]


class PieceView(BaseModel):
    id: str
    setup: str
    group: str
    column: int
    row: int
    side: float | None = Field(description="degrees of the rotary")
    in_bar: int = Field(description="its number among those that stay in one bar; 0 where it stands by itself")
    shift: Pair = Field(description="from where one piece alone stands")
    moved: Pair = Field(description="by hand")
    turn: Turned = Field(description="degrees that it is turned by with what holds it, counter-clockwise from above")
    offset: str = Field(description="its word; empty where the control has none left")
    named: bool = Field(description="by hand")
    local: Vec = Field(description="from the word's own zero, where pieces share it")
    zero: Vec
    skipped: bool
    trouble: str = Field(description="what is wrong where it stands; empty where nothing is")


class LoadSolidView(BaseModel):
    """A block of one piece that stands alone: `low` and `high` corners."""

    what: str
    low: Vec
    high: Vec
    shared: bool


class InBarView(BaseModel):
    """Pieces that stay in one bar or plate; `solids`: what stands with it, where its first piece stands alone. mm."""

    pieces: int = Field(description="side by side along the jaws")
    rows: int = Field(description="of them, one behind the other: more than one in a plate")
    together: int = Field(description="pieces of one bar or plate")
    word: Literal["bar", "plate"]
    length: float = Field(description="of the bar; 0 where each piece stands by itself, as width, kerf and gap are")
    width: float
    kerf: float
    gap: float = Field(description="the least between two parts")
    vises: int = Field(description="that hold a bar")
    solids: list[LoadSolidView]


class LeastView(BaseModel):
    """`most` along the axis, and what keeps one more out; `because`: what asks for the pitch."""

    pitch: float
    because: str
    operation: str | None
    most: int
    why: str


class ScopeView(BaseModel):
    """Where an operation runs in a load, and what it would save to run it once over each row."""

    operation: str
    setup: str
    name: str
    scope: Literal["each", "first", "row"]
    probes: bool = Field(description="it feels the piece: it can run on the first one alone")
    in_row: float | None = Field(description="seconds a cycle that one run over each row changes; null where it cannot")
    why: str = Field(description="why it cannot run once over a row, or through an advance")
    has_to: bool = Field(description="in one bar it goes on over the next piece")
    goes_round: bool = Field(description="once means round all pieces of a bar or plate, not over a row")


class ScopesView(BaseModel):
    load: str
    scopes: list[ScopeView]


class LoadSetupView(BaseModel):
    """What stands with each piece of a setup that is turned so, as if it were alone."""

    setup: str
    turn: Turned
    solids: list[LoadSolidView]
    drawn: Pair | None = Field(
        description="of the view from above, to where one piece alone stands; null where it cannot be laid there"
    )


class JoinView(BaseModel):
    """A setup that could lie in the same load, and what could hold them in turn."""

    setup: str
    along: list[Along]


class BarView(BaseModel):
    """Pieces of an advance of the bar, one behind the other; lengths along the spindle."""

    per_advance: int
    most: int = Field(description="that go on an advance")
    why: str = Field(description="what keeps one more out")
    thick: float
    length: float = Field(description="of a piece")
    front: float = Field(description="that the first is faced by")
    back: float = Field(description="left on each behind")
    cut_off: float = Field(description="the blade's width")
    advance: float
    reach: float = Field(description="Z of the end of the last cut-off, from the first piece's front")
    fronts: list[float] = Field(description="Z of each piece's front")
    stands_out: float = Field(description="of the collet, before the first cut")
    behind: float = Field(description="from the last cut-off to the collet")
    bar: float
    remnant: float
    pieces: int = Field(description="of a bar")
    bars: list[int] = Field(description="that each quantity of the plan takes")
    feed: float = Field(description="seconds that an advance takes")
    gripped: float | None = Field(description="of the piece's front by a counter spindle, where one takes it over")
    free: float | None = Field(description="from there to the blade")


class CyclesView(BaseModel):
    """So many cycles one after the other, each with these setups."""

    setups: list[str]
    count: int


class RunView(BaseModel):
    quantity: int
    loads: int
    cycles: list[CyclesView]
    seconds: float = Field(description="on the machine, loading left out")
    last: int = Field(description="pieces that are left for the last load")


class LayoutView(BaseModel):
    load: str
    name: str = Field(description="its setups")
    machine: str
    finished: int = Field(description="pieces that a cycle finishes: as many as each setup has")
    each: float = Field(description="seconds of a finished piece, with its loading")
    runs: list[RunView] = Field(description="by quantity of the plan")
    filling: float = Field(description="seconds a batch of filling and emptying cycles, beyond the whole ones")
    setups: list[LoadSetupView]
    turned: list[LoadSetupView] = Field(description="the setups as they stand at pieces that are turned")
    not_turned: str = Field(description="why no piece can be turned by itself; empty where they can")
    in_turn: Along = Field(description="what holds the setups in turn, where there are several")
    turns: list[Along] = Field(description="what could hold them in turn")
    can_join: list[JoinView]
    fit: tuple[int, int] = Field(description="columns and rows of as many as go in")
    columns: int
    rows: int
    sides: list[float]
    faces: list[float] = Field(description="degrees at which sides come up; empty where nothing has sides")
    stations: int
    most_stations: int
    joined: InBarView | None = Field(description="None where pieces do not stay in one bar")
    gap: Pair
    gap_decided: tuple[bool, bool]
    pitch: Pair
    least: tuple[LeastView, LeastView]
    by: By
    policy: Policy
    walk: Walk
    first: str | None
    reserved: list[str]
    words: list[str] = Field(description="that the control has")
    travel: tuple[Pair, Pair]
    pieces: list[PieceView]
    spins: bool = Field(description="the work turns: seen along the spindle, where travels say nothing")
    can_have_sides: bool
    beside: bool = Field(description="loaded beside the running cycle")
    bar: BarView | None = Field(description="where the load is cut off a bar")
    several: str = Field(description="why no more than one can lie there; empty where they can")


class CountView(BaseModel):
    columns: int
    rows: int
    pieces: int
    cutting: float
    between: float
    loading: float
    seconds: float = Field(description="of each piece, with its loading")
    each: list[Money] = Field(description="by quantity of the plan")
    stopped: str


class CountsView(BaseModel):
    load: str
    quantities: list[int]
    points: list[CountView]
    why: tuple[str, str]
    knee: int | None


class LayoutsView(BaseModel):
    loads: list[LayoutView]
