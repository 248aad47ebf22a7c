"""The setup sheet as data: what the setter mounts, where the zero is, which tools, what runs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from lean_ledger.core.geometry.vectors import DIRECTION_NAMES
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.offsets import WorkOffset, offsets_of, touched_off, words_of_setups
from lean_ledger.core.loads.joined import blank_size
from lean_ledger.core.loads.lanes import taken_over_in
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.one_pass import once_words
from lean_ledger.core.operations.in_blank import InBlank
from lean_ledger.core.papers.load_drawing import LoadDrawing, SheetPiece, load_drawing, sheet_pieces
from lean_ledger.core.papers.projection import View, view_of
from lean_ledger.core.papers.sheet_drawing import SheetView, sheet_views
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import HandWork
from lean_ledger.core.program.stations import numbers_by_operation, tool_numbers
from lean_ledger.core.setups.zero import zero_point
from lean_ledger.core.shop.magazine import where


@dataclass(frozen=True)
class ToolLine:
    number: int
    description: str
    stick_out: float
    minutes: float  # in cut, per piece
    to_set: bool  # it does not stand in the machine yet

    @property
    def where(self) -> str:
        return where(to_set=self.to_set)


@dataclass(frozen=True)
class OperationLine:
    number: int  # 10, 20, … in the order of the setup
    name: str
    tool: int
    tool_description: str
    n: float
    vf: float
    ap: float
    passes: int
    cutting: float
    other: float  # rapids, tool change, spindle
    total: float


@dataclass(frozen=True)
class SheetSetup:
    id: str
    position: int
    of: int
    up: str
    machine: str
    offset: str
    stock: tuple[float, float, float]
    fixture: tuple[tuple[str, str], ...]
    zero: str
    touch_off: tuple[str, ...]
    by_hand: tuple[str, ...]
    tools: tuple[ToolLine, ...]
    operations: tuple[OperationLine, ...]
    cycle: float
    load: float
    setup_hours: float
    views: tuple[SheetView, SheetView]
    iso: View
    pieces: tuple[SheetPiece, ...] = ()
    load_drawing: LoadDrawing | None = None


@dataclass(frozen=True)
class SetupSheet:
    number: str
    name: str
    revision: str
    customer: str
    material: str
    quantity: int
    plan_version: int
    date: date
    findings: int
    setups: tuple[SheetSetup, ...]
    cycle: float
    per_piece: float
    setup_hours: float
    superseded_by: str = ""  # the revision that was taken over since
    address: str = ""  # of the pages at the machines

    def page_of(self, setup: str) -> str:
        """The address of a setup's page at its machine, which knows what version the sheet is of."""
        return f"{self.address}/{setup}?v={self.plan_version}" if self.address else ""


@dataclass(frozen=True)
class JobWords:
    """What the sheet says of the job beside the plan."""

    number: str
    name: str
    revision: str
    customer: str
    superseded_by: str = ""
    address: str = ""  # of the plan's pages at the machines: a setup's is this and its id; none where empty


def setup_sheet(job: JobWords, ledger: Ledger, part: Part, plan_version: int, on: date) -> SetupSheet:
    every = offsets_of(ledger, part)
    words = words_of_setups(every)
    setups = tuple(
        _setup(ledger, part, s, i, words[s.decision.id], [o for o in every if o.setup == s.decision.id])
        for i, s in enumerate(ledger.setups)
    )
    return SetupSheet(
        number=job.number,
        name=job.name,
        revision=job.revision,
        customer=job.customer,
        material=ledger.material.name,
        quantity=ledger.plan.quantities[0],
        plan_version=plan_version,
        date=on,
        findings=len(ledger.findings),
        setups=setups,
        cycle=ledger.cycle,
        per_piece=ledger.per_piece,
        setup_hours=float(ledger.setup_hours),
        superseded_by=job.superseded_by,
        address=job.address,
    )


def fixture_words(s: LoadLedger) -> tuple[tuple[str, str], ...]:
    """What a setup is held in and what that stands on, as (what, how)."""
    many, how = s.where.fixtures, s.where.load.arrangement
    others = [id for id in s.load.setups if id != s.decision.id]
    more = [("how many", f"{many} of them, one beside the other")] if many > 1 else []
    more += [("in one load", f"with {', '.join(others)}, {how.in_turn} in turn")] if others else []
    if s.where.handed_over:
        more = [_taken_over(s)]
    held = s.built.hold.words
    if how.on_bar > 1:  # the bar's stop stands for all pieces of an advance
        out = s.built.hold.stock.max[2] - s.built.hold.jaw_top + s.placed[0].out
        held = tuple((what, f"{out:.1f}" if what == "stands out" else words) for what, words in held)
        more.append(("an advance", f"{how.on_bar} pieces, cut off one after the other"))
    if s.built.blank is not None:
        more.append((f"in one {s.built.blank.word}", _sawn(s, s.built.blank)))
    return (*(("on", one.carrier.name) for one in s.built.stands.seat.carriers), *held, *more)


def _sawn(s: LoadLedger, blank: InBlank) -> str:
    how, (x, y) = s.where.load.arrangement, blank_size(s.built, s.where.load.arrangement)
    size = f"{how.joined} × {how.joined_rows}, {x:.1f} × {y:.1f}" if blank.plate else f"{x:.1f} long"
    return f"{how.in_one} pieces, {size}: saw them apart afterwards, {blank.kerf:g} between two"


def _taken_over(s: LoadLedger) -> tuple[str, str]:
    """Of a load whose pieces go on into the counter spindle: which spindle this one is in, and how it gets there."""
    one, (first, second) = taken_over_in(s.where), s.load.setups
    comes_to = f", its mount comes to Z {one.at:.1f}" if one is not None else ""
    if s.decision.id == first:
        pulls = f"; then it pulls the bar on by {one.by:.1f}" if one is not None and one.by else ""
        return "main spindle", f"for {second} the counter spindle takes it over{comes_to}{pulls}"
    return "counter spindle", f"takes it over from {first}{comes_to}; zeros count out of it"


def _setup(
    ledger: Ledger, part: Part, s: LoadLedger, index: int, offset: str, offsets: Sequence[WorkOffset]
) -> SheetSetup:  # fmt: skip
    hold = s.built.hold
    zero, place = ledger.zero_of(part, index), ledger.zero_place(part, index)
    size = hold.stock.size
    if s.built.blank is not None:
        size = (*blank_size(s.built, s.where.load.arrangement), size[2])
    return SheetSetup(
        id=s.decision.id,
        position=index + 1,
        of=len(ledger.setups),
        up=_sides(s),
        machine=s.machine.name,
        offset=offset,
        stock=(round(size[0], 3), round(size[1], 3), round(size[2], 3)),
        fixture=fixture_words(s),
        zero=zero.words,
        touch_off=touched_off(s, zero, place, offsets),
        by_hand=by_hand_words(s),
        tools=tool_lines(s),
        operations=_operations(s),
        cycle=s.cycle,
        load=s.load_seconds,
        setup_hours=float(s.setup_hours),
        views=sheet_views(s, part, hold.frame.point(s.built.home.frame.in_part(zero_point(zero, place)))),
        iso=view_of(part, hold.frame, "iso"),
        pieces=sheet_pieces(s, offsets),
        load_drawing=load_drawing(s, offsets),
    )


def _sides(s: LoadLedger) -> str:
    """The side that is up; where the part is indexed each side that comes up and what the rotary stands at."""
    ways = sorted({op.way for op in s.built.operations}, key=lambda way: (way.tilt, way.angle))
    if len(ways) < 2:
        return s.decision.up
    told = []
    for way in ways:
        tilt = f"{way.tilt:g}°/" if way.tilt else ""
        told.append(f"{DIRECTION_NAMES.get(way.direction, 'slanted')} at {tilt}{way.angle:g}°")
    return ", ".join(told)


def by_hand_words(s: LoadLedger) -> tuple[str, ...]:
    """What a setup's operator is told beside holding it and touching off."""
    return (*(hand_words(work) for work in s.load.hand), *order_words(s))


def order_words(s: LoadLedger) -> tuple[str, ...]:
    """What was decided against the rules, what does not run for now, and what runs once over several pieces."""
    names = {op.id: op.name for op in s.built.operations}
    known = [one for one in s.load.overruled if one.first in names and one.then in names]
    overruled = (f"Order: “{names[one.then]}” need not wait for “{names[one.first]}”: {one.note}" for one in known)
    out = (f"Taken out for now: “{names[id]}”" for id in s.load.out if id in names)
    sections = (
        f"Section “{one.name}” begins with “{names[one.operation]}”"
        + (f" on piece {one.piece}" if len(s.where.placed) > 1 else "")
        for one in s.load.sections if one.operation in names and one.operation not in s.load.out
    )  # fmt: skip
    once = [op for op in s.built.operations for one in s.where.in_one if one.operation == op.id]
    in_one = (f"{once_words(s.load, op).capitalize()}: “{op.name}”" for op in once)
    return (*overruled, *out, *sections, *in_one)


def hand_words(work: HandWork) -> str:
    where = "while the machine runs" if work.during else "the machine stands"
    return f"By hand, each piece: {work.kind}, {work.seconds:g} s, {where}"


def tool_lines(s: LoadLedger) -> tuple[ToolLine, ...]:
    """The tools of a setup by what the machine calls them, each with its minutes in cut."""
    if not s.machine.works_at_once:
        return _tools_of(s, {tool.id for tool in s.built.to_set}, "")
    found: list[ToolLine] = []
    for own in s.by_carriage:
        used = {e.operation.tool.id for e in own.rows}
        found += _tools_of(own, used - set(own.in_machine), f", {own.timeline.lanes[0].carriage}")
    return tuple(found)


def _tools_of(s: LoadLedger, to_set: set[str], on: str) -> tuple[ToolLine, ...]:
    numbers = tool_numbers(s)
    minutes: dict[int, float] = {}
    tools = {}
    for e in s.rows:
        tool = e.operation.tool
        number = numbers[tool.id]
        tools[number] = tool
        minutes[number] = minutes.get(number, 0.0) + e.operation.cut_each / 60
    return tuple(
        ToolLine(n, f"{tools[n].description}{on}", tools[n].reach, minutes[n], tools[n].id in to_set)
        for n in sorted(tools)
    )


def _operations(s: LoadLedger) -> tuple[OperationLine, ...]:
    lines = []
    numbers = numbers_by_operation(s)
    several = len(s.by_carriage) > 1
    for e in s.rows:
        op = e.operation
        lines.append(
            OperationLine(
                number=10 * (e.position + 1),
                name=op.name,
                tool=numbers[op.id],
                tool_description=f"{op.tool.description}, {e.carriage}" if several else op.tool.description,
                n=op.cutting.n,
                vf=op.cutting.vf,
                ap=op.cutting.ap,
                passes=op.cutting.passes,
                cutting=e.seconds["cutting"],
                other=e.total - e.seconds["cutting"],
                total=e.total,
            )
        )
    return tuple(lines)


def clock(seconds: float) -> str:
    """Minutes and seconds with a tenth: '5:31.0'.

    >>> clock(331.04), clock(59.96), clock(3599.99)
    ('5:31.0', '1:00.0', '60:00.0')
    """
    tenths = round(seconds * 10)
    return f"{tenths // 600}:{tenths % 600 // 10:02d}.{tenths % 10}"


def hours(value: float) -> str:
    """Hours and minutes: '1:50'.

    >>> hours(1.25)
    '1:15'
    """
    minutes = round(value * 60)
    return f"{minutes // 60}:{minutes % 60:02d}"
