"""A program tried in the stock: ours or one from elsewhere, tool after tool, against stock, fixture and part."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import hypot

from shapely.geometry import LineString, Point

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.control.foreign import ANY_CONTROL
from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.setting import Setting
from lean_ledger.core.control.steps import RunStep, StepKind
from lean_ledger.core.control.watch import Trouble, watched
from lean_ledger.core.followed.course import around_of, course_of, high_over
from lean_ledger.core.followed.cuts import Course, Cut
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.followed.turning_tools import turned_away
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.offsets import WorkOffset, offsets_of
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.turned import turned_way
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.agree import counter_codes, in_front_of
from lean_ledger.core.program.asked import SetupProgram
from lean_ledger.core.program.checked import Checked
from lean_ledger.core.program.proof import as_fed, step_stroke
from lean_ledger.core.program.stations import tool_numbers
from lean_ledger.core.setups.ways import Way
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.dialects import dialect_of
from lean_ledger.library.types import Library, Tool, ToolKind

MOVES = (StepKind.CUT, StepKind.RAPID)
SAME = 0.01  # degrees


@dataclass(frozen=True)
class Use:
    """A tool from where it comes in to where it goes; `line` is the program's that first moves it."""

    cut: str
    number: int  # that the machine calls it by
    tool: Tool
    line: int
    seconds: float
    lines: tuple[int, ...] = ()  # of each of its moves
    entered: int = 0  # calls of subprograms until its first cut
    path: str = ""  # the carriage whose program it is, where the machine has several


@dataclass(frozen=True)
class Trial:
    """What is to be followed: the setups before, then this program; and what the machine itself found."""

    setup: str
    course: Course
    before: int  # cuts of the setups before
    uses: tuple[Use, ...]
    troubles: tuple[Trouble, ...]
    seconds: float


@dataclass(frozen=True)
class Met:
    """Something that a program runs into: `what` is stock, fixture or part, `how` a rapid, a holder or the cut."""

    line: int
    tool: int
    how: str
    what: str
    amount: float  # mm
    at: Vec
    path: str = ""  # as of a use


@dataclass(frozen=True)
class TrialResult:
    """Volumes mm³: what each use took off, and what the plan's own operations of the setup do."""

    removed: tuple[float, ...]
    planned: float
    met: tuple[Met, ...]


def trial_of(
    part: Part, ledger: Ledger, library: Library, setup: str, text: str, own: SetupProgram | None = None
) -> Trial:  # fmt: skip
    """`own`: the plan's program that the text is of; then only what it does at the setup's first piece is followed.

    Raises ProgramError for a program that the machine cannot read, PlanError where a tool, an offset or an angle
    stands in it that the plan does not know.
    """
    there = ledger.setup(setup)
    if not there.rows:
        raise PlanError("no-trial", "the setup has no operation: there is no zero to count from", setup)
    every = [o for o in offsets_of(ledger, part) if o.setup in there.load.setups]
    offsets = tuple(o for o in every if o.setup == setup)
    tools = _tools(there, library)
    setting = _setting(there, every, tools)
    run = run_program(text, there.machine, setting)
    troubles = watched(run, there.machine, setting, frozenset(tools))
    whole = course_of(part, ledger)
    first = next(i for i, cut in enumerate(whole.cuts) if cut.operation == there.rows[0].operation.id)
    steps = run.steps if own is None else _at_first(run.steps, ledger.load_of(setup), there, own)
    uses, cuts = _uses(steps, Floor(part, there, offsets, tools, setting, _beside(every, setup)))
    return Trial(setup, replace(whole, cuts=(*whole.cuts[:first], *cuts)), first, uses, troubles, run.total)


def trial_of_paths(part: Part, ledger: Ledger, setup: str, checked: Sequence[Checked]) -> Trial:
    """The plan's own programs of all carriages of a setup's load, as its machine ran them beside one another: what they
    do at the setup's first piece, tool after tool as they come to it; of two at once the one that began first.
    """
    there = ledger.setup(setup)
    every = [o for o in offsets_of(ledger, part) if o.setup in there.load.setups]
    offsets, beside = tuple(o for o in every if o.setup == setup), _beside(every, setup)
    found: list[tuple[tuple[int, float], Use, Cut]] = []
    for one in checked:
        lane, path = one.setup.timeline.lanes[0], one.program.carriage
        numbers = tool_numbers(one.setup)
        tools = {numbers[call.operation.tool.id]: call.operation.tool for call in lane.calls}
        floor = Floor(part, there, offsets, tools, one.setting, beside)
        for use, cut in zip(*_uses(_at_first(one.run.steps, one.setup, there, one.program), floor), strict=True):
            # a drum brings its pieces from position to position
            k = max(use.entered - 1, 0)
            when = one.setup.machine.carriages[0].position, lane.beats[k].begin if lane.beats else lane.starts[k]
            id = f"{path}, {use.cut}" if path else use.cut
            found.append((when, replace(use, cut=id, path=path), replace(cut, operation=id)))
    found.sort(key=lambda one: one[0])
    whole = course_of(part, ledger)
    first = next(i for i, cut in enumerate(whole.cuts) if cut.operation == there.rows[0].operation.id)
    troubles = [replace(t, title=f"{one.program.carriage}: {t.title}" if one.program.carriage else t.title)
                for one in checked for t in one.troubles]  # fmt: skip
    return Trial(
        setup, replace(whole, cuts=(*whole.cuts[:first], *(cut for _, _, cut in found))), first,
        tuple(use for _, use, _ in found), tuple(troubles), max(one.run.total for one in checked),
    )  # fmt: skip


@dataclass(frozen=True)
class Floor:
    """What a program is run with: the setup as it stands, its zeros, and the tools by what the machine calls them."""

    part: Part
    setup: LoadLedger
    offsets: tuple[WorkOffset, ...]
    tools: Mapping[int, Tool]
    setting: Setting
    beside: frozenset[str] = frozenset()  # zeros of other setups in the same load, whose pieces are none of this one

    @property
    def turns(self) -> bool:
        return self.setup.machine.turns_work


def _at_first(
    steps: Sequence[RunStep], load: LoadLedger, there: LoadLedger, program: SetupProgram
) -> Sequence[RunStep]:
    """What a load's own program does at the first piece of a setup, with the ways to it: the followed stock is one
    piece's.
    """
    if len(load.where.placed) == 1:
        return steps
    steps = as_fed(steps, program, load)
    places, first = [call.place for call in load.timeline.calls], there.placed[0].place.id

    def at(step: RunStep) -> str:
        k = step.entered - 1 if step.sub not in (0, program.numbers.main) else step.entered
        return places[k] if 0 <= k < len(places) else ""

    return [step for step in steps if at(step) == first]


def _beside(offsets: Sequence[WorkOffset], setup: str) -> frozenset[str]:
    own = {o.word for o in offsets if o.setup == setup}
    return frozenset(o.word for o in offsets if o.setup != setup) - own


def _tools(there: LoadLedger, library: Library) -> dict[int, Tool]:
    """In a magazine any tool of the shop by its number; in a turret what stands at each station."""
    own = {e.operation.tool.id: e.operation.tool for e in there.rows}
    called = {number: own[id] for id, number in tool_numbers(there).items() if id in own}
    if not there.machine.turns_work:
        return {t.number: t for t in library.tools} | called
    standing = {n: library.tool(id) for n, id in enumerate(there.in_machine, start=1)}
    return {n: tool for n, tool in standing.items() if tool is not None} | called


def _setting(there: LoadLedger, offsets: Sequence[WorkOffset], tools: Mapping[int, Tool]) -> Setting:
    words = {o.word: o.at for o in offsets}
    stands = there.built.stands
    if there.machine.turns_work:
        home = there.rows[0].operation.frame
        start = stands.on_lathe(home, stands.lathe_clear(home))
        codes = counter_codes(dialect_of(there.machine, there.load.dialect)) if there.machine.counter else None
        return replace(ANY_CONTROL, offsets=words, start=start, in_front=in_front_of(there), counter=codes)
    seat = stands.seat.at
    lengths = {number: tool.gauge for number, tool in tools.items()}
    return replace(ANY_CONTROL, offsets=words, lengths=lengths, start=(seat[0], seat[1], there.machine.travel[2][1]))


def plan_until(part: Part, ledger: Ledger, setup: str) -> tuple[Course, int]:
    """The plan's own course as far as the end of a setup, and the cuts before it."""
    whole = course_of(part, ledger)
    ids = [e.operation.id for e in ledger.setup(setup).rows]
    first = next(i for i, cut in enumerate(whole.cuts) if cut.operation == ids[0])
    return replace(whole, cuts=whole.cuts[: first + len(ids)]), first


def result_of(trial: Trial, found: Followed, planned: Followed) -> TrialResult:
    """From the followed stock of the trial, and that of the plan as far as the same setup."""
    uses = {use.cut: use for use in trial.uses}
    cuts = {cut.operation: cut for cut in trial.course.cuts}
    met = [
        Met(
            _line(uses[c.operation], cuts[c.operation], c.at, rapid=c.what == "rapid"),
            uses[c.operation].number,
            c.what,
            c.into,
            c.depth,
            c.at,
            uses[c.operation].path,
        )
        for c in found.collisions
        if c.operation in uses
    ]
    met += [
        Met(
            _line(uses[r.operation], cuts[r.operation], cuts[r.operation].frame.point(r.at), rapid=False),
            uses[r.operation].number,
            "cut",
            "part",
            r.amount,
            r.at,
            uses[r.operation].path,
        )
        for r in found.remainders
        if r.cut_into and r.operation in uses
    ]
    return TrialResult(
        tuple(step.removed for step in found.steps[trial.before :]),
        sum(step.removed for step in planned.steps[trial.before :]),
        tuple(sorted(met, key=lambda one: (one.line, -one.amount))),
    )


def _line(use: Use, cut: Cut, at: Vec, *, rapid: bool) -> int:
    """The line of the move that comes nearest to a place, given in the cut's axes; of what turns, beside its axis."""
    motion = cut.motion

    def flat(p: Vec) -> tuple[float, float]:
        if motion.turns:
            return (hypot(p[0] - motion.axis[0], p[1] - motion.axis[1]), p[2])
        return p[:2]

    spot = Point(flat(at))

    def away(index: int) -> tuple[float, float]:
        points = [flat(p) for p in motion.strokes[index].points]
        line = LineString(points) if len(set(points)) > 1 else Point(points[0])
        return round(line.distance(spot), 3), min(p[2] for p in motion.strokes[index].points)

    able = [i for i, stroke in enumerate(motion.strokes) if stroke.is_rapid == rapid]
    return use.lines[min(able, key=away)] if able else use.line


def _uses(steps: Sequence[RunStep], floor: Floor) -> tuple[tuple[Use, ...], tuple[Cut, ...]]:
    uses: list[Use] = []
    cuts: list[Cut] = []
    group: list[RunStep] = []

    def close() -> None:
        if any(step.kind == StepKind.CUT for step in group):
            use, cut = _cut(group, len(uses), floor)
            uses.append(use)
            cuts.append(cut)
        group.clear()

    for step in steps:
        if group and (step.tool != group[-1].tool or step.angles != group[-1].angles):
            close()
        if step.offset in floor.beside:
            close()
        elif step.kind in MOVES and not step.direct:
            group.append(step)
    close()
    return tuple(uses), tuple(cuts)


def _cut(steps: Sequence[RunStep], number: int, floor: Floor) -> tuple[Use, Cut]:
    first, setup = steps[0], floor.setup
    if first.tool is None or first.tool not in floor.tools:
        where = "in the turret" if floor.turns else "of the shop"
        what = f"T{first.tool} is no tool {where}" if first.tool is not None else "it moves before any tool is in"
        raise PlanError("no-such-tool", f"line {first.line}: {what}", setup.decision.id)
    tool = floor.tools[first.tool]
    way = turned_way(_way(first, tool, floor), setup.placed[0].turn)
    across = floor.turns and setup.built.stands.is_across(way.frame)
    strokes: list[Stroke] = []
    for step in steps:
        offset = next((o for o in floor.offsets if o.word == step.offset and o.way == way), None)
        if offset is None:
            known = ", ".join(sorted({o.word for o in floor.offsets if o.way == way}))
            raise PlanError(
                "no-such-offset", f"line {step.line}: {step.offset} is not set in {setup.decision.id}; it has {known}",
                setup.decision.id,
            )  # fmt: skip
        strokes.append(step_stroke(step, offset, floor.setting, across=across))
    id = f"T{first.tool} #{number + 1}"
    cut = Cut(id, _motion(strokes, tool, way, floor), tool, way.frame, high_over(setup, way), around_of(setup), ())
    lines = tuple(step.line for step in steps)
    entered = next((step.entered for step in steps if step.kind == StepKind.CUT), 0)
    return Use(id, first.tool, tool, first.line, sum(step.seconds for step in steps), lines, entered), cut


def _motion(strokes: Sequence[Stroke], tool: Tool, way: Way, floor: Floor) -> Motion:
    """A mill's path is swept; what an insert comes by while the work turns is a section about the spindle's axis."""
    moves = tuple(strokes)
    if not (floor.turns and tool.kind.is_insert):
        return Motion(moves)
    assert floor.part.axis is not None
    x, y, _ = way.frame.point(floor.part.axis.point)
    if tool.kind == ToolKind.THREADING:  # the stock shows no thread
        return Motion(moves, axis=(x, y), lead=1.0)
    return Motion(moves, turned=turned_away(tool, moves, (x, y)), axis=(x, y))


def _way(step: RunStep, tool: Tool, floor: Floor) -> Way:
    """The way that the rotary and the tilt stand at; on a lathe the one that the tool comes from in the plan."""
    setup = floor.setup
    found = {e.operation.way for e in setup.rows}
    if floor.turns:
        own = {e.operation.way for e in setup.rows if e.operation.tool.id == tool.id}
        if not own or tool.kind.is_insert:
            return setup.built.home
        return min(own, key=lambda way: abs(step.angles[2] - way.angle))
    if setup.decision.free is None:
        return setup.built.home
    for way in found:
        angles = {"ABC".index({"x": "A", "y": "B", "z": "C"}[axis.about]): value
                  for axis, value in ((setup.machine.rotary, way.angle), (setup.machine.tilt, way.tilt))
                  if axis is not None}  # fmt: skip
        if all(abs(step.angles[i] - value) < SAME for i, value in angles.items()):
            return way
    raise PlanError(
        "no-such-angle", f"line {step.line}: the plan does not stand at {step.angles}", setup.decision.id
    )  # fmt: skip
