"""The plan as a value: the decisions, and nothing that can be computed from them.

None stands for "by the rule": the evaluation fills it in, again on every change.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from decimal import Decimal
from typing import Literal

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.features import Hole
from lean_ledger.core.geometry.vectors import SIX, Vec, axis_name

Side = Literal["X-", "X+", "Y-", "Y+", "Z-", "Z+"]

#: Direction that each side of the part looks in.
DIRECTIONS: dict[str, Vec] = {axis_name(d): d for d in SIX}

ZeroPlace = Literal["centre", "left front", "right front", "left back", "right back", "left", "right", "front", "back"]


@dataclass(frozen=True)
class Allowances:
    """Stock over the part on each side, mm."""

    x_minus: float = 2.0
    x_plus: float = 2.0
    y_minus: float = 2.0
    y_plus: float = 2.0
    z_minus: float = 2.0
    z_plus: float = 2.0

    def on(self, side: str) -> float:
        value: float = getattr(self, _FIELD[side])
        return value

    def with_side(self, side: str, value: float) -> Allowances:
        return replace(self, **{_FIELD[side]: value})


_FIELD = {"X-": "x_minus", "X+": "x_plus", "Y-": "y_minus", "Y+": "y_plus", "Z-": "z_minus", "Z+": "z_plus"}


#: What turns: the tool on a mill; the part on a lathe, which may have driven tools besides.
Spindling = Literal["tool", "part", "part and driven tools"]

ZeroOf = Literal["stock", "part", "bore", "axis"]

StockForm = Literal["block", "plate", "rectangular bar", "round bar", "hexagonal bar", "near-net"]
Sizing = Literal["over the part", "next size up", "fixed"]


@dataclass(frozen=True)
class StockChoice:
    """What is bought. Its sizes follow the part, by the plan's allowances, unless they are fixed."""

    form: StockForm = "block"
    along: Literal["X", "Y", "Z"] | None = None  # a bar's length, a plate's thickness; None by the rule
    sizing: Sizing = "over the part"
    fixed: tuple[float, float, float] = (0.0, 0.0, 0.0)  # along X, Y, Z; a round's and a hexagon's size in both
    model: str = ""  # near-net: key of the file that holds it
    shift: Vec = (0.0, 0.0, 0.0)  # near-net: by which its model is moved onto the part


@dataclass(frozen=True)
class Zero:
    """Where a setup's work coordinates count from: on the axis of a `bore`, by its feature, where it is of one; on the
    rotary's axis at the part's free end where it is of that.
    """

    of: ZeroOf = "stock"
    place: ZeroPlace = "centre"
    level: Literal["top", "bottom"] = "top"
    bore: str = ""

    @property
    def words(self) -> str:
        if self.of == "axis":
            return "rotary axis, free end"
        return f"bore {self.bore}, {self.level}" if self.of == "bore" else f"{self.of}, {self.place}, {self.level}"


ZERO = "zero"  # among what is probed

HandKind = Literal["deburr", "inspect", "turn over", "re-clamp"]


@dataclass(frozen=True)
class HandWork:
    """Work of an operator on each piece; `during`: beside the machine while it runs, else the machine stands."""

    id: str
    kind: HandKind
    seconds: Decimal
    during: bool = False


@dataclass(frozen=True)
class SetupDecision:
    id: str
    up: Side
    machine: str
    zero: Zero | None = None
    turn: Literal[0, 90, 180, 270] | None = None  # about up, degrees
    fixture: str | None = None
    grip: float | None = None  # mm of stock that is held
    hours: Decimal | None = None  # to set up
    machine_rate: Decimal | None = None
    load_seconds: Decimal | None = None  # to load and unload a piece
    order: tuple[str, ...] = ()  # operation ids; those not named fall in by the rule
    locked: bool = False  # stays as it is, with its features, when the part is divided again
    on: tuple[str, ...] = ()  # carriers under the fixture, from the machine upwards
    spindle: Spindling = "tool"  # on a lathe the part turns, about `up`
    hand: tuple[HandWork, ...] = ()  # for each piece
    cut_off: float | None = None  # on a lathe: the piece is parted off its bar, with so much left to face, mm
    probes: tuple[str, ...] = ()  # what each cycle feels with a probe: ZERO, or features by their ids
    dialect: str | None = None  # that its program is written in; None for the usual of the machine's kind
    free: Side | None = None  # the end that stands free on a rotary axis; None where the tool comes from `up` only


@dataclass(frozen=True)
class ThreadChoice:
    """All holes of one diameter carry this thread."""

    diameter: float
    thread: str


Strategy = Literal["in steps", "constant engagement", "in a helix", "in rows", "in levels"]
Direction = Literal["climb", "conventional"]


@dataclass(frozen=True)
class OperationEdit:
    """What was set by hand for one operation."""

    operation: str
    tool: str | None = None
    speed: float | None = None  # times the library's vc
    feed: float | None = None  # times the rule's feed per tooth
    n: float | None = None  # rpm
    vf: float | None = None  # mm/min
    ap: float | None = None
    ae: float | None = None
    passes: int | None = None
    allowance: float | None = None
    strategy: Strategy | None = None  # of roughing
    direction: Direction | None = None  # that an end mill goes along its walls in; None climbs

    @property
    def is_empty(self) -> bool:
        return all(getattr(self, f.name) is None for f in fields(self) if f.name != "operation")


@dataclass(frozen=True)
class DepthChoice:
    """How deep an operation goes: mm down from where it begins, or to one end of a feature as the tool comes to it.

    `beyond` is what it goes farther than that end; less than 0 stays short of it.
    """

    operation: str
    depth: float | None = None
    feature: str = ""
    end: Literal["top", "bottom"] = "bottom"
    beyond: float = 0.0

    @property
    def words(self) -> str:
        if self.depth is not None:
            return f"{self.depth:g} deep, by hand"
        beyond = f" and {self.beyond:g} beyond" if self.beyond > 0 else f", {-self.beyond:g} short of it"
        return f"to the {self.end} of {self.feature}{beyond if self.beyond else ''}"


@dataclass(frozen=True)
class LeftOut:
    """A feature that this plan does not make, and who does."""

    feature: str
    reason: LeftTo


LeftTo = Literal["deburring", "made elsewhere", "filled for now"]


@dataclass(frozen=True)
class PlanningBody:
    """Material that only the plan adds, to hold by: the customer's model stays as it is. Lengths mm.

    It stands on a flat side `on`, `u` and `v` off that side's middle, to the right and back as in a setup with
    that side up. A boss is round, `length` its diameter; a lug and a tab are blocks.
    """

    id: str
    kind: Literal["lug", "tab", "boss"]
    on: str
    length: float
    width: float
    height: float
    u: float = 0.0
    v: float = 0.0
    removal: Literal["", "by hand", "elsewhere"] = ""


@dataclass(frozen=True)
class Said:
    """What the planner says of a feature that the model does not: as on a drawing. Empty where nothing is said.

    `thread` goes before that named for all holes of the size; PLAIN says that this one carries none.
    """

    feature: str
    thread: str = ""
    tolerance: str = ""  # H7, ±0.02, +0.05/0
    finish: float | None = None  # Ra, µm
    note: str = ""

    @property
    def is_empty(self) -> bool:
        return not (self.thread or self.tolerance or self.note or self.finish is not None)


PLAIN = "plain"


@dataclass(frozen=True)
class Confirmed:
    """A feature whose decisions were looked at again after a revision touched it."""

    revision: str
    feature: str


@dataclass(frozen=True)
class AcceptedRest:
    """Stock that may stay on a feature, mm: a corner that a round tool leaves, agreed with the customer."""

    feature: str
    amount: float


@dataclass(frozen=True)
class ChainChoice:
    """A feature that is made by a chain of the shop's rules that was chosen by hand."""

    feature: str
    rule: str


@dataclass(frozen=True)
class MovedFeature:
    feature: str
    setup: str


@dataclass(frozen=True)
class RateEdits:
    """Money and shares that this plan sets otherwise than the shop's rates; see library Rates."""

    labour_rate: Decimal | None = None
    attendance: Decimal | None = None
    programming_hours: Decimal | None = None
    programming_rate: Decimal | None = None
    inspection_seconds: Decimal | None = None
    inspection_rate: Decimal | None = None
    fixtures: Decimal | None = None
    tooling_per_piece: Decimal | None = None
    price_per_kg: Decimal | None = None
    scrap: Decimal | None = None
    overhead: Decimal | None = None
    margin: Decimal | None = None
    outside_per_piece: Decimal | None = None
    outside_lot: Decimal | None = None
    fixture_life: Decimal | None = None  # pieces over which fixtures are spread; None: this batch pays them whole
    kerf: Decimal | None = None
    bar_length: Decimal | None = None
    remnant: Decimal | None = None
    cut_charge: Decimal | None = None


@dataclass(frozen=True)
class PairByHand:
    """Of a revision: the old feature (by its id in the plan) and the new one (by its id in the new model).

    Either may be None: the old one is gone, the new one is new.
    """

    revision: str
    old: str | None
    new: str | None


@dataclass(frozen=True)
class AttachedProgram:
    """A program from elsewhere that a setup, or one operation of it, is timed by."""

    setup: str
    operation: str  # empty: the whole setup
    file: str
    key: str


@dataclass(frozen=True)
class Plan:
    """One way of making a part; the whole of it."""

    material: str
    quantities: tuple[int, ...]
    allowances: Allowances
    setups: tuple[SetupDecision, ...]
    threads: tuple[ThreadChoice, ...] = ()
    edits: tuple[OperationEdit, ...] = ()
    left_out: tuple[LeftOut, ...] = ()
    moved: tuple[MovedFeature, ...] = ()
    rates: RateEdits = RateEdits()
    buy: Literal["blank", "bar"] = "blank"
    revision: str = "A"  # of the part that this plan makes
    said: tuple[Said, ...] = ()
    bodies: tuple[PlanningBody, ...] = ()
    pairs: tuple[PairByHand, ...] = ()
    confirmed: tuple[Confirmed, ...] = ()
    accepted: tuple[AcceptedRest, ...] = ()
    together: tuple[tuple[str, ...], ...] = ()  # features to be made in one setup
    before: tuple[tuple[str, str], ...] = ()  # the first in no later setup than the second
    stock: StockChoice = StockChoice()
    parked: tuple[str, ...] = ()  # features that no setup makes yet: the part is being divided by hand
    attached: tuple[AttachedProgram, ...] = ()
    chains: tuple[ChainChoice, ...] = ()
    depths: tuple[DepthChoice, ...] = ()
    issued_by: Literal["setup", "machine"] = "setup"  # whether each setup or each machine has a program file

    @property
    def outline_axis(self) -> Vec:
        """The axis around which the outline is cut: the first setup's, in the direction in which the part counts."""
        first = self.setups[0]
        return DIRECTIONS[f"{(first.free or first.up)[0]}+"]

    def setup(self, id: str) -> SetupDecision:
        for setup in self.setups:
            if setup.id == id:
                return setup
        raise PlanError("no-such-setup", f"there is no setup {id}; the plan has {', '.join(s.id for s in self.setups)}")

    def with_setup(self, changed: SetupDecision) -> Plan:
        return replace(self, setups=tuple(changed if s.id == changed.id else s for s in self.setups))

    def attached_to(self, setup: str, operation: str = "") -> AttachedProgram | None:
        return next((a for a in self.attached if (a.setup, a.operation) == (setup, operation)), None)

    def thread_of(self, diameter: float) -> str | None:
        """The thread named for all holes of a size."""
        return next((t.thread for t in self.threads if abs(t.diameter - diameter) < 1e-3), None)

    def thread_in(self, hole: Hole) -> str | None:
        """The thread that one hole carries: its own, else that of its size."""
        own = self.said_of(hole.id).thread
        if own:
            return None if own == PLAIN else own
        return self.thread_of(hole.diameter)

    def said_of(self, feature: str) -> Said:
        return next((s for s in self.said if s.feature == feature), Said(feature))

    def chain_of(self, feature: str) -> str | None:
        """The rule that was chosen by hand for how a feature is made."""
        return next((c.rule for c in self.chains if c.feature == feature), None)

    def depth_of(self, operation: str) -> DepthChoice | None:
        return next((d for d in self.depths if d.operation == operation), None)

    def edit_of(self, operation: str) -> OperationEdit:
        return next((e for e in self.edits if e.operation == operation), OperationEdit(operation))
