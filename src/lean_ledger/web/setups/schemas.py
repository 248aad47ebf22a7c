"""Setups, their operations and how they are held, as the API shows them."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from lean_ledger.core.plan import Direction, Strategy, ValueName, ZeroOf, ZeroPlace
from lean_ledger.web.shared.wire import Money, SecondsView, Vec

Line2 = list[tuple[float, float]]


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

    strategy: Strategy
    seconds: float


class DepthView(BaseModel):
    """Down from where the operation begins, mm; `words` say what was decided, empty where the rule stands."""

    value: float
    rule: float
    words: str
    beyond: float = Field(description="a face that was pointed at")


class LeftOutView(BaseModel):
    """An operation that is not made, since it would cut the part or what holds it: another tool may do."""

    id: str
    name: str
    features: list[str]
    tool: ToolView
    edited: list[ValueName]
    another: str = Field(description="id of one more tool of the kind; empty where there is none to have")
    tool_kinds: list[str]


class EntryView(BaseModel):
    id: str
    name: str
    carriage: str = Field(description="that makes it, where the machine has several")
    called: int = Field(description="what the machine calls its tool by; on a lathe the station in the turret")
    kind: str
    features: list[str]
    tool: ToolView
    n: float
    vf: float
    vc: float
    constant_vc: float | None = Field(description="m/min that the spindle keeps: n grows as the diameter falls")
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
    edited: list[ValueName]
    settable: list[ValueName] = Field(description="values that can be set by hand")
    another: str = Field(description="id of one more tool of the kind; empty where there is none to have")
    tool_kinds: list[str]
    seconds: list[SecondsView]
    total: float
    changes_tool: bool
    after: list[AfterView]
    strategy: Strategy | None = Field(description="of roughing: in steps, at constant engagement or in a helix")
    strategies: list[StrategyView]
    ways: list[Strategy] = Field(description="that there are for such an operation, drawn or not")
    measured: DepthView | None = Field(description="of those whose depth can be set by hand")
    direction: Direction | None = Field(description="along a wall: climb or conventional")
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

    of: ZeroOf
    place: ZeroPlace
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

    of: ZeroOf
    place: ZeroPlace
    level: Literal["top", "bottom"]
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


class EngravingView(BaseModel):
    """Letters, or drawn lines, on a flat side; mm and degrees, from the middle of the face."""

    id: str
    face: str
    words: str
    text: str
    height: float
    depth: float
    x: float
    y: float
    turn: float
    lines: list[Line2] = Field(description="as they lie in the setup, from the middle of the face")
    rings: list[Line2] = Field(description="of the face and of what is cut out of it, from its middle")


class HoldView(BaseModel):
    """What holds a setup, in its own axes: x to the right and y back in the view from above, z away from its mount."""

    fixture: str
    name: str
    kind: str
    decided: str | None
    gripped_by: str  # jaws, clamps, the nose of a collet
    carriers: list[str]
    needed: str  # carriers that the machine has to have, in words, where none are decided
    stacks: list[StackView]  # that find a mount on the machine
    free: str | None  # the end that stands free on a rotary axis
    spins: bool  # on a lathe: the part turns
    horizontal: bool  # drawn lying: in a lathe, or with one end free on a rotary
    ways: list[WayView]
    grip: float  # 0 where nothing is gripped along z
    grip_decided: float | None
    grips: list[float]
    force: float  # kN that the jaws press with; 0 where nothing can be set
    force_decided: float | None
    spacers: list[str]  # slots
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
    pieces: int = Field(description="of a cycle")
    load_id: str
    load_hours: Money = Field(description="to set up the whole load")
    whole_load: float = Field(description="seconds to load and unload all pieces of a cycle, of all its setups")
    lies_with: list[str] = Field(description="setups in the same load")
    leads: bool = Field(description="the first of its load")
    in_cycle: int = Field(description="calls of a cycle, of all setups in the load")
    programs: int = Field(description="of its load, one for each carriage that does something")
    seconds: list[SecondsView] = Field(description="of each piece")
    cycle: float = Field(description="each piece's share, s")
    load_cycle: float = Field(description="all pieces together, s")
    load: float = Field(description="s of a cycle that loading takes")
    setup_hours: Money
    hours_decided: bool
    measured: list[FigureView] = Field(description="what was measured on the floor in its seconds and hours")
    machine_rate: Money
    rate_decided: bool
    standing: float = Field(description="each piece's share of what the machine stands, s")
    hand: list[HandWorkView]
    told: list[str] = Field(description="lines of the setup sheet beside holding and touching off")
    engravings: list[EngravingView] = Field(description="on sides that this setup makes")
    engravable: list[str] = Field(description="the flat sides that it makes")
    probes: list[ProbeView] = Field(description="what a probe can feel in this setup; none on a lathe")
    cut_off: float | None = Field(description="mm left to face where the piece is cut off its bar")
    can_cut_off: bool
    load_decided: bool
    calls: int
    grouped_calls: int
    grouping_saves: float
    order_decided: bool
    entries: list[EntryView]
    left_out: list[LeftOutView]
    tools: list[ToolLineView]
    in_machine: list[str] = Field(description="ids of the tools that stand in it, whatever job comes")
    end_boxes: list[BoxView]
    top_boxes: list[BoxView]
